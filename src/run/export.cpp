#include "base/errors.h"
#include "formats/raster.h"
#include "formats/vector.h"
#include "ground/tin_files.h"
#include "output.h"
#include "project/hole_layer.h"
#include "project/products.h"
#include "project/store.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>
#include <set>

namespace fox::run {

namespace {

const std::map<std::string, std::string>& endings() {
    static const std::map<std::string, std::string> kEndings{{"tif", ".tif"}, {"asc", ".asc"}, {"xyz", ".xyz"}, {"gpkg", ".gpkg"}, {"landxml", ".xml"}, {"dxf", ".dxf"}, {"obj", ".obj"}};
    return kEndings;
}

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
        if (what == "thickness" && hasBase) out.emplace_back("thickness_" + units[u].code, difference(set.modelGrid->top(u), set.modelGrid->bases[u]));
    }
    return out;
}

} // namespace

void exportFiles(const Words& w) {
    static const std::set<std::string> kWhat{"ground", "bases", "tops", "thickness", "holes", "contours", "sections", "model"};
    const auto ending = endings().find(w.as);
    if (!kWhat.contains(w.what)) throw UsageError(fmt::format("--what {}: there are ground, bases, tops, thickness, holes.", w.what));
    const bool grid = ending != endings().end() && isRasterEnding("x" + ending->second);
    const bool tin = ending != endings().end() && !grid;
    const bool possible = w.what == "holes" ? w.as == "gpkg" : (w.what == "ground" && tin) || (grid && w.what != "contours" && w.what != "sections" && w.what != "model");
    if (!possible) throw Error(fmt::format("{} can't be exported as {} by this version; nothing was written.", w.what, w.as));
    const auto set = Products().of(ProjectStore::read(w.file));
    std::error_code code;
    std::filesystem::create_directories(w.dir, code);
    const auto crs = set->project.site->crs;
    Outputs outputs;
    if (w.what == "holes") {
        outputs.add(w.dir / "holes.gpkg", [&](const auto& scratch) { writeVector(scratch, {holeLayer(*set->project.holes, crs)}); });
    } else if (tin) {
        outputs.add(w.dir / ("ground" + ending->second), [&](const auto& scratch) { writeTin(scratch, set->terrain->tin, "ground"); });
    } else {
        const auto grids = gridsOf(*set, w.what);
        if (grids.empty()) throw Error(fmt::format("{} has no {} to export.", w.file.string(), w.what));
        for (const auto& [name, values] : grids) outputs.add(w.dir / (name + ending->second), [&, &v = values](const auto& scratch) { writeRaster(scratch, v, crs); });
    }
    outputs.commit();
    if (w.json) return print({{"files", outputs.names()}}, true);
    for (const auto& name : outputs.names()) std::cout << name << '\n';
}

} // namespace fox::run
