#include "model/solids.h"

#include <unordered_map>

// A body is its top, its base turned over, and walls at the rim. Both surfaces are triangulated on the same nodes (cell centres,
// cell corners as means of the cells around, middles of edges at the rim), so that they close without slivers; where a unit has
// no thickness top and base share their node, and faces without any thickness go. Two cells that meet in a corner only are parted
// there, else the body would touch itself. volumeOf is the divergence theorem, a tetrahedron a face about one vertex; isClosed
// counts that each edge is passed as often one way as the other.
namespace fox {

TriangleMesh surfaceMesh(const Grid& grid, const std::string& name) {
    TriangleMesh mesh{name, {}, {}};
    const int columns = grid.frame.columns(), rows = grid.frame.rows();
    std::vector<int> ids(grid.values.size(), -1);
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c)
            if (const double z = grid.at(c, r); !std::isnan(z)) {
                ids[std::size_t(r) * std::size_t(columns) + std::size_t(c)] = int(mesh.vertices.size());
                const auto p = grid.frame.centre(c, r);
                mesh.vertices.push_back({p.x, p.y, z});
            }
    for (int r = 0; r + 1 < rows; ++r)
        for (int c = 0; c + 1 < columns; ++c) {
            const auto id = [&](int dc, int dr) { return ids[std::size_t(r + dr) * std::size_t(columns) + std::size_t(c + dc)]; };
            const int nw = id(0, 0), ne = id(1, 0), sw = id(0, 1), se = id(1, 1);
            const auto add = [&](int a, int b, int d) {
                if (a >= 0 && b >= 0 && d >= 0) mesh.triangles.push_back({a, b, d});
            };
            const bool falling =
                nw >= 0 && se >= 0
                && (ne < 0 || sw < 0
                    || std::abs(grid.at(c, r) - grid.at(c + 1, r + 1)) <= std::abs(grid.at(c + 1, r) - grid.at(c, r + 1)));
            if (falling)
                add(nw, sw, se), add(nw, se, ne);
            else
                add(sw, se, ne), add(sw, ne, nw);
        }
    return mesh;
}

namespace {

/// Places of a surface: cell centres, cell corners, and middles of cell edges at the rim. Their levels are made of the same
/// cells for top and base, so that where both are equal in the cells they are equal here to the last digit.
class Lattice {
public:
    Lattice(const Grid& top, const Grid& base)
        : m_top(top),
          m_base(base),
          m_columns(base.frame.columns()),
          m_rows(base.frame.rows()),
          m_ids((2 * std::size_t(m_columns) + 1) * (2 * std::size_t(m_rows) + 1), kNone) {}

    struct Node {
        Point3 top;
        double base;
        double thickness() const { return top.z - base; }
    };
    int columns() const { return m_columns; }
    int rows() const { return m_rows; }

    bool known(int c, int r) const {
        return c >= 0 && r >= 0 && c < m_columns && r < m_rows && !std::isnan(m_top.at(c, r)) && !std::isnan(m_base.at(c, r));
    }
    std::size_t centre(int c, int r) {
        const auto p = m_base.frame.centre(c, r);
        return node(2 * c + 1, 2 * r + 1, {}, p, {{c, r}});
    }
    /// The corner of cell c, r to the east (right) or west and the south (down) or north.
    std::size_t corner(int c, int r, bool right, bool down) {
        const int x = c + right, y = r + down;
        std::vector<std::pair<int, int>> around;
        for (const auto& [cc, rr] : {std::pair{x - 1, y - 1}, {x, y - 1}, {x - 1, y}, {x, y}})
            if (known(cc, rr)) around.emplace_back(cc, rr);
        // two cells that meet in this corner only are parted here
        const bool apart = around.size() == 2 && around[0].first != around[1].first && around[0].second != around[1].second;
        if (apart) around = {{c, r}};
        const auto f = m_base.frame;
        return node(2 * x, 2 * y, apart ? std::optional(right + 2 * down) : std::nullopt,
                    {f.xmin + x * f.cell, f.ymax - y * f.cell}, around);
    }
    /// The middle of a cell's edge at the rim, towards dc, dr.
    std::size_t middle(int c, int r, int dc, int dr) {
        const auto p = m_base.frame.centre(c, r);
        const double half = m_base.frame.cell / 2;
        return node(2 * c + 1 + dc, 2 * r + 1 + dr, {}, {p.x + dc * half, p.y - dr * half}, {{c, r}});
    }
    const std::vector<Node>& nodes() const { return m_nodes; }

private:
    /// At half cells x, y counted from the north-west corner; a corner that is parted has a node for each of its cells.
    std::size_t node(int x, int y, std::optional<int> part, Point2 p, const std::vector<std::pair<int, int>>& cells) {
        const auto at = std::size_t(y) * (2 * std::size_t(m_columns) + 1) + std::size_t(x);
        auto& id = part ? m_parted.try_emplace({at, *part}, kNone).first->second : m_ids[at];
        if (id != kNone) return id;
        id = std::uint32_t(m_nodes.size());
        double top = 0, base = 0;
        for (const auto& [c, r] : cells) top += m_top.at(c, r), base += m_base.at(c, r);
        m_nodes.push_back({{p.x, p.y, top / double(cells.size())}, base / double(cells.size())});
        return id;
    }

