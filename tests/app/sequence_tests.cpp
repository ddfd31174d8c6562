#include "dialogs/hole_check_sheet.h"
#include "dialogs/sequence_sheet.h"
#include "harness.h"
#include "shell/pane.h"
#include "shell/sequence_actions.h"
#include "shell/stage_page.h"
#include "stages/plane_steps.h"
#include "stages/shelf.h"
#include "views/correlation_view.h"
#include "views/log_view.h"
#include "views/section_view.h"
#include "views/units_view.h"

#include <QAbstractItemModelTester>
#include <QCheckBox>
#include <QComboBox>
#include <QContextMenuEvent>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMimeData>
#include <QPushButton>
#include <QSlider>
#include <QTableView>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTest>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

std::string order(const Project& p) {
    std::string out;
    for (const auto& u : p.sequence->units) out += (out.empty() ? "" : " ") + u.code;
    return out;
}

/// The demo as it is before anybody has told the tills apart.
void forgetTheTills(DemoWindow& window) {
    Edited e{window.project(), "One till"};
    auto sequence = *window.project().sequence;
    std::erase_if(sequence.units, [](const Unit& u) { return u.code == "TU"; });
    for (auto& u : sequence.units)
        if (u.code == "TL") u.logged.clear();
    e.project.sequence = part(std::move(sequence));
    window->session().apply([&](const Project&) { return e; });
    window.settle();
}

/// The unit that a hole's interval from this depth on is read as.
std::string readAs(DemoWindow& window, const std::string& hole, double top) {
    const auto products = window->session().products();
    for (const auto& read : products->reading->holes)
        if (read.name == hole)
            for (const auto& i : read.intervals)
                if (i.top.metres <= top + 1e-6 && top < i.base.metres) return products->project.sequence->units[i.unit].code;
    return {};
}

SequenceSheet* openSheet(DemoWindow& window) {
    window->sequence()->openSheet();
    auto* sheet = window->sequence()->sheet();
    waitFor("the sheet", [&] { return sheet->isVisible() && sheet->settled(); });
    return sheet;
}

} // namespace

TEST_CASE("Holes stand side by side along the section, as they are understood", "[app][sequence]") {
    DemoWindow window("sequence");
    window.settle();
    auto* view = window.view<CorrelationView>();
    CHECK(view->holesShown().size() > 3);
    CHECK(view->summary().contains("along"));
    picture(&*window, "sequence");
    // all of them, in another order, hung from a contact, with a curve
    view->setOrder(CorrelationView::Order::ByEasting);
    CHECK(view->holesShown().size() > 30);
    const auto products = window->session().products();
    double before = 0;
    for (const auto& name : view->holesShown()) {
        const auto at = findHole(*products->project.holes, name.toStdString())->place()->x;
        CHECK(at >= before);
        before = at;
    }
    view->setOrder(CorrelationView::Order::AlongSection);
    const auto first = view->holesShown().front();
    view->moveHole(first, 1);
    CHECK(view->holesShown()[1] == first);
    view->setOrder(CorrelationView::Order::AlongSection);
    CHECK(view->holesShown().front() == first);
    view->setCurve("SPT N");
    view->hangFrom("RG");
    CHECK(view->summary().contains("flattened on the base of RG"));
    picture(view, "correlation_hung");
    view->hangFrom({});
    view->setSpacing(CorrelationView::Spacing::True);
    picture(view, "correlation_true");
}

