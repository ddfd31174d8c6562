#pragma once
#include "base/grid.h"
#include "ground/terrain.h"

namespace fox {

/// What the ground tells of units: its level smoothed over about the distance between holes, and how high it stands over the
/// low ground around. Worked out on a grid of kCells a side over the extent and a little beyond.
class GroundShape {
public:
    GroundShape(const Terrain&, const Box2& extent, double spacing);
    static constexpr int kCells = 96;

    /// Smoothed over half the spacing of holes, so that a river's channel or an embankment is not in it. Metres.
    double smooth(Point2) const;
    /// Smoothed over four fifths of the spacing.
    double broad(Point2) const;
    /// Ranks among the places of the extent, scaled to a mean of 0 and a variance of 1: of the height over the local low ground
    /// (the least level within a fifth of the site's size, smoothed over half of that), of the broad level, and of the ground's
    /// height over that.
    double heightRank(Point2) const;
    double broadRank(Point2) const;
    double reliefRank(Point2) const;

private:
    double at(const std::vector<double>& cells, Point2) const;

    Box2 m_box;
    double m_dx = 1, m_dy = 1;
    std::vector<double> m_smooth, m_broad, m_height, m_relief; ///< row by row from the south
    std::vector<double> m_heights, m_broads, m_reliefs;        ///< of cells within the extent, sorted
};

} // namespace fox
