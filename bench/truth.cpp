// The demo site's model against the formulas that its files were made from.
#include "truth.h"
#include "bench.h"
#include "handover/build_file.h"
#include "model/ensemble.h"
#include "products/products.h"
#include "project/edits.h"
#include "project/remedies.h"
#include "project/sequence_edits.h"
#include "sequence/proposal.h"

namespace fox::bench {

namespace {

/// What one unit's surface is worth.
struct Score {
    double levels = 0, thickness = 0; ///< sums of squared errors
    int where = 0;                    ///< places that have the unit in truth
    double levelsWhere = 0;           ///< squared errors of the base at those
    int right = 0;                    ///< places with presence right
    double volume = 0, trueVolume = 0;
};

constexpr double kThere = 0.05; // metres of a unit: less is not told from none

/// The formulas part the till in two everywhere; a log tells them apart only where the sand lies between.
auto readAsLogged(std::array<double, quernbeck::kUnits - 1> b) {
    if (b[quernbeck::TU] - b[quernbeck::SL] <= kThere) b[quernbeck::TU] = b[quernbeck::SL] = b[quernbeck::RG];
    return b;
}

/// What a user does before modelling: takes each remedy that a finding offers without asking anything.
Project mended(Project p) {
    for (;;) {
        const auto set = Products().of(p);
        const auto offered = std::ranges::find_if(*set->findings, [](const Finding& f) {
            return f.remedy
                   && (std::holds_alternative<MergeCode>(f.remedy->action)
                       || std::holds_alternative<SetGroundLevel>(f.remedy->action));
        });
        if (offered == set->findings->end()) return p;
        p = apply(p, *offered->remedy).project;
    }
}

/// And then takes what the program proposes of intervals that could be several units.
Project interpreted(const Project& p) {
    const auto proposal = proposeReading(*p.holes, *p.sequence, *p.interpretation);
    std::vector<IntervalChoice> choices;
    for (const auto& r : proposal.readings) choices.push_back(r.choice);
    return setIntervals(p, choices, "As proposed").project;
}

/// Only holes that show a base speak of it.
Project contactsAlone(Project p) {
    auto sequence = *p.sequence;
    for (auto& u : sequence.units) u.recipe.bounds = false;
    p.sequence = part(sequence);
    return p;
}

/// All bases by one method, with no anisotropy.
Project by(Project p, BaseMethod method) {
    auto sequence = *p.sequence;
    for (auto& u : sequence.units) {
        u.recipe = {};
        setMethod(u.recipe, method);
    }
    p.sequence = part(sequence);
    return p;
}

void print(const ProductSet& set, const char* title) {
    constexpr double kStep = 10;
    std::array<Score, quernbeck::kUnits> scores{};
    double ground = 0;
    int n = 0;
    for (double e = quernbeck::kWest + kStep / 2; e < quernbeck::kEast; e += kStep)
        for (double north = quernbeck::kSouth + kStep / 2; north < quernbeck::kNorth; north += kStep) {
            const auto c = set.model->columnAt({e, north});
            if (std::isnan(c.ground)) continue;
            const auto b = readAsLogged(quernbeck::bases(e, north));
            double top = quernbeck::ground(e, north);
            ground += std::pow(c.ground - top, 2);
            for (std::size_t u = 0; u < b.size(); ++u) {
                auto& s = scores[u];
                const double truly = top - b[u], modelled = c.top(u) - c.bases[u];
                s.levels += std::pow(c.bases[u] - b[u], 2);
                s.thickness += std::pow(modelled - truly, 2);
                if (truly > kThere) ++s.where, s.levelsWhere += std::pow(c.bases[u] - b[u], 2);
                s.right += (truly > kThere) == (modelled > kThere);
                s.volume += modelled * kStep * kStep;
                s.trueVolume += truly * kStep * kStep;
                top = b[u];
            }
            ++n;
        }
    fmt::print("{} ({} places; ground {:.3f} m)\n", title, n, std::sqrt(ground / n));
    fmt::print(
        "  unit  from       base m  base where it is m  thickness m  presence right %  mean where it is m  volume / true\n");
    for (int u = 0; u + 1 < quernbeck::kUnits; ++u) {
        const auto& s = scores[std::size_t(u)];
        fmt::print("  {:<5} {:<9} {:7.2f} {:19.2f} {:12.2f} {:17.1f} {:19.2f} {:14.2f}\n", quernbeck::code(quernbeck::Unit(u)),
                   fox::name(set.model->bases[std::size_t(u)]->reference), std::sqrt(s.levels / n),
                   std::sqrt(s.levelsWhere / s.where), std::sqrt(s.thickness / n), 100.0 * s.right / n,
                   s.trueVolume / (s.where * kStep * kStep), s.volume / s.trueVolume);
    }
}

/// Whether the true volumes lie within what an ensemble of the model gives.
void volumeRanges(const ProductSet& set) {
    constexpr double kCell = 20;
    const Frame frame{quernbeck::kWest, quernbeck::kSouth, quernbeck::kEast, quernbeck::kNorth, kCell};
    const auto ensemble = simulate(*set.model, set.terrain->sampled(frame), {});
    std::array<double, quernbeck::kUnits> truly{};
    for (int r = 0; r < frame.rows(); ++r)
        for (int c = 0; c < frame.columns(); ++c) {
            const auto p = frame.centre(c, r);
            if (!set.terrain->levelAt(p)) continue;
            const auto b = readAsLogged(quernbeck::bases(p.x, p.y));
            double top = quernbeck::ground(p.x, p.y);
            for (std::size_t u = 0; u < b.size(); ++u) truly[u] += (top - b[u]) * kCell * kCell, top = b[u];
        }
    fmt::print("Volumes of 100 equally likely models over the true one\n  unit    P10    P50    P90\n");
    for (std::size_t u = 0; u < ensemble.units.size(); ++u) {
        const auto range = rangeOf(ensemble.units[u].volumes);
        fmt::print("  {:<5} {:6.2f} {:6.2f} {:6.2f}\n", quernbeck::code(quernbeck::Unit(u)), range.p10 / truly[u],
                   range.p50 / truly[u], range.p90 / truly[u]);
    }
}

} // namespace

void truth() {
    const auto built = buildProject(FOX_DEMO "/quernbeck.build.json").project;
    print(*Products().of(built), "As the demo is delivered, with the faults in its files");
    const auto good = mended(built);
    const auto set = Products().of(good);
    print(*set, "With the remedies that its findings offer");
    print(*Products().of(interpreted(good)), "And with the proposal which till is which taken");
    print(*Products().of(contactsAlone(good)), "The same, contacts alone");
    auto whole = good;
    whole.interpretation = part(Interpretation{});
    print(*Products().of(whole), "With bounds, without the fault");
    for (const auto& method : baseMethods()) print(*Products().of(by(good, method)), methodInWords(method));
    volumeRanges(*set);
    fmt::print("The same, automatic bases\n");
    volumeRanges(*Products().of(by(good, BaseMethod())));
}

} // namespace fox::bench
