#include "dialogs/surface_sheet.h"
#include "formats/raster.h"
#include "harness.h"
#include "project/json.h"
#include "shell/status_line.h"
#include "shell/surface_actions.h"
#include "stages/shelf.h"
#include "views/plan_view.h"
#include "views/section_view.h"
#include "views/variogram_chart.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>
#include <QTest>
#include <catch2/catch.hpp>
#include <filesystem>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

const BaseSurface& baseOf(DemoWindow& window, const char* code) {
    const auto products = window->session().products();
    return *products->model->bases[*products->project.sequence->index(code)];
}

const SurfaceRecipe& recipeIn(DemoWindow& window, const char* code) {
    return window.project().sequence->units[*window.project().sequence->index(code)].recipe;
}

SurfaceSheet* openSheet(DemoWindow& window, const char* code, SurfaceSheet::Page page) {
    window->selection().setUnit(code);
    window->surfaces()->openSheet(int(page));
    auto* sheet = window->surfaces()->sheet();
    waitFor("the sheet", [&] { return sheet->isVisible() && sheet->settled(); });
    return sheet;
}

std::string lastEdit(DemoWindow& window) { return window->session().history().undoLabel(); }

void drag(QWidget* w, QPointF from, QPointF to) {
    const auto send = [&](QEvent::Type type, QPointF at, Qt::MouseButtons held) {
        QMouseEvent e(type, at, w->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held,
                      Qt::NoModifier);
        QApplication::sendEvent(w, &e);
    };
    send(QEvent::MouseButtonPress, from, Qt::LeftButton);
    for (int k = 1; k <= 4; ++k) send(QEvent::MouseMove, from + (to - from) * k / 4, Qt::LeftButton);
}

void letGo(QWidget* w, QPointF at) {
    QMouseEvent e(QEvent::MouseButtonRelease, at, w->mapToGlobal(at), Qt::LeftButton, Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(w, &e);
}

} // namespace

TEST_CASE("A chosen unit's base is on the plan, with what the holes say and how sure it is", "[app][surface]") {
    DemoWindow window("model");
    window->selection().setUnit("TL");
    window.settle();
    auto* plan = window.view<PlanView>();
    CHECK(plan->summary().contains("contacts"));
    QString told;
    QObject::connect(plan, &View::pointed, [&](double, double, double, const QString& unit) { told = unit; });
    QTest::mouseMove(plan, plan->screenOf({480700, 6120500}).toPoint());
    waitFor("words under the cursor", [&] { return told.contains("base of Till"); });
    CHECK(told.contains(QString::fromUtf8("±")));
    CHECK(told.contains("nearest hole"));
    picture(&*window, "surface_plan");
    for (const auto surface : {PlanLook::Surface::Uncertainty, PlanLook::Surface::Chance, PlanLook::Surface::Distance}) {
        auto look = window->selection().planLook();
        look.surface = surface;
        window->selection().setPlanLook(look);
        window.settle();
        picture(&*window, surface == PlanLook::Surface::Uncertainty ? "surface_doubt"
                          : surface == PlanLook::Surface::Chance    ? "surface_chance"
                                                                    : "surface_distance");
    }
    auto look = window->selection().planLook();
    look.surface = PlanLook::Surface::Thickness;
    window->selection().setPlanLook(look);
    window->selection().setUnit("PT");
    window.settle();
    picture(&*window, "surface_thickness");
}

