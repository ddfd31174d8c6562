#pragma once
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
        WaterLatest,   ///< level of the water by its latest reading, the highest of several points
        WaterHighest,  ///< by its highest reading
        WaterLowest,   ///< by its lowest
    };
    Kind kind = Kind::FinalDepth;
    std::size_t unit = 0; ///< in the sequence
    double depth = 0;     ///< metres
    bool operator==(const HoleValue&) const = default;
};
/// "thickness of Till", "SPT N at 5 m".
std::string words(const HoleValue&, const Sequence&);
/// One a hole, in the holes' order; none where the hole does not say.
std::vector<std::optional<double>> valuesOf(const HoleValue&, const Holes&, const InterpretedLogs&);

} // namespace fox
