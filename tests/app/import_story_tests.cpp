// A drop of files that were made by others: headings in another language, degrees, a title over a survey, one that can't be read.
#include "dialogs/import_list.h"
#include "harness.h"
#include "import_steps.h"

#include <QComboBox>
#include <QLabel>
#include <QSettings>
#include <QTableWidget>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// Readings in two of the demo's holes, as a spreadsheet in another language writes them.
const char* const kReadings =
    "Bohrung;Datum;Abstich [m]\r\nQB101;03.02.2024;1,71\r\nQB101;04.03.2024;1,92\r\nQB102;03.02.2024;0,88\r\n";

/// An AGS file of another project with one hole.
std::string newHoles() {
    return "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\",\"N7\"\r\n\r\n"
           "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\",\"LOCA_FDEP\"\r\n"
           "\"UNIT\",\"\",\"m\",\"m\",\"m\",\"m\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"2DP\",\"2DP\"\r\n"
           "\"DATA\",\"N701\",\"480620.00\",\"6120420.00\",\"26.10\",\"9.00\"\r\n";
}

/// A survey without a header under a title, with blank columns and decimal commas.
std::string titledSurvey() {
    std::string out = "Survey, lot 2; instrument 4\r\n\r\n";
    for (int i = 0; i < 30; ++i) {
        auto row = fmt::format("{};;{:.2f};{:.2f};;{:.2f};GL\r\n", i + 1, 6120300 + 9.0 * (i % 6), 480500 + 11.0 * (i / 6),
                               26.0 + 0.03 * i);
        std::ranges::replace(row, '.', ',');
        out += row;
    }
    return out;
}

/// The row of a file in the list.
int rowOf(ImportSheet* sheet, const char* name) {
    auto* list = child<QListWidget>(sheet, "importList");
    for (int i = 0; i < list->count(); ++i)
        if (list->item(i)->text() == name) return i;
    throw std::runtime_error(std::string("not in the list: ") + name);
}

/// Clicks a file in the list; what is said of it.
QString chosenFacts(ImportSheet* sheet, const char* name) {
    auto* list = child<QListWidget>(sheet, "importList");
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(rowOf(sheet, name))).center());
    QCoreApplication::processEvents();
    return child<QLabel>(sheet, "importFacts")->text();
}

} // namespace

TEST_CASE("Files that others made are dropped together: each finds its place, and readings join the holes they are of",
          "[window][arrival]") {
    QSettings().remove("tables");
    DemoWindow window("holes");
    const auto holesBefore = window.holes();
    const auto unitsBefore = window.project().sequence->units.size();
    const QTemporaryDir folder;
    auto* sheet =
        dropped(window, {written(folder, "Abstiche.csv", kReadings),
                         written(folder, "pits.csv",
                                 "Pit;Latitude;Longitude;Ground level [m]\r\n"
                                 "TP-1;55,2270\xC2\xB0;2,6935\xC2\xB0;26,2\r\n"
                                 "TP-2;55\xC2\xB0 13' 38.0\";2\xC2\xB0 41' 40.0\";26,4\r\n"),
                         written(folder, "survey lot 2.txt", titledSurvey()), written(folder, "scan.pdf", "%PDF-1.4 nothing")});
    CHECK(importButton(sheet)->text() == "Import 3 files");
    CHECK(sheet->size() == QSize(1220, 740)); // whatever it has to show: it fits a small screen
    CHECK(chosenFacts(sheet, "Abstiche.csv").contains("2 changed"));
    CHECK(chosenFacts(sheet, "pits.csv").contains("2 new"));
    CHECK(child<QLabel>(sheet, "findingsTitle")->text() == "3 findings:"); // that they are projected, and have no log
    picture(sheet, "import_degrees");
    CHECK(chosenFacts(sheet, "survey lot 2.txt").contains("30"));
    CHECK(chosenFacts(sheet, "scan.pdf").contains("Nothing of it has entered the project"));
    importButton(sheet)->click();
    waitFor("the three to be imported", [&] { return child<QListWidget>(sheet, "importList")->count() < 3; });
    window.settle();
    CHECK(window.project().holes->size() == holesBefore + 2);
    CHECK(window.project().sequence->units.size() == unitsBefore); // no heading became a unit
    const auto& holes = *window.project().holes;
    CHECK(findHole(holes, "QB101")->waterLevels.size() >= 2);
    const auto* pit = findHole(holes, "TP-2");
    REQUIRE((pit && pit->place()));
    CHECK(std::abs(pit->place()->x - 480600) < 1500); // beside the demo's holes
    CHECK(std::abs(pit->place()->y - 6120500) < 1500);
    SECTION("the file that can't be read stays, and pressing the button again does nothing") {
        CHECK_FALSE(importButton(sheet)->isEnabled());
        press(sheet, Qt::Key_Escape);
        window.settle();
        CHECK(window.project().holes->size() == holesBefore + 2);
        CHECK(window->session().history().undoLabel() == "Import 3 files");
    }
}

