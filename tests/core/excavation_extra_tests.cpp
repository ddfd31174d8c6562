// Excavations with sectors, limits, water, cuttings, wide floors, one after another, and in equally likely models.
#include "handover/excavation_files.h"
#include "layered_fixtures.h"
#include "products/excavation_product.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

/// Level ground at 10 m, 400 m by 300 m; sand to 6 m, clay to 4 m, gravel to 0 m, rock.
Project levelSite() {
    auto p = flatSite();
    p.ground = part(groundOf("900 1900 10, 1300 1900 10, 1300 2200 10, 900 2200 10"));
    p.site = part(Site{"", Frame{900, 1900, 1300, 2200, 2}, {}});
    return p;
}

ExcavationSpec floorPit(double size, double level, double degrees) {
    ExcavationSpec spec;
    spec.name = "pit";
    spec.wanted = ExcavationSpec::Wanted::Floor;
    spec.ring = square(1100 - size / 2, 2050 - size / 2, size);
    spec.level = level;
    spec.slopes[""] = degrees;
    spec.cell = 0.5;
    return spec;
}

ExcavationSpec cutting(double width, double from, double to) {
    ExcavationSpec spec;
    spec.name = "cutting";
    spec.wanted = ExcavationSpec::Wanted::Line;
    spec.line = {{1050, 2050, from}, {1150, 2050, to}};
    spec.lineWidth = width;
    spec.slopes[""] = 89.9;
    spec.cell = 0.5;
    return spec;
}

ExcavationInputs inputsFor(const Project& p, const ExcavationSpec& spec) {
    static ProductCache cache;
    static const Progress progress;
    return excavationInputs(Making(p, cache, progress), spec);
}
Excavation digOf(const Project& p, const ExcavationSpec& spec) { return excavate(inputsFor(p, spec)); }

} // namespace

TEST_CASE("Slopes in a sector stand otherwise: half a cone at 1 : 2 and half at 1 : 1", "[excavation]") {
    auto spec = floorPit(0.5, 4, 45);
    spec.ring = square(1100.1, 2050.1, 0.3);         // the centre of one cell
    spec.sectors = {{0, 180, {{"", 26.565051177}}}}; // towards the east
    const auto cone = digOf(levelSite(), spec);
    CHECK(cone.excavated == Approx(std::numbers::pi * 216 / 3 * (4 + 1) / 2).epsilon(0.02));
    spec.sectors = {{270, 90, {{"", 26.565051177}}}}; // past north
    CHECK(digOf(levelSite(), spec).excavated == Approx(cone.excavated).epsilon(1e-6));
    spec.sectors = {{0, 180, {{"X", 30}}}};
    CHECK_THROWS_WITH(digOf(levelSite(), spec), Catch::Contains("no unit X"));
}

TEST_CASE("With sectors the dug surface is still that of all pairs", "[excavation][random]") {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> slope(0.3, 3), level(8, 12);
    for (int round = 0; round < 6; ++round) {
        DigGround ground{{0, 0, 20, 20, 1}, {}, std::make_shared<const Sequence>(sequence({"A", "B"}))};
        for (std::size_t i = 0; i < ground.frame.cells(); ++i) {
            ModelColumn c;
            c.ground = level(random), c.bases = {c.ground - 2};
            ground.columns.push_back(c);
        }
        SlopeRules rules{{slope(random), slope(random)}, {}, 0, {{20, 130, {slope(random), slope(random)}}}};
        std::vector<WantedColumn> wanted;
        for (int i = 0; i < 8; ++i) {
            const auto cell = std::size_t(random() % ground.frame.cells());
            wanted.push_back({cell, ground.columns[cell].ground - 1 - double(i % 4), 1});
        }
        const auto made = dugSurface(ground, rules, wanted);
        for (std::size_t c = 0; c < ground.frame.cells(); ++c) {
            double least = ground.columns[c].ground;
            for (const auto& w : wanted) {
                // by small steps along the line, with the tangent of its direction
                const auto from = ground.frame.centre(int(w.cell % 20), int(w.cell / 20)),
                           to = ground.frame.centre(int(c % 20), int(c / 20));
                double azimuth = std::atan2(to.x - from.x, to.y - from.y) * 180 / std::numbers::pi;
                if (azimuth < 0) azimuth += 360;
                const auto& tangents = azimuth >= 20 && azimuth < 130 ? rules.sectors[0].tangents : rules.tangents;
                CHECK(&rules.tangentsTowards(azimuth) == &tangents);
                if (const double at = slopeReaches(ground, rules, w, c); !std::isnan(at)) least = std::min(least, at);
            }
            REQUIRE(made.values[c] == least);
        }
    }
}

