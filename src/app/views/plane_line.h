#pragma once
#include "sequence/plane_assignment.h"

#include <QPainter>
#include <optional>

namespace fox::app {

/// The plane above which intervals are assigned, as it is seen along holes or a section: a line, a round handle in its middle
/// that moves it up and down, and a square one at each end that tilts it about the other end.
class PlaneLine {
public:
    /// Where the plane is seen, from left to right: its level at a place of the site, as a place of the view. Two or more.
    struct Node {
        QPointF at;
        Point2 place;
    };
    enum class Handle { None, Level, Left, Right };

    explicit PlaneLine(std::vector<Node> nodes) : m_nodes(std::move(nodes)) {}
    bool isDrawn() const { return m_nodes.size() > 1; }
    QPointF placeOf(Handle) const;
    /// The handle under the cursor; the line itself moves the plane as its middle does.
    Handle handleAt(QPointF) const;
    void paint(QPainter&, const Plane&) const;
    /// The plane that was taken by a handle and moved up by so many metres.
    Plane dragged(Handle, const Plane& before, double up) const;

private:
    std::vector<Node> m_nodes;
};

/// "falls 2.9° to the south", "level"
QString slopeInWords(const Plane&);

/// The plane while one of its handles is held in a view.
class PlaneGrip {
public:
    /// True if there is a handle under the cursor; `level` is that of the cursor, metres.
    bool take(const PlaneLine&, QPointF, const Plane&, double level);
    /// The plane with the cursor at another level; none if nothing is held.
    std::optional<Plane> moved(const PlaneLine&, double level) const;
    bool release(); ///< true if something was held

private:
    PlaneLine::Handle m_handle = PlaneLine::Handle::None;
    Plane m_before;
    double m_from = 0;
};

} // namespace fox::app
