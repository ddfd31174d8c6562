// Files as they arrive: again, corrected, without a place, with holes in areas, with points and lines in one drawing.
#include "base/files.h"
#include "dialogs/export_dialog.h"
#include "dialogs/import_sheet.h"
#include "dialogs/place_map.h"
#include "dialogs/volumes_sheet.h"
#include "formats/ags_changes.h"
#include "import_steps.h"
#include "project/ground_edits.h"
#include "project/hole_edits.h"
#include "project/site_edits.h"
#include "shell/sequence_actions.h"
#include "stages/shelf.h"
#include "views/plan_view.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSettings>
#include <QTableWidget>
#include <QTreeWidget>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// A square in GeoJSON, of which a smaller one is left out.
std::string fieldWithPond() {
    return R"({"type":"FeatureCollection","crs":{"type":"name","properties":{"name":"EPSG:25831"}},"features":[{"type":"Feature",
"properties":{"name":"field"},"geometry":{"type":"Polygon","coordinates":[
[[480300,6120200],[480700,6120200],[480700,6120600],[480300,6120600],[480300,6120200]],
[[480400,6120300],[480400,6120500],[480600,6120500],[480600,6120300],[480400,6120300]]]}}]})";
}

/// A drawing with one line and one inserted block, all with levels.
std::string drawing() {
    return "0\nSECTION\n2\nHEADER\n0\nENDSEC\n0\nSECTION\n2\nTABLES\n0\nENDSEC\n0\nSECTION\n2\nBLOCKS\n"
           "0\nBLOCK\n8\n0\n2\nSPOT\n70\n0\n10\n0\n20\n0\n30\n0\n3\nSPOT\n1\n\n0\nCIRCLE\n8\n0\n10\n0\n20\n0\n30\n0\n40\n2\n"
           "0\nENDBLK\n8\n0\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n"
           "0\nINSERT\n8\nspots\n2\nSPOT\n10\n480500\n20\n6120400\n30\n31\n"
           "0\nLINE\n8\nbank\n10\n480400\n20\n6120300\n30\n30\n11\n480600\n21\n6120500\n31\n32\n0\nENDSEC\n0\nEOF\n";
}

} // namespace

TEST_CASE("The very same file again: the sheet says so, and has nothing to import", "[window][arrival]") {
    DemoWindow window("holes");
    const auto before = window.project();
    auto* sheet = dropped(window, {FOX_DEMO "/phase1_main.ags"});
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("has this file already"));
    CHECK_FALSE(importButton(sheet)->isEnabled());
    picture(sheet, "same_file");
    press(sheet->focusWidget(), Qt::Key_Return);
    child<QPushButton>(sheet, "skipButton")->click();
    window.settle();
    CHECK(sameVersion(window.project(), before));
}

TEST_CASE("A newer issue announces what it will change, not what corrections hold back", "[window][arrival]") {
    DemoWindow window("holes");
    for (const char* id : {"QB101", "QB102", "QB104"})
        window->session().apply([id](const Project& p) { return setHoleLevel(p, id, Level{30.5}); });
    window.settle();
    const QTemporaryDir folder;
    const auto text = readBytes(FOX_DEMO "/phase1_main.ags");
    const auto row = readAgs(text, "f").group("LOCA")->rows[4].line;
    const auto newer = folder.filePath("phase1_main.ags");
    writeBytes(newer.toStdString(), withChanges(text, "f", std::vector<CellChange>{{row, "LOCA_GL", "22.22"}}));
    auto* sheet = dropped(window, {newer});
    CHECK(importButton(sheet)->text() == "Update 1 hole");
    import(window, sheet);
    CHECK(findHole(*window.project().holes, "QB101")->level == Level{30.5});
    CHECK(window.project().corrections->size() >= 3);
}

