#pragma once
#include "ground/contours.h"
#include "ground/raster_ground.h"
#include "ground/tin_edits.h"
#include "ground/triangulate.h"

namespace fox {

/// What the ground is made of, in metres of the project's system.
struct TerrainInput {
    std::vector<Point3> points;                                   ///< survey points
    std::vector<Polyline3> breaklines;                            ///< levels kNoValue: taken from the ground there
    std::vector<Polyline3> contours;                              ///< each at one level; flat triangles between them are mended
    std::vector<std::shared_ptr<const Grid>> rasters;             ///< where there are no triangles
    std::vector<Point3> rasterLevels;                             ///< known levels that rasters are corrected to
    double blend = 0;                                             ///< metres over which rasters are drawn to the triangles
    Area area;                                                    ///< no ground outside it
    std::vector<Polyline3> cutLines;                              ///< outlines without levels to triangulate along
    double reach = std::numeric_limits<double>::infinity();       ///< metres; see makeTerrain
    double longestEdge = std::numeric_limits<double>::infinity(); ///< metres; see makeTerrain
    bool mendFlats = true;
    std::vector<TinEdit> edits;
};

/// The ground as triangles, and grids where there are none; nothing outside the area.
struct Terrain {
    Tin tin;
    RasterGround rasters;
    Area area;
    int points = 0, merged = 0, breaklineSegments = 0;
    int flatsMended = 0;   ///< points put into flat areas between contours
    int edgeTriangles = 0; ///< taken out because of their long edges
    Findings findings;

    std::optional<double> levelAt(Point2 p) const {
        if (!area.contains(p)) return {};
        const auto z = tin.levelAt(p);
        return z || rasters.empty() ? z : rasters.levelAt(p);
    }
    Grid sampled(const Frame& frame, const Progress& progress = {}) const;
    bool empty() const { return tin.empty() && rasters.empty(); }
};

/// 1. Edits of points. 2. All points, lines with levels and contours are triangulated, flats between contours mended.
/// 3. Lines without levels are laid on that surface; a vertex outside it, or with no vertex of its triangle within
/// `reach`, is left out with a finding. 4. Outer triangles with an edge longer than `longestEdge` are taken out, from
/// the hull inwards, up to a line. 5. Edits of triangles. What isn't finite is left out with a finding.
Terrain makeTerrain(const TerrainInput&, const Progress& = {});

/// Contours of the whole ground inside its area. Exactly along the triangles; where grids serve too, through `sampled`.
std::vector<ContourLine> contoursOf(const Terrain&, const Grid& sampled, double interval, bool smooth, const Progress& = {});

} // namespace fox
