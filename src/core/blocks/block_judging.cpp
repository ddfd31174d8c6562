#include "blocks/block_judging.h"

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

Box2 rangeOfValues(const BlockModel& model, const Composites& data) {
    Box2 out; // values as x: the box knows least and most
    for (const double v : model.value)
        if (!std::isnan(v)) out.include({v, 0});
    for (const auto& c : data.values) out.include({c.value, 0});
    return out;
}

} // namespace

BlockJudgement judgeBlocks(const BlockSpec& spec, const Composites& data, const std::optional<Variogram>& variogram,
                           const Progress& progress) {
    BlockJudgement out;
    const auto groups = groupsOf(data.values);
    out.holes = groups.size();
    if (groups.size() < 2) return out;
    const std::size_t tried = std::min(groups.size(), kMostJudged);
    double squares = 0, sizes = 0, sum = 0;
    for (std::size_t k = 0; k < tried; ++k) {
        progress.check();
        const auto& left = groups[k * groups.size() / tried];
        const std::set<std::size_t> skipped(left.begin(), left.end());
        std::map<std::optional<std::size_t>, std::pair<std::vector<Point3>, std::vector<double>>> others; // by unit, if within
        for (std::size_t i = 0; i < data.values.size(); ++i) {
            if (skipped.contains(i)) continue;
            auto& [places, values] = others[spec.within ? data.values[i].unit : std::nullopt];
            places.push_back(data.values[i].place), values.push_back(data.values[i].value);
        }
        std::map<std::optional<std::size_t>, BlockEstimator> estimators;
        for (auto& [unit, given] : others)
            estimators.emplace(unit, BlockEstimator(spec, given.first, given.second, variogram.value_or(Variogram{})));
        ++out.holesTried;
        for (const auto i : left) {
            const auto& c = data.values[i];
            const auto at = estimators.find(spec.within ? c.unit : std::nullopt);
            if (at == estimators.end()) continue;
            const double told = at->second.at(c.place).value;
            if (std::isnan(told)) continue;
            out.told.push_back({c.value, told, c.unit});
            squares += (told - c.value) * (told - c.value), sizes += std::abs(told - c.value), sum += told - c.value;
        }
    }
    if (const auto n = double(out.told.size()); n > 0) out.rmse = std::sqrt(squares / n), out.mae = sizes / n, out.bias = sum / n;
    return out;
}

BlockHistogram histogramOf(const BlockModel& model, const Composites& data, std::size_t classes) {
    BlockHistogram out;
    const auto range = rangeOfValues(model, data);
    if (range.empty()) return out;
    const double width = std::max(range.xmax - range.xmin, 1e-12) / double(classes);
    for (std::size_t k = 0; k <= classes; ++k) out.limits.push_back(range.xmin + width * double(k));
    const auto classOf = [&](double v) { return std::min(classes - 1, std::size_t((v - range.xmin) / width)); };
    out.blocks.assign(classes, 0), out.composites.assign(classes, 0);
    const auto known = double(std::max<std::size_t>(1, model.known())),
               count = double(std::max<std::size_t>(1, data.values.size()));
    for (const double v : model.value)
        if (!std::isnan(v)) out.blocks[classOf(v)] += 1 / known;
    for (const auto& c : data.values) out.composites[classOf(c.value)] += 1 / count;
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
