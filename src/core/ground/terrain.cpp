#include "ground/terrain.h"

#include "base/parallel.h"
#include "base/text.h"
#include "ground/flats.h"

#include <fmt/format.h>

// The ground is triangulated from all that has levels; then lines without levels are laid on that surface and it is triangulated
// again with them, so that they cut it without changing it. Between contours, flat triangles are looked for and points put along
// their middle lines (flats.h), pass after pass until none is found. Outer triangles with a long edge are taken out from the
// boundary inwards, never across a breakline. Manual edits come last, found again by place. Grids serve where there are no
// triangles.
namespace fox {

namespace {

bool hasLevels(const Polyline3& line) {
    return std::ranges::none_of(line, [](const Point3& p) { return std::isnan(p.z); });
}

class TerrainMaker {
public:
    TerrainMaker(const TerrainInput& input, const Progress& progress) : m_input(input), m_progress(progress) {}

    Terrain make() {
        m_terrain.points = int(m_input.points.size());
        m_terrain.area = m_input.area;
        gather();
        triangulateAll();
        layFlatLines();
        m_terrain.tin = std::move(m_made.tin);
        m_terrain.merged = m_made.merged;
        m_terrain.breaklineSegments = m_made.segments;
        append(m_made.findings);
        takeOutLongEdges();
        m_terrain.tin = applyToTriangles(m_input.edits, std::move(m_terrain.tin), m_used);
        append(unusedEdits(m_input.edits, m_used));
        m_terrain.rasters = RasterGround(m_input.rasters, m_terrain.tin, m_input.blend, m_input.rasterLevels);
        return std::move(m_terrain);
    }

private:
    void append(const Findings& more) { m_terrain.findings.insert(m_terrain.findings.end(), more.begin(), more.end()); }

    /// Points stay where they are unless something must change: there may be millions.
    void gather() {
        const auto finite = [](const Point3& p) { return std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(p.z); };
        const bool clean = std::ranges::all_of(m_input.points, finite);
        if (!clean || !m_input.edits.empty()) {
            m_points = m_input.points;
            const auto lost = std::erase_if(m_points, [&](const Point3& p) { return !finite(p); });
            if (lost > 0)
                append({{Severity::Error, "FC-NOT-FINITE", "", 0, "", "", "",
                         fmt::format("{} ground points have a coordinate or level that is not a number; they are left out.",
                                     lost)}});
        }
        for (const auto& line : m_input.breaklines) (hasLevels(line) ? m_lines : m_flat).push_back(line);
        m_lines.insert(m_lines.end(), m_input.contours.begin(), m_input.contours.end());
        m_flat.insert(m_flat.end(), m_input.cutLines.begin(), m_input.cutLines.end());
        for (auto* lines : {&m_lines, &m_flat})
            for (auto& line : *lines)
                if (std::erase_if(line, [](const Point3& p) { return !std::isfinite(p.x) || !std::isfinite(p.y); }) > 0)
                    append({{Severity::Error, "FC-NOT-FINITE", "", 0, "", "", "",
                             "A line has vertices whose coordinates are not numbers; they are left out."}});
        if (m_input.edits.empty()) return;
        m_used = applyToPoints(m_input.edits, m_points, m_lines);
    }

    std::span<const Point3> points() const {
        return m_points.empty() && m_input.edits.empty() ? std::span(m_input.points) : std::span(m_points);
    }

    void triangulateAll() {
        m_made = triangulate(points(), m_lines, 0.001, m_progress);
        if (m_input.contours.empty() || !m_input.mendFlats) return;
        FlatTriangleRemoval mender(m_input.contours);
        constexpr int kPasses = 8; // three do; more only where added points are flat among themselves
        for (int pass = 0; pass < kPasses; ++pass) {
            m_progress.report(double(pass) / kPasses, "Removing flat triangles between contours");
            const auto more = mender.pointsFor(m_made.tin);
            if (more.empty()) break;
            if (m_points.empty()) m_points.assign(points().begin(), points().end());
            m_points.insert(m_points.end(), more.begin(), more.end());
            m_terrain.flatsMended += int(more.size());
            m_made = triangulate(m_points, m_lines, 0.001, m_progress);
        }
    }

