#pragma once
#include "blocks/composites.h"

namespace fox {

/// Half the mean squared differences of composites by their distance; with BlockSpec::logarithmic of their logarithms.
struct BlockLags {
    std::vector<VariogramLag> horizontal; ///< pairs at much the same level, by their distance in plan, metres
    std::vector<VariogramLag> vertical;   ///< pairs over one another, by their difference of level, metres
};
/// Up to half of the longest distance in plan, and to the whole difference of levels. With BlockSpec::within only pairs within a
/// unit. Over 2,000 composites, evenly taken 2,000 of them for the horizontal pairs.
BlockLags blockLags(const BlockSpec&, std::span<const Composite>);

/// The variogram of kriging, its range in plan, and how many times differences of level count: the range in plan over that of
/// levels. By both kinds of lags together; with BlockSpec::verticalFitted the ratio too, else by the ratio that is given. A ratio
/// that can't be fitted, or is under 1 (layers are more alike along than across), is that of a block's length to its height, from
/// 1 to 20. A variogram that can't be fitted is spherical with the variance of the values and no nugget.
struct BlockVariogram {
    Variogram variogram;
    double vertical = 1;
};
BlockVariogram fitBlockVariogram(const BlockSpec&, std::span<const Composite>);

/// The same specification with a number for `vertical` and, of kriging, a variogram: those that are given, else fitted ones.
BlockSpec withFitted(BlockSpec, std::span<const Composite>);

} // namespace fox
