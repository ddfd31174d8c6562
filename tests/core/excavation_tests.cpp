// Excavations: slopes, volumes and what pays, against closed forms and brute force.
#include "blocks/excavation.h"
#include "blocks/maximum_closure.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"
#include "handover/excavation_files.h"
#include "layered_fixtures.h"
#include "products/excavation_product.h"

#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

Project wideSite() { // the flat site, wide enough for slopes
    auto p = flatSite();
    p.ground = part(groundOf("900 1900 10, 1300 1900 10, 1300 2200 10, 900 2200 10"));
    p.site = part(Site{"", Frame{900, 1900, 1300, 2200, 2}, {}});
    auto s = *p.sequence;
    for (auto& u : s.units) u.values["unit_weight"] = 19.6133;
    p.sequence = part(std::move(s));
    return p;
}

Excavation dug(const Project& p, const ExcavationSpec& spec) {
    ProductCache cache;
    const Progress progress;
    return excavate(excavationInputs(Making(p, cache, progress), spec));
}

ExcavationSpec pit(double size, double level, double degrees) {
    ExcavationSpec spec;
    spec.wanted = ExcavationSpec::Wanted::Floor;
    spec.ring = square(1100 - size / 2, 2050 - size / 2, size);
    spec.level = level;
    spec.slopes[""] = degrees;
    return spec;
}

/// A random ground of a few units in a small grid.
DigGround randomGround(std::mt19937& random, int size) {
    DigGround out;
    out.frame = {0, 0, double(size), double(size), 1};
    out.sequence = std::make_shared<const Sequence>(sequence({"A", "B", "C"}));
    std::uniform_real_distribution<double> level(8, 12), share(0.2, 0.8);
    for (std::size_t i = 0; i < out.frame.cells(); ++i) {
        ModelColumn c;
        c.ground = level(random);
        const double a = c.ground - 4 * share(random), b = a - 4 * share(random);
        c.bases = {a, b};
        out.columns.push_back(c);
    }
    return out;
}

} // namespace

TEST_CASE("A single wanted column is freed by a cone, a square by its frustum", "[excavation]") {
    auto spec = pit(0.5, 4, 45);
    spec.ring = square(1100.5, 2050.5, 1); // the centre of one cell
    spec.cell = 0.5;
    spec.ring = square(1100.1, 2050.1, 0.3);
    const auto cone = dug(wideSite(), spec);
    CHECK(cone.columns == 1);
    CHECK(cone.excavated == Approx(std::numbers::pi * 6 * 6 * 6 / 3).epsilon(0.01));
    CHECK(cone.area == Approx(std::numbers::pi * 36).epsilon(0.04)); // of whole cells
    CHECK_FALSE(cone.reachesEdge);
    auto square30 = pit(30, 4, 45);
    square30.cell = 0.5;
    const auto frustum = dug(wideSite(), square30);
    // corners are rounded: a square, four ramps and four quarters of a cone, from the middles of the outermost cells
    const double side = 29.5, floor = side * side * 6, ramps = 4 * side * 6 * 6 / 2, corners = std::numbers::pi * 36 * 6 / 3;
    CHECK(frustum.wanted == Approx(30.0 * 30 * 6));
    CHECK(frustum.excavated == Approx(floor + ramps + corners).epsilon(0.005));
    CHECK(frustum.waste() == Approx(frustum.excavated - frustum.wanted));
    REQUIRE(frustum.mass);
    CHECK(*frustum.mass == Approx(frustum.excavated * 2));
    double units = 0;
    for (const auto& [u, v] : frustum.byUnit) units += v;
    CHECK(units == Approx(frustum.excavated));
}

TEST_CASE("Each unit stands at its own slope, one over another", "[excavation]") {
    auto spec = pit(0.5, 4, 45); // down through 4 m of sand and 2 m of clay
    spec.ring = square(1100.1, 2050.1, 0.3);
    spec.cell = 0.5;
    spec.slopes = {{"S", 26.565051177}, {"C", 63.434948823}}; // 1 : 2 in sand, 2 : 1 in clay
    const auto d = dug(wideSite(), spec);
    // clay from radius 0 to 1, sand from 1 to 9
    const double clay = std::numbers::pi * 1 * 1 * 2 / 3, sand = std::numbers::pi * 4 / 3 * (1 + 9 + 81);
    CHECK(d.byUnit.at(1) == Approx(clay).epsilon(0.3)); // of few cells
    CHECK(d.byUnit.at(0) == Approx(sand).epsilon(0.02));
    spec.slopes = {{"S", 45}};
    CHECK_THROWS_WITH(dug(wideSite(), spec), Catch::Contains("C is cut"));
    spec.slopes = {{"X", 45}};
    CHECK_THROWS_WITH(dug(wideSite(), spec), Catch::Contains("no unit X"));
}