TEST_CASE("A click on a log marks an interval; keys and menu say which unit it is", "[app][sequence]") {
    DemoWindow window("sequence");
    window.settle();
    auto* view = window.view<CorrelationView>();
    view->setOrder(CorrelationView::Order::ByEasting);
    // a hole with till
    std::string hole;
    Depth top, base;
    for (const auto& read : window->session().products()->reading->holes)
        for (const auto& i : read.hole->intervals)
            if (hole.empty() && i.usable() && readAs(window, read.name, i.top.metres) == "TL" && i.base.metres - i.top.metres > 2)
                hole = read.name, top = i.top, base = i.base;
    REQUIRE_FALSE(hole.empty());
    const auto at = view->screenOf(QString::fromStdString(hole), (top.metres + base.metres) / 2);
    click(view, at);
    CHECK(window->selection().hole().toStdString() == hole);
    CHECK(window->selection().unit() == "TL");
    press(view, Qt::Key_PageUp); // one unit younger: the sand lens
    window.settle();
    CHECK(readAs(window, hole, top.metres) == "SL");
    CHECK(window->session().history().undoLabel().find(hole) != std::string::npos);
    press(view, Qt::Key_Delete); // by its code again
    window.settle();
    CHECK(readAs(window, hole, top.metres) == "TL");
    CHECK(window.project().interpretation->intervals.empty());
    // the menu has every unit
    QContextMenuEvent asked(QContextMenuEvent::Mouse, at.toPoint(), view->mapToGlobal(at.toPoint()));
    QApplication::sendEvent(view, &asked);
    auto* menu = child<QMenu>(view, "correlationMenu");
    QAction* upper = nullptr;
    for (auto* a : menu->actions())
        if (a->text().startsWith("TU")) upper = a;
    REQUIRE(upper);
    upper->trigger();
    menu->close();
    window.settle();
    CHECK(readAs(window, hole, top.metres) == "TU");
    window->session().undo();
    window.settle();
    CHECK(readAs(window, hole, top.metres) == "TL");
}

TEST_CASE("Picking goes on from hole to hole until it is ended", "[app][sequence]") {
    DemoWindow window("sequence");
    auto* view = window.view<CorrelationView>();
    window->selection().setUnit("RG");
    window.settle();
    press(view, Qt::Key_P);
    for (int i = 0; i < 3; ++i) {
        const auto hole = view->holesShown()[i];
        REQUIRE(view->picking());
        click(view, view->screenOf(hole, findHole(*window.project().holes, hole.toStdString())->end().metres / 2));
        window.settle();
        CHECK(window.project().interpretation->picks.size() == std::size_t(i) + 1);
    }
    press(view, Qt::Key_P); // the same key ends it
    CHECK_FALSE(view->picking());
    click(view, view->screenOf(view->holesShown()[3], 1));
    window.settle();
    CHECK(window.project().interpretation->picks.size() == 3);
}

TEST_CASE("A base is picked on a log with a click; it is a contact at once", "[app][sequence]") {
    DemoWindow window("sequence");
    window.settle();
    auto* view = window.view<CorrelationView>();
    window->selection().setUnit({});
    QString said;
    QObject::connect(view, &View::failed, [&](const QString& words) { said = words; });
    press(view, Qt::Key_P);
    CHECK(said.contains("Choose a unit"));
    window->selection().setUnit("RG");
    press(view, Qt::Key_P);
    REQUIRE(view->picking());
    press(view, Qt::Key_Escape);
    CHECK_FALSE(view->picking());
    press(view, Qt::Key_P);
    const auto hole = view->holesShown().front();
    const double end = findHole(*window.project().holes, hole.toStdString())->end().metres;
    click(view, view->screenOf(hole, end / 2));
    window.settle();
    REQUIRE(window.project().interpretation->picks.size() == 1);
    const auto& pick = window.project().interpretation->picks[0];
    CHECK(pick.hole == hole.toStdString());
    CHECK(pick.unit == "RG");
    CHECK(pick.depth.metres == Approx(end / 2).margin(0.4)); // it may snap
    const auto products = window->session().products();
    const auto& contacts = *products->contacts[*products->project.sequence->index("RG")];
    CHECK(std::ranges::any_of(contacts, [&](const Contact& c) { return c.hole == pick.hole && c.byHand; }));
}

