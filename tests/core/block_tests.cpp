// Values in blocks: composites, estimates against brute force, what is above a cut-off.
#include "base/files.h"
#include "blocks/block_estimator.h"
#include "blocks/block_model.h"
#include "blocks/block_totals.h"
#include "formats/netcdf_file.h"
#include "formats/raster.h"
#include "formats/vtu.h"
#include "ground/raster_ground.h"
#include "handover/block_files.h"
#include "layered_fixtures.h"
#include "products/block_product.h"

#include <Eigen/Dense>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// The flat site with a gamma curve in its holes: a linear function of place and depth.
double linear(Point3 p) { return 50 + 0.1 * (p.x - 1000) - 0.2 * (p.y - 2000) + 2 * p.z; }

Project gammaSite() {
    auto p = flatSite();
    auto holes = *p.holes;
    holes.changeEach([](Hole& h) {
        Curve c;
        c.name = "GR", c.unit = "GAPI";
        std::vector<Curve::Reading> readings;
        for (double d = 0.25; d < 14; d += 0.5) readings.push_back({d, linear({*h.easting, *h.northing, 10 - d})});
        c.readings = std::make_shared<const std::vector<Curve::Reading>>(std::move(readings));
        h.curves.push_back(std::move(c));
    });
    p.holes = part(std::move(holes));
    p.site = part(Site{"", Frame{1000, 2000, 1200, 2100, 10}, {}});
    return p;
}

BlockSpec gammaSpec() {
    BlockSpec spec;
    spec.name = "gamma", spec.quantity = "GR";
    spec.dx = spec.dy = 20, spec.dz = 1;
    spec.fromLevel = -4, spec.toLevel = 12;
    return spec;
}

std::shared_ptr<const BlockProduct> blocksOf(Project p, const BlockSpec& spec) {
    p.blockModels = part(std::vector{spec});
    return Products().of(p, {}, {ProductKind::Blocks})->blocks.front();
}

Composites randomComposites(unsigned seed, int n) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> x(1000, 1200), y(2000, 2100), z(-3, 9), v(1, 100);
    Composites out;
    for (int i = 0; i < n; ++i) {
        const double e = x(random), nn = y(random), l = z(random);
        out.values.push_back({{e, nn, l}, v(random), {}, ""});
    }
    return out;
}

double scaled(const Point3& a, const Point3& b, double vertical) {
    return std::sqrt(std::pow(a.x - b.x, 2) + std::pow(a.y - b.y, 2) + std::pow(vertical * (a.z - b.z), 2));
}

/// All composites by their distance from a place.
std::vector<std::pair<double, const Composite*>> byDistance(const Composites& all, const Point3& p, double vertical) {
    std::vector<std::pair<double, const Composite*>> out;
    for (const auto& c : all.values) out.emplace_back(scaled(c.place, p, vertical), &c);
    std::ranges::sort(out);
    return out;
}

} // namespace

TEST_CASE("A reading stands for the depths nearest to it", "[blocks]") {
    const std::vector<std::pair<double, double>> r{{1, 10}, {2, 20}, {4, 40}};
    CHECK(nearestMean(r, 0, 1) == 10);
    CHECK(nearestMean(r, 1, 2) == Approx(15));
    CHECK(nearestMean(r, 0, 6) == Approx((1.5 * 10 + 1.5 * 20 + 3 * 40) / 6));
    CHECK(nearestMean(r, 2.5, 3.5) == Approx((0.5 * 20 + 0.5 * 40)));
    CHECK(std::isnan(nearestMean({}, 0, 1)));
}

TEST_CASE("Readings as they are, averaged over a length, and within units", "[blocks]") {
    const auto p = gammaSite();
    const auto set = Products().of(p, {}, Wanted{});
    auto spec = gammaSpec();
    const auto as = compositesOf(spec, *p.holes, *set->reading, *set->model);
    CHECK(as.values.size() == 4 * 28);
    CHECK(as.unitOfMeasure == "GAPI");
    for (const auto& c : as.values) REQUIRE(c.value == Approx(linear(c.place)));
    spec.composite = 3;
    const auto averaged = compositesOf(spec, *p.holes, *set->reading, *set->model);
    CHECK(averaged.values.size() == 4 * 5); // 14 m: the last is shorter
    for (const auto& c : averaged.values) CHECK(c.value == Approx(linear(c.place)).epsilon(0.02));
    spec.within = true;
    const auto within = compositesOf(spec, *p.holes, *set->reading, *set->model);
    // sand 0 to 4, clay to 6, gravel to 10, rock to 14, cut at 3, 6, 9, 12
    CHECK(within.values.size() == 4 * 7);
    for (const auto& c : within.values) REQUIRE(c.unit == set->model->columnAt(c.place.plan()).unitAt(c.place.z));
    spec.only = {"G"};
    CHECK(compositesOf(spec, *p.holes, *set->reading, *set->model).values.size() == 4 * 2);
    spec.cap = 60;
    const auto capped = compositesOf(spec, *p.holes, *set->reading, *set->model);
    CHECK(capped.capped > 0);
    for (const auto& c : capped.values) CHECK(c.value <= 60);
    spec.quantity = "no such";
    CHECK_THROWS_WITH(compositesOf(spec, *p.holes, *set->reading, *set->model), Catch::Contains("GR"));
}

