#pragma once
#include "ground/area.h"

#include <array>
#include <memory>

namespace fox {

/// Cuts many small shapes, triangles of a ground, at the edge of an area. (By GEOS, through GDAL: prepared once.)
class AreaParts {
public:
    explicit AreaParts(const Area&);
    ~AreaParts();
    AreaParts(const AreaParts&) = delete;
    /// What of a shape without holes lies in the area, each part without holes too: the shape itself where all of it does.
    /// Parts under a square millimetre are dropped.
    std::vector<Polygon2> of(const Polygon2& shape) const;

private:
    std::vector<Polygon2> of(const Polygon2& shape, int depth) const;
    struct Geometry;
    std::unique_ptr<Geometry> m_geometry; ///< null: the area is everywhere
};

/// The level of a triangle's plane, for corners that a cut made. The triangle must have an area in plan.
double levelOnPlane(const std::array<Point3, 3>& triangle, Point2);

} // namespace fox
