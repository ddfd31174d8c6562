#include "model/reduced_model.h"

#include "base/errors.h"

#include <bit>

namespace fox {

namespace {

/// A node of the square lattice that the halved triangles need: 2^k + 1 nodes a side, of which the cells fill a corner.
struct LatticePlace {
    int x = 0, y = 0;
    LatticePlace middle(LatticePlace o) const { return {(x + o.x) / 2, (y + o.y) / 2}; }
};

class PlanHalving {
public:
    explicit PlanHalving(const ModelGrid& grid)
        : m_frame(grid.ground.frame), m_columns(m_frame.columns()), m_rows(m_frame.rows()) {
        m_surfaces.push_back(grid.ground.values);
        for (std::size_t u = 0; u < grid.unitsWithBase(); ++u) {
            auto& levels = m_surfaces.emplace_back(grid.ground.values.size());
            for (std::size_t c = 0; c < levels.size(); ++c) levels[c] = grid.base(u, c);
        }
        m_known.assign(grid.ground.values.size(), true);
        for (const auto& s : m_surfaces)
            for (std::size_t c = 0; c < s.size(); ++c) m_known[c] = m_known[c] && !std::isnan(s[c]);
        m_stepX = (m_columns + kMostNodes - 1) / kMostNodes, m_stepY = (m_rows + kMostNodes - 1) / kMostNodes;
        const int nodes = std::max((m_columns + m_stepX - 1) / m_stepX, (m_rows + m_stepY - 1) / m_stepY);
        m_side = int(std::bit_ceil(unsigned(std::max(nodes, 2) - 1)));
        m_errors.assign(std::size_t(m_side + 1) * std::size_t(m_side + 1), 0);
        findErrors();
    }

    ReducedModel halvedTo(double tolerance, std::size_t most) const {
        ReducedModel out;
        std::vector<int> ids(m_known.size(), -1);
        const auto id = [&](LatticePlace p) {
            auto& n = ids[cell(p)];
            if (n >= 0) return n;
            n = int(out.places.size());
            out.places.push_back(m_frame.centre(p.x * m_stepX, p.y * m_stepY));
            return n;
        };
        const auto take = [&](LatticePlace a, LatticePlace b, LatticePlace c) {
            if (known(a) && known(b) && known(c)) out.triangles.push_back({id(a), id(b), id(c)});
            return out.triangles.size() <= most;
        };
        const LatticePlace nw{0, 0}, ne{m_side, 0}, sw{0, m_side}, se{m_side, m_side};
        if (!halve(nw, se, ne, tolerance, take) || !halve(se, nw, sw, tolerance, take)) return out;
        out.levels.assign(m_surfaces.size(), std::vector<double>(out.places.size()));
        for (std::size_t c = 0; c < ids.size(); ++c)
            if (ids[c] >= 0)
                for (std::size_t s = 0; s < m_surfaces.size(); ++s) out.levels[s][std::size_t(ids[c])] = m_surfaces[s][c];
        out.largestError = largestError(out);
        return out;
    }

private:
    bool inside(LatticePlace p) const { return p.x * m_stepX < m_columns && p.y * m_stepY < m_rows; }
    std::size_t cellOf(int c, int r) const { return std::size_t(r) * std::size_t(m_columns) + std::size_t(c); }
    std::size_t cell(LatticePlace p) const { return cellOf(p.x * m_stepX, p.y * m_stepY); }
    bool known(LatticePlace p) const { return inside(p) && m_known[cell(p)]; }
    float& error(LatticePlace p) { return m_errors[std::size_t(p.y) * std::size_t(m_side + 1) + std::size_t(p.x)]; }
    float error(LatticePlace p) const { return m_errors[std::size_t(p.y) * std::size_t(m_side + 1) + std::size_t(p.x)]; }

