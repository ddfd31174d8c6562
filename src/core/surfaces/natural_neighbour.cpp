#include "surfaces/interpolators.h"

#include <CGAL/Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Interpolation_traits_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>
#include <CGAL/natural_neighbor_coordinates_2.h>

// Sibson (1981): each neighbour counts by the area that a new point's Voronoi cell would take from its own. CGAL finds the
// shares. Coordinates are taken near the origin, since the areas are differences of squares of them. Leave-one-out needs no
// refit: the neighbours of a point, triangulated without it, are all that its value depends on.
namespace fox::detail {

namespace {

/// Sibson's coordinates (1981): each neighbour counts by the area that a new point's cell would take of its own.
/// CGAL finds them; no value outside the points' hull.
class Sibson {
    using K = CGAL::Exact_predicates_inexact_constructions_kernel;
    using Vertex = CGAL::Triangulation_vertex_base_with_info_2<std::size_t, K>;
    using Delaunay = CGAL::Delaunay_triangulation_2<K, CGAL::Triangulation_data_structure_2<Vertex>>;

public:
    using Hint = Delaunay::Face_handle;

    explicit Sibson(const std::vector<Point3>& points) : m_points(points) {
        // near the origin: areas are differences of squares of coordinates
        for (const auto& p : points) m_origin.x += p.x / double(points.size()), m_origin.y += p.y / double(points.size());
        std::vector<std::pair<K::Point_2, std::size_t>> places;
        for (std::size_t i = 0; i < points.size(); ++i) places.emplace_back(relative(points[i].plan()), i);
        m_delaunay.insert(places.begin(), places.end());
    }

    double at(Point2 place, Hint& hint) const {
        if (m_delaunay.dimension() < 2) return kNoValue;
        const auto p = relative(place);
        Delaunay::Locate_type type{};
        int index = 0;
        hint = m_delaunay.locate(p, type, index, hint);
        if (type == Delaunay::OUTSIDE_CONVEX_HULL || type == Delaunay::OUTSIDE_AFFINE_HULL) return kNoValue;
        thread_local std::vector<std::pair<Delaunay::Vertex_handle, double>> shares;
        shares.clear();
        CGAL::natural_neighbor_coordinates_2(m_delaunay, p, std::back_inserter(shares),
                                             CGAL::Identity<std::pair<Delaunay::Vertex_handle, double>>(), hint);
        double sum = 0, weights = 0, low = std::numeric_limits<double>::infinity(), high = -low;
        for (const auto& [vertex, share] : shares) {
            const double z = m_points[vertex->info()].z;
            sum += share * z, weights += share;
            low = std::min(low, z), high = std::max(high, z);
        }
        const double value = sum / weights;
        // beside the hull's edge cells are very long, and rounding can outweigh what they differ by
        if (!(value >= low && value <= high)) return linear(hint, p);
        return value;
    }

    /// Neighbours of every point by its index.
    std::vector<std::vector<std::size_t>> neighbours() const {
        std::vector<std::vector<std::size_t>> out(m_points.size());
        for (auto e = m_delaunay.finite_edges_begin(); e != m_delaunay.finite_edges_end(); ++e) {
            const auto a = e->first->vertex(Delaunay::cw(e->second))->info(),
                       b = e->first->vertex(Delaunay::ccw(e->second))->info();
            out[a].push_back(b), out[b].push_back(a);
        }
        for (auto& n : out) std::ranges::sort(n); // by no accident of insertion
        return out;
    }

private:
    K::Point_2 relative(Point2 p) const { return {p.x - m_origin.x, p.y - m_origin.y}; }

    double linear(Hint face, const K::Point_2& p) const {
        if (m_delaunay.is_infinite(face)) face = face->neighbor(face->index(m_delaunay.infinite_vertex()));
        const auto& a = face->vertex(0)->point();
        const auto& b = face->vertex(1)->point();
        const auto& c = face->vertex(2)->point();
        const double all = CGAL::area(a, b, c);
        const double u = CGAL::area(p, b, c) / all, v = CGAL::area(a, p, c) / all;
        return u * m_points[face->vertex(0)->info()].z + v * m_points[face->vertex(1)->info()].z
               + (1 - u - v) * m_points[face->vertex(2)->info()].z;
    }

    std::vector<Point3> m_points;
    Point2 m_origin;
    Delaunay m_delaunay;
};

class NaturalNeighbour : public Interpolator {
public:
    explicit NaturalNeighbour(const std::vector<Point3>& points)
        : m_points(points), m_sibson(points), m_neighbours(m_sibson.neighbours()) {}
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double>) const override {
        Sibson::Hint hint;
        for (std::size_t i = 0; i < places.size(); ++i) values[i] = m_sibson.at(places[i], hint);
    }
    // A point's cell is what it takes of the others' when it comes last, and only its neighbours are next to it.
    double leaveOneOut(std::size_t i) const override {
        std::vector<Point3> rim;
        for (const auto k : m_neighbours[i]) rim.push_back(m_points[k]);
        if (rim.empty()) return kNoValue;
        Sibson::Hint hint;
        return Sibson(rim).at(m_points[i].plan(), hint) - m_points[i].z;
    }

private:
    std::vector<Point3> m_points;
    Sibson m_sibson;
    std::vector<std::vector<std::size_t>> m_neighbours;
};

} // namespace

std::unique_ptr<Interpolator> makeNaturalNeighbour(const std::vector<Point3>& points) {
    return std::make_unique<NaturalNeighbour>(points);
}

} // namespace fox::detail