TEST_CASE("Dragging the variogram shows the base that it would make; letting go makes it", "[app][surface]") {
    DemoWindow window("model");
    const auto fitted = baseOf(window, "TL").fit.settings.variogram;
    REQUIRE(fitted);
    window->session().apply([](const Project& p) {
        return changeRecipe(
            p, "TL",
            [](SurfaceRecipe& r) {
                r.settings.variogram = Variogram{VariogramModel::Linear, 0.05, 1.6, 700};
            },
            "linear");
    });
    window.settle();
    auto* sheet = openSheet(window, "TL", SurfaceSheet::Page::Settings);
    sheet->resize(1180, 720);
    auto* chart = child<VariogramChart>(sheet, "variogramChart");
    const auto before = baseOf(window, "TL").fit.settings.variogram;
    REQUIRE(before);
    picture(sheet, "surface_sheet");
    // a linear model goes on rising: it has no range to drag
    REQUIRE(before->model == VariogramModel::Linear);
    CHECK(chart->handles().size() == 2);
    drag(chart, chart->screenOf(VariogramChart::Handle::Range), {20, 20});
    CHECK(chart->model() == *before);
    letGo(chart, {20, 20});
    const auto from = chart->screenOf(VariogramChart::Handle::Sill);
    drag(chart, from, from + QPointF(0, 30));
    CHECK(chart->model().partialSill < before->partialSill);
    CHECK(baseOf(window, "TL").fit.settings.variogram == before); // nothing is an edit yet
    waitFor("the preview", [&] { return sheet->settled(); });
    picture(sheet, "surface_dragging");
    letGo(chart, from + QPointF(0, 30));
    window.settle();
    CHECK(lastEdit(window) == "Base of TL: variogram");
    CHECK(baseOf(window, "TL").fit.settings.variogram == recipeIn(window, "TL").settings.variogram);
    CHECK(baseOf(window, "TL").fit.settings.variogram->partialSill == Approx(chart->model().partialSill));
    // the keys do the same
    chart->setFocus();
    press(chart, Qt::Key_Space);
    press(chart, Qt::Key_Up);
    window.settle();
    CHECK(lastEdit(window) == "Base of TL: variogram");
    click(child<QPushButton>(sheet, "variogramFit"), {10, 10});
    window.settle();
    CHECK_FALSE(recipeIn(window, "TL").settings.variogram);
    CHECK(baseOf(window, "TL").fit.settings.variogram == fitted);
}

TEST_CASE("Settings of a surface are edits, and undo takes them back", "[app][surface]") {
    DemoWindow window("model");
    auto* sheet = openSheet(window, "AL", SurfaceSheet::Page::Settings);
    const auto old = window->session().products()->model;
    child<QDoubleSpinBox>(sheet, "surfaceRatio")->setValue(4);
    window.settle();
    CHECK(recipeIn(window, "AL").settings.anisotropy.ratio == 4);
    CHECK(window->session().products()->model != old);
    child<QDoubleSpinBox>(sheet, "surfaceReach")->setValue(150);
    window.settle();
    CHECK(lastEdit(window) == "Base of AL: maximum distance");
    auto* from = child<QComboBox>(sheet, "surfaceFrom");
    from->setCurrentIndex(1 + int(BaseReference::Plane));
    emit from->activated(from->currentIndex());
    window.settle();
    CHECK(baseOf(window, "AL").reference == BaseReference::Plane);
    CHECK(baseOf(window, "AL").in.plane);
    window->session().undo();
    window->session().undo();
    window->session().undo();
    window.settle();
    CHECK(window->session().products()->model == old);
    CHECK(child<QDoubleSpinBox>(sheet, "surfaceRatio")->value() == 2); // the sheet follows
}

