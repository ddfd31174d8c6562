#pragma once
#include "products/making.h"

namespace fox {

/// The ground with the levels of holes in it, and what there is to say of those that are off.
struct TerrainProduct {
    std::shared_ptr<const Terrain> terrain;
    Findings findings;
};
std::shared_ptr<const TerrainProduct> terrainProduct(const Making&);

/// Levels are given to holes as surveyors write them.
Level toCentimetre(double metres);
/// A hole's level is this far off the terrain made without it: a finding, and it is no ground point.
inline constexpr double kLevelOff = 0.5; ///< metres

} // namespace fox
