#include "fixtures.h"
#include "formats/crs.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"
#include "ground/outliers.h"
#include "ground/point_grid.h"
#include "ground/shading.h"
#include "ground/thin.h"
#include "ground/tin_files.h"

#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

std::vector<Point3> gridPoints(int n, double cell, const std::function<double(double, double)>& z) {
    std::vector<Point3> out;
    for (int i = 0; i < n; ++i)
        for (int k = 0; k < n; ++k) {
            // a little off the lattice, so that no four lie on a circle
            const double x = i * cell + 0.01 * ((i * 7 + k * 13) % 5), y = k * cell + 0.01 * ((i * 11 + k * 3) % 7);
            out.push_back({x, y, z(x, y)});
        }
    return out;
}

double ringArea(const Polygon2& p) {
    double twice = 0;
    for (std::size_t i = 0, j = p.size() - 1; i < p.size(); j = i++) twice += p[j].x * p[i].y - p[i].x * p[j].y;
    return twice / 2;
}

} // namespace

// --- areas

TEST_CASE("An area without outlines is everywhere", "[area]") {
    CHECK(Area().isEverywhere());
    CHECK(Area().contains({1e9, -1e9}));
    CHECK(Area().spansAt(5).contains(1e9));
    CHECK(Area().clipped({{0, 0, 1}, {5, 5, 2}}).size() == 1);
}

TEST_CASE("Outlines join, islands are taken out of them", "[area]") {
    const std::vector<Polygon2> outlines{square(0, 0, 10), square(5, 5, 10)}, islands{square(6, 6, 2), square(100, 0, 1)};
    const Area area(outlines, islands);
    CHECK(area.contains({1, 1}));
    CHECK(area.contains({14, 14}));
    CHECK_FALSE(area.contains({14, 1}));
    CHECK_FALSE(area.contains({7, 7}));
    double total = 0;
    for (const auto& ring : area.rings()) total += ringArea(ring); // holes run the other way
    CHECK(total == Approx(100 + 100 - 25 - 4).epsilon(1e-12));
}

TEST_CASE("Islands alone leave all the rest", "[area]") {
    const std::vector<Polygon2> islands{square(2, 2, 2)};
    const Area area({}, islands);
    CHECK(area.contains({-100, 0}));
    CHECK_FALSE(area.contains({3, 3}));
    CHECK_FALSE(area.spansAt(3).contains(3));
    CHECK(area.spansAt(3).contains(5));
}

TEST_CASE("Outlines that leave nothing leave nothing", "[area]") {
    const std::vector<Polygon2> one{square(0, 0, 2)}, around{square(-1, -1, 9)};
    const Area area(one, around);
    CHECK_FALSE(area.contains({1, 1}));
    CHECK_FALSE(area.isEverywhere());
    CHECK(area.clipped({{0, 0, 0}, {2, 2, 0}}).empty());
}

TEST_CASE("An outline that crosses itself is a finding, and its parts count by the even-odd rule", "[area]") {
    Findings findings;
    const std::vector<Polygon2> bow{{{0, 0}, {10, 10}, {10, 0}, {0, 10}}};
    const Area area(bow, {}, &findings);
    CHECK(mentions(findings, "FC-OUTLINE", "crosses itself"));
    CHECK(area.contains({1, 5}));
    CHECK(area.contains({9, 5}));
    CHECK_FALSE(area.contains({5, 1}));
}

TEST_CASE("A row's spans agree with the area, place by place", "[area][random]") {
    const auto seed = GENERATE(range(1u, 21u));
    CAPTURE(seed);
    std::vector<Polygon2> outlines, islands;
    for (unsigned k = 0; k < 4; ++k) {
        Polygon2 ring;
        for (const auto& p : randomPoints(seed * 10 + k, 5)) ring.push_back(p.plan());
        (k % 2 ? islands : outlines).push_back(ring);
    }
    const Area area(outlines, islands);
    int inside = 0;
    for (const auto& p : randomPoints(seed + 999, 300)) {
        CHECK(area.spansAt(p.y).contains(p.x) == area.contains(p.plan()));
        inside += area.contains(p.plan());
    }
    CHECK(inside < 300);
}

