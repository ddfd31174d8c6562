// The model as binary glTF, and the reduced model of pages.
#include "formats/gltf.h"
#include "handover/model_scene.h"
#include "layered_fixtures.h"
#include "model/solids.h"

#include <catch2/catch.hpp>
#include <cstring>

using namespace fox;
using namespace fox::test;
using nlohmann::json;

namespace {

const Wanted kScene{ProductKind::Grids, ProductKind::Pictures, ProductKind::WaterSurfaces};

/// A binary glTF file, read by the standard's words alone.
struct Glb {
    explicit Glb(const std::string& bytes) {
        REQUIRE(bytes.substr(0, 4) == "glTF");
        CHECK(word(bytes, 4) == 2);
        CHECK(word(bytes, 8) == bytes.size());
        const auto length = word(bytes, 12);
        CHECK(length % 4 == 0);
        CHECK(bytes.substr(16, 4) == "JSON");
        root = json::parse(bytes.substr(20, length));
        if (20 + length == bytes.size()) return;
        CHECK(bytes.substr(24 + length, 4) == std::string("BIN\0", 4));
        binary = bytes.substr(28 + length);
        CHECK(binary.size() == word(bytes, 20 + length));
    }
    static std::uint32_t word(const std::string& bytes, std::size_t at) {
        std::uint32_t v = 0;
        std::memcpy(&v, bytes.data() + at, 4);
        return v;
    }
    template <typename T>
    std::vector<T> values(std::size_t accessor, std::size_t parts) const {
        const auto& a = root["accessors"][accessor];
        const auto& view = root["bufferViews"][std::size_t(a["bufferView"])];
        std::vector<T> out(a.at("count").get<std::size_t>() * parts);
        CHECK(std::size_t(view["byteOffset"]) % 4 == 0);
        REQUIRE(std::size_t(view["byteLength"]) == out.size() * sizeof(T));
        std::memcpy(out.data(), binary.data() + std::size_t(view["byteOffset"]), out.size() * sizeof(T));
        return out;
    }
    /// The triangles of a mesh, x east, y north, z up, from the file's own origin.
    TriangleMesh mesh(std::size_t index) const {
        const auto& primitive = root["meshes"][index]["primitives"][0];
        const auto places = values<float>(primitive["attributes"]["POSITION"], 3);
        TriangleMesh out;
        for (std::size_t i = 0; i < places.size(); i += 3) out.vertices.push_back({places[i], -places[i + 2], places[i + 1]});
        const std::size_t indices = primitive["indices"];
        std::vector<std::uint32_t> n;
        if (root["accessors"][indices]["componentType"] == 5123)
            for (const auto v : values<std::uint16_t>(indices, 1)) n.push_back(v);
        else
            n = values<std::uint32_t>(indices, 1);
        for (std::size_t i = 0; i < n.size(); i += 3) out.triangles.push_back({int(n[i]), int(n[i + 1]), int(n[i + 2])});
        return out;
    }
    const json& node(const std::string& name) const {
        for (const auto& n : root["nodes"])
            if (n["name"] == name) return n;
        FAIL("no node " << name);
        return root;
    }
    json root;
    std::string binary;
};

} // namespace

TEST_CASE("The model as glTF has a closed body a unit with the volume of its cells", "[scene]") {
    const auto set = Products().of(unevenSite(4), {}, kScene);
    const Glb file(glbOf(sceneOf(*set)));
    const auto& units = set->project.sequence->units;
    std::size_t bodies = 0;
    for (const auto& v : set->volumes->units) {
        if (!(v.volume > 0)) continue;
        const auto& node = file.node(units[v.unit].code);
        const auto body = file.mesh(node["mesh"]);
        CHECK(isClosed(body));
        CHECK(volumeOf(body) == Approx(v.volume).epsilon(1e-5)); // single precision
        CHECK(double(node["extras"]["volume"]) == Approx(v.volume));
        ++bodies;
    }
    CHECK(bodies == file.node("Units")["children"].size());
    const auto& extras = file.root["scenes"][0]["extras"];
    const auto origin = localOrigin(*set);
    CHECK(extras["origin"] == json({origin.x, origin.y, 0.0}));
    // nothing lies far from the origin, so that single precision is enough
    for (const auto& a : file.root["accessors"])
        if (a.contains("max"))
            for (const double v : a["max"]) CHECK(std::abs(v) < 1000);
    for (const auto& n : file.root["nodes"]) CHECK_FALSE(n.contains("translation"));
}

