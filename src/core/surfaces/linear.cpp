#include "ground/triangulate.h"
#include "surfaces/interpolators.h"

#include <set>

namespace fox::detail {

namespace {

/// Linear on the Delaunay triangles of the points; no value outside their hull.
class LinearSurface : public Interpolator {
public:
    explicit LinearSurface(std::vector<Point3> points) : m_points(std::move(points)), m_tin(triangulate(m_points, {}, 0).tin) {
        m_links.resize(m_points.size());
        std::map<std::pair<double, double>, std::size_t> index;
        for (std::size_t i = 0; i < m_points.size(); ++i) index[{m_points[i].x, m_points[i].y}] = i;
        std::vector<std::size_t> pointOf;
        for (const auto& v : m_tin.vertices()) pointOf.push_back(index[{v.x, v.y}]);
        for (const auto& t : m_tin.triangles())
            for (const int a : t.vertex)
                for (const int b : t.vertex)
                    if (a != b) m_links[pointOf[std::size_t(a)]].insert(pointOf[std::size_t(b)]);
    }

    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double>) const override {
        int hint = -1;
        for (std::size_t i = 0; i < places.size(); ++i) values[i] = m_tin.levelAt(places[i], hint).value_or(kNoValue);
    }

    // Without a vertex its star is filled by Delaunay triangles of the star's own rim (their circles hold no
    // other point), so the rim alone gives the level there.
    double leaveOneOut(std::size_t i) const override {
        std::vector<Point3> rim;
        for (const auto k : m_links[i]) rim.push_back(m_points[k]);
        const auto z = triangulate(rim, {}, 0).tin.levelAt(m_points[i].plan());
        return z ? *z - m_points[i].z : kNoValue;
    }

private:
    std::vector<Point3> m_points;
    Tin m_tin;
    std::vector<std::set<std::size_t>> m_links;
};

} // namespace

std::unique_ptr<Interpolator> makeLinear(std::vector<Point3> points) {
    return std::make_unique<LinearSurface>(std::move(points));
}

} // namespace fox::detail
