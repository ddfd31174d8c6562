#pragma once
#include "ground/contours.h"
#include "model/named_surface.h"
#include "products/making.h"

namespace fox {

/// A named surface and its levels on the cells of the extent.
struct NamedSurfaceProduct {
    std::shared_ptr<const FittedNamedSurface> fitted;
    std::shared_ptr<const Grid> levels; ///< metres; null without an extent
    std::vector<ContourLine> contours;  ///< of levels
    double interval = 1;                ///< metres, of contours
};
/// The surface alone: what sections and comparisons need.
std::shared_ptr<const FittedNamedSurface> fittedNamedSurface(const Making&, const NamedSurface&);
std::shared_ptr<const NamedSurfaceProduct> namedSurfaceProduct(const Making&, const NamedSurface&);

} // namespace fox
