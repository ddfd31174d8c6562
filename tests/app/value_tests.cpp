// Values at points in space, results of tests and readings of water in the window.
#include "harness.h"
#include "import_steps.h"
#include "views/chart_view.h"
#include "views/log_view.h"
#include "views/table_model.h"
#include "views/table_view.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QTableView>
#include <QTableWidget>
#include <QTreeWidget>
#include <QtTest>
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

std::string probe() {
    std::string out = "Easting,Northing,Level,Chloride (mg/l)\n";
    for (int i = 0; i < 20; ++i)
        out += fmt::format("{},{},{:.2f},{}\n", 480500 + 15 * (i % 5), 6120400 + 20 * (i / 5), 22 - 0.5 * i,
                           i == 3 ? "<5" : std::to_string(40 + 7 * i));
    return out;
}

/// A hole with a sounding, tests, results and a piezometer, on its own.
std::string soundedHole() {
    std::string out =
        "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\",\"S9\"\r\n\r\n"
        "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_TYPE\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\",\"LOCA_FDEP\"\r\n"
        "\"UNIT\",\"\",\"\",\"m\",\"m\",\"m\",\"m\"\r\n\"TYPE\",\"ID\",\"PA\",\"2DP\",\"2DP\",\"2DP\",\"2DP\"\r\n"
        "\"DATA\",\"CPT1\",\"CP\",\"480620.00\",\"6120420.00\",\"26.10\",\"12.00\"\r\n\r\n"
        "\"GROUP\",\"SCPG\"\r\n\"HEADING\",\"LOCA_ID\",\"SCPG_TESN\",\"SCPG_CAR\",\"SCPG_WAT\"\r\n\"UNIT\",\"\",\"\",\"\","
        "\"m\"\r\n"
        "\"TYPE\",\"ID\",\"X\",\"2DP\",\"2DP\"\r\n\"DATA\",\"CPT1\",\"1\",\"0.80\",\"1.50\"\r\n\r\n"
        "\"GROUP\",\"SCPT\"\r\n\"HEADING\",\"LOCA_ID\",\"SCPG_TESN\",\"SCPT_DPTH\",\"SCPT_RES\",\"SCPT_FRES\",\"SCPT_PWP2\"\r\n"
        "\"UNIT\",\"\",\"\",\"m\",\"MPa\",\"kPa\",\"kPa\"\r\n\"TYPE\",\"ID\",\"X\",\"2DP\",\"3DP\",\"1DP\",\"1DP\"\r\n";
    for (int i = 1; i <= 600; ++i) {
        const double depth = 0.02 * i;
        const bool sand = depth > 4 && depth < 8;
        out += fmt::format("\"DATA\",\"CPT1\",\"1\",\"{:.2f}\",\"{:.3f}\",\"{:.1f}\",\"{:.1f}\"\r\n", depth,
                           sand ? 9 + 3 * std::sin(9 * depth) : 0.9 + 0.1 * std::sin(20 * depth), sand ? 60.0 : 35.0,
                           std::max(0.0, 9.81 * (depth - 1.5)) + (sand ? 0 : 80));
    }
    out +=
        "\r\n\"GROUP\",\"MONG\"\r\n\"HEADING\",\"LOCA_ID\",\"MONG_ID\",\"MONG_DIS\",\"MONG_TRZ\",\"MONG_BRZ\"\r\n\"UNIT\",\"\","
        "\"\",\"m\",\"m\",\"m\"\r\n"
        "\"TYPE\",\"ID\",\"X\",\"2DP\",\"2DP\",\"2DP\"\r\n\"DATA\",\"CPT1\",\"P1\",\"8.00\",\"7.00\",\"8.00\"\r\n\r\n"
        "\"GROUP\",\"MOND\"\r\n\"HEADING\",\"LOCA_ID\",\"MONG_ID\",\"MONG_DIS\",\"MOND_DTIM\",\"MOND_TYPE\",\"MOND_RDNG\",\"MOND_"
        "UNIT\"\r\n"
        "\"UNIT\",\"\",\"\",\"m\",\"yyyy-mm-dd\",\"\",\"\",\"\"\r\n\"TYPE\",\"ID\",\"X\",\"2DP\",\"DT\",\"PA\",\"XN\",\"PU\"\r\n";
    for (int m = 1; m <= 12; ++m)
        out += fmt::format("\"DATA\",\"CPT1\",\"P1\",\"8.00\",\"2025-{:02}-15\",\"WDEP\",\"{:.2f}\",\"m\"\r\n", m,
                           1.5 + 0.4 * std::sin(m / 2.0));
    return out;
}

} // namespace

