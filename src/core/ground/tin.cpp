#include "ground/tin.h"

#include "base/parallel.h"

#include <array>

// A place is found by a walk: from a triangle near it, across the edge that the place lies beyond, until there is none (the
// visibility walk; Devillers, Pion and Teillaud 2002). Walks start from a table of buckets over the box, about eight triangles
// each, so that they take a few steps. Levels are linear in a triangle. Areas inside an outline are exact: triangles are clipped
// to it. Triangles that were taken out stay in the list behind the others, since a walk has to go through them.
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

Tin::Tin(std::vector<Point3> vertices, std::vector<Triangle> triangles, std::vector<std::uint8_t> fixedEdges)
    : m_vertices(std::move(vertices)),
      m_triangles(std::move(triangles)),
      m_fixedEdges(std::move(fixedEdges)),
      m_present(m_triangles.size()) {
    for (const auto& v : m_vertices) m_box.include(v.plan());
    indexStarts();
}

Tin Tin::without(const std::vector<bool>& takenOut) const {
    Tin out = *this;
    std::vector<int> order, place(m_triangles.size());
    for (const bool wanted : {false, true})
        for (std::size_t i = 0; i < m_triangles.size(); ++i)
            if ((i >= m_present || takenOut[i]) == wanted) order.push_back(int(i));
    for (std::size_t i = 0; i < order.size(); ++i) place[std::size_t(order[i])] = int(i);
    for (std::size_t i = 0; i < order.size(); ++i) {
        const auto from = std::size_t(order[i]);
        out.m_triangles[i] = m_triangles[from];
        for (auto& n : out.m_triangles[i].neighbour)
            if (n >= 0) n = place[std::size_t(n)];
        if (!m_fixedEdges.empty()) out.m_fixedEdges[i] = m_fixedEdges[from];
    }
    out.m_present = m_present - std::size_t(std::ranges::count(takenOut, true));
    out.indexStarts();
    return out;
}

std::optional<Tin> Tin::swapped(Point2 a, Point2 b) const {
    const int near = find({(a.x + b.x) / 2, (a.y + b.y) / 2}, startNear(a));
    if (near < 0) return {};
    const auto edgeOf = [&](int triangle) -> std::optional<std::size_t> {
        if (triangle < 0) return {};
        const auto& t = m_triangles[std::size_t(triangle)];
        for (std::size_t i = 0; i < 3; ++i) {
            const auto p = m_vertices[std::size_t(t.vertex[(i + 1) % 3])].plan(),
                       q = m_vertices[std::size_t(t.vertex[(i + 2) % 3])].plan();
            if ((p == a && q == b) || (p == b && q == a)) return i;
        }
        return {};
    };
    int first = near;
    auto edge = edgeOf(first);
    for (std::size_t i = 0; i < 3 && !edge; ++i) {
        first = m_triangles[std::size_t(near)].neighbour[i];
        edge = edgeOf(first);
    }
    if (!edge || isFixed(std::size_t(first), *edge)) return {};
    const int second = m_triangles[std::size_t(first)].neighbour[*edge];
    const auto back = edgeOf(second);
    if (!back || !isPresent(first) || !isPresent(second)) return {};
    return turned(std::size_t(first), *edge, std::size_t(second), *back);
}

