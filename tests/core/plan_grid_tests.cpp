// Grids in plan: turned, unevenly spaced, finer along lines and at places.
#include "fixtures.h"
#include "layers/plan_grid.h"

#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

std::vector<double> widthsOf(const PlanGrid& g, bool columns) {
    std::vector<double> out;
    for (int i = 0; i < (columns ? g.columns() : g.rows()); ++i) out.push_back(columns ? g.width(i) : g.height(i));
    return out;
}

double sum(const std::vector<double>& values) { return std::accumulate(values.begin(), values.end(), 0.0); }

double worstGrowth(const std::vector<double>& widths) {
    double worst = 1;
    for (std::size_t i = 0; i + 1 < widths.size(); ++i)
        worst = std::max(worst, std::max(widths[i], widths[i + 1]) / std::min(widths[i], widths[i + 1]));
    return worst;
}

} // namespace

TEST_CASE("A grid that is not turned has its rows from north to south", "[layers]") {
    const PlanGrid g({1000, 2000}, 0, {10, 20}, {5, 5, 5});
    CHECK(g.columns() == 2);
    CHECK(g.rows() == 3);
    CHECK(g.centre(0, 0) == Point2{1005, 1997.5});
    CHECK(g.centre(1, 2) == Point2{1020, 1987.5});
    CHECK(g.area(g.index(1, 0)) == 100);
    CHECK_FALSE(g.frame());
    const Frame frame{1000, 1900, 1200, 2000, 10};
    CHECK(PlanGrid(frame).frame() == frame);
    CHECK(PlanGrid(frame).centre(3, 4) == frame.centre(3, 4));
}

TEST_CASE("A turned grid has its columns along the direction that is turned clockwise from east", "[layers]") {
    const PlanGrid south({1000, 2000}, 90, {10, 10}, {10});
    CHECK(south.node(2, 0).x == Approx(1000));
    CHECK(south.node(2, 0).y == Approx(1980)); // along the columns, now to the south
    CHECK(south.node(0, 1).x == Approx(990));  // rows at a right angle, now to the west
    const PlanGrid g({1000, 2000}, 30, {10, 10, 10}, {10, 10});
    const double c = std::cos(std::numbers::pi / 6), s = 0.5;
    CHECK(g.node(3, 0).x == Approx(1000 + 30 * c));
    CHECK(g.node(3, 0).y == Approx(2000 - 30 * s));
    CHECK(g.node(0, 2).x == Approx(1000 - 20 * s));
    CHECK(g.node(0, 2).y == Approx(2000 - 20 * c));
}

TEST_CASE("Each place is found in the cell that it was put in, however the grid lies", "[layers]") {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> share(0.01, 0.99), width(1, 30);
    for (const double turn : {0.0, 17.0, -120.0, 359.0}) {
        std::vector<double> columns, rows;
        for (int i = 0; i < 12; ++i) columns.push_back(width(random)), rows.push_back(width(random));
        const PlanGrid g({4000, 7000}, turn, columns, rows);
        for (int r = 0; r < g.rows(); ++r)
            for (int c = 0; c < g.columns(); ++c) {
                const auto a = g.node(c, r), b = g.node(c + 1, r), d = g.node(c, r + 1);
                const double u = share(random), v = share(random);
                const Point2 p{a.x + u * (b.x - a.x) + v * (d.x - a.x), a.y + u * (b.y - a.y) + v * (d.y - a.y)};
                REQUIRE(g.cellAt(p) == g.index(c, r));
            }
        CHECK_FALSE(g.cellAt({4000 - 1000, 7000 + 1000}));
    }
}

TEST_CASE("Cells under a line are those that points along it fall in", "[layers]") {
    std::mt19937 random(8);
    std::uniform_real_distribution<double> at(-20, 140);
    const PlanGrid g({1000, 2100}, 25, std::vector<double>(10, 10), std::vector<double>(10, 10));
    for (int i = 0; i < 50; ++i) {
        const Polyline2 line{{1000 + at(random), 2000 + at(random)},
                             {1000 + at(random), 2000 + at(random)},
                             {1000 + at(random), 2000 + at(random)}};
        std::set<std::size_t> walked, found;
        for (std::size_t k = 0; k < 2; ++k)
            for (int s = 0; s <= 40000; ++s) {
                const double t = s / 40000.0;
                if (const auto cell =
                        g.cellAt({line[k].x + t * (line[k + 1].x - line[k].x), line[k].y + t * (line[k + 1].y - line[k].y)}))
                    walked.insert(*cell);
            }
        double before = -1;
        for (const auto& c : g.crossedBy(line)) {
            CHECK(c.share > before);
            before = c.share;
            CHECK(found.insert(c.cell).second);
        }
        // a corner that is cut by less than a step may be missed by walking
        for (const auto cell : walked) REQUIRE(found.contains(cell));
        CHECK(found.size() <= walked.size() + 2);
    }
}

TEST_CASE("Around a place cells are as narrow as asked for, neighbours differ by the growth, and far ones stay", "[layers]") {
    const PlanGrid g({0, 1000}, 0, std::vector<double>(100, 20), std::vector<double>(50, 20));
    const auto fine = g.finer({{{{700, 500}}, 2, 1.3}});
    const auto columns = widthsOf(fine, true), rows = widthsOf(fine, false);
    CHECK(sum(columns) == Approx(2000));
    CHECK(sum(rows) == Approx(1000));
    CHECK(worstGrowth(columns) <= 1.3 * 1.002);
    CHECK(worstGrowth(rows) <= 1.3 * 1.002);
    const auto cell = *fine.cellAt({700, 500});
    CHECK(fine.width(int(cell % std::size_t(fine.columns()))) <= 2);
    CHECK(fine.height(int(cell / std::size_t(fine.columns()))) <= 2);
    CHECK(columns.front() == 20); // 700 m off
    CHECK(columns.back() == 20);
    CHECK(std::ranges::count(columns, 20.0) > 60);
}

