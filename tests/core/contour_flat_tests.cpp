#include "fixtures.h"
#include "ground/terrain.h"

#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

using Formula = std::function<double(double, double)>;

/// Contours of a formula over a square, traced through a fine grid as a map agency would.
std::vector<Polyline3> contoursOfFormula(const Formula& z, double half, double interval, double cell, int every) {
    Grid grid(Frame{-half, -half, half, half, cell});
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c) {
            const auto p = grid.frame.centre(c, r);
            grid.at(c, r) = z(p.x, p.y);
        }
    std::vector<Polyline3> out;
    for (const auto& line : contoursOf(grid, interval)) {
        Polyline3 l;
        for (std::size_t i = 0; i < line.line.size(); ++i)
            if (i % std::size_t(every) == 0 || i + 1 == line.line.size())
                l.push_back({line.line[i].x, line.line[i].y, line.level});
        if (l.size() >= 2) out.push_back(std::move(l));
    }
    return out;
}

struct Errors {
    double all = 0;  ///< root-mean-square over the inside
    double flat = 0; ///< where the plain triangles are flat
    int flatTriangles = 0, places = 0;
};

/// Against the formula, on a grid of places; `plain` says where the plain triangulation is flat.
Errors errorsOf(const Terrain& terrain, const Terrain& plain, const Formula& z, double half) {
    Errors e;
    int n = 0;
    for (double x = -half; x <= half; x += half / 97)
        for (double y = -half; y <= half; y += half / 97) {
            const auto level = terrain.tin.levelAt({x, y});
            const auto at = plain.tin.triangleAt({x, y});
            if (!level || !at) continue;
            const auto c = plain.tin.corners(plain.tin.triangles()[*at]);
            const double off = *level - z(x, y);
            e.all += off * off, ++n;
            if (c[0].z == c[1].z && c[1].z == c[2].z) e.flat += off * off, ++e.places;
        }
    e.all = std::sqrt(e.all / n);
    e.flat = e.places ? std::sqrt(e.flat / e.places) : 0;
    e.flatTriangles = terrain.tin.measure().flatTriangles;
    return e;
}

struct Compared {
    Errors plain, mended;
};
Compared compared(const Formula& z, double half, double interval, double cell, int every) {
    TerrainInput input;
    input.contours = contoursOfFormula(z, half, interval, cell, every);
    input.mendFlats = false;
    const auto plain = makeTerrain(input);
    input.mendFlats = true;
    const auto mended = makeTerrain(input);
    return {errorsOf(plain, plain, z, half * 0.9), errorsOf(mended, plain, z, half * 0.9)};
}

} // namespace

TEST_CASE("A cone from its contours is round at the top: at most 0.7 of the plain error", "[ground][flats]") {
    const double interval = GENERATE(1.0, 2.0, 5.0), top = GENERATE(19.4, 20.0, 20.9);
    CAPTURE(interval, top);
    const auto c = compared([&](double x, double y) { return top - 0.2 * std::hypot(x, y); }, 90, interval, 0.5, 5);
    CAPTURE(c.plain.all, c.mended.all, c.plain.flat, c.mended.flat);
    CHECK(c.plain.flatTriangles > 0);
    CHECK(c.mended.flatTriangles == 0);
    CHECK(c.mended.all <= c.plain.all);
    CHECK(c.mended.flat <= 0.7 * c.plain.flat);
}

TEST_CASE("A saddle from its contours: where plain triangles are flat, at most 0.7 of their error", "[ground][flats]") {
    const double interval = GENERATE(1.0, 2.0, 3.0), shift = GENERATE(0.1, 0.5, 0.77);
    CAPTURE(interval, shift);
    const auto c =
        compared([&](double x, double y) { return 20 + interval * shift + (x * x - y * y) / 250; }, 60, interval, 0.7, 3);
    CAPTURE(c.plain.all, c.mended.all, c.plain.flat, c.mended.flat, c.plain.places);
    CHECK(c.mended.flatTriangles == 0);
    CHECK(c.mended.all <= c.plain.all * 1.0001);
    if (c.plain.places < 20) return; // contours that leave no flat
    CHECK(c.mended.flat <= 0.7 * c.plain.flat);
}

TEST_CASE("A valley with a spur keeps no flat and gains no error", "[ground][flats]") {
    const auto c =
        compared([](double x, double y) { return 10 + 0.05 * y + 6 * std::sin(x / 18) + 2 * std::cos(y / 23); }, 80, 1, 1, 2);
    CAPTURE(c.plain.all, c.mended.all, c.plain.flat, c.mended.flat);
    CHECK(c.mended.flatTriangles == 0);
    CHECK(c.mended.all <= c.plain.all);
    CHECK(c.mended.flat < c.plain.flat);
}

TEST_CASE("Added levels stay within half an interval of their contour", "[ground][flats]") {
    TerrainInput input;
    Polyline3 ring;
    for (int i = 0; i <= 24; ++i)
        ring.push_back({20 * std::cos(i * std::numbers::pi / 12), 20 * std::sin(i * std::numbers::pi / 12), 10});
    auto outer = ring;
    for (auto& p : outer) p = {p.x * 1.1, p.y * 1.1, 9}; // steep: the slope alone would make a spire of 10 m
    ring.back() = ring.front(), outer.back() = outer.front();
    input.contours = {ring, outer};
    const auto terrain = makeTerrain(input);
    CHECK(terrain.flatsMended > 0);
    const auto m = terrain.tin.measure();
    CHECK(m.flatTriangles == 0);
    CHECK(m.zmax > 10.3);
    CHECK(m.zmax < 10.5);
    // with nothing beside it that slopes there is nothing to carry on
    input.contours = {ring};
    CHECK(makeTerrain(input).flatsMended == 0);
}