    /// How far a surface at the middle of a longest side lies off the line between its ends, the worst of all.
    float ownError(LatticePlace a, LatticePlace b, LatticePlace middle) const {
        const bool some = known(a) || known(b) || known(middle), all = known(a) && known(b) && known(middle);
        if (!some) return 0;
        if (!all) return std::numeric_limits<float>::infinity();
        double worst = 0;
        for (const auto& s : m_surfaces) worst = std::max(worst, std::abs(s[cell(middle)] - (s[cell(a)] + s[cell(b)]) / 2));
        return float(worst);
    }

    /// From the smallest triangles up. Their right angle lies at c, the longest side from a to b; bit by bit from the second
    /// highest of the number down it says which half of the triangle before it is.
    void findErrors() {
        const auto triangles = std::uint64_t(m_side) * std::uint64_t(m_side) * 2 - 2;
        const auto parents = triangles - std::uint64_t(m_side) * std::uint64_t(m_side);
        for (std::uint64_t i = triangles; i-- > 0;) {
            auto number = i + 2;
            LatticePlace a, b, c;
            if (number & 1)
                b = {m_side, m_side}, c = {m_side, 0};
            else
                a = {m_side, m_side}, c = {0, m_side};
            while ((number >>= 1) > 1) {
                const auto middle = a.middle(b);
                if (number & 1)
                    b = a, a = c;
                else
                    a = b, b = c;
                c = middle;
            }
            const auto middle = a.middle(b);
            auto& worst = error(middle);
            worst = std::max(worst, ownError(a, b, middle));
            // a corner that is not known must not vanish in a large triangle that is known at the middle of its side only
            if (known(c) != known(middle)) worst = std::numeric_limits<float>::infinity();
            if (i < parents) worst = std::max({worst, error(a.middle(c)), error(b.middle(c))});
        }
    }

    template <typename Take>
    bool halve(LatticePlace a, LatticePlace b, LatticePlace c, double tolerance, const Take& take) const {
        const auto middle = a.middle(b);
        if (std::abs(a.x - c.x) + std::abs(a.y - c.y) > 1 && double(error(middle)) > tolerance)
            return halve(c, a, middle, tolerance, take) && halve(b, c, middle, tolerance, take);
        return take(a, b, c);
    }

    double largestError(const ReducedModel& made) const {
        double worst = 0;
        for (const auto& t : made.triangles) {
            std::array<Point2, 3> p;
            for (std::size_t k = 0; k < 3; ++k) p[k] = made.places[std::size_t(t[k])];
            const double twice = (p[1].x - p[0].x) * (p[2].y - p[0].y) - (p[2].x - p[0].x) * (p[1].y - p[0].y);
            const auto [w, e] = std::minmax({p[0].x, p[1].x, p[2].x});
            const auto [s, n] = std::minmax({p[0].y, p[1].y, p[2].y});
            const int c0 = int((w - m_frame.xmin) / m_frame.cell), c1 = int((e - m_frame.xmin) / m_frame.cell);
            const int r0 = int((m_frame.ymax - n) / m_frame.cell), r1 = int((m_frame.ymax - s) / m_frame.cell);
            for (int r = r0; r <= r1; ++r)
                for (int c = c0; c <= c1; ++c) {
                    const auto q = m_frame.centre(c, r);
                    const double u = ((p[1].x - q.x) * (p[2].y - q.y) - (p[2].x - q.x) * (p[1].y - q.y)) / twice;
                    const double v = ((p[2].x - q.x) * (p[0].y - q.y) - (p[0].x - q.x) * (p[2].y - q.y)) / twice;
                    if (u < -1e-9 || v < -1e-9 || u + v > 1 + 1e-9) continue;
                    for (std::size_t k = 0; k < m_surfaces.size(); ++k) {
                        const auto& l = made.levels[k];
                        const double level =
                            u * l[std::size_t(t[0])] + v * l[std::size_t(t[1])] + (1 - u - v) * l[std::size_t(t[2])];
                        worst = std::max(worst, std::abs(level - m_surfaces[k][cellOf(c, r)]));
                    }
                }
        }
        return worst;
    }

