#pragma once
#include "project/project_lines.h"
#include "views/ground_layer.h"
#include "views/selection.h"

class QMenu;

namespace fox::app {

/// Changes the lines of a project on a plan: a click chooses one; then its corners are dragged, new ones are pulled out of its
/// sides, and Delete takes the last one that was touched. Corners catch at holes and at other lines, unless Alt is held.
class LineEditor {
public:
    explicit LineEditor(Selection* selection) : m_selection(selection) {}
    void setProject(const Project&); ///< as it is shown

    /// A line near a place of the view; none.
    const ProjectLine* lineAt(const PlanTransform&, QPointF) const;
    /// Whether a corner, or a side, of the chosen line is taken hold of.
    bool press(const PlanTransform&, QPointF);
    bool isDragging() const { return m_drag.has_value(); }
    /// The edit that the line as it is dragged would make; none if it has not moved. `world` is where the pointer is.
    std::optional<Edit> drag(const PlanTransform&, Point2 world, bool snaps, const Project&);
    std::optional<Edit> release();
    void cancel(); ///< it lies where it lay
    /// Takes out the corner that was touched last, or the line where none was.
    std::optional<Edit> remove();
    /// The edit that gives the chosen line these corners, which stay chosen.
    Edit edit(const Polyline3& corners);

    QString hint() const; ///< what can be done now; empty if no line is chosen
    bool isOnHandle(const PlanTransform&, QPointF) const;
    void paint(QPainter&, const PlanTransform&) const;
    /// The corner of the chosen line that is under a place.
    std::optional<std::size_t> cornerAt(const PlanTransform&, QPointF) const;

private:
    struct Side {
        std::size_t after; ///< the corner that it begins at
        QPointF middle;    ///< pixels
    };
    std::vector<Side> sides(const PlanTransform&) const;
    QPointF screen(const PlanTransform& t, const Point3& p) const { return t.toScreen(p.x, p.y); }

    struct Drag {
        ProjectLine line; ///< as it was
        std::size_t corner = 0;
        Polyline3 corners; ///< as they are now
        std::optional<SnapTarget> snapped;
        bool moved = false;
    };
    Selection* m_selection;
    std::vector<ProjectLine> m_lines;
    std::optional<Drag> m_drag;
    std::optional<std::size_t> m_touched;
};

} // namespace fox::app