TEST_CASE("Patterns run over a body without stretching, and change nothing of its shape", "[scene]") {
    const auto set = Products().of(unevenSite(4), {}, kScene);
    const auto body = solidOf(*set->modelGrid, 1, "C");
    constexpr double kTile = 7;
    const auto made = tiled(body, kTile);
    REQUIRE(made.texture.size() == made.mesh.vertices.size());
    REQUIRE(made.mesh.triangles.size() == body.triangles.size());
    CHECK(volumeOf(made.mesh) == Approx(volumeOf(body)));
    for (std::size_t i = 0; i < body.triangles.size(); ++i) {
        std::array<Point3, 3> p;
        std::array<std::array<double, 2>, 3> t;
        for (std::size_t k = 0; k < 3; ++k) {
            p[k] = made.mesh.vertices[std::size_t(made.mesh.triangles[i][k])];
            CHECK(p[k] == body.vertices[std::size_t(body.triangles[i][k])]);
            const auto& at = made.texture[std::size_t(made.mesh.triangles[i][k])];
            t[k] = {at[0] * kTile, at[1] * kTile};
        }
        // the picture's area is that of the face seen from where it faces most, at least half of the face's own
        const auto cross = [](double ax, double ay, double bx, double by) { return std::abs(ax * by - ay * bx) / 2; };
        const double xy = cross(p[1].x - p[0].x, p[1].y - p[0].y, p[2].x - p[0].x, p[2].y - p[0].y);
        const double xz = cross(p[1].x - p[0].x, p[1].z - p[0].z, p[2].x - p[0].x, p[2].z - p[0].z);
        const double yz = cross(p[1].y - p[0].y, p[1].z - p[0].z, p[2].y - p[0].y, p[2].z - p[0].z);
        const double area = std::sqrt(xy * xy + xz * xz + yz * yz);
        const double shown = cross(t[1][0] - t[0][0], t[1][1] - t[0][1], t[2][0] - t[0][0], t[2][1] - t[0][1]);
        CHECK(shown >= 0.49 * area);
        CHECK(shown <= 1.01 * area + 1e-6);
    }
    // in the file: a picture a pattern, and the same corners of bodies as without
    auto project = set->project;
    auto units = *project.sequence;
    units.units[0].name = "Sand", units.units[1].name = "Clay", units.units[2].name = "Nothing known";
    project.sequence = part(std::move(units));
    const auto named = Products().of(project, {}, kScene);
    const Glb file(glbOf(sceneOf(*named, nullptr, SceneLook::Patterns))), without(glbOf(sceneOf(*named)));
    CHECK(file.root["images"].size() == 2);
    CHECK_FALSE(without.root.contains("images"));
    CHECK(volumeOf(file.mesh(file.node("C")["mesh"])) == Approx(volumeOf(without.mesh(without.node("C")["mesh"]))));
    CHECK(file.root["meshes"][std::size_t(file.node("G")["mesh"])]["primitives"][0]["attributes"].contains("TEXCOORD_0")
          == false);
}

