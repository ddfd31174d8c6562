// Choices at import and after it: names of holes, units of columns, objects of a drawing, the systems that are proposed.
#include "base/errors.h"
#include "base/text.h"
#include "dialogs/import_list.h"
#include "dialogs/place_map.h"
#include "formats/crs.h"
#include "formats/picture.h"
#include "formats/vector.h"
#include "harness.h"
#include "import_steps.h"
#include "model/section.h"
#include "shell/session.h"
#include "views/plan_view.h"
#include "views/system_edit.h"
#include "views/table_view.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QCompleter>
#include <QDir>
#include <QGuiApplication>
#include <QInputDialog>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QTableView>
#include <QTableWidget>
#include <QToolButton>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

const Project& project(DemoWindow& window) { return window->session().project(); }

/// Four banks with levels, of two kinds.
QString banksIn(const QTemporaryDir& folder) {
    FeatureLayer layer{"banks", "EPSG:25831", {}};
    for (int i = 0; i < 4; ++i)
        layer.features.push_back({GeometryKind::Line,
                                  {{{480400, 6120300 + 60.0 * i, 26}, {480900, 6120320 + 60.0 * i, 25}}},
                                  true,
                                  {{"kind", std::string(i < 3 ? "bank" : "fence")}}});
    const auto path = folder.filePath("banks.gpkg");
    writeVector(path.toStdString(), {layer});
    return path;
}

} // namespace

TEST_CASE("The first holes of a project get a section without being asked, and the next ones do not", "[window][arrival]") {
    const QTemporaryDir folder;
    const auto empty = folder.filePath("empty.gpkg");
    DemoWindow window("holes");
    window->session().openNew(empty, [] { return Project{}; });
    waitFor("the empty project", [&] { return window->settled() && window->session().path() == empty; });
    import(window, dropped(window, {FOX_DEMO "/phase1_main.ags"}));
    REQUIRE(window.project().sections->size() == 1);
    const auto line = window.project().sections->front().line;
    CHECK(distance(line.front(), line.back()) > 500);
    window->session().undo();
    window.settle();
    CHECK(window.project().sections->empty());
    window->session().redo();
    window.settle();
    CHECK(window.project().sections->size() == 1);
    import(window, dropped(window, {FOX_DEMO "/phase2_river.ags"}));
    CHECK(window.project().sections->size() == 1);
}

TEST_CASE("A hole is renamed on its card and in the table; it stays selected, and Undo takes it back", "[window][names]") {
    DemoWindow window("holes");
    window->selection().setHole("QB102");
    window.settle();
    const auto before = window->selection().hole();
    auto* name = child<QLineEdit>(&*window, "editName");
    typeInto(name, "Renamed 1");
    QTest::keyClick(name, Qt::Key_Return);
    window.settle();
    CHECK(window->selection().hole() == "Renamed 1");
    CHECK(window->session().history().undoLabel() == "Rename QB102 to Renamed 1");
    const auto* refusal = window->findChild<QLabel*>("refusal");
    CHECK((!refusal || !refusal->isVisible())); // it was made once
    REQUIRE(findHole(*project(window).holes, "Renamed 1"));
    CHECK(findHole(*project(window).holes, "Renamed 1")->id == before.toStdString());
    CHECK(child<QLineEdit>(&*window, "editName")->toolTip().contains(before));
    SECTION("a name that is taken is refused with a sentence, and nothing is lost") {
        auto* again = child<QLineEdit>(&*window, "editName");
        const auto other = QString::fromStdString(displayNames(*project(window).holes).back());
        typeInto(again, other);
        QTest::keyClick(again, Qt::Key_Return);
        window.settle();
        CHECK(findHole(*project(window).holes, "Renamed 1"));
        CHECK(window->selection().hole() == "Renamed 1");
    }
    SECTION("Undo") {
        window->session().undo();
        window.settle();
        CHECK(window->selection().hole() == before);
        CHECK(findHole(*project(window).holes, before.toStdString())->name == before.toStdString());
    }
    picture(&*window, "hole_renamed");
}