TEST_CASE("Bases that are given one series share a variogram", "[app][surface]") {
    DemoWindow window("model");
    auto* sheet = openSheet(window, "TL", SurfaceSheet::Page::Settings);
    const auto own = *baseOf(window, "TL").fit.settings.variogram;
    const auto name = [&](const char* typed) {
        auto* series = child<QComboBox>(sheet, "surfaceSeries");
        typeInto(series->lineEdit(), typed);
        press(series->lineEdit(), Qt::Key_Return);
        window.settle();
    };
    name("Lower beds");
    CHECK(lastEdit(window) == "Base of TL: series");
    CHECK(*baseOf(window, "TL").fit.settings.variogram == own); // there are no others yet
    sheet = openSheet(window, "MW", SurfaceSheet::Page::Settings);
    window.settle();
    CHECK(child<QComboBox>(sheet, "surfaceSeries")->findText("Lower beds") >= 0);
    name("Lower beds");
    CHECK(baseOf(window, "TL").fit.settings.variogram->range == Approx(baseOf(window, "MW").fit.settings.variogram->range));
    CHECK_FALSE(*baseOf(window, "TL").fit.settings.variogram == own);
    picture(sheet, "surface_series");
    CHECK(recipeOf(toJson(recipeIn(window, "TL")), {}).series == "Lower beds"); // as it is kept in the file
    window->session().undo();
    window.settle();
    CHECK(*baseOf(window, "TL").fit.settings.variogram == own);
}

TEST_CASE("All methods stand side by side, and one is taken", "[app][surface]") {
    DemoWindow window("model");
    auto* sheet = openSheet(window, "TL", SurfaceSheet::Page::Methods);
    sheet->resize(1180, 720);
    auto* table = child<QTableWidget>(sheet, "methodTable");
    waitFor("the comparison", [&] { return table->rowCount() == int(allMethods().size()) + 1; }); // and the automatic one
    int used = 0, best = 0;
    for (int row = 0; row < table->rowCount(); ++row) {
        used += table->item(row, 0)->text().contains("in use");
        best += table->item(row, 0)->text().contains("smallest error");
    }
    CHECK(used == 1);
    CHECK(best == 1);
    picture(sheet, "surface_methods");
    table->setCurrentCell(int(Method::Linear), 0);
    click(child<QPushButton>(sheet, "methodUse"), {10, 10});
    window.settle();
    CHECK(recipeIn(window, "TL").settings.method == Method::Linear);
    waitFor("the table to follow", [&] { return table->item(int(Method::Linear), 0)->text().contains("in use"); });
}

TEST_CASE("The automatic base is chosen by a key, says what it averages, and stands among the methods", "[app][surface]") {
    DemoWindow window("model");
    auto* sheet = openSheet(window, "RG", SurfaceSheet::Page::Settings);
    auto* method = child<QComboBox>(sheet, "surfaceMethod");
    REQUIRE(method->currentText() == "Thin plate");
    method->setFocus();
    QTest::keyClick(method, Qt::Key_Home);
    window.settle();
    CHECK(recipeIn(window, "RG").automatic);
    CHECK(lastEdit(window) == "Base of RG: method");
    REQUIRE(baseOf(window, "RG").isAutomatic());
    CHECK(child<QLabel>(sheet, "surfaceWords")->text().contains("An average of:"));
    CHECK_FALSE(child<VariogramChart>(sheet, "variogramChart")->isVisible());
    CHECK(window.made({ProductKind::Audit})->audit->worstDifference < 0.01);
    picture(sheet, "surface_automatic");
    window->surfaces()->openSheet(int(SurfaceSheet::Page::Methods));
    auto* table = child<QTableWidget>(sheet, "methodTable");
    const int last = int(allMethods().size());
    waitFor("the comparison", [&] { return table->rowCount() == last + 1; });
    CHECK(table->item(last, 0)->text().startsWith("Automatic · in use"));
    window->session().undo();
    window.settle();
    CHECK_FALSE(baseOf(window, "RG").isAutomatic());
    CHECK(recipeIn(window, "RG").settings.method == Method::ThinPlate);
}

TEST_CASE("What a hole says can be set by hand", "[app][surface]") {
    DemoWindow window("model");
    auto* sheet = openSheet(window, "TL", SurfaceSheet::Page::Holes);
    const int contacts = baseOf(window, "TL").contacts;
    picture(sheet, "surface_holes");
    auto* say = child<QComboBox>(sheet, "say-QB111");
    REQUIRE(say->currentIndex() == 0);
    say->setCurrentIndex(1);
    emit say->activated(1);
    window.settle();
    CHECK(lastEdit(window) == "QB111, base of TL: reached the base");
    CHECK(baseOf(window, "TL").contacts == contacts + 1);
    CHECK(child<QComboBox>(sheet, "say-QB111")->currentIndex() == 1);
    window->session().undo();
    window.settle();
    CHECK(baseOf(window, "TL").contacts == contacts);
}

