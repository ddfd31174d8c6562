#pragma once
#include "blocks/block_judging.h"
#include "blocks/block_variogram.h"
#include "products/making.h"

#include <chrono>

namespace fox {

/// Values in blocks of the project, or why there are none.
struct BlockProduct {
    BlockSpec spec;                               ///< that they were made by
    std::shared_ptr<const BlockModel> blocks;     ///< null if they can't be made
    std::shared_ptr<const Composites> composites; ///< that they are made from; null likewise
    BlockLags lags;                               ///< of the composites, with kriging or a fitted vertical factor
    BlockJudgement judged;
    std::string problem; ///< a sentence; empty if they could
    std::chrono::system_clock::time_point madeAt = {};
    double seconds = 0;     ///< that it took
    bool outOfDate = false; ///< what it is made from, or how, has changed since; see BlocksAtHand
};

/// Block models that take long are not made after every edit: they stay as they were, out of date, until they are asked for.
struct BlocksAtHand {
    std::map<std::string, std::shared_ptr<const BlockProduct>> last; ///< by name: made last
    std::set<std::string> again;                                     ///< names of those to be made whatever it takes
    double patience = 1; ///< seconds: what takes less, by the last time and the number of blocks, is made by itself
};

std::shared_ptr<const BlockProduct> blockProduct(const Making&, const BlockSpec&);

} // namespace fox
