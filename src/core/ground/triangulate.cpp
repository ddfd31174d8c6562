#include "ground/triangulate.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Spatial_sort_traits_adapter_2.h>
#include <CGAL/Triangulation_face_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>
#include <CGAL/property_map.h>
#include <CGAL/spatial_sort.h>

#include <fmt/format.h>
#include <numeric>
#include <unordered_map>

namespace fox {

namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Vertex = CGAL::Triangulation_vertex_base_with_info_2<int, Kernel>;
using PlainFace = CGAL::Triangulation_face_base_with_info_2<int, Kernel>;
using LinedFace = CGAL::Triangulation_face_base_with_info_2<int, Kernel, CGAL::Constrained_triangulation_face_base_2<Kernel>>;
using Plain = CGAL::Delaunay_triangulation_2<Kernel, CGAL::Triangulation_data_structure_2<Vertex, PlainFace>>;
using Lined = CGAL::Constrained_Delaunay_triangulation_2<Kernel, CGAL::Triangulation_data_structure_2<Vertex, LinedFace>, CGAL::Exact_predicates_tag>;
using CgalPoint = Kernel::Point_2;

/// A place with the levels that came together there.
struct Place {
    CgalPoint at;
    double sum = 0; ///< of levels
    int count = 0;
    bool onLine = false;
    double lowest = 0, highest = 0;

    void add(double z, bool line) {
        if (line && !onLine) count = 0, sum = 0, onLine = true; // the line wins
        else if (!line && onLine) return;
        lowest = count ? std::min(lowest, z) : z;
        highest = count ? std::max(highest, z) : z;
        sum += z, ++count;
    }
    /// Equal levels stay exact: their mean could differ in the last bit.
    double level() const { return lowest == highest ? lowest : sum / count; }
};

struct Input {
    std::vector<Place> places;
    std::vector<std::pair<int, int>> segments; ///< of places
};

constexpr int kNone = -1;

class Builder {
public:
    Builder(std::span<const Point3> points, std::span<const Polyline3> lines, double mergeDistance, const Progress& progress)
        : m_mergeDistance(mergeDistance), m_progress(progress) {
        for (const auto& p : points) add(p, false);
        for (const auto& line : lines)
            for (std::size_t i = 0; i < line.size(); ++i) {
                add(line[i], true);
                if (i > 0) m_input.segments.emplace_back(int(m_input.places.size()) - 2, int(m_input.places.size()) - 1);
            }
        m_given = int(m_input.places.size());
    }

    Triangulation build() {
        // merging within the distance is rare and costs a pass over all points: it is done only if the
        // triangulation shows that it must be (a point's nearest neighbour is always joined to it)
        if (!attempt()) {
            mergeClose();
            attempt();
        }
        m_out.merged = m_given - int(m_input.places.size()) + m_duplicates;
        return std::move(m_out);
    }

private:
    void add(const Point3& p, bool line) {
        m_input.places.push_back({CgalPoint(p.x, p.y)});
        m_input.places.back().add(p.z, line);
    }

    /// False if places within the merge distance were found, which ask for another attempt.
    bool attempt() { return m_input.segments.empty() ? attemptWith<Plain>() : attemptWith<Lined>(); }

    template <typename T>
    bool attemptWith() {
        m_duplicates = 0;
        m_out = {};
        T cgal;
        std::vector<std::size_t> order(m_input.places.size()); // the type that the property map takes
        std::iota(order.begin(), order.end(), std::size_t(0));
        const auto map = CGAL::make_property_map(placesAsPoints());
        CGAL::spatial_sort(order.begin(), order.end(), CGAL::Spatial_sort_traits_adapter_2<Kernel, decltype(map)>(map));
        std::vector<typename T::Vertex_handle> handles(m_input.segments.empty() ? 0 : order.size());
        std::vector<Place> merged = m_input.places;
        typename T::Face_handle hint;
        std::size_t done = 0;
        for (const std::size_t i : order) {
            if ((++done & 0x1FFF) == 0) m_progress.report(double(done) / double(order.size()), "Triangulating");
            const auto before = cgal.number_of_vertices();
            const auto v = cgal.insert(m_input.places[i].at, hint);
            hint = v->face();
            if (cgal.number_of_vertices() == before) {
                ++m_duplicates;
                const auto& p = m_input.places[i];
                merged[std::size_t(v->info())].add(p.level(), p.onLine);
            } else {
                v->info() = int(i);
            }
            if (!handles.empty()) handles[i] = v;
        }
        if (m_mergeDistance > 0 && closePair(cgal)) return false;
        if constexpr (std::is_same_v<T, Lined>) insertSegments(cgal, handles, merged);
        reportLevels(merged);
        extract(cgal, merged);
        return true;
    }

