#include "sequence/hole_values.h"

#include <fmt/format.h>
#include <unordered_map>

namespace fox {

std::string words(const HoleValue& v, const Sequence& sequence) {
    const auto unit = v.unit < sequence.units.size() ? sequence.units[v.unit].name : std::string("unit");
    switch (v.kind) {
    case HoleValue::Kind::FinalDepth: return "final depth, m";
    case HoleValue::Kind::GroundLevel: return "ground level, m";
    case HoleValue::Kind::DepthToUnit: return fmt::format("depth to {}, m", unit);
    case HoleValue::Kind::UnitThickness: return fmt::format("thickness of {}, m", unit);
    case HoleValue::Kind::Water:
        return v.water.which == WaterStatistic::AtDate ? fmt::format("level of water {}, m", words(v.water))
                                                       : fmt::format("{} level of water, m", words(v.water));
    case HoleValue::Kind::BlowCount: break;
    }
    return fmt::format("SPT N at {:g} m", v.depth);
}

namespace {

/// Of several points in a hole the highest level; where the lowest reading is asked for, the lowest.
std::vector<std::optional<double>> waterLevels(const WaterChoice& choice, const Holes& holes) {
    std::vector<std::optional<double>> out(holes.size());
    for (const auto& series : waterSeries(holes)) {
        const auto level = levelOf(series, choice);
        auto& known = out[series.hole];
        const bool takes = level && (!known || (choice.which == WaterStatistic::Lowest ? *level < *known : *level > *known));
        if (takes) known = level;
    }
    return out;
}

} // namespace

std::vector<std::optional<double>> valuesOf(const HoleValue& v, const Holes& holes, const InterpretedLogs& reading) {
    using Kind = HoleValue::Kind;
    if (v.kind == Kind::Water) return waterLevels(v.water, holes);
    std::unordered_map<const Hole*, const InterpretedHole*> read;
    for (const auto& r : reading.holes) read[r.hole] = &r;
    constexpr double kNear = 1; // metres; tests are 1 to 1.5 m apart
    std::vector<std::optional<double>> out;
    for (const auto& h : holes) {
        auto& value = out.emplace_back();
        if (v.kind == Kind::FinalDepth && h.finalDepth) value = h.finalDepth->metres;
        if (v.kind == Kind::GroundLevel && h.level) value = h.level->metres;
        if (v.kind == Kind::BlowCount) {
            const auto nearest = std::ranges::min_element(h.blowCounts, {},
                                                          [&](const BlowCount& b) { return std::abs(b.depth.metres - v.depth); });
            if (nearest != h.blowCounts.end() && std::abs(nearest->depth.metres - v.depth) <= kNear) value = nearest->blows;
        }
        const auto log = read.find(&h);
        if (log == read.end()) continue;
        for (const auto& i : log->second->intervals) {
            if (i.unit != v.unit) continue;
            if (v.kind == Kind::DepthToUnit && !value) value = i.top.metres;
            if (v.kind == Kind::UnitThickness) value = value.value_or(0) + (i.base.metres - i.top.metres);
        }
        // a hole that was logged and has none of the unit: no thickness, as far down as it goes
        if (v.kind == Kind::UnitThickness && !value && !log->second->intervals.empty()
            && log->second->intervals.back().unit > v.unit)
            value = 0;
    }
    return out;
}

} // namespace fox
