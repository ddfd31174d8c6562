// A site that is not the demo: an invented estuary of 16 holes (tests/fixtures/estuary), from an empty project to exports, with
// files as they arrive: other orders of columns, no header, a fault in one of them.
#include "base/files.h"
#include "base/text.h"
#include "dialogs/export_dialog.h"
#include "dialogs/import_sheet.h"
#include "formats/table.h"
#include "harness.h"
#include "shell/banner.h"
#include "views/plan_view.h"

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

const QString kHoles = FOX_FIXTURES "/estuary/holes.ags", kSurvey = FOX_FIXTURES "/estuary/survey.csv";

/// A window on an empty project of its own.
class EmptyWindow {
public:
    EmptyWindow() {
        m_window.resize(1280, 800);
        m_window.session().openNew(m_folder.filePath("estuary.gpkg"), [] {
            Project p;
            p.name = "Estuary";
            return setSystem(p, "25831").project;
        });
        m_window.show();
        REQUIRE(QTest::qWaitForWindowExposed(&m_window, 60000));
        QApplication::setActiveWindow(&m_window);
        waitFor("the empty project", [&] { return m_window.session().path().endsWith("estuary.gpkg"); });
        settle();
    }
    MainWindow* operator->() { return &m_window; }
    MainWindow& operator*() { return m_window; }
    const Project& project() { return m_window.session().project(); }
    void settle() {
        waitFor("the work to be done", [&] { return m_window.settled(); });
        QCoreApplication::processEvents();
    }
    QString filePath(const char* name) const { return m_folder.filePath(name); }
    /// Drops one file and imports it as it is understood, or with its columns named.
    void import(const QString& path, const QString& columns = {}) {
        dropFiles(&m_window, {path});
        auto* sheet = importSheet(m_window);
        if (!columns.isEmpty()) {
            auto* field = child<QLineEdit>(sheet, "importColumns");
            field->setFocus();
            field->setText(columns);
            QTest::keyClick(field, Qt::Key_Tab);
            emit field->editingFinished();
            waitFor("the file to be read again", [&] { return !sheet->reading(); });
        }
        child<QPushButton>(sheet, "importButton")->click();
        waitFor("the sheet to close", [&] { return !m_window.findChild<ImportSheet*>("importSheet"); });
        settle();
    }

private:
    QTemporaryDir m_folder;
    MainWindow m_window;
};

/// The survey's rows, written by a function of point, northing, easting, level and code.
std::string surveyAs(const std::function<std::string(const std::vector<std::string_view>&)>& row, const std::string& header) {
    const auto bytes = readBytes(kSurvey.toStdString());
    std::string out = header;
    bool first = true;
    for (const auto line : split(bytes, '\n')) {
        if (std::exchange(first, false) || trimmed(line).empty()) continue;
        out += row(split(trimmed(line), ','));
    }
    return out;
}

std::string withComma(std::string_view number) {
    std::string out(number);
    std::ranges::replace(out, '.', ',');
    return out;
}

std::size_t surveyPoints(const Project& p) {
    std::size_t n = 0;
    for (const auto& source : p.ground->points) n += source.points.size();
    return n;
}

} // namespace

