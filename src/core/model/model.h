#pragma once
#include "ground/terrain.h"
#include "model/base_surface.h"
#include "model/stack.h"

namespace fox {

struct ModelColumn {
    double ground = kNoValue;       ///< kNoValue outside the ground: then there is nothing else
    std::vector<double> bases;      ///< a unit but the oldest, after the rules
    std::vector<double> deviations; ///< standard deviation of each base as fitted, metres; kNoValue if the method has none
    std::vector<double> chances;    ///< that the unit is there at all, 0 to 1, by its deviation; kNoValue without one

    double floor = kNoValue; ///< of the oldest unit, at or below its top; kNoValue if it has none

    double top(std::size_t unit) const { return unit == 0 ? ground : bases[unit - 1]; }
    /// Of any unit, the oldest too.
    double base(std::size_t unit) const { return unit < bases.size() ? bases[unit] : floor; }
    /// The unit at a level: none above the ground, or where it is not known.
    std::optional<std::size_t> unitAt(double level) const;
};

/// In which order bases are worked out: one after all that it is measured from.
struct WorkingOrder {
    std::vector<std::size_t> units;
    std::vector<bool> topKnown; ///< a unit: all bases over it come before it
    std::vector<bool> circular; ///< a unit: what it is measured from is measured from it; it is made from levels
};
WorkingOrder workingOrder(const Sequence&);

/// The stack of surfaces. Everything is evaluated at the place asked.
struct Model {
    std::shared_ptr<const Sequence> sequence;
    std::shared_ptr<const Terrain> terrain;
    std::vector<std::shared_ptr<const BaseSurface>> bases; ///< a unit but the oldest; null only while it is being made
    WorkingOrder order = {};                               ///< of sequence
    /// What an automatic base of each unit is, or would be, made from; null of one that is fixed.
    std::vector<std::shared_ptr<const AutomaticInputs>> averages = {};
    double floor = kNoValue; ///< level down to which the oldest unit goes; kNoValue: it has no base

    ModelColumn columnAt(Point2, bool withDeviations = false) const;
    std::vector<ModelColumn> columnsAt(std::span<const Point2>, bool withDeviations = false) const;
    /// With the deviation and chance of one unit only: variances are what takes time.
    std::vector<ModelColumn> columnsWithDoubtOf(std::size_t unit, std::span<const Point2>) const;
    /// A unit and a place; chances are those of automatic bases.
    struct Doubt {
        std::vector<std::vector<double>> variances, chances;
    };
    /// Bases before the rules, a unit and a place, of the units made so far; the others are kNoValue.
    /// Doubt is of `only` that unit, of all if there is none.
    std::vector<std::vector<double>> rawAt(std::span<const Point2>, std::span<const double> ground, Doubt* = nullptr,
                                           std::optional<std::size_t> only = {}) const;

private:
    std::vector<ModelColumn> columns(std::span<const Point2>, bool withDeviations, std::optional<std::size_t> only) const;
    /// Whether the base of an older unit holds up that of a unit that onlaps.
    bool holdsUp(std::size_t older, std::size_t unit) const;
    double chanceNotHeldUp(std::size_t unit, double top, std::size_t place, const std::vector<std::vector<double>>& raw,
                           const Doubt&) const;
};

/// The usual distance between holes, and what the ground looks like over that.
struct SiteShape {
    Box2 extent;
    double spacing = 1;                        ///< metres: the root of the extent's area for each hole
    std::shared_ptr<const GroundShape> ground; ///< null if there is no ground
};
/// The raw contacts of another unit of a series.
struct SeriesContacts {
    std::size_t unit = 0;
    std::shared_ptr<const std::vector<Contact>> contacts;
};
/// What the base of a unit can be fitted to, by its raw contacts: as its recipe says, else by levels, by depths below ground and,
/// if some hole is without the unit, by its thickness. `soFar` has the bases that come before it in the working order; faults are
/// carried out to the edges of the extent.
/// `series`: raw contacts of the other units of its series.
std::vector<BaseInputs> baseCandidates(const Model& soFar, const Sequence&, std::size_t unit, const std::vector<Contact>&,
                                       const Interpretation&, const SiteShape&, std::span<const SeriesContacts> series = {});
/// The unit from whose raw base an automatic base of this one may be measured; none if there is none.
std::optional<std::size_t> youngerOf(const Model& soFar, const Sequence&, std::size_t unit);
/// What an automatic base is made from; no data if no hole says anything of it.
AutomaticInputs automaticInputs(const Model& soFar, const Sequence&, std::size_t unit, const std::vector<Contact>&,
                                const Interpretation&, const SiteShape&);

/// The model at a frame's cell centres, after the rules.
struct ModelGrid {
    Grid ground;
    std::vector<Grid> bases;
    Findings findings;       ///< where raw bases cross, with areas
    double floor = kNoValue; ///< as Model has it

    /// Level of the base of a unit at a cell, the oldest too.
    double base(std::size_t unit, std::size_t cell) const {
        return unit < bases.size() ? bases[unit].values[cell]
               : std::isnan(floor) ? kNoValue
                                   : std::min(floor, top(unit).values[cell]);
    }
    std::size_t unitsWithBase() const { return bases.size() + (std::isnan(floor) ? 0 : 1); }
    /// Level of the top of a unit.
    const Grid& top(std::size_t unit) const { return unit == 0 ? ground : bases[unit - 1]; }
};
/// The model on any frame, by its columns; no findings.
ModelGrid sampleModel(const Model&, const Frame&, const Progress& = {});
/// Levels that one base is measured from.
struct ReferenceGrids {
    const Grid* from = nullptr;    ///< by one method what its values are measured from, of an automatic base its top
    const Grid* younger = nullptr; ///< of an automatic base: see BaseSurface::younger
};
/// One raw base on the frame of what it is measured from (before the rules).
Grid sampleBase(const BaseSurface&, const ReferenceGrids&, const Progress& = {});
/// With findings where bases cross, and where least thicknesses and outlines take a unit away.
ModelGrid stackGrids(const Model&, const Grid& ground, const std::vector<std::shared_ptr<const Grid>>& raw);

} // namespace fox
