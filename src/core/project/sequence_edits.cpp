#include "project/sequence_edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/crs.h"
#include "project/json.h"

#include <fmt/format.h>

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

Edited withOwn(const Project& project, Interpretation own, std::string label) {
    Edited e{project, std::move(label)};
    e.project.interpretation = part(std::move(own));
    return e;
}

void checkNewCode(const Project& project, const std::string& code) {
    if (code.empty()) throw Error("A unit needs a code.");
    if (project.sequence->index(code)) throw Error(fmt::format("There is a unit {} already.", code));
}

} // namespace

Edited setUnit(const Project& project, const std::string& code, Unit changed, const std::string& what) {
    auto sequence = *project.sequence;
    changed.code = code;
    sequence.units[placeOf(project, code)] = std::move(changed);
    return withSequence(project, std::move(sequence), fmt::format("{}: {}", code, what));
}

Edited setCrossing(const Project& project, const std::string& code, CrossingRemedy remedy) {
    auto unit = project.sequence->units[placeOf(project, code)];
    const std::string what = fmt::format("where its base crosses, {}", words(remedy.kind));
    unit.crossing = std::move(remedy);
    return setUnit(project, code, std::move(unit), what);
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
    if (unit.colour.empty()) unit.colour = proposedColour(unit.name, sequence.units.size());
    auto label = fmt::format("Add the unit {}", unit.code);
    sequence.units.insert(sequence.units.begin() + std::ptrdiff_t(std::min(at, sequence.units.size())), std::move(unit));
    return withSequence(project, std::move(sequence), std::move(label));
}

Edited removeUnit(const Project& project, const std::string& code) {
    auto sequence = *project.sequence;
    sequence.units.erase(sequence.units.begin() + std::ptrdiff_t(placeOf(project, code)));
    std::erase_if(sequence.aliases, [&](const auto& a) { return a.second == code; });
    auto own = *project.interpretation;
    const auto ofUnit = [&](const auto& entry) { return entry.unit == code; };
    std::erase_if(own.contacts, ofUnit);
    std::erase_if(own.intervals, ofUnit);
    std::erase_if(own.picks, ofUnit);
    std::erase_if(own.guides, ofUnit);
    for (auto& f : own.faults)
        if (f.youngest == code) f.youngest.clear();
    auto fixed = *project.fixedBases;
    fixed.erase(code);
    auto e = withSequence(project, std::move(sequence), fmt::format("Remove the unit {}", code));
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
    const auto follow = [&](std::string& name) {
        if (name == code) name = newCode;
    };
    for (auto& u : sequence.units) follow(u.recipe.against), follow(u.crossing.unit);
    auto own = *project.interpretation;
    for (auto& c : own.contacts) follow(c.unit);
    for (auto& c : own.intervals) follow(c.unit);
    for (auto& p : own.picks) follow(p.unit);
    for (auto& g : own.guides) follow(g.unit);
    for (auto& f : own.faults) follow(f.youngest);
    auto e = withSequence(project, std::move(sequence), fmt::format("Code {} instead of {}", newCode, code));
    e.project.interpretation = part(std::move(own));
    if (auto fixed = *project.fixedBases; fixed.contains(code)) {
        fixed[newCode] = fixed[code];
        fixed.erase(code);
        e.project.fixedBases = part(std::move(fixed));
    }
    return e;
}

Edited setIntervals(const Project& project, const std::vector<Stretch>& stretches, const std::optional<std::string>& code) {
    auto own = *project.interpretation;
    if (code && !code->empty()) placeOf(project, *code);
    for (const auto& s : stretches) {
        holeNamed(project, s.hole);
        std::erase_if(own.intervals,
                      [&](const IntervalChoice& c) { return c.hole == s.hole && c.top == s.top && c.base == s.base; });
        if (code) own.intervals.push_back({s.hole, s.top, s.base, *code});
    }
    const auto what = stretches.size() == 1 ? fmt::format("{}, {:.2f} m to {:.2f} m", stretches[0].hole, stretches[0].top.metres,
                                                          stretches[0].base.metres)
                                            : fmt::format("{} intervals", stretches.size());
    return withOwn(project, std::move(own),
                   fmt::format("{}: {}", what,
                               !code           ? "by its code"
                               : code->empty() ? "no unit"
                                               : *code));
}

