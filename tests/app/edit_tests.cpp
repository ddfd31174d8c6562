// Edits: each is made of the newest version, whatever the widgets last saw worked out.
#include "harness.h"

#include "project/ground_edits.h"
#include "project/hole_edits.h"
#include "project/sequence_edits.h"
#include "stages/shelf.h"
#include "views/plan_view.h"
#include "views/table_model.h"
#include "views/table_view.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHeaderView>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QTableView>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// A widget's edit, and whether the project has it.
struct Step {
    const char* stage;
    std::function<void()> make;
    std::function<bool(const Project&)> done;
};

std::vector<Step> tenSteps(DemoWindow& window) {
    const auto unit = [](const Project& p, const char* code) -> const Unit& {
        return p.sequence->units[*p.sequence->index(code)];
    };
    return {
        {"ground", [&] { child<QCheckBox>(shelf(window), "code_GL")->click(); },
         [](const Project& p) { return p.ground->codesOut.contains("GL"); }},
        {"ground", [&] { child<QCheckBox>(shelf(window), "code_RD")->click(); },
         [](const Project& p) { return p.ground->codesOut.contains("RD"); }},
        {"ground", [&] { child<QCheckBox>(shelf(window), "useHoleLevels")->click(); },
         [](const Project& p) { return !p.ground->holeLevels; }},
        {"ground", [&] { typeInto(child<QDoubleSpinBox>(shelf(window), "contourInterval"), "2"); },
         [](const Project& p) { return p.contours->interval == 2; }},
        {"ground", [&] { child<QCheckBox>(shelf(window), "contoursSmooth")->click(); },
         [](const Project& p) { return p.contours->smooth; }},
        {"holes",
         [&] {
             auto* model = window.view<TableView>()->table()->model();
             for (int r = 0; r < model->rowCount(); ++r)
                 if (model->index(r, HoleName).data() == "QB101")
                     model->setData(model->index(r, HoleLevelColumn), "31.5", Qt::EditRole);
         },
         [](const Project& p) { return findHole(*p.holes, "QB101")->level == Level{31.5}; }},
        {"holes", [&] { child<QPushButton>(shelf(window), "leaveOut")->click(); },
         [](const Project& p) { return findHole(*p.holes, "QB105")->excluded; }},
        {"holes", [&] { typeInto(child<QLineEdit>(shelf(window), "editDepth"), "40"); },
         [](const Project& p) { return findHole(*p.holes, "QB105")->finalDepth == Depth{40}; }},
        {"sequence", [&] { typeInto(child<QLineEdit>(shelf(window), "unitName"), "Gravel of the beck"); },
         [unit](const Project& p) { return unit(p, "RG").name == "Gravel of the beck"; }},
        {"model",
         [&] {
             auto* method = child<QComboBox>(shelf(window), "methodChoice");
             const int inverse = 1 + int(Method::InverseDistance); // behind the automatic one
             method->setCurrentIndex(inverse);
             emit method->activated(inverse);
         },
         [unit](const Project& p) { return unit(p, "RG").recipe.settings.method == Method::InverseDistance; }},
    };
}

/// Makes all steps on what was last worked out, and checks that each is there, in order, and can be taken back alone.
void makeAndUndo(DemoWindow& window) {
    const auto steps = tenSteps(window);
    const auto before = window.project();
    std::size_t made = 0;
    for (const auto& step : steps) {
        CAPTURE(made, step.stage);
        window->showStage(step.stage);
        QCoreApplication::processEvents();
        const auto products = window->session().products();
        step.make();
        CHECK(step.done(window.project()));
        CHECK(window->session().products() == products); // nothing was worked out meanwhile
        ++made;
    }
    for (const auto& step : steps) CHECK(step.done(window.project()));
    for (auto step = steps.rbegin(); step != steps.rend(); ++step) {
        CAPTURE(made, step->stage);
        window->session().undo();
        CHECK_FALSE(step->done(window.project()));
        for (auto earlier = step + 1; earlier != steps.rend(); ++earlier) CHECK(earlier->done(window.project()));
        --made;
    }
    CHECK(sameVersion(window.project(), before));
}

} // namespace

TEST_CASE("Ten edits from ten widgets that saw none of the others are all there, in order, each undoable", "[window][edits]") {
    DemoWindow window("ground");
    window->selection().setHole("QB105");
    window->selection().setUnit("RG");
    window.settle();
    window->session().holdWork(true);
    makeAndUndo(window);
    window->session().holdWork(false);
    window.settle();
    CHECK(sameValue(ProjectStore::read(window->session().path().toStdString()), window.project()));
}

