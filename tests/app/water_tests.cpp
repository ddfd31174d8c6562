// Water surfaces in the window: added, their points chosen, shown on plan and sections; which levels logs and sections show.
#include "dialogs/water_sheet.h"
#include "harness.h"
#include "import_steps.h"
#include "shell/surface_actions.h"
#include "stages/shelf.h"
#include "views/plan_view.h"

#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QtTest>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// The demo with a year of monitoring.
void addMonitoring(DemoWindow& window) { import(window, dropped(window, {FOX_DEMO "/phase5_monitoring.ags"})); }

/// Presses the row of the side panel that begins so.
void pressRow(DemoWindow& window, const QString& words) {
    for (auto* row : shelf(window)->findChildren<ShelfRow*>())
        if (row->isVisible() && row->accessibleName().startsWith(words)) return press(row, Qt::Key_Return);
    FAIL("no row " << words.toStdString());
}

WaterSheet* opened(DemoWindow& window) {
    waitFor("the water sheet", [&] { return window->surfaces()->waterSheet() && window->surfaces()->waterSheet()->isVisible(); });
    window.settle();
    return window->surfaces()->waterSheet();
}

void choose(QComboBox* box, int index) {
    box->setCurrentIndex(index);
    emit box->activated(index);
}

const WaterSurface& surface(DemoWindow& window) { return window.project().waterSurfaces->front(); }

} // namespace

TEST_CASE("A water surface is added for a unit, its points and reading chosen, shown on the plan, and removed",
          "[window][water]") {
    DemoWindow window("holes");
    addMonitoring(window);
    window->showStage("model");
    window->selection().setUnit("RG");
    window.settle();
    pressRow(window, "Add a water surface of RG");
    auto* sheet = opened(window);
    REQUIRE(window.project().waterSurfaces->size() == 1);
    auto* points = child<QTableWidget>(sheet, "waterPoints");
    REQUIRE(points->rowCount() >= 6);
    const auto ticked = [&] {
        int n = 0;
        for (int r = 0; r < points->rowCount(); ++r) n += points->item(r, 0)->checkState() == Qt::Checked;
        return n;
    };
    // points whose response zone lies in the unit, and no others
    for (int r = 0; r < points->rowCount(); ++r) {
        const bool in = points->item(r, 2)->text()
                        == QString::fromStdString(window.project().sequence->units[*window.project().sequence->index("RG")].name);
        CHECK((points->item(r, 0)->checkState() == Qt::Checked) == in);
    }
    picture(sheet, "water_sheet");
    choose(child<QComboBox>(sheet, "waterUnit"), 0);
    window.settle();
    CHECK(surface(window).unit.empty());
    CHECK(ticked() == points->rowCount());
    points->item(0, 0)->setCheckState(Qt::Unchecked);
    window.settle();
    CHECK(surface(window).points.size() == 1);
    CHECK(ticked() == points->rowCount() - 1);
    CHECK(child<QLabel>(sheet, "waterFacts")
              ->text()
              .contains(QString("%1 of %2 points").arg(points->rowCount() - 1).arg(points->rowCount())));

    auto* statistic = child<QComboBox>(sheet, "waterStatistic");
    choose(statistic, statistic->findText("at a date"));
    child<QDateEdit>(sheet, "waterDate")->setDate(QDate(2020, 6, 1));
    window.settle();
    CHECK(surface(window).reading == WaterChoice{WaterStatistic::AtDate, "2020-06-01"});
    choose(child<QComboBox>(sheet, "waterMethod"),
           child<QComboBox>(sheet, "waterMethod")->findData(int(Method::UniversalKriging)));
    child<QDoubleSpinBox>(sheet, "waterReach")->setValue(300);
    window.settle();
    CHECK(surface(window).method == Method::UniversalKriging);
    CHECK(surface(window).reach == 300.0);

    typeInto(child<QLineEdit>(sheet, "waterName"), "June water");
    window.settle();
    CHECK(surface(window).name == "June water");
    CHECK(sheet->windowTitle() == "Water surface: June water"); // it follows its surface
    window->page()->panes().at(0)->show(ViewKind::Plan);
    child<QPushButton>(sheet, "waterOnPlan")->click();
    window.settle();
    auto* plan = window.view<PlanView>();
    waitFor("the surface on the plan", [&] { return plan->summary().startsWith("June water"); });
    CHECK(coloursOf(plan) > 100);
    picture(&*window, "water_plan");
    choose(child<QComboBox>(sheet, "waterShows"), 1);
    child<QPushButton>(sheet, "waterOnPlan")->click();
    CHECK(window->selection().planLook().water == PlanLook::Water{"June water", true});
    typeInto(child<QLineEdit>(sheet, "waterName"), "Summer water"); // it stays on the plan by its new name
    window.settle();
    CHECK(window->selection().planLook().water == PlanLook::Water{"Summer water", true});
    window->session().undo();
    window.settle();
    CHECK(window->selection().planLook().water == PlanLook::Water{"June water", true});

    child<QPushButton>(sheet, "waterRemove")->click();
    waitFor("the sheet to close", [&] { return !window->surfaces()->waterSheet(); });
    window.settle();
    CHECK(window.project().waterSurfaces->empty());
    CHECK(coloursOf(plan) > 10); // the plan goes on without it
    window->session().undo();
    window.settle();
    CHECK(surface(window).name == "June water");
    pressRow(window, "June water");
    CHECK(opened(window)->windowTitle() == "Water surface: June water");
}

