// The plane above which units are assigned, on the correlation: its line, what it takes, and its handles.
#include "views/correlation_view.h"

#include "style/theme.h"

#include <QMouseEvent>
#include <QPainter>

namespace fox::app {

PlaneLine CorrelationView::planeLine() const {
    std::vector<PlaneLine::Node> nodes;
    if (selection()->plane())
        for (const auto& c : m_columns) {
            const auto place = c.path.at({}).plan();
            nodes.push_back({toScreen(c.x, selection()->plane()->plane.at(place) + c.raised), place});
        }
    return PlaneLine(std::move(nodes));
}

void CorrelationView::assignByPlane() {
    m_assigned = {};
    if (products() && selection()->plane())
        m_assigned = assignedAbove(*products()->project.holes, *products()->project.sequence, *products()->project.interpretation,
                                   *selection()->plane());
    if (!selection()->plane()) m_grip.release();
    emit summaryChanged();
    update();
}

/// What would become the unit is outlined in its colour; a hole that it would put out of order is dashed all round.
void CorrelationView::paintAssigned(QPainter& painter, const Column& c) const {
    const auto unit = products()->project.sequence->index(selection()->plane()->unit);
    if (!unit) return;
    const double half = halfWidth(), x = toScreen(c.x, 0).x();
    const auto y = [&](Depth depth) { return toScreen(0, yOf(c, depth.metres)).y(); };
    for (const auto* list : {&m_assigned.whole, &m_assigned.parts})
        for (const auto& i : *list) {
            if (i.hole != c.read->name) continue;
            const QRectF box(QPointF(x - half, y(i.top)), QPointF(x + half, y(i.base)));
            painter.setPen(QPen(colour::fox, 2.6));
            painter.setBrush(unitColour(products()->project.sequence->units[*unit]));
            painter.drawRect(box);
            painter.setBrush(hatch(products()->project.sequence->units[*unit]));
            painter.drawRect(box);
        }
    if (std::ranges::count(m_assigned.conflicts, c.read->name, &AssignedByPlane::Conflict::hole) == 0) return;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::amber, 2.2, Qt::DashLine));
    painter.drawRect(QRectF(QPointF(x - half - 5, y(Depth{0}) - 4), QPointF(x + half + 5, y(c.read->hole->end()) + 4)));
}

void CorrelationView::mousePressEvent(QMouseEvent* e) {
    if (e->button() == Qt::LeftButton && selection()->plane() && !selection()->planePoints()
        && m_grip.take(planeLine(), e->position(), selection()->plane()->plane, toWorld(e->position()).y()))
        return;
    PannedView::mousePressEvent(e);
}

void CorrelationView::mouseMoveEvent(QMouseEvent* e) {
    if (const auto moved = m_grip.moved(planeLine(), toWorld(e->position()).y())) {
        auto next = *selection()->plane();
        next.plane = *moved;
        return selection()->setPlane(next);
    }
    if (selection()->plane() && !(e->buttons() & Qt::LeftButton))
        setCursor(planeLine().handleAt(e->position()) == PlaneLine::Handle::None ? Qt::ArrowCursor : Qt::SizeVerCursor);
    PannedView::mouseMoveEvent(e);
}

void CorrelationView::mouseReleaseEvent(QMouseEvent* e) {
    if (m_grip.release()) return;
    PannedView::mouseReleaseEvent(e);
}

} // namespace fox::app
