#include "surfaces/gaussian_field.h"

#include "base/errors.h"
#include "surfaces/truncated_normal.h"

#include <Eigen/Dense>
#include <numbers>

namespace fox {

namespace {

using Eigen::ArrayXd;
using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

constexpr double kJitter = 1e-6;         // m2: a millimetre, for places that lie close together
constexpr std::size_t kMostForFit = 160; // data by which range and deviation are chosen: the cost rises with the cube
constexpr double kLogRangeDeviation = 0.7, kTypicalDeviation = 1.5, kLogDeviationDeviation = 1;

/// The Matern covariance of smoothness 3/2, of distances in parts of the range.
MatrixXd matern(const MatrixXd& distance, double range) {
    const auto h = distance.array() * (std::numbers::sqrt3 / range);
    return ((1 + h) * (-h).exp()).matrix();
}

using RowMatrix = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>;

/// A row a place.
Eigen::Map<const RowMatrix> coordinatesOf(const FieldPlaces& p) {
    return {p.coordinates.data(), Index(p.size()), Index(p.dimensions)};
}
MatrixXd driftOf(const FieldPlaces& p, const VectorXd& deviations) {
    const Eigen::Map<const RowMatrix> terms(p.drift.data(), Index(p.size()), Index(p.terms));
    return terms * deviations.asDiagonal();
}

template <typename A, typename B>
MatrixXd distances(const A& a, const B& b) {
    MatrixXd squares = MatrixXd::Zero(a.rows(), b.rows());
    for (Index k = 0; k < a.cols(); ++k)
        for (Index j = 0; j < b.rows(); ++j) squares.col(j).array() += (a.col(k).array() - b(j, k)).square();
    return squares.cwiseSqrt();
}

/// Range and deviation with the logarithm of their posterior.
struct Shape {
    double range = 1, deviation = 1, logPosterior = -std::numeric_limits<double>::infinity();
};

} // namespace

double normalShare(double deviations) { return 0.5 * std::erfc(-deviations / std::numbers::sqrt2); }

double normalDensityOverShare(double x) {
    constexpr double kFar = -25; // below it the share has no digits left, and the ratio is nearly -x
    if (x < kFar) return -x - 1 / x;
    return std::exp(-x * x / 2) / std::sqrt(2 * std::numbers::pi) / normalShare(x);
}

/// What the field is made of, and what its data say.
struct GaussianField::Parts {
    FieldSettings settings;
    VectorXd termDeviations;
    RowMatrix places;
    MatrixXd drift; ///< a row a datum, times the deviations
    std::vector<FieldLimits> limits;
    MatrixXd distance, fixed; ///< between data; drift, finest variation and jitter
    Shape shape;
    std::vector<Shape> tried; ///< with their posterior by the last completed data
    Eigen::LLT<MatrixXd> factor;
    MatrixXd inverse, draws, weights;
    VectorXd variances; ///< of each datum given the others
    double score = 0;
    std::vector<double> leftOut;
    detail::Random random;

    Index size() const { return Index(limits.size()); }
    double fineRange() const { return settings.spacing / 4; }
    double fineVariance() const { return settings.fineDeviation * settings.fineDeviation; }

    MatrixXd covariance(const Shape& s) const { return fixed + s.deviation * s.deviation * matern(distance, s.range); }
    /// Of the data with places, a column a place.
    MatrixXd covariancesTo(const Shape& s, const FieldPlaces& to, const MatrixXd& terms) const {
        const auto h = distances(places, coordinatesOf(to));
        return drift * terms.transpose() + s.deviation * s.deviation * matern(h, s.range)
               + fineVariance() * matern(h, fineRange());
    }
};

namespace {

/// Fits a field to its data.
template <typename Parts>
class FieldFit {
public:
    FieldFit(Parts& parts, const Progress& progress) : m_p(parts), m_progress(progress), m_values(parts.size()) {
        for (Index i = 0; i < m_p.size(); ++i) (m_p.limits[std::size_t(i)].known() ? m_known : m_limited).push_back(i);
    }

