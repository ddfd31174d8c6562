#pragma once
#include "formats/vector.h"
#include "ground/contours.h"
#include "model/geological_map.h"
#include "products/products.h"

namespace fox {

/// Contours as lines at their level, every `majorEvery`th of the project's choice marked.
FeatureLayer contourLayer(const std::vector<ContourLine>&, const std::string& name, const Project&, double interval);

/// The units that lie at a surface, as areas: unit, name, colour, seen ("at the ground").
FeatureLayer mapLayer(const ProductSet&, const MapSurface&);

} // namespace fox
