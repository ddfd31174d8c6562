// The part "Layers and meshes" of the Model stage, in the real window.
#include "base/files.h"
#include "handover/layer_files.h"
#include "harness.h"
#include "project/hole_edits.h"
#include "shell/layer_actions.h"
#include "stages/angle_histogram.h"
#include "stages/shelf.h"
#include "views/grid_section_view.h"
#include "views/layers_view.h"
#include "views/number_box.h"
#include "views/plan_view.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QTableView>
#include <QTemporaryDir>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

const LayeredGrid* gridOf(DemoWindow& window) {
    return shownGrid(window->session().products().get(), window->selection().layerLook());
}

/// Types into a cell of the table of layers.
void type(DemoWindow& window, int row, int column, const QString& words) {
    auto* table = window.view<LayersView>()->table();
    const auto index = table->model()->index(row, column);
    table->setCurrentIndex(index);
    table->edit(index);
    auto* editor = table->findChild<QLineEdit*>();
    REQUIRE(editor);
    editor->selectAll();
    QTest::keyClicks(editor, words);
    QTest::keyClick(editor, Qt::Key_Return);
    waitFor("the editor to close", [&] { return !table->findChild<QLineEdit*>(); });
    QCoreApplication::processEvents(); // the edit follows it
    window.settle();
}

/// Presses a row of the side panel that says so.
void pressRow(DemoWindow& window, const QString& words) {
    for (auto* row : shelf(window)->findChildren<ShelfRow*>())
        if (row->accessibleName().startsWith(words)) {
            QTest::mouseClick(row, Qt::LeftButton);
            return window.settle();
        }
    FAIL("no row says " << words.toStdString());
}

} // namespace

TEST_CASE("Layers and meshes are a part of the Model stage, and back again", "[app][layers]") {
    DemoWindow window("model");
    QTest::mouseClick(child<QPushButton>(shelf(window), "part_layers"), Qt::LeftButton);
    window.settle();
    REQUIRE(gridOf(window));
    CHECK(window.view<LayersView>()->summary().contains("Bypass"));
    CHECK(window.view<PlanView>()->summary().contains("layer 1 of 9"));
    CHECK(coloursOf(window.view<GridSectionView>()) > 20);
    picture(&*window, "layers");
    auto* part = child<QPushButton>(shelf(window), "part_layers");
    QTest::mouseClick(part, Qt::LeftButton); // twice: it stays
    CHECK(part->isChecked());
    QTest::mouseClick(child<QPushButton>(shelf(window), "part_model"), Qt::LeftButton);
    window.settle();
    CHECK_FALSE(window->selection().layerLook().onPlan);
    CHECK(window.view<PlanView>()->summary().contains("layer") == false);
}

TEST_CASE("The table of layers is edited in place, and refuses what can't be", "[app][layers]") {
    DemoWindow window("layers");
    REQUIRE(gridOf(window)->layers.size() == 9);
    type(window, 1, LayersModel::Parts, "3");
    CHECK(gridOf(window)->layers.size() == 10);
    CHECK(gridOf(window)->layers[1] == "Gravel 1");
    type(window, 0, LayersModel::Name, "Soft");
    CHECK(gridOf(window)->layers[0] == "Soft");
    type(window, 6, LayersModel::Bottom, "-25");
    CHECK(gridOf(window)->bottom.back() == Approx(-25));
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& s) { said = s; });
    type(window, 0, LayersModel::Units, "TS, XX");
    CHECK(said.contains("XX"));
    type(window, 1, LayersModel::Parts, "many");
    CHECK(said.contains("many"));
    CHECK(gridOf(window)->layers.size() == 10);
    for (int i = 0; i < 3; ++i) {
        window->session().undo();
        window.settle();
    }
    CHECK(gridOf(window)->layers.size() == 9);
    CHECK(gridOf(window)->layers[0] == "Soft ground");
}

TEST_CASE("Cells follow a hole that is corrected", "[app][layers]") {
    DemoWindow window("layers");
    const auto before = gridOf(window)->volume(1);
    const auto* was = gridOf(window);
    window->session().apply([](const Project& p) { return setExcluded(p, "QB110", true); });
    window.settle();
    REQUIRE(gridOf(window));
    CHECK(gridOf(window) != was);
    CHECK(gridOf(window)->volume(1) != before);
}

TEST_CASE("Thin cells, the width of cells and the turn are set in the side panel", "[app][layers]") {
    DemoWindow window("layers");
    const auto active = gridOf(window)->active();
    auto* then = child<QComboBox>(shelf(window), "thinThen");
    then->setCurrentIndex(1);
    emit then->activated(1);
    window.settle();
    CHECK(gridOf(window)->active() > active); // made thick enough
    CHECK(gridOf(window)->count(CellMark::Thin).cells > 0);
    child<NumberBox>(shelf(window), "gridCell")->setValue(50);
    window.settle();
    CHECK(gridOf(window)->plan.width(0) == Approx(50));
    child<NumberBox>(shelf(window), "gridTurn")->setValue(15);
    window.settle();
    CHECK(gridOf(window)->plan.turn() == 15);
    CHECK(gridOf(window)->plan.box().centre().x == Approx(480750));
    pressRow(window, "Too thin");
    CHECK(window->selection().layerLook().value == "checks");
    pressRow(window, "Over the whole extent");
    CHECK(gridOf(window)->plan.cellAt({480001, 6120001}));
}

