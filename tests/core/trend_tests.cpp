// Bases that follow the ground, or another base, in part.
#include "fixtures.h"
#include "products/products.h"
#include "project/json.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// Broad hills over 600 m by 600 m, with a ditch 4 m deep and 10 m wide along x = 300.
double hillAt(double x, double y) { return 40 + 6 * std::sin(x / 220) + 4 * std::cos(y / 190); }
double levelAt(double x, double y) { return hillAt(x, y) - (std::abs(x - 300) < 5 ? 4 : 0); }

/// Clay to `clay` metres below datum, rock below, in holes that lie off the ditch.
Project hills(const std::function<double(double, double)>& clay, const std::function<double(double, double)>& rock) {
    Project p;
    std::string survey;
    for (int i = 0; i <= 120; ++i)
        for (int j = 0; j <= 20; ++j)
            survey += fmt::format("{}{} {} {:.4f}", survey.empty() ? "" : ", ", 5 * i, 30 * j, levelAt(5 * i, 30 * j));
    p.ground = part(groundOf(survey));
    p.site = part(Site{"", Frame{0, 0, 600, 600, 10}, {}});
    Holes holes;
    int n = 0;
    for (const auto& at : randomPoints(7, 26, 560)) {
        const double x = std::round(at.x + 20), y = std::round(at.y + 20);
        if (std::abs(x - 300) < 20) continue;
        const double z = hillAt(x, y);
        holes.push_back(hole(fmt::format("B{}", ++n), x, y, z, {{z - clay(x, y), "C"}, {z - rock(x, y), "G"}, {60, "R"}}));
    }
    giveNames(holes);
    p.holes = part(std::move(holes));
    auto s = sequence({"C", "G", "R"});
    for (auto& u : s.units) u.recipe.settings.method = Method::Kriging;
    p.sequence = part(std::move(s));
    return p;
}

const BaseSurface& baseOf(const ProductSet& set, std::size_t unit) { return *set.model->bases[unit]; }

} // namespace

TEST_CASE("A base that follows the ground in part is found to, with its share, and told better so", "[model][trend]") {
    const auto clay = [](double x, double y) { return 10 + 0.4 * hillAt(x, y); };
    const auto project = hills(clay, [](double, double) { return 0.0; });
    const auto set = Products().of(project, {}, {});
    const auto& base = baseOf(*set, 0);
    CHECK(base.reference == BaseReference::Trend);
    CHECK(base.in.share == Approx(0.4).margin(0.03));         // of the smoothed ground
    CHECK(baseOf(*set, 1).reference == BaseReference::Level); // flat
    double trend = 0, levels = 0;
    auto byLevels = *project.sequence;
    byLevels.units[0].recipe.reference = BaseReference::Level;
    auto other = project;
    other.sequence = part(std::move(byLevels));
    const auto plain = Products().of(other, {}, {});
    for (double x = 30; x < 600; x += 30)
        for (double y = 30; y < 600; y += 30) {
            if (std::abs(x - 300) < 10) continue;
            trend += std::pow(set->model->columnAt({x, y}).bases[0] - clay(x, y), 2);
            levels += std::pow(plain->model->columnAt({x, y}).bases[0] - clay(x, y), 2);
        }
    CHECK(std::sqrt(trend) < 0.5 * std::sqrt(levels));
    // contacts are kept exactly whatever they are measured from
    for (const auto& c : *set->contacts[0])
        if (c.kind == ContactKind::Observed)
            CHECK(set->model->columnAt(c.place.plan()).bases[0] == Approx(c.place.z).margin(1e-4));
}

TEST_CASE("A trend of another base takes that one's shape", "[model][trend]") {
    const auto clay = [](double x, double y) { return 25 + 3 * std::sin(x / 50) * std::cos(y / 60); };
    const auto rock = [&](double x, double y) { return 0.7 * clay(x, y) - 6; };
    auto project = hills(clay, rock);
    auto s = *project.sequence;
    s.units[0].recipe.reference = BaseReference::Level;
    s.units[1].recipe.reference = BaseReference::Trend, s.units[1].recipe.against = "C";
    project.sequence = part(s);
    const auto set = Products().of(project, {}, {});
    CHECK(baseOf(*set, 1).in.share == Approx(0.7).margin(1e-4));
    for (const auto& p : {Point2{100, 100}, {450, 220}, {330, 500}}) {
        const auto column = set->model->columnAt(p);
        CHECK(column.bases[1] == Approx(0.7 * column.bases[0] - 6).margin(0.01));
    }
    CHECK(recipeOf(toJson(s.units[1].recipe), {}) == s.units[1].recipe);
    // a circle of bases that each follow the other can't be worked out: levels, as of thicknesses
    s.units[0].recipe.reference = BaseReference::Trend, s.units[0].recipe.against = "G";
    project.sequence = part(s);
    CHECK(baseOf(*Products().of(project, {}, {}), 0).reference == BaseReference::Level);
}

TEST_CASE("Depths are measured from the smoothed ground: a ditch goes into topsoil, not into the base below", "[model][trend]") {
    const auto clay = [](double x, double y) { return hillAt(x, y) - 0.3; };
    const auto rock = [](double x, double y) { return hillAt(x, y) - 12; };
    auto project = hills(clay, rock);
    auto s = *project.sequence;
    s.units[1].recipe.reference = BaseReference::Depth;
    project.sequence = part(s);
    const auto set = Products().of(project, {}, {});
    CHECK(baseOf(*set, 0).in.ownThickness()); // below the ground as it is
    for (const double y : {100.0, 300.0, 500.0}) {
        const auto in = set->model->columnAt({300, y}), beside = set->model->columnAt({330, y});
        const double ditch = beside.ground - in.ground, topsoil = beside.bases[0] - in.bases[0],
                     deep = beside.bases[1] - in.bases[1];
        const double hill = hillAt(330, y) - hillAt(300, y);
        CHECK(topsoil == Approx(ditch).margin(0.3));
        CHECK(std::abs(deep - hill) < 0.25 * std::abs(ditch - hill));
    }
}

TEST_CASE("With too few contacts, or level ground, no share is fitted", "[model][trend]") {
    auto project = hills([](double x, double y) { return 10 + 0.4 * hillAt(x, y); }, [](double, double) { return 0.0; });
    Holes few;
    for (std::size_t i = 0; i < 4; ++i) few.push_back((*project.holes)[i]);
    project.holes = part(std::move(few));
    auto s = *project.sequence;
    s.units[0].recipe.reference = BaseReference::Trend;
    project.sequence = part(s);
    CHECK(baseOf(*Products().of(project, {}, {}), 0).in.share == 0);
}
