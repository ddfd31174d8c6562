#pragma once
#include "base/grid.h"

#include <vector>

namespace fox {

/// Where a grid's values are above a limit. Bands lie over one another, the lowest first: what is seen of one is where no higher
/// one lies.
struct ValueBand {
    double low = 0; ///< minus infinity: wherever there is a value
    /// Outer rings counter-clockwise, each followed by its holes, clockwise.
    std::vector<Polygon2> rings;
};
/// Bands above all, and above each of the limits, which rise; edges are straight within a cell, and run through the outermost
/// cells that have a value. Bands that are nowhere are left out.
std::vector<ValueBand> bandsOf(const Grid&, const std::vector<double>& limits);

} // namespace fox
