#pragma once
#include "base/grid.h"

#include <memory>
#include <vector>

class OGRGeometry;

namespace fox {

// Polygons from grids, as GDAL has them. Requires a GdalSession.

using GeometryPtr = std::shared_ptr<OGRGeometry>;

/// Where a field of values, one a cell, is above 0; edges are straight within a cell (GDAL's contour polygons). What is not known
/// counts as far below, so that edges there run through the outermost known cells. @throws Error
GeometryPtr placesAbove0(const Frame&, std::vector<double> field);
/// Outer rings counter-clockwise, each followed by its holes, clockwise; without slivers. Returns the area, in square metres.
double addRings(const OGRGeometry&, std::vector<Polygon2>& to);

} // namespace fox
