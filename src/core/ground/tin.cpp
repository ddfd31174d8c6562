#include "ground/tin.h"

#include "base/parallel.h"

#include <array>

namespace fox {

namespace {

/// Twice the area of a, b, c; positive if they turn left.
double turn(Point2 a, Point2 b, Point2 c) { return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x); }

double levelIn(const std::array<Point3, 3>& t, Point2 p) {
    // a vertex gives its own level to the last bit
    for (const auto& c : t)
        if (c.x == p.x && c.y == p.y) return c.z;
    const double all = turn(t[0].plan(), t[1].plan(), t[2].plan());
    const double w1 = turn(t[2].plan(), t[0].plan(), p) / all, w2 = turn(t[0].plan(), t[1].plan(), p) / all;
    return t[0].z + w1 * (t[1].z - t[0].z) + w2 * (t[2].z - t[0].z);
}

} // namespace

Tin::Tin(std::vector<Point3> vertices, std::vector<Triangle> triangles)
    : m_vertices(std::move(vertices)), m_triangles(std::move(triangles)) {
    for (const auto& v : m_vertices) m_box.include(v.plan());
    indexStarts();
}

void Tin::indexStarts() {
    if (m_triangles.empty()) return;
    m_buckets = std::clamp(int(std::sqrt(double(m_triangles.size()) / 8)), 1, 512);
    m_starts.assign(std::size_t(m_buckets) * std::size_t(m_buckets), -1);
    const auto bucket = [&](double at, double low, double width) {
        return std::clamp(int((at - low) / (width > 0 ? width : 1) * m_buckets), 0, m_buckets - 1);
    };
    for (std::size_t i = 0; i < m_triangles.size(); ++i) {
        const auto& v = m_vertices[std::size_t(m_triangles[i].vertex[0])];
        m_starts[std::size_t(bucket(v.y, m_box.ymin, m_box.height()) * m_buckets + bucket(v.x, m_box.xmin, m_box.width()))] =
            int(i);
    }
    int last = 0;
    for (auto& s : m_starts) s < 0 ? s = last : last = s;
}

int Tin::startNear(Point2 p) const {
    const auto bucket = [&](double at, double low, double width) {
        return std::clamp(int((at - low) / (width > 0 ? width : 1) * m_buckets), 0, m_buckets - 1);
    };
    return m_starts[std::size_t(bucket(p.y, m_box.ymin, m_box.height()) * m_buckets + bucket(p.x, m_box.xmin, m_box.width()))];
}

bool Tin::hasEdge(Point2 a, Point2 b) const {
    for (const auto& t : m_triangles)
        for (int i = 0; i < 3; ++i) {
            const auto from = m_vertices[std::size_t(t.vertex[std::size_t(i)])].plan(),
                       to = m_vertices[std::size_t(t.vertex[std::size_t((i + 1) % 3)])].plan();
            if ((from == a && to == b) || (from == b && to == a)) return true;
        }
    return false;
}

std::optional<double> Tin::levelAt(Point2 p) const {
    int hint = -1;
    return levelAt(p, hint);
}

std::optional<double> Tin::levelAt(Point2 p, int& hint) const {
    if (m_triangles.empty()
        || !(p.x >= m_box.xmin - kEdge && p.x <= m_box.xmax + kEdge && p.y >= m_box.ymin - kEdge && p.y <= m_box.ymax + kEdge))
        return {};
    int at = hint >= 0 ? hint : startNear(p);
    // visibility walk: in a Delaunay triangulation it ends; constraints and rounding could make it circle,
    // hence the bound, after which all triangles are tried
    for (std::size_t steps = 0; steps < m_triangles.size() + 3; ++steps) {
        const auto& t = m_triangles[std::size_t(at)];
        const auto c = corners(t);
        int worst = -1;
        double worstBeyond = kEdge;
        for (int i = 0; i < 3; ++i) {
            const auto a = c[std::size_t((i + 1) % 3)].plan(), b = c[std::size_t((i + 2) % 3)].plan();
            const double beyond = -turn(a, b, p) / distance(a, b);
            if (beyond > worstBeyond || (beyond > 0 && worst < 0 && t.neighbour[std::size_t(i)] >= 0 && beyond > 1e-12)) {
                worst = i;
                worstBeyond = std::max(beyond, kEdge);
            }
        }
        if (worst < 0 || (steps > m_triangles.size() && worstBeyond <= kEdge)) {
            hint = at;
            return levelIn(c, p);
        }
        const int next = t.neighbour[std::size_t(worst)];
        if (next < 0) return {};
        at = next;
    }
    for (std::size_t i = 0; i < m_triangles.size(); ++i) {
        const auto c = corners(m_triangles[i]);
        bool inside = true;
        for (std::size_t k = 0; k < 3; ++k) {
            const auto a = c[(k + 1) % 3].plan(), b = c[(k + 2) % 3].plan();
            inside &= -turn(a, b, p) / distance(a, b) <= kEdge;
        }
        if (inside) {
            hint = int(i);
            return levelIn(c, p);
        }
    }
    return {};
}

