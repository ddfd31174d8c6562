#include "ground/contours.h"

#include "formats/gdal_session.h"
#include "ground/raster_ground.h"

#include <gdal_alg.h>

// Through triangles a contour is exact: a straight piece a triangle, from one crossed edge to the other. A vertex at the level
// counts as just above it, so that each crossed triangle has exactly two crossed edges and pieces join without a search: the walk
// goes to the neighbour across the edge. Lines that begin at the edge of the surface are followed first; what is left then is
// closed. Cost: the number of triangle and level pairs that meet. Grids go through GDAL.
namespace fox {

namespace {

CPLErr collectLine(double level, int count, double* x, double* y, void* to) {
    ContourLine line{level, {}};
    for (int i = 0; i < count; ++i) line.line.push_back({x[i], y[i]});
    static_cast<std::vector<ContourLine>*>(to)->push_back(std::move(line));
    return CE_None;
}

/// GDAL goes on half a cell beyond the last node that has a value: these pieces are left out.
void addKnownPieces(const Grid& grid, const ContourLine& line, std::vector<ContourLine>& to) {
    bool goesOn = false;
    for (std::size_t i = 0; i + 1 < line.line.size(); ++i) {
        const auto &a = line.line[i], &b = line.line[i + 1];
        const bool known = bilinear(grid, {(a.x + b.x) / 2, (a.y + b.y) / 2}).has_value();
        if (known && !goesOn) to.push_back({line.level, {a}});
        if (known) to.back().line.push_back(b);
        goesOn = known;
    }
}

/// Follows one level through triangles.
class Tracer {
public:
    Tracer(const Tin& tin, double level, const std::vector<int>& triangles, std::vector<bool>& done)
        : m_tin(tin), m_level(level), m_triangles(triangles), m_done(done) {}

    void trace(std::vector<ContourLine>& out) {
        for (const int t : m_triangles) m_done[std::size_t(t)] = false;
        // lines that begin at an edge first, then closed ones
        for (const bool closed : {false, true})
            for (const int t : m_triangles) {
                if (m_done[std::size_t(t)]) continue;
                const auto edges = crossed(t);
                std::size_t start = edges[0];
                if (!closed) {
                    if (goesOn(t, edges[0]) && goesOn(t, edges[1])) continue;
                    if (goesOn(t, edges[0])) start = edges[1];
                }
                out.push_back({m_level, follow(t, start)});
                if (closed) out.back().line.push_back(out.back().line.front());
            }
    }

private:
    bool above(int vertex) const { return m_tin.vertices()[std::size_t(vertex)].z >= m_level; }
    bool goesOn(int t, std::size_t edge) const { return m_tin.isPresent(m_tin.triangles()[std::size_t(t)].neighbour[edge]); }
    std::array<std::size_t, 2> crossed(int t) const {
        std::array<std::size_t, 2> out{};
        std::size_t n = 0;
        const auto& v = m_tin.triangles()[std::size_t(t)].vertex;
        for (std::size_t e = 0; e < 3; ++e)
            if (above(v[(e + 1) % 3]) != above(v[(e + 2) % 3]) && n < 2) out[n++] = e;
        return out;
    }
    Point2 crossing(int t, std::size_t edge) const {
        const auto& triangle = m_tin.triangles()[std::size_t(t)].vertex;
        int a = triangle[(edge + 1) % 3], b = triangle[(edge + 2) % 3];
        if (a > b) std::swap(a, b); // the same from both sides
        const auto &p = m_tin.vertices()[std::size_t(a)], &q = m_tin.vertices()[std::size_t(b)];
        const double s = (m_level - p.z) / (q.z - p.z);
        return {p.x + s * (q.x - p.x), p.y + s * (q.y - p.y)};
    }
    Polyline2 follow(int t, std::size_t enter) {
        Polyline2 line{crossing(t, enter)};
        while (true) {
            m_done[std::size_t(t)] = true;
            const auto edges = crossed(t);
            const auto leave = edges[0] == enter ? edges[1] : edges[0];
            const int next = m_tin.triangles()[std::size_t(t)].neighbour[leave];
            const bool closes = m_tin.isPresent(next) && m_done[std::size_t(next)];
            if (!closes) line.push_back(crossing(t, leave));
            if (closes || !m_tin.isPresent(next)) return line;
            const auto& n = m_tin.triangles()[std::size_t(next)].neighbour;
            enter = std::size_t(std::ranges::find(n, t) - n.begin());
            t = next;
        }
    }

