#pragma once
#include "products/products.h"

namespace fox {

/// All contacts, of holes and from elsewhere, as points: unit, kind ("observed", "absent"), hole, source file and line, level.
FeatureLayer contactLayer(const ProductSet&);
/// The same as a table: unit,kind,easting,northing,level,hole,file,line.
std::string contactsCsv(const ProductSet&);

} // namespace fox
