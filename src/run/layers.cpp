#include "base/errors.h"
#include "base/files.h"
#include "handover/layer_files.h"
#include "handover/mesh_files.h"
#include "handover/where_files.h"
#include "output.h"
#include "products/products.h"
#include "specification.h"
#include "store/store.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>

namespace fox::run {

using nlohmann::json;

namespace {

LayerFileWords wordsOf(const Project& project, const std::string& specification, const Findings& findings) {
    LayerFileWords words{project.name, project.site->crs, {}, specification, today(), findings};
    for (const auto& u : project.sequence->units) words.units.push_back(u.code);
    return words;
}

void checkFolder(const Options& w) {
    const auto checked = checkLayerFiles(w.checked);
    print(json::parse(layerSummary(checked.grid)), w.json);
    if (checked.faults.empty()) return;
    throw Error(
        fmt::format("{}: {}{}", w.checked.string(), checked.faults.front(),
                    checked.faults.size() == 1 ? "" : fmt::format(" There are {} faults in all.", checked.faults.size())));
}

} // namespace

void layers(const Options& w) {
    if (!w.checked.empty()) return checkFolder(w);
    if (w.file.empty() || w.spec.empty() || w.out.empty())
        throw UsageError("layers needs PROJECT.gpkg, --spec and --out, or --check.");
    const auto text = readBytes(w.spec);
    const auto spec = ofSpecification(w.spec, [&] { return layerSpecOf(text, w.spec.parent_path()); });
    auto project = ProjectStore::read(w.file);
    project.layeredGrids = part(std::vector{spec});
    const auto set = Products().of(project, {}, {ProductKind::Layers});
    const auto& made = *set->layers.front();
    if (!made.grid) throw Error(fmt::format("{}: {}", w.spec.string(), made.problem));
    for (const auto& f : made.findings) std::cerr << describe(f) << '\n';
    writeLayerFiles(*made.grid, wordsOf(project, text, made.findings), w.out);
    print(json::parse(layerSummary(*made.grid)), w.json);
}

void mesh(const Options& w) {
    const auto text = readBytes(w.spec);
    const auto spec = ofSpecification(w.spec, [&] { return meshSpecOf(text, w.spec.parent_path()); });
    auto project = ProjectStore::read(w.file);
    project.meshes = part(std::vector{spec});
    const auto set = Products().of(project, {}, {ProductKind::Meshes});
    const auto& made = *set->meshes.front();
    if (!made.mesh) throw Error(fmt::format("{}: {}", w.spec.string(), made.problem));
    for (const auto& f : made.findings) std::cerr << describe(f) << '\n';
    prepareMeshFiles(*made.mesh, spec.origin, wordsOf(project, text, made.findings), w.out).commit();
    print(json::parse(meshSummary(*made.mesh)), w.json);
}

void where(const Options& w) {
    const auto set = Products().of(ProjectStore::read(w.file), {}, Wanted{});
    Point2 origin;
    if (!w.origin.empty()) {
        const auto given = numbers(w.origin, "--origin", 2);
        origin = {given[0], given[1]};
    }
    WhereAnswer answer;
    auto files = prepareWhere(*set, w.points, w.out, answer, origin);
    for (const auto& f : listed(answer.findings)) std::cerr << describe(f) << '\n';
    files.commit();
    print({{"points", answer.points}, {"outside", answer.outside}}, w.json);
}

} // namespace fox::run
