// Layered grids, meshes and block models as parts of a project: edits, the project file, build files, products.
#include "layered_fixtures.h"
#include "layers/proposed_layers.h"
#include "project/layer_edits.h"
#include "store/store.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

MeshSpec smallMesh() {
    MeshSpec spec;
    spec.name = "Mesh", spec.edge = 20;
    spec.outline.ring = {{1010, 2010}, {1190, 2010}, {1190, 2090}};
    spec.layers = flatSpec().layers;
    spec.lines = {{"wall", "", {{1100, 2020}, {1150, 2020}}, 5.0}};
    spec.places = {{"W", {1170, 2040}, 4}};
    spec.faces = {{"F", "wall", 1, 2, 0.5, 1e-9, {}, false}};
    spec.islands = {{"", {{1160, 2025}, {1165, 2025}, {1165, 2030}}}};
    spec.origin = Point2{1000, 2000};
    return spec;
}

} // namespace

TEST_CASE("Layered grids get names of their own, are changed, renamed and taken away by edits", "[layers]") {
    const auto site = flatSite();
    const auto one = addLayeredGrid(site, flatSpec());
    CHECK(one.label == "Add the layered grid grid");
    const auto two = addLayeredGrid(one.project, flatSpec());
    CHECK(two.project.layeredGrids->back().name == "grid 2");
    auto nameless = flatSpec();
    nameless.name = "  ";
    CHECK(addLayeredGrid(site, nameless).project.layeredGrids->front().name == "Layers");
    const auto changed = changeLayeredGrid(
        two.project, "grid 2", [](LayerSpec& s) { s.thin.metres = 3; }, "thin cells");
    CHECK(changed.label == "grid 2: thin cells");
    CHECK(changed.project.layeredGrids->back().thin.metres == 3);
    CHECK(changed.project.layeredGrids->front() == flatSpec());
    CHECK(renameLayeredGrid(two.project, "grid", "Wells").project.layeredGrids->front().name == "Wells");
    CHECK_THROWS_AS(renameLayeredGrid(two.project, "grid", "GRID 2"), Error);
    CHECK_THROWS_AS(renameLayeredGrid(two.project, "grid", " "), Error);
    CHECK_THROWS_AS(renameLayeredGrid(two.project, "none", "x"), Error);
    CHECK(removeLayeredGrid(two.project, "grid").project.layeredGrids->size() == 1);
    CHECK_THROWS_WITH(removeLayeredGrid(site, "grid"), Catch::Contains("no layered grid named grid"));
    // other parts keep their addresses, so that nothing else is made again
    CHECK(two.project.holes == site.holes);
    CHECK(two.project.sequence == site.sequence);
}

TEST_CASE("Meshes are changed by the same kind of edits", "[mesh]") {
    const auto one = addMesh(flatSite(), smallMesh());
    const auto two = addMesh(one.project, smallMesh());
    CHECK(two.project.meshes->back().name == "Mesh 2");
    CHECK(changeMesh(
              two.project, "Mesh", [](MeshSpec& s) { s.edge = 7; }, "edges")
              .project.meshes->front()
              .edge
          == 7);
    CHECK_THROWS_AS(changeMesh(
                        two.project, "none", [](MeshSpec&) {}, ""),
                    Error);
    CHECK(removeMesh(two.project, "Mesh").project.meshes->front().name == "Mesh 2");
    CHECK(meshSpecOf(toJson(smallMesh()), {}) == smallMesh());
}