TEST_CASE("Water levels with dates come from a table that is dropped, and are on the hole's card", "[window][water]") {
    DemoWindow window("holes");
    auto* sheet = dropped(window, {FOX_DEMO "/dips.csv"});
    picture(sheet, "import_dips");
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("changed"));
    import(window, sheet);
    const auto* hole = findHole(*project(window).holes, "QB102");
    REQUIRE(hole);
    CHECK(hole->waterLevels.size() > 5);
    window->selection().setHole("QB102");
    window.settle();
    const auto labels = window->findChildren<QLabel*>();
    CHECK(std::ranges::any_of(labels, [](const QLabel* l) { return l->isVisible() && l->text().contains("below ground, 20"); }));
}

TEST_CASE("The unit of a column is chosen over it, and levels are converted", "[window][units]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    auto* sheet = dropped(window, {written(folder, "levels.csv",
                                           "Point,Easting,Northing,Level,Code\n1,480500,6120500,100,GL\n2,480600,6120510,101,GL\n"
                                           "3,480550,6120600,102,GL\n")});
    auto* preview = child<QTableWidget>(sheet, "importPreview");
    auto* unit = qobject_cast<QComboBox*>(preview->cellWidget(1, 3));
    REQUIRE(unit);
    CHECK(preview->cellWidget(1, 0) == nullptr); // a number has none
    unit->setCurrentIndex(unit->findData("ft"));
    emit unit->activated(unit->currentIndex());
    waitUntilRead(sheet);
    picture(sheet, "import_column_units");
    CHECK(qobject_cast<QComboBox*>(preview->cellWidget(1, 3))->currentData() == "ft");
    import(window, sheet);
    const auto& points = project(window).ground->points;
    const auto at = std::ranges::find(points, "levels.csv", &GroundSources::Points::file);
    REQUIRE(at != points.end());
    CHECK(at->points[0].place.z == Approx(30.48));
    CHECK(at->points[0].place.x == 480500);
}

TEST_CASE("An object is left out by a click on the map, and a level is given to another", "[window][objects]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    auto* sheet = dropped(window, {banksIn(folder)});
    auto* map = child<PlaceMap>(sheet, "importMap");
    const auto middleOf = [&](int line) { return map->pixelOf({480650, 6120310 + 60.0 * line}).toPoint(); };
    QTest::mouseClick(map, Qt::LeftButton, {}, middleOf(1));
    waitUntilRead(sheet);
    picture(sheet, "import_object_out");
    auto* findings = child<QListWidget>(sheet, "importFindings");
    REQUIRE(findings->count() > 0);
    CHECK(findings->item(0)->text().contains("1 object is skipped by hand"));
    SECTION("and comes back by another") {
        QTest::mouseClick(map, Qt::LeftButton, {}, middleOf(1));
        waitUntilRead(sheet);
        import(window, sheet);
        CHECK(project(window).ground->lines.back().lines.size() == 4);
    }
    SECTION("a level by the menu") {
        QContextMenuEvent ask(QContextMenuEvent::Mouse, middleOf(2), map->mapToGlobal(middleOf(2)));
        QCoreApplication::sendEvent(map, &ask);
        auto* menu = child<QMenu>(map, "objectMenu");
        REQUIRE(menu->actions().size() == 2);
        const ModalAnswers answers("objectLevel", [](QWidget* dialog) {
            qobject_cast<QInputDialog*>(dialog)->setDoubleValue(31.5);
            qobject_cast<QInputDialog*>(dialog)->accept();
        });
        menu->actions()[1]->trigger();
        waitUntilRead(sheet);
        import(window, sheet);
        const auto& lines = project(window).ground->lines.back().lines;
        REQUIRE(lines.size() == 3);
        CHECK(std::ranges::any_of(lines, [](const Polyline3& l) { return l[0].z == 31.5 && l[1].z == 31.5; }));
    }
    SECTION("only some values of a column") {
        auto* field = child<QComboBox>(sheet, "filterField");
        field->setCurrentIndex(field->findData("kind"));
        emit field->activated(field->currentIndex());
        waitUntilRead(sheet);
        auto* values = child<QToolButton>(sheet, "filterValues");
        CHECK(values->text() == "2 of 2 values");
        for (auto* tick : values->menu()->actions())
            if (tick->data() == "fence") tick->trigger();
        waitUntilRead(sheet);
        picture(sheet, "import_filter");
        CHECK(child<QToolButton>(sheet, "filterValues")->text() == "1 of 2 values");
        import(window, sheet);
        CHECK(project(window).ground->lines.back().lines.size() == 2);
    }
}

