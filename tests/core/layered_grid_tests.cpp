// Models as layers on a grid: levels, thin cells, values, checks.
#include "layered_fixtures.h"
#include "layers/layer_stack.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// A column of four units with their bases at 20, 15 and 5, ground at 30.
ModelColumn column(double ground = 30, std::vector<double> bases = {20, 15, 5}) {
    ModelColumn c;
    c.ground = ground, c.bases = std::move(bases);
    return c;
}

std::vector<double> levelsOf(const std::vector<LayerRule>& rules, const ModelColumn& c, double bottom = -10) {
    const LayerStack stack(sequence({"S", "C", "G", "R"}), rules, false);
    std::vector<double> levels(stack.layers() + 1), given(rules.size(), bottom);
    stack.levels(c.ground, c, given, levels);
    return levels;
}

LayerRule rule(std::vector<std::string> units) { return {"", std::move(units)}; }
LayerRule toLevel(LayerRule r = {}) {
    r.bottom = FieldSource{FieldSource::From::Number, -10, ""};
    return r;
}

using Levels = std::vector<double>;

} // namespace

TEST_CASE("A layer's bottom is the base of its oldest unit; units that no layer names go with the next older one", "[layers]") {
    CHECK(levelsOf({rule({"S"}), rule({"C"}), rule({"G"}), toLevel(rule({"R"}))}, column()) == Levels{30, 20, 15, 5, -10});
    CHECK(levelsOf({rule({"S", "C"}), toLevel(rule({"R"}))}, column()) == Levels{30, 15, -10}); // G goes with the rock
    CHECK(levelsOf({rule({"C"}), rule({"G"}), toLevel()}, column()) == Levels{30, 15, 5, -10}); // S goes with C, R with the last
}

TEST_CASE("Parts, thicknesses and distances part a column", "[layers]") {
    auto parted = rule({"S"});
    parted.parts = {1, 3};
    CHECK(levelsOf({parted, toLevel()}, column()) == Levels{30, 27.5, 20, -10});
    auto top = rule({"S"});
    top.thickness = 4;
    CHECK(levelsOf({top, rule({"S"}), toLevel()}, column()) == Levels{30, 26, 20, -10});
    top.thickness = 40; // all, if there is less
    CHECK(levelsOf({top, rule({"S"}), toLevel()}, column()) == Levels{30, 20, 20, -10});
    LayerRule below;
    below.below = 7;
    CHECK(levelsOf({rule({"S"}), below}, column()) == Levels{30, 20, 13});
    LayerRule evenly, above;
    evenly.evenly = 2, above.above = 3;
    CHECK(levelsOf({rule({"S"}), evenly, rule({"G"}), toLevel()}, column()) == Levels{30, 20, 15, 10, 5, -10});
    CHECK(levelsOf({rule({"S"}), above, toLevel()}, column()) == Levels{30, 20, -7, -10});
    CHECK(levelsOf({rule({"S"}), evenly, above, toLevel()}, column()) == Levels{30, 20, 11, 2, -7, -10});
}

TEST_CASE("A bottom is never above its top, and what was asked for is counted", "[layers]") {
    const LayerStack stack(sequence({"S", "C", "G", "R"}), {toLevel(rule({"S"})), toLevel(rule({"R"}))}, false);
    std::vector<double> levels(3);
    std::vector<char> crossing(2);
    CHECK(stack.levels(30, column(), std::vector{10.0, 12.0}, levels, crossing) == 1);
    CHECK(levels == Levels{30, 10, 10});
    CHECK(crossing == std::vector<char>{0, 1});
    CHECK(stack.levels(30, column(), std::vector{kNoValue, 12.0}, levels) == 0);
    CHECK(std::isnan(levels[1]));
    CHECK(std::isnan(levels[2])); // nothing is known under what is not known
}

