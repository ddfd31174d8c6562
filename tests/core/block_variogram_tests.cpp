// Variograms of values in space: lags in plan and over one another, the ratio of their ranges, and limits of the search.
#include "blocks/block_estimator.h"
#include "blocks/block_judging.h"
#include "blocks/block_proposal.h"
#include "blocks/block_simulation.h"
#include "blocks/block_variogram.h"
#include "layered_fixtures.h"
#include "products/block_product.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// Readings every metre in holes on a lattice, 10 m apart, of a random field whose ranges are `range` in plan and `range` / ratio
/// in level.
std::vector<Composite> fieldInHoles(double range, double ratio, std::uint64_t seed, int side = 14, int depth = 20) {
    const WaveField field({VariogramModel::Spherical, 0, 1, range}, 1000, seed, 2000);
    std::vector<Composite> out;
    for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j)
            for (int k = 0; k < depth; ++k) {
                const Point3 p{10.0 * i, 10.0 * j, -1.0 * k};
                out.push_back({p, field.at({p.x, p.y, p.z * ratio}), {}, fmt::format("B{}-{}", i, j)});
            }
    return out;
}

std::vector<Composite> scattered(unsigned seed, int n, int holes) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> x(0, 100), z(-10, 0), v(1, 100);
    std::vector<Composite> out;
    for (int i = 0; i < n; ++i) {
        const double e = x(random), nn = x(random), l = z(random);
        out.push_back({{e, nn, l}, v(random), {}, fmt::format("B{}", i % holes)});
    }
    return out;
}

/// Of all composites by distance those that may count, by looking at every one.
std::vector<std::size_t> bruteNearest(const std::vector<Composite>& all, const BlockSpec& s, Point3 at) {
    std::vector<std::pair<double, std::size_t>> order;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto& p = all[i].place;
        order.emplace_back(std::hypot(p.x - at.x, p.y - at.y, s.vertical * (p.z - at.z)), i);
    }
    std::ranges::sort(order);
    std::map<std::string, int> ofHole;
    std::vector<std::size_t> out;
    for (const auto& [d, i] : order) {
        if (int(out.size()) == s.neighbours) break;
        if (s.radius > 0 && d > s.radius) break;
        if (s.verticalRadius > 0 && std::abs(all[i].place.z - at.z) > s.verticalRadius) continue;
        if (s.perHole > 0 && ofHole[all[i].hole] == s.perHole) continue;
        ++ofHole[all[i].hole];
        out.push_back(i);
    }
    return out;
}

} // namespace

TEST_CASE("Lags lie level with one another, and over one another", "[blocks]") {
    // values that depend on the level alone do not differ in plan, and the other way round
    std::vector<Composite> byLevel, byPlace;
    for (int i = 0; i < 8; ++i)
        for (int k = 0; k < 10; ++k) {
            const Point3 p{20.0 * i, 0, -1.0 * k};
            byLevel.push_back({p, double(k), {}, fmt::format("B{}", i)});
            byPlace.push_back({p, double(i), {}, fmt::format("B{}", i)});
        }
    const auto level = blockLags({}, byLevel), place = blockLags({}, byPlace);
    REQUIRE(level.horizontal.size() > 2);
    REQUIRE(level.vertical.size() > 2);
    for (const auto& l : level.horizontal) CHECK(l.gamma == 0);
    for (const auto& l : level.vertical) CHECK(l.gamma == Approx(l.distance * l.distance / 2)); // (d)^2 / 2 for one value a metre
    for (const auto& l : place.vertical) CHECK(l.gamma == 0);
    for (const auto& l : place.horizontal) CHECK(l.gamma == Approx(l.distance * l.distance / 400 / 2));
    // within units pairs of different units are none
    for (auto& c : byLevel) c.unit = std::size_t(c.value);
    BlockSpec within;
    within.within = true;
    CHECK(blockLags(within, byLevel).vertical.empty());
    CHECK(blockLags({}, {}).horizontal.empty());
    CHECK(blockLags({}, {{{{0, 0, 0}, 1, {}, "B1"}}}).vertical.empty());
}

