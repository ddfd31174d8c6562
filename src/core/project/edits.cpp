#include "project/edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/crs.h"
#include "project/ground_edits.h"
#include "project/hole_edits.h"
#include "project/sequence_edits.h"
#include "sequence/contacts.h"

#include <fmt/format.h>

namespace fox {

namespace {

Unit& unitNamed(Sequence& sequence, const std::string& code) {
    const auto index = sequence.index(code);
    if (!index) throw Error(fmt::format("There is no unit {} in the sequence.", code));
    return sequence.units[*index];
}

Edited withSequence(const Project& project, Sequence sequence, std::string label) {
    Edited e{project, std::move(label)};
    e.project.sequence = part(std::move(sequence));
    return e;
}

} // namespace

Edited apply(const Project& project, const Remedy& remedy) {
    switch (remedy.kind) {
    case Remedy::Kind::MergeCode: return mergeCode(project, remedy.subject, remedy.value);
    case Remedy::Kind::AddUnit: {
        auto sequence = *project.sequence;
        const auto named = project.codeNames->find(remedy.subject);
        Unit unit;
        unit.code = remedy.subject;
        unit.name = named == project.codeNames->end() ? remedy.subject : named->second;
        unit.colour = proposedColour(unit.name, sequence.units.size());
        // where the logs have it: before the first unit that the proposal puts under it
        const auto order = proposeSequence(*project.holes, *project.codeNames);
        const auto rank = order.index(unit.code).value_or(order.units.size());
        const auto at =
            std::ranges::find_if(sequence.units, [&](const Unit& u) { return order.index(u.code).value_or(0) > rank; });
        sequence.units.insert(at, std::move(unit));
        return withSequence(project, std::move(sequence), remedy.label);
    }
    case Remedy::Kind::PlaceHole: throw Error(fmt::format("Point at the plan to place {}.", remedy.subject));
    case Remedy::Kind::SwapPlace: return swapPlace(project, remedy.subject);
    case Remedy::Kind::CloseGap: return closeGap(project, remedy.subject, std::size_t(parseNumber(remedy.value).value_or(0)));
    case Remedy::Kind::LeaveOutPoint: {
        const auto numbers = split(remedy.subject, ' ');
        const auto x = numbers.size() == 2 ? parseNumber(numbers[0]) : std::nullopt;
        const auto y = numbers.size() == 2 ? parseNumber(numbers[1]) : std::nullopt;
        if (!x || !y) throw Error(fmt::format("\"{}\" is no place.", remedy.subject));
        return mend(project, {TinEdit::Kind::LeaveOut, {*x, *y}, {}, 0});
    }
    case Remedy::Kind::ReadAs: {
        const auto words = split(remedy.value, ' ');
        const auto top = words.size() > 1 ? parseNumber(words[0]) : std::nullopt;
        const auto base = words.size() > 1 ? parseNumber(words[1]) : std::nullopt;
        if (!top || !base) throw Error(fmt::format("\"{}\" is no stretch of a hole.", remedy.value));
        // a code may have spaces of its own
        const auto unit = words.size() > 2 ? remedy.value.substr(words[0].size() + words[1].size() + 2) : std::string();
        const auto* hole = findHole(*project.holes, remedy.subject);
        if (!hole) throw Error(fmt::format("There is no hole {}.", remedy.subject));
        std::vector<Stretch> stretches; // choices are made by interval
        for (const auto& i : hole->intervals)
            if (i.usable() && i.top.metres >= *top - 1e-6 && i.base.metres <= *base + 1e-6)
                stretches.push_back({remedy.subject, i.top, i.base});
        return setIntervals(project, stretches, unit);
    }
    case Remedy::Kind::OlderWins: return setBaseRule(project, remedy.subject, BaseRule::Laps);
    case Remedy::Kind::MeetHalfway: return setCrossing(project, remedy.subject, {CrossingRemedy::Kind::Halfway, 0, ""});
    case Remedy::Kind::KeepThickness:
        return setCrossing(project, remedy.subject, {CrossingRemedy::Kind::Thickness, parseNumber(remedy.value).value_or(0), ""});
    case Remedy::Kind::HoldBelow: return setCrossing(project, remedy.subject, {CrossingRemedy::Kind::Below, 0, remedy.value});
    case Remedy::Kind::LeaveOut: return setLeftOut(project, remedy.subject, true);
    case Remedy::Kind::SetFinalDepth: {
        const auto depth = parseNumber(remedy.value);
        if (!depth) throw Error(fmt::format("\"{}\" is no depth.", remedy.value));
        return setFinalDepth(project, remedy.subject, Depth{*depth});
    }
    case Remedy::Kind::SetLevel: {
        const auto level = parseNumber(remedy.value);
        if (!level) throw Error(fmt::format("\"{}\" is no level.", remedy.value));
        return setHoleLevel(project, remedy.subject, Level{*level});
    }
    }
    throw Error("There is no such remedy.");
}

Edited mergeCode(const Project& project, const std::string& loggedCode, const std::string& unitCode) {
    auto sequence = *project.sequence;
    unitNamed(sequence, unitCode); // must be there
    sequence.aliases[loggedCode] = unitCode;
    return withSequence(project, std::move(sequence), fmt::format("Merge {} into {}", loggedCode, unitCode));
}

Edited setUnitHeading(const Project& project, const std::string& heading) {
    return withSequence(project, proposeSequence(*project.holes, *project.codeNames, heading),
                        fmt::format("Units from {}", heading));
}

Edited setUnitName(const Project& project, const std::string& unitCode, const std::string& name) {
    auto sequence = *project.sequence;
    unitNamed(sequence, unitCode).name = name;
    return withSequence(project, std::move(sequence), fmt::format("Name {} {}", unitCode, name));
}

Edited setUnitColour(const Project& project, const std::string& unitCode, const std::string& colour) {
    auto sequence = *project.sequence;
    unitNamed(sequence, unitCode).colour = colour;
    return withSequence(project, std::move(sequence), fmt::format("Colour of {}", unitCode));
}

Edited setUnitHatch(const Project& project, const std::string& unitCode, const std::string& ground) {
    auto sequence = *project.sequence;
    unitNamed(sequence, unitCode).hatch = ground;
    return withSequence(project, std::move(sequence), fmt::format("Sign of {}", unitCode));
}

Edited setMethod(const Project& project, const std::string& unitCode, Method method) {
    auto sequence = *project.sequence;
    unitNamed(sequence, unitCode).recipe.settings.method = method;
    return withSequence(project, std::move(sequence), fmt::format("Base of {} by {}", unitCode, words(method)));
}

Edited setBaseRule(const Project& project, const std::string& unitCode, BaseRule rule) {
    auto sequence = *project.sequence;
    unitNamed(sequence, unitCode).base = rule;
    return withSequence(project, std::move(sequence),
                        fmt::format("Base of {} {}", unitCode, rule == BaseRule::Cuts ? "cuts" : "laps"));
}

Edited setReference(const Project& project, const std::string& unitCode, std::optional<BaseReference> reference) {
    auto sequence = *project.sequence;
    unitNamed(sequence, unitCode).recipe.reference = reference;
    return withSequence(project, std::move(sequence),
                        fmt::format("Base of {} from {}", unitCode, reference ? words(*reference) : "what fits better"));
}

Edited setSystem(const Project& project, const std::string& crs) {
    auto site = *project.site;
    if (!crs.empty()) {
        const auto known = projectedSystem(crs);
        if (!known)
            throw Error(fmt::format(
                "\"{}\" is no projected coordinate system that is known. Say it by its EPSG number, such as EPSG:25831.", crs));
        site.crs = *known;
    } else {
        site.crs.clear();
    }
    Edited e{project, site.crs.empty() ? "No coordinate system" : fmt::format("Coordinate system {}", site.crs)};
    e.project.site = part(std::move(site));
    return e;
}

Edited setCell(const Project& project, double metres) {
    const auto frame = frameOf(project);
    if (!frame) throw Error("There is no frame to have cells: import holes or ground first.");
    auto site = *project.site;
    site.frame = *frame;
    site.frame->cell = metres;
    Edited e{project, fmt::format("Cells of {} m", metres)};
    e.project.site = part(std::move(site));
    return e;
}

Edited addSection(const Project& project, const Polyline2& line) {
    auto sections = *project.sections;
    // A, B, ... Z, then numbers; the first letter that is free
    std::string label;
    for (int i = 0; label.empty(); ++i) {
        const auto wanted = i < 26 ? std::string(1, char('A' + i)) : fmt::format("{}", i + 1);
        if (std::ranges::none_of(sections, [&](const SectionLine& s) { return s.name == wanted; })) label = wanted;
    }
    sections.push_back({label, line, kSectionHoles});
    Edited e{project, fmt::format("Draw section {}", label)};
    e.project.sections = part(std::move(sections));
    return e;
}

Edited removeSection(const Project& project, std::size_t index) {
    auto sections = *project.sections;
    if (index >= sections.size()) throw Error("There is no such section.");
    Edited e{project, fmt::format("Remove section {}", sections[index].name)};
    sections.erase(sections.begin() + std::ptrdiff_t(index));
    e.project.sections = part(std::move(sections));
    return e;
}

History::History(Project start) { m_steps.push_back({std::move(start), ""}); }

void History::add(Edited step) {
    m_steps.resize(m_at + 1);
    m_steps.push_back(std::move(step));
    ++m_at;
}

void History::undo() {
    if (canUndo()) --m_at;
}

void History::redo() {
    if (canRedo()) ++m_at;
}

} // namespace fox
