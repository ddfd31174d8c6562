#include "importing/ground_import.h"

#include "base/files.h"
#include "base/text.h"
#include "formats/archive.h"
#include "formats/crs.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"

#include <fmt/format.h>
#include <set>

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

/// All layers of a file in the site's system, and what is to be said of that.
struct SiteLayers {
    std::vector<FeatureLayer> layers;
    std::string crs; ///< of the file, by its settings or its own word
    Findings findings;
};

SiteLayers layersOf(const SourceFile& file, const Area& keep, const std::string& siteCrs, const Progress& progress) {
    SiteLayers out;
    out.crs = file.settings.crs.empty() ? vectorSystem(file.path) : file.settings.crs;
    std::optional<CoordinateChange> toSite;
    if (!out.crs.empty() && !siteCrs.empty() && out.crs != siteCrs) toSite.emplace(out.crs, siteCrs);
    out.layers = readVector(file.path, around(keep, toSite), progress);
    const int lost = toSite ? moveTo(*toSite, out.layers, progress) : 0;
    if (lost > 0)
        out.findings.push_back({Severity::Error, "FC-SYSTEM", file.name, 0, "", "", "",
                                fmt::format("{} where {} does not reach, and left out.",
                                            counted(std::size_t(lost), "vertex lies", "vertices lie"), out.crs)});
    if (out.crs.empty() && !siteCrs.empty() && !lower(file.name).ends_with(".dxf"))
        out.findings.push_back({Severity::Note, "FC-SYSTEM", file.name, 0, "", "", "",
                                fmt::format("The file does not state its coordinate system; it is taken to be in {}.", siteCrs)});
    const auto sense = outOfSense(extentOf(out.layers), siteCrs, file.name);
    out.findings.insert(out.findings.end(), sense.begin(), sense.end());
    return out;
}

/// Points and lines with a unit: if that is asked for, or if an attribute is called so and nobody says what they are. A
/// drawing's layers are no strata.
bool readAsContacts(const SourceSettings& s, const std::vector<FeatureLayer>& layers) {
    if (s.as != SourceSettings::As::Guess) return s.as == SourceSettings::As::Contacts;
    return !s.role && !proposedUnitField(layers).empty();
}

void readContacts(ImportPreview& u, SiteLayers read) {
    auto& s = u.file.settings;
    if (s.unitField.empty()) s.unitField = proposedUnitField(read.layers);
    if (s.unitField.empty())
        throw FileError(fmt::format("{} has no attribute that names units; say which one does.", u.file.name));
    u.contacts = contactPointsOf(read.layers, s.unitField, s.levelField, u.file.name);
    s.as = SourceSettings::As::Contacts;
    u.file.format = "contacts";
    u.file.findings = std::move(read.findings);
    u.file.findings.insert(u.file.findings.end(), u.contacts->findings.begin(), u.contacts->findings.end());
    for (const auto& layer : read.layers) {
        std::set<std::string> fields;
        for (const auto& f : layer.features)
            for (const auto& [name, value] : f.attributes) fields.insert(name);
        u.tables.push_back({layer.name, layer.features.size(), "contacts", {fields.begin(), fields.end()}});
    }
}

void readLines(ImportPreview& u, const std::string& siteCrs, const Progress& progress) {
    auto& file = u.file;
    auto& s = file.settings;
    auto read = layersOf(file, Area(s.keep), siteCrs, progress);
    if (readAsContacts(s, read.layers)) return readContacts(u, std::move(read));
    if (lower(file.name).ends_with(".dxf") && !s.role && s.layerRoles.empty()
        && std::ranges::count_if(read.layers, [](const FeatureLayer& l) { return l.name != kInsertedBlocks; }) > 1) {
        u.proposedRoles = proposedLayerRoles(read.layers);
    }
    LineChoices choices{s.role, s.levelField, s.thin, Area(s.keep), s.groupsOut, s.layerRoles};
    if (u.asksForLayers()) choices.layerRoles = u.proposedRoles;
    choices.numberField = s.numberField, choices.codeField = s.codeField;
    choices.filter = s.filter;
    choices.objects = s.objects;
    u.lines = groundLinesOf(read.layers, choices, file.name);
    u.lines->crs = read.crs;
    file.format = words(u.lines->role);
    file.findings = u.lines->findings;
    file.findings.insert(file.findings.end(), read.findings.begin(), read.findings.end());
    for (const auto& layer : u.lines->layers)
        u.tables.push_back({layer.name, layer.features,
                            !layer.used                     ? "not imported"
                            : layer.name == kInsertedBlocks ? "points"
                                                            : words(layer.role),
                            u.lines->fields});
    if (u.asksForLayers()) return;
    s.role = u.lines->role;
    s.levelField = u.lines->levelField;
}

/// Triangles come back as what made them: their corners, and their edges as lines. A file may hold several surfaces: design,
/// existing ground, bases. Those that are not unticked are used, and it is said if they are several.
void readTriangles(ImportPreview& u) {
    GroundLines lines;
    lines.role = LineRole::Breaklines;
    std::vector<std::string> used;
    for (const auto& tin : readSurfaces(u.file.path)) {
        const bool in = !std::ranges::count(u.file.settings.groupsOut, tin.name);
        lines.layers.push_back({tin.name, tin.triangles.size(), lines.role, in});
        u.tables.push_back({tin.name, tin.triangles.size(), in ? "breaklines" : "not imported", {}});
        lines.verticesRead += tin.vertices.size();
        if (!in) continue;
        used.push_back(tin.name);
        for (const auto& [a, b] : edgesOf(tin))
            lines.lines.push_back({tin.vertices[std::size_t(a)], tin.vertices[std::size_t(b)]});
        lines.verticesKept += tin.vertices.size();
    }
    if (used.size() > 1)
        u.file.findings.push_back(
            {Severity::Warning, "FC-LINES", u.file.name, 0, "", "", "",
             fmt::format("The file has {} surfaces ({}), and all of them are taken as ground. Untick those that "
                         "are not the ground as it is.",
                         used.size(), fmt::join(used, ", "))});
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
    if (ending == ".tif" || ending == ".tiff")
        return looksLikePicture(LocalFile(path).path()) ? GroundKind::Picture : GroundKind::Grid;
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
    if (isArchiveName(file.path)) return;
    const LocalFile local(file.path);
    const auto kind = groundKindOf(local.path());
    std::error_code code;
    const bool big = std::filesystem::file_size(local.path(), code) > kKeptBytes && !code;
    if (kind != GroundKind::None && kind != GroundKind::Picture && big) return;
    file.bytes = readBytes(local.path());
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
    const AreaOfUse area(crs);
    int outside = 0;
    for (const auto& p : {Point2{box.xmin, box.ymin}, {box.xmax, box.ymin}, {box.xmin, box.ymax}, {box.xmax, box.ymax}})
        outside += !area.holds(p);
    if (outside == 0) return {};
    const bool swapped = area.holds({box.centre().y, box.centre().x});
    auto out = say(fmt::format("{} of it (E {:.0f} to {:.0f}, N {:.0f} to {:.0f}) lies outside of where {} is meant for{}.",
                               outside == 4 ? "All" : "Part", box.xmin, box.xmax, box.ymin, box.ymax, crs,
                               swapped ? "; with eastings and northings exchanged it would lie inside" : ""));
    if (swapped) out.front().rule = "FC-SWAPPED";
    return out;
}

} // namespace fox
