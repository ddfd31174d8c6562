// Where a unit is: probabilities where units onlap, the line of presence, what the geologist marks, and the oldest unit's floor.
#include "base/errors.h"
#include "fixtures.h"
#include "model/ensemble.h"
#include "model/presence_line.h"
#include "model/solids.h"
#include "model/surface_maps.h"
#include "project/edits.h"
#include "project/surface_edits.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// P over R over S on level ground at 30: P is there, 2 m thick, west of x = 100.
Project patchyGravel(int holes, unsigned seed = 8) {
    Project p;
    Holes all;
    for (const auto& at : randomPoints(seed, holes, 200)) {
        const auto name = fmt::format("H{}", all.size());
        all.push_back(at.x < 100 ? hole(name, at.x, at.y, 30, {{2, "P"}, {8, "R"}, {12, "S"}})
                                 : hole(name, at.x, at.y, 30, {{8, "R"}, {12, "S"}}));
    }
    giveNames(all);
    p.holes = part(std::move(all));
    auto s = sequence({"P", "R", "S"});
    for (auto& u : s.units) u.recipe.automatic = true;
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("0 0 30, 200 0 30, 200 200 30, 0 200 30"));
    p.site = part(Site{"", Frame{0, 0, 200, 200, 10}, {}});
    return p;
}

/// A slope of probabilities across x, 0.5 at `edge`, with so much change a metre.
Grid ramp(double edge, double perMetre) {
    Grid grid(Frame{0, 0, 100, 50, 5});
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c)
            grid.values[std::size_t(r) * 20 + std::size_t(c)] =
                std::clamp(0.5 - (grid.frame.centre(c, r).x - edge) * perMetre, 0.0, 1.0);
    return grid;
}

double lengthOfAll(const std::vector<PresenceLine>& lines, bool sure) {
    double sum = 0;
    for (const auto& l : lines)
        if (l.isSure == sure) sum += lengthOf(l.line);
    return sum;
}

} // namespace

TEST_CASE("The line of presence lies where the probability passes a half, sure where that is steep", "[presence]") {
    const auto steep = presenceLines(ramp(42, 0.05), 30);
    REQUIRE_FALSE(steep.empty());
    for (const auto& l : steep)
        for (const auto& p : l.line) CHECK(p.x == Approx(42).margin(1e-6));
    CHECK(lengthOfAll(steep, true) == Approx(45).margin(6)); // from the first cells' centres to the last
    CHECK(lengthOfAll(steep, false) == 0);
    const auto gentle = presenceLines(ramp(42, 0.01), 30); // from 25 to 75 % over 50 m
    CHECK(lengthOfAll(gentle, true) == 0);
    CHECK(lengthOfAll(gentle, false) == Approx(45).margin(6));
    CHECK(presenceLines(Grid(Frame{0, 0, 100, 50, 5}), 30).empty());
    CHECK(presenceLines(ramp(-500, 0.01), 30).empty());
}

TEST_CASE("The end of a unit on a section lies at a half, between a quarter and three quarters", "[presence]") {
    Section s;
    for (int i = 0; i <= 10; ++i) s.chainage.push_back(10 * i);
    s.chances = {{1, 1, 0.9, 0.7, 0.55, 0.35, 0.2, 0.1, 0, 0, 0}};
    s.bases = {std::vector<double>(11, 20.0)};
    auto ends = presenceEnds(s, 0);
    REQUIRE(ends.size() == 1);
    CHECK(ends[0].chainage == Approx(42.5));
    CHECK(ends[0].from == Approx(27.5));
    CHECK(ends[0].to == Approx(56.6667));
    CHECK(ends[0].level == 20);
    std::ranges::reverse(s.chances[0]);
    ends = presenceEnds(s, 0);
    REQUIRE(ends.size() == 1);
    CHECK(ends[0].chainage == Approx(57.5));
    CHECK(ends[0].from == Approx(100 - 56.6667));
    CHECK(ends[0].to == Approx(72.5));
    s.chances[0].assign(11, kNoValue);
    CHECK(presenceEnds(s, 0).empty());
    s.chances[0] = {0.6, 0.4}, s.chainage = {0, 10}, s.bases[0] = {1, 1}; // as far as the section goes
    ends = presenceEnds(s, 0);
    REQUIRE(ends.size() == 1);
    CHECK(ends[0].from == 0);
    CHECK(ends[0].to == 10);
    CHECK(presenceEnds(s, 3).empty());
}

