#pragma once
#include "ground/terrain.h"
#include "sequence/contacts.h"

namespace fox {

/// One unit's base before the rules of the stack: a fitted surface of levels, or of depths below the ground.
struct BaseSurface {
    FittedSurface fit;
    BaseReference reference = BaseReference::Level;
    int contacts = 0;                      ///< holes that show the base
    int bounds = 0;                        ///< holes that only limit it
    bool absentEverywhere = false;         ///< no hole has the unit: it has no thickness anywhere
    double otherReferenceError = kNoValue; ///< left-out RMSE of the reference that was not chosen, metres

    /// Levels, and variances unless that span is empty. `ground` are the ground's levels at the places.
    void evaluate(std::span<const Point2> places, std::span<const double> ground, std::span<double> levels,
                  std::span<double> variances) const;
};

/// Observed contacts are data, the others bounds (those of weak holes too: they are true all the same).
/// Without a reference in the recipe the one with the smaller left-out error is taken; with fewer than kFewest
/// contacts, too few to judge by that, the one in which the contacts spread less. Levels if they tie. A contact outside the
/// terrain has no depth and is left out of a surface of depths, with a finding.
BaseSurface fitBase(const Unit&, const std::vector<Contact>&, const Terrain&, const Progress& = {});
inline constexpr int kFewest = 5;

} // namespace fox
