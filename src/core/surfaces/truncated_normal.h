#pragma once
// Normal variables that are cut off, for this module only.
#include <random>

namespace fox::detail {

using Random = std::mt19937_64;

/// A standard normal variable given that it is above `low` (Robert 1995 in the tail).
double normalAbove(double low, Random&);
/// A standard normal variable given that it lies between two values, either of which may be infinite.
double normalBetween(double low, double high, Random&);

} // namespace fox::detail