TEST_CASE("Layers that can't be are refused with what is wrong", "[layers]") {
    const auto s = sequence({"S", "C", "G", "R"});
    const auto refused = [&](std::vector<LayerRule> rules) {
        try {
            const LayerStack stack(s, std::move(rules), false);
            return std::string("nothing");
        } catch (const Error& e) {
            return std::string(e.what());
        }
    };
    LayerRule evenly;
    evenly.evenly = 2;
    CHECK(refused({rule({"X"}), toLevel()}).find("no unit X") != std::string::npos);
    CHECK(refused({rule({"G"}), rule({"S"}), toLevel()}).find("younger") != std::string::npos);
    CHECK(refused({rule({"S"}), rule({"S"}), toLevel()}).find("all of which") != std::string::npos);
    CHECK(refused({rule({"S"}), rule({"R"})}).find("needs a bottom") != std::string::npos);
    CHECK(refused({rule({"S"}), LayerRule{"x"}, toLevel()}).find("neither units") != std::string::npos);
    CHECK(refused({rule({"S"}), evenly}).find("lowest") != std::string::npos);
    CHECK(refused({rule({"S"}), toLevel()}) == "nothing");
    CHECK_NOTHROW(LayerStack(s, {rule({"S"}), rule({"R"})}, true)); // the oldest has a floor
}

TEST_CASE("Thin layers: whatever the column, each rule keeps its promise", "[layers]") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> thickness(0, 1);
    for (int i = 0; i < 500; ++i) {
        Levels before{100};
        const int layers = 1 + i % 8;
        for (int k = 0; k < layers; ++k) before.push_back(before.back() - (i % 3 == 0 && k % 2 == 0 ? 0 : thickness(random)));
        std::vector<char> passive(std::size_t(layers), 0);
        int thin = 0;
        for (int k = 0; k < layers; ++k) thin += before[std::size_t(k)] - before[std::size_t(k) + 1] < 0.4;
        auto inactive = before, thick = before, joined = before;
        CHECK(mendThin({0.4, CellAnswer::Passive}, inactive, passive) == thin);
        CHECK(inactive == before);
        CHECK(std::ranges::count(passive, 1) == thin);
        CHECK(mendThin({0.4, CellAnswer::Thicken}, thick, passive) == thin);
        CHECK(std::ranges::count(passive, 1) == 0);
        for (std::size_t k = 0; k < passive.size(); ++k) {
            CHECK(thick[k] - thick[k + 1] >= 0.4 - 1e-9);
            CHECK(thick[k + 1] <= before[k + 1]); // bottoms only go down
            // and no further than the layers over them need
            const double needed = thick[k] - 0.4;
            CHECK(thick[k + 1] == std::min(before[k + 1], needed));
        }
        CHECK(mendThin({0.4, CellAnswer::Join}, joined, passive) == thin);
        CHECK(joined.front() == before.front());
        if (thin < layers) CHECK(joined.back() == before.back());
        for (std::size_t k = 0; k < passive.size(); ++k) {
            const double left = joined[k] - joined[k + 1];
            if (passive[k] && thin < layers) CHECK(left == 0);
            if (!passive[k]) CHECK(left >= before[k] - before[k + 1] - 1e-12);
        }
    }
}

TEST_CASE("A flat site in layers has the volumes and values that one can work out", "[layers]") {
    auto spec = flatSpec();
    spec.values = {{"conductivity", {FieldSource::From::Units, 0, ""}},
                   {"vertical_conductivity", {FieldSource::From::Units, 0, ""}},
                   {"recharge", {FieldSource::From::Number, 2e-9, ""}},
                   {"starting_head", {FieldSource::From::Number, 8, ""}}};
    const auto made = layersOf(flatSite(), spec);
    REQUIRE(made->grid);
    const auto& g = *made->grid;
    CHECK(g.cells() == 800);
    CHECK(g.active() == 800);
    CHECK(g.volume(0) == Approx(200 * 100 * 4));
    CHECK(g.volume(1) == Approx(200 * 100 * 2));
    CHECK(g.volume(3) == Approx(200 * 100 * 10));
    CHECK(g.values.at("conductivity")[g.index(1, 7)] == 1e-8);
    CHECK(g.values.at("recharge")[g.index(0, 7)] == 2e-9);
    CHECK(g.values.at("recharge")[g.index(1, 7)] == 0);
    CHECK(g.noValues == 200); // the rock has no vertical conductivity
    CHECK(g.count(CellMark::NoValue) == CellCheck{200, 20000});
    CHECK(g.count(CellMark::Alone).cells == 0);
    CHECK(g.count(CellMark::Ratio).cells == 0); // 2 to 10 m is a ratio of 5, not over it
    // two units in one layer: by thickness along, harmonic across
    spec.layers = {{"both", {"S", "C"}}, {"rest"}};
    spec.layers.back().bottom = FieldSource{FieldSource::From::Number, -10, ""};
    const auto two = layersOf(flatSite(), spec);
    REQUIRE(two->grid);
    CHECK(two->grid->values.at("conductivity").front() == Approx((4 * 1e-4 + 2 * 1e-8) / 6));
    CHECK(two->grid->values.at("vertical_conductivity").front() == Approx(6 / (4 / 1e-5 + 2 / 1e-9)));
    CHECK(two->grid->unit.front() == 0);
}