TEST_CASE("Units are put in order by dragging and edited in the table", "[app][sequence]") {
    DemoWindow window("sequence");
    window.settle();
    auto* units = window.view<UnitsView>();
    auto* model = units->table()->model();
    const QAbstractItemModelTester tester(model, QAbstractItemModelTester::FailureReportingMode::Fatal);
    const auto before = order(window.project());
    // row 1, Made Ground, is dropped over the topsoil
    std::unique_ptr<QMimeData> dragged(model->mimeData({model->index(1, 0)}));
    model->dropMimeData(dragged.get(), Qt::MoveAction, 0, 0, {});
    window.settle();
    CHECK(order(window.project()).starts_with("MG TS"));
    CHECK(window->session().history().undoLabel() == "Move MG over TS");
    window->session().undo();
    window.settle();
    CHECK(order(window.project()) == before);
    window->selection().setUnit("RG");
    CHECK(units->table()->currentIndex().row() == 4);
    for (auto* tool : units->tools())
        if (tool->text() == "down") tool->trigger();
    waitFor("the move", [&] { return order(window.project()) != before; });
    window.settle();
    CHECK(window.project().sequence->index("RG") == 5u);
    window->session().undo();
    window.settle();
    const auto set = [&](int column, const char* value) {
        const auto row = int(*window.project().sequence->index("RG"));
        model->setData(model->index(row, column), QString::fromUtf8(value), Qt::EditRole);
        QApplication::processEvents();
        window.settle();
    };
    const auto unit = [&]() -> const Unit& { return window.project().sequence->units[*window.project().sequence->index("RG")]; };
    set(UnitsModel::Least, "0.4");
    CHECK(unit().leastThickness == 0.4);
    set(UnitsModel::Crossing, "below TS 0.5");
    CHECK(unit().crossing.kind == CrossingRemedy::Kind::Below);
    CHECK(unit().crossing.metres == 0.5);
    set(UnitsModel::Crossing, "0.2 m");
    CHECK(unit().crossing.kind == CrossingRemedy::Kind::Thickness);
    set(UnitsModel::Water, "aquifer");
    CHECK(unit().water == WaterRole::Aquifer);
    set(UnitsModel::kFixedColumns, "1e-4");
    CHECK(unit().values.at("conductivity") == 1e-4);
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    set(UnitsModel::Crossing, "sideways");
    CHECK(said.contains("halfway"));
    set(UnitsModel::Code, "TS");
    CHECK(said.contains("already"));
    set(UnitsModel::Base, "laps");
    CHECK(unit().base == BaseRule::Laps);
    picture(&*window, "units");
}

TEST_CASE("The program tells one till from the other; the user takes what is sure", "[app][sequence]") {
    DemoWindow window("sequence");
    forgetTheTills(window);
    auto* sheet = openSheet(window);
    auto* table = child<QTableWidget>(sheet, "proposalTable");
    CHECK(table->rowCount() > 20);
    picture(sheet, "proposal");
    click(child<QPushButton>(sheet, "takeReadings"), {10, 8});
    window.settle();
    CHECK(window.project().sequence->index("TLU"));
    CHECK(window.project().sequence->index("TLL"));
    CHECK_FALSE(window.project().interpretation->intervals.empty());
    CHECK(window->session().history().undoLabel().find("as proposed") != std::string::npos);
    waitFor("the next proposal", [&] { return sheet->settled(); });
    CHECK(child<QPushButton>(sheet, "takeSplit")->isHidden()); // it is split now
    window->session().undo();
    window.settle();
    CHECK_FALSE(window.project().sequence->index("TLU"));
    CHECK(window.project().interpretation->intervals.empty());
}

