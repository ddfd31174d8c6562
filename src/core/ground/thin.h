#pragma once
#include "base/point.h"

namespace fox {

/// The line with fewer vertices: no dropped vertex lies farther than `tolerance` metres from what is left, measured in
/// space, so that levels count as much as bends. Ends stay. (Douglas and Peucker, 1973.)
Polyline3 thinned(const Polyline3&, double tolerance);

} // namespace fox
