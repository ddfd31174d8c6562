#include "ground/shading.h"

#include <numbers>

namespace fox {

namespace {

/// Calls use(cell, rise to the east, rise to the north) with metres of level a metre of plan.
template <typename Use>
Grid fromGradients(const Grid& grid, Use&& use) {
    Grid out(grid.frame);
    const int columns = grid.frame.columns(), rows = grid.frame.rows();
    const auto value = [&](int c, int r) { return c < 0 || r < 0 || c >= columns || r >= rows ? kNoValue : grid.at(c, r); };
    // central difference; at the edge of what is known, the one side there is
    const auto rise = [&](double before, double here, double after) {
        if (!std::isnan(before) && !std::isnan(after)) return (after - before) / (2 * grid.frame.cell);
        if (!std::isnan(after)) return (after - here) / grid.frame.cell;
        return (here - before) / grid.frame.cell;
    };
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c) {
            const double here = grid.at(c, r);
            if (std::isnan(here)) continue;
            out.at(c, r) = use(rise(value(c - 1, r), here, value(c + 1, r)), rise(value(c, r + 1), here, value(c, r - 1)));
        }
    return out;
}

} // namespace

Grid slopeOf(const Grid& grid) {
    return fromGradients(grid,
                         [](double east, double north) { return std::atan(std::hypot(east, north)) * 180 / std::numbers::pi; });
}

Grid lightOn(const Grid& grid, double azimuth, double altitude, double exaggeration) {
    const double a = azimuth * std::numbers::pi / 180, h = altitude * std::numbers::pi / 180;
    const double sx = std::sin(a) * std::cos(h), sy = std::cos(a) * std::cos(h), sz = std::sin(h);
    return fromGradients(grid, [&](double east, double north) {
        east *= exaggeration, north *= exaggeration;
        return std::max(0.0, (-east * sx - north * sy + sz) / std::sqrt(1 + east * east + north * north));
    });
}

} // namespace fox
