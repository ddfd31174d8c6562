#pragma once
#include "model/base_surface.h"

namespace fox {

/// Bases of one column, youngest first, under the rules of the stack. `bases` come in raw and go out such that
/// each is at or below the one before (the first at or below `ground`): no unit has a negative thickness.
/// An older base that a `Laps` unit would go below holds it up; then, from the top down, what stands above the
/// base before is cut off at it, so an absent unit takes the base of what lies over it.
/// kNoValue (not known) stays, and everything under it becomes kNoValue.
void applyRules(double ground, std::span<double> bases, std::span<const BaseRule> rules);

struct ModelColumn {
    double ground = kNoValue;       ///< kNoValue outside the ground: then there is nothing else
    std::vector<double> bases;      ///< a unit but the oldest, after the rules
    std::vector<double> deviations; ///< standard deviation of each base as fitted, metres; kNoValue if the method has none

    double top(std::size_t unit) const { return unit == 0 ? ground : bases[unit - 1]; }
    /// The unit at a level: none above the ground, or where it is not known.
    std::optional<std::size_t> unitAt(double level) const;
};

/// The stack of surfaces. Everything is evaluated at the place asked.
struct Model {
    std::shared_ptr<const Sequence> sequence;
    std::shared_ptr<const Terrain> terrain;
    std::vector<std::shared_ptr<const BaseSurface>> bases; ///< a unit but the oldest

    ModelColumn columnAt(Point2, bool withDeviations = false) const;
    std::vector<BaseRule> rules() const;
};

/// The model at a frame's cell centres, after the rules.
struct ModelGrid {
    Grid ground;
    std::vector<Grid> bases;
    Findings findings; ///< where raw bases cross, with areas

    /// Level of the top of a unit.
    const Grid& top(std::size_t unit) const { return unit == 0 ? ground : bases[unit - 1]; }
};
/// One raw base on a frame (before the rules).
Grid sampleBase(const BaseSurface&, const Grid& ground, const Progress& = {});
ModelGrid stackGrids(const Sequence&, const Grid& ground, const std::vector<std::shared_ptr<const Grid>>& raw);

} // namespace fox
