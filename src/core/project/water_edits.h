#pragma once
#include "project/edits.h"

#include <functional>

namespace fox {

// Edits of water surfaces, and of what logs and sections show of water. All throw Error if what they speak of is not there.

/// The levels on logs and sections.
Edited setShownWater(const Project&, const WaterChoice&);
/// Named by the unit, or "Water", with a number if there is one of that name.
Edited addWaterSurface(const Project&, const std::string& unitCode);
Edited removeWaterSurface(const Project&, const std::string& name);
Edited renameWaterSurface(const Project&, const std::string& name, const std::string& to);
/// `words`: what is changed, for the label.
Edited changeWaterSurface(const Project&, const std::string& name, const std::function<void(WaterSurface&)>&,
                          const std::string& words);
/// What is stated of a push; none: as it is usually assumed. kN/m3, and the depth to the water.
Edited setSoundingAssumptions(const Project&, const std::string& hole, const std::string& push, std::optional<double> unitWeight,
                              std::optional<Depth> water);

} // namespace fox
