#pragma once
#include "formats/las.h"
#include "holes/hole.h"

namespace fox {

/// The hole of a LAS file: its id from the well's name, else UWI, else the file's name without ending; its place and
/// level where the header gives them; depths and curves in metres; the deepest reading as the final depth.
/// `wanted` names the curves to take; empty: all. Findings say what was turned or is missing.
struct LasHole {
    Hole hole;
    Findings findings;
};
LasHole holeOf(const LasFile&, const std::vector<std::string>& wanted = {});

} // namespace fox
