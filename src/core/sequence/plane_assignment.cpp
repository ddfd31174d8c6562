#include "sequence/plane_assignment.h"

#include "base/text.h"
#include "sequence/description.h"
#include "sequence/interval_parts.h"

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

std::string codeOf(const Interval& i, const Sequence& sequence) {
    const auto code = i.codes.find(sequence.unitHeading);
    return code == i.codes.end() ? std::string() : code->second;
}

double over(const Plane& plane, const HolePath& path, double depth) {
    const auto p = path.at(Depth{depth});
    return p.z - plane.at(p.plan());
}

/// The depth, to the millimetre, at which a path goes through a plane between two depths on its two sides.
double crossing(const Plane& plane, const HolePath& path, double above, double below) {
    constexpr double kFine = 0.001; // metres
    while (below - above > kFine) {
        const double middle = (above + below) / 2;
        (over(plane, path, middle) > 0 ? above : below) = middle;
    }
    return std::round((above + below) / 2 * 100) / 100; // logs are to the centimetre
}

/// Takes intervals of one hole, whole or in parts.
class HoleTaker {
public:
    HoleTaker(const PlaneAssignment& how, const HolePath& path, const std::string& hole, AssignedByPlane& out)
        : m_how(how), m_path(path), m_hole(hole), m_out(out) {}

    bool take(const Interval& i) {
        double from = i.top.metres, to = i.base.metres;
        const IntervalChoice whole{m_hole, i.top, i.base, m_how.unit};
        if (over(m_how.plane, m_path, to) < -m_how.mayReachBelow) {
            if (over(m_how.plane, m_path, from) <= m_how.mayReachBelow) return false;
            if (!m_how.splits) return m_out.cut.push_back(whole), false;
            to = crossing(m_how.plane, m_path, from, to);
        }
        if (m_how.upper && over(*m_how.upper, m_path, from) > m_how.mayReachBelow) {
            if (over(*m_how.upper, m_path, to) >= -m_how.mayReachBelow) return false;
            if (!m_how.splits) return m_out.cut.push_back(whole), false;
            from = crossing(*m_how.upper, m_path, from, to);
        }
        const bool isUpper = to<i.base.metres, isLower = from> i.top.metres;
        if (isUpper) m_out.splits.push_back({m_hole, Depth{to}});
        if (isLower) m_out.splits.push_back({m_hole, Depth{from}});
        if (to - from < kTouch) return false;
        (isUpper || isLower ? m_out.parts : m_out.whole).push_back({m_hole, Depth{from}, Depth{to}, m_how.unit});
        return true;
    }

private:
    const PlaneAssignment& m_how;
    const HolePath& m_path;
    const std::string& m_hole;
    AssignedByPlane& m_out;
};

std::set<std::string> outOfOrder(const Holes& holes, const Sequence& sequence, const Interpretation& own) {
    std::set<std::string> found;
    const auto reading = readHoles(holes, sequence, own);
    for (const auto& r : reading.holes)
        if (std::ranges::any_of(r.intervals, &InterpretedInterval::returned)) found.insert(r.name);
    return found;
}

} // namespace

AssignedByPlane assignedAbove(const Holes& holes, const Sequence& sequence, const Interpretation& own,
                              const PlaneAssignment& how) {
    AssignedByPlane out;
    const auto unit = sequence.index(how.unit);
    if (!unit) return out;
    const auto codes = how.codes.empty() ? codesOf(sequence, *unit) : how.codes;
    const auto names = displayNames(holes);
    for (std::size_t h = 0; h < holes.size(); ++h) {
        const auto path = HolePath::of(holes[h]);
        if (!path || (!how.holes.empty() && !has(how.holes, names[h]))) continue;
        bool any = false;
        HoleTaker taker(how, *path, names[h], out);
        const auto parts = partsOf(holes[h].intervals, own.splitsOf(names[h]));
        for (const auto& i : parts.empty() ? holes[h].intervals : parts) {
            const auto code = codeOf(i, sequence);
            const bool isNamed = !code.empty() && has(codes, code);
            const auto isMade = [&] {
                const auto material = principalMaterial(i.description);
                return !material.empty() && std::ranges::any_of(codes, [&](const auto& c) { return equalNoCase(c, material); });
            };
            if (!i.usable() || (!isNamed && !isMade())) continue;
            const bool isChosen = std::ranges::any_of(own.intervals, [&](const IntervalChoice& c) {
                return c.hole == names[h] && c.top == i.top && c.base == i.base && c.unit != how.unit;
            });
            if (!isChosen || !how.keepsChoices) any |= taker.take(i);
        }
        out.holes += any;
    }
    const auto before = outOfOrder(holes, sequence, own);
    for (const auto& name : outOfOrder(holes, sequence, with(own, out)))
        if (!before.contains(name)) out.conflicts.push_back({name, fmt::format("{}: {} would be out of order.", name, how.unit)});
    return out;
}

