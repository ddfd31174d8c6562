#include "model/ensemble.h"

#include "base/parallel.h"
#include "model/unit_top.h"

#include <fmt/format.h>
#include <numeric>
#include <random>

// Realisations of all bases, stacked. Each base is simulated by itself (surfaces/realisations.h) in the values that it is made
// from, for each block between faults, by its own kriging or, if its method has no variogram, by ordinary kriging of the same
// data. A base that is measured from others is measured from the same realisation of these. The seed follows from the unit, so
// that the same model gives the same realisations, on any number of threads.
namespace fox {

namespace {

/// Realisations of one base's values, a set for each block between faults.
class BaseRealisations {
public:
    BaseRealisations(const Unit& unit, const BaseSurface& base, const EnsembleSettings& ensemble, std::uint64_t seed,
                     const Progress& progress)
        : m_base(base), m_faults(base.in.faults), m_count(ensemble.count) {
        if (base.fixed || base.absentEverywhere) return;
        if (base.isAutomatic()) {
            m_automatic.emplace(*base.automatic, ensemble.count, seed, progress);
            return;
        }
        auto settings = unit.recipe.settings;
        settings.nugget = NuggetFit::Zero;
        settings.reach.reset();
        if (!hasVariogram(settings.method)) {
            settings.method = Method::Kriging;
            settings.variogram.reset();
            byOrdinaryKriging = true;
        } else {
            settings.variogram = base.fit.settings.variogram;
        }
        // the variogram is that of all points, assumed ones too: the few with the unit say little of how it varies
        if (!settings.variogram) settings.variogram = fitSurface(base.in.points, {}, settings).settings.variogram;
        // of a unit's own thickness: half of the realisations know no more of holes without it than that it is not there, half
        // take it to thin out as the model does; which of the two is right is part of what is not known
        const std::span all(base.in.points);
        const auto real = all.first(all.size() - base.in.assumed);
        auto bounds = base.in.bounds;
        for (const auto& p : all.subspan(real.size())) bounds.push_back({{p.x, p.y, 0}, Side::Upper, ""});
        const bool asModel = base.in.assumed > 0 || byOrdinaryKriging;
        const int asLimits = asModel ? (ensemble.count + 1) / 2 : ensemble.count;
        addSet(real, bounds, settings, asLimits, seed, progress);
        if (asLimits < ensemble.count) addSet(all, base.in.bounds, settings, ensemble.count - asLimits, seed + 500, progress);
        // kriging falls back to the mean between the contacts where a spline, say, bulges: half lie about the surface as it is
        if (byOrdinaryKriging && m_sets.size() > 1) m_sets.back().aboutTheSurface = true;
    }

    bool simulated() const { return m_automatic || (!m_sets.empty() && !m_sets.front().blocks.empty()); }
    bool byOrdinaryKriging = false;

