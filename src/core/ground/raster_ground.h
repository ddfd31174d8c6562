#pragma once
#include "base/grid.h"
#include "ground/grid_correction.h"
#include "ground/segment_index.h"
#include "ground/tin.h"

#include <memory>

namespace fox {

/// Coarse grids as the ground where triangles have none. Beside the triangles the grid is shifted to meet them: by the
/// whole difference at their edge, by none at `blend` metres from it, smoothly between.
class RasterGround {
public:
    RasterGround() = default;
    /// Grids serve in order: a later one where the ones before have no value. `known` are levels that they are corrected to.
    RasterGround(std::vector<std::shared_ptr<const Grid>> grids, const Tin&, double blend, const std::vector<Point3>& known = {});
    /// As the grids have it, before any correction; none outside them.
    std::optional<double> plainLevelAt(Point2) const;
    bool empty() const { return m_grids.empty(); }
    /// At a place without triangles. Bilinear between cell centres; none outside the grids.
    std::optional<double> levelAt(Point2) const;

private:
    std::vector<std::shared_ptr<const Grid>> m_grids;
    double m_blend = 0;
    GridCorrection m_correction;
    SegmentIndex m_edges; ///< the triangles' outer edges, with their levels
    std::vector<std::pair<double, double>> m_levels;
};

/// Between cell centres bilinearly, in the outer half cell as at its centre; none where a cell around it has none or
/// outside the grid.
std::optional<double> bilinear(const Grid&, Point2);

} // namespace fox