TEST_CASE("The project file keeps grids, meshes and block models, and what was spoilt is said", "[layers][store]") {
    const TemporaryFolder folder;
    auto p = flatSite();
    p.layeredGrids = part(std::vector{flatSpec()});
    p.meshes = part(std::vector{smallMesh()});
    BlockSpec blocks;
    blocks.name = "gamma", blocks.quantity = "GR", blocks.toLevel = 10;
    blocks.extent = Frame{0, 0, 10, 20, 1}, blocks.variogram = Variogram{VariogramModel::Exponential, 1, 2, 3}, blocks.cap = 80;
    p.blockModels = part(std::vector{blocks});
    ProjectStore::create(folder / "p.gpkg", p);
    const auto back = ProjectStore::read(folder / "p.gpkg");
    CHECK(*back.layeredGrids == *p.layeredGrids);
    CHECK(*back.meshes == *p.meshes);
    CHECK(*back.blockModels == *p.blockModels);
    // two of one name, as another program may leave them
    auto twice = flatSpec();
    p.layeredGrids = part(std::vector{flatSpec(), twice});
    ProjectStore::create(folder / "q.gpkg", p);
    Findings findings;
    const auto read = ProjectStore::read(folder / "q.gpkg", findings);
    CHECK(read.layeredGrids->size() == 1);
    CHECK(mentions(findings, "FC-PROJECT-FILE", "layered grid"));
}

TEST_CASE("Layers follow the model, and are made once from the same things", "[layers][products]") {
    auto p = flatSite();
    p.layeredGrids = part(std::vector{flatSpec()});
    Products products;
    const auto first = products.of(p, {}, {ProductKind::Layers})->layers.front();
    CHECK(products.of(p, {}, {ProductKind::Layers})->layers.front() == first);
    CHECK(products.of(p, {}, Wanted{})->layers.empty());
    auto named = p;
    named.name = "Another";
    CHECK(products.of(named, {}, {ProductKind::Layers})->layers.front() == first);
    auto moved = p;
    auto holes = *p.holes;
    holes.changeEach([](Hole& h) {
        if (h.id == "B1") h.intervals[0].base = h.intervals[1].top = Depth{3};
    });
    moved.holes = part(std::move(holes));
    const auto second = products.of(moved, {}, {ProductKind::Layers})->layers.front();
    REQUIRE(second->grid);
    CHECK(second->grid->volume(0) < first->grid->volume(0));
    CHECK(products.made("layered grid") == 2);
    CHECK(products.of(p, {}, {ProductKind::Layers})->layers.front() == first); // undo costs nothing
    CHECK(products.made("layered grid") == 2);
}

TEST_CASE("What is proposed for a site can be made at once", "[layers]") {
    for (const unsigned seed : {11u, 12u}) {
        const auto site = unevenSite(seed);
        const auto frame = *frameOf(site);
        const auto spec = proposedLayers(*site.sequence, frame, -20);
        CHECK(spec.layers.size() == 4);
        CHECK(spec.grid.cells() <= 10'000);
        const auto made = layersOf(site, spec);
        INFO(made->problem);
        REQUIRE(made->grid);
        CHECK(made->grid->active() > 0);
    }
    const auto turned = gridOver(Box2{0, 0, 100, 50}, 7, 30);
    for (const Point2 corner : {Point2{0.1, 0.1}, {99.9, 0.1}, {99.9, 49.9}, {0.1, 49.9}}) CHECK(turned.cellAt(corner));
    CHECK_THROWS_AS(gridOver(Box2{0, 0, 1, 1}, 0), UsageError);
}

TEST_CASE("Parts of a layer are written and read as people write them", "[layers]") {
    CHECK(partsWritten("one") == std::vector<double>{1});
    CHECK(partsWritten("3") == std::vector<double>{1, 1, 1});
    CHECK(partsWritten("2 equal") == std::vector<double>{1, 1});
    CHECK(partsWritten(" 1 : 3 ") == std::vector<double>{1, 3});
    for (const auto wrong : {"none", "0", "-2", "1.5", "1 : x", "1 :", "5000"}) CHECK_THROWS_AS(partsWritten(wrong), UsageError);
    LayerRule layer{"x", {"S", "C"}};
    CHECK(partsInWords(layer) == "one");
    layer.parts = {1, 1};
    CHECK(partsWritten(partsInWords(layer)) == layer.parts);
    layer.parts = {1, 2.5};
    CHECK(partsWritten(partsInWords(layer)) == layer.parts);
    CHECK(inWords(layer) == "S, C");
    layer.thickness = 2;
    layer.bottom = FieldSource{FieldSource::From::Number, -30, ""};
    CHECK(inWords(layer) == "S, C, upper 2 m, down to level -30 m");
}