TEST_CASE("A line is cut at the edges of an area with its level there", "[area]") {
    const Area area(square(0, 0, 10));
    const auto pieces = area.clipped({{-5, 5, 0}, {5, 5, 10}, {15, 5, 20}, {15, 8, 0}, {5, 8, 0}});
    REQUIRE(pieces.size() == 2);
    CHECK(pieces[0] == points("0 5 5, 5 5 10, 10 5 15"));
    CHECK(pieces[1] == points("10 8 0, 5 8 0"));
}

// --- lines

TEST_CASE("Thinning keeps what lies farther off than the tolerance, in levels too", "[ground]") {
    CHECK(thinned(points("0 0 0, 1 0.01 0, 2 0 0"), 0.1).size() == 2);
    CHECK(thinned(points("0 0 0, 1 0 0.5, 2 0 0"), 0.1).size() == 3); // a hump
    CHECK(thinned(points("0 0 0, 1 0 0"), 0.1).size() == 2);
    CHECK(thinned(points("0 0 0, 1 1 0, 0 0 0"), 0.1).size() == 3); // a line that comes back
}

TEST_CASE("No dropped vertex lies farther from the thinned line than the tolerance", "[ground][random]") {
    const auto seed = GENERATE(range(1u, 30u));
    std::mt19937 random(seed);
    std::normal_distribution<double> step(0, 1);
    Polyline3 line{{0, 0, 0}};
    for (int i = 0; i < 300; ++i)
        line.push_back({line.back().x + 1, line.back().y + step(random), line.back().z + 0.2 * step(random)});
    const auto kept = thinned(line, 1.5);
    CHECK(kept.size() < line.size());
    CHECK(kept.front() == line.front());
    CHECK(kept.back() == line.back());
    for (const auto& p : line) {
        double nearest = 1e300;
        for (std::size_t i = 0; i + 1 < kept.size(); ++i) {
            const auto &a = kept[i], &b = kept[i + 1];
            const double dx = b.x - a.x, dy = b.y - a.y, dz = b.z - a.z, l2 = dx * dx + dy * dy + dz * dz;
            const double t = std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy + (p.z - a.z) * dz) / l2, 0.0, 1.0);
            nearest = std::min(nearest, std::hypot(p.x - a.x - t * dx, p.y - a.y - t * dy, p.z - a.z - t * dz));
        }
        CHECK(nearest <= 1.5 + 1e-12);
    }
}

TEST_CASE("Levels on breaklines agree with the line to a micrometre", "[ground]") {
    TerrainInput input;
    input.points = randomPoints(3, 400);
    input.breaklines = {points("5 5 100, 50 60 120, 95 95 90"), points("10 90 0, 40 70 10")};
    const auto terrain = makeTerrain(input);
    for (const auto& line : input.breaklines)
        for (std::size_t i = 0; i + 1 < line.size(); ++i)
            for (double t = 0; t <= 1; t += 0.01) {
                const auto &a = line[i], &b = line[i + 1];
                CHECK(terrain.levelAt({a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)}).value()
                      == Approx(a.z + t * (b.z - a.z)).margin(1e-6));
            }
}

TEST_CASE("A line without levels finds them within its reach only", "[ground]") {
    TerrainInput input;
    input.points = points("0 0 0, 100 0 10, 100 100 10, 0 100 0");
    input.breaklines = {{{1, 1, kNoValue}, {2, 5, kNoValue}, {50, 50, kNoValue}}};
    input.reach = 10;
    const auto terrain = makeTerrain(input);
    CHECK(terrain.tin.hasEdge({1, 1}, {2, 5}));
    CHECK_FALSE(terrain.tin.hasEdge({2, 5}, {50, 50}));
    CHECK(mentions(terrain.findings, "FC-NO-LEVEL", "within 10 m"));
}

TEST_CASE("What is no number is left out of the ground with a finding", "[ground]") {
    TerrainInput input;
    input.points = points("0 0 0, 10 0 0, 0 10 0");
    input.points.push_back({5, 5, kNoValue});
    const auto terrain = makeTerrain(input);
    CHECK(terrain.tin.vertices().size() == 3);
    CHECK(mentions(terrain.findings, "FC-NOT-FINITE", "1 ground point"));
}

