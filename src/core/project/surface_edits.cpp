#include "project/surface_edits.h"

#include "base/errors.h"
#include "project/hole_edits.h"
#include "project/interval_edits.h"

#include <fmt/format.h>

namespace fox {

namespace {

void checkUnit(const Project& project, const std::string& code) {
    if (!project.sequence->index(code)) throw Error(fmt::format("There is no unit {} in the sequence.", code));
}

std::vector<UnitFault>::iterator faultNamed(Interpretation& own, const std::string& name) {
    const auto at = std::ranges::find_if(own.faults, [&](const UnitFault& f) { return f.fault.name == name; });
    if (at == own.faults.end()) throw Error(fmt::format("There is no fault {}.", name));
    return at;
}

} // namespace

Edited changeRecipe(const Project& project, const std::string& code, const std::function<void(SurfaceRecipe&)>& change,
                    const std::string& what) {
    checkUnit(project, code);
    auto sequence = *project.sequence;
    change(sequence.units[*sequence.index(code)].recipe);
    Edited e{project, fmt::format("Base of {}: {}", code, what)};
    e.project.sequence = part(std::move(sequence));
    return e;
}

Edited setContactChoice(const Project& project, const std::string& hole, const std::string& code,
                        std::optional<ContactChoice::Kind> kind) {
    checkUnit(project, code);
    if (!findHole(*project.holes, hole)) throw Error(fmt::format("There is no hole {}.", hole));
    auto own = *project.interpretation;
    std::erase_if(own.contacts, [&](const ContactChoice& c) { return c.hole == hole && c.unit == code; });
    if (kind) own.contacts.push_back({hole, code, *kind});
    return withOwn(project, std::move(own), fmt::format("{}, base of {}: {}", hole, code, kind ? words(*kind) : "as logged"));
}

Edited addGuide(const Project& project, const std::string& code, Polyline3 line) {
    checkUnit(project, code);
    if (line.empty()) throw Error("A guide needs a place.");
    for (const auto& p : line)
        if (!std::isfinite(p.x) || !std::isfinite(p.y) || !std::isfinite(p.z))
            throw Error("A guide needs a level at every place.");
    auto own = *project.interpretation;
    const bool point = line.size() == 1;
    own.guides.push_back({code, std::move(line)});
    return withOwn(project, std::move(own), fmt::format("Guide {} of the base of {}", point ? "point" : "line", code));
}

Edited removeGuide(const Project& project, const Guide& guide) {
    auto own = *project.interpretation;
    const auto at = std::ranges::find(own.guides, guide);
    if (at == own.guides.end()) throw Error(fmt::format("That guide of the base of {} is no longer there.", guide.unit));
    own.guides.erase(at);
    return withOwn(project, std::move(own), fmt::format("Remove a guide of the base of {}", guide.unit));
}

namespace {

/// Thicknesses of a unit where a hole passes through it.
struct PassedThrough {
    double sum = 0;
    int holes = 0;
};

} // namespace

Edited addGuidesLikeNeighbours(const Project& project, const std::string& code) {
    checkUnit(project, code);
    const auto unit = *project.sequence->index(code);
    const auto read = readHoles(*project.holes, *project.sequence, *project.interpretation);
    std::vector<PassedThrough> passed(project.sequence->units.size());
    auto own = *project.interpretation;
    std::vector<std::pair<const InterpretedHole*, InterpretedInterval>> stopIn;
    for (const auto& hole : read.holes)
        for (std::size_t i = 0; i < hole.intervals.size(); ++i) {
            const auto& at = hole.intervals[i];
            if (i + 1 < hole.intervals.size())
                passed[at.unit].sum += at.base.metres - at.top.metres, ++passed[at.unit].holes;
            else if (at.unit == unit && !hole.hole->excluded)
                stopIn.emplace_back(&hole, at);
        }
    PassedThrough neighbours;
    const auto addNearest = [&](std::size_t from, std::ptrdiff_t step) {
        for (auto u = std::ptrdiff_t(from) + step; u >= 0 && u < std::ptrdiff_t(passed.size()); u += step)
            if (const auto& p = passed[std::size_t(u)]; p.holes > 0) {
                neighbours.sum += p.sum / p.holes, ++neighbours.holes;
                return;
            }
    };
    addNearest(unit, -1);
    addNearest(unit, 1);
    if (neighbours.holes == 0) throw Error(fmt::format("No hole passes through a unit beside {}: none has a thickness.", code));
    const double thickness = neighbours.sum / neighbours.holes;
    std::size_t added = 0;
    for (const auto& [hole, at] : stopIn)
        if (const auto path = HolePath::of(*hole->hole)) {
            own.guides.push_back({code, {path->at(Depth{std::max(at.top.metres + thickness, at.base.metres)})}});
            ++added;
        }
    if (added == 0) throw Error(fmt::format("No hole with a position stops in {}.", code));
    return withOwn(project, std::move(own), fmt::format("{} as thick as its neighbours, {:.1f} m", code, thickness));
}

Edited addPresenceMark(const Project& project, PresenceMark mark) {
    checkUnit(project, mark.unit);
    if (mark.area.empty() || mark.area.size() == 2) throw Error("An area needs three corners; a place is one.");
    auto own = *project.interpretation;
    auto label = fmt::format("{} is {} {}", mark.unit, mark.present ? "present" : "absent",
                             mark.area.size() == 1 ? "at a place" : "in an area");
    own.presence.push_back(std::move(mark));
    return withOwn(project, std::move(own), std::move(label));
}

Edited removePresenceMark(const Project& project, const PresenceMark& mark) {
    auto own = *project.interpretation;
    const auto at = std::ranges::find(own.presence, mark);
    if (at == own.presence.end()) throw Error(fmt::format("That mark of {} is no longer there.", mark.unit));
    own.presence.erase(at);
    return withOwn(project, std::move(own), fmt::format("Remove a mark of the presence of {}", mark.unit));
}

Edited addFault(const Project& project, Polyline2 line, const std::string& youngest) {
    double length = 0;
    for (std::size_t i = 1; i < line.size(); ++i) length += distance(line[i - 1], line[i]);
    if (!(length > 0)) throw Error("A fault needs two different places.");
    auto own = *project.interpretation;
    std::string label;
    for (int i = 1; label.empty(); ++i) {
        const auto wanted = fmt::format("F{}", i);
        if (std::ranges::none_of(own.faults, [&](const UnitFault& f) { return f.fault.name == wanted; })) label = wanted;
    }
    own.faults.push_back({{label, std::move(line)}, youngest});
    return withOwn(project, std::move(own), fmt::format("Draw fault {}", label));
}

Edited setFaultYoungest(const Project& project, const std::string& name, const std::string& youngest) {
    auto own = *project.interpretation;
    const auto fault = faultNamed(own, name);
    fault->youngest = youngest;
    fault->units.clear();
    if (!youngest.empty()) checkUnit(project, youngest);
    return withOwn(project, std::move(own),
                   fmt::format("Fault {} steps {}", name,
                               youngest.empty() ? "all bases" : fmt::format("the base of {} and older", youngest)));
}

Edited setFaultUnits(const Project& project, const std::string& name, const std::vector<std::string>& codes) {
    if (codes.empty()) throw Error(fmt::format("A fault steps one base at least; remove {} instead.", name));
    for (const auto& code : codes) checkUnit(project, code);
    auto own = *project.interpretation;
    const auto fault = faultNamed(own, name);
    fault->youngest.clear();
    fault->units = codes;
    return withOwn(project, std::move(own), fmt::format("Fault {} steps the bases of {}", name, fmt::join(codes, ", ")));
}

Edited removeFault(const Project& project, const std::string& name) {
    auto own = *project.interpretation;
    own.faults.erase(faultNamed(own, name));
    return withOwn(project, std::move(own), fmt::format("Remove fault {}", name));
}

Edited fixBase(const Project& project, const std::string& code, FixedBase base) {
    checkUnit(project, code);
    if (!base.levels || std::ranges::all_of(base.levels->values, [](double v) { return std::isnan(v); }))
        throw Error("There is no level to keep.");
    auto label = base.origin == FixedBase::Origin::Frozen ? fmt::format("Freeze the base of {}", code)
                                                          : fmt::format("Base of {} from {}", code, base.from);
    auto fixed = *project.fixedBases;
    fixed[code] = std::move(base);
    Edited e{project, std::move(label)};
    e.project.fixedBases = part(std::move(fixed));
    return e;
}

Edited releaseBase(const Project& project, const std::string& code) {
    auto fixed = *project.fixedBases;
    if (fixed.erase(code) == 0) throw Error(fmt::format("The base of {} is made from the holes already.", code));
    Edited e{project, fmt::format("Base of {} from the holes again", code)};
    e.project.fixedBases = part(std::move(fixed));
    return e;
}

} // namespace fox
