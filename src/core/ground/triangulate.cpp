#include "ground/triangulate.h"

#include "base/text.h"

#define CGAL_LINKED_WITH_TBB // for the parallel sort
#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Spatial_sort_traits_adapter_2.h>
#include <CGAL/Triangulation_face_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>
#include <CGAL/spatial_sort.h>

#include <fmt/format.h>
#include <map>
#include <unordered_map>

namespace fox {

namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Vertex = CGAL::Triangulation_vertex_base_with_info_2<int, Kernel>;
using PlainFace = CGAL::Triangulation_face_base_with_info_2<int, Kernel>;
using LinedFace = CGAL::Triangulation_face_base_with_info_2<int, Kernel, CGAL::Constrained_triangulation_face_base_2<Kernel>>;
using Plain = CGAL::Delaunay_triangulation_2<Kernel, CGAL::Triangulation_data_structure_2<Vertex, PlainFace>>;
using Lined = CGAL::Constrained_Delaunay_triangulation_2<Kernel, CGAL::Triangulation_data_structure_2<Vertex, LinedFace>,
                                                         CGAL::Exact_predicates_tag>;
using CgalPoint = Kernel::Point_2;

/// Levels that came together at one place.
struct Levels {
    double sum = 0;
    int count = 0;
    bool onLine = false;
    double lowest = 0, highest = 0;

    void add(double z, bool line) {
        if (line && !onLine)
            count = 0, sum = 0, onLine = true; // the line wins
        else if (!line && onLine)
            return;
        lowest = count ? std::min(lowest, z) : z;
        highest = count ? std::max(highest, z) : z;
        sum += z, ++count;
    }
    /// Equal levels stay exact: their mean could differ in the last bit.
    double mean() const { return lowest == highest ? lowest : sum / count; }
    bool disagree() const { return count > 1 && highest - lowest > 0.001; }
};

/// A point or a line's vertex as given.
struct Place {
    CgalPoint at;
    double z = 0;
    int index = 0; ///< in the order given
    bool onLine = false;
};
/// Tells CGAL's sorting where a place's point is.
struct PointOfPlace {
    using key_type = Place;
    using value_type = CgalPoint;
    using reference = const CgalPoint&;
    using category = boost::readable_property_map_tag;
    friend reference get(const PointOfPlace&, const Place& p) { return p.at; }
};

constexpr int kNone = -1;

class Builder {
public:
    Builder(std::span<const Point3> points, std::span<const Polyline3> lines, double mergeDistance, const Progress& progress)
        : m_mergeDistance(mergeDistance), m_progress(progress) {
        m_places.reserve(points.size());
        for (const auto& p : points) add(p, false);
        for (const auto& line : lines)
            for (std::size_t i = 0; i < line.size(); ++i) {
                add(line[i], true);
                if (i > 0) m_segments.emplace_back(int(m_places.size()) - 2, int(m_places.size()) - 1);
            }
        m_given = int(m_places.size());
    }

    Triangulation build() {
        // merging within the distance is rare and costs a pass over all points: it is done only if the
        // triangulation shows that it must be (a point's nearest neighbour is always joined to it)
        if (!attempt()) {
            mergeClose();
            attempt();
        }
        m_out.merged = m_given - int(m_places.size()) + m_duplicates;
        return std::move(m_out);
    }

private:
    void add(const Point3& p, bool line) { m_places.push_back({CgalPoint(p.x, p.y), p.z, int(m_places.size()), line}); }

    /// False if places within the merge distance were found, which ask for another attempt.
    bool attempt() { return m_segments.empty() ? attemptWith<Plain>() : attemptWith<Lined>(); }

    /// Brings three places that are not on one line to the front, exactly: while all vertices are on a line CGAL finds each
    /// new place by walking along all of them. False if there are none.
    template <typename Places>
    bool startsWithTriangle(Places& order) {
        if (order.empty()) return false;
        const auto second = std::ranges::find_if(order, [&](const auto& p) { return p.at != order.front().at; });
        if (second == order.end()) return allOnLine(order);
        const auto third = std::find_if(second, order.end(), [&](const auto& p) {
            m_progress.check();
            return CGAL::orientation(order.front().at, second->at, p.at) != CGAL::COLLINEAR;
        });
        if (third == order.end()) return allOnLine(order);
        std::iter_swap(order.begin() + 1, second);
        std::iter_swap(order.begin() + 2, third);
        return true;
    }

    template <typename Places>
    bool allOnLine(Places& order) {
        std::ranges::sort(order, [](const auto& a, const auto& b) { return CGAL::compare_xy(a.at, b.at) == CGAL::SMALLER; });
        const auto same = std::unique(order.begin(), order.end(), [](const auto& a, const auto& b) { return a.at == b.at; });
        m_duplicates = int(order.end() - same);
        return false;
    }

