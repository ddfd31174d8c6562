#include "surfaces/plane.h"

#include <cmath>
#include <numbers>

namespace fox {

namespace {
constexpr double kDegree = std::numbers::pi / 180;
}

double Plane::strike() const {
    if (east == 0 && north == 0) return 0;
    const double dipAzimuth = std::atan2(-east, -north) / kDegree; // downhill
    return std::fmod(dipAzimuth + 270, 360);
}

double Plane::dip() const { return std::atan(std::hypot(east, north)) / kDegree; }

Plane planeOf(double strike, double dip, Point3 through) {
    const double downhill = (strike + 90) * kDegree, slope = -std::tan(dip * kDegree);
    return {through, slope * std::sin(downhill), slope * std::cos(downhill)};
}

std::optional<Plane> planeThrough(std::span<const Point3> points) {
    if (points.size() < 3) return {};
    Point3 mean{};
    const double n = double(points.size());
    for (const auto& p : points) mean.x += p.x / n, mean.y += p.y / n, mean.z += p.z / n;
    double xx = 0, xy = 0, yy = 0, xz = 0, yz = 0;
    for (const auto& p : points) {
        const double x = p.x - mean.x, y = p.y - mean.y, z = p.z - mean.z;
        xx += x * x, xy += x * y, yy += y * y, xz += x * z, yz += y * z;
    }
    const double determinant = xx * yy - xy * xy;
    // on one line but for a thirty-thousandth of its length: the slope across it is not known
    if (!(determinant > 1e-9 * (xx + yy) * (xx + yy))) return {};
    return Plane{mean, (xz * yy - yz * xy) / determinant, (yz * xx - xz * xy) / determinant};
}

} // namespace fox
