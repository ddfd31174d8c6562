#include "blocks/block_model.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/parallel.h"
#include "model/section.h"

#include <Eigen/Dense>
#include <fmt/format.h>
#include <nanoflann.hpp>
#include <numeric>

namespace fox {

namespace {

using BlockMethod = BlockSpec::Method;

double squaredDistance(const Point3& a, const Point3& b) {
    return (a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y) + (a.z - b.z) * (a.z - b.z);
}

} // namespace

struct BlockEstimator::Tree {
    struct Cloud {
        std::vector<Point3> points;
        std::size_t kdtree_get_point_count() const { return points.size(); }
        double kdtree_get_pt(std::size_t i, std::size_t axis) const {
            return axis == 0 ? points[i].x : axis == 1 ? points[i].y : points[i].z;
        }
        template <class Box>
        bool kdtree_get_bbox(Box&) const {
            return false;
        }
    };
    using Index = nanoflann::KDTreeSingleIndexAdaptor<nanoflann::L2_Simple_Adaptor<double, Cloud>, Cloud, 3, std::size_t>;

    Tree(const BlockSpec& s, std::vector<Point3> places, std::vector<double> v, const Variogram& g)
        : spec(s), cloud{std::move(places)}, values(std::move(v)), variogram(g), index(3, cloud, {12}) {
        // a linear variogram has no sill: what is used is beyond all distances
        sill = variogram.model == VariogramModel::Linear ? 0 : variogram.nugget + variogram.partialSill;
    }

    BlockSpec spec;
    Cloud cloud;
    std::vector<double> values;
    Variogram variogram;
    double sill = 0;
    Index index;
};

BlockEstimator::BlockEstimator(const BlockSpec& spec, std::vector<Point3> places, std::vector<double> values,
                               const Variogram& variogram) {
    for (auto& p : places) p.z *= spec.vertical;
    if (spec.logarithmic)
        for (double& v : values) v = std::log(v);
    m_tree = std::make_unique<Tree>(spec, std::move(places), std::move(values), variogram);
}
BlockEstimator::~BlockEstimator() = default;
BlockEstimator::BlockEstimator(BlockEstimator&&) noexcept = default;

namespace {

/// The nearest composites of a place, the nearest first.
struct Nearest {
    std::vector<std::size_t> index;
    std::vector<double> squared; ///< distances
};

/// Ordinary kriging of a few composites: weights and variance by the Cholesky factor of their covariances.
template <typename Tree>
BlockEstimator::Estimate kriged(const Tree& tree, const Nearest& near, const Point3& at) {
    const auto n = Eigen::Index(near.index.size());
    thread_local Eigen::MatrixXd covariances;
    thread_local Eigen::VectorXd toPlace, ones;
    double sill = tree.sill;
    if (sill == 0) { // linear
        for (std::size_t i = 0; i < near.index.size(); ++i)
            sill = std::max(sill, 4 * tree.variogram.at(std::sqrt(near.squared[i])));
    }
    covariances.resize(n, n), toPlace.resize(n), ones = Eigen::VectorXd::Ones(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto& p = tree.cloud.points[near.index[std::size_t(i)]];
        toPlace[i] = sill - tree.variogram.at(std::sqrt(squaredDistance(p, at)));
        covariances(i, i) = sill * (1 + 1e-9);
        for (Eigen::Index j = 0; j < i; ++j)
            covariances(i, j) =
                sill - tree.variogram.at(std::sqrt(squaredDistance(p, tree.cloud.points[near.index[std::size_t(j)]])));
    }
    const Eigen::LLT<Eigen::Ref<Eigen::MatrixXd>> factor(covariances); // the lower half is read
    const Eigen::VectorXd a = factor.solve(toPlace), b = factor.solve(ones);
    const double multiplier = (a.sum() - 1) / b.sum();
    double value = 0, towards = 0;
    for (Eigen::Index i = 0; i < n; ++i) {
        const double weight = a[i] - multiplier * b[i];
        value += weight * tree.values[near.index[std::size_t(i)]];
        towards += weight * toPlace[i];
    }
    return {value, std::max(0.0, sill - towards - multiplier), int(n)};
}

template <typename Tree>
double byDistance(const Tree& tree, const Nearest& near) {
    double sum = 0, weights = 0;
    const double half = tree.spec.power / 2;
    for (std::size_t i = 0; i < near.index.size(); ++i) {
        const double w = half == 1 ? 1 / near.squared[i] : std::pow(near.squared[i], -half);
        sum += w * tree.values[near.index[i]], weights += w;
    }
    return sum / weights;
}

} // namespace

BlockEstimator::Estimate BlockEstimator::at(Point3 place, std::optional<std::size_t> without) const {
    const auto& tree = *m_tree;
    place.z *= tree.spec.vertical;
    const auto all = tree.values.size();
    auto wanted = tree.spec.method == BlockMethod::Nearest ? 1
                  : tree.spec.neighbours > 0               ? std::size_t(tree.spec.neighbours)
                                                           : all;
    if (tree.spec.method == BlockMethod::Kriging) wanted = std::min<std::size_t>(wanted, kMostInKriging);
    wanted = std::min(wanted + (without ? 1 : 0), all);
    thread_local Nearest near;
    near.index.resize(wanted), near.squared.resize(wanted);
    nanoflann::KNNResultSet<double, std::size_t> result(wanted);
    result.init(near.index.data(), near.squared.data());
    const double query[3] = {place.x, place.y, place.z};
    tree.index.findNeighbors(result, query, {});
    std::size_t kept = 0;
    const double reach = tree.spec.radius > 0 ? tree.spec.radius * tree.spec.radius : std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < result.size(); ++i) {
        if (near.squared[i] > reach || (without && near.index[i] == *without)) continue;
        near.index[kept] = near.index[i], near.squared[kept] = near.squared[i];
        ++kept;
    }
    if (without && kept == wanted && wanted < all) --kept; // the one that was left out was not among them
    near.index.resize(kept), near.squared.resize(kept);
    if (kept == 0) return {};
    Estimate out{tree.values[near.index[0]], kNoValue, int(kept)};
    if (near.squared[0] == 0) {
        out.variance = 0;
    } else if (tree.spec.method == BlockMethod::InverseDistance) {
        out.value = byDistance(tree, near);
    } else if (tree.spec.method == BlockMethod::Kriging) {
        out = kriged(tree, near, place);
    }
    if (tree.spec.method != BlockMethod::Kriging) out.variance = kNoValue;
    if (tree.spec.logarithmic) out.value = std::exp(out.value);
    return out;
}