TEST_CASE("Ids in another spelling are one hole's, until that is unticked", "[window][names]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    auto* sheet = dropped(window, {written(folder, "levels.csv", "Hole,Ground level (m)\nqb 101,31.11\n")});
    auto* list = child<QListWidget>(sheet, "importChanges");
    REQUIRE(list->count() == 1);
    CHECK(list->item(0)->text().startsWith("QB101: changed"));
    CHECK(list->item(0)->text().contains("qb 101 in the file"));
    auto* same = child<QCheckBox>(sheet, "otherSpelling");
    CHECK(same->isChecked());
    picture(sheet, "import_other_spelling");
    QTest::mouseClick(same, Qt::LeftButton, {}, {8, same->height() / 2});
    waitUntilRead(sheet);
    CHECK(list->item(0)->text().startsWith("qb 101: new"));
    same = child<QCheckBox>(sheet, "otherSpelling");
    QTest::mouseClick(same, Qt::LeftButton, {}, {8, same->height() / 2});
    waitUntilRead(sheet);
    const auto holes = project(window).holes->size();
    import(window, sheet);
    CHECK(project(window).holes->size() == holes);
    CHECK(findHole(*project(window).holes, "QB101")->level->metres == Approx(31.11));
}

TEST_CASE("A file in another system is offered the systems that put it beside the project", "[window][systems]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const CoordinateChange change("EPSG:25831", "EPSG:25832");
    std::string text = "point,easting,northing,level,code\n";
    for (int i = 0; i < 4; ++i) {
        const auto p = change.forward({480500 + 40.0 * i, 6120500 + 30.0 * (i % 2)});
        REQUIRE(p);
        text += fmt::format("{},{:.2f},{:.2f},{:.2f},GL\n", i, p->x, p->y, 25 + 0.1 * i);
    }
    auto* sheet = dropped(window, {written(folder, "elsewhere.csv", text)});
    auto* system = child<SystemEdit>(sheet, "importSystem");
    system->setFocus(Qt::TabFocusReason);
    waitFor("systems to be proposed", [&] { return system->completer()->completionModel()->rowCount() > 0; });
    CHECK(system->completer()->popup()->isVisible());
    picture(sheet, "import_systems");
    bool offered = false;
    for (int r = 0; r < system->completer()->completionModel()->rowCount(); ++r) {
        const auto words = system->completer()->completionModel()->index(r, 0).data().toString();
        CHECK(words.contains("fits the coordinates"));
        offered |= words.startsWith("EPSG:25832");
    }
    CHECK(offered);
    system->completer()->popup()->hide();
    typeInto(system, "25832");
    QTest::keyClick(system, Qt::Key_Return);
    waitUntilRead(sheet);
    import(window, sheet);
    const auto& points = project(window).ground->points;
    const auto at = std::ranges::find(points, "elsewhere.csv", &GroundSources::Points::file);
    REQUIRE(at != points.end());
    CHECK(at->points[0].place.x == Approx(480500).margin(0.02));
}

TEST_CASE("The order that was answered is the first that is offered for the next file of this shape", "[window][surveys]") {
    QSettings().remove("orders");
    const QTemporaryDir folder;
    const auto empty = folder.filePath("empty.gpkg");
    DemoWindow window("ground");
    window->session().openNew(empty, [] { return Project{}; });
    waitFor("the empty project", [&] { return window->settled() && window->session().path() == empty; });
    const auto rows = [](double a, double b) {
        std::string text;
        for (int i = 0; i < 6; ++i) text += fmt::format("{:.2f},{:.2f},{:.2f}\n", a + 7 * i, b + 5 * (i % 3), 30 + 0.1 * i);
        return text;
    };
    const auto firstOrder = [](ImportSheet* sheet) {
        QPushButton* first = nullptr;
        waitFor("orders to be offered", [&] {
            for (auto* button : child<QWidget>(sheet, "columnOrders")->findChildren<QPushButton*>())
                if (!first && button->isVisible()) first = button;
            return first != nullptr;
        });
        return first;
    };
    auto* sheet = dropped(window, {written(folder, "first.txt", rows(420000, 430000))});
    REQUIRE_FALSE(child<QPushButton>(sheet, "importButton")->isEnabled());
    QTest::mouseClick(child<QPushButton>(sheet, "order_northing_easting_level"), Qt::LeftButton);
    waitUntilRead(sheet);
    import(window, sheet);
    CHECK(project(window).ground->points.at(0).points[0].place.x == Approx(430000));
    window->session().undo();
    window.settle();
    sheet = dropped(window, {written(folder, "second.txt", rows(421000, 431000))});
    CHECK_FALSE(child<QPushButton>(sheet, "importButton")->isEnabled()); // it is asked again
    CHECK(firstOrder(sheet)->objectName() == "order_northing_easting_level");
    picture(sheet, "import_order_again");
    CHECK(sheet->minimumSizeHint().width() <= 980); // fits small screens
    QTest::mouseClick(firstOrder(sheet), Qt::LeftButton);
    waitUntilRead(sheet);
    import(window, sheet);
    CHECK(project(window).ground->points.at(0).points[0].place.x == Approx(431000));
}

