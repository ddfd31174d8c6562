#include "dialogs/sequence_sheet.h"
#include "harness.h"
#include "shell/sequence_actions.h"
#include "views/correlation_view.h"
#include "views/log_view.h"
#include "views/units_view.h"

#include <QAbstractItemModelTester>
#include <QCheckBox>
#include <QComboBox>
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

SequenceSheet* openSheet(DemoWindow& window, SequenceSheet::Page page) {
    window->sequence()->openSheet(int(page));
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
    auto* sheet = openSheet(window, SequenceSheet::Page::Proposal);
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

TEST_CASE("A tilted plane sweeps a layer up; counts and conflicts follow the slider", "[app][sequence]") {
    DemoWindow window("sequence");
    window->selection().setUnit("RG");
    auto* sheet = openSheet(window, SequenceSheet::Page::Sweep);
    auto* take = child<QPushButton>(sheet, "sweepTake");
    auto* slider = child<QSlider>(sheet, "sweepSlider");
    CHECK_FALSE(take->isEnabled()); // the plane is above everything
    slider->setValue(slider->maximum());
    CHECK(take->isEnabled());
    const auto all = take->text();
    click(child<QPushButton>(sheet, "sweepFit"), {6, 6});
    CHECK(child<QDoubleSpinBox>(sheet, "sweepDip")->value() < 5); // the gravel's base is nearly level
    CHECK(take->text() != all);
    CHECK(child<QLabel>(sheet, "sweepResult")->text().contains("intervals in"));
    picture(sheet, "sweep");
    auto* holes = child<QTableWidget>(sheet, "sweepHoles");
    const auto with = take->text();
    for (int r = 0; r < holes->rowCount(); ++r)
        if (!holes->item(r, 1)->text().isEmpty()) {
            holes->item(r, 0)->setCheckState(Qt::Unchecked);
            break;
        }
    CHECK(take->text() != with);
    click(take, {10, 8});
    window.settle();
    CHECK(window.project().interpretation->intervals.size() > 3);
    CHECK(window->session().history().undoLabel().find("to RG") != std::string::npos);
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
