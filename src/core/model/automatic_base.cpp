#include "model/automatic_base.h"

#include "base/errors.h"
#include "base/parallel.h"

#include <numeric>
#include <random>

// The averaging and what it is for: Hoeting and others, Bayesian model averaging (1999). Kriging with inequalities and external
// drift: Chiles and Delfiner, Geostatistics (2012), ch. 3 and 5. Where a unit is and how thick it is there as two fields: the
// two-part ("hurdle") models of Cragg (1971).
namespace fox {

const char* name(BaseConcept c) {
    switch (c) {
    case BaseConcept::Level: return "level";
    case BaseConcept::Depth: return "depth";
    case BaseConcept::UnderYounger: return "under-younger";
    case BaseConcept::UnderTop: return "thickness";
    case BaseConcept::PresenceDepth: return "presence-depth";
    case BaseConcept::PresenceThickness: return "presence-thickness";
    }
    return "";
}

const char* words(BaseConcept c) {
    switch (c) {
    case BaseConcept::Level: return "level about a plane";
    case BaseConcept::Depth: return "depth below the smoothed ground";
    case BaseConcept::UnderYounger: return "distance below the next younger base";
    case BaseConcept::UnderTop: return "thickness, by the height over the low ground";
    case BaseConcept::PresenceDepth: return "presence by the ground, and depth there";
    case BaseConcept::PresenceThickness: return "presence by the ground, and thickness there";
    }
    return "";
}

bool AutomaticInputs::Datum::operator==(const Datum& o) const {
    const auto same = [](double a, double b) { return a == b || (std::isnan(a) && std::isnan(b)); };
    return place == o.place && low == o.low && high == o.high && accuracy == o.accuracy && hereOnly == o.hereOnly
           && same(top, o.top) && same(younger, o.younger);
}

namespace {

constexpr double kThinnest = 0.05;                                  // metres; a unit that is there is not thinner
constexpr double kLeastWeight = 0.02;                               // concepts that count for less are left out
constexpr double kFlatten = 0.3;                                    // of the sum of left-out densities' logarithms
constexpr double kWide = 60, kPlane = 20, kThrow = 20, kHeight = 3; // prior deviations, metres

bool isTwoPart(BaseConcept c) { return c == BaseConcept::PresenceDepth || c == BaseConcept::PresenceThickness; }

/// Rises from 0 at 0 to 1 at 1 without a corner at either end.
double smoothStep(double t) {
    t = std::clamp(t, 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

/// How places look to the fields of one base.
class Plan {
public:
    explicit Plan(const AutomaticInputs& in)
        : m_in(in),
          m_centre(in.extent.empty() ? Point2{} : in.extent.centre()),
          m_size(in.extent.empty() ? 1 : std::max(1.0, std::sqrt(in.extent.width() * in.extent.height()))) {}

    FieldPlaces places(std::span<const Point2> all) const {
        FieldPlaces out;
        out.dimensions = 2 + m_in.faults.size();
        const double angle = m_in.anisotropy.azimuth * std::acos(-1.0) / 180, ratio = m_in.anisotropy.ratio;
        for (const auto& p : all) {
            const double x = p.x - m_centre.x, y = p.y - m_centre.y;
            const double along = x * std::sin(angle) + y * std::cos(angle), across = x * std::cos(angle) - y * std::sin(angle);
            out.coordinates.push_back(ratio > 1 ? along : x);
            out.coordinates.push_back(ratio > 1 ? across * ratio : y);
            // what a fault parts lies far off, and comes together again round its ends
            for (const auto& f : m_in.faults) out.coordinates.push_back(parted(f, p) * kFar * m_size);
        }
        return out;
    }

    /// Of the values of a concept; the first term is the mean.
    std::vector<double> valueDeviations(BaseConcept c) const {
        std::vector<double> out{kWide};
        out.insert(out.end(), m_in.faults.size(), kThrow);
        if (c == BaseConcept::Level) out.insert(out.end(), 2, kPlane);
        if (c == BaseConcept::UnderTop) out.push_back(kHeight);
        return out;
    }
    void addValueTerms(FieldPlaces& to, BaseConcept c, std::span<const Point2> all) const {
        to.terms = valueDeviations(c).size();
        for (const auto& p : all) {
            to.drift.push_back(1);
            for (const auto& f : m_in.faults) to.drift.push_back(parted(f, p));
            if (c == BaseConcept::Level) {
                to.drift.push_back((p.x - m_centre.x) / m_size);
                to.drift.push_back((p.y - m_centre.y) / m_size);
            }
            if (c == BaseConcept::UnderTop) to.drift.push_back(m_in.shape->heightRank(p));
        }
    }

    static std::vector<double> presenceDeviations() { return {1.5, 1, 0.7, 0.7}; }
    void addPresenceTerms(FieldPlaces& to, std::span<const Point2> all) const {
        to.terms = presenceDeviations().size();
        for (const auto& p : all)
            for (const double v : {1.0, m_in.shape->heightRank(p), m_in.shape->broadRank(p), m_in.shape->reliefRank(p)})
                to.drift.push_back(v);
    }

    /// The level that a concept's values are measured down from.
    double reference(BaseConcept c, Point2 p, double top, double younger) const {
        switch (c) {
        case BaseConcept::Level: return 0;
        case BaseConcept::Depth:
        case BaseConcept::PresenceDepth: return m_in.shape->smooth(p);
        case BaseConcept::UnderYounger: return younger;
        case BaseConcept::UnderTop:
        case BaseConcept::PresenceThickness: return top;
        }
        return kNoValue;
    }

private:
    static constexpr double kFar = 20; // sizes of the site
    /// From -1 on the left of a fault to 1 on its right.
    static double parted(const Fault& f, Point2 p) {
        const auto side = sideOf(f, p);
        return side.right ? side.share : -side.share;
    }

    const AutomaticInputs& m_in;
    Point2 m_centre;
    double m_size;
};

} // namespace

struct AutomaticBase::Fitted {
    struct Concept {
        BaseConcept kind = BaseConcept::Level;
        std::optional<GaussianField> values, presence;
        std::vector<std::size_t> data; ///< of the inputs, in the order of the values' field
        double mean = 0, score = 0, weight = 0;
    };
    AutomaticInputs in;
    Plan plan{in};
    std::vector<Concept> concepts; ///< the heaviest first

    explicit Fitted(AutomaticInputs inputs) : in(std::move(inputs)) {}

    /// What data say of a concept's values, before their mean is taken off.
    struct ValueData {
        std::vector<std::size_t> data; ///< of the inputs
        std::vector<Point2> places;
        std::vector<FieldLimits> limits;
        std::vector<double> accuracies; ///< empty: all are exact
    };
    static bool isThere(const AutomaticInputs::Datum& d) { return std::isfinite(d.high); }

    /// None if a contact has nothing to be measured from.
    std::optional<ValueData> valuesOf(BaseConcept kind) const {
        ValueData out;
        for (std::size_t i = 0; i < in.data.size(); ++i) {
            const auto& d = in.data[i];
            if (d.hereOnly || (isTwoPart(kind) && !isThere(d))) continue;
            const double from = plan.reference(kind, d.place, d.top, d.younger);
            if (std::isnan(from) && d.low == d.high) return {};
            if (std::isnan(from)) continue;
            out.places.push_back(d.place), out.data.push_back(i);
            out.limits.push_back({from - d.high, from - d.low});
            out.accuracies.push_back(d.accuracy);
        }
        if (std::ranges::all_of(out.accuracies, [](double a) { return a == 0; })) out.accuracies.clear();
        return out;
    }

    static double meanOf(const std::vector<FieldLimits>& limits) {
        double sum = 0;
        std::size_t known = 0;
        for (const auto& l : limits)
            if (l.known()) sum += l.low, ++known;
        if (known == 0)
            for (const auto& l : limits)
                if (const double v = std::isfinite(l.low) ? l.low : l.high; std::isfinite(v)) sum += v, ++known;
        return known > 0 ? sum / double(known) : 0;
    }

    GaussianField presenceField(FieldSettings settings, const Progress& progress) const {
        constexpr double kInfinite = std::numeric_limits<double>::infinity();
        std::vector<Point2> places;
        std::vector<FieldLimits> limits;
        for (const auto& d : in.data) {
            if (d.hereOnly) continue;
            places.push_back(d.place);
            limits.push_back(isThere(d) ? FieldLimits{0, kInfinite} : FieldLimits{-kInfinite, 0});
        }
        settings.termDeviations = Plan::presenceDeviations();
        settings.leastDeviation = settings.mostDeviation = 1.5, settings.deviations = 1; // of a probit field
        settings.fineDeviation = 0.3;
        settings.typicalRange = std::exp(0.5);
        settings.accuracies.clear();
        settings.seed += 100;
        auto at = plan.places(places);
        plan.addPresenceTerms(at, places);
        return GaussianField(at, limits, settings, progress);
    }

    /// None if a contact has nothing to be measured from.
    std::optional<Concept> fit(BaseConcept kind, const Progress& progress) const {
        auto values = valuesOf(kind);
        if (!values || values->limits.empty()) return {};
        Concept out;
        out.kind = kind;
        out.data = std::move(values->data);
        out.mean = meanOf(values->limits);
        for (auto& l : values->limits) l.low -= out.mean, l.high -= out.mean;
        FieldSettings settings;
        settings.spacing = in.spacing;
        settings.accuracies = std::move(values->accuracies);
        settings.termDeviations = plan.valueDeviations(kind);
        settings.seed = 1000 + std::uint64_t(kind);
        auto at = plan.places(values->places);
        plan.addValueTerms(at, kind, values->places);
        out.values.emplace(at, values->limits, settings, progress);
        out.score = out.values->score();
        if (isTwoPart(kind)) {
            out.presence.emplace(presenceField(settings, progress));
            out.score += out.presence->score();
        }
        return out;
    }

    /// A concept fitted to other inputs, with the levels of these; none if its data are others.
    std::optional<Concept> held(const Concept& like) const {
        auto values = valuesOf(like.kind);
        if (!values || values->data != like.data) return {};
        for (auto& l : values->limits) l.low -= like.mean, l.high -= like.mean;
        auto out = like;
        out.values.emplace(like.values->withLimits(values->limits));
        return out;
    }

    void average(std::vector<std::optional<Concept>>& tried) {
        for (auto& c : tried)
            if (c) concepts.push_back(std::move(*c));
        if (concepts.empty())
            throw Error("This base can't be made: what it would be measured from has no level at its contacts.");
        const auto weigh = [&] {
            const double best = std::ranges::max_element(concepts, {}, &Concept::score)->score;
            double sum = 0;
            for (auto& c : concepts) sum += c.weight = std::exp(kFlatten * (c.score - best));
            for (auto& c : concepts) c.weight /= sum;
        };
        weigh();
        std::erase_if(concepts, [](const Concept& c) { return c.weight < kLeastWeight; });
        weigh();
        std::ranges::stable_sort(concepts, std::ranges::greater(), &Concept::weight);
    }

    /// A block of places; see AutomaticBase::evaluate().
    void evaluate(std::span<const Point2> places, const ReferenceLevels& from, std::span<double> levels,
                  std::span<double> variances, std::span<double> chances) const;
    double leftOut(std::size_t datum) const;
    /// The limit at a place that holds there only, a lower one; none at others.
    std::optional<double> limitHere(Point2 p) const {
        constexpr double kHere = 0.1; // metres
        for (const auto& d : in.data)
            if (d.hereOnly && distance(d.place, p) < kHere) return d.low;
        return {};
    }
};

void AutomaticBase::Fitted::evaluate(std::span<const Point2> places, const ReferenceLevels& from, std::span<double> levels,
                                     std::span<double> variances, std::span<double> chances) const {
    const auto n = places.size();
    struct Sum {
        double weight = 0, level = 0, squares = 0, chance = 0, below = 0; ///< `below`: of chance times the level given that it is
    };
    std::vector<Sum> sums(n);
    std::vector<double> references(n), means(n), spreads(n), thresholds(n), present(n), unused(n);
    for (const auto& c : concepts) {
        for (std::size_t i = 0; i < n; ++i) {
            references[i] = plan.reference(c.kind, places[i], from.top[i], from.younger.empty() ? kNoValue : from.younger[i]);
            thresholds[i] = c.presence ? 0 : references[i] - c.mean - from.top[i];
        }
        auto at = plan.places(places);
        if (c.presence) {
            plan.addPresenceTerms(at, places);
            c.presence->evaluate(at, means, unused, thresholds, present);
            at.drift.clear();
        }
        plan.addValueTerms(at, c.kind, places);
        if (c.presence)
            c.values->evaluate(at, means, spreads);
        else
            c.values->evaluate(at, means, spreads, thresholds, present);
        for (std::size_t i = 0; i < n; ++i) {
            if (std::isnan(references[i]) || std::isnan(from.top[i])) continue;
            const double top = from.top[i], level = references[i] - c.mean - means[i];
            double mean = level, below = std::min(level, top - kThinnest);
            if (c.presence) {
                mean = present[i] > 0.5 ? below : std::max(level, top);
            } else {
                const double s = std::sqrt(spreads[i]);
                below = level - s * normalDensityOverShare((top - level) / s);
            }
            auto& sum = sums[i];
            sum.weight += c.weight, sum.level += c.weight * mean, sum.chance += c.weight * present[i];
            sum.squares += c.weight * (spreads[i] + mean * mean), sum.below += c.weight * present[i] * below;
        }
    }
    for (std::size_t i = 0; i < n; ++i) {
        const auto& s = sums[i];
        const bool isKnown = s.weight > 0;
        const double mean = s.level / s.weight, chance = s.chance / s.weight, top = from.top[i];
        if (!variances.empty()) variances[i] = isKnown ? std::max(0.0, s.squares / s.weight - mean * mean) : kNoValue;
        if (!chances.empty()) chances[i] = isKnown ? chance : kNoValue;
        if (!isKnown) {
            levels[i] = kNoValue;
        } else if (in.underLapping) {
            levels[i] = mean;
        } else if (chance > 0.5) {
            // it thins out towards the line of its presence: no step in a section
            constexpr double kFull = 0.7; // the chance from which it has its whole thickness
            const double thickness = std::max(0.0, top - s.below / s.chance);
            levels[i] = top - thickness * smoothStep((chance - 0.5) / (kFull - 0.5));
        } else {
            levels[i] = std::max(mean, top);
        }
        if (const auto limit = limitHere(places[i]); limit && isKnown) {
            levels[i] = std::max(levels[i], *limit);
            if (!chances.empty()) chances[i] = 0;
        }
    }
}

/// The level that the other data give, less its own.
double AutomaticBase::Fitted::leftOut(std::size_t datum) const {
    double sum = 0, weights = 0;
    for (const auto& c : concepts) {
        const auto at = std::ranges::find(c.data, datum);
        if (at == c.data.end()) continue;
        const auto& d = in.data[datum];
        const double from = plan.reference(c.kind, d.place, d.top, d.younger);
        const double told = from - c.mean - c.values->leftOut()[std::size_t(at - c.data.begin())];
        sum += c.weight * (told - d.low), weights += c.weight;
    }
    return weights > 0 ? sum / weights : kNoValue;
}

AutomaticBase::AutomaticBase(AutomaticInputs inputs, const Progress& progress) {
    auto fitted = std::make_shared<Fitted>(std::move(inputs));
    std::vector<std::optional<Fitted::Concept>> tried(fitted->in.concepts.size());
    parallelFor(
        tried.size(), 1,
        [&](std::size_t begin, std::size_t end) {
            for (auto i = begin; i < end; ++i) tried[i] = fitted->fit(fitted->in.concepts[i], progress.silent());
        },
        progress);
    fitted->average(tried);
    m_fitted = std::move(fitted);
}

std::optional<AutomaticBase> AutomaticBase::held(const AutomaticInputs& now) const {
    const auto& was = m_fitted->in;
    auto levels = was; // with what may differ taken over
    if (levels.data.size() != now.data.size()) return {};
    for (std::size_t i = 0; i < now.data.size(); ++i) {
        auto& a = levels.data[i];
        const auto& b = now.data[i];
        if ((a.low == a.high) != (b.low == b.high) || Fitted::isThere(a) != Fitted::isThere(b)) return {};
        a.low = b.low, a.high = b.high, a.top = b.top, a.younger = b.younger;
    }
    if (levels != now) return {};
    auto fitted = std::make_shared<Fitted>(now);
    for (const auto& c : m_fitted->concepts) {
        auto held = fitted->held(c);
        if (!held) return {};
        fitted->concepts.push_back(std::move(*held));
    }
    return AutomaticBase(std::shared_ptr<const Fitted>(std::move(fitted)));
}

const AutomaticInputs& AutomaticBase::inputs() const { return m_fitted->in; }

std::vector<AutomaticBase::Part> AutomaticBase::parts() const {
    std::vector<Part> out;
    for (const auto& c : m_fitted->concepts) out.push_back({c.kind, c.weight, c.values->range(), c.values->deviation()});
    return out;
}

void AutomaticBase::evaluate(std::span<const Point2> places, const ReferenceLevels& from, std::span<double> levels,
                             std::span<double> variances, std::span<double> chances) const {
    constexpr std::size_t kBlock = 256; // of places: their covariances stay in the cache
    const auto some = [](auto span, std::size_t begin, std::size_t n) { return span.empty() ? span : span.subspan(begin, n); };
    for (std::size_t begin = 0; begin < places.size(); begin += kBlock) {
        const auto n = std::min(kBlock, places.size() - begin);
        m_fitted->evaluate(places.subspan(begin, n), {{}, some(from.top, begin, n), some(from.younger, begin, n)},
                           levels.subspan(begin, n), some(variances, begin, n), some(chances, begin, n));
    }
}

std::vector<double> AutomaticBase::leaveOneOut() const {
    std::vector<double> out;
    for (const auto datum : m_fitted->in.contacts) out.push_back(m_fitted->leftOut(datum));
    return out;
}

double AutomaticBase::farDeviation() const {
    double variance = 0;
    for (const auto& c : m_fitted->concepts) variance += c.weight * c.values->deviation() * c.values->deviation();
    return std::sqrt(variance);
}

std::size_t AutomaticBase::bytes() const {
    std::size_t bytes = sizeof(Fitted);
    constexpr std::size_t kMatrices = 3; // between the data of a field
    for (const auto& c : m_fitted->concepts)
        bytes += (c.presence ? 2 : 1) * kMatrices * m_fitted->in.data.size() * m_fitted->in.data.size() * sizeof(double);
    return bytes;
}

// --- realisations

struct AutomaticRealisations::Parts {
    struct Share {
        const AutomaticBase::Fitted::Concept* of = nullptr;
        std::vector<std::size_t> realisations;
        std::optional<FieldRealisations> values, presence;
    };
    std::shared_ptr<const AutomaticBase::Fitted> base;
    std::size_t count = 0;
    std::vector<Share> shares;
};

AutomaticRealisations::AutomaticRealisations(const AutomaticBase& base, int count, std::uint64_t seed, const Progress& progress) {
    auto parts = std::make_shared<Parts>();
    parts->base = base.m_fitted;
    parts->count = std::size_t(count);
    std::vector<double> weights;
    for (const auto& c : base.m_fitted->concepts) weights.push_back(c.weight), parts->shares.push_back({&c, {}, {}, {}});
    // evenly by weight, in an order that has nothing to do with the realisation of another base
    std::vector<std::size_t> drawn;
    double sum = 0;
    for (std::size_t k = 0; k < weights.size(); ++k) {
        sum += weights[k];
        while (double(drawn.size()) + 0.5 < sum * count && drawn.size() < parts->count) drawn.push_back(k);
    }
    drawn.resize(parts->count, weights.size() - 1);
    std::mt19937_64 random(seed);
    std::ranges::shuffle(drawn, random);
    for (std::size_t r = 0; r < drawn.size(); ++r) parts->shares[drawn[r]].realisations.push_back(r);
    std::erase_if(parts->shares, [](const auto& s) { return s.realisations.empty(); });
    for (std::size_t k = 0; k < parts->shares.size(); ++k) {
        auto& s = parts->shares[k];
        const int n = int(s.realisations.size());
        s.values.emplace(*s.of->values, n, seed * 64 + 2 * k, progress);
        if (s.of->presence) s.presence.emplace(*s.of->presence, n, seed * 64 + 2 * k + 1, progress);
    }
    m_parts = std::move(parts);
}

void AutomaticRealisations::evaluate(std::span<const Point2> places, const ReferenceLevels& from,
                                     std::span<double> levels) const {
    const auto& p = *m_parts;
    const auto& plan = p.base->plan;
    for (const auto& s : p.shares) {
        const auto n = s.realisations.size();
        std::vector<double> values(places.size() * n), present;
        auto at = plan.places(places);
        if (s.presence) {
            plan.addPresenceTerms(at, places);
            present.resize(values.size());
            s.presence->evaluate(at, present);
            at.drift.clear();
        }
        plan.addValueTerms(at, s.of->kind, places);
        s.values->evaluate(at, values);
        for (std::size_t i = 0; i < places.size(); ++i) {
            const auto limit = p.base->limitHere(places[i]);
            for (std::size_t k = 0; k < n; ++k) {
                const auto to = i * p.count + s.realisations[k];
                const double top = from.top[to];
                const double reference =
                    plan.reference(s.of->kind, places[i], top, from.younger.empty() ? kNoValue : from.younger[to]);
                const double level = reference - s.of->mean - values[i * n + k];
                levels[to] = present.empty() ? level : present[i * n + k] > 0 ? std::min(level, top - kThinnest) : top;
                if (limit) levels[to] = std::max(levels[to], *limit);
            }
        }
    }
}

} // namespace fox
