#pragma once
#include "base/finding.h"
#include "ground/tin.h"

#include <span>

namespace fox {

struct Triangulation {
    Tin tin;
    int merged = 0;        ///< points and line vertices that merging removed
    int mergedUnequal = 0; ///< places where merged levels differed by more than a millimetre
    int crossings = 0;     ///< vertices added where breaklines cross
    int segments = 0;      ///< breakline segments put in
    Findings findings;     ///< places with two levels, crossings that disagree
};

/// Constrained Delaunay triangulation in plan.
/// Guarantees: (1) each breakline is a chain of triangle edges; (2) no vertex is inside the circumcircle of
/// a triangle that sees it; (3) same input, same triangles. Points closer than `mergeDistance` metres in plan
/// become one with their mean level, but where a line's vertex is among them the lines win. Breaklines that
/// cross are split; where their levels differ by more than kCrossingLevels the mean is used, with a finding.
/// Requires finite coordinates. Under three places, or all in one line: a Tin without triangles, no error.
/// CGAL does the insertion, in Hilbert order, with exact predicates.
Triangulation triangulate(std::span<const Point3> points, std::span<const Polyline3> breaklines = {},
                          double mergeDistance = 0.001, const Progress& = {});
inline constexpr double kCrossingLevels = 0.01; ///< metres, a survey's own accuracy

} // namespace fox