// --- outer triangles, mending

TEST_CASE("Outer triangles with long edges are dropped, inner ones stay", "[ground]") {
    TerrainInput input;
    // an L of points: the hull closes its corner with long triangles
    for (int i = 0; i <= 10; ++i)
        for (int k = 0; k <= 10; ++k)
            if (i <= 2 || k <= 2) input.points.push_back({i * 10 + 0.1 * (k % 3), k * 10 + 0.1 * (i % 2), 1});
    CHECK(makeTerrain(input).levelAt({60, 60}).has_value());
    input.longestEdge = 20;
    const auto terrain = makeTerrain(input);
    CHECK(terrain.edgeTriangles > 0);
    CHECK_FALSE(terrain.levelAt({60, 60}));
    CHECK(terrain.levelAt({15, 95}).has_value());
    CHECK(terrain.levelAt({95, 15}).has_value());
    for (const auto& t : terrain.tin.triangles())
        for (const int n : t.neighbour)
            if (terrain.tin.isPresent(n)) CHECK(n < int(terrain.tin.triangles().size()));
    // a line is not gone through, whatever lies behind it
    input.breaklines = {points("15 95 1, 95 15 1")};
    CHECK_FALSE(terrain.levelAt({40, 40}));
    CHECK(makeTerrain(input).levelAt({40, 40}).has_value());
}

TEST_CASE("An edge can be turned if its two triangles make a convex quadrilateral", "[ground]") {
    const auto terrain = terrainOf(points("0 0 0, 10 0 1, 11 10 2, 0 10 3"));
    const bool first = terrain.tin.hasEdge({0, 0}, {11, 10});
    const Point2 a = first ? Point2{0, 0} : Point2{10, 0}, b = first ? Point2{11, 10} : Point2{0, 10};
    const Point2 c = first ? Point2{10, 0} : Point2{0, 0}, d = first ? Point2{0, 10} : Point2{11, 10};
    const auto swapped = terrain.tin.swapped(a, b);
    REQUIRE(swapped);
    CHECK(swapped->hasEdge(c, d));
    CHECK_FALSE(swapped->hasEdge(a, b));
    CHECK(swapped->measure().planArea == Approx(terrain.tin.measure().planArea));
    CHECK_FALSE(terrain.tin.swapped({0, 0}, {10, 0})); // the hull's
    CHECK_FALSE(terrain.tin.swapped({0, 0}, {5, 5}));  // none
    const auto dart = terrainOf(points("0 0 0, 10 0 1, 2 2 2, 0 10 3"));
    CHECK_FALSE(dart.tin.swapped({0, 0}, {2, 2}));
}

TEST_CASE("Many turned edges leave a triangulation that is whole and can be searched", "[ground][random]") {
    const auto seed = GENERATE(range(1u, 9u));
    auto tin = terrainOf(randomPoints(seed, 120)).tin;
    const double area = tin.measure().planArea;
    std::mt19937 random(seed);
    int turned = 0;
    for (int i = 0; i < 200; ++i) {
        const auto& t = tin.triangles()[random() % tin.triangles().size()];
        const auto c = tin.corners(t);
        if (auto next = tin.swapped(c[0].plan(), c[1].plan())) tin = std::move(*next), ++turned;
    }
    CHECK(turned > 50);
    CHECK(tin.measure().planArea == Approx(area).epsilon(1e-12));
    for (std::size_t i = 0; i < tin.triangles().size(); ++i) {
        const auto& t = tin.triangles()[i];
        for (std::size_t e = 0; e < 3; ++e) {
            if (t.neighbour[e] < 0) continue;
            const auto& n = tin.triangles()[std::size_t(t.neighbour[e])];
            CHECK(std::ranges::count(n.neighbour, int(i)) == 1);
            CHECK(std::ranges::count(n.vertex, t.vertex[(e + 1) % 3]) == 1);
            CHECK(std::ranges::count(n.vertex, t.vertex[(e + 2) % 3]) == 1);
        }
        const auto c = tin.corners(t);
        const Point2 middle{(c[0].x + c[1].x + c[2].x) / 3, (c[0].y + c[1].y + c[2].y) / 3};
        CHECK(tin.triangleAt(middle) == i);
    }
}

