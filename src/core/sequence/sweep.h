#pragma once
#include "sequence/contacts.h"
#include "surfaces/plane.h"

namespace fox {

/// A tilted plane that is slid down through the holes: what of some codes lies above it becomes a unit.
struct Sweep {
    std::string unit;               ///< code of the unit that stretches become
    std::vector<std::string> codes; ///< as logged; empty: all that the unit may be
    Tilt tilt;
    double level = 0;                  ///< of the plane at `through`, metres
    Point2 through;                    ///< where `level` is measured
    double tolerance = 1;              ///< metres; a stretch may reach this far below the plane
    std::vector<std::string> holesOut; ///< display names; they are passed over
    /// Only what no choice was made for; false: choices are replaced.
    bool keepChoices = true;
};

struct SweepResult {
    std::vector<IntervalChoice> taken;  ///< all above the plane
    int holes = 0;                      ///< that have one
    std::vector<IntervalChoice> cut;    ///< the plane goes through them, farther than the tolerance from either end
    std::vector<std::string> conflicts; ///< holes in which the unit would be out of order, a sentence each
};

/// Levels along the holes' paths. Holes without a place or level are passed over.
SweepResult sweep(const Holes&, const Sequence&, const Interpretation&, const Sweep&);

/// The plane through a unit's observed contacts; none for fewer than three.
std::optional<Plane> planeOfContacts(const std::vector<Contact>&, const std::vector<std::string>& holes = {});

} // namespace fox
