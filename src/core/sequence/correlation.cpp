#include "sequence/correlation.h"

#include <map>

namespace fox {

std::vector<std::optional<UnitStretch>> stretchesOf(const InterpretedHole& read, const HolePath& path, std::size_t units,
                                                    double raised) {
    std::vector<std::optional<UnitStretch>> out(units);
    double end = 0;
    for (const auto& r : read.intervals) {
        if (r.returned || r.unit >= units) continue;
        const double top = path.at(r.top).z + raised, base = path.at(r.base).z + raised;
        if (!out[r.unit]) out[r.unit] = UnitStretch{top, base, true, false};
        out[r.unit]->base = end = base;
    }
    std::optional<double> older; // the top of what is next older
    for (std::size_t u = units; u-- > 0;) {
        if (out[u]) {
            out[u]->open = !older && u + 1 < units && out[u]->base == end;
            older = out[u]->top;
        } else if (older) {
            out[u] = UnitStretch{*older, *older, false, false};
        }
    }
    return out;
}

std::vector<UnitBetween> unitsBetween(std::span<const std::optional<UnitStretch>> left,
                                      std::span<const std::optional<UnitStretch>> right) {
    const auto units = std::min(left.size(), right.size());
    // a contact is known by its levels in both holes: units that share it share what lies halfway
    std::map<std::pair<double, double>, double> middles;
    const auto meet = [&](double l, double r) { middles.try_emplace({l, r}, (l + r) / 2); };
    for (std::size_t u = 0; u < units; ++u)
        if (left[u] && right[u]) meet(left[u]->top, right[u]->top), meet(left[u]->base, right[u]->base);
    for (std::size_t u = 0; u < units; ++u) {
        if (!left[u] || !right[u] || left[u]->logged == right[u]->logged) continue;
        auto &top = middles[{left[u]->top, right[u]->top}], &base = middles[{left[u]->base, right[u]->base}];
        top = base = (top + base) / 2;
    }
    std::vector<UnitBetween> out;
    for (std::size_t u = 0; u < units; ++u) {
        const auto &l = left[u], &r = right[u];
        if (!l || !r || (!l->logged && !r->logged)) continue;
        const double top = middles[{l->top, r->top}], base = std::min(top, middles[{l->base, r->base}]);
        out.push_back({u, {l->top, top, r->top}, {l->base, base, r->base}, l->open || r->open});
    }
    return out;
}

Depth hangingDepth(const InterpretedHole& read, std::size_t unit) {
    Depth depth;
    for (const auto& r : read.intervals)
        if (!r.returned && r.unit <= unit) depth = r.base;
    return depth;
}

} // namespace fox
