// Areas with holes: how rings are put in order, and that the holes stay through import, project, file and hand-over.
#include "fixtures.h"
#include "ground/area_parts.h"
#include "ground/survey.h"
#include "ground/triangulate.h"
#include "model/stack.h"
#include "products/products.h"
#include "project/ground_edits.h"
#include "project/json.h"
#include "project/remedies.h"
#include "project/site_edits.h"
#include "store/store.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

using Outline = GroundSources::Outline;

/// The area of rings by the even-odd rule, counted on points a metre apart.
int pointsInside(const std::vector<Polygon2>& rings, double size) {
    int inside = 0;
    for (double x = 0.37; x < size; ++x)
        for (double y = 0.41; y < size; ++y) {
            bool in = false;
            for (const auto& ring : rings) in ^= contains(ring, {x, y});
            inside += in;
        }
    return inside;
}

int pointsInside(const Area& area, double size) {
    int inside = 0;
    for (double x = 0.37; x < size; ++x)
        for (double y = 0.41; y < size; ++y) inside += area.contains({x, y});
    return inside;
}

/// A field of 100 m with a pond of 20 m in it.
Feature fieldWithPond() {
    Feature f{GeometryKind::Polygon, {}, false, {{"name", std::string("field")}}};
    for (const auto& ring : {square(0, 0, 100), square(30, 40, 20)}) {
        Polyline3 part;
        for (const auto& p : ring) part.push_back({p.x, p.y, 0});
        part.push_back(part.front());
        f.parts.push_back(part);
    }
    return f;
}

Project withField(Outline::Use use = Outline::Use::None) {
    Project p;
    p.site = part(Site{"EPSG:25831", {}, {}});
    GroundSources ground = groundOf("-20 -20 10, 120 -20 10, 120 120 10, -20 120 10");
    ground.outlines.push_back({"field", "", square(0, 0, 100), use, {square(30, 40, 20)}});
    p.ground = part(ground);
    return p;
}

} // namespace

TEST_CASE("Rings are put in order whichever way they run and wherever they stand in the list", "[ground][area]") {
    CHECK(nested({}).empty());
    CHECK(nested({{{0, 0}, {1, 1}}}).empty()); // two corners
    auto hole = square(30, 40, 20);
    std::ranges::reverse(hole);
    for (const auto& rings :
         {std::vector<Polygon2>{square(0, 0, 100), hole}, {hole, square(0, 0, 100)}, {square(30, 40, 20), square(0, 0, 100)}}) {
        const auto shapes = nested(rings);
        REQUIRE(shapes.size() == 1);
        CHECK(shapes[0].ring == square(0, 0, 100));
        REQUIRE(shapes[0].holes.size() == 1);
    }
    auto closed = square(0, 0, 10);
    closed.push_back(closed.front());
    CHECK(nested({closed}).at(0).ring.size() == 4);
}

TEST_CASE("An islet in a pond is an area of its own, and two fields keep their own ponds", "[ground][area]") {
    const auto shapes =
        nested({square(10, 10, 50), square(0, 0, 100), square(200, 0, 100), square(20, 20, 10), square(220, 20, 30)});
    REQUIRE(shapes.size() == 3);
    const auto of = [&](const Polygon2& ring) { return *std::ranges::find(shapes, ring, &RingWithHoles::ring); };
    CHECK(of(square(0, 0, 100)).holes == std::vector<Polygon2>{square(10, 10, 50)});
    CHECK(of(square(200, 0, 100)).holes == std::vector<Polygon2>{square(220, 20, 30)});
    CHECK(of(square(20, 20, 10)).holes.empty());
}