TEST_CASE("Inverse distance, nearest and kriging are those of brute force", "[blocks]") {
    const auto composites = randomComposites(3, 60);
    std::vector<Point3> places;
    std::vector<double> values;
    for (const auto& c : composites.values) places.push_back(c.place), values.push_back(c.value);
    auto spec = gammaSpec();
    spec.vertical = 7, spec.neighbours = 9, spec.power = 3;
    const Variogram variogram{VariogramModel::Exponential, 20, 300, 120};
    std::mt19937 random(4);
    std::uniform_real_distribution<double> x(1000, 1200), y(2000, 2100), z(-3, 9);
    for (int i = 0; i < 50; ++i) {
        const double e = x(random), nn = y(random), l = z(random);
        const Point3 p{e, nn, l};
        const auto near = byDistance(composites, p, 7);
        double sum = 0, weights = 0;
        for (int k = 0; k < 9; ++k) {
            const double w = std::pow(near[std::size_t(k)].first, -3);
            sum += w * near[std::size_t(k)].second->value, weights += w;
        }
        spec.method = BlockSpec::Method::InverseDistance;
        CHECK(BlockEstimator(spec, {places, values}, variogram).at(p).value == Approx(sum / weights));
        spec.method = BlockSpec::Method::Nearest;
        CHECK(BlockEstimator(spec, {places, values}, variogram).at(p).value == near[0].second->value);
        // ordinary kriging as one system of equations, by its variogram
        Eigen::MatrixXd a = Eigen::MatrixXd::Ones(10, 10);
        Eigen::VectorXd b = Eigen::VectorXd::Ones(10);
        a(9, 9) = 0;
        for (int r = 0; r < 9; ++r) {
            const auto& c = *near[std::size_t(r)].second;
            b[r] = variogram.at(near[std::size_t(r)].first);
            for (int s = 0; s < 9; ++s) a(r, s) = variogram.at(scaled(c.place, near[std::size_t(s)].second->place, 7));
        }
        const Eigen::VectorXd w = a.fullPivLu().solve(b);
        double kriged = 0;
        for (int r = 0; r < 9; ++r) kriged += w[r] * near[std::size_t(r)].second->value;
        spec.method = BlockSpec::Method::Kriging;
        const auto estimate = BlockEstimator(spec, {places, values}, variogram).at(p);
        CHECK(estimate.value == Approx(kriged).epsilon(1e-6));
        CHECK(estimate.variance == Approx(w.dot(b)).epsilon(1e-6));
        CHECK(estimate.used == 9);
    }
    // exact where a composite lies, and left out where that is asked for
    for (const auto method : {BlockSpec::Method::InverseDistance, BlockSpec::Method::Nearest, BlockSpec::Method::Kriging}) {
        spec.method = method;
        const BlockEstimator estimator(spec, {places, values}, variogram);
        CHECK(estimator.at(places[7]).value == Approx(values[7]));
        CHECK(estimator.at(places[7], 7).value != Approx(values[7]));
    }
    spec.radius = 0.001;
    CHECK(std::isnan(BlockEstimator(spec, {places, values}, variogram).at({1100, 2050, 30}).value));
}

TEST_CASE("Blocks of a linear field are near it, unknown above the ground, and of the units that are wanted", "[blocks]") {
    auto spec = gammaSpec();
    spec.method = BlockSpec::Method::Kriging;
    spec.vertical = 5, spec.neighbours = 16;
    const auto site = gammaSite();
    const auto made = blocksOf(site, spec);
    INFO(made->problem);
    REQUIRE(made->blocks);
    const auto& m = *made->blocks;
    CHECK(m.count == std::array<int, 3>{10, 5, 16});
    CHECK(m.centre(0).z == -3.5);
    CHECK(m.known() == 10 * 5 * 14); // two layers of blocks lie above the ground
    REQUIRE(m.variogram);
    for (std::size_t b = 0; b < m.blocks(); ++b) {
        if (std::isnan(m.value[b])) {
            CHECK(m.centre(b).z > 10);
            continue;
        }
        CHECK(m.variance[b] >= 0);
        for (const auto& h : *site.holes) // beside a hole, as far down as it goes
            if (distance(m.centre(b).plan(), *h.place()) < 8 && m.centre(b).z > -3.5)
                CHECK(std::abs(m.value[b] - linear(m.centre(b))) < 4);
    }
    spec.only = {"S", "C"};
    spec.within = true;
    const auto part = blocksOf(gammaSite(), spec);
    REQUIRE(part->blocks);
    CHECK(part->blocks->known() == 10 * 5 * 6); // sand and clay: 6 m
    spec.only = {"XX"};
    CHECK(blocksOf(gammaSite(), spec)->problem.find("XX") != std::string::npos);
}