    const std::vector<CgalPoint>& placesAsPoints() {
        m_points.clear();
        m_points.reserve(m_input.places.size());
        for (const auto& p : m_input.places) m_points.push_back(p.at);
        return m_points;
    }

    template <typename T>
    bool closePair(const T& cgal) const {
        const double least = m_mergeDistance * m_mergeDistance;
        if (cgal.dimension() < 1) return false;
        for (auto e = cgal.finite_edges_begin(); e != cgal.finite_edges_end(); ++e) {
            const auto& a = e->first->vertex(cgal.cw(e->second))->point();
            const auto& b = e->first->vertex(cgal.ccw(e->second))->point();
            const double dx = a.x() - b.x(), dy = a.y() - b.y();
            if (dx * dx + dy * dy < least) return true;
        }
        return false;
    }

    /// Joins places within the merge distance of an earlier one, in input order.
    void mergeClose() {
        const auto cellOf = [&](double v) { return std::int64_t(std::floor(v / m_mergeDistance)); };
        const auto key = [](std::int64_t x, std::int64_t y) { return std::uint64_t(x) * 0x9E3779B97F4A7C15u ^ std::uint64_t(y); };
        std::unordered_multimap<std::uint64_t, int> cells;
        std::vector<Place> kept;
        std::vector<int> newIndex;
        for (const auto& p : m_input.places) {
            const auto cx = cellOf(p.at.x()), cy = cellOf(p.at.y());
            int into = kNone;
            for (std::int64_t dx = -1; dx <= 1; ++dx)
                for (std::int64_t dy = -1; dy <= 1; ++dy)
                    for (auto [it, end] = cells.equal_range(key(cx + dx, cy + dy)); it != end; ++it) {
                        const auto& q = kept[std::size_t(it->second)].at;
                        if (std::hypot(q.x() - p.at.x(), q.y() - p.at.y()) < m_mergeDistance && (into == kNone || it->second < into)) into = it->second;
                    }
            if (into == kNone) {
                into = int(kept.size());
                kept.push_back(p);
                cells.emplace(key(cx, cy), into);
            } else {
                kept[std::size_t(into)].add(p.level(), p.onLine);
            }
            newIndex.push_back(into);
        }
        m_input.places = std::move(kept);
        for (auto& [a, b] : m_input.segments) a = newIndex[std::size_t(a)], b = newIndex[std::size_t(b)];
    }

    void insertSegments(Lined& cgal, const std::vector<Lined::Vertex_handle>& handles, std::vector<Place>& merged) {
        for (const auto& [a, b] : m_input.segments) {
            m_progress.check();
            if (handles[std::size_t(a)] == handles[std::size_t(b)]) continue;
            cgal.insert_constraint(handles[std::size_t(a)], handles[std::size_t(b)]);
            ++m_out.segments;
        }
        // vertices that CGAL made at crossings have no place of ours yet
        if (cgal.number_of_vertices() + std::size_t(m_duplicates) == m_input.places.size()) return;
        std::unordered_map<Lined::Vertex_handle, bool> known;
        for (const auto& h : handles) known[h] = true;
        for (auto v = cgal.finite_vertices_begin(); v != cgal.finite_vertices_end(); ++v)
            if (!known.contains(v)) {
                v->info() = int(merged.size());
                merged.push_back(crossing(v->point(), merged));
            }
    }

