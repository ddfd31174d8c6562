// What hands do in passing: the wheel over a panel, a decimal comma, Enter in a list.
#include "harness.h"
#include "project/ground_edits.h"
#include "project/sequence_edits.h"
#include "shell/find_box.h"
#include "stages/shelf.h"
#include "views/number_box.h"
#include "views/table_content.h"

#include <QAbstractItemView>
#include <QAction>
#include <QClipboard>
#include <QComboBox>
#include <QCompleter>
#include <QGuiApplication>
#include <QLabel>
#include <QLineEdit>
#include <QPointer>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>
#include <QWindow>
#include <QtTest>
#include <catch2/catch.hpp>
#include <random>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// A notch of the mouse wheel, downwards, over the middle of a widget.
void wheel(QWidget* over) {
    const QPointF at(over->rect().center());
    QWheelEvent event(at, over->mapToGlobal(at), {}, QPoint(0, -120), Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
    QSpontaneKeyEvent::setSpontaneous(&event); // as from the mouse: it goes on to parents
    qApp->notify(over, &event);
    QCoreApplication::processEvents();
}

} // namespace

TEST_CASE("The wheel over a panel scrolls it and changes no box that has no focus", "[window][typing]") {
    DemoWindow window("ground");
    window->session().apply([](const Project& p) {
        return addOutline(p, "pond", {{480300, 6120200}, {480500, 6120200}, {480500, 6120350}},
                          GroundSources::Outline::Use::None);
    });
    window.settle();
    auto* panel = shelf(window);
    auto* scroll = panel->findChild<QScrollArea*>();
    auto* bar = scroll->verticalScrollBar();
    REQUIRE(bar->maximum() > 0);
    auto* use = child<QComboBox>(panel, "outline_0");
    auto* interval = child<QDoubleSpinBox>(panel, "contourInterval");
    const auto before = window.project();
    for (QWidget* box : {static_cast<QWidget*>(use), static_cast<QWidget*>(interval)}) {
        CHECK(box->focusPolicy() == Qt::StrongFocus); // the wheel gives no focus
        box->clearFocus();
        bar->setValue(0);
        scroll->ensureWidgetVisible(box);
        bar->setValue(std::min(bar->value(), bar->maximum() - 40));
        const int scrolled = bar->value();
        wheel(box);
        CHECK(bar->value() > scrolled);
        CHECK(sameVersion(window.project(), before));
    }
    // with the focus, the wheel turns the box
    use->setFocus();
    wheel(use);
    window.settle();
    CHECK(window.project().ground->outlines.front().use == GroundSources::Outline::Use::Limit);
}

TEST_CASE("Removing an outline is a button of its own, not an item of a choice", "[window][typing]") {
    DemoWindow window("ground");
    window->session().apply([](const Project& p) {
        return addOutline(p, "pond", {{480300, 6120200}, {480500, 6120200}, {480500, 6120350}},
                          GroundSources::Outline::Use::None);
    });
    window.settle();
    auto* use = child<QComboBox>(shelf(window), "outline_0");
    for (int i = 0; i < use->count(); ++i) CHECK_FALSE(use->itemText(i).contains("emove"));
    const auto outlines = window.project().ground->outlines.size();
    child<QToolButton>(shelf(window), "removeOutline_0")->click();
    window.settle();
    CHECK(window.project().ground->outlines.size() == outlines - 1);
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    CHECK(window.project().ground->outlines.size() == outlines);
}

TEST_CASE("An action chosen from the find box runs once", "[window][typing]") {
    DemoWindow window("sequence");
    const auto lines = window.project().sections->size();
    REQUIRE(lines >= 2);
    auto* find = child<FindBox>(&*window, "find");
    for (const bool fromList : {true, false}) {
        CAPTURE(fromList);
        const auto before = window.project().sections->size();
        press(&*window, Qt::Key_K, Qt::ControlModifier);
        waitFor("the cursor in the find box", [&] { return find->hasFocus(); });
        QTest::keyClicks(find, "Remove the chosen section");
        auto* popup = find->completer()->popup();
        waitFor("the list", [&] { return popup->isVisible(); });
        if (fromList) QTest::keyClick(popup, Qt::Key_Down);
        QTest::keyClick(fromList ? static_cast<QWidget*>(popup) : find, Qt::Key_Return);
        waitFor("the edit", [&] { return window.project().sections->size() != before; });
        window.settle();
        CHECK(window.project().sections->size() == before - 1);
        CHECK(find->text().isEmpty());
    }
}