TEST_CASE("Points over one another need no hole to be taken together", "[blocks]") {
    std::vector<Composite> points;
    for (int i = 0; i < 6; ++i)
        for (int k = 0; k < 8; ++k) points.push_back({{30.0 * i, 5, -0.5 * k}, double(k * k), {}, ""});
    const auto lags = blockLags({}, points);
    CHECK(lags.vertical.size() > 2);
    for (const auto& l : lags.horizontal) CHECK(l.gamma == 0);
}

TEST_CASE("Two ranges and their ratio come back from lags that follow a model exactly", "[surfaces][blocks]") {
    const auto model = GENERATE(VariogramModel::Spherical, VariogramModel::Exponential);
    const double ratio = GENERATE(1.0, 8.0, 60.0);
    const Variogram truth{model, 2, 9, 120};
    std::vector<VariogramLag> plan, level;
    for (int i = 1; i <= 12; ++i) {
        plan.push_back({20.0 * i, truth.at(20.0 * i), 100});
        level.push_back({20.0 * i / ratio, truth.at(20.0 * i), 700});
    }
    const auto fit = variogramOfDirections(plan, level, NuggetFit::Free);
    REQUIRE(fit);
    CHECK(fit->variogram.model == model);
    CHECK(fit->ratio == Approx(ratio).epsilon(0.03));
    CHECK(fit->variogram.range == Approx(120).epsilon(0.05));
    CHECK(fit->variogram.nugget == Approx(2).margin(0.4));
    plan.resize(2);
    CHECK_FALSE(variogramOfDirections(plan, level, NuggetFit::Free));
    CHECK_FALSE(variogramOfDirections({{1, 0, 3}, {2, 0, 3}, {3, 0, 3}}, {{1, 0, 3}, {2, 0, 3}, {3, 0, 3}}, NuggetFit::Free));
}

TEST_CASE("The vertical factor of a field with known ranges is found", "[blocks][random]") {
    BlockSpec spec;
    spec.verticalFitted = true;
    std::vector<double> ratios, ranges;
    for (std::uint64_t seed = 1; seed <= 9; ++seed) {
        const auto data = fieldInHoles(60, 10, seed);
        const auto fit = fitBlockVariogram(spec, data);
        ratios.push_back(fit.vertical), ranges.push_back(fit.variogram.range);
    }
    std::ranges::sort(ratios), std::ranges::sort(ranges);
    CAPTURE(ratios, ranges);
    CHECK(ratios[4] == Approx(10).epsilon(0.25));
    CHECK(ranges[4] == Approx(60).epsilon(0.3));
}

TEST_CASE("What can't be fitted has the ratio of a block, and never one under 1", "[blocks]") {
    BlockSpec spec;
    spec.verticalFitted = true;
    spec.dx = spec.dy = 20, spec.dz = 2;
    const std::vector<Composite> two{{{0, 0, 0}, 1, {}, "A"}, {{50, 0, 0}, 5, {}, "B"}};
    const auto fit = fitBlockVariogram(spec, two);
    CHECK(fit.vertical == 10);
    CHECK(fit.variogram.partialSill == Approx(4)); // the variance
    spec.dz = 40;
    CHECK(fitBlockVariogram(spec, two).vertical == 1);
    // more alike upwards than along: not believed of layers
    const auto upright = fieldInHoles(20, 0.2, 3);
    CHECK(fitBlockVariogram(spec, upright).vertical == 1);
    const auto used = withFitted(spec, two);
    CHECK_FALSE(used.verticalFitted);
    CHECK_FALSE(used.variogram); // of inverse distance
    spec.method = BlockSpec::Method::Kriging;
    CHECK(withFitted(spec, two).variogram);
}

