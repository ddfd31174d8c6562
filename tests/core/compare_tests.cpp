#include "base/errors.h"
#include "fixtures.h"
#include "ground/compare.h"

#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

TEST_CASE("Volumes between planes are exact to 1e-9", "[ground][volumes]") {
    const auto seed = GENERATE(range(1u, 11u));
    CAPTURE(seed);
    const auto plane = [](std::vector<Point3> cloud, double a, double b, double c) {
        for (auto& p : cloud) p.z = a * p.x + b * p.y + c;
        return terrainOf(cloud).tin;
    };
    // corners in both, so that they cover the same square
    auto one = randomPoints(seed, 150), other = randomPoints(seed + 77, 90);
    for (auto* cloud : {&one, &other})
        for (const auto& p : points("0 0, 100 0, 100 100, 0 100")) cloud->push_back(p);
    const auto apart = volumesBetween(plane(one, 0.1, 0.2, 30), plane(other, 0.1, 0.2, 25));
    CHECK(apart.area == Approx(10000).epsilon(1e-9));
    CHECK(apart.above == Approx(50000).epsilon(1e-9));
    CHECK(apart.below == Approx(0).margin(1e-9));
    CHECK(apart.noValue == Approx(0).margin(1e-6));
    // they cross at x = 50: a wedge on either side
    const auto crossed = volumesBetween(plane(one, 0.1, 0.2, 0), plane(other, 0, 0.2, 5));
    CHECK(crossed.above == Approx(0.1 * 50 * 50 / 2 * 100).epsilon(1e-9));
    CHECK(crossed.below == Approx(0.1 * 50 * 50 / 2 * 100).epsilon(1e-9));
    CHECK(crossed.net() == Approx(0).margin(1e-6));
    // in an outline, less an island
    const std::vector<Polygon2> outline{square(10, 10, 40)}, island{square(20, 20, 10)};
    const auto cut = volumesBetween(plane(one, 0.1, 0.2, 30), plane(other, 0.1, 0.2, 25), Area(outline, island));
    CHECK(cut.area == Approx(1500).epsilon(1e-9));
    CHECK(cut.above == Approx(7500).epsilon(1e-9));
    const auto rest = volumesBetween(plane(one, 0.1, 0.2, 30), plane(other, 0.1, 0.2, 25), Area({}, island));
    CHECK(rest.above == Approx(50000 - 500).epsilon(1e-9));
}

TEST_CASE("A cap on fine triangles has its volume to 0.1 %, above and below a plane through it", "[ground][volumes]") {
    const double r = 50, height = 20; // of a cap of a sphere
    const double sphere = (r * r + height * height) / (2 * height);
    const auto cap = [&](double x, double y) {
        const double d2 = x * x + y * y;
        return d2 >= r * r ? 0 : std::sqrt(sphere * sphere - d2) - (sphere - height);
    };
    std::vector<Point3> cloud;
    for (int ring = 0; ring <= 60; ++ring)
        for (int k = 0; k < 120; ++k) {
            const double d = r * ring / 60, angle = 2 * std::numbers::pi * k / 120;
            cloud.push_back({d * std::cos(angle), d * std::sin(angle), cap(d, 0)});
        }
    const auto tin = terrainOf(cloud).tin;
    const auto floor = terrainOf(points("-60 -60 0, 60 -60 0, 60 60 0, -60 60 0")).tin;
    const double exact = std::numbers::pi * height * height * (sphere - height / 3);
    CHECK(volumesBetween(tin, floor).above == Approx(exact).epsilon(1e-3));
    const auto half = terrainOf(points("-60 -60 10, 60 -60 10, 60 60 10, -60 60 10")).tin;
    const auto v = volumesBetween(tin, half);
    const double top = std::numbers::pi * 10 * 10 * (sphere - 10.0 / 3);
    CHECK(v.above == Approx(top).epsilon(1e-3));
    CHECK(v.net() == Approx(exact - 10 * v.area).margin(exact * 1e-3));
    CHECK(v.noValue == Approx(120 * 120 - v.area).epsilon(1e-9));
}

