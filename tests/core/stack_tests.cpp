#include "fixtures.h"
#include "model/audit.h"
#include "model/solids.h"
#include "model/stack.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

using Kind = CrossingRemedy::Kind;

/// A sequence in which every rule that there is can come up.
Sequence randomSequence(std::mt19937& random) {
    Sequence s;
    const auto n = 2 + random() % 7;
    for (std::size_t i = 0; i < n; ++i) {
        Unit u;
        u.code = fmt::format("U{}", i);
        u.base = random() % 2 ? BaseRule::Cuts : BaseRule::Laps;
        if (random() % 3 == 0) u.leastThickness = double(random() % 30) / 10;
        if (random() % 3 == 0) u.outlines = {{{{0, 0}, {50, 0}, {50, 100}, {0, 100}}}};
        u.crossing = {Kind(random() % 5), double(random() % 20) / 10, random() % 2 ? "" : fmt::format("U{}", random() % n)};
        s.units.push_back(std::move(u));
    }
    return s;
}

/// Two units over a third, flat ground at 0; the base of the first is at 0 - 6 and that of the second at -4: they cross.
std::vector<double> crossed(const std::function<void(Sequence&)>& change, Point2 at = {10, 10}) {
    auto s = sequence({"A", "B", "C"});
    change(s);
    std::vector<double> bases{-6, -4};
    StackRules(s).apply(at, 0, bases);
    return bases;
}

} // namespace

TEST_CASE("No rule, nor any mixture of them, makes a negative thickness", "[model][random]") {
    std::mt19937 random(2026);
    std::uniform_real_distribution<double> level(-20, 20), along(0, 100);
    int kept = 0, thin = 0, outside = 0;
    for (int round = 0; round < 10000; ++round) {
        const auto s = randomSequence(random);
        const auto n = s.units.size() - 1;
        std::vector<double> bases(n);
        for (auto& b : bases) b = random() % 15 == 0 ? kNoValue : level(random);
        const double ground = level(random);
        const Point2 at{along(random), along(random)};
        std::vector<StackRules::Change> changes(n);
        StackRules(s).apply(at, ground, bases, changes);
        double before = ground;
        for (std::size_t i = 0; i < n; ++i) {
            if (std::isnan(bases[i])) break; // what is under it is not known either
            CAPTURE(round, i);
            REQUIRE(bases[i] <= before);
            const double thickness = before - bases[i];
            const auto& u = s.units[i];
            REQUIRE((thickness == 0 || thickness >= u.leastThickness - 1e-8));
            const bool out = !u.outlines.empty() && at.x > 50;
            if (out) REQUIRE(thickness == 0);
            if (!out && u.crossing.kind == Kind::Thickness && u.crossing.metres >= u.leastThickness) {
                REQUIRE(thickness >= u.crossing.metres - 1e-9);
                ++kept;
            }
            thin += changes[i] == StackRules::Change::Thin;
            outside += changes[i] == StackRules::Change::Outside;
            before = bases[i];
        }
        for (std::size_t i = 0; i + 1 < n; ++i)
            if (std::isnan(bases[i]) && s.units[i + 1].outlines.empty()) REQUIRE(std::isnan(bases[i + 1]));
    }
    CHECK(kept > 1000);
    CHECK(thin > 500);
    CHECK(outside > 500);
}

TEST_CASE("Where bases cross, each remedy does what it says", "[model]") {
    using Bases = std::vector<double>;
    CHECK(crossed([](Sequence&) {}) == Bases{-6, -6});
    CHECK(crossed([](Sequence& s) { s.units[0].base = BaseRule::Laps; }) == Bases{-4, -4});
    CHECK(crossed([](Sequence& s) { s.units[1].crossing.kind = Kind::Halfway; }) == Bases{-5, -5});
    CHECK(crossed([](Sequence& s) { s.units[1].crossing = {Kind::Thickness, 0.5, ""}; }) == Bases{-6, -6.5});
    CHECK(crossed([](Sequence& s) { s.units[1].crossing = {Kind::Below, 1, "A"}; }) == Bases{-6, -7});
    CHECK(crossed([](Sequence& s) { s.units[0].crossing = {Kind::Above, 1, "B"}; }) == Bases{-3, -4});
    CHECK(crossed([](Sequence& s) { s.units[0].crossing = {Kind::Below, 8, ""}; }) == Bases{-8, -8}); // of the ground
    CHECK(crossed([](Sequence& s) { s.units[0].crossing = {Kind::Below, 8, "gone"}; }) == Bases{-6, -6});
}

TEST_CASE("A unit thinner than its least, or outside its outline, is absent", "[model]") {
    auto s = sequence({"A", "B", "C"});
    s.units[1].leastThickness = 1;
    std::vector<double> bases{-2, -2.9};
    StackRules(s).apply({}, 0, bases);
    CHECK(bases == std::vector<double>{-2, -2});
    s.units[0].outlines = {{{{0, 0}, {10, 0}, {10, 10}, {0, 10}}}};
    bases = {-2, -5};
    StackRules(s).apply({5, 5}, 0, bases);
    CHECK(bases == std::vector<double>{-2, -5});
    bases = {kNoValue, -5}; // outside it is known that the unit is not there
    StackRules(s).apply({15, 5}, 0, bases);
    CHECK(bases == std::vector<double>{0, -5});
}