TEST_CASE("A mark says that a unit is present or absent where holes leave it open", "[presence]") {
    for (const bool automatic : {true, false}) {
        CAPTURE(automatic);
        auto p = patchyGravel(14);
        if (!automatic) {
            auto s = *p.sequence;
            for (auto& u : s.units) setMethod(u.recipe, Method::Kriging);
            s.units[0].recipe.reference = BaseReference::Thickness;
            p.sequence = part(std::move(s));
        }
        const Point2 west{30, 195}, east{185, 120};
        const auto marked = addPresenceMark(addPresenceMark(p, {"P", {west}, false}).project, {"P", {east}, true}).project;
        const auto before = Products().of(p), after = Products().of(marked);
        const auto thickness = [](const auto& set, Point2 at) {
            const auto c = set->model->columnAt(at);
            return c.ground - c.bases[0];
        };
        CHECK(thickness(before, west) > 0.3);
        CHECK(thickness(after, west) < 0.01);
        CHECK(thickness(before, east) < 0.01);
        CHECK(thickness(after, east) > 0.2);
        CHECK(after->audit->matchedFraction == Approx(1).margin(1e-6)); // and every hole as it was
        CHECK(after->audit->worstDifference < 0.01);
        if (!automatic) continue;
        CHECK(after->model->columnAt(west, true).chances[0] < 0.1);
        CHECK(after->model->columnAt(east, true).chances[0] > 0.9);
    }
}

TEST_CASE("An area of presence counts all over, is taken back, and follows the unit and the system", "[presence]") {
    const auto p = patchyGravel(14);
    const PresenceMark mark{"P", {{120, 20}, {160, 20}, {160, 60}, {120, 60}}, true};
    const auto e = addPresenceMark(p, mark);
    CHECK(e.label == "P is present in an area");
    const auto set = Products().of(e.project);
    for (const Point2 at : {Point2{125, 25}, Point2{140, 40}, Point2{155, 55}}) {
        const auto c = set->model->columnAt(at);
        CHECK(c.ground - c.bases[0] > 0.1);
    }
    CHECK(removePresenceMark(e.project, mark).project.interpretation->presence.empty());
    CHECK_THROWS_WITH(removePresenceMark(p, mark), Catch::Contains("no longer there"));
    CHECK_THROWS_WITH(addPresenceMark(p, {"P", {{1, 1}, {2, 2}}, true}), Catch::Contains("three corners"));
    CHECK_THROWS_WITH(addPresenceMark(p, {"Q", {{1, 1}}, true}), "There is no unit Q in the sequence.");
}

TEST_CASE("An area gives so many places at most, all of them within it", "[presence]") {
    const PresenceMark mark{"P", {{0, 0}, {100, 0}, {0, 100}}, true};
    for (const double spacing : {1.0, 20.0, 500.0}) {
        const auto places = placesOf(mark, spacing);
        CHECK(places.size() >= 3);
        CHECK(places.size() <= std::size_t(kMarkPlaces) + 3 + 16);
        for (const auto& p : places) CHECK((p.x >= 0 && p.y >= 0 && p.x + p.y <= 100 + 1e-9));
    }
    CHECK(placesOf({"P", {{5, 6}}, true}, 10) == std::vector{Point2{5, 6}});
}

TEST_CASE("A unit that onlaps is no more probable than that the base under it lies below its top", "[presence][automatic]") {
    // L is a lake clay in a basin of R: no hole says how low its raw base would go in the middle, or that it is not on the flanks
    Project p;
    Holes all;
    for (const auto& at : randomPoints(21, 30, 200)) {
        const double deep = 9 - std::abs(at.x - 100) / 10; // of the top of R below the ground
        const auto name = fmt::format("H{}", all.size());
        all.push_back(deep > 1 ? hole(name, at.x, at.y, 30, {{deep, "L"}, {14, "R"}, {18, "S"}})
                               : hole(name, at.x, at.y, 30, {{14, "R"}, {18, "S"}}));
    }
    giveNames(all);
    p.holes = part(std::move(all));
    auto s = sequence({"L", "R", "S"});
    for (auto& u : s.units) u.recipe.automatic = true;
    // R cuts: L stops against what lies under both
    s.units[0].base = BaseRule::Laps;
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("0 0 30, 200 0 30, 200 200 30, 0 200 30"));
    p.site = part(Site{"", Frame{0, 0, 200, 200, 10}, {}});
    const auto set = Products().of(p, {}, {ProductKind::Grids});
    const EnsembleSettings many{300, 5};
    const auto ensemble = simulate(*set->model, *set->ground, many);
    double worst = 0, difference = 0;
    int n = 0;
    std::vector<Point2> places;
    for (double x = 15; x < 200; x += 20)
        for (double y = 15; y < 200; y += 40) places.push_back({x, y});
    const auto columns = set->model->columnsAt(places, true);
    for (std::size_t i = 0; i < places.size(); ++i)
        for (std::size_t u = 0; u < 2; ++u) {
            const auto& chance = ensemble.units[u].chance;
            const int c = int(places[i].x / 10), r = int((200 - places[i].y) / 10);
            const double share = chance.at(c, r);
            difference += share - columns[i].chances[u], ++n;
            worst = std::max(worst, std::abs(share - columns[i].chances[u]));
        }
    CHECK(std::abs(difference / n) < 0.06); // 300 realisations, and raw bases taken as independent of one another
    CHECK(worst < 0.45);
    // far out on the flank there is none
    CHECK(set->model->columnAt({3, 100}, true).chances[0] < 0.5);
    CHECK(set->model->columnAt({100, 100}, true).chances[0] > 0.9);
}

