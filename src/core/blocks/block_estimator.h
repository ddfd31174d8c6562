#pragma once
#include "blocks/composites.h"

#include <cstdint>

namespace fox {

/// Values in space to estimate from.
struct PlacedValues {
    std::vector<Point3> places;
    std::vector<double> values;
    std::vector<std::uint32_t> holes = {}; ///< a value: which hole it is of, a number each; empty: all of different ones
};
/// Points that are in no hole each have a number of their own.
PlacedValues placed(std::span<const Composite>);

/// Kriging of more composites at once is by neighbourhoods of so many.
inline constexpr int kMostInKriging = 256;

/// Estimates values from the composites of one unit, or all, by inverse distance, ordinary kriging, or the nearest alone.
/// Distance is sqrt(dx^2 + dy^2 + (vertical dz)^2). Of those within BlockSpec::radius and ::verticalRadius the `neighbours`
/// nearest count, at most `perHole` of one hole. Exact where a composite lies that counts.
class BlockEstimator {
public:
    BlockEstimator(const BlockSpec&, PlacedValues, const Variogram&);
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

} // namespace fox