    Frame m_frame;
    static constexpr int kMostNodes = 4096; ///< a side of the lattice, whose nodes are its square
    int m_columns, m_rows, m_side = 2;
    int m_stepX = 1, m_stepY = 1; ///< cells from node to node
    std::vector<std::vector<double>> m_surfaces;
    std::vector<bool> m_known;
    std::vector<float> m_errors; ///< of the middles of longest sides, and of all that are halved after them
};

} // namespace

ReducedModel reduceModel(const ModelGrid& grid, double tolerance, std::size_t mostTriangles) {
    if (!(tolerance > 0)) throw UsageError("The tolerance must be above 0.");
    const PlanHalving halving(grid);
    for (;; tolerance *= 2) {
        auto out = halving.halvedTo(tolerance, mostTriangles);
        // edges of what is known stay as fine as the cells, whatever the tolerance: then that must be enough
        if (out.triangles.size() <= mostTriangles || tolerance > 1e6)
            return out.triangles.size() <= mostTriangles ? out
                                                         : halving.halvedTo(tolerance, std::numeric_limits<std::size_t>::max());
    }
}

TriangleMesh surfaceOf(const ReducedModel& m, std::size_t surface, const std::string& name) {
    TriangleMesh out{name, {}, m.triangles};
    for (std::size_t i = 0; i < m.places.size(); ++i)
        out.vertices.push_back({m.places[i].x, m.places[i].y, m.levels[surface][i]});
    return out;
}

TriangleMesh bodyOf(const ReducedModel& m, std::size_t unit, const std::string& name) {
    TriangleMesh out{name, {}, {}};
    const auto &tops = m.levels[unit], &bases = m.levels[unit + 1];
    const auto thick = [&](int n) { return tops[std::size_t(n)] - bases[std::size_t(n)] > 0; };
    std::vector<const std::array<int, 3>*> kept;
    std::map<std::pair<int, int>, int> edges; // as a triangle goes round; those without their opposite are the rim
    for (const auto& t : m.triangles) {
        if (!thick(t[0]) && !thick(t[1]) && !thick(t[2])) continue;
        kept.push_back(&t);
        for (std::size_t k = 0; k < 3; ++k) {
            const int a = t[k], b = t[(k + 1) % 3];
            if (const auto opposite = edges.find({b, a}); opposite != edges.end())
                edges.erase(opposite);
            else
                edges.emplace(std::pair{a, b}, 0);
        }
    }
    std::vector<int> above(m.places.size(), -1), below(m.places.size(), -1);
    for (const auto* t : kept)
        for (const int n : *t) {
            if (above[std::size_t(n)] >= 0) continue;
            const auto& p = m.places[std::size_t(n)];
            above[std::size_t(n)] = below[std::size_t(n)] = int(out.vertices.size());
            out.vertices.push_back({p.x, p.y, tops[std::size_t(n)]});
            if (!thick(n)) continue; // top and base share it
            below[std::size_t(n)] = int(out.vertices.size());
            out.vertices.push_back({p.x, p.y, bases[std::size_t(n)]});
        }
    const auto add = [&](int a, int b, int c) {
        if (a != b && b != c && a != c) out.triangles.push_back({a, b, c});
    };
    for (const auto* t : kept) {
        const auto [a, b, c] = *t;
        add(above[std::size_t(a)], above[std::size_t(b)], above[std::size_t(c)]);
        add(below[std::size_t(a)], below[std::size_t(c)], below[std::size_t(b)]);
    }
    for (const auto& [edge, unused] : edges) { // the body lies to the left
        const auto p = std::size_t(edge.first), q = std::size_t(edge.second);
        add(above[q], above[p], below[p]);
        add(above[q], below[p], below[q]);
    }
    return out;
}

} // namespace fox
