#include "ground/flats.h"

#include "ground/segment_index.h"

// Where all three corners of a triangle lie on one contour, the triangulation says that the ground is level there, which it
// hardly ever is: on a crest, a spur or a valley floor it goes on from the slope beside it. Flat triangles that touch are an
// area; its edges on contours each tell the slope, and how the slope changes, of the ground beyond (from where a line square to
// the contour meets the next contour and the one after). Points are set on the middles of the chords that cross an area. A
// point's level is that of the contour plus the slope carried over its distance, as a parabola up to its top, averaged over the
// eight nearest edges and kept within half an interval. Triangulated again, what is still flat gets the middles of its triangles.
// Our own method; it is judged by cones and saddles known in closed form (tests/core/contour_flat_tests.cpp).
namespace fox {

namespace {

/// A piece of contour at the edge of a flat area.
struct Edge {
    int area = 0;
    double level = 0;
    bool sloped = false;
    double slope = 0; ///< at the contour, upward away from the flat area: a metre of level a metre of plan
    double bend = 0;  ///< by how much the slope grows a metre away from the flat area; at least 0
};

bool before(const Point2& a, const Point2& b) { return a.x < b.x || (a.x == b.x && a.y < b.y); }

/// As x for small x, never as much as `most`, and always rising, so that no two distances give one level.
double kept(double x, double most) { return x / std::sqrt(std::sqrt(1 + std::pow(x / most, 4))); }

} // namespace

struct FlatTriangleRemoval::Work {
    std::vector<Point2> known; ///< vertices of contours and points that were added, sorted
    std::vector<Edge> edges;
    std::vector<double> intervals; ///< by area: the smallest to a level beside it
    SegmentIndex index;            ///< of edges
    double usualInterval = 0;      ///< metres between levels of contours
    bool isFirst = true;

    bool isFlat(const Tin& tin, const Tin::Triangle& t) const {
        const auto c = tin.corners(t);
        return c[0].z == c[1].z && c[1].z == c[2].z && std::ranges::all_of(c, [&](const Point3& p) {
                   return std::binary_search(known.begin(), known.end(), p.plan(), before);
               });
    }

    std::vector<int> areasOf(const Tin& tin) const {
        const auto triangles = tin.triangles();
        constexpr int kNone = -1, kFlat = -2;
        std::vector<int> area(triangles.size(), kNone);
        for (std::size_t i = 0; i < triangles.size(); ++i)
            if (isFlat(tin, triangles[i])) area[i] = kFlat;
        int count = 0;
        std::vector<std::size_t> open;
        for (std::size_t i = 0; i < triangles.size(); ++i) {
            if (area[i] != kFlat) continue;
            area[i] = count;
            open.assign({i});
            while (!open.empty()) {
                const auto t = open.back();
                open.pop_back();
                for (std::size_t e = 0; e < 3; ++e) {
                    const int n = triangles[t].neighbour[e];
                    if (!tin.isPresent(n) || tin.isFixed(t, e) || area[std::size_t(n)] != kFlat) continue;
                    area[std::size_t(n)] = count;
                    open.push_back(std::size_t(n));
                }
            }
            ++count;
        }
        return area;
    }

    void addEdges(const Tin& tin, const std::vector<int>& area) {
        const auto triangles = tin.triangles();
        const int first = int(intervals.size()); // areas of earlier passes go before
        intervals.resize(intervals.size() + std::size_t(std::max(0, *std::ranges::max_element(area) + 1)), 0);
        std::vector<SegmentIndex::Segment> segments;
        for (std::size_t i = 0; i < edges.size(); ++i) segments.push_back(index[i]);
        for (std::size_t i = 0; i < triangles.size(); ++i) {
            if (area[i] < 0) continue;
            const auto c = tin.corners(triangles[i]);
            for (std::size_t e = 0; e < 3; ++e) {
                const int n = triangles[i].neighbour[e];
                const bool sloped = tin.isPresent(n) && area[std::size_t(n)] < 0;
                double beyond = kNoValue, distanceBeyond = 0;
                const auto a = c[(e + 1) % 3].plan(), b = c[(e + 2) % 3].plan();
                if (sloped)
                    for (const int v : triangles[std::size_t(n)].vertex) {
                        const auto& p = tin.vertices()[std::size_t(v)];
                        if (p.plan() == a || p.plan() == b) continue;
                        beyond = p.z, distanceBeyond = distanceTo(p.plan(), {a, b});
                    }
                const double step = sloped ? std::abs(beyond - c[0].z) : 0;
                auto& least = intervals[std::size_t(first + area[i])];
                if (step > 0 && (least == 0 || step < least)) least = step;
                if (!tin.isFixed(i, e)) continue;
                Edge edge{first + area[i], c[0].z};
                if (step > 0)
                    takeProfile(tin, a, b, beyond - c[0].z, distanceBeyond, edge);
                else if (const double side = sideBeyond(tin, a, b, c[0].z); side != 0)
                    takeProfile(tin, a, b, side * usualInterval, 0, edge); // flat on both sides
                segments.push_back({a, b});
                edges.push_back(edge);
            }
        }
        index = SegmentIndex(std::move(segments));
    }

