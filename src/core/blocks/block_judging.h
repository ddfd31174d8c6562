#pragma once
#include "blocks/block_model.h"

namespace fox {

/// How well blocks are told by holes that do not know of one another.
struct BlockJudgement {
    struct Told {
        double observed = 0, predicted = 0;
        std::optional<std::size_t> unit;
    };
    struct Errors {
        double rmse = kNoValue, mae = kNoValue, bias = kNoValue; ///< of predicted - observed, in the quantity's unit
    };
    std::size_t holes = 0, holesTried = 0; ///< with composites; left out one by one
    std::vector<Told> told;                ///< composites that the other holes give a value for
    Errors errors;                         ///< of all of these
};
BlockJudgement::Errors errorsOf(std::span<const BlockJudgement::Told>);
/// Each hole left out in turn, its composites predicted by those of all others, a fitted variogram kept as it is with all. Of
/// more than kMostJudged holes every so many, all over the list. Composites that are in no hole are left out in as many groups by
/// their place.
BlockJudgement judgeBlocks(const BlockSpec&, const Composites&, const Progress& = {});
inline constexpr std::size_t kMostJudged = 60;

/// Shares of values between limits of equal width; of blocks beside those of the composites.
struct BlockHistogram {
    std::vector<double> limits;             ///< one more than classes
    std::vector<double> blocks, composites; ///< shares, 0 to 1, a class
};
inline constexpr std::size_t kHistogramClasses = 24;
/// Of one unit alone, or of all.
BlockHistogram histogramOf(const BlockModel&, const Composites&, std::size_t classes = kHistogramClasses,
                           std::optional<std::size_t> unit = {});

/// Mean values in slices across an axis.
struct Swath {
    std::vector<double> middle, blocks, composites; ///< metres; means, kNoValue where there are none
};
enum class SwathAxis { East, North, Level };
Swath swathOf(const BlockModel&, const Composites&, SwathAxis, std::size_t slices = 24);

/// Volume over (or under) a value, for values from the least to the most.
struct CutOffCurve {
    std::vector<double> value, volume; ///< cubic metres
};
CutOffCurve cutOffCurve(const BlockModel&, bool above, std::size_t points = 200);

} // namespace fox