Edited setIntervals(const Project& project, const std::vector<IntervalChoice>& choices, const std::string& label) {
    auto own = *project.interpretation;
    for (const auto& c : choices) {
        holeNamed(project, c.hole);
        if (!c.unit.empty()) placeOf(project, c.unit);
        std::erase_if(own.intervals,
                      [&](const IntervalChoice& old) { return old.hole == c.hole && old.top == c.top && old.base == c.base; });
        own.intervals.push_back(c);
    }
    return withOwn(project, std::move(own), label);
}

Edited setPick(const Project& project, const std::string& hole, const std::string& code, std::optional<Depth> depth) {
    placeOf(project, code);
    const auto& h = holeNamed(project, hole);
    auto own = *project.interpretation;
    std::erase_if(own.picks, [&](const Pick& p) { return p.hole == hole && p.unit == code; });
    if (depth) {
        double deepest = h.end().metres;
        for (const auto& c : h.curves)
            if (c.readings && !c.readings->empty()) deepest = std::max(deepest, c.readings->back().depth);
        double nearest = kPickSnap;
        auto at = *depth;
        for (const auto& i : h.intervals)
            for (const auto end : {i.top, i.base})
                if (const double off = std::abs(end.metres - depth->metres); off <= nearest) nearest = off, at = end;
        if (!(at.metres >= 0) || at.metres > deepest + kPickSnap)
            throw Error(fmt::format("{} ends at {:.2f} m; a base can't be picked at {:.2f} m.", hole, deepest, at.metres));
        own.picks.push_back({hole, code, Depth{std::round(at.metres * 100) / 100}});
    }
    return withOwn(project, std::move(own),
                   depth ? fmt::format("{}: base of {} picked at {:.2f} m", hole, code, own.picks.back().depth.metres)
                         : fmt::format("{}: base of {} as logged", hole, code));
}

namespace {

Edited withTrials(const Project& project, std::vector<TrialColumn> columns, std::string label) {
    Edited e{project, std::move(label)};
    e.project.trialColumns = part(std::move(columns));
    return e;
}

} // namespace

Edited addTrialColumn(const Project& project, Point2 place, const std::string& name) {
    if (!std::isfinite(place.x) || !std::isfinite(place.y)) throw Error("A trial column needs a place.");
    auto columns = *project.trialColumns;
    std::string chosen = name;
    for (std::size_t n = columns.size() + 1; chosen.empty(); ++n)
        if (const auto next = fmt::format("T{}", n); !std::ranges::count(columns, next, &TrialColumn::name)) chosen = next;
    columns.push_back({chosen, place});
    return withTrials(project, std::move(columns), fmt::format("Trial column {}", chosen));
}

Edited removeTrialColumn(const Project& project, std::size_t index) {
    auto columns = *project.trialColumns;
    if (index >= columns.size()) throw Error("There is no such trial column.");
    auto label = fmt::format("Remove trial column {}", columns[index].name);
    columns.erase(columns.begin() + std::ptrdiff_t(index));
    return withTrials(project, std::move(columns), std::move(label));
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
                    e = renameSection(e.project, now.size() - 1, name);
            }
        }
    }
    if (added == 0) throw Error(fmt::format("{} has no line that could be a section.", file));
    e.label = fmt::format("{} section line{} from {}", added, added == 1 ? "" : "s", file);
    return e;
}

Edited renameSection(const Project& project, std::size_t index, const std::string& name) {
    auto sections = *project.sections;
    if (index >= sections.size()) throw Error("There is no such section.");
    if (name.empty()) throw Error("A section needs a name.");
    for (std::size_t i = 0; i < sections.size(); ++i)
        if (i != index && sections[i].name == name) throw Error(fmt::format("There is a section {} already.", name));
    Edited e{project, fmt::format("Section {} is {}", sections[index].name, name)};
    sections[index].name = name;
    e.project.sections = part(std::move(sections));
    return e;
}

Edited setSectionReach(const Project& project, std::size_t index, double metres) {
    auto sections = *project.sections;
    if (index >= sections.size()) throw Error("There is no such section.");
    if (!(metres >= 0)) throw Error("A distance can't be negative.");
    sections[index].reach = metres;
    Edited e{project, fmt::format("Section {}: holes within {:g} m", sections[index].name, metres)};
    e.project.sections = part(std::move(sections));
    return e;
}

Edited setFrame(const Project& project, std::optional<Frame> frame) {
    if (frame) frame = frameOf(toJson(*frame)); // the same checks as a build file's
    auto site = *project.site;
    site.frame = frame;
    Edited e{project, frame ? "Extent of the site" : "Extent from what there is"};
    e.project.site = part(std::move(site));
    return e;
}

} // namespace fox
