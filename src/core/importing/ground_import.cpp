#include "importing/ground_import.h"

#include "base/files.h"
#include "base/text.h"
#include "formats/crs.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"
#include "project/sources.h"

#include <fmt/format.h>

namespace fox {

namespace {

constexpr std::pair<const char*, GroundKind> kEndings[] = {
    {".shp", GroundKind::Lines},    {".gpkg", GroundKind::Lines},    {".geojson", GroundKind::Lines},
    {".json", GroundKind::Lines},   {".dxf", GroundKind::Lines},     {".kml", GroundKind::Lines},
    {".gml", GroundKind::Lines},    {".fgb", GroundKind::Lines},     {".asc", GroundKind::Grid},
    {".xyz", GroundKind::Grid},     {".bil", GroundKind::Grid},      {".flt", GroundKind::Grid},
    {".hgt", GroundKind::Grid},     {".img", GroundKind::Grid},      {".vrt", GroundKind::Grid},
    {".nc", GroundKind::Grid},      {".xml", GroundKind::Triangles}, {".obj", GroundKind::Triangles},
    {".ply", GroundKind::Triangles}};

Box2 extentOf(const std::vector<FeatureLayer>& layers) {
    Box2 box;
    for (const auto& layer : layers)
        for (const auto& f : layer.features)
            for (const auto& part : f.parts)
                for (const auto& p : part)
                    if (std::isfinite(p.x) && std::isfinite(p.y)) box.include(p.plan());
    return box;
}

/// The box around an area in another system, a little wider, because its edges bend.
std::optional<Box2> around(const Area& area, const std::optional<CoordinateChange>& toSite) {
    if (area.isEverywhere()) return {};
    auto box = area.box();
    if (!toSite) return box;
    Box2 there;
    constexpr int kSteps = 8;
    for (int i = 0; i <= kSteps; ++i)
        for (int k = 0; k <= kSteps; ++k)
            if (const auto p = toSite->back({box.xmin + box.width() * i / kSteps, box.ymin + box.height() * k / kSteps}))
                there.include(*p);
    const double margin = 0.02;
    there.xmin -= margin * there.width(), there.xmax += margin * there.width();
    there.ymin -= margin * there.height(), there.ymax += margin * there.height();
    return there.empty() ? std::nullopt : std::optional(there);
}

int moveTo(const CoordinateChange& change, std::vector<FeatureLayer>& layers, const Progress& progress) {
    int lost = 0;
    for (auto& layer : layers)
        for (auto& f : layer.features) {
            progress.check();
            for (auto& part : f.parts)
                for (auto& p : part) {
                    const auto there = change.forward(p.plan());
                    p.x = there ? there->x : kNoValue, p.y = there ? there->y : kNoValue;
                    lost += !there;
                }
        }
    return lost;
}

void readLines(ImportPreview& u, const std::string& siteCrs, const Progress& progress) {
    auto& file = u.file;
    const auto& s = file.settings;
    LineChoices choices{s.role, s.levelField, s.thin, Area(s.keep), s.groupsOut};
    const auto crs = s.crs.empty() ? vectorSystem(file.path) : s.crs;
    std::optional<CoordinateChange> toSite;
    if (!crs.empty() && !siteCrs.empty() && crs != siteCrs) toSite.emplace(crs, siteCrs);
    auto layers = readVector(file.path, around(choices.keep, toSite), progress);
    int lost = 0;
    if (toSite) lost = moveTo(*toSite, layers, progress);
    u.lines = groundLinesOf(layers, choices, file.name);
    u.lines->crs = crs;
    file.format = words(u.lines->role);
    file.findings = u.lines->findings;
    if (lost > 0)
        file.findings.push_back({Severity::Error, "FC-SYSTEM", file.name, 0, "", "", "",
                                 fmt::format("{} where {} does not reach, and left out.",
                                             counted(std::size_t(lost), "vertex lies", "vertices lie"), crs)});
    if (crs.empty() && !siteCrs.empty() && !lower(file.name).ends_with(".dxf"))
        file.findings.push_back(
            {Severity::Note, "FC-SYSTEM", file.name, 0, "", "", "",
             fmt::format("The file does not state its coordinate system; it is taken to be in {}.", siteCrs)});
    const auto sense = outOfSense(extentOf(layers), siteCrs, file.name);
    file.findings.insert(file.findings.end(), sense.begin(), sense.end());
    for (const auto& [name, n] : u.lines->layers)
        u.tables.push_back({name, n, name == kInsertedBlocks ? "points" : words(u.lines->role), u.lines->fields});
    file.settings.role = u.lines->role;
    file.settings.levelField = u.lines->levelField;
}

/// Triangles come back as what made them: their corners, and their edges as lines.
void readTriangles(ImportPreview& u) {
    const auto tin = readTriangleMesh(u.file.path);
    GroundLines lines;
    lines.role = LineRole::Breaklines;
    for (const auto& [a, b] : edgesOf(tin)) lines.lines.push_back({tin.vertices[std::size_t(a)], tin.vertices[std::size_t(b)]});
    lines.verticesRead = lines.verticesKept = tin.vertices.size();
    lines.layers.emplace_back(tin.name, tin.triangles.size());
    u.tables.push_back({tin.name, tin.triangles.size(), "breaklines", {}});
    u.lines = std::move(lines);
    u.file.format = "triangles";
}

void readGrid(ImportPreview& u, const std::string& siteCrs) {
    const auto& s = u.file.settings;
    Findings findings;
    auto raster = readRasterIn(u.file.path, siteCrs, s.cell, findings);
    u.file.format = "grid";
    const auto& f = raster.grid.frame;
    const auto values = std::size_t(std::ranges::count_if(raster.grid.values, [](double v) { return !std::isnan(v); }));
    if (values == 0)
        findings.push_back({Severity::Error, "FC-GRID", u.file.name, 0, "", "", "", "No cell of the grid has a value."});
    const auto sense = outOfSense(f.box(), siteCrs, u.file.name);
    findings.insert(findings.end(), sense.begin(), sense.end());
    u.file.findings = std::move(findings);
    u.tables.push_back({fmt::format("{} x {} cells of {:g} m", f.columns(), f.rows(), f.cell), values, "ground", {}});
    u.grid = std::make_shared<const Grid>(std::move(raster.grid));
}

void readMap(ImportPreview& u, const std::string& siteCrs) {
    if (u.file.bytes.text->empty()) u.file.bytes = readBytes(u.file.path);
    u.picture = std::make_shared<const Picture>(readPicture(*u.file.bytes, u.file.name));
    u.file.format = "picture";
    u.tables.push_back({fmt::format("{} x {} pixels", u.picture->width, u.picture->height), 1, "map", {}});
    u.file.findings.clear();
    if (!u.picture->georeference)
        u.file.findings.push_back(
            {Severity::Note, "FC-PICTURE", u.file.name, 0, "", "", "",
             "The picture does not say where it lies. It is not drawn until it is placed by three control points or more."});
    else if (!u.picture->crs.empty() && !siteCrs.empty() && u.picture->crs != siteCrs)
        u.file.findings.push_back({Severity::Warning, "FC-PICTURE", u.file.name, 0, "", "", "",
                                   fmt::format("The picture is in {}, the project in {}: its corners are brought over, which is "
                                               "good for small areas only. Place it by control points if it does not fit.",
                                               u.picture->crs, siteCrs)});
}

} // namespace

GroundKind groundKindOf(const std::filesystem::path& path) {
    const auto ending = lower(path.extension().string());
    if (ending == ".tif" || ending == ".tiff") return looksLikePicture(path) ? GroundKind::Picture : GroundKind::Grid;
    if (isPictureName(path.string())) return GroundKind::Picture;
    for (const auto& [known, kind] : kEndings)
        if (ending == known) return kind;
    return GroundKind::None;
}

void readGround(ImportPreview& u, GroundKind kind, const std::string& siteCrs, const Progress& progress) {
    u.tables.clear();
    progress.report(0.1, "Reading " + u.file.name);
    std::error_code code;
    if (kind != GroundKind::Picture && !std::filesystem::exists(u.file.path, code))
        throw FileError(fmt::format("{} is not where it was ({}); put it back or import it from its new place.", u.file.name,
                                    u.file.path.empty() ? "its place was not kept" : u.file.path));
    switch (kind) {
    case GroundKind::Lines: readLines(u, siteCrs, progress); break;
    case GroundKind::Triangles: readTriangles(u); break;
    case GroundKind::Grid: readGrid(u, siteCrs); break;
    case GroundKind::Picture: readMap(u, siteCrs); break;
    case GroundKind::None: break;
    }
}

void loadBytes(SourceFile& file) {
    if (!file.bytes.text->empty() || file.path.empty()) return;
    const auto kind = groundKindOf(file.path);
    std::error_code code;
    const bool big = std::filesystem::file_size(file.path, code) > kKeptBytes && !code;
    if (kind != GroundKind::None && kind != GroundKind::Picture && big) return;
    file.bytes = readBytes(file.path);
}

Findings outOfSense(const Box2& box, const std::string& crs, const std::string& file) {
    if (box.empty() || crs.empty()) return {};
    const auto say = [&](std::string sentence) {
        return Findings{{Severity::Error, "FC-SENSE", file, 0, "", "", "", std::move(sentence)}};
    };
    if (box.xmin >= -180 && box.xmax <= 180 && box.ymin >= -90 && box.ymax <= 90 && (box.width() > 0 || box.height() > 0)
        && box.width() < 90)
        return say(fmt::format("The coordinates ({:.4f} to {:.4f}, {:.4f} to {:.4f}) look like degrees, not like metres of {}: "
                               "say the file's own system, such as EPSG:4326.",
                               box.xmin, box.xmax, box.ymin, box.ymax, crs));
    int outside = 0;
    for (const auto& p : {Point2{box.xmin, box.ymin}, {box.xmax, box.ymin}, {box.xmin, box.ymax}, {box.xmax, box.ymax}})
        outside += !makesSense(crs, p);
    if (outside == 0) return {};
    const bool swapped = makesSense(crs, {box.centre().y, box.centre().x});
    return say(fmt::format("{} of it (E {:.0f} to {:.0f}, N {:.0f} to {:.0f}) lies outside of where {} is meant for{}.",
                           outside == 4 ? "All" : "Part", box.xmin, box.xmax, box.ymin, box.ymax, crs,
                           swapped ? "; with eastings and northings exchanged it would lie inside" : ""));
}

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

std::string addLines(GroundSources& ground, const GroundLines& lines, const std::string& name, const SourceFile* before) {
    std::vector<std::string> what;
    if (lines.role == LineRole::Outlines || !lines.outlines.empty()) {
        std::map<std::string, Use> uses; // an outline that is replaced keeps what it was for
        for (const auto& o : ground.outlines)
            if (before && o.file == before->name) uses[o.name] = o.use;
        if (before) std::erase_if(ground.outlines, [&](const auto& o) { return o.file == before->name; });
        for (const auto& [label, shape] : lines.outlines) {
            const auto was = uses.find(label);
            ground.outlines.push_back(
                {label, name, shape.ring, was == uses.end() ? proposedUse(label) : was->second, shape.holes});
        }
        what.push_back(counted(lines.outlines.size(), "outline"));
    }
    if (before && lines.lines.empty() && lines.points.empty()) eraseOf(ground, before->name);
    if (!lines.lines.empty() && lines.role != LineRole::Outlines) {
        const auto role = lines.role == LineRole::Contours ? LineRole::Contours : LineRole::Breaklines;
        replaceOrAdd(ground.lines, GroundSources::Lines{name, role, lines.lines}, before);
        what.push_back(counted(lines.lines.size(), "line"));
    }
    if (!lines.points.empty()) {
        std::vector<SurveyPoint> points;
        for (const auto& p : lines.points) points.push_back({"", p, ""});
        replaceOrAdd(ground.points, GroundSources::Points{name, std::move(points)}, before);
        what.push_back(counted(lines.points.size(), "point"));
    }
    return fmt::format("{}", fmt::join(what, ", "));
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

} // namespace

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
        what = addLines(ground, *u.lines, file.name, before);
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
    auto files = *project.files;
    if (before)
        *std::ranges::find(files, before->name, &SourceFile::name) = std::move(file);
    else
        files.push_back(std::move(file));
    e.project.files = part(std::move(files));
    return e;
}

} // namespace fox