TEST_CASE("A hole in the scene is tubes along its path, one an interval", "[scene]") {
    auto project = flatSite();
    auto holes = *project.holes;
    holes.change(0).stations = {{Depth{0}, 60, 90}}; // towards the east
    project.holes = part(std::move(holes));
    const auto set = Products().of(project, {}, kScene);
    const Glb file(glbOf(sceneOf(*set)));
    const auto& hole = file.node("B1");
    REQUIRE(hole["children"].size() == 5); // what can be seen from above, and four intervals
    const auto& rock = file.node("B1 R");
    CHECK(double(rock["extras"]["top"]) == 10);
    const auto tube = file.mesh(rock["mesh"]);
    CHECK(isClosed(tube));
    CHECK(volumeOf(tube) > 0);
    const auto origin = localOrigin(*set);
    double east = 0, lowest = 1e9;
    for (const auto& p : tube.vertices) east = std::max(east, p.x + origin.x), lowest = std::min(lowest, p.z);
    CHECK(lowest == Approx(10 - 14 * std::sin(std::numbers::pi / 3)).margin(1e-3));
    CHECK(east == Approx(1020 + 7).margin(1));
}

TEST_CASE("glTF gives colours as the standard wants them, and pictures inside the file", "[scene]") {
    GltfScene scene;
    scene.name = "One \xff triangle"; // a byte that is no letter does not spoil the file
    scene.materials = {{"grey", {128, 0, 255, 128}, {}, true}, {"picture", {255, 255, 255, 255}, "not really a picture", false}};
    scene.meshes = {{"empty", {}, {}, {}, 0}, {"one", {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}}, {{0, 0}, {1, 0}, {0, 1}}, {0, 1, 2}, 1}};
    scene.nodes = {{"without", 0, {}, {}}, {"with", 1, {}, {{"a", 1}}}};
    scene.roots = {0, 1};
    const Glb file(glbOf(scene));
    const auto& colour = file.root["materials"][0]["pbrMetallicRoughness"]["baseColorFactor"];
    CHECK(double(colour[0]) == Approx(0.2158605));
    CHECK(double(colour[1]) == 0);
    CHECK(double(colour[2]) == 1);
    CHECK(double(colour[3]) == Approx(128 / 255.0));
    CHECK(file.root["materials"][0]["alphaMode"] == "BLEND");
    CHECK(file.root["meshes"].size() == 1); // one without triangles is none
    CHECK_FALSE(file.root["nodes"][0].contains("mesh"));
    CHECK(file.root["nodes"][1]["mesh"] == 0);
    const auto& view = file.root["bufferViews"][std::size_t(file.root["images"][0]["bufferView"])];
    CHECK(file.binary.substr(view["byteOffset"], view["byteLength"]) == "not really a picture");
    CHECK(Glb(glbOf({})).root["asset"]["version"] == "2.0");
}

namespace {

/// A grid of a few surfaces one over another, with places that are not known.
ModelGrid randomModel(unsigned seed) {
    std::mt19937 random(seed);
    const int columns = 5 + int(random() % 40), rows = 5 + int(random() % 40);
    const Frame frame{1000, 2000, 1000 + 10.0 * columns, 2000 + 10.0 * rows, 10};
    std::uniform_real_distribution<double> phase(0, 6.28), share(0, 1);
    const double a = phase(random), b = phase(random), gaps = share(random) < 0.5 ? 0.02 : 0;
    ModelGrid out{Grid(frame), {Grid(frame), Grid(frame)}, {}, share(random) < 0.5 ? kNoValue : 5.0};
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c) {
            if (share(random) < gaps) continue;
            out.ground.at(c, r) = 20 + 3 * std::sin(c / 7.0 + a) + std::cos(r / 5.0);
            out.bases[0].at(c, r) = out.ground.at(c, r) - std::max(0.0, 2 * std::sin(r / 6.0 + b));
            out.bases[1].at(c, r) = out.bases[0].at(c, r) - (c < columns / 2 ? 0 : 0.1 * (c - columns / 2));
        }
    return out;
}

} // namespace

