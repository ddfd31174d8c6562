// What else arrives: contacts that are in no log, drawings of many layers, archives, some holes of a file, other systems.
#include "formats/vector.h"
#include "harness.h"
#include "import_steps.h"
#include "stages/shelf.h"
#include "views/block_view.h"
#include "views/plan_view.h"
#include "views/section_view.h"
#include "views/system_edit.h"
#include "views/table_view.h"

#include <QCheckBox>
#include <QComboBox>
#include <QCompleter>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QToolButton>
#include <QTreeWidget>
#include <QtTest>
#include <catch2/catch.hpp>
#include <cpl_vsi.h>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// Points on the base of river gravel that an old map gives, along a line through the demo.
std::string oldMap(const char* header, const char* unit) {
    std::string out = header;
    for (int i = 0; i < 9; ++i) out += fmt::format("{},{},{:.2f},{}\n", 480400 + 80 * i, 6120380 + 30 * i, 16.5 + 0.2 * i, unit);
    return out;
}

/// A drawing with banks that have levels, and roads and a fault that have none.
QString drawingIn(const QTemporaryDir& folder) {
    const auto layer = [](const char* name, std::vector<Polyline3> lines, bool levels) {
        FeatureLayer out{name, "", {}};
        for (auto& l : lines) out.features.push_back({GeometryKind::Line, {std::move(l)}, levels, {}});
        return out;
    };
    const auto path = folder.filePath("drainage.dxf");
    writeVector(path.toStdString(),
                {layer("BANK", {{{480400, 6120300, 26}, {480700, 6120420, 25.5}, {481000, 6120500, 25}}}, true),
                 layer("ROAD", {{{480100, 6120100, 0}, {480700, 6120600, 0}, {481400, 6120700, 0}}}, false),
                 layer("FAULT", {{{480900, 6120050, 0}, {481000, 6120950, 0}}}, false)});
    return path;
}

} // namespace

TEST_CASE("A survey whose codes are units is asked about; as contacts it shapes the base, and each can be excluded",
          "[window][contacts]") {
    QSettings().remove("points"); // what another run remembers
    DemoWindow window("sequence");
    const QTemporaryDir folder;
    auto* sheet = dropped(window, {written(folder, "old_map.csv", oldMap("x,y,z,code\n", "RG"))});
    CHECK_FALSE(importButton(sheet)->isEnabled());
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("names of units"));
    picture(sheet, "contacts_asked");
    child<QPushButton>(sheet, "areContacts")->click();
    waitUntilRead(sheet);
    CHECK(importButton(sheet)->text() == "Import 9 contacts");
    CHECK(child<QComboBox>(sheet, "contactSurface")->isVisible());
    picture(sheet, "contacts_sheet");
    import(window, sheet);
    REQUIRE(window.project().contactPoints->size() == 1);
    CHECK(window.project().ground->points.size() == 1); // the survey of the demo alone
    const auto unit = *window.project().sequence->index("RG");
    const auto& model = *window->session().products()->model;
    CHECK(model.columnAt({480400, 6120380}).bases[unit] == Approx(16.5).margin(0.01));
    picture(&*window, "contacts_sequence");
    SECTION("the side panel takes them out, and says what they lie on") {
        auto* used = child<QCheckBox>(shelf(window), "useContacts_old_map.csv");
        used->click();
        window.settle();
        CHECK_FALSE(window.project().contactPoints->at(0).used);
        auto* on = child<QComboBox>(shelf(window), "contactsOn_old_map.csv");
        on->setCurrentIndex(1);
        emit on->activated(1);
        window.settle();
        CHECK(window.project().contactPoints->at(0).surface == ContactSurface::Top);
        press(&*window, Qt::Key_Z, Qt::ControlModifier);
        press(&*window, Qt::Key_Z, Qt::ControlModifier);
        window.settle();
        CHECK(window.project().contactPoints->at(0).used);
    }
    SECTION("the table lists them; typing no excludes one") {
        const auto content = makeTableContent("contacts", window->session().products());
        REQUIRE(content->rows() == 9);
        CHECK(content->text(0, 0) == "RG");
        CHECK(content->text(0, 4) == "16.50");
        CHECK(content->text(8, 9) == "10");
        window->session().apply(content->edit({{0, 7, "no"}}));
        window.settle();
        CHECK(window.project().contactPoints->at(0).points[0].excluded);
        CHECK(makeTableContent("contacts", window->session().products())->text(0, 7) == "no");
        CHECK_THROWS_WITH(content->edit({{0, 7, "perhaps"}}), Catch::Contains("yes or no"));
    }
    SECTION("a second import of the same kind of file asks nothing") {
        sheet = dropped(window, {written(folder, "old_map.csv", oldMap("x,y,z,code\n", "RG") + "480300,6120900,17,RG\n")});
        CHECK(importButton(sheet)->text() == "Update old_map.csv");
        import(window, sheet);
        CHECK(window.project().contactPoints->at(0).points.size() == 10);
        sheet = dropped(window, {written(folder, "another_map.csv", oldMap("x,y,z,code\n", "TU"))}); // of the same shape
        CHECK(importButton(sheet)->text() == "Import 9 contacts");
        child<QPushButton>(sheet, "skipButton")->click();
    }
}

