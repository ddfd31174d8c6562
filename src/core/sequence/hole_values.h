#pragma once
#include "holes/water_levels.h"
#include "sequence/contacts.h"

namespace fox {

/// A number that each hole has, for colouring and labelling a plan.
struct HoleValue {
    enum class Kind {
        FinalDepth,
        GroundLevel,
        DepthToUnit,   ///< to the top of the unit's first stretch
        UnitThickness, ///< logged, all stretches together; a lower bound where the hole stops in it
        BlowCount,     ///< nearest to a depth, within 1 m
        Water,         ///< level of the water, of several points the highest; where the lowest reading is asked for, the lowest
    };
    Kind kind = Kind::FinalDepth;
    std::size_t unit = 0; ///< in the sequence
    double depth = 0;     ///< metres
    WaterChoice water = {};
    bool operator==(const HoleValue&) const = default;
};
/// "thickness of Till", "SPT N at 5 m".
std::string words(const HoleValue&, const Sequence&);
/// One a hole, in the holes' order; none where the hole does not say.
std::vector<std::optional<double>> valuesOf(const HoleValue&, const Holes&, const InterpretedLogs&);

} // namespace fox