TEST_CASE("Bodies of a reduced model are closed, and no surface is farther off than it says", "[scene][property]") {
    for (unsigned seed = 1; seed <= 30; ++seed) {
        CAPTURE(seed);
        const auto grid = randomModel(seed);
        const double tolerance = seed % 3 == 0 ? 1e-6 : 0.05 * seed;
        const auto reduced = reduceModel(grid, tolerance, 1'000'000);
        for (std::size_t u = 0; u < reduced.units(); ++u) {
            const auto body = bodyOf(reduced, u, "u");
            CHECK(isClosed(body));
            CHECK(volumeOf(body) >= 0);
        }
        // each place that is known lies in a triangle, or at the ragged edge of what is not; the levels there are near
        const auto& f = grid.ground.frame;
        double worst = 0;
        for (const auto& t : reduced.triangles) {
            const auto &p = reduced.places[std::size_t(t[0])], &q = reduced.places[std::size_t(t[1])],
                       &o = reduced.places[std::size_t(t[2])];
            const double twice = (q.x - p.x) * (o.y - p.y) - (q.y - p.y) * (o.x - p.x);
            CHECK(twice > 0);
            for (int r = 0; r < f.rows(); ++r)
                for (int c = 0; c < f.columns(); ++c) {
                    const auto at = f.centre(c, r);
                    const double v = ((at.x - p.x) * (o.y - p.y) - (at.y - p.y) * (o.x - p.x)) / twice;
                    const double w = ((q.x - p.x) * (at.y - p.y) - (q.y - p.y) * (at.x - p.x)) / twice;
                    if (v < -1e-9 || w < -1e-9 || v + w > 1 + 1e-9) continue;
                    for (std::size_t s = 0; s < reduced.levels.size(); ++s) {
                        const auto& l = reduced.levels[s];
                        const double level =
                            (1 - v - w) * l[std::size_t(t[0])] + v * l[std::size_t(t[1])] + w * l[std::size_t(t[2])];
                        const auto cell = std::size_t(r * f.columns() + c);
                        worst = std::max(worst, std::abs(level - (s == 0 ? grid.ground.values[cell] : grid.base(s - 1, cell))));
                    }
                }
        }
        CHECK(worst == Approx(reduced.largestError).margin(1e-9));
        if (tolerance < 1e-5) CHECK(worst < 1e-4);
    }
}

TEST_CASE("A reduced model has as few triangles as asked, and flat ground needs two", "[scene]") {
    const Frame frame{0, 0, 65 * 10, 65 * 10, 10}; // 64 squares between centres
    ModelGrid flat{Grid(frame), {Grid(frame)}, {}, kNoValue};
    std::ranges::fill(flat.ground.values, 10);
    std::ranges::fill(flat.bases[0].values, 4);
    const auto two = reduceModel(flat, 0.01, 1000);
    CHECK(two.triangles.size() == 2);
    CHECK(two.largestError == 0);
    CHECK(volumeOf(bodyOf(two, 0, "u")) == Approx(640.0 * 640 * 6));
    const auto rough = randomModel(8);
    const auto fine = reduceModel(rough, 1e-9, 1'000'000), coarse = reduceModel(rough, 1e-9, fine.triangles.size() / 2);
    CHECK(coarse.triangles.size() <= fine.triangles.size() / 2);
    CHECK(coarse.largestError > fine.largestError);
    CHECK_THROWS_AS(reduceModel(rough, 0, 10), UsageError);
    // a long, narrow grid does not ask for the square of its length
    const Frame narrow{0, 0, 30000, 5, 1};
    ModelGrid strip{Grid(narrow), {Grid(narrow)}, {}, kNoValue};
    for (int r = 0; r < narrow.rows(); ++r)
        for (int c = 0; c < narrow.columns(); ++c) strip.ground.at(c, r) = std::sin(c / 900.0), strip.bases[0].at(c, r) = -5;
    const auto reduced = reduceModel(strip, 0.05, 100000);
    CHECK_FALSE(reduced.places.empty());
    CHECK(reduced.largestError < 0.2);
    const auto body = bodyOf(reduced, 0, "u");
    CHECK(isClosed(body));
}