TEST_CASE("A line's edge can't be turned", "[ground]") {
    TerrainInput input;
    input.points = points("0 0 0, 10 0 1, 11 10 2, 0 10 3");
    input.breaklines = {points("0 0 0, 11 10 2")};
    CHECK_FALSE(makeTerrain(input).tin.swapped({0, 0}, {11, 10}));
}

TEST_CASE("Edits by hand are kept by place and said when they fit no more", "[ground]") {
    TerrainInput input;
    input.points = points("0 0 0, 10 0 0, 10 10 0, 0 10 0, 5 5 9");
    input.breaklines = {points("2 1 0, 8 1 0")};
    using Kind = TinEdit::Kind;
    input.edits = {{Kind::LeaveOut, {5, 5}, {}, 0}, {Kind::SetLevel, {10, 10}, {}, 4}, {Kind::SetLevel, {8, 1.0002}, {}, 2}};
    auto terrain = makeTerrain(input);
    CHECK(terrain.findings.empty());
    CHECK(terrain.tin.vertices().size() == 6);
    CHECK(terrain.levelAt({10, 10}) == 4.0);
    CHECK(terrain.levelAt({8, 1}) == 2.0);
    input.edits = {{Kind::RemoveTriangle, {9, 9}, {}, 0}};
    terrain = makeTerrain(input);
    CHECK_FALSE(terrain.levelAt({9, 9}));
    CHECK(terrain.levelAt({5, 2}).has_value());
    input.edits = {{Kind::LeaveOut, {77, 77}, {}, 0}, {Kind::SwapEdge, {1, 1}, {2, 2}, 0}};
    CHECK(makeTerrain(input).findings.size() == 2);
    CHECK(mentions(makeTerrain(input).findings, "FC-MENDED", "E 77.00"));
}

TEST_CASE("Kinds of edits have names that come back", "[ground]") {
    for (const auto kind :
         {TinEdit::Kind::LeaveOut, TinEdit::Kind::SetLevel, TinEdit::Kind::SwapEdge, TinEdit::Kind::RemoveTriangle})
        CHECK(tinEditKind(name(kind)) == kind);
    CHECK_FALSE(tinEditKind("paint"));
}

// --- outliers

TEST_CASE("A vertex's difference is to the surface without it", "[ground]") {
    const auto seed = GENERATE(range(1u, 6u));
    auto cloud = randomPoints(seed, 80);
    const auto terrain = terrainOf(cloud);
    const auto off = leftOutDifferences(terrain.tin);
    int judged = 0;
    for (std::size_t i = 0; i < off.size(); ++i) {
        if (std::isnan(off[i])) continue;
        const auto v = terrain.tin.vertices()[i];
        auto others = cloud;
        std::erase(others, v);
        CHECK(off[i] == Approx(v.z - terrainOf(others).levelAt(v.plan()).value()).margin(1e-9));
        ++judged;
    }
    CHECK(judged > 40);
}

TEST_CASE("Spikes and pits are found, and not their neighbours", "[ground]") {
    auto cloud = gridPoints(15, 10, [](double x, double y) { return 20 + 3 * std::sin(x / 40) + 2 * std::cos(y / 50); });
    cloud[7 * 15 + 7].z += 4;
    cloud[3 * 15 + 11].z -= 2.5;
    const auto found = outliersOf(terrainOf(cloud).tin);
    const auto tin = terrainOf(cloud).tin;
    REQUIRE(found.size() == 2);
    CHECK(tin.vertices()[std::size_t(found[0].vertex)] == cloud[7 * 15 + 7]);
    CHECK(found[0].off == Approx(4).margin(0.3));
    CHECK(tin.vertices()[std::size_t(found[1].vertex)] == cloud[3 * 15 + 11]);
    CHECK(found[1].off < -2);
    cloud[7 * 15 + 7].z -= 4, cloud[3 * 15 + 11].z += 2.5;
    CHECK(outliersOf(terrainOf(cloud).tin).empty());
    CHECK(outliersOf(terrainOf(points("0 0 0, 1 0 9, 0 1 0")).tin).empty()); // too few to say
}