TEST_CASE("A picture of the plan knows where it lies, as a GeoTIFF and as a PNG with a world file", "[window][export]") {
    DemoWindow window("site");
    const QTemporaryDir folder;
    auto* plan = window.view<PlanView>();
    const auto& hole = project(window).holes->front();
    const auto place = hole.place();
    REQUIRE(place);
    const auto onScreen = plan->screenOf(*place);
    plan->savePictureTo(folder.filePath("plan.tif"));
    const auto tif = readPicture(readBytes(folder.filePath("plan.tif").toStdString()), "plan.tif");
    CHECK(tif.crs == project(window).site->crs);
    REQUIRE(tif.georeference);
    const auto& t = *tif.georeference;
    CHECK((place->x - t[0]) / t[1] == Approx(onScreen.x() * plan->devicePixelRatio()).margin(1));
    CHECK((place->y - t[3]) / t[5] == Approx(onScreen.y() * plan->devicePixelRatio()).margin(1));
    std::set<std::uint32_t> colours;
    for (std::size_t i = 0; i + 3 < tif.rgba.size(); i += 4)
        colours.insert(tif.rgba[i] | tif.rgba[i + 1] << 8 | tif.rgba[i + 2] << 16);
    CHECK(colours.size() > 50);
    plan->savePictureTo(folder.filePath("plan.png"));
    const auto beside = readBytes(folder.filePath("plan.pgw").toStdString());
    const auto world = split(beside, '\n');
    CHECK(*parseNumber(world[0]) == Approx(t[1]));
    CHECK(*parseNumber(world[4]) == Approx(t[0] + t[1] / 2).margin(0.001));
    CHECK(*parseNumber(world[5]) == Approx(t[3] + t[5] / 2).margin(0.001));
    CHECK(readBytes(folder.filePath("plan.prj").toStdString()).find("UTM") != std::string::npos);
    CHECK(QDir(folder.path()).entryList(QDir::Files).size() == 4); // and nothing else
    CHECK_THROWS_AS(plan->savePictureTo("/nowhere/at/all.tif"), FileError);
}

TEST_CASE("Hundreds of files are one list, painted: Skip of a row and Delete take a file off, the others go in",
          "[window][import]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    QStringList paths;
    for (int i = 0; i < 120; ++i)
        paths << written(
            folder, fmt::format("w{:03}.csv", i).c_str(),
            fmt::format("Hole,Easting,Northing,Ground level\nN{:03},{},{},20\n", i, 480100 + 10 * i, 6120100 + 3 * i));
    auto* sheet = dropped(window, paths);
    auto* list = child<ImportList>(sheet, "importList");
    REQUIRE(list->count() == 121); // and a heading
    CHECK(list->item(0)->text() == "Ready  120");
    CHECK(list->item(1)->data(Qt::AccessibleTextRole).toString().startsWith("w000.csv: 1 hole"));
    picture(sheet, "import_many");
    CHECK(coloursOf(list) > 5);
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->skipRect("w003.csv").center());
    waitFor("a file less", [&] { return list->count() == 120; });
    CHECK(list->findItems("w003.csv", Qt::MatchExactly).isEmpty());
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {},
                      list->visualItemRect(list->findItems("w005.csv", Qt::MatchExactly).at(0)).topLeft() + QPoint(40, 12));
    waitUntilRead(sheet);
    CHECK(list->count() == 120); // it was chosen, not skipped
    press(list, Qt::Key_Delete);
    waitFor("another file less", [&] { return list->count() == 119; });
    CHECK(list->findItems("w005.csv", Qt::MatchExactly).isEmpty());
    CHECK(child<QPushButton>(sheet, "importButton")->text() == "Import 118 files");
    const auto before = project(window).holes->size();
    import(window, sheet);
    CHECK(project(window).holes->size() == before + 118);
    CHECK(window->session().history().undoLabel() == "Import 118 files");
}

