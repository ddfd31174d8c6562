#include "ground/compare.h"

#include "base/errors.h"
#include "base/parallel.h"

#include <boost/geometry.hpp>
#include <boost/geometry/index/rtree.hpp>
#include <fmt/format.h>

// Exact volumes between two triangulations: pairs of triangles that overlap in plan are found by an R-tree, clipped to their
// common polygon, and to the area's rings, by Sutherland and Hodgman (1974). There the difference of the two planes is linear,
// and its integral over each side of the line where it is 0 has a closed form. Sums are compensated, so that millions of prisms
// keep their digits.
namespace fox {

namespace {

void checkSame(const Frame& a, const Frame& b) {
    const auto differ = [](double x, double y) { return std::abs(x - y) > 1e-6; };
    if (differ(a.cell, b.cell)) throw Error(fmt::format("The grids differ in cell: {:g} m and {:g} m.", a.cell, b.cell));
    if (differ(a.xmin, b.xmin) || differ(a.ymax, b.ymax) || a.columns() != b.columns() || a.rows() != b.rows())
        throw Error(fmt::format("The grids differ in extent: one begins at E {:.2f} N {:.2f} with {} x {} cells, the other at E "
                                "{:.2f} N {:.2f} with {} x {}.",
                                a.xmin, a.ymax, a.columns(), a.rows(), b.xmin, b.ymax, b.columns(), b.rows()));
}

/// Sums that do not lose the small beside the large (Neumaier, 1974).
class Sum {
public:
    void add(double v) {
        const double t = m_sum + v;
        m_lost += std::abs(m_sum) >= std::abs(v) ? (m_sum - t) + v : (v - t) + m_sum;
        m_sum = t;
    }
    double value() const { return m_sum + m_lost; }

private:
    double m_sum = 0, m_lost = 0;
};

/// A corner of the overlay: place relative to a near origin, and how much the first surface is higher there.
struct Corner {
    double x, y, d;
};
using Piece = std::vector<Corner>;

/// The part of a convex or not convex piece left of a-b (Sutherland and Hodgman, 1974).
void cut(Piece& piece, Piece& scratch, double ax, double ay, double bx, double by) {
    scratch.clear();
    const auto side = [&](const Corner& c) { return (bx - ax) * (c.y - ay) - (by - ay) * (c.x - ax); };
    for (std::size_t i = 0; i < piece.size(); ++i) {
        const auto &p = piece[i], &q = piece[(i + 1) % piece.size()];
        const double sp = side(p), sq = side(q);
        if (sp >= 0) scratch.push_back(p);
        if ((sp > 0 && sq < 0) || (sp < 0 && sq > 0)) {
            const double t = sp / (sp - sq);
            scratch.push_back({p.x + t * (q.x - p.x), p.y + t * (q.y - p.y), p.d + t * (q.d - p.d)});
        }
    }
    piece.swap(scratch);
}

/// The integral of d over a triangle where d > 0.
double positivePart(const Corner& a, const Corner& b, const Corner& c) {
    const double area = ((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) / 2;
    const auto tip = [&](double top, double u, double v) { // one corner above zero, two below: a small triangle at the corner
        return area * (top / (top - u)) * (top / (top - v)) * top / 3;
    };
    std::array<double, 3> d{a.d, b.d, c.d};
    std::ranges::sort(d, std::greater<>());
    if (d[2] >= 0) return area * (d[0] + d[1] + d[2]) / 3;
    if (d[0] <= 0) return 0;
    if (d[1] <= 0) return tip(d[0], d[1], d[2]);
    // two above: all, less the (negative) tip at the third
    return area * (d[0] + d[1] + d[2]) / 3 + area * (d[2] / (d[2] - d[0])) * (d[2] / (d[2] - d[1])) * -d[2] / 3;
}

struct Sums {
    Sum area, above, below;
    /// `sign` is that of the area's ring: a hole takes away.
    void add(const Piece& piece, double sign) {
        for (std::size_t i = 1; i + 1 < piece.size(); ++i) {
            const auto &a = piece[0], &b = piece[i], &c = piece[i + 1];
            const double size = ((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) / 2;
            const double up = positivePart(a, b, c);
            area.add(sign * size);
            above.add(sign * up);
            below.add(sign * (up - size * (a.d + b.d + c.d) / 3));
        }
    }
};

/// A level over a triangle, as a plane about an origin.
struct Plane {
    double a = 0, b = 0, c = 0;
    Plane(const std::array<Point3, 3>& t, Point2 origin) {
        const double ux = t[1].x - t[0].x, uy = t[1].y - t[0].y, uz = t[1].z - t[0].z;
        const double vx = t[2].x - t[0].x, vy = t[2].y - t[0].y, vz = t[2].z - t[0].z, det = ux * vy - uy * vx;
        a = (uz * vy - uy * vz) / det, b = (ux * vz - uz * vx) / det;
        c = t[0].z - a * (t[0].x - origin.x) - b * (t[0].y - origin.y);
    }
    double at(double x, double y) const { return a * x + b * y + c; }
};

namespace bg = boost::geometry;
using PlanePoint = bg::model::point<double, 2, bg::cs::cartesian>;
using PlaneBox = bg::model::box<PlanePoint>;

PlaneBox boxOf(const std::array<Point3, 3>& t) {
    return {{std::min({t[0].x, t[1].x, t[2].x}), std::min({t[0].y, t[1].y, t[2].y})},
            {std::max({t[0].x, t[1].x, t[2].x}), std::max({t[0].y, t[1].y, t[2].y})}};
}

} // namespace

SurfaceVolumes volumesBetween(const Grid& first, const Grid& second, const Area& area) {
    checkSame(first.frame, second.frame);
    const auto& f = first.frame;
    Sum above, below;
    std::size_t both = 0, one = 0;
    for (int row = 0; row < f.rows(); ++row) {
        const auto spans = area.spansAt(f.centre(0, row).y);
        for (int c = 0; c < f.columns(); ++c) {
            if (!spans.contains(f.centre(c, row).x)) continue;
            const double a = first.at(c, row), b = second.at(c, row);
            if (std::isnan(a) || std::isnan(b)) {
                one += std::isnan(a) != std::isnan(b);
                continue;
            }
            ++both;
            a > b ? above.add(a - b) : below.add(b - a);
        }
    }
    const double cell = f.cell * f.cell;
    return {double(both) * cell, above.value() * cell, below.value() * cell, double(one) * cell};
}

SurfaceVolumes volumesBetween(const Tin& first, const Tin& second, const Area& area, const Progress& progress) {
    using Entry = std::pair<PlaneBox, std::size_t>;
    std::vector<Entry> entries;
    for (std::size_t i = 0; i < second.triangles().size(); ++i)
        entries.emplace_back(boxOf(second.corners(second.triangles()[i])), i);
    const bg::index::rtree<Entry, bg::index::rstar<16>> tree(entries.begin(), entries.end());
    const std::size_t count = first.triangles().size();
    constexpr std::size_t kPiece = 512;
    std::vector<Sums> parts((count + kPiece - 1) / kPiece); // in order, so that the sum does not depend on threads
    parallelFor(
        count, kPiece,
        [&](std::size_t begin, std::size_t end) {
            auto& sums = parts[begin / kPiece];
            std::vector<Entry> near;
            Piece piece, scratch, ringed;
            for (auto i = begin; i < end; ++i) {
                const auto a = first.corners(first.triangles()[i]);
                const auto origin = a[0].plan();
                const Plane upper(a, origin);
                near.clear();
                tree.query(bg::index::intersects(boxOf(a)), std::back_inserter(near));
                std::ranges::sort(near, {}, &Entry::second);
                for (const auto& [box, k] : near) {
                    const auto b = second.corners(second.triangles()[k]);
                    const Plane lower(b, origin);
                    const auto cutBy = [&](Piece& p, const std::array<Point3, 3>& t) {
                        for (std::size_t e = 0; e < 3 && !p.empty(); ++e)
                            cut(p, scratch, t[e].x - origin.x, t[e].y - origin.y, t[(e + 1) % 3].x - origin.x,
                                t[(e + 1) % 3].y - origin.y);
                    };
                    const auto cornerAt = [&](Point2 p) {
                        const double x = p.x - origin.x, y = p.y - origin.y;
                        return Corner{x, y, upper.at(x, y) - lower.at(x, y)};
                    };
                    if (area.isEverywhere() || area.isOutsideOfRings()) {
                        piece.clear();
                        for (const auto& c : a) piece.push_back(cornerAt(c.plan()));
                        cutBy(piece, b);
                        sums.add(piece, 1);
                    }
                    for (const auto& ring : area.rings()) {
                        ringed.clear();
                        for (const auto& p : ring) ringed.push_back(cornerAt(p));
                        cutBy(ringed, a);
                        cutBy(ringed, b);
                        sums.add(ringed, area.isOutsideOfRings() ? -1 : 1);
                    }
                }
            }
        },
        progress);
    Sum overlap, above, below;
    for (const auto& s : parts) overlap.add(s.area.value()), above.add(s.above.value()), below.add(s.below.value());
    SurfaceVolumes out{overlap.value(), above.value(), below.value(), 0};
    out.noValue = std::max(0.0, first.measure(area).planArea + second.measure(area).planArea - 2 * out.area);
    return out;
}

Grid differenceOf(const Grid& first, const Grid& second) {
    checkSame(first.frame, second.frame);
    Grid out(first.frame);
    for (std::size_t i = 0; i < out.values.size(); ++i) out.values[i] = first.values[i] - second.values[i];
    return out;
}

DifferenceStatistics statisticsOf(const Grid& difference) {
    DifferenceStatistics out;
    double sum = 0;
    for (const double v : difference.values) {
        if (std::isnan(v)) continue;
        ++out.cells, sum += v;
        out.least = std::fmin(out.least, v), out.most = std::fmax(out.most, v);
    }
    if (out.cells == 0) return out;
    out.mean = sum / double(out.cells);
    double squares = 0; // of what is left of the mean: no digits are lost
    for (const double v : difference.values)
        if (!std::isnan(v)) squares += (v - out.mean) * (v - out.mean);
    out.deviation = std::sqrt(squares / double(out.cells));
    return out;
}

std::vector<std::size_t> histogramOf(const Grid& difference, std::size_t bins) {
    std::vector<std::size_t> out(bins, 0);
    const auto s = statisticsOf(difference);
    if (s.cells == 0 || bins == 0) return out;
    const double span = s.most - s.least;
    for (const double v : difference.values)
        if (!std::isnan(v)) ++out[span > 0 ? std::min(bins - 1, std::size_t((v - s.least) / span * double(bins))) : 0];
    return out;
}

ComparedProfile profileOf(const Polyline2& line, double step, const LevelAt& first, const LevelAt& second) {
    ComparedProfile out;
    double along = 0;
    const auto add = [&](Point2 p, double chainage) {
        out.chainage.push_back(chainage);
        out.first.push_back(first(p).value_or(kNoValue));
        out.second.push_back(second(p).value_or(kNoValue));
    };
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const double length = distance(line[i], line[i + 1]);
        const int pieces = std::max(1, int(std::ceil(length / step - 1e-9)));
        for (int k = 0; k < pieces; ++k) {
            const double t = double(k) / pieces;
            add({line[i].x + t * (line[i + 1].x - line[i].x), line[i].y + t * (line[i + 1].y - line[i].y)}, along + t * length);
        }
        along += length;
    }
    if (!line.empty()) add(line.back(), along);
    return out;
}

namespace {

Grid sampled(const ComparedSurface& surface, const Frame& frame, const Progress& progress) {
    if (surface.terrain) return surface.terrain->sampled(frame, progress);
    Grid grid(frame);
    for (int r = 0; r < frame.rows(); ++r) {
        progress.check();
        for (int c = 0; c < frame.columns(); ++c) grid.at(c, r) = surface.levelAt(frame.centre(c, r)).value_or(kNoValue);
    }
    return grid;
}

bool trianglesAlone(const ComparedSurface& surface) {
    return surface.terrain && surface.terrain->rasters.empty() && surface.terrain->area.isEverywhere();
}

} // namespace

Box2 boxOf(const Tin& tin) {
    Box2 all;
    for (const auto& t : tin.triangles())
        for (const int v : t.vertex) all.include(tin.vertices()[std::size_t(v)].plan());
    return all;
}

Frame comparisonFrame(const Frame& site, const ComparedSurface& first, const ComparedSurface& second, const Area& area) {
    auto all = site.box();
    for (const auto* surface : {&first, &second})
        if (!surface->box.empty())
            all.include({surface->box.xmin, surface->box.ymin}), all.include({surface->box.xmax, surface->box.ymax});
    if (const auto inside = area.box(); !area.isEverywhere() && !area.isOutsideOfRings() && !inside.empty()) {
        all.xmin = std::max(all.xmin, inside.xmin), all.xmax = std::min(all.xmax, inside.xmax);
        all.ymin = std::max(all.ymin, inside.ymin), all.ymax = std::min(all.ymax, inside.ymax);
        if (all.xmin >= all.xmax || all.ymin >= all.ymax) return site; // it lies apart: nothing is compared
    }
    constexpr double kMostCells = 1e6;
    double cell = site.cell;
    while (all.width() / cell * (all.height() / cell) > kMostCells) cell *= 2;
    // on the lattice of the site's cells
    const auto down = [&](double v, double from) { return from + std::floor((v - from) / cell + 1e-9) * cell; };
    const auto up = [&](double v, double from) { return from + std::ceil((v - from) / cell - 1e-9) * cell; };
    return {down(all.xmin, site.xmin), down(all.ymin, site.ymax), up(all.xmax, site.xmin), up(all.ymax, site.ymax), cell};
}

Comparison compareSurfaces(const ComparedSurface& first, const ComparedSurface& second, const Frame& frame, const Area& area,
                           const Polyline2& line, const Progress& progress) {
    Comparison out;
    const auto a = sampled(first, frame, progress), b = sampled(second, frame, progress);
    out.exact = trianglesAlone(first) && trianglesAlone(second);
    out.volumes =
        out.exact ? volumesBetween(first.terrain->tin, second.terrain->tin, area, progress) : volumesBetween(a, b, area);
    out.difference = differenceOf(a, b);
    for (int r = 0; r < frame.rows(); ++r) {
        progress.check();
        for (int c = 0; c < frame.columns(); ++c)
            if (!area.contains(frame.centre(c, r))) out.difference.at(c, r) = kNoValue;
    }
    if (!line.empty()) out.profile = profileOf(line, frame.cell / 2, first.levelAt, second.levelAt);
    return out;
}

} // namespace fox