TEST_CASE("A spike is found beside triangles that were taken out for their long edges", "[ground]") {
    TerrainInput input;
    input.points = gridPoints(15, 10, [](double x, double y) { return 20 + x / 40 + y / 50; });
    for (double at = -30; at <= 170; at += 20) // a few points far around
        for (const auto& p : {Point2{at, -30}, {at, 170}, {-30, at}, {170, at}})
            input.points.push_back({p.x, p.y, 20 + p.x / 40 + p.y / 50});
    const auto spike = 7 * 15 + 0; // on the southern edge of the dense points
    input.points[spike].z += 9;
    for (const double longest : {std::numeric_limits<double>::infinity(), 25.0}) {
        CAPTURE(longest);
        input.longestEdge = longest;
        const auto terrain = makeTerrain(input);
        CHECK((terrain.edgeTriangles > 0) == std::isfinite(longest));
        const auto found = outliersOf(terrain.tin);
        REQUIRE(found.size() == 1);
        CHECK(terrain.tin.vertices()[std::size_t(found[0].vertex)] == input.points[spike]);
        CHECK(found[0].off == Approx(9).margin(0.1));
    }
}

// --- contours

TEST_CASE("Contours through triangles lie at their level, end at the edge or close", "[ground][random]") {
    const auto seed = GENERATE(range(1u, 11u));
    const auto tin = terrainOf(randomPoints(seed, 150)).tin;
    const auto lines = contoursOf(tin, 7.5);
    CHECK(lines.size() > 5);
    int closed = 0;
    for (const auto& line : lines) {
        REQUIRE(line.line.size() >= 2);
        for (std::size_t i = 0; i + 1 < line.line.size(); ++i) {
            const auto &a = line.line[i], &b = line.line[i + 1];
            CHECK(tin.levelAt({(a.x + b.x) / 2, (a.y + b.y) / 2}).value() == Approx(line.level).margin(1e-6));
        }
        closed += line.line.front() == line.line.back();
    }
    CHECK(closed > 0);
    // every crossing of every edge is on exactly one line: count the pieces
    std::size_t pieces = 0, wanted = 0;
    for (const auto& line : lines) pieces += line.line.size() - 1;
    for (const auto& t : tin.triangles()) {
        const auto c = tin.corners(t);
        const auto band = [](double z) { return std::floor(z / 7.5); };
        wanted += std::size_t(band(std::max({c[0].z, c[1].z, c[2].z})) - band(std::min({c[0].z, c[1].z, c[2].z})));
    }
    CHECK(pieces == wanted);
}

TEST_CASE("Flat ground has no contour, a plane has straight ones", "[ground]") {
    CHECK(contoursOf(terrainOf(points("0 0 5, 10 0 5, 10 10 5, 0 10 5")).tin, 1).empty());
    const auto lines = contoursOf(terrainOf(points("0 0 0, 10 0 10, 10 10 10, 0 10 0")).tin, 2.5);
    REQUIRE(lines.size() == 4); // the one along the upper edge counts as just below it
    for (std::size_t i = 0; i < 3; ++i) {
        CHECK(lines[i].level == 2.5 * double(i + 1));
        for (const auto& p : lines[i].line) CHECK(p.x == Approx(lines[i].level));
    }
    CHECK(contoursOf(Tin(), 1).empty());
}

TEST_CASE("A smoothed line keeps its ends and stays near", "[ground]") {
    const Polyline2 zigzag{{0, 0}, {1, 1}, {2, 0}, {3, 1}};
    const auto s = smoothed(zigzag);
    CHECK(s.front() == zigzag.front());
    CHECK(s.back() == zigzag.back());
    CHECK(s.size() > zigzag.size());
    for (const auto& p : s) CHECK((p.y >= 0 && p.y <= 1));
    const Polyline2 ring{{0, 0}, {4, 0}, {4, 4}, {0, 4}, {0, 0}};
    CHECK(smoothed(ring).front() == smoothed(ring).back());
}

