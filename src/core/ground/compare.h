#pragma once
#include "base/progress.h"
#include "ground/terrain.h"

namespace fox {

/// What lies between two surfaces: a new one over an old one, say.
struct SurfaceVolumes {
    double area = 0;    ///< square metres in plan where both have a value
    double above = 0;   ///< cubic metres where the first is higher: fill, if it is what shall be
    double below = 0;   ///< where the first is lower, as a positive number: cut
    double noValue = 0; ///< square metres inside the area where only one has a value
    double net() const { return above - below; }
};

/// Sums over whole cells whose centre lies in the area.
/// @throws Error if the grids differ in extent or cell, saying how
SurfaceVolumes volumesBetween(const Grid& first, const Grid& second, const Area& = {});

/// Exact prisms over the overlay of the triangles: each pair of triangles that overlap in plan is clipped to its common
/// polygon (and to the area's rings), and the difference, linear there, is integrated on either side of its zero line.
SurfaceVolumes volumesBetween(const Tin& first, const Tin& second, const Area& = {}, const Progress& = {});

/// first - second, cell by cell; none where either has none. @throws as above
Grid differenceOf(const Grid& first, const Grid& second);

/// Of the cells that have a value. NaN without any.
struct DifferenceStatistics {
    std::size_t cells = 0;
    double mean = kNoValue, deviation = kNoValue, least = kNoValue, most = kNoValue; ///< metres
};
DifferenceStatistics statisticsOf(const Grid& difference);
/// How many cells have a value in each of `bins` bins of equal width from the least to the most value.
std::vector<std::size_t> histogramOf(const Grid& difference, std::size_t bins);

/// Levels of two surfaces along a line.
struct ComparedProfile {
    std::vector<double> chainage, first, second; ///< metres; kNoValue where there is none
};
using LevelAt = std::function<std::optional<double>(Point2)>;
ComparedProfile profileOf(const Polyline2& line, double step, const LevelAt& first, const LevelAt& second);

/// One of two surfaces that are compared.
struct ComparedSurface {
    LevelAt levelAt;
    std::shared_ptr<const Terrain> terrain; ///< null: only `levelAt` knows it
    Box2 box;                               ///< outside it there is no level; empty: within the site's extent
};
/// Around the triangles.
Box2 boxOf(const Tin&);
/// The cells on which two surfaces are compared: those of the site's extent, going on over all of both surfaces where they go on
/// beyond it, and no farther than the area. Larger cells where these would be more than a million.
Frame comparisonFrame(const Frame& site, const ComparedSurface& first, const ComparedSurface& second, const Area&);
struct Comparison {
    SurfaceVolumes volumes;
    bool exact = false; ///< prisms of triangles; else sums over the cells of `difference`
    Grid difference;    ///< first - second, none outside the area
    ComparedProfile profile;
};
/// Both surfaces at the centres of the frame's cells. Where both are triangles alone, without a limit of their own, the
/// volumes are those of exact prisms. The profile follows `line` (none: empty) in steps of half a cell.
Comparison compareSurfaces(const ComparedSurface& first, const ComparedSurface& second, const Frame&, const Area&,
                           const Polyline2& line, const Progress& = {});

} // namespace fox
