#include "project/export_files.h"

#include "base/errors.h"
#include "base/files.h"
#include "formats/raster.h"
#include "formats/vector.h"
#include "ground/tin_files.h"
#include "project/ags_export.h"
#include "project/hole_layer.h"

#include <fmt/format.h>

namespace fox {

const std::vector<ExportKind>& exportKinds() {
    static const std::vector<std::string> kGrids{"tif", "asc", "xyz", "gpkg"};
    static const std::vector<ExportKind> kKinds{
        {"ground", "Ground", {"tif", "asc", "xyz", "gpkg", "landxml", "dxf", "obj", "ply"}},
        {"contours", "Contours of the ground", {"gpkg", "dxf"}},
        {"bases", "Bases of units", kGrids},
        {"tops", "Tops of units", kGrids},
        {"thickness", "Thicknesses of units", kGrids},
        {"holes", "Holes", {"ags", "gpkg"}}};
    return kKinds;
}

namespace {

Grid difference(const Grid& a, const Grid& b) {
    Grid out(a.frame);
    for (std::size_t i = 0; i < out.values.size(); ++i) out.values[i] = a.values[i] - b.values[i];
    return out;
}

/// Name and grid of what is asked for, one a unit.
std::vector<std::pair<std::string, Grid>> gridsOf(const ProductSet& set, const std::string& what) {
    std::vector<std::pair<std::string, Grid>> out;
    if (what == "ground" && set.ground) out.emplace_back("ground", *set.ground);
    if (!set.modelGrid) return out;
    const auto& units = set.project.sequence->units;
    for (std::size_t u = 0; u < units.size(); ++u) {
        const bool hasBase = u < set.modelGrid->bases.size();
        if (what == "bases" && hasBase) out.emplace_back("base_" + units[u].code, set.modelGrid->bases[u]);
        if (what == "tops") out.emplace_back("top_" + units[u].code, set.modelGrid->top(u));
        if (what == "thickness" && hasBase)
            out.emplace_back("thickness_" + units[u].code, difference(set.modelGrid->top(u), set.modelGrid->bases[u]));
    }
    return out;
}

/// Contours as lines at their level, the stronger ones marked.
FeatureLayer contourLayer(const ProductSet& set) {
    FeatureLayer layer{"contours", set.project.site->crs, {}};
    const double major = set.contourInterval * set.project.contours->majorEvery;
    for (const auto& c : *set.contours) {
        if (c.line.size() < 2) continue;
        Feature f{GeometryKind::Line, {{}}, true, {{"level", c.level}}};
        f.attributes["major"] = std::abs(std::remainder(c.level, major)) < 1e-6 ? 1.0 : 0.0;
        for (const auto& p : c.line) f.parts[0].push_back({p.x, p.y, c.level});
        layer.features.push_back(std::move(f));
    }
    return layer;
}

} // namespace

std::vector<std::filesystem::path> exportFiles(const ProductSet& set, const std::string& what, const std::string& as,
                                               const std::filesystem::path& folder) {
    const auto kind = std::ranges::find(exportKinds(), what, &ExportKind::what);
    if (kind == exportKinds().end() || !std::ranges::count(kind->as, as))
        throw Error(fmt::format("{} can't be exported as {} by this version; nothing was written.", what, as));
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    const auto& crs = set.project.site->crs;
    const std::string ending = as == "landxml" ? ".xml" : "." + as;
    ReplaceFiles outputs;
    if (what == "holes" && as == "ags") {
        const auto files = agsFilesOf(set.project);
        if (files.empty()) throw Error("There are no holes to export.");
        for (const auto& [name, bytes] : files)
            outputs.add(folder / name, [&](const auto& scratch) { writeBytes(scratch, bytes); });
    } else if (what == "contours") {
        if (!set.contours || set.contours->empty())
            throw Error("There are no contours to export: the project has no ground yet.");
        outputs.add(folder / ("contours" + ending), [&](const auto& scratch) { writeVector(scratch, {contourLayer(set)}); });
    } else if (what == "holes")
        outputs.add(folder / "holes.gpkg",
                    [&](const auto& scratch) { writeVector(scratch, {holeLayer(*set.project.holes, crs)}); });
    else if (what == "ground" && isTinEnding("x" + ending))
        outputs.add(folder / ("ground" + ending), [&](const auto& scratch) { writeTin(scratch, set.terrain->tin, "ground"); });
    else {
        for (const auto& entry : gridsOf(set, what))
            outputs.add(folder / (entry.first + ending), [&](const auto& scratch) { writeRaster(scratch, entry.second, crs); });
        if (outputs.targets().empty())
            throw Error(fmt::format("There is no {} to export: the project has no ground or no sequence yet.", what));
    }
    outputs.commit();
    return outputs.targets();
}

} // namespace fox
