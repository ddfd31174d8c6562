#include "base/parallel.h"
#include "fixtures.h"
#include "ground/contours.h"
#include "ground/raster_ground.h"
#include "ground/survey.h"
#include "ground/terrain.h"
#include "ground/tin_files.h"
#include "holes/path.h"

#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

TEST_CASE("A hole without stations goes straight down", "[holes]") {
    const HolePath path({10, 20, 30}, {});
    CHECK(path.vertical());
    CHECK(path.at(Depth{12.5}) == Point3{10, 20, 17.5});
}

TEST_CASE("One station makes a straight line in its direction", "[holes]") {
    const HolePath path({0, 0, 0}, {{Depth{0}, 60, 90}});
    const auto p = path.at(Depth{10});
    CHECK(p.x == Approx(5));
    CHECK(p.y == Approx(0).margin(1e-12));
    CHECK(p.z == Approx(-10 * std::sqrt(3) / 2));
}

TEST_CASE("Minimum curvature follows a circle exactly", "[holes]") {
    // a quarter turn from vertical to horizontal towards the north, radius 100 m, in six stations
    const double radius = 100, quarter = radius * std::numbers::pi / 2;
    std::vector<PathStation> stations;
    for (int i = 0; i <= 6; ++i) stations.push_back({Depth{quarter * i / 6}, 90.0 - 15 * i, 0});
    const HolePath path({0, 0, 0}, stations);
    for (const double share : {0.1, 0.35, 0.5, 0.83, 1.0}) {
        const double angle = share * std::numbers::pi / 2;
        const auto p = path.at(Depth{quarter * share});
        CHECK(p.y == Approx(radius * (1 - std::cos(angle))).margin(1e-9));
        CHECK(p.z == Approx(-radius * std::sin(angle)).margin(1e-9));
    }
}

TEST_CASE("A path's length is its depth", "[holes][random]") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> dip(30, 90), azimuth(0, 360);
    std::vector<PathStation> stations;
    for (int i = 0; i < 5; ++i) stations.push_back({Depth{10.0 * i}, dip(random), azimuth(random)});
    const HolePath path({0, 0, 0}, stations);
    double length = 0;
    for (int i = 0; i < 60000; ++i) {
        const auto a = path.at(Depth{i * 1e-3}), b = path.at(Depth{(i + 1) * 1e-3});
        length += std::hypot(b.x - a.x, b.y - a.y, b.z - a.z);
    }
    CHECK(length == Approx(60).epsilon(1e-6)); // chords of 1 mm
}

TEST_CASE("Under three places, or all on one line, make no triangle", "[ground]") {
    CHECK(triangulate({}).tin.empty());
    CHECK(triangulate(points("1 1 1")).tin.empty());
    CHECK(triangulate(points("0 0 1, 1 1 1, 2 2 1")).tin.empty());
    CHECK_FALSE(triangulate(points("0 0 1, 1 1 1, 2 2 1")).tin.levelAt({1, 1}));
}

TEST_CASE("A breakline across a square becomes a triangle edge", "[ground]") {
    const std::vector<Polyline3> line{points("0 0 1, 10 10 1")};
    const auto t = triangulate(points("0 0 1, 10 0 1, 10.5 10.5 1, 0 10 1, 10 10 1"), line);
    CHECK(t.tin.hasEdge({0, 0}, {10, 10}));
    CHECK(t.segments == 1);
}

TEST_CASE("Triangles cover the hull once, are Delaunay, and give a plane back", "[ground][random]") {
    const auto seed = GENERATE(range(1u, 9u));
    CAPTURE(seed);
    auto cloud = randomPoints(seed, 60);
    for (auto& p : cloud) p.z = 3 + 0.25 * p.x - 0.5 * p.y;
    const auto tin = triangulate(cloud, {}, 0).tin;
    // hull by gift wrapping, an independent way
    Polygon2 hull;
    auto at = *std::ranges::min_element(cloud, {}, &Point3::x);
    do {
        hull.push_back(at.plan());
        auto next = cloud[0];
        for (const auto& p : cloud)
            if ((next == at) || (next.x - at.x) * (p.y - at.y) - (next.y - at.y) * (p.x - at.x) < 0) next = p;
        at = next;
    } while (at.plan() != hull.front());
    double area = 0;
    for (std::size_t i = 0; i < hull.size(); ++i)
        area += hull[i].x * hull[(i + 1) % hull.size()].y - hull[(i + 1) % hull.size()].x * hull[i].y;
    CHECK(tin.measure().planArea == Approx(std::abs(area) / 2).epsilon(1e-12));
    CHECK(tin.measure().surfaceArea == Approx(std::abs(area) / 2 * std::sqrt(1 + 0.0625 + 0.25)).epsilon(1e-12));
    for (const auto& t : tin.triangles()) {
        const auto c = tin.corners(t);
        for (const auto& p : cloud) {
            const double ax = c[0].x - p.x, ay = c[0].y - p.y, bx = c[1].x - p.x, by = c[1].y - p.y, cx = c[2].x - p.x,
                         cy = c[2].y - p.y;
            const double inside = (ax * ax + ay * ay) * (bx * cy - cx * by) - (bx * bx + by * by) * (ax * cy - cx * ay)
                                  + (cx * cx + cy * cy) * (ax * by - bx * ay);
            REQUIRE(inside < 1e-4); // rounding of coordinates to the fourth power
        }
    }
    for (const auto& p : randomPoints(seed + 100, 40))
        if (contains(hull, p.plan())) CHECK(tin.levelAt(p.plan()).value() == Approx(3 + 0.25 * p.x - 0.5 * p.y).margin(1e-9));
    CHECK_FALSE(tin.levelAt({-1, 50}));
}