TEST_CASE("A survey without a header is asked about once: the next issue is read in the same way", "[window][arrival]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const auto survey = folder.filePath("levels.csv");
    const auto write = [&](double level) {
        writeBytes(survey.toStdString(),
                   fmt::format("1,6120300,480700,{0},WALL\n2,6120310,480710,{0},SP\n3,6120320,480700,{0},SP\n", level));
    };
    write(30.25);
    auto* sheet = dropped(window, {survey});
    auto* columns = child<QLineEdit>(sheet, "importColumns");
    child<QComboBox>(sheet, "tableAs")->setCurrentIndex(int(SourceSettings::As::SurveyPoints));
    columns->setText("point,northing,easting,level,code");
    emit columns->editingFinished();
    waitFor("the file to be read again", [&] { return !sheet->reading() && importButton(sheet)->isEnabled(); });
    import(window, sheet);
    window->session().apply([](const Project& p) { return setCodeUsed(p, "WALL", false); });
    window.settle();
    const auto sources = window.project().ground->points.size();
    write(30.75);
    sheet = dropped(window, {survey});
    CHECK(importButton(sheet)->text() == "Update levels.csv");
    CHECK(child<QLineEdit>(sheet, "importColumns")->text() == "point,northing,easting,level,code");
    import(window, sheet);
    REQUIRE(window.project().ground->points.size() == sources);
    const auto& points = *window.project().ground->points.back().points;
    REQUIRE(points.size() == 3);
    CHECK(points[0].place == Point3{480700, 6120300, 30.75});
    CHECK(points[0].code == "WALL");
    CHECK(window.project().ground->codesOut.contains("WALL"));
}

TEST_CASE("An area with a hole is one outline, and volumes leave the hole out", "[window][arrival]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const auto path = folder.filePath("field.geojson");
    writeBytes(path.toStdString(), fieldWithPond());
    const auto outlines = window.project().ground->outlines.size();
    auto* sheet = dropped(window, {path});
    picture(sheet, "import_area");
    import(window, sheet);
    REQUIRE(window.project().ground->outlines.size() == outlines + 1);
    CHECK(window.project().ground->outlines.back().holes.size() == 1);
    picture(&*window, "area_with_hole");
    window->sequence()->openVolumes();
    waitFor("the sheet", [&] { return window->sequence()->volumes() != nullptr; });
    auto* volumes = window->sequence()->volumes();
    auto* outline = child<QComboBox>(volumes, "volumesOutline");
    outline->setCurrentText("field");
    emit outline->activated(outline->currentIndex());
    waitFor("the figures", [&] { return volumes->settled(); });
    const auto total = volumes->asText().split('\n').back().split('\t');
    CHECK(total.at(2).toDouble() == Approx(400 * 400 - 200 * 200).epsilon(0.05)); // by whole cells
}

TEST_CASE("A picture without a place is not drawn, and the panel says how to place it", "[window][arrival]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    QImage image(200, 150, QImage::Format_RGB32);
    image.fill(Qt::magenta);
    const auto path = folder.filePath("scan.png");
    REQUIRE(image.save(path));
    auto* sheet = dropped(window, {path});
    CHECK(coloursOf(child<PlaceMap>(sheet, "importMap")) > 1); // the picture itself is shown
    import(window, sheet);
    const auto magenta = [&] {
        const auto seen = window.view<PlanView>()->grab().toImage().convertToFormat(QImage::Format_RGB32);
        int n = 0;
        for (int y = 0; y < seen.height(); ++y)
            for (int x = 0; x < seen.width(); ++x) {
                const QColor c(seen.pixel(x, y));
                n += c.red() > c.green() + 60 && c.blue() > c.green() + 60;
            }
        return n;
    };
    CHECK(magenta() == 0);
    auto* tick = child<QCheckBox>(shelf(window), "picture_scan.png");
    CHECK_FALSE(tick->isChecked());
    CHECK_FALSE(tick->isEnabled());
    const auto rows = shelf(window)->findChildren<QWidget*>();
    const auto place = std::ranges::find_if(
        rows, [](const auto* w) { return w->isVisible() && w->accessibleName().startsWith("Place scan.png"); });
    REQUIRE(place != rows.end());
    click(*place, {10, 8});
    waitFor("the sheet", [&] { return window->findChild<QDialog*>("pictureSheet") != nullptr; });
    window->findChild<QDialog*>("pictureSheet")->reject();
    const std::vector<ControlPoint> marks{
        {{0, 0}, {480300, 6120700}}, {{200, 0}, {481100, 6120700}}, {{0, 150}, {480300, 6120100}}};
    window->session().apply([marks](const Project& p) { return placePicture(p, "scan.png", marks); });
    window.settle();
    waitFor("the picture on the plan", [&] { return magenta() > 1000; });
    CHECK(child<QCheckBox>(shelf(window), "picture_scan.png")->isChecked());
}

