#include "views/cut_layer.h"

#include "style/theme.h"

#include <QLineF>
#include <QPainter>
#include <numbers>

namespace fox::app {

namespace {
constexpr double kArm = 90, kHold = 9; // pixels
}

std::pair<QPointF, QPointF> CutLayer::handles(const PlanTransform& t, const UprightCut& cut) {
    const auto end = cut.along(kArm / t.pixelsPerMetre);
    return {t.toScreen(cut.through.x, cut.through.y), t.toScreen(end.x, end.y)};
}

void CutLayer::paint(QPainter& painter, const PlanTransform& t) const {
    const double far = std::hypot(t.world.width(), t.world.height());
    for (const auto& cut : m_selection->cuts()) {
        const auto a = cut.along(-far), b = cut.along(far);
        const auto from = t.toScreen(a.x, a.y), to = t.toScreen(b.x, b.y);
        painter.setPen(QPen(colour::fox, 1.6, Qt::DashDotDotLine));
        painter.drawLine(from, to);
        const auto [middle, end] = handles(t, cut);
        // a short tooth on the side that is taken away
        const auto way = (end - middle) / QLineF(middle, end).length();
        const QPointF right(-way.y(), way.x());
        painter.setPen(QPen(colour::fox, 1.6));
        for (const double s : {-60.0, -30.0, 30.0, 60.0}) painter.drawLine(middle + s * way, middle + s * way + 8 * right);
        painter.setBrush(colour::paper);
        painter.drawEllipse(middle, 6, 6);
        painter.drawRect(QRectF(end - QPointF(4.5, 4.5), QSizeF(9, 9)));
    }
}

bool CutLayer::press(const PlanTransform& t, QPointF p) {
    for (std::size_t k = 0; k < m_selection->cuts().size(); ++k) {
        const auto [middle, end] = handles(t, m_selection->cuts()[k]);
        if (QLineF(middle, p).length() <= kHold) return m_drag = Drag{k, false}, true;
        if (QLineF(end, p).length() <= kHold) return m_drag = Drag{k, true}, true;
    }
    return false;
}

void CutLayer::drag(Point2 world) {
    auto cuts = m_selection->cuts();
    if (!m_drag || m_drag->cut >= cuts.size()) return;
    auto& cut = cuts[m_drag->cut];
    if (!m_drag->turns)
        cut.through = world;
    else if (distance(world, cut.through) > 0.5)
        cut.azimuth = std::atan2(world.x - cut.through.x, world.y - cut.through.y) * 180 / std::numbers::pi;
    m_selection->setCuts(cuts);
}

} // namespace fox::app