TEST_CASE("A model that was fitted says what was used, and gives the same blocks when that is typed", "[blocks]") {
    auto spec = BlockSpec{};
    spec.name = "SPT", spec.quantity = "v";
    spec.of = BlockSpec::Of::Values;
    spec.dx = spec.dy = 20, spec.dz = 1, spec.fromLevel = 0, spec.toLevel = 10;
    spec.method = BlockSpec::Method::Kriging, spec.verticalFitted = true;
    auto p = flatSite();
    p.site = part(Site{"", Frame{1000, 2000, 1200, 2100, 10}, {}});
    std::vector<ValuePoint> points;
    for (const auto& c : fieldInHoles(60, 10, 4, 8, 9))
        points.push_back({{1000 + c.place.x, 2000 + c.place.y, 9 + c.place.z}, 50 + 10 * c.value});
    points.front().excluded = true;
    points[1].sign = ValueSign::Below;
    p.valuePoints = part(std::vector{ValueSource{"probes.csv", "v", "mg/kg", SharedList<ValuePoint>(points)}});
    p.blockModels = part(std::vector{spec});
    Products products;
    const auto fitted = products.of(p, {}, {ProductKind::Blocks})->blocks.front();
    REQUIRE(fitted->blocks);
    CHECK(fitted->composites->values.size() == points.size() - 1);
    CHECK(fitted->composites->limits == 1);
    CHECK(fitted->composites->unitOfMeasure == "mg/kg");
    CHECK(fitted->blocks->spec.vertical > 2);
    REQUIRE(fitted->blocks->variogram);
    CHECK_FALSE(fitted->lags.vertical.empty());
    auto typed = fitted->blocks->spec;
    p.blockModels = part(std::vector{typed});
    const auto again = products.of(p, {}, {ProductKind::Blocks})->blocks.front();
    REQUIRE(again->blocks);
    for (std::size_t b = 0; b < again->blocks->blocks(); ++b)
        if (!std::isnan(again->blocks->value[b])) REQUIRE(again->blocks->value[b] == fitted->blocks->value[b]);
    CHECK(again->judged.errors.rmse == fitted->judged.errors.rmse);
    spec.quantity = "no such";
    p.blockModels = part(std::vector{spec});
    CHECK_THAT(products.of(p, {}, {ProductKind::Blocks})->blocks.front()->problem, Catch::Contains("there are v"));
}

TEST_CASE("Limits of the search hold, whatever the order of the values", "[blocks][random]") {
    BlockSpec spec;
    spec.method = BlockSpec::Method::InverseDistance;
    spec.vertical = 4;
    std::size_t limited = 0;
    for (unsigned seed = 1; seed <= 30; ++seed) {
        const auto all = scattered(seed, 200, 9);
        std::mt19937 random(seed + 1000);
        spec.neighbours = 1 + int(random() % 20);
        spec.perHole = int(random() % 4);
        spec.verticalRadius = random() % 2 ? 1.5 : 0;
        spec.radius = random() % 2 ? 35 : 0;
        const BlockEstimator estimator(spec, placed(all), {});
        std::uniform_real_distribution<double> x(0, 100), z(-10, 0);
        for (int i = 0; i < 20; ++i) {
            const double e = x(random), n = x(random), l = z(random);
            const auto wanted = bruteNearest(all, spec, {e, n, l});
            const auto found = estimator.at({e, n, l});
            REQUIRE(found.used == int(wanted.size()));
            limited += int(wanted.size()) < spec.neighbours;
            if (wanted.empty()) {
                REQUIRE(std::isnan(found.value));
                continue;
            }
            double sum = 0, weights = 0;
            for (const auto k : wanted) {
                const auto& p = all[k].place;
                const double w = 1 / (std::pow(p.x - e, 2) + std::pow(p.y - n, 2) + std::pow(4 * (p.z - l), 2));
                sum += w * all[k].value, weights += w;
            }
            REQUIRE(found.value == Approx(sum / weights));
        }
    }
    CHECK(limited > 50); // the limits were felt
}

TEST_CASE("What does not count for a judgement is not among the nearest", "[blocks]") {
    const auto all = scattered(5, 60, 60);
    BlockSpec spec;
    spec.neighbours = 3;
    const BlockEstimator estimator(spec, placed(all), {});
    for (std::size_t i = 0; i < all.size(); ++i) {
        CHECK(estimator.at(all[i].place).value == all[i].value);
        const auto without = estimator.at(all[i].place, i);
        CHECK(without.used == 3);
        CHECK(without.value != all[i].value);
    }
}