TEST_CASE("A table of values is told from a survey, goes in, and is shown, listed and left out again", "[window][values]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    const auto points = window.project().ground->points.size();
    auto* sheet = dropped(window, {written(folder, "probe.csv", probe())});
    CHECK(importButton(sheet)->text() == "Import 20 values");
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("20 values at points in space: Chloride in mg/l"));
    CHECK(child<QComboBox>(sheet, "tableAs")->currentText() == "values at points");
    auto* preview = child<QTableWidget>(sheet, "importPreview");
    CHECK(static_cast<QComboBox*>(preview->cellWidget(0, 3))->currentText() == "value");
    picture(sheet, "import_values");
    import(window, sheet);
    REQUIRE(window.project().valuePoints->size() == 1);
    CHECK(window.project().ground->points.size() == points); // it did not become ground

    auto* used = child<QCheckBox>(shelf(window), "useValues_Chloride");
    CHECK(used->isChecked());
    CHECK(used->text() == "Chloride in mg/l (20)");
    window->page()->panes().at(0)->show(ViewKind::Table);
    auto* table = window.view<TableView>();
    table->showTable("values");
    window.settle();
    REQUIRE(table->table()->model()->rowCount() == 20);
    CHECK(table->table()->model()->index(3, 1).data().toString() == "<5");
    table->table()->model()->setData(table->table()->model()->index(3, 6), "no");
    window.settle();
    CHECK((*window.project().valuePoints)[0].points[3].excluded);
    picture(&*window, "values_table");
    child<QCheckBox>(shelf(window), "useValues_Chloride")->click();
    window.settle();
    CHECK_FALSE((*window.project().valuePoints)[0].used);
    window->session().undo();
    window->session().undo();
    window->session().undo();
    window.settle();
    CHECK(window.project().valuePoints->empty());
}

TEST_CASE("A survey can be said to be values, and the next one of its columns is remembered", "[window][values]") {
    QSettings().remove("points");
    DemoWindow window("holes");
    const QTemporaryDir folder;
    const auto table = [](int shift) {
        std::string out = "E,N,Z,Moisture\n";
        for (int i = 0; i < 12; ++i)
            out += fmt::format("{},{},{},{}\n", 480500 + 10 * i + shift, 6120400 + 9 * (i % 4), 20 + 0.1 * i, 10 + i);
        return out;
    };
    auto* sheet = dropped(window, {written(folder, "one.csv", table(0))});
    auto* as = child<QComboBox>(sheet, "tableAs");
    as->setCurrentIndex(int(SourceSettings::As::Values));
    emit as->activated(as->currentIndex());
    waitFor("it to be read as values", [&] { return importButton(sheet)->text() == "Import 12 values"; });
    import(window, sheet);
    REQUIRE(window.project().valuePoints->size() == 1);
    CHECK((*window.project().valuePoints)[0].quantity == "Moisture");
    auto* next = dropped(window, {written(folder, "two.csv", table(5))});
    CHECK(importButton(next)->text() == "Import 12 values");
}