TEST_CASE("Picks that come with the holes are no ground: their codes are known from the file beside them", "[window][contacts]") {
    QSettings().remove("points");
    const QTemporaryDir folder;
    MainWindow window;
    window.resize(1280, 800);
    window.session().openNew(folder.filePath("empty.gpkg"), [] { return Project(); });
    window.show();
    waitFor("the empty project", [&] { return window.settled() && window.session().path().endsWith("empty.gpkg"); });
    auto picks = oldMap("", "RG"); // without a header
    std::ranges::replace(picks, ',', ' ');
    dropFiles(&window, {written(folder, "a_picks.txt", picks), QString(FOX_DEMO "/phase1_main.ags")});
    auto* sheet = importSheet(window);
    waitUntilRead(sheet);
    auto* list = child<QListWidget>(sheet, "importList");
    QStringList lines;
    for (int i = 0; i < list->count(); ++i) lines << list->item(i)->data(Qt::AccessibleTextRole).toString();
    CAPTURE(lines.join("; ").toStdString());
    CHECK(lines.filter("a_picks.txt: 9 rows: contacts, or survey points?").size() == 1);
    CHECK(importButton(sheet)->text() == "Import 1 file");
    picture(sheet, "picks_beside_holes");
    sheet->reject();
}

TEST_CASE("Contacts are seen on the plan, on a section and in 3D", "[window][contacts]") {
    DemoWindow window("model");
    const auto before = coloursOf(window.view<PlanView>());
    const QTemporaryDir folder;
    import(window, dropped(window, {written(folder, "old_map.csv", oldMap("x,y,z,stratum\n", "RG"))}));
    window->session().apply([](const Project& p) { return addSection(p, {{480400, 6120380}, {481040, 6120620}}); });
    window.settle();
    const auto set = window.made({ProductKind::Sections});
    REQUIRE(set->sections.back());
    CHECK(set->sections.back()->contacts.size() == 9);
    CHECK(coloursOf(window.view<PlanView>()) >= before / 2);
    picture(&*window, "contacts_model");
}

