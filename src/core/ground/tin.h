#pragma once
#include "base/grid.h"
#include "base/progress.h"
#include "ground/area.h"

#include <array>
#include <cstdint>
#include <optional>
#include <span>
#include <vector>

namespace fox {

/// Triangles over the convex hull of their vertices in plan, levels linear in each. Some may be taken out: the surface
/// has holes there, while the search for a place still walks through them.
class Tin {
public:
    struct Triangle {
        std::array<int, 3> vertex;    ///< counter-clockwise in plan
        std::array<int, 3> neighbour; ///< across the edge opposite vertex[i]; -1 outside the hull
    };

    Tin() = default;
    /// `fixedEdges`: for each triangle a bit for each edge opposite vertex[i] that lies on a line; empty: none does.
    Tin(std::vector<Point3> vertices, std::vector<Triangle> triangles, std::vector<std::uint8_t> fixedEdges = {});

    const std::vector<Point3>& vertices() const { return m_vertices; }
    /// Those that make the surface. A neighbour's index past them is one that was taken out.
    std::span<const Triangle> triangles() const { return std::span(m_triangles).first(m_present); }
    /// The same, and behind them those that were taken out.
    std::span<const Triangle> trianglesAndRemoved() const { return m_triangles; }
    bool isPresent(int triangle) const { return triangle >= 0 && std::size_t(triangle) < m_present; }
    bool isFixed(std::size_t triangle, std::size_t edge) const {
        return !m_fixedEdges.empty() && (m_fixedEdges[triangle] >> edge & 1);
    }
    bool empty() const { return m_present == 0; }
    /// The same surface with these triangles taken out (one flag for each of triangles()).
    Tin without(const std::vector<bool>& takenOut) const;
    /// The edge a-b between two triangles turned to join their other corners. None if there is no such edge, it lies
    /// on a line or the hull, or the two triangles do not make a convex quadrilateral.
    std::optional<Tin> swapped(Point2 a, Point2 b) const;
    /// Indices of all triangles that meet a rectangle, and of some whose extent does: from its middle outwards, which is
    /// quick where they are few of many.
    std::vector<std::size_t> trianglesIn(const Box2&) const;
    /// Index of the triangle that a place lies in.
    std::optional<std::size_t> triangleAt(Point2) const;
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
    /// Of what lies inside the area. Triangles cut by its edge count in part, exactly.
    Measures measure(const Area& = {}) const;

private:
    int find(Point2, int start) const; ///< of all triangles; -1 outside the hull
    std::optional<Tin> turned(std::size_t first, std::size_t edge, std::size_t second, std::size_t back) const;
    int startNear(Point2) const;
    void indexStarts();

    std::vector<Point3> m_vertices;
    std::vector<Triangle> m_triangles; ///< those that were taken out stand behind the others
    std::vector<std::uint8_t> m_fixedEdges;
    std::size_t m_present = 0;
    Box2 m_box;
    int m_buckets = 0;         ///< a side
    std::vector<int> m_starts; ///< a triangle in or near each bucket
};

/// The level at every cell centre; no value outside the triangles or outside the area.
Grid sample(const Tin&, const Frame&, const Area& = {}, const Progress& = {});

} // namespace fox
