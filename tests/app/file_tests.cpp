// Files: what would be replaced is asked about, what was replaced can be had again, what is given is taken for what it is.
#include "dialogs/export_dialog.h"
#include "dialogs/import_sheet.h"
#include "harness.h"
#include "project/sequence_edits.h"
#include "store/restore_points.h"
#include "views/ask_file.h"

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>
#include <QTreeWidget>
#include <QtTest>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

Project onDisk(const QString& path) { return ProjectStore::read(path.toStdString()); }

void trigger(DemoWindow& window, const char* action) {
    auto* found = window->findChild<QAction*>(action);
    REQUIRE(found);
    found->trigger();
}

/// What a menu of the window offers, filled as when it is opened.
QList<QAction*> offered(DemoWindow& window, const char* menu) {
    auto* m = child<QMenu>(&*window, menu);
    emit m->aboutToShow();
    return m->actions();
}

} // namespace

TEST_CASE("A new project asks before it takes the place of a file, also if the name is typed without its ending",
          "[window][files]") {
    DemoWindow window;
    const QTemporaryDir folder;
    const auto there = folder.filePath("site.gpkg");
    copyDemoProject(there);
    const auto typed = folder.filePath("site"); // as typed
    {
        int dialogs = 0;
        const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) {
            if (++dialogs == 1)
                typeFileName(dialog, typed);
            else
                static_cast<QDialog*>(dialog)->reject();
        });
        const ModalAnswers box("replaceBox", [&](QWidget* asked) {
            CHECK(static_cast<QMessageBox*>(asked)->informativeText() == there);
            answer(asked, "Cancel");
        });
        trigger(window, "new");
        window.settle();
        CHECK(box.count() == 1);
    }
    CHECK(onDisk(there).holes->size() == window.project().holes->size()); // as it was
    CHECK(restorePointsOf(there.toStdString()).empty());
    const auto holes = window.project().holes->size();
    {
        const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, typed); });
        const ModalAnswers box("replaceBox", [](QWidget* asked) { answer(asked, "Replace"); });
        const ModalAnswers system("newProjectSystem", [](QWidget* asked) { static_cast<QDialog*>(asked)->accept(); });
        trigger(window, "new");
        waitFor("the new project", [&] { return window->session().path() == there; });
        window.settle();
        CHECK(box.count() == 1);
    }
    CHECK(window.project().holes->empty());
    CHECK(window.project().name == "site");
    // what was replaced is a restore point, and comes back as an edit
    window->session().finishSaving();
    auto* point = offered(window, "restorePoints").back();
    REQUIRE(point->text().startsWith("As it was on"));
    point->menu()->actions().front()->trigger();
    waitFor("the old state", [&] { return window.project().holes->size() == holes; });
    window.settle();
    window->session().finishSaving();
    CHECK(onDisk(there).holes->size() == holes);
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(window.project().holes->empty());
}

TEST_CASE("A name that no file has is not asked about, and dots in it stay", "[window][files]") {
    DemoWindow window;
    const QTemporaryDir folder;
    const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, folder.filePath("site 1.5")); });
    const ModalAnswers box("replaceBox", [](QWidget* asked) { answer(asked, "Cancel"); });
    trigger(window, "saveAs");
    waitFor("the other file", [&] { return window->session().path() == folder.filePath("site 1.5.gpkg"); });
    window.settle();
    CHECK(box.count() == 0);
    CHECK(onDisk(folder.filePath("site 1.5.gpkg")).holes->size() == window.project().holes->size());
}

TEST_CASE("A copy is saved and the work goes on in the project's own file", "[window][files]") {
    DemoWindow window;
    const QTemporaryDir folder;
    const auto own = window->session().path();
    const auto copy = folder.filePath("copy.gpkg");
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    {
        const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, copy); });
        trigger(window, "saveCopy");
        waitFor("the copy", [&] { return said.contains("copy.gpkg"); });
    }
    CHECK(window->session().path() == own);
    CHECK(sameValue(onDisk(copy), window.project()));
    said.clear();
    const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, own); });
    const ModalAnswers box("replaceBox", [](QWidget* asked) { answer(asked, "Replace"); });
    trigger(window, "saveCopy");
    CHECK(said.contains("the file that is open"));
}

