#include "layers/plan_mesh.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/text.h"
#include "ground/segment_index.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_mesh_face_base_2.h>
#include <CGAL/Delaunay_mesh_vertex_base_2.h>
#include <CGAL/Delaunay_mesher_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <fmt/format.h>
#include <numbers>
#include <unordered_map>

namespace fox {

namespace {

using MeshKernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using MeshTriangles =
    CGAL::Constrained_Delaunay_triangulation_2<MeshKernel,
                                               CGAL::Triangulation_data_structure_2<CGAL::Delaunay_mesh_vertex_base_2<MeshKernel>,
                                                                                    CGAL::Delaunay_mesh_face_base_2<MeshKernel>>,
                                               CGAL::Exact_predicates_tag>;
using MeshPoint = MeshTriangles::Point;

Point2 placeOf(const MeshPoint& p) { return {p.x(), p.y()}; }

/// How long edges may be at a place.
class EdgeLength {
public:
    EdgeLength(const PlanMeshInputs& in, Point2 origin) : m_edge(in.edge), m_slope(in.growth - 1), m_least(in.edge) {
        std::map<double, std::vector<SegmentIndex::Segment>> byEdge;
        const auto local = [&](Point2 p) { return Point2{p.x - origin.x, p.y - origin.y}; };
        for (const auto& l : in.lines)
            if (l.edge && *l.edge < in.edge)
                for (std::size_t i = 0; i + 1 < l.line.size(); ++i)
                    byEdge[*l.edge].push_back({local(l.line[i]), local(l.line[i + 1])});
        for (const auto& p : in.places)
            if (p.edge > 0 && p.edge < in.edge) byEdge[p.edge].push_back({local(p.at), local(p.at)});
        for (auto& [edge, segments] : byEdge) m_finer.emplace_back(edge, SegmentIndex(std::move(segments)));
        if (!m_finer.empty()) m_least = m_finer.front().first;
    }

    double least() const { return m_least; } ///< anywhere
    double most() const { return m_edge; }
    double at(Point2 p) const {
        double out = m_edge;
        for (const auto& [edge, index] : m_finer) {
            const auto nearest = index.nearest(p, 1);
            if (!nearest.empty())
                out = std::min(out, edge + m_slope * std::max(0.0, distanceTo(p, index[nearest.front()]) - edge));
        }
        return out;
    }

private:
    double m_edge, m_slope, m_least;
    std::vector<std::pair<double, SegmentIndex>> m_finer; ///< the shortest edges first
};

/// When CGAL's mesher has to part a triangle: an edge is too long at its place, or an angle too small.
class EdgeCriteria {
public:
    EdgeCriteria(std::shared_ptr<const EdgeLength> length, double angle)
        : m_length(std::move(length)), m_squaredSine(std::pow(std::sin(angle * std::numbers::pi / 180), 2)) {}

    struct Quality {
        double tooLong = 0, squaredSine = 1; ///< the longest edge over what is allowed, at most; of the smallest angle
        bool operator<(const Quality& o) const {
            if (tooLong > 1 || o.tooLong > 1) return tooLong > o.tooLong;
            return squaredSine < o.squaredSine;
        }
    };
    class Is_bad {
    public:
        Is_bad(const EdgeLength& length, double squaredSine) : m_length(length), m_squaredSine(squaredSine) {}
        CGAL::Mesh_2::Face_badness operator()(const Quality& q) const {
            return q.tooLong > 1                   ? CGAL::Mesh_2::IMPERATIVELY_BAD
                   : q.squaredSine < m_squaredSine ? CGAL::Mesh_2::BAD
                                                   : CGAL::Mesh_2::NOT_BAD;
        }
        CGAL::Mesh_2::Face_badness operator()(const MeshTriangles::Face_handle& face, Quality& q) const {
            Point2 corner[3];
            for (int i = 0; i < 3; ++i) corner[i] = placeOf(face->vertex(i)->point());
            double squared[3];
            for (int i = 0; i < 3; ++i) {
                const auto a = corner[(i + 1) % 3], b = corner[(i + 2) % 3];
                squared[i] = (a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y);
            }
            q.tooLong = 0;
            for (int i = 0; i < 3; ++i) {
                if (squared[i] <= m_length.least() * m_length.least()) continue;
                const auto a = corner[(i + 1) % 3], b = corner[(i + 2) % 3];
                const double allowed =
                    m_length.least() < m_length.most() ? m_length.at({(a.x + b.x) / 2, (a.y + b.y) / 2}) : m_length.most();
                q.tooLong = std::max(q.tooLong, squared[i] / (allowed * allowed));
            }
            const double cross = (corner[1].x - corner[0].x) * (corner[2].y - corner[0].y)
                                 - (corner[2].x - corner[0].x) * (corner[1].y - corner[0].y);
            // of the smallest angle, between the two longest sides: |cross| over their lengths
            std::sort(squared, squared + 3);
            q.squaredSine = cross * cross / (squared[1] * squared[2]);
            return (*this)(q);
        }

