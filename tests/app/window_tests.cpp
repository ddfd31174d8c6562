#include "harness.h"
#include "shell/findings_strip.h"

#include "dialogs/export_dialog.h"
#include "dialogs/import_sheet.h"
#include "dialogs/source_sheet.h"
#include "shell/find_box.h"
#include "shell/stage_column.h"
#include "views/block_view.h"
#include "views/log_view.h"
#include "views/plan_view.h"
#include "views/section_view.h"
#include "views/table_view.h"

#include <QAbstractItemModelTester>
#include <QComboBox>
#include <QLabel>
#include <QListView>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QProcess>
#include <QPushButton>
#include <QTableView>
#include <QTemporaryDir>
#include <QtTest>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {
const QString kLater = FOX_DEMO "/phase3_later.ags";
} // namespace

TEST_CASE("The demo shows plan, table, log, section and block at once", "[window]") {
    DemoWindow window;
    CHECK(window.view<TableView>()->table()->model()->rowCount() == 42);
    CHECK(window.view<PlanView>()->summary().contains("contours"));
    CHECK(window.view<SectionView>()->summary().contains("6 holes"));
    CHECK(window.view<LogView>()->summary().contains("QB102")); // something is selected from the start
    CHECK(window.view<BlockView>()->products() == window->session().products());
    CHECK(child<QPushButton>(&*window, "findingCounts")->text().contains("7 warnings"));
    CHECK_FALSE(window->session().history().canUndo());
}

TEST_CASE("A hole picked on the plan is picked everywhere", "[window]") {
    DemoWindow window;
    auto* plan = window.view<PlanView>();
    const auto* hole = findHole(*window.project().holes, "R06");
    click(plan, plan->screenOf(*hole->place()));
    CHECK(window->selection().hole() == "R06");
    CHECK(window.view<LogView>()->summary().startsWith("R06"));
    auto* table = window.view<TableView>()->table();
    CHECK(table->model()->index(table->currentIndex().row(), 0).data().toString() == "R06");
    // and from the table, by key
    table->setFocus();
    press(table, Qt::Key_Down);
    CHECK(window->selection().hole() == "R07");
    CHECK(window.view<LogView>()->summary().startsWith("R07"));
    click(plan, QPointF(3, 3));
    CHECK(window->selection().hole().isEmpty());
}

TEST_CASE("A dropped AGS file is understood, imported, followed by the surfaces, and undone", "[window]") {
    DemoWindow window;
    const auto before = window->session().products();
    dropFiles(&*window, {kLater});
    auto* sheet = importSheet(*window);
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("5 holes"));
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("AGS 4.1"));
    CHECK(window.holes() == 42); // nothing enters before it is said
    picture(sheet, "import");
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    window.settle();
    CHECK(window.holes() == 47);
    CHECK(window.view<TableView>()->table()->model()->rowCount() == 47);
    const auto after = window->session().products();
    const auto rg = *after->project.sequence->index("RG");
    CHECK(after->model->bases[rg] != before->model->bases[rg]);
    CHECK(after->sections[0] != before->sections[0]);
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(window.holes() == 42);
    CHECK(window->session().products()->model == before->model);
    CHECK(window.view<TableView>()->table()->model()->rowCount() == 42);
    press(&*window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    window.settle();
    CHECK(window.holes() == 47);
    // the same file again: there is nothing new in it
    dropFiles(&*window, {kLater});
    CHECK(child<QLabel>(importSheet(*window), "importFacts")->text().contains("has this file already"));
    CHECK_FALSE(child<QPushButton>(importSheet(*window), "importButton")->isEnabled());
}

TEST_CASE("A dropped file that is no data says so and changes nothing", "[window]") {
    DemoWindow window;
    QTemporaryDir folder;
    const auto write = [&](const char* name, const QByteArray& bytes) {
        QFile file(folder.filePath(name));
        REQUIRE(file.open(QIODevice::WriteOnly));
        file.write(bytes);
        return file.fileName();
    };
    for (const auto& [path, words] :
         {std::pair{write("empty.ags", ""), "empty.ags is empty"},
          {write("letter.csv", "Dear Sir,\nno numbers here\n"), "not a table of holes or survey points"},
          {folder.filePath("gone.ags"), "can't be opened"}}) {
        dropFiles(&*window, {path});
        auto* sheet = importSheet(*window);
        CHECK(child<QLabel>(sheet, "importFacts")->text().contains(words));
        CHECK_FALSE(child<QPushButton>(sheet, "importButton")->isEnabled());
        sheet->reject();
        waitFor("the sheet to go", [&] { return window->findChild<QDialog*>("importSheet") == nullptr; });
    }
    CHECK_FALSE(window->session().history().canUndo());
}