TEST_CASE("Cells outside the area or the ground are outside, and heads along a line lie in the highest active cell", "[layers]") {
    auto spec = flatSpec();
    spec.areaRing = {{1000, 2000}, {1100, 2000}, {1100, 2100}, {1000, 2100}};
    spec.grid = PlanGrid({1000, 2150}, 0, std::vector<double>(20, 10), std::vector<double>(15, 10)); // 50 m beyond the ground
    spec.thin = {3, CellAnswer::Passive};
    spec.values = {{"fixed_head", {FieldSource::From::Line, 0, "", "", {}, false, {{1000, 2055, 9}, {1200, 2055, 5}}}},
                   {"recharge", {FieldSource::From::Number, 1e-9, ""}}};
    const auto made = layersOf(flatSite(), spec);
    REQUIRE(made->grid);
    const auto& g = *made->grid;
    CHECK(g.state[g.index(0, g.plan.index(0, 0))] == CellState::Outside);   // no ground
    CHECK(g.state[g.index(0, g.plan.index(15, 10))] == CellState::Outside); // not in the area
    CHECK(g.top[g.index(0, g.plan.index(15, 10))] == Approx(10));
    CHECK(g.state[g.index(1, g.plan.index(3, 10))] == CellState::Passive); // clay of 2 m
    CHECK(g.count(CellMark::Thin).cells == 100);
    std::size_t heads = 0;
    for (std::size_t i = 0; i < g.cells(); ++i) heads += !std::isnan(g.values.at("fixed_head")[i]);
    CHECK(heads == 10); // half of the line is in the area
    const auto at = g.plan.index(4, 9);
    CHECK(g.values.at("fixed_head")[g.index(0, at)] == Approx(9 - 4 * 0.225)); // in the middle of the fifth cell of twenty
    CHECK(g.noValues == 0);
}

TEST_CASE("Alone, missing and ratios are found as counting by hand finds them", "[layers]") {
    LayeredGrid g;
    g.plan = PlanGrid({0, 30}, 0, {10, 10, 10}, {10, 10, 10});
    g.layers = {"a", "b"};
    g.top.assign(18, 10), g.bottom.assign(18, 9);
    g.state.assign(18, CellState::Active), g.unit.assign(18, 0), g.marks.assign(18, 0);
    for (std::size_t i = 9; i < 18; ++i) g.top[i] = 9, g.bottom[i] = 8;
    g.state[g.index(0, 4)] = CellState::Passive; // the middle of nine
    g.bottom[g.index(1, 0)] = 3;                 // six metres under one of one metre
    markCells(g);
    CHECK(g.count(CellMark::Missing) == CellCheck{1, 100});
    CHECK(g.count(CellMark::Ratio) == CellCheck{2, 100});
    CHECK(g.count(CellMark::Alone).cells == 0);
    std::ranges::fill(g.state, CellState::Outside);
    g.state[g.index(1, 8)] = CellState::Active;
    markCells(g);
    CHECK(g.count(CellMark::Alone).cells == 1);
    g.state[g.index(0, 8)] = CellState::Active;
    markCells(g);
    CHECK(g.count(CellMark::Alone).cells == 0);
}

