#include "views/value_layer.h"

#include "style/theme.h"

#include <QPainter>
#include <QPainterPath>

namespace fox::app {

namespace {

/// Calls use(point, colour) for each value of a source that is used.
template <typename Use>
void eachColoured(const ValueSource& source, Use&& use) {
    if (!source.used) return;
    double least = INFINITY, most = -INFINITY;
    for (const auto& p : source.points)
        if (!p.excluded) least = std::min(least, p.value), most = std::max(most, p.value);
    for (const auto& p : source.points)
        if (!p.excluded) use(p, valueColour(most > least ? (p.value - least) / (most - least) : 0.5));
}

} // namespace

void paintValuePoints(QPainter& painter, const PlanTransform& t, const Project& project) {
    const QRectF all = QRectF(QPointF(), QSizeF(t.size)).adjusted(-8, -8, 8, 8);
    constexpr double kHalf = 4.5; // pixels
    QPainterPath lozenge;
    lozenge.addPolygon(QPolygonF({QPointF(0, -kHalf), QPointF(kHalf, 0), QPointF(0, kHalf), QPointF(-kHalf, 0)}));
    lozenge.closeSubpath();
    painter.setPen(QPen(colour::ink, 1));
    for (const auto& source : *project.valuePoints)
        eachColoured(source, [&](const ValuePoint& p, const QColor& fill) {
            if (const auto at = t.toScreen(p.place.x, p.place.y); all.contains(at)) {
                painter.setBrush(fill);
                painter.drawPath(lozenge.translated(at));
            }
        });
    painter.setBrush(Qt::NoBrush);
}

SceneTubes sceneValues(const Project& project, const BlockPlacing& placing) {
    SceneTubes out;
    const double half = std::max(1.5, placing.width() / 220);
    out.radius = half * 0.5;
    for (const auto& source : *project.valuePoints)
        eachColoured(source, [&](const ValuePoint& v, const QColor& fill) {
            const auto p = placing.at(v.place);
            out.lines.push_back({{p.x, p.y, p.z - half}, {p.x, p.y, p.z + half}, fill});
        });
    return out;
}

} // namespace fox::app
