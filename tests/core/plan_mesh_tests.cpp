// Meshes in plan and their prisms.
#include "handover/mesh_files.h"
#include "layered_fixtures.h"
#include "layers/layered_mesh.h"

#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

double areaOf(const PlanMesh& m) {
    double sum = 0;
    for (const auto& t : m.triangles) {
        const auto a = m.nodes[std::size_t(t[0])], b = m.nodes[std::size_t(t[1])], c = m.nodes[std::size_t(t[2])];
        const double twice = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
        REQUIRE(twice > 0); // anticlockwise
        sum += twice / 2;
    }
    return sum;
}

double longestEdge(const PlanMesh& m) {
    double out = 0;
    for (const auto& t : m.triangles)
        for (std::size_t i = 0; i < 3; ++i)
            out = std::max(out, distance(m.nodes[std::size_t(t[i])], m.nodes[std::size_t(t[(i + 1) % 3])]));
    return out;
}

/// How much of a line the edges cover that are said to lie on it.
double covered(const PlanMesh& m, const std::string& name) {
    double out = 0;
    for (const auto& e : m.edges.at(name)) out += distance(m.nodes[std::size_t(e[0])], m.nodes[std::size_t(e[1])]);
    return out;
}

PlanMeshInputs squareWith(double edge) {
    PlanMeshInputs in;
    in.outline = Area(square(5000, 7000, 100));
    in.edge = edge;
    return in;
}

/// A star of random rays: an outline that is not convex.
Polygon2 star(std::mt19937& random, Point2 centre, double size) {
    std::uniform_real_distribution<double> ray(0.4, 1);
    Polygon2 out;
    for (int i = 0; i < 11; ++i) {
        const double a = i * 2 * std::numbers::pi / 11, r = size * ray(random);
        out.push_back({centre.x + r * std::cos(a), centre.y + r * std::sin(a)});
    }
    return out;
}

MeshSpec flatMesh() {
    MeshSpec spec;
    spec.name = "mesh";
    spec.outline.ring = {{1010, 2010}, {1190, 2010}, {1190, 2090}, {1010, 2090}};
    spec.edge = 12;
    spec.layers = {{"sand", {"S"}}, {"clay", {"C"}}, {"gravel", {"G"}}, {"rock", {"R"}}};
    spec.layers.back().bottom = FieldSource{FieldSource::From::Number, -10, ""};
    return spec;
}

std::shared_ptr<const MeshProduct> meshOf(Project p, const MeshSpec& spec) {
    p.meshes = part(std::vector{spec});
    return Products().of(p, {}, {ProductKind::Meshes})->meshes.front();
}

} // namespace

TEST_CASE("A mesh fills its outline, leaves islands out, and keeps lines and places", "[mesh]") {
    auto in = squareWith(8);
    const RingWithHoles shape{square(5000, 7000, 100), {square(5060, 7060, 20)}};
    in.outline = Area(std::span(&shape, 1));
    in.lines = {{"fault", {{5000, 7010}, {5050, 7050}, {5100, 7055}}, 3.0}, {"wall", {{5020, 7080}, {5020, 7100}}, {}}};
    in.places = {{"W1", {5033.3, 7071.7}, 1.0}, {"W2", {5080, 7010}, 0}};
    const auto m = makePlanMesh(in);
    CHECK(areaOf(m) == Approx(100 * 100 - 20 * 20));
    CHECK(longestEdge(m) <= 8 * (1 + 1e-9));
    CHECK(std::ranges::min(m.smallestAngles()) >= 20);
    CHECK(covered(m, "fault") == Approx(distance({5000, 7010}, {5050, 7050}) + distance({5050, 7050}, {5100, 7055})));
    CHECK(covered(m, "wall") == Approx(20));
    for (const auto& e : m.edges.at("fault"))
        CHECK(distance(m.nodes[std::size_t(e[0])], m.nodes[std::size_t(e[1])]) <= 3 * (1 + 1e-9));
    CHECK(distance(m.nodes[std::size_t(m.places.at("W1"))], {5033.3, 7071.7}) < 1e-9);
    CHECK(distance(m.nodes[std::size_t(m.places.at("W2"))], {5080, 7010}) < 1e-9);
    for (const auto& t : m.triangles)
        for (std::size_t i = 0; i < 3; ++i)
            if (t[i] == m.places.at("W1"))
                for (const auto k : {1, 2})
                    CHECK(distance(m.nodes[std::size_t(t[i])], m.nodes[std::size_t(t[(i + std::size_t(k)) % 3])]) <= 1 + 1e-9);
}

