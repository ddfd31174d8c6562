// The Holes stage: sources, tables of every group, logs beside one another, placing, leaving out, newer issues.
#include "import_steps.h"

#include "base/files.h"
#include "dialogs/import_sheet.h"
#include "dialogs/source_sheet.h"
#include "handover/build_file.h"
#include "importing/import.h"
#include "views/block_view.h"
#include "views/log_view.h"
#include "views/plan_view.h"
#include "views/table_view.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QGuiApplication>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QListWidget>
#include <QPushButton>
#include <QSettings>
#include <QTableView>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTreeWidget>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

QString write(const QTemporaryDir& folder, const char* name, const std::string& bytes) {
    const auto path = folder.filePath(name);
    writeBytes(path.toStdString(), bytes);
    return path;
}

} // namespace

TEST_CASE("Six well logs come in at once, and their places after them from a workbook", "[window][holes]") {
    DemoWindow window("holes");
    QStringList logs;
    for (int i = 1; i <= 6; ++i) logs << QString(FOX_DEMO "/supply_wells/SW%1.las").arg(i);
    dropFiles(&*window, logs);
    auto* sheet = importSheet(*window);
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("LAS 2.0"));
    CHECK(child<QTreeWidget>(sheet, "importTables")->topLevelItemCount() == 2);
    picture(sheet, "import_las");
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    waitFor("all six", [&] { return window.project().holes->size() == 48; });
    window.settle();
    CHECK(window->session().history().undoLabel() == "Import 6 files");
    dropFiles(&*window, {FOX_DEMO "/supply_wells/wells.xlsx"});
    sheet = importSheet(*window);
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("6 changed"));
    CHECK(child<QComboBox>(sheet, "existingChoice")->currentIndex() == 1);
    CHECK(child<QListWidget>(sheet, "importChanges")->item(0)->text().contains("gets a place"));
    picture(sheet, "import_places");
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    window.settle();
    const auto* well = findHole(*window.project().holes, "SW3");
    REQUIRE(well);
    CHECK(well->place());
    CHECK(well->curves.size() == 2);
    window->selection().setHole("SW3");
    window.view<LogView>()->keep();
    window->selection().setHole("R06");
    CHECK(window.view<LogView>()->summary().contains("beside SW3"));
    picture(&*window, "logs");
}

TEST_CASE("A table's columns are guessed, corrected by hand and remembered", "[window][holes]") {
    QSettings().remove("tables");
    const QTemporaryDir folder;
    const auto path =
        write(folder, "tops.csv", "Ref;X;Y;RL;Alluvium;Till\nT1;480500;6120500;24,5;0;2,5\nT2;480560;6120520;24,1;0;3\n");
    DemoWindow window("holes");
    dropFiles(&*window, {path});
    auto* sheet = importSheet(*window);
    auto* preview = child<QTableWidget>(sheet, "importPreview");
    const auto role = [&](int c) { return qobject_cast<QComboBox*>(preview->cellWidget(0, c)); };
    REQUIRE(preview->columnCount() == 6);
    child<QComboBox>(sheet, "tableAs")->setCurrentIndex(1); // the sheet takes it for a survey: it has no word for holes
    emit child<QComboBox>(sheet, "tableAs")->activated(1);
    waitUntilRead(sheet);
    CHECK(role(0)->currentText() == "hole");
    CHECK(role(4)->currentText().startsWith("top of the unit"));
    CHECK(preview->item(2, 0)->text() == "T1");
    role(3)->setCurrentIndex(int(ColumnRole::Ignored));
    emit role(3)->activated(int(ColumnRole::Ignored));
    waitUntilRead(sheet);
    picture(sheet, "import_table");
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    window.settle();
    REQUIRE(findHole(*window.project().holes, "T1"));
    CHECK_FALSE(findHole(*window.project().holes, "T1")->level);
    CHECK(findHole(*window.project().holes, "T1")->intervals.size() == 2);
    // the next one of the kind is read the same way
    dropFiles(&*window, {write(folder, "more.csv", "Ref;X;Y;RL;Alluvium;Till\nT3;480500;6120540;24,5;0;2,5\n")});
    sheet = importSheet(*window);
    child<QComboBox>(sheet, "tableAs")->setCurrentIndex(1);
    emit child<QComboBox>(sheet, "tableAs")->activated(1);
    waitUntilRead(sheet);
    CHECK(qobject_cast<QComboBox*>(child<QTableWidget>(sheet, "importPreview")->cellWidget(0, 3))->currentIndex()
          == int(ColumnRole::Ignored));
    sheet->reject();
}

