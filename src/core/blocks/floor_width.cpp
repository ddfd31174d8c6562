#include "blocks/floor_width.h"

#include "base/point.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace fox {

namespace {

constexpr double kNotDug = std::numeric_limits<double>::infinity();

/// Cells by their columns and rows from the middle one.
using Disc = std::vector<std::pair<int, int>>;

/// Of the cells whose centre is so near to that of the middle one, in cells.
Disc discOf(double radius) {
    Disc out;
    const int far = int(std::ceil(radius));
    for (int r = -far; r <= far; ++r)
        for (int c = -far; c <= far; ++c)
            if (std::hypot(r, c) <= radius + 1e-9) out.emplace_back(c, r);
    return out;
}

template <typename Use>
void eachOf(const Frame& f, const Disc& disc, std::size_t cell, Use&& use) {
    const int columns = f.columns(), rows = f.rows();
    const int column = int(cell % std::size_t(columns)), row = int(cell / std::size_t(columns));
    for (const auto& [dc, dr] : disc) {
        const int c = column + dc, r = row + dr;
        if (c >= 0 && r >= 0 && c < columns && r < rows) use(std::size_t(r) * std::size_t(columns) + std::size_t(c));
    }
}

} // namespace

std::vector<double> widenedFloor(const Frame& f, std::span<const double> bottoms, double width) {
    const double radius = width / 2 / f.cell;
    const auto disc = discOf(radius), corner = discOf(radius * std::numbers::sqrt2), close = discOf(radius / 4);
    std::vector<double> bottom(bottoms.begin(), bottoms.end());
    for (double& b : bottom)
        if (std::isnan(b)) b = kNotDug;
    std::vector<double> shallowest(bottom.size(), kNoValue); // of the disc around a cell; NaN: not looked at
    const auto shallowestAround = [&](std::size_t cell) {
        double& out = shallowest[cell];
        if (std::isnan(out)) {
            out = -kNotDug;
            eachOf(f, disc, cell, [&](std::size_t k) { out = std::max(out, bottom[k]); });
        }
        return out;
    };
    std::vector<std::pair<std::size_t, std::size_t>> narrow; // how much around it is as deep, and the cell
    for (std::size_t cell = 0; cell < bottom.size(); ++cell) {
        if (bottom[cell] == kNotDug) continue;
        double best = kNotDug;
        std::size_t around = 0;
        eachOf(f, corner, cell, [&](std::size_t i) { best = std::min(best, shallowestAround(i)); });
        eachOf(f, disc, cell, [&](std::size_t i) { around += bottom[i] <= bottom[cell] + 1e-9; });
        if (best > bottom[cell] + 1e-9) narrow.emplace_back(around, cell);
    }
    std::ranges::stable_sort(narrow, std::greater<>(), [](const auto& n) { return n.first; });
    auto out = bottom;
    std::vector<double> widened(bottom.size(), kNotDug); // down to which level
    for (const auto& [around, cell] : narrow) {
        const double level = bottom[cell];
        if (widened[cell] <= level + 1e-9) continue;
        eachOf(f, disc, cell, [&](std::size_t i) { out[i] = std::min(out[i], level); });
        eachOf(f, close, cell, [&](std::size_t i) { widened[i] = std::min(widened[i], level); });
    }
    for (double& b : out)
        if (b == kNotDug) b = kNoValue;
    return out;
}

} // namespace fox
