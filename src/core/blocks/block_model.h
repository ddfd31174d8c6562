#pragma once
#include "base/progress.h"
#include "blocks/composites.h"

#include <array>
#include <cstdint>

namespace fox {

/// Values in blocks of one size: from the south-west corner eastwards, then northwards, then upwards.
struct BlockModel {
    BlockSpec spec;
    Point3 corner;                     ///< the lowest, south-western one
    std::array<int, 3> count{0, 0, 0}; ///< east, north, up
    std::vector<double> value;         ///< a block; kNoValue: unknown, above ground, or outside
    std::vector<double> variance;      ///< a block, of kriging; else empty
    std::vector<std::int16_t> unit;    ///< a block, by the model; -1: none
    std::vector<std::uint16_t> used;   ///< a block: how many composites its value is made from
    std::size_t composites = 0;
    std::optional<Variogram> variogram; ///< that kriging used
    Findings findings;

    std::size_t blocks() const { return value.size(); }
    std::size_t known() const; ///< with a value
    Point3 centre(std::size_t block) const;
    double blockVolume() const { return spec.dx * spec.dy * spec.dz; }
    double mean() const; ///< of those with a value
};

/// A block's value is that at its centre, by the composites nearest to it: by inverse distance, ordinary kriging, or the nearest
/// alone. Distance is sqrt(dx^2 + dy^2 + (vertical dz)^2). Exact where a composite lies.
/// Blocks above the ground, outside the model, beyond `radius` of all composites, or of a unit that is not wanted have none.
/// Kriging of over kMostInKriging composites at once is by neighbourhoods of that many.
/// @throws Error for more than limits::kModelCells, for units that are not there; Stopped
BlockModel makeBlocks(const BlockSpec&, const Frame& site, const Composites&, const Model&, const Progress& = {});
inline constexpr int kMostInKriging = 256;

/// What the values of blocks are estimated from: the composites of one unit, or all.
class BlockEstimator {
public:
    BlockEstimator(const BlockSpec&, std::vector<Point3> places, std::vector<double> values, const Variogram&);
    ~BlockEstimator();
    BlockEstimator(BlockEstimator&&) noexcept;

    struct Estimate {
        double value = kNoValue, variance = kNoValue;
        int used = 0;
    };
    /// `without`: a composite that does not count, to judge by; none: all.
    Estimate at(Point3, std::optional<std::size_t> without = {}) const;

private:
    struct Tree;
    std::unique_ptr<Tree> m_tree;
};

/// The variogram of composites in the space that differences of level are stretched in.
Variogram blockVariogram(const BlockSpec&, std::span<const Composite>);

/// The part of a block that an upright section passes through, metres: along the line, and levels.
struct BlockOnSection {
    double from = 0, to = 0, low = 0, high = 0;
    std::size_t block = 0;
};
/// Of the blocks with a value, along a line with corners; chainages to a tenth of a block.
std::vector<BlockOnSection> blocksAlong(const BlockModel&, const Polyline2& line);

/// Blocks above or below a value, with what they come to.
struct BlockSelection {
    std::size_t blocks = 0;
    double volume = 0;          ///< cubic metres
    std::optional<double> mass; ///< tonnes; none if one of the units has no unit weight
};
BlockSelection selected(const BlockModel&, const Sequence&, double limit, bool above);

} // namespace fox
