#include "blocks/block_simulation.h"

#include "blocks/block_estimator.h"
#include "blocks/block_variogram.h"

#include "base/errors.h"
#include "base/parallel.h"

#include <fmt/format.h>
#include <numbers>

namespace fox {

namespace {

/// Radial wave numbers of a spherical covariance with a range of 1: density (sin x - x cos x)^2 / x^4 of x, half the wave number,
/// by its table of sums.
class SphericalWaves {
public:
    SphericalWaves() {
        constexpr double kMost = 200; // half a per cent of the variance lies in shorter waves
        constexpr int kSteps = 40000;
        double sum = 0;
        for (int i = 0; i <= kSteps; ++i) {
            const double x = kMost * i / kSteps;
            const double half = x < 1e-3 ? x / 3 : (std::sin(x) - x * std::cos(x)) / (x * x);
            sum += half * half;
            m_sums.push_back(sum);
            m_numbers.push_back(2 * x);
        }
    }
    double operator()(double share) const { // 0 to 1
        const auto at = std::ranges::lower_bound(m_sums, share * m_sums.back()) - m_sums.begin();
        return m_numbers[std::size_t(at)];
    }

private:
    std::vector<double> m_sums, m_numbers;
};

/// Normal scores of values, and back.
class NormalScores {
public:
    explicit NormalScores(std::vector<double> values) : m_sorted(std::move(values)) {
        std::ranges::sort(m_sorted);
        const auto n = double(m_sorted.size());
        for (std::size_t i = 0; i < m_sorted.size(); ++i) m_scores.push_back(scoreOf((double(i) + 0.5) / n));
        // values that are one have one score, the middle of theirs
        for (std::size_t i = 0; i < m_sorted.size();) {
            std::size_t k = i;
            double sum = 0;
            while (k < m_sorted.size() && m_sorted[k] == m_sorted[i]) sum += m_scores[k++];
            std::fill(m_scores.begin() + std::ptrdiff_t(i), m_scores.begin() + std::ptrdiff_t(k), sum / double(k - i));
            i = k;
        }
    }
    bool hasSpread() const { return m_sorted.size() > 1 && m_sorted.front() < m_sorted.back(); }
    double of(double value) const { return between(m_sorted, m_scores, value); }
    double back(double score) const { return between(m_scores, m_sorted, score); }

private:
    static double between(const std::vector<double>& from, const std::vector<double>& to, double v) {
        const auto at = std::ranges::lower_bound(from, v) - from.begin();
        if (at == 0) return to.front();
        if (std::size_t(at) == from.size()) return to.back();
        const auto i = std::size_t(at);
        if (from[i] == from[i - 1]) return to[i];
        return to[i - 1] + (to[i] - to[i - 1]) * (v - from[i - 1]) / (from[i] - from[i - 1]);
    }
    /// The inverse of the normal distribution, by bisection of erfc.
    static double scoreOf(double share) {
        double low = -9, high = 9;
        for (int i = 0; i < 60; ++i) {
            const double middle = (low + high) / 2;
            (std::erfc(-middle / std::numbers::sqrt2) / 2 < share ? low : high) = middle;
        }
        return (low + high) / 2;
    }
    std::vector<double> m_sorted, m_scores;
};

/// The composites of a unit, or all of them, and the blocks that they speak of.
struct Domain {
    std::vector<Composite> composites;
    std::vector<std::size_t> blocks; ///< places among the known ones
};

/// Realisations of the blocks of one domain.
class DomainDraws {
public:
    DomainDraws(const BlockModel& model, const std::vector<std::size_t>& known, const Domain& domain, std::uint64_t seed)
        : m_model(model), m_known(known), m_blocks(domain.blocks), m_seed(seed), m_scores(valuesOf(domain)) {
        if (!hasSpread()) return;
        m_kriging = model.spec; // of scores, whatever the model's own method is
        m_kriging.method = BlockSpec::Method::Kriging, m_kriging.logarithmic = false;
        m_kriging.radius = m_kriging.verticalRadius = 0, m_kriging.perHole = 0, m_kriging.variogram.reset();
        if (m_kriging.neighbours == 0) m_kriging.neighbours = kMostInKriging;
        auto scored = domain.composites;
        Box2 box;
        for (auto& c : scored) {
            c.value = m_scores.of(c.value);
            m_places.push_back(c.place), m_data.push_back(c.value);
            box.include(c.place.plan());
        }
        m_variogram = fitBlockVariogram(m_kriging, scored).variogram;
        m_longest = std::max({box.width(), box.height(), 1.0});
    }

