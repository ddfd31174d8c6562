#pragma once
#include "base/errors.h"
#include "base/progress.h"
#include "blocks/block_model.h"
#include "blocks/excavation_spec.h"
#include "ground/contours.h"
#include "model/ensemble.h"

namespace fox {

/// The ground of an excavation: a column of the model at each cell's centre.
struct DigGround {
    Frame frame;
    std::vector<ModelColumn> columns; ///< a cell; without ground outside
    std::shared_ptr<const Sequence> sequence;
};
DigGround digGround(const Model&, const Frame&, const Progress& = {});
Point2 centreOf(const Frame&, std::size_t cell); ///< cells count along rows from the north-west
/// The ground is what was dug before: what lay above is gone.
void digBefore(DigGround&, const Grid& dug);

/// A column of ground that is to be freed, and how deep.
struct WantedColumn {
    std::size_t cell = 0;
    double bottom = 0; ///< metres
    double volume = 0; ///< cubic metres that are wanted in it
};

/// How slopes rise from a floor.
struct SlopeRules {
    std::vector<double> tangents; ///< a unit: rise over run; kNoValue without a slope
    std::optional<ExcavationSpec::Bench> bench;
    double deepest = 0; ///< metres: benches count from here up
    struct Sector {
        double from = 0, to = 0; ///< degrees clockwise from north
        std::vector<double> tangents;
    };
    std::vector<Sector> sectors = {}; ///< the first that has the direction of the way up counts
    /// Those of a way in this direction, degrees clockwise from north.
    const std::vector<double>& tangentsTowards(double azimuth) const;
};
/// @throws Error for a code that the sequence has not
SlopeRules slopeRules(const ExcavationSpec&, const Sequence&);

/// The level at which the slope from a floor reaches a cell: along the straight line in plan from centre to centre it climbs with
/// the slope of the unit that it is in, as the columns of the cells on the way have it; with benches it goes level for a berm at
/// each bench. kNoValue if it meets the ground, or the edge of the ground, before.
/// @throws Error for a unit that is cut and has no slope
double slopeReaches(const DigGround&, const SlopeRules&, const WantedColumn&, std::size_t cell);

/// Levels of the dug surface: the least of what the slopes from all wanted columns reach, never above the ground; the ground
/// where nothing is dug; kNoValue outside. @throws Error as slopeReaches
Grid dugSurface(const DigGround&, const SlopeRules&, std::span<const WantedColumn>, const Progress& = {});

struct Excavation {
    Grid dug;
    Grid depth;                                        ///< how deep it is dug, metres: 0 where it is not; kNoValue outside
    double excavated = 0, wanted = 0, area = 0;        ///< cubic and square metres
    double deepest = 0;                                ///< metres below the ground
    std::map<std::size_t, double> byUnit, looseByUnit; ///< cubic metres, by place in the sequence
    std::optional<double> mass, wantedMass;            ///< tonnes; none if a unit that is dug has no unit weight
    std::map<std::size_t, double> massByUnit;
    struct Bench {
        double from = 0, to = 0, volume = 0, area = 0; ///< levels; cubic metres between them; of the dug floor
        std::optional<double> mass;                    ///< tonnes; none if a unit in it has no unit weight
    };
    std::vector<Bench> benches;       ///< the deepest first; one without benches
    bool reachesEdge = false;         ///< it is cut off by the edge of the extent or of the ground
    double limitLength = 0;           ///< metres of its outline that are cut off upright at the limit
    std::optional<double> belowWater; ///< cubic metres of what is dug; none without a water surface
    std::optional<double> profit;
    std::size_t columns = 0; ///< wanted ones that are freed
    double waste() const { return excavated - wanted; }
};

/// Lines of the dug floor at the levels between benches; none without benches.
std::vector<ContourLine> benchLines(const Excavation&);

/// All that an excavation is made from.
struct ExcavationInputs {
    std::shared_ptr<const Model> model;
    ExcavationSpec spec;
    Frame site; ///< its cell is used if the specification has none
    Area inside, limit;
    std::shared_ptr<const Surface> water;     ///< null: none, or spec.waterLevel
    std::shared_ptr<const Grid> before;       ///< the dug surface that is the ground; null: the model's
    std::shared_ptr<const Surface> surface;   ///< of Wanted::Surface
    std::shared_ptr<const BlockModel> blocks; ///< of Wanted::Blocks
};
/// The cells that are dug in. @throws Error for too many
Frame digFrame(const ExcavationInputs&);

/// Nothing of what is asked for is there.
struct NothingWanted : Error {
    NothingWanted() : Error("Nothing is wanted there: no column has what the specification asks for.") {}
};
/// See batch.md, "excavate". With worth: the columns whose freeing pays, exactly, by maximumClosure().
/// @throws Error if nothing is wanted, a wanted column lies outside the ground, or a unit that is cut has no slope; Stopped
Excavation excavate(const ExcavationInputs&, const Progress& = {});

/// The same in a ground that is given, of the cells of digFrame().
Excavation excavateIn(const ExcavationInputs&, DigGround, const Progress& = {});

/// What an excavation comes to in equally likely models: cubic metres. A model in which nothing is wanted counts with 0.
struct ExcavationRange {
    int count = 0;
    Range excavated, wanted, waste;
};
/// The same excavation in each realisation of the model (model/ensemble.h). @throws Error as excavate does; Stopped
ExcavationRange excavationRange(const ExcavationInputs&, const EnsembleSettings&, const Progress& = {});

} // namespace fox