    /// The level where breaklines cross: the mean of theirs.
    Place crossing(const CgalPoint& at, const std::vector<Place>& merged) {
        Place place{at};
        for (const auto& [a, b] : m_input.segments) {
            const auto &p = merged[std::size_t(a)].at, &q = merged[std::size_t(b)].at;
            const double dx = q.x() - p.x(), dy = q.y() - p.y(), length = std::hypot(dx, dy);
            if (length == 0) continue;
            const double along = ((at.x() - p.x()) * dx + (at.y() - p.y()) * dy) / length;
            const double off = std::abs((at.x() - p.x()) * dy - (at.y() - p.y()) * dx) / length;
            constexpr double kOn = 1e-5; // metres; a computed crossing is off both lines by rounding only
            if (off < kOn && along > -kOn && along < length + kOn) {
                const double za = merged[std::size_t(a)].level(), zb = merged[std::size_t(b)].level();
                place.add(za + (zb - za) * along / length, true);
            }
        }
        ++m_out.crossings;
        if (place.highest - place.lowest > kCrossingLevels)
            m_out.findings.push_back({Severity::Warning, "FC-CROSSING", "", 0, "", "", "",
                                      fmt::format("Breaklines cross at E {:.2f} N {:.2f} with levels from {:.2f} m to {:.2f} m; their mean is used.", at.x(), at.y(), place.lowest, place.highest)});
        return place;
    }

    void reportLevels(const std::vector<Place>& merged) {
        const Place* worst = nullptr;
        for (const auto& p : merged)
            if (p.count > 1 && p.highest - p.lowest > 0.001) {
                ++m_out.mergedUnequal;
                if (!worst || p.highest - p.lowest > worst->highest - worst->lowest) worst = &p;
            }
        m_out.mergedUnequal -= int(std::ranges::count(m_out.findings, "FC-CROSSING", &Finding::rule));
        if (m_out.mergedUnequal > 0 && worst)
            m_out.findings.push_back({Severity::Warning, "FC-TWO-LEVELS", "", 0, "", "", "",
                                      fmt::format("{} places have more than one level; the mean is used. The worst, at E {:.2f} N {:.2f}, has levels from {:.2f} m to {:.2f} m.",
                                                  m_out.mergedUnequal, worst->at.x(), worst->at.y(), worst->lowest, worst->highest)});
    }

    template <typename T>
    void extract(T& cgal, const std::vector<Place>& merged) {
        std::vector<int> index(merged.size(), kNone);
        std::vector<Point3> vertices;
        vertices.reserve(cgal.number_of_vertices());
        for (auto v = cgal.finite_vertices_begin(); v != cgal.finite_vertices_end(); ++v) {
            const auto& p = merged[std::size_t(v->info())];
            index[std::size_t(v->info())] = int(vertices.size());
            vertices.push_back({v->point().x(), v->point().y(), p.level()});
        }
        std::vector<Tin::Triangle> triangles;
        if (cgal.dimension() == 2) {
            triangles.reserve(cgal.number_of_faces());
            for (auto f = cgal.all_faces_begin(); f != cgal.all_faces_end(); ++f) f->info() = kNone;
            int count = 0;
            for (auto f = cgal.finite_faces_begin(); f != cgal.finite_faces_end(); ++f) f->info() = count++;
            for (auto f = cgal.finite_faces_begin(); f != cgal.finite_faces_end(); ++f) {
                Tin::Triangle t;
                for (int i = 0; i < 3; ++i) {
                    t.vertex[std::size_t(i)] = index[std::size_t(f->vertex(i)->info())];
                    t.neighbour[std::size_t(i)] = f->neighbor(i)->info();
                }
                triangles.push_back(t);
            }
        }
        m_out.tin = Tin(std::move(vertices), std::move(triangles));
    }

    Input m_input;
    std::vector<CgalPoint> m_points;
    double m_mergeDistance;
    const Progress& m_progress;
    Triangulation m_out;
    int m_given = 0, m_duplicates = 0;
};

} // namespace

Triangulation triangulate(std::span<const Point3> points, std::span<const Polyline3> breaklines, double mergeDistance, const Progress& progress) {
    return Builder(points, breaklines, mergeDistance, progress).build();
}

} // namespace fox
