#include "surfaces/realisations.h"

#include "base/errors.h"
#include "surfaces/kriging_system.h"
#include "surfaces/outer_surface.h"
#include "surfaces/truncated_normal.h"

#include <numbers>
#include <random>

// Conditional simulation in three steps. (1) The values at limits are drawn by Gibbs sampling (Geweke 1991): each in turn from
// its normal given all others, truncated by its limit; 200 sweeps to forget the start, then every twentieth is kept. (2) An
// unconditional field with the variogram's covariance is a sum of cosine waves with normal amplitudes (Shinozuka and Deodatis
// 1991), the same waves for all realisations. (3) The field is made to honour data and drawn limits by kriging of the differences
// (Journel 1974): one factorisation serves all realisations, since only the right-hand sides differ. Two runs with one seed are
// equal.
namespace fox {

namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

using detail::Random;

/// Waves whose sum with normal amplitudes has the variogram's covariance.
class Waves {
public:
    Waves(const Variogram& v, double sill) {
        // evenly spread over lengths and directions (Roberts' sequence): with as few waves the covariance is nearer to the
        // model's than with random ones
        constexpr double kStep[] = {0.8191725133961645, 0.6710436067037893, 0.5497004779019703};
        const auto radial = v.model == VariogramModel::Spherical ? ballRadii() : std::vector<double>();
        for (int i = 0; i < kWaves; ++i) {
            double u[3];
            for (int k = 0; k < 3; ++k) u[k] = std::fmod(0.5 + kStep[k] * (i + 1), 1.0);
            // more of the short waves than their share, and each the smaller: between data only they count
            const double longer = (1 - u[0]) * (1 - u[0]), weight = 2 * (1 - u[0]);
            const double frequency = frequencyOf(v, 1 - longer, u[2], radial), direction = 2 * std::numbers::pi * u[1];
            m_x[i] = frequency * std::cos(direction), m_y[i] = frequency * std::sin(direction);
            m_size[i] = std::sqrt(sill * weight / kWaves);
        }
    }
    static constexpr int kWaves = 768;
    static constexpr int kTerms = 2 * kWaves;

    /// What each amplitude counts at a place.
    void termsAt(Point2 p, Eigen::Ref<Eigen::ArrayXd> out) const {
        const Eigen::Array<double, kWaves, 1> phase = m_x * p.x + m_y * p.y;
        out.head(kWaves) = m_size * phase.cos();
        out.tail(kWaves) = m_size * phase.sin();
    }

private:
    /// Radians a metre, by a share of the spectrum.
    static double frequencyOf(const Variogram& v, double share, double height, const std::vector<double>& radii) {
        switch (v.model) {
        case VariogramModel::Exponential: return 3 / v.range * std::sqrt(1 / ((1 - share) * (1 - share)) - 1);
        case VariogramModel::Gaussian: return std::sqrt(6.0) / v.range * std::sqrt(-2 * std::log(1 - share));
        case VariogramModel::Linear:
        case VariogramModel::Spherical: break;
        }
        // a spherical covariance is that of balls in space of the range's diameter; its waves in the plane are theirs cut
        // across
        const double inSpace = radii[std::min(radii.size() - 1, std::size_t(share * double(radii.size())))] / (v.range / 2);
        const double up = 2 * height - 1;
        return inSpace * std::sqrt(1 - up * up);
    }

    /// Evenly many of the frequencies, times the radius, of a ball's covariance: density (sin t - t cos t)^2 / t^4.
    static std::vector<double> ballRadii() {
        constexpr double kFarthest = 200, kStep = 0.01; // beyond it lies half a per cent of the variance
        std::vector<double> sum{0};
        for (double t = kStep / 2; t < kFarthest; t += kStep) {
            const double f = (std::sin(t) - t * std::cos(t)) / (t * t);
            sum.push_back(sum.back() + f * f);
        }
        constexpr int kShares = 1 << 16; // the shortest waves are rare
        std::vector<double> out;
        for (int i = 0; i < kShares; ++i) {
            const double wanted = (i + 0.5) / kShares * sum.back();
            out.push_back(double(std::ranges::lower_bound(sum, wanted) - sum.begin()) * kStep);
        }
        return out;
    }