namespace {

/// The part of a polygon inside a counter-clockwise triangle (Sutherland and Hodgman, 1974). For a polygon
/// that is not convex the edges that join pieces cancel in the area.
Polygon2 clipped(Polygon2 subject, const std::array<Point3, 3>& triangle) {
    for (std::size_t k = 0; k < 3; ++k) {
        const auto a = triangle[k].plan(), b = triangle[(k + 1) % 3].plan();
        Polygon2 out;
        for (std::size_t i = 0; i < subject.size(); ++i) {
            const auto p = subject[i], q = subject[(i + 1) % subject.size()];
            const double dp = turn(a, b, p), dq = turn(a, b, q);
            if (dp >= 0) out.push_back(p);
            if ((dp >= 0) != (dq >= 0)) {
                const double t = dp / (dp - dq);
                out.push_back({p.x + t * (q.x - p.x), p.y + t * (q.y - p.y)});
            }
        }
        subject = std::move(out);
    }
    return subject;
}

double areaOf(const Polygon2& p) {
    double twice = 0;
    for (std::size_t i = 1; i + 1 < p.size(); ++i) twice += turn(p[0], p[i], p[i + 1]);
    return std::abs(twice) / 2;
}

} // namespace

Tin::Measures Tin::measure(const Polygon2& limit) const {
    Measures m;
    const auto meet = [&](double z) { m.zmin = std::fmin(m.zmin, z), m.zmax = std::fmax(m.zmax, z); };
    for (const auto& t : m_triangles) {
        const auto c = corners(t);
        const double ux = c[1].x - c[0].x, uy = c[1].y - c[0].y, uz = c[1].z - c[0].z;
        const double vx = c[2].x - c[0].x, vy = c[2].y - c[0].y, vz = c[2].z - c[0].z;
        const double plan = (ux * vy - uy * vx) / 2;
        const double surface = std::hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
        double inside = plan;
        if (limit.empty()) {
            for (const auto& corner : c) meet(corner.z);
        } else {
            const auto part = clipped(limit, c);
            inside = areaOf(part);
            if (inside > 0)
                for (const auto& p : part) meet(levelIn(c, p));
        }
        if (inside <= 0) continue;
        m.planArea += inside;
        m.surfaceArea += surface * (inside / plan);
        m.flatTriangles += c[0].z == c[1].z && c[1].z == c[2].z;
    }
    return m;
}

Grid sample(const Tin& tin, const Frame& frame, const Polygon2& limit, const Progress& progress) {
    Grid grid(frame);
    const int columns = frame.columns();
    parallelFor(
        std::size_t(frame.rows()), 8,
        [&](std::size_t begin, std::size_t end) {
            for (auto row = int(begin); row < int(end); ++row) {
                int hint = -1;
                for (int column = 0; column < columns; ++column) {
                    const auto p = frame.centre(column, row);
                    if (!limit.empty() && !contains(limit, p)) continue;
                    if (const auto z = tin.levelAt(p, hint)) grid.at(column, row) = *z;
                }
            }
        },
        progress);
    return grid;
}

} // namespace fox
