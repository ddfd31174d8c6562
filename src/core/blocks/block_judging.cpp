#include "blocks/block_judging.h"

#include "blocks/block_estimator.h"
#include "blocks/block_variogram.h"

#include <set>

namespace fox {

namespace {

/// What is left out together: a hole, or points near one another.
std::vector<std::vector<std::size_t>> groupsOf(const std::vector<Composite>& all) {
    std::map<std::string, std::vector<std::size_t>> byHole;
    Box2 box;
    for (const auto& c : all) box.include({c.place.x, c.place.y});
    constexpr int kSides = 8; // of a lattice over the points that are in no hole
    const auto step = [](double v, double least, double size) {
        return std::clamp(int((v - least) / std::max(size, 1e-9) * kSides), 0, kSides - 1);
    };
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto& c = all[i];
        byHole[c.hole.empty()
                   ? fmt::format("\t{} {}", step(c.place.x, box.xmin, box.width()), step(c.place.y, box.ymin, box.height()))
                   : c.hole]
            .push_back(i);
    }
    std::vector<std::vector<std::size_t>> out;
    for (auto& [name, members] : byHole) out.push_back(std::move(members));
    return out;
}

} // namespace

BlockJudgement judgeBlocks(const BlockSpec& wanted, const Composites& data, const Progress& progress) {
    const auto spec = withFitted(wanted, data.values);
    BlockJudgement out;
    const auto groups = groupsOf(data.values);
    out.holes = groups.size();
    if (groups.size() < 2) return out;
    const std::size_t tried = std::min(groups.size(), kMostJudged);
    for (std::size_t k = 0; k < tried; ++k) {
        progress.check();
        const auto& left = groups[k * groups.size() / tried];
        const std::set<std::size_t> skipped(left.begin(), left.end());
        std::map<std::optional<std::size_t>, std::vector<Composite>> others; // by unit, if within
        for (std::size_t i = 0; i < data.values.size(); ++i) {
            if (skipped.contains(i)) continue;
            others[spec.within ? data.values[i].unit : std::nullopt].push_back(data.values[i]);
        }
        std::map<std::optional<std::size_t>, BlockEstimator> estimators;
        for (const auto& [unit, given] : others)
            estimators.emplace(unit, BlockEstimator(spec, placed(given), spec.variogram.value_or(Variogram{})));
        ++out.holesTried;
        for (const auto i : left) {
            const auto& c = data.values[i];
            const auto at = estimators.find(spec.within ? c.unit : std::nullopt);
            if (at == estimators.end()) continue;
            const double told = at->second.at(c.place).value;
            if (std::isnan(told)) continue;
            out.told.push_back({c.value, told, c.unit});
        }
    }
    out.errors = errorsOf(out.told);
    return out;
}

BlockJudgement::Errors errorsOf(std::span<const BlockJudgement::Told> told) {
    double squares = 0, sizes = 0, sum = 0;
    for (const auto& t : told) {
        const double error = t.predicted - t.observed;
        squares += error * error, sizes += std::abs(error), sum += error;
    }
    const auto n = double(told.size());
    return told.empty() ? BlockJudgement::Errors{} : BlockJudgement::Errors{std::sqrt(squares / n), sizes / n, sum / n};
}

BlockHistogram histogramOf(const BlockModel& model, const Composites& data, std::size_t classes,
                           std::optional<std::size_t> unit) {
    std::vector<double> blocks, composites;
    for (std::size_t b = 0; b < model.blocks(); ++b)
        if (!std::isnan(model.value[b]) && (!unit || std::size_t(model.unit[b]) == *unit)) blocks.push_back(model.value[b]);
    for (const auto& c : data.values)
        if (!unit || c.unit == unit) composites.push_back(c.value);
    double low = kNoValue, high = kNoValue;
    for (const auto* values : {&blocks, &composites})
        for (const double v : *values) low = std::fmin(low, v), high = std::fmax(high, v);
    BlockHistogram out;
    if (std::isnan(low)) return out;
    const double width = std::max(high - low, 1e-12) / double(classes);
    for (std::size_t k = 0; k <= classes; ++k) out.limits.push_back(low + width * double(k));
    const auto shares = [&](const std::vector<double>& values) {
        std::vector<double> all(classes, 0);
        for (const double v : values) all[std::min(classes - 1, std::size_t((v - low) / width))] += 1 / double(values.size());
        return all;
    };
    out.blocks = shares(blocks), out.composites = shares(composites);
    return out;
}

Swath swathOf(const BlockModel& model, const Composites& data, SwathAxis axis, std::size_t slices) {
    const auto& s = model.spec;
    const auto k = std::size_t(axis);
    const double begin = axis == SwathAxis::East ? model.corner.x : axis == SwathAxis::North ? model.corner.y : model.corner.z;
    const double length = model.count[k] * (axis == SwathAxis::East ? s.dx : axis == SwathAxis::North ? s.dy : s.dz);
    Swath out;
    if (model.blocks() == 0 || !(length > 0)) return out;
    slices = std::min(slices, std::size_t(model.count[k]));
    std::vector<double> counts(slices, 0), dataCounts(slices, 0);
    out.blocks.assign(slices, 0), out.composites.assign(slices, 0);
    const auto sliceOf = [&](Point3 p) {
        const double v = axis == SwathAxis::East ? p.x : axis == SwathAxis::North ? p.y : p.z;
        const double share = (v - begin) / length;
        return share < 0 || share > 1 ? std::optional<std::size_t>() : std::min(slices - 1, std::size_t(share * double(slices)));
    };
    for (std::size_t b = 0; b < model.blocks(); ++b)
        if (!std::isnan(model.value[b]))
            if (const auto at = sliceOf(model.centre(b))) out.blocks[*at] += model.value[b], counts[*at] += 1;
    for (const auto& c : data.values)
        if (const auto at = sliceOf(c.place)) out.composites[*at] += c.value, dataCounts[*at] += 1;
    for (std::size_t i = 0; i < slices; ++i) {
        out.middle.push_back(begin + length * (double(i) + 0.5) / double(slices));
        out.blocks[i] = counts[i] > 0 ? out.blocks[i] / counts[i] : kNoValue;
        out.composites[i] = dataCounts[i] > 0 ? out.composites[i] / dataCounts[i] : kNoValue;
    }
    return out;
}

CutOffCurve cutOffCurve(const BlockModel& model, bool above, std::size_t points) {
    std::vector<double> sorted;
    for (const double v : model.value)
        if (!std::isnan(v)) sorted.push_back(v);
    CutOffCurve out;
    if (sorted.empty()) return out;
    std::ranges::sort(sorted);
    for (std::size_t k = 0; k <= points; ++k) {
        const double v = sorted.front() + (sorted.back() - sorted.front()) * double(k) / double(points);
        const auto n =
            above ? sorted.end() - std::ranges::upper_bound(sorted, v) : std::ranges::lower_bound(sorted, v) - sorted.begin();
        out.value.push_back(v), out.volume.push_back(double(n) * model.blockVolume());
    }
    return out;
}

} // namespace fox
