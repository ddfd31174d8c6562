// What is in sight: nothing overlaps at the least size, figures fit, nouns agree with their numbers.
#include "base/files.h"
#include "dialogs/compare_sheet.h"
#include "harness.h"
#include "shell/pane.h"
#include "stages/shelf.h"
#include "stages/stages.h"
#include "style/words.h"
#include "views/plan_view.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QtTest>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

QRect inWindow(const QWidget* w, const QWidget* window) { return {w->mapTo(window, QPoint(0, 0)), w->size()}; }

} // namespace

TEST_CASE("At the window's least size no pane and no panel overlaps another", "[window][layout]") {
    DemoWindow window("site");
    window->resize(400, 300); // smaller than it may be
    QCoreApplication::processEvents();
    CHECK(window->size() == QSize(960, 640));
    for (const auto& stage : stages()) {
        CAPTURE(stage.id);
        window->showStage(stage.id);
        window.settle();
        std::vector<const QWidget*> parts;
        for (const auto* pane : window->page()->panes())
            if (pane->isVisible()) parts.push_back(pane);
        for (const auto* shelf : window->findChildren<Shelf*>())
            if (shelf->isVisible()) parts.push_back(shelf);
        REQUIRE(parts.size() >= 2);
        const QRect all(QPoint(0, 0), window->size());
        for (std::size_t i = 0; i < parts.size(); ++i) {
            const auto one = inWindow(parts[i], &*window);
            CHECK(all.contains(one));
            CHECK(one.width() >= 90);
            CHECK(one.height() >= 90);
            for (std::size_t k = i + 1; k < parts.size(); ++k) CHECK_FALSE(one.intersects(inWindow(parts[k], &*window)));
        }
    }
}

TEST_CASE("A number and its noun agree", "[style]") {
    CHECK(counted(1, "hole") == "1 hole");
    CHECK(counted(0, "hole") == "0 holes");
    CHECK(counted(12400, "point") == "12,400 points");
    CHECK(counted(1, "survey body", "survey bodies") == "1 survey body");
    CHECK(counted(2, "survey body", "survey bodies") == "2 survey bodies");
}

TEST_CASE("The ground is compared with a source of lines alone, and one that makes no surface is refused in words",
          "[window][ground]") {
    DemoWindow window("ground");
    window->session().apply([](const Project& p) {
        Edited e{p, "Two designs"};
        auto ground = *p.ground;
        GroundSources::Lines plane;
        plane.file = "plane.dxf";
        plane.used = false; // a design is no ground
        plane.lines = std::vector<Polyline3>{{{480300, 6120200, 40}, {480700, 6120200, 40}}, {{480300, 6120500, 40}, {480700, 6120500, 40}}};
        GroundSources::Lines single = plane;
        single.file = "single.dxf";
        single.lines = std::vector<Polyline3>{{{480300, 6120200, 40}, {480700, 6120200, 40}}};
        ground.lines.push_back(plane);
        ground.lines.push_back(single);
        e.project.ground = part(std::move(ground));
        return e;
    });
    window.settle();
    for (auto* shelf : window->findChildren<Shelf*>())
        if (shelf->isVisible()) {
            emit shelf->actionAsked(CompareSurfaces{});
            break;
        }
    CompareSheet* sheet = nullptr;
    waitFor("the sheet", [&] {
        sheet = window->findChild<CompareSheet*>("compareSheet");
        return sheet && !sheet->working();
    });
    auto* first = child<QComboBox>(sheet, "compareFirst");
    auto* second = child<QComboBox>(sheet, "compareSecond");
    auto* table = child<QTableWidget>(sheet, "compareTable");
    auto* save = child<QPushButton>(sheet, "compareSave");
    const auto choose = [&](QComboBox* box, const QString& name) {
        const int at = box->findText(name);
        REQUIRE(at >= 0);
        box->setCurrentIndex(at);
        waitFor("the comparison", [&] { return !sheet->working(); });
    };
    choose(first, "plane.dxf alone");
    choose(second, "Ground");
    CHECK(save->isEnabled());
    const auto area = table->item(0, 1)->text().section(' ', 0, 0).toDouble();
    CHECK(area == Approx(400 * 300).epsilon(0.001)); // exactly the design's, by prisms
    const auto above = table->item(1, 1)->text().section(' ', 0, 0).toDouble();
    const auto& tin = window->session().products()->terrain->tin;
    double sum = 0; // by sampling
    int n = 0;
    for (double x = 480302.5; x < 480700; x += 5)
        for (double y = 6120202.5; y < 6120500; y += 5, ++n) sum += std::max(0.0, 40 - tin.levelAt({x, y}).value());
    CHECK(above == Approx(sum / n * area).epsilon(0.01));
    choose(first, "single.dxf alone");
    CHECK_FALSE(save->isEnabled());
    CHECK(table->item(0, 1) == nullptr); // figures of other surfaces do not stay
    bool said = false;
    for (const auto* label : sheet->findChildren<QLabel*>()) said = said || label->text().contains("makes no surface");
    CHECK(said);
    choose(first, "plane.dxf alone"); // and it goes on
    CHECK(save->isEnabled());
    sheet->reject();
    window.settle();
}

TEST_CASE("An outline that is drawn is on the plan at once, with its name", "[window][plan]") {
    DemoWindow window("site");
    auto* plan = window.view<PlanView>();
    const auto before = plan->grab().toImage();
    plan->startDrawing(PlanView::Drawing::Outline);
    for (const auto& p : {Point2{480300, 6120200}, {480800, 6120200}, {480800, 6120600}}) click(plan, plan->screenOf(p));
    press(plan, Qt::Key_Return);
    window.settle();
    REQUIRE(window.project().ground->outlines.size() == 1);
    CHECK(window.project().ground->outlines[0].name == "outline 1");
    const auto after = plan->grab().toImage();
    REQUIRE(before.size() == after.size());
    // something is drawn at its edge, and nothing far from it
    const auto changedNear = [&](Point2 place, int pixels) {
        const auto at = plan->screenOf(place);
        for (int y = int(at.y()) - pixels; y <= int(at.y()) + pixels; ++y)
            for (int x = int(at.x()) - pixels; x <= int(at.x()) + pixels; ++x)
                if (before.valid(x, y) && before.pixel(x, y) != after.pixel(x, y)) return true;
        return false;
    };
    CHECK(changedNear({480550, 6120200}, 6)); // the middle of an edge
    CHECK(changedNear({480800, 6120600}, 12)); // the name stands at the highest corner
    CHECK_FALSE(changedNear({481300, 6120850}, 6));
}
