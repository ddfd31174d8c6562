#include "layers/plan_grid.h"

#include "base/errors.h"
#include "base/limits.h"

#include <fmt/format.h>
#include <numbers>
#include <numeric>
#include <set>

namespace fox {

namespace {

std::vector<double> edgesOf(const std::vector<double>& widths, const char* what) {
    if (widths.empty()) throw UsageError(fmt::format("A grid needs at least one {}.", what));
    std::vector<double> edges{0};
    for (const double w : widths) {
        if (!(w > 0) || !(w < limits::kCoordinate))
            throw UsageError(fmt::format("A {} of a grid is {:g} m wide; it must be more than 0.", what, w));
        edges.push_back(edges.back() + w);
    }
    return edges;
}

/// A stretch of one axis in which cells are at most `width` wide.
struct FineStretch {
    double from, to, width, slope;
};

/// How wide cells may be at places along an axis: at the fine stretches as they say, elsewhere as wide as they are, neither
/// changing by more than the slope.
class CellSize {
public:
    CellSize(const std::vector<double>& edges, std::vector<FineStretch> fine)
        : m_edges(edges),
          m_fine(std::move(fine)),
          m_slope(m_fine.front().slope),
          m_atEdges(edges.size(), std::numeric_limits<double>::infinity()) {
        const auto n = edges.size();
        for (std::size_t c = 0; c + 1 < n; ++c)
            for (const auto e : {c, c + 1}) m_atEdges[e] = std::min(m_atEdges[e], widthOf(c));
        for (std::size_t c = 0; c + 1 < n; ++c)
            m_atEdges[c + 1] = std::min(m_atEdges[c + 1], m_atEdges[c] + m_slope * widthOf(c));
        for (std::size_t c = n - 1; c-- > 0;) m_atEdges[c] = std::min(m_atEdges[c], m_atEdges[c + 1] + m_slope * widthOf(c));
    }

    /// Whether a cell has to be parted.
    bool isTooWide(std::size_t cell) const {
        const double a = m_edges[cell], b = m_edges[cell + 1];
        double least = std::min(fineAt(a), fineAt(b));
        for (const auto& f : m_fine)
            if (f.to >= a && f.from <= b) least = std::min(least, f.width);
        return least < (b - a) * (1 - 1e-9);
    }
    double at(double s, std::size_t cell) const {
        return std::min({fineAt(s), widthOf(cell), m_atEdges[cell] + m_slope * (s - m_edges[cell]),
                         m_atEdges[cell + 1] + m_slope * (m_edges[cell + 1] - s)});
    }

private:
    double widthOf(std::size_t cell) const { return m_edges[cell + 1] - m_edges[cell]; }
    double fineAt(double s) const {
        double size = std::numeric_limits<double>::infinity();
        for (const auto& f : m_fine) {
            // the width holds one cell beyond the stretch, so that cells that only touch it keep it too
            const double away = std::max({0.0, f.from - f.width - s, s - f.to - f.width});
            size = std::min(size, f.width + f.slope * away);
        }
        return size;
    }