TEST_CASE("A plane is dragged on the correlation, counts follow, and what lies above it is assigned", "[app][sequence]") {
    DemoWindow window("sequence");
    window->selection().setUnit("RG");
    window->selection().setPlane(firstPlane(*window->session().products(), "RG"));
    auto* view = window.view<CorrelationView>();
    window.settle();
    waitFor("the panel", [&] { return shelf(window)->findChild<QPushButton*>("planeAssign") != nullptr; });
    CHECK(window->selection().plane()->plane.dip() < 5); // the gravel's base is nearly level
    const auto assign = [&] { return child<QPushButton>(shelf(window), "planeAssign"); };
    const auto before = assign()->text();
    picture(&*window, "plane");
    // up over all ground: nothing is left
    using Handle = PlaneLine::Handle;
    const auto from = view->planeLine().placeOf(Handle::Level).toPoint();
    CHECK(view->planeLine().handleAt(from) == Handle::Level);
    QTest::mousePress(view, Qt::LeftButton, Qt::NoModifier, from);
    QTest::mouseMove(view, from - QPoint(0, 40));
    QTest::mouseMove(view, from - QPoint(0, 400));
    QTest::mouseRelease(view, Qt::LeftButton, Qt::NoModifier, from - QPoint(0, 400));
    waitFor("no interval", [&] { return !assign()->isEnabled(); });
    QTest::mousePress(view, Qt::LeftButton, Qt::NoModifier, view->planeLine().placeOf(Handle::Level).toPoint());
    QTest::mouseMove(view, from);
    QTest::mouseRelease(view, Qt::LeftButton, Qt::NoModifier, from);
    waitFor("the same again", [&] { return assign()->text() == before; });
    // an end square tilts it about the other end
    const auto plane = window->selection().plane()->plane;
    const auto right = view->planeLine().placeOf(Handle::Right).toPoint();
    QTest::mousePress(view, Qt::LeftButton, Qt::NoModifier, right);
    QTest::mouseMove(view, right + QPoint(0, 30));
    QTest::mouseRelease(view, Qt::LeftButton, Qt::NoModifier, right + QPoint(0, 30));
    CHECK_FALSE(window->selection().plane()->plane == plane);
    CHECK(view->planeLine().placeOf(Handle::Right).y() == Approx(right.y() + 30).margin(3));
    auto back = *window->selection().plane();
    back.plane = plane;
    back.splits = true;
    window->selection().setPlane(back);
    waitFor("the same again", [&] { return shelf(window)->findChild<QPushButton*>("planeAssign")->isEnabled(); });
    click(assign(), {10, 8});
    window.settle();
    CHECK(window.project().interpretation->intervals.size() > 3);
    CHECK(window->session().history().undoLabel().find("to RG") != std::string::npos);
    window->session().undo(); // one step, splits and all
    window.settle();
    CHECK(window.project().interpretation->splits.empty());
    window->selection().setPlane({});
    waitFor("the units again", [&] { return shelf(window)->findChild<QPushButton*>("planeAssign") == nullptr; });
}

TEST_CASE("A plane goes through three clicked holes, is typed, and lies on section and plan", "[app][sequence]") {
    DemoWindow window("sequence");
    auto* view = window.view<CorrelationView>();
    view->setOrder(CorrelationView::Order::ByEasting);
    window->selection().setPlane(firstPlane(*window->session().products(), "TU"));
    window->selection().startPlanePoints();
    const auto holes = view->holesShown();
    std::vector<Point3> clicked;
    for (const int i : {1, int(holes.size()) / 2, int(holes.size()) - 2}) {
        const auto name = holes[i];
        clicked.push_back(HolePath::of(*findHole(*window.project().holes, name.toStdString()))->at(Depth{2}));
        click(view, view->screenOf(name, 2));
    }
    CHECK_FALSE(window->selection().planePoints());
    for (const auto& p : clicked) CHECK(window->selection().plane()->plane.at(p.plan()) == Approx(p.z).margin(0.4));
    waitFor("the panel", [&] { return shelf(window)->findChild<QPushButton*>("planeType") != nullptr; });
    ModalAnswers typed("planeByNumbers", [](QWidget* dialog) {
        child<QDoubleSpinBox>(dialog, "planeLevel")->setValue(20);
        child<QDoubleSpinBox>(dialog, "planeDip")->setValue(3);
        child<QDoubleSpinBox>(dialog, "planeDirection")->setValue(180);
        answer(dialog, "OK");
    });
    click(child<QPushButton>(shelf(window), "planeType"), {6, 6});
    CHECK(typed.count() == 1);
    const auto plane = window->selection().plane()->plane;
    CHECK(plane.dip() == Approx(3).margin(0.01));
    CHECK(plane.north > 0); // it falls to the south
    CHECK(plane.at(middleOfHoles(*window->session().products())) == Approx(20).margin(0.01));
    view->setOrder(CorrelationView::Order::DownPlane);
    double before = INFINITY;
    for (const auto& name : view->holesShown()) {
        const double level = plane.at(*findHole(*window.project().holes, name.toStdString())->place());
        CHECK(level <= before + 1e-9);
        before = level;
    }
    window->page()->panes().at(1)->show(ViewKind::Plan);
    window->page()->panes().at(2)->show(ViewKind::Block);
    window.settle();
    picture(&*window, "plane_three_views");
    CHECK(slopeInWords(plane) == "falls 3.0° to the south");
    CHECK(slopeInWords(Plane()) == "level");
    window->showStage("model");
    window.settle();
    auto* section = window.view<SectionView>();
    CHECK(section->planeLine().isDrawn());
    const auto middle = section->planeLine().placeOf(PlaneLine::Handle::Level).toPoint();
    QTest::mousePress(section, Qt::LeftButton, Qt::NoModifier, middle);
    QTest::mouseMove(section, middle - QPoint(0, 20));
    QTest::mouseRelease(section, Qt::LeftButton, Qt::NoModifier, middle - QPoint(0, 20));
    CHECK(window->selection().plane()->plane.through.z > plane.through.z);
    CHECK(window.project().interpretation->guides.empty()); // the base under it was not pulled
}

