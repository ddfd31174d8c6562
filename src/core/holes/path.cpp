#include "holes/path.h"

#include <algorithm>
#include <numbers>

// Minimum curvature: between two stations the hole runs on an arc of a circle that is tangent to both directions (Sawaryn and
// Thorogood 2005). The chord's factor tan(half angle) / half angle goes to 1 for a straight piece. Above the first station the
// hole has its direction, below the last one it goes straight on.
namespace fox {

namespace {

constexpr double kRadians = std::numbers::pi / 180;

Point3 direction(const PathStation& s) {
    const double dip = s.inclination * kRadians, azimuth = s.azimuth * kRadians;
    if (s.inclination == 90) return {0, 0, -1}; // exactly, so that contacts stay under the collar
    return {std::cos(dip) * std::sin(azimuth), std::cos(dip) * std::cos(azimuth), -std::sin(dip)};
}

/// A unit vector a share t of the way along the great circle from a to b.
Point3 turned(const Point3& a, const Point3& b, double angle, double t) {
    if (angle < 1e-9) return a; // radians; under a micrometre in a kilometre
    const double wa = std::sin((1 - t) * angle) / std::sin(angle), wb = std::sin(t * angle) / std::sin(angle);
    return {wa * a.x + wb * b.x, wa * a.y + wb * b.y, wa * a.z + wb * b.z};
}

double angleBetween(const Point3& a, const Point3& b) {
    return std::acos(std::clamp(a.x * b.x + a.y * b.y + a.z * b.z, -1.0, 1.0));
}

Point3 step(const Point3& from, const Point3& a, const Point3& b, double length) {
    const double half = angleBetween(a, b) / 2;
    const double ratio = half < 1e-9 ? 1 : std::tan(half) / half;
    const double w = length / 2 * ratio;
    return {from.x + w * (a.x + b.x), from.y + w * (a.y + b.y), from.z + w * (a.z + b.z)};
}

} // namespace

std::optional<HolePath> HolePath::of(const Hole& hole) {
    const auto place = hole.place();
    if (!place || !hole.level) return {};
    return HolePath({place->x, place->y, hole.level->metres}, hole.stations);
}

HolePath::HolePath(Point3 collar, const std::vector<PathStation>& stations) {
    m_knots.push_back({0, collar, stations.empty() ? Point3{0, 0, -1} : direction(stations.front())});
    for (const auto& s : stations) {
        m_vertical &= s.inclination == 90;
        const auto& last = m_knots.back();
        const double length = s.depth.metres - last.depth;
        const auto to = direction(s);
        if (length > 0) m_knots.push_back({s.depth.metres, step(last.place, last.direction, to, length), to});
    }
}

Point3 HolePath::at(Depth depth) const {
    std::size_t i = 0;
    while (i + 1 < m_knots.size() && m_knots[i + 1].depth <= depth.metres) ++i;
    const auto& a = m_knots[i];
    const double beyond = depth.metres - a.depth;
    if (i + 1 == m_knots.size()) return step(a.place, a.direction, a.direction, beyond);
    const auto& b = m_knots[i + 1];
    const auto here = turned(a.direction, b.direction, angleBetween(a.direction, b.direction), beyond / (b.depth - a.depth));
    return step(a.place, a.direction, here, beyond);
}

std::vector<Point3> pathBetween(const HolePath& path, Depth from, Depth to) {
    constexpr double kStep = 2;
    const int pieces = path.vertical() ? 1 : std::max(1, int(std::ceil((to.metres - from.metres) / kStep)));
    std::vector<Point3> out;
    for (int k = 0; k <= pieces; ++k) out.push_back(path.at(Depth{from.metres + (to.metres - from.metres) * k / pieces}));
    return out;
}

} // namespace fox