    private:
        const EdgeLength& m_length;
        double m_squaredSine;
    };
    Is_bad is_bad_object() const { return {*m_length, m_squaredSine}; }

private:
    std::shared_ptr<const EdgeLength> m_length;
    double m_squaredSine;
};

/// A place inside a ring, off its edges: in the middle of the longest stretch of a level line between its corners.
std::optional<Point2> insideOf(const Polygon2& ring) {
    std::vector<double> levels;
    for (const auto p : ring) levels.push_back(p.y);
    std::ranges::sort(levels);
    std::optional<Point2> best;
    double widest = 0;
    for (std::size_t i = 0; i + 1 < levels.size(); ++i) {
        const double y = (levels[i] + levels[i + 1]) / 2;
        std::vector<double> crossings;
        for (std::size_t a = 0, b = ring.size() - 1; a < ring.size(); b = a++)
            if ((ring[a].y > y) != (ring[b].y > y))
                crossings.push_back(ring[a].x + (y - ring[a].y) * (ring[b].x - ring[a].x) / (ring[b].y - ring[a].y));
        std::ranges::sort(crossings);
        for (std::size_t c = 0; c + 1 < crossings.size(); c += 2) {
            const double size = std::min(crossings[c + 1] - crossings[c], levels[i + 1] - levels[i]);
            if (size > widest) widest = size, best = {(crossings[c] + crossings[c + 1]) / 2, y};
        }
    }
    return best;
}

double signedArea(const Polygon2& ring) {
    double sum = 0;
    for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) sum += ring[j].x * ring[i].y - ring[i].x * ring[j].y;
    return sum / 2;
}

double lengthOfLine(const Polyline3& line) {
    double out = 0;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) out += distance(line[i].plan(), line[i + 1].plan());
    return out;
}

/// A point that is on the outline counts as inside, by this much.
constexpr double kOnOutline = 1e-6;

double distanceToEdge(const Area& area, Point2 p) {
    double out = std::numeric_limits<double>::infinity();
    for (const auto& ring : area.rings())
        for (std::size_t a = 0, b = ring.size() - 1; a < ring.size(); b = a++)
            out = std::min(out, distanceTo(p, {ring[a], ring[b]}));
    return out;
}

void checkInside(const PlanMeshInputs& in) {
    if (in.outline.isEverywhere() || in.outline.isOutsideOfRings() || in.outline.rings().empty())
        throw Error("The mesh has no outline with an area.");
    const auto isIn = [&](Point2 p) { return in.outline.contains(p) || distanceToEdge(in.outline, p) <= kOnOutline; };
    for (const auto& p : in.places)
        if (!isIn(p.at))
            throw Error(fmt::format("The place \"{}\" lies outside the outline, at {:.2f}, {:.2f}.", p.name, p.at.x, p.at.y));
    for (const auto& l : in.lines) {
        for (const auto p : l.line)
            if (!isIn(p)) throw Error(fmt::format("The line \"{}\" leaves the outline at {:.2f}, {:.2f}.", l.name, p.x, p.y));
        const auto whole = raised(l.line);
        double inside = 0;
        for (const auto& piece : in.outline.clipped(whole)) inside += lengthOfLine(piece);
        // a line along the outline counts either way when it is clipped; its middles tell
        bool off = inside < lengthOfLine(whole) - 1e-3;
        if (off) {
            off = false;
            for (std::size_t i = 0; i + 1 < l.line.size(); ++i)
                for (int k = 1; k < 32; ++k) {
                    const double t = k / 32.0;
                    off = off
                          || !isIn({l.line[i].x + t * (l.line[i + 1].x - l.line[i].x),
                                    l.line[i].y + t * (l.line[i + 1].y - l.line[i].y)});
                }
        }
        if (off) throw Error(fmt::format("The line \"{}\" leaves the outline between its corners.", l.name));
    }
}

