// The demo site's model against the formulas that its files were made from.
#include "truth.h"
#include "bench.h"
#include "project/build_file.h"
#include "project/edits.h"
#include "project/products.h"

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
            return f.remedy && (f.remedy->kind == Remedy::Kind::MergeCode || f.remedy->kind == Remedy::Kind::SetLevel);
        });
        if (offered == set->findings->end()) return p;
        p = apply(p, *offered->remedy).project;
    }
}

/// With the fault that cuts the south-west corner, as a map would give it.
Project faulted(Project p) {
    auto own = *p.interpretation;
    own.faults.push_back({{"F1", {{480420, 6120000}, {480000, 6120330}}}, "TL"});
    p.interpretation = part(own);
    return p;
}

Project contactsAlone(Project p) {
    auto sequence = *p.sequence;
    for (auto& u : sequence.units) u.recipe.bounds = false;
    p.sequence = part(sequence);
    return p;
}

Project by(Project p, Method method) {
    auto sequence = *p.sequence;
    for (auto& u : sequence.units) u.recipe.settings.method = method;
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
        if (getenv("FOX_J"))
            for (auto& j : set.model->bases[std::size_t(u)]->judged)
                fmt::print("      {} {} witnesses error {:.3f} wrong {}\n", fox::name(j.reference), j.witnesses, j.error,
                           j.presenceWrong);
    }
}

} // namespace

void truth() {
    const auto built = buildProject(FOX_DEMO "/quernbeck.build.json").project;
    print(*Products().of(built), "As the files come");
    const auto good = mended(built);
    print(*Products().of(good), "With what the findings offer");
    const auto cut = faulted(good);
    print(*Products().of(cut), "And the fault");
    print(*Products().of(contactsAlone(cut)), "The same, contacts alone");
    print(*Products().of(contactsAlone(good)), "contacts alone, no fault");
    print(*Products().of(by(good, Method::ThinPlate)), "thin plate, no fault");
    print(*Products().of(by(contactsAlone(good), Method::ThinPlate)), "thin plate, no fault, contacts alone");
    print(*Products().of(by(contactsAlone(cut), Method::ThinPlate)), "thin plate, fault, contacts alone");
    {
        auto p = by(cut, Method::ThinPlate);
        auto q = *p.sequence;
        for (auto& u : q.units) {
            if (u.code == "AL" || u.code == "PT" || u.code == "RG") u.recipe.settings.anisotropy = {92, 1.5};
            if (u.code == "TS") u.recipe.settings.method = Method::Kriging;
            if (u.code == "TL" || u.code == "MW") u.recipe.settings.method = Method::UniversalKriging;
        }
        p.sequence = part(q);
        print(*Products().of(p), "CURATED");
        print(*Products().of(contactsAlone(p)), "CURATED alone");
    }
    for (const auto method : allMethods()) print(*Products().of(by(cut, method)), words(method));
}

} // namespace fox::bench
