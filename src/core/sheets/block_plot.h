#pragma once
#include "blocks/block_judging.h"
#include "blocks/value_limits.h"
#include "paper/drawing.h"
#include "sequence/unit.h"

namespace fox {

/// What plots of a block model are drawn from.
struct BlockPlot {
    const BlockModel* blocks = nullptr;
    const Composites* composites = nullptr;
    const BlockJudgement* judged = nullptr;
    const Sequence* sequence = nullptr;
    std::string quantity;                 ///< "Gamma, API"
    ValueLimits limits = {};              ///< what is wanted: marked
    bool above = true;                    ///< what is above a value is wanted; else what is below
    const CutOffCurve* curve = nullptr;   ///< of these blocks and this side; null: it is worked out
    std::optional<std::size_t> unit = {}; ///< the histogram and the holes left out are of this unit alone
};

/// Volume of the blocks above (or below) a value against that value. Layers "frame", "curve", "limit".
paper::Drawing drawCutOffCurve(const BlockPlot&, double width, double height);
/// Shares of blocks beside those of the composites. Layers "frame", "blocks", "composites", "limit", "legend".
paper::Drawing drawBlockHistogram(const BlockPlot&, double width, double height);
/// Means of blocks and of composites in slices along an axis. Layers "frame", "blocks", "composites", "legend".
paper::Drawing drawSwath(const BlockPlot&, SwathAxis, double width, double height);
/// What the other holes give against what each hole has, in the colour of its unit. Layers "frame", "equal", "values", "words".
paper::Drawing drawLeftOutHoles(const BlockPlot&, double width, double height);

} // namespace fox