TEST_CASE("Missing cells are filled and lonely ones dropped where that is asked for", "[layers]") {
    // a clay that is absent in the hole in the middle, over a sand that is a lens in one cell
    auto p = flatSite();
    auto holes = *p.holes;
    holes.push_back(hole("B5", 1105, 2055, 10, {{4, "S"}, {10, "G"}, {14, "R"}}));
    giveNames(holes);
    p.holes = part(std::move(holes));
    auto spec = flatSpec();
    spec.thin = {1, CellAnswer::Passive};
    const auto before = layersOf(p, spec);
    REQUIRE(before->grid);
    const auto passive = std::ranges::count(before->grid->state, CellState::Passive);
    REQUIRE(passive > 0);
    const auto missing = before->grid->count(CellMark::Missing).cells;
    spec.answers.fillMissing = spec.answers.dropAlone = true;
    const auto after = layersOf(p, spec);
    REQUIRE(after->grid);
    const auto& g = *after->grid;
    CHECK(g.count(CellMark::Missing).cells == 0);
    CHECK(g.count(CellMark::Alone).cells == 0);
    CHECK(std::ranges::count(g.state, CellState::Passive) == passive - std::ptrdiff_t(missing));
    for (std::size_t c = 0; c < g.plan.cells(); ++c) {
        CHECK(g.bottom[g.index(3, c)] == -10);
        for (std::size_t k = 0; k < 4; ++k) {
            REQUIRE(g.thickness(g.index(k, c)) >= 0);
            if (k > 0) REQUIRE(g.top[g.index(k, c)] == g.bottom[g.index(k - 1, c)]);
        }
    }
}

TEST_CASE("What a rule for thin cells moves is what the cells come to", "[layers]") {
    auto spec = flatSpec();
    spec.thin = {3, CellAnswer::Passive}; // clay of 2 m
    const auto made = layersOf(flatSite(), spec);
    REQUIRE(made->grid);
    CHECK(volumeMoved(*made->grid, CellMark::Thin, CellAnswer::Passive) == 0);
    CHECK(volumeMoved(*made->grid, CellMark::Thin, CellAnswer::Thicken) == Approx(200 * 100 * 1));
    CHECK(volumeMoved(*made->grid, CellMark::Thin, CellAnswer::Join) == Approx(200 * 100 * 2));
    for (const auto then : {CellAnswer::Thicken, CellAnswer::Join}) {
        spec.thin.then = then;
        const auto mended = layersOf(flatSite(), spec);
        double moved = 0;
        for (std::size_t c = 0; c < made->grid->plan.cells(); ++c)
            moved += std::abs(mended->grid->thickness(mended->grid->index(1, c)) - made->grid->thickness(made->grid->index(1, c)))
                     * 100;
        CHECK(moved == Approx(volumeMoved(*made->grid, CellMark::Thin, then)));
    }
}

TEST_CASE("Layers of uneven sites: no cell is inverted, columns are closed, and volumes come to those of the units", "[layers]") {
    for (const unsigned seed : {1u, 2u, 3u}) {
        const auto site = unevenSite(seed);
        const auto model = Products().of(site, {}, Wanted{})->model;
        std::vector<double> errors;
        for (const double cell : {20.0, 5.0}) {
            auto spec = flatSpec();
            spec.grid = PlanGrid({1020, 2280}, 0, std::vector<double>(std::size_t(360 / cell), cell),
                                 std::vector<double>(std::size_t(260 / cell), cell));
            spec.layers[2].parts = {1, 2};
            const auto made = layersOf(site, spec);
            REQUIRE(made->grid);
            const auto& g = *made->grid;
            for (std::size_t c = 0; c < g.plan.cells(); ++c) {
                const auto column = model->columnAt(
                    g.plan.centre(int(c % std::size_t(g.plan.columns())), int(c / std::size_t(g.plan.columns()))));
                CHECK(g.top[g.index(0, c)] == column.ground);
                CHECK(g.bottom[g.index(4, c)] == -10);
                for (std::size_t k = 0; k < 5; ++k) {
                    REQUIRE(g.thickness(g.index(k, c)) >= 0);
                    if (k > 0) REQUIRE(g.top[g.index(k, c)] == g.bottom[g.index(k - 1, c)]);
                }
                CHECK(g.bottom[g.index(1, c)] == column.bases[1]);
            }
            // against the model's own volume at 1 m
            const auto fine = sampleModel(*model, {1020, 2020, 1380, 2280, 1});
            double exact = 0, found = g.volume(0);
            for (std::size_t i = 0; i < fine.ground.values.size(); ++i) exact += fine.ground.values[i] - fine.bases[0].values[i];
            errors.push_back(std::abs(found - exact) / exact);
        }
        CHECK(errors[0] < 0.05);
        CHECK(errors[1] < 0.006);
    }
}