Variogram blockVariogram(const BlockSpec& spec, std::span<const Composite> composites) {
    constexpr std::size_t kMostPoints = 2000;
    constexpr int kLagCount = 15;
    const auto step = std::max<std::size_t>(1, composites.size() / kMostPoints);
    std::vector<Point3> places;
    std::vector<double> values;
    for (std::size_t i = 0; i < composites.size(); i += step) {
        places.push_back(composites[i].place);
        places.back().z *= spec.vertical;
        values.push_back(spec.logarithmic ? std::log(composites[i].value) : composites[i].value);
    }
    double longest = 0;
    for (const auto& p : places) longest = std::max(longest, squaredDistance(p, places.front()));
    const double width = std::sqrt(longest) / 2 / kLagCount;
    std::vector<VariogramLag> lags(kLagCount);
    for (std::size_t i = 0; width > 0 && i < places.size(); ++i)
        for (std::size_t j = i + 1; j < places.size(); ++j) {
            const double d = std::sqrt(squaredDistance(places[i], places[j]));
            const auto lag = std::size_t(d / width);
            if (lag >= lags.size()) continue;
            auto& l = lags[lag];
            ++l.pairs;
            l.distance += d, l.gamma += (values[i] - values[j]) * (values[i] - values[j]) / 2;
        }
    std::erase_if(lags, [](const VariogramLag& l) { return l.pairs == 0; });
    for (auto& l : lags) l.distance /= l.pairs, l.gamma /= l.pairs;
    const double mean = std::accumulate(values.begin(), values.end(), 0.0) / double(values.size());
    double variance = 0;
    for (const double v : values) variance += (v - mean) * (v - mean) / double(values.size());
    return variogramOfLags(lags, NuggetFit::Free,
                           {VariogramModel::Spherical, 0, variance > 0 ? variance : 1, std::max(width * kLagCount, 1.0)});
}