TEST_CASE("A drawing is a tree of layers: ground, a fault, and a road that is only to look at", "[window][layers]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const auto faults = window.project().interpretation->faults.size();
    auto* sheet = dropped(window, {drawingIn(folder)});
    CHECK_FALSE(importButton(sheet)->isEnabled());
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("3 layers"));
    CHECK(child<QComboBox>(sheet, "role_ROAD")->currentText() == "only to look at");
    CHECK(child<QComboBox>(sheet, "role_BANK")->currentText() == "breaklines");
    picture(sheet, "layers_asked");
    auto* thin = child<QDoubleSpinBox>(sheet, "thinBy");
    thin->setValue(0.05);
    waitUntilRead(sheet);
    CHECK_FALSE(importButton(sheet)->isEnabled()); // another setting is no answer
    SECTION("as proposed") {
        child<QPushButton>(sheet, "useLayers")->click();
        waitUntilRead(sheet);
        import(window, sheet);
        CHECK(window.project().interpretation->faults.size() == faults + 1);
        REQUIRE(window.project().background->size() == 1);
        picture(&*window, "layers_ground");
        child<QCheckBox>(shelf(window), "background_ROAD")->click();
        window.settle();
        CHECK_FALSE(window.project().background->at(0).shown);
        // the very same drawing again is neither asked about nor imported twice
        sheet = dropped(window, {folder.filePath("drainage.dxf")});
        CHECK(child<QLabel>(sheet, "importFacts")->text().contains("has this file already"));
        CHECK_FALSE(importButton(sheet)->isEnabled());
        sheet->reject();
        window.settle();
        CHECK(window.project().interpretation->faults.size() == faults + 1);
    }
    SECTION("with another role for one, and one unticked") {
        auto* role = child<QComboBox>(sheet, "role_FAULT");
        role->setCurrentIndex(int(LineRole::Sections));
        emit role->activated(int(LineRole::Sections));
        waitUntilRead(sheet);
        CHECK(importButton(sheet)->isEnabled());
        auto* tree = child<QTreeWidget>(sheet, "importTables");
        for (int i = 0; i < tree->topLevelItemCount(); ++i)
            if (tree->topLevelItem(i)->text(0) == "ROAD") tree->topLevelItem(i)->setCheckState(0, Qt::Unchecked);
        waitUntilRead(sheet);
        const auto sections = window.project().sections->size();
        import(window, sheet);
        CHECK(window.project().sections->size() == sections + 1);
        CHECK(window.project().background->empty());
        CHECK(window.project().interpretation->faults.size() == faults);
    }
}

TEST_CASE("An archive is opened as a folder is; what can't be read holds back nothing", "[window][archive]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    const auto zip = folder.filePath("site.zip");
    const auto put = [&](const char* name, const std::string& bytes) {
        VSILFILE* f = VSIFOpenL(("/vsizip/" + zip.toStdString() + "/" + name).c_str(), "wb");
        REQUIRE(f);
        VSIFWriteL(bytes.data(), 1, bytes.size(), f);
        VSIFCloseL(f);
    };
    put("later/phase3.ags", readBytes(FOX_FIXTURES "/estuary/holes.ags"));
    put("later/FILE/photo.jpg", "no picture");
    put("survey.csv",
        "point,easting,northing,level,code\n1,480100,6120100,25.5,GL\n2,480200,6120150,25.9,GL\n3,480150,6120250,26.5,GL\n");
    put("notes.bin", std::string("\0\1\2\3", 4));
    const auto broken = written(folder, "broken.zip", "no archive at all");
    auto* sheet = dropped(window, {zip, broken});
    waitUntilRead(sheet);
    auto* list = child<QListWidget>(sheet, "importList");
    QStringList lines;
    for (int i = 0; i < list->count(); ++i) lines << list->item(i)->data(Qt::AccessibleTextRole).toString();
    CAPTURE(lines.join("; ").toStdString());
    CHECK(lines.filter("phase3.ags").size() == 1);
    CHECK(lines.filter("survey.csv: 3 points").size() == 1);
    CHECK(lines.filter("notes.bin").size() == 1);
    CHECK(lines.filter("broken.zip").size() == 1);
    CHECK(lines.filter("photo.jpg").isEmpty());
    CHECK(importButton(sheet)->text() == "Import 2 files");
    picture(sheet, "archive");
    importButton(sheet)->click();
    waitUntilRead(sheet);
    window.settle();
    CHECK(std::ranges::count(*window.project().files, "survey.csv", &SourceFile::name)
              + std::ranges::count(*window.project().files, "survey (2).csv", &SourceFile::name)
          >= 1);
    child<QPushButton>(sheet, "cancelImport")->click();
    window.settle();
}

