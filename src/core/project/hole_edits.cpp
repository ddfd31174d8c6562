#include "project/hole_edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/table.h"
#include "project/corrections.h"

#include <fmt/format.h>
#include <unordered_map>

namespace fox {

namespace {

/// Readings of water that were given as levels are where they were when the ground level is another.
void keepWaterLevels(Hole& hole) {
    constexpr std::string_view kLevel = "level ";
    for (auto& w : hole.waterLevels)
        if (const auto level = w.given.starts_with(kLevel) ? parseLeadingNumber(w.given.substr(kLevel.size())) : std::nullopt;
            level && hole.level)
            w.depth = Depth{hole.level->metres - *level};
}

/// A version in the making, with the holes that are edited. What is changed is recorded by done().
class HoleEdits {
public:
    HoleEdits(const Project& project, std::string label)
        : m_project(project), m_label(std::move(label)), m_holes(*project.holes), m_book(project) {}

    /// @throws Error if the project does not have that hole
    Hole& hole(const std::string& name) {
        const auto at = placeOf(name);
        m_touched.insert(at);
        return m_holes.change(at);
    }
    const Hole& before(const std::string& name) { return (*m_project.holes)[placeOf(name)]; }

    void setTop(const std::string& name, Interval& i, Depth to) {
        m_book.recordNumber(before(name), i.line, "GEOL_TOP", ColumnRole::Top, i.top.metres, to.metres, m_label);
        i.top = to;
    }
    void setBase(const std::string& name, Interval& i, Depth to) {
        m_book.recordNumber(before(name), i.line, "GEOL_BASE", ColumnRole::Base, i.base.metres, to.metres, m_label);
        i.base = to;
    }
    void setInclination(const std::string& name, PathStation& station, double to) {
        const auto& hole = before(name);
        m_book.recordNumber(hole, station.line, station.line == hole.line ? "HOLE_INCL" : "HORN_INCL", ColumnRole::Inclination,
                            station.inclination, to, m_label);
        station.inclination = to;
    }

    Edited done() {
        for (const auto at : m_touched)
            if (m_holes[at].level != (*m_project.holes)[at].level) keepWaterLevels(m_holes.change(at));
        for (const auto at : m_touched) m_book.recordFacts((*m_project.holes)[at], m_holes[at], m_label);
        Edited e{m_project, m_label};
        e.project.holes = part(std::move(m_holes));
        std::move(m_book).into(e.project);
        return e;
    }

private:
    std::size_t placeOf(const std::string& name) {
        if (m_index.empty()) {
            const auto names = displayNames(*m_project.holes);
            for (std::size_t i = 0; i < names.size(); ++i) m_index.emplace(names[i], i);
        }
        const auto at = m_index.find(name);
        if (at == m_index.end()) throw Error(fmt::format("There is no hole named {} in the project.", name));
        return at->second;
    }