TEST_CASE("Rows copied from a spreadsheet are pasted as a table", "[window][holes]") {
    DemoWindow window("holes");
    QGuiApplication::clipboard()->setText("Hole\tEasting\tNorthing\tLevel\nP1\t480500\t6120500\t24.5\n");
    press(&*window, Qt::Key_V, Qt::ControlModifier | Qt::ShiftModifier);
    auto* sheet = importSheet(*window);
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("1 hole:"));
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    window.settle();
    CHECK(findHole(*window.project().holes, "P1")->level == Level{24.5});
}

TEST_CASE("A newer issue of a file shows what it changes before it is taken", "[window][holes]") {
    const QTemporaryDir folder;
    auto text = readBytes(FOX_DEMO "/phase1_main.ags");
    const auto& loca = *findHole(*buildProject(FOX_DEMO "/quernbeck.build.json").project.holes, "QB101");
    const auto level = fmt::format("\"{:.2f}\"", loca.level->metres);
    const auto at = text.find(level, text.find("\"DATA\",\"QB101\""));
    text.replace(at, level.size(), "\"33.33\"");
    DemoWindow window("holes");
    dropFiles(&*window, {write(folder, "phase1_main.ags", text)});
    auto* sheet = importSheet(*window);
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("1 changed"));
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("newer issue"));
    CHECK(child<QListWidget>(sheet, "importChanges")->item(0)->text().contains("33.33"));
    picture(sheet, "import_update");
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    window.settle();
    CHECK(findHole(*window.project().holes, "QB101")->level == Level{33.33});
    CHECK(window.project().files->size() == DemoWindow("holes").project().files->size());
}

TEST_CASE("Groups left out at the import are added later from the project", "[window][holes]") {
    DemoWindow window("holes");
    dropFiles(&*window, {FOX_DEMO "/phase3_later.ags"});
    auto* sheet = importSheet(*window);
    auto* tables = child<QTreeWidget>(sheet, "importTables");
    const auto tests = tables->findItems("ISPT", Qt::MatchExactly);
    REQUIRE(tests.size() == 1);
    tests[0]->setCheckState(0, Qt::Unchecked);
    waitUntilRead(sheet);
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    window.settle();
    const auto blows = [&] {
        std::size_t n = 0;
        for (const auto& h : *window.project().holes)
            if (h.file == "phase3_later.ags") n += h.blowCounts.size();
        return n;
    };
    CHECK(blows() == 0);
    emit window->findChild<Shelf*>("shelf")->actionAsked(ShowSource{"phase3_later.ags"});
    auto* source = window->findChild<SourceSheet*>("sourceSheet");
    REQUIRE(source);
    picture(source, "source");
    const auto kept = child<QTreeWidget>(source, "sourceGroups")->findItems("ISPT", Qt::MatchExactly);
    REQUIRE(kept.size() == 1);
    CHECK(kept[0]->text(2) == "not imported");
    click(child<QPushButton>(source, "readAgain"), {10, 10});
    sheet = importSheet(*window);
    waitUntilRead(sheet);
    CHECK_FALSE(child<QPushButton>(sheet, "importButton")->isEnabled()); // it is as it is in the project
    const auto again = child<QTreeWidget>(sheet, "importTables")->findItems("ISPT", Qt::MatchExactly);
    REQUIRE(again.size() == 1);
    CHECK(again[0]->checkState(0) == Qt::Unchecked);
    again[0]->setCheckState(0, Qt::Checked);
    waitUntilRead(sheet);
    picture(sheet, "read_again");
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    waitFor("the file to be read again", [&] { return blows() > 0; });
    window.settle();
}

TEST_CASE("Any group is a table whose cells can be edited, filtered and traced", "[window][holes]") {
    DemoWindow window("holes");
    auto* view = window.view<TableView>();
    view->showTable("group:phase1_main.ags:GEOL");
    auto* model = view->table()->model();
    CHECK(view->summary().startsWith("GEOL of phase1_main.ags"));
    const int rows = model->rowCount();
    press(view->table(), Qt::Key_F, Qt::ControlModifier);
    QTest::keyClicks(child<QLineEdit>(view, "tableFilter"), "QB105");
    CHECK(model->rowCount() < rows);
    CHECK(model->rowCount() > 2);
    int column = 0;
    while (model->headerData(column, Qt::Horizontal).toString() != "GEOL_GEOL") ++column;
    const auto index = model->index(1, column);
    const auto was = index.data().toString();
    CHECK(model->setData(index, "MG", Qt::EditRole));
    window.settle();
    CHECK(view->table()->model()->index(1, column).data().toString() == "MG");
    CHECK(view->table()->model()->index(1, column).data(Qt::ToolTipRole).toString().contains(was));
    CHECK(window.project().corrections->size() == 1);
    picture(&*window, "group_table");
    view->showTable("corrections");
    CHECK(view->table()->model()->rowCount() == 1);
    child<QLineEdit>(view, "tableFilter")->clear();
    CHECK(view->table()->model()->rowCount() == 1);
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(window.project().corrections->empty());
}

