// The report in the window: its list, a page that is laid out where it is seen, and texts with values.
#include "harness.h"
#include "shell/sheet_actions.h"
#include "stages/shelf.h"
#include "views/page_editor.h"
#include "views/page_view.h"
#include "views/report_view.h"
#include "views/sheet_choice.h"
#include "views/value_text.h"

#include <QClipboard>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QTemporaryDir>
#include <QtTest>
#include <catch2/catch.hpp>
#include <random>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

using Hold = PageEditor::Hold;

SheetTemplate twoTexts() {
    SheetTemplate t;
    t.name = "two";
    SheetElement a, b;
    a.x = 20, a.y = 30, a.width = 40, a.height = 10, a.text = {{"first", ""}};
    b.x = 100, b.y = 60, b.width = 50, b.height = 20, b.text = {{"second", ""}};
    SheetElement body;
    body.kind = SheetElement::Kind::Body, body.x = 10, body.y = 100, body.width = 180, body.height = 150;
    t.elements = {a, b, body};
    t.columns = {
        {LogColumn::Kind::Depth, 20, "Depth"}, {LogColumn::Kind::Units, 30, "Unit"}, {LogColumn::Kind::Description, 60, "Words"}};
    return t;
}

/// Presses at a place of the page, moves there and lets go.
void dragOnPage(PageView* page, QPointF from, QPointF to) {
    pointer(page, QEvent::MouseButtonPress, page->screenOf(from));
    for (const double part : {0.3, 0.7, 1.0}) pointer(page, QEvent::MouseMove, page->screenOf(from + part * (to - from)));
    pointer(page, QEvent::MouseButtonRelease, page->screenOf(to), Qt::NoButton);
}

/// Opens a menu by an action and presses one of its entries, in a menu of it if it is there.
void pressEntry(QAction* opens, const char* menuName, const QString& words) {
    opens->trigger();
    QMenu* menu = nullptr;
    for (auto* w : QApplication::topLevelWidgets())
        if (w->objectName() == menuName && w->isVisible()) menu = qobject_cast<QMenu*>(w);
    REQUIRE(menu);
    for (auto* a : menu->actions())
        if (a->text() == words) {
            a->trigger();
            menu->close();
            return;
        }
    FAIL("no such entry: " << words.toStdString());
}

const ReportEntry& sheetNamed(DemoWindow& window, const std::string& name) {
    const auto& all = *window.project().sheets;
    const auto at = std::ranges::find(all, name, &ReportEntry::name);
    REQUIRE(at != all.end());
    return *at;
}

void addUsual(DemoWindow& window) {
    pressEntry(window.view<ReportView>()->tools()[0], "addSheetMenu", "The usual sheets");
    window.settle();
}

} // namespace

TEST_CASE("An element is chosen, moved and sized on the page, and snaps to millimetres and to the edges of others", "[sheets]") {
    PageEditor editor;
    editor.setLayout(twoTexts(), 0);
    CHECK(editor.elementAt({30, 35}) == 0);
    CHECK(editor.elementAt({150, 70}) == 1);
    CHECK(editor.elementAt({15, 200}) == 2);
    CHECK_FALSE(editor.elementAt({5, 5}));
    CHECK_FALSE(editor.press({30, 35}, 1)); // nothing is chosen: the page is panned
    editor.choose(0);
    CHECK(editor.holdAt({30, 35}, 1) == Hold::Inside);
    CHECK(editor.holdAt({60, 40}, 1) == Hold::BottomRight);
    CHECK(editor.holdAt({20, 35}, 1) == Hold::Left);
    REQUIRE(editor.press({30, 35}, 1));
    CHECK(editor.drag({33.3, 38.4}));
    CHECK(editor.layout().elements[0].x == 23);
    CHECK(editor.layout().elements[0].y == 33);
    CHECK(editor.drag({89.4, 38.4})); // near the left edge of the second, at 100? no: to a whole millimetre
    CHECK(editor.layout().elements[0].x == 79);
    CHECK(editor.drag({109.3, 64.6})); // 99.3 and 59.6: to 100 and 60 of the second
    CHECK(editor.layout().elements[0].x == 100);
    CHECK(editor.layout().elements[0].y == 60);
    CHECK(editor.release() == "move an element");
    CHECK_FALSE(editor.dragging());
    editor.choose(1);
    REQUIRE(editor.press({150, 80}, 1));
    editor.drag({10, 10}); // no smaller than can be taken hold of
    CHECK(editor.layout().elements[1].width == 2);
    CHECK(editor.layout().elements[1].height == 2);
    editor.cancel();
    CHECK(editor.layout().elements[1].width == 50);
    REQUIRE(editor.press({145, 75}, 1));
    editor.drag({-500, -500}); // a corner stays on the page
    CHECK(editor.layout().elements[1].x >= -50);
    editor.drag({900, 900});
    CHECK(editor.layout().elements[1].x <= 210);
    editor.drag({145, 75});
    CHECK(editor.release().empty()); // where it was
}