TEST_CASE("Of a file's holes some are ticked; the others stay in the file", "[window][holes]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    auto* sheet = dropped(window, {QString(FOX_FIXTURES "/estuary/holes.ags")});
    auto* holes = child<QListWidget>(sheet, "importChanges");
    REQUIRE(holes->count() > 2);
    const auto all = importButton(sheet)->text();
    holes->item(0)->setCheckState(Qt::Unchecked);
    CHECK(importButton(sheet)->text() != all);
    const auto out = holes->item(0)->data(Qt::UserRole).toString().toStdString();
    auto* menu = child<QToolButton>(sheet, "tickHoles")->menu();
    menu->actions().at(1)->trigger(); // none
    CHECK_FALSE(importButton(sheet)->isEnabled());
    menu->actions().at(0)->trigger();
    CHECK(importButton(sheet)->text() == all);
    holes->item(0)->setCheckState(Qt::Unchecked);
    picture(sheet, "holes_ticked");
    import(window, sheet);
    CHECK(std::ranges::count(*window.project().holes, out, &Hole::id) == 0);
    const auto file = window.project().files->back();
    CHECK(file.settings.holesOut == std::vector{out});
    // and it is added later, from the project's file
    const auto name = QString::fromStdString(file.name);
    emit window->findChild<Shelf*>("shelf")->actionAsked(ShowSource{name});
    waitFor("the sheet of the file", [&] { return window->findChild<QDialog*>("sourceSheet"); });
    auto* source = window->findChild<QDialog*>("sourceSheet");
    CHECK(child<QLabel>(source, "sourceWords")->text().contains("1 hole was left in the file"));
    picture(source, "holes_left");
    child<QPushButton>(source, "readAgain")->click();
    sheet = importSheet(*window);
    waitUntilRead(sheet);
    CHECK_FALSE(importButton(sheet)->isEnabled());
    holes = child<QListWidget>(sheet, "importChanges");
    QListWidgetItem* left = nullptr;
    for (int i = 0; i < holes->count(); ++i)
        if (holes->item(i)->data(Qt::UserRole).toString().toStdString() == out) left = holes->item(i);
    REQUIRE(left);
    CHECK(left->checkState() == Qt::Unchecked);
    left->setCheckState(Qt::Checked);
    CHECK(importButton(sheet)->text() == "Import 1 hole");
    importButton(sheet)->click();
    waitFor("the hole", [&] { return std::ranges::count(*window.project().holes, out, &Hole::id) == 1; });
    window.settle();
}

TEST_CASE("A coordinate system is searched by words and chosen from the list", "[window][systems]") {
    DemoWindow window("site");
    auto* field = child<SystemEdit>(shelf(window), "systemEdit");
    field->selectAll();
    QTest::keyClicks(field, "zone 32n etrs89");
    auto* popup = field->completer()->popup();
    waitFor("the list of systems", [&] { return popup->isVisible(); });
    REQUIRE(popup->model()->rowCount() > 0);
    picture(&*window, "systems");
    picture(popup, "systems_found");
    const ModalAnswers box("systemBox", [](QWidget* asked) { answer(asked, "Only the name was wrong"); });
    const auto at = popup->model()->match(popup->model()->index(0, 0), Qt::UserRole, "EPSG:25832", 1, Qt::MatchExactly);
    REQUIRE(at.size() == 1);
    popup->setCurrentIndex(at.front());
    press(popup, Qt::Key_Return);
    waitFor("the system to be set", [&] { return window.project().site->crs == "EPSG:25832"; });
    window.settle();
    CHECK(box.count() == 1);
}