TEST_CASE("Points and lines of one drawing have a tick each", "[window][arrival]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const auto path = folder.filePath("works.dxf");
    writeBytes(path.toStdString(), drawing());
    auto* sheet = dropped(window, {path});
    picture(sheet, "import_drawing");
    import(window, sheet);
    auto* points = child<QCheckBox>(shelf(window), "use_works.dxf points");
    child<QCheckBox>(shelf(window), "use_works.dxf lines");
    points->click();
    window.settle();
    const auto& ground = *window.project().ground;
    CHECK_FALSE(ground.points.back().used);
    CHECK(ground.lines.back().used);
    CHECK_FALSE(child<QCheckBox>(shelf(window), "use_works.dxf points")->isChecked());
    CHECK(child<QCheckBox>(shelf(window), "use_works.dxf lines")->isChecked());
}

TEST_CASE("The map of the import shows lines as lines, grids shaded, pictures as they are", "[window][arrival]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const auto orange = [](QWidget* map) {
        const auto seen = map->grab().toImage();
        int n = 0;
        for (int y = 0; y < seen.height() - 24; ++y)
            for (int x = 0; x < seen.width(); ++x) {
                const QColor c(seen.pixel(x, y));
                n += c.red() > 150 && c.green() < 130 && c.blue() < 90;
            }
        return n;
    };
    const auto path = folder.filePath("works.dxf");
    writeBytes(path.toStdString(), drawing());
    auto* sheet = dropped(window, {path});
    auto* map = child<PlaceMap>(sheet, "importMap");
    CHECK(orange(map) > 60); // a stroke across the map, not its two ends
    child<QPushButton>(sheet, "skipButton")->click();
    waitFor("the sheet to close", [&] { return !window->findChild<ImportSheet*>("importSheet"); });
    const auto dem = folder.filePath("other_dem.tif");
    QFile::copy(FOX_DEMO "/coarse_dem.tif", dem);
    sheet = dropped(window, {dem});
    CHECK(coloursOf(child<PlaceMap>(sheet, "importMap")) > 60);
    picture(sheet, "import_grid");
    child<QPushButton>(sheet, "skipButton")->click();
    window.settle();
}

TEST_CASE("An export of a grid says what of the ground lies beyond the extent", "[window][arrival]") {
    DemoWindow window("ground");
    window->session().apply([](const Project& p) { return changeFrame(p, [](Frame& f) { f.xmax -= 0.4 * (f.xmax - f.xmin); }); });
    window.settle();
    const QTemporaryDir folder;
    ExportDialog dialog(asking(*window), &*window);
    dialog.setFolder(folder.path());
    dialog.show();
    tickAlone(dialog, {"ground"});
    auto* go = child<QPushButton>(&dialog, "exportButton");
    go->click();
    waitFor("the files", [&] { return dialog.settled() && go->isEnabled(); });
    CHECK(child<QPlainTextEdit>(&dialog, "exportResult")->toPlainText().contains("goes on beyond the extent"));
    auto* as = child<QComboBox>(&dialog, "as_ground");
    as->setCurrentIndex(as->findData("landxml")); // triangles are whole
    go->click();
    waitFor("the files", [&] { return dialog.settled() && go->isEnabled(); });
    CHECK_FALSE(child<QPlainTextEdit>(&dialog, "exportResult")->toPlainText().contains("beyond the extent"));
    QSettings().remove("export/as/ground"); // the next dialog would remember it
}

