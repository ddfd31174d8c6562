#include "sequence/along_holes.h"

#include "sequence/description.h"
#include "sequence/unit.h"

#include <fmt/format.h>

namespace fox {

std::string words(const AlongChoice& c) { return c.kind == AlongChoice::Kind::Unit ? "unit" : c.name; }

std::string AlongValues::colourOf(const std::string& code) const {
    const auto at = std::ranges::find(codes, code, &std::pair<std::string, std::string>::first);
    return at == codes.end() ? std::string() : at->second;
}

namespace {

void addCodes(AlongValues& out, const Holes& holes, const InterpretedLogs& logs) {
    std::vector<Unit> coloured; // by the ground that descriptions with the code name, told apart from those before
    for (const auto& logged : loggedCodes(holes, out.choice.name)) {
        auto& one = coloured.emplace_back();
        one.colour = proposedColour(logged.material.empty() ? logged.code : logged.material, coloured);
        out.codes.emplace_back(logged.code, one.colour);
    }
    for (const auto& read : logs.holes)
        for (const auto& i : read.logged())
            if (const auto code = i.codes.find(out.choice.name); i.usable() && code != i.codes.end() && !code->second.empty())
                out.holes[read.index].push_back({i.top, i.base, kNoValue, false, code->second});
}

void addValues(AlongValues& out, const TestQuantity& quantity, const Holes& holes, const InterpretedLogs& logs) {
    out.unit = quantity.unit;
    for (const auto& v : testValues(quantity, holes, logs)) {
        if (std::isnan(v.value)) continue;
        out.holes[v.hole].push_back({v.depth, v.depth, v.value, v.kind == TestValueKind::Limit, {}});
        if (v.kind == TestValueKind::Value) out.low = std::fmin(out.low, v.value), out.high = std::fmax(out.high, v.value);
    }
    for (auto& stretches : out.holes) {
        std::ranges::stable_sort(stretches, {}, &AlongStretch::top);
        std::vector<double> depths;
        for (const auto& s : stretches) depths.push_back(s.top.metres);
        for (std::size_t i = 0; i < stretches.size(); ++i) {
            const double above = i == 0 ? kAlongReach : (depths[i] - depths[i - 1]) / 2,
                         below = i + 1 == depths.size() ? kAlongReach : (depths[i + 1] - depths[i]) / 2;
            stretches[i].top = Depth{std::max(0.0, depths[i] - std::min(above, kAlongReach))};
            stretches[i].base = Depth{depths[i] + std::min(below, kAlongReach)};
        }
    }
}

} // namespace

AlongValues alongValues(const AlongChoice& choice, const Holes& holes, const InterpretedLogs& logs) {
    AlongValues out;
    out.choice = choice;
    out.holes.resize(holes.size());
    if (choice.kind == AlongChoice::Kind::Column) addCodes(out, holes, logs);
    if (choice.kind == AlongChoice::Kind::Quantity)
        for (const auto& q : testQuantities(holes))
            if (q.name == choice.name) {
                addValues(out, q, holes, logs);
                break;
            }
    return out;
}

std::vector<AlongSign> signsAlong(const Hole& hole, const WaterChoice& water) {
    std::vector<AlongSign> out;
    for (const auto& s : hole.samples)
        out.push_back({AlongSign::Kind::Sample, s.top, s.reference.empty() ? s.type : s.type + " " + s.reference});
    for (const auto& w : hole.strikes)
        out.push_back({AlongSign::Kind::WaterStruck, w.depth,
                       w.roseTo ? fmt::format("struck, rose to {:.2f} m", w.roseTo->metres) : "struck"});
    for (const auto& w : waterIn(hole, water)) out.push_back({AlongSign::Kind::WaterLevel, w.depth, "level of the water"});
    std::ranges::stable_sort(out, {}, &AlongSign::depth);
    return out;
}

} // namespace fox
