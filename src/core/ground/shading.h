#pragma once
#include "base/grid.h"

namespace fox {

/// Steepness in degrees at each cell, from the differences to its neighbours; none beside cells without a value.
Grid slopeOf(const Grid&);
/// How much light each cell has, 0 to 1, from a sun at `azimuth` (degrees clockwise from north) and `altitude` (degrees
/// over the horizon), heights drawn `exaggeration` times. Flat ground has sin(altitude). (Lambert's cosine law.)
Grid lightOn(const Grid&, double azimuth = 315, double altitude = 45, double exaggeration = 1);

} // namespace fox
