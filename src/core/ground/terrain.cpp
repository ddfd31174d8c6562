#include "ground/terrain.h"

#include "formats/gdal_session.h"

#include <fmt/format.h>
#include <gdal_alg.h>

namespace fox {

namespace {

bool hasLevels(const Polyline3& line) {
    return std::ranges::none_of(line, [](const Point3& p) { return std::isnan(p.z); });
}

/// Lays a line without levels on a surface: the pieces of it that lie over it.
std::vector<Polyline3> laid(const Polyline3& line, const Tin& tin) {
    std::vector<Polyline3> pieces(1);
    for (auto p : line) {
        if (std::isnan(p.z)) {
            const auto z = tin.levelAt(p.plan());
            if (!z) {
                pieces.emplace_back();
                continue;
            }
            p.z = *z;
        }
        pieces.back().push_back(p);
    }
    std::erase_if(pieces, [](const Polyline3& piece) { return piece.size() < 2; });
    return pieces;
}

} // namespace

Terrain makeTerrain(const TerrainInput& input, const Progress& progress) {
    std::vector<Polyline3> lines, flat;
    for (const auto& line : input.breaklines) (hasLevels(line) ? lines : flat).push_back(line);
    auto made = triangulate(input.points, lines, 0.001, progress);
    if (!flat.empty()) {
        int lost = 0;
        for (const auto& line : flat) {
            auto pieces = laid(line, made.tin);
            std::size_t kept = 0;
            for (const auto& p : pieces) kept += p.size();
            lost += int(line.size() - kept);
            lines.insert(lines.end(), pieces.begin(), pieces.end());
        }
        made = triangulate(input.points, lines, 0.001, progress);
        if (lost > 0)
            made.findings.push_back(
                {Severity::Warning, "FC-NO-LEVEL", "", 0, "", "", "",
                 fmt::format("{} vertices of breaklines without levels lie outside the other ground data; they are left out.",
                             lost)});
    }
    Terrain terrain;
    terrain.tin = std::move(made.tin);
    terrain.limit = input.limit;
    terrain.points = int(input.points.size());
    terrain.merged = made.merged;
    terrain.breaklineSegments = made.segments;
    terrain.findings = std::move(made.findings);
    return terrain;
}

namespace {
CPLErr collectLine(double level, int count, double* x, double* y, void* to) {
    ContourLine line{level, {}};
    for (int i = 0; i < count; ++i) line.line.push_back({x[i], y[i]});
    static_cast<std::vector<ContourLine>*>(to)->push_back(std::move(line));
    return CE_None;
}
} // namespace

std::vector<ContourLine> contoursOf(const Grid& grid, double interval) {
    const GdalSession session;
    const auto& f = grid.frame;
    if (f.columns() < 2 || f.rows() < 2) return {};
    DatasetPtr set(GetGDALDriverManager()->GetDriverByName("MEM")->Create("", f.columns(), f.rows(), 1, GDT_Float64, nullptr));
    auto values = grid.values; // GDAL wants to be able to write
    auto* band = set->GetRasterBand(1);
    if (band->RasterIO(GF_Write, 0, 0, f.columns(), f.rows(), values.data(), f.columns(), f.rows(), GDT_Float64, 0, 0) != CE_None)
        return {};
    std::vector<ContourLine> lines;
    auto* generator = GDAL_CG_Create(f.columns(), f.rows(), TRUE, kNoValue, interval, 0, collectLine, &lines);
    for (int row = 0; row < f.rows(); ++row)
        GDAL_CG_FeedLine(generator, values.data() + std::size_t(row) * std::size_t(f.columns()));
    GDAL_CG_Destroy(generator);
    for (auto& line : lines)
        for (auto& p : line.line) p = {f.xmin + p.x * f.cell, f.ymax - p.y * f.cell};
    return lines;
}

double contourInterval(const Grid& grid) {
    double low = kNoValue, high = kNoValue;
    for (const double v : grid.values) low = std::fmin(low, v), high = std::fmax(high, v);
    const double range = high - low;
    if (!(range > 0)) return 1;
    const double power = std::pow(10, std::floor(std::log10(range / 12)));
    const double ratio = range / 12 / power;
    return power * (ratio < 1.5 ? 1 : ratio < 3.5 ? 2 : ratio < 7.5 ? 5 : 10);
}

} // namespace fox
