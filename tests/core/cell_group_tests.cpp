// Groups of cells that a check found, each with its own answer; values typed on cells.
#include "layered_fixtures.h"

#include <catch2/catch.hpp>
#include <numeric>
#include <random>

using namespace fox;
using namespace fox::test;

namespace {

/// A grid whose cells are marked at random, some outside.
LayeredGrid marked(unsigned seed) {
    std::mt19937 random(seed);
    LayeredGrid g;
    const int columns = 3 + int(random() % 9), rows = 2 + int(random() % 9);
    g.plan = PlanGrid({0, 100}, 30, std::vector<double>(std::size_t(columns), 2), std::vector<double>(std::size_t(rows), 3));
    g.layers = {"upper", "lower"};
    const auto n = 2 * g.plan.cells();
    g.state.assign(n, CellState::Active);
    g.marks.assign(n, 0);
    for (std::size_t i = 0; i < n; ++i) {
        if (random() % 10 == 0) g.state[i] = CellState::Outside;
        if (random() % 2) g.marks[i] = std::uint8_t(CellMark::Thin);
    }
    return g;
}

bool isIn(const LayeredGrid& g, std::size_t cell) { return g.state[cell] != CellState::Outside && g.has(cell, CellMark::Thin); }

} // namespace

TEST_CASE("Groups are the connected parts of the marked cells, as repeated joining finds them", "[layers][random]") {
    for (unsigned seed = 1; seed <= 60; ++seed) {
        const auto g = marked(seed);
        const auto groups = groupsOf(g, CellMark::Thin);
        // each cell takes the lowest number of its neighbours until nothing changes
        std::vector<std::size_t> label(g.cells());
        std::iota(label.begin(), label.end(), std::size_t(0));
        for (bool changed = true; changed;) {
            changed = false;
            for (std::size_t k = 0; k < 2; ++k)
                for (int r = 0; r < g.plan.rows(); ++r)
                    for (int c = 0; c < g.plan.columns(); ++c)
                        for (const auto& [c2, r2] : {std::pair{c + 1, r}, {c, r + 1}}) {
                            if (c2 >= g.plan.columns() || r2 >= g.plan.rows()) continue;
                            auto& a = label[g.index(k, g.plan.index(c, r))];
                            auto& b = label[g.index(k, g.plan.index(c2, r2))];
                            if (!isIn(g, g.index(k, g.plan.index(c, r))) || !isIn(g, g.index(k, g.plan.index(c2, r2)))) continue;
                            if (a != b) a = b = std::min(a, b), changed = true;
                        }
        }
        std::map<std::size_t, std::size_t> sizes;
        std::size_t all = 0;
        for (std::size_t i = 0; i < g.cells(); ++i)
            if (isIn(g, i)) ++sizes[label[i]], ++all;
        INFO("seed " << seed);
        REQUIRE(groups.size() == sizes.size());
        std::size_t counted = 0;
        for (std::size_t i = 0; i < groups.size(); ++i) {
            const auto& group = groups[i];
            counted += group.columns.size();
            if (i > 0) CHECK(group.columns.size() <= groups[i - 1].columns.size());
            std::set<std::size_t> labels;
            for (const auto c : group.columns) labels.insert(label[g.index(group.layer, c)]);
            REQUIRE(labels.size() == 1);
            CHECK(sizes.at(*labels.begin()) == group.columns.size());
            CHECK(group.area == Approx(6.0 * double(group.columns.size())));
            const auto at = g.plan.cellAt(group.at);
            REQUIRE(at);
            CHECK(std::ranges::binary_search(group.columns, *at));
        }
        CHECK(counted == all);
    }
}

TEST_CASE("One group of thin cells is answered by itself, and what it moves was said before", "[layers]") {
    int answered = 0;
    for (const unsigned seed : {1u, 2u, 3u, 4u}) {
        const auto site = unevenSite(seed);
        auto spec = flatSpec();
        spec.grid = PlanGrid({1020, 2280}, 0, std::vector<double>(36, 10), std::vector<double>(26, 10));
        spec.thin = {1.5, CellAnswer::Passive};
        const auto before = layersOf(site, spec);
        REQUIRE(before->grid);
        for (const auto answer : {CellAnswer::Thicken, CellAnswer::Join})
            for (std::size_t i = 0; i < std::min<std::size_t>(3, before->grid->groups.size()); ++i) {
                const auto group = before->grid->groups[i];
                if (group.mark != CellMark::Thin) continue;
                CHECK_FALSE(group.isOwn);
                auto own = spec;
                own.answers.groups = {{group.mark, group.layer, group.at, answer}};
                const auto after = layersOf(site, own);
                REQUIRE(after->grid);
                const auto &a = *before->grid, &b = *after->grid;
                double moved = 0;
                for (std::size_t c = 0; c < b.plan.cells(); ++c) {
                    const bool inGroup = std::ranges::binary_search(group.columns, c);
                    const auto cell = b.index(group.layer, c);
                    for (std::size_t k = 0; k < b.layers.size(); ++k) {
                        const auto at = b.index(k, c);
                        if (!inGroup)
                            REQUIRE((b.bottom[at] == a.bottom[at] && b.state[at] == a.state[at] && b.unit[at] == a.unit[at]));
                        if (k > 0 && !std::isnan(b.top[at])) REQUIRE(b.top[at] == b.bottom[b.index(k - 1, c)]);
                    }
                    if (!inGroup) continue;
                    moved += std::abs(b.thickness(cell) - a.thickness(cell)) * b.plan.area(c);
                    if (answer == CellAnswer::Thicken) CHECK(b.thickness(cell) >= 1.5 - 1e-9);
                    CHECK(b.state[cell] == (answer == CellAnswer::Thicken ? CellState::Active : CellState::Passive));
                }
                // a cell with no layer above it that has any can only give its thickness to the one below
                CHECK(moved == Approx(group.moved(answer)).margin(1e-6));
                CHECK(std::ranges::count(b.groups, true, &CellGroup::isOwn) == 1);
                CHECK(b.idle.empty());
                ++answered;
            }
    }
    CHECK(answered >= 12);
}

