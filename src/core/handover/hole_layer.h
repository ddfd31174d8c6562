#pragma once
#include "formats/vector.h"
#include "products/products.h"

namespace fox {

/// Holes as points for a vector file, one feature each; those without a place are left out.
FeatureLayer holeLayer(const Holes&, const std::string& crs);

/// Logged intervals as lines in space along their holes: hole, top, base (depths, metres), unit, description and the codes of the
/// log by their headings. Of holes without a place or a level there are none.
FeatureLayer intervalLayer(const ProductSet&);

} // namespace fox
