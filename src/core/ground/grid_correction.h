#pragma once
#include "ground/point_grid.h"

namespace fox {

/// Draws a coarse grid to levels that are known better, such as those of holes: by the difference at each of them, fading
/// into the mean of all differences away from them. How far a difference reaches is chosen by leaving each out in turn: a
/// grid that is merely noisy is corrected near the levels only, one that is bent is corrected between them too.
class GridCorrection {
public:
    GridCorrection() = default;
    /// x, y and known level less the grid's, metres; `cell` is the grid's, metres, > 0.
    GridCorrection(std::vector<Point3> differences, double cell);
    bool empty() const { return m_differences.empty(); }
    /// Metres to add to the grid's level; 0 if there is nothing to go by. Exact at the known levels.
    double at(Point2) const;
    double reach() const { return m_reach; } ///< metres at which a difference counts as much as the mean of all

private:
    double at(Point2, double reach, std::size_t without) const;

    std::vector<Point3> m_differences; ///< less their mean
    PointGrid m_places;
    double m_mean = 0, m_reach = 0;
};

} // namespace fox