TEST_CASE("Random outlines, lines and places: no angle under 20 degrees that the input has not", "[mesh]") {
    std::mt19937 random(17);
    std::uniform_real_distribution<double> part(0.05, 0.3);
    for (int i = 0; i < 12; ++i) {
        PlanMeshInputs in;
        const auto ring = star(random, {3000, 4000}, 200);
        in.outline = Area(ring);
        in.edge = 30;
        const auto at = [&](double a) {
            return Point2{3000 + 200 * part(random) * std::cos(a), 4000 + 200 * part(random) * std::sin(a)};
        };
        in.lines = {{"a", {at(0.3), at(3.6)}, 6.0}};
        in.places = {{"p", at(5), 2.0}};
        const auto m = makePlanMesh(in);
        double area = 0;
        for (std::size_t a = 0, b = ring.size() - 1; a < ring.size(); b = a++)
            area += (ring[b].x * ring[a].y - ring[a].x * ring[b].y) / 2;
        CHECK(areaOf(m) == Approx(area));
        // a corner of the outline itself may be sharper
        double sharpest = 180;
        for (std::size_t a = 0; a < ring.size(); ++a) {
            const auto p = ring[a], q = ring[(a + 1) % ring.size()], r = ring[(a + ring.size() - 1) % ring.size()];
            const double dot = (q.x - p.x) * (r.x - p.x) + (q.y - p.y) * (r.y - p.y);
            sharpest = std::min(sharpest, std::acos(dot / distance(p, q) / distance(p, r)) * 180 / std::numbers::pi);
        }
        const double least = std::ranges::min(m.smallestAngles());
        CHECK(least >= std::min(20.0, sharpest) - 1e-9);
        CHECK(longestEdge(m) <= 30 * (1 + 1e-9));
    }
}

TEST_CASE("What leaves the outline is an error that names it", "[mesh]") {
    auto in = squareWith(20);
    in.places = {{"W7", {4990, 7010}, 0}};
    CHECK_THROWS_WITH(makePlanMesh(in), Catch::Contains("W7"));
    in.places = {{"on the edge", {5000, 7010}, 0}};
    CHECK_NOTHROW(makePlanMesh(in));
    in.lines = {{"river", {{5010, 7010}, {5110, 7010}}, {}}};
    CHECK_THROWS_WITH(makePlanMesh(in), Catch::Contains("river"));
    // between its corners alone
    in.outline = Area(Polygon2{{0, 0}, {100, 0}, {100, 100}, {50, 20}, {0, 100}});
    in.places = {};
    in.lines = {{"ridge", {{2, 90}, {98, 90}}, {}}};
    CHECK_THROWS_WITH(makePlanMesh(in), Catch::Contains("ridge"));
    in.lines = {{"along the edge", {{0, 0}, {100, 0}}, {}}};
    CHECK(covered(makePlanMesh(in), "along the edge") == Approx(100));
    CHECK_THROWS_AS(makePlanMesh(PlanMeshInputs{}), Error);
}

TEST_CASE("As many elements as are asked for, within a twentieth; if lines need more, that number is said", "[mesh]") {
    auto in = squareWith(0);
    in.places = {{"W", {5050, 7050}, 2}};
    for (const std::size_t wanted : {3000u, 20000u, 60000u}) {
        const auto m = makePlanMesh(in, wanted, 4);
        CHECK(std::abs(double(m.triangles.size() * 4) - double(wanted)) <= 0.05 * double(wanted));
    }
    CHECK_THROWS_WITH(makePlanMesh(in, 10, 4), Catch::Contains("10 were asked for"));
}

