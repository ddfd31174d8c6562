#include "views/grid_editor.h"

#include "style/theme.h"

#include <QLineF>
#include <QLocale>
#include <QPainter>
#include <numbers>

namespace fox::app {

namespace {

constexpr double kNear = 9; // pixels: so near to a handle counts
constexpr GridEditor::Hold kHolds[] = {GridEditor::Hold::NorthWest, GridEditor::Hold::NorthEast, GridEditor::Hold::SouthEast,
                                       GridEditor::Hold::SouthWest, GridEditor::Hold::Middle,    GridEditor::Hold::Turn};

QPolygonF outlineOf(const PlanTransform& t, const PlanGrid& g) {
    QPolygonF out;
    for (const auto p : g.outline()) out << t.toScreen(p.x, p.y);
    return out;
}

} // namespace

QPointF GridEditor::handle(const PlanTransform& t, const PlanGrid& g, Hold hold) {
    const auto at = [&](int c, int r) {
        const auto p = g.node(c, r);
        return t.toScreen(p.x, p.y);
    };
    const QPointF middle = (at(0, 0) + at(g.columns(), g.rows())) / 2;
    switch (hold) {
    case Hold::NorthWest: return at(0, 0);
    case Hold::NorthEast: return at(g.columns(), 0);
    case Hold::SouthEast: return at(g.columns(), g.rows());
    case Hold::SouthWest: return at(0, g.rows());
    case Hold::Middle: return middle;
    case Hold::Turn: break;
    }
    constexpr double kArm = 22; // pixels beyond the side
    const QPointF side = (at(g.columns(), 0) + at(g.columns(), g.rows())) / 2;
    const double length = std::max(1.0, QLineF(middle, side).length());
    return middle + (side - middle) * (length + kArm) / length;
}

std::optional<GridEditor::Hold> GridEditor::holdAt(const PlanTransform& t, const PlanGrid& g, QPointF p) {
    for (const auto hold : kHolds)
        if (QLineF(handle(t, g, hold), p).length() <= kNear) return hold;
    return {};
}

bool GridEditor::isOnHandle(const PlanTransform& t, const PlanGrid& g, QPointF p) const { return holdAt(t, g, p).has_value(); }

bool GridEditor::press(const PlanTransform& t, const PlanGrid& g, QPointF p) {
    m_held = holdAt(t, g, p);
    m_before = m_now = g;
    return m_held.has_value();
}

void GridEditor::drag(Point2 world, bool wholeDegrees) {
    if (!m_held) return;
    const auto a = m_before.node(0, 0), b = m_before.node(m_before.columns(), m_before.rows());
    const Point2 middle{(a.x + b.x) / 2, (a.y + b.y) / 2};
    try {
        if (*m_held == Hold::Middle) {
            m_now = movedBy(m_before, world.x - middle.x, world.y - middle.y);
        } else if (*m_held == Hold::Turn) {
            double turn = std::atan2(-(world.y - middle.y), world.x - middle.x) * 180 / std::numbers::pi;
            turn = wholeDegrees ? std::round(turn) : std::round(turn * 10) / 10;
            m_now = turnedTo(m_before, turn);
        } else {
            m_now = stretchedTo(m_before, int(*m_held), {world.x, world.y});
        }
    } catch (const std::exception&) { // more cells than there may be: it stays as large as it is
    }
}

std::optional<PlanGrid> GridEditor::release() {
    if (!std::exchange(m_held, {}) || m_now == m_before) return {};
    return m_now;
}

QString GridEditor::words() const {
    return QObject::tr("%1 columns, %2 rows, %3 cells a layer, turned %4°")
        .arg(m_now.columns())
        .arg(m_now.rows())
        .arg(QLocale().toString(qulonglong(m_now.cells())))
        .arg(m_now.turn(), 0, 'f', 1);
}

void GridEditor::paint(QPainter& painter, const PlanTransform& t, const PlanGrid& shown) const {
    const auto& g = m_held ? m_now : shown;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::fox, m_held ? 2 : 1, m_held ? Qt::DashLine : Qt::SolidLine));
    painter.drawPolygon(outlineOf(t, g));
    const auto end = handle(t, g, Hold::Turn), middle = handle(t, g, Hold::Middle);
    painter.setPen(QPen(colour::fox, 1));
    painter.drawLine((handle(t, g, Hold::NorthEast) + handle(t, g, Hold::SouthEast)) / 2, end);
    painter.setBrush(colour::paper);
    for (const auto hold : kHolds) {
        const auto at = handle(t, g, hold);
        if (hold == Hold::Turn)
            painter.drawEllipse(at, 5, 5);
        else
            painter.drawRect(QRectF(at - QPointF(4, 4), QSizeF(8, 8)));
    }
    painter.setPen(QPen(colour::fox, 1.4));
    painter.drawLine(middle - QPointF(3, 0), middle + QPointF(3, 0));
    painter.drawLine(middle - QPointF(0, 3), middle + QPointF(0, 3));
}

} // namespace fox::app