TEST_CASE("An import that widens the extent says so", "[window][arrival]") {
    DemoWindow window("holes");
    window->session().apply([](const Project& p) { return setFrame(p, std::nullopt); });
    window.settle();
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) {
        if (words.contains("Import")) said = words;
    });
    const QTemporaryDir folder;
    const auto path = folder.filePath("far.csv");
    writeBytes(path.toStdString(), "hole,easting,northing,level,depth\nF1,484000,6121000,30,5\n");
    import(window, dropped(window, {path}));
    CHECK(said.contains("the extent is now"));
}

TEST_CASE("Files that come together go in together, and those that can't hold back no other", "[window][arrival]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    const auto file = [&](const char* name, const std::string& bytes) {
        const auto path = folder.filePath(name);
        writeBytes(path.toStdString(), bytes);
        return path;
    };
    const auto broken = file("broken.ags", "");
    const auto survey = file("levels.txt", "1 480700.10 6120300.20 30.25 SP\n2 480710.10 6120310.20 30.20 SP\n"
                                           "3 480720.10 6120302.20 30.35 SP\n4 480730.10 6120305.20 30.30 SP\n");
    dropFiles(&*window, {FOX_DEMO "/phase3_later.ags", broken, survey, survey});
    auto* sheet = importSheet(*window);
    auto* list = child<QListWidget>(sheet, "importList");
    CHECK(list->isVisible());
    const auto shown = [&] {
        QStringList out;
        for (int i = 0; i < list->count(); ++i)
            out << (list->item(i)->data(Qt::AccessibleTextRole).isNull()
                        ? list->item(i)->text() // a heading
                        : list->item(i)->data(Qt::AccessibleTextRole).toString());
        return out;
    };
    CAPTURE(shown().join("\n").toStdString());
    CHECK(shown().filter("Ready").value(0) == "Ready  2"); // the survey came twice and stands once
    CHECK(shown().filter("broken.ags").value(0).contains("is empty"));
    CHECK(importButton(sheet)->text() == "Import 2 files");
    CHECK(importButton(sheet)->isDefault());
    picture(sheet, "import_files");
    press(sheet, Qt::Key_Return);
    waitFor("the two", [&] { return window.project().holes->size() == 47; });
    window.settle();
    CHECK(window->session().history().undoLabel() == "Import 2 files");
    CHECK(window.project().ground->points.back().points.size() == 4);
    CHECK(window.project().ground->points.back().points[0].place == Point3{480700.10, 6120300.20, 30.25});
    // the one that can't be read is still there, and says why
    REQUIRE(window->findChild<ImportSheet*>("importSheet") == sheet);
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("broken.ags is empty"));
    CHECK_FALSE(importButton(sheet)->isEnabled());
    child<QPushButton>(sheet, "skipButton")->click();
    waitFor("the sheet to close", [&] { return !window->findChild<ImportSheet*>("importSheet"); });
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(window.project().holes->size() == 42);
}