TEST_CASE("Groups that are missing or alone have answers of their own", "[layers]") {
    // the clay's base comes from a grid that leaves it nothing in one cell
    const TemporaryFolder folder;
    std::string grid = "ncols 20\nnrows 10\nxllcorner 1000\nyllcorner 2000\ncellsize 10\n";
    for (int r = 0; r < 10; ++r)
        for (int c = 0; c < 20; ++c) grid += std::string(r == 4 && c == 10 ? "6" : "4") + (c == 19 ? "\n" : " ");
    folder.write("clay.asc", grid);
    const auto p = flatSite();
    auto spec = flatSpec();
    spec.layers[1].bottom = FieldSource{FieldSource::From::Grid, 0, (folder / "clay.asc").string()};
    spec.thin = {1, CellAnswer::Passive};
    const auto before = layersOf(p, spec);
    REQUIRE(before->grid);
    const auto missing = std::ranges::find(before->grid->groups, CellMark::Missing, &CellGroup::mark);
    REQUIRE(missing != before->grid->groups.end());
    CHECK(missing->thicken > 0);
    spec.answers.groups = {{CellMark::Missing, missing->layer, missing->at, CellAnswer::Thicken}};
    const auto after = layersOf(p, spec);
    for (const auto c : missing->columns) {
        const auto cell = after->grid->index(missing->layer, c);
        CHECK(after->grid->state[cell] == CellState::Active);
        CHECK(after->grid->thickness(cell) == Approx(1));
    }
    CHECK(after->grid->count(CellMark::Missing).cells == before->grid->count(CellMark::Missing).cells - missing->columns.size());
    // filled for all, but not these
    spec.answers = {true, false, {{CellMark::Missing, missing->layer, missing->at, CellAnswer::Leave}}};
    CHECK(layersOf(p, spec)->grid->count(CellMark::Missing).cells >= missing->columns.size());
}

TEST_CASE("An answer whose cells are gone waits, and that is said", "[layers]") {
    auto spec = flatSpec();
    spec.answers.groups = {{CellMark::Thin, 1, {1055, 2055}, CellAnswer::Thicken}};
    const auto made = layersOf(flatSite(), spec);
    REQUIRE(made->grid);
    CHECK(made->grid->idle == spec.answers.groups);
    REQUIRE(made->findings.size() == 1);
    CHECK(made->findings[0].message == "An answer waits: no cell of layer 2 at 1055.0 2055.0 is \"Too thin\" now.");
    spec.thin.metres = 3; // now the clay is thin
    CHECK(layersOf(flatSite(), spec)->grid->idle.empty());
}

TEST_CASE("Values that are typed on cells stand over all others, the last one first", "[layers]") {
    auto spec = flatSpec();
    spec.values["conductivity"] = {FieldSource::From::Units, 0, ""};
    const auto before = layersOf(flatSite(), spec);
    const Polygon2 four{{1041, 2041}, {1059, 2041}, {1059, 2059}, {1041, 2059}};  // middles of four cells
    const Polygon2 small{{1101, 2001}, {1103, 2001}, {1103, 2003}, {1101, 2003}}; // within one cell
    spec.typed = {{"conductivity", 5e-5, 0, 1, four}, {"conductivity", 7e-5, 1, 1, four}, {"recharge", 1e-9, 0, 0, small}};
    const auto after = layersOf(flatSite(), spec);
    REQUIRE(after->grid);
    const auto& g = *after->grid;
    std::map<double, int> typed;
    int rain = 0;
    for (std::size_t k = 0; k < g.layers.size(); ++k)
        for (std::size_t c = 0; c < g.plan.cells(); ++c) {
            const auto cell = g.index(k, c);
            const double v = g.values.at("conductivity")[cell];
            if (v == 5e-5 || v == 7e-5)
                ++typed[v];
            else
                CHECK(v == before->grid->values.at("conductivity")[cell]);
            if (v == 5e-5) CHECK(k == 0);
            if (v == 7e-5) CHECK(k == 1);
            rain += g.values.at("recharge")[cell] > 0;
        }
    CHECK(typed == std::map<double, int>{{5e-5, 4}, {7e-5, 4}});
    CHECK(rain == 1);
    CHECK(g.values.at("recharge")[g.index(0, *g.plan.cellAt({1102, 2002}))] == 1e-9);
}

TEST_CASE("Answers and typed values come back from a specification, and wrong ones are refused", "[layers]") {
    auto spec = flatSpec();
    spec.answers.groups = {{CellMark::Thin, 1, {1055, 2055}, CellAnswer::Join},
                           {CellMark::Alone, 0, {1, 2}, CellAnswer::Passive}};
    spec.typed = {{"recharge", 1e-9, 0, 2, {{0, 0}, {1, 0}, {1, 1}}}};
    const auto text = toJson(spec);
    CHECK(layerSpecOf(text, {}) == spec);
    for (const auto& [from, to] : {std::pair{"\"join\"", "\"vanish\""}, {"\"join\"", "\"leave\""}, {"\"alone\"", "\"ratio\""}}) {
        auto wrong = text;
        const auto at = wrong.rfind(from);
        REQUIRE(at != wrong.npos);
        CHECK_THROWS_AS(layerSpecOf(wrong.replace(at, std::string(from).size(), to), {}), UsageError);
    }
}
