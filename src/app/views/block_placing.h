#pragma once
#include "views/block_scene.h"

namespace fox::app {

/// Where things of the project stand in a block scene, and how its units look there, at one look.
class BlockPlacing {
public:
    /// Requires products.ground. Both are kept by reference.
    BlockPlacing(const ProductSet&, const BlockScene::Look&);

    /// Metres of the scene: east and north of the frame's middle, above the lowest level, exaggerated.
    Point3 at(Point3 place) const { return {x(place.x), y(place.y), z(place.z)}; }
    double x(double easting) const { return easting - m_middle.x; }
    double y(double northing) const { return northing - m_middle.y; }
    double z(double level) const { return (level - m_lowest) * m_look.exaggeration; }
    Point2 place(double x, double y) const { return {x + m_middle.x, y + m_middle.y}; } ///< back in the project

    double lowest() const { return m_lowest; }   ///< metres: of the ground
    double highest() const { return m_highest; } ///< metres: of the ground
    double floor() const { return m_floor; }     ///< metres: under the oldest unit
    double width() const { return m_products.ground->frame.xmax - m_products.ground->frame.xmin; } ///< metres
    /// A little over a surface, so that lines on it are seen: a share of the ground's range, in the scene's metres.
    double over(double share) const { return (m_highest - m_lowest) * m_look.exaggeration * share; }

    bool isExploded() const { return m_gap > 0; }
    double lift(std::size_t unit) const; ///< how much higher a unit is drawn in the exploded view, metres
    bool isHidden(std::size_t unit) const;
    QColor fill(std::size_t unit) const; ///< faded if another unit is selected

private:
    const ProductSet& m_products;
    const BlockScene::Look& m_look;
    Point2 m_middle;
    double m_lowest = kNoValue, m_highest = kNoValue, m_floor = 0;
    double m_gap = 0; ///< metres between units of the exploded view
};

} // namespace fox::app
