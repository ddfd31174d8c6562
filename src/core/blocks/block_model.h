#pragma once
#include "base/progress.h"
#include "blocks/composites.h"

#include <array>
#include <cstdint>

namespace fox {

/// Values in blocks of one size: from the south-west corner eastwards, then northwards, then upwards.
struct BlockModel {
    BlockSpec spec;
    Point3 corner;                            ///< the lowest, south-western one
    std::array<int, 3> count{0, 0, 0};        ///< east, north, up
    std::vector<double> value;                ///< a block; kNoValue: unknown, above ground, or outside
    std::vector<double> variance;             ///< a block, of kriging; else empty
    double least = kNoValue, most = kNoValue; ///< of the values; kNoValue without any
    std::vector<std::int16_t> unit;           ///< a block, by the model; -1: none
    std::vector<std::uint16_t> used;          ///< a block: how many composites its value is made from
    std::size_t composites = 0;
    std::optional<Variogram> variogram; ///< that kriging used
    Findings findings;

    std::size_t blocks() const { return value.size(); }
    std::size_t known() const; ///< with a value
    Point3 centre(std::size_t block) const;
    double blockVolume() const { return spec.dx * spec.dy * spec.dz; }
    double mean() const; ///< of those with a value
};

/// A block's value is that at its centre, as BlockEstimator has it. In the model's `spec` stand the variogram and the vertical
/// factor that were used, also where they were fitted.
/// Blocks above the ground, outside the model, beyond `radius` of all composites, or of a unit that is not wanted have none.
/// @throws Error for more than limits::kModelCells, for units that are not there; Stopped
BlockModel makeBlocks(const BlockSpec&, const Frame& site, const Composites&, const Model&, const Progress& = {});
/// How many blocks there would be, above ground and outside the model too.
std::array<double, 3> blockCounts(const BlockSpec&, const Frame& site);

/// The part of a block that an upright section passes through, metres: along the line, and levels.
struct BlockOnSection {
    double from = 0, to = 0, low = 0, high = 0;
    std::size_t block = 0;
};
/// Of the blocks with a value, along a line with corners; chainages to a tenth of a block.
std::vector<BlockOnSection> blocksAlong(const BlockModel&, const Polyline2& line);

} // namespace fox