TEST_CASE("Benches step a slope, and their volumes add up", "[excavation]") {
    auto spec = pit(20, 4, 45);
    spec.cell = 0.5;
    const auto plain = dug(wideSite(), spec);
    spec.bench = ExcavationSpec::Bench{2, 3};
    const auto benched = dug(wideSite(), spec);
    // two berms of 3 m (the third would be at the ground): out to 12 m in place of 6
    const auto out = [&](const Excavation& e) { // how far east of the floor the ground is met
        const auto& f = e.dug.frame;
        int last = 0;
        const int row = int((f.ymax - 2050) / f.cell);
        for (int c = 0; c < f.columns(); ++c)
            if (e.dug.at(c, row) < 10) last = c;
        return f.xmin + (last + 0.5) * f.cell - 1110;
    };
    CHECK(out(plain) == Approx(6).margin(0.8));
    CHECK(out(benched) == Approx(12).margin(0.8));
    REQUIRE(benched.benches.size() == 3);
    double sum = 0;
    for (const auto& b : benched.benches) sum += b.volume;
    CHECK(sum == Approx(benched.excavated));
    CHECK(benched.benches.front().from == 4);
}

TEST_CASE("The masses of benches add up, and what is wanted has a mass whatever it is", "[excavation]") {
    auto p = wideSite();
    auto s = *p.sequence;
    const auto weigh = [&](double step) { // all units alike, or each heavier than the one above
        double weight = 9.80665 * 2;
        for (auto& u : s.units) u.values["unit_weight"] = weight, weight += step;
        p.sequence = part(s);
    };
    auto spec = pit(20, 5, 45);
    spec.bench = ExcavationSpec::Bench{2, 1};
    weigh(0); // 2 t a cubic metre
    const auto even = dug(p, spec);
    CHECK(even.deepest == Approx(5));
    REQUIRE(even.benches.size() > 2);
    double mass = 0;
    for (const auto& b : even.benches) {
        REQUIRE(b.mass);
        CHECK(*b.mass == Approx(2 * b.volume));
        mass += *b.mass;
    }
    CHECK(mass == Approx(*even.mass));
    CHECK(*even.wantedMass == Approx(2 * even.wanted));
    weigh(9.80665); // sand 2, clay 3, gravel 4 t a cubic metre
    const auto layered = dug(p, spec);
    mass = 0;
    for (const auto& b : layered.benches) mass += *b.mass;
    CHECK(mass == Approx(*layered.mass));
    CHECK(layered.benches.front().mass > layered.benches.front().volume * 2.1); // the lowest is partly in clay
    // of what is wanted, 4 m are sand and 1 m is clay
    CHECK(*layered.wantedMass == Approx(layered.wanted * (4 * 2 + 1 * 3) / 5));
    s.units[1].values.clear(); // the clay
    p.sequence = part(s);
    const auto unknown = dug(p, spec);
    CHECK_FALSE(unknown.mass);
    CHECK_FALSE(unknown.wantedMass);
    CHECK_FALSE(unknown.benches.front().mass);
    CHECK(unknown.benches.back().mass); // of sand alone
}

TEST_CASE("Wanted units are freed down to their lowest bases, inside an outline and above a floor", "[excavation]") {
    ExcavationSpec spec;
    spec.units = {"G"};
    spec.insideRing = square(1090, 2040, 20);
    spec.slopes[""] = 45;
    const auto d = dug(wideSite(), spec);
    CHECK(d.columns == 100);
    const auto& f = d.dug.frame;
    CHECK(d.dug.at(int((1100 - f.xmin) / f.cell), int((f.ymax - 2050) / f.cell)) == Approx(0).margin(1e-6)); // the gravel's base
    CHECK(d.wanted > 20 * 20 * 4); // gravel in the slopes counts too
    CHECK(d.wanted == Approx(d.byUnit.at(2)));
    spec.floor = 2;
    const auto higher = dug(wideSite(), spec);
    CHECK(*std::ranges::min_element(higher.dug.values, [](double a, double b) { return std::isnan(b) ? !std::isnan(a) : a < b; })
          == Approx(2));
    spec.units = {"R"};
    CHECK_THROWS_WITH(dug(wideSite(), spec), Catch::Contains("no floor"));
    spec.units = {"G"};
    spec.insideRing = square(900, 1900, 20);
    CHECK(dug(wideSite(), spec).reachesEdge);
    spec.insideRing = square(5000, 5000, 20);
    CHECK_THROWS_WITH(dug(wideSite(), spec), Catch::Contains("Nothing is wanted"));
    spec = pit(30, 12, 45); // above the ground
    CHECK_THROWS_WITH(dug(wideSite(), spec), Catch::Contains("Nothing is wanted"));
    spec = pit(30, 4, 45);
    spec.ring = square(2000, 2000, 10);
    CHECK_THROWS_WITH(dug(wideSite(), spec), Catch::Contains("outside"));
}