    /// levels[i * count + r], with the references laid out the same way.
    void evaluate(std::span<const Point2> places, const ReferenceLevels& references, std::span<double> levels) const {
        const auto count = std::size_t(m_count);
        if (m_automatic) return m_automatic->evaluate(places, references, levels);
        const auto from = references.from;
        if (!simulated()) {
            std::vector<double> one(places.size()), at(places.size());
            for (std::size_t i = 0; i < places.size(); ++i) at[i] = from[i * count];
            m_base.evaluate(places, {at, at, {}}, one, {});
            for (std::size_t i = 0; i < places.size(); ++i)
                std::fill_n(levels.begin() + std::ptrdiff_t(i * count), count, one[i]);
            return;
        }
        std::map<unsigned, std::vector<std::size_t>> asked;
        for (std::size_t i = 0; i < places.size(); ++i) asked[blockOf(places[i])].push_back(i);
        for (const auto& [block, indices] : asked) {
            std::vector<Point2> some;
            for (const auto i : indices) some.push_back(places[i]);
            std::vector<char> absent; // by the same rule as in the model
            for (const auto& p : some) absent.push_back(m_base.isTakenAsAbsent(p));
            for (const auto& set : m_sets) {
                const auto n = set.realisations.size();
                std::vector<double> values(some.size() * n);
                const auto found = set.blocks.find(block);
                (found == set.blocks.end() ? *set.whole : found->second).evaluate(some, values);
                if (set.aboutTheSurface) moveToSurface(some, values);
                for (std::size_t k = 0; k < indices.size(); ++k)
                    for (std::size_t i = 0; i < n; ++i) {
                        const double value = absent[k] ? std::min(values[k * n + i], 0.0) : values[k * n + i];
                        const auto to = indices[k] * count + set.realisations[i];
                        levels[to] = m_base.in.levelOf(value, some[k], from[to]);
                    }
            }
        }
    }

private:
    /// Realisations that are made from the same data.
    struct Set {
        std::vector<std::size_t> realisations; ///< which of all
        std::map<unsigned, Realisations> blocks;
        std::optional<Realisations> whole;
        bool aboutTheSurface = false; ///< moved so that their mean is the surface of the method
    };
    void moveToSurface(std::span<const Point2> places, std::span<double> values) const {
        std::vector<double> own(places.size());
        m_base.fit.surface->evaluate(places, own, {});
        const auto n = values.size() / std::max<std::size_t>(1, places.size());
        for (std::size_t k = 0; k < places.size(); ++k) {
            const auto here = values.subspan(k * n, n);
            const double off = own[k] - std::accumulate(here.begin(), here.end(), 0.0) / double(n);
            if (std::isnan(off)) continue; // the method gives no value there
            for (auto& v : here) v += off;
        }
    }
    /// The next `count` of the order in which realisations are taken, from these data.
    void addSet(std::span<const Point3> data, const std::vector<Bound>& bounds, const SurfaceSettings& settings, int count,
                std::uint64_t seed, const Progress& progress) {
        if (m_order.empty()) { // one that has nothing to do with the order of another base
            m_order.resize(std::size_t(m_count));
            std::iota(m_order.begin(), m_order.end(), 0);
            std::mt19937_64 random(seed);
            std::ranges::shuffle(m_order, random);
        }
        auto& set = m_sets.emplace_back();
        const auto begin = m_order.begin() + std::ptrdiff_t(m_taken);
        set.realisations.assign(begin, begin + count);
        m_taken += std::size_t(count);
        std::map<unsigned, std::vector<Point3>> points;
        std::map<unsigned, std::vector<Bound>> limits;
        for (const auto& p : data) points[blockOf(p.plan())].push_back(p);
        for (const auto& b : bounds) limits[blockOf(b.place.plan())].push_back(b);
        for (const auto& [block, p] : points)
            set.blocks.emplace(block, Realisations(p, limits[block], settings, count, seed, progress));
        if (set.blocks.size() > 1 || !m_faults.empty()) // where a block has no hole, the whole is carried on
            set.whole.emplace(data, bounds, settings, count, seed, progress);
    }
    unsigned blockOf(Point2 p) const {
        unsigned block = 0;
        for (std::size_t f = 0; f < m_faults.size(); ++f)
            if (sideOf(m_faults[f], p).right) block |= 1U << f;
        return block;
    }

    const BaseSurface& m_base;
    std::vector<Fault> m_faults;
    int m_count;
    std::vector<Set> m_sets;
    std::vector<std::size_t> m_order;
    std::size_t m_taken = 0; ///< of the order
    std::optional<AutomaticRealisations> m_automatic;
};

constexpr double kThere = 0.05; // metres of a unit

class Simulator {
public:
    Simulator(const Model& model, const EnsembleSettings& settings, const Progress& progress)
        : m_model(model), m_count(std::size_t(settings.count)), m_rules(*model.sequence) {
        for (std::size_t u = 0; u < model.bases.size(); ++u) {
            progress.report(0.3 * double(u) / double(model.bases.size()),
                            fmt::format("{} realisations of the base of {}", settings.count, model.sequence->units[u].name));
            m_bases.push_back(std::make_unique<BaseRealisations>(model.sequence->units[u], *model.bases[u], settings,
                                                                 settings.seed * 1000 + u, progress));
        }
    }