TEST_CASE("Projects that were open are offered again, but those that are gone", "[window][files]") {
    DemoWindow window;
    const QTemporaryDir folder;
    for (const char* name : {"first.gpkg", "second.gpkg"}) {
        copyDemoProject(folder.filePath(name));
        window->projects()->open(folder.filePath(name));
        waitFor("the project", [&] { return window->session().path() == folder.filePath(name); });
        window.settle();
    }
    QStringList names;
    for (const auto* a : offered(window, "openRecent")) names << a->text();
    CHECK(names.front() == "first");
    CHECK_FALSE(names.contains("second")); // it is open
    offered(window, "openRecent").front()->trigger();
    waitFor("the first again", [&] { return window->session().path() == folder.filePath("first.gpkg"); });
    window.settle();
    QFile::remove(folder.filePath("second.gpkg"));
    names.clear();
    for (const auto* a : offered(window, "openRecent")) names << a->text();
    CHECK_FALSE(names.contains("second"));
}

TEST_CASE("Every opening of a changed project is one more restore point", "[window][files]") {
    const QTemporaryDir folder;
    const auto path = folder.filePath("site.gpkg");
    {
        DemoWindow window("site", path);
        window->session().apply([](const Project& p) { return mergeCode(p, "M.G.", "MG"); });
        window->session().finishSaving();
    }
    MainWindow again;
    again.projects()->open(path);
    again.show();
    waitFor("the project", [&] { return again.session().path() == path && again.settled(); });
    const auto points = restorePointsOf(path.toStdString());
    REQUIRE(points.size() == 2);
    CHECK(ProjectStore::read(points[0].file).sequence->aliases.contains("M.G."));
    CHECK_FALSE(ProjectStore::read(points[1].file).sequence->aliases.contains("M.G."));
}

TEST_CASE("A restore point is kept by a name, and what changed since is a document", "[window][files]") {
    const QTemporaryDir folder;
    DemoWindow window("site", folder.filePath("site.gpkg"));
    {
        QTimer::singleShot(0, [] {
            auto* box = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
            REQUIRE(box);
            box->setTextValue("before the merge");
            box->accept();
        });
        offered(window, "restorePoints").front()->trigger();
    }
    window->session().apply([](const Project& p) { return mergeCode(p, "M.G.", "MG"); });
    window.settle();
    QAction* kept = nullptr;
    for (auto* a : offered(window, "restorePoints"))
        if (a->text().startsWith("before the merge")) kept = a;
    REQUIRE(kept);
    REQUIRE(kept->menu()->actions().size() == 3);
    RestorePoint point;
    for (const auto& p : restorePointsOf(folder.filePath("site.gpkg").toStdString()))
        if (p.name == "before the merge") point = p;
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& s) { said = s; });
    const auto pdf = folder.filePath("changes.pdf");
    window->projects()->compareTo(QString::fromStdString(point.file.string()), "then", pdf);
    waitFor("the document", [&] { return window->projects()->settled() && QFile::exists(pdf); });
    CHECK(readBytes(pdf.toStdString()).starts_with("%PDF"));
    waitFor("a word", [&] { return said.contains("What changed since then"); });
    window->projects()->compareTo(folder.filePath("gone.gpkg"), "then", pdf);
    waitFor("a refusal", [&] { return window->projects()->settled() && said.contains("gone.gpkg"); });
    // it can be opened to look at, and not changed
    MainWindow beside;
    beside.projects()->open(QString::fromStdString(point.file.string()));
    beside.show();
    waitFor("the old state", [&] { return beside.session().path().endsWith("before the merge.gpkg") && beside.settled(); });
    CHECK_FALSE(beside.session().readOnlyBecause().isEmpty());
    CHECK_FALSE(beside.session().project().sequence->aliases.contains("M.G."));
    CHECK(restorePointsOf(point.file).empty()); // looking at it makes none of its own
}