    static constexpr std::uint32_t kNone = 0xFFFFFFFF;
    const Grid &m_top, &m_base;
    int m_columns, m_rows;
    std::vector<std::uint32_t> m_ids; ///< of nodes, by half cells
    std::map<std::pair<std::size_t, int>, std::uint32_t> m_parted;
    std::vector<Node> m_nodes;
};

/// Closes top and base to a body.
class SolidMaker {
public:
    SolidMaker(const Grid& top, const Grid& base) : m_lattice(top, base) {
        for (int r = 0; r < m_lattice.rows(); ++r)
            for (int c = 0; c < m_lattice.columns(); ++c)
                if (m_lattice.known(c, r)) addCell(c, r);
    }

    TriangleMesh make(const std::string& name) {
        TriangleMesh mesh{name, {}, {}};
        const auto& nodes = m_lattice.nodes();
        std::vector<bool> kept(nodes.size(), false), open(nodes.size(), false);
        const auto isKept = [&](const auto& corners) {
            return std::ranges::any_of(corners, [&](std::size_t n) { return nodes[n].thickness() > 0; });
        };
        for (const auto& f : m_faces)
            for (const auto n : f) (isKept(f) ? kept : open)[n] = true;
        for (const auto& w : m_rim)
            for (const auto n : w) open[n] = true;
        std::vector<int> above(nodes.size(), -1), below(nodes.size(), -1);
        for (std::size_t n = 0; n < nodes.size(); ++n) {
            if (!kept[n]) continue;
            above[n] = below[n] = int(mesh.vertices.size());
            mesh.vertices.push_back(nodes[n].top);
            if (!(nodes[n].thickness() > 0) && open[n]) continue; // here top and base meet
            below[n] = int(mesh.vertices.size());
            mesh.vertices.push_back({nodes[n].top.x, nodes[n].top.y, nodes[n].base});
        }
        const auto add = [&](int a, int b, int c) {
            if (a != b && b != c && a != c) mesh.triangles.push_back({a, b, c});
        };
        for (const auto& f : m_faces) {
            if (!isKept(f)) continue;
            add(above[f[0]], above[f[1]], above[f[2]]);
            add(below[f[0]], below[f[2]], below[f[1]]);
        }
        for (const auto& [p, q] : m_rim) { // the body lies to the left of p -> q
            if (!kept[p] || !kept[q]) continue;
            add(above[q], above[p], below[p]);
            add(above[q], below[p], below[q]);
        }
        return mesh;
    }

private:
    using Face = std::array<std::size_t, 3>; // counter-clockwise seen from above

    void addCell(int c, int r) {
        const auto centre = m_lattice.centre(c, r);
        // towards east, north, west, south: the edge's corners, counter-clockwise
        constexpr int kTowards[4][2] = {{1, 0}, {0, -1}, {-1, 0}, {0, 1}};
        for (const auto& [dc, dr] : kTowards) {
            const bool first = dc > 0 || dr > 0; // of two neighbours one adds what lies between
            const bool neighbour = m_lattice.known(c + dc, r + dr);
            if (neighbour && !first) continue;
            const auto from = dc != 0 ? m_lattice.corner(c, r, dc > 0, dc > 0) : m_lattice.corner(c, r, dr<0, dr> 0);
            const auto to = dc != 0 ? m_lattice.corner(c, r, dc > 0, dc < 0) : m_lattice.corner(c, r, dr > 0, dr > 0);
            if (neighbour) {
                const auto other = m_lattice.centre(c + dc, r + dr);
                m_faces.push_back({centre, from, other});
                m_faces.push_back({centre, other, to});
            } else {
                const auto middle = m_lattice.middle(c, r, dc, dr);
                m_faces.push_back({centre, from, middle});
                m_faces.push_back({centre, middle, to});
                m_rim.push_back({from, middle});
                m_rim.push_back({middle, to});
            }
        }
    }

    Lattice m_lattice;
    std::vector<Face> m_faces;
    std::vector<std::array<std::size_t, 2>> m_rim;
};

/// The base of the oldest unit.
Grid floorOf(const ModelGrid& grid) {
    Grid out(grid.ground.frame);
    for (std::size_t i = 0; i < out.values.size(); ++i)
        if (!std::isnan(grid.top(grid.bases.size()).values[i])) out.values[i] = grid.base(grid.bases.size(), i);
    return out;
}

} // namespace

