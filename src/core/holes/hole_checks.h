#pragma once
#include "holes/hole.h"

namespace fox {

/// Faults of sense, which break no rule of the standard: no place, swapped or far-off coordinates, no level or zero,
/// intervals upside down, overlapping, gapped or below the final depth, no final depth, holes that stand on one
/// another, depths that look like feet. All are warnings, and name the line.
Findings checkHoles(const Holes&);

} // namespace fox