TEST_CASE("An interpretation comes in from a table", "[app][sequence]") {
    DemoWindow window("sequence");
    QTemporaryDir folder;
    QFile file(folder.filePath("units.csv"));
    REQUIRE(file.open(QIODevice::WriteOnly));
    const auto& read = window->session().products()->reading->holes.front();
    const auto& i = read.hole->intervals.front();
    file.write(QString("hole,unit,top,base,kind\n%1,MG,%2,%3,logged\nnobody,MG,0,1,logged\n")
                   .arg(QString::fromStdString(read.name))
                   .arg(i.top.metres)
                   .arg(i.base.metres)
                   .toUtf8());
    file.close();
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& words) { said = words; });
    window->sequence()->takeInterpretation(file.fileName());
    window.settle();
    CHECK(window.project().interpretation->intervals.size() == 1);
    CHECK(said.contains("Not used: 1 row;"));
    CHECK(said.contains("nobody"));
}

TEST_CASE("A well with a curve and no log stands among the holes, and a base is picked on its curve", "[app][sequence]") {
    DemoWindow window("sequence");
    Edited e{window.project(), "A well"};
    auto holes = *window.project().holes;
    Hole well;
    well.id = "W1", well.easting = 480600, well.northing = 6120450, well.level = Level{24};
    std::vector<Curve::Reading> gamma;
    for (int i = 0; i <= 100; ++i) gamma.push_back({i * 0.2, i < 40 ? 25.0 : 80.0});
    well.curves.push_back({"GR", "API", "gamma", false, std::make_shared<const std::vector<Curve::Reading>>(gamma)});
    holes.push_back(well);
    e.project.holes = part(holes);
    window->session().apply([&](const Project&) { return e; });
    window.settle();
    auto* view = window.view<CorrelationView>();
    view->setOrder(CorrelationView::Order::ByEasting);
    REQUIRE(view->holesShown().contains("W1"));
    window->selection().setUnit("RG");
    view->setCurve("GR");
    picture(view, "correlation_well");
    press(view, Qt::Key_P);
    click(view, view->screenOf("W1", 8.03) + QPointF(14, 0)); // on the curve, beside the middle
    window.settle();
    REQUIRE(window.project().interpretation->picks.size() == 1);
    CHECK(window.project().interpretation->picks[0].hole == "W1");
    const auto products = window->session().products();
    const auto u = *products->project.sequence->index("RG");
    CHECK(products->model->columnAt({480600, 6120450}).bases[u] == Approx(24 - 8).margin(0.5));
}