namespace {

/// A model of two units with patches, holes in the ground and places where a base is not known.
ModelGrid randomGrid(unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> thick(0, 3);
    const Frame frame{1000, 6000000, 1000 + double(2 + random() % 9), 6000000 + double(2 + random() % 9), 1};
    ModelGrid grid{Grid(frame), {Grid(frame), Grid(frame)}, {}};
    for (std::size_t i = 0; i < grid.ground.values.size(); ++i) {
        if (random() % 9 == 0) continue;
        grid.ground.values[i] = thick(random);
        grid.bases[0].values[i] = grid.ground.values[i] - (random() % 3 ? thick(random) : 0);
        if (random() % 15) grid.bases[1].values[i] = grid.bases[0].values[i] - (random() % 2 ? thick(random) : 0);
    }
    return grid;
}

double cellVolume(const ModelGrid& grid, std::size_t u) { return volumesOf(grid).units[u].volume; }

} // namespace

TEST_CASE("A unit's body is closed and has the volume of its cells", "[model][random]") {
    const auto seed = GENERATE(range(1u, 301u));
    CAPTURE(seed);
    const auto grid = randomGrid(seed);
    for (const std::size_t u : {0u, 1u}) {
        const auto mesh = solidOf(grid, u, "U");
        CHECK(isClosed(mesh));
        CHECK(volumeOf(mesh) == Approx(cellVolume(grid, u)).epsilon(1e-9).margin(1e-9));
        for (const auto& t : mesh.triangles) REQUIRE((t[0] != t[1] && t[1] != t[2] && t[2] != t[0]));
    }
    CHECK(solidOf(grid, 2, "oldest").triangles.empty());
}

TEST_CASE("A body of one cell is a box", "[model]") {
    ModelGrid grid{Grid({0, 0, 2, 2, 2}), {Grid({0, 0, 2, 2, 2})}, {}};
    grid.ground.values = {5};
    grid.bases[0].values = {2};
    const auto mesh = solidOf(grid, 0, "A");
    CHECK(volumeOf(mesh) == Approx(12));
    CHECK(isClosed(mesh));
    auto open = mesh;
    open.triangles.pop_back();
    CHECK_FALSE(isClosed(open));
    const auto cells = cellsOf(grid);
    REQUIRE(cells.cells.size() == 1);
    CHECK(cells.nodes.size() == 8);
    CHECK(cells.nodes[cells.cells[0][0]] == Point3{0, 0, 2}); // the lower south-west corner
    CHECK(cells.nodes[cells.cells[0][6]] == Point3{2, 2, 5}); // the upper north-east one
}

TEST_CASE("Cells of neighbouring columns and units share their corners", "[model][random]") {
    const auto seed = GENERATE(range(1u, 21u));
    const auto grid = randomGrid(seed);
    const auto block = cellsOf(grid);
    std::set<std::array<double, 3>> places;
    std::map<std::size_t, std::array<double, 3>> byNode;
    for (const auto& c : block.cells)
        for (const auto n : c) byNode[n] = {block.nodes[n].x, block.nodes[n].y, block.nodes[n].z};
    double volume = 0;
    for (std::size_t i = 0; i < block.cells.size(); ++i) volume += block.thickness[i];
    CHECK(volume == Approx(cellVolume(grid, 0) + cellVolume(grid, 1)).margin(1e-9));
    for (const auto& c : block.cells) // upper corners are not under the lower ones
        for (std::size_t k = 0; k < 4; ++k) CHECK(block.nodes[c[k + 4]].z >= block.nodes[c[k]].z - 1e-9);
}

TEST_CASE("A grid as triangles leaves out what is not known", "[model]") {
    Grid grid({0, 0, 3, 2, 1});
    grid.values = {1, 2, 3, 4, 5, kNoValue};
    const auto mesh = surfaceMesh(grid, "g");
    CHECK(mesh.vertices.size() == 5);
    CHECK(mesh.triangles.size() == 3);
}

TEST_CASE("Ten thousand stacks under all rules: whole, in order, and their bodies closed", "[model][random]") {
    std::mt19937 random(77);
    std::uniform_real_distribution<double> level(-8, 8);
    double volume = 0;
    int bodies = 0;
    for (int round = 0; round < 10000; ++round) {
        CAPTURE(round);
        const auto s = randomSequence(random);
        const Frame frame{0, 0, double(20 * (1 + random() % 4)), double(20 * (1 + random() % 3)), 20};
        ModelGrid grid{Grid(frame), std::vector<Grid>(s.units.size() - 1, Grid(frame)), {}};
        const StackRules rules(s);
        std::vector<double> column(grid.bases.size());
        for (int r = 0; r < frame.rows(); ++r)
            for (int c = 0; c < frame.columns(); ++c) {
                if (random() % 8 == 0) continue; // no ground
                grid.ground.at(c, r) = level(random);
                for (auto& b : column) b = level(random);
                rules.apply(frame.centre(c, r), grid.ground.at(c, r), column);
                for (std::size_t u = 0; u < column.size(); ++u) grid.bases[u].at(c, r) = column[u];
            }
        for (std::size_t u = 0; u < grid.bases.size(); ++u) {
            for (std::size_t i = 0; i < grid.ground.values.size(); ++i)
                REQUIRE((std::isnan(grid.ground.values[i]) || grid.bases[u].values[i] <= grid.top(u).values[i]));
            const auto mesh = solidOf(grid, u, "U");
            REQUIRE(isClosed(mesh));
            const double cells = volumesOf(grid).units[u].volume;
            REQUIRE(volumeOf(mesh) == Approx(cells).epsilon(1e-9).margin(1e-7));
            volume += cells, bodies += !mesh.triangles.empty();
        }
    }
    CHECK(bodies > 10000);
    CHECK(volume > 0);
}