TEST_CASE("Contours of the ground end at its area", "[ground]") {
    TerrainInput input;
    input.points = points("0 0 0, 100 0 100, 100 100 100, 0 100 0");
    input.area = Area(square(20, 20, 30));
    const auto terrain = makeTerrain(input);
    const auto lines = contoursOf(terrain, terrain.sampled({0, 0, 100, 100, 10}), 10, false);
    CHECK(lines.size() >= 2);
    for (const auto& line : lines)
        for (const auto& p : line.line) {
            CHECK(p.y >= 20 - 1e-9);
            CHECK(p.y <= 50 + 1e-9);
        }
}

// --- grids where there are no triangles

TEST_CASE("A grid is the ground where the survey has none, and meets it at its edge", "[ground]") {
    Grid coarse(Frame{-100, -100, 200, 200, 10});
    for (int r = 0; r < coarse.frame.rows(); ++r)
        for (int c = 0; c < coarse.frame.columns(); ++c) coarse.at(c, r) = 50 + coarse.frame.centre(c, r).x * 0.1;
    TerrainInput input;
    input.points = points("0 0 53, 100 0 63, 100 100 63, 0 100 53"); // 3 m above the grid
    input.rasters = {std::make_shared<const Grid>(coarse)};
    input.blend = 40;
    const auto terrain = makeTerrain(input);
    CHECK(terrain.levelAt({50, 50}).value() == Approx(58));
    CHECK(terrain.levelAt({50, -0.001}).value() == Approx(58).margin(0.01)); // no step
    CHECK(terrain.levelAt({50, -20}).value() == Approx(55 + 1.5));           // half of the way, half of the difference
    CHECK(terrain.levelAt({50, -40}).value() == Approx(55));
    CHECK(terrain.levelAt({50, -80}).value() == Approx(55));
    CHECK_FALSE(terrain.levelAt({50, -120}));
    const auto sampled = terrain.sampled({-50, -50, 150, 150, 20});
    for (int r = 0; r < sampled.frame.rows(); ++r)
        for (int c = 0; c < sampled.frame.columns(); ++c)
            CHECK(sampled.at(c, r) == Approx(terrain.levelAt(sampled.frame.centre(c, r)).value()));
    input.points.clear(); // no survey at all
    CHECK(makeTerrain(input).levelAt({50, 50}).value() == Approx(55));
}

TEST_CASE("Between cell centres a grid is bilinear; a cell without a value leaves none", "[ground]") {
    Grid grid(Frame{0, 0, 20, 20, 10});
    grid.values = {1, 2, 3, 4};
    CHECK(bilinear(grid, {5, 15}) == 1.0);
    CHECK(bilinear(grid, {10, 10}).value() == Approx(2.5));
    CHECK(bilinear(grid, {0, 20}) == 1.0); // the outer half cell
    CHECK_FALSE(bilinear(grid, {-1, 10}));
    grid.values[3] = kNoValue;
    CHECK_FALSE(bilinear(grid, {10, 10}));
    CHECK(bilinear(grid, {5, 10}).value() == Approx(2));
}

// --- finding what is in sight

