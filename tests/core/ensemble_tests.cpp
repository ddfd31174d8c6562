#include "base/parallel.h"
#include "fixtures.h"
#include "model/ensemble.h"
#include "project/surface_edits.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

SurfaceSettings krigingWith(const Variogram& v) {
    SurfaceSettings s;
    s.variogram = v;
    return s;
}

struct Moments {
    double mean = 0, variance = 0;
};
Moments momentsAt(const Realisations& all, Point2 p) {
    std::vector<double> values(std::size_t(all.count()));
    all.evaluate(std::span(&p, 1), values);
    Moments m;
    for (const double v : values) m.mean += v / all.count();
    for (const double v : values) m.variance += (v - m.mean) * (v - m.mean) / (all.count() - 1);
    return m;
}

} // namespace

TEST_CASE("Realisations go through the data and vary as kriging says", "[realisations]") {
    const auto model =
        GENERATE(VariogramModel::Spherical, VariogramModel::Exponential, VariogramModel::Gaussian, VariogramModel::Linear);
    CAPTURE(name(model));
    const auto data = randomPoints(3, 12);
    const Variogram v{model, model == VariogramModel::Gaussian ? 0.01 : 0.0, 400, 60};
    const Realisations all(data, {}, krigingWith(v), 2000, 7);
    const auto kriged = fitSurface(data, {}, krigingWith(v));
    if (model != VariogramModel::Gaussian) // its nugget is an error of the data
        for (const auto& p : data) {
            const auto m = momentsAt(all, p.plan());
            CHECK(m.mean == Approx(p.z).margin(1e-6));
            CHECK(m.variance == Approx(0).margin(1e-6));
        }
    int far = 0;
    for (const auto& q : randomPoints(4, 12)) {
        const auto at = q.plan();
        double value = 0, variance = 0;
        kriged.surface->evaluate(std::span(&at, 1), std::span(&value, 1), std::span(&variance, 1));
        if (variance < 40) continue;
        ++far;
        const auto m = momentsAt(all, at);
        CHECK(m.mean == Approx(value).margin(4 * std::sqrt(variance / 2000) + 0.5));
        CHECK(m.variance == Approx(variance).epsilon(0.2)); // 4.5 standard errors of 2,000, and the waves' own
    }
    CHECK(far > 4);
}

TEST_CASE("Realisations keep bounds, each of them", "[realisations]") {
    const auto data = points("10 10 5, 90 10 5, 10 90 5, 90 90 5");
    // the last two at one place: between 3 and 5
    const std::vector<Bound> bounds{{{50, 50, 2}, Side::Upper, ""},
                                    {{30, 70, 9}, Side::Lower, ""},
                                    {{52, 50, 2}, Side::Upper, ""},
                                    {{70, 30, 3}, Side::Lower, ""},
                                    {{70, 30, 5}, Side::Upper, ""}};
    const Realisations all(data, bounds, krigingWith({VariogramModel::Exponential, 0, 4, 80}), 300, 1);
    bool free = false;
    for (const auto& b : bounds) {
        const auto p = b.place.plan();
        std::vector<double> values(300);
        all.evaluate(std::span(&p, 1), values);
        for (const double v : values) {
            CHECK((b.side == Side::Upper ? v - b.place.z : b.place.z - v) < 1e-3);
            free |= std::abs(v - b.place.z) > 0.5; // not stuck to the bound
        }
    }
    CHECK(free);
}

TEST_CASE("A bound on one value cuts its normal distribution", "[realisations]") {
    // one place far from the only datum: given the bound, a normal about the mean that is cut at it
    const Variogram v{VariogramModel::Spherical, 0, 1, 10};
    const double cut = GENERATE(-1.0, 0.5, 2.5);
    CAPTURE(cut);
    const Realisations all(points("0 0 0"), std::vector<Bound>{{{100, 0, cut}, Side::Lower, ""}}, krigingWith(v), 4000, 3);
    // ordinary kriging from one datum: its value, with twice the sill; the mean of a normal above a cut is s phi / (1 - Phi)
    const double s = std::sqrt(2.0), t = cut / s;
    const double phi = std::exp(-t * t / 2) / std::sqrt(2 * std::acos(-1)), above = 0.5 * std::erfc(t / std::sqrt(2.0));
    CHECK(momentsAt(all, {100, 0}).mean == Approx(s * phi / above).margin(0.07)); // of 4,000 draws
}

TEST_CASE("The same seed gives the same realisations on any number of threads", "[realisations]") {
    const auto set = demoProducts();
    Grid ground(Frame{480600, 6120300, 480900, 6120600, 30});
    ground = set->terrain->sampled(ground.frame);
    const auto a = simulate(*set->model, ground, {20, 5});
    std::optional<Ensemble> b;
    {
        const ThreadLimit one(1);
        b = simulate(*set->model, ground, {20, 5});
    }
    for (std::size_t u = 0; u < a.units.size(); ++u) {
        CHECK(a.units[u].volumes == b->units[u].volumes);
        CHECK(a.units[u].chance.values == b->units[u].chance.values);
    }
    CHECK(simulate(*set->model, ground, {20, 6}).units[4].volumes != a.units[4].volumes);
}