TEST_CASE("Columns of a log are made wider by their edges, and elements are copied, pasted and removed", "[sheets]") {
    PageEditor editor;
    editor.setLayout(twoTexts(), 0);
    CHECK(editor.holdAt({30, 150}, 1) == Hold::Column); // 10 + 20
    CHECK(editor.holdAt({60, 150}, 1) == Hold::Column);
    CHECK(editor.holdAt({45, 150}, 1) == Hold::None);
    REQUIRE(editor.press({60, 150}, 1));
    editor.drag({67.3, 150});
    CHECK(editor.layout().columns[1].width == 37.5);
    editor.drag({-100, 150});
    CHECK(editor.layout().columns[1].width == 4);
    CHECK(editor.release() == "width of a column");
    CHECK(editor.copied().empty());
    CHECK_FALSE(editor.paste("some words"));
    CHECK_FALSE(editor.paste("{\"format\": \"something else\"}"));
    editor.choose(0);
    const auto copy = editor.copied();
    PageEditor other;
    other.setLayout(twoTexts(), 0);
    REQUIRE(other.paste(copy));
    REQUIRE(other.layout().elements.size() == 4);
    CHECK(other.chosen() == 3);
    CHECK(other.layout().elements[3].x == 23);
    CHECK(other.layout().elements[3].text == twoTexts().elements[0].text);
    CHECK(other.moveChosen(1, -0.5));
    CHECK(other.layout().elements[3].y == 32.5);
    CHECK(other.removeChosen());
    CHECK_FALSE(other.removeChosen());
    CHECK(other.layout() == twoTexts());
    // what is on further pages alone is not on the first
    auto t = twoTexts();
    t.elements[0].pages = SheetElement::Pages::Further;
    editor.setLayout(t, 0);
    CHECK_FALSE(editor.chosen());
    CHECK_FALSE(editor.elementAt({30, 35}));
    editor.setLayout(t, 1);
    CHECK(editor.elementAt({30, 35}) == 0);
}

TEST_CASE("A text with values is the same after it was shown as words and chips", "[sheets][random]") {
    std::mt19937 random(GENERATE(range(1u, 21u)));
    const std::vector<SheetValue> values{{"hole.name", "name of the hole", "hole"}, {"page", "page", "page"}};
    TextRuns runs;
    for (int i = int(random() % 6); i >= 0; --i) {
        const bool isWords = runs.empty() ? random() % 2 : !runs.back().value.empty() && random() % 2;
        if (isWords)
            runs.push_back({random() % 2 ? "of page " : "two\nlines, \xC3\xA4", ""});
        else
            runs.push_back({"", random() % 2 ? "hole.name" : "ags:LOCA.LOCA_STAT", random() % 2 ? "none" : ""});
    }
    ValueText text(runs, values);
    CHECK(text.runs() == runs);
    text.moveCursor(QTextCursor::End);
    QTest::keyClicks(&text, " and ");
    text.insertValue("page");
    auto wanted = runs;
    if (wanted.back().value.empty())
        wanted.back().words += " and ";
    else
        wanted.push_back({" and ", ""});
    wanted.push_back({"", "page"});
    CHECK(text.runs() == wanted);
    QTest::keyClick(&text, Qt::Key_Backspace); // a chip goes like a letter
    wanted.pop_back();
    CHECK(text.runs() == wanted);
}

