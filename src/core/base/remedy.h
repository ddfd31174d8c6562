#pragma once
#include "base/point.h"
#include "base/units.h"

#include <string>
#include <variant>

namespace fox {

// What can be done about a finding, as plain data; project/remedies.h makes an edit of each. Holes by display name, units
// by code.

/// Read a logged code as a unit.
struct MergeCode {
    std::string code, unit;
    bool operator==(const MergeCode&) const = default;
};
/// Put a logged code into the sequence as a unit of its own.
struct AddUnitFor {
    std::string code;
    bool operator==(const AddUnitFor&) const = default;
};
struct SetGroundLevel {
    std::string hole;
    Level level;
    bool operator==(const SetGroundLevel&) const = default;
};
/// The user points at the hole's position on the plan.
struct PlaceOnPlan {
    std::string hole;
    bool operator==(const PlaceOnPlan&) const = default;
};
struct SwapCoordinates {
    std::string hole;
    bool operator==(const SwapCoordinates&) const = default;
};
/// Easting and northing of all holes of a file were given the other way round.
struct SwapCoordinatesOfFile {
    std::string file;
    bool operator==(const SwapCoordinatesOfFile&) const = default;
};
/// The hole's inclinations were measured from the vertical, not from the horizontal.
struct MeasureFromVertical {
    std::string hole;
    bool operator==(const MeasureFromVertical&) const = default;
};
struct SetFinalDepthTo {
    std::string hole;
    Depth depth;
    bool operator==(const SetFinalDepthTo&) const = default;
};
/// Close the gap in the log above the interval that begins at `top`.
struct CloseGapAbove {
    std::string hole;
    Depth top;
    bool operator==(const CloseGapAbove&) const = default;
};
/// Exclude a hole from surfaces.
struct ExcludeHole {
    std::string hole;
    bool operator==(const ExcludeHole&) const = default;
};
struct ExcludeGroundPoint {
    Point2 place;
    bool operator==(const ExcludeGroundPoint&) const = default;
};
/// Read the intervals of a hole from `top` to `base` as a unit; an empty one: as none of the sequence.
struct AssignUnit {
    std::string hole;
    Depth top, base;
    std::string unit;
    bool operator==(const AssignUnit&) const = default;
};
/// Older units win: the base of this one onlaps.
struct OlderWins {
    std::string unit;
    bool operator==(const OlderWins&) const = default;
};
/// This base and the one over it meet in the middle where they cross.
struct MeetHalfway {
    std::string unit;
    bool operator==(const MeetHalfway&) const = default;
};
/// The unit is nowhere thinner than this.
struct KeepThickness {
    std::string unit;
    double metres = 0;
    bool operator==(const KeepThickness&) const = default;
};
/// This base stays below that of `other`; an empty one: below the ground.
struct HoldBelow {
    std::string unit, other;
    bool operator==(const HoldBelow&) const = default;
};

/// A unit of which no hole shows the base is as thick as the units over and under it are.
struct ThickAsNeighbours {
    std::string unit;
    bool operator==(const ThickAsNeighbours&) const = default;
};

/// The extent takes in this rectangle too.
struct ExtendExtent {
    Box2 to;
    bool operator==(const ExtendExtent&) const = default;
};

/// The user reads the file once more, with other settings.
struct ReadFileAgain {
    std::string file;
    bool operator==(const ReadFileAgain&) const = default;
};

struct Remedy {
    using Action = std::variant<MergeCode, AddUnitFor, SetGroundLevel, PlaceOnPlan, SwapCoordinates, SwapCoordinatesOfFile,
                                MeasureFromVertical, SetFinalDepthTo, CloseGapAbove, ExcludeHole, ExcludeGroundPoint, AssignUnit,
                                OlderWins, MeetHalfway, KeepThickness, HoldBelow, ThickAsNeighbours, ExtendExtent, ReadFileAgain>;
    std::string label; ///< what the button says
    Action action;
    bool operator==(const Remedy&) const = default;
};

} // namespace fox