    void fit() {
        constexpr double kAway = 0.3; // metres from a limit: where limited values start
        for (Index i = 0; i < m_p.size(); ++i) {
            const auto& l = m_p.limits[std::size_t(i)];
            m_values[i] = std::isinf(l.low) ? l.high - kAway : std::isinf(l.high) ? l.low + kAway : (l.low + l.high) / 2;
        }
        if (m_known.size() >= 2)
            choose(m_known);
        else
            m_p.shape = {2 * m_p.settings.spacing, deviation(m_p.settings.deviations / 2), 0};
        factorise();
        if (m_limited.empty()) {
            m_p.draws = m_values;
            if (m_p.tried.empty()) m_p.tried.push_back(m_p.shape);
        } else {
            start();
            sweep(8);
            std::vector<Index> all(std::size_t(m_p.size()));
            for (Index i = 0; i < m_p.size(); ++i) all[std::size_t(i)] = i;
            for (int round = 0; round < 2; ++round) {
                choose(all);
                factorise();
                sweep(8);
            }
            m_p.draws.resize(m_p.size(), GaussianField::kDraws);
            for (int d = 0; d < GaussianField::kDraws; ++d) {
                sweep(2);
                m_p.draws.col(d) = m_values;
            }
        }
        m_p.weights = m_p.factor.solve(m_p.draws);
        judge();
    }

private:
    double deviation(int step) const {
        const auto& s = m_p.settings;
        if (s.deviations < 2) return s.leastDeviation;
        return s.leastDeviation * std::pow(s.mostDeviation / s.leastDeviation, double(step) / (s.deviations - 1));
    }

    /// The range and deviation of the largest posterior given these values.
    void choose(const std::vector<Index>& all) {
        std::vector<Index> some;
        const auto stride = double(all.size()) / double(std::min(all.size(), kMostForFit));
        for (double at = 0; std::size_t(at) < all.size(); at += stride) some.push_back(all[std::size_t(at)]);
        const MatrixXd h = m_p.distance(some, some), fixed = m_p.fixed(some, some);
        const VectorXd y = m_values(some);
        m_p.tried.clear();
        constexpr int kRanges = 9;
        for (int r = 0; r < kRanges; ++r) {
            m_progress.check();
            const double range = m_p.settings.spacing * 0.4 * std::pow(6 / 0.4, double(r) / (kRanges - 1));
            const MatrixXd shape = matern(h, range);
            const double away =
                (std::log(range / m_p.settings.spacing) - std::log(m_p.settings.typicalRange)) / kLogRangeDeviation;
            for (int d = 0; d < m_p.settings.deviations; ++d) {
                const double s = deviation(d);
                const auto factor = (fixed + s * s * shape).eval().llt();
                if (factor.info() != Eigen::Success) continue;
                const VectorXd w = factor.matrixL().solve(y);
                const double unusual = (std::log(s) - std::log(kTypicalDeviation)) / kLogDeviationDeviation;
                const double log = -w.squaredNorm() / 2 - factor.matrixLLT().diagonal().array().log().sum() - away * away / 2
                                   - (m_p.settings.deviations > 1 ? unusual * unusual / 2 : 0);
                m_p.tried.push_back({range, s, log});
            }
        }
        if (m_p.tried.empty()) throw Error("The equations of this surface have no solution.");
        m_p.shape = *std::ranges::max_element(m_p.tried, {}, &Shape::logPosterior);
    }

    void factorise() {
        m_p.factor.compute(m_p.covariance(m_p.shape));
        if (m_p.factor.info() != Eigen::Success) throw Error("The equations of this surface have no solution.");
        m_p.inverse = m_p.factor.solve(MatrixXd::Identity(m_p.size(), m_p.size()));
        m_p.variances = m_p.inverse.diagonal().cwiseInverse();
    }

    /// Limited values start where the known ones put them, within their limits.
    void start() {
        if (m_known.empty()) return;
        const MatrixXd all = m_p.covariance(m_p.shape);
        const MatrixXd between = all(m_known, m_known), to = all(m_limited, m_known);
        const VectorXd y = m_values(m_known);
        const VectorXd told = to * between.llt().solve(y);
        for (std::size_t k = 0; k < m_limited.size(); ++k) {
            const auto& l = m_p.limits[std::size_t(m_limited[k])];
            m_values[m_limited[k]] = std::clamp(told[Index(k)], l.low, l.high);
        }
    }

    void sweep(int times) {
        for (int t = 0; t < times; ++t) {
            m_progress.check();
            for (const auto i : m_limited) {
                const auto& l = m_p.limits[std::size_t(i)];
                const double mean = m_values[i] - m_p.inverse.col(i).dot(m_values) * m_p.variances[i];
                const double s = std::sqrt(m_p.variances[i]);
                m_values[i] = mean + s * detail::normalBetween((l.low - mean) / s, (l.high - mean) / s, m_p.random);
            }
        }
    }

    /// The mean of 1 / density over the draws, those of the largest weights truncated.
    static double leftOutDensity(const ArrayXd& densities) {
        constexpr double kLeast = 1e-6;
        const ArrayXd inverse = densities.max(kLeast).inverse();
        const double most = inverse.mean() * std::sqrt(double(inverse.size()));
        return 1 / inverse.min(most).mean();
    }

