#include "products/block_product.h"

#include "base/errors.h"
#include "products/layer_product.h"
#include "products/log_products.h"
#include "products/model_product.h"

namespace fox {

std::shared_ptr<const BlockProduct> blockProduct(const Making& making, const BlockSpec& spec) {
    const auto model = modelProduct(making);
    const auto logs = interpretedLogs(making);
    const auto& p = making.project;
    return making.cache.get(
        "blocks", {model, logs, p.holes, p.site, KeyPart::value(spec), KeyPart::value(stampsOf({spec.file}))},
        [&] {
            BlockProduct out{spec, nullptr, nullptr, {}, ""};
            try {
                const auto frame = frameOf(p);
                if (!model || p.sequence->units.empty() || p.holes->empty() || !frame)
                    throw Error("The project has no holes or no sequence, so it has no model to put blocks into.");
                auto composites = compositesOf(spec, *p.holes, *logs, *model);
                making.progress.report(0.91, "Blocks " + spec.name);
                out.blocks =
                    std::make_shared<const BlockModel>(makeBlocks(spec, *frame, composites, *model, making.progress.silent()));
                out.judged = judgeBlocks(spec, composites, out.blocks->variogram, making.progress.silent());
                out.composites = std::make_shared<const Composites>(std::move(composites));
            } catch (const Stopped&) {
                throw;
            } catch (const std::exception& e) {
                out.problem = e.what();
            }
            return out;
        },
        [](const BlockProduct& b) { return sizeof(b) + (b.blocks ? b.blocks->blocks() * 24 : 0); });
}

} // namespace fox
