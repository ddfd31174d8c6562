#include "base/files.h"
#include "dialogs/report_sheet.h"
#include "handover/model_report.h"
#include "harness.h"
#include "shell/project_actions.h"

#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

TEST_CASE("The report's chapters are ticked, and have words of one's own, as edits of the project", "[app][report]") {
    DemoWindow window("model");
    window->projects()->openReport();
    auto* sheet = window->findChild<ReportSheet*>();
    REQUIRE(sheet);
    REQUIRE(sheet->isVisible());
    auto* chapters = child<QListWidget>(sheet, "reportChapters");
    auto* words = child<QPlainTextEdit>(sheet, "reportWords");
    REQUIRE(std::size_t(chapters->count()) == reportChapters().size());
    typeInto(words, "For the detailed design.");
    // the next chapter, by keys: its own words; and it is not wanted
    press(chapters, Qt::Key_Down);
    window.settle();
    REQUIRE(window.project().report->texts.size() == 1);
    CHECK(window.project().report->texts.at(reportChapters()[0].first) == "For the detailed design.");
    CHECK(words->toPlainText().isEmpty());
    press(chapters, Qt::Key_Space);
    window.settle();
    CHECK(window.project().report->excluded == std::set{reportChapters()[1].first});
    picture(sheet, "report_sheet");
    // undo while the sheet is open
    window->session().undo();
    window.settle();
    CHECK(chapters->item(1)->checkState() == Qt::Checked);
    window->session().redo();
    window.settle();
    CHECK(chapters->item(1)->checkState() == Qt::Unchecked);
    // words that were not left yet are in the report that is written
    press(chapters, Qt::Key_Up);
    CHECK(words->toPlainText() == "For the detailed design.");
    words->setFocus();
    words->moveCursor(QTextCursor::End);
    QTest::keyClicks(words, " Second issue.");
    const QTemporaryDir folder;
    const auto pdf = folder.filePath("model.pdf");
    for (int i = 0; i < 2; ++i) { // twice: the second replaces the first
        const ModalAnswers name("saveFileDialog", [&](QWidget* dialog) { typeFileName(dialog, pdf); });
        const ModalAnswers box("replaceBox", [](QWidget* asked) { answer(asked, "Replace"); });
        click(child<QPushButton>(sheet, "reportPdf"), {10, 10});
        waitFor("the report", [&] { return QFile::exists(pdf) && window->projects()->settled(); });
        window.settle();
    }
    CHECK(readBytes(pdf.toStdString()).starts_with("%PDF"));
    CHECK(window.project().report->texts.at(reportChapters()[0].first) == "For the detailed design. Second issue.");
    ReportOptions options;
    options.realisations = 2;
    const auto document = modelReport(*window.made(wantedForReport()), options);
    CHECK(document.chapters.size() == reportChapters().size() - 1);
    sheet->close();
}