TEST_CASE("Logs and sections show the levels of water that are chosen on the Holes stage", "[window][water]") {
    DemoWindow window("holes");
    addMonitoring(window);
    const auto waterOf = [&](const Project& p) {
        const auto set = window.made({ProductKind::Sections});
        std::vector<double> levels;
        for (const auto& h : set->sections.at(0)->holes) levels.insert(levels.end(), h.water.begin(), h.water.end());
        CHECK(sameVersion(set->project, p));
        return levels;
    };
    const auto latest = waterOf(window.project());
    auto* statistic = child<QComboBox>(shelf(window), "waterStatistic");
    CHECK(statistic->currentText() == "latest");
    choose(statistic, statistic->findText("highest"));
    window.settle();
    CHECK(window.project().shownWater->which == WaterStatistic::Highest);
    const auto highest = waterOf(window.project());
    REQUIRE(highest.size() == latest.size());
    REQUIRE_FALSE(highest.empty());
    double rise = 0;
    for (std::size_t i = 0; i < highest.size(); ++i) rise += highest[i] - latest[i];
    CHECK(rise > 0);
    window->session().undo();
    window.settle();
    CHECK(child<QComboBox>(shelf(window), "waterStatistic")->currentText() == "latest");
}

TEST_CASE("What a sounding's zones rest on is stated on the card of its hole, and given back by an empty field",
          "[window][soundings]") {
    DemoWindow window("holes");
    import(window, dropped(window, {FOX_DEMO "/phase4_soundings.ags"}));
    window->selection().setHole("QC403");
    window.settle();
    const auto push = findHole(*window.project().holes, "QC403")->soundings.at(0).push;
    const auto weightName = "soundingWeight_" + push, waterName = "soundingWater_" + push;
    typeInto(child<QLineEdit>(shelf(window), weightName.c_str()), "17,5");
    window.settle();
    CHECK(findHole(*window.project().holes, "QC403")->soundings.at(0).statedUnitWeight == 17.5);
    typeInto(child<QLineEdit>(shelf(window), waterName.c_str()), "1.2");
    window.settle();
    CHECK(findHole(*window.project().holes, "QC403")->soundings.at(0).statedWater == Depth{1.2});
    typeInto(child<QLineEdit>(shelf(window), weightName.c_str()), "-3"); // refused, with a sentence
    window.settle();
    CHECK(findHole(*window.project().holes, "QC403")->soundings.at(0).statedUnitWeight == 17.5);
    auto* water = child<QLineEdit>(shelf(window), waterName.c_str());
    water->setFocus();
    water->selectAll();
    press(water, Qt::Key_Delete);
    press(water, Qt::Key_Return);
    window.settle();
    CHECK_FALSE(findHole(*window.project().holes, "QC403")->soundings.at(0).statedWater);
    picture(&*window, "sounding_card");
}

TEST_CASE("Monitoring alone, without any geology, makes a water surface; without readings none is offered", "[window][water]") {
    DemoWindow window("model");
    const QTemporaryDir folder;
    window->session().openNew(folder.filePath("empty.gpkg"), [] { return Project{}; });
    window.settle();
    for (auto* row : shelf(window)->findChildren<ShelfRow*>()) CHECK_FALSE(row->accessibleName().contains("water surface"));
    std::string table = "Hole,Easting,Northing,Ground level,Date,Water level\n";
    for (int i = 0; i < 6; ++i)
        table += "W" + std::to_string(i) + "," + std::to_string(480500 + 60 * (i % 3)) + ","
                 + std::to_string(6120400 + 70 * (i / 3)) + ",24." + std::to_string(i) + ",2026-03-01,21." + std::to_string(9 - i)
                 + "\n";
    import(window, dropped(window, {written(folder, "wells.csv", table)}));
    window->showStage("model");
    window.settle();
    REQUIRE(window.holes() == 6);
    REQUIRE_FALSE((*window.project().holes)[0].waterLevels.empty());
    pressRow(window, "Add a water surface");
    auto* sheet = opened(window);
    CHECK(child<QLabel>(sheet, "waterFacts")->text().startsWith("6 of 6 points, levels 21.40 to 21.90 m"));
    picture(sheet, "water_alone");
    CHECK(coloursOf(sheet) > 100);
    // every button twice
    for (int k = 0; k < 2; ++k) child<QPushButton>(sheet, "waterOnPlan")->click();
    child<QPushButton>(sheet, "waterRemove")->click();
    waitFor("the sheet to close", [&] { return !window->surfaces()->waterSheet(); });
    window.settle();
    CHECK(window.project().waterSurfaces->empty());
}
