#pragma once
#include "base/finding.h"
#include "base/point.h"

#include <span>

namespace fox {

/// An area with the rings of what it leaves out.
struct RingWithHoles {
    Polygon2 ring;
    std::vector<Polygon2> holes = {};
    bool operator==(const RingWithHoles&) const = default;
};
/// Rings of one shape or several, put in order: one inside an odd number of the others is a hole of the innermost of these,
/// whichever way it runs. Rings under three corners are dropped; a last point that repeats the first too.
std::vector<RingWithHoles> nested(std::vector<Polygon2> rings);

/// A part of the plan: what lies in some outlines and not in any island. Everywhere by default.
class Area {
public:
    Area() = default;
    /// Outlines that overlap are one; islands are taken out of them. Without outlines it is all but the islands. An
    /// outline that crosses itself is taken by the even-odd rule, with a finding that names it.
    /// (Polygons are joined by GEOS, through GDAL.)
    Area(std::span<const Polygon2> outlines, std::span<const Polygon2> islands, Findings* findings = nullptr);
    explicit Area(const Polygon2& outline) : Area(std::span(&outline, outline.empty() ? 0 : 1), {}) {}
    explicit Area(const RingWithHoles& shape) : Area(std::span(&shape.ring, 1), shape.holes) {}
    /// Several: what lies in one of them is inside, but in no hole of any.
    explicit Area(std::span<const RingWithHoles>);

    bool isEverywhere() const { return m_rings.empty() && !m_nowhere; }
    /// It is what lies outside of the rings, not inside.
    bool isOutsideOfRings() const { return m_outside; }
    /// Its edges: outer ones counter-clockwise, holes clockwise; none crosses another.
    const std::vector<Polygon2>& rings() const { return m_rings; }
    /// A point on the edge may count either way.
    bool contains(Point2) const;
    Box2 box() const;               ///< of the rings
    Area within(const Box2&) const; ///< what of it lies in a rectangle

    /// Where a line of equal northing is inside, for many points of one row.
    class Spans {
    public:
        bool contains(double x) const {
            return m_inverted != (std::size_t(std::ranges::upper_bound(m_crossings, x) - m_crossings.begin()) % 2 == 1);
        }

    private:
        friend class Area;
        std::vector<double> m_crossings; ///< from west to east
        bool m_inverted = false;
    };
    Spans spansAt(double y) const;

    /// The pieces of a line inside, cut at the edges with levels linear along it; in order.
    std::vector<Polyline3> clipped(const Polyline3&) const;
    bool operator==(const Area&) const = default;

private:
    std::vector<Polygon2> m_rings;
    bool m_outside = false, m_nowhere = false;
};

} // namespace fox