/// The mesh of CGAL, less an origin near it, so that coordinates are short.
class Mesher {
public:
    Mesher(const PlanMeshInputs& in, const Progress& progress)
        : m_in(in), m_progress(progress), m_origin(in.outline.box().centre()) {}

    PlanMesh mesh() {
        insertInput();
        refine();
        return result();
    }

private:
    MeshPoint local(Point2 p) const { return {p.x - m_origin.x, p.y - m_origin.y}; }

    void insertInput() {
        for (const auto& ring : m_in.outline.rings()) {
            for (std::size_t a = 0, b = ring.size() - 1; a < ring.size(); b = a++)
                m_triangles.insert_constraint(local(ring[b]), local(ring[a]));
            // holes run clockwise
            if (signedArea(ring) < 0)
                if (const auto seed = insideOf(ring)) m_seeds.push_back(local(*seed));
        }
        for (const auto& l : m_in.lines)
            for (std::size_t i = 0; i + 1 < l.line.size(); ++i)
                if (distance(l.line[i], l.line[i + 1]) > 0) m_triangles.insert_constraint(local(l.line[i]), local(l.line[i + 1]));
        for (const auto& p : m_in.places) m_places.push_back(m_triangles.insert(local(p.at)));
    }

    void refine() {
        using Mesh = CGAL::Delaunay_mesher_2<MeshTriangles, EdgeCriteria>;
        Mesh mesh(m_triangles, EdgeCriteria(std::make_shared<EdgeLength>(m_in, m_origin), m_in.angle));
        mesh.set_seeds(m_seeds.begin(), m_seeds.end(), false);
        mesh.init();
        constexpr std::size_t kMostNodes = 20'000'000;
        for (std::size_t step = 0; !mesh.is_refinement_done(); ++step) {
            mesh.step_by_step_refine_mesh();
            if (step % 4096 != 0) continue;
            m_progress.check();
            if (m_triangles.number_of_vertices() > kMostNodes)
                throw Error(fmt::format("The mesh would have more than {} nodes; give longer edges.", kMostNodes));
        }
    }

    PlanMesh result() {
        PlanMesh out;
        out.edge = m_in.edge;
        std::unordered_map<const void*, int> number;
        const auto nodeOf = [&](MeshTriangles::Vertex_handle v) {
            const auto [at, isNew] = number.emplace(&*v, int(out.nodes.size()));
            if (isNew) out.nodes.push_back({v->point().x() + m_origin.x, v->point().y() + m_origin.y});
            return at->second;
        };
        for (auto f = m_triangles.finite_faces_begin(); f != m_triangles.finite_faces_end(); ++f) {
            if (!f->is_in_domain()) continue;
            out.triangles.push_back({nodeOf(f->vertex(0)), nodeOf(f->vertex(1)), nodeOf(f->vertex(2))});
        }
        if (out.triangles.empty()) throw Error("The mesh has no outline with an area.");
        for (auto e = m_triangles.finite_edges_begin(); e != m_triangles.finite_edges_end(); ++e)
            if (m_triangles.is_constrained(*e))
                addEdge(out, number, e->first->vertex(MeshTriangles::ccw(e->second)),
                        e->first->vertex(MeshTriangles::cw(e->second)));
        for (std::size_t i = 0; i < m_places.size(); ++i)
            if (const auto at = number.find(&*m_places[i]); at != number.end() && !m_in.places[i].name.empty())
                out.places[m_in.places[i].name] = at->second;
        return out;
    }

