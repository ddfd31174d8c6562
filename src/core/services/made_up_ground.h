#pragma once
#include "base/point.h"

namespace fox::made_up {

// The invented ground of the Quernbeck demo, and hills and seas for the rest of the world. The demo's files and the
// stand-in services are made from it, so that they agree.

/// Of the beck's valley, by u and v: metres east and north of kWest, kSouth in EPSG:25831.
inline constexpr double kWest = 480000, kSouth = 6120000;
double bump(double u, double v, double u0, double v0, double du, double dv); ///< 1 at u0, v0, falling off over du, dv
double rise(double x, double a, double b);                                   ///< 0 below a, 1 above b, smooth between
double beckMiddle(double u);                                                 ///< v of the beck
double valleyDistance(double u, double v); ///< metres from the beck's middle, positive north of it
double valleyGround(double u, double v);   ///< level before the beck cut its channel
double channel(double distance);           ///< depth of the channel

/// Level of the ground anywhere, metres: the demo's within 3 km of it, hills and valleys elsewhere, the sea at 0.
double groundAt(double longitude, double latitude);

} // namespace fox::made_up
