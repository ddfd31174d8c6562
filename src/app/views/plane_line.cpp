#include "views/plane_line.h"

#include "style/theme.h"
#include "style/words.h"

#include <QCoreApplication>
#include <QLineF>

namespace fox::app {

namespace {
constexpr double kReach = 9, kRound = 8, kSquare = 5, kBeyond = 18; // pixels
} // namespace

QString slopeInWords(const Plane& plane) {
    constexpr double kLevel = 0.05; // degrees
    if (plane.dip() < kLevel) return QCoreApplication::translate("PlaneLine", "level");
    static const char* kWays[] = {"north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"};
    const double towards = std::fmod(plane.strike() + 90, 360);
    return QCoreApplication::translate("PlaneLine", "falls %1° to the %2")
        .arg(plane.dip(), 0, 'f', 1)
        .arg(QCoreApplication::translate("PlaneLine", kWays[int(std::lround(towards / 45)) % 8]));
}

QPointF PlaneLine::placeOf(Handle handle) const {
    switch (handle) {
    case Handle::Left: return m_nodes.front().at - QPointF(kBeyond, 0);
    case Handle::Right: return m_nodes.back().at + QPointF(kBeyond, 0);
    case Handle::Level: {
        const auto k = (m_nodes.size() - 1) / 2; // between two nodes: there is seldom a hole
        return (m_nodes[k].at + m_nodes[k + 1].at) / 2;
    }
    case Handle::None: break;
    }
    return {};
}

PlaneLine::Handle PlaneLine::handleAt(QPointF p) const {
    if (!isDrawn()) return Handle::None;
    for (const auto h : {Handle::Level, Handle::Left, Handle::Right})
        if (QLineF(placeOf(h), p).length() <= kReach + 2) return h;
    for (std::size_t i = 1; i < m_nodes.size(); ++i) {
        const auto a = m_nodes[i - 1].at, b = m_nodes[i].at;
        const auto along = b - a;
        const double squared = QPointF::dotProduct(along, along);
        const double t = squared > 0 ? std::clamp(QPointF::dotProduct(p - a, along) / squared, 0.0, 1.0) : 0;
        constexpr double kNear = 4; // pixels
        if (QLineF(a + t * along, p).length() <= kNear) return Handle::Level;
    }
    return Handle::None;
}

void PlaneLine::paint(QPainter& painter, const Plane& plane) const {
    if (!isDrawn()) return;
    painter.save();
    QPolygonF line{placeOf(Handle::Left)};
    for (const auto& n : m_nodes) line << n.at;
    line << placeOf(Handle::Right);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(255, 255, 255, 180), 5));
    painter.drawPolyline(line);
    painter.setPen(QPen(colour::fox, 2.2));
    painter.drawPolyline(line);
    painter.setBrush(colour::paper);
    for (const auto h : {Handle::Left, Handle::Right}) {
        const auto at = placeOf(h);
        painter.drawRect(QRectF(at - QPointF(kSquare, kSquare), QSizeF(2 * kSquare, 2 * kSquare)));
    }
    const auto middle = placeOf(Handle::Level);
    painter.drawEllipse(middle, kRound, kRound);
    painter.setPen(QPen(colour::fox, 1.4));
    painter.drawLine(middle - QPointF(0, 4.5), middle + QPointF(0, 4.5));
    for (const double way : {-1.0, 1.0}) {
        const auto tip = middle + QPointF(0, way * 4.5);
        painter.drawLine(tip, tip + QPointF(-2.5, -way * 2.5));
        painter.drawLine(tip, tip + QPointF(2.5, -way * 2.5));
    }
    painter.setFont(bodyFont(11, true));
    painter.setPen(colour::fox);
    const auto k = (m_nodes.size() - 1) / 2;
    const auto &a = m_nodes[k].place, &b = m_nodes[k + 1].place;
    const auto words = metres(plane.at({(a.x + b.x) / 2, (a.y + b.y) / 2})) + QString::fromUtf8(" · ") + slopeInWords(plane);
    const QRectF label(middle + QPointF(12, -20), QSizeF(QFontMetricsF(painter.font()).horizontalAdvance(words) + 6, 15));
    painter.fillRect(label, colour::veil(215));
    painter.drawText(label, Qt::AlignCenter, words);
    painter.restore();
}

Plane PlaneLine::dragged(Handle handle, const Plane& before, double up) const {
    const auto left = m_nodes.front().place, right = m_nodes.back().place;
    if (handle == Handle::Left) return turned(before, left, before.at(left) + up, right);
    if (handle == Handle::Right) return turned(before, right, before.at(right) + up, left);
    auto moved = before;
    moved.through.z += up;
    return moved;
}

bool PlaneGrip::take(const PlaneLine& line, QPointF p, const Plane& plane, double level) {
    m_handle = line.handleAt(p), m_before = plane, m_from = level;
    return m_handle != PlaneLine::Handle::None;
}

std::optional<Plane> PlaneGrip::moved(const PlaneLine& line, double level) const {
    if (m_handle == PlaneLine::Handle::None || !line.isDrawn()) return {};
    return line.dragged(m_handle, m_before, level - m_from);
}

bool PlaneGrip::release() { return std::exchange(m_handle, PlaneLine::Handle::None) != PlaneLine::Handle::None; }

} // namespace fox::app