    bool hasSpread() const { return m_scores.hasSpread(); } ///< without it nothing can be drawn
    /// values[known block * count + realisation]
    void draw(std::size_t count, std::vector<float>& values, const Progress& progress) const {
        const BlockEstimator estimator(m_kriging, {m_places, m_data}, m_variogram);
        std::vector<double> kriged(m_blocks.size());
        parallelFor(
            m_blocks.size(), 256,
            [&](std::size_t begin, std::size_t end) {
                for (auto i = begin; i < end; ++i) kriged[i] = estimator.at(centre(i)).value;
            },
            progress);
        parallelFor(
            count, 1,
            [&](std::size_t begin, std::size_t end) {
                for (auto r = begin; r < end; ++r) drawOne(r, count, kriged, values, progress);
            },
            progress);
    }

private:
    static std::vector<double> valuesOf(const Domain& domain) {
        std::vector<double> out;
        for (const auto& c : domain.composites) out.push_back(c.value);
        return out;
    }
    Point3 centre(std::size_t i) const { return m_model.centre(m_known[m_blocks[i]]); }
    Point3 stretched(Point3 p) const { return {p.x, p.y, p.z * m_kriging.vertical}; }

    void drawOne(std::size_t r, std::size_t count, const std::vector<double>& kriged, std::vector<float>& values,
                 const Progress& progress) const {
        const auto seed = m_seed + r * 7919u;
        const WaveField field(m_variogram, m_longest, seed);
        std::mt19937_64 random(seed ^ 0x9E3779B97F4A7C15u);
        std::normal_distribution<double> normal;
        const double deviation = std::sqrt(m_variogram.nugget);
        const auto fieldAt = [&](const Point3& p) { return field.at(stretched(p)) + deviation * normal(random); };
        std::vector<double> drawn;
        for (const auto& p : m_places) drawn.push_back(fieldAt(p));
        const BlockEstimator ofDrawn(m_kriging, {m_places, drawn}, m_variogram);
        for (std::size_t i = 0; i < m_blocks.size(); ++i) {
            if (i % 256 == 0) progress.check();
            const auto at = centre(i);
            // exactly a composite's place: its own value, without the noise of another place
            const auto known = ofDrawn.at(at);
            const double difference = known.variance == 0 ? 0 : fieldAt(at) - known.value;
            values[m_blocks[i] * count + r] = float(m_scores.back(kriged[i] + difference));
        }
    }