    /// Inserts in Hilbert order; a vertex's info is its rank in that order, so that all that follows runs
    /// through memory from front to back.
    template <typename T>
    bool attemptWith() {
        m_duplicates = 0;
        m_out = {};
        auto order = m_places;
        CGAL::spatial_sort<CGAL::Parallel_tag>(order.begin(), order.end(),
                                               CGAL::Spatial_sort_traits_adapter_2<Kernel, PointOfPlace>(PointOfPlace()));
        if (!startsWithTriangle(order)) return true; // all on one line: no triangle
        T cgal;
        std::vector<double> levels(order.size());
        std::map<int, Levels> together; // by rank
        std::vector<typename T::Vertex_handle> handles(m_segments.empty() ? 0 : order.size());
        typename T::Face_handle hint;
        for (std::size_t rank = 0; rank < order.size(); ++rank) {
            if ((rank & 0x1FFF) == 0) m_progress.report(double(rank) / double(order.size()), "Triangulating");
            const auto& p = order[rank];
            const auto before = cgal.number_of_vertices();
            const auto v = cgal.insert(p.at, hint);
            hint = v->face();
            if (cgal.number_of_vertices() == before) {
                ++m_duplicates;
                auto [place, first] = together.try_emplace(v->info());
                if (first) place->second.add(levels[std::size_t(v->info())], order[std::size_t(v->info())].onLine);
                place->second.add(p.z, p.onLine);
            } else {
                v->info() = int(rank);
                levels[rank] = p.z;
            }
            if (!handles.empty()) handles[std::size_t(p.index)] = v;
        }
        for (const auto& [rank, place] : together)
            levels[std::size_t(rank)] = place.mean(), m_together.push_back({order[std::size_t(rank)].at, place});
        if constexpr (std::is_same_v<T, Lined>) insertSegments(cgal, handles, levels);
        extract(cgal, levels);
        if (m_mergeDistance > 0 && closePair()) {
            m_together.clear();
            return false;
        }
        reportLevels();
        return true;
    }

    bool closePair() const {
        const auto& tin = m_out.tin;
        const double least = m_mergeDistance * m_mergeDistance;
        const auto close = [&](const Point3& a, const Point3& b) {
            return (a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y) < least;
        };
        if (tin.empty()) { // no triangles: all on a line, or too few
            for (std::size_t i = 0; i < tin.vertices().size(); ++i)
                for (std::size_t k = 0; k < i; ++k)
                    if (close(tin.vertices()[i], tin.vertices()[k])) return true;
            return false;
        }
        return std::ranges::any_of(tin.triangles(), [&](const Tin::Triangle& t) {
            const auto c = tin.corners(t);
            return close(c[0], c[1]) || close(c[1], c[2]) || close(c[2], c[0]);
        });
    }

    /// Joins places within the merge distance of an earlier one, in input order.
    void mergeClose() {
        const auto cellOf = [&](double v) { return std::int64_t(std::floor(v / m_mergeDistance)); };
        const auto key = [](std::int64_t x, std::int64_t y) { return std::uint64_t(x) * 0x9E3779B97F4A7C15u ^ std::uint64_t(y); };
        std::unordered_multimap<std::uint64_t, int> cells;
        std::vector<Place> kept;
        std::vector<Levels> levels;
        std::vector<int> newIndex;
        for (const auto& p : m_places) {
            const auto cx = cellOf(p.at.x()), cy = cellOf(p.at.y());
            int into = kNone;
            for (std::int64_t dx = -1; dx <= 1; ++dx)
                for (std::int64_t dy = -1; dy <= 1; ++dy)
                    for (auto [it, end] = cells.equal_range(key(cx + dx, cy + dy)); it != end; ++it) {
                        const auto& q = kept[std::size_t(it->second)].at;
                        if (std::hypot(q.x() - p.at.x(), q.y() - p.at.y()) < m_mergeDistance
                            && (into == kNone || it->second < into))
                            into = it->second;
                    }
            if (into == kNone) {
                into = int(kept.size());
                kept.push_back({p.at, p.z, into, p.onLine});
                levels.emplace_back();
                cells.emplace(key(cx, cy), into);
            }
            levels[std::size_t(into)].add(p.z, p.onLine);
            newIndex.push_back(into);
        }
        for (std::size_t i = 0; i < kept.size(); ++i) {
            kept[i].z = levels[i].mean(), kept[i].onLine = levels[i].onLine;
            if (levels[i].count > 1) m_together.push_back({kept[i].at, levels[i]});
        }
        m_places = std::move(kept);
        for (auto& [a, b] : m_segments) a = newIndex[std::size_t(a)], b = newIndex[std::size_t(b)];
    }

    void insertSegments(Lined& cgal, const std::vector<Lined::Vertex_handle>& handles, std::vector<double>& levels) {
        const std::size_t ours = cgal.number_of_vertices();
        for (const auto& [a, b] : m_segments) {
            m_progress.check();
            const auto from = handles[std::size_t(a)], to = handles[std::size_t(b)];
            if (from == to) continue;
            cgal.insert_constraint(from, to);
            ++m_out.segments;
        }
        if (cgal.number_of_vertices() == ours) return;
        // vertices that CGAL made at crossings have no level yet
        std::unordered_map<Lined::Vertex_handle, bool> known;
        for (const auto& h : handles) known[h] = true;
        for (auto v = cgal.finite_vertices_begin(); v != cgal.finite_vertices_end(); ++v)
            if (!known.contains(v)) {
                v->info() = int(levels.size());
                levels.push_back(crossing(v->point(), handles, levels));
            }
    }

