#pragma once
#include "base/grid.h"
#include "ground/tin.h"

namespace fox {

/// A line of equal level; closed if its last point is its first.
struct ContourLine {
    double level = 0;
    Polyline2 line;
};
/// Through a grid, by GDAL; no line where a cell has no value.
std::vector<ContourLine> contoursOf(const Grid&, double interval);
/// Through triangles, exactly: a piece a triangle, joined to lines, low levels first. A vertex at a level counts as
/// just above it, so that flat triangles have no line. Requires interval > 0 metres.
std::vector<ContourLine> contoursOf(const Tin&, double interval, const Progress& = {});
/// The line with its corners cut, to be looked at: each piece keeps its middle. Ends stay. (Chaikin, 1974, twice.)
Polyline2 smoothed(const Polyline2&);

/// A round interval (1, 2 or 5 times a power of ten metres) that gives 8 to 20 lines between two levels.
double contourInterval(double lowest, double highest);
double contourInterval(const Grid&);

} // namespace fox