    const std::vector<double>& m_edges;
    std::vector<FineStretch> m_fine;
    double m_slope;
    std::vector<double> m_atEdges;
};

/// Edges between the beginning of cell `begin` and the end of cell `end - 1`, by equal steps of the integral of 1 / size.
std::vector<double> spacedEdges(const CellSize& size, const std::vector<double>& edges, std::size_t begin, std::size_t end,
                                double narrowest) {
    const double from = edges[begin], to = edges[end];
    const auto steps = std::size_t(std::clamp((to - from) / narrowest * 16, 64.0, 4e6));
    const double step = (to - from) / double(steps);
    std::vector<double> sum(steps + 1, 0);
    auto cell = begin;
    for (std::size_t i = 0; i < steps; ++i) {
        const double s = from + (double(i) + 0.5) * step;
        while (cell + 1 < end && s > edges[cell + 1]) ++cell;
        sum[i + 1] = sum[i] + step / size.at(s, cell);
    }
    const auto count = std::max<std::size_t>(1, std::size_t(std::ceil(sum.back() - 1e-6)));
    std::vector<double> out{from};
    std::size_t at = 0;
    for (std::size_t k = 1; k < count; ++k) {
        const double wanted = sum.back() * double(k) / double(count);
        while (sum[at + 1] < wanted) ++at;
        out.push_back(from + (double(at) + (wanted - sum[at]) / (sum[at + 1] - sum[at])) * step);
    }
    out.push_back(to);
    return out;
}

bool growsTooFast(const std::vector<double>& edges, std::size_t i, double growth) {
    const double a = edges[i] - edges[i - 1], b = edges[i + 1] - edges[i];
    return std::max(a, b) > std::min(a, b) * growth * (1 + 1e-3);
}

/// One run of cells made finer, in the place of cells `begin` to `end`.
struct FinerRun {
    std::size_t begin, end;
    std::vector<double> edges;
};

FinerRun finerRun(const CellSize& size, const std::vector<double>& edges, std::size_t begin, std::size_t end, double narrowest,
                  double growth) {
    for (;;) {
        FinerRun run{begin, end, spacedEdges(size, edges, begin, end, narrowest)};
        // where the new cells meet the old ones; if they do not fit, one old cell more takes part
        const bool left = begin > 0 && growsTooFast({edges[begin - 1], run.edges[0], run.edges[1]}, 1, growth);
        const auto n = run.edges.size();
        const bool right =
            end + 1 < edges.size() && growsTooFast({run.edges[n - 2], run.edges[n - 1], edges[end + 1]}, 1, growth);
        if (!left && !right) return run;
        if (left) --begin;
        if (right) ++end;
    }
}

std::vector<double> finerEdges(const std::vector<double>& edges, const std::vector<FineStretch>& fine, double growth) {
    if (fine.empty()) return edges;
    const CellSize size(edges, fine);
    const double narrowest = std::ranges::min_element(fine, {}, &FineStretch::width)->width;
    if (edges.back() / narrowest > limits::kGridCells)
        throw Error(fmt::format("With cells of {:g} m the grid would have too many rows or columns.", narrowest));
    std::vector<FinerRun> runs;
    for (std::size_t c = 0; c + 1 < edges.size(); ++c) {
        if (!size.isTooWide(c)) continue;
        auto end = c + 1;
        while (end + 1 < edges.size() && size.isTooWide(end)) ++end;
        auto run = finerRun(size, edges, c, end, narrowest, growth);
        while (!runs.empty() && runs.back().end >= run.begin) { // it has grown into the one before: both are one
            run = finerRun(size, edges, std::min(runs.back().begin, run.begin), run.end, narrowest, growth);
            runs.pop_back();
        }
        c = run.end - 1;
        runs.push_back(std::move(run));
    }
    std::vector<double> out;
    std::size_t next = 0;
    for (const auto& run : runs) {
        for (; next < run.begin; ++next) out.push_back(edges[next]);
        out.insert(out.end(), run.edges.begin(), run.edges.end() - 1);
        next = run.end;
    }
    for (; next < edges.size(); ++next) out.push_back(edges[next]);
    return out;
}

std::vector<double> widthsOf(const std::vector<double>& edges) {
    std::vector<double> out;
    for (std::size_t i = 0; i + 1 < edges.size(); ++i) out.push_back(edges[i + 1] - edges[i]);
    return out;
}

std::optional<std::size_t> stretchOf(const std::vector<double>& edges, double s) {
    if (!(s >= edges.front() && s <= edges.back())) return {};
    const auto at = std::size_t(std::ranges::upper_bound(edges, s) - edges.begin());
    return std::min(at, edges.size() - 1) - 1;
}

} // namespace

PlanGrid::PlanGrid(Point2 corner, double turn, std::vector<double> columns, std::vector<double> rows)
    : m_corner(corner), m_turn(turn), m_columns(edgesOf(columns, "column")), m_rows(edgesOf(rows, "row")) {
    if (!std::isfinite(corner.x) || !std::isfinite(corner.y) || !std::isfinite(turn))
        throw UsageError("A grid's corner and turn must be numbers.");
    if (double(columns.size()) * double(rows.size()) > limits::kGridCells)
        throw Error(fmt::format("The grid would have {:.0f} cells; the limit is {:.0f}.",
                                double(columns.size()) * double(rows.size()), limits::kGridCells));
}

PlanGrid::PlanGrid(const Frame& f)
    : PlanGrid({f.xmin, f.ymax}, 0, std::vector<double>(std::size_t(f.columns()), f.cell),
               std::vector<double>(std::size_t(f.rows()), f.cell)) {}

Point2 PlanGrid::placed(double along, double down) const {
    if (m_turn == 0) return {m_corner.x + along, m_corner.y - down};
    const double a = m_turn * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    // along: clockwise from east, so (cos, -sin); down: a right angle on, (-sin, -cos)
    return {m_corner.x + along * c - down * s, m_corner.y - along * s - down * c};
}

Point2 PlanGrid::local(Point2 p) const {
    const double dx = p.x - m_corner.x, dy = p.y - m_corner.y;
    if (m_turn == 0) return {dx, -dy};
    const double a = m_turn * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    return {dx * c - dy * s, -dx * s - dy * c};
}

double PlanGrid::area(std::size_t cell) const {
    const auto n = std::size_t(columns());
    return width(int(cell % n)) * height(int(cell / n));
}

Point2 PlanGrid::centre(int column, int row) const {
    const auto c = std::size_t(column), r = std::size_t(row);
    return placed((m_columns[c] + m_columns[c + 1]) / 2, (m_rows[r] + m_rows[r + 1]) / 2);
}

std::vector<Point2> PlanGrid::centres() const {
    std::vector<Point2> out;
    out.reserve(cells());
    for (int r = 0; r < rows(); ++r)
        for (int c = 0; c < columns(); ++c) out.push_back(centre(c, r));
    return out;
}

Polygon2 PlanGrid::outline() const { return {node(0, 0), node(columns(), 0), node(columns(), rows()), node(0, rows())}; }

Box2 PlanGrid::box() const {
    Box2 b;
    for (const auto p : outline()) b.include(p);
    return b;
}

std::optional<std::size_t> PlanGrid::cellAt(Point2 p) const {
    const auto at = local(p);
    const auto column = stretchOf(m_columns, at.x), row = stretchOf(m_rows, at.y);
    if (!column || !row) return {};
    return index(int(*column), int(*row));
}

std::vector<PlanGrid::Crossed> PlanGrid::crossedBy(const Polyline2& line) const {
    std::vector<Crossed> out;
    std::set<std::size_t> seen;
    double length = 0, before = 0;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) length += distance(line[i], line[i + 1]);
    const auto add = [&](Point2 place, double share) {
        if (const auto cell = cellAt(place); cell && seen.insert(*cell).second) out.push_back({*cell, share});
    };
    if (!(length > 0)) {
        if (!line.empty()) add(line.front(), 0);
        return out;
    }
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const auto a = local(line[i]), b = local(line[i + 1]);
        std::vector<double> cuts{0, 1}; // shares of this piece at which it passes from one cell to the next
        const auto cutAt = [&](const std::vector<double>& edges, double from, double to) {
            if (from == to) return;
            for (const double e : edges)
                if (const double t = (e - from) / (to - from); t > 0 && t < 1) cuts.push_back(t);
        };
        cutAt(m_columns, a.x, b.x), cutAt(m_rows, a.y, b.y);
        std::ranges::sort(cuts);
        const double piece = distance(line[i], line[i + 1]);
        for (std::size_t k = 0; k + 1 < cuts.size(); ++k) {
            if (cuts[k + 1] - cuts[k] < 1e-12) continue; // through a corner
            const double t = (cuts[k] + cuts[k + 1]) / 2;
            add({line[i].x + t * (line[i + 1].x - line[i].x), line[i].y + t * (line[i + 1].y - line[i].y)},
                (before + t * piece) / length);
        }
        before += piece;
    }
    return out;
}

