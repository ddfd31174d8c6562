// What works beside the window, and what is told to those who do not see it.
#include "harness.h"
#include "shell/status_line.h"
#include "views/background.h"

#include <QAccessible>
#include <QMenu>
#include <QToolButton>
#include <catch2/catch.hpp>
#include <thread>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

TEST_CASE("Long work beside the window is listed, and each can be stopped", "[app][running]") {
    DemoWindow window("site");
    auto* running = window->findChild<QToolButton*>("runningWork");
    REQUIRE(running);
    CHECK_FALSE(running->isVisible());
    Background<int> first(&*window, "Counting stones"), second(&*window, "Weighing clay"), unnamed(&*window);
    std::vector<std::string> ended;
    const auto start = [&](Background<int>& work, const char* name) {
        work.start(
            [](const Progress& progress) -> int {
                for (;;) {
                    progress.report(0.4, "");
                    std::this_thread::yield(); // until it is stopped: check() throws then
                    progress.check();
                }
            },
            [](int) {}, [&ended, name](const QString& why) { ended.push_back(name + why.toStdString()); });
    };
    start(first, "first"), start(second, "second"), start(unnamed, "unnamed");
    waitFor("the list", [&] { return running->isVisible() && running->text() == "2 at work"; });
    auto* list = running->menu();
    emit list->aboutToShow();
    REQUIRE(list->actions().size() == 2);
    CHECK(list->actions()[0]->text().startsWith("Stop: Counting stones"));
    waitFor("how far it is", [&] {
        emit list->aboutToShow();
        return list->actions()[1]->text().contains("40 % done");
    });
    list->actions()[1]->trigger();
    waitFor("the second to end", [&] { return !second.busy(); });
    CHECK(ended == std::vector<std::string>{"second"}); // by hand: no sentence
    CHECK(first.busy());
    CHECK(running->text() == "1 at work");
    first.stop(), unnamed.stop();
    waitFor("the rest", [&] { return !first.busy() && !unnamed.busy() && !running->isVisible(); });
    emit list->aboutToShow();
    CHECK(list->actions().size() == 1);
    CHECK_FALSE(list->actions()[0]->isEnabled());
    {
        Background<int> gone(&*window, "Left behind");
        start(gone, "gone");
        CHECK(RunningWork::all().entries().size() == 1);
    }
    CHECK(RunningWork::all().entries().empty());
}

TEST_CASE("What the window says can be read by screen readers", "[app][running]") {
    DemoWindow window("site");
    auto* line = window->findChild<StatusLine*>();
    const auto read = [&] {
        auto* label = line->findChild<QWidget*>("workWords");
        return QAccessible::queryAccessibleInterface(label)->text(QAccessible::Name);
    };
    line->say("The plan is written.");
    CHECK(read() == "The plan is written.");
    // and what is refused, wherever it comes from
    window->session().apply([](const Project&) -> Edited { throw Error("This hole is gone."); });
    CHECK(read() == "This hole is gone.");
}