std::size_t BlockModel::known() const {
    return std::size_t(std::ranges::count_if(value, [](double v) { return !std::isnan(v); }));
}

Point3 BlockModel::centre(std::size_t block) const {
    const auto nx = std::size_t(count[0]), ny = std::size_t(count[1]);
    return {corner.x + (double(block % nx) + 0.5) * spec.dx, corner.y + (double(block / nx % ny) + 0.5) * spec.dy,
            corner.z + (double(block / nx / ny) + 0.5) * spec.dz};
}

double BlockModel::mean() const {
    double sum = 0;
    for (const double v : value)
        if (!std::isnan(v)) sum += v;
    return sum / double(known());
}

BlockModel makeBlocks(const BlockSpec& spec, const Frame& site, const Composites& composites, const Model& model,
                      const Progress& progress) {
    BlockModel out;
    out.spec = spec;
    out.findings = composites.findings;
    out.composites = composites.values.size();
    const auto extent = spec.extent.value_or(site);
    out.corner = {extent.xmin, extent.ymin, spec.fromLevel};
    const auto count = [](double length, double size) { return std::max(1.0, std::ceil(length / size - 1e-9)); };
    const double nx = count(extent.xmax - extent.xmin, spec.dx), ny = count(extent.ymax - extent.ymin, spec.dy),
                 nz = count(spec.toLevel - spec.fromLevel, spec.dz);
    if (nx * ny * nz > limits::kModelCells)
        throw Error(fmt::format("There would be {:.0f} blocks; the limit is {:.0f}.", nx * ny * nz, limits::kModelCells));
    out.count = {int(nx), int(ny), int(nz)};
    const auto n = std::size_t(nx * ny * nz), plane = std::size_t(nx * ny);
    out.value.assign(n, kNoValue);
    const bool kriging = spec.method == BlockSpec::Method::Kriging;
    if (kriging) out.variance.assign(n, kNoValue);
    out.unit.assign(n, -1), out.used.assign(n, 0);
    if (kriging) out.variogram = spec.variogram ? *spec.variogram : blockVariogram(spec, composites.values);
    const auto variogram = out.variogram.value_or(Variogram{});
    // one estimator for all, or one a unit
    std::map<std::size_t, std::pair<std::vector<Point3>, std::vector<double>>> parts;
    for (const auto& c : composites.values) {
        if (spec.within && !c.unit) continue;
        auto& [places, values] = parts[spec.within ? *c.unit : 0];
        places.push_back(c.place), values.push_back(c.value);
    }
    std::map<std::size_t, BlockEstimator> estimators;
    for (auto& [unit, part] : parts)
        estimators.emplace(unit, BlockEstimator(spec, std::move(part.first), std::move(part.second), variogram));
    std::vector<bool> wanted(model.sequence->units.size(), spec.only.empty());
    for (const auto& code : spec.only)
        if (const auto unit = model.sequence->index(code)) wanted[*unit] = true;
    constexpr std::size_t kColumnsAtOnce = 64;
    progress.report(0, "Blocks");
    parallelFor(
        plane, kColumnsAtOnce,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(out.centre(i).plan());
            const auto columns = model.columnsAt(places);
            for (std::size_t k = 0; k < std::size_t(nz); ++k)
                for (auto i = begin; i < end; ++i) {
                    const auto block = k * plane + i;
                    const auto at = out.centre(block);
                    const auto unit = columns[i - begin].unitAt(at.z);
                    if (!unit || !wanted[*unit]) continue;
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
    return out;
}

BlockSelection selected(const BlockModel& model, const Sequence& sequence, double limit, bool above) {
    BlockSelection out;
    out.mass = 0;
    constexpr double kGravity = 9.80665; // m/s2: unit weights are forces
    for (std::size_t b = 0; b < model.blocks(); ++b) {
        const double v = model.value[b];
        if (std::isnan(v) || (above ? v <= limit : v >= limit)) continue;
        ++out.blocks;
        out.volume += model.blockVolume();
        const auto& values = sequence.units[std::size_t(model.unit[b])].values;
        const auto weight = values.find("unit_weight");
        if (weight == values.end())
            out.mass.reset();
        else if (out.mass)
            *out.mass += model.blockVolume() * weight->second / kGravity;
    }
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