TEST_CASE("An ensemble gives ranges of volumes", "[app][surface]") {
    DemoWindow window("model");
    auto* sheet = openSheet(window, "AL", SurfaceSheet::Page::Ensemble);
    sheet->resize(1100, 760);
    child<QSpinBox>(sheet, "ensembleCount")->setValue(30);
    click(child<QPushButton>(sheet, "ensembleRun"), {10, 10});
    auto* table = child<QTableWidget>(sheet, "ensembleTable");
    waitFor("the ensemble", [&] { return sheet->settled() && table->rowCount() == 9; });
    const auto figure = [&](int row, int column) { return table->item(row, column)->text().split(' ').front().toDouble(); };
    CHECK(figure(2, 1) < figure(2, 3)); // alluvium, P10 and P90
    child<QComboBox>(sheet, "ensembleMap")->setCurrentText("Thickness, P50, m");
    picture(sheet, "surface_ensemble");
    // another edit: the ranges are of a model that is gone
    window->session().apply([&](const Project& p) { return setMethod(p, "AL", Method::ThinPlate); });
    window.settle();
    CHECK(table->rowCount() == 0);
}

TEST_CASE("A guide point is placed on the plan, a line on the section", "[app][surface]") {
    DemoWindow window("model");
    window->selection().setUnit("RG");
    window.settle();
    auto* plan = window.view<PlanView>();
    plan->startDrawing(PlanView::Drawing::GuidePoint);
    const Point2 place{481150, 6120250};
    click(plan, plan->screenOf(place));
    auto* box = child<QDoubleSpinBox>(plan, "pointLevel");
    box->setValue(7.5);
    press(box, Qt::Key_Return);
    window.settle();
    REQUIRE(window.project().interpretation->guides.size() == 1);
    const auto& guide = window.project().interpretation->guides[0];
    CHECK(guide.unit == "RG");
    CHECK(guide.line.front().z == 7.5);
    CHECK(baseOf(window, "RG").in.guides == 1);
    CHECK(window->session().products()->model->columnAt(guide.line.front().plan()).bases[4] == Approx(7.5).margin(1e-4));
    auto* section = window.view<SectionView>();
    window->selection().setSection(1);
    window.settle();
    section->startGuide();
    CHECK(section->drawingGuide());
    click(section, section->screenOf(600, 12));
    click(section, section->screenOf(700, 11));
    press(section, Qt::Key_Return);
    window.settle();
    REQUIRE(window.project().interpretation->guides.size() == 2);
    CHECK(window.project().interpretation->guides[1].line.size() == 2);
    CHECK(window.project().interpretation->guides[1].line[0].z == Approx(12).margin(0.3));
    picture(&*window, "surface_guides");
    section->startGuide();
    click(section, section->screenOf(300, 10));
    press(section, Qt::Key_Escape);
    CHECK(window.project().interpretation->guides.size() == 2);
}

TEST_CASE("A drawn fault steps the chosen base and older ones", "[app][surface]") {
    DemoWindow window("model");
    window->session().apply([&](const Project& p) { return removeFault(p, p.interpretation->faults[0].fault.name); });
    window->selection().setUnit("TL");
    window.settle();
    CHECK(baseOf(window, "TL").in.faults.empty());
    auto* plan = window.view<PlanView>();
    plan->startDrawing(PlanView::Drawing::Fault);
    click(plan, plan->screenOf({480410, 6120010}));
    click(plan, plan->screenOf({480010, 6120320}));
    press(plan, Qt::Key_Return);
    window.settle();
    REQUIRE(window.project().interpretation->faults.size() == 1);
    CHECK(window.project().interpretation->faults[0].youngest == "TL");
    CHECK(baseOf(window, "TL").in.faults.size() == 1);
    CHECK(baseOf(window, "RG").in.faults.empty());
    CHECK(baseOf(window, "MW").in.faults.size() == 1);
}