TEST_CASE("Codes are listed with counts and materials; typing a unit merges a spelling", "[window][holes]") {
    DemoWindow window("holes");
    auto* view = window.view<TableView>();
    view->showTable("codes");
    picture(&*window, "codes");
    auto* model = view->table()->model();
    int row = -1, till = -1;
    for (int r = 0; r < model->rowCount(); ++r) {
        if (model->index(r, 0).data() == "M.G.") row = r;
        if (model->index(r, 0).data() == "TL") till = r;
    }
    REQUIRE(row >= 0);
    REQUIRE(till >= 0);
    CHECK(model->index(till, 6).data() == "clay");
    CHECK(model->index(row, 4).data().toString().isEmpty());
    model->setData(model->index(row, 4), "MG", Qt::EditRole);
    window.settle();
    CHECK(window.project().sequence->aliases.at("M.G.") == "MG");
}

TEST_CASE("Values are pasted from a spreadsheet as one edit", "[window][holes]") {
    DemoWindow window("holes");
    auto* table = window.view<TableView>()->table();
    table->setFocus();
    table->setCurrentIndex(table->model()->index(0, HoleLevelColumn));
    QGuiApplication::clipboard()->setText("11.5\n12,5\n");
    press(table, Qt::Key_V, Qt::ControlModifier);
    window.settle();
    CHECK(findHole(*window.project().holes, "QB101")->level == Level{11.5});
    CHECK(findHole(*window.project().holes, "QB102")->level == Level{12.5});
    CHECK(window->session().history().undoLabel() == "Paste 2 values");
    CHECK(window.project().corrections->size() == 2);
}

TEST_CASE("A hole without a place is placed by a click, and its finding goes", "[window][holes]") {
    DemoWindow window("holes");
    const auto placeless = [&] {
        return std::ranges::any_of(*window->session().products()->findings,
                                   [](const Finding& f) { return f.rule == "FC-PLACE" && f.hole == "QB123"; });
    };
    CHECK(placeless());
    window->selection().setHole("QB123");
    click(child<QPushButton>(&*window, "placeHole"), {10, 10});
    auto* plan = window.view<PlanView>();
    CHECK(plan->summary().contains("QB123"));
    click(plan, plan->screenOf({480700, 6120500}));
    window.settle();
    CHECK_FALSE(placeless());
    CHECK(findHole(*window.project().holes, "QB123")->easting == Approx(480700).margin(3));
}

TEST_CASE("A hole left out stays in sight and speaks of nothing", "[window][holes]") {
    DemoWindow window("holes");
    const auto contacts = [&] {
        std::size_t n = 0;
        for (const auto& c : window->session().products()->contacts)
            n += std::size_t(std::ranges::count(*c, "R06", &Contact::hole));
        return n;
    };
    CHECK(contacts() > 3);
    window->selection().setHole("R06");
    click(child<QPushButton>(&*window, "leaveOut"), {10, 10});
    window.settle();
    CHECK(contacts() == 0);
    CHECK(window.view<LogView>()->summary().contains("excluded"));
    CHECK(window.view<TableView>()->table()->model()->rowCount() == 42);
}

TEST_CASE("Facts of a hole are edited on its card", "[window][holes]") {
    DemoWindow window("holes");
    window->selection().setHole("QB104");
    auto* field = child<QLineEdit>(&*window, "editLevel");
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, "30,62");
    press(field, Qt::Key_Return);
    window.settle();
    CHECK(findHole(*window.project().holes, "QB104")->level == Level{30.62});
    auto* depth = child<QLineEdit>(&*window, "editDepth");
    depth->setFocus();
    depth->selectAll();
    QTest::keyClicks(depth, "deep");
    press(depth, Qt::Key_Return);
    CHECK(findHole(*window.project().holes, "QB104")->finalDepth == Depth{23.5});
}

TEST_CASE("The plan colours holes by a value and writes it beside them", "[window][holes]") {
    DemoWindow window("holes");
    auto* plan = window.view<PlanView>();
    const auto before = plan->grab().toImage();
    const auto till = *window.project().sequence->index("TL");
    plan->setColouring(HoleValue{HoleValue::Kind::UnitThickness, till});
    CHECK(plan->summary().contains("thickness of Till"));
    CHECK(plan->grab().toImage() != before);
    picture(&*window, "plan_values");
    plan->setColouring({});
    CHECK(plan->grab().toImage() == before);
}