TEST_CASE("Several kinds are exported in one run, and files that are there are asked about once", "[window][files]") {
    DemoWindow window("model");
    const QTemporaryDir folder;
    ExportDialog dialog(asking(*window), &*window);
    dialog.setFolder(folder.path());
    dialog.show();
    auto* go = child<QPushButton>(&dialog, "exportButton");
    auto* result = child<QPlainTextEdit>(&dialog, "exportResult");
    const auto write = [&] {
        click(go, {10, 8});
        waitFor("the files", [&] { return dialog.settled() && go->isEnabled(); });
    };
    tickAlone(dialog, {});
    CHECK_FALSE(go->isEnabled()); // nothing is ticked
    tickAlone(dialog, {"ground", "bases", "trial-columns"});
    write();
    CAPTURE(result->toPlainText().toStdString());
    CHECK(result->toPlainText().contains("ground.tif"));
    CHECK(result->toPlainText().contains("base_TL.tif"));
    CHECK(result->toPlainText().contains("no predicted log")); // the others are written all the same
    picture(&dialog, "export_dialog");
    const auto before = QFileInfo(folder.filePath("ground.tif")).lastModified();
    QFile(folder.filePath("base_TL.tif")).remove();
    {
        const ModalAnswers box("replaceBox", [](QWidget* asked) {
            CHECK(static_cast<QMessageBox*>(asked)->informativeText().contains("ground.tif"));
            CHECK_FALSE(static_cast<QMessageBox*>(asked)->informativeText().contains("base_TL.tif"));
            answer(asked, "Cancel");
        });
        write();
        CHECK(box.count() == 1);
    }
    CHECK(QFileInfo(folder.filePath("ground.tif")).lastModified() == before);
    CHECK_FALSE(QFile::exists(folder.filePath("base_TL.tif"))); // all or none
    CHECK(result->toPlainText().contains("Nothing was written"));
    CHECK(QDir(folder.path()).entryList(QDir::Files | QDir::Hidden).filter("scratch").isEmpty());
    const ModalAnswers box("replaceBox", [](QWidget* asked) { answer(asked, "Replace"); });
    write();
    CHECK(QFile::exists(folder.filePath("base_TL.tif")));
}

TEST_CASE("The export dialog remembers its folder and its ticks, and shows where a relative folder is", "[window][files]") {
    DemoWindow window("model");
    const QTemporaryDir folder;
    {
        ExportDialog dialog(asking(*window), &*window);
        dialog.setFolder(folder.path());
        dialog.show();
        tickAlone(dialog, {"holes"});
        auto* as = child<QComboBox>(&dialog, "as_holes");
        as->setCurrentIndex(as->findData("gpkg"));
        click(child<QPushButton>(&dialog, "exportButton"), {10, 8});
        waitFor("the file", [&] { return QFile::exists(folder.filePath("holes.gpkg")) && dialog.settled(); });
    }
    ExportDialog dialog(asking(*window), &*window);
    dialog.show();
    CHECK(child<QLineEdit>(&dialog, "exportFolder")->text() == folder.path());
    CHECK(child<QComboBox>(&dialog, "as_holes")->currentData() == "gpkg");
    auto* list = child<QTreeWidget>(&dialog, "exportKinds");
    for (int i = 0; i < list->topLevelItemCount(); ++i) {
        const auto* item = list->topLevelItem(i);
        CHECK((item->checkState(0) == Qt::Checked) == (item->data(0, Qt::UserRole) == "holes"));
    }
    auto* field = child<QLineEdit>(&dialog, "exportFolder");
    QApplication::setActiveWindow(&dialog);
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, "out/surfaces");
    press(field, Qt::Key_Tab);
    CHECK(field->text() == QDir::homePath() + "/out/surfaces");
    tickAlone(dialog, {"ground"});
}

TEST_CASE("The program's own table of units is taken for what it is when it is dropped", "[window][files]") {
    DemoWindow window("sequence");
    const QTemporaryDir folder;
    const auto table = folder.filePath("interpretation.csv");
    writeBytes(table.toStdString(), "hole,unit,top,base,kind\nQB101,TL,,4.25,pick\n");
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    const auto before = window.project().holes;
    dropFiles(&*window, {table});
    window.settle();
    CHECK(window->findChild<QDialog*>("importSheet") == nullptr);
    CHECK(window.project().holes == before); // no hole is touched
    CHECK(said.contains("1 pick"));
    REQUIRE(window.project().interpretation->picks.size() == 1);
    CHECK(window.project().interpretation->picks.front().unit == "TL");
}