    /// Outward, to the right of a-b.
    static Point2 square(Point2 a, Point2 b) {
        const double length = distance(a, b);
        return {(b.y - a.y) / length, (a.x - b.x) / length};
    }

    /// Whether the ground beyond a contour, past what is flat there, is higher (1) or lower (-1); 0 if there is none.
    static double sideBeyond(const Tin& tin, Point2 a, Point2 b, double level) {
        const auto away = square(a, b);
        double step = distance(a, b) / 2;
        int hint = -1;
        double at = 0;
        for (int i = 0; i < 40; ++i, step *= 1.1) {
            at += step;
            const auto z = tin.levelAt({(a.x + b.x) / 2 + at * away.x, (a.y + b.y) / 2 + at * away.y}, hint);
            if (!z) return 0;
            if (std::abs(*z - level) > 1e-9) return *z > level ? 1 : -1;
        }
        return 0;
    }

    /// Slope and bend of the ground beyond a contour, from where a line square to it meets the next contour and the one
    /// after: two bands' slopes, the first carried back to the contour. The flat area lies to the left of a-b.
    static void takeProfile(const Tin& tin, Point2 a, Point2 b, double rise, double apexAway, Edge& edge) {
        const auto away = square(a, b);
        const Point2 middle{(a.x + b.x) / 2, (a.y + b.y) / 2};
        double met[2] = {kNoValue, kNoValue};
        double at = 0, before = 0, step = distance(a, b) / 4;
        int hint = -1, found = 0;
        constexpr int kSteps = 60;
        for (int i = 0; i < kSteps && found < 2; ++i) {
            const double next = at + step;
            const auto z = tin.levelAt({middle.x + next * away.x, middle.y + next * away.y}, hint);
            if (!z) break;
            const double risen = (*z - edge.level) / rise;
            if (risen < before - 0.5) break; // over the top and down again
            for (; found < 2 && risen >= found + 1; ++found) met[found] = at + step * (found + 1 - before) / (risen - before);
            at = next, before = risen;
            if (i >= 8) step *= 1.15; // far contours are looked for with wider steps
        }
        if (!(met[0] > 0)) met[0] = apexAway; // the edge of the data: the next contour's vertex says it
        if (!(met[0] > 0)) return;
        edge.sloped = true;
        edge.slope = rise / met[0];
        if (std::isnan(met[1])) { // one band alone does not tell how the slope goes on: half of it, to a top as far off
            edge.slope /= 2;
            edge.bend = edge.slope / met[0];
            return;
        }
        const double second = rise / (met[1] - met[0]);
        const double bend = 2 * (second - edge.slope) / met[1];
        if (bend / rise <= 0) return; // steeper towards the flat: carried on as it is
        edge.bend = bend;
        edge.slope -= bend * met[0] / 2;
        if (edge.slope / rise < 0) edge.slope = 0;
    }