TEST_CASE("A pit is cut off upright at the limit, and how long that is is said", "[excavation]") {
    auto spec = floorPit(30, 4, 45);
    const auto free = digOf(levelSite(), spec);
    CHECK(free.limitLength == 0);
    spec.limitRing = {{950, 1950}, {1117, 1950}, {1117, 2150}, {950, 2150}}; // 2 m beyond the floor
    const auto cut = digOf(levelSite(), spec);
    CHECK(cut.limitLength == Approx(30 + 2 * std::sqrt(36.0 - 4)).margin(1.5));
    double beyond = 0;
    const auto& f = free.dug.frame;
    for (int r = 0; r < f.rows(); ++r)
        for (int c = 0; c < f.columns(); ++c)
            if (const bool outside = f.centre(c, r).x > 1117; outside) {
                CHECK(!(cut.depth.at(c, r) > 0));
                beyond += free.depth.at(c, r) > 0 ? free.depth.at(c, r) * 0.25 : 0;
            }
    CHECK(cut.excavated == Approx(free.excavated - beyond));
    CHECK(cut.wanted == Approx(free.wanted));
    spec.limitRing = square(950, 1950, 10); // what is wanted lies outside
    CHECK_THROWS_WITH(digOf(levelSite(), spec), Catch::Contains("Nothing is wanted"));
}

TEST_CASE("What lies below the water is that of the lower part of a frustum", "[excavation]") {
    auto spec = floorPit(30, 4, 45);
    CHECK_FALSE(digOf(levelSite(), spec).belowWater);
    spec.waterLevel = 7;
    const auto d = digOf(levelSite(), spec);
    REQUIRE(d.belowWater);
    const double side = 29.5;
    CHECK(*d.belowWater == Approx(side * side * 3 + 4 * side * 9 / 2 + std::numbers::pi * 27 / 3).epsilon(0.01));
    spec.waterLevel = 100; // all of it
    CHECK(*digOf(levelSite(), spec).belowWater == Approx(d.excavated));
    spec.waterLevel.reset();
    spec.water = "May";
    CHECK_THROWS_WITH(digOf(levelSite(), spec), Catch::Contains("water surface \"May\""));
}

TEST_CASE("A cutting goes down to its formation, which slopes along its line", "[excavation]") {
    const auto d = digOf(levelSite(), cutting(10, 4, 6));
    CHECK(d.wanted == Approx(10.0 * 100 * 5).epsilon(0.005)); // 4 to 6 m deep
    CHECK(d.excavated == Approx(d.wanted).epsilon(0.06));     // upright sides, half a cell each
    const auto& f = d.dug.frame;
    const auto at = [&](double x, double y) { return d.dug.at(int((x - f.xmin) / f.cell), int((f.ymax - y) / f.cell)); };
    CHECK(at(1075.25, 2050.25) == Approx(4.5).margin(0.02));
    CHECK(at(1040, 2050.25) == 10); // beyond its end
    auto bent = cutting(10, 5, 5);
    bent.line.push_back({1150, 2120, 5});
    CHECK(digOf(levelSite(), bent).wanted > (100 + 70 - 5) * 10 * 5 * 0.99);
}

TEST_CASE("A narrow floor is made as wide as asked for, a wide one stays", "[excavation]") {
    auto narrow = cutting(2, 5, 5);
    const auto before = digOf(levelSite(), narrow);
    narrow.floorWidth = 10;
    const auto after = digOf(levelSite(), narrow);
    CHECK(after.wanted == Approx(before.wanted)); // no more is wanted
    // discs of 10 m along 100 m: a strip with half a disc at either end; by the middles of cells half a cell more on each side
    const double strip = (100 * 10 + std::numbers::pi * 25) * 5;
    CHECK(after.excavated >= strip * 0.98);
    CHECK(after.excavated <= (100 * 11.5 + std::numbers::pi * 33) * 5);
    const auto& f = after.dug.frame;
    for (double x = 1050.25; x < 1150; x += 0.5) { // everywhere as wide as asked for
        int dug = 0;
        for (int r = 0; r < f.rows(); ++r) dug += after.dug.at(int((x - f.xmin) / f.cell), r) < 5 + 1e-6;
        CHECK(dug * f.cell >= 9.5);
    }
    auto wide = floorPit(30, 4, 60);
    const auto plain = digOf(levelSite(), wide);
    wide.floorWidth = 8;
    const auto same = digOf(levelSite(), wide);
    CHECK(same.excavated == Approx(plain.excavated));
    wide.worth = ExcavationSpec::Worth{1, 1};
    CHECK_THROWS_WITH(digOf(levelSite(), wide), Catch::Contains("least width"));
}

TEST_CASE("One excavation after another digs only what is left", "[excavation]") {
    auto p = levelSite();
    auto first = floorPit(40, 7, 89.9), second = floorPit(20, 4, 45);
    first.name = "first", second.name = "second", second.after = "first";
    auto alone = second;
    alone.name = "alone", alone.after.clear();
    p.excavations = part(std::vector{first, second, alone});
    const auto set = Products().of(p, {}, {ProductKind::Excavations});
    const auto& a = *set->excavations[0];
    const auto& b = *set->excavations[1];
    REQUIRE(a.dig);
    INFO(b.problem);
    REQUIRE(b.dig);
    // the second within the first: 3 m deep, its slopes end at the first's floor
    const double side = 19.5;
    CHECK(b.dig->excavated == Approx(side * side * 3 + 4 * side * 9 / 2 + std::numbers::pi * 27 / 3).epsilon(0.02));
    CHECK(b.dig->byUnit.at(0) == Approx(b.dig->excavated - b.dig->byUnit.at(1)));
    CHECK(a.dig->excavated + b.dig->excavated > set->excavations[2]->dig->excavated);
    // a circle, and one that is not there
    auto circle = *p.excavations;
    circle[0].after = "second";
    p.excavations = part(circle);
    CHECK_THAT(Products().of(p, {}, {ProductKind::Excavations})->excavations[0]->problem, Catch::Contains("waits for"));
    circle[0].after = "nothing";
    p.excavations = part(circle);
    CHECK_THAT(Products().of(p, {}, {ProductKind::Excavations})->excavations[0]->problem, Catch::Contains("\"nothing\""));
}

