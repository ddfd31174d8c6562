#include "project/edits.h"

#include "base/errors.h"
#include "formats/crs.h"
#include "formats/system_list.h"
#include "project/json.h"
#include "surfaces/nearest_points.h"

#include <cmath>
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

Edited setMethod(const Project& project, const std::string& unitCode, BaseMethod method) {
    auto sequence = *project.sequence;
    setMethod(unitNamed(sequence, unitCode).recipe, method);
    return withSequence(project, std::move(sequence),
                        method ? fmt::format("Base of {} by {}", unitCode, words(*method))
                               : fmt::format("Base of {}: automatic", unitCode));
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
            throw Error(
                fmt::format("\"{}\" is not a known projected coordinate system. Give its EPSG number, such as EPSG:25831.", crs));
        if (const auto unit = unitOfSystem(*known); !unit.isMetre())
            throw Error(
                fmt::format("{} is in units of a {}; a project works in metres. Choose a system in metres: files in {} are "
                            "converted when they are imported.",
                            *known, unit.name, *known));
        site.crs = *known;
    } else {
        site.crs.clear();
    }
    Edited e{project, site.crs.empty() ? "No coordinate system" : fmt::format("Coordinate system {}", site.crs)};
    e.project.site = part(std::move(site));
    return e;
}

Edited setCell(const Project& project, double metres) {
    auto frame = frameOf(project);
    if (!frame) throw Error("There is no frame to have cells: import holes or ground first.");
    frame->cell = metres;
    auto site = *project.site;
    site.frame = siteFrameOf(toJson(*frame));
    Edited e{project, fmt::format("Cells of {} m", metres)};
    e.project.site = part(std::move(site));
    return e;
}

double sectionReach(const Holes& holes) {
    std::vector<Point2> places;
    for (const auto& h : holes)
        if (const auto p = h.place()) places.push_back(*p);
    if (places.size() < 3) return kSectionHoles;
    const NearestPoints near(places);
    std::vector<double> distances;
    std::vector<NearestPoints::Hit> hits;
    for (const auto& p : places) {
        near.find(p, 2, std::nullopt, hits); // itself, and the nearest other one
        distances.push_back(std::sqrt(hits.back().squaredDistance));
    }
    const auto middle = distances.begin() + std::ptrdiff_t(distances.size() / 2);
    std::ranges::nth_element(distances, middle);
    return std::max(kSectionHoles, std::round(*middle / 10) * 5); // half of it, to 5 m
}

Edited addSection(const Project& project, const Polyline2& line) {
    auto sections = *project.sections;
    // A, B, ... Z, then numbers; the first letter that is free
    std::string label;
    for (int i = 0; label.empty(); ++i) {
        const auto wanted = i < 26 ? std::string(1, char('A' + i)) : fmt::format("{}", i + 1);
        if (std::ranges::none_of(sections, [&](const SectionLine& s) { return s.name == wanted; })) label = wanted;
    }
    sections.push_back({label, line, sectionReach(*project.holes)});
    Edited e{project, fmt::format("Draw section {}", label)};
    e.project.sections = part(std::move(sections));
    return e;
}

std::optional<Polyline2> proposedSection(const Holes& holes) {
    std::vector<Point2> places;
    for (const auto& h : holes)
        if (const auto p = h.place()) places.push_back(*p);
    std::ranges::sort(places, [](Point2 a, Point2 b) { return std::pair(a.x, a.y) < std::pair(b.x, b.y); });
    places.erase(std::unique(places.begin(), places.end()), places.end());
    if (places.size() < 2) return {};
    constexpr std::size_t kMost = 120; // ends that are tried: the work rises with their square times the holes
    std::vector<Point2> ends;
    const auto stride = double(places.size()) / double(std::min(places.size(), kMost));
    for (double at = 0; std::size_t(at) < places.size(); at += stride) ends.push_back(places[std::size_t(at)]);
    const double reach = sectionReach(holes);
    std::pair<int, double> best{0, 0};
    Polyline2 line;
    for (std::size_t i = 0; i < ends.size(); ++i)
        for (std::size_t j = i + 1; j < ends.size(); ++j) {
            const auto a = ends[i], b = ends[j];
            const double length = distance(a, b);
            int on = 0;
            for (const auto& p : places) {
                const double along = ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / length;
                const double off = std::abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / length;
                on += off <= reach && along >= -reach && along <= length + reach;
            }
            if (std::pair(on, length) > best) best = {on, length}, line = {a, b};
        }
    const double beyond = std::min(best.second * 0.03, 20.0) / best.second;
    const auto a = line[0], b = line[1];
    return Polyline2{{a.x - beyond * (b.x - a.x), a.y - beyond * (b.y - a.y)},
                     {b.x + beyond * (b.x - a.x), b.y + beyond * (b.y - a.y)}};
}

Edited removeSection(const Project& project, const std::string& name) {
    auto sections = *project.sections;
    if (std::erase_if(sections, [&](const SectionLine& s) { return s.name == name; }) == 0)
        throw Error(fmt::format("There is no section {}.", name));
    Edited e{project, fmt::format("Remove section {}", name)};
    e.project.sections = part(std::move(sections));
    return e;
}

Edit Edit::prepared(const Project& of, Edited made) && {
    m_prepared = std::make_shared<const std::pair<Project, Edited>>(of, std::move(made));
    return std::move(*this);
}

Edited Edit::operator()(const Project& project) const {
    if (m_prepared && sameVersion(m_prepared->first, project)) return m_prepared->second;
    return m_make(project);
}

History::History(Project now, const KeptHistory& kept) : m_at(kept.at) {
    for (const auto& step : kept.steps) {
        m_steps.push_back({step, {}});
        m_last = std::max(m_last, step.state);
    }
    m_steps.at(m_at).project = std::move(now);
}

void History::add(Edited step) {
    m_steps.resize(m_at + 1);
    m_steps.push_back({{++m_last, std::move(step.label)}, std::move(step.project)});
    ++m_at;
}

void History::undo() {
    if (canUndo()) --m_at;
}

void History::redo() {
    if (canRedo()) ++m_at;
}

std::optional<HistoryState> History::toRead(Way way) const {
    if (way == Way::Undo ? !canUndo() : !canRedo()) return {};
    const auto& to = m_steps[way == Way::Undo ? m_at - 1 : m_at + 1];
    return to.project ? std::nullopt : std::optional(to.kept.state);
}

void History::give(HistoryState state, Project project) {
    for (auto& s : m_steps)
        if (s.kept.state == state) s.project = std::move(project);
}

} // namespace fox
