#pragma once
#include "ground/outliers.h"
#include "ground/point_grid.h"
#include "products/making.h"

#include <set>

namespace fox {

/// What there is to say of the ground; counted once, as there may be millions of points.
struct GroundStatistics {
    Tin::Measures measures;
    std::map<std::string, int> codes; ///< of survey points
    std::set<std::string> joinable;   ///< codes, without number, that can be joined as strings
    bool linesWithoutLevels = false;
    Box2 extent;                            ///< of the triangles
    std::vector<const SurveyPoint*> points; ///< of sources that are used; they live as long as the project does
    PointGrid pointGrid;                    ///< of points
};
std::shared_ptr<const GroundStatistics> groundStatistics(const Making&);

/// How much of the ground lies beyond the extent of the model, where grids end: a note if that is more than a hundredth.
std::shared_ptr<const Findings> groundBeyondExtent(const Making&);

/// A ground point is at least this far off its neighbours: a finding (see outliersOf).
inline constexpr double kPointOff = 0.75; ///< metres
/// Survey points far off their neighbours, as vertices of the terrain.
std::shared_ptr<const std::vector<Outlier>> groundOutliers(const Making&);

} // namespace fox
