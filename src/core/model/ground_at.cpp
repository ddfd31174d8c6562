#include "model/ground_at.h"

#include "base/parallel.h"

#include <numeric>

namespace fox {

std::vector<GroundAt> groundAt(const Model& model, std::span<const Point3> places, const Progress& progress) {
    std::vector<GroundAt> out(places.size());
    std::vector<std::size_t> order(places.size());
    std::iota(order.begin(), order.end(), std::size_t(0));
    const auto byPlan = [&](std::size_t a, std::size_t b) {
        return std::pair(places[a].x, places[a].y) < std::pair(places[b].x, places[b].y);
    };
    std::ranges::sort(order, byPlan);
    std::vector<Point2> plan;
    std::vector<std::size_t> begins; // in `order`, of those that share a place in plan
    for (std::size_t i = 0; i < order.size(); ++i) {
        const auto p = places[order[i]].plan();
        if (!plan.empty() && plan.back() == p) continue;
        plan.push_back(p);
        begins.push_back(i);
    }
    begins.push_back(order.size());
    constexpr std::size_t kColumnsAtOnce = 1024;
    parallelFor(
        plan.size(), kColumnsAtOnce,
        [&](std::size_t begin, std::size_t end) {
            const auto columns = model.columnsAt(std::span(plan).subspan(begin, end - begin));
            for (auto c = begin; c < end; ++c)
                for (auto i = begins[c]; i < begins[c + 1]; ++i) {
                    const auto& column = columns[c - begin];
                    const double level = places[order[i]].z;
                    if (!std::isnan(column.ground)) out[order[i]] = {column.unitAt(level), column.ground - level};
                }
        },
        progress);
    return out;
}

std::vector<double> unitThicknesses(const ModelColumn& column, std::size_t units, double top, double bottom) {
    std::vector<double> out(units, 0);
    for (std::size_t u = 0; u < units; ++u) {
        const double from = std::min(top, column.top(u));
        const double to = std::max(bottom, u + 1 < units ? column.base(u) : bottom);
        if (from > to) out[u] = from - to;
    }
    return out;
}

} // namespace fox
