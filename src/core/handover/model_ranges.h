#pragma once
#include "model/ensemble.h"
#include "products/products.h"

namespace fox {

/// Equally likely models for figures in words: within the site limit, on the cells of the model's grid, or on larger ones where
/// these are more than kRangeCells.
struct ModelRanges {
    Frame frame;
    Ensemble ensemble;
};
ModelRanges modelRanges(const ProductSet&, int realisations, const Progress& = {});
inline constexpr double kRangeCells = 40000;

} // namespace fox