std::optional<Tin> Tin::turned(std::size_t first, std::size_t edge, std::size_t second, std::size_t back) const {
    // p is opposite the edge in the first triangle, q in the second; the edge runs from u to v in the first
    const auto &t = m_triangles[first], &o = m_triangles[second];
    const int p = t.vertex[edge], u = t.vertex[(edge + 1) % 3], v = t.vertex[(edge + 2) % 3], q = o.vertex[back];
    const auto at = [&](int i) { return m_vertices[std::size_t(i)].plan(); };
    if (turn(at(p), at(u), at(q)) <= 0 || turn(at(q), at(v), at(p)) <= 0) return {};
    Tin out = *this;
    const int pu = t.neighbour[(edge + 2) % 3], vp = t.neighbour[(edge + 1) % 3]; // across p-u and v-p
    const int uq = o.neighbour[(back + 1) % 3], qv = o.neighbour[(back + 2) % 3];
    const auto bit = [&](std::size_t triangle, std::size_t e) { return isFixed(triangle, e) ? 1 : 0; };
    const int fixedPu = bit(first, (edge + 2) % 3), fixedVp = bit(first, (edge + 1) % 3), fixedUq = bit(second, (back + 1) % 3),
              fixedQv = bit(second, (back + 2) % 3);
    out.m_triangles[first] = {{p, u, q}, {uq, int(second), pu}};
    out.m_triangles[second] = {{p, q, v}, {qv, vp, int(first)}};
    if (!m_fixedEdges.empty()) {
        out.m_fixedEdges[first] = std::uint8_t(fixedUq | fixedPu << 2);
        out.m_fixedEdges[second] = std::uint8_t(fixedQv | fixedVp << 1);
    }
    const auto repoint = [&](int triangle, std::size_t from, std::size_t to) {
        if (triangle < 0) return;
        for (auto& n : out.m_triangles[std::size_t(triangle)].neighbour)
            if (n == int(from)) {
                n = int(to);
                return;
            }
    };
    repoint(uq, second, first);
    repoint(vp, first, second);
    return out;
}

std::vector<std::size_t> Tin::trianglesIn(const Box2& box) const {
    const auto meets = [&](std::size_t i) {
        Box2 b;
        for (const auto& c : corners(m_triangles[i])) b.include(c.plan());
        return b.xmax >= box.xmin && b.xmin <= box.xmax && b.ymax >= box.ymin && b.ymin <= box.ymax;
    };
    std::vector<std::size_t> out;
    // triangles that meet a convex part of a convex whole hang together
    const int start = find(box.centre(), -1);
    if (start < 0 || !meets(std::size_t(start))) {
        for (std::size_t i = 0; i < m_present; ++i)
            if (meets(i)) out.push_back(i);
        return out;
    }
    std::vector<bool> seen(m_triangles.size(), false);
    std::vector<std::size_t> open{std::size_t(start)};
    seen[std::size_t(start)] = true;
    while (!open.empty()) {
        const auto i = open.back();
        open.pop_back();
        if (i < m_present) out.push_back(i);
        for (const int n : m_triangles[i].neighbour)
            if (n >= 0 && !seen[std::size_t(n)]) {
                seen[std::size_t(n)] = true;
                if (meets(std::size_t(n))) open.push_back(std::size_t(n));
            }
    }
    return out;
}

std::optional<std::size_t> Tin::triangleAt(Point2 p) const {
    const int at = find(p, -1);
    return isPresent(at) ? std::optional(std::size_t(at)) : std::nullopt;
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
    const int at = find(p, hint);
    if (at < 0) return {};
    hint = at;
    if (!isPresent(at)) return {};
    return levelIn(corners(m_triangles[std::size_t(at)]), p);
}