TEST_CASE("Units are switched on and off in 3D, and sticks show alone under the ground", "[window][holes]") {
    DemoWindow window("model");
    auto* block = window.view<BlockView>();
    auto look = block->look();
    look.block = false;
    block->setLook(look);
    CHECK(block->summary().contains("holes by unit"));
    picture(&*window, "sticks");
    auto* peat = child<QCheckBox>(&*window, "show_PT");
    CHECK(peat->isChecked());
    peat->click();
    CHECK(window->selection().unitHidden("PT"));
    AlongLook along;
    along.choice = {AlongChoice::Kind::Column, "GEOL_LEG"};
    window->selection().setAlong(along);
    CHECK(block->summary().contains("GEOL_LEG"));
}

TEST_CASE("Reading a large file keeps the window alive, shows progress and can be stopped", "[window][holes]") {
    const QTemporaryDir folder;
    std::string text = readBytes(FOX_DEMO "/phase1_main.ags");
    text += "\r\n\"GROUP\",\"SCPT\"\r\n\"HEADING\",\"LOCA_ID\",\"SCPT_DPTH\",\"SCPT_RES\"\r\n\"UNIT\",\"\",\"m\",\"MN/"
            "m2\"\r\n\"TYPE\",\"ID\",\"2DP\",\"4DP\"\r\n";
    for (int i = 0; i < 2500000; ++i) text += fmt::format("\"DATA\",\"QB101\",\"{:.2f}\",\"1.2345\"\r\n", i * 0.01);
    const auto path = write(folder, "large.ags", text);
    DemoWindow window("holes");
    auto* sheet = new ImportSheet(
        QStringList{path}, [&] { return window.project(); }, &*window);
    sheet->setAttribute(Qt::WA_DeleteOnClose);
    sheet->open();
    REQUIRE(sheet->reading());
    int turns = 0; // of the event loop while it is read
    bool stopped = false;
    waitFor("the end of reading", [&] {
        ++turns;
        if (turns == 1 && sheet->reading()) stopped = true, click(child<QPushButton>(sheet, "stopReading"), {8, 8});
        return !sheet->reading();
    });
    REQUIRE(stopped);
    const auto said = child<QLabel>(sheet, "importFacts")->text().toStdString();
    CAPTURE(said);
    CHECK(said.find("Stopped") != said.npos);
    CHECK_FALSE(child<QPushButton>(sheet, "importButton")->isEnabled());
    sheet->reject();
}

TEST_CASE("A finding about a row of a file leads to the row", "[window][holes]") {
    const QTemporaryDir folder;
    auto text = readBytes(FOX_DEMO "/phase3_later.ags");
    const auto at = text.find("\"DATA\",\"QB301\"", text.find("\"GROUP\",\"GEOL\""));
    text.replace(at, 14, "\"DATA\",\"QB777\"");
    DemoWindow window("holes");
    dropFiles(&*window, {write(folder, "lost.ags", text)});
    click(child<QPushButton>(importSheet(*window), "importButton"), {10, 10});
    window.settle();
    const auto& findings = *window->session().products()->findings;
    const auto lost = std::ranges::find_if(findings, [](const Finding& f) { return f.rule == "AGS4 Rule 10c"; });
    REQUIRE(lost != findings.end());
    auto* list = child<QListView>(&*window, "findingList");
    child<QPushButton>(&*window, "findingCounts")->click();
    list->setCurrentIndex(list->model()->index(int(lost - findings.begin()), 0));
    picture(&*window, "findings");
    click(child<QPushButton>(&*window, "showFinding"), {10, 8});
    auto* table = window.view<TableView>();
    CHECK(table->shown() == "group:lost.ags:GEOL");
    CHECK(table->table()->currentIndex().siblingAtColumn(0).data().toInt() == lost->line);
    CHECK(table->table()->currentIndex().siblingAtColumn(1).data() == "QB777");
}

TEST_CASE("A unit is named and drawn otherwise on its card", "[window][holes]") {
    DemoWindow window("sequence");
    window->selection().setUnit("TL");
    auto* name = child<QLineEdit>(&*window, "unitName");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Lower Till");
    press(name, Qt::Key_Return);
    window.settle();
    auto* sign = child<QComboBox>(&*window, "unitSign");
    const int clay = sign->findData("clay");
    REQUIRE(clay > 0);
    sign->setCurrentIndex(clay);
    emit sign->activated(clay);
    window.settle();
    const auto& unit = window.project().sequence->units[*window.project().sequence->index("TL")];
    CHECK(unit.name == "Lower Till");
    CHECK(unit.hatch == "clay");
    picture(&*window, "unit_card");
}
