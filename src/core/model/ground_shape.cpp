#include "model/ground_shape.h"

#include <numeric>

namespace fox {

namespace {

constexpr int kN = GroundShape::kCells;

/// Passes over rows, then over columns.
template <typename Line>
std::vector<double> bothWays(std::vector<double> cells, double across, double up, const Line& line) {
    std::vector<double> in(kN), out(kN);
    for (const bool rows : {true, false})
        for (int l = 0; l < kN; ++l) {
            const auto cell = [&](int i) -> double& { return cells[std::size_t(rows ? l * kN + i : i * kN + l)]; };
            for (int i = 0; i < kN; ++i) in[std::size_t(i)] = cell(i);
            line(in, out, rows ? across : up);
            for (int i = 0; i < kN; ++i) cell(i) = out[std::size_t(i)];
        }
    return cells;
}

/// Cells without a level take that of the nearest with one; 0 if there is none.
void fillFromNearest(std::vector<double>& cells) {
    std::vector<std::size_t> reached;
    for (std::size_t i = 0; i < cells.size(); ++i)
        if (!std::isnan(cells[i])) reached.push_back(i);
    if (reached.empty()) cells.assign(cells.size(), 0);
    for (std::size_t next = 0; next < reached.size(); ++next) {
        const int c = int(reached[next]) % kN, r = int(reached[next]) / kN;
        for (const auto& [dc, dr] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
            if (c + dc < 0 || c + dc >= kN || r + dr < 0 || r + dr >= kN) continue;
            const auto beside = std::size_t((r + dr) * kN + c + dc);
            if (!std::isnan(cells[beside])) continue;
            cells[beside] = cells[reached[next]];
            reached.push_back(beside);
        }
    }
}

/// A Gaussian filter; deviations in cells along a row and along a column. Beyond an edge what lies inside goes on as its mirror
/// image about the edge's level, so that a slope stays a slope up to the edge.
std::vector<double> smoothed(std::vector<double> cells, double across, double up) {
    return bothWays(std::move(cells), across, up, [](const std::vector<double>& in, std::vector<double>& out, double s) {
        const int reach = std::max(1, int(std::ceil(4 * s)));
        std::vector<double> weights;
        for (int k = -reach; k <= reach; ++k) weights.push_back(std::exp(-k * k / (2 * s * s)));
        const double all = std::accumulate(weights.begin(), weights.end(), 0.0);
        for (int i = 0; i < kN; ++i) {
            double sum = 0;
            for (int k = -reach; k <= reach; ++k) {
                const int at = i + k, edge = std::clamp(at, 0, kN - 1), mirrored = std::clamp(2 * edge - at, 0, kN - 1);
                const double level = at == edge ? in[std::size_t(at)] : 2 * in[std::size_t(edge)] - in[std::size_t(mirrored)];
                sum += weights[std::size_t(k + reach)] * level;
            }
            out[std::size_t(i)] = sum / all;
        }
    });
}

/// The least within so many cells either way.
std::vector<double> least(std::vector<double> cells, double across, double up) {
    return bothWays(std::move(cells), across, up, [](const std::vector<double>& in, std::vector<double>& out, double reach) {
        for (int i = 0; i < kN; ++i) {
            const int from = std::max(0, i - int(reach)), to = std::min(kN - 1, i + int(reach));
            out[std::size_t(i)] = *std::min_element(in.begin() + from, in.begin() + to + 1);
        }
    });
}

double rank(const std::vector<double>& sorted, double value) {
    constexpr double kSpread = 3.4641016151377544; // of an even distribution of variance 1
    constexpr double kSame = 0.02;                 // metres: level ground has one rank
    const auto low = std::ranges::lower_bound(sorted, value - kSame), high = std::ranges::upper_bound(sorted, value + kSame);
    const double below = (double(low - sorted.begin()) + double(high - sorted.begin())) / 2;
    return (below / double(sorted.size()) - 0.5) * kSpread;
}

} // namespace

GroundShape::GroundShape(const Terrain& terrain, const Box2& extent, double spacing) : m_box(extent) {
    constexpr double kBeyond = 0.03;
    const double width = std::max(1.0, extent.width()), height = std::max(1.0, extent.height());
    m_box = {extent.xmin - kBeyond * width, extent.ymin - kBeyond * height, extent.xmax + kBeyond * width,
             extent.ymax + kBeyond * height};
    m_dx = m_box.width() / (kN - 1), m_dy = m_box.height() / (kN - 1);
    std::vector<double> levels;
    for (int r = 0; r < kN; ++r)
        for (int c = 0; c < kN; ++c)
            levels.push_back(terrain.levelAt({m_box.xmin + c * m_dx, m_box.ymin + r * m_dy}).value_or(kNoValue));
    fillFromNearest(levels);
    const auto over = [&](double metres) { return smoothed(levels, std::max(0.3, metres / m_dx), std::max(0.3, metres / m_dy)); };
    m_smooth = over(0.5 * spacing), m_broad = over(0.8 * spacing);
    const double around = 0.2 * std::sqrt(width * height);
    const auto low = smoothed(least(levels, around / m_dx, around / m_dy), around / 2 / m_dx, around / 2 / m_dy);
    for (std::size_t i = 0; i < levels.size(); ++i) {
        m_height.push_back(levels[i] - low[i]), m_relief.push_back(levels[i] - m_broad[i]);
        const Point2 p{m_box.xmin + double(i % kN) * m_dx, m_box.ymin + double(i / kN) * m_dy};
        if (p.x < extent.xmin || p.x > extent.xmax || p.y < extent.ymin || p.y > extent.ymax) continue;
        m_heights.push_back(m_height.back()), m_broads.push_back(m_broad[i]), m_reliefs.push_back(m_relief.back());
    }
    for (auto* all : {&m_heights, &m_broads, &m_reliefs}) std::ranges::sort(*all);
}

double GroundShape::at(const std::vector<double>& cells, Point2 p) const {
    const double x = std::clamp((p.x - m_box.xmin) / m_dx, 0.0, kN - 1.0),
                 y = std::clamp((p.y - m_box.ymin) / m_dy, 0.0, kN - 1.0);
    const int c = std::min(int(x), kN - 2), r = std::min(int(y), kN - 2);
    const double u = x - c, v = y - r;
    const auto cell = [&](int row, int column) { return cells[std::size_t(row * kN + column)]; };
    return (1 - v) * ((1 - u) * cell(r, c) + u * cell(r, c + 1)) + v * ((1 - u) * cell(r + 1, c) + u * cell(r + 1, c + 1));
}

double GroundShape::smooth(Point2 p) const { return at(m_smooth, p); }
double GroundShape::broad(Point2 p) const { return at(m_broad, p); }
double GroundShape::heightRank(Point2 p) const { return rank(m_heights, at(m_height, p)); }
double GroundShape::broadRank(Point2 p) const { return rank(m_broads, at(m_broad, p)); }
double GroundShape::reliefRank(Point2 p) const { return rank(m_reliefs, at(m_relief, p)); }

} // namespace fox