TEST_CASE("An interval is split on the log, its parts get their units, the split is dragged and removed", "[app][sequence]") {
    DemoWindow window("sequence");
    const auto products = window->session().products();
    const InterpretedHole* read = nullptr; // one with a thick till
    for (const auto& h : products->reading->holes)
        for (const auto& i : h.intervals)
            if (products->project.sequence->units[i.unit].code == "TL" && i.base.metres - i.top.metres > 6
                && h.logged().size() > 2 && !read)
                read = &h;
    REQUIRE(read);
    const auto name = read->name;
    const Interval* till = nullptr;
    for (const auto& i : read->logged())
        if (i.base.metres - i.top.metres > 6) till = &i;
    REQUIRE(till);
    const double middle = std::round((till->top.metres + till->base.metres) / 2 * 100) / 100, top = till->top.metres;
    window->selection().setHole(QString::fromStdString(name));
    window.settle();
    auto* log = window.view<LogView>();
    const auto choose = [&](double depth, const QStringList& path) {
        const QPoint at(int(log->columnX()) + 12, int(std::lround(log->yOf(depth))));
        QContextMenuEvent event(QContextMenuEvent::Mouse, at, log->mapToGlobal(at));
        QApplication::sendEvent(log, &event);
        QMenu* menu = log->findChild<QMenu*>("logMenu");
        REQUIRE(menu);
        for (const auto& words : path) {
            QAction* found = nullptr;
            for (auto* a : menu->actions())
                if (a->text().startsWith(words)) found = a;
            REQUIRE(found);
            if (found->menu())
                menu = found->menu();
            else
                found->trigger();
        }
        for (auto* open : log->findChildren<QMenu*>("logMenu")) delete open;
        window.settle();
    };
    choose(middle, {"Split at"});
    REQUIRE(window.project().interpretation->splits.size() == 1);
    const double split = window.project().interpretation->splits[0].depth.metres;
    CHECK(split == Approx(middle).margin(0.3)); // a pixel of the view
    choose((top + split) / 2, {QString::number(top, 'f', 2), "TU"});
    CHECK(readAs(window, name, top + 0.5) == "TU");
    CHECK(readAs(window, name, split + 0.5) == "TL");
    picture(&*window, "split");
    // dragged like a boundary
    const QPoint from(int(log->columnX()) + 12, int(std::lround(log->yOf(split)))), to(from.x(), from.y() + 25);
    QTest::mousePress(log, Qt::LeftButton, Qt::NoModifier, from);
    QTest::mouseMove(log, to);
    QTest::mouseRelease(log, Qt::LeftButton, Qt::NoModifier, to);
    window.settle();
    const double moved = window.project().interpretation->splits[0].depth.metres;
    CHECK(moved > split + 0.2);
    CHECK(readAs(window, name, (split + moved) / 2) == "TU");
    CHECK(window.project().holes == products->project.holes); // the contractor's log is as it was
    choose(moved, {"Remove the split"});
    CHECK(window.project().interpretation->splits.empty());
    for (int k = 0; k < 4; ++k) window->session().undo();
    CHECK(*window.project().interpretation == *products->project.interpretation);
}

TEST_CASE("Holes of one file are held against the model without them, and the report is kept", "[app][sequence]") {
    DemoWindow window("model");
    window->sequence()->openHoleCheck();
    waitFor("the sheet", [&] { return window->sequence()->holeCheck() && !window->sequence()->holeCheck()->working(); });
    auto* sheet = window->sequence()->holeCheck();
    auto* table = child<QTableWidget>(sheet, "checkTable");
    auto* file = child<QComboBox>(sheet, "checkFile");
    CHECK(file->count() >= 2);
    CHECK(table->rowCount() > 10);
    picture(sheet, "hole_check");
    const auto first = table->rowCount();
    file->setCurrentIndex(1);
    emit file->activated(1);
    waitFor("another file", [&] { return !sheet->working(); });
    CHECK(table->rowCount() != first);
    QTemporaryDir folder;
    sheet->saveTo(folder.filePath("r.pdf").toStdString());
    sheet->saveTo(folder.filePath("r.csv").toStdString());
    QFile pdf(folder.filePath("r.pdf")), csv(folder.filePath("r.csv"));
    REQUIRE(pdf.open(QIODevice::ReadOnly));
    CHECK(pdf.read(5) == "%PDF-");
    REQUIRE(csv.open(QIODevice::ReadOnly));
    CHECK(csv.readAll().count('\n') == table->rowCount() + 1);
    table->setCurrentCell(0, 0);
    CHECK(window->selection().hole() == table->item(0, 0)->text());
}
