// Sheets in the window: maps moved in their frames, areas used again, charts and pictures on pages, templates of holes and those
// that are kept, print.
#include "formats/web_text.h"
#include "handover/sheet_files.h"
#include "harness.h"
#include "shell/sheet_actions.h"
#include "stages/shelf.h"
#include "style/words.h"
#include "views/kept_templates.h"
#include "views/page_view.h"
#include "views/report_view.h"
#include "views/scene_drawer.h"
#include "views/sheet_choice.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPrinter>
#include <QPushButton>
#include <QTemporaryDir>
#include <QWheelEvent>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <set>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

void showShipped(DemoWindow& window, const std::string& name) {
    window->selection().setReportSheet("");
    window->selection().setSheetTemplate(std::make_shared<const SheetTemplate>(sheetTemplate(name)));
    window.settle();
}

/// Opens the menu of what can be inserted, and presses an entry of it, or of a menu in it.
void insertOnPage(DemoWindow& window, const QString& words) {
    window.view<PageView>()->tools()[3]->trigger();
    QMenu* menu = nullptr;
    for (auto* w : QApplication::topLevelWidgets())
        if (w->objectName() == "insertMenu" && w->isVisible()) menu = qobject_cast<QMenu*>(w);
    REQUIRE(menu);
    QAction* found = nullptr;
    for (auto* a : menu->actions()) {
        if (a->text() == words) found = a;
        if (a->menu())
            for (auto* inner : a->menu()->actions())
                if (inner->text() == words) found = inner;
    }
    REQUIRE(found);
    found->trigger();
    menu->close();
    window.settle();
}

/// In the middle of the frame of the map that is looked at, millimetres.
QPointF frameMiddle(DemoWindow& window) {
    for (const auto& e : window.view<PageView>()->editor().layout().elements)
        if (e.kind == SheetElement::Kind::Body) return PageEditor::boxOf(e).center();
    return {};
}

const SheetTemplate& layoutOnPage(DemoWindow& window) { return templateOf(window->selection(), window.project()); }

std::string wordsOf(const paper::Drawing& page) {
    std::string out;
    for (const auto& item : page.items)
        if (const auto* text = std::get_if<paper::Text>(&item.shape)) out += text->words + "|";
    return out;
}

} // namespace