TEST_CASE("The dug surface is that of all pairs by brute force, with random grounds, slopes and benches", "[excavation]") {
    std::mt19937 random(9);
    std::uniform_real_distribution<double> slope(0.3, 3), depth(0.5, 6);
    for (int round = 0; round < 12; ++round) {
        const auto ground = randomGround(random, 22);
        SlopeRules rules{{slope(random), slope(random), slope(random)}, {}, 0};
        std::vector<WantedColumn> wanted;
        for (int i = 0; i < 12; ++i) {
            const auto cell = std::size_t(random() % ground.frame.cells());
            wanted.push_back({cell, ground.columns[cell].ground - depth(random), 1});
        }
        rules.deepest = std::ranges::min_element(wanted, {}, &WantedColumn::bottom)->bottom;
        if (round % 2) rules.bench = ExcavationSpec::Bench{1.1, 0.7};
        const auto made = dugSurface(ground, rules, wanted);
        for (std::size_t c = 0; c < ground.frame.cells(); ++c) {
            double least = ground.columns[c].ground;
            for (const auto& w : wanted)
                if (const double level = slopeReaches(ground, rules, w, c); !std::isnan(level)) least = std::min(least, level);
            REQUIRE(made.values[c] == least);
        }
    }
}

TEST_CASE("A slope climbs as small steps along the line climb", "[excavation]") {
    std::mt19937 random(31);
    const auto ground = randomGround(random, 30);
    const SlopeRules rules{{0.4, 1.2, 0.7}, {}, 0};
    int compared = 0;
    for (int i = 0; i < 2000; ++i) {
        const auto from = std::size_t(random() % ground.frame.cells()), to = std::size_t(random() % ground.frame.cells());
        const WantedColumn w{from, ground.columns[from].ground - 5, 1};
        const auto a = ground.frame.centre(int(from % 30), int(from / 30)), b = ground.frame.centre(int(to % 30), int(to / 30));
        double level = w.bottom;
        const int steps = 4000;
        const double length = distance(a, b);
        bool met = false;
        for (int s = 0; s < steps && !met; ++s) {
            const double t = (s + 0.5) / steps;
            const auto column = int(a.x + t * (b.x - a.x)), row = int(30 - (a.y + t * (b.y - a.y)));
            const auto& c = ground.columns[std::size_t(row) * 30 + std::size_t(column)];
            met = level >= c.ground;
            const auto u = level >= c.bases[0] ? 0u : level >= c.bases[1] ? 1u : 2u;
            level += rules.tangents[u] * length / steps;
        }
        const double found = slopeReaches(ground, rules, w, to);
        if (met || level > ground.columns[to].ground - 0.05) continue; // near the ground either may be
        ++compared;
        CHECK(found == Approx(level).margin(0.05));
    }
    CHECK(compared > 30);
}

TEST_CASE("What pays is the best of all sets of wanted columns", "[excavation]") {
    std::mt19937 random(77);
    std::uniform_real_distribution<double> worth(-5, 5);
    for (int round = 0; round < 60; ++round) {
        const std::size_t n = 3 + random() % 9;
        ClosureProblem p;
        for (std::size_t i = 0; i < n; ++i) p.worth.push_back(worth(random));
        for (std::size_t i = 0; i < n; ++i)
            if (const auto j = std::size_t(random() % n); j != i) p.needs.emplace_back(i, j);
        double best = 0;
        for (unsigned set = 0; set < (1u << n); ++set) {
            double sum = 0;
            bool closed = true;
            for (std::size_t i = 0; i < n; ++i) sum += (set >> i & 1) ? p.worth[i] : 0;
            for (const auto& [a, b] : p.needs) closed = closed && !((set >> a & 1) && !(set >> b & 1));
            if (closed) best = std::max(best, sum);
        }
        const auto found = maximumClosure(p);
        double sum = 0;
        for (std::size_t i = 0; i < n; ++i) sum += found[i] ? p.worth[i] : 0;
        CHECK(sum == Approx(best).margin(1e-9));
        for (const auto& [a, b] : p.needs) CHECK((!found[a] || found[b]));
    }
}

