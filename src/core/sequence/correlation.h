#pragma once
#include "sequence/contacts.h"

namespace fox {

/// Where a unit lies in a hole that stands beside others. Levels in metres.
struct UnitStretch {
    double top = 0, base = 0;
    bool logged = false; ///< else it is absent, and has no thickness
    bool open = false;   ///< the hole stops in it
    bool operator==(const UnitStretch&) const = default;
};

/// One a unit of the sequence. A unit that is not logged lies, without thickness, on the top of what is older; what the hole
/// does not reach is nothing. Stretches out of order are passed over. Levels along the path, `raised` metres higher.
std::vector<std::optional<UnitStretch>> stretchesOf(const InterpretedHole&, const HolePath&, std::size_t units,
                                                    double raised = 0);

/// A unit from one hole to the next: at the left one, halfway, at the right one.
struct UnitBetween {
    std::size_t unit = 0;
    double top[3], base[3]; ///< levels, metres
    bool open = false;      ///< one of the holes stops in it: its base is no more than where that hole ends
};
/// Units that one of two neighbours has and both can tell of. One that is there in one of them only ends halfway, and what lies
/// over and under it meets there, so that nothing is left white between units.
std::vector<UnitBetween> unitsBetween(std::span<const std::optional<UnitStretch>> left,
                                      std::span<const std::optional<UnitStretch>> right);

/// Depth of the base of a unit in a hole, or of the last younger unit if the hole is without it; 0 if it has neither. What a
/// hole is flattened on.
Depth hangingDepth(const InterpretedHole&, std::size_t unit);

} // namespace fox
