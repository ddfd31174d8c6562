#include "blocks/block_model.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/parallel.h"
#include "blocks/block_estimator.h"
#include "blocks/block_variogram.h"
#include "model/section.h"

#include <fmt/format.h>

namespace fox {

std::size_t BlockModel::known() const {
    return std::size_t(std::ranges::count_if(value, [](double v) { return !std::isnan(v); }));
}

Point3 BlockModel::centre(std::size_t block) const {
    const auto nx = std::size_t(count[0]), ny = std::size_t(count[1]);
    const std::size_t east = block % nx, north = block / nx % ny, up = block / nx / ny;
    return {corner.x + (double(east) + 0.5) * spec.dx, corner.y + (double(north) + 0.5) * spec.dy,
            corner.z + (double(up) + 0.5) * spec.dz};
}

double BlockModel::mean() const {
    double sum = 0;
    for (const double v : value)
        if (!std::isnan(v)) sum += v;
    return sum / double(known());
}

std::array<double, 3> blockCounts(const BlockSpec& spec, const Frame& site) {
    const auto extent = spec.extent.value_or(site);
    const auto count = [](double length, double size) { return std::max(1.0, std::ceil(length / size - 1e-9)); };
    return {count(extent.xmax - extent.xmin, spec.dx), count(extent.ymax - extent.ymin, spec.dy),
            count(spec.toLevel - spec.fromLevel, spec.dz)};
}

BlockModel makeBlocks(const BlockSpec& wanted, const Frame& site, const Composites& composites, const Model& model,
                      const Progress& progress) {
    const auto spec = withFitted(wanted, composites.values);
    BlockModel out;
    out.spec = spec;
    out.findings = composites.findings;
    out.composites = composites.values.size();
    const auto extent = spec.extent.value_or(site);
    out.corner = {extent.xmin, extent.ymin, spec.fromLevel};
    const auto [nx, ny, nz] = blockCounts(spec, site);
    if (nx * ny * nz > limits::kModelCells)
        throw Error(fmt::format("There would be {:.0f} blocks; the limit is {:.0f}.", nx * ny * nz, limits::kModelCells));
    out.count = {int(nx), int(ny), int(nz)};
    const auto n = std::size_t(nx * ny * nz), plane = std::size_t(nx * ny);
    out.value.assign(n, kNoValue);
    const bool kriging = spec.method == BlockSpec::Method::Kriging;
    if (kriging) out.variance.assign(n, kNoValue);
    out.unit.assign(n, -1), out.used.assign(n, 0);
    if (kriging) out.variogram = spec.variogram;
    const auto variogram = out.variogram.value_or(Variogram{});
    // one estimator for all, or one a unit
    std::map<std::size_t, std::vector<Composite>> parts;
    for (const auto& c : composites.values)
        if (!spec.within || c.unit) parts[spec.within ? *c.unit : 0].push_back(c);
    std::map<std::size_t, BlockEstimator> estimators;
    for (const auto& [unit, part] : parts) estimators.emplace(unit, BlockEstimator(spec, placed(part), variogram));
    std::vector<bool> isWanted(model.sequence->units.size(), spec.only.empty());
    for (const auto& code : spec.only)
        if (const auto unit = model.sequence->index(code)) isWanted[*unit] = true;
    constexpr std::size_t kColumnsAtOnce = 64;
    progress.report(0, "Blocks");
    parallelFor(
        plane, kColumnsAtOnce,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(out.centre(i).plan());
            const auto columns = model.columnsAt(places);
            for (std::size_t k = 0; k < std::size_t(out.count[2]); ++k)
                for (auto i = begin; i < end; ++i) {
                    const auto block = k * plane + i;
                    const auto at = out.centre(block);
                    const auto unit = columns[i - begin].unitAt(at.z);
                    if (!unit || !isWanted[*unit]) continue;
                    out.unit[block] = std::int16_t(*unit);
                    const auto estimator = estimators.find(spec.within ? *unit : 0);
                    if (estimator == estimators.end()) continue;
                    const auto estimate = estimator->second.at(at);
                    out.value[block] = estimate.value;
                    if (kriging) out.variance[block] = estimate.variance;
                    out.used[block] = std::uint16_t(std::min(estimate.used, 65535));
                }
        },
        progress);
    for (const double v : out.value) out.least = std::fmin(out.least, v), out.most = std::fmax(out.most, v);
    return out;
}

std::vector<BlockOnSection> blocksAlong(const BlockModel& m, const Polyline2& line) {
    if (line.size() < 2) return {};
    const double length = lengthOf(line), step = std::min(m.spec.dx, m.spec.dy) / 10;
    using Column = std::optional<std::pair<int, int>>;
    const auto columnAt = [&](double chainage) -> Column {
        const auto p = pointAlong(line, chainage);
        const double i = std::floor((p.x - m.corner.x) / m.spec.dx), j = std::floor((p.y - m.corner.y) / m.spec.dy);
        if (i < 0 || j < 0 || i >= m.count[0] || j >= m.count[1]) return {};
        return std::pair(int(i), int(j));
    };
    std::vector<BlockOnSection> out;
    const auto addColumn = [&](const std::pair<int, int>& column, double from, double to) {
        for (int k = 0; k < m.count[2]; ++k) {
            const auto b = (std::size_t(k) * std::size_t(m.count[1]) + std::size_t(column.second)) * std::size_t(m.count[0])
                           + std::size_t(column.first);
            if (std::isnan(m.value[b])) continue;
            const double low = m.corner.z + k * m.spec.dz;
            out.push_back({from, to, low, low + m.spec.dz, b});
        }
    };
    Column now;
    double from = 0;
    const auto steps = std::size_t(std::ceil(length / step));
    for (std::size_t n = 0; n <= steps; ++n) {
        const double chainage = std::min(length, double(n) * step);
        const auto next = columnAt(chainage);
        if (next == now && n < steps) continue;
        if (now && chainage > from) addColumn(*now, from, chainage);
        now = next, from = chainage;
    }
    return out;
}

} // namespace fox