TEST_CASE("A base is frozen, taken from a grid, and made from the holes again", "[app][surface]") {
    DemoWindow window("model");
    window->selection().setUnit("TL");
    window.settle();
    const auto level = [&] { return window->session().products()->model->columnAt({480700, 6120300}).bases[7]; };
    const double before = level();
    click(child<QPushButton>(&*window, "freezeBase"), {10, 10});
    window.settle();
    CHECK(baseOf(window, "TL").fixed);
    window->session().apply([&](const Project& p) { return setMethod(p, "TL", Method::Nearest); });
    window.settle();
    CHECK(level() == Approx(before).margin(0.15)); // as it was, between cells
    picture(&*window, "surface_frozen");
    click(child<QPushButton>(&*window, "releaseBase"), {10, 10});
    window.settle();
    CHECK_FALSE(baseOf(window, "TL").fixed);
    Grid flat(*window->session().products()->frame);
    std::ranges::fill(flat.values, 9.25);
    const auto path = std::filesystem::temp_directory_path() / "fox-flat-base.tif";
    writeRaster(path, flat, "EPSG:25831");
    window->surfaces()->takeBase("TL", path);
    waitFor("the grid", [&] { return window->surfaces()->settled(); });
    window.settle();
    CHECK(baseOf(window, "TL").fixed->from == "fox-flat-base.tif");
    CHECK(level() == Approx(9.25));
    std::filesystem::remove(path);
}

TEST_CASE("A surface has extent and cells of its own, and the plan follows its variogram while it is dragged", "[app][surface]") {
    DemoWindow window("model");
    auto* sheet = openSheet(window, "TL", SurfaceSheet::Page::Settings);
    CHECK_FALSE(recipeIn(window, "TL").grid);
    child<QCheckBox>(sheet, "surfaceOwnGrid")->click();
    window.settle();
    REQUIRE(recipeIn(window, "TL").grid);
    const auto whole = *recipeIn(window, "TL").grid;
    CHECK(whole == *window->session().products()->frame);
    const auto base = window->session().products()->model->bases[*window.project().sequence->index("TL")];
    child<QDoubleSpinBox>(sheet, "surfaceWest")->setValue(whole.xmin + 300);
    window.settle();
    child<QDoubleSpinBox>(sheet, "surfaceCell")->setValue(25);
    window.settle();
    CHECK(recipeIn(window, "TL").grid->xmin == whole.xmin + 300);
    CHECK(recipeIn(window, "TL").grid->cell == 25);
    // where it is mapped does not change what it is
    CHECK(window->session().products()->model->bases[*window.project().sequence->index("TL")] == base);
    picture(&*window, "surface_own_grid");
    QString said;
    QObject::connect(sheet, &SurfaceSheet::failed, [&](const QString& words) { said = words; });
    child<QDoubleSpinBox>(sheet, "surfaceEast")->setValue(whole.xmin);
    CHECK(said.contains("reversed"));
    child<QCheckBox>(sheet, "surfaceOwnGrid")->click();
    window.settle();
    CHECK_FALSE(recipeIn(window, "TL").grid);
    // the card's own chart
    sheet->close();
    auto* plan = window.view<PlanView>();
    const auto before = plan->grab().toImage();
    auto* chart = child<VariogramChart>(&*window, "cardVariogram");
    const auto from = chart->screenOf(VariogramChart::Handle::Sill);
    drag(chart, from, from + QPointF(0, 40));
    REQUIRE(window->selection().draggedVariogram());
    waitFor("the plan that follows", [&] { return plan->grab().toImage() != before; });
    letGo(chart, from + QPointF(0, 40));
    window.settle();
    CHECK_FALSE(window->selection().draggedVariogram());
    CHECK(recipeIn(window, "TL").settings.variogram);
}

