#pragma once
#include "holes/water_levels.h"
#include "sequence/test_values.h"

namespace fox {

/// What the sticks of holes show.
struct AlongChoice {
    enum class Kind {
        Unit,     ///< as the log is understood
        Column,   ///< the codes of a column of the geology
        Quantity, ///< numbers of a test, a curve or a sounding
    };
    Kind kind = Kind::Unit;
    std::string name; ///< heading of the column, or TestQuantity::name
    bool operator==(const AlongChoice&) const = default;
};
/// "unit", "GEOL_LEG", "SPT N"
std::string words(const AlongChoice&);

/// A part of a hole with its code or value.
struct AlongStretch {
    Depth top, base;
    double value = kNoValue; ///< of a quantity
    bool isLimit = false;    ///< it is more, or less, than the value
    std::string code;        ///< of a column
};

/// A choice worked out for all holes. A value of a test stands for the depths nearest to it, but for no more than kAlongReach
/// to either side; readings of a curve lie closer.
struct AlongValues {
    AlongChoice choice;
    std::string unit;                                       ///< of measure; empty: none
    double low = kNoValue, high = kNoValue;                 ///< of all plain values; kNoValue without any
    std::vector<std::vector<AlongStretch>> holes;           ///< as the list of holes, by depth
    std::vector<std::pair<std::string, std::string>> codes; ///< of a column, the commonest first, with a colour "#rrggbb" each
    /// "#rrggbb"; empty for a code that is not there.
    std::string colourOf(const std::string& code) const;
};
inline constexpr double kAlongReach = 0.5; ///< metres

/// Of units there are no values: they are what the logs already have.
AlongValues alongValues(const AlongChoice&, const Holes&, const InterpretedLogs&);

/// A mark of something on a hole: a sample, water.
struct AlongSign {
    enum class Kind { Sample, WaterStruck, WaterLevel } kind = Kind::Sample;
    Depth depth;
    std::string words; ///< "U 12", "struck, rose to 3.20 m"
};
/// By depth. Samples that lie in a depth range stand at its top.
std::vector<AlongSign> signsAlong(const Hole&, const WaterChoice&);

} // namespace fox