TEST_CASE("A number may have a decimal comma or point; what is neither is refused in sight", "[window][typing]") {
    CHECK(typedNumber("12,5") == 12.5);
    CHECK(typedNumber("12.5") == 12.5);
    CHECK(typedNumber(" 480 123,25 ") == 480123.25);
    CHECK_FALSE(typedNumber("1,234,5"));
    CHECK_FALSE(typedNumber("12 m"));
    CHECK_FALSE(typedNumber(""));
    DemoWindow window("ground");
    typeInto(child<QDoubleSpinBox>(shelf(window), "contourInterval"), "2,5");
    CHECK(window.project().contours->interval == 2.5);
    typeInto(child<QDoubleSpinBox>(shelf(window), "contourInterval"), "1.25");
    CHECK(window.project().contours->interval == 1.25);
    window.settle();
    window->showStage("holes");
    window->selection().setHole("QB105");
    window.settle();
    auto* level = child<QLineEdit>(shelf(window), "editLevel");
    level->setFocus();
    level->selectAll();
    QTest::keyClicks(level, "31,75");
    QTest::keyClick(level, Qt::Key_Return);
    window.settle();
    CHECK(findHole(*window.project().holes, "QB105")->level == Level{31.75});
}

TEST_CASE("Number fields with a prefix and a suffix keep them when a comma is typed", "[typing]") {
    NumberBox box;
    box.setRange(-1000, 1000);
    box.setDecimals(2);
    box.setPrefix("z = ");
    box.setSuffix(" m, at least");
    box.show();
    box.selectAll();
    QTest::keyClicks(&box, "-7,25");
    QTest::keyClick(&box, Qt::Key_Return);
    CHECK(box.value() == -7.25);
    CHECK(box.text().endsWith(" m, at least"));
    box.setLocale(QLocale(QLocale::German)); // writes commas; a point is no separator of thousands either
    box.selectAll();
    QTest::keyClicks(&box, "3.5");
    QTest::keyClick(&box, Qt::Key_Return);
    CHECK(box.value() == 3.5);
}

TEST_CASE("Any number typed with a comma is the number typed with a point", "[typing][random]") {
    std::mt19937 random(GENERATE(range(1u, 11u)));
    NumberBox box;
    box.setRange(-1e6, 1e6);
    box.setDecimals(3);
    box.show();
    for (int i = 0; i < 5; ++i) {
        const double number = std::round(std::uniform_real_distribution<double>(-1e6, 1e6)(random) * 1000) / 1000;
        auto text = QString::number(number, 'f', 3);
        CHECK(typedNumber(text) == Approx(number).margin(1e-9));
        text.replace('.', ',');
        CHECK(typedNumber(text) == Approx(number).margin(1e-9));
        box.selectAll();
        QTest::keyClicks(&box, text);
        QTest::keyClick(&box, Qt::Key_Return);
        CHECK(box.value() == Approx(number).margin(5e-4));
    }
}

TEST_CASE("A refusal stands beside the field that was typed into, until the next key", "[window][typing]") {
    DemoWindow window("site");
    auto* field = child<QLineEdit>(shelf(window), "systemEdit");
    QApplication::setActiveWindow(&*window);
    typeInto(field, "EPSG:999999");
    waitFor("the refusal", [&] { return window->findChild<QLabel*>("refusal") != nullptr; });
    const QPointer<QLabel> refusal = window->findChild<QLabel*>("refusal");
    CHECK(refusal->isVisible());
    CHECK(refusal->text().contains("999999"));
    picture(&*window, "refusal");
    field = child<QLineEdit>(shelf(window), "systemEdit"); // the panel shows what the project has
    CHECK(field->text() == "EPSG:25831");
    const QRect beside(field->mapTo(&*window, QPoint(0, 0)) - QPoint(360, 140), field->size() + QSize(720, 280));
    CHECK(beside.contains(refusal->geometry().center()));
    CHECK(window->rect().contains(refusal->geometry()));
    // a button that can't do what it says: beside the cursor
    QTest::keyClick(window->windowHandle(), Qt::Key_Shift);
    waitFor("it to go", [&] { return refusal.isNull(); });
    QGuiApplication::clipboard()->clear();
    waitFor("the clipboard to be empty", [] { return QGuiApplication::clipboard()->text().isEmpty(); });
    QWidget other; // a window that has nothing to do with it, and is active
    other.show();
    QApplication::setActiveWindow(&other);
    window->findChild<QAction*>("pasteTable")->trigger();
    REQUIRE(window->findChild<QLabel*>("refusal"));
    CHECK(window->rect().contains(window->findChild<QLabel*>("refusal")->geometry()));
}

TEST_CASE("The card of the grid says how much memory the cells take", "[window][typing]") {
    DemoWindow window("site");
    const auto said = [&] {
        for (const auto* label : shelf(window)->findChildren<QLabel*>())
            if (label->isVisible() && label->text().startsWith("about ")) return label->text();
        return QString();
    };
    const auto coarse = said();
    CHECK_FALSE(coarse.isEmpty());
    typeInto(child<QDoubleSpinBox>(shelf(window), "siteCell"), "2");
    window.settle();
    CHECK(said() != coarse);
}
