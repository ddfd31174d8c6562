#include "ground/outliers.h"

#include "base/parallel.h"

// A vertex is held against the surface that its neighbours make without it: the ring of vertices around it is triangulated
// (Delaunay, by trying all triples of a small ring) and read at its place. The usual scatter is taken from the median of the
// differences, which spikes can't pull. The worst is taken first and then no longer judges its neighbours, so that one spike is
// one finding.
namespace fox {

namespace {

double turn(Point2 a, Point2 b, Point2 c) { return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x); }

bool inCircle(Point2 a, Point2 b, Point2 c, Point2 p) { // a, b, c counter-clockwise
    const double ax = a.x - p.x, ay = a.y - p.y, bx = b.x - p.x, by = b.y - p.y, cx = c.x - p.x, cy = c.y - p.y;
    return (ax * ax + ay * ay) * (bx * cy - cx * by) - (bx * bx + by * by) * (ax * cy - cx * ay)
               + (cx * cx + cy * cy) * (ax * by - bx * ay)
           > 0;
}

/// Rings of vertices around each vertex.
class Rings {
public:
    explicit Rings(const Tin& tin) : m_tin(tin), m_all(tin.trianglesAndRemoved()), m_of(tin.vertices().size(), -1) {
        for (std::size_t t = 0; t < tin.triangles().size(); ++t)
            for (const int v : tin.triangles()[t].vertex) m_of[std::size_t(v)] = int(t);
    }
    /// Counter-clockwise; empty at the edge, on a line, or where nothing is.
    void around(int vertex, std::vector<int>& ring) const {
        ring.clear();
        const int start = m_of[std::size_t(vertex)];
        int t = start;
        while (t >= 0) {
            const auto& triangle = m_all[std::size_t(t)];
            std::size_t i = 0;
            while (triangle.vertex[i] != vertex) ++i;
            const auto next = triangle.neighbour[(i + 1) % 3]; // across the edge from the vertex to the corner before it
            if (m_tin.isFixed(std::size_t(t), (i + 1) % 3) || next < 0) {
                ring.clear();
                return;
            }
            ring.push_back(triangle.vertex[(i + 1) % 3]);
            t = next;
            if (t == start) return;
        }
    }

private:
    const Tin& m_tin;
    std::span<const Tin::Triangle> m_all;
    std::vector<int> m_of; ///< a triangle of the surface at each vertex
};

/// The level at p of the Delaunay triangulation of the ring: of the triangle around p whose circle is empty. Rings are
/// small, so all triples are tried.
double levelOfRing(const Tin& tin, const std::vector<int>& ring, Point2 p) {
    const auto& v = tin.vertices();
    const auto at = [&](std::size_t i) { return v[std::size_t(ring[i])]; };
    constexpr double kFar = 3; // times the middle distance to the ring
    std::vector<double> away;
    for (std::size_t i = 0; i < ring.size(); ++i) away.push_back(distance(at(i).plan(), p));
    std::ranges::nth_element(away, away.begin() + std::ptrdiff_t(away.size() / 2));
    const double usual = away[away.size() / 2];
    for (std::size_t i = 0; i < ring.size(); ++i)
        for (std::size_t j = i + 1; j < ring.size(); ++j)
            for (std::size_t k = j + 1; k < ring.size(); ++k) {
                const auto a = at(i), b = at(j), c = at(k); // counter-clockwise as the ring is, if p is inside
                const double all = turn(a.plan(), b.plan(), c.plan());
                const double wa = turn(b.plan(), c.plan(), p), wb = turn(c.plan(), a.plan(), p), wc = turn(a.plan(), b.plan(), p);
                if (!(all > 0) || wa < 0 || wb < 0 || wc < 0) continue;
                bool empty = true;
                for (std::size_t m = 0; m < ring.size() && empty; ++m)
                    if (m != i && m != j && m != k) empty = !inCircle(a.plan(), b.plan(), c.plan(), at(m).plan());
                // far corners, as at the rim, say little of what is between
                const double farthest = std::max({distance(a.plan(), p), distance(b.plan(), p), distance(c.plan(), p)});
                if (empty && farthest > kFar * usual) return kNoValue;
                if (empty) return (wa * a.z + wb * b.z + wc * c.z) / all;
            }
    return kNoValue;
}

constexpr std::size_t kLargestRing = 24; // beyond it (spokes of a wheel) the cubic search would take too long

double difference(const Tin& tin, const std::vector<int>& ring, int vertex) {
    if (ring.size() < 3 || ring.size() > kLargestRing) return kNoValue;
    const auto& p = tin.vertices()[std::size_t(vertex)];
    return p.z - levelOfRing(tin, ring, p.plan());
}

} // namespace

std::vector<double> leftOutDifferences(const Tin& tin, const Progress& progress) {
    std::vector<double> out(tin.vertices().size(), kNoValue);
    if (tin.empty()) return out;
    const Rings rings(tin);
    parallelFor(
        out.size(), 4096,
        [&](std::size_t begin, std::size_t end) {
            std::vector<int> ring;
            for (auto i = begin; i < end; ++i) {
                rings.around(int(i), ring);
                out[i] = difference(tin, ring, int(i));
            }
        },
        progress);
    return out;
}

std::vector<Outlier> outliersOf(const Tin& tin, double least, const Area& area, const Progress& progress) {
    const auto off = leftOutDifferences(tin, progress);
    std::vector<double> sizes;
    for (const double d : off)
        if (!std::isnan(d)) sizes.push_back(std::abs(d));
    if (sizes.size() < 8) return {}; // too few to say what is usual
    const auto middle = sizes.begin() + std::ptrdiff_t(sizes.size() / 2);
    std::ranges::nth_element(sizes, middle);
    const double threshold = std::max(least, kOutlierFactor * 1.4826 * *middle);
    std::vector<int> candidates;
    for (std::size_t i = 0; i < off.size(); ++i)
        if (std::abs(off[i]) > threshold && area.contains(tin.vertices()[i].plan())) candidates.push_back(int(i));
    std::ranges::stable_sort(candidates, std::greater<>(), [&](int i) { return std::abs(off[std::size_t(i)]); });
    const Rings rings(tin);
    std::vector<bool> isOutlier(off.size(), false);
    std::vector<Outlier> out;
    std::vector<int> ring;
    for (const int i : candidates) {
        rings.around(i, ring);
        std::erase_if(ring, [&](int v) { return isOutlier[std::size_t(v)]; });
        const double d = difference(tin, ring, i);
        if (!(std::abs(d) > threshold)) continue;
        isOutlier[std::size_t(i)] = true;
        out.push_back({i, d});
    }
    return out;
}

} // namespace fox