TEST_CASE("A survey with bad lines comes in, and its findings stay in sight", "[window]") {
    DemoWindow window("ground");
    QTemporaryDir folder;
    QFile file(folder.filePath("more.csv"));
    REQUIRE(file.open(QIODevice::WriteOnly));
    file.write("point,easting,northing,level\n1,480500,6120500,25.1\n2,48x,6120500,25\n3,480520,6120520,25.4\n");
    file.close();
    const auto triangles = window->session().products()->terrain->tin.triangles().size();
    dropFiles(&*window, {file.fileName()});
    auto* sheet = importSheet(*window);
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("Survey points: 2"));
    click(child<QPushButton>(sheet, "importButton"), {10, 10});
    window.settle();
    CHECK(window->session().products()->terrain->tin.triangles().size() == triangles + 4);
    const auto& findings = *window->session().products()->findings;
    CHECK(std::ranges::any_of(findings, [](const Finding& f) { return f.file == "more.csv" && f.line == 3; }));
}

TEST_CASE("A section line drawn on the plan makes a section; undo takes it back", "[window]") {
    DemoWindow window;
    auto* plan = window.view<PlanView>();
    press(&*window, Qt::Key_L, Qt::ControlModifier);
    REQUIRE(plan->drawing());
    click(plan, plan->screenOf({480200, 6120800}));
    click(plan, plan->screenOf({480700, 6120500}));
    const auto last = plan->screenOf({481200, 6120300}).toPoint();
    click(plan, last);
    press(plan, Qt::Key_Return);
    window.settle();
    REQUIRE(window.project().sections->size() == 4);
    const auto& line = window.project().sections->back().line;
    CHECK(line.size() == 3);
    CHECK(line[0].x == Approx(480200).margin(5)); // a pixel or two
    CHECK(window->selection().section() == 3);
    CHECK(window.view<SectionView>()->summary().startsWith("D to D"));
    CHECK(window->session().products()->sections.size() == 4);
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(window.project().sections->size() == 3);
    // given up half-way: nothing happens
    press(&*window, Qt::Key_L, Qt::ControlModifier);
    click(plan, plan->screenOf({480200, 6120800}));
    press(plan, Qt::Key_Escape);
    CHECK_FALSE(plan->drawing());
    CHECK(window.project().sections->size() == 3);
}

TEST_CASE("Closed and opened again, all is as it was", "[window]") {
    const QTemporaryDir folder;
    const auto path = folder.filePath("p.gpkg");
    Project left;
    {
        DemoWindow window("holes", path);
        dropFiles(&*window, {kLater});
        click(child<QPushButton>(importSheet(*window), "importButton"), {10, 10});
        window.settle();
        window->session().apply([&](const Project& p) { return addSection(p, {{480100, 6120100}, {480900, 6120800}}); });
        window->selection().setHole("QB303");
        window->selection().setSection(3);
        window->selection().setExaggeration(9);
        left = window.project();
        window->close(); // while it may still be saving
    }
    MainWindow again;
    again.projects()->open(path);
    again.showStage("holes");
    again.show();
    waitFor("the work to be done", [&] { return again.settled(); });
    CHECK(sameValue(again.session().project(), left));
    CHECK(again.selection().hole() == "QB303");
    CHECK(again.selection().section() == 3);
    CHECK(again.selection().exaggeration() == 9);
    CHECK(again.page()->find<LogView>()->summary().startsWith("QB303"));
}

TEST_CASE("A project that is not one is refused in a box", "[window]") {
    DemoWindow window;
    window->projects()->open(FOX_DEMO "/breaklines.gpkg");
    QMessageBox* box = nullptr;
    waitFor("the box", [&] { return (box = window->findChild<QMessageBox*>()) != nullptr; });
    CHECK(box->text().contains("not one that Fox Cellar made"));
    box->close();
    CHECK(window.holes() == 42); // the open one stays
}

TEST_CASE("Stages by key, and anything by the find box", "[window]") {
    DemoWindow window;
    press(&*window, Qt::Key_5, Qt::AltModifier);
    CHECK(window->page()->find<TableView>() == nullptr);
    CHECK(window->page()->find<BlockView>() != nullptr);
    press(&*window, Qt::Key_2, Qt::AltModifier);
    CHECK(window->page()->find<TableView>() != nullptr);
    press(&*window, Qt::Key_K, Qt::ControlModifier);
    auto* find = child<FindBox>(&*window, "find");
    waitFor("the cursor in the find box", [&] { return find->hasFocus(); });
    QTest::keyClicks(find, "QB119");
    press(find, Qt::Key_Return);
    waitFor("the hole", [&] { return window->selection().hole() == "QB119"; });
    find->setFocus();
    QTest::keyClicks(find, "River Gravel");
    press(find, Qt::Key_Return);
    waitFor("the unit", [&] { return window->selection().unit() == "RG"; });
    auto* column = child<StageColumn>(&*window, "stageColumn");
    click(column, column->bandRect(0).center());
    CHECK(column->current() == 0);
}

