#pragma once
#include "ground/triangulate.h"

namespace fox {

/// What the ground is made of, in metres of the project's system.
struct TerrainInput {
    std::vector<Point3> points;        ///< survey points
    std::vector<Polyline3> breaklines; ///< levels kNoValue: taken from the ground there
    Polygon2 limit;                    ///< empty: none
};

/// The ground as triangles, none outside the limit.
struct Terrain {
    Tin tin;
    Polygon2 limit;
    int points = 0, merged = 0, breaklineSegments = 0;
    Findings findings;

    std::optional<double> levelAt(Point2 p) const {
        if (!limit.empty() && !contains(limit, p)) return {};
        return tin.levelAt(p);
    }
    Grid sampled(const Frame& frame, const Progress& progress = {}) const { return sample(tin, frame, limit, progress); }
};

/// Flat breaklines without levels are laid on the surface of all the rest first; those (or pieces of them)
/// outside it are left out with a finding.
Terrain makeTerrain(const TerrainInput&, const Progress& = {});

/// Lines of equal level through a grid, by GDAL; no line where a cell has no value.
struct ContourLine {
    double level = 0;
    Polyline2 line;
};
std::vector<ContourLine> contoursOf(const Grid&, double interval);
/// A round interval (1, 2 or 5 times a power of ten metres) that gives 8 to 20 lines.
double contourInterval(const Grid&);

} // namespace fox