    const Tin& m_tin;
    double m_level;
    const std::vector<int>& m_triangles;
    std::vector<bool>& m_done;
};

constexpr double kMostLevels = 10000; // an interval that small is a slip

} // namespace

std::vector<ContourLine> contoursOf(const Grid& grid, double interval) {
    const GdalSession session;
    const auto& f = grid.frame;
    if (f.columns() < 2 || f.rows() < 2) return {};
    auto values = grid.values; // GDAL wants to be able to write
    std::vector<ContourLine> traced, lines;
    auto* generator = GDAL_CG_Create(f.columns(), f.rows(), TRUE, kNoValue, interval, 0, collectLine, &traced);
    for (int row = 0; row < f.rows(); ++row)
        GDAL_CG_FeedLine(generator, values.data() + std::size_t(row) * std::size_t(f.columns()));
    GDAL_CG_Destroy(generator);
    for (auto& line : traced) {
        for (auto& p : line.line) p = {f.xmin + p.x * f.cell, f.ymax - p.y * f.cell};
        addKnownPieces(grid, line, lines);
    }
    return lines;
}

std::vector<ContourLine> contoursOf(const Tin& tin, double interval, const Progress& progress) {
    std::vector<ContourLine> out;
    double low = kNoValue, high = kNoValue;
    for (const auto& t : tin.triangles())
        for (const auto& c : tin.corners(t)) low = std::fmin(low, c.z), high = std::fmax(high, c.z);
    if (!(interval > 0) || !((high - low) / interval < kMostLevels)) return out;
    const auto first = std::int64_t(std::ceil(low / interval));
    const auto levels = std::size_t(std::int64_t(std::floor(high / interval)) - first + 1);
    std::vector<std::vector<int>> crossed(levels);
    for (std::size_t i = 0; i < tin.triangles().size(); ++i) {
        const auto c = tin.corners(tin.triangles()[i]);
        const double bottom = std::min({c[0].z, c[1].z, c[2].z}), top = std::max({c[0].z, c[1].z, c[2].z});
        // levels with a corner below and one at or above
        for (auto k = std::max(first, std::int64_t(std::floor(bottom / interval))); double(k) * interval <= top; ++k)
            if (bottom < double(k) * interval && std::size_t(k - first) < levels)
                crossed[std::size_t(k - first)].push_back(int(i));
    }
    std::vector<bool> done(tin.triangles().size(), false);
    for (std::size_t k = 0; k < levels; ++k) {
        progress.check();
        Tracer(tin, double(first + std::int64_t(k)) * interval, crossed[k], done).trace(out);
    }
    return out;
}

Polyline2 smoothed(const Polyline2& line) {
    Polyline2 now = line;
    for (int pass = 0; pass < 2 && now.size() > 2; ++pass) {
        const bool closed = now.front() == now.back();
        Polyline2 next;
        if (!closed) next.push_back(now.front());
        for (std::size_t i = 0; i + 1 < now.size(); ++i) {
            const auto &a = now[i], &b = now[i + 1];
            next.push_back({0.75 * a.x + 0.25 * b.x, 0.75 * a.y + 0.25 * b.y});
            next.push_back({0.25 * a.x + 0.75 * b.x, 0.25 * a.y + 0.75 * b.y});
        }
        next.push_back(closed ? next.front() : now.back());
        now = std::move(next);
    }
    return now;
}

double contourInterval(double low, double high) {
    const double range = high - low;
    if (!(range > 0)) return 1;
    const double power = std::pow(10, std::floor(std::log10(range / 12)));
    const double ratio = range / 12 / power;
    return power * (ratio < 1.5 ? 1 : ratio < 3.5 ? 2 : ratio < 7.5 ? 5 : 10);
}

double contourInterval(const Grid& grid) {
    double low = kNoValue, high = kNoValue;
    for (const double v : grid.values) low = std::fmin(low, v), high = std::fmax(high, v);
    return contourInterval(low, high);
}

} // namespace fox