TEST_CASE("The chosen finding stays chosen while others come and go", "[window]") {
    FindingsStrip strip;
    auto* list = child<QListView>(&strip, "findingList");
    const QAbstractItemModelTester tester(list->model(), QAbstractItemModelTester::FailureReportingMode::Fatal);
    const auto finding = [](Severity severity, const char* hole) {
        Finding f;
        f.severity = severity, f.rule = "FC-LEVEL", f.hole = hole, f.message = "It has no level.";
        return f;
    };
    const auto show = [&](Findings all) { strip.setFindings(std::make_shared<const Findings>(std::move(all))); };
    const auto a = finding(Severity::Warning, "A"), b = finding(Severity::Warning, "B"), c = finding(Severity::Error, "C");
    CHECK(list->model()->rowCount() == 0);
    show({a, b});
    CHECK(list->currentIndex().row() == 0);
    list->setCurrentIndex(list->model()->index(1, 0));
    show({c, a, b});
    CHECK(list->currentIndex().data().toString().contains("B"));
    CHECK(child<QPushButton>(&strip, "findingCounts")->text().contains("1 error"));
    show({c, a}); // it is gone: the worst is next
    CHECK(list->currentIndex().row() == 0);
    show({});
    CHECK(child<QPushButton>(&strip, "findingCounts")->text().contains("no findings"));
    Findings many(20000, a); // rows are made when they are looked at
    show(many);
    CHECK(list->model()->rowCount() == 20000);
}

TEST_CASE("A remedy of a finding is an edit like any other", "[window]") {
    DemoWindow window("holes");
    const double matched = window.made({ProductKind::Audit})->audit->matchedFraction;
    auto* counts = child<QPushButton>(&*window, "findingCounts");
    click(counts, {10, 8});
    auto* list = child<QListView>(&*window, "findingList");
    REQUIRE(list->isVisible());
    int row = 0;
    while (!list->model()->index(row, 0).data().toString().contains("M.G.")) REQUIRE(++row < list->model()->rowCount());
    list->setCurrentIndex(list->model()->index(row, 0));
    auto* remedy = child<QPushButton>(&*window, "remedy");
    CHECK(remedy->text() == "Merge into MG");
    click(remedy, {10, 8});
    window.settle();
    CHECK(window.project().sequence->aliases.at("M.G.") == "MG");
    CHECK(window.made({ProductKind::Audit})->audit->matchedFraction > matched);
    CHECK(child<QPushButton>(&*window, "undoButton")->toolTip().contains("Merge M.G. into MG"));
    click(child<QPushButton>(&*window, "undoButton"), {10, 8});
    window.settle();
    CHECK(window.project().sequence->aliases.empty());
}

TEST_CASE("A level is edited in the table, in place", "[window]") {
    DemoWindow window("holes");
    auto* table = window.view<TableView>()->table();
    int row = 0;
    while (table->model()->index(row, HoleName).data().toString() != "QB104") ++row;
    const auto index = table->model()->index(row, HoleLevelColumn);
    table->scrollTo(index);
    table->setCurrentIndex(index);
    table->edit(index);
    auto* editor = table->findChild<QLineEdit*>();
    REQUIRE(editor);
    editor->selectAll();
    QTest::keyClicks(editor, "30.62");
    press(editor, Qt::Key_Return);
    window.settle();
    CHECK(findHole(*window.project().holes, "QB104")->level == Level{30.62});
    CHECK(std::ranges::none_of(*window->session().products()->findings,
                               [](const Finding& f) { return f.rule == "FC-OFF-TERRAIN"; }));
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(findHole(*window.project().holes, "QB104")->level != Level{30.62});
}

