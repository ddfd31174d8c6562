#pragma once
#include "sequence/contacts.h"
#include "surfaces/plane.h"

namespace fox {

/// Logged intervals above an inclined plane become a unit.
struct PlaneAssignment {
    std::string unit;               ///< code of the unit that they become
    std::vector<std::string> codes; ///< as logged, or materials ("clay"); empty: all that the unit may be
    Plane plane;
    std::optional<Plane> upper = {};     ///< only what lies below this one: a layer between two planes
    double mayReachBelow = 0.5;          ///< metres; so far an interval may reach beyond a plane and still be taken whole
    bool splits = false;                 ///< intervals that reach farther are split at the plane, and the part above it is taken
    std::vector<std::string> holes = {}; ///< display names, only these; empty: all
    bool keepsChoices = true;            ///< intervals that were given another unit stay with it
    bool operator==(const PlaneAssignment&) const = default;
};

/// What a plane assigns.
struct AssignedByPlane {
    std::vector<IntervalChoice> whole, parts; ///< intervals, and parts of intervals that are split
    std::vector<IntervalSplit> splits;        ///< for the parts
    std::vector<IntervalChoice> cut;          ///< that a plane goes through and that stay as they are
    int holes = 0;                            ///< that have one of them
    struct Conflict {
        std::string hole, words; ///< "QB106: TU would be out of order."
    };
    std::vector<Conflict> conflicts; ///< holes that would be out of order, and are not now
    bool empty() const { return whole.empty() && parts.empty(); }
};

/// Levels along the holes' paths. Holes without a place or level are passed over.
AssignedByPlane assignedAbove(const Holes&, const Sequence&, const Interpretation&, const PlaneAssignment&);
/// The interpretation with that.
Interpretation with(Interpretation, const AssignedByPlane&);

/// What comes next under a plane.
struct NextBelow {
    std::string code;                ///< as logged
    std::optional<std::size_t> unit; ///< that it is read as in most of these holes
    int holes = 0;                   ///< in which it is the first interval that lies, with its middle, under the plane
};
/// The commonest first. Intervals of the unit that is being assigned are passed over.
std::vector<NextBelow> nextBelow(const InterpretedLogs&, const Sequence&, const PlaneAssignment&);

/// The plane through a unit's observed contacts in these holes, or in all; none for fewer than three, or on one line.
std::optional<Plane> planeOfContacts(const std::vector<Contact>&, const std::vector<std::string>& holes = {});

/// The plane that is moved at `place` to `level` and keeps its level at `pivot`, and its slope across the line between the two.
Plane turned(const Plane&, Point2 place, double level, Point2 pivot);

} // namespace fox