TEST_CASE("From an empty project to bases on disk, with a site that the program has never seen", "[window][site]") {
    EmptyWindow window;
    window.import(kHoles);
    CHECK(window.project().holes->size() == 16);
    CHECK(window.project().sequence->units.size() == 6);
    window.import(kSurvey);
    CHECK(surveyPoints(window.project()) == 1485);
    const auto products = window->session().products();
    REQUIRE(products->model);
    CHECK(products->terrain->tin.triangles().size() > 2500);
    // the ground against the truth that the site was made from
    const auto truth = readTable(readBytes(FOX_FIXTURES "/estuary/truth.csv"), "truth.csv");
    double squares = 0;
    int n = 0;
    for (std::size_t r = 0; r < truth.rows.size(); ++r) {
        const auto e = truth.number(r, 0), north = truth.number(r, 1), ground = truth.number(r, 2);
        const auto here = products->terrain->levelAt({*e, *north});
        if (!here) continue;
        squares += (*here - *ground) * (*here - *ground);
        ++n;
    }
    REQUIRE(n > 100);
    CHECK(std::sqrt(squares / n) < 0.2); // metres
    // a section drawn on the plan, through the holes
    window->showStage("site");
    window.settle();
    auto* plan = window->page()->find<PlanView>();
    plan->startDrawing(PlanView::Drawing::Section);
    const auto b = products->frame->box();
    for (const auto& p : {Point2{b.xmin + 5, b.centre().y}, {b.xmax - 5, b.centre().y}}) click(plan, plan->screenOf(p));
    press(plan, Qt::Key_Return);
    window.settle();
    REQUIRE(window.project().sections->size() == 2); // and the one that the first holes brought
    // bases, sections and holes in one run
    ExportDialog dialog(asking(*window), &*window);
    dialog.setFolder(window.filePath("out"));
    dialog.show();
    tickAlone(dialog, {"bases", "sections", "holes"});
    for (const auto& [kind, format] : {std::pair{"as_bases", "tif"}, {"as_sections", "pdf"}, {"as_holes", "ags"}}) {
        auto* as = child<QComboBox>(&dialog, kind); // whatever was chosen last
        as->setCurrentIndex(as->findData(format));
    }
    click(child<QPushButton>(&dialog, "exportButton"), {10, 8});
    waitFor("the files", [&] { return dialog.settled(); });
    const auto files = QDir(window.filePath("out")).entryList(QDir::Files);
    CHECK(files.filter("base_").size() == 5);
    CHECK(files.filter("section_").size() >= 1);
    CHECK(files.contains("holes.ags"));
    tickAlone(dialog, {"ground"});
    dialog.close();
    // all of it can be taken back, to the empty project
    while (window->session().history().canUndo()) window->session().undo();
    window.settle();
    CHECK(window.project().holes->empty());
    CHECK(window.project().ground->empty());
}

TEST_CASE("The same survey in other orders of columns is the same ground", "[window][site]") {
    struct Form {
        const char* name;
        std::string header;
        std::function<std::string(const std::vector<std::string_view>&)> row;
        QString columns; // typed in the sheet; empty: understood by itself
    };
    const std::vector<Form> forms{
        {"east_first.csv", "No,Easting,Northing,Elevation,Remark\n",
         [](const auto& c) { return fmt::format("{},{},{},{},{}\n", c[0], c[2], c[1], c[3], c[4]); }, ""},
        {"semicolons.csv", "point;easting;northing;level;code\n",
         [](const auto& c) {
             return fmt::format("{};{};{};{};{}\n", c[0], withComma(c[2]), withComma(c[1]), withComma(c[3]), c[4]);
         },
         ""},
        {"tabs.txt", "easting\tnorthing\tlevel\n", [](const auto& c) { return fmt::format("{}\t{}\t{}\n", c[2], c[1], c[3]); },
         ""},
        {"no_header.csv", "", [](const auto& c) { return fmt::format("{},{},{},{},{}\n", c[0], c[1], c[2], c[3], c[4]); },
         "point,northing,easting,level,code"}};
    for (const auto& form : forms) {
        CAPTURE(form.name);
        EmptyWindow window;
        const auto path = window.filePath(form.name);
        writeBytes(path.toStdString(), surveyAs(form.row, form.header));
        window.import(path, form.columns);
        REQUIRE(surveyPoints(window.project()) == 1485);
        const auto& first = window.project().ground->points.front().points.front();
        CHECK(first.place.x == Approx(367985.24));
        CHECK(first.place.y == Approx(5627989.20));
        CHECK(first.place.z == Approx(4.01));
        CHECK(window->session().products()->terrain->tin.triangles().size() > 2500);
    }
}

TEST_CASE("A fault in one row of a survey is a finding with its line, and the other rows are ground", "[window][site]") {
    EmptyWindow window;
    window.import(kHoles);
    const auto path = window.filePath("faulty.csv");
    int line = 1;
    writeBytes(path.toStdString(), surveyAs(
                                       [&](const auto& c) {
                                           ++line;
                                           return fmt::format("{},{},{},{},{}\n", c[0], c[1], c[2],
                                                              line == 700 ? "n/a" : std::string(c[3]), c[4]);
                                       },
                                       "point,northing,easting,level,code\n"));
    window.import(path);
    CHECK(surveyPoints(window.project()) == 1484);
    const auto findings = window->session().products()->findings;
    REQUIRE(findings);
    const auto at = std::ranges::find_if(*findings, [](const Finding& f) { return f.rule == "FC-SURVEY" && f.line == 700; });
    REQUIRE(at != findings->end());
    CHECK(at->file == "faulty.csv");
    CHECK(window->session().products()->model);
}