TriangleMesh solidOf(const ModelGrid& grid, std::size_t unit, const std::string& name) {
    if (unit >= grid.unitsWithBase()) return {name, {}, {}};
    return SolidMaker(grid.top(unit), unit < grid.bases.size() ? grid.bases[unit] : floorOf(grid)).make(name);
}

double volumeOf(const TriangleMesh& mesh) {
    if (mesh.vertices.empty()) return 0;
    const auto o = mesh.vertices.front();
    double six = 0;
    for (const auto& t : mesh.triangles) {
        std::array<Point3, 3> p{};
        for (std::size_t i = 0; i < 3; ++i) {
            const auto& v = mesh.vertices[std::size_t(t[i])];
            p[i] = {v.x - o.x, v.y - o.y, v.z - o.z};
        }
        six += p[0].x * (p[1].y * p[2].z - p[1].z * p[2].y) + p[0].y * (p[1].z * p[2].x - p[1].x * p[2].z)
               + p[0].z * (p[1].x * p[2].y - p[1].y * p[2].x);
    }
    return six / 6;
}

bool isClosed(const TriangleMesh& mesh) {
    std::vector<std::pair<std::uint64_t, int>> passed; // an edge, and which way
    passed.reserve(mesh.triangles.size() * 3);
    for (const auto& t : mesh.triangles)
        for (std::size_t i = 0; i < 3; ++i) {
            const int a = t[i], b = t[(i + 1) % 3];
            passed.emplace_back((std::uint64_t(std::min(a, b)) << 32) | std::uint64_t(std::max(a, b)), a < b ? 1 : -1);
        }
    std::ranges::sort(passed);
    for (std::size_t i = 0; i < passed.size();) {
        int sum = 0;
        const auto edge = passed[i].first;
        for (; i < passed.size() && passed[i].first == edge; ++i) sum += passed[i].second;
        if (sum != 0) return false;
    }
    return true;
}

CellBlock cellsOf(const ModelGrid& grid) {
    CellBlock out;
    const auto& f = grid.ground.frame;
    const int columns = f.columns(), rows = f.rows();
    // surfaces from the ground down; a node of each is made once, at a corner of cells
    std::vector<const Grid*> surfaces{&grid.ground};
    for (const auto& b : grid.bases) surfaces.push_back(&b);
    Grid floor;
    if (grid.unitsWithBase() > grid.bases.size()) floor = floorOf(grid), surfaces.push_back(&floor);
    const auto known = [&](std::size_t s, int c, int r) {
        return c >= 0 && r >= 0 && c < columns && r < rows && !std::isnan(surfaces[s]->at(c, r));
    };
    // from the ground down by mean thicknesses, so that no corner lies over the one above it where a base is not known
    // in some of the cells around
    const auto levelAt = [&](std::size_t s, int x, int y) {
        double level = 0;
        for (std::size_t k = 0; k <= s; ++k) {
            double sum = 0;
            int n = 0;
            for (const auto& [c, r] : {std::pair{x - 1, y - 1}, {x, y - 1}, {x - 1, y}, {x, y}})
                if (known(k, c, r)) sum += surfaces[k]->at(c, r) - (k > 0 ? surfaces[k - 1]->at(c, r) : 0), ++n;
            level += sum / n;
        }
        return level;
    };
    std::unordered_map<std::uint64_t, std::size_t> ids;
    const auto node = [&](std::size_t s, int x, int y) {
        const auto key = (std::uint64_t(s) << 50) | (std::uint64_t(x) << 25) | std::uint64_t(y);
        const auto [it, isNew] = ids.try_emplace(key, out.nodes.size());
        if (isNew) out.nodes.push_back({f.xmin + x * f.cell, f.ymax - y * f.cell, levelAt(s, x, y)});
        return it->second;
    };
    for (std::size_t u = 0; u + 1 < surfaces.size(); ++u)
        for (int r = 0; r < rows; ++r)
            for (int c = 0; c < columns; ++c) {
                if (!known(u, c, r) || !known(u + 1, c, r)) continue;
                const double thickness = surfaces[u]->at(c, r) - surfaces[u + 1]->at(c, r);
                if (!(thickness > 0)) continue;
                std::array<std::size_t, 8> corners{};
                for (std::size_t k = 0; k < 8; ++k) { // sw, se, ne, nw
                    const int dx = k % 4 == 1 || k % 4 == 2, dy = k % 4 < 2;
                    corners[k] = node(k < 4 ? u + 1 : u, c + dx, r + dy);
                }
                out.cells.push_back(corners);
                out.unit.push_back(int(u));
                out.thickness.push_back(thickness);
            }
    return out;
}

} // namespace fox