TEST_CASE("A column of values is found by its name without its unit, which is the values' own", "[blocks]") {
    const auto file = std::filesystem::temp_directory_path() / "fox_lead_values.csv";
    writeBytes(file, "easting,northing,level,lead (mg/kg)\n1050,2050,5,10\n1100,2050,5,30\n1150,2060,4,\n1150,2060,x,4\n");
    auto spec = gammaSpec();
    spec.of = BlockSpec::Of::Points, spec.file = file.string();
    for (const char* column : {"lead", "lead (mg/kg)", "LEAD"}) {
        spec.quantity = column;
        const auto made = blocksOf(gammaSite(), spec);
        INFO(made->problem);
        REQUIRE(made->blocks);
        CHECK(made->composites->values.size() == 2);
        CHECK(made->composites->unitOfMeasure == "mg/kg");
        REQUIRE(made->blocks->findings.size() == 1); // the level that is not a number; an empty value is none
        CHECK(made->blocks->findings[0].line == 5);
    }
    spec.quantity = "zinc";
    CHECK_THAT(blocksOf(gammaSite(), spec)->problem, Catch::Contains("zinc") && Catch::Contains("lead (mg/kg)"));
    std::filesystem::remove(file);
}

TEST_CASE("What is above a cut-off has the volume and mass that one can count", "[blocks]") {
    auto p = gammaSite();
    auto s = *p.sequence;
    for (auto& u : s.units) u.values["unit_weight"] = 19.6133; // two tonnes a cubic metre
    p.sequence = part(std::move(s));
    const auto made = blocksOf(p, gammaSpec());
    REQUIRE(made->blocks);
    const auto& m = *made->blocks;
    std::size_t above = 0;
    for (const double v : m.value) above += v > 55.123;
    REQUIRE(above > 0);
    const auto chosen = totalOf(m, *p.sequence, {.above = 55.123});
    CHECK(chosen.blocks == above);
    CHECK(chosen.volume == Approx(double(above) * 400));
    REQUIRE(chosen.mass);
    CHECK(*chosen.mass == Approx(chosen.volume * 2));
    CHECK(totalOf(m, *p.sequence, {.below = 55.123}).blocks == m.known() - above);
    s = *p.sequence;
    s.units[0].values.clear();
    CHECK_FALSE(totalOf(m, s, {.above = 0}).mass);
}

TEST_CASE("Blocks go out as a table, as cells and as NetCDF, all alike", "[blocks]") {
    const auto p = gammaSite();
    auto spec = gammaSpec();
    spec.method = BlockSpec::Method::Kriging;
    const auto made = blocksOf(p, spec);
    REQUIRE(made->blocks);
    const auto& m = *made->blocks;
    const TemporaryFolder folder;
    for (const auto file : {"b.csv", "b.vtu", "b.nc"}) prepareBlockFile(m, *p.sequence, "", folder / file).commit();
    const auto table = readTable(readBytes(folder / "b.csv"), "b.csv");
    CHECK(table.columns == std::vector<std::string>{"easting", "northing", "level", "unit", "value", "variance", "composites"});
    REQUIRE(table.rows.size() == m.known());
    CHECK(*table.number(0, 4) == m.value[0]);
    CHECK(VtuFile(readBytes(folder / "b.vtu"), "b.vtu").cells() == m.known());
    const auto nc = readNetcdf(folder / "b.nc");
    CHECK(nc.at("value").lengths == std::vector<std::size_t>{16, 5, 10});
    CHECK(nc.at("value").values[5] == m.value[5]);
    CHECK(std::isnan(nc.at("value").values.back()));
    CHECK(nc.at("level").values[0] == -3.5);
    // slices: a band a layer of blocks, north up
    prepareBlockFile(m, *p.sequence, "", folder / "b.tif").commit();
    const auto lowest = readRaster(folder / "b.tif").grid; // the first band
    REQUIRE(lowest.frame.columns() == m.count[0]);
    REQUIRE(lowest.frame.rows() == m.count[1]);
    std::size_t known = 0;
    for (std::size_t b = 0; b < std::size_t(m.count[0]) * std::size_t(m.count[1]); ++b) {
        const auto at = m.centre(b);
        const auto v = bilinear(lowest, {at.x, at.y});
        CHECK((v ? *v : 1e99) == Approx(std::isnan(m.value[b]) ? 1e99 : m.value[b]));
        known += v.has_value();
    }
    CHECK(known > 0);
    CHECK_THROWS_AS(prepareBlockFile(m, *p.sequence, "", folder / "b.doc"), UsageError);
    CHECK(blockSpecOf(toJson(spec), {}) == spec);
}
