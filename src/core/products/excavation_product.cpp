#include "products/excavation_product.h"

#include "base/errors.h"
#include "base/files.h"
#include "formats/raster.h"
#include "products/block_product.h"
#include "products/layer_product.h"
#include "products/model_product.h"
#include "products/named_surface_product.h"
#include "products/water_product.h"
#include "surfaces/grid_surface.h"

#include <fmt/format.h>
#include <set>

namespace fox {

namespace {

std::shared_ptr<const BlockModel> blocksNamed(const Making& making, const std::string& name) {
    const auto& models = *making.project.blockModels;
    const auto at = std::ranges::find(models, name, &BlockSpec::name);
    BlockSpec spec;
    if (at != models.end()) {
        spec = *at;
    } else {
        if (!std::filesystem::exists(name))
            throw Error(fmt::format("The project does not have a block model \"{}\", nor is it a file.", name));
        spec = blockSpecOf(readBytes(name), std::filesystem::path(name).parent_path());
    }
    const auto made = blockProduct(making, spec);
    if (!made->blocks) throw Error(made->problem);
    return made->blocks;
}

/// The excavation that is dug before; null if there is none. @throws Error for one that is not there, or that waits for this one
std::shared_ptr<const ExcavationProduct> before(const Making& making, const ExcavationSpec& spec) {
    if (spec.after.empty()) return nullptr;
    const auto& all = *making.project.excavations;
    std::set<std::string> seen{spec.name};
    for (auto name = spec.after; !name.empty();) {
        const auto at = std::ranges::find(all, name, &ExcavationSpec::name);
        if (at == all.end()) throw Error(fmt::format("The project does not have an excavation \"{}\" to be dug before.", name));
        if (!seen.insert(name).second)
            throw Error(fmt::format("{} waits for {}, which waits for it: one must be first.", spec.name, spec.after));
        name = at->after;
    }
    const auto made = excavationProduct(making, *std::ranges::find(all, spec.after, &ExcavationSpec::name));
    if (!made->dig) throw Error(fmt::format("{}, which is dug before: {}", spec.after, made->problem));
    return made;
}

std::shared_ptr<const FittedWaterSurface> waterOf(const Making& making, const ExcavationSpec& spec) {
    if (spec.water.empty() || spec.waterLevel) return nullptr;
    const auto& all = *making.project.waterSurfaces;
    const auto at = std::ranges::find(all, spec.water, &WaterSurface::name);
    if (at == all.end()) throw Error(fmt::format("The project does not have a water surface \"{}\".", spec.water));
    return fittedWater(making, *at);
}

} // namespace

ExcavationInputs excavationInputs(const Making& making, const ExcavationSpec& spec) {
    ExcavationInputs in;
    in.model = modelProduct(making);
    const auto frame = frameOf(making.project);
    if (!in.model || in.model->sequence->units.empty() || making.project.holes->empty() || !frame)
        throw Error("The project has no holes or no sequence, so it has no model to dig in.");
    in.spec = spec;
    in.site = *frame;
    in.inside = areaOf(spec.insideFile, spec.insideRing);
    in.limit = areaOf(spec.limitFile, spec.limitRing);
    if (const auto water = waterOf(making, spec)) in.water = water->fit.surface;
    if (const auto first = before(making, spec)) in.before = std::shared_ptr<const Grid>(first->dig, &first->dig->dug);
    if (spec.wanted == ExcavationSpec::Wanted::Blocks) in.blocks = blocksNamed(making, spec.blocks);
    if (spec.wanted == ExcavationSpec::Wanted::Surface) {
        const auto& all = *making.project.namedSurfaces;
        if (const auto at = std::ranges::find(all, spec.surface, &NamedSurface::name); at != all.end()) {
            in.surface = fittedNamedSurface(making, *at)->surface;
        } else {
            Findings findings;
            in.surface = gridSurface(
                std::make_shared<const Grid>(readRasterIn(spec.surface, making.project.site->crs, {}, findings).grid));
        }
    }
    return in;
}

std::shared_ptr<const ExcavationProduct> excavationProduct(const Making& making, const ExcavationSpec& spec) {
    const auto& p = making.project;
    const auto model = modelProduct(making);
    // what its blocks are made from may change without the project: a file of points, for instance
    std::shared_ptr<const BlockProduct> blocks;
    if (spec.wanted == ExcavationSpec::Wanted::Blocks)
        if (const auto at = std::ranges::find(*p.blockModels, spec.blocks, &BlockSpec::name); at != p.blockModels->end())
            blocks = blockProduct(making, *at);
    // what is missing, or waits in a circle, is said by excavationInputs
    std::shared_ptr<const ExcavationProduct> first;
    try {
        first = before(making, spec);
    } catch (const Error&) {
    }
    return making.cache.get(
        "excavation",
        {model, p.holes, p.site, blocks, first, p.waterSurfaces, p.namedSurfaces, spec.after.empty() ? nullptr : p.excavations,
         KeyPart::value(spec), KeyPart::value(stampsOf({spec.surface, spec.insideFile, spec.limitFile, spec.blocks}))},
        [&] {
            ExcavationProduct out{spec, nullptr, ""};
            try {
                const auto inputs = excavationInputs(making, spec);
                making.progress.report(0.915, "Excavation " + spec.name);
                out.dig = std::make_shared<const Excavation>(excavate(inputs, making.progress.silent()));
            } catch (const Stopped&) {
                throw;
            } catch (const std::exception& e) {
                out.problem = e.what();
            }
            return out;
        },
        [](const ExcavationProduct& e) { return sizeof(e) + (e.dig ? bytesOf(e.dig->dug) : 0); });
}

} // namespace fox