    /// Lays lines without levels on the surface of all the rest.
    void layFlatLines() {
        if (m_flat.empty()) return;
        int lost = 0, far = 0;
        for (const auto& line : m_flat) {
            std::vector<Polyline3> pieces(1);
            for (auto p : line) {
                if (std::isnan(p.z)) {
                    const auto z = m_made.tin.levelAt(p.plan());
                    const bool near = z && withinReach(p.plan());
                    lost += !z, far += z && !near;
                    if (!near) {
                        pieces.emplace_back();
                        continue;
                    }
                    p.z = *z;
                }
                pieces.back().push_back(p);
            }
            for (auto& piece : pieces)
                if (piece.size() >= 2) m_lines.push_back(std::move(piece));
        }
        if (m_points.empty()) m_points.assign(points().begin(), points().end());
        m_made = triangulate(m_points, m_lines, 0.001, m_progress);
        if (lost > 0)
            append({{Severity::Warning, "FC-NO-LEVEL", "", 0, "", "", "",
                     counted(std::size_t(lost),
                             "vertex of breaklines without levels lies outside the other ground data; it is left out.",
                             "vertices of breaklines without levels lie outside the other ground data; they are left out.")}});
        if (far > 0)
            append({{Severity::Warning, "FC-NO-LEVEL", "", 0, "", "", "",
                     fmt::format("{} no ground point within {:g} m to take one from, and left out. Allow a longer search "
                                 "distance in the ground's settings to use them.",
                                 counted(std::size_t(far), "vertex of breaklines without levels has",
                                         "vertices of breaklines without levels have"),
                                 m_input.reach)}});
    }

    bool withinReach(Point2 p) const {
        if (std::isinf(m_input.reach)) return true;
        const auto at = m_made.tin.triangleAt(p);
        if (!at) return false;
        const auto c = m_made.tin.corners(m_made.tin.triangles()[*at]);
        return std::ranges::any_of(c, [&](const Point3& q) { return distance(q.plan(), p) <= m_input.reach; });
    }

    void takeOutLongEdges() {
        if (!std::isfinite(m_input.longestEdge)) return;
        const auto& tin = m_terrain.tin;
        std::vector<bool> out(tin.triangles().size(), false);
        std::vector<int> open;
        const auto tooLong = [&](std::size_t t) {
            const auto c = tin.corners(tin.triangles()[t]);
            return std::max({distance(c[0].plan(), c[1].plan()), distance(c[1].plan(), c[2].plan()),
                             distance(c[2].plan(), c[0].plan())})
                   > m_input.longestEdge;
        };
        const auto take = [&](std::size_t t) {
            if (out[t] || !tooLong(t)) return;
            out[t] = true;
            open.push_back(int(t));
        };
        for (std::size_t t = 0; t < tin.triangles().size(); ++t)
            for (std::size_t e = 0; e < 3; ++e)
                if (tin.triangles()[t].neighbour[e] < 0 && !tin.isFixed(t, e)) take(t);
        while (!open.empty()) {
            const auto t = std::size_t(open.back());
            open.pop_back();
            ++m_terrain.edgeTriangles;
            for (std::size_t e = 0; e < 3; ++e)
                if (const int n = tin.triangles()[t].neighbour[e]; n >= 0 && !tin.isFixed(t, e)) take(std::size_t(n));
        }
        if (m_terrain.edgeTriangles > 0) m_terrain.tin = tin.without(out);
    }

    const TerrainInput& m_input;
    const Progress& m_progress;
    Terrain m_terrain;
    Triangulation m_made;
    std::vector<Point3> m_points;           ///< empty while the input's do
    std::vector<Polyline3> m_lines, m_flat; ///< with and without levels
    std::vector<int> m_used;
};

} // namespace

Terrain makeTerrain(const TerrainInput& input, const Progress& progress) { return TerrainMaker(input, progress).make(); }

Grid Terrain::sampled(const Frame& frame, const Progress& progress) const {
    auto grid = sample(tin, frame, area, progress);
    if (rasters.empty()) return grid;
    const int columns = frame.columns();
    parallelFor(
        std::size_t(frame.rows()), 4,
        [&](std::size_t begin, std::size_t end) {
            for (auto row = int(begin); row < int(end); ++row) {
                const auto spans = area.spansAt(frame.centre(0, row).y);
                for (int c = 0; c < columns; ++c) {
                    const auto p = frame.centre(c, row);
                    if (std::isnan(grid.at(c, row)) && spans.contains(p.x))
                        grid.at(c, row) = rasters.levelAt(p).value_or(kNoValue);
                }
            }
        },
        progress);
    return grid;
}

std::vector<ContourLine> contoursOf(const Terrain& terrain, const Grid& sampled, double interval, bool smooth,
                                    const Progress& progress) {
    auto lines = terrain.rasters.empty() ? contoursOf(terrain.tin, interval, progress) : contoursOf(sampled, interval);
    if (terrain.rasters.empty() && !terrain.area.isEverywhere()) {
        std::vector<ContourLine> inside;
        for (const auto& line : lines) {
            Polyline3 raised;
            for (const auto& p : line.line) raised.push_back({p.x, p.y, line.level});
            for (const auto& piece : terrain.area.clipped(raised)) {
                inside.push_back({line.level, {}});
                for (const auto& p : piece) inside.back().line.push_back(p.plan());
            }
        }
        lines = std::move(inside);
    }
    if (smooth)
        for (auto& line : lines) line.line = smoothed(line.line);
    return lines;
}

} // namespace fox
