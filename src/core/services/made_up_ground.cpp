#include "services/made_up_ground.h"

#include "formats/crs.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fox::made_up {

namespace {

constexpr double kPi = std::numbers::pi;
constexpr double kEarth = 6371; // km, of a sphere: these hills need no better one

/// Waves through the globe, so that there is no seam at the date line and no pinch at the poles.
double hills(double longitude, double latitude) {
    const double lon = longitude * kPi / 180, lat = latitude * kPi / 180;
    const double x = kEarth * std::cos(lat) * std::cos(lon), y = kEarth * std::cos(lat) * std::sin(lon),
                 z = kEarth * std::sin(lat);
    struct Wave {
        double length, height, ax, ay, az, phase; ///< km, m, direction
    };
    static constexpr Wave kWaves[] = {
        {310, 70, 0.48, 0.64, 0.60, 0.3},  {190, 45, -0.67, 0.33, 0.66, 1.9},   {83, 32, 0.80, -0.42, 0.43, 4.1},
        {41, 26, -0.36, -0.80, 0.48, 2.2}, {17, 15, 0.55, 0.60, -0.58, 0.7},    {7.3, 9, -0.71, 0.10, 0.70, 5.0},
        {3.1, 4.5, 0.21, 0.93, 0.30, 3.3}, {1.3, 1.8, 0.87, -0.35, -0.34, 1.1}, {0.55, 0.7, -0.12, 0.77, -0.63, 2.9}};
    double level = 62;
    for (const auto& w : kWaves) level += w.height * std::sin(2 * kPi * (x * w.ax + y * w.ay + z * w.az) / w.length + w.phase);
    return std::max(0.0, level);
}

} // namespace

double bump(double u, double v, double u0, double v0, double du, double dv) {
    return std::exp(-((u - u0) * (u - u0) / (du * du) + (v - v0) * (v - v0) / (dv * dv)));
}

double rise(double x, double a, double b) {
    const double t = std::clamp((x - a) / (b - a), 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

double beckMiddle(double u) { return 430 + 60 * std::sin(2 * kPi * u / 900) + 25 * std::sin(2 * kPi * u / 410 + 1); }

double valleyDistance(double u, double v) {
    const double slope = (beckMiddle(u + 0.5) - beckMiddle(u - 0.5));
    return (v - beckMiddle(u)) / std::sqrt(1 + slope * slope);
}

double valleyGround(double u, double v) {
    const double d = valleyDistance(u, v);
    const double side = d > 0 ? 15 : 12;
    return 24 - 0.0022 * u + side * (1 - std::exp(-(d / 340) * (d / 340))) + 9 * bump(u, v, 1180, 900, 260, 190)
           + 0.25 * std::sin(u / 61) * std::cos(v / 47) + 2.2 * bump(u, v, 420, 330, 75, 50)
           + 1.6 * bump(u, v, 1010, 560, 60, 45); // the two tips
}

double channel(double d) { return 1.9 * (1 - rise(std::abs(d), 4, 9)); }

double groundAt(double longitude, double latitude) {
    static const CoordinateChange kToSite("EPSG:4326", "EPSG:25831");
    const bool near = std::abs(longitude - 2.7) < 1 && std::abs(latitude - 55.2) < 0.5;
    const auto site = near ? kToSite.forward({longitude, latitude}) : std::nullopt;
    if (!site) return hills(longitude, latitude);
    const double u = site->x - kWest, v = site->y - kSouth;
    const double away = std::hypot(u - 750, v - 500); // of the demo's middle
    const double share = 1 - rise(away, 3000, 20000);
    if (share == 0) return hills(longitude, latitude);
    const double demo = valleyGround(u, v) - channel(valleyDistance(u, v));
    return share == 1 ? demo : share * demo + (1 - share) * hills(longitude, latitude);
}

} // namespace fox::made_up
