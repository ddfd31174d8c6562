#pragma once
#include "products/products.h"

namespace fox {

/// What a site has as lines and areas, a layer each: extent, site limit, outlines, section lines, faults, guides, wells (holes
/// with an installation), what meshes follow, and what is only to look at by its own layers' names. Layers that would be empty
/// are left out.
std::vector<FeatureLayer> lineLayers(const ProductSet&);

/// Holes as lines in space along their paths, a layer a unit, their names at the collars; what is in no unit is in "not
/// assigned".
std::vector<FeatureLayer> holeSticks(const ProductSet&);

} // namespace fox
