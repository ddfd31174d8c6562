#pragma once
#include "holes/hole.h"
#include "holes/local_grid.h"

namespace fox {

/// Holes without an easting and northing whose longitude (x) and latitude (y) are known, one a hole, get those in `system`.
/// Findings at `where` (file, group, heading) say how many, and how many wait if `system` is empty.
Findings projectDegrees(Holes&, const std::vector<std::optional<Point2>>& degrees, const std::string& system,
                        const Finding& where);

/// Every hole is put where its place on the site's own grid, one a hole, says; one without keeps the place that it has.
/// @throws Error if the grid's two control points are one
Findings placeByLocalGrid(Holes&, const LocalGrid&, const std::vector<std::optional<Point2>>& places, const std::string& file);

} // namespace fox