TEST_CASE("Edits made after Stop take nothing back", "[window][edits]") {
    DemoWindow window("ground");
    window->selection().setHole("QB105");
    window->selection().setUnit("RG");
    window.settle();
    window->session().apply([](const Project& p) { return setCodeUsed(p, "SP", false); });
    window->session().holdWork(true); // as after Stop: what is shown stays as it was
    waitFor("the save", [&] { return window->session().finishSaving(); });
    makeAndUndo(window);
    CHECK(window.project().ground->codesOut.contains("SP"));
    window->session().holdWork(false);
    window.settle();
    CHECK(window->session().products()->project.ground->codesOut == std::set<std::string>{"SP"});
}

TEST_CASE("An edit whose object is gone says so and changes nothing", "[window][edits]") {
    DemoWindow window("sequence");
    window->selection().setUnit("RG");
    window.settle();
    window->session().holdWork(true);
    window->session().apply([](const Project& p) { return removeUnit(p, "RG"); });
    const auto now = window.project();
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    typeInto(child<QLineEdit>(shelf(window), "unitName"), "Gone");
    CHECK(said.contains("no unit RG"));
    CHECK(sameVersion(window.project(), now));
    window->showStage("model");
    said.clear();
    child<QPushButton>(shelf(window), "freezeBase")->click();
    CHECK(said.contains("no unit RG"));
    CHECK(sameVersion(window.project(), now));
    window->session().holdWork(false);
    window.settle();
}

TEST_CASE("A base that no hole shows is frozen as it is: where holes only limit it, it has levels to keep", "[window][edits]") {
    DemoWindow window("model");
    window->session().apply([](const Project& p) {
        Unit nowhere;
        nowhere.code = "NW", nowhere.name = "Nowhere";
        return addUnit(p, nowhere, 3);
    });
    window->selection().setUnit("NW");
    window.settle();
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    child<QPushButton>(shelf(window), "freezeBase")->click();
    window.settle();
    REQUIRE(window.project().fixedBases->contains("NW"));
    CHECK_FALSE(said.contains("no level to keep"));
    CHECK(child<QPushButton>(shelf(window), "releaseBase")->isVisible());
}

