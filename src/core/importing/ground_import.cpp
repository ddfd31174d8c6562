#include "importing/ground_import.h"

#include "base/text.h"
#include "formats/crs.h"
#include "project/sources.h"
#include "sequence/contact_points.h"

#include <fmt/format.h>
#include <set>

namespace fox {

namespace {

template <typename T>
void replaceOrAdd(std::vector<T>& list, T item, const SourceFile* before) {
    const auto at = before ? std::ranges::find(list, before->name, &T::file) : list.end();
    if (at == list.end()) return list.push_back(std::move(item));
    item.used = at->used;
    *at = std::move(item);
}

void eraseOf(GroundSources& ground, const std::string& file) {
    std::erase_if(ground.points, [&](const auto& s) { return s.file == file; });
    std::erase_if(ground.lines, [&](const auto& s) { return s.file == file; });
}

using Use = GroundSources::Outline::Use;

Use proposedUse(const std::string& name) {
    const auto n = lower(name);
    for (const char* word : {"limit", "boundary"})
        if (n.find(word) != n.npos) return Use::Limit;
    for (const char* word : {"pond", "lake", "building", "island", "water"})
        if (n.find(word) != n.npos) return Use::Island;
    return Use::None;
}

/// Lines that make ground, breaklines and contours apart.
std::map<LineRole, std::vector<Polyline3>> linesByRole(const GroundLines& lines) {
    std::map<LineRole, std::vector<Polyline3>> out;
    const auto add = [&](LineRole role, const std::vector<Polyline3>& all) {
        if (all.empty() || (role != LineRole::Contours && role != LineRole::Breaklines && role != LineRole::Points)) return;
        auto& to = out[role == LineRole::Contours ? role : LineRole::Breaklines];
        to.insert(to.end(), all.begin(), all.end());
    };
    add(lines.role, lines.lines);
    for (const auto& other : lines.others) add(other.role, other.lines);
    return out;
}

/// A line of a layer by its own name: the layer's, with a number where it has several.
std::string nameOfLine(const GroundLines::LayerLines& layer, std::size_t at) {
    return layer.lines.size() == 1 ? layer.layer : fmt::format("{} {}", layer.layer, at + 1);
}

void addFaults(Project& project, const GroundLines::LayerLines& layer) {
    auto own = *project.interpretation;
    for (std::size_t i = 0; i < layer.lines.size(); ++i) {
        UnitFault fault{{nameOfLine(layer, i), planOf(layer.lines[i])}, ""};
        const auto at = std::ranges::find_if(own.faults, [&](const auto& f) { return f.fault.name == fault.fault.name; });
        at == own.faults.end() ? own.faults.push_back(std::move(fault)) : void(at->fault.line = fault.fault.line);
    }
    project.interpretation = part(std::move(own));
}

/// Guide lines of the units that their codes name, or else their layer; those of an earlier issue of the layer can't be told from
/// others, so that equal ones are there once. Lines whose unit the sequence has not: a finding.
std::size_t addGuides(Project& project, const GroundLines::LayerLines& layer, SourceFile& file) {
    auto own = *project.interpretation;
    std::set<std::string> unknown;
    std::size_t added = 0;
    for (std::size_t i = 0; i < layer.lines.size(); ++i) {
        const auto& named = i < layer.codes.size() && !layer.codes[i].empty() ? layer.codes[i] : layer.layer;
        const auto unit = unitWritten(*project.sequence, named);
        if (!unit) {
            unknown.insert(named);
            continue;
        }
        Guide guide{project.sequence->units[*unit].code, layer.lines[i]};
        if (std::ranges::count(own.guides, guide) > 0) continue;
        own.guides.push_back(std::move(guide));
        ++added;
    }
    for (const auto& name : unknown)
        file.findings.push_back({Severity::Error, "FC-LINES", file.name, 0, layer.layer, "", "",
                                 fmt::format("The sequence has no unit {}: its guide lines are not used. Name the column that "
                                             "holds the unit, or the layer after it, and read the file again.",
                                             name)});
    if (added > 0) project.interpretation = part(std::move(own));
    return added;
}

void addSectionLines(Project& project, const GroundLines::LayerLines& layer) {
    auto sections = *project.sections;
    for (std::size_t i = 0; i < layer.lines.size(); ++i) {
        SectionLine section{nameOfLine(layer, i), planOf(layer.lines[i])};
        const auto at = std::ranges::find(sections, section.name, &SectionLine::name);
        at == sections.end() ? sections.push_back(std::move(section)) : void(at->line = section.line);
    }
    project.sections = part(std::move(sections));
}

/// Lines only to look at, in place of those of an earlier issue: how a layer is drawn is kept.
void addBackground(Project& project, const GroundLines& lines, const std::string& file, const SourceFile* before) {
    auto background = *project.background;
    std::map<std::string, BackgroundLines> were;
    for (const auto& b : background)
        if (before && b.file == before->name) were[b.layer] = b;
    if (before) std::erase_if(background, [&](const auto& b) { return b.file == before->name; });
    for (const auto& layer : lines.others) {
        if (layer.role != LineRole::LookOnly) continue;
        BackgroundLines b{file, layer.layer, {}};
        if (const auto was = were.find(layer.layer); was != were.end()) b = was->second, b.file = file;
        b.lines = layer.lines;
        background.push_back(std::move(b));
    }
    if (background != *project.background) project.background = part(std::move(background));
}

/// Lines that are something else than ground. In words: "2 faults".
std::vector<std::string> addOtherLines(Project& project, const GroundLines& lines, SourceFile& file, const SourceFile* before) {
    addBackground(project, lines, file.name, before);
    std::vector<std::string> said;
    for (const auto& layer : lines.others) {
        const auto n = layer.lines.size();
        switch (layer.role) {
        case LineRole::LookOnly: said.push_back(fmt::format("{} only to look at", counted(n, "line"))); break;
        case LineRole::Faults:
            addFaults(project, layer);
            said.push_back(counted(n, "fault"));
            break;
        case LineRole::Guides: said.push_back(counted(addGuides(project, layer, file), "guide line")); break;
        case LineRole::Sections:
            addSectionLines(project, layer);
            said.push_back(counted(n, "section line"));
            break;
        default: break; // ground
        }
    }
    return said;
}

std::string addLines(GroundSources& ground, const GroundLines& lines, const std::string& name, const SourceFile* before) {
    std::vector<std::string> what;
    if (lines.role == LineRole::Outlines || !lines.outlines.empty()) {
        std::map<std::string, Use> uses; // an outline that is replaced keeps what it was for
        for (const auto& o : ground.outlines)
            if (before && o.file == before->name) uses[o.name] = o.use;
        if (before) std::erase_if(ground.outlines, [&](const auto& o) { return o.file == before->name; });
        for (const auto& [label, shape, isIsland] : lines.outlines) {
            const auto was = uses.find(label);
            const auto proposed = isIsland ? Use::Island : proposedUse(label);
            ground.outlines.push_back({label, name, shape.ring, was == uses.end() ? proposed : was->second, shape.holes});
        }
        what.push_back(counted(lines.outlines.size(), "outline"));
    }
    const auto ofRole = linesByRole(lines);
    if (before && ofRole.empty() && lines.points.empty()) eraseOf(ground, before->name);
    std::map<LineRole, bool> were; // used or not
    if (before)
        for (const auto& s : ground.lines)
            if (s.file == before->name) were[s.role] = s.used;
    if (before) std::erase_if(ground.lines, [&](const auto& s) { return s.file == before->name; });
    for (const auto& [role, all] : ofRole) {
        const auto was = were.find(role);
        ground.lines.push_back({name, role, all, was == were.end() || was->second});
        what.push_back(counted(all.size(), "line"));
    }
    if (!lines.points.empty()) {
        replaceOrAdd(ground.points, GroundSources::Points{name, lines.points}, before);
        what.push_back(counted(lines.points.size(), "point"));
    }
    return fmt::format("{}", fmt::join(what, ", "));
}

/// The file behind the others, or in the place of its earlier issue.
void putFile(Project& project, const SourceFile* before, SourceFile file) {
    auto files = *project.files;
    if (before)
        *std::ranges::find(files, before->name, &SourceFile::name) = std::move(file);
    else
        files.push_back(std::move(file));
    project.files = part(std::move(files));
}

Georeference placingOf(const Picture& picture, const std::string& siteCrs) {
    auto t = *picture.georeference;
    Georeference placing{t[0], t[1], t[2], t[3], t[4], t[5]};
    if (picture.crs.empty() || siteCrs.empty() || picture.crs == siteCrs) return placing;
    const CoordinateChange toSite(picture.crs, siteCrs);
    std::vector<ControlPoint> corners;
    for (const double x : {0.0, double(picture.width)})
        for (const double y : {0.0, double(picture.height)})
            if (const auto p = toSite.forward(placing.toPlan({x, y}))) corners.push_back({{x, y}, *p});
    return corners.size() < 3 ? placing : fitGeoreference(corners).placing;
}

/// Points that were excluded by hand, and whether the source is used.
void keepExclusions(const ValueSource& was, ValueSource& now) {
    const auto key = [](const ValuePoint& p) { return std::tuple(p.place.x, p.place.y, p.place.z, p.value); };
    std::set<std::tuple<double, double, double, double>> excluded;
    for (const auto& p : was.points)
        if (p.excluded) excluded.insert(key(p));
    auto points = *now.points;
    for (auto& p : points) p.excluded = excluded.contains(key(p));
    now.points = std::move(points);
    now.used = was.used;
}

} // namespace

Edited importContacts(const Project& project, const ImportPreview& u) {
    const auto* before = earlierIssue(project, u);
    auto file = u.file;
    if (!before) file.name = uniqueName(*project.files, file.name);
    Edited e{project,
             fmt::format("{} {} ({})", before ? "Update" : "Import", file.name, counted(u.contacts->points.size(), "contact"))};
    auto sources = *project.contactPoints;
    ContactSource source{file.name, file.settings.surface, {}, true};
    auto points = u.contacts->points;
    if (const auto at = before ? std::ranges::find(sources, before->name, &ContactSource::file) : sources.end();
        at != sources.end()) {
        std::set<std::tuple<std::string, double, double, double, std::string, double>> excluded;
        const auto key = [](const ContactPoint& p) {
            return std::tuple(p.unit, p.place.x, p.place.y, p.place.z, p.hole, p.depth.metres);
        };
        for (const auto& p : at->points)
            if (p.excluded) excluded.insert(key(p));
        for (auto& p : points) p.excluded = excluded.contains(key(p));
        source.used = at->used;
        source.accuracy = at->accuracy;
        source.points = std::move(points);
        *at = std::move(source);
    } else {
        source.points = std::move(points);
        sources.push_back(std::move(source));
    }
    e.project.contactPoints = part(std::move(sources));
    putFile(e.project, before, std::move(file));
    return e;
}

Edited importValues(const Project& project, const ImportPreview& u) {
    const auto* before = earlierIssue(project, u);
    auto file = u.file;
    if (!before) file.name = uniqueName(*project.files, file.name);
    auto sources = *project.valuePoints;
    std::size_t read = 0;
    std::vector<ValueSource> incoming;
    for (auto source : u.values->sources) {
        source.file = file.name;
        read += source.points.size();
        const auto was = std::ranges::find_if(
            sources, [&](const ValueSource& s) { return before && s.file == before->name && s.quantity == source.quantity; });
        if (was != sources.end()) keepExclusions(*was, source);
        incoming.push_back(std::move(source));
    }
    if (before) std::erase_if(sources, [&](const ValueSource& s) { return s.file == before->name; });
    std::ranges::move(incoming, std::back_inserter(sources));
    Edited e{project, fmt::format("{} {} ({})", before ? "Update" : "Import", file.name, counted(read, "value"))};
    e.project.valuePoints = part(std::move(sources));
    putFile(e.project, before, std::move(file));
    return e;
}

Edited importGround(const Project& project, const ImportPreview& u) {
    const auto* before = earlierIssue(project, u);
    auto file = u.file;
    if (!before) file.name = uniqueName(*project.files, file.name);
    auto ground = *project.ground;
    Edited e{project, ""};
    std::string what;
    if (u.survey) {
        replaceOrAdd(ground.points, GroundSources::Points{file.name, u.survey->points}, before);
        what = counted(u.survey->points.size(), "point");
    } else if (u.lines) {
        std::vector<std::string> all;
        if (auto made = addLines(ground, *u.lines, file.name, before); !made.empty()) all.push_back(std::move(made));
        for (auto& said : addOtherLines(e.project, *u.lines, file, before)) all.push_back(std::move(said));
        what = fmt::format("{}", fmt::join(all, ", "));
    } else if (u.grid) {
        replaceOrAdd(ground.rasters, GroundSources::Raster{file.name, u.grid}, before);
        what = counted(u.grid->values.size(), "cell");
    } else if (u.picture) {
        auto pictures = *project.pictures;
        const auto at = before ? std::ranges::find(pictures, before->name, &PlacedPicture::file) : pictures.end();
        PlacedPicture placed;
        if (at != pictures.end()) placed = *at;
        placed.file = file.name;
        if (at == pictures.end() && u.picture->georeference) placed.placing = placingOf(*u.picture, project.site->crs);
        if (at == pictures.end()) placed.placed = u.picture->georeference.has_value();
        at != pictures.end() ? void(*at = placed) : pictures.push_back(placed);
        e.project.pictures = part(std::move(pictures));
        what = placed.placed ? "picture" : "picture, not placed yet";
    }
    if (!u.picture) e.project.ground = part(std::move(ground));
    if (project.files->empty() && project.site->crs.empty() && u.lines && projectedSystem(u.lines->crs)) {
        auto site = *project.site; // the first file says where the site is
        site.crs = u.lines->crs;
        e.project.site = part(std::move(site));
    }
    e.label = fmt::format("{} {} ({})", before ? "Update" : "Import", file.name, what);
    putFile(e.project, before, std::move(file));
    return e;
}

} // namespace fox
