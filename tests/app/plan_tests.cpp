// Drawing on the plan, and what the Site stage asks.
#include "harness.h"
#include "project/site_edits.h"
#include "stages/shelf.h"
#include "views/plan_view.h"

#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QMessageBox>
#include <QtTest>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

TEST_CASE("Backspace takes back the last corner, and a line of one corner is refused in words", "[window][plan]") {
    DemoWindow window("site");
    auto* plan = window.view<PlanView>();
    QString said;
    QObject::connect(plan, &View::failed, [&](const QString& words) { said = words; });
    const auto before = window.project().sections->size();
    for (const auto& [drawing, needed] : {std::pair{PlanView::Drawing::Section, 2}, {PlanView::Drawing::Outline, 3}}) {
        said.clear();
        plan->startDrawing(drawing);
        press(plan, Qt::Key_Return);
        CHECK_FALSE(said.isEmpty()); // nothing is drawn yet
        CHECK(plan->drawing());
        click(plan, plan->screenOf({480300, 6120200}));
        said.clear();
        press(plan, Qt::Key_Return);
        CHECK(said.contains(needed == 2 ? "two corners" : "three corners"));
        REQUIRE(plan->drawing()); // and goes on
        click(plan, plan->screenOf({481000, 6120700}));
        press(plan, Qt::Key_Backspace); // a slip
        click(plan, plan->screenOf({480800, 6120600}));
        if (needed == 3) click(plan, plan->screenOf({480800, 6120300}));
        press(plan, Qt::Key_Return);
        window.settle();
        CHECK_FALSE(plan->drawing());
    }
    REQUIRE(window.project().sections->size() == before + 1);
    const auto& line = window.project().sections->back().line;
    REQUIRE(line.size() == 2);
    CHECK(line[1].x == Approx(480800).margin(5)); // the one that was taken back is not in it
    REQUIRE(window.project().ground->outlines.size() == 1);
    CHECK(window.project().ground->outlines.back().ring.size() == 3);
    // Backspace with nothing drawn leaves the drawing on
    plan->startDrawing(PlanView::Drawing::Section);
    press(plan, Qt::Key_Backspace);
    CHECK(plan->drawing());
    press(plan, Qt::Key_Escape);
    CHECK_FALSE(plan->drawing());
}

TEST_CASE("Holes within half of their usual spacing are on a section that is drawn", "[window][plan]") {
    DemoWindow window("site");
    auto* plan = window.view<PlanView>();
    plan->startDrawing(PlanView::Drawing::Section);
    for (const auto& p : {Point2{480100, 6120500}, {481400, 6120500}}) click(plan, plan->screenOf(p));
    press(plan, Qt::Key_Return);
    window.settle();
    const auto& drawn = window.project().sections->back();
    CHECK(drawn.reach == sectionReach(*window.project().holes));
    CHECK(drawn.reach > kSectionHoles);
    std::size_t near = 0;
    for (const auto& h : *window.project().holes)
        if (const auto p = h.place()) near += std::abs(p->y - drawn.line[0].y) < drawn.reach;
    CHECK(near >= 3);
}

TEST_CASE("The extent can be typed edge by edge, in any order", "[window][plan]") {
    DemoWindow window("site");
    auto* shelf = window->findChild<Shelf*>();
    const auto frame = *window->session().products()->frame;
    const auto edge = [&](const char* name, double metres) {
        for (auto* s : window->findChildren<Shelf*>())
            if (s->isVisible()) shelf = s;
        typeInto(child<QDoubleSpinBox>(shelf, name), QString::number(metres, 'f', 1));
        window.settle();
    };
    // all of it moved by 5 km to the east: the western edge first, which passes the eastern one
    edge("siteWest", frame.xmin + 5000);
    REQUIRE(window.project().site->frame);
    CHECK(window.project().site->frame->xmin == Approx(frame.xmin + 5000));
    CHECK(window.project().site->frame->xmax - window.project().site->frame->xmin == Approx(frame.xmax - frame.xmin));
    edge("siteEast", frame.xmax + 5000);
    CHECK(window.project().site->frame->xmax == Approx(frame.xmax + 5000));
    for (int i = 0; i < 2 && window->session().history().canUndo(); ++i) press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
}

TEST_CASE("Another coordinate system is asked about: the data move, or only the name was wrong", "[window][plan]") {
    DemoWindow window("site");
    const auto system = [&] { return child<QLineEdit>(&*window, "systemEdit"); };
    const auto place = [&] { return window.project().holes->at(0).place().value(); };
    const auto before = place();
    {
        const ModalAnswers box("systemBox", [](QWidget* asked) { answer(asked, "Cancel"); });
        typeInto(system(), "25832");
        CHECK(box.count() == 1);
    }
    window.settle();
    CHECK(window.project().site->crs == "EPSG:25831");
    CHECK(system()->text() == "EPSG:25831"); // the field shows what the project has
    {
        const ModalAnswers box("systemBox", [](QWidget* asked) { answer(asked, "Only the name was wrong"); });
        typeInto(system(), "25832");
        CHECK(box.count() == 1);
    }
    window.settle();
    CHECK(window.project().site->crs == "EPSG:25832");
    CHECK(place() == before);
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    {
        const ModalAnswers box("systemBox", [](QWidget* asked) { answer(asked, "Move the data"); });
        typeInto(system(), "25832");
        CHECK(box.count() == 1);
    }
    window.settle();
    CHECK(window.project().site->crs == "EPSG:25832");
    CHECK(distance(place(), before) > 10000);
    CHECK(window->session().history().undoLabel() == "Move all data from EPSG:25831 to EPSG:25832");
    CHECK(window->session().products()->model); // it is worked out there too
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(place() == before);
    // what is not known is refused without a question
    const ModalAnswers box("systemBox", [](QWidget* asked) { answer(asked, "Cancel"); });
    typeInto(system(), "4711");
    CHECK(box.count() == 0);
    CHECK(window.project().site->crs == "EPSG:25831");
}

TEST_CASE("Fit shows the ground beyond the extent, but not what lies beyond the site limit", "[window][plan]") {
    DemoWindow window("ground");
    auto* plan = window.view<PlanView>();
    const auto seen = [&](Point2 p) { return plan->rect().contains(plan->screenOf(p).toPoint()); };
    window->session().apply([](const Project& p) { return setFrame(p, Frame{480600, 6120400, 480900, 6120600, 10}); });
    window.settle();
    plan->fit();
    CHECK(seen({480050, 6120050}));
    CHECK(seen({481450, 6120950}));
    window->session().apply([](const Project& p) {
        return setSiteLimit(p, {{480500, 6120300}, {481000, 6120300}, {481000, 6120700}, {480500, 6120700}});
    });
    window.settle();
    plan->fit();
    CHECK(seen({480510, 6120310}));
    CHECK_FALSE(seen({480050, 6120050}));
}
