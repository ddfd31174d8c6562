// Sheets in the window: the page, templates, and the files that are saved.
#include "base/files.h"
#include "handover/sheet_files.h"
#include "harness.h"
#include "shell/sheet_actions.h"
#include "stages/shelf.h"
#include "views/page_view.h"

#include <QLabel>
#include <QPushButton>
#include <QTemporaryDir>
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

void chooseTemplate(DemoWindow& window, const std::string& name) {
    window->selection().setSheetTemplate(std::make_shared<const SheetTemplate>(sheetTemplate(name)));
    window.settle();
}

void pressIn(DemoWindow& window, const char* name) {
    QTest::mouseClick(child<QPushButton>(shelf(window), name), Qt::LeftButton);
    waitFor("the files", [&] { return window->sheets()->settled(); });
}

std::vector<std::string> wordsOn(const paper::Drawing& page) {
    std::vector<std::string> out;
    for (const auto& item : page.items)
        if (const auto* text = std::get_if<paper::Text>(&item.shape)) out.push_back(text->words);
    return out;
}

} // namespace

TEST_CASE("The page shows the log of the hole that is selected, and follows its correction", "[app]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    window->selection().setHole("QB102");
    window.settle();
    REQUIRE(page->sheet());
    CHECK(page->sheet()->item == "QB102");
    CHECK(page->summary().contains("QB102"));
    CHECK(coloursOf(page) > 20);
    picture(&*window, "sheets");
    window->selection().setHole("QB119");
    window.settle();
    CHECK(page->sheet()->item == "QB119");
    const auto& before = wordsOn(page->sheet()->pages[0]);
    CHECK(std::ranges::count_if(before, [](const auto& w) { return w.find("QB119") != w.npos; }) > 0);
    window->session().apply([](const Project& p) { return setHoleName(p, "QB119", "TP-7"); });
    window.settle();
    const auto after = wordsOn(page->sheet()->pages[0]);
    CHECK(std::ranges::count_if(after, [](const auto& w) { return w.find("TP-7") != w.npos; }) > 0);
}

TEST_CASE("Pages are turned by keys and tools, and templates are chosen in the side panel", "[app]") {
    DemoWindow window("sheets");
    auto* page = window.view<PageView>();
    chooseTemplate(window, "sections at 1:1000");
    REQUIRE(page->sheet());
    const auto pages = page->sheet()->pages.size();
    REQUIRE(pages > 1);
    CHECK(page->page() == 0);
    page->setFocus();
    press(page, Qt::Key_PageUp);
    CHECK(page->page() == 0);
    press(page, Qt::Key_PageDown);
    CHECK(page->page() == 1);
    page->tools()[2]->trigger();
    page->tools()[2]->trigger();
    page->tools()[2]->trigger();
    page->tools()[2]->trigger();
    CHECK(page->page() == std::min<std::size_t>(5, pages - 1));
    for (const char* name : {"geological map", "contour map", "correlation", "key to units", "unit summary", "plan"}) {
        chooseTemplate(window, name);
        CAPTURE(name);
        REQUIRE(page->sheet());
        CHECK(page->page() == 0);
        CHECK(page->summary().startsWith(name));
        CHECK(coloursOf(page) > 8);
    }
    chooseTemplate(window, "contour map");
    window->selection().setUnit("TL");
    window.settle();
    CHECK(page->sheet()->item == "TL");
    // a row of the panel, by what it says
    for (auto* label : shelf(window)->findChildren<QLabel*>())
        if (label->text() == "Well log") QTest::mouseClick(label->parentWidget(), Qt::LeftButton);
    window.settle();
    CHECK(page->summary().startsWith("well log"));
}

TEST_CASE("Sheets are saved from the side panel: this one, all, those shown; and again after a failure", "[app]") {
    DemoWindow window("sheets");
    const QTemporaryDir folder;
    QString name;
    const ModalAnswers names("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, folder.filePath(name)); });
    const auto size = [&](const QString& file) { return std::filesystem::file_size(folder.filePath(file).toStdString()); };
    window->selection().setHole("QB102");
    window.settle();
    name = "one";
    pressIn(window, "saveThisSheet");
    CHECK(readBytes(folder.filePath("one.pdf").toStdString()).starts_with("%PDF"));
    name = "one.png";
    pressIn(window, "saveThisSheet");
    CHECK(size("one.png") > 5000);
    name = "nowhere/one.pdf"; // a folder that is not there
    pressIn(window, "saveThisSheet");
    CHECK_FALSE(std::filesystem::exists(folder.filePath("nowhere").toStdString()));
    name = "all.pdf";
    pressIn(window, "saveAllSheets");
    CHECK(size("all.pdf") > 3 * size("one.pdf"));
    window->sheets()->save({"QB101", "QB102"}, folder.path()); // a folder: a file each
    waitFor("the files", [&] { return window->sheets()->settled(); });
    CHECK(size("QB101.pdf") > 1000);
    {
        const ModalAnswers replace("replaceBox", [&](QWidget* box) { answer(box, "Cancel"); });
        const auto before = std::filesystem::last_write_time(folder.filePath("QB101.pdf").toStdString());
        window->sheets()->save({"QB101"}, folder.path());
        waitFor("the question", [&] { return window->sheets()->settled() && replace.count() == 1; });
        CHECK(std::filesystem::last_write_time(folder.filePath("QB101.pdf").toStdString()) == before);
    }
    window->selection().showHoles({"QB101", "QB102"});
    window.settle();
    name = "shown.pdf";
    pressIn(window, "saveShownSheets");
    CHECK(size("shown.pdf") > size("one.pdf"));
    CHECK(size("shown.pdf") < size("all.pdf"));
}

TEST_CASE("A template is saved as a file, changed there and opened; a file that is none is refused", "[app]") {
    DemoWindow window("sheets");
    const QTemporaryDir folder;
    chooseTemplate(window, "well log");
    {
        const ModalAnswers names("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, folder.filePath("ours.json")); });
        window->sheets()->askSaveTemplate();
    }
    const auto file = folder.filePath("ours.json").toStdString();
    auto json = nlohmann::json::parse(readBytes(file));
    json["name"] = "ours", json["scale"] = 20;
    writeBytes(file, json.dump());
    window->sheets()->openTemplate(QString::fromStdString(file));
    window.settle();
    auto* page = window.view<PageView>();
    CHECK(page->sheet()->scale == 20);
    CHECK(page->summary().startsWith("ours"));
    writeBytes(file, "{}");
    window->sheets()->openTemplate(QString::fromStdString(file));
    window.settle();
    CHECK(page->summary().startsWith("ours")); // the one before stays
}

TEST_CASE("An empty project says what a sheet needs", "[app]") {
    const QTemporaryDir folder;
    MainWindow window;
    window.session().openNew(folder.filePath("empty.gpkg"), [] { return Project(); });
    window.show();
    window.showStage("sheets");
    waitFor("an empty project", [&] { return window.settled() && window.session().path().endsWith("empty.gpkg"); });
    auto* page = window.page()->find<PageView>();
    REQUIRE(page);
    CHECK_FALSE(page->sheet());
    CHECK(window.sheets()->itemsOf(SaveSheets::Which::All).empty());
    window.sheets()->askSave({SaveSheets::Which::This, false}); // says so, and opens nothing
    CHECK(window.sheets()->settled());
}
