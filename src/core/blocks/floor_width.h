#pragma once
#include "base/frame.h"

#include <span>
#include <vector>

namespace fox {

/// Floors of a dig, a cell (metres; kNoValue: nothing is dug there), made at least so wide (metres): a disc of that width is dug
/// around cells where the floor is narrower, which are those that have no such disc near them that is dug as deep everywhere.
/// (Near is a corner's distance from the disc in it, so that corners stay as they are.) The innermost come first, and those close
/// to one that was widened are widened with it. Our own construction.
std::vector<double> widenedFloor(const Frame&, std::span<const double> bottoms, double width);

} // namespace fox