TEST_CASE("A project among dropped files is offered to be opened, not read as lines", "[window][files]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const auto other = folder.filePath("other.gpkg");
    copyDemoProject(other);
    const auto own = window->session().path();
    const ModalAnswers box("projectAsDataBox", [&](QWidget* asked) { answer(asked, "Cancel"); });
    dropFiles(&*window, {other, FOX_DEMO "/dips.csv"});
    waitFor("the question", [&] { return box.count() == 1; });
    auto* sheet = window->findChild<QDialog*>("importSheet");
    REQUIRE(sheet);
    CHECK(sheet->isVisible()); // the other file
    window.settle();
    sheet->reject();
    CHECK(window->session().path() == own);
}

TEST_CASE("Return imports the file, and a long name pushes no button off the sheet", "[window][files]") {
    DemoWindow window("holes");
    const QTemporaryDir folder;
    const auto path = folder.filePath("survey_" + QString("a_very_long_name_").repeated(12) + ".csv");
    writeBytes(path.toStdString(), "point,easting,northing,level,code\n1,480700,6120300,30,SP\n2,480710,6120300,30,SP\n");
    dropFiles(&*window, {path});
    auto* sheet = importSheet(*window);
    auto* import = child<QPushButton>(sheet, "importButton");
    CHECK(import->hasFocus());
    CHECK(sheet->width() <= 1000);
    const auto sources = window.project().ground->points.size();
    press(sheet->focusWidget(), Qt::Key_Return);
    waitFor("the file", [&] { return window.project().ground->points.size() == sources + 1; });
    window.settle();
}

TEST_CASE("A first project is to be given a name when it has data", "[window][files]") {
    QSettings().remove("lastProject");
    QFile::remove(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/New project.gpkg");
    MainWindow window;
    window.projects()->openLast();
    window.show();
    waitFor("an empty project", [&] { return window.settled() && !window.session().path().isEmpty(); });
    auto* banner = child<QFrame>(&window, "banner");
    CHECK_FALSE(banner->isVisible());
    window.session().apply([](const Project& p) {
        Edited e{p, "A hole"};
        Hole h;
        h.id = "H1", h.easting = 480000, h.northing = 6120000;
        Holes holes;
        holes.push_back(h);
        e.project.holes = part(std::move(holes));
        return e;
    });
    waitFor("the banner", [&] { return banner->isVisible(); });
    CHECK(child<QLabel>(banner, "bannerWords")->text().contains("no name"));
    const QTemporaryDir folder;
    const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, folder.filePath("ours")); });
    child<QPushButton>(banner, "bannerSaveAs")->click();
    waitFor("the project under its name", [&] { return window.session().path() == folder.filePath("ours.gpkg"); });
    waitFor("the banner to go", [&] { return !banner->isVisible(); });
}

TEST_CASE("A last project that is gone is said", "[window][files]") {
    QSettings().setValue("lastProject", "/nowhere/gone.gpkg");
    MainWindow window;
    QString said;
    QObject::connect(&window, &MainWindow::said, [&](const QString& words) {
        if (words.contains("gone.gpkg")) said = words;
    });
    window.projects()->openLast();
    waitFor("another project", [&] { return window.settled() && !window.session().path().isEmpty(); });
    waitFor("the words", [&] { return !said.isEmpty(); });
    CHECK(said.contains("no longer there"));
}