PlanGrid PlanGrid::finer(const std::vector<FinerPart>& parts) const {
    std::vector<FineStretch> alongColumns, alongRows;
    double growth = std::numeric_limits<double>::infinity();
    for (const auto& p : parts) {
        if (!(p.width > 0)) throw UsageError(fmt::format("\"finer\" needs a width of more than 0 m; {:g} can't be.", p.width));
        if (!(p.growth > 1.01)) throw UsageError(fmt::format("\"growth\" is {:g}; it must be more than 1.01.", p.growth));
        Box2 box; // of what of the line lies in the grid
        for (const auto& c : crossedBy(p.line)) {
            const auto column = c.cell % std::size_t(columns()), row = c.cell / std::size_t(columns());
            box.include({m_columns[column], m_rows[row]});
            box.include({m_columns[column + 1], m_rows[row + 1]});
        }
        if (box.empty()) continue;
        Box2 line;
        for (const auto q : p.line) line.include(local(q));
        growth = std::min(growth, p.growth);
        alongColumns.push_back({std::max(box.xmin, line.xmin), std::min(box.xmax, line.xmax), p.width, std::log(p.growth)});
        alongRows.push_back({std::max(box.ymin, line.ymin), std::min(box.ymax, line.ymax), p.width, std::log(p.growth)});
    }
    for (auto* stretches : {&alongColumns, &alongRows})
        for (auto& s : *stretches) s.slope = std::log(growth); // one size for all: the gentlest growth holds everywhere
    return {m_corner, m_turn, widthsOf(finerEdges(m_columns, alongColumns, growth)),
            widthsOf(finerEdges(m_rows, alongRows, growth))};
}

