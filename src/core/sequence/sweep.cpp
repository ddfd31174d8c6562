#include "sequence/sweep.h"

#include "base/text.h"
#include "sequence/description.h"

#include <fmt/format.h>
#include <set>

namespace fox {

namespace {

bool has(const std::vector<std::string>& list, const std::string& word) { return std::ranges::count(list, word) > 0; }

/// What logs call a unit, with the spellings that are read as that.
std::vector<std::string> codesOf(const Sequence& sequence, std::size_t unit) {
    const auto& u = sequence.units[unit];
    auto codes = u.logged.empty() ? std::vector{u.code} : u.logged;
    for (const auto& [from, to] : sequence.aliases)
        if (has(codes, to)) codes.push_back(from);
    return codes;
}

} // namespace

SweepResult sweep(const Holes& holes, const Sequence& sequence, const Interpretation& own, const Sweep& how) {
    SweepResult out;
    const auto unit = sequence.index(how.unit);
    if (!unit) return out;
    const auto codes = how.codes.empty() ? codesOf(sequence, *unit) : how.codes;
    const auto plane = planeOf(how.tilt.strike, how.tilt.dip, {how.through.x, how.through.y, how.level});
    const auto names = displayNames(holes);
    for (std::size_t h = 0; h < holes.size(); ++h) {
        const auto path = HolePath::of(holes[h]);
        if (!path || has(how.holesOut, names[h])) continue;
        bool any = false;
        for (const auto& i : holes[h].intervals) {
            const auto code = i.codes.find(sequence.unitHeading);
            const bool named = code != i.codes.end() && has(codes, code->second);
            const bool made = !named && std::ranges::any_of(codes, [material = principalMaterial(i.description)](const auto& c) {
                return !material.empty() && equalNoCase(c, material);
            });
            if (!i.usable() || (!named && !made)) continue;
            const bool chosen = std::ranges::any_of(own.intervals, [&](const IntervalChoice& c) {
                return c.hole == names[h] && c.top == i.top && c.base == i.base && c.unit != how.unit;
            });
            if (chosen && how.keepChoices) continue;
            const auto top = path->at(i.top), base = path->at(i.base);
            const double over = top.z - plane.at(top.plan()), under = base.z - plane.at(base.plan());
            if (under >= -how.tolerance) {
                out.taken.push_back({names[h], i.top, i.base, how.unit});
                any = true;
            } else if (over > how.tolerance) {
                out.cut.push_back({names[h], i.top, i.base, how.unit});
            }
        }
        out.holes += any;
    }
    // holes that would be out of order with this, and are not now
    auto with = own;
    for (const auto& t : out.taken) {
        std::erase_if(with.intervals,
                      [&](const IntervalChoice& c) { return c.hole == t.hole && c.top == t.top && c.base == t.base; });
        with.intervals.push_back(t);
    }
    const auto outOfOrder = [&](const Interpretation& by) {
        std::set<std::string> found;
        const auto reading = readHoles(holes, sequence, by);
        for (const auto& r : reading.holes)
            if (std::ranges::any_of(r.intervals, &InterpretedInterval::returned)) found.insert(r.name);
        return found;
    };
    const auto before = outOfOrder(own);
    for (const auto& name : outOfOrder(with))
        if (!before.contains(name)) out.conflicts.push_back(fmt::format("{}: {} would be out of order.", name, how.unit));
    return out;
}

std::optional<Plane> planeOfContacts(const std::vector<Contact>& contacts, const std::vector<std::string>& holes) {
    std::vector<Point3> places;
    for (const auto& c : contacts)
        if (c.kind == ContactKind::Observed && (holes.empty() || has(holes, c.hole))) places.push_back(c.place);
    return planeThrough(places);
}

} // namespace fox
