#include "views/cell_layer.h"

#include "style/theme.h"
#include "style/words.h"
#include "views/value_legend.h"

#include <QPainter>

namespace fox::app {

namespace {

QPolygonF onScreen(const PlanTransform& t, std::initializer_list<Point2> corners) {
    QPolygonF out;
    for (const auto p : corners) out << t.toScreen(p.x, p.y);
    return out;
}

} // namespace

QImage CellLayer::drawn(const PlanTransform& t, const ProductSet& products, const LayeredGrid& g, const LayerLook& look) {
    QImage image(t.size, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    const auto layer = std::min(look.layer, g.layers.size() - 1);
    m_colours = layerColours(g, look, layer);
    const double narrow = t.pixelsPerMetre * std::min(g.plan.width(0), g.plan.height(0));
    constexpr double kRoomForEdges = 5; // pixels
    auto edge = colour::ink;
    edge.setAlpha(40);
    for (int r = 0; r < g.plan.rows(); ++r)
        for (int c = 0; c < g.plan.columns(); ++c) {
            const auto colour = layerColour(g, *products.project.sequence, look, g.index(layer, g.plan.index(c, r)), m_colours);
            if (!colour) continue;
            const auto box =
                onScreen(t, {g.plan.node(c, r), g.plan.node(c + 1, r), g.plan.node(c + 1, r + 1), g.plan.node(c, r + 1)});
            if (!box.boundingRect().intersects(QRectF(image.rect()))) continue;
            // without an edge neighbours would let the ground through between them
            painter.setPen(narrow >= kRoomForEdges ? QPen(edge, 0) : QPen(*colour, 0));
            painter.setBrush(*colour);
            painter.drawPolygon(box);
        }
    return image;
}

void CellLayer::paint(QPainter& painter, const PlanTransform& t, const ProductSet& products, const LayerLook& look) {
    const auto* made = shownLayers(&products, look);
    const auto g = made ? made->grid : nullptr;
    if (!g || !look.onPlan || !look.mesh.empty()) return;
    auto still = look;
    still.line = 0, still.byColumn = false; // drawn over the picture
    const Drawn now{g, still, t.toScreen(g->plan.corner().x, g->plan.corner().y), t.pixelsPerMetre, t.size};
    if (!(now == m_of)) m_of = now, m_image = drawn(t, products, *g, look);
    painter.setOpacity(0.88);
    painter.drawImage(QPointF(0, 0), m_image);
    painter.setOpacity(1);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::muted, 1));
    QPolygonF outline;
    for (const auto p : g->plan.outline()) outline << t.toScreen(p.x, p.y);
    painter.drawPolygon(outline);
    const int line = shownLine(*g, look);
    const auto node = [&](int along, int across) {
        return look.byColumn ? g->plan.node(across, along) : g->plan.node(along, across);
    };
    const int end = look.byColumn ? g->plan.rows() : g->plan.columns();
    painter.setPen(QPen(colour::ink, 1.6));
    painter.drawPolygon(onScreen(t, {node(0, line), node(end, line), node(end, line + 1), node(0, line + 1)}));
}

void CellLayer::paintLegend(QPainter& painter, const PlanTransform& t, const ProductSet& products, const LayerLook& look) const {
    const auto* g = shownGrid(&products, look);
    if (!g || !look.onPlan || !look.mesh.empty() || look.value == "unit" || look.value == "checks" || std::isnan(m_colours.low))
        return;
    const auto layer = std::min(look.layer, g->layers.size() - 1);
    const auto title = QObject::tr("layer %1, %2").arg(layer + 1).arg(layerValueWords(*g, look.value).toLower());
    const bool small = std::abs(m_colours.high) < 0.01; // conductivities
    const auto figure = [&](double v) { return QString::number(v, small ? 'e' : 'f', small ? 1 : 2); };
    paintValueLegend(painter, t.size, title, figure(m_colours.low), figure(m_colours.high));
}

QString CellLayer::wordsAt(Point2 p, const ProductSet* products, const LayerLook& look) {
    const auto* g = shownGrid(products, look);
    if (!g || !look.onPlan || !look.mesh.empty()) return {};
    const auto column = g->plan.cellAt(p);
    if (!column) return {};
    return cellWords(*g, *products->project.sequence, g->index(std::min(look.layer, g->layers.size() - 1), *column));
}

} // namespace fox::app