TEST_CASE("The report is put together in its list: the usual sheets, ticks, another order, names; each can be taken back",
          "[window][sheets]") {
    DemoWindow window("sheets");
    auto* view = window.view<ReportView>();
    auto* list = child<QListWidget>(view, "reportList");
    CHECK(list->isHidden()); // words say what to do
    addUsual(window);
    const auto count = int(window.project().sheets->size());
    REQUIRE(count == 8);
    REQUIRE(list->count() == count);
    CHECK(list->item(5)->text().contains("Borehole log"));
    CHECK(view->summary().contains("pages"));
    picture(&*window, "report_list");
    addUsual(window); // nothing twice
    CHECK(list->count() == count);
    // a code without a pattern is marked
    CHECK(list->item(5)->toolTip().contains("Without a pattern"));
    // chosen in the list, it is on the page
    list->setCurrentRow(4);
    window.settle();
    auto* page = window.view<PageView>();
    CHECK(page->summary().startsWith("Section"));
    // unticked
    list->item(4)->setCheckState(Qt::Unchecked);
    window.settle();
    CHECK_FALSE(window.project().sheets->at(4).isOut);
    window->session().undo();
    window.settle();
    CHECK(window.project().sheets->at(4).isOut);
    CHECK(list->item(4)->checkState() == Qt::Checked);
    // dragged to the front: what the view does when a row is dropped
    list->model()->moveRow({}, 4, {}, 0);
    window.settle();
    CHECK(window.project().sheets->front().name == "Section");
    CHECK(list->item(0)->text().startsWith("1   Section"));
    CHECK(list->currentRow() == 0);
    list->model()->moveRow({}, 0, {}, count);
    window.settle();
    CHECK(window.project().sheets->back().name == "Section");
    // renamed in the panel
    typeInto(child<QLineEdit>(shelf(window), "sheetName"), "Sections of the valley");
    window.settle();
    CHECK(window.project().sheets->back().name == "Sections of the valley");
    CHECK(window->selection().reportSheet() == "Sections of the valley");
    // one of the logs alone
    list->setCurrentRow(4);
    window->selection().setHole("QB119");
    window.settle();
    REQUIRE(page->summary().startsWith("Borehole log"));
    auto* filled = child<QComboBox>(shelf(window), "sheetFilledWith");
    const int alone = filled->findText("QB119 alone");
    REQUIRE(alone > 0);
    filled->setCurrentIndex(alone);
    emit filled->activated(alone);
    window.settle();
    CHECK(sheetNamed(window, "Borehole log").items == std::vector<std::string>{"QB119"});
    window->selection().setHole("QB102"); // the sheet has no such hole any more
    window.settle();
    CHECK(page->sheet()->item == "QB119");
    // saved as one PDF, again after a failure
    const QTemporaryDir folder;
    QString name = "nowhere/report";
    const ModalAnswers names("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, folder.filePath(name)); });
    window->sheets()->askSaveReport();
    waitFor("the failure", [&] { return window->sheets()->settled(); });
    name = "report";
    window->sheets()->askSaveReport();
    waitFor("the report", [&] { return window->sheets()->settled(); });
    CHECK(QFile(folder.filePath("report.pdf")).size() > 50000);
    // removed, by the tool
    list->setCurrentRow(0);
    view->tools()[1]->trigger();
    window.settle();
    CHECK(int(window.project().sheets->size()) == count - 1);
    while (window->session().history().canUndo()) window->session().undo();
    window.settle();
    CHECK(window.project().sheets->empty());
    CHECK(list->isHidden());
    window->sheets()->askSaveReport(); // refused in words, no dialog
    CHECK(names.count() == 2);
}

TEST_CASE("A page is laid out where it is seen: dragged, by keys, copied; a template becomes a sheet by its first change",
          "[window][sheets]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    window->selection().setHole("QB102");
    window.settle();
    REQUIRE(page->sheet());
    const auto before = page->editor().layout();
    const auto titleAt = [&] {
        const auto& all = page->editor().layout().elements;
        return std::size_t(std::ranges::find_if(all, [](const SheetElement& e) { return e.size == 5 && e.strong; })
                           - all.begin());
    };
    const auto title = titleAt();
    REQUIRE(title < before.elements.size());
    const auto box = PageEditor::boxOf(before.elements[title]);
    const auto inside = box.topLeft() + QPointF(8, 3);
    click(page, page->screenOf(inside));
    CHECK(page->editor().chosen() == title);
    picture(&*window, "sheet_element");
    dragOnPage(page, inside, inside + QPointF(20, 30));
    window.settle();
    REQUIRE(window.project().sheets->size() == 1);
    const auto element = [&] { return sheetNamed(window, "Borehole log").layout.elements[title]; };
    CHECK(element().x == Approx(box.left() + 20).margin(1.3)); // it snaps
    CHECK(element().y == Approx(box.top() + 30).margin(1.3));
    CHECK(window->selection().reportSheet() == "Borehole log");
    CHECK(page->editor().chosen() == title);
    // the page shows it there
    bool found = false;
    for (const auto& item : page->sheet()->pages[0].items)
        if (const auto* text = std::get_if<paper::Text>(&item.shape); text && text->words.find("Borehole log") == 0)
            found = std::abs(text->at.x - element().x) < 0.1;
    CHECK(found);
    // by keys
    const auto was = element();
    page->setFocus();
    press(page, Qt::Key_Right);
    QTest::keyClick(page, Qt::Key_Down, Qt::ShiftModifier);
    window.settle();
    CHECK(element().x == Approx(was.x + 1));
    CHECK(element().y == Approx(was.y + 0.1));
    const auto count = sheetNamed(window, "Borehole log").layout.elements.size();
    QTest::keyClick(page, Qt::Key_C, Qt::ControlModifier);
    QTest::keyClick(page, Qt::Key_V, Qt::ControlModifier);
    window.settle();
    CHECK(sheetNamed(window, "Borehole log").layout.elements.size() == count + 1);
    CHECK(page->editor().chosen() == count);
    press(page, Qt::Key_Delete);
    window.settle();
    CHECK(sheetNamed(window, "Borehole log").layout.elements.size() == count);
    QGuiApplication::clipboard()->setText("nothing of ours");
    QTest::keyClick(page, Qt::Key_V, Qt::ControlModifier); // refused in words
    CHECK(sheetNamed(window, "Borehole log").layout.elements.size() == count);
    // something new
    pressEntry(page->tools()[3], "insertMenu", "Box");
    window.settle();
    CHECK(sheetNamed(window, "Borehole log").layout.elements.back().kind == SheetElement::Kind::Box);
    CHECK(page->editor().chosen() == count);
    while (window->session().history().canUndo()) window->session().undo();
    window.settle();
    CHECK(window.project().sheets->empty());
    CHECK(page->sheet()->item == "QB102"); // the template by itself
}

TEST_CASE("Texts, places and a log's columns are changed in the panel, and every log follows", "[window][sheets]") {
    DemoWindow window("sheets");
    addUsual(window);
    child<QListWidget>(window.view<ReportView>(), "reportList")->setCurrentRow(5);
    window->selection().setHole("QB102");
    window.settle();
    auto* page = window.view<PageView>();
    const auto& elements = page->editor().layout().elements;
    const auto title = std::size_t(std::ranges::find_if(elements, [](const SheetElement& e) { return e.size == 5 && e.strong; })
                                   - elements.begin());
    page->choose(title);
    auto* text = child<ValueText>(shelf(window), "elementText");
    text->moveCursor(QTextCursor::End);
    QTest::keyClicks(text, ", by ");
    text->insertValue("project.contractor");
    picture(&*window, "sheet_chips");
    QTest::keyClick(text, Qt::Key_Return, Qt::ControlModifier);
    window.settle();
    const auto& runs = sheetNamed(window, "Borehole log").layout.elements[title].text;
    CHECK(runs.back().value == "project.contractor");
    CHECK(page->editor().chosen() == title);
    auto* left = child<QDoubleSpinBox>(shelf(window), "elementX");
    typeInto(left, "41.5");
    window.settle();
    CHECK(sheetNamed(window, "Borehole log").layout.elements[title].x == 41.5);
    // columns of the log
    const auto body =
        std::size_t(std::ranges::find(page->editor().layout().elements, SheetElement::Kind::Body, &SheetElement::kind)
                    - page->editor().layout().elements.begin());
    page->choose(body);
    const auto columns = [&] { return sheetNamed(window, "Borehole log").layout.columns; };
    const auto count = columns().size();
    const auto& log = page->editor().layout().elements[body];
    // a click on a column of the log is enough
    const double middle = log.x + columns()[0].width + columns()[1].width + columns()[2].width / 2;
    click(page, page->screenOf({middle, log.y + log.height / 2}));
    CHECK(child<QComboBox>(shelf(window), "logColumn")->currentIndex() == 2);
    const auto kind = columns()[2].kind;
    QTest::mouseClick(child<QPushButton>(shelf(window), "moveColumnRight"), Qt::LeftButton);
    window.settle();
    CHECK(columns()[3].kind == kind);
    QTest::mouseClick(child<QPushButton>(shelf(window), "insertColumnLeft"), Qt::LeftButton);
    window.settle();
    REQUIRE(columns().size() == count + 1);
    auto* shows = child<QComboBox>(shelf(window), "logColumnKind");
    const int model = shows->findText(fox::words(LogColumn::Kind::Model));
    shows->setCurrentIndex(model);
    emit shows->activated(model);
    window.settle();
    // the column that was moved stays the one that is shown, and so is the new one
    CHECK(columns()[3].kind == LogColumn::Kind::Model);
    CHECK(columns()[4].kind == kind);
    typeInto(child<QDoubleSpinBox>(shelf(window), "logColumnWidth"), "25");
    window.settle();
    CHECK(columns()[3].width == 25);
    QTest::mouseClick(child<QPushButton>(shelf(window), "removeColumn"), Qt::LeftButton);
    window.settle();
    CHECK(columns().size() == count);
    // dragged by the edge of a column on the page
    const auto box = PageEditor::boxOf(page->editor().layout().elements[body]);
    double together = 0;
    for (const auto& c : columns()) together += c.width;
    const double share = std::min(1.0, box.width() / together), edge = box.left() + columns()[0].width * share;
    page->choose({});
    const double width = columns()[0].width;
    dragOnPage(page, {edge, box.center().y()}, {edge + 6, box.center().y()});
    window.settle();
    CHECK(columns()[0].width == Approx(width + 6).margin(1));
    // a hole that nobody looked at has the same layout
    window->selection().setHole("QB119");
    window.settle();
    CHECK(page->editor().layout().columns == columns());
}
