#pragma once
#include "holes/hole.h"

namespace fox {

/// Where the depths of a hole lie in space: minimum curvature between stations, straight on after the last,
/// vertical if there are none. A station's direction holds above the first station too.
/// Method: the arc of least curvature tangent to both directions, ratio factor tan(b/2)/(b/2) for the angle b
/// between them, as used in directional drilling since the 1970s. Exact for circular arcs.
class HolePath {
public:
    /// Empty if the hole has no place or no level.
    static std::optional<HolePath> of(const Hole&);
    HolePath(Point3 collar, const std::vector<PathStation>&);

    Point3 at(Depth) const;
    bool vertical() const { return m_vertical; }

private:
    struct Knot {
        double depth;
        Point3 place;
        Point3 direction; ///< unit vector, z up
    };
    std::vector<Knot> m_knots; ///< the first at depth 0
    bool m_vertical = true;
};

/// The path from one depth to another, straight between these places: two of a vertical hole, else one every 2 m at most.
std::vector<Point3> pathBetween(const HolePath&, Depth from, Depth to);

} // namespace fox
