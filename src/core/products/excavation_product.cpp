#include "products/excavation_product.h"

#include "base/errors.h"
#include "base/files.h"
#include "formats/raster.h"
#include "products/block_product.h"
#include "products/layer_product.h"
#include "products/model_product.h"
#include "surfaces/grid_surface.h"

#include <fmt/format.h>

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
    if (spec.wanted == ExcavationSpec::Wanted::Surface) {
        Findings findings;
        in.surface =
            gridSurface(std::make_shared<const Grid>(readRasterIn(spec.surface, making.project.site->crs, {}, findings).grid));
    }
    if (spec.wanted == ExcavationSpec::Wanted::Blocks) in.blocks = blocksNamed(making, spec.blocks);
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
    return making.cache.get(
        "excavation",
        {model, p.holes, p.site, blocks, KeyPart::value(spec),
         KeyPart::value(stampsOf({spec.surface, spec.insideFile, spec.blocks}))},
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