TEST_CASE("A sounding with a piezometer: its log, its chart, water over time, and files of both", "[window][soundings]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    auto* sheet = dropped(window, {written(folder, "cone.ags", soundedHole())});
    import(window, sheet);
    const auto* hole = findHole(*window.project().holes, "CPT1");
    REQUIRE(hole);
    CHECK(hole->soundings.size() == 1);
    CHECK(hole->waterLevels.size() == 12);
    window->selection().setHole("CPT1");
    window->page()->panes().at(0)->show(ViewKind::Log);
    window.settle();
    CHECK(coloursOf(window.view<LogView>()) > 30);
    picture(&*window, "sounding_log");

    window->page()->panes().at(0)->show(ViewKind::Chart);
    auto* chart = window.view<ChartView>();
    window.settle();
    CHECK(chart->quantity() == "SPT N"); // the demo has them
    CHECK(coloursOf(chart) > 20);
    picture(&*window, "chart_values");
    chart->showQuantity("cone resistance", "MPa");
    CHECK(chart->summary() == "cone resistance in MPa: 600 values");
    chart->tools()[0]->trigger();
    waitFor("the menu", [&] { return chart->findChild<QMenu*>("chartMenu") != nullptr; });
    auto* menu = child<QMenu>(chart, "chartMenu");
    QAction* water = nullptr;
    for (auto* a : menu->actions())
        if (a->text() == "Water over time") water = a;
    REQUIRE(water);
    water->trigger();
    menu->close();
    CHECK(chart->quantity() == ChartView::kWater);
    window.settle();
    picture(&*window, "chart_water");
    for (const char* name : {"w.csv", "w.png", "w.pdf", "w.svg"}) {
        chart->saveTo(folder.filePath(name));
        CHECK(QFile(folder.filePath(name)).size() > 200);
    }
    chart->showQuantity("SPT N", "");
    chart->saveTo(folder.filePath("n.csv"));
    CHECK(QFile(folder.filePath("n_by_unit.csv")).size() > 100);
}

TEST_CASE("The demo's later phases: soundings become holes, monitoring and results join those that are there",
          "[window][soundings]") {
    DemoWindow window("holes");
    const auto before = window.holes();
    auto* sheet = dropped(window, {FOX_DEMO "/phase4_soundings.ags", FOX_DEMO "/phase5_monitoring.ags"});
    CHECK(importButton(sheet)->text() == "Import 2 files");
    import(window, sheet);
    CHECK(window.holes() == before + 6);
    const auto* logged = findHole(*window.project().holes, "QB102");
    REQUIRE(logged);
    CHECK(logged->intervals.size() == 5); // the log is as it was
    CHECK(logged->file == "phase1_main.ags");
    CHECK(logged->waterLevels.size() == 16);
    CHECK(std::ranges::count(logged->curves, "undrained shear strength", &Curve::name) == 1);
    window->selection().setHole("QC403");
    window->page()->panes().at(0)->show(ViewKind::Chart);
    auto* chart = window.view<ChartView>();
    chart->showQuantity("undrained shear strength", "kPa");
    window.settle();
    picture(&*window, "soundings");
    chart->showQuantity(ChartView::kWater, "");
    window->selection().setHole("QB102");
    window.settle();
    picture(&*window, "water");
    window->session().undo();
    window.settle();
    CHECK(window.holes() == before);
}

TEST_CASE("A click on a value of the chart chooses its hole", "[window][chart]") {
    DemoWindow window("holes");
    window->page()->panes().at(0)->show(ViewKind::Chart);
    auto* chart = window.view<ChartView>();
    window.settle();
    QString found;
    for (int y = 30; y < chart->height() - 40 && found.isEmpty(); y += 3)
        for (int x = 60; x < chart->width() - 20 && found.isEmpty(); x += 3) {
            click(chart, {double(x), double(y)});
            found = window->selection().hole();
        }
    REQUIRE_FALSE(found.isEmpty());
    CHECK(findHole(*window.project().holes, found.toStdString()));
    CHECK_FALSE(findHole(*window.project().holes, found.toStdString())->blowCounts.empty());
}

TEST_CASE("A chart of an empty project says what it waits for", "[window][chart]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    window->session().openNew(folder.filePath("empty.gpkg"), [] { return Project{}; });
    window.settle();
    window->page()->panes().at(0)->show(ViewKind::Chart);
    auto* chart = window.view<ChartView>();
    CHECK(chart->quantity().isEmpty());
    CHECK(coloursOf(chart) > 10); // the sentence
    chart->tools()[2]->trigger(); // saving is refused with a sentence, not a crash
    click(chart, {50, 50});
    CHECK(window->selection().hole().isEmpty());
}
