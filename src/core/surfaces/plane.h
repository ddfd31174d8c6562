#pragma once
#include "base/point.h"

#include <optional>
#include <span>
#include <vector>

namespace fox {

/// A tilted plane: `through`, and metres up a metre east and north.
struct Plane {
    Point3 through;
    double east = 0, north = 0;
    double at(Point2 p) const { return through.z + east * (p.x - through.x) + north * (p.y - through.y); }
    double strike() const; ///< degrees clockwise from north, the plane dips to its right; 0 if it is level
    double dip() const;    ///< degrees below the horizontal
    bool operator==(const Plane&) const = default;
};

/// A plane that dips to the right of its strike. Both in degrees.
Plane planeOf(double strike, double dip, Point3 through);

/// Least squares in levels. None for under three points or points on one line.
std::optional<Plane> planeThrough(std::span<const Point3>);

} // namespace fox
