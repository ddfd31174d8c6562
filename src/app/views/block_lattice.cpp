#include "views/block_lattice.h"

namespace fox::app {

BlockLattice::BlockLattice(const ModelGrid* grid, const Grid& ground, double floor, const BlockCut& cut, const Polyline2* line,
                           std::size_t mostNodes)
    : m_grid(grid), m_ground(ground), m_floor(floor), m_cut(cut) {
    const auto& f = ground.frame;
    const int step = std::max(1, int(std::ceil(std::sqrt(double(f.cells()) / double(mostNodes)))));
    const auto taken = [step](int count) {
        std::vector<int> out;
        for (int k = 0; k < count; k += step) out.push_back(k);
        if (!out.empty() && out.back() != count - 1) out.push_back(count - 1);
        return out;
    };
    m_columns = taken(f.columns());
    m_rows = taken(f.rows());
    const double south = f.ymax - (1 - cut.south) * (f.rows() - 1) * f.cell - f.cell / 2,
                 west = f.xmin + cut.west * (f.columns() - 1) * f.cell + f.cell / 2;
    constexpr double kRounding = 1e-6; // metres
    for (int j = 0; j < rows(); ++j)
        for (int i = 0; i < columns(); ++i) {
            const auto p = place(i, j);
            bool kept = !std::isnan(this->ground(i, j));
            if (cut.south > 0) kept &= p.y >= south - kRounding;
            if (cut.west > 0) kept &= p.x >= west - kRounding;
            if (cut.line && line && line->size() > 1) kept &= project(*line, p).offset <= 0;
            m_known.push_back(kept);
            m_kept.push_back(kept && std::ranges::all_of(cut.planes, [&](const auto& c) { return c.rightOf(p) <= 0; }));
        }
}

std::vector<Point2> BlockLattice::cutSquare(int i, int j) const {
    if (m_cut.planes.empty() || i < 0 || j < 0 || i + 1 >= columns() || j + 1 >= rows() || square(i, j)) return {};
    const auto known = [&](int di, int dj) { return m_known[std::size_t(j + dj) * m_columns.size() + std::size_t(i + di)]; };
    if (!known(0, 0) || !known(1, 0) || !known(0, 1) || !known(1, 1)) return {};
    const auto nw = place(i, j), se = place(i + 1, j + 1);
    std::vector<Point2> ring{{0, 1}, {1, 1}, {1, 0}, {0, 0}}; // shares, y southwards
    for (const auto& plane : m_cut.planes) {                  // Sutherland and Hodgman: what lies left of the plane stays
        const auto right = [&](Point2 s) { return plane.rightOf({nw.x + s.x * (se.x - nw.x), nw.y + s.y * (se.y - nw.y)}); };
        std::vector<Point2> kept;
        for (std::size_t k = 0; k < ring.size(); ++k) {
            const auto a = ring[k], b = ring[(k + 1) % ring.size()];
            const double ra = right(a), rb = right(b);
            if (ra <= 0) kept.push_back(a);
            if ((ra < 0 && rb > 0) || (ra > 0 && rb < 0)) {
                const double t = ra / (ra - rb);
                kept.push_back({a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)});
            }
        }
        ring = std::move(kept);
        if (ring.size() < 3) return {};
    }
    return ring;
}

bool BlockLattice::square(int i, int j) const {
    if (i < 0 || j < 0 || i + 1 >= columns() || j + 1 >= rows()) return false;
    const auto at = [&](int di, int dj) { return m_kept[std::size_t(j + dj) * m_columns.size() + std::size_t(i + di)]; };
    return at(0, 0) && at(1, 0) && at(0, 1) && at(1, 1);
}

std::vector<double> BlockLattice::levels(int i, int j) const {
    const int c = m_columns[std::size_t(i)], r = m_rows[std::size_t(j)];
    std::vector<double> out{m_ground.at(c, r)};
    if (m_grid)
        for (const auto& b : m_grid->bases) out.push_back(b.at(c, r));
    out.push_back(std::isnan(out.back()) ? kNoValue : m_floor);
    if (m_cut.level)
        for (auto& z : out)
            if (!std::isnan(z)) z = std::min(z, *m_cut.level);
    return out;
}

} // namespace fox::app
