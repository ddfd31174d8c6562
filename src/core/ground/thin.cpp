#include "ground/thin.h"

// Douglas and Peucker (1973) with distances in space, so that a bend in level counts as a bend in plan does. Iterative, since a
// line may have millions of vertices. Cost: vertices times the depth of the splits, about their logarithm for lines as drawn.
namespace fox {

namespace {

double fromSegment(const Point3& p, const Point3& a, const Point3& b) {
    const double dx = b.x - a.x, dy = b.y - a.y, dz = b.z - a.z, squared = dx * dx + dy * dy + dz * dz;
    const double along = (p.x - a.x) * dx + (p.y - a.y) * dy + (p.z - a.z) * dz;
    const double t = squared > 0 ? std::clamp(along / squared, 0.0, 1.0) : 0;
    return std::hypot(p.x - a.x - t * dx, p.y - a.y - t * dy, p.z - a.z - t * dz);
}

} // namespace

Polyline3 thinned(const Polyline3& line, double tolerance) {
    if (line.size() < 3 || !(tolerance > 0)) return line;
    std::vector<bool> keep(line.size(), false);
    keep.front() = keep.back() = true;
    std::vector<std::pair<std::size_t, std::size_t>> open{{0, line.size() - 1}}; // not by recursion: lines can be long
    while (!open.empty()) {
        const auto [from, to] = open.back();
        open.pop_back();
        double worst = tolerance;
        std::size_t at = 0;
        for (std::size_t i = from + 1; i < to; ++i)
            if (const double off = fromSegment(line[i], line[from], line[to]); off > worst) worst = off, at = i;
        if (at == 0) continue;
        keep[at] = true;
        open.emplace_back(from, at);
        open.emplace_back(at, to);
    }
    Polyline3 out;
    for (std::size_t i = 0; i < line.size(); ++i)
        if (keep[i]) out.push_back(line[i]);
    return out;
}

} // namespace fox
