#include "model/presence_line.h"

#include "ground/contours.h"

// The uncertainty of a boundary follows from how steeply the probability passes a half there: at a slope g (1/m) it goes from a
// quarter to three quarters over 0.5 / g metres. A line is parted where it changes between sure and not.
namespace fox {

namespace {

constexpr double kHalf = 0.5;

/// The slope of a grid at a place by central differences, per metre; 0 where its neighbours have no value.
double slopeAt(const Grid& grid, Point2 p) {
    const auto& f = grid.frame;
    const int c = std::clamp(int((p.x - f.xmin) / f.cell), 1, std::max(1, f.columns() - 2));
    const int r = std::clamp(int((f.ymax - p.y) / f.cell), 1, std::max(1, f.rows() - 2));
    if (f.columns() < 3 || f.rows() < 3) return 0;
    const double x = (grid.at(c + 1, r) - grid.at(c - 1, r)) / (2 * f.cell),
                 y = (grid.at(c, r + 1) - grid.at(c, r - 1)) / (2 * f.cell);
    const double slope = std::hypot(x, y);
    return std::isnan(slope) ? 0 : slope;
}

} // namespace

std::vector<PresenceLine> presenceLines(const Grid& probabilities, double spacing) {
    std::vector<PresenceLine> out;
    for (const auto& contour : contoursOf(probabilities, kHalf)) {
        if (contour.level != kHalf) continue;
        const auto isSure = [&](std::size_t i) { // of the piece that ends at a vertex
            const auto &a = contour.line[i - 1], &b = contour.line[i];
            return slopeAt(probabilities, {(a.x + b.x) / 2, (a.y + b.y) / 2}) * spacing >= 1;
        };
        for (std::size_t i = 1; i < contour.line.size(); ++i) {
            const bool sure = isSure(i);
            if (i == 1 || out.back().isSure != sure) out.push_back({{contour.line[i - 1]}, sure});
            out.back().line.push_back(contour.line[i]);
        }
    }
    return out;
}

std::vector<PresenceEnd> presenceEnds(const Section& s, std::size_t unit) {
    std::vector<PresenceEnd> out;
    if (unit >= s.chances.size()) return out;
    const auto& p = s.chances[unit];
    // the chainage at which the probability passes a value between two neighbours
    const auto passes = [&](std::size_t i, double value) {
        const double t = (value - p[i]) / (p[i + 1] - p[i]);
        return s.chainage[i] + std::clamp(t, 0.0, 1.0) * (s.chainage[i + 1] - s.chainage[i]);
    };
    const auto reached = [&](std::size_t i, int way, double value) {
        const bool rises = value > kHalf;
        for (auto k = std::ptrdiff_t(i);; k += way) {
            const auto next = k + way;
            if (next < 0 || next >= std::ptrdiff_t(p.size()) || std::isnan(p[std::size_t(next)]))
                return s.chainage[std::size_t(k)];
            if (rises ? p[std::size_t(next)] >= value : p[std::size_t(next)] <= value)
                return passes(std::size_t(std::min(k, next)), value);
        }
    };
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        if (std::isnan(p[i]) || std::isnan(p[i + 1]) || (p[i] > kHalf) == (p[i + 1] > kHalf)) continue;
        const bool rises = p[i + 1] > p[i];
        out.push_back(
            {passes(i, kHalf), s.bases[unit][i], reached(i + 1, -1, rises ? 0.25 : 0.75), reached(i, 1, rises ? 0.75 : 0.25)});
    }
    return out;
}

} // namespace fox