TEST_CASE("The range of a pit does not depend on what of the site around it is evaluated", "[excavation]") {
    const auto p = unevenSite(3);
    ExcavationSpec spec;
    spec.wanted = ExcavationSpec::Wanted::Floor;
    spec.ring = square(1150, 2150, 20);
    spec.level = 24;
    for (const auto& u : p.sequence->units) spec.slopes[u.code] = 60;
    spec.slopes["S"] = 20; // so that models differ
    spec.cell = 5;
    const auto inSite = [&](const Frame& site) {
        auto in = inputsFor(p, spec);
        in.site = site;
        return in;
    };
    const auto wide = inSite({900, 1900, 1500, 2500, 5});
    const auto dig = excavate(wide);
    CHECK(dig.area < 0.2 * 600 * 600);
    const auto inWide = excavationRange(wide, {12, 1});                                  // about the pit alone
    const auto inNarrow = excavationRange(inSite({1080, 2080, 1230, 2230, 5}), {12, 1}); // all of it
    CHECK(inWide.excavated.p10 < inWide.excavated.p90);
    CHECK(inWide.excavated.p10 == Approx(inNarrow.excavated.p10).epsilon(1e-5)); // levels are kept in single precision
    CHECK(inWide.excavated.p90 == Approx(inNarrow.excavated.p90).epsilon(1e-5));
    CHECK(inWide.waste.p50 == Approx(inNarrow.waste.p50).epsilon(1e-5));
}

TEST_CASE("The range of an excavation is that of its models: none for a floor, some for a unit", "[excavation]") {
    const auto p = unevenSite(2);
    ExcavationSpec spec;
    spec.name = "sand";
    spec.units = {"S"};
    spec.insideRing = square(1100, 2100, 60);
    spec.slopes[""] = 45;
    spec.cell = 5;
    const auto in = inputsFor(p, spec);
    const auto range = excavationRange(in, {30, 1});
    CHECK(range.count == 30);
    CHECK(range.wanted.p10 <= range.wanted.p50);
    CHECK(range.wanted.p50 <= range.wanted.p90);
    CHECK(range.wanted.p90 > range.wanted.p10 * 1.001);
    const auto again = excavationRange(in, {30, 1});
    CHECK(again.excavated.p50 == range.excavated.p50);
    auto fixed = spec;
    fixed.wanted = ExcavationSpec::Wanted::Floor;
    fixed.ring = square(1150, 2150, 20);
    fixed.level = 25;
    const auto one = inputsFor(p, fixed);
    const auto same = excavationRange(one, {10, 1});
    CHECK(same.excavated.p10 == Approx(excavate(one).excavated));
    CHECK(same.excavated.p90 == Approx(same.excavated.p10));
    const auto j = nlohmann::json::parse(excavationSummary(excavate(in), *p.sequence, range));
    CHECK(j.at("range").at("realisations") == 30);
    CHECK(j.at("range").at("waste").at("p90").get<double>() >= j.at("range").at("waste").at("p10").get<double>());
}

TEST_CASE("All that an excavation can be asked for comes back from its JSON", "[excavation]") {
    auto spec = cutting(12, 4, 6);
    spec.sectors = {{350, 20, {{"", 30}, {"C", 50}}}};
    spec.floorWidth = 6, spec.waterLevel = 3.5, spec.after = "first", spec.realisations = 40;
    spec.limitRing = square(950, 1950, 300);
    CHECK(excavationSpecOf(toJson(spec), {}) == spec);
    spec.waterLevel.reset();
    spec.water = "May";
    CHECK(excavationSpecOf(toJson(spec), {}) == spec);
    const auto read = [](const char* rest) {
        return excavationSpecOf(std::string(R"({"format":"fox-cellar-excavation","version":1,"slope":45,)") + rest + "}", "/");
    };
    CHECK_THROWS_AS(read(R"("wanted":{"line":[[1,2,3]],"width":5})"), UsageError);
    CHECK_THROWS_AS(read(R"("wanted":{"line":[[1,2,3],[4,5,6]],"width":0})"), UsageError);
    CHECK_THROWS_AS(read(R"("wanted":{"units":["A"]},"sectors":[{"from":10,"to":10,"slope":30}])"), UsageError);
    CHECK_THROWS_AS(read(R"("wanted":{"units":["A"]},"realisations":1.5)"), UsageError);
    CHECK_THROWS_AS(read(R"("wanted":{"units":["A"]},"floor_width":-1)"), UsageError);
}
