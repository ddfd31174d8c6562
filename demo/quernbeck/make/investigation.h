#pragma once
#include "truth.h"

#include "holes/path.h"

namespace quernbeck {

/// What a driller meets: a hole drilled into the invented ground.
struct Drilled {
    fox::Hole hole;              ///< intervals with GEOL_GEOL, GEOL_LEG and descriptions; blow counts
    std::vector<double> strikes; ///< depths of water
};

/// Drills from the ground down to `depth`, or until `rock` metres into the mudstone if that comes first.
/// Depths of contacts are to 0.05 m, as a logger gives them.
Drilled drill(const std::string& id, const std::string& type, double easting, double northing, double depth, double rock,
              const std::vector<fox::PathStation>& stations = {});

std::vector<Drilled> phase1(); ///< main investigation: 28 holes, with the faults that the README lists
std::vector<Drilled> phase2(); ///< along the beck, three years before: 14 holes
std::vector<Drilled> phase3(); ///< later: 5 more holes, for trying an import

} // namespace quernbeck