    /// The level where breaklines cross: the mean of theirs.
    double crossing(const CgalPoint& at, const std::vector<Lined::Vertex_handle>& handles, const std::vector<double>& levels) {
        Levels here;
        for (const auto& [a, b] : m_segments) {
            const auto from = handles[std::size_t(a)], to = handles[std::size_t(b)];
            const auto &p = from->point(), &q = to->point();
            const double dx = q.x() - p.x(), dy = q.y() - p.y(), length = std::hypot(dx, dy);
            if (length == 0) continue;
            const double along = ((at.x() - p.x()) * dx + (at.y() - p.y()) * dy) / length;
            const double off = std::abs((at.x() - p.x()) * dy - (at.y() - p.y()) * dx) / length;
            constexpr double kOn = 1e-5; // metres; a computed crossing is off both lines by rounding only
            if (off < kOn && along > -kOn && along < length + kOn) {
                const double za = levels[std::size_t(from->info())], zb = levels[std::size_t(to->info())];
                here.add(za + (zb - za) * along / length, true);
            }
        }
        ++m_out.crossings;
        if (here.highest - here.lowest > kCrossingLevels)
            m_out.findings.push_back(
                {Severity::Warning,
                 "FC-CROSSING",
                 "",
                 0,
                 "",
                 "",
                 "",
                 fmt::format("Breaklines cross at E {:.2f} N {:.2f} with levels from {:.2f} m to {:.2f} m; their mean is used.",
                             at.x(), at.y(), here.lowest, here.highest),
                 {},
                 Point2{at.x(), at.y()}});
        return here.mean();
    }

    void reportLevels() {
        const std::pair<CgalPoint, Levels>* worst = nullptr;
        for (const auto& place : m_together)
            if (place.second.disagree()) {
                ++m_out.mergedUnequal;
                if (!worst || place.second.highest - place.second.lowest > worst->second.highest - worst->second.lowest)
                    worst = &place;
            }
        if (worst)
            m_out.findings.push_back(
                {Severity::Warning,
                 "FC-TWO-LEVELS",
                 "",
                 0,
                 "",
                 "",
                 "",
                 fmt::format("{} more than one level; the mean is used. The worst, at E {:.2f} "
                             "N {:.2f}, has levels from {:.2f} m to {:.2f} m.",
                             counted(std::size_t(m_out.mergedUnequal), "place has", "places have"), worst->first.x(),
                             worst->first.y(), worst->second.lowest, worst->second.highest),
                 {},
                 Point2{worst->first.x(), worst->first.y()}});
    }

    template <typename T>
    void extract(T& cgal, const std::vector<double>& levels) {
        std::vector<Point3> vertices;
        vertices.reserve(cgal.number_of_vertices());
        for (auto v = cgal.finite_vertices_begin(); v != cgal.finite_vertices_end(); ++v) {
            const double z = levels[std::size_t(v->info())];
            v->info() = int(vertices.size()); // from here on its place in the Tin
            vertices.push_back({v->point().x(), v->point().y(), z});
        }
        std::vector<Tin::Triangle> triangles;
        std::vector<std::uint8_t> fixed;
        if (cgal.dimension() == 2) {
            triangles.reserve(cgal.number_of_faces());
            if constexpr (std::is_same_v<T, Lined>) fixed.reserve(cgal.number_of_faces());
            int count = 0;
            for (auto f = cgal.all_faces_begin(); f != cgal.all_faces_end(); ++f)
                f->info() = cgal.is_infinite(f) ? kNone : count++;
            for (auto f = cgal.all_faces_begin(); f != cgal.all_faces_end(); ++f) {
                if (f->info() == kNone) continue;
                Tin::Triangle t;
                for (int i = 0; i < 3; ++i) {
                    t.vertex[std::size_t(i)] = f->vertex(i)->info();
                    t.neighbour[std::size_t(i)] = f->neighbor(i)->info();
                }
                triangles.push_back(t);
                if constexpr (std::is_same_v<T, Lined>)
                    fixed.push_back(std::uint8_t(f->is_constrained(0) | f->is_constrained(1) << 1 | f->is_constrained(2) << 2));
            }
        }
        m_out.tin = Tin(std::move(vertices), std::move(triangles), std::move(fixed));
    }

    std::vector<Place> m_places;
    std::vector<std::pair<int, int>> m_segments; ///< of places
    std::vector<std::pair<CgalPoint, Levels>> m_together;
    double m_mergeDistance;
    const Progress& m_progress;
    Triangulation m_out;
    int m_given = 0, m_duplicates = 0;
};

} // namespace

Triangulation triangulate(std::span<const Point3> points, std::span<const Polyline3> breaklines, double mergeDistance,
                          const Progress& progress) {
    return Builder(points, breaklines, mergeDistance, progress).build();
}

} // namespace fox
