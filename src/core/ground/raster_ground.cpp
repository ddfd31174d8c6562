#include "ground/raster_ground.h"

// Bilinear between cell centres. Where levels are known (holes), the grid is corrected by interpolating the differences
// (grid_correction.h). Near the triangles the grid is drawn to their edge: by the difference at the nearest place of the edge,
// with a weight that falls from 1 to 0 over the blend distance as 1 - t²(3 - 2t), which has no kink at either end.
namespace fox {

RasterGround::RasterGround(std::vector<std::shared_ptr<const Grid>> grids, const Tin& tin, double blend,
                           const std::vector<Point3>& known)
    : m_grids(std::move(grids)), m_blend(blend) {
    std::vector<Point3> differences;
    for (const auto& p : known)
        if (const auto z = plainLevelAt(p.plan())) differences.push_back({p.x, p.y, p.z - *z});
    if (!differences.empty()) m_correction = GridCorrection(std::move(differences), m_grids.front()->frame.cell);
    if (m_grids.empty() || !(blend > 0) || tin.empty()) return;
    std::vector<SegmentIndex::Segment> edges;
    for (const auto& t : tin.triangles()) {
        const auto c = tin.corners(t);
        for (std::size_t i = 0; i < 3; ++i)
            if (!tin.isPresent(t.neighbour[i])) {
                const auto &a = c[(i + 1) % 3], &b = c[(i + 2) % 3];
                edges.push_back({a.plan(), b.plan()});
                m_levels.emplace_back(a.z, b.z);
            }
    }
    m_edges = SegmentIndex(std::move(edges));
}

std::optional<double> bilinear(const Grid& grid, Point2 p) {
    const auto& f = grid.frame;
    const double column = (p.x - f.xmin) / f.cell - 0.5, row = (f.ymax - p.y) / f.cell - 0.5;
    const int columns = f.columns(), rows = f.rows();
    if (!(column >= -0.5 && column <= columns - 0.5 && row >= -0.5 && row <= rows - 0.5)) return {};
    const double c = std::clamp(column, 0.0, columns - 1.0), r = std::clamp(row, 0.0, rows - 1.0);
    const int c0 = std::min(int(c), std::max(0, columns - 2)), r0 = std::min(int(r), std::max(0, rows - 2));
    const int c1 = std::min(c0 + 1, columns - 1), r1 = std::min(r0 + 1, rows - 1);
    const double u = c - c0, v = r - r0;
    double value = 0;
    for (const auto& [column0, row0, weight] :
         {std::tuple{c0, r0, (1 - u) * (1 - v)}, {c1, r0, u * (1 - v)}, {c0, r1, (1 - u) * v}, {c1, r1, u * v}})
        if (weight > 0) value += weight * grid.at(column0, row0);
    return std::isnan(value) ? std::nullopt : std::optional(value);
}

std::optional<double> RasterGround::plainLevelAt(Point2 p) const {
    for (const auto& grid : m_grids)
        if (const auto z = bilinear(*grid, p)) return z;
    return {};
}

std::optional<double> RasterGround::levelAt(Point2 p) const {
    const auto plain = [&](Point2 at) -> std::optional<double> {
        const auto z = plainLevelAt(at);
        return z ? std::optional(*z + m_correction.at(at)) : z;
    };
    const auto z = plain(p);
    if (!z || m_edges.empty()) return z;
    const auto nearest = m_edges.nearest(p, 1).front();
    const auto& [a, b] = m_edges[nearest];
    const auto& [za, zb] = m_levels[nearest];
    const double t = nearestShare(p, a, b);
    const Point3 edge{a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), za + t * (zb - za)};
    const double away = distance(p, edge.plan()) / m_blend;
    if (away >= 1) return z;
    const auto there = plain(edge.plan());
    if (!there) return z;
    const double share = 1 - away * away * (3 - 2 * away);
    return *z + share * (edge.z - *there);
}

} // namespace fox