TEST_CASE("With worth and cost only the columns that pay are freed", "[excavation]") {
    ExcavationSpec spec;
    spec.units = {"S"}; // at the surface
    spec.insideRing = square(1096, 2046, 8);
    spec.slopes[""] = 45;
    spec.cell = 2;
    const auto all = dug(wideSite(), spec);
    spec.worth = ExcavationSpec::Worth{10, 1};
    const auto rich = dug(wideSite(), spec);
    CHECK(rich.columns == all.columns);
    REQUIRE(rich.profit);
    CHECK(*rich.profit == Approx(10 * 8 * 8 * 4 - rich.excavated));
    spec.worth = ExcavationSpec::Worth{1, 1000};
    const auto poor = dug(wideSite(), spec);
    CHECK(poor.columns == 0);
    CHECK(poor.excavated == 0);
    CHECK(*poor.profit == 0);
    // the best of all subsets, dug and counted
    spec.insideRing = square(1096, 2046, 4);
    spec.worth = ExcavationSpec::Worth{1, 0.62};
    ProductCache cache;
    const Progress progress;
    const auto p = wideSite();
    const auto in = excavationInputs(Making(p, cache, progress), spec);
    const auto best = excavate(in);
    auto frame = in.site;
    frame.cell = 2;
    const auto ground = digGround(*in.model, frame);
    auto rules = slopeRules(spec, *p.sequence);
    std::vector<WantedColumn> columns;
    for (std::size_t i = 0; i < frame.cells(); ++i) {
        const auto c = frame.centre(int(i % std::size_t(frame.columns())), int(i / std::size_t(frame.columns())));
        if (contains(spec.insideRing, c)) columns.push_back({i, 6, 4 * 4});
    }
    REQUIRE(columns.size() == 4);
    double most = 0;
    for (unsigned set = 0; set < 16; ++set) {
        std::vector<WantedColumn> some;
        for (std::size_t i = 0; i < 4; ++i)
            if (set >> i & 1) some.push_back(columns[i]);
        const auto surface = dugSurface(ground, rules, some);
        double cost = 0;
        for (std::size_t i = 0; i < surface.values.size(); ++i)
            if (surface.values[i] < ground.columns[i].ground) cost += (ground.columns[i].ground - surface.values[i]) * 4;
        most = std::max(most, double(some.size()) * 16 - 0.62 * cost);
    }
    CHECK(*best.profit == Approx(most).margin(1e-6));
}

TEST_CASE("Excavations go out as a grid, triangles and lines of benches", "[excavation]") {
    auto spec = pit(20, 4, 45);
    spec.bench = ExcavationSpec::Bench{2, 3};
    const auto d = dug(wideSite(), spec);
    const TemporaryFolder folder;
    prepareExcavationFiles(d, "EPSG:25831", folder.path()).commit();
    CHECK(readRaster(folder / "dug.tif").grid.frame == d.dug.frame);
    CHECK(readTriangleMesh(folder / "dug.xml").triangles.size() > 1000);
    const auto lines = readVector(folder / "bench.gpkg");
    REQUIRE(lines.size() == 1);
    CHECK(lines[0].features.size() >= 2);
    // only in what is dug, or at its edge
    for (const auto& feature : lines[0].features)
        for (const auto& p : feature.parts[0]) {
            const auto& f = d.depth.frame;
            const int c = int((p.x - f.xmin) / f.cell), r = int((f.ymax - p.y) / f.cell);
            double deepest = 0;
            for (int dr = -2; dr <= 2; ++dr)
                for (int dc = -2; dc <= 2; ++dc)
                    if (c + dc >= 0 && r + dr >= 0 && c + dc < f.columns() && r + dr < f.rows())
                        deepest = std::fmax(deepest, d.depth.at(c + dc, r + dr));
            CHECK(deepest > 0);
        }
}

TEST_CASE("Specifications of excavations are read, and refused with what is wrong", "[excavation]") {
    const auto read = [](const char* rest) {
        return excavationSpecOf(std::string(R"({"format":"fox-cellar-excavation","version":1,)") + rest + "}", "/folder");
    };
    const auto spec = read(
        R"("wanted":{"blocks":"gamma","above":40},"slope":{"TL":40,"MS":63},"bench":{"height":5,"berm":2},"inside":{"file":"a.gpkg"},"factor":{"TL":1.25},"worth":{"value":5,"cost":1})");
    CHECK(spec.blocks == "gamma");
    CHECK(spec.slopes.at("MS") == 63);
    CHECK(spec.insideFile == "/folder/a.gpkg");
    CHECK_THROWS_AS(read(R"("wanted":{"units":[]},"slope":45)"), UsageError);
    CHECK_THROWS_AS(read(R"("wanted":{"units":["A"]},"slope":0)"), UsageError);
    CHECK_THROWS_AS(read(R"("wanted":{"units":["A"]},"slope":95)"), UsageError);
    CHECK_THROWS_AS(read(R"("wanted":{"blocks":"g"},"slope":45)"), UsageError);
    CHECK_THROWS_AS(read(R"("wanted":{"units":["A"]})"), FileError);
    CHECK_THROWS_AS(excavationSpecOf("{}", {}), FileError);
}
