// The part "Layers and meshes" of the Model stage, in the real window.
#include "base/files.h"
#include "dialogs/cell_groups_sheet.h"
#include "handover/layer_files.h"
#include "harness.h"
#include "project/hole_edits.h"
#include "project/layer_edits.h"
#include "shell/layer_actions.h"
#include "stages/angle_histogram.h"
#include "stages/shelf.h"
#include "style/words.h"
#include "views/block_view.h"
#include "views/grid_section_view.h"
#include "views/layers_view.h"
#include "views/number_box.h"
#include "views/plan_view.h"
#include "views/scene_layers.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QTableView>
#include <QTableWidget>
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
void pressRow(DemoWindow& window, const QString& words, int skipped = 0) {
    for (auto* row : shelf(window)->findChildren<ShelfRow*>())
        if (row->accessibleName().startsWith(words) && skipped-- == 0) {
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

TEST_CASE("Groups of cells are answered one by one, and several at once", "[app][layers]") {
    DemoWindow window("layers");
    pressRow(window, "Answer group by group…");
    window.settle();
    auto* sheet = window->layers()->groups();
    REQUIRE(sheet);
    auto* table = child<QTableWidget>(sheet, "groups");
    REQUIRE(table->rowCount() > 3);
    const auto answer = [&](int row, int choice) {
        auto* box = qobject_cast<QComboBox*>(table->cellWidget(row, CellGroupsSheet::Answer));
        box->setCurrentIndex(choice);
        emit box->activated(choice);
        window.settle();
    };
    const auto own = [&] { return std::ranges::count(gridOf(window)->groups, true, &CellGroup::isOwn); };
    const auto first = gridOf(window)->groups[0];
    REQUIRE(first.mark == CellMark::Thin);
    CHECK(table->item(0, CellGroupsSheet::Cells)->text() == QString::number(first.columns.size()));
    table->setCurrentCell(0, 0);
    CHECK(window->selection().layerLook().value == "checks");
    CHECK(window->selection().layerLook().layer == first.layer);
    picture(sheet, "cell_groups");
    const auto active = gridOf(window)->active();
    answer(0, 1); // made thick enough
    CHECK(own() == 1);
    CHECK(gridOf(window)->active() > active);
    answer(0, 1); // twice
    CHECK(own() == 1);
    table->setRangeSelected(QTableWidgetSelectionRange(0, 0, 2, 0), true);
    answer(1, 2); // joined, all three
    CHECK(own() == 3);
    answer(0, 0); // as all
    CHECK(own() == 0);
    for (int i = 0; i < 3; ++i) window->session().undo(), window.settle();
    CHECK(gridOf(window)->active() == active);
    CHECK(own() == 0);
    // it goes when the last grid goes
    pressRow(window, "Remove Bypass");
    CHECK(table->rowCount() == 0);
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

namespace {

/// Presses at one place of a view, moves to another, lets go there.
void dragOn(QWidget* view, QPointF from, QPointF to) {
    QTest::mouseMove(view, from.toPoint());
    QTest::mousePress(view, Qt::LeftButton, {}, from.toPoint());
    QTest::mouseMove(view, ((from + to) / 2).toPoint());
    QTest::mouseMove(view, to.toPoint());
    QTest::mouseRelease(view, Qt::LeftButton, {}, to.toPoint());
}

/// Takes an entry of the menu of sources that is open.
void takeSource(DemoWindow& window, const QString& words) {
    auto* menu = child<QMenu>(shelf(window), "sourceMenu");
    for (auto* a : menu->actions())
        if (a->text() == words) {
            a->trigger();
            menu->close();
            return window.settle();
        }
    FAIL("no source " << words.toStdString());
}

} // namespace

TEST_CASE("The plan grid is stretched, moved and turned on the plan", "[app][layers]") {
    DemoWindow window("layers");
    auto* plan = window.view<PlanView>();
    const auto spec = [&] { return window.project().layeredGrids->front(); };
    const auto before = spec().grid;
    const auto at = [&](Point2 p) { return plan->screenOf(p); };
    const auto corner = before.node(before.columns(), before.rows());
    dragOn(plan, at(corner), at({corner.x - 400, corner.y + 200}));
    window.settle();
    CHECK(spec().grid.columns() == before.columns() - 20);
    CHECK(spec().grid.rows() == before.rows() - 10);
    CHECK(distance(spec().grid.corner(), before.corner()) < 1e-6);
    const auto smaller = spec().grid;
    const auto a = smaller.node(0, 0), b = smaller.node(smaller.columns(), smaller.rows());
    const Point2 middle{(a.x + b.x) / 2, (a.y + b.y) / 2};
    dragOn(plan, at(middle), at({middle.x + 100, middle.y - 50}));
    window.settle();
    CHECK(std::abs(spec().grid.corner().x - smaller.corner().x - 100) < 15); // to the pixel
    CHECK(spec().grid.cells() == smaller.cells());
    const auto moved = spec().grid;
    const double side = (moved.node(moved.columns(), 0).x + moved.node(moved.columns(), moved.rows()).x) / 2;
    const auto handle = at({side, middle.y - 50}) + QPointF(22, 0);
    dragOn(plan, handle, handle + QPointF(0, 40)); // southward: clockwise
    window.settle();
    CHECK(spec().grid.turn() > 5);
    CHECK(spec().grid.turn() < 60);
    REQUIRE(gridOf(window));
    picture(&*window, "layers_turned");
    for (int i = 0; i < 3; ++i) window->session().undo(), window.settle();
    CHECK(spec().grid == before);
}

TEST_CASE("A value is typed on cells that are drawn around on the plan, and on one that is clicked", "[app][layers]") {
    DemoWindow window("layers");
    auto* plan = window.view<PlanView>();
    const auto at = [&](Point2 p) { return plan->screenOf(p).toPoint(); };
    const ModalAnswers answers("typedValue", [&](QWidget* dialog) {
        child<QLineEdit>(dialog, "typedNumber")->setText("2e-4");
        child<QSpinBox>(dialog, "typedLast")->setValue(2);
        qobject_cast<QDialog*>(dialog)->accept();
    });
    const auto typed = [&] {
        const auto& k = gridOf(window)->values.at("conductivity");
        return std::ranges::count(k, 2e-4);
    };
    pressRow(window, "Type a value on cells…");
    REQUIRE(plan->drawing());
    for (const Point2 p : {Point2{480300, 6120300}, {480500, 6120300}, {480500, 6120500}})
        QTest::mouseClick(plan, Qt::LeftButton, {}, at(p));
    QTest::keyClick(plan, Qt::Key_Return);
    window.settle();
    CHECK(answers.count() == 1);
    const auto many = typed();
    CHECK(many > 20);
    pressRow(window, "Type a value on cells…");
    QTest::mouseClick(plan, Qt::LeftButton, {}, at({481000, 6120600}));
    QTest::keyClick(plan, Qt::Key_Return);
    window.settle();
    CHECK(typed() == many + 2); // one cell, two layers
    CHECK(window.project().layeredGrids->front().typed.size() == 2);
    pressRow(window, "Remove", 1); // finer cells are removed by the first
    CHECK(typed() == 2);
}

TEST_CASE("Levels and values come from files that are chosen in the side panel", "[app][layers]") {
    DemoWindow window("layers");
    const QTemporaryDir folder;
    const auto table = folder.filePath("k.csv");
    writeBytes(table.toStdString(), "easting,northing,level,k,note\n480200,6120200,3,1e-5,a\n480900,6120300,4,1e-3,b\n"
                                    "480500,6120800,5,1e-4,c\n481200,6120700,4,2e-4,d\n");
    const ModalAnswers file("QFileDialog", [&](QWidget* dialog) { typeFileName(dialog, table); });
    const ModalAnswers points("pointsSource", [&](QWidget* dialog) {
        auto* column = child<QComboBox>(dialog, "pointsColumn");
        CHECK(column->findText("note") < 0);
        column->setCurrentIndex(column->findText("k"));
        auto* method = child<QComboBox>(dialog, "pointsMethod");
        method->setCurrentIndex(method->findData(int(Method::InverseDistance)));
        child<QCheckBox>(dialog, "pointsLogarithms")->setChecked(true);
        qobject_cast<QDialog*>(dialog)->accept();
    });
    pressRow(window, "Hydraulic conductivity");
    takeSource(window, "Points of a table…");
    CHECK(points.count() == 1);
    const auto source = window.project().layeredGrids->front().values.at("conductivity");
    CHECK(source.from == FieldSource::From::Points);
    CHECK(source.column == "k");
    CHECK(source.logarithmic);
    REQUIRE(gridOf(window));
    const auto& k = gridOf(window)->values.at("conductivity");
    for (std::size_t i = 0; i < gridOf(window)->cells(); ++i)
        if (gridOf(window)->state[i] == CellState::Active) REQUIRE((k[i] >= 1e-5 * 0.999 && k[i] <= 1e-3 * 1.001));
    // the bottom of a layer by its unit again, and by a level
    pressRow(window, "Bottom of Mudstone");
    takeSource(window, "The ground");
    CHECK(window.project().layeredGrids->front().layers.back().bottom->from == FieldSource::From::Ground);
    window->session().undo();
    window.settle();
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& s) { said = s; });
    writeBytes(table.toStdString(), "a,b\n1,2\n");
    pressRow(window, "Recharge");
    takeSource(window, "Points of a table…");
    CHECK(said.contains("no columns of eastings"));
}

TEST_CASE("Faces along a line of a mesh are asked for, changed and removed in the side panel", "[app][layers]") {
    DemoWindow window("layers");
    pressRow(window, "Wellfield");
    const auto mesh = [&] { return window.project().meshes->front(); };
    REQUIRE_FALSE(mesh().lines.empty());
    const auto line = qt(mesh().lines.front().name);
    for (const auto& f : mesh().faces) pressRow(window, "Remove the faces " + qt(f.name));
    CHECK(mesh().faces.empty());
    const ModalAnswers answers("meshFaces", [&](QWidget* dialog) {
        child<QLineEdit>(dialog, "facesName")->setText("Wall");
        child<QLineEdit>(dialog, "facesConductivity")->setText("1e-9");
        child<QSpinBox>(dialog, "facesLast")->setValue(2);
        qobject_cast<QDialog*>(dialog)->accept();
    });
    pressRow(window, "Faces along " + line + "…");
    REQUIRE(mesh().faces.size() == 1);
    CHECK(mesh().faces[0].name == "Wall");
    CHECK(mesh().faces[0].last == 2);
    CHECK(mesh().faces[0].conductivity == 1e-9);
    const auto* made = shownMesh(window->session().products().get(), window->selection().layerLook());
    REQUIRE(made);
    INFO(made->problem);
    REQUIRE(made->mesh);
    CHECK_FALSE(made->mesh->faces.front().faces.empty());
    picture(&*window, "mesh_faces");
    pressRow(window, "Wall"); // asked once more: nothing is added
    CHECK(mesh().faces.size() == 1);
}

TEST_CASE("Cells of somebody else's grid get unit and values back in the same order", "[app][layers]") {
    DemoWindow window("layers");
    const QTemporaryDir folder;
    const auto from = folder.filePath("theirs.csv"), to = folder.filePath("theirs_units.csv");
    writeBytes(from.toStdString(), "cell,level,easting,northing\n7,10,480500,6120400\n3,-25,480900,6120300\n9,10,1,1\n");
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& s) { said = s; });
    window->layers()->where(from, to);
    waitFor("the answer", [&] { return window->layers()->settled() && !said.isEmpty(); });
    CHECK(said.startsWith("3 places written"));
    CHECK(said.contains("1 outside"));
    const auto text = readBytes(to.toStdString());
    CHECK(text.starts_with("cell,level,easting,northing,unit,depth"));
    CHECK(text.find("\n7,10,480500,6120400,") < text.find("\n3,-25,480900,6120300,MS,"));
    // an origin that was taken off is asked for
    writeBytes(from.toStdString(), "cell,level,easting,northing\n7,-25,500,400\n");
    const ModalAnswers origin("", [&](QWidget* dialog) {
        auto* box = qobject_cast<QInputDialog*>(dialog);
        REQUIRE(box);
        box->setTextValue("480000, 6120000");
        box->accept();
    });
    said.clear();
    window->layers()->where(from, to);
    waitFor("the answer", [&] { return window->layers()->settled() && !said.isEmpty(); });
    CHECK(origin.count() == 1);
    CHECK(readBytes(to.toStdString()).find("7,-25,500,400,MS") != std::string::npos);
    // something that is no table
    writeBytes(from.toStdString(), "nothing of the kind");
    said.clear();
    window->layers()->where(from, to);
    waitFor("the refusal", [&] { return window->layers()->settled() && !said.isEmpty(); });
    CHECK(said.contains("theirs.csv"));
}

