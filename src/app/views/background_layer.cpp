#include "views/background_layer.h"

#include <QPainter>

namespace fox::app {

namespace {

bool inSight(const Polyline3& line, const QRectF& world) {
    Box2 box;
    for (const auto& p : line) box.include(p.plan());
    return !box.empty() && box.xmin <= world.right() && box.xmax >= world.left() && box.ymin <= world.bottom()
           && box.ymax >= world.top();
}

} // namespace

void paintBackgroundLines(QPainter& painter, const PlanTransform& t, const std::vector<BackgroundLines>& background) {
    constexpr double kApart = 0.7; // pixels
    painter.setBrush(Qt::NoBrush);
    for (const auto& layer : background) {
        if (!layer.shown) continue;
        painter.setPen(QPen(QColor(QString::fromStdString(layer.colour)), layer.width));
        for (const auto& line : layer.lines) {
            if (!inSight(line, t.world)) continue;
            QPolygonF shape;
            for (std::size_t i = 0; i < line.size(); ++i) {
                const auto at = t.toScreen(line[i].x, line[i].y);
                const bool end = i == 0 || i + 1 == line.size();
                if (end || (at - shape.back()).manhattanLength() > kApart) shape << at;
            }
            painter.drawPolyline(shape);
        }
    }
}

} // namespace fox::app
