#include "views/mesh_layer.h"

#include "style/theme.h"

#include <QPainter>

namespace fox::app {

namespace {
/// Degrees: under this a triangle is marked. What the input itself forces may lie below it.
constexpr double kSharp = 20;
} // namespace

void MeshLayer::paint(QPainter& painter, const PlanTransform& t, const ProductSet& products, const LayerLook& look) {
    const auto* made = shownMesh(&products, look);
    if (!made || !made->mesh || !look.onPlan) return;
    const auto& mesh = *made->mesh;
    const auto layer = std::min(look.layer, mesh.layers.size() - 1);
    if (m_of != made->mesh || m_layer != layer || m_world != t.world || m_size != t.size) {
        m_of = made->mesh, m_layer = layer, m_world = t.world, m_size = t.size;
        m_image = QImage(t.size, QImage::Format_ARGB32_Premultiplied);
        m_image.fill(Qt::transparent);
        QPainter onImage(&m_image);
        onImage.setRenderHint(QPainter::Antialiasing);
        const auto& units = products.project.sequence->units;
        const auto angles = mesh.plan.smallestAngles();
        auto edge = colour::ink;
        edge.setAlpha(110);
        const auto n = mesh.plan.triangles.size();
        for (std::size_t i = 0; i < n; ++i) {
            QPolygonF triangle;
            for (const int node : mesh.plan.triangles[i]) {
                const auto p = mesh.plan.nodes[std::size_t(node)];
                triangle << t.toScreen(p.x, p.y);
            }
            if (!triangle.boundingRect().intersects(QRectF(m_image.rect()))) continue;
            const int unit = mesh.unit[layer * n + i];
            onImage.setPen(QPen(edge, 0.6));
            onImage.setBrush(angles[i] < kSharp ? QBrush(colour::fox)
                             : unit < 0         ? QBrush(Qt::NoBrush)
                                                : QBrush(unitColour(units[std::size_t(unit)])));
            onImage.drawPolygon(triangle);
        }
        onImage.setPen(QPen(colour::ink, 1.8));
        for (const auto& [name, edges] : mesh.plan.edges)
            for (const auto& e : edges) {
                const auto a = mesh.plan.nodes[std::size_t(e[0])], b = mesh.plan.nodes[std::size_t(e[1])];
                onImage.drawLine(t.toScreen(a.x, a.y), t.toScreen(b.x, b.y));
            }
    }
    painter.setOpacity(0.9);
    painter.drawImage(QPointF(0, 0), m_image);
    painter.setOpacity(1);
    painter.setFont(bodyFont(11, true));
    painter.setPen(colour::ink);
    for (const auto& [name, node] : mesh.plan.places) {
        const auto p = mesh.plan.nodes[std::size_t(node)];
        painter.drawText(t.toScreen(p.x, p.y) + QPointF(5, -4), QString::fromStdString(name));
    }
}

} // namespace fox::app
