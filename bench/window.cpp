// How long the window's thread is busy at a stretch while a table of 100,000 rows is opened, sorted and filtered.
#include "project/import.h"
#include "views/table_view.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTableView>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;

namespace {

std::string largeFile(int rows) {
    std::string text =
        "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\",\"BH1\"\r\n\r\n"
        "\"GROUP\",\"SCPT\"\r\n\"HEADING\",\"LOCA_ID\",\"SCPG_TESN\",\"SCPT_DPTH\",\"SCPT_RES\",\"SCPT_FRES\",\"SCPT_REM\"\r\n"
        "\"UNIT\",\"\",\"\",\"m\",\"MN/m2\",\"MN/m2\",\"\"\r\n\"TYPE\",\"ID\",\"X\",\"2DP\",\"4DP\",\"4DP\",\"X\"\r\n";
    for (std::int64_t i = 0; i < rows; ++i)
        text += fmt::format("\"DATA\",\"BH1\",\"1\",\"{:.2f}\",\"{:.4f}\",\"{:.4f}\",\"reading {}\"\r\n", double(i) * 0.02,
                            double(i * 7919 % 10007) / 500.0, double(i * 104729 % 9973) / 9973.0, i * 31 % 1009);
    return text;
}

/// Runs the event loop until the view is settled; the longest stretch, in ms, with what `act` itself takes.
double longestPause(TableView& view, const std::function<void()>& act) {
    QElapsedTimer timer;
    timer.start();
    act();
    double longest = double(timer.nsecsElapsed()) / 1e6;
    for (int quiet = 0; quiet < 5;) {
        timer.restart();
        QCoreApplication::processEvents(QEventLoop::AllEvents, 1);
        longest = std::max(longest, double(timer.nsecsElapsed()) / 1e6);
        quiet = view.settled() ? quiet + 1 : 0;
    }
    return longest;
}

} // namespace

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    const auto project = importSource({}, understand({"large.ags", "", largeFile(100'000), 0, {}, {}, ""}, "")).project;
    const auto products = Products().of(project);
    Selection selection;
    TableView view(&selection);
    view.resize(900, 500);
    view.show();
    view.setProducts(products);
    const std::pair<const char*, std::function<void()>> steps[] = {
        {"open", [&] { view.showTable("group:large.ags:SCPT"); }},
        {"sort by number", [&] { view.table()->sortByColumn(4, Qt::DescendingOrder); }},
        {"sort by text", [&] { view.table()->sortByColumn(6, Qt::AscendingOrder); }},
        {"scroll to the end", [&] { view.table()->scrollToBottom(); }},
        {"filter", [&] { view.findChild<TableModel*>()->setFilter("reading 77"); }},
        {"no filter", [&] { view.findChild<TableModel*>()->setFilter({}); }},
    };
    for (const auto& [name, step] : steps) {
        const double pause = longestPause(view, step);
        fmt::print("{:20} longest pause {:6.1f} ms (at most 50), {} rows\n", name, pause, view.table()->model()->rowCount());
    }
}