TEST_CASE("Points closer than a millimetre merge to their mean, and a line's vertex wins", "[ground]") {
    const auto t = triangulate(points("0 0 1, 10 0 1, 0 10 1, 0 0 2, 10.0004 0 1.5"));
    CHECK(t.merged == 2);
    CHECK(t.tin.levelAt({0, 0}).value() == 1.5);
    CHECK(t.mergedUnequal == 2);
    CHECK(mentions(t.findings, "FC-TWO-LEVELS"));
    const std::vector<Polyline3> line{points("0 0 7, 0 10 1")};
    CHECK(triangulate(points("0 0 1, 10 0 1, 0 10 1"), line).tin.levelAt({0, 0}).value() == 7);
}

TEST_CASE("Crossing breaklines are split; two levels there are a finding", "[ground]") {
    const auto corners = points("0 0 0, 10 0 0, 10 10 0, 0 10 0");
    const std::vector<Polyline3> lines{points("1 1 4, 9 9 4"), points("1 9 6, 9 1 6")};
    const auto t = triangulate(corners, lines);
    CHECK(t.crossings == 1);
    CHECK(t.tin.levelAt({5, 5}).value() == Approx(5));
    REQUIRE(mentions(t.findings, "FC-CROSSING", "4.00 m to 6.00 m"));
    const std::vector<Polyline3> agreeing{points("1 1 4, 9 9 6"), points("1 9 4, 9 1 6")};
    CHECK(triangulate(corners, agreeing).findings.empty());
}

TEST_CASE("Neighbours of triangles know one another", "[ground]") {
    const auto tin = triangulate(randomPoints(3, 200), {}, 0).tin;
    for (std::size_t i = 0; i < tin.triangles().size(); ++i)
        for (const int n : tin.triangles()[i].neighbour)
            if (n >= 0) CHECK(std::ranges::count(tin.triangles()[std::size_t(n)].neighbour, int(i)) == 1);
}

TEST_CASE("A limit cuts areas exactly and takes levels away outside", "[ground]") {
    TerrainInput input;
    input.points = points("0 0 0, 10 0 10, 10 10 10, 0 10 0");
    input.area = Area(Polygon2{{2, 2}, {8, 2}, {8, 7}, {2, 7}});
    const auto terrain = makeTerrain(input);
    const auto m = terrain.tin.measure(input.area);
    CHECK(m.planArea == Approx(30));
    CHECK(m.surfaceArea == Approx(30 * std::sqrt(2)));
    CHECK(m.zmin == Approx(2));
    CHECK(m.zmax == Approx(8));
    CHECK(terrain.levelAt({5, 5}).value() == Approx(5));
    CHECK_FALSE(terrain.levelAt({9, 5}));
    CHECK(std::isnan(terrain.sampled({0, 0, 10, 10, 1}).at(9, 5)));
}

TEST_CASE("A breakline without levels lies on the ground; beyond it, a finding", "[ground]") {
    TerrainInput input;
    input.points = points("0 0 0, 10 0 10, 10 10 10, 0 10 0");
    input.breaklines = {{{2, 2, kNoValue}, {6, 7, kNoValue}, {40, 7, kNoValue}}};
    const auto terrain = makeTerrain(input);
    CHECK(terrain.tin.hasEdge({2, 2}, {6, 7}));
    CHECK(terrain.levelAt({6, 7}).value() == Approx(6));
    CHECK(mentions(terrain.findings, "FC-NO-LEVEL"));
}

TEST_CASE("The sampled grid is the surface at cell centres", "[ground]") {
    TerrainInput input;
    input.points = randomPoints(5, 300);
    const auto terrain = makeTerrain(input);
    const auto grid = terrain.sampled({20, 20, 80, 80, 7});
    CHECK(grid.frame.columns() == 9); // ceil(60 / 7)
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c)
            CHECK(grid.at(c, r) == Approx(terrain.tin.levelAt(grid.frame.centre(c, r)).value()).margin(1e-9));
}