    Eigen::Array<double, kWaves, 1> m_x, m_y, m_size;
};

/// What bounds at one place leave.
struct Limits {
    Point2 place;
    double low = -std::numeric_limits<double>::infinity(), high = std::numeric_limits<double>::infinity();
};

std::vector<Limits> limitsOf(std::span<const Bound> bounds) {
    constexpr double kSame = 0.001; // metres
    std::vector<Limits> out;
    for (const auto& b : bounds) {
        auto at = std::ranges::find_if(out, [&](const Limits& l) { return distance(l.place, b.place.plan()) < kSame; });
        if (at == out.end()) at = out.insert(out.end(), {b.place.plan()});
        (b.side == Side::Upper ? at->high : at->low) = b.place.z;
    }
    return out;
}

/// Draws of the values at the limits, a column each, given means and covariances.
MatrixXd drawsWithin(std::span<const Limits> limits, const VectorXd& means, MatrixXd covariances, int count, Random& random,
                     const Progress& progress) {
    const auto m = means.size();
    MatrixXd out(m, count);
    if (m == 0) return out;
    // places close together are nearly one: a touch more variance keeps the inverse's digits
    covariances.diagonal().array() += 1e-9 * covariances.diagonal().maxCoeff();
    const auto factor = covariances.llt();
    if (factor.info() != Eigen::Success || !means.allFinite())
        throw Error("The limits of this surface can't be simulated: the equations between them have no solution.");
    const MatrixXd precision = factor.solve(MatrixXd::Identity(m, m));
    VectorXd value(m);
    for (Index i = 0; i < m; ++i) value[i] = std::clamp(means[i], limits[std::size_t(i)].low, limits[std::size_t(i)].high);
    constexpr int kWarmUp = 200, kApart = 20; // sweeps
    for (int sweep = -kWarmUp; sweep < count * kApart; ++sweep) {
        progress.check();
        for (Index i = 0; i < m; ++i) {
            const double deviation = 1 / std::sqrt(precision(i, i));
            const double away = precision.row(i).dot(value - means) - precision(i, i) * (value[i] - means[i]);
            const double mean = means[i] - away / precision(i, i);
            const auto& l = limits[std::size_t(i)];
            value[i] = mean + deviation * detail::normalBetween((l.low - mean) / deviation, (l.high - mean) / deviation, random);
        }
        if (sweep >= 0 && sweep % kApart == 0) out.col(sweep / kApart) = value;
    }
    return out;
}

/// The linear model has no covariance: one that has its slope as far as the data reach.
Variogram simulated(const Variogram& v, double extent) {
    if (v.model != VariogramModel::Linear) return v;
    const double range = 4 * std::max(extent, v.range); // 2 % less of a slope at the extent
    return {VariogramModel::Spherical, v.nugget, v.partialSill / v.range * range / 1.5, range};
}

} // namespace

struct Realisations::Parts {
    int count = 0;
    std::optional<detail::AnisotropyTransform> squeeze;
    std::optional<Waves> waves;
    Point2 origin;
    std::optional<detail::KrigingSystem> system;
    MatrixXd amplitudes, weights, coefficients; ///< a column a realisation
};

