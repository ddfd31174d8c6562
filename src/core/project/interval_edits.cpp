#include "project/interval_edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "sequence/interval_parts.h"

#include <fmt/format.h>

// A choice of a unit is known by the top and base of its interval, so that each change of a split takes the choices of the parts
// on both sides with it.
namespace fox {

namespace {

bool same(Depth a, Depth b) { return std::abs(a.metres - b.metres) < kTouch; }

/// What was chosen for the interval or part with these ends, taken out; none if nothing was.
std::optional<std::string> takeChoice(Interpretation& own, const std::string& hole, Depth top, Depth base) {
    const auto at = std::ranges::find_if(
        own.intervals, [&](const IntervalChoice& c) { return c.hole == hole && same(c.top, top) && same(c.base, base); });
    if (at == own.intervals.end()) return {};
    auto unit = at->unit;
    own.intervals.erase(at);
    return unit;
}

void choose(Interpretation& own, const std::string& hole, Depth top, Depth base, const std::optional<std::string>& unit) {
    if (unit) own.intervals.push_back({hole, top, base, *unit});
}

std::vector<IntervalSplit>::iterator splitOf(Interpretation& own, const std::string& hole, Depth depth) {
    const auto at =
        std::ranges::find_if(own.splits, [&](const IntervalSplit& s) { return s.hole == hole && same(s.depth, depth); });
    if (at == own.splits.end()) throw Error(fmt::format("{} is not split at {:.2f} m.", hole, depth.metres));
    return at;
}

/// The parts above and below a split; null where the log has none.
std::pair<const Interval*, const Interval*> beside(const std::vector<Interval>& log, Depth depth) {
    const auto find = [&](auto end) {
        const auto at = std::ranges::find_if(log, [&](const Interval& i) { return i.usable() && same(i.*end, depth); });
        return at == log.end() ? nullptr : &*at;
    };
    return {find(&Interval::base), find(&Interval::top)};
}

Depth toCentimetre(Depth d) { return Depth{std::round(d.metres * 100) / 100}; }

} // namespace

Edited withOwn(const Project& project, Interpretation own, std::string label) {
    Edited e{project, std::move(label)};
    e.project.interpretation = part(std::move(own));
    return e;
}

std::vector<Interval> logOf(const Project& project, const std::string& name) {
    const auto* hole = findHole(*project.holes, name);
    if (!hole) throw Error(fmt::format("There is no hole {}.", name));
    return logOf(*hole, project.interpretation->splitsOf(name));
}

std::vector<Interval> logOf(const Hole& hole, const std::vector<Depth>& splits) {
    auto parts = partsOf(hole.intervals, splits);
    return parts.empty() ? hole.intervals : parts;
}

Edited splitInterval(const Project& project, const std::string& hole, Depth at, const std::optional<std::string>& above,
                     const std::optional<std::string>& below) {
    for (const auto* unit : {&above, &below})
        if (*unit && !(*unit)->empty() && !project.sequence->index(**unit))
            throw Error(fmt::format("There is no unit {} in the sequence.", **unit));
    const auto depth = toCentimetre(at);
    const auto log = logOf(project, hole);
    const auto* within = intervalWithin(log, depth);
    if (!within) throw Error(fmt::format("{} has no logged interval that goes through {:.2f} m.", hole, depth.metres));
    auto own = *project.interpretation;
    const auto chosen = takeChoice(own, hole, within->top, within->base);
    own.splits.push_back({hole, depth});
    choose(own, hole, within->top, depth, above ? above : chosen);
    choose(own, hole, depth, within->base, below ? below : chosen);
    const auto said = [](const std::optional<std::string>& unit) { return unit->empty() ? std::string("no unit") : *unit; };
    auto label = fmt::format("{}: split at {:.2f} m", hole, depth.metres);
    if (above) label += fmt::format(", {} above", said(above));
    if (below) label += fmt::format(", {} below", said(below));
    return withOwn(project, std::move(own), std::move(label));
}

Edited moveSplit(const Project& project, const std::string& hole, Depth from, Depth to) {
    const auto depth = toCentimetre(to);
    auto own = *project.interpretation;
    const auto split = splitOf(own, hole, from);
    const auto log = logOf(project, hole);
    const auto [above, below] = beside(log, split->depth);
    if (!above || !below || depth.metres <= above->top.metres + kTouch || depth.metres >= below->base.metres - kTouch)
        throw Error(fmt::format("The split of {} can be moved only between the boundaries above and below it.", hole));
    const auto upper = takeChoice(own, hole, above->top, above->base), lower = takeChoice(own, hole, below->top, below->base);
    split->depth = depth;
    choose(own, hole, above->top, depth, upper);
    choose(own, hole, depth, below->base, lower);
    return withOwn(project, std::move(own),
                   fmt::format("{}: split at {:.2f} m instead of {:.2f} m", hole, depth.metres, from.metres));
}

Edited removeSplit(const Project& project, const std::string& hole, Depth depth) {
    auto own = *project.interpretation;
    own.splits.erase(splitOf(own, hole, depth));
    const auto log = logOf(project, hole);
    if (const auto [above, below] = beside(log, depth); above && below) {
        const auto upper = takeChoice(own, hole, above->top, above->base);
        takeChoice(own, hole, below->top, below->base);
        choose(own, hole, above->top, below->base, upper);
    }
    return withOwn(project, std::move(own), fmt::format("{}: no split at {:.2f} m", hole, depth.metres));
}

Edited assignAbovePlane(const Project& project, const PlaneAssignment& how) {
    if (!project.sequence->index(how.unit)) throw Error(fmt::format("There is no unit {} in the sequence.", how.unit));
    const auto assigned = assignedAbove(*project.holes, *project.sequence, *project.interpretation, how);
    const auto count = assigned.whole.size() + assigned.parts.size();
    if (count == 0) throw Error(fmt::format("No interval that could be {} lies above the plane.", how.unit));
    auto label = fmt::format("Assign {} to {}", counted(count, "interval"), how.unit);
    if (!assigned.splits.empty()) label += fmt::format(", {} split", assigned.splits.size());
    return withOwn(project, with(*project.interpretation, assigned), std::move(label));
}

std::optional<Depth> splitAt(const Interpretation& own, const std::string& hole, Depth depth) {
    for (const auto& s : own.splits)
        if (s.hole == hole && same(s.depth, depth)) return s.depth;
    return {};
}

} // namespace fox