TEST_CASE("Prisms over a flat site have the volumes, units and values that one can work out", "[mesh]") {
    auto spec = flatMesh();
    LayerRule evenly;
    evenly.name = "inserted", evenly.evenly = 2;
    spec.layers.insert(spec.layers.begin() + 3, evenly);
    spec.values = {{"conductivity", {FieldSource::From::Units, 0, ""}}};
    spec.lines = {{"wall", "", {{1050, 2020}, {1050, 2080}}, 5.0}};
    spec.faces = {{"W", "wall", 1, 3, 0, 1e-10, 0.6, false}};
    const auto made = meshOf(flatSite(), spec);
    INFO(made->problem);
    REQUIRE(made->mesh);
    const auto& m = *made->mesh;
    CHECK(m.layers == std::vector<std::string>{"sand", "clay", "gravel", "inserted 1", "inserted 2", "rock"});
    CHECK(m.volume(0) == Approx(180 * 80 * 4));
    CHECK(m.volume(1) == Approx(180 * 80 * 2));
    CHECK(m.volume(3) == Approx(180 * 80 * 10 / 3.0));
    CHECK(m.inverted() == 0);
    CHECK(m.elements() == m.plan.triangles.size() * 6);
    CHECK(m.nodes() == m.plan.nodes.size() * 7);
    const auto n = m.plan.triangles.size();
    for (const auto& [layer, unit, k] : {std::tuple{0u, 0, 1e-4}, {1u, 1, 1e-8}, {2u, 2, 1e-3}, {5u, 3, 1e-7}}) {
        CHECK(m.unit[layer * n] == unit);
        CHECK(m.values.at("conductivity")[layer * n] == Approx(k));
        CHECK(m.shares.at(std::size_t(unit))[layer * n + n - 1] == Approx(1));
    }
    REQUIRE(m.faces.size() == 1);
    double length = 0;
    for (const auto& [layer, a, b] : m.faces[0].faces)
        if (layer == 0) length += distance(m.plan.nodes[std::size_t(a)], m.plan.nodes[std::size_t(b)]);
    CHECK(length == Approx(60));
    CHECK(m.faces[0].faces.size() == 3 * m.plan.edges.at("wall").size());
}

TEST_CASE("Meshes of uneven sites: no prism is inverted, surfaces keep apart, volumes are near those of the grid", "[mesh]") {
    for (const unsigned seed : {4u, 5u, 6u}) {
        auto spec = flatMesh();
        spec.outline.ring = {{1020, 2020}, {1380, 2020}, {1380, 2280}, {1020, 2280}};
        spec.edge = 8;
        spec.thin = 0.3;
        const auto made = meshOf(unevenSite(seed), spec);
        INFO(made->problem);
        REQUIRE(made->mesh);
        const auto& m = *made->mesh;
        CHECK(m.inverted() == 0);
        for (std::size_t k = 0; k < m.layers.size(); ++k)
            for (int node = 0; node < int(m.plan.nodes.size()); ++node)
                REQUIRE(m.level(k, node) - m.level(k + 1, node) >= 0.3 - 1e-9);
        double all = 0, grid = 0;
        for (std::size_t k = 0; k < m.layers.size(); ++k) all += m.volume(k);
        auto layers = flatSpec();
        layers.grid = PlanGrid({1020, 2280}, 0, std::vector<double>(72, 5), std::vector<double>(52, 5));
        const auto gridded = layersOf(unevenSite(seed), layers);
        REQUIRE(gridded->grid);
        for (std::size_t k = 0; k < 4; ++k) grid += gridded->grid->volume(k);
        CHECK(all == Approx(grid).epsilon(0.002));
    }
}

TEST_CASE("A mesh that leaves the ground, or faces through layers that are not there, are errors", "[mesh]") {
    auto spec = flatMesh();
    spec.outline.ring = {{900, 2010}, {1190, 2010}, {1190, 2090}, {900, 2090}};
    CHECK(meshOf(flatSite(), spec)->problem.find("inside the ground") != std::string::npos);
    spec = flatMesh();
    spec.lines = {{"wall", "", {{1050, 2020}, {1050, 2080}}, {}}};
    spec.faces = {{"W", "wall", 1, 9, 0, {}, {}, true}};
    CHECK(meshOf(flatSite(), spec)->problem.find("layer 9") != std::string::npos);
    spec.faces = {};
    CHECK(meshSpecOf(toJson(spec), {}) == spec);
    CHECK_THROWS_AS(
        meshSpecOf(
            R"({"format":"fox-cellar-mesh","version":1,"outline":{"ring":[[0,0],[1,0],[1,1]]},"edge":1,"angle":21,"layers":[]})",
            {}),
        UsageError);
}