    /// The level carried to a place in an area; none if nothing beside it slopes.
    std::optional<double> carried(Point2 p, int area) const {
        constexpr unsigned kNear = 8;
        auto near = index.nearest(p, kNear, [&](std::size_t i) { return edges[i].area == area && edges[i].sloped; });
        if (near.empty()) { // among points that were added: what is nearest says it
            const auto any = index.nearest(p, 1, [&](std::size_t i) { return edges[i].sloped; });
            if (any.empty()) return {};
            area = edges[any.front()].area;
            near = index.nearest(p, kNear, [&](std::size_t i) { return edges[i].area == area && edges[i].sloped; });
        }
        double away = 1e300, weights = 0, slope = 0, bend = 0, level = 0;
        for (const auto i : near) away = std::min(away, distanceTo(p, index[i]));
        if (!(away > 0)) return {};
        for (const auto i : near) {
            const auto& e = edges[i];
            level = e.level;
            // those that the place lies square to say the most: others look at it from the side
            constexpr double kBlunt = 0.03;
            const double more = distanceTo(p, index[i]) / away - 1 + kBlunt, weight = 1 / (more * more);
            weights += weight, slope += weight * e.slope, bend += weight * e.bend;
        }
        const double interval = intervals[std::size_t(area)] > 0 ? intervals[std::size_t(area)] : usualInterval;
        if (slope == 0 || interval == 0) return {};
        slope /= weights, bend /= weights;
        // as a parabola up to its top, and hardly rising from there
        const double top = bend / slope > 0 ? slope / bend : away;
        const double d = std::min(away, top);
        constexpr double kHardly = 0.02;
        return level - kept(slope * d - bend * d * d / 2 + kHardly * slope * (away - d), interval / 2);
    }

    /// Middle lines the first time, then the middles of what is still flat.
    std::vector<Point3> points(const Tin& tin, bool first) {
        std::vector<Point3> out;
        const auto area = areasOf(tin);
        if (std::ranges::all_of(area, [](int a) { return a < 0; })) return out;
        const int offset = int(intervals.size());
        addEdges(tin, area);
        const auto triangles = tin.triangles();
        for (std::size_t i = 0; i < triangles.size(); ++i) {
            if (area[i] < 0) continue;
            const auto c = tin.corners(triangles[i]);
            const auto add = [&](Point2 p) {
                const auto z = carried(p, offset + area[i]);
                if (z && *z != c[0].z) out.push_back({p.x, p.y, *z});
            };
            int crossing = 0;
            for (std::size_t e = 0; e < 3; ++e) {
                const int n = triangles[i].neighbour[e];
                if (tin.isFixed(i, e) || n < 0) continue;
                ++crossing;
                if (!first || (tin.isPresent(n) && area[std::size_t(n)] >= 0 && std::size_t(n) < i)) continue; // once an edge
                const auto a = c[(e + 1) % 3].plan(), b = c[(e + 2) % 3].plan();
                const Point2 middle{(a.x + b.x) / 2, (a.y + b.y) / 2};
                // close to the contour itself the middle of a short chord would only make slivers
                constexpr double kLeast = 0.1; // of half the chord
                const auto near = index.nearest(middle, 1);
                if (!near.empty() && distanceTo(middle, index[near.front()]) < kLeast * distance(a, b) / 2) continue;
                add(middle);
            }
            if (!first || crossing == 3 || crossing == 0) add({(c[0].x + c[1].x + c[2].x) / 3, (c[0].y + c[1].y + c[2].y) / 3});
        }
        return out;
    }
};

FlatTriangleRemoval::FlatTriangleRemoval(std::span<const Polyline3> contours) : m_work(std::make_unique<Work>()) {
    for (const auto& line : contours)
        for (const auto& p : line) m_work->known.push_back(p.plan());
    std::ranges::sort(m_work->known, before);
    std::vector<double> levels, steps;
    for (const auto& line : contours)
        if (!line.empty()) levels.push_back(line.front().z);
    std::ranges::sort(levels);
    levels.erase(std::unique(levels.begin(), levels.end()), levels.end());
    for (std::size_t i = 1; i < levels.size(); ++i) steps.push_back(levels[i] - levels[i - 1]);
    if (steps.empty()) return;
    std::ranges::nth_element(steps, steps.begin() + std::ptrdiff_t(steps.size() / 2));
    m_work->usualInterval = steps[steps.size() / 2];
}
FlatTriangleRemoval::~FlatTriangleRemoval() = default;
FlatTriangleRemoval::FlatTriangleRemoval(FlatTriangleRemoval&&) noexcept = default;

std::vector<Point3> FlatTriangleRemoval::pointsFor(const Tin& tin) {
    auto points = m_work->points(tin, m_work->isFirst);
    m_work->isFirst = false;
    for (const auto& p : points) m_work->known.push_back(p.plan());
    std::ranges::sort(m_work->known, before);
    return points;
}

} // namespace fox