TEST_CASE("Files that would be replaced are listed once, the first dozen by name", "[files]") {
    const QTemporaryDir folder;
    std::vector<std::filesystem::path> files;
    for (int i = 0; i < 15; ++i) {
        files.emplace_back(folder.filePath(QString("base_%1.tif").arg(i, 2, 10, QChar('0'))).toStdString());
        writeBytes(files.back(), "x");
    }
    files.emplace_back(folder.filePath("new.tif").toStdString());
    QWidget parent;
    parent.show();
    QString listed, title;
    {
        const ModalAnswers box("replaceBox", [&](QWidget* asked) {
            listed = static_cast<QMessageBox*>(asked)->informativeText();
            title = static_cast<QMessageBox*>(asked)->text();
            answer(asked, "Replace");
        });
        CHECK(mayReplace(files, &parent));
        CHECK(box.count() == 1);
    }
    CHECK(title.contains("15 files"));
    CHECK(listed.contains("base_00.tif"));
    CHECK(listed.contains("base_11.tif"));
    CHECK_FALSE(listed.contains("base_12.tif"));
    CHECK(listed.contains("and 3 more"));
    CHECK_FALSE(listed.contains("new.tif"));
    for (const char* way : {"Cancel", ""}) { // the button, or the window's own close
        const ModalAnswers box("replaceBox", [&](QWidget* asked) { *way ? answer(asked, way) : void(asked->close()); });
        CHECK_FALSE(mayReplace({files.front()}, &parent));
        CHECK(box.count() == 1);
    }
    const ModalAnswers none("replaceBox", [](QWidget* asked) { asked->close(); });
    CHECK(mayReplace({files.back()}, &parent)); // it is not there
    CHECK(mayReplace({}, &parent));
    CHECK(none.count() == 0);
}

TEST_CASE("A save dialog keeps the ending of any kind that it offers, and adds that of the chosen kind", "[files]") {
    const QTemporaryDir folder;
    QWidget parent;
    parent.show();
    const QString kinds = "PNG (*.png);;PDF (*.pdf);;Grids (*.tif *.asc)";
    for (const auto& [typed, filter, path] : {std::tuple{"a", "", "a.png"},
                                              {"a.pdf", "", "a.pdf"},
                                              {"a.ASC", "", "a.ASC"},
                                              {"site 1.5", "", "site 1.5.png"},
                                              {"b", "PDF (*.pdf)", "b.pdf"},
                                              {"b", "Grids (*.tif *.asc)", "b.tif"}}) {
        const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) {
            if (*filter) {
                static_cast<QFileDialog*>(dialog)->selectNameFilter(filter);
                emit static_cast<QFileDialog*>(dialog)->filterSelected(filter);
            }
            typeFileName(dialog, folder.filePath(typed));
        });
        CAPTURE(typed, filter);
        CHECK(askSaveFile(&parent, "Save", "kinds", "a.png", kinds, "png") == folder.filePath(path));
    }
}

TEST_CASE("A save dialog that is cancelled writes nothing, and the folder is remembered for its purpose", "[files]") {
    const QTemporaryDir folder;
    QWidget parent;
    parent.show();
    {
        const ModalAnswers name("saveFileDialog", [](QWidget* dialog) { static_cast<QDialog*>(dialog)->reject(); });
        CHECK(askSaveFile(&parent, "Save", "trial", "a.csv", "CSV (*.csv)", "csv").isEmpty());
        CHECK(name.count() == 1);
    }
    {
        const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, folder.filePath("first")); });
        CHECK(askSaveFile(&parent, "Save", "trial", "a.csv", "CSV (*.csv)", "csv") == folder.filePath("first.csv"));
    }
    const auto folderOf = [&](const char* purpose) {
        QString at;
        const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) {
            at = static_cast<QFileDialog*>(dialog)->directory().absolutePath();
            static_cast<QDialog*>(dialog)->reject();
        });
        askSaveFile(&parent, "Save", purpose, "a.csv", "CSV (*.csv)", "csv");
        return at;
    };
    CHECK(folderOf("trial") == folder.path());
    CHECK(folderOf("another") != folder.path());
    // the file beside it is asked about too
    writeBytes(folder.filePath("both.tif").toStdString(), "x");
    const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) {
        static int times = 0;
        if (times++ == 0)
            typeFileName(dialog, folder.filePath("both.csv"));
        else
            static_cast<QDialog*>(dialog)->reject();
    });
    const ModalAnswers box("replaceBox", [&](QWidget* asked) {
        CHECK(static_cast<QMessageBox*>(asked)->informativeText() == folder.filePath("both.tif"));
        answer(asked, "Cancel");
    });
    CHECK(askSaveFile(&parent, "Save", "trial", "a.csv", "CSV (*.csv)", "csv", {"tif"}).isEmpty());
    CHECK(box.count() == 1);
}
