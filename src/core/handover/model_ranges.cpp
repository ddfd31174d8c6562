#include "handover/model_ranges.h"

namespace fox {

ModelRanges modelRanges(const ProductSet& set, int realisations, const Progress& progress) {
    const Area limit(set.project.site->limit);
    const EnsembleSettings settings{realisations, 1};
    auto frame = set.modelGrid->ground.frame;
    if (cellsOf(frame) <= kRangeCells) return {frame, simulate(*set.model, set.modelGrid->ground, settings, limit, progress)};
    frame.cell = coarserCell(frame, kRangeCells);
    return {frame, simulate(*set.model, set.terrain->sampled(frame), settings, limit, progress)};
}

} // namespace fox
