#include "base/errors.h"
#include "base/files.h"
#include "blocks/block_simulation.h"
#include "blocks/block_totals.h"
#include "handover/block_files.h"
#include "handover/excavation_files.h"
#include "output.h"
#include "products/block_product.h"
#include "products/excavation_product.h"
#include "products/products.h"
#include "project/json.h"
#include "specification.h"
#include "store/store.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>

namespace fox::run {

using nlohmann::json;

namespace {

json inJson(const BlockTotal& t) {
    return {{"blocks", t.blocks}, {"volume", t.volume}, {"mass", t.mass ? json(*t.mass) : json()}};
}

json blockSummary(const BlockProduct& made, const Sequence& sequence, const Options& w) {
    const auto& m = *made.blocks;
    json byUnit = json::object();
    for (const auto& u : totalsByUnit(m, sequence))
        if (u.total.blocks > 0) byUnit[sequence.units[u.unit].code] = u.total.blocks;
    json out{{"blocks", m.known()},
             {"composites", m.composites},
             {"mean", number(m.known() > 0 ? m.mean() : kNoValue)},
             {"unknown", totalOf(m, sequence).unknown},
             {"by_unit", byUnit}};
    if (made.spec.verticalFitted) out["vertical"] = m.spec.vertical;
    if (const auto& v = m.variogram)
        out["variogram"] = {
            {"model", name(v->model)}, {"nugget", v->nugget}, {"partial_sill", v->partialSill}, {"range", v->range}};
    if (!w.above && !w.below) return out;
    const ValueLimits limits{w.above, w.below};
    auto& chosen = out["selected"] = inJson(totalOf(m, sequence, limits));
    if (w.simulations > 0) {
        const auto range = BlockSimulation(made.blocks, *made.composites, w.simulations).volume(limits);
        chosen["p10"] = number(range.p10), chosen["p50"] = number(range.p50), chosen["p90"] = number(range.p90);
    }
    return out;
}

} // namespace

void blocks(const Options& w) {
    const auto text = readBytes(w.spec);
    const auto spec = ofSpecification(w.spec, [&] { return blockSpecOf(text, w.spec.parent_path()); });
    auto project = ProjectStore::read(w.file);
    project.blockModels = part(std::vector{spec});
    const auto set = Products().of(project, {}, {ProductKind::Blocks});
    const auto& made = *set->blocks.front();
    if (!made.blocks) throw Error(fmt::format("{}: {}", w.spec.string(), made.problem));
    for (const auto& f : made.blocks->findings) std::cerr << describe(f) << '\n';
    auto files = prepareBlockFile(*made.blocks, *project.sequence, project.site->crs, w.out);
    if (!w.table.empty())
        files.add(w.table, [&](const auto& scratch) {
            writeBytes(scratch, totalsCsv(*made.blocks, *project.sequence, {w.above, w.below}));
        });
    files.commit();
    print(blockSummary(made, *project.sequence, w), w.json);
}

void excavateVerb(const Options& w) {
    const auto text = readBytes(w.spec);
    const auto spec = ofSpecification(w.spec, [&] { return excavationSpecOf(text, w.spec.parent_path()); });
    const auto project = ProjectStore::read(w.file);
    ProductCache cache;
    const Progress progress;
    const Making making(project, cache, progress);
    Excavation dig;
    std::optional<ExcavationRange> range;
    try {
        const auto inputs = excavationInputs(making, spec);
        dig = excavate(inputs);
        if (spec.realisations > 0) range = excavationRange(inputs, {spec.realisations, 1});
    } catch (const Error& e) {
        throw Error(fmt::format("{}: {}", w.spec.string(), e.what()));
    }
    prepareExcavationFiles(dig, project.site->crs, w.out).commit();
    print(json::parse(excavationSummary(dig, *project.sequence, range)), w.json);
}

} // namespace fox::run