TEST_CASE("An ensemble's chances and ranges make sense", "[model]") {
    // a unit that four holes have and four have not
    Holes holes;
    for (const auto& [x, y] : {std::pair{20.0, 20.0}, {20.0, 80.0}, {30.0, 50.0}, {10.0, 45.0}})
        holes.push_back(
            hole("with" + std::to_string(holes.size()), x, y, 0, {{1, "A"}, {3.0 + 0.1 * double(holes.size()), "B"}, {9, "C"}}));
    for (const auto& [x, y] : {std::pair{80.0, 20.0}, {80.0, 80.0}, {90.0, 50.0}, {75.0, 55.0}})
        holes.push_back(hole("none" + std::to_string(holes.size()), x, y, 0, {{1, "A"}, {9, "C"}}));
    Project p;
    p.site = part(Site{"", Frame{0, 0, 100, 100, 5}, {}});
    auto units = sequence({"A", "B", "C"});
    units.units[1].recipe.reference = BaseReference::Thickness;
    p.sequence = part(units);
    p.ground = part(groundOf("0 0 0, 100 0 0, 100 100 0, 0 100 0"));
    p.holes = part(holes);
    const auto set = Products().of(p);
    CHECK(set->model->bases[1]->measuredFromTop());
    const auto e = simulate(*set->model, *set->ground, {200, 1});
    const auto& b = e.units[1];
    const auto cell = [](double x, double y) { return std::size_t(int((100 - y) / 5) * 20 + int(x / 5)); };
    CHECK(b.chance.values[cell(22, 22)] > 0.95);
    CHECK(b.chance.values[cell(82, 22)] < 0.2);
    const double between = b.chance.values[cell(52, 52)];
    CHECK(b.chance.values[cell(88, 57)] == 0); // the three nearest holes say that it is not there: as in the model
    CAPTURE(between);
    CHECK(between > b.chance.values[cell(82, 22)]);
    CHECK(between < b.chance.values[cell(22, 22)]);
    for (std::size_t i = 0; i < b.chance.values.size(); ++i) {
        CHECK(b.base10.values[i] <= b.base50.values[i]);
        CHECK(b.base50.values[i] <= b.base90.values[i]);
        CHECK(b.thick10.values[i] >= 0);
    }
    const auto volume = rangeOf(b.volumes);
    CHECK(volume.p10 < volume.p50);
    CHECK(volume.p50 < volume.p90);
    CHECK((set->volumes->units[1].volume > 0.5 * volume.p10 && set->volumes->units[1].volume < 1.5 * volume.p90));
    CHECK(rangeOf(e.units[0].volumes).p10 == Approx(10000).epsilon(0.02)); // topsoil of 1 m everywhere
    // at one place the same
    const auto at = simulateAt(*set->model, {22.5, 22.5}, {200, 1});
    CHECK(rangeOf(at[1]).p50 == Approx(b.base50.values[cell(22.5, 22.5)]).margin(1e-6));
    // what is frozen does not vary, and half the area has half the volume
    auto frozen = fixBase(p, "A", {FixedBase::Origin::Frozen, "2026-01-01", set->rawGrids[0]}).project;
    const auto fixedSet = Products().of(frozen);
    const auto half =
        simulate(*fixedSet->model, *fixedSet->ground, {50, 1}, Area(Polygon2{{0, 0}, {50, 0}, {50, 100}, {0, 100}}));
    CHECK_FALSE(half.units[0].simulated);
    CHECK(rangeOf(half.units[0].volumes).p90 == Approx(5000).epsilon(0.02));
}

TEST_CASE("Realisations of a base without a variogram lie about kriging, and half of them about the base as it is", "[model]") {
    Holes holes; // a heap: its thin plate bulges between the holes where kriging falls back to their mean
    for (const auto& [x, y, deep] : {std::tuple{25.0, 50.0, 2.0}, {50.0, 25.0, 2.2}, {75.0, 50.0, 2.1}, {50.0, 75.0, 1.9}})
        holes.push_back(hole(fmt::format("with{}", holes.size()), x, y, 0, {{deep, "A"}, {9, "B"}}));
    for (const auto& [x, y] : {std::pair{3.0, 3.0}, {97.0, 3.0}, {97.0, 97.0}, {3.0, 97.0}, {50.0, 3.0}, {3.0, 50.0}})
        holes.push_back(hole(fmt::format("none{}", holes.size()), x, y, 0, {{9, "B"}}));
    Project p;
    p.site = part(Site{"", Frame{0, 0, 100, 100, 5}, {}});
    auto units = sequence({"A", "B"});
    units.units[0].recipe.reference = BaseReference::Thickness;
    units.units[0].recipe.settings.method = GENERATE(Method::ThinPlate, Method::NaturalNeighbour);
    p.sequence = part(units);
    p.ground = part(groundOf("0 0 0, 100 0 0, 100 100 0, 0 100 0"));
    p.holes = part(holes);
    const auto set = Products().of(p);
    const auto e = simulate(*set->model, *set->ground, {200, 1});
    CHECK(e.units[0].byOrdinaryKriging);
    CHECK(rangeOf(e.units[0].volumes).contains(set->volumes->units[0].volume));
    const auto drawn = simulateAt(*set->model, {50, 25}, {200, 1}); // they all go through the contacts
    CHECK(rangeOf(drawn[0]).p10 == Approx(-2.2).margin(1e-6));
    CHECK(rangeOf(drawn[0]).p90 == Approx(-2.2).margin(1e-6));
    const auto between = rangeOf(simulateAt(*set->model, {50, 50}, {200, 1})[0]);
    CHECK(between.p90 - between.p10 > 0.2);
    CHECK(between.contains(set->model->columnAt({50, 50}).bases[0]));
}

TEST_CASE("Quantiles lie between the values", "[realisations]") {
    const std::vector<double> v{1, 2, 4, 8};
    CHECK(quantile(v, 0) == 1);
    CHECK(quantile(v, 1) == 8);
    CHECK(quantile(v, 0.5) == 3);
    CHECK(std::isnan(quantile({}, 0.5)));
    CHECK(rangeOf({3, kNoValue, 1, 2}).p50 == 2);
}