std::optional<Frame> PlanGrid::frame() const {
    if (m_turn != 0) return {};
    const double cell = width(0);
    const auto differs = [&](double w) { return std::abs(w - cell) > 1e-9 * cell; };
    for (const auto& edges : {m_columns, m_rows})
        if (std::ranges::any_of(widthsOf(edges), differs)) return {};
    return Frame{m_corner.x, m_corner.y - rows() * cell, m_corner.x + columns() * cell, m_corner.y, cell};
}

namespace {

std::vector<double> widthsOf(const PlanGrid& g) {
    std::vector<double> out;
    for (int c = 0; c < g.columns(); ++c) out.push_back(g.width(c));
    return out;
}
std::vector<double> heightsOf(const PlanGrid& g) {
    std::vector<double> out;
    for (int r = 0; r < g.rows(); ++r) out.push_back(g.height(r));
    return out;
}
Point2 middleOf(const PlanGrid& g) {
    const auto a = g.node(0, 0), b = g.node(g.columns(), g.rows());
    return {(a.x + b.x) / 2, (a.y + b.y) / 2};
}
/// The same cells with their middle at a place.
PlanGrid centredAt(const PlanGrid& g, Point2 middle) {
    const auto now = middleOf(g);
    return movedBy(g, middle.x - now.x, middle.y - now.y);
}

} // namespace

PlanGrid movedBy(const PlanGrid& g, double dx, double dy) {
    return {{g.corner().x + dx, g.corner().y + dy}, g.turn(), widthsOf(g), heightsOf(g)};
}

PlanGrid turnedTo(const PlanGrid& g, double turn) {
    return centredAt({g.corner(), turn, widthsOf(g), heightsOf(g)}, middleOf(g));
}

PlanGrid stretchedTo(const PlanGrid& g, int corner, Point2 to) {
    const bool east = corner == 1 || corner == 2, south = corner == 2 || corner == 3;
    const auto fixed = g.node(east ? 0 : g.columns(), south ? 0 : g.rows());
    const double a = g.turn() * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    const double dx = to.x - fixed.x, dy = to.y - fixed.y;
    const double along = (east ? 1 : -1) * (dx * c - dy * s), down = (south ? 1 : -1) * (-dx * s - dy * c);
    const auto count = [](double length, double cell) { return int(std::clamp(std::round(length / cell), 1.0, 1e6)); };
    auto out = withCount(g, count(along, g.width(0)), count(down, g.height(0)));
    const auto now = out.node(east ? 0 : out.columns(), south ? 0 : out.rows());
    return movedBy(out, fixed.x - now.x, fixed.y - now.y);
}

PlanGrid withCells(const PlanGrid& g, double width) {
    const auto widths = widthsOf(g), heights = heightsOf(g);
    const auto count = [&](const std::vector<double>& all) {
        return int(std::clamp(std::ceil(std::reduce(all.begin(), all.end()) / width - 1e-9), 1.0, 1e7));
    };
    return centredAt({g.corner(), g.turn(), std::vector<double>(std::size_t(count(widths)), width),
                      std::vector<double>(std::size_t(count(heights)), width)},
                     middleOf(g));
}

PlanGrid withCount(const PlanGrid& g, int columns, int rows) {
    return {g.corner(), g.turn(), std::vector<double>(std::size_t(std::max(1, columns)), g.width(0)),
            std::vector<double>(std::size_t(std::max(1, rows)), g.height(0))};
}

} // namespace fox
