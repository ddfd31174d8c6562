#pragma once
#include "base/grid.h"
#include "surfaces/surface.h"

namespace fox {

/// A grid's values, linear between cell centres in both directions; in the half cell at the edge as at the centres there.
/// No value outside the grid, nor where a cell that takes part has none.
std::shared_ptr<const Surface> gridSurface(std::shared_ptr<const Grid>);
/// The same at another frame's cell centres.
Grid onFrame(const Grid&, const Frame&);

} // namespace fox