    void addEdge(PlanMesh& out, const std::unordered_map<const void*, int>& number, MeshTriangles::Vertex_handle a,
                 MeshTriangles::Vertex_handle b) const {
        const auto first = number.find(&*a), second = number.find(&*b);
        if (first == number.end() || second == number.end()) return;
        const auto p = out.nodes[std::size_t(first->second)], q = out.nodes[std::size_t(second->second)];
        const Point2 middle{(p.x + q.x) / 2, (p.y + q.y) / 2};
        for (const auto& l : m_in.lines) {
            bool on = false;
            for (std::size_t i = 0; i + 1 < l.line.size() && !on; ++i)
                on = distanceTo(middle, {l.line[i], l.line[i + 1]}) < 1e-5 && distanceTo(p, {l.line[i], l.line[i + 1]}) < 1e-5
                     && distanceTo(q, {l.line[i], l.line[i + 1]}) < 1e-5;
            if (!on) continue;
            auto& edges = out.edges[l.name];
            if (edges.empty() || edges.back() != std::array{first->second, second->second})
                edges.push_back({first->second, second->second});
        }
    }

    const PlanMeshInputs& m_in;
    const Progress& m_progress;
    Point2 m_origin;
    MeshTriangles m_triangles;
    std::vector<MeshPoint> m_seeds;
    std::vector<MeshTriangles::Vertex_handle> m_places;
};

} // namespace

std::vector<double> PlanMesh::smallestAngles() const {
    std::vector<double> out;
    out.reserve(triangles.size());
    for (const auto& t : triangles) {
        double least = 180;
        for (std::size_t i = 0; i < 3; ++i) {
            const auto a = nodes[std::size_t(t[i])], b = nodes[std::size_t(t[(i + 1) % 3])],
                       c = nodes[std::size_t(t[(i + 2) % 3])];
            const double cross = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
            const double dot = (b.x - a.x) * (c.x - a.x) + (b.y - a.y) * (c.y - a.y);
            least = std::min(least, std::atan2(cross, dot) * 180 / std::numbers::pi);
        }
        out.push_back(least);
    }
    return out;
}

PlanMesh makePlanMesh(const PlanMeshInputs& in, const Progress& progress) {
    checkInside(in);
    double area = 0;
    for (const auto& ring : in.outline.rings()) area += signedArea(ring);
    if (!(in.edge > 0)) throw Error("The mesh needs the length of an edge.");
    if (area / (in.edge * in.edge) > 4e7)
        throw Error(fmt::format("With edges of {:g} m the mesh would have about {:.0f} triangles; the limit is 40000000.",
                                in.edge, area / (in.edge * in.edge) / 0.43));
    return Mesher(in, progress).mesh();
}

PlanMesh makePlanMesh(PlanMeshInputs in, std::size_t elements, std::size_t layers, const Progress& progress) {
    checkInside(in);
    double area = 0;
    for (const auto& ring : in.outline.rings()) area += signedArea(ring);
    const auto box = in.outline.box();
    const double longest = std::hypot(box.width(), box.height());
    const auto meshed = [&](double edge) {
        in.edge = edge;
        return makePlanMesh(in, progress);
    };
    const double wanted = double(elements) / double(layers);
    const auto isNear = [&](std::size_t n) { return std::abs(double(n) - wanted) <= 0.05 * wanted; };
    auto coarsest = meshed(longest);
    if (isNear(coarsest.triangles.size())) return coarsest;
    if (double(coarsest.triangles.size()) > wanted)
        throw Error(fmt::format("Outline, lines and places alone need {} elements; {} were asked for.",
                                coarsest.triangles.size() * layers, elements));
    // the number falls with the square of the edge: between an edge that gives too few and one that gives too many
    double tooLong = longest, tooShort = 0;
    auto few = double(coarsest.triangles.size()), many = 0.0;
    double edge = std::min(longest / 2, std::sqrt(area / wanted) * 1.9);
    for (int round = 0; round < 40; ++round) {
        auto made = meshed(edge);
        const auto n = double(made.triangles.size());
        if (isNear(made.triangles.size())) return made;
        (n < wanted ? tooLong : tooShort) = edge;
        (n < wanted ? few : many) = n;
        const double next = edge * std::sqrt(n / wanted);
        if (tooShort > 0 && (next <= tooShort || next >= tooLong))
            edge = tooShort * std::pow(tooLong / tooShort, 0.5); // the square law does not help here
        else
            edge = std::min(next, tooLong * 0.999);
    }
    throw Error(fmt::format("No length of edges gives about {} elements: {:.4f} m gives {:.0f} and {:.4f} m {:.0f}.", elements,
                            tooLong, few * double(layers), tooShort, many * double(layers)));
}

} // namespace fox