TEST_CASE("A unit is marked as present and absent on the plan, the line of its presence follows, and undo takes it back",
          "[app][surface]") {
    DemoWindow window("model");
    window->selection().setUnit("SL");
    auto look = window->selection().planLook();
    look.surface = PlanLook::Surface::Chance;
    window->selection().setPlanLook(look);
    window.settle();
    auto* plan = window.view<PlanView>();
    waitFor("the line of presence", [&] { return plan->settled() && plan->summary().contains("its edge"); });
    picture(&*window, "presence");
    const Point2 place{480300, 6120200};
    click(child<QPushButton>(shelf(window), "markPresent"), {6, 6});
    CHECK(plan->drawing());
    click(plan, plan->screenOf(place));
    press(plan, Qt::Key_Return);
    CHECK_FALSE(plan->drawing());
    window.settle();
    REQUIRE(window.project().interpretation->presence.size() == 1);
    const auto& mark = window.project().interpretation->presence.front();
    CHECK(mark.present);
    CHECK(mark.unit == "SL");
    CHECK(distance(mark.area.front(), place) < 3);
    // an area, with too few corners at first
    click(child<QPushButton>(shelf(window), "markAbsent"), {6, 6});
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    click(plan, plan->screenOf({480900, 6120300}));
    click(plan, plan->screenOf({481000, 6120300}));
    press(plan, Qt::Key_Return);
    CHECK(said.contains("three corners"));
    click(plan, plan->screenOf({481000, 6120400}));
    press(plan, Qt::Key_Return);
    window.settle();
    REQUIRE(window.project().interpretation->presence.size() == 2);
    CHECK_FALSE(window.project().interpretation->presence.back().present);
    CHECK(window.project().interpretation->presence.back().area.size() == 3);
    picture(&*window, "presence_marks");
    window->session().undo();
    window->session().undo();
    CHECK(window.project().interpretation->presence.empty());
}

TEST_CASE("Positions for the next hole are ranked, numbered on the plan, and one becomes a predicted log", "[app][surface]") {
    DemoWindow window("model");
    auto* sheet = openSheet(window, "RG", SurfaceSheet::Page::Drill);
    auto* table = child<QTableWidget>(sheet, "drillTable");
    CHECK_FALSE(child<QPushButton>(sheet, "drillKeep")->isEnabled());
    child<QComboBox>(sheet, "drillWhere")->setCurrentIndex(2);
    click(child<QPushButton>(sheet, "drillRun"), {8, 8}); // there is no predicted log yet
    CHECK(sheet->settled());
    CHECK(table->rowCount() == 0);
    child<QComboBox>(sheet, "drillWhere")->setCurrentIndex(1); // along the section
    child<QCheckBox>(sheet, "drillIsLimited")->setChecked(true);
    click(child<QPushButton>(sheet, "drillRun"), {8, 8});
    waitFor("the ranking", [&] { return sheet->settled() && table->rowCount() > 3; });
    picture(sheet, "drill");
    picture(&*window, "drill_plan");
    const auto& ranked = window->selection().drillPlaces();
    REQUIRE(ranked.size() == std::size_t(table->rowCount()));
    CHECK(ranked.front().gain >= ranked.back().gain);
    table->setCurrentCell(2, 0);
    click(child<QPushButton>(sheet, "drillKeep"), {8, 8});
    window.settle();
    REQUIRE(window.project().trialColumns->size() == 1);
    CHECK(distance(window.project().trialColumns->front().place, ranked[2].place) < 0.02);
    sheet->close();
    waitFor("the numbers to go", [&] { return window->selection().drillPlaces().empty(); });
}
