#include "project/sequence_edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/crs.h"
#include "project/interval_edits.h"
#include "project/json.h"

#include <fmt/format.h>
#include <unordered_map>

namespace fox {

namespace {

std::size_t placeOf(const Project& project, const std::string& code) {
    const auto index = project.sequence->index(code);
    if (!index) throw Error(fmt::format("There is no unit {} in the sequence.", code));
    return *index;
}

const Hole& holeNamed(const Project& project, const std::string& name) {
    const auto* hole = findHole(*project.holes, name);
    if (!hole) throw Error(fmt::format("There is no hole {}.", name));
    return *hole;
}

Edited withSequence(const Project& project, Sequence sequence, std::string label) {
    Edited e{project, std::move(label)};
    e.project.sequence = part(std::move(sequence));
    return e;
}

/// Holes by display name, for many look-ups.
std::unordered_map<std::string, const Hole*> holesByName(const Project& project) {
    const auto names = displayNames(*project.holes);
    std::unordered_map<std::string, const Hole*> out;
    for (std::size_t i = 0; i < names.size(); ++i) out.emplace(names[i], &(*project.holes)[i]);
    return out;
}

SectionLine& sectionNamed(std::vector<SectionLine>& sections, const std::string& name) {
    const auto at = std::ranges::find(sections, name, &SectionLine::name);
    if (at == sections.end()) throw Error(fmt::format("There is no section {}.", name));
    return *at;
}

void checkNewCode(const Project& project, const std::string& code) {
    if (code.empty()) throw Error("A unit needs a code.");
    if (project.sequence->index(code)) throw Error(fmt::format("There is a unit {} already.", code));
}

} // namespace

Edited changeUnit(const Project& project, const std::string& code, const std::function<void(Unit&)>& change,
                  const std::string& what) {
    auto sequence = *project.sequence;
    auto& unit = sequence.units[placeOf(project, code)];
    change(unit);
    unit.code = code;
    return withSequence(project, std::move(sequence), fmt::format("{}: {}", code, what));
}

Edited setUnitValue(const Project& project, const std::string& code, const std::string& key, std::optional<double> value) {
    const auto kinds = project.sequence->valueKinds();
    const auto kind = std::ranges::find(kinds, key, &UnitValueKind::key);
    if (kind == kinds.end()) throw Error(fmt::format("There is no value {} of units any more.", key));
    if (value) checkedUnitValue(*kind, *value);
    return changeUnit(
        project, code, [&](Unit& u) { value ? void(u.values[key] = *value) : void(u.values.erase(key)); }, lower(kind->words));
}

Edited addUnitValueKind(const Project& project, const std::string& name, const std::string& unit) {
    if (name.empty()) throw Error("A value needs a name.");
    const auto kinds = project.sequence->valueKinds();
    for (const auto& k : kinds)
        if (equalNoCase(k.words, name) || equalNoCase(k.key, name))
            throw Error(fmt::format("There is a value {} already.", k.words));
    auto sequence = *project.sequence;
    sequence.ownValues.push_back({name, name, unit});
    return withSequence(project, std::move(sequence), fmt::format("Value {} of units", name));
}

Edited removeUnitValueKind(const Project& project, const std::string& key) {
    auto sequence = *project.sequence;
    if (std::erase_if(sequence.ownValues, [&](const UnitValueKind& k) { return k.key == key; }) == 0)
        throw Error(fmt::format("{} is not a value that was added to this project.", key));
    for (auto& u : sequence.units) u.values.erase(key);
    return withSequence(project, std::move(sequence), fmt::format("Remove the value {} of units", key));
}

Edited setCrossing(const Project& project, const std::string& code, CrossingRemedy remedy) {
    const std::string what = fmt::format("where its base crosses, {}", words(remedy.kind));
    return changeUnit(
        project, code, [&](Unit& unit) { unit.crossing = std::move(remedy); }, what);
}

Edited moveUnit(const Project& project, const std::string& code, std::size_t to) {
    auto sequence = *project.sequence;
    auto& units = sequence.units;
    const auto from = placeOf(project, code);
    to = std::min(to, units.size() - 1);
    auto unit = std::move(units[from]);
    units.erase(units.begin() + std::ptrdiff_t(from));
    units.insert(units.begin() + std::ptrdiff_t(to), std::move(unit));
    const auto where =
        to == 0 ? fmt::format("over {}", units[1 % units.size()].code) : fmt::format("under {}", units[to - 1].code);
    return withSequence(project, std::move(sequence), fmt::format("Move {} {}", code, where));
}

Edited addUnit(const Project& project, Unit unit, std::size_t at) {
    checkNewCode(project, unit.code);
    auto sequence = *project.sequence;
    if (unit.name.empty()) unit.name = unit.code;
    if (unit.colour.empty()) unit.colour = proposedColour(unit.name, sequence.units);
    auto label = fmt::format("Add the unit {}", unit.code);
    sequence.units.insert(sequence.units.begin() + std::ptrdiff_t(std::min(at, sequence.units.size())), std::move(unit));
    return withSequence(project, std::move(sequence), std::move(label));
}

namespace {

std::string counted(std::size_t n, const char* one, const char* many) {
    return n == 0 ? std::string() : fmt::format("{} {}", n, n == 1 ? one : many);
}

/// What says something of the unit alone, taken out; in words: "2 guides", "1 pick".
std::vector<std::string> takeOut(Interpretation& own, const std::string& code) {
    const auto ofUnit = [&](const auto& entry) { return entry.unit == code; };
    std::vector<std::string> said{counted(std::erase_if(own.guides, ofUnit), "guide", "guides"),
                                  counted(std::erase_if(own.picks, ofUnit), "pick", "picks"),
                                  counted(std::erase_if(own.presence, ofUnit), "mark of presence", "marks of presence"),
                                  counted(std::erase_if(own.intervals, ofUnit), "interval", "intervals"),
                                  counted(std::erase_if(own.contacts, ofUnit), "contact", "contacts")};
    std::erase(said, "");
    return said;
}

/// Everything that names a unit names another one instead.
void follow(Project& project, const std::string& from, const std::string& to) {
    const auto rename = [&](std::string& name) {
        if (name == from) name = to;
    };
    auto sequence = *project.sequence;
    for (auto& u : sequence.units) rename(u.recipe.against), rename(u.crossing.unit);
    project.sequence = part(std::move(sequence));
    auto own = *project.interpretation;
    for (auto& c : own.contacts) rename(c.unit);
    for (auto& c : own.intervals) rename(c.unit);
    for (auto& p : own.picks) rename(p.unit);
    for (auto& m : own.presence) rename(m.unit);
    for (auto& g : own.guides) rename(g.unit);
    for (auto& f : own.faults) {
        rename(f.youngest);
        std::ranges::for_each(f.units, rename);
    }
    project.interpretation = part(std::move(own));
    const auto ofUnit = [&](const ContactSource& s) {
        return std::ranges::any_of(s.points, [&](const ContactPoint& p) { return p.unit == from; });
    };
    if (std::ranges::any_of(*project.contactPoints, ofUnit)) {
        auto sources = *project.contactPoints;
        for (auto& source : sources) {
            auto points = *source.points;
            for (auto& p : points) rename(p.unit);
            source.points = std::move(points);
        }
        project.contactPoints = part(std::move(sources));
    }
    if (auto fixed = *project.fixedBases; fixed.contains(from)) {
        fixed[to] = fixed[from];
        fixed.erase(from);
        project.fixedBases = part(std::move(fixed));
    }
}

} // namespace

Edited removeUnit(const Project& project, const std::string& code) {
    const auto at = placeOf(project, code);
    auto sequence = *project.sequence;
    sequence.units.erase(sequence.units.begin() + std::ptrdiff_t(at));
    std::erase_if(sequence.aliases, [&](const auto& a) { return a.second == code; });
    auto own = *project.interpretation;
    auto gone = takeOut(own, code);
    auto fixed = *project.fixedBases;
    if (fixed.erase(code)) gone.push_back("its kept base");
    std::vector<std::string> changed;
    for (auto& u : sequence.units) {
        if (u.recipe.against == code)
            u.recipe.against.clear(), changed.push_back(u.code + " is no longer measured from its base");
        if (u.crossing.unit == code) u.crossing = {}, changed.push_back(u.code + " no longer keeps off its base");
    }
    const auto older = at < sequence.units.size() ? sequence.units[at].code : std::string();
    std::erase_if(own.faults, [&](UnitFault& f) {
        if (std::erase(f.units, code) > 0 && f.units.empty()) {
            gone.push_back("fault " + f.fault.name);
            return true;
        }
        if (f.youngest != code) return false;
        if (older.empty()) {
            gone.push_back("fault " + f.fault.name);
            return true;
        }
        f.youngest = older;
        changed.push_back(fmt::format("fault {} begins at the base of {}", f.fault.name, older));
        return false;
    });
    auto e = withSequence(project, std::move(sequence),
                          fmt::format("Remove the unit {}{}{}{}{}", code, gone.empty() ? "" : " with ", fmt::join(gone, ", "),
                                      changed.empty() ? "" : "; ", fmt::join(changed, ", ")));
    e.project.interpretation = part(std::move(own));
    e.project.fixedBases = part(std::move(fixed));
    return e;
}

Edited renameUnit(const Project& project, const std::string& code, const std::string& newCode) {
    checkNewCode(project, newCode);
    auto sequence = *project.sequence;
    auto& unit = sequence.units[placeOf(project, code)];
    unit.code = newCode;
    if (unit.logged.empty()) unit.logged = {code};
    auto e = withSequence(project, std::move(sequence), fmt::format("Code {} instead of {}", newCode, code));
    follow(e.project, code, newCode);
    return e;
}

Edited splitCodes(const Project& project, const Part<Sequence>& of, const SequenceProposal& proposal) {
    if (project.sequence != of) throw Error("The sequence has changed since this was proposed: look at the new proposal first.");
    std::vector<std::string> codes;
    for (const auto& s : proposal.splits) codes.push_back(s.code);
    Edited e{project, fmt::format("Split {}", fmt::join(codes, ", "))};
    e.project.sequence = part(Sequence(proposal.sequence));
    for (const auto& s : proposal.splits)
        if (!e.project.sequence->index(s.code)) follow(e.project, s.code, s.units.back());
    return e;
}

namespace {

using IntervalKey = std::tuple<std::string, double, double>; // hole, top, base in metres

/// Interpretation without what it says of these intervals. @throws Error for a hole that is not there
Interpretation without(const Project& project, const std::map<IntervalKey, std::string>& intervals) {
    const auto holes = holesByName(project);
    for (const auto& [key, unit] : intervals)
        if (!holes.contains(std::get<0>(key))) throw Error(fmt::format("There is no hole {}.", std::get<0>(key)));
    auto own = *project.interpretation;
    std::erase_if(own.intervals, [&](const IntervalChoice& c) {
        return intervals.contains({c.hole, c.top.metres, c.base.metres});
    });
    return own;
}

} // namespace

Edited setIntervals(const Project& project, const std::vector<DepthRange>& stretches, const std::optional<std::string>& code) {
    const auto what = stretches.size() == 1 ? fmt::format("{}, {:.2f} m to {:.2f} m", stretches[0].hole, stretches[0].top.metres,
                                                          stretches[0].base.metres)
                                            : counted(stretches.size(), "interval");
    if (code) {
        std::vector<IntervalChoice> choices;
        for (const auto& s : stretches) choices.push_back({s.hole, s.top, s.base, *code});
        return setIntervals(project, choices, fmt::format("{}: {}", what, code->empty() ? "no unit" : *code));
    }
    std::map<IntervalKey, std::string> back;
    for (const auto& s : stretches) back[{s.hole, s.top.metres, s.base.metres}];
    return withOwn(project, without(project, back), fmt::format("{}: by its code", what));
}

Edited setIntervals(const Project& project, const std::vector<IntervalChoice>& choices, const std::string& label) {
    std::map<IntervalKey, std::string> chosen; // the last of an interval counts
    for (const auto& c : choices) {
        if (!c.unit.empty()) placeOf(project, c.unit);
        chosen.insert_or_assign({c.hole, c.top.metres, c.base.metres}, c.unit);
    }
    auto own = without(project, chosen);
    for (const auto& c : choices) {
        const auto at = chosen.find({c.hole, c.top.metres, c.base.metres});
        if (at == chosen.end()) continue;
        own.intervals.push_back({c.hole, c.top, c.base, at->second});
        chosen.erase(at);
    }
    return withOwn(project, std::move(own), label);
}

namespace {

/// Where a pick near this depth lies: at the end of a logged interval if one is near. @throws Error beyond the hole
Depth snapped(const Hole& h, const std::vector<Interval>& log, const std::string& name, Depth depth) {
    double deepest = h.end().metres;
    for (const auto& c : h.curves)
        if (c.readings && !c.readings->empty()) deepest = std::max(deepest, c.readings->back().depth);
    double nearest = kPickSnap;
    auto at = depth;
    for (const auto& i : log)
        for (const auto end : {i.top, i.base})
            if (const double off = std::abs(end.metres - depth.metres); off <= nearest) nearest = off, at = end;
    if (!(at.metres >= 0) || at.metres > deepest + kPickSnap)
        throw Error(fmt::format("{} ends at {:.2f} m; a base can't be picked at {:.2f} m.", name, deepest, at.metres));
    return Depth{std::round(at.metres * 100) / 100};
}

} // namespace

Edited setPick(const Project& project, const std::string& hole, const std::string& code, std::optional<Depth> depth) {
    placeOf(project, code);
    const auto& h = holeNamed(project, hole);
    auto own = *project.interpretation;
    std::erase_if(own.picks, [&](const Pick& p) { return p.hole == hole && p.unit == code; });
    if (!depth) return withOwn(project, std::move(own), fmt::format("{}: base of {} as logged", hole, code));
    const auto at = snapped(h, logOf(project, hole), hole, *depth);
    own.picks.push_back({hole, code, at});
    return withOwn(project, std::move(own), fmt::format("{}: base of {} picked at {:.2f} m", hole, code, at.metres));
}

Edited setPicks(const Project& project, const std::vector<Pick>& picks, const std::string& label,
                const std::function<void(const Pick&, const std::string&)>& refused) {
    const auto holes = holesByName(project);
    std::unordered_map<std::string, std::vector<Depth>> splits;
    for (const auto& s : project.interpretation->splits) splits[s.hole].push_back(s.depth);
    std::map<std::pair<std::string, std::string>, Depth> made; // the last of a hole and unit counts
    for (const auto& p : picks) {
        try {
            placeOf(project, p.unit);
            const auto hole = holes.find(p.hole);
            if (hole == holes.end()) throw Error(fmt::format("There is no hole {}.", p.hole));
            made.insert_or_assign({p.hole, p.unit},
                                  snapped(*hole->second, logOf(*hole->second, splits[p.hole]), p.hole, p.depth));
        } catch (const Error& e) {
            refused(p, e.what());
        }
    }
    auto own = *project.interpretation;
    std::erase_if(own.picks, [&](const Pick& p) { return made.contains({p.hole, p.unit}); });
    for (const auto& [key, depth] : made) own.picks.push_back({key.first, key.second, depth});
    return withOwn(project, std::move(own), label);
}

namespace {

Edited withTrials(const Project& project, std::vector<TrialColumn> columns, std::string label) {
    Edited e{project, std::move(label)};
    e.project.trialColumns = part(std::move(columns));
    return e;
}

} // namespace

std::string freeTrialName(const Project& project) {
    for (std::size_t n = project.trialColumns->size() + 1;; ++n)
        if (auto name = fmt::format("T{}", n); !std::ranges::count(*project.trialColumns, name, &TrialColumn::name)) return name;
}

Edited addTrialColumn(const Project& project, Point2 place, const std::string& name) {
    if (!std::isfinite(place.x) || !std::isfinite(place.y)) throw Error("A predicted log needs a place.");
    auto columns = *project.trialColumns;
    const bool taken = name.empty() || std::ranges::count(columns, name, &TrialColumn::name);
    columns.push_back({taken ? freeTrialName(project) : name, place});
    auto label = fmt::format("Predicted log {}", columns.back().name);
    return withTrials(project, std::move(columns), std::move(label));
}

Edited removeTrialColumn(const Project& project, const std::string& name) {
    auto columns = *project.trialColumns;
    if (std::erase_if(columns, [&](const TrialColumn& c) { return c.name == name; }) == 0)
        throw Error(fmt::format("There is no predicted log {}.", name));
    return withTrials(project, std::move(columns), fmt::format("Remove predicted log {}", name));
}

namespace {

/// What a feature is called, by its attributes.
std::string nameOf(const Feature& f) {
    for (const auto& [key, value] : f.attributes)
        if (equalNoCase(key, "name") || equalNoCase(key, "section"))
            if (const auto* text = std::get_if<std::string>(&value); text && !text->empty()) return *text;
    return {};
}

} // namespace

Edited addSections(const Project& project, const std::vector<FeatureLayer>& layers, const std::string& file) {
    Edited e{project, ""};
    int added = 0;
    for (const auto& layer : layers) {
        std::optional<CoordinateChange> change;
        if (!layer.crs.empty() && !project.site->crs.empty() && layer.crs != project.site->crs)
            change.emplace(layer.crs, project.site->crs);
        for (const auto& f : layer.features) {
            if (f.kind != GeometryKind::Line) continue;
            for (const auto& part : f.parts) {
                Polyline2 line;
                for (const auto& p : part) {
                    const auto at = change ? change->forward(p.plan()) : p.plan();
                    if (at && (line.empty() || !(line.back() == *at))) line.push_back(*at);
                }
                if (line.size() < 2) continue;
                e = addSection(e.project, line);
                ++added;
                const auto name = nameOf(f);
                const auto& now = *e.project.sections;
                if (!name.empty() && !std::ranges::count(now, name, &SectionLine::name))
                    e = renameSection(e.project, now.back().name, name);
            }
        }
    }
    if (added == 0) throw Error(fmt::format("{} has no line that could be a section.", file));
    e.label = fmt::format("{} from {}", counted(std::size_t(added), "section line"), file);
    return e;
}

Edited renameSection(const Project& project, const std::string& from, const std::string& to) {
    auto sections = *project.sections;
    auto& section = sectionNamed(sections, from);
    if (to.empty()) throw Error("A section needs a name.");
    if (from != to && std::ranges::count(sections, to, &SectionLine::name))
        throw Error(fmt::format("There is a section {} already.", to));
    section.name = to;
    Edited e{project, fmt::format("Section {} is {}", from, to)};
    e.project.sections = part(std::move(sections));
    return e;
}

Edited setSectionReach(const Project& project, const std::string& name, double metres) {
    auto sections = *project.sections;
    if (!(metres >= 0)) throw Error("A distance can't be negative.");
    sectionNamed(sections, name).reach = metres;
    Edited e{project, fmt::format("Section {}: holes within {:g} m", name, metres)};
    e.project.sections = part(std::move(sections));
    return e;
}

} // namespace fox
