#pragma once
#include "blocks/block_model.h"
#include "blocks/value_limits.h"

namespace fox {

/// What some blocks come to.
struct BlockTotal {
    std::size_t blocks = 0;
    double volume = 0;                                         ///< cubic metres
    std::optional<double> mass = 0;                            ///< tonnes; none if one of the units has no unit weight
    double mean = kNoValue, least = kNoValue, most = kNoValue; ///< of the values; kNoValue without blocks
    std::size_t unknown = 0;                                   ///< blocks of wanted units without a value: beyond reach
};
/// Of the blocks with values within limits.
BlockTotal totalOf(const BlockModel&, const Sequence&, const ValueLimits& = {});

struct UnitTotal {
    std::size_t unit; ///< in the sequence
    BlockTotal total;
};
/// A unit that has blocks, known or not, in the order of the sequence.
std::vector<UnitTotal> totalsByUnit(const BlockModel&, const Sequence&, const ValueLimits& = {});

struct LevelTotal {
    double from, to; ///< levels of a layer of blocks
    BlockTotal total;
};
/// A layer of blocks, the highest first; layers without any block are left out.
std::vector<LevelTotal> totalsByLevel(const BlockModel&, const Sequence&, const ValueLimits& = {});

/// by,unit,from_level,to_level,blocks,volume,mass,mean,least,most,unknown: a row for all, a row a unit, a row a layer.
std::string totalsCsv(const BlockModel&, const Sequence&, const ValueLimits& = {});

} // namespace fox