    void judge() {
        m_p.leftOut.resize(std::size_t(m_p.size()));
        for (Index i = 0; i < m_p.size(); ++i) {
            const auto& l = m_p.limits[std::size_t(i)];
            const double s = std::sqrt(m_p.variances[i]);
            const ArrayXd means = m_p.draws.row(i).array() - m_p.weights.row(i).array() * m_p.variances[i];
            ArrayXd densities(means.size());
            for (Index d = 0; d < means.size(); ++d) {
                const double away = (l.low - means[d]) / s;
                densities[d] = l.known() ? std::exp(-away * away / 2) / s / std::sqrt(2 * std::numbers::pi)
                                         : normalShare((l.high - means[d]) / s) - normalShare(away);
            }
            m_p.score += std::log(leftOutDensity(densities));
            m_p.leftOut[std::size_t(i)] = means.mean();
        }
    }

    Parts& m_p;
    const Progress& m_progress;
    VectorXd m_values;
    std::vector<Index> m_known, m_limited;
};

} // namespace

GaussianField::GaussianField(const FieldPlaces& places, std::span<const FieldLimits> limits, const FieldSettings& settings,
                             const Progress& progress) {
    auto parts = std::make_shared<Parts>();
    parts->settings = settings;
    parts->random.seed(settings.seed);
    parts->termDeviations = Eigen::Map<const VectorXd>(settings.termDeviations.data(), Index(settings.termDeviations.size()));
    parts->places = coordinatesOf(places);
    parts->drift = driftOf(places, parts->termDeviations);
    parts->limits.assign(limits.begin(), limits.end());
    parts->distance = distances(parts->places, parts->places);
    parts->fixed = parts->drift * parts->drift.transpose() + parts->fineVariance() * matern(parts->distance, parts->fineRange());
    parts->fixed.diagonal().array() += kJitter;
    for (std::size_t i = 0; i < settings.accuracies.size(); ++i)
        if (limits[i].known()) parts->fixed(Index(i), Index(i)) += settings.accuracies[i] * settings.accuracies[i];
    FieldFit(*parts, progress).fit();
    m_parts = std::move(parts);
}

GaussianField GaussianField::withLimits(std::span<const FieldLimits> limits) const {
    auto parts = std::make_shared<Parts>(*m_parts);
    parts->limits.assign(limits.begin(), limits.end());
    for (Index i = 0; i < parts->size(); ++i) {
        const auto& l = limits[std::size_t(i)];
        parts->draws.row(i) = parts->draws.row(i).cwiseMax(l.low).cwiseMin(l.high);
    }
    parts->weights = parts->factor.solve(parts->draws);
    return GaussianField(std::move(parts));
}

double GaussianField::range() const { return m_parts->shape.range; }
double GaussianField::deviation() const { return m_parts->shape.deviation; }
double GaussianField::score() const { return m_parts->score; }
std::span<const double> GaussianField::leftOut() const { return m_parts->leftOut; }

void GaussianField::evaluate(const FieldPlaces& places, std::span<double> means, std::span<double> variances,
                             std::span<const double> thresholds, std::span<double> chances) const {
    const auto& p = *m_parts;
    const MatrixXd terms = driftOf(places, p.termDeviations), k = p.covariancesTo(p.shape, places, terms);
    const MatrixXd drawn = p.weights.transpose() * k; // a column a place
    // by the factor and not the inverse: the wide terms of the drift would leave few digits of that
    const MatrixXd known = p.factor.matrixL().solve(k);
    const double own = p.shape.deviation * p.shape.deviation + p.fineVariance();
    for (Index i = 0; i < k.cols(); ++i) {
        constexpr double kLeast = 1e-8; // m2
        const double variance = std::max(kLeast, own + terms.row(i).squaredNorm() - known.col(i).squaredNorm());
        const auto at = std::size_t(i);
        means[at] = drawn.col(i).mean();
        variances[at] = variance + (drawn.col(i).array() - means[at]).square().mean();
        if (thresholds.empty()) continue;
        double sum = 0;
        for (Index d = 0; d < drawn.rows(); ++d) sum += normalShare((drawn(d, i) - thresholds[at]) / std::sqrt(variance));
        chances[at] = sum / double(drawn.rows());
    }
}

// --- realisations

namespace {

/// A sum of waves with the Matern covariance of smoothness 3/2 in any number of dimensions: wave numbers of a multivariate t
/// distribution with three degrees of freedom.
class MaternWaves {
public:
    MaternWaves(Index dimensions, double range, double variance, Index waves, detail::Random& random)
        : m_numbers(waves, dimensions), m_size(std::sqrt(variance / double(waves))) {
        std::normal_distribution<double> normal;
        for (Index i = 0; i < waves; ++i) {
            double chi = 0;
            for (int k = 0; k < 3; ++k) chi += std::pow(normal(random), 2);
            for (Index k = 0; k < dimensions; ++k) m_numbers(i, k) = normal(random) * std::sqrt(3 / std::max(chi, 1e-12)) / range;
        }
    }
    Index terms() const { return 2 * m_numbers.rows(); }