TEST_CASE("Areas of nested squares hold what the even-odd rule says", "[ground][area][random]") {
    const auto seed = GENERATE(range(1u, 21u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    // squares inside squares, some beside one another: none crosses another
    std::vector<Polygon2> rings;
    const std::function<void(double, double, double)> fill = [&](double x, double y, double size) {
        rings.push_back(square(x + 0.1 * size, y + 0.1 * size, 0.8 * size));
        if (size < 20) return;
        if (random() % 2)
            fill(x + 0.2 * size, y + 0.2 * size, 0.6 * size);
        else
            for (int k = 0; k < 2; ++k) fill(x + (0.15 + 0.35 * k) * size, y + 0.2 * size, 0.33 * size);
    };
    fill(0, 0, 100);
    std::ranges::shuffle(rings, random);
    int inside = 0;
    for (const auto& shape : nested(rings)) inside += pointsInside(Area(shape), 100);
    CHECK(rings.size() > 2);
    CHECK(inside == pointsInside(rings, 100));
}

TEST_CASE("What of an area lies in a rectangle", "[ground][area]") {
    const Box2 box{20, 20, 60, 60};
    const auto of = [&](const Area& area) { return pointsInside(area.within(box), 120); };
    CHECK(of(Area()) == 1600); // everywhere: the rectangle itself
    CHECK(of(Area(RingWithHoles{square(0, 0, 100), {square(30, 40, 20)}})) == 1600 - 400);
    const std::vector<Polygon2> pond{square(30, 40, 20)};
    CHECK(of(Area({}, pond)) == 1600 - 400); // everywhere but the pond
    const auto none = Area(square(200, 200, 10)).within(box);
    CHECK_FALSE(none.isEverywhere());
    CHECK(pointsInside(none, 120) == 0);
}

TEST_CASE("A polygon with a hole comes in as one outline, and goes through the project file as one", "[ground][import][store]") {
    const TemporaryFolder folder;
    writeVector(folder / "field.gpkg", {{"areas", "EPSG:25831", {fieldWithPond()}}});
    Project p;
    p.site = part(Site{"EPSG:25831", {}, {}});
    SourceFile file{"field.gpkg", "", {}, 0, {}, {}, (folder / "field.gpkg").string()};
    p = importSource(p, readSource(file, "EPSG:25831")).project;
    REQUIRE(p.ground->outlines.size() == 1);
    const auto& field = p.ground->outlines[0];
    CHECK(field.name == "field");
    CHECK(field.holes == std::vector<Polygon2>{square(30, 40, 20)});
    CHECK(pointsInside(field.area(), 100) == 9600);
    const auto path = folder / "p.gpkg";
    ProjectStore::create(path, p);
    CHECK(ProjectStore::read(path).ground->outlines == p.ground->outlines);
    // any library sees one polygon with one ring inside
    const auto layers = readVector(path);
    const auto outlines = std::ranges::find(layers, std::string("outlines"), &FeatureLayer::name);
    REQUIRE(outlines != layers.end());
    REQUIRE(outlines->features.size() == 1);
    CHECK(outlines->features[0].parts.size() == 2);
}

TEST_CASE("No ground outside an outline with a hole: none in the hole either", "[ground][area]") {
    Findings findings;
    const auto area = terrainInputOf(*withField(Outline::Use::Limit).ground, {}, findings).area;
    CHECK(area.contains({10, 10}));
    CHECK_FALSE(area.contains({40, 50}));  // the pond
    CHECK_FALSE(area.contains({110, 50})); // beside the field
    const auto island = terrainInputOf(*withField(Outline::Use::Island).ground, {}, findings).area;
    CHECK_FALSE(island.contains({10, 10}));
    CHECK(island.contains({110, 50}));
    CHECK(findings.empty());
}

TEST_CASE("A site limit from an outline takes its holes along as islands", "[project][area]") {
    const auto p = withField();
    const auto e = setSiteLimitFrom(p, p.ground->outlines[0]);
    CHECK(e.project.site->limit == square(0, 0, 100));
    REQUIRE(e.project.ground->outlines.size() == 2);
    CHECK(e.project.ground->outlines[1].name == "field, hole 1");
    CHECK(e.project.ground->outlines[1].use == Outline::Use::Island);
    CHECK_THROWS_AS(setSiteLimitFrom(p, Outline{"line", "", {{0, 0}, {1, 1}, {2, 2}}, {}, {}}), Error);
}

TEST_CASE("A unit does not enter the hole of its outline, and keeps it in the project", "[model][area]") {
    auto s = sequence({"A", "B"});
    s.units[0].outlines = {{square(0, 0, 100), {square(30, 40, 20)}}};
    Unit back;
    readDetails(back, detailsOf(s.units[0]));
    CHECK(back.outlines == s.units[0].outlines);
    const StackRules rules(s);
    const auto baseAt = [&](Point2 place) {
        std::vector<double> bases{5};
        rules.apply(place, 10, bases);
        return bases[0];
    };
    CHECK(baseAt({10, 10}) == 5);
    CHECK(baseAt({40, 50}) == 10); // absent in the hole
    CHECK(baseAt({110, 50}) == 10);
}

TEST_CASE("Ground beyond the extent is said with what lies outside, and the extent takes it in", "[products][area]") {
    auto p = withField(); // 140 m x 140 m of ground
    p.site = part(Site{"EPSG:25831", Frame{-20, -20, 85, 120, 5}, {}});
    Products products;
    const auto set = products.of(p, {}, {ProductKind::AllFindings});
    const auto said = std::ranges::find(*set->findings, std::string("FC-EXTENT"), &Finding::rule);
    REQUIRE(said != set->findings->end());
    CHECK(said->message.find("4900 m², 25 %") != std::string::npos); // 35 m x 140 m
    REQUIRE(said->remedy);
    p = apply(p, *said->remedy).project;
    CHECK(p.site->frame->xmax == 120);
    CHECK(p.site->frame->cell == 5);
    CHECK_FALSE(mentions(*products.of(p, {}, {ProductKind::AllFindings})->findings, "FC-EXTENT"));
    // a limit takes away what would be said
    p.site = part(Site{"EPSG:25831", Frame{-20, -20, 85, 120, 5}, square(0, 0, 50)});
    CHECK_FALSE(mentions(*products.of(p, {}, {ProductKind::AllFindings})->findings, "FC-EXTENT"));
}

TEST_CASE("Triangles cut at the edge of an area cover what of them lies in it, once", "[ground][area][random]") {
    const auto seed = GENERATE(range(1u, 11u));
    CAPTURE(seed);
    const auto tin = triangulate(randomPoints(seed, 60)).tin;
    const std::vector<Polygon2> field{square(10, 12, 75)}, pond{square(40, 41, 7)};
    for (const auto& area : {Area(), Area(field, pond), Area({}, pond)}) {
        const AreaParts parts(area);
        double covered = 0;
        int cut = 0;
        for (const auto& t : tin.triangles()) {
            const auto c = tin.corners(t);
            const Polygon2 triangle{c[0].plan(), c[1].plan(), c[2].plan()};
            for (const auto& part : parts.of(triangle)) {
                double twice = 0;
                for (std::size_t i = 0; i < part.size(); ++i) {
                    const auto a = part[i], b = part[(i + 1) % part.size()];
                    twice += (a.x - 50) * (b.y - 50) - (b.x - 50) * (a.y - 50);
                }
                covered += std::abs(twice) / 2;
                cut += part != triangle;
            }
        }
        CHECK(covered == Approx(tin.measure(area).planArea).epsilon(1e-9));
        CHECK((cut > 0) == !area.isEverywhere()); // the hard case was met
    }
}

TEST_CASE("An island inside one triangle is cut out of it", "[ground][area]") {
    const std::vector<Polygon2> pond{square(20, 10, 5)};
    const AreaParts parts(Area({}, pond));
    const auto pieces = parts.of({{0, 0}, {100, 0}, {0, 100}});
    CHECK(pieces.size() > 1);
    int inside = 0;
    for (const auto& p : pieces) inside += contains(p, {22, 12});
    CHECK(inside == 0);
    CHECK(AreaParts(Area(square(200, 200, 5))).of({{0, 0}, {100, 0}, {0, 100}}).empty());
}