TEST_CASE("A rectangle's triangles and points are those that a full search finds", "[ground][random]") {
    const auto seed = GENERATE(range(1u, 11u));
    const auto cloud = randomPoints(seed, 400);
    TerrainInput input;
    input.points = cloud;
    input.edits = {{TinEdit::Kind::RemoveTriangle, {40, 40}, {}, 0}};
    const auto tin = makeTerrain(input).tin;
    std::vector<Point2> places;
    for (const auto& p : cloud) places.push_back(p.plan());
    const PointGrid grid(places);
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> at(-20, 120);
    for (int k = 0; k < 20; ++k) {
        Box2 box;
        box.include({at(random), at(random)});
        box.include({at(random), at(random)});
        auto found = tin.trianglesIn(box);
        std::ranges::sort(found);
        CHECK(std::ranges::adjacent_find(found) == found.end());
        // every place in the rectangle lies in one of them, and each of them comes near
        for (double x = box.xmin; x <= box.xmax; x += box.width() / 9)
            for (double y = box.ymin; y <= box.ymax; y += box.height() / 9)
                if (const auto t = tin.triangleAt({x, y})) CHECK(std::ranges::binary_search(found, *t));
        for (const auto i : found) {
            Box2 b;
            for (const auto& c : tin.corners(tin.triangles()[i])) b.include(c.plan());
            CHECK((b.xmax >= box.xmin && b.xmin <= box.xmax && b.ymax >= box.ymin && b.ymin <= box.ymax));
        }
        std::vector<std::size_t> inside, met;
        for (std::size_t i = 0; i < places.size(); ++i)
            if (places[i].x >= box.xmin && places[i].x <= box.xmax && places[i].y >= box.ymin && places[i].y <= box.ymax)
                inside.push_back(i);
        grid.visit(box, 1000000, 1, [&](std::size_t i) { met.push_back(i); });
        std::ranges::sort(met);
        CHECK(met == inside);
        std::size_t few = 0;
        grid.visit(box, 0, 1, [&](std::size_t) { ++few; });
        CHECK(few <= inside.size());
    }
}

TEST_CASE("No places, one, and all at one place are searched without trouble", "[ground]") {
    int met = 0;
    const auto count = [&](std::size_t) { ++met; };
    PointGrid().visit({0, 0, 1, 1}, 10, 1, count);
    CHECK(met == 0);
    const std::vector<Point2> same(50, Point2{3, 4});
    PointGrid(same).visit({0, 0, 5, 5}, 10, 1, count);
    CHECK(met == 50);
}

TEST_CASE("Light falls on slopes that face the sun; slope is in degrees", "[ground]") {
    Grid plane(Frame{0, 0, 100, 100, 10});
    for (int r = 0; r < 10; ++r)
        for (int c = 0; c < 10; ++c) plane.at(c, r) = plane.frame.centre(c, r).x; // rising to the east at 45 degrees
    CHECK(slopeOf(plane).at(5, 5) == Approx(45));
    CHECK(slopeOf(plane).at(0, 0) == Approx(45));         // one-sided at the edge
    CHECK(lightOn(plane, 270, 45).at(5, 5) == Approx(1)); // the sun stands square to it
    CHECK(lightOn(plane, 90, 45).at(5, 5) == Approx(0).margin(1e-9));
    Grid flat(Frame{0, 0, 30, 30, 10});
    std::ranges::fill(flat.values, 7);
    CHECK(lightOn(flat, 123, 30).at(1, 1) == Approx(0.5));
    flat.at(1, 1) = kNoValue;
    CHECK(std::isnan(slopeOf(flat).at(1, 1)));
}

// --- files of triangles

