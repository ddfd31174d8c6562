#include "harness.h"

#include "views/block_canvas.h"
#include "views/block_view.h"
#include "views/plan_view.h"
#include "views/section_view.h"
#include "views/table_view.h"

#include <QAbstractItemModelTester>
#include <QClipboard>
#include <QGuiApplication>
#include <QTableView>
#include <QtTest>
#include <catch2/catch.hpp>
#include <set>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

void wheel(QWidget* widget, QPointF at, int steps) {
    QWheelEvent e(at, widget->mapToGlobal(at), {}, QPoint(0, steps * 120), Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase,
                  false);
    QApplication::sendEvent(widget, &e);
}

std::size_t colours(const QImage& image) {
    std::set<QRgb> seen;
    for (int y = 0; y < image.height(); y += 2)
        for (int x = 0; x < image.width(); x += 2) seen.insert(image.pixel(x, y));
    return seen.size();
}

} // namespace

TEST_CASE("The wheel zooms about the cursor, a drag pans, F fits", "[views]") {
    DemoWindow window;
    auto* plan = window.view<PlanView>();
    const Point2 place{480900, 6120430};
    const auto at = plan->screenOf(place);
    wheel(plan, at, 3);
    CHECK(QLineF(plan->screenOf(place), at).length() < 0.01);
    CHECK(QLineF(plan->screenOf({481000, 6120430}), at).length() > 1.5 * QLineF(at, plan->screenOf({480950, 6120430})).length());
    QTest::mousePress(plan, Qt::LeftButton, Qt::NoModifier, QPoint(60, 60));
    QTest::mouseMove(plan, QPoint(80, 65));
    QTest::mouseMove(plan, QPoint(110, 80));
    QTest::mouseRelease(plan, Qt::LeftButton, Qt::NoModifier, QPoint(110, 80));
    CHECK((plan->screenOf(place) - at).x() == Approx(50).margin(1));
    CHECK((plan->screenOf(place) - at).y() == Approx(20).margin(1));
    press(plan, Qt::Key_F);
    CHECK(QLineF(plan->screenOf(place), at).length() < 0.01);
    auto* section = window.view<SectionView>();
    const auto mark = section->screenOf(300, 20);
    wheel(section, mark, -2);
    CHECK(QLineF(section->screenOf(300, 20), mark).length() < 0.01);
}

TEST_CASE("The section is drawn in the units' colours, higher when exaggerated", "[views]") {
    DemoWindow window("model");
    auto* section = window.view<SectionView>();
    const auto image = section->grab().toImage();
    const auto& units = window.project().sequence->units;
    const auto& s = *window->session().products()->sections[0];
    // a place within the gravel, between hatch lines somewhere near
    const std::size_t rg = *window.project().sequence->index("RG"), middle = s.chainage.size() / 3;
    const auto at = section->screenOf(s.chainage[middle], (s.bases[rg - 1][middle] + s.bases[rg][middle]) / 2).toPoint();
    bool found = false;
    for (int dx = -8; dx <= 8; ++dx)
        found |= image.pixelColor(at + QPoint(dx, 0)) == QColor(QString::fromStdString(units[rg].colour));
    CHECK(found);
    const double high = section->screenOf(0, 10).y() - section->screenOf(0, 20).y();
    const double wide = section->screenOf(10, 0).x() - section->screenOf(0, 0).x();
    CHECK(high / wide == Approx(5)); // at the start five times
    window->selection().setExaggeration(2);
    CHECK((section->screenOf(0, 10).y() - section->screenOf(0, 20).y())
              / (section->screenOf(10, 0).x() - section->screenOf(0, 0).x())
          == Approx(2));
}

TEST_CASE("The block view draws the model, turns, and picks holes", "[views]") {
    DemoWindow window("model");
    auto* block = window.view<BlockView>();
    REQUIRE(block->hasOpenGl());
    auto* canvas = block->findChild<BlockCanvas*>();
    REQUIRE(canvas);
    const auto first = canvas->grab().toImage();
    CHECK(colours(first) > 200); // shaded ground, walls of many units
    QTest::mousePress(canvas, Qt::LeftButton, Qt::NoModifier, QPoint(300, 200));
    QTest::mouseMove(canvas, QPoint(320, 205));
    QTest::mouseMove(canvas, QPoint(380, 215));
    QTest::mouseRelease(canvas, Qt::LeftButton, Qt::NoModifier, QPoint(380, 215));
    waitFor("another picture", [&] { return canvas->settled() && canvas->grab().toImage() != first; });
    // some hole's head is found by clicking over the picture
    window->selection().setHole({});
    for (int y = 20; y < canvas->height() && window->selection().hole().isEmpty(); y += 14)
        for (int x = 20; x < canvas->width() && window->selection().hole().isEmpty(); x += 14)
            QTest::mouseClick(canvas, Qt::LeftButton, Qt::NoModifier, QPoint(x, y));
    CHECK(findHole(*window.project().holes, window->selection().hole().toStdString()));
}

TEST_CASE("The table's model keeps the rules of models, sorts by number and copies plain text", "[views]") {
    DemoWindow window("holes");
    TableModel model;
    const QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::Fatal);
    model.setContent(makeTableContent("holes", window->session().products()));
    CHECK(model.rowCount() == 42);
    CHECK(model.content()->hole(model.sourceRow(model.rowOfHole("R06"))) == "R06");
    CHECK(model.rowOfHole("nobody") == -1);
    Edit made;
    QObject::connect(&model, &TableModel::editMade, [&](const Edit& e) { made = e; });
    model.setData(model.index(0, HoleLevelColumn), "abc", Qt::EditRole);
    CHECK_THROWS_WITH(made(window.project()), Catch::Contains("abc"));
    model.setFilter("QB12");
    CHECK(model.rowCount() == 9);
    model.setFilter({});
    model.setContent(makeTableContent("group:phase1_main.ags:GEOL", window->session().products()));
    CHECK(model.rowCount() > 100);
    CHECK(model.headerData(1, Qt::Horizontal, Qt::DisplayRole) == "LOCA_ID");

    auto* view = window.view<TableView>();
    view->table()->sortByColumn(HoleFinalDepth, Qt::DescendingOrder);
    double before = 1e9;
    for (int r = 0; r < view->table()->model()->rowCount(); ++r) {
        const double depth = view->table()->model()->index(r, HoleFinalDepth).data(Qt::EditRole).toDouble();
        CHECK(depth <= before);
        before = depth;
    }
    view->table()->clearSelection();
    view->tools().at(3)->trigger();
    const auto lines = QGuiApplication::clipboard()->text().split('\n');
    CHECK(lines.size() == 43);
    CHECK(lines[0].startsWith("Hole\tKind\tEasting"));
    CHECK(lines[1].contains("6120"));
}

TEST_CASE("A pane can show any view", "[views]") {
    DemoWindow window("ground");
    auto* pane = window->page()->panes().at(0);
    for (const auto kind : kViewKinds) {
        pane->show(kind);
        CHECK(pane->kind() == kind);
        CHECK(pane->view()->products() == window->session().products());
        window.settle();
        CAPTURE(int(kind));
        CHECK(coloursOf(pane->view()) > 30); // its letters alone have that many
    }
    pane->show(ViewKind::Plan);
}