int Tin::find(Point2 p, int start) const {
    if (m_triangles.empty()
        || !(p.x >= m_box.xmin - kEdge && p.x <= m_box.xmax + kEdge && p.y >= m_box.ymin - kEdge && p.y <= m_box.ymax + kEdge))
        return -1;
    int at = start >= 0 ? start : startNear(p);
    // visibility walk: in a Delaunay triangulation it ends; lines, turned edges and rounding could make it circle, so
    // after a while the edge to cross is no longer the one most in the way but any in the way, in turns
    const std::size_t patience = 64 + 4 * std::size_t(std::sqrt(double(m_triangles.size())));
    for (std::size_t steps = 0; steps < m_triangles.size() + patience; ++steps) {
        const auto& t = m_triangles[std::size_t(at)];
        const auto c = corners(t);
        int worst = -1;
        double worstBeyond = kEdge;
        for (int k = 0; k < 3; ++k) {
            const int i = steps > patience ? int((std::size_t(k) + steps * 7 / 3) % 3) : k;
            const auto a = c[std::size_t((i + 1) % 3)].plan(), b = c[std::size_t((i + 2) % 3)].plan();
            const double beyond = -turn(a, b, p) / distance(a, b);
            if (steps > patience && worst >= 0) break;
            if (beyond > worstBeyond || (beyond > 0 && worst < 0 && t.neighbour[std::size_t(i)] >= 0 && beyond > 1e-12)) {
                worst = i;
                worstBeyond = std::max(beyond, kEdge);
            }
        }
        if (worst < 0 || (steps > patience && worstBeyond <= kEdge)) return at;
        const int next = t.neighbour[std::size_t(worst)];
        if (next < 0) return -1;
        at = next;
    }
    for (std::size_t i = 0; i < m_triangles.size(); ++i) {
        const auto c = corners(m_triangles[i]);
        bool inside = true;
        for (std::size_t k = 0; k < 3; ++k) {
            const auto a = c[(k + 1) % 3].plan(), b = c[(k + 2) % 3].plan();
            inside &= -turn(a, b, p) / distance(a, b) <= kEdge;
        }
        if (inside) return int(i);
    }
    return -1;
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

/// Counter-clockwise is positive.
double signedArea(const Polygon2& p) {
    double twice = 0;
    for (std::size_t i = 1; i + 1 < p.size(); ++i) twice += turn(p[0], p[i], p[i + 1]);
    return twice / 2;
}

} // namespace

Tin::Measures Tin::measure(const Area& area) const {
    Measures m;
    const auto meet = [&](double z) { m.zmin = std::fmin(m.zmin, z), m.zmax = std::fmax(m.zmax, z); };
    std::vector<Box2> boxes;
    for (const auto& ring : area.rings()) {
        boxes.emplace_back();
        for (const auto& p : ring) boxes.back().include(p);
    }
    for (const auto& t : triangles()) {
        const auto c = corners(t);
        const double ux = c[1].x - c[0].x, uy = c[1].y - c[0].y, uz = c[1].z - c[0].z;
        const double vx = c[2].x - c[0].x, vy = c[2].y - c[0].y, vz = c[2].z - c[0].z;
        const double plan = (ux * vy - uy * vx) / 2;
        const double surface = std::hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
        double inside = area.isOutsideOfRings() || area.isEverywhere() ? plan : 0;
        for (std::size_t r = 0; r < boxes.size(); ++r) {
            const auto& b = boxes[r];
            if (std::max({c[0].x, c[1].x, c[2].x}) < b.xmin || std::min({c[0].x, c[1].x, c[2].x}) > b.xmax
                || std::max({c[0].y, c[1].y, c[2].y}) < b.ymin || std::min({c[0].y, c[1].y, c[2].y}) > b.ymax)
                continue;
            const auto part = clipped(area.rings()[r], c);
            const double ringArea = signedArea(part);
            inside += area.isOutsideOfRings() ? -ringArea : ringArea;
            if (!area.isOutsideOfRings() && ringArea > 0)
                for (const auto& p : part) meet(levelIn(c, p));
        }
        if (inside <= plan * 1e-12) continue;
        if (area.isEverywhere() || area.isOutsideOfRings())
            for (const auto& corner : c) meet(corner.z);
        m.planArea += inside;
        m.surfaceArea += surface * (inside / plan);
        m.flatTriangles += c[0].z == c[1].z && c[1].z == c[2].z;
    }
    return m;
}

Grid sample(const Tin& tin, const Frame& frame, const Area& area, const Progress& progress) {
    Grid grid(frame);
    const int columns = frame.columns();
    parallelFor(
        std::size_t(frame.rows()), 8,
        [&](std::size_t begin, std::size_t end) {
            for (auto row = int(begin); row < int(end); ++row) {
                int hint = -1;
                const auto spans = area.spansAt(frame.centre(0, row).y);
                for (int column = 0; column < columns; ++column) {
                    const auto p = frame.centre(column, row);
                    if (!spans.contains(p.x)) continue;
                    if (const auto z = tin.levelAt(p, hint)) grid.at(column, row) = *z;
                }
            }
        },
        progress);
    return grid;
}

} // namespace fox