TEST_CASE("Every cell that a line crosses is as narrow as asked for, whatever the grid", "[layers]") {
    std::mt19937 random(21);
    std::uniform_real_distribution<double> at(0, 1000), width(0.7, 9), growth(1.1, 2), turn(-90, 90);
    for (int i = 0; i < 40; ++i) {
        std::vector<FinerPart> parts;
        for (int k = 0; k < 3; ++k)
            parts.push_back({{{at(random), at(random)}, {at(random), at(random)}}, width(random), growth(random)});
        parts.push_back({{{at(random), at(random)}}, width(random), 1.4});
        const PlanGrid g({0, 1000}, i % 2 ? turn(random) : 0, std::vector<double>(40, 25), std::vector<double>(40, 25));
        const auto fine = g.finer(parts);
        CHECK(sum(widthsOf(fine, true)) == Approx(1000));
        double least = 2;
        for (const auto& p : parts)
            if (!g.crossedBy(p.line).empty()) least = std::min(least, p.growth);
        CHECK(worstGrowth(widthsOf(fine, true)) <= least * 1.01);
        CHECK(worstGrowth(widthsOf(fine, false)) <= least * 1.01);
        for (const auto& p : parts)
            for (const auto& c : fine.crossedBy(p.line)) {
                REQUIRE(fine.width(int(c.cell % std::size_t(fine.columns()))) <= p.width * (1 + 1e-9));
                REQUIRE(fine.height(int(c.cell / std::size_t(fine.columns()))) <= p.width * (1 + 1e-9));
            }
    }
}

TEST_CASE("A grid is moved, turned and stretched by its corners, wherever it lies", "[layers][random]") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> place(-500, 500), turn(-170, 170), width(1, 20);
    for (int n = 0; n < 50; ++n) {
        const double w = width(random), h = width(random);
        const PlanGrid g({place(random), place(random)}, n % 3 == 0 ? 0 : turn(random), std::vector<double>(12, w),
                         std::vector<double>(7, h));
        const auto cornerOf = [](const PlanGrid& grid, int corner) {
            return grid.node(corner == 1 || corner == 2 ? grid.columns() : 0, corner == 2 || corner == 3 ? grid.rows() : 0);
        };
        const auto moved = movedBy(g, 3, -4);
        for (int k = 0; k < 4; ++k) CHECK(distance(cornerOf(moved, k), {cornerOf(g, k).x + 3, cornerOf(g, k).y - 4}) < 1e-9);
        const double to = turn(random);
        const auto turned = turnedTo(g, to);
        const auto middle = [&](const PlanGrid& grid) {
            const auto a = cornerOf(grid, 0), b = cornerOf(grid, 2);
            return Point2{(a.x + b.x) / 2, (a.y + b.y) / 2};
        };
        CHECK(distance(middle(turned), middle(g)) < 1e-9);
        const auto p = turned.node(0, 0), q = turned.node(1, 0);
        CHECK(std::remainder(std::atan2(-(q.y - p.y), q.x - p.x) * 180 / std::numbers::pi - to, 360) == Approx(0).margin(1e-9));
        for (int k = 0; k < 4; ++k) {
            // pulled to where the grid of another count has this corner, it is that grid
            const int columns = 1 + int(random() % 20), rows = 1 + int(random() % 20), opposite = (k + 2) % 4;
            auto wanted = withCount(g, columns, rows);
            const auto a = cornerOf(g, opposite), b = cornerOf(wanted, opposite);
            wanted = movedBy(wanted, a.x - b.x, a.y - b.y);
            const auto target = cornerOf(wanted, k);
            const auto stretched = stretchedTo(g, k, {target.x + 0.3 * (random() % 2 ? 1 : -1), target.y});
            CHECK(stretched.columns() == columns);
            CHECK(stretched.rows() == rows);
            CHECK(distance(cornerOf(stretched, opposite), a) < 1e-9);
            CHECK(stretchedTo(g, k, cornerOf(g, opposite)).cells() == 1);
        }
        const auto finer = withCells(g, w / 2);
        CHECK(distance(middle(finer), middle(g)) < 1e-9);
        CHECK(finer.columns() == 24);
        CHECK(finer.rows() * w / 2 >= 7 * h - 1e-6);
    }
}

TEST_CASE("A grid that can't be is refused", "[layers]") {
    CHECK_THROWS_AS(PlanGrid({0, 0}, 0, {}, {1}), UsageError);
    CHECK_THROWS_AS(PlanGrid({0, 0}, 0, {1, 0}, {1}), UsageError);
    CHECK_THROWS_AS(PlanGrid({0, 0}, 0, {1, -2}, {1}), UsageError);
    CHECK_THROWS_AS(PlanGrid({0, kNoValue}, 0, {1}, {1}), UsageError);
    CHECK_THROWS_AS(PlanGrid({0, 0}, 0, std::vector<double>(100'000, 1), std::vector<double>(100'000, 1)), Error);
    const PlanGrid g({0, 10}, 0, {5, 5}, {5, 5});
    CHECK_THROWS_AS(g.finer({{{{1, 1}}, 0, 1.3}}), UsageError);
    CHECK_THROWS_AS(g.finer({{{{1, 1}}, 1, 1}}), UsageError);
    CHECK(g.finer({{{{500, 500}}, 1, 1.3}}) == g); // the place is not in the grid
}
