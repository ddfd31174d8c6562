#pragma once
#include "model/ensemble.h"

namespace fox {

/// What one more hole should narrow.
struct DrillAim {
    enum class Kind {
        Volume,   ///< of the unit
        Base,     ///< levels of its base
        Presence, ///< where it is
    } kind = Kind::Volume;
    std::size_t unit = 0; ///< not the oldest
    Area area;            ///< where; everywhere by default
};
const char* name(DrillAim::Kind);  ///< for files: "volume"
const char* words(DrillAim::Kind); ///< "its volume"
std::optional<DrillAim::Kind> drillAimNamed(std::string_view);

struct DrillSettings {
    EnsembleSettings ensemble{200, 1};
    std::optional<double> depth; ///< metres below ground; none: the hole goes through all units
};

struct DrillPlace {
    Point2 place;
    double gain = 0; ///< share of the aim's variance that is expected to go, 0 to 1
};

/// About `count` places all over an extent, on a square lattice.
std::vector<Point2> drillCandidates(const Box2& extent, int count = 400);
/// Places along a line, its ends among them.
std::vector<Point2> drillCandidates(const Polyline2& line, int count = 100);

/// What one more hole at each of these places is expected to bring, the best first; places without ground are left out.
/// The expectation is over the realisations of the model: the part of the aim's variance that a linear regression on what the
/// hole would find (the unit's top and base as far as it goes, whether it is there, whether its base is reached) explains,
/// adjusted for the number of realisations. Of Base and Presence variances are summed over a lattice of places. 0 where nothing
/// is uncertain. (The worth of data as the variance that they are expected to take away: Freeze and others 1992.)
/// @throws Error if the aim's unit has no base or its area no ground, Stopped
std::vector<DrillPlace> whereToDrill(const Model&, const Frame&, const DrillAim&, std::span<const Point2> candidates,
                                     const DrillSettings& = {}, const Progress& = {});

/// Of a ranking the places that are no nearer than this to a better one, metres.
std::vector<DrillPlace> apart(const std::vector<DrillPlace>&, double least);

} // namespace fox