TEST_CASE("Layers in 3D: every cell that is shown has its faces, apart they are lifted, and many are taken together",
          "[app][layers]") {
    DemoWindow window("layers");
    const auto& products = *window->session().products();
    const auto& g = *gridOf(window);
    auto look = window->selection().layerLook();
    const auto whole = layerShapes(products, look, 0, 10'000'000);
    const auto apart = layerShapes(products, look, 5, 10'000'000);
    CHECK(whole.walls.empty());
    CHECK(apart.faces.size() > whole.faces.size()); // between layers too
    // seen from above: the upper faces of a layer are as large as its cells
    const auto areaFromAbove = [](const std::vector<BlockFace>& faces) {
        double sum = 0;
        for (const auto& f : faces) {
            double twice = 0;
            for (std::size_t k = 0; k < 4; ++k) {
                const auto &a = f.corners[k], &b = f.corners[(k + 1) % 4];
                twice += a.x * b.y - b.x * a.y;
            }
            sum += std::max(0.0, twice / 2); // anticlockwise: upwards
        }
        return sum;
    };
    double cells = 0, highest = -1e9, top = -1e9;
    for (std::size_t i = 0; i < g.cells(); ++i)
        if (g.state[i] != CellState::Outside && g.thickness(i) > 1e-6) {
            cells += g.plan.area(i % g.plan.cells());
            top = std::max(top, g.top[i] + 5.0 * double(g.layers.size() - 1 - i / g.plan.cells()));
        }
    for (const auto& f : apart.faces)
        for (const auto& p : f.corners) highest = std::max(highest, p.z);
    CHECK(areaFromAbove(apart.faces) == Approx(cells).epsilon(1e-6));
    CHECK(highest == Approx(top));
    CHECK(layerShapes(products, look, 5, 4000).faces.size() <= 4000);
    look.mesh = "Wellfield";
    const auto mesh = layerShapes(products, look, 0, 10'000'000);
    CHECK(mesh.walls.size() == shownMesh(&products, look)->mesh->faces.front().faces.size());
    CHECK_FALSE(mesh.faces.empty());
    auto* block = window.view<BlockView>();
    auto shown = block->look();
    shown.apart = 0.3;
    block->setLook(shown);
    window.settle();
    CHECK(block->summary().contains("layers apart"));
    picture(&*window, "layers_apart");
}

TEST_CASE("A click on a handle of the plan grid is a click on the hole under it", "[app][layers]") {
    DemoWindow window("layers");
    auto* plan = window.view<PlanView>();
    const auto& grid = window.project().layeredGrids->front().grid;
    const auto a = grid.node(0, 0), b = grid.node(grid.columns(), grid.rows());
    const auto* hole = findHole(*window.project().holes, "R06");
    REQUIRE(hole);
    const Point2 by{hole->place()->x - (a.x + b.x) / 2, hole->place()->y - (a.y + b.y) / 2};
    window->session().apply([by](const Project& p) {
        return changeLayeredGrid(
            p, p.layeredGrids->front().name, [by](LayerSpec& s) { s.grid = movedBy(s.grid, by.x, by.y); }, "move");
    });
    window.settle();
    const auto moved = window.project().layeredGrids->front().grid;
    click(plan, plan->screenOf(*hole->place()));
    window.settle();
    CHECK(window->selection().hole() == "R06");
    CHECK(window.project().layeredGrids->front().grid == moved);
}