TEST_CASE("Triangles come back from LandXML, OBJ and PLY as they went out", "[ground][files]") {
    const TemporaryFolder folder;
    const auto* name = GENERATE("t.xml", "t.obj", "t.ply");
    auto cloud = randomPoints(4, 60);
    for (auto& p : cloud)
        p = {480000 + std::round(p.x * 1000) / 1000, 6120000 + std::round(p.y * 1000) / 1000, std::round(p.z * 1000) / 1000};
    TerrainInput input;
    input.points = cloud;
    input.longestEdge = 25; // triangles that were taken out stay out
    const auto tin = makeTerrain(input).tin;
    writeTin(folder / name, tin, "ground", "EPSG:25831");
    if (std::string_view(name) == "t.xml") CHECK(readBytes(folder / name).find("epsgCode=\"25831\"") != std::string::npos);
    const auto back = readTriangleMesh(folder / name);
    REQUIRE(back.triangles.size() == tin.triangles().size());
    double area = 0;
    for (const auto& t : back.triangles) {
        const auto &a = back.vertices[std::size_t(t[0])], &b = back.vertices[std::size_t(t[1])],
                   &c = back.vertices[std::size_t(t[2])];
        area += ((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) / 2;
    }
    CHECK(area == Approx(tin.measure().planArea).epsilon(1e-9));
    for (const auto& v : back.vertices)
        CHECK(std::ranges::any_of(tin.vertices(), [&](const Point3& p) {
            return std::abs(p.x - v.x) < 1e-4 && std::abs(p.y - v.y) < 1e-4 && std::abs(p.z - v.z) < 1e-4;
        }));
}

TEST_CASE("Damaged files of triangles are refused with the place", "[ground][files]") {
    const TemporaryFolder folder;
    CHECK_THROWS_WITH(readTriangleMesh(folder.write("a.xml", "<LandXML><Surfaces>")), Catch::Contains("not complete XML"));
    CHECK_THROWS_WITH(readTriangleMesh(folder.write("b.xml", "<a/>")), Catch::Contains("not LandXML"));
    CHECK_THROWS_WITH(
        readTriangleMesh(folder.write("c.xml", "<LandXML><Surfaces><Surface><Definition><Pnts><P id=\"1\">1 x 3</P></Pnts>"
                                               "<Faces><F>1 1 1</F></Faces></Definition></Surface></Surfaces></LandXML>")),
        Catch::Contains("point 1: \"x\" is not a number"));
    CHECK_THROWS_WITH(
        readTriangleMesh(folder.write("d.xml", "<LandXML><Surfaces><Surface><Definition><Pnts><P id=\"1\">1 2 3</P></Pnts>"
                                               "<Faces><F>1 2 3</F></Faces></Definition></Surface></Surfaces></LandXML>")),
        Catch::Contains("does not name three points"));
    CHECK_THROWS_WITH(readTriangleMesh(folder.write("e.obj", "v 0 0 0\nf 1 2 3\n")),
                      Catch::Contains("e.obj, line 2: there is no vertex"));
    CHECK_THROWS_WITH(readTriangleMesh(folder.write("f.ply", "ply\nformat binary_little_endian 1.0\nend_header\n")),
                      Catch::Contains("binary"));
    CHECK_THROWS_WITH(readTriangleMesh(folder.write("g.obj", "v 0 0 0\n")), Catch::Contains("no triangles"));
}

TEST_CASE("Each edge of triangles is given once", "[ground][files]") {
    CHECK(edgesOf({"", points("0 0, 1 0, 1 1, 0 1"), {{0, 1, 2}, {0, 2, 3}}}).size() == 5);
}

// --- coarse grids

TEST_CASE("A grid in another system is brought over, one without a system is taken as the site's, and both are said",
          "[formats]") {
    const TemporaryFolder folder;
    Grid grid(Frame{480000, 6120000, 480600, 6120600, 30});
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c) grid.at(c, r) = (grid.frame.centre(c, r).x - 480000) / 10;
    writeRaster(folder / "a.tif", grid, "EPSG:25831");
    writeRaster(folder / "none.asc", grid, "");
    Findings findings;
    CHECK(readRasterIn(folder / "a.tif", "EPSG:25831", {}, findings).grid == grid);
    CHECK(findings.empty());
    CHECK(readRasterIn(folder / "none.asc", "EPSG:25831", {}, findings).grid.frame == grid.frame);
    CHECK(mentions(findings, "FC-GRID", "does not state its coordinate system"));
    findings.clear();
    const auto other = readRasterIn(folder / "a.tif", "EPSG:25832", {}, findings).grid;
    CHECK(mentions(findings, "FC-GRID", "was brought to EPSG:25832"));
    const auto there = CoordinateChange("EPSG:25831", "EPSG:25832").forward({480300, 6120300}).value();
    CHECK(bilinear(other, there).value() == Approx(30).margin(0.5));
    findings.clear();
    const auto finer = readRasterIn(folder / "a.tif", "EPSG:25831", 10.0, findings).grid;
    CHECK(finer.frame.cell == 10);
    CHECK(finer.frame.columns() == 60);
    CHECK(bilinear(finer, {480333, 6120200}).value() == Approx(33.3).margin(0.1));
    CHECK_THROWS_AS(readRasterIn(folder.write("bad.tif", "no"), "", {}, findings), FileError);
}