TEST_CASE("The grid section goes from row to row and turns to columns by keys", "[app][layers]") {
    DemoWindow window("layers");
    auto* view = window.view<GridSectionView>();
    const int rows = gridOf(window)->plan.rows(), columns = gridOf(window)->plan.columns();
    CHECK(view->summary().contains(QString("row %1 of %2").arg(rows / 2 + 1).arg(rows)));
    view->setFocus();
    QTest::keyClick(view, Qt::Key_PageDown);
    CHECK(view->summary().contains(QString("row %1").arg(rows / 2 + 2)));
    QTest::keyClick(view, Qt::Key_C);
    CHECK(view->summary().contains(QString("column %1 of %2").arg(columns / 2 + 1).arg(columns)));
    for (int i = 0; i < columns; ++i) QTest::keyClick(view, Qt::Key_PageUp);
    CHECK(view->summary().contains("column 1 of"));
    // a cell is read out, and a click chooses its layer
    QTest::keyClick(view, Qt::Key_C);
    const auto at = view->screenOf(700, -20).toPoint();
    QTest::mouseMove(view, at);
    CHECK(view->summary().contains("layer 9"));
    QTest::mouseClick(view, Qt::LeftButton, {}, at);
    CHECK(window->selection().layerLook().layer == 8);
}

TEST_CASE("A new grid and a new mesh of the site are made with one press each, and taken away again", "[app][layers]") {
    DemoWindow window("layers");
    pressRow(window, "Add a layered grid");
    REQUIRE(gridOf(window));
    CHECK(window->selection().layerLook().grid == "Layers");
    CHECK(gridOf(window)->layers.size() == 10); // a unit each
    pressRow(window, "Add a layered grid");
    CHECK(window->selection().layerLook().grid == "Layers 2");
    window->selection().setHole("QB112");
    window.settle();
    const auto cells = gridOf(window)->plan.cells();
    pressRow(window, "Around QB112");
    CHECK(gridOf(window)->plan.cells() > cells);
    pressRow(window, "Remove Layers 2");
    CHECK(window->session().project().layeredGrids->size() == 2);
    pressRow(window, "Add a mesh");
    const auto* made = shownMesh(window->session().products().get(), window->selection().layerLook());
    REQUIRE(made);
    INFO(made->problem);
    REQUIRE(made->mesh);
    CHECK(shelf(window)->findChild<AngleHistogram*>());
    pressRow(window, "A node at QB112");
    made = shownMesh(window->session().products().get(), window->selection().layerLook());
    REQUIRE(made->mesh);
    CHECK(made->mesh->plan.places.contains("QB112"));
    picture(&*window, "mesh");
    type(window, 1, LayersModel::Parts, "2"); // the table is the mesh's now
    CHECK(window->session().project().meshes->back().layers[1].parts.size() == 2);
    child<NumberBox>(shelf(window), "meshElements")->setValue(20000);
    window.settle();
    made = shownMesh(window->session().products().get(), window->selection().layerLook());
    REQUIRE(made->mesh);
    CHECK(std::abs(double(made->mesh->elements()) - 20000) <= 1000);
    pressRow(window, "Remove Mesh");
    CHECK(window->session().project().meshes->size() == 1);
}

TEST_CASE("Files of a grid and of a mesh are written, and what was written is clean", "[app][layers]") {
    DemoWindow window("layers");
    const QTemporaryDir folder;
    window->layers()->writeGrid("Bypass", folder.filePath("grid"));
    waitFor("the files", [&] { return window->layers()->settled(); });
    CHECK(checkLayerFiles(folder.filePath("grid").toStdString()).faults.empty());
    window->layers()->writeMesh("Wellfield", folder.filePath("mesh"));
    waitFor("the files", [&] { return window->layers()->settled(); });
    CHECK(QFileInfo::exists(folder.filePath("mesh/mesh.nc")));
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& s) { said = s; });
    window->layers()->writeGrid("no such grid", folder.filePath("none"));
    waitFor("the refusal", [&] { return window->layers()->settled() && !said.isEmpty(); });
    CHECK(said.contains("no such grid"));
    // a specification from a file, with the folder of its own files
    writeBytes(folder.filePath("L.json").toStdString(), toJson(window->session().project().layeredGrids->front()));
    window->layers()->addFiles({folder.filePath("L.json")});
    window.settle();
    CHECK(window->session().project().layeredGrids->size() == 2);
    writeBytes(folder.filePath("X.json").toStdString(), "{}");
    window->layers()->addFiles({folder.filePath("X.json")});
    CHECK(said.contains("X.json"));
    CHECK(window->session().project().layeredGrids->size() == 2);
}

TEST_CASE("Without a project the part says what it needs", "[app][layers]") {
    MainWindow window;
    window.show();
    window.showStage("layers");
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    CHECK(window.session().project().layeredGrids->empty());
    CHECK(window.page()->find<GridSectionView>());
    picture(&window, "layers_empty");
}
