#include "views/line_editor.h"

#include "style/theme.h"
#include "style/words.h"

#include <QLineF>
#include <QPainter>

namespace fox::app {

namespace {
constexpr double kHandle = 5, kGrab = 9, kNear = 6, kSnap = 10; // pixels
constexpr double kLongEnough = 46;                              // pixels; a shorter side has no handle
} // namespace

void LineEditor::setProject(const Project& project) {
    m_lines = linesOf(project);
    if (m_drag) return; // what is shown follows the hand
    const auto& chosen = m_selection->line();
    if (!chosen || std::ranges::count(m_lines, *chosen) > 0) return;
    // it was changed elsewhere, or by undo: the same one by its name
    const auto same = std::ranges::find_if(m_lines, [&](const ProjectLine& l) {
        return l.kind == chosen->kind && l.name == chosen->name && l.kind != ProjectLine::Kind::Guide;
    });
    m_touched.reset();
    m_selection->setLine(same == m_lines.end() ? std::nullopt : std::optional(*same));
}

const ProjectLine* LineEditor::lineAt(const PlanTransform& t, QPointF p) const {
    const ProjectLine* best = nullptr;
    double nearest = kNear;
    for (const auto& line : m_lines) {
        const auto n = line.corners.size();
        for (std::size_t i = 0; i + (line.isClosed() ? 0 : 1) < n; ++i) {
            const auto a = screen(t, line.corners[i]), b = screen(t, line.corners[(i + 1) % n]);
            const auto along = b - a;
            const double squared = QPointF::dotProduct(along, along);
            const double s = squared > 0 ? std::clamp(QPointF::dotProduct(p - a, along) / squared, 0.0, 1.0) : 0;
            if (const double d = QLineF(a + s * along, p).length(); d < nearest) nearest = d, best = &line;
        }
        if (n == 1 && QLineF(screen(t, line.corners[0]), p).length() < nearest) best = &line;
    }
    return best;
}

std::optional<std::size_t> LineEditor::cornerAt(const PlanTransform& t, QPointF p) const {
    if (!m_selection->line()) return {};
    const auto& corners = m_selection->line()->corners;
    for (std::size_t i = 0; i < corners.size(); ++i)
        if (QLineF(screen(t, corners[i]), p).length() <= kGrab) return i;
    return {};
}

std::vector<LineEditor::Side> LineEditor::sides(const PlanTransform& t) const {
    std::vector<Side> out;
    const auto& line = *m_selection->line();
    if (line.kind == ProjectLine::Kind::Extent) return out; // it stays a rectangle
    const auto n = line.corners.size();
    for (std::size_t i = 0; n > 1 && i + (line.isClosed() ? 0 : 1) < n; ++i) {
        const QLineF side(screen(t, line.corners[i]), screen(t, line.corners[(i + 1) % n]));
        if (side.length() >= kLongEnough) out.push_back({i, side.center()});
    }
    return out;
}

bool LineEditor::isOnHandle(const PlanTransform& t, QPointF p) const {
    if (!m_selection->line()) return false;
    return cornerAt(t, p) || std::ranges::any_of(sides(t), [&](const Side& s) { return QLineF(s.middle, p).length() <= kGrab; });
}

bool LineEditor::press(const PlanTransform& t, QPointF p) {
    if (!m_selection->line()) return false;
    const auto& line = *m_selection->line();
    if (const auto corner = cornerAt(t, p)) {
        m_touched = corner;
        m_drag = Drag{line, *corner, line.corners, {}, false};
        return true;
    }
    for (const auto& side : sides(t)) {
        if (QLineF(side.middle, p).length() > kGrab) continue;
        Drag drag{line, side.after + 1, line.corners, {}, false};
        const auto &a = line.corners[side.after], &b = line.corners[(side.after + 1) % line.corners.size()];
        drag.corners.insert(drag.corners.begin() + std::ptrdiff_t(drag.corner),
                            Point3{(a.x + b.x) / 2, (a.y + b.y) / 2, (a.z + b.z) / 2});
        m_touched = drag.corner;
        m_drag = std::move(drag);
        return true;
    }
    return false;
}

std::optional<Edit> LineEditor::drag(const PlanTransform& t, Point2 world, bool snaps, const Project& project) {
    if (!m_drag) return {};
    auto& corner = m_drag->corners[m_drag->corner];
    m_drag->snapped = snaps ? snapTarget(project, m_lines, &*m_selection->line(), world, kSnap / t.pixelsPerMetre) : std::nullopt;
    auto to = m_drag->snapped ? m_drag->snapped->place : world;
    if (!m_drag->snapped) to = {std::round(to.x * 100) / 100, std::round(to.y * 100) / 100}; // to the centimetre
    if (corner.plan() == to) return {};
    corner.x = to.x, corner.y = to.y;
    m_drag->moved = true;
    if (m_drag->line.kind == ProjectLine::Kind::Extent) { // the corners beside go along
        auto& c = m_drag->corners;
        const auto across = m_drag->line.corners[(m_drag->corner + 2) % 4];
        const bool north = m_drag->corner < 2;
        const double top = north ? corner.y : across.y, bottom = north ? across.y : corner.y;
        const bool west = m_drag->corner == 0 || m_drag->corner == 3;
        const double left = west ? corner.x : across.x, right = west ? across.x : corner.x;
        c = {{left, top, kNoValue}, {right, top, kNoValue}, {right, bottom, kNoValue}, {left, bottom, kNoValue}};
    }
    auto now = m_drag->line;
    now.corners = m_drag->corners;
    m_selection->setLine(now);
    return [was = m_drag->line, corners = m_drag->corners](const Project& p) { return setCorners(p, was, corners); };
}

std::optional<Edit> LineEditor::release() {
    if (!m_drag) return {};
    const auto drag = *std::exchange(m_drag, std::nullopt);
    if (!drag.moved) return {};
    return [was = drag.line, corners = drag.corners](const Project& p) { return setCorners(p, was, corners); };
}

void LineEditor::cancel() {
    if (!m_drag) return;
    const auto was = m_drag->line;
    m_drag.reset();
    m_selection->setLine(was);
}

std::optional<Edit> LineEditor::remove() {
    if (!m_selection->line() || m_drag) return {};
    const auto line = *m_selection->line();
    if (m_touched && *m_touched < line.corners.size() && line.kind != ProjectLine::Kind::Extent) {
        auto corners = line.corners;
        corners.erase(corners.begin() + std::ptrdiff_t(*m_touched));
        m_touched.reset();
        if (!corners.empty()) return edit(corners);
    }
    m_selection->setLine({});
    return [line](const Project& p) { return removeLine(p, line); };
}

Edit LineEditor::edit(const Polyline3& corners) {
    const auto was = *m_selection->line();
    auto now = was;
    now.corners = corners;
    m_selection->setLine(now);
    return [was, corners](const Project& p) { return setCorners(p, was, corners); };
}

QString LineEditor::hint() const {
    if (m_drag && m_drag->snapped) return Selection::tr("at %1; Alt lets it go").arg(qt(m_drag->snapped->what));
    if (!m_selection->line()) return {};
    const auto name = qt(describe(*m_selection->line()));
    if (m_selection->line()->kind == ProjectLine::Kind::Extent) return Selection::tr("%1: drag its corners").arg(name);
    return Selection::tr("%1: drag corners, or + for a new one; Delete; right click for more").arg(name);
}

void LineEditor::paint(QPainter& painter, const PlanTransform& t) const {
    if (!m_selection->line()) return;
    const auto& line = *m_selection->line();
    QPolygonF shape;
    for (const auto& p : line.corners) shape << screen(t, p);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::paper, 5));
    line.isClosed() ? painter.drawPolygon(shape) : painter.drawPolyline(shape);
    painter.setPen(QPen(colour::fox, 2.2));
    line.isClosed() ? painter.drawPolygon(shape) : painter.drawPolyline(shape);
    if (!m_drag)
        for (const auto& side : sides(t)) {
            painter.setPen(QPen(colour::fox, 1.2));
            painter.setBrush(colour::paper);
            painter.drawEllipse(side.middle, kHandle - 0.5, kHandle - 0.5);
            painter.drawLine(side.middle - QPointF(2.5, 0), side.middle + QPointF(2.5, 0));
            painter.drawLine(side.middle - QPointF(0, 2.5), side.middle + QPointF(0, 2.5));
        }
    for (std::size_t i = 0; i < line.corners.size(); ++i) {
        const bool touched = m_touched == i;
        painter.setPen(QPen(colour::fox, 1.6));
        painter.setBrush(touched ? colour::fox : colour::paper);
        painter.drawRect(QRectF(shape[qsizetype(i)] - QPointF(kHandle, kHandle), QSizeF(2 * kHandle, 2 * kHandle)));
    }
    if (m_drag && m_drag->snapped) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(colour::green, 2));
        painter.drawEllipse(t.toScreen(m_drag->snapped->place.x, m_drag->snapped->place.y), 11, 11);
    }
}

} // namespace fox::app
