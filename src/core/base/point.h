#pragma once
#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

namespace fox {

/// A place in plan: easting and northing in metres of the project's coordinate system.
struct Point2 {
    double x = 0, y = 0;
    bool operator==(const Point2&) const = default;
};

/// A place in space: easting, northing and level in metres, level positive up.
struct Point3 {
    double x = 0, y = 0, z = 0;
    bool operator==(const Point3&) const = default;
    Point2 plan() const { return {x, y}; }
};

using Polyline2 = std::vector<Point2>;
using Polyline3 = std::vector<Point3>;
/// A closed ring in plan; the last point need not repeat the first.
using Polygon2 = std::vector<Point2>;

inline Polyline2 planOf(const Polyline3& line) {
    Polyline2 out;
    for (const auto& p : line) out.push_back(p.plan());
    return out;
}
/// To level 0.
inline Polyline3 raised(const Polyline2& line) {
    Polyline3 out;
    for (const auto& p : line) out.push_back({p.x, p.y, 0});
    return out;
}

inline double distance(Point2 a, Point2 b) { return std::hypot(a.x - b.x, a.y - b.y); }

/// An upright rectangle in plan. A default one is empty and grows by include().
struct Box2 {
    double xmin = std::numeric_limits<double>::infinity(), ymin = xmin;
    double xmax = -xmin, ymax = -xmin;
    bool operator==(const Box2&) const = default;
    bool empty() const { return !(xmin <= xmax && ymin <= ymax); }
    double width() const { return xmax - xmin; }
    double height() const { return ymax - ymin; }
    Point2 centre() const { return {(xmin + xmax) / 2, (ymin + ymax) / 2}; }
    void include(Point2 p) {
        xmin = std::min(xmin, p.x), xmax = std::max(xmax, p.x);
        ymin = std::min(ymin, p.y), ymax = std::max(ymax, p.y);
    }
};

/// Whether p lies in the polygon, by the even-odd rule. A point on the edge may count either way.
inline bool contains(const Polygon2& polygon, Point2 p) {
    bool inside = false;
    for (std::size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++) {
        const auto &a = polygon[i], &b = polygon[j];
        if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x) inside = !inside;
    }
    return inside;
}

/// "No value here" in grids and in series that are drawn: a quiet NaN, tested with std::isnan.
inline constexpr double kNoValue = std::numeric_limits<double>::quiet_NaN();

} // namespace fox