TEST_CASE("A table and the AGS file that has its holes are dropped together: the holes come from the AGS file, once",
          "[window][arrival]") {
    QSettings().remove("tables");
    DemoWindow window("holes");
    const auto before = window.holes();
    const QTemporaryDir folder;
    // by name the table comes first
    auto* sheet = dropped(window, {written(folder, "a readings.csv", "Hole,Date,Dip\nN701,2024-02-03,1.5\nN702,2024-02-03,1.7\n"),
                                   written(folder, "b holes.ags", newHoles())});
    const auto facts = chosenFacts(sheet, "a readings.csv");
    CHECK(facts.contains("1 new"));
    CHECK(facts.contains("1 changed"));
    CHECK(facts.contains("no place yet")); // N702 is in no file
    auto* changes = child<QListWidget>(sheet, "importChanges");
    QStringList rows;
    for (int i = 0; i < changes->count(); ++i) rows << changes->item(i)->text();
    CHECK(rows.join('|').contains("is in b holes.ags"));
    SECTION("both go in: one hole of that name, with its reading") {
        import(window, sheet);
        CHECK(window.project().holes->size() == before + 2);
        const auto* hole = findHole(*window.project().holes, "N701");
        REQUIRE(hole);
        CHECK(hole->project == "N7");
        CHECK(hole->waterLevels.size() == 1);
    }
    SECTION("without the AGS file the table's holes are new again") {
        auto* list = child<ImportList>(sheet, "importList");
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->skipRect("b holes.ags").center());
        waitUntilRead(sheet);
        CHECK(child<QLabel>(sheet, "importFacts")->text().contains("2 new"));
        import(window, sheet);
        CHECK(window.project().holes->size() == before + 2);
        // and the AGS file, when it comes later, takes its hole
        auto* later = dropped(window, {folder.filePath("b holes.ags")});
        CHECK(child<QLabel>(later, "importFacts")->text().contains("1 changed"));
        CHECK(importButton(later)->text() == "Update 1 hole");
        import(window, later);
        CHECK(window.project().holes->size() == before + 2);
        const auto* hole = findHole(*window.project().holes, "N701");
        REQUIRE(hole);
        CHECK(hole->project == "N7");
        CHECK(hole->place().has_value());
        CHECK(hole->waterLevels.size() == 1);
    }
}

TEST_CASE("A table whose columns mean nothing is asked about, holds back no other, and goes in once a role is chosen",
          "[window][arrival]") {
    QSettings().remove("tables");
    DemoWindow window("holes");
    const QTemporaryDir folder;
    auto* sheet = dropped(window, {written(folder, "chemistry.csv", "Hole,Date,Chloride,Sulphate\nQB101,2024-02-03,45,12\n"),
                                   written(folder, "readings.csv", "Hole,Date,Dip\nQB102,2024-02-03,1.5\n")});
    CHECK(importButton(sheet)->text() == "Import 1 file");
    CHECK(chosenFacts(sheet, "chemistry.csv").contains("Choose over each column what it holds."));
    picture(sheet, "import_roles");
    auto* table = child<QTableWidget>(sheet, "importPreview");
    auto* role = qobject_cast<QComboBox*>(table->cellWidget(0, 2));
    REQUIRE(role);
    role->setCurrentIndex(int(ColumnRole::WaterLevel));
    emit role->activated(role->currentIndex());
    waitUntilRead(sheet);
    CHECK(importButton(sheet)->text() == "Import 2 files");
    CHECK(child<QLabel>(sheet, "findingsTitle")->text().contains("Not used: Sulphate."));
    import(window, sheet);
    CHECK(findHole(*window.project().holes, "QB101")->waterLevels.back().depth.metres == 45);
}