    /// What each amplitude counts, a column a place.
    template <typename Coordinates>
    void termsAt(const Coordinates& places, Eigen::Ref<MatrixXd> out) const {
        const MatrixXd phase = m_numbers * places.transpose();
        out.topRows(phase.rows()) = m_size * phase.array().cos().matrix();
        out.bottomRows(phase.rows()) = m_size * phase.array().sin().matrix();
    }

private:
    MatrixXd m_numbers;
    double m_size;
};

constexpr Index kWaves = 256, kFineWaves = 48;
constexpr int kShapes = 6; // ranges and deviations that are drawn

} // namespace

struct FieldRealisations::Parts {
    /// The fields that share one range and deviation.
    struct Group {
        Shape shape;
        std::vector<int> fields;
        MaternWaves waves, fine;
        MatrixXd amplitudes, coefficients, weights; ///< a column a field
    };
    std::shared_ptr<const GaussianField::Parts> field;
    int count = 0;
    std::vector<Group> groups;

    MatrixXd unconditional(const Group& g, const FieldPlaces& places, const MatrixXd& terms) const {
        MatrixXd waves(g.amplitudes.rows(), Index(places.size()));
        const auto at = coordinatesOf(places);
        g.waves.termsAt(at, waves.topRows(g.waves.terms()));
        g.fine.termsAt(at, waves.bottomRows(g.fine.terms()));
        return g.amplitudes.transpose() * waves + g.coefficients.transpose() * terms.transpose(); // a row a field
    }
};

FieldRealisations::FieldRealisations(const GaussianField& field, int count, std::uint64_t seed, const Progress& progress) {
    auto parts = std::make_shared<Parts>();
    parts->field = field.m_parts;
    parts->count = count;
    const auto& f = *field.m_parts;
    detail::Random random(seed);
    std::normal_distribution<double> normal;
    std::vector<double> chances;
    for (const auto& s : f.tried) chances.push_back(std::exp(s.logPosterior - f.shape.logPosterior));
    std::discrete_distribution<std::size_t> drawn(chances.begin(), chances.end());
    FieldPlaces data{std::size_t(f.places.cols()),
                     std::size_t(f.drift.cols()),
                     std::vector<double>(f.places.data(), f.places.data() + f.places.size()),
                     {}};
    for (int g = 0; g < std::min(kShapes, count); ++g) {
        progress.check();
        const auto shape = f.tried[drawn(random)];
        const auto factor = f.covariance(shape).llt();
        if (factor.info() != Eigen::Success) throw Error("The equations of this surface have no solution.");
        Parts::Group group{shape,
                           {},
                           MaternWaves(f.places.cols(), shape.range, shape.deviation * shape.deviation, kWaves, random),
                           MaternWaves(f.places.cols(), f.fineRange(), f.fineVariance(), kFineWaves, random),
                           {},
                           {},
                           {}};
        for (int r = g; r < count; r += kShapes) group.fields.push_back(r);
        const auto fields = Index(group.fields.size());
        group.amplitudes =
            MatrixXd::NullaryExpr(group.waves.terms() + group.fine.terms(), fields, [&] { return normal(random); });
        group.coefficients = MatrixXd::NullaryExpr(f.drift.cols(), fields, [&] { return normal(random); });
        MatrixXd wanted = -parts->unconditional(group, data, f.drift).transpose();
        std::uniform_int_distribution<Index> state(0, f.draws.cols() - 1);
        for (Index k = 0; k < fields; ++k) wanted.col(k) += f.draws.col(state(random));
        for (std::size_t i = 0; i < f.settings.accuracies.size(); ++i) // what is known is the field with an error of its own
            for (Index k = 0; k < fields && f.limits[i].known() && f.settings.accuracies[i] > 0; ++k)
                wanted(Index(i), k) -= f.settings.accuracies[i] * normal(random);
        group.weights = factor.solve(wanted);
        parts->groups.push_back(std::move(group));
    }
    m_parts = std::move(parts);
}

int FieldRealisations::count() const { return m_parts->count; }

void FieldRealisations::evaluate(const FieldPlaces& places, std::span<double> values) const {
    const auto& p = *m_parts;
    const auto count = std::size_t(p.count);
    const MatrixXd terms = driftOf(places, p.field->termDeviations);
    for (const auto& g : p.groups) {
        const MatrixXd field =
            p.unconditional(g, places, terms) + g.weights.transpose() * p.field->covariancesTo(g.shape, places, terms);
        for (Index i = 0; i < field.cols(); ++i)
            for (std::size_t k = 0; k < g.fields.size(); ++k)
                values[std::size_t(i) * count + std::size_t(g.fields[k])] = field(Index(k), i);
    }
}

} // namespace fox
