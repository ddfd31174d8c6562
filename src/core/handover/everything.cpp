#include "handover/everything.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/raster.h"
#include "handover/contact_layer.h"
#include "handover/file_word.h"
#include "handover/hole_layer.h"
#include "handover/line_layers.h"
#include "handover/model_layers.h"
#include "handover/section_files.h"
#include "handover/value_layer.h"

#include <set>

namespace fox {

namespace {

std::vector<FeatureLayer> layersOf(const ProductSet& set) {
    const auto& project = set.project;
    std::vector<FeatureLayer> out;
    const auto add = [&](FeatureLayer layer) {
        if (!layer.features.empty()) out.push_back(std::move(layer));
    };
    add(holeLayer(*project.holes, project.site->crs));
    add(intervalLayer(set));
    add(contactLayer(set));
    add(valueLayer(project));
    for (auto& layer : lineLayers(set)) add(std::move(layer));
    if (set.contours) add(contourLayer(*set.contours, "contours", project, set.contourInterval));
    const auto& units = project.sequence->units;
    if (set.modelGrid && !set.modelGrid->bases.empty()) {
        add(mapLayer(set, {}));
        for (std::size_t u = 0; u < set.modelGrid->bases.size(); ++u) {
            const double interval = contourInterval(set.modelGrid->bases[u]);
            add(contourLayer(contoursOf(set.modelGrid->bases[u], interval), "contours_base_" + units[u].code, project, interval));
        }
    }
    for (std::size_t i = 0; i < set.sections.size(); ++i) {
        const auto& name = (*project.sections)[i].name;
        for (auto& layer : sectionLayers(*set.sections[i], *project.sequence, name, project.site->crs)) {
            layer.name = fmt::format("section_{}_{}", name, layer.name);
            add(std::move(layer));
        }
    }
    return out;
}

std::vector<NamedGrid> gridsOf(const ProductSet& set) {
    std::vector<NamedGrid> out;
    if (set.ground) out.push_back({"ground", *set.ground});
    const auto& units = set.project.sequence->units;
    for (std::size_t u = 0; set.modelGrid && u < set.modelGrid->bases.size(); ++u) {
        const auto& base = set.modelGrid->bases[u];
        out.push_back({"base_" + units[u].code, base});
        auto thickness = set.modelGrid->top(u);
        for (std::size_t c = 0; c < thickness.values.size(); ++c) thickness.values[c] -= base.values[c];
        out.push_back({"thickness_" + units[u].code, std::move(thickness)});
    }
    for (std::size_t i = 0; i < set.waterSurfaces.size(); ++i)
        if (set.waterSurfaces[i]->levels) out.push_back({(*set.project.waterSurfaces)[i].name, *set.waterSurfaces[i]->levels});
    return out;
}

} // namespace

void writeEverything(const std::filesystem::path& gpkg, const ProductSet& set) {
    auto layers = layersOf(set);
    auto grids = gridsOf(set);
    if (layers.empty() && grids.empty()) throw Error("The project is empty: there is nothing to export yet.");
    std::set<std::string> taken; // a GeoPackage has one table of a name, whatever the case
    const auto giveName = [&](std::string& name) {
        const auto word = fileWord(name);
        name = word;
        for (int n = 2; !taken.insert(lower(name)).second; ++n) name = fmt::format("{}_{}", word, n);
    };
    for (auto& l : layers) giveName(l.name);
    for (auto& g : grids) giveName(g.name);
    writeVector(gpkg, layers);
    addGrids(gpkg, grids, set.project.site->crs);
}

} // namespace fox
