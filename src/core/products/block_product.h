#pragma once
#include "blocks/block_judging.h"
#include "products/making.h"

namespace fox {

/// Values in blocks of the project, or why there are none.
struct BlockProduct {
    BlockSpec spec;
    std::shared_ptr<const BlockModel> blocks;     ///< null if they can't be made
    std::shared_ptr<const Composites> composites; ///< that they are made from; null likewise
    BlockJudgement judged;
    std::string problem; ///< a sentence; empty if they could
};
std::shared_ptr<const BlockProduct> blockProduct(const Making&, const BlockSpec&);

} // namespace fox
