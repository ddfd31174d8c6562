#include "handover/block_files.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/netcdf_file.h"
#include "formats/raster.h"
#include "formats/table.h"
#include "formats/vtu.h"

#include <fmt/format.h>
#include <unordered_map>

namespace fox {

namespace {

std::string blockTable(const BlockModel& m, const Sequence& sequence) {
    std::string out = m.variance.empty() ? "easting,northing,level,unit,value,composites\n"
                                         : "easting,northing,level,unit,value,variance,composites\n";
    for (std::size_t b = 0; b < m.blocks(); ++b) {
        if (std::isnan(m.value[b])) continue;
        const auto p = m.centre(b);
        fmt::format_to(std::back_inserter(out), "{},{},{},{},{}", p.x, p.y, p.z,
                       tableCell(sequence.units[std::size_t(m.unit[b])].code), m.value[b]);
        if (!m.variance.empty()) fmt::format_to(std::back_inserter(out), ",{}", m.variance[b]);
        fmt::format_to(std::back_inserter(out), ",{}\n", m.used[b]);
    }
    return out;
}

/// Boxes that share their corners.
UnstructuredCells blockCells(const BlockModel& m, const Sequence& sequence) {
    UnstructuredCells out;
    out.remark = "units:";
    for (std::size_t u = 0; u < sequence.units.size(); ++u) out.remark += fmt::format(" {} = {};", u, sequence.units[u].code);
    const auto nx = std::size_t(m.count[0]), ny = std::size_t(m.count[1]);
    std::unordered_map<std::size_t, std::int64_t> nodes;
    const auto node = [&](std::size_t i, std::size_t j, std::size_t k) {
        const auto [at, isNew] = nodes.emplace((k * (ny + 1) + j) * (nx + 1) + i, std::int64_t(out.nodes.size()));
        if (isNew)
            out.nodes.push_back(
                {m.corner.x + double(i) * m.spec.dx, m.corner.y + double(j) * m.spec.dy, m.corner.z + double(k) * m.spec.dz});
        return at->second;
    };
    std::vector<std::int32_t> unit, used;
    std::vector<double> value, variance;
    for (std::size_t b = 0; b < m.blocks(); ++b) {
        if (std::isnan(m.value[b])) continue;
        const auto i = b % nx, j = b / nx % ny, k = b / nx / ny;
        for (const auto& [di, dj, dk] : {std::tuple{0u, 0u, 0u},
                                         {1u, 0u, 0u},
                                         {1u, 1u, 0u},
                                         {0u, 1u, 0u},
                                         {0u, 0u, 1u},
                                         {1u, 0u, 1u},
                                         {1u, 1u, 1u},
                                         {0u, 1u, 1u}})
            out.connectivity.push_back(node(i + di, j + dj, k + dk));
        out.offsets.push_back(std::int64_t(out.connectivity.size()));
        out.types.push_back(12);
        unit.push_back(m.unit[b]), used.push_back(m.used[b]);
        value.push_back(m.value[b]);
        if (!m.variance.empty()) variance.push_back(m.variance[b]);
    }
    out.data = {{"unit", std::move(unit)}, {"value", std::move(value)}};
    if (!m.variance.empty()) out.data.push_back({"variance", std::move(variance)});
    out.data.push_back({"composites", std::move(used)});
    return out;
}

/// A grid a layer of blocks, the lowest first, named by its middle level.
std::vector<std::pair<std::string, Grid>> slicesOf(const BlockModel& m) {
    if (m.spec.dx != m.spec.dy)
        throw UsageError("Slices need blocks that are as long as wide; choose another form, or other blocks.");
    const double dx = m.spec.dx;
    const int columns = m.count[0], rows = m.count[1];
    std::vector<std::pair<std::string, Grid>> out;
    for (int k = 0; k < m.count[2]; ++k) {
        Grid grid({m.corner.x, m.corner.y, m.corner.x + columns * dx, m.corner.y + rows * dx, dx});
        for (int r = 0; r < rows; ++r)
            for (int c = 0; c < columns; ++c)
                grid.at(c, r) = m.value[(std::size_t(k) * std::size_t(rows) + std::size_t(rows - 1 - r)) * std::size_t(columns)
                                        + std::size_t(c)];
        out.emplace_back(fmt::format("level {:g}", m.corner.z + (k + 0.5) * m.spec.dz), std::move(grid));
    }
    return out;
}

void writeBlockNetcdf(const std::filesystem::path& to, const BlockModel& m, const std::string& crs) {
    std::vector<double> x, y, z;
    for (int i = 0; i < m.count[0]; ++i) x.push_back(m.corner.x + (i + 0.5) * m.spec.dx);
    for (int j = 0; j < m.count[1]; ++j) y.push_back(m.corner.y + (j + 0.5) * m.spec.dy);
    for (int k = 0; k < m.count[2]; ++k) z.push_back(m.corner.z + (k + 0.5) * m.spec.dz);
    const std::vector<std::int32_t> unit(m.unit.begin(), m.unit.end()), used(m.used.begin(), m.used.end());
    const std::vector<std::string> block{"level", "northing", "easting"};
    const auto text = [](const char* s) { return std::string(s); };
    std::vector<NetcdfVariable> variables{
        {"easting", {"easting"}, x, {{"standard_name", text("projection_x_coordinate")}, {"units", text("m")}}},
        {"northing", {"northing"}, y, {{"standard_name", text("projection_y_coordinate")}, {"units", text("m")}}},
        {"level", {"level"}, z, {{"units", text("m")}, {"positive", text("up")}}},
        {"value", block, m.value, {{"long_name", m.spec.quantity}}},
        {"unit", block, unit, {{"long_name", text("place of the unit in the sequence, -1 for none")}}},
        {"composites", block, used, {{"long_name", text("how many composites were used")}}}};
    if (!m.variance.empty()) variables.push_back({"variance", block, m.variance, {{"long_name", text("kriging variance")}}});
    writeNetcdf(to, {{"level", z.size()}, {"northing", y.size()}, {"easting", x.size()}}, variables,
                {{"Conventions", text("CF-1.10")},
                 {"title", m.spec.name},
                 {"source", text("Fox Cellar")},
                 {"crs_wkt", projectionText(crs)}});
}

} // namespace

ReplaceFiles prepareBlockFile(const BlockModel& m, const Sequence& sequence, const std::string& crs,
                              const std::filesystem::path& to) {
    const auto ending = lower(to.extension().string());
    ReplaceFiles out;
    if (ending == ".csv")
        out.add(to, [&](const auto& scratch) { writeBytes(scratch, blockTable(m, sequence)); });
    else if (ending == ".vtu")
        out.add(to, [&](const auto& scratch) { writeVtu(scratch, blockCells(m, sequence)); });
    else if (ending == ".nc")
        out.add(to, [&](const auto& scratch) { writeBlockNetcdf(scratch, m, crs); });
    else if (ending == ".tif")
        out.add(to, [&](const auto& scratch) { writeBands(scratch, slicesOf(m), crs); });
    else
        throw UsageError(fmt::format("{}: blocks are written as .vtu, .csv, .nc or .tif.", to.string()));
    return out;
}

} // namespace fox