    const BaseRealisations& base(std::size_t u) const { return *m_bases[u]; }

    /// bases[u][i * count + r] after the rules.
    std::vector<std::vector<double>> stacked(std::span<const Point2> places, std::span<const double> ground) const {
        const std::size_t n = places.size() * m_count;
        std::vector<double> repeated(n);
        for (std::size_t i = 0; i < places.size(); ++i)
            std::fill_n(repeated.begin() + std::ptrdiff_t(i * m_count), m_count, ground[i]);
        std::vector<std::vector<double>> bases(m_bases.size(), std::vector<double>(n, kNoValue));
        std::vector<bool> made(m_bases.size(), false);
        for (const auto u : m_model.order.units) {
            const auto& base = *m_model.bases[u];
            const auto other = base.measuredFromBase() ? m_model.sequence->index(base.in.against) : std::nullopt;
            auto from = other ? bases[*other] : repeated;
            UnitTop top(*m_model.sequence, u);
            for (std::size_t k = 0; base.measuredFromTop() && k < n; ++k)
                from[k] = top.at(repeated[k], [&](std::size_t younger) {
                    return made[younger] ? std::optional(bases[younger][k]) : std::nullopt;
                });
            made[u] = true;
            m_bases[u]->evaluate(
                places, {from, from, base.younger ? std::span<const double>(bases[*base.younger]) : std::span<const double>()},
                bases[u]);
        }
        std::vector<double> column(m_bases.size());
        for (std::size_t k = 0; k < n; ++k) {
            for (std::size_t u = 0; u < column.size(); ++u) column[u] = bases[u][k];
            m_rules.apply(places[k / m_count], repeated[k], column);
            for (std::size_t u = 0; u < column.size(); ++u) bases[u][k] = column[u];
        }
        return bases;
    }

private:
    const Model& m_model;
    std::size_t m_count;
    StackRules m_rules;
    std::vector<std::unique_ptr<BaseRealisations>> m_bases;
};

} // namespace

Range rangeOf(std::vector<double> values) {
    std::erase_if(values, [](double v) { return std::isnan(v); });
    std::ranges::sort(values);
    return {quantile(values, 0.1), quantile(values, 0.5), quantile(values, 0.9)};
}

std::optional<Finding> outsideRange(const std::string& unitCode, double volume, const Range& range) {
    if (range.contains(volume)) return {};
    return Finding{
        Severity::Warning,
        "FC-RANGE",
        "",
        0,
        "",
        "",
        "",
        fmt::format("The model's volume of {}, {:.0f} m³, lies outside the range of its realisations, {:.0f} to {:.0f} m³ "
                    "(P10 to P90): the surfaces and the realisations judge differently where the unit is present.",
                    unitCode, volume, range.p10, range.p90)};
}

Ensemble simulate(const Model& model, const Grid& ground, const EnsembleSettings& settings, const Area& area,
                  const Progress& progress, const Grid* above) {
    const Simulator simulator(model, settings, progress);
    const auto count = std::size_t(settings.count), units = model.bases.size();
    Ensemble out;
    out.count = settings.count;
    const Grid empty(ground.frame);
    for (std::size_t u = 0; u < units; ++u)
        out.units.push_back({empty, empty, empty, empty, empty, empty, empty, std::vector<double>(count, 0.0),
                             simulator.base(u).simulated(), simulator.base(u).byOrdinaryKriging});
    constexpr std::size_t kPiece = 512;
    const std::size_t pieces = (ground.values.size() + kPiece - 1) / kPiece;
    // volumes are summed piece by piece in their order, so that they do not depend on threads
    const bool countsOldest = above || !std::isnan(model.floor);
    const std::size_t counted = units + (countsOldest ? 1 : 0);
    std::vector<std::vector<double>> volumes(pieces, std::vector<double>(counted * count, 0.0));
    const auto columns = std::size_t(ground.frame.columns());
    const double cell = ground.frame.cell * ground.frame.cell;
    progress.report(0.3, "Stacking realisations");
    parallelFor(
        ground.values.size(), kPiece,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(ground.frame.centre(int(i % columns), int(i / columns)));
            const auto bases = simulator.stacked(places, std::span(ground.values).subspan(begin, end - begin));
            auto& sums = volumes[begin / kPiece];
            std::vector<double> levels, thicknesses;
            for (auto i = begin; i < end; ++i) {
                const double floor = above ? above->values[i] : -std::numeric_limits<double>::infinity();
                const bool inside = area.contains(places[i - begin]) && !std::isnan(floor);
                for (std::size_t u = 0; u < units; ++u) {
                    levels.clear(), thicknesses.clear();
                    std::size_t there = 0;
                    for (std::size_t r = 0; r < count; ++r) {
                        const auto k = (i - begin) * count + r;
                        const double top = u == 0 ? ground.values[i] : bases[u - 1][k], thickness = top - bases[u][k];
                        if (std::isnan(thickness)) continue;
                        levels.push_back(bases[u][k]);
                        thicknesses.push_back(thickness);
                        there += thickness > kThere;
                        if (inside) sums[u * count + r] += std::max(0.0, top - std::max(bases[u][k], floor)) * cell;
                    }
                    if (levels.empty()) continue;
                    const double bottom = std::fmax(floor, model.floor);
                    if (countsOldest && inside && u + 1 == units)
                        for (std::size_t r = 0; r < count; ++r)
                            if (const double top = bases[u][(i - begin) * count + r]; top > bottom)
                                sums[units * count + r] += (top - bottom) * cell;
                    std::ranges::sort(levels);
                    std::ranges::sort(thicknesses);
                    auto& unit = out.units[u];
                    unit.chance.values[i] = double(there) / double(levels.size());
                    unit.base10.values[i] = quantile(levels, 0.1), unit.base50.values[i] = quantile(levels, 0.5);
                    unit.base90.values[i] = quantile(levels, 0.9), unit.thick10.values[i] = quantile(thicknesses, 0.1);
                    unit.thick50.values[i] = quantile(thicknesses, 0.5), unit.thick90.values[i] = quantile(thicknesses, 0.9);
                }
            }
        },
        progress);
    for (const auto& piece : volumes)
        for (std::size_t u = 0; u < units; ++u)
            for (std::size_t r = 0; r < count; ++r) out.units[u].volumes[r] += piece[u * count + r];
    if (countsOldest) {
        out.oldestVolumes.assign(count, 0);
        for (const auto& piece : volumes)
            for (std::size_t r = 0; r < count; ++r) out.oldestVolumes[r] += piece[units * count + r];
    }
    return out;
}

struct ModelRealisations::Parts {
    Simulator simulator;
    int count = 0;
};

ModelRealisations::ModelRealisations(const Model& model, const EnsembleSettings& settings, const Progress& progress)
    : m_parts(std::make_shared<const Parts>(Parts{Simulator(model, settings, progress), settings.count})) {}

int ModelRealisations::count() const { return m_parts->count; }

std::vector<std::vector<double>> ModelRealisations::basesAt(std::span<const Point2> places,
                                                            std::span<const double> ground) const {
    return m_parts->simulator.stacked(places, ground);
}

std::vector<std::vector<double>> simulateAt(const Model& model, Point2 p, const EnsembleSettings& settings) {
    const Simulator simulator(model, settings, {});
    const double ground = model.terrain->levelAt(p).value_or(kNoValue);
    return simulator.stacked(std::span(&p, 1), std::span(&ground, 1));
}

} // namespace fox