TEST_CASE("Contours of a plane are straight and at their level", "[ground]") {
    Grid grid({0, 0, 100, 100, 5});
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c) grid.at(c, r) = grid.frame.centre(c, r).x / 10;
    const auto lines = contoursOf(grid, 1);
    REQUIRE(lines.size() >= 8);
    for (const auto& line : lines)
        for (const auto& p : line.line) CHECK(p.x == Approx(line.level * 10).margin(1e-6));
    CHECK(contourInterval(grid) == 1);
}

TEST_CASE("Contours of a grid stay among the nodes that have values", "[ground]") {
    Grid grid({0, 0, 60, 40, 2});
    const auto isKnown = [](Point2 p) { return distance(p, {30, 20}) < 15 && distance(p, {28, 22}) > 4; };
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c) {
            const auto p = grid.frame.centre(c, r);
            grid.at(c, r) = isKnown(p) ? p.x + 0.3 * p.y : kNoValue;
        }
    const auto lines = contoursOf(grid, 2.5);
    REQUIRE(lines.size() > 8);
    for (const auto& line : lines) {
        REQUIRE(line.line.size() >= 2);
        for (const auto& p : line.line) {
            INFO("at " << p.x << " " << p.y);
            CHECK(p.x + 0.3 * p.y == Approx(line.level).margin(1e-6));
            // the four nodes around it, or two on a line between them
            CHECK(bilinear(grid, p).has_value());
        }
    }
}

TEST_CASE("Survey rows are read in any order of columns; bad ones are said with their line", "[ground]") {
    const auto survey = surveyOf(readTable("1,20.0,10.0,5.5,GL\n2,21.0,,5.5,GL\n3,22.0,12.0,,SP\n4,x,12.0,6,GL\n", "s.csv",
                                           {"point", "northing", "easting", "level", "code"}));
    REQUIRE(survey.points.size() == 1);
    CHECK(survey.points[0].place == Point3{10, 20, 5.5});
    CHECK(survey.points[0].code == "GL");
    CHECK(survey.withoutLevel == 1);
    REQUIRE(survey.findings.size() == 3);
    CHECK(survey.findings[0].line == 2);
    CHECK(survey.findings[1].message.find("\"x\"") != std::string::npos);
    CHECK(survey.findings[1].line == 4);
    CHECK(surveyOf(readTable("X;Y;Z\n1,5;2,5;3,25\n", "s.csv")).points.at(0).place == Point3{1.5, 2.5, 3.25});
    CHECK_THROWS_WITH(surveyOf(readTable("a,b\n1,2\n", "s.csv")), Catch::Contains("no column for easting"));
    CHECK_THROWS_WITH(readTable("\n\n", "s.csv"), Catch::Contains("empty"));
}

TEST_CASE("Triangles are written with northing first in LandXML, and whole elsewhere", "[ground]") {
    const TemporaryFolder folder;
    const auto tin = triangulate(points("480000.123 6120000.5 3, 480010 6120000 4, 480000 6120010 5")).tin;
    for (const char* file : {"t.xml", "t.obj", "t.ply", "t.dxf"}) writeTin(folder / file, tin, "ground", "EPSG:25831");
    const auto xml = readBytes(folder / "t.xml");
    CHECK(xml.find("6120000.5000 480000.1230 3.0000") != std::string::npos);
    CHECK(xml.find("version=\"1.2\"") != std::string::npos);
    CHECK(xml.find("<CoordinateSystem name=\"EPSG:25831\" epsgCode=\"25831\" />") != std::string::npos);
    CHECK(readBytes(folder / "t.obj").find("v 480000.1230 6120000.5000 3.0000\n") != std::string::npos);
    CHECK(readBytes(folder / "t.ply").find("element face 1\n") != std::string::npos);
    CHECK(readBytes(folder / "t.dxf").find("3DFACE") != std::string::npos);
    CHECK_THROWS_AS(writeTin(folder / "t.txt", tin, "ground", ""), UsageError);
}

TEST_CASE("The triangles are the same on any number of threads, also where circles tie", "[ground]") {
    std::vector<Point3> lattice; // four points on every circle
    for (int i = 0; i < 150; ++i)
        for (int k = 0; k < 150; ++k) lattice.push_back({i * 2.0, k * 2.0, double((i * 7 + k * 13) % 11)});
    const auto many = triangulate(lattice).tin;
    const ThreadLimit one(1);
    const auto single = triangulate(lattice).tin;
    CHECK(many.vertices() == single.vertices());
    REQUIRE(many.triangles().size() == single.triangles().size());
    CHECK(std::ranges::equal(many.triangles(), single.triangles(), {}, &Tin::Triangle::vertex, &Tin::Triangle::vertex));
}
