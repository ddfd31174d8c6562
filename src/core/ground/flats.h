#pragma once
#include "ground/tin.h"

#include <memory>

namespace fox {

/// Finds triangles whose three corners lie on contours of one level - on crests, spurs, valley floors and saddles - and
/// gives points along the middle line of such areas, so that hilltops are round and valleys have a floor.
/// The middle line joins the middles of the edges that cross an area. A point's level is carried on from the slope on
/// the other side of the nearest contour pieces (weighted by nearness), over its distance from them, bending as the
/// next two bands of ground do, and stays within half of the interval to the next contour. So a cone is carried on
/// straight and a round top or a saddle level off. Where nothing beside an area slopes, it stays flat.
class FlatTriangleRemoval {
public:
    explicit FlatTriangleRemoval(std::span<const Polyline3> contours);
    ~FlatTriangleRemoval();
    FlatTriangleRemoval(FlatTriangleRemoval&&) noexcept;
    /// Points to add to the ground and triangulate again; ask again with the result until none comes. The first
    /// answer is the middle lines, later ones are the middles of triangles that are still flat.
    std::vector<Point3> pointsFor(const Tin&);

private:
    struct Work;
    std::unique_ptr<Work> m_work;
};

} // namespace fox
