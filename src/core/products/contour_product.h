#pragma once
#include "products/making.h"

namespace fox {

/// Lines of equal level of the ground.
struct ContourProduct {
    double interval = 1; ///< metres
    std::shared_ptr<const std::vector<ContourLine>> lines;
    /// The same with fewer vertices, none off by more than `tolerance` metres: to be looked at as a whole.
    std::shared_ptr<const std::vector<ContourLine>> drawn;
    double tolerance = 0;
};
std::optional<ContourProduct> contourProduct(const Making&); ///< none without an extent

} // namespace fox
