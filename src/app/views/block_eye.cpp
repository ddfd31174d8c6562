#include "views/block_eye.h"

#include <cmath>
#include <numbers>

namespace fox::app {

namespace {

constexpr double kRadians = std::numbers::pi / 180;

double product(const std::array<double, 3>& a, const std::array<double, 3>& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }

/// Of half the picture's height, as seen at a metre.
double tangent() { return std::tan(BlockEye::kAngle / 2 * kRadians); }

} // namespace

BlockEye::Axes BlockEye::axes() const {
    const double a = azimuth * kRadians, e = elevation * kRadians;
    return {{std::cos(e) * std::sin(a), -std::cos(e) * std::cos(a), std::sin(e)},
            {std::cos(a), std::sin(a), 0},
            {-std::sin(e) * std::sin(a), std::sin(e) * std::cos(a), std::cos(e)}};
}

std::array<double, 3> BlockEye::position() const {
    const auto to = axes().toViewer;
    return {focus[0] + away * to[0], focus[1] + away * to[1], focus[2] + away * to[2]};
}

QPointF BlockEye::onScreen(const double at[3], QSizeF size) const {
    const auto from = position();
    const auto [toViewer, right, up] = axes();
    const std::array<double, 3> v{at[0] - from[0], at[1] - from[1], at[2] - from[2]};
    constexpr double kNearest = 1e-6;
    const double scale = size.height() / 2 / tangent() / std::max(kNearest, -product(v, toViewer));
    return {size.width() / 2 + product(v, right) * scale, size.height() / 2 - product(v, up) * scale};
}

std::optional<Point2> BlockEye::placeUnder(QPointF p, double height, QSizeF size) const {
    const auto from = position();
    const auto [toViewer, right, up] = axes();
    const double unit = tangent() / (size.height() / 2), x = (p.x() - size.width() / 2) * unit,
                 y = (size.height() / 2 - p.y()) * unit;
    std::array<double, 3> ray{};
    for (std::size_t k = 0; k < 3; ++k) ray[k] = x * right[k] + y * up[k] - toViewer[k];
    constexpr double kLevel = 1e-9;
    if (std::abs(ray[2]) < kLevel) return {};
    const double t = (height - from[2]) / ray[2];
    return Point2{from[0] + t * ray[0], from[1] + t * ray[1]};
}

} // namespace fox::app
