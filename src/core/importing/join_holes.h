#pragma once
#include "holes/hole.h"

namespace fox {

/// Two sources that speak of one hole, such as a sheet of places and a well log: what `more` says goes into `hole`, what it
/// leaves open stays.
void addTo(Hole& hole, const Hole& more);

} // namespace fox