TEST_CASE("A panel keeps its scroll position, its focus and what is being typed when the project changes", "[window][edits]") {
    DemoWindow window("ground");
    auto* panel = shelf(window);
    auto* bar = panel->findChild<QScrollArea*>()->verticalScrollBar();
    auto* last = child<QCheckBox>(panel, "showPoints");
    panel->findChild<QScrollArea*>()->ensureWidgetVisible(last);
    QCoreApplication::processEvents();
    const int scrolled = bar->value();
    REQUIRE(scrolled > 100);
    auto* smooth = child<QCheckBox>(panel, "contoursSmooth");
    smooth->setFocus();
    QTest::keyClick(smooth, Qt::Key_Space);
    window.settle();
    CHECK(window.project().contours->smooth);
    CHECK(bar->value() == scrolled);
    CHECK(child<QCheckBox>(panel, "contoursSmooth")->hasFocus());
    // half a number typed while another edit comes in
    auto* interval = child<QDoubleSpinBox>(panel, "contourInterval");
    interval->setFocus();
    QTest::keyClick(interval, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(interval, "2.");
    window->session().apply([](const Project& p) { return setCodeUsed(p, "SP", false); });
    window.settle();
    auto* now = child<QDoubleSpinBox>(panel, "contourInterval");
    CHECK(now->hasFocus());
    CHECK(now->findChild<QLineEdit*>()->text().startsWith("2."));
    QTest::keyClicks(now, "5");
    QTest::keyClick(now, Qt::Key_Return);
    CHECK(window.project().contours->interval == 2.5);
}

TEST_CASE("A value typed wrongly is refused in words, and the field shows what the project has", "[window][edits]") {
    DemoWindow window("holes");
    window->selection().setHole("QB105");
    window.settle();
    const auto before = child<QLineEdit>(shelf(window), "editLevel")->text();
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    typeInto(child<QLineEdit>(shelf(window), "editLevel"), "high");
    CHECK(said.contains("high"));
    CHECK(child<QLineEdit>(shelf(window), "editLevel")->text() == before);
    CHECK_FALSE(window->session().history().canUndo());
}

TEST_CASE("A thousand cells pasted among ten thousand holes are one edit, each hole that they touch copied once",
          "[window][edits]") {
    DemoWindow window("holes");
    constexpr int kHoles = 10'000, kRows = 500;
    window->session().apply([](const Project& p) {
        Edited e{p, "Many holes"};
        Holes holes;
        for (int i = 0; i < kHoles; ++i) {
            Hole h;
            h.id = fmt::format("H{:05}", i), h.project = "many";
            h.easting = 480000 + i % 100, h.northing = 6120000 + i / 100;
            holes.push_back(h);
        }
        e.project.holes = part(std::move(holes));
        return e;
    });
    window.settle();
    auto* table = window.view<TableView>()->table();
    REQUIRE(table->model()->rowCount() == kHoles);
    const auto before = window.project();
    QString rows;
    for (int i = 0; i < kRows; ++i) rows += QString("%1\t%2\n").arg(480500 + i).arg(6120500 + i);
    QGuiApplication::clipboard()->setText(rows);
    table->setFocus();
    table->setCurrentIndex(table->model()->index(3, HoleEasting));
    press(table, Qt::Key_V, Qt::ControlModifier);
    CHECK(window->session().history().undoLabel() == "Paste 1,000 values"); // applied before anything is worked out
    const auto after = window.project();
    int copied = 0;
    for (std::size_t i = 0; i < kHoles; ++i) copied += before.holes->shared(i) != after.holes->shared(i);
    CHECK(copied == kRows);
    CHECK(after.holes->at(3).easting == 480500);
    CHECK(after.holes->at(502).northing == 6120500 + 499);
    window.settle();
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(sameVersion(window.project(), before));
}

TEST_CASE("The site limit is drawn on the plan, seen on the panel, and removed from its menu", "[window][edits]") {
    DemoWindow window("site");
    const auto before = window.project().site->limit;
    auto* plan = window.view<PlanView>();
    plan->startDrawing(PlanView::Drawing::SiteLimit);
    for (const auto& p : {Point2{480300, 6120200}, {481200, 6120200}, {481200, 6120800}}) click(plan, plan->screenOf(p));
    press(plan, Qt::Key_Return);
    window.settle();
    CHECK(window.project().site->limit.size() == 3);
    CHECK(window->session().products()->terrain->levelAt({481000, 6120300}));
    CHECK_FALSE(window->session().products()->terrain->levelAt({480400, 6120700}));
    // two corners are no area: said, and nothing changes
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    plan->startDrawing(PlanView::Drawing::SiteLimit);
    for (const auto& p : {Point2{480300, 6120200}, {481200, 6120200}}) click(plan, plan->screenOf(p));
    press(plan, Qt::Key_Return);
    window.settle();
    CHECK(window.project().site->limit.size() == 3);
    press(plan, Qt::Key_Escape);
    auto* menu = child<QPushButton>(shelf(window), "siteLimit")->menu();
    REQUIRE(menu);
    for (auto* action : menu->actions())
        if (action->text() == "Remove it") action->trigger();
    window.settle();
    CHECK(window.project().site->limit.empty());
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(window.project().site->limit == before);
}

TEST_CASE("A value of units of one's own is a column: filled, refused where it can't be, and removed", "[window][edits]") {
    DemoWindow window("sequence");
    window->session().apply([](const Project& p) { return addUnitValueKind(p, "Cohesion", "kPa"); });
    window.settle();
    auto* table = child<QTableView>(&*window, "unitsTable");
    auto* model = table->model();
    const auto column = [&](const QString& words) {
        for (int c = 0; c < model->columnCount(); ++c)
            if (model->headerData(c, Qt::Horizontal).toString().contains(words)) return c;
        return -1;
    };
    const int cohesion = column("Cohesion"), porosity = column("Porosity");
    REQUIRE(cohesion > 0);
    REQUIRE(porosity > 0);
    // its heading is seen whole
    CHECK(table->columnWidth(cohesion) >= table->horizontalHeader()->sectionSizeHint(cohesion));
    CHECK(model->setData(model->index(4, cohesion), "12.5", Qt::EditRole));
    QCoreApplication::processEvents(); // the edit is made once the editor has closed
    window.settle();
    const auto& gravel = window.project().sequence->units[4];
    const auto key = window.project().sequence->ownValues.front().key;
    REQUIRE(gravel.values.contains(key));
    CHECK(gravel.values.at(key) == 12.5);
    CHECK(model->index(4, cohesion).data().toString().startsWith("12.5"));
    model->setData(model->index(4, porosity), "7", Qt::EditRole); // a share of 1
    QCoreApplication::processEvents();
    window.settle();
    CHECK_FALSE(window.project().sequence->units[4].values.contains("porosity"));
    CHECK(sameValue(ProjectStore::read(window->session().path().toStdString()), window.project()));
    window->session().apply([](const Project& p) { return removeUnitValueKind(p, p.sequence->ownValues.front().key); });
    window.settle();
    CHECK(column("Cohesion") == -1);
    CHECK_FALSE(window.project().sequence->units[4].values.contains(key));
}