TEST_CASE("Which column is the easting is asked where nothing tells it, and answered by a click", "[window][arrival]") {
    const QTemporaryDir folder;
    MainWindow window;
    window.resize(1280, 800);
    window.session().openNew(folder.filePath("empty.gpkg"), [] { return Project(); });
    window.show();
    waitFor("an empty project", [&] { return window.settled() && window.session().path().endsWith("empty.gpkg"); });
    std::string text;
    for (int i = 0; i < 30; ++i)
        text +=
            fmt::format("{};{:.2f};{:.2f};{:.2f};GL\r\n", 100 + i, 6120300 + 7.3 * (i % 6), 480700 + 9.1 * (i / 6), 30 + 0.1 * i);
    const auto path = folder.filePath("points.csv");
    writeBytes(path.toStdString(), text);
    dropFiles(&window, {path});
    auto* sheet = importSheet(window);
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("Which one is the easting"));
    CHECK_FALSE(importButton(sheet)->isEnabled());
    picture(sheet, "import_asks");
    child<QPushButton>(sheet, "order_point_northing_easting_level_code")->click();
    waitFor("the answer", [&] { return !sheet->reading(); });
    CHECK(importButton(sheet)->text() == "Import 30 points");
    picture(sheet, "import_answered");
    // a role over a column does the same
    auto* preview = child<QTableWidget>(sheet, "importPreview");
    auto* role = qobject_cast<QComboBox*>(preview->cellWidget(0, 4));
    REQUIRE(role->currentText() == "code");
    role->setCurrentIndex(0);
    emit role->activated(0);
    waitFor("the answer", [&] { return !sheet->reading(); });
    importButton(sheet)->click();
    waitFor("the points", [&] { return window.settled() && !window.session().project().ground->points.empty(); });
    const auto& points = *window.session().project().ground->points[0].points;
    REQUIRE(points.size() == 30);
    CHECK(points[0].place == Point3{480700, 6120300, 30});
    CHECK(points[0].code.empty());
}

TEST_CASE("Settings of one file are given to all of its kind", "[window][arrival]") {
    DemoWindow window("holes");
    QStringList logs;
    for (int i = 1; i <= 3; ++i) logs << QString(FOX_DEMO "/supply_wells/SW%1.las").arg(i);
    dropFiles(&*window, logs);
    auto* sheet = importSheet(*window);
    auto* curves = child<QTreeWidget>(sheet, "importTables");
    REQUIRE(curves->topLevelItemCount() == 2);
    curves->topLevelItem(1)->setCheckState(0, Qt::Unchecked);
    waitFor("the file to be read again", [&] { return !sheet->reading(); });
    auto* all = child<QPushButton>(sheet, "applyToAll");
    CHECK(all->text().contains("2 other files"));
    all->click();
    waitFor("the others", [&] { return !sheet->reading(); });
    importButton(sheet)->click();
    waitFor("the wells", [&] { return window.project().holes->size() == 45; });
    window.settle();
    for (const char* id : {"SW1", "SW2", "SW3"}) CHECK(findHole(*window.project().holes, id)->curves.size() == 1);
}

TEST_CASE("Files that are read meanwhile leave alone the field that somebody types in", "[window][arrival]") {
    DemoWindow window("holes");
    QStringList logs;
    for (int i = 1; i <= 6; ++i) logs << QString(FOX_DEMO "/supply_wells/SW%1.las").arg(i);
    dropFiles(&*window, {FOX_DEMO "/phase3_later.ags"});
    auto* sheet = importSheet(*window);
    auto* system = child<QLineEdit>(sheet, "importSystem");
    QApplication::setActiveWindow(sheet);
    system->setFocus();
    QTest::keyClicks(system, "EPSG:258");
    dropFiles(sheet, logs);
    waitFor("the wells to be read", [&] { return !sheet->reading(); });
    CHECK(child<QListWidget>(sheet, "importList")->isVisible());
    CHECK(system->text() == "EPSG:258");
    CHECK(system->hasFocus());
    sheet->reject();
}

TEST_CASE("A folder that is dropped brings the files in it, without the parts of a shapefile", "[window][arrival]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    QDir(folder.path()).mkpath("later/hill");
    for (const char* ending : {"shp", "shx", "dbf", "prj"})
        QFile::copy(QString(FOX_DEMO "/hill_contours.") + ending, folder.filePath(QString("later/hill/hill_contours.") + ending));
    QFile::copy(FOX_DEMO "/phase3_later.ags", folder.filePath("later/phase3_later.ags"));
    QFile::copy(FOX_DEMO "/phase3_later.ags", folder.filePath("later/.hidden.ags"));
    dropFiles(&*window, {folder.filePath("later")});
    auto* sheet = importSheet(*window);
    CHECK(importButton(sheet)->text() == "Import 2 files");
    import(window, sheet);
    CHECK(window.project().holes->size() == 47);
    CHECK(window.project().ground->lines.back().file == "hill_contours.shp");
}
