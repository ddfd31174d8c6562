#include "products/block_product.h"

#include "base/errors.h"
#include "products/layer_product.h"
#include "products/log_products.h"
#include "products/model_product.h"

namespace fox {

namespace {

BlockProduct madeBlocks(const Making& making, const BlockSpec& spec, const InterpretedLogs* logs, const Model* model) {
    const auto& p = making.project;
    const auto begin = std::chrono::steady_clock::now();
    BlockProduct out;
    out.spec = spec;
    try {
        const auto frame = frameOf(p);
        if (!model || !logs || p.sequence->units.empty() || p.holes->empty() || !frame)
            throw Error("The project has no holes or no sequence, so it has no model to put blocks into.");
        auto composites = compositesOf(spec, *p.holes, *logs, *model, *p.valuePoints);
        making.progress.report(0.91, "Blocks " + spec.name);
        out.blocks = std::make_shared<const BlockModel>(makeBlocks(spec, *frame, composites, *model, making.progress.silent()));
        out.judged = judgeBlocks(out.blocks->spec, composites, making.progress.silent());
        if (spec.method == BlockSpec::Method::Kriging || spec.verticalFitted) out.lags = blockLags(spec, composites.values);
        out.composites = std::make_shared<const Composites>(std::move(composites));
    } catch (const Stopped&) {
        throw;
    } catch (const std::exception& e) {
        out.problem = e.what();
    }
    out.madeAt = std::chrono::system_clock::now();
    out.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    return out;
}

/// The blocks as they were made last, if making them anew would take long and nobody asked for it.
std::shared_ptr<const BlockProduct> leftAsItWas(const Making& making, const BlockSpec& spec) {
    const auto* at = making.blocksAtHand;
    if (!at || at->again.contains(spec.name)) return nullptr;
    const auto known = at->last.find(spec.name);
    const auto frame = frameOf(making.project);
    if (known == at->last.end() || !known->second->blocks || !frame) return nullptr;
    const auto [nx, ny, nz] = blockCounts(spec, *frame);
    const double more = nx * ny * nz / std::max(1.0, double(known->second->blocks->blocks()));
    if (known->second->seconds * more <= at->patience) return nullptr;
    return making.cache.get(
        "blocks out of date", {known->second},
        [&] {
            auto old = *known->second;
            old.outOfDate = true;
            return old;
        },
        [](const BlockProduct& b) { return sizeof(b); });
}

} // namespace

std::shared_ptr<const BlockProduct> blockProduct(const Making& making, const BlockSpec& spec) {
    const auto model = modelProduct(making);
    const auto logs = interpretedLogs(making);
    const auto& p = making.project;
    const ProductKey key{model,
                         logs,
                         p.holes,
                         p.site,
                         spec.of == BlockSpec::Of::Values ? p.valuePoints : nullptr,
                         KeyPart::value(spec),
                         KeyPart::value(stampsOf({spec.of == BlockSpec::Of::Points ? spec.file : std::string()}))};
    if (!making.cache.knows("blocks", key))
        if (auto old = leftAsItWas(making, spec)) return old;
    return making.cache.get(
        "blocks", key, [&] { return madeBlocks(making, spec, logs.get(), model.get()); },
        [](const BlockProduct& b) { return sizeof(b) + (b.blocks ? b.blocks->blocks() * 24 : 0); });
}

} // namespace fox