TEST_CASE("Exact volumes agree with fine cells for any two surfaces", "[ground][volumes][random]") {
    const auto seed = GENERATE(1u, 2u, 3u);
    const auto a = terrainOf(randomPoints(seed, 40)), b = terrainOf(randomPoints(seed + 50, 60));
    const auto exact = volumesBetween(a.tin, b.tin);
    const Frame fine{0, 0, 100, 100, 0.25};
    const auto cells = volumesBetween(a.sampled(fine), b.sampled(fine));
    CHECK(cells.area == Approx(exact.area).epsilon(0.01));
    CHECK(cells.above == Approx(exact.above).epsilon(0.01));
    CHECK(cells.below == Approx(exact.below).epsilon(0.01));
    const auto turned = volumesBetween(b.tin, a.tin);
    CHECK(turned.above == Approx(exact.below).epsilon(1e-9));
    CHECK(turned.area == Approx(exact.area).epsilon(1e-9));
}

TEST_CASE("Grids that do not match are refused, saying how", "[ground][volumes]") {
    const Grid a(Frame{0, 0, 10, 10, 1});
    CHECK_THROWS_WITH(volumesBetween(a, Grid(Frame{0, 0, 10, 10, 2})), Catch::Contains("differ in cell: 1 m and 2 m"));
    CHECK_THROWS_WITH(differenceOf(a, Grid(Frame{0, 0, 11, 10, 1})), Catch::Contains("differ in extent"));
}

TEST_CASE("A profile has both surfaces along a line, and none where there is none", "[ground]") {
    const auto a = terrainOf(points("0 0 0, 10 0 10, 10 10 10, 0 10 0"));
    const auto p = profileOf(
        {{-5, 5}, {5, 5}, {5, 9}}, 2, [&](Point2 q) { return a.levelAt(q); }, [](Point2) { return std::optional(3.0); });
    CHECK(p.chainage.back() == Approx(14));
    CHECK(std::isnan(p.first.front()));
    CHECK(p.first.back() == Approx(5));
    CHECK(std::ranges::count(p.second, 3.0) == int(p.second.size()));
}

TEST_CASE("Two surfaces compared: exact where both are triangles, cells where one is not", "[ground][volumes]") {
    const Frame frame{0, 0, 100, 100, 5};
    const auto upper = std::make_shared<const Terrain>(terrainOf(points("0 0 30, 100 0 30, 100 100 30, 0 100 30")));
    const auto lower = std::make_shared<const Terrain>(terrainOf(points("0 0 20, 100 0 20, 100 100 40, 0 100 40")));
    const auto surface = [](const std::shared_ptr<const Terrain>& terrain) {
        return ComparedSurface{[terrain](Point2 p) { return terrain->levelAt(p); }, terrain, boxOf(terrain->tin)};
    };
    const Polyline2 line{{50, 0}, {50, 100}};
    const auto exact = compareSurfaces(surface(upper), surface(lower), frame, {}, line);
    CHECK(exact.exact);
    // they cross at northing 50: a wedge of 10 m at either end
    CHECK(exact.volumes.above == Approx(25000).epsilon(1e-9));
    CHECK(exact.volumes.below == Approx(25000).epsilon(1e-9));
    CHECK(exact.profile.first.front() == Approx(30));
    CHECK(exact.profile.second.back() == Approx(40).margin(1e-6));
    CHECK(exact.difference.at(0, 0) == Approx(30 - 39.5)); // the northernmost row
    // the same as levels alone
    const auto cells = compareSurfaces({surface(upper).levelAt, nullptr, {}}, surface(lower), frame, {}, {});
    CHECK_FALSE(cells.exact);
    CHECK(cells.volumes.above == Approx(25000).epsilon(1e-9)); // linear: the cells' centres give the same
    CHECK(cells.profile.chainage.empty());
    // inside an outline only
    const Area inside(square(0, 0, 50));
    const auto part = compareSurfaces(surface(upper), surface(lower), frame, inside, {});
    CHECK(part.volumes.area == Approx(2500));
    CHECK(part.volumes.above == Approx(12500));
    CHECK(std::isnan(part.difference.at(19, 0)));
    CHECK_FALSE(std::isnan(part.difference.at(0, 19)));
}

