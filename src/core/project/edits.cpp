#include "project/edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/crs.h"
#include "sequence/contacts.h"

#include <fmt/format.h>

namespace fox {

namespace {

Holes::iterator holeNamed(Holes& holes, const std::string& wanted) {
    const auto* found = findHole(holes, wanted);
    if (!found) throw Error(fmt::format("There is no hole named {} in the project.", wanted));
    return holes.begin() + (found - holes.data());
}

Unit& unitNamed(Sequence& sequence, const std::string& code) {
    const auto index = sequence.index(code);
    if (!index) throw Error(fmt::format("There is no unit {} in the sequence.", code));
    return sequence.units[*index];
}

template <typename T>
std::vector<T> with(const std::vector<T>& old, T added) {
    auto out = old;
    out.push_back(std::move(added));
    return out;
}

Edited withHoles(const Project& project, Holes holes, std::string label) {
    Edited e{project, std::move(label)};
    e.project.holes = part(std::move(holes));
    return e;
}

Edited withSequence(const Project& project, Sequence sequence, std::string label) {
    Edited e{project, std::move(label)};
    e.project.sequence = part(std::move(sequence));
    return e;
}

bool isThere(const Project& project, const Hole& hole) {
    return std::ranges::any_of(*project.holes, [&](const Hole& h) { return h.id == hole.id && h.project == hole.project; });
}

} // namespace

ImportedAgs understandAgs(std::string bytes, const std::string& name, const Progress& progress) {
    ImportedAgs out;
    out.file.name = name;
    out.file.bytes = bytes;
    const auto ags = readAgs(std::move(bytes), name, progress);
    out.content = holesOf(ags);
    out.file.format = "AGS " + ags.version;
    out.file.holes = int(out.content.holes.size());
    out.file.findings = ags.findings;
    out.file.findings.insert(out.file.findings.end(), out.content.findings.begin(), out.content.findings.end());
    for (const auto& g : ags.groups)
        out.groups.push_back(fmt::format("{}, {} row{}", g.name, g.rows.size(), g.rows.size() == 1 ? "" : "s"));
    return out;
}

ImportedSurvey understandSurvey(std::string bytes, const std::string& name, std::vector<std::string> columns) {
    ImportedSurvey out;
    const auto table = readTable(bytes, name, std::move(columns));
    out.survey = surveyOf(table);
    out.columns = int(table.columns.size());
    out.file = {name, "survey points", std::move(bytes), 0, out.survey.findings};
    if (out.survey.points.empty()) throw FileError(fmt::format("{} has no row with an easting, a northing and a level.", name));
    return out;
}

std::vector<std::string> alreadyThere(const Project& project, const ImportedAgs& imported) {
    std::vector<std::string> ids;
    for (const auto& h : imported.content.holes)
        if (isThere(project, h)) ids.push_back(h.id);
    return ids;
}

Edited addHoles(const Project& project, const ImportedAgs& imported) {
    auto holes = *project.holes;
    int added = 0;
    for (const auto& h : imported.content.holes)
        if (!isThere(project, h)) holes.push_back(h), ++added;
    auto file = imported.file;
    file.holes = added;
    auto e = withHoles(project, std::move(holes), fmt::format("Import {} ({} holes)", file.name, added));
    e.project.files = part(with(*project.files, std::move(file)));
    auto names = *project.codeNames;
    names.insert(imported.content.codeNames.begin(), imported.content.codeNames.end());
    e.project.codeNames = part(std::move(names));
    if (project.sequence->units.empty()) e.project.sequence = part(proposeSequence(*e.project.holes, *e.project.codeNames));
    if (project.holes->empty() && project.files->empty() && !imported.content.title.empty())
        e.project.name = imported.content.title;
    return e;
}

Edited addSurvey(const Project& project, const ImportedSurvey& imported) {
    Edited e{project, fmt::format("Import {} ({} points)", imported.file.name, imported.survey.points.size())};
    e.project.files = part(with(*project.files, imported.file));
    auto ground = *project.ground;
    std::vector<Point3> points;
    for (const auto& p : imported.survey.points) points.push_back(p.place);
    ground.points.push_back({imported.file.name, std::move(points)});
    e.project.ground = part(std::move(ground));
    return e;
}

Edited addBreaklines(const Project& project, SourceFile file, std::vector<Polyline3> lines) {
    Edited e{project, fmt::format("Import {} ({} lines)", file.name, lines.size())};
    auto ground = *project.ground;
    ground.breaklines.push_back({file.name, std::move(lines)});
    e.project.ground = part(std::move(ground));
    e.project.files = part(with(*project.files, std::move(file)));
    return e;
}

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

Edited moveBoundary(const Project& project, const std::string& holeName, std::size_t index, Depth to) {
    auto holes = *project.holes;
    auto& hole = *holeNamed(holes, holeName);
    if (index >= hole.intervals.size()) throw Error(fmt::format("{} has no interval {}.", holeName, index + 1));
    auto& interval = hole.intervals[index];
    auto* next = index + 1 < hole.intervals.size() ? &hole.intervals[index + 1] : nullptr;
    const bool follows = next && next->top == interval.base;
    if (to <= interval.top || (follows && to >= next->base))
        throw Error(fmt::format("{}: a boundary at {:.2f} m would leave an interval without length.", holeName, to.metres));
    interval.base = to;
    if (follows) next->top = to;
    return withHoles(project, std::move(holes), fmt::format("Move a contact in {} to {:.2f} m", holeName, to.metres));
}

Edited setHoleLevel(const Project& project, const std::string& holeName, Level level) {
    auto holes = *project.holes;
    holeNamed(holes, holeName)->level = level;
    return withHoles(project, std::move(holes), fmt::format("Set the level of {} to {:.2f} m", holeName, level.metres));
}

Edited setHolePlace(const Project& project, const std::string& holeName, Point2 place) {
    auto holes = *project.holes;
    const auto hole = holeNamed(holes, holeName);
    hole->easting = place.x, hole->northing = place.y;
    return withHoles(project, std::move(holes), fmt::format("Place {} at E {:.2f} N {:.2f}", holeName, place.x, place.y));
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
    return withSequence(
        project, std::move(sequence),
        fmt::format("Base of {} from {}", unitCode, reference ? fmt::format("{}s", name(*reference)) : "what fits better"));
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
    sections.push_back({label, line});
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