TEST_CASE("Holes are renamed in the table, several at once as one step", "[window][names]") {
    DemoWindow window("holes");
    auto* view = window.view<TableView>();
    view->showTable("holes");
    window.settle();
    auto* model = view->table()->model();
    const auto rowOf = [&](const QString& name) {
        for (int r = 0; r < model->rowCount(); ++r)
            if (model->index(r, 0).data().toString() == name) return r;
        throw std::runtime_error("no such row");
    };
    CHECK(model->flags(model->index(rowOf("QB103"), 0)).testFlag(Qt::ItemIsEditable));
    CHECK(model->setData(model->index(rowOf("QB103"), 0), "North 3", Qt::EditRole));
    window.settle();
    model = view->table()->model();
    CHECK(findHole(*project(window).holes, "North 3")->id == "QB103");
    CHECK(model->index(rowOf("North 3"), 0).data(Qt::ToolTipRole).toString().contains("as QB103"));
    // a name that is taken is refused
    model->setData(model->index(rowOf("QB104"), 0), "North 3", Qt::EditRole);
    window.settle();
    CHECK(findHole(*project(window).holes, "QB104"));
    // two names pasted over two rows
    view->table()->setFocus();
    view->table()->setCurrentIndex(model->index(rowOf("QB105"), 0));
    const auto next = model->index(rowOf("QB105") + 1, 0).data().toString().toStdString();
    QGuiApplication::clipboard()->setText("East 5\nEast 6\n");
    press(view->table(), Qt::Key_V, Qt::ControlModifier);
    window.settle();
    CHECK(findHole(*project(window).holes, "East 5")->id == "QB105");
    CHECK(findHole(*project(window).holes, "East 6")->id == next);
    window->session().undo();
    window.settle();
    CHECK(findHole(*project(window).holes, "QB105"));
    CHECK(findHole(*project(window).holes, next));
    CHECK(findHole(*project(window).holes, "North 3"));
}

TEST_CASE("A drawing of guide lines and an interpreted section: each goes where its role says", "[window][layers]") {
    DemoWindow window("sequence");
    const QTemporaryDir folder;
    const auto line = [](const char* layer, Polyline3 points) {
        return FeatureLayer{layer, "", {{GeometryKind::Line, {std::move(points)}, true, {}}}};
    };
    const auto path = folder.filePath("interpretation.dxf");
    Polyline3 seismic; // along the section
    for (const auto& p : project(window).sections->front().line) seismic.push_back({p.x, p.y, 12.0 - double(seismic.size())});
    writeVector(path.toStdString(), {line("RG", {{480400, 6120300, 15}, {480900, 6120320, 14}}), line("SEISMIC 1", seismic)});
    auto* sheet = dropped(window, {path});
    const auto choose = [&](const char* layer, LineRole role) {
        auto* box = child<QComboBox>(sheet, (std::string("role_") + layer).c_str());
        box->setCurrentIndex(int(role));
        emit box->activated(int(role));
        waitUntilRead(sheet);
    };
    choose("RG", LineRole::Guides);
    choose("SEISMIC 1", LineRole::LookOnly);
    picture(sheet, "import_guides");
    import(window, sheet);
    REQUIRE_FALSE(project(window).interpretation->guides.empty());
    CHECK(project(window).interpretation->guides.back().unit == "RG");
    CHECK(project(window).interpretation->guides.back().line.front().z == 15);
    REQUIRE(project(window).background->size() == 1);
    const auto products = window.made({ProductKind::Sections});
    REQUIRE(products->sections.front());
    REQUIRE_FALSE(products->sections.front()->traces.empty());
    CHECK(products->sections.front()->traces.front().layer == "SEISMIC 1");
    const auto& trace = products->sections.front()->traces.front();
    CHECK(trace.points.front() == Point2{0, 12});
    CHECK(trace.points.back().x == Approx(lengthOf(products->sections.front()->line)));
    window->showStage("model");
    window.settle();
    picture(&*window, "section_trace");
}