TEST_CASE("A contact dragged in the log moves the surface", "[window]") {
    DemoWindow window("holes");
    window->selection().setHole("R06");
    auto* log = window.view<LogView>();
    const auto* hole = findHole(*window.project().holes, "R06");
    std::size_t gravel = 0;
    while (hole->intervals[gravel].codes.at("GEOL_GEOL") != "RG") ++gravel;
    const double from = hole->intervals[gravel].base.metres;
    const QPoint start(int(log->columnX() + 15), int(std::lround(log->yOf(from)))), end = start + QPoint(0, -14);
    const auto before = window->session().products();
    QTest::mousePress(log, Qt::LeftButton, Qt::NoModifier, start);
    QTest::mouseMove(log, start + QPoint(0, -7));
    QTest::mouseMove(log, end);
    QTest::mouseRelease(log, Qt::LeftButton, Qt::NoModifier, end);
    window.settle();
    const double to = findHole(*window.project().holes, "R06")->intervals[gravel].base.metres;
    CHECK(to < from);
    const auto rg = *window.project().sequence->index("RG");
    CHECK(window->session().products()->model->bases[rg] != before->model->bases[rg]);
    CHECK(window.made({ProductKind::Audit})->audit->worstDifference < 1e-4);
}

TEST_CASE("A method is changed on the card, and the surface follows", "[window]") {
    DemoWindow window("model");
    window->selection().setUnit("RG");
    picture(&*window, "unit");
    auto* method = child<QComboBox>(&*window, "methodChoice");
    method->setFocus();
    REQUIRE(method->currentText() == "Thin plate");
    const int next = method->currentIndex() + 1;
    press(method, Qt::Key_Down); // the panel may be filled anew by it: the box is looked up each time
    window.settle();
    CHECK(child<QComboBox>(&*window, "methodChoice")->currentIndex() == next);
    window.settle();
    const auto rg = *window.project().sequence->index("RG");
    CHECK(window.project().sequence->units[rg].recipe.settings.method == Method::Kriging);
    CHECK(window.made({ProductKind::Audit})->audit->boundsBroken == 0);
}

TEST_CASE("The coordinate system is said by its number; a wrong one is refused in words", "[window]") {
    DemoWindow window("site");
    const ModalAnswers box("systemBox", [](QWidget* asked) { answer(asked, "Only the name was wrong"); });
    auto* system = child<QLineEdit>(&*window, "systemEdit");
    system->setFocus();
    system->selectAll();
    QTest::keyClicks(system, "25832");
    press(system, Qt::Key_Return);
    window.settle();
    CHECK(window.project().site->crs == "EPSG:25832");
    system = child<QLineEdit>(&*window, "systemEdit");
    system->setFocus();
    system->selectAll();
    QTest::keyClicks(system, "4326"); // degrees
    press(system, Qt::Key_Return);
    window.settle();
    CHECK(window.project().site->crs == "EPSG:25832");
    CHECK(child<QLabel>(&*window, "workWords")->text().contains("not a known projected coordinate system"));
}

TEST_CASE("Exaggeration stays between 1 and 20", "[window]") {
    DemoWindow window("model");
    for (int i = 0; i < 30; ++i) press(&*window, Qt::Key_Up, Qt::ControlModifier);
    CHECK(window->selection().exaggeration() == 20);
    press(&*window, Qt::Key_1, Qt::ControlModifier);
    CHECK(window->selection().exaggeration() == 1);
    press(&*window, Qt::Key_Down, Qt::ControlModifier);
    CHECK(window->selection().exaggeration() == 1);
}

TEST_CASE("Surfaces are handed on from the export dialog", "[window]") {
    DemoWindow window("model");
    QTemporaryDir folder;
    ExportDialog dialog(asking(*window), &*window);
    dialog.setFolder(folder.path());
    dialog.show();
    tickAlone(dialog, {"ground"});
    click(child<QPushButton>(&dialog, "exportButton"), {10, 8});
    waitFor("the files are written", [&] { return dialog.settled(); });
    CHECK(child<QPlainTextEdit>(&dialog, "exportResult")->toPlainText().contains("ground.tif"));
    CHECK(QFile::exists(folder.filePath("ground.tif")));
}

TEST_CASE("The program writes a picture of a stage and leaves", "[window]") {
    QTemporaryDir folder;
    const auto picture = folder.filePath("model.png");
    QProcess program;
    program.start(FOX_APP, {"--demo", "--stage", "model", "--screenshot", picture, "--size", "1000x700"});
    REQUIRE(program.waitForFinished(120000));
    CHECK(program.exitStatus() == QProcess::NormalExit);
    CHECK(program.exitCode() == 0);
    const QImage image(picture);
    CAPTURE(program.readAllStandardError().toStdString());
    CHECK(image.width() == 1000);
    CHECK(image.height() == 700);
    program.start(FOX_APP, {"--demo", "--stage", "nowhere", "--screenshot", picture});
    REQUIRE(program.waitForFinished(120000));
    CHECK(program.exitCode() == 2);
}