TEST_CASE("A comparison stops when it is asked to", "[ground][volumes]") {
    std::stop_source stop;
    const ComparedSurface flat{[&](Point2) {
                                   stop.request_stop(); // at the first cell
                                   return std::optional(1.0);
                               },
                               nullptr,
                               {}};
    CHECK_THROWS_AS(compareSurfaces(flat, flat, Frame{0, 0, 100, 100, 1}, {}, {}, Progress(stop.get_token())), Stopped);
}

TEST_CASE("Surfaces are compared where they are, also beyond the site's extent", "[ground][volumes]") {
    const Frame site{0, 0, 50, 50, 5};
    const auto upper = std::make_shared<const Terrain>(terrainOf(points("0 0 30, 103 0 30, 103 100 30, 0 100 30")));
    const ComparedSurface a{[upper](Point2 p) { return upper->levelAt(p); }, upper, boxOf(upper->tin)};
    const ComparedSurface flat{[](Point2) { return std::optional(28.0); }, nullptr, {}};
    const auto frame = comparisonFrame(site, a, flat, {});
    CHECK(frame == Frame{0, 0, 105, 100, 5}); // whole cells, on the site's lattice
    const auto all = compareSurfaces(a, flat, frame, {}, {});
    CHECK(all.volumes.above == Approx(2 * 100 * 105).epsilon(0.05));
    // within an outline that reaches beyond the extent
    const Area outline(square(40, 40, 40));
    CHECK(comparisonFrame(site, a, flat, outline) == Frame{40, 40, 80, 80, 5});
    CHECK(compareSurfaces(a, flat, comparisonFrame(site, a, flat, outline), outline, {}).volumes.area == Approx(1600));
    // one that lies apart from both: the extent, on which nothing is inside
    const Area apart(square(900, 900, 10));
    CHECK(comparisonFrame(site, a, flat, apart) == site);
    // never more than a million cells
    const ComparedSurface far{flat.levelAt, nullptr, Box2{-50000, -50000, 50000, 50000}};
    const auto large = comparisonFrame(site, a, far, {});
    CHECK(large.cells() <= 1'010'000);
    CHECK(large.xmin <= -50000);
}

TEST_CASE("The box around triangles leaves out what was taken out of them", "[ground]") {
    CHECK(boxOf(Tin()).empty());
    const auto tin = terrainOf(points("0 0 1, 10 0 1, 10 10 1, 0 10 1, 90 5 1")).tin;
    CHECK(boxOf(tin) == Box2{0, 0, 90, 10});
    std::vector<bool> out(tin.triangles().size());
    for (std::size_t t = 0; t < out.size(); ++t)
        for (const int v : tin.triangles()[t].vertex) out[t] = out[t] || tin.vertices()[std::size_t(v)].x == 90;
    CHECK(boxOf(tin.without(out)) == Box2{0, 0, 10, 10});
}

TEST_CASE("Triangles that were taken out stand behind the others, with the same neighbours", "[ground]") {
    const auto tin = terrainOf(randomPoints(3, 40)).tin;
    std::vector<bool> out(tin.triangles().size());
    for (std::size_t t = 0; t < out.size(); t += 3) out[t] = true;
    const auto less = tin.without(out);
    CHECK(less.trianglesAndRemoved().size() == tin.triangles().size());
    CHECK(less.triangles().size() == tin.triangles().size() - std::size_t(std::ranges::count(out, true)));
    for (const auto& t : less.trianglesAndRemoved())
        for (const int n : t.neighbour) CHECK(n < int(less.trianglesAndRemoved().size()));
    CHECK(less.isPresent(int(less.triangles().size()) - 1));
    CHECK_FALSE(less.isPresent(int(less.triangles().size())));
}