TEST_CASE("A map is moved in its frame by hand, takes another scale by the wheel, and its area is used again by name",
          "[window][sheets]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    showShipped(window, "borehole log");
    auto* move = page->tools()[4];
    CHECK_FALSE(move->isEnabled()); // a log has no map
    showShipped(window, "plan");
    REQUIRE(move->isEnabled());
    const double fitted = page->sheet()->scale;
    move->trigger();
    REQUIRE(move->isChecked());
    const auto middle = frameMiddle(window);
    const auto corner = *page->sheet()->corner;
    pointer(page, QEvent::MouseButtonPress, page->screenOf(middle));
    pointer(page, QEvent::MouseMove, page->screenOf(middle + QPointF(10, -4)));
    pointer(page, QEvent::MouseMove, page->screenOf(middle + QPointF(30, -20)));
    window.settle(); // it is seen where it is before it is let go
    CHECK(page->sheet()->corner->x == Approx(corner.x - 30 * fitted / 1000).margin(0.6));
    pointer(page, QEvent::MouseButtonRelease, page->screenOf(middle + QPointF(30, -20)), Qt::NoButton);
    window.settle();
    REQUIRE(window.project().sheets->size() == 1);
    CHECK(page->sheet()->scale == fitted);
    CHECK(page->sheet()->corner->x == Approx(corner.x - 30 * fitted / 1000).margin(0.6));
    CHECK(page->sheet()->corner->y == Approx(corner.y - 20 * fitted / 1000).margin(0.6));
    // nearer, by the wheel
    const auto at = page->screenOf(middle);
    QWheelEvent nearer(at, page->mapToGlobal(at), {}, QPoint(0, 120), Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
    QApplication::sendEvent(page, &nearer);
    window.settle();
    CHECK(page->sheet()->scale < fitted);
    const double near = page->sheet()->scale;
    picture(&*window, "moved_map");
    // named, and used again by another sheet
    const auto& elements = page->editor().layout().elements;
    const auto body = std::size_t(std::ranges::find(elements, SheetElement::Kind::Body, &SheetElement::kind) - elements.begin());
    page->choose(body);
    typeInto(child<QLineEdit>(shelf(window), "areaName"), "the bridge");
    window.settle();
    CHECK(layoutOnPage(window).area == "the bridge");
    showShipped(window, "geological map");
    page->choose(std::size_t(std::ranges::find(page->editor().layout().elements, SheetElement::Kind::Body, &SheetElement::kind)
                             - page->editor().layout().elements.begin()));
    pickIn(window, "mapArea", "the bridge");
    CHECK(window.project().sheets->size() == 2);
    CHECK(page->sheet()->scale == near);
    CHECK(layoutOnPage(window).centre == window.project().sheets->front().layout.centre);
    pickIn(window, "mapArea", "all that there is");
    CHECK_FALSE(layoutOnPage(window).centre);
    CHECK(page->sheet()->scale != near);
    window->session().undo();
    window.settle();
    CHECK(layoutOnPage(window).area == "the bridge");
}

TEST_CASE("What a map shows is chosen in the panel: units left out, contours, names, black and white", "[window][sheets]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    showShipped(window, "geological map");
    const auto mapped = [&] {
        std::set<std::string> out;
        for (const auto& item : page->sheet()->pages[0].items)
            if (item.layer == "map") out.insert(item.name);
        return out;
    };
    CHECK(mapped().contains("TS"));
    const auto chooseBody = [&] {
        const auto& all = page->editor().layout().elements;
        page->choose(std::size_t(std::ranges::find(all, SheetElement::Kind::Body, &SheetElement::kind) - all.begin()));
    };
    chooseBody();
    for (auto* a : child<QPushButton>(shelf(window), "mapUnits")->menu()->actions())
        if (a->text().startsWith("TS")) {
            a->trigger();
            break;
        }
    window.settle();
    CHECK_FALSE(mapped().contains("TS"));
    CHECK(mapped().size() > 3);
    CHECK(child<QPushButton>(shelf(window), "mapUnits")->text().contains("TS")); // and the element stays chosen
    CHECK(page->editor().chosen());
    picture(&*window, "map_without_topsoil");
    typeInto(child<QDoubleSpinBox>(shelf(window), "contourPen"), "0.5");
    window.settle();
    typeInto(child<QDoubleSpinBox>(shelf(window), "labelSize"), "4");
    window.settle();
    CHECK(layoutOnPage(window).contourPen == 0.5);
    CHECK(layoutOnPage(window).labelSize == 4);
    for (auto* a : child<QPushButton>(shelf(window), "frameShows")->menu()->actions())
        if (a->text() == "survey points") a->trigger();
    window.settle();
    CHECK(layoutOnPage(window).points);
    typeInto(child<QDoubleSpinBox>(shelf(window), "sheetScale"), "2500");
    window.settle();
    CHECK(page->sheet()->scale == 2500);
    page->choose({});
    child<QCheckBox>(shelf(window), "blackAndWhite")->click();
    window.settle();
    CHECK(layoutOnPage(window).blackAndWhite);
    for (const auto& item : page->sheet()->pages[0].items)
        if (const auto* text = std::get_if<paper::Text>(&item.shape)) CHECK(text->colour.red == text->colour.blue);
    while (window->session().history().canUndo()) window->session().undo();
    window.settle();
    CHECK(window.project().sheets->empty());
}

TEST_CASE("Charts, tables, page numbers and pictures are put on a page, and the block is seen as it is", "[window][sheets]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    showShipped(window, "title page");
    insertOnPage(window, "SPT N by unit");
    REQUIRE(window.project().sheets->size() == 1);
    const auto last = [&] { return window.project().sheets->front().layout.elements.back(); };
    CHECK(last().what == "values:SPT N");
    CHECK(page->sheet()->missing.empty());
    pickIn(window, "elementChart", "Water against time");
    CHECK(last().what == "water");
    insertOnPage(window, "Holes with places and depths");
    CHECK(last().kind == SheetElement::Kind::Table);
    CHECK(wordsOf(page->sheet()->pages[0]).find("QB101|") != std::string::npos);
    pickIn(window, "elementTable", "units with volumes and values");
    CHECK(last().what == "units");
    insertOnPage(window, "Section A");
    CHECK(last().what == "section:A");
    CHECK(page->sheet()->missing.empty());
    const auto before = window.project().sheets->front().layout.elements.size();
    insertOnPage(window, "Title block");
    CHECK(window.project().sheets->front().layout.elements.size() > before + 8);
    window->session().undo(); // at once
    window.settle();
    CHECK(window.project().sheets->front().layout.elements.size() == before);
    insertOnPage(window, "Page number");
    CHECK(wordsOf(page->sheet()->pages[0]).find("Page 1 of 1|") != std::string::npos);
    // a logo from a file; one that is none is refused
    const QTemporaryDir folder;
    QImage logo(60, 30, QImage::Format_RGB32);
    logo.fill(Qt::darkGreen);
    REQUIRE(logo.save(folder.filePath("logo.png")));
    QFile bad(folder.filePath("bad.png"));
    REQUIRE(bad.open(QIODevice::WriteOnly));
    bad.write("no picture");
    bad.close();
    QString name = "bad.png";
    const ModalAnswers names("pictureFileDialog", [&](QWidget* dialog) { typeFileName(dialog, folder.filePath(name)); });
    const auto count = window.project().sheets->front().layout.elements.size();
    insertOnPage(window, "Picture from a file…");
    CHECK(window.project().sheets->front().layout.elements.size() == count);
    name = "logo.png";
    insertOnPage(window, "Picture from a file…");
    CHECK(names.count() == 2);
    REQUIRE(last().kind == SheetElement::Kind::Picture);
    CHECK(last().height == Approx(last().width / 2));
    CHECK(QImage::fromData(QByteArray::fromStdString(fromBase64(last().picture))).pixelColor(5, 5) == QColor(Qt::darkGreen));
    if (!SceneDrawer::shared()) return;
    insertOnPage(window, "Picture of the block");
    CHECK(last().what == "block");
    CHECK(page->sheet()->missing.empty());
    const auto block = QImage::fromData(QByteArray::fromStdString(fromBase64(last().picture)));
    std::set<QRgb> colours;
    for (int y = 0; y < block.height(); y += 3)
        for (int x = 0; x < block.width(); x += 3) colours.insert(block.pixel(x, y));
    CHECK(colours.size() > 50);
    CHECK(qAlpha(block.pixel(0, 0)) == 0); // the paper is seen around it
    picture(&*window, "page_with_chart");
    // saved with the block as it is then
    window->sheets()->saveReport(folder.filePath("report.pdf"));
    waitFor("the report", [&] { return window->sheets()->settled(); });
    CHECK(QFile(folder.filePath("report.pdf")).size() > 20000);
}

TEST_CASE("A hole has the template of its name, or of its kind, and is laid out by itself", "[window][sheets]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    const auto pushed =
        std::ranges::find_if(*window.project().holes, [](const Hole& h) { return kindOf(h) == HoleKind::Pushed; });
    const auto name = displayName(*window.project().holes, *pushed);
    window->session().apply([](const Project& p) { return addSheet(p, reportEntry(sheetTemplate("borehole log"))); });
    window.settle();
    window->selection().setReportSheet("Borehole log");
    window->selection().setHole(qt(name));
    window.settle();
    REQUIRE(page->sheet()->item == name);
    CHECK(wordsOf(page->sheet()->pages[0]).find("Borehole log") != std::string::npos);
    pickIn(window, "kindTemplate", "sounding log");
    CHECK(wordsOf(page->sheet()->pages[0]).find("Sounding") != std::string::npos);
    CHECK(layoutKeyOf(window->selection(), window.project()) == "pushed");
    window->selection().setHole("QB102");
    window.settle();
    CHECK(wordsOf(page->sheet()->pages[0]).find("Borehole log") != std::string::npos);
    pickIn(window, "holeTemplate", "well log");
    CHECK(wordsOf(page->sheet()->pages[0]).find("Well log") != std::string::npos);
    // what is changed on its page is changed for it alone
    const auto count = page->editor().layout().elements.size();
    insertOnPage(window, "Box");
    CHECK(window.project().sheets->front().others.at("QB102").elements.size() == count + 1);
    CHECK(window.project().sheets->front().layout == sheetTemplate("borehole log"));
    pickIn(window, "holeTemplate", "as its kind");
    CHECK(wordsOf(page->sheet()->pages[0]).find("Borehole log") != std::string::npos);
    // numbers of the report are on the page
    waitFor("the numbers", [&] { return window->selection().reportNumbers() != nullptr; });
    window.settle();
    const auto numbers = window->selection().reportNumbers();
    const auto at = numbers->first.find({"Borehole log", "QB102"});
    REQUIRE(at != numbers->first.end());
    CHECK(at->second > 1);
    const auto said = fmt::format("Page {} of {}|", at->second, numbers->pages);
    CAPTURE(said, wordsOf(page->sheet()->pages[0]));
    CHECK(wordsOf(page->sheet()->pages[0]).find(said) != std::string::npos);
}

TEST_CASE("A log's column is of what fits its kind: curves, values, codes, headings with depths", "[window][sheets]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    showShipped(window, "well log");
    page->choose(std::size_t(std::ranges::find(page->editor().layout().elements, SheetElement::Kind::Body, &SheetElement::kind)
                             - page->editor().layout().elements.begin()));
    pickIn(window, "logColumn", "4. Gamma");
    const auto offered = [&] {
        QStringList out;
        for (auto* a : child<QPushButton>(shelf(window), "logColumnHeading")->menu()->actions()) out << a->text();
        return out;
    };
    std::set<QString> curves, values;
    for (const auto& hole : *window.project().holes)
        for (const auto& c : hole.curves) (c.single ? values : curves).insert(qt(c.name));
    CHECK(offered() == QStringList(curves.begin(), curves.end()));
    CHECK(child<QPushButton>(shelf(window), "logColumnHeading")->isEnabled() == !curves.empty());
    pickIn(window, "logColumnKind", "test values");
    REQUIRE(values.size() > 1);
    CHECK(offered() == QStringList(values.begin(), values.end()));
    for (const auto& name : {*values.begin(), *std::next(values.begin())})
        for (auto* a : child<QPushButton>(shelf(window), "logColumnHeading")->menu()->actions())
            if (a->text() == name) {
                a->trigger();
                window.settle();
                break;
            }
    CHECK(qt(layoutOnPage(window).columns[3].heading) == *values.begin() + ", " + *std::next(values.begin()));
    pickIn(window, "logColumnKind", "codes of a column");
    CHECK(offered().contains("GEOL_GEOL"));
    CHECK_FALSE(offered().contains(*values.begin()));
    pickIn(window, "logColumnKind", "any heading");
    CHECK(std::ranges::any_of(offered(), [](const QString& h) { return h.startsWith("GEOL."); }));
}

TEST_CASE("A template is kept for all projects, offered again, and kept no longer", "[window][sheets]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    showShipped(window, "plan");
    REQUIRE(keptTemplates().empty());
    QString name = "Our plan / A3";
    const ModalAnswers names("keepTemplate", [&](QWidget* dialog) {
        auto* input = qobject_cast<QInputDialog*>(dialog);
        input->setTextValue(name);
        input->accept();
    });
    window->sheets()->askKeepTemplate();
    window.settle();
    REQUIRE(keptTemplates().size() == 1);
    CHECK(keptTemplates()[0].name == "Our plan / A3");
    CHECK(page->summary().startsWith("Our plan"));
    name = "";
    window->sheets()->askKeepTemplate(); // refused in words
    CHECK(keptTemplates().size() == 1);
    // a broken file there is passed over, and stays
    QFile broken(QDir(keptTemplatesFolder()).filePath("broken.json"));
    REQUIRE(broken.open(QIODevice::WriteOnly));
    broken.write("{");
    broken.close();
    CHECK(keptTemplates().size() == 1);
    {
        DemoWindow other("sheets");
        CHECK(std::ranges::any_of(shelf(other)->findChildren<ShelfRow*>(), [](const ShelfRow* r) {
            for (const auto* l : r->findChildren<QLabel*>())
                if (l->text().startsWith("Our plan")) return true;
            return false;
        }));
    }
    window->sheets()->dropTemplate("Our plan / A3");
    window.settle();
    CHECK(keptTemplates().empty());
    CHECK(broken.exists());
    broken.remove();
}

TEST_CASE("A section on paper has tests beside its holes and its band as it is chosen in the panel", "[window][sheets]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    showShipped(window, "section");
    const auto has = [&](const char* layer) {
        return std::ranges::any_of(page->sheet()->pages[0].items, [&](const auto& item) { return item.layer == layer; });
    };
    const auto& elements = page->editor().layout().elements;
    page->choose(std::size_t(std::ranges::find(elements, SheetElement::Kind::Body, &SheetElement::kind) - elements.begin()));
    CHECK_FALSE(has("graphs"));
    pickIn(window, "besideHoles", "SPT N");
    CHECK(has("graphs"));
    child<QCheckBox>(shelf(window), "sheetUncertainty")->click();
    window.settle();
    CHECK(has("uncertainty"));
    typeInto(child<QDoubleSpinBox>(shelf(window), "sheetScale"), "1000");
    window.settle();
    CHECK(page->sheet()->scale == 1000);
    picture(&*window, "section_sheet");
}

TEST_CASE("A sheet printed to a file is the PDF that is saved, with fonts", "[window][sheets]") {
    DemoWindow window("sheets");
    showShipped(window, "section");
    const QTemporaryDir folder;
    const auto file = folder.filePath("printed.pdf");
    const ModalAnswers answers("printSheet", [&](QWidget* dialog) {
        // without a printer the dialog offers a file
        child<QLineEdit>(dialog, "filename")->setText(file);
        for (auto* button : dialog->findChildren<QPushButton*>())
            if (button->text().remove('&') == "Print") return button->click();
        FAIL("there is no button Print");
    });
    child<QPushButton>(shelf(window), "printThisSheet")->click();
    CHECK(answers.count() == 1);
    waitFor("the print", [&] { return window->sheets()->settled(); });
    const auto bytes = readBytes(file.toStdString());
    CHECK(bytes.starts_with("%PDF"));
    CHECK(bytes.find("/FontFile") != bytes.npos);
}

TEST_CASE("A sheet is printed in its own size", "[window][sheets]") {
    DemoWindow window("sheets");
    showShipped(window, "section");
    const QTemporaryDir folder;
    auto printer = std::make_shared<QPrinter>(QPrinter::HighResolution);
    printer->setOutputFormat(QPrinter::PdfFormat);
    printer->setOutputFileName(folder.filePath("printed.pdf"));
    window->sheets()->print(printer);
    waitFor("the print", [&] { return window->sheets()->settled(); });
    CHECK(QFile(folder.filePath("printed.pdf")).size() > 10000);
    CHECK(printer->pageLayout().fullRect(QPageLayout::Millimeter).width() == Approx(420).margin(1));
    CHECK(printer->pageLayout().fullRect(QPageLayout::Millimeter).height() == Approx(297).margin(1));
}