    const BlockModel& m_model;
    const std::vector<std::size_t>& m_known;
    const std::vector<std::size_t>& m_blocks;
    std::uint64_t m_seed;
    NormalScores m_scores;
    BlockSpec m_kriging;
    std::vector<Point3> m_places;
    std::vector<double> m_data;
    Variogram m_variogram;
    double m_longest = 1;
};

} // namespace

WaveField::WaveField(const Variogram& v, double longest, std::uint64_t seed, int waves) {
    static const SphericalWaves kSpherical;
    std::mt19937_64 random(seed);
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> share(0, 1);
    const bool isLinear = v.model == VariogramModel::Linear;
    const double sill = isLinear ? v.partialSill * longest / v.range : v.partialSill, range = isLinear ? longest : v.range;
    m_amplitude = std::sqrt(2 * sill / waves);
    for (int i = 0; i < waves; ++i) {
        double x = normal(random), y = normal(random), z = normal(random);
        const double length = std::sqrt(x * x + y * y + z * z);
        double scale = 1;
        if (v.model == VariogramModel::Exponential)
            scale = 3 / range / std::max(1e-9, std::abs(normal(random)));
        else if (v.model == VariogramModel::Gaussian)
            scale = std::sqrt(6.0) / range;
        else
            scale = kSpherical(share(random)) / range / std::max(length, 1e-12);
        m_waves.push_back({x * scale, y * scale, z * scale, 2 * std::numbers::pi * share(random)});
    }
}

double WaveField::at(const Point3& p) const {
    double sum = 0;
    for (const auto& w : m_waves) sum += std::cos(w.x * p.x + w.y * p.y + w.z * p.z + w.phase);
    return m_amplitude * sum;
}

BlockSimulation::BlockSimulation(std::shared_ptr<const BlockModel> model, const Composites& composites, int count,
                                 std::uint64_t seed, const Progress& progress)
    : m_model(std::move(model)), m_count(count) {
    m_place.assign(m_model->blocks(), -1);
    for (std::size_t b = 0; b < m_model->blocks(); ++b)
        if (!std::isnan(m_model->value[b])) m_place[b] = std::int32_t(m_known.size()), m_known.push_back(b);
    if (double(m_known.size()) * count > kMostSimulated)
        throw Error(
            fmt::format("{} blocks in {} realisations are too many to simulate; larger blocks, or fewer realisations, are fewer "
                        "than {:.0f} million.",
                        m_known.size(), count, kMostSimulated / 1e6));
    const auto& spec = m_model->spec;
    std::map<std::int16_t, Domain> domains; // by unit, if each is by itself
    const auto domainOf = [&](std::int16_t unit) -> Domain& { return domains[spec.within ? unit : std::int16_t(-1)]; };
    for (const auto& c : composites.values) domainOf(c.unit ? std::int16_t(*c.unit) : std::int16_t(-1)).composites.push_back(c);
    for (std::size_t k = 0; k < m_known.size(); ++k) domainOf(m_model->unit[m_known[k]]).blocks.push_back(k);

    m_values.assign(m_known.size() * std::size_t(count), float(kNoValue));
    bool some = m_known.empty();
    for (const auto& one : domains) {
        if (one.second.blocks.empty()) continue;
        const DomainDraws draws(*m_model, m_known, one.second, seed * 1000003u + std::uint64_t(one.first + 1) * 104729u);
        if (draws.hasSpread()) {
            draws.draw(std::size_t(count), m_values, progress);
            some = true;
            continue;
        }
        for (const auto k : one.second.blocks) // a unit with one value has that one
            std::fill_n(m_values.begin() + std::ptrdiff_t(k * std::size_t(count)), count, float(m_model->value[m_known[k]]));
    }
    if (!some) throw Error("There are not two different values to simulate from.");
}

std::vector<double> BlockSimulation::probability(const ValueLimits& limits) const {
    std::vector<double> out(m_model->blocks(), kNoValue);
    for (std::size_t k = 0; k < m_known.size(); ++k) {
        int n = 0;
        for (int r = 0; r < m_count; ++r) {
            const double v = double(m_values[k * std::size_t(m_count) + std::size_t(r)]);
            n += limits.hold(v);
        }
        out[m_known[k]] = double(n) / m_count;
    }
    return out;
}

Range BlockSimulation::volume(const ValueLimits& limits) const {
    std::vector<double> volumes(std::size_t(m_count), 0);
    for (std::size_t k = 0; k < m_known.size(); ++k)
        for (std::size_t r = 0; r < volumes.size(); ++r) {
            const double v = double(m_values[k * volumes.size() + r]);
            if (limits.hold(v)) volumes[r] += m_model->blockVolume();
        }
    return rangeOf(std::move(volumes));
}

double BlockSimulation::value(std::size_t block, int realisation) const {
    const auto k = m_place[block];
    return k < 0 ? kNoValue : double(m_values[std::size_t(k) * std::size_t(m_count) + std::size_t(realisation)]);
}

} // namespace fox
