#pragma once
#include "ground/contours.h"
#include "model/water_surface.h"
#include "products/making.h"

namespace fox {

/// A water surface and its grids on the cells of the extent.
struct WaterProduct {
    std::shared_ptr<const FittedWaterSurface> fitted;
    std::shared_ptr<const Grid> levels; ///< metres; null without an extent
    std::shared_ptr<const Grid> depths; ///< below the ground, metres, negative where the water stands above it; null likewise
    std::vector<ContourLine> contours;  ///< of levels
    double interval = 1;                ///< metres, of contours
    double aboveGround = 0;             ///< square metres on which it stands above the ground
};
/// The surface alone: what sections need.
std::shared_ptr<const FittedWaterSurface> fittedWater(const Making&, const WaterSurface&);
std::shared_ptr<const WaterProduct> waterProduct(const Making&, const WaterSurface&);

} // namespace fox
