#pragma once
#include "base/grid.h"
#include "base/progress.h"

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

namespace fox {

/// Triangles over the convex hull of their vertices in plan, levels linear in each.
class Tin {
public:
    struct Triangle {
        std::array<int, 3> vertex;    ///< counter-clockwise in plan
        std::array<int, 3> neighbour; ///< across the edge opposite vertex[i]; -1 outside the hull
    };

    Tin() = default;
    Tin(std::vector<Point3> vertices, std::vector<Triangle> triangles);

    const std::vector<Point3>& vertices() const { return m_vertices; }
    const std::vector<Triangle>& triangles() const { return m_triangles; }
    bool empty() const { return m_triangles.empty(); }
    std::array<Point3, 3> corners(const Triangle& t) const {
        return {m_vertices[std::size_t(t.vertex[0])], m_vertices[std::size_t(t.vertex[1])], m_vertices[std::size_t(t.vertex[2])]};
    }
    bool hasEdge(Point2 a, Point2 b) const;

    /// The level at a place, none outside the hull (its edge, with kEdge metres beyond, is inside).
    /// `hint` is where the search starts and is set to the triangle found; it makes runs of near places fast.
    std::optional<double> levelAt(Point2, int& hint) const;
    std::optional<double> levelAt(Point2) const;
    static constexpr double kEdge = 1e-6;

    struct Measures {
        double planArea = 0, surfaceArea = 0; ///< square metres
        double zmin = kNoValue, zmax = kNoValue;
        int flatTriangles = 0; ///< three corners at one level
    };
    /// Of what lies inside the limit; of all if the limit is empty. Triangles cut by it count in part, exactly.
    Measures measure(const Polygon2& limit = {}) const;

private:
    int startNear(Point2) const;
    void indexStarts();

    std::vector<Point3> m_vertices;
    std::vector<Triangle> m_triangles;
    Box2 m_box;
    int m_buckets = 0;         ///< a side
    std::vector<int> m_starts; ///< a triangle in or near each bucket
};

/// The level at every cell centre; no value outside the hull or outside `limit` (if it is not empty).
Grid sample(const Tin&, const Frame&, const Polygon2& limit = {}, const Progress& = {});

} // namespace fox