Interpretation with(Interpretation own, const AssignedByPlane& assigned) {
    own.splits.insert(own.splits.end(), assigned.splits.begin(), assigned.splits.end());
    const auto add = [&](const IntervalChoice& choice, bool isPart) {
        // what was chosen for the whole holds for the part that is not taken
        std::vector<IntervalChoice> rest;
        std::erase_if(own.intervals, [&](const IntervalChoice& c) {
            if (c.hole != choice.hole || c.top > choice.top || c.base < choice.base) return false;
            if (isPart && c.top < choice.top) rest.push_back({c.hole, c.top, choice.top, c.unit});
            if (isPart && choice.base < c.base) rest.push_back({c.hole, choice.base, c.base, c.unit});
            return true;
        });
        own.intervals.insert(own.intervals.end(), rest.begin(), rest.end());
        own.intervals.push_back(choice);
    };
    for (const auto& c : assigned.whole) add(c, false);
    for (const auto& c : assigned.parts) add(c, true);
    return own;
}

std::vector<NextBelow> nextBelow(const InterpretedLogs& logs, const Sequence& sequence, const PlaneAssignment& how) {
    struct Count {
        int holes = 0;
        std::map<std::size_t, int> units;
    };
    std::map<std::string, Count> counts;
    for (const auto& read : logs.holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path || (!how.holes.empty() && !has(how.holes, read.name))) continue;
        for (const auto& i : read.logged()) {
            if (!i.usable() || over(how.plane, *path, (i.top.metres + i.base.metres) / 2) > 0) continue;
            const auto as = std::ranges::find_if(
                read.intervals, [&](const InterpretedInterval& r) { return r.top <= i.top && i.base <= r.base; });
            const bool isKnown = as != read.intervals.end();
            if (isKnown && sequence.units[as->unit].code == how.unit && as->byHand) continue;
            auto& count = counts[codeOf(i, sequence)];
            ++count.holes;
            if (isKnown) ++count.units[as->unit];
            break;
        }
    }
    std::vector<NextBelow> out;
    for (const auto& [code, count] : counts) {
        out.push_back({code, {}, count.holes});
        const auto most = std::ranges::max_element(count.units, {}, [](const auto& u) { return u.second; });
        if (most != count.units.end()) out.back().unit = most->first;
    }
    std::ranges::stable_sort(out, std::ranges::greater(), &NextBelow::holes);
    return out;
}

std::optional<Plane> planeOfContacts(const std::vector<Contact>& contacts, const std::vector<std::string>& holes) {
    std::vector<Point3> places;
    for (const auto& c : contacts)
        if (c.kind == ContactKind::Observed && (holes.empty() || has(holes, c.hole))) places.push_back(c.place);
    return planeThrough(places);
}

Plane turned(const Plane& plane, Point2 place, double level, Point2 pivot) {
    const double x = place.x - pivot.x, y = place.y - pivot.y, squared = x * x + y * y;
    const double at = plane.at(pivot);
    if (!(squared > 0)) return {{pivot.x, pivot.y, level}, plane.east, plane.north};
    const double more = (level - plane.at(place)) / squared;
    return {{pivot.x, pivot.y, at}, plane.east + more * x, plane.north + more * y};
}

} // namespace fox
