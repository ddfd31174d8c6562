#pragma once
#include "base/point.h"
#include "base/units.h"
#include "surfaces/faults.h"

#include <string>
#include <vector>

namespace fox {

/// What the geologist says that one hole tells of one unit's base, where the log leaves it open or misleads.
struct ContactChoice {
    enum class Kind {
        Reached,   ///< the base is where the log of the unit ends ("this hole did reach it")
        AtOrBelow, ///< the base is there or deeper
        AtOrAbove, ///< the base is there or higher
        Excluded,  ///< the hole says nothing of it
    };
    std::string hole; ///< display name
    std::string unit; ///< code
    Kind kind = Kind::Reached;
    bool operator==(const ContactChoice&) const = default;
};
const char* name(ContactChoice::Kind);  ///< for files: "reached"
const char* words(ContactChoice::Kind); ///< "reached the base"
std::optional<ContactChoice::Kind> contactChoiceNamed(std::string_view);

/// Which unit a logged stretch is, where its code does not say or says it wrongly.
struct IntervalChoice {
    std::string hole; ///< display name
    Depth top, base;  ///< of the interval, as logged
    std::string unit; ///< code; empty: no unit of the sequence
    bool operator==(const IntervalChoice&) const = default;
};

/// A depth at which a logged interval is parted, so that its parts can be of different units.
struct IntervalSplit {
    std::string hole; ///< display name
    Depth depth;      ///< along the hole, within the interval
    bool operator==(const IntervalSplit&) const = default;
};

/// The base of a unit that the geologist sees in a hole where its log does not say it: on a curve, for instance.
struct Pick {
    std::string hole; ///< display name
    std::string unit; ///< code
    Depth depth;      ///< along the hole
    bool operator==(const Pick&) const = default;
};

/// Levels of a unit's base where the geologist knows better than the holes: a point or the corners of a line. Kept
/// apart from data; a surface goes through them, and along a line every kGuideStep metres.
struct Guide {
    std::string unit; ///< code
    Polyline3 line;   ///< one place or more, with levels
    bool operator==(const Guide&) const = default;
};
inline constexpr double kGuideStep = 25; ///< metres

/// The places that a guide gives to a surface: its corners, and between them no farther apart than kGuideStep.
std::vector<Point3> placesOf(const Guide&);

/// Where the geologist says that a unit is, or is not, whatever its thickness: at a place, or all over an area.
struct PresenceMark {
    std::string unit; ///< code
    Polygon2 area;    ///< one corner: a place; three or more: a ring
    bool present = true;
    bool operator==(const PresenceMark&) const = default;
};

/// The places that a mark gives to a base: its place; of an area a lattice of places no farther apart than `spacing` (metres),
/// kMarkPlaces at most, and its corners.
std::vector<Point2> placesOf(const PresenceMark&, double spacing);
inline constexpr int kMarkPlaces = 60;

/// A fault, and which bases it steps.
struct UnitFault {
    Fault fault;
    std::string youngest;                ///< code of the youngest unit whose base it steps; younger ones are not cut. Empty: all
    std::vector<std::string> units = {}; ///< codes of the units whose bases it steps, if chosen one by one; else empty
    bool operator==(const UnitFault&) const = default;
};

/// What is not in the data: the geologist's own.
struct Interpretation {
    std::vector<ContactChoice> contacts;   ///< at most one a hole and unit
    std::vector<IntervalChoice> intervals; ///< at most one an interval
    std::vector<IntervalSplit> splits;     ///< at most one a hole and depth
    std::vector<Pick> picks;               ///< at most one a hole and unit
    std::vector<PresenceMark> presence;
    std::vector<Guide> guides;
    std::vector<UnitFault> faults;
    bool operator==(const Interpretation&) const = default;

    std::vector<Depth> splitsOf(const std::string& hole) const;
};

} // namespace fox
