#pragma once
#include "formats/vector.h"
#include "holes/hole.h"

namespace fox {

/// Holes as points for a vector file, one feature each; those without a place are left out.
FeatureLayer holeLayer(const Holes&, const std::string& crs);

} // namespace fox
