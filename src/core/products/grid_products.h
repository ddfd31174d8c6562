#pragma once
#include "model/audit.h"
#include "products/making.h"

namespace fox {

/// The ground at the cells of the extent. Null without an extent, as all that follows.
/// About the bytes that a model's grids take: the ground, and each base as it was made and as the rules of the stack leave it.
std::size_t expectedBytes(const Frame&, std::size_t units);
std::shared_ptr<const Grid> groundGrid(const Making&);

/// The model on the cells of the extent.
struct GridProducts {
    std::vector<std::shared_ptr<const Grid>> raw; ///< bases before the rules of the stack
    std::shared_ptr<const ModelGrid> model;
    std::shared_ptr<const Volumes> volumes;
    double secondsPerCell = 0; ///< to sample all bases; 0 unless all of them were sampled now
};
std::optional<GridProducts> gridProducts(const Making&);

} // namespace fox