TEST_CASE("The oldest unit has a body down to its floor, and none without", "[presence]") {
    auto p = patchyGravel(14);
    CHECK(Products().of(p)->volumes->units.size() == 2);
    const auto withFloor = [&](UnitFloor floor) {
        auto s = *p.sequence;
        s.units.back().floor = floor;
        auto q = p;
        q.sequence = part(std::move(s));
        return Products().of(q);
    };
    const auto set = withFloor({UnitFloor::From::Datum, 10});
    REQUIRE(set->volumes->units.size() == 3);
    double expected = 0; // by hand, cell by cell
    for (std::size_t i = 0; i < set->modelGrid->bases[1].values.size(); ++i)
        expected += std::max(0.0, set->modelGrid->bases[1].values[i] - 10) * 100;
    CHECK(set->volumes->units[2].volume == Approx(expected).epsilon(1e-12));
    const auto solid = solidOf(*set->modelGrid, 2, "S");
    CHECK(isClosed(solid));
    CHECK(volumeOf(solid) == Approx(expected).epsilon(1e-9));
    double inCells = 0;
    const auto cells = cellsOf(*set->modelGrid);
    for (std::size_t k = 0; k < cells.unit.size(); ++k)
        if (cells.unit[k] == 2) inCells += cells.thickness[k] * 100;
    CHECK(inCells == Approx(expected).epsilon(1e-9));
    CHECK(set->model->columnAt({50, 50}).base(2) == 10);
    // 3 m under the end of the deepest hole, at 18 m
    CHECK(withFloor({UnitFloor::From::DeepestHole, 3})->model->floor == Approx(15));
    // a floor above the unit's top leaves it without thickness, never a negative one
    const auto high = withFloor({UnitFloor::From::Datum, 100});
    CHECK(high->volumes->units[2].volume == 0);
    CHECK(high->model->columnAt({50, 50}).base(2) == high->model->columnAt({50, 50}).bases[1]);
    const auto ensemble = simulate(*set->model, *set->ground, {40, 1});
    const auto range = rangeOf(ensemble.oldestVolumes);
    CHECK(range.p10 < expected * 1.02);
    CHECK(range.p90 > expected * 0.98);
}

TEST_CASE("With a logging accuracy a base passes its contacts within it, and noise is smoothed", "[presence][automatic]") {
    Project p;
    Holes all;
    std::mt19937 random(4);
    std::normal_distribution<double> noise(0, 0.2);
    std::vector<Point2> places;
    for (const auto& at : randomPoints(9, 60, 200)) {
        places.push_back(at.plan());
        const double base = 6 + 0.02 * at.x;
        all.push_back(hole(fmt::format("H{}", all.size()), at.x, at.y, 30, {{base + noise(random), "P"}, {20, "R"}}));
    }
    giveNames(all);
    p.holes = part(std::move(all));
    auto s = sequence({"P", "R"});
    s.units[0].recipe.automatic = true;
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("0 0 30, 200 0 30, 200 200 30, 0 200 30"));
    p.site = part(Site{"", Frame{0, 0, 200, 200, 10}, {}});
    const auto error = [&](const Project& project) {
        const auto set = Products().of(project, {}, {ProductKind::Audit});
        double sum = 0;
        int n = 0;
        for (double x = 10; x < 200; x += 12)
            for (double y = 10; y < 200; y += 12)
                sum += std::pow(set->model->columnAt({x, y}).bases[0] - (24 - 0.02 * x), 2), ++n;
        return std::pair(std::sqrt(sum / n), set->audit->worstDifference);
    };
    const auto [exact, missedExactly] = error(p);
    s = *p.sequence;
    s.units[0].loggingAccuracy = 0.2;
    p.sequence = part(std::move(s));
    const auto [smooth, missed] = error(p);
    CHECK(missedExactly < 0.01);
    CHECK(missed > 0.05);
    CHECK(missed < 0.8); // four times the accuracy
    CHECK(smooth < 0.75 * exact);
}