TEST_CASE("A specification comes back from its JSON as it was", "[layers]") {
    auto spec = flatSpec();
    spec.finer = {{{{1100, 2050}}, 2, 1.25}, {{{1000, 2000}, {1100, 2050}}, 4, 1.5}};
    spec.areaRing = {{1000, 2000}, {1100, 2000}, {1100, 2100}};
    spec.layers[0].parts = {1, 2, 1};
    spec.layers[1].thickness = 2;
    spec.layers[2].below = 3;
    spec.thin = {0.3, CellAnswer::Join};
    spec.answers = {true, true};
    FieldSource points{FieldSource::From::Points, 0, "/somewhere/k.csv", "k"};
    points.logarithmic = true;
    points.settings.method = Method::InverseDistance, points.settings.power = 3, points.settings.neighbours = 8,
    points.settings.radius = 50;
    spec.values = {{"conductivity", points},
                   {"recharge", {FieldSource::From::Grid, 0, "/somewhere/r.tif"}},
                   {"starting_head", {FieldSource::From::Water, 0, "May"}},
                   {"fixed_head", {FieldSource::From::Line, 0, "", "", {}, false, {{1, 2, 3}, {4, 5, 6}}}},
                   {"porosity", {FieldSource::From::Surface, 0, "design"}}};
    CHECK(layerSpecOf(toJson(spec), {}) == spec);
    for (const auto& [from, to] : {std::pair{"\"join\"", "\"vanish\""},
                                   {"\"recharge\"", "\"charge\""},
                                   {"\"kriging\"", "\"magic\""},
                                   {"\"inverse-distance\"", "\"magic\""},
                                   {"0.3", "-1"}}) {
        auto text = toJson(spec);
        const auto at = text.find(from);
        if (at == text.npos) continue;
        CHECK_THROWS_AS(layerSpecOf(text.replace(at, std::string(from).size(), to), {}), UsageError);
    }
    CHECK_THROWS_AS(layerSpecOf("{}", {}), FileError);
    CHECK_THROWS_AS(layerSpecOf("[1", {}), FileError);
    CHECK_THROWS_AS(layerSpecOf(R"({"format":"fox-cellar-layers","version":1})", {}), FileError);
    CHECK_THROWS_AS(layerSpecOf(R"({"format":"fox-cellar-layers","version":2})", {}), FileError);
}

TEST_CASE("Layers from grids and points, and what is said when they are not there", "[layers]") {
    const TemporaryFolder folder;
    folder.write(
        "bottom.asc", "ncols 20\nnrows 10\nxllcorner 1000\nyllcorner 2000\ncellsize 10\n" + [] {
            std::string rows;
            for (int r = 0; r < 10; ++r)
                for (int c = 0; c < 20; ++c) rows += std::to_string(-20 + c) + (c == 19 ? "\n" : " ");
            return rows;
        }());
    folder.write("k.csv", "easting,northing,k\n1000,2050,1e-6\n1200,2050,1e-4\n1100,2050,\n1100,2000,0\n");
    auto spec = flatSpec();
    spec.layers.back().bottom = FieldSource{FieldSource::From::Grid, 0, (folder / "bottom.asc").string()};
    FieldSource k{FieldSource::From::Points, 0, (folder / "k.csv").string(), "k"};
    k.settings.method = Method::InverseDistance;
    k.logarithmic = true;
    spec.values = {{"conductivity", k}};
    const auto made = layersOf(flatSite(), spec);
    INFO(made->problem);
    REQUIRE(made->grid);
    CHECK(made->grid->bottom[made->grid->index(3, 0)] == Approx(-20));
    CHECK(made->grid->bottom[made->grid->index(3, 19)] == Approx(-1));
    const auto& values = made->grid->values.at("conductivity");
    const auto middle = made->grid->plan.cellAt({1100.5, 2050.5}).value();
    const double near = 95 * 95 + 25, far = 105 * 105 + 25; // squared distances of that cell's centre, 1105 and 2055
    CHECK(values[middle] == Approx(std::pow(10, (-4 / near - 6 / far) / (1 / near + 1 / far)))); // by the logarithms
    CHECK(mentions(made->findings, "FC-LAYERS", "no logarithm"));
    spec.layers.back().bottom->name += ".missing";
    CHECK(layersOf(flatSite(), spec)->problem.find("bottom.asc.missing") != std::string::npos);
    spec.layers.back().bottom = FieldSource{FieldSource::From::Surface, 0, "design"};
    CHECK(layersOf(flatSite(), spec)->problem.find("no named surface \"design\"") != std::string::npos);
    CHECK(layersOf(Project{}, spec)->problem.find("no model") != std::string::npos);
}