Realisations::Realisations(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings& settings,
                           int count, std::uint64_t seed, const Progress& progress) {
    auto parts = std::make_unique<Parts>();
    parts->count = count;
    // merged points and bounds that make sense together, by the same rules as for one surface
    const auto fit = fitSurface(points, bounds, settings);
    if (!fit.data.empty() && hasVariogram(settings.method)) {
        parts->squeeze.emplace(settings.anisotropy, fit.data.front().plan());
        std::vector<Point2> data, all;
        Box2 box;
        VectorXd z(Index(fit.data.size()));
        for (const auto& p : fit.data) {
            z[Index(data.size())] = p.z;
            data.push_back((*parts->squeeze)(p.plan()));
        }
        auto limits = limitsOf(fit.bounds);
        all = data;
        for (auto& l : limits) all.push_back(l.place = (*parts->squeeze)(l.place));
        for (const auto& p : all) box.include(p);
        parts->origin = {(box.xmin + box.xmax) / 2, (box.ymin + box.ymax) / 2};
        const auto variogram = simulated(*fit.settings.variogram, std::hypot(box.width(), box.height()));
        const auto drift = settings.method == Method::UniversalKriging ? detail::Drift::Linear : detail::Drift::Constant;
        Random random(seed);
        MatrixXd targets(Index(all.size()), count);
        targets.topRows(z.size()) = z.replicate(1, count);
        if (!limits.empty()) {
            VectorXd means;
            MatrixXd covariances;
            const std::span places(all.data() + data.size(), limits.size());
            detail::KrigingSystem(data, z, variogram, drift).conditional(places, means, covariances);
            targets.bottomRows(Index(limits.size())) = drawsWithin(limits, means, covariances, count, random, progress);
        }
        parts->waves.emplace(variogram, variogram.partialSill);
        std::normal_distribution<double> normal;
        parts->amplitudes = MatrixXd::NullaryExpr(Waves::kTerms, count, [&] { return normal(random); });
        MatrixXd terms(Waves::kTerms, Index(all.size()));
        for (std::size_t i = 0; i < all.size(); ++i)
            parts->waves->termsAt({all[i].x - parts->origin.x, all[i].y - parts->origin.y}, terms.col(Index(i)).array());
        targets -= terms.transpose() * parts->amplitudes;
        parts->system.emplace(all, targets.col(0), variogram, drift);
        parts->system->solveMany(targets, parts->weights, parts->coefficients);
    }
    m_parts = std::move(parts);
}

Realisations::~Realisations() = default;
Realisations::Realisations(Realisations&&) noexcept = default;

int Realisations::count() const { return m_parts->count; }

void Realisations::evaluate(std::span<const Point2> places, std::span<double> values) const {
    const auto& p = *m_parts;
    if (!p.system) {
        std::ranges::fill(values, kNoValue);
        return;
    }
    constexpr std::size_t kBlock = 128; // of places: their terms stay in the cache
    for (std::size_t begin = 0; begin < places.size(); begin += kBlock) {
        const auto n = Index(std::min(kBlock, places.size() - begin));
        MatrixXd terms(Waves::kTerms, n), covariances(p.system->size(), n), drift(p.coefficients.rows(), n);
        for (Index i = 0; i < n; ++i) {
            const auto at = (*p.squeeze)(places[begin + std::size_t(i)]);
            p.waves->termsAt({at.x - p.origin.x, at.y - p.origin.y}, terms.col(i).array());
            p.system->covariancesAt(at, covariances.col(i).array());
            drift.col(i) = p.system->driftAt(at);
        }
        Eigen::Map<MatrixXd> out(values.data() + begin * std::size_t(p.count), p.count, n);
        out.noalias() = p.amplitudes.transpose() * terms;
        out.noalias() += p.weights.transpose() * covariances;
        out.noalias() += p.coefficients.transpose() * drift;
    }
}

double quantile(std::span<const double> sorted, double share) {
    if (sorted.empty()) return kNoValue;
    const double at = std::clamp(share, 0.0, 1.0) * double(sorted.size() - 1);
    const auto first = std::size_t(at);
    if (first + 1 >= sorted.size()) return sorted.back();
    return sorted[first] + (at - double(first)) * (sorted[first + 1] - sorted[first]);
}

} // namespace fox
