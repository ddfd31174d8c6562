#pragma once
#include "holes/hole.h"

namespace fox {

/// Two sources that speak of one hole, such as a sheet of places and a well log: what `more` says goes into `hole`, what it
/// leaves open stays.
void addTo(Hole& hole, const Hole& more);

/// What the hole has from other files than the one that is read anew: `was` is the hole as it is, `old` what the earlier issue of
/// the file said of it.
void keepFromElsewhere(Hole& now, const Hole& was, const Hole& old);

} // namespace fox