    const Project& m_project;
    std::string m_label;
    Holes m_holes;
    CorrectionBook m_book;
    std::unordered_map<std::string, std::size_t> m_index; ///< by display name
    std::set<std::size_t> m_touched;
};

Edited changeHole(const Project& project, const std::string& name, const std::string& label,
                  const std::function<void(Hole&)>& change) {
    return changeHoles(project, {{name, change}}, label);
}

} // namespace

Edited changeHoles(const Project& project, const std::vector<HoleChangeOf>& changes, const std::string& label) {
    HoleEdits edits(project, label);
    for (const auto& c : changes) c.change(edits.hole(c.hole));
    return edits.done();
}

Edited setHoleLevel(const Project& project, const std::string& name, Level level) {
    return changeHole(project, name, fmt::format("Set the level of {} to {:.2f} m", name, level.metres),
                      [&](Hole& h) { h.level = level; });
}

Edited setHolePlace(const Project& project, const std::string& name, Point2 place) {
    return changeHole(project, name, fmt::format("Place {} at E {:.2f} N {:.2f}", name, place.x, place.y),
                      [&](Hole& h) { h.easting = place.x, h.northing = place.y; });
}

Edited swapPlace(const Project& project, const std::string& name) {
    return changeHole(project, name, fmt::format("Swap easting and northing of {}", name),
                      [](Hole& h) { std::swap(h.easting, h.northing); });
}

Edited swapPlacesOfFile(const Project& project, const std::string& file) {
    std::vector<HoleChangeOf> changes;
    const auto names = displayNames(*project.holes);
    for (std::size_t i = 0; i < names.size(); ++i)
        if (const auto& h = (*project.holes)[i]; h.file == file && h.place())
            changes.push_back({names[i], [](Hole& hole) { std::swap(hole.easting, hole.northing); }});
    if (changes.empty()) throw Error(fmt::format("No hole of {} has coordinates to swap.", file));
    auto e = changeHoles(project, changes, fmt::format("Swap easting and northing of all holes of {}", file));
    auto files = *project.files; // what was said of their places no longer holds
    for (auto& f : files)
        if (f.name == file) std::erase_if(f.findings, [](const Finding& found) { return found.rule == "FC-SWAPPED"; });
    e.project.files = part(std::move(files));
    return e;
}

Edited measureFromVertical(const Project& project, const std::string& name) {
    const auto label = fmt::format("Take the inclinations of {} as measured from the vertical", name);
    HoleEdits edits(project, label);
    auto& hole = edits.hole(name);
    if (hole.stations.empty()) throw Error(fmt::format("{} has no inclinations any more.", name));
    for (auto& station : hole.stations) edits.setInclination(name, station, 90 - station.inclination);
    return edits.done();
}

Edited setFinalDepth(const Project& project, const std::string& name, Depth depth) {
    return changeHole(project, name, fmt::format("Set the final depth of {} to {:.2f} m", name, depth.metres),
                      [&](Hole& h) { h.finalDepth = depth; });
}

Edited setHoleKind(const Project& project, const std::string& name, const std::string& type) {
    return changeHole(project, name, fmt::format("Kind of {}: {}", name, typeInWords(type)), [&](Hole& h) { h.type = type; });
}

Edited setExcluded(const Project& project, const std::string& name, bool excluded) {
    return changeHole(project, name,
                      excluded ? fmt::format("Exclude {} from surfaces", name) : fmt::format("Use {} for surfaces again", name),
                      [&](Hole& h) { h.excluded = excluded; });
}

Edited setHoleName(const Project& project, const std::string& from, const std::string& wanted) {
    const std::string name(trimmed(wanted));
    if (name.empty()) throw Error(fmt::format("{} needs a name.", from));
    auto named = project;
    auto holes = *project.holes;
    giveNames(holes); // those of the others stay
    const auto* other = findHole(holes, name);
    if (name != from && other && other->name == name) throw Error(fmt::format("There is another hole named {}.", name));
    named.holes = part(std::move(holes));
    auto e = changeHole(named, from, fmt::format("Rename {} to {}", from, name), [&](Hole& h) { h.name = name; });
    auto own = *project.interpretation;
    const auto follow = [&](auto& choices) {
        for (auto& c : choices)
            if (c.hole == from) c.hole = name;
    };
    follow(own.contacts), follow(own.intervals), follow(own.picks), follow(own.splits);
    if (own != *project.interpretation) e.project.interpretation = part(std::move(own));
    auto waters = *project.waterSurfaces;
    for (auto& surface : waters) {
        std::map<std::string, bool> points;
        for (const auto& [point, used] : surface.points)
            points[point == from || point.starts_with(from + " / ") ? name + point.substr(from.size()) : point] = used;
        surface.points = std::move(points);
    }
    if (waters != *project.waterSurfaces) e.project.waterSurfaces = part(std::move(waters));
    auto sets = *project.holeSets;
    for (auto& set : sets) std::ranges::replace(set.holes, from, name);
    if (sets != *project.holeSets) e.project.holeSets = part(std::move(sets));
    auto corrections = *e.project.corrections;
    follow(corrections);
    if (corrections != *e.project.corrections) e.project.corrections = part(std::move(corrections));
    return e;
}

Edited moveBoundary(const Project& project, const std::string& name, Depth from, Depth to) {
    HoleEdits edits(project, fmt::format("Move a contact in {} to {:.2f} m", name, to.metres));
    auto& intervals = edits.hole(name).intervals;
    const auto at = std::ranges::find_if(intervals, [&](const Interval& i) { return i.usable() && i.base == from; });
    if (at == intervals.end()) throw Error(fmt::format("{} has no contact at {:.2f} m any more.", name, from.metres));
    auto* next = at + 1 != intervals.end() ? &*(at + 1) : nullptr;
    const bool follows = next && next->top == at->base;
    if (to <= at->top || (follows && to >= next->base))
        throw Error(fmt::format("{}: a boundary at {:.2f} m would leave an interval without length.", name, to.metres));
    edits.setBase(name, *at, to);
    if (follows) edits.setTop(name, *next, to);
    return edits.done();
}

Edited closeGap(const Project& project, const std::string& name, Depth top) {
    HoleEdits edits(project, fmt::format("Close a gap in {}", name));
    auto& intervals = edits.hole(name).intervals;
    const auto below = std::ranges::find_if(intervals, [&](const Interval& i) { return i.usable() && i.top == top; });
    if (below == intervals.end()) throw Error(fmt::format("{} has no interval from {:.2f} m any more.", name, top.metres));
    Interval* above = nullptr;
    for (auto i = intervals.begin(); i != below; ++i)
        if (i->usable()) above = &*i;
    if (above)
        edits.setBase(name, *above, below->top);
    else
        edits.setTop(name, *below, Depth{0});
    return edits.done();
}

const Correction* correctionOf(const Project& project, const std::string& file, int line, const std::string& heading) {
    for (const auto& c : *project.corrections)
        if (c.line == line && c.heading == heading && c.file == file) return &c;
    return nullptr;
}

std::string correctionsAsCsv(const Project& project) {
    std::string out = "file,line,hole,group,heading,before,after,why\n";
    const auto row = [&](std::initializer_list<std::string> cells) {
        bool first = true;
        for (const auto& cell : cells) {
            if (!first) out += ',';
            out += tableCell(cell);
            first = false;
        }
        out += '\n';
    };
    for (const auto& c : *project.corrections)
        row({c.file, std::to_string(c.line), c.hole, c.group, c.heading, c.before, c.after, c.why});
    for (const auto& [from, to] : project.sequence->aliases)
        row({"", "", "", "", project.sequence->unitHeading, from, to, fmt::format("{} is read as {}", from, to)});
    const auto asRead = [&](const Hole& h) { return h.name == h.id || h.name == fmt::format("{} ({})", h.id, h.project); };
    for (const auto& h : *project.holes)
        if (!h.name.empty() && !asRead(h))
            row({h.file, std::to_string(h.line), h.name, "", "", h.id, h.name, fmt::format("{} is called {}", h.id, h.name)});
    for (const auto& h : *project.holes)
        if (h.excluded)
            row({h.file, std::to_string(h.line), displayName(*project.holes, h), "", "", "", "", "Excluded from surfaces"});
    return out;
}

} // namespace fox
