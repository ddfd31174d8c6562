#include "products/water_product.h"

#include "products/grid_products.h"
#include "products/log_products.h"

namespace fox {

namespace {

std::size_t bytesOfFit(const FittedWaterSurface& s) { return sizeof(s) + bytesOf(s.points) + bytesOf(s.fit.data); }

WaterProduct gridded(std::shared_ptr<const FittedWaterSurface> fitted, const Grid& ground, const Progress& progress) {
    WaterProduct out;
    out.fitted = std::move(fitted);
    auto levels = sample(*out.fitted->fit.surface, ground.frame, nullptr, progress);
    Grid depths(ground.frame);
    const double cell = ground.frame.cell * ground.frame.cell;
    for (std::size_t i = 0; i < levels.values.size(); ++i) {
        if (std::isnan(ground.values[i])) levels.values[i] = kNoValue; // outside the site
        depths.values[i] = ground.values[i] - levels.values[i];
        if (depths.values[i] < 0) out.aboveGround += cell;
    }
    const auto has = [](double v) { return !std::isnan(v); };
    if (std::ranges::any_of(levels.values, has)) {
        out.interval = contourInterval(levels);
        out.contours = contoursOf(levels, out.interval);
    }
    out.levels = std::make_shared<const Grid>(std::move(levels));
    out.depths = std::make_shared<const Grid>(std::move(depths));
    return out;
}

} // namespace

std::shared_ptr<const FittedWaterSurface> fittedWater(const Making& making, const WaterSurface& wanted) {
    const auto logs = interpretedLogs(making);
    return making.cache.get(
        "fitted water", {making.project.holes, logs, making.project.sequence, KeyPart::value(wanted)},
        [&] {
            making.progress.report(0.5, "Water surface " + wanted.name);
            return fitWaterSurface(wanted, *making.project.holes, *logs, *making.project.sequence, making.progress);
        },
        bytesOfFit);
}

std::shared_ptr<const WaterProduct> waterProduct(const Making& making, const WaterSurface& wanted) {
    const auto fitted = fittedWater(making, wanted);
    const auto ground = groundGrid(making);
    return making.cache.get(
        "water surface", {fitted, ground},
        [&] {
            making.progress.report(0.85, "Water surface " + wanted.name);
            return ground ? gridded(fitted, *ground, making.progress) : WaterProduct{fitted, nullptr, nullptr, {}, 1, 0};
        },
        [](const WaterProduct& p) {
            return sizeof(p) + (p.levels ? 2 * bytesOf(*p.levels) : 0) + p.contours.size() * sizeof(ContourLine);
        });
}

} // namespace fox