TEST_CASE("Proposed blocks suit the values and the site", "[blocks]") {
    const Frame site{480000, 6120000, 481500, 6121000, 5};
    BlockSpec curve;
    curve.quantity = "GR";
    std::vector<Composite> all{{{480010, 6120010, -12.3}, 1, {}, "A"}, {{481400, 6120900, 25.4}, 2, {}, "B"}};
    const auto wide = proposedBlocks(curve, site, all);
    CHECK_FALSE(wide.extent);
    CHECK(wide.dx == 20);
    CHECK(wide.fromLevel == -13);
    CHECK(wide.toLevel == 26);
    CHECK(wide.dz == 1);
    CHECK(wide.composite == 1);
    CHECK(wide.verticalFitted);
    // a patch of probes has blocks of its own size, around it
    all = {{{480300, 6120300, 20}, 1, {}, ""}, {{480420, 6120380, 23}, 2, {}, ""}};
    curve.of = BlockSpec::Of::Points;
    const auto patch = proposedBlocks(curve, site, all);
    REQUIRE(patch.extent);
    CHECK(*patch.extent == Frame{480288, 6120292, 480432, 6120388, 1});
    CHECK(patch.dx == 2);
    CHECK(patch.dz == 0.1); // three metres of levels
    CHECK(patch.composite == 0);
    CHECK(proposedBlocks(curve, site, {}) == curve);
    // one value: a metre of levels, blocks of the site's size
    const auto one = proposedBlocks(curve, site, {all.data(), 1});
    CHECK(one.toLevel == one.fromLevel + 1);
    CHECK_FALSE(one.extent);
}

TEST_CASE("A specification keeps its limits and what is fitted", "[blocks]") {
    const auto spec =
        blockSpecOf(R"({"format":"fox-cellar-blocks","version":1,"name":"x","value":{"values":"lead","from":"p.csv"},
        "block":[10,10,1],"from_level":0,"to_level":5,"method":"kriging","vertical":"fitted","radius":80,"radius_vertical":3,
        "per_hole":4,"variogram":"spherical, 1, 2, 90"})",
                    "/tmp");
    CHECK(spec.of == BlockSpec::Of::Values);
    CHECK(spec.file == "p.csv");
    CHECK(spec.verticalFitted);
    CHECK(spec.verticalRadius == 3);
    CHECK(spec.perHole == 4);
    CHECK(spec.variogram == Variogram{VariogramModel::Spherical, 1, 2, 90});
    CHECK(blockSpecOf(toJson(spec), "/tmp") == spec);
    const auto refused = [](const char* key, const char* value) {
        return fmt::format(R"({{"format":"fox-cellar-blocks","version":1,"value":{{"curve":"GR"}},"block":[1,1,1],
            "from_level":0,"to_level":5,"{}":{}}})",
                           key, value);
    };
    CHECK_THROWS_WITH(blockSpecOf(refused("per_hole", "1.5"), "/tmp"), Catch::Contains("whole number"));
    CHECK_THROWS_WITH(blockSpecOf(refused("radius_vertical", "-1"), "/tmp"), Catch::Contains("negative"));
    CHECK_THROWS_WITH(blockSpecOf(refused("variogram", "\"spherical,1,2\""), "/tmp"), Catch::Contains("MODEL"));
    CHECK_THROWS_WITH(blockSpecOf(refused("vertical", "\"much\""), "/tmp"), Catch::Contains("vertical"));
}

TEST_CASE("A variogram is written and read again", "[surfaces]") {
    const Variogram v{VariogramModel::Gaussian, 0.125, 3.5, 77.25};
    CHECK(variogramFrom(written(v)) == v);
    for (const char* bad : {"", "spherical", "cubic,1,2,3", "spherical,1,2", "spherical,-1,2,3", "spherical,0,0,3",
                            "spherical,1,2,0", "spherical,1,2,x", "spherical,1,2,3,4"})
        CHECK_FALSE(variogramFrom(bad));
}
