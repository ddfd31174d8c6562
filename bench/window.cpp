// How long the window's thread is busy at a stretch: while a table of 100,000 rows is opened, sorted and filtered, and
// while a survey of a million points comes in and is looked at. And how soon a changed surface is seen.
// fox_bench_window [table|survey|surface|contact|layers|slider|looking|wells]
#include "base/errors.h"
#include "base/files.h"
#include "dialogs/import_sheet.h"
#include "dialogs/surface_sheet.h"
#include "handover/build_file.h"
#include "importing/import.h"
#include "project/hole_edits.h"
#include "project/layer_edits.h"
#include "project/project_lines.h"
#include "shell/application.h"
#include "shell/main_window.h"
#include "shell/pane.h"
#include "shell/project_actions.h"
#include "shell/stage_page.h"
#include "shell/surface_actions.h"
#include "style/theme.h"
#include "views/block_canvas.h"
#include "views/block_view.h"
#include "views/plan_view.h"
#include "views/table_view.h"
#include "views/variogram_chart.h"

#include <QDoubleSpinBox>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <QPushButton>
#include <QTableView>
#include <QTemporaryDir>
#include <QTimer>
#include <fmt/format.h>
#include <gdal_priv.h>
#include <ogrsf_frmts.h>

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

/// Runs the event loop until `settled`; the longest stretch, in ms, with what `act` itself takes. It waits for events as an
/// application does (a tick of 2 ms wakes it): turning round and round would take a core from the work that is measured.
double longestPause(const std::function<bool()>& settled, const std::function<void()>& act) {
    QElapsedTimer timer;
    timer.start();
    act();
    double longest = double(timer.nsecsElapsed()) / 1e6;
    QTimer tick;
    tick.start(2);
    for (int quiet = 0; quiet < 5;) {
        timer.restart();
        QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
        longest = std::max(longest, double(timer.nsecsElapsed()) / 1e6);
        quiet = settled() ? quiet + 1 : 0;
    }
    return longest;
}

void table() {
    const auto project = importSource({}, readSource({"large.ags", "", largeFile(100'000), 0, {}, {}, ""}, "")).project;
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
        const double pause = longestPause([&] { return view.settled(); }, step);
        fmt::print("{:20} longest pause {:6.1f} ms (at most 50), {} rows\n", name, pause, view.table()->model()->rowCount());
    }
}

void survey() {
    const QTemporaryDir folder;
    std::string text = "point,northing,easting,level,code\n";
    for (std::int64_t i = 0; i < 1'000'000; ++i) {
        const double e = double(i % 1000) * 2 + double(i * 7919 % 1009) / 700,
                     n = double(i / 1000) * 2 + double(i * 104729 % 997) / 700;
        text += fmt::format("{},{:.2f},{:.2f},{:.2f},GL\n", i, 6120000 + n, 480000 + e,
                            30 + 6 * std::sin(e / 170) * std::cos(n / 210));
    }
    const auto csv = folder.filePath("survey.csv");
    writeBytes(csv.toStdString(), text);
    Project empty;
    Site site;
    site.crs = "EPSG:25831";
    empty.site = part(site);
    ProjectStore::create(folder.filePath("p.gpkg").toStdString(), empty);
    MainWindow window;
    window.resize(1280, 800);
    window.projects()->open(folder.filePath("p.gpkg"));
    window.showStage("ground");
    window.show();
    const auto sheet = [&] { return window.findChild<ImportSheet*>(); };
    const auto shown = [&] { return window.shown() && (!sheet() || !sheet()->reading()); };
    const auto settled = [&] { return window.settled() && shown(); };
    const auto look = [&](auto&& change) {
        auto l = window.selection().planLook();
        change(l);
        window.selection().setPlanLook(l);
    };
    auto* plan = window.page()->find<PlanView>();
    const std::pair<const char*, std::function<void()>> steps[] = {
        {"empty window", [] {}},
        {"read the file", [&] { window.importFiles({csv}); }},
        {"import to picture", [&] { sheet()->findChild<QPushButton*>("importButton")->click(); }},
        {"and saved", [] {}},
        {"survey points", [&] { look([](PlanLook& l) { l.points = true; }); }},
        {"shaded by light", [&] { look([](PlanLook& l) { l.shading = PlanLook::Shading::Light; }); }},
        {"come nearer",
         [&] {
             plan->showPlace({481000, 6121000});
         }},
        {"triangles", [&] { look([](PlanLook& l) { l.triangles = true; }); }},
    };
    for (const auto& [name, step] : steps) {
        QElapsedTimer whole;
        whole.start();
        const bool toPicture = std::string_view(name) == "import to picture"; // which does not wait for the disk
        const double pause = longestPause(toPicture ? std::function<bool()>(shown) : settled, step);
        fmt::print("{:20} {:7.2f} s in all, longest pause {:7.1f} ms (at most 50)\n", name, double(whole.elapsed()) / 1000,
                   pause);
        std::fflush(stdout);
    }
}

/// A gamma and a resistivity log of 300 m, a reading each 0.2 m.
std::string wellLog(int well) {
    std::string text = fmt::format("~V\nVERS. 2.0 :\nWRAP. NO :\n~W\nSTRT.M 0 :\nSTOP.M 300 :\nSTEP.M 0.2 :\nNULL. -999.25 :\n"
                                   "WELL. W{:03} :\n~C\nDEPT.M :\nGR.API :\nRES.OHMM :\n~A\n",
                                   well);
    for (int i = 0; i <= 1500; ++i)
        text += fmt::format("{:.2f} {:.3f} {:.3f}\n", i * 0.2, 60 + 40 * std::sin(i * 0.02 + well), 20 + 5 * std::cos(i * 0.03));
    return text;
}

/// 200 wells with their workbook of positions and depths: dropped at once, imported by the one button.
void wells() {
    constexpr int kWells = 200;
    const QTemporaryDir folder;
    QStringList paths;
    for (int i = 1; i <= kWells; ++i) {
        paths << folder.filePath(QString("log_%1.las").arg(i, 3, 10, QChar('0')));
        writeBytes(paths.back().toStdString(), wellLog(i));
    }
    paths << folder.filePath("wells.xlsx");
    {
        GDALAllRegister();
        const std::unique_ptr<GDALDataset> book(
            GetGDALDriverManager()->GetDriverByName("XLSX")->Create(paths.back().toUtf8(), 0, 0, 0, GDT_Unknown, nullptr));
        auto* sheet = book->CreateLayer("wells");
        OGRFieldDefn id("Well", OFTString);
        sheet->CreateField(&id);
        for (const char* name : {"Easting", "Northing", "Ground level (m)", "Final depth (m)"}) {
            OGRFieldDefn field(name, OFTReal);
            sheet->CreateField(&field);
        }
        for (int i = 1; i <= kWells; ++i) {
            OGRFeature row(sheet->GetLayerDefn());
            row.SetField(0, fmt::format("W{:03}", i).c_str());
            row.SetField(1, 480000.0 + 150 * (i % 20));
            row.SetField(2, 6120000.0 + 150.0 * (i / 20));
            row.SetField(3, 40 + 0.1 * (i % 37));
            row.SetField(4, 300.0);
            if (sheet->CreateFeature(&row) != OGRERR_NONE) throw FileError("The workbook can't be written.");
        }
    }
    ProjectStore::create(folder.filePath("p.gpkg").toStdString(), Project{});
    MainWindow window;
    window.resize(1280, 800);
    window.projects()->open(folder.filePath("p.gpkg"));
    window.showStage("holes");
    window.show();
    const auto sheet = [&] { return window.findChild<ImportSheet*>(); };
    const auto settled = [&] { return window.shown() && (!sheet() || !sheet()->reading()); };
    int decisions = 0;
    const std::pair<const char*, std::function<void()>> steps[] = {
        {"empty window", [] {}},
        {"read 201 files", [&] { window.importFiles(paths); }},
        {"import to picture",
         [&] {
             ++decisions;
             sheet()->findChild<QPushButton*>("importButton")->click();
         }},
    };
    for (const auto& [name, step] : steps) {
        QElapsedTimer whole;
        whole.start();
        const double pause = longestPause(settled, step);
        fmt::print("{:20} {:7.2f} s in all, longest pause {:7.1f} ms\n", name, double(whole.elapsed()) / 1000, pause);
        std::fflush(stdout);
    }
    const auto& holes = *window.session().project().holes;
    const auto whole = std::ranges::count_if(holes, [](const Hole& h) { return h.place() && h.curves.size() == 2; });
    fmt::print("{} holes, {} with position and both curves; {} decision, {} sheets left open\n", holes.size(), whole, decisions,
               sheet() ? 1 : 0);
}

/// What is shown is made from the project as it is now. (Saving goes on beside it and is not waited for.)
bool upToDate(MainWindow& window) {
    const auto products = window.session().products();
    const auto& now = window.session().project();
    return products && products->project.sequence == now.sequence && products->project.holes == now.holes
           && products->project.interpretation == now.interpretation;
}

bool viewsSettled(const MainWindow& window, bool withBlock) {
    return std::ranges::all_of(window.page()->panes(), [&](const Pane* p) {
        return (!withBlock && qobject_cast<const BlockView*>(p->view())) || p->view()->settled();
    });
}

double showDemoModel(MainWindow& window, const QTemporaryDir& folder) {
    ProjectStore::create(folder.filePath("p.gpkg").toStdString(), buildProject(FOX_DEMO "/quernbeck.build.json").project);
    window.resize(1280, 800);
    window.projects()->open(folder.filePath("p.gpkg"));
    window.showStage("model");
    window.show();
    return longestPause([&] { return window.settled(); }, [] {});
}

/// The demo's base of till: a changed setting to the new picture, and pictures a second while its variogram is dragged.
void surface() {
    const QTemporaryDir folder;
    MainWindow window;
    showDemoModel(window, folder);
    window.selection().setUnit("TL");
    window.surfaces()->openSheet(0);
    auto* sheet = window.surfaces()->sheet();
    const auto settled = [&] { return window.settled() && sheet->settled(); };
    longestPause(settled, [] {});
    auto* ratio = sheet->findChild<QDoubleSpinBox*>("surfaceRatio");
    // plan, section and sheet; the 3D view follows
    const auto flatSettled = [&] { return upToDate(window) && sheet->settled() && viewsSettled(window, false); };
    double slowest = 0, sum = 0, all = 0;
    constexpr int kChanges = 10;
    for (int i = 1; i <= kChanges; ++i) {
        QElapsedTimer timer;
        timer.start();
        ratio->setValue(1 + 0.1 * i);
        while (!flatSettled()) QCoreApplication::processEvents(QEventLoop::AllEvents, 1);
        QCoreApplication::processEvents();
        const double ms = double(timer.nsecsElapsed()) / 1e6;
        slowest = std::max(slowest, ms), sum += ms;
        while (!settled()) QCoreApplication::processEvents(QEventLoop::AllEvents, 1);
        QCoreApplication::processEvents();
        all += double(timer.nsecsElapsed()) / 1e6 / kChanges;
    }
    fmt::print(
        "a setting to the new plan, section and sheet: {:.0f} ms on average, {:.0f} ms at most (under 250); with 3D {:.0f} ms\n",
        sum / kChanges, slowest, all);
    auto* chart = sheet->findChild<VariogramChart*>("variogramChart");
    const auto send = [&](QEvent::Type type, QPointF at) {
        QMouseEvent e(type, at, chart->mapToGlobal(at), Qt::LeftButton, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(chart, &e);
    };
    const auto from = chart->screenOf(VariogramChart::Handle::Sill);
    send(QEvent::MouseButtonPress, from);
    constexpr int kMoves = 40;
    QElapsedTimer timer;
    timer.start();
    for (int i = 1; i <= kMoves; ++i) {
        send(QEvent::MouseMove, from - QPointF(0, i * 0.8));
        while (!sheet->settled()) QCoreApplication::processEvents(QEventLoop::AllEvents, 1);
        sheet->repaint();
    }
    fmt::print("dragging the variogram: {:.0f} pictures a second (at least 10)\n", 1000.0 * kMoves / double(timer.elapsed()));
    send(QEvent::MouseButtonRelease, from - QPointF(0, 32));
    longestPause(settled, [] {});
}

/// A contact that is moved in the demo: to the new section and 3D picture.
void contact() {
    const QTemporaryDir folder;
    MainWindow window;
    showDemoModel(window, folder);
    const auto* hole = findHole(*window.session().project().holes, "R06");
    std::size_t gravel = 0;
    while (hole->intervals[gravel].codes.at("GEOL_GEOL") != "RG") ++gravel;
    const double base = hole->intervals[gravel].base.metres;
    double sum = 0, slowest = 0, sections = 0;
    constexpr int kMoves = 10;
    for (int i = 1; i <= kMoves; ++i) {
        QElapsedTimer timer;
        timer.start();
        const auto from = findHole(*window.session().project().holes, "R06")->intervals[gravel].base;
        window.session().apply([&](const Project& p) { return moveBoundary(p, "R06", from, Depth{base - 0.02 * i}); });
        double section = 0;
        while (!upToDate(window) || !viewsSettled(window, true)) {
            QCoreApplication::processEvents(QEventLoop::AllEvents, 1);
            if (section == 0 && upToDate(window) && viewsSettled(window, false)) section = double(timer.nsecsElapsed()) / 1e6;
        }
        QCoreApplication::processEvents();
        const double ms = double(timer.nsecsElapsed()) / 1e6;
        while (!window.settled()) QCoreApplication::processEvents(QEventLoop::AllEvents, 1);
        sections += section, sum += ms, slowest = std::max(slowest, ms);
    }
    fmt::print(
        "a moved contact to the new section: {:.0f} ms; with the 3D picture {:.0f} ms on average, {:.0f} ms at most (under "
        "300)\n",
        sections / kMoves, sum / kMoves, slowest);
}

/// A contact that is moved in the demo while layers are looked at: to the new layer on the plan, painted.
void layers() {
    const QTemporaryDir folder;
    MainWindow window;
    showDemoModel(window, folder);
    window.showStage("layers");
    window.session().apply([](const Project& p) {
        return changeLayeredGrid(
            p, p.layeredGrids->front().name,
            [](LayerSpec& s) {
                s.finer.clear();
                s.grid = withCells(s.grid, 11.6);
            },
            "finer cells");
    });
    longestPause([&] { return window.settled(); }, [] {});
    const auto grid = [&] { return window.session().products()->layers.front()->grid; };
    const auto* hole = findHole(*window.session().project().holes, "R06");
    std::size_t gravel = 0;
    while (hole->intervals[gravel].codes.at("GEOL_GEOL") != "RG") ++gravel;
    const double base = hole->intervals[gravel].base.metres;
    double sum = 0, slowest = 0;
    constexpr int kMoves = 10;
    for (int i = 1; i <= kMoves; ++i) {
        QElapsedTimer timer;
        timer.start();
        const auto before = grid();
        const auto from = findHole(*window.session().project().holes, "R06")->intervals[gravel].base;
        window.session().apply([&](const Project& p) { return moveBoundary(p, "R06", from, Depth{base - 0.02 * i}); });
        longestPause([&] { return grid() != before; }, [] {});
        window.page()->find<PlanView>()->repaint();
        const double ms = double(timer.nsecsElapsed()) / 1e6;
        sum += ms, slowest = std::max(slowest, ms);
        longestPause([&] { return window.settled(); }, [] {});
    }
    QElapsedTimer alone;
    alone.start();
    Products fresh;
    auto without = window.session().project();
    fresh.of(without, {}, Wanted{});
    const double model = double(alone.nsecsElapsed()) / 1e6;
    alone.restart();
    fresh.of(without, {}, {ProductKind::Layers});
    fmt::print(
        "a moved contact to the new layer on the plan, {} cells: {:.0f} ms on average, {:.0f} at most (300); the model from "
        "nothing {:.0f} ms, then the layers {:.0f} ms\n",
        grid()->cells(), sum / kMoves, slowest, model, double(alone.nsecsElapsed()) / 1e6);
}

/// From an edit that is previewed to the section and plan that show it; on average and at most, ms.
std::pair<double, double> previewed(MainWindow& window, int moves, const std::function<Edit(int)>& move) {
    double sum = 0, slowest = 0;
    for (int i = 1; i <= moves; ++i) {
        const auto before = window.session().products();
        QElapsedTimer timer;
        timer.start();
        window.session().preview(move(i));
        while (window.session().products() == before || !viewsSettled(window, false))
            QCoreApplication::processEvents(QEventLoop::AllEvents, 1);
        for (auto* pane : window.page()->panes())
            if (!qobject_cast<BlockView*>(pane->view())) pane->view()->repaint();
        const double ms = double(timer.nsecsElapsed()) / 1e6;
        sum += ms, slowest = std::max(slowest, ms);
    }
    window.session().endPreview();
    longestPause([&] { return window.settled(); }, [] {});
    return {sum / moves, slowest};
}

/// Pictures a second while the block is turned.
double turned(BlockView& view, int pictures) {
    auto* canvas = view.findChild<BlockCanvas*>();
    QElapsedTimer timer;
    timer.start();
    for (int i = 0; i < pictures; ++i) {
        const auto before = canvas->pictures();
        canvas->lookFrom(-24 + 3.0 * i, 33);
        while (canvas->pictures() == before) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
        canvas->repaint();
    }
    return 1000.0 * pictures / double(timer.elapsed());
}

/// Dragging a boundary and a section's corner, turning the block, and the busiest stretch of a stage change.
void looking() {
    const QTemporaryDir folder;
    MainWindow window;
    QElapsedTimer start;
    start.start();
    fmt::print("first picture of the demo: longest pause {:.0f} ms once the window is there (50)\n",
               showDemoModel(window, folder));
    const auto* hole = findHole(*window.session().project().holes, "R06");
    std::size_t gravel = 0;
    while (hole->intervals[gravel].codes.at("GEOL_GEOL") != "RG") ++gravel;
    const auto base = hole->intervals[gravel].base;
    const auto automatic = [&](bool on) {
        window.session().apply([on](const Project& p) {
            Edited e{p, "methods"};
            auto sequence = *p.sequence;
            for (auto& u : sequence.units) u.recipe.automatic = on;
            e.project.sequence = part(std::move(sequence));
            return e;
        });
        longestPause([&] { return window.settled(); }, [] {});
    };
    for (const bool on : {false, true}) {
        automatic(on);
        const auto [mean, most] = previewed(window, 20, [&](int i) -> Edit {
            return [base, to = Depth{base.metres - 0.02 * i}](const Project& p) { return moveBoundary(p, "R06", base, to); };
        });
        fmt::print("dragging a boundary to the new section, {}: {:.0f} ms on average, {:.0f} at most (80)\n",
                   on ? "automatic bases" : "the demo's own methods", mean, most);
        const auto lines = linesOf(window.session().project());
        const auto section = *std::ranges::find(lines, ProjectLine::Kind::Section, &ProjectLine::kind);
        const auto [meanLine, mostLine] = previewed(window, 20, [&](int i) -> Edit {
            auto corners = section.corners;
            corners.front().x += 3.0 * i, corners.front().y += 2.0 * i;
            return [section, corners](const Project& p) { return setCorners(p, section, corners); };
        });
        fmt::print("dragging a section's corner to the new section, {}: {:.0f} ms on average, {:.0f} at most (60)\n",
                   on ? "automatic bases" : "the demo's own methods", meanLine, mostLine);
    }
    automatic(false);
    auto* block = window.page()->find<BlockView>();
    auto look = block->look();
    for (const char* code : {"AL", "RG", "TU", "TL"})
        look.surfaces.push_back({SceneSurface::Of::Base, code, SceneSurface::Colouring::Level, 1, false});
    look.coarse = true; // as it is while it moves
    block->setLook(look);
    longestPause([&] { return window.settled(); }, [] {});
    fmt::print("turning the block with sticks and four surfaces: {:.0f} pictures a second (15)\n", turned(*block, 60));
    for (const auto& stage : stages()) {
        const double pause = longestPause([&] { return window.settled(); }, [&] { window.showStage(stage.id); });
        fmt::print("to the stage {:10} the first time: longest pause {:.0f} ms (50)\n", stage.id, pause);
    }
    for (const auto& stage : stages()) {
        const double pause = longestPause([&] { return window.settled(); }, [&] { window.showStage(stage.id); });
        fmt::print("to the stage {:10} again: longest pause {:.0f} ms (50)\n", stage.id, pause);
    }
}

/// The cut-off of a million blocks: from its release to the new picture and figures.
void slider() {
    const QTemporaryDir folder;
    MainWindow window;
    showDemoModel(window, folder);
    window.session().setPatience(3600); // blocks are made without being asked for
    window.session().apply([](const Project& p) {
        Edited e{p, "fine blocks"};
        auto models = *p.blockModels;
        models.front().dx = models.front().dy = 1.1, models.front().dz = 0.25;
        models.front().method = BlockSpec::Method::InverseDistance;
        e.project.blockModels = part(std::move(models));
        return e;
    });
    window.showStage("blocks");
    longestPause([&] { return window.settled(); }, [] {});
    const auto& blocks = *window.session().products()->blocks.front()->blocks;
    auto* canvas = window.page()->find<BlockView>()->findChild<BlockCanvas*>();
    double figures = 0, pictures = 0, slowest = 0;
    constexpr int kMoves = 10;
    for (int i = 1; i <= kMoves; ++i) {
        auto look = window.selection().blockLook();
        look.limit = 100.0 + 60 * i;
        const auto before = canvas->pictures();
        QElapsedTimer timer;
        timer.start();
        window.selection().setBlockLook(look); // the panel counts at once
        const double counted = double(timer.nsecsElapsed()) / 1e6;
        longestPause([&] { return canvas->pictures() != before; }, [] {});
        const double ms = double(timer.nsecsElapsed()) / 1e6;
        figures += counted, pictures += ms, slowest = std::max(slowest, ms);
        longestPause([&] { return window.settled(); }, [] {});
    }
    fmt::print("a cut-off of {} blocks: figures after {:.0f} ms, the picture after {:.0f} ms on average, {:.0f} at most (100)\n",
               blocks.blocks(), figures / kMoves, pictures / kMoves, slowest);
}

/// 2,000 holes with a curve each in 3D, turned.
void manyHoles() {
    const QTemporaryDir folder;
    Project p;
    Holes holes;
    for (int i = 0; i < 2000; ++i) {
        Hole h;
        h.project = "P", h.id = fmt::format("H{}", i), h.easting = 480000 + i % 50 * 30.0, h.northing = 6120000 + i / 50 * 30.0;
        h.level = Level{30 + std::sin(i * 0.1)}, h.finalDepth = Depth{20};
        h.intervals.push_back({Depth{0}, Depth{8}, "", {{"GEOL_GEOL", "C"}}, 0});
        h.intervals.push_back({Depth{8}, Depth{20}, "", {{"GEOL_GEOL", "S"}}, 0});
        std::vector<Curve::Reading> readings;
        for (int k = 0; k < 20; ++k) readings.push_back({k + 0.5, 50 + 30 * std::sin(k * 0.4 + i)});
        h.curves.push_back({"GR", "API", "", false, std::make_shared<const std::vector<Curve::Reading>>(std::move(readings))});
        holes.push_back(std::move(h));
    }
    giveNames(holes);
    p.holes = part(std::move(holes));
    Sequence s;
    s.unitHeading = "GEOL_GEOL";
    for (const char* code : {"C", "S"}) {
        Unit u;
        u.code = u.name = code;
        s.units.push_back(u);
    }
    p.sequence = part(std::move(s));
    ProjectStore::create(folder.filePath("p.gpkg").toStdString(), p);
    MainWindow window;
    window.resize(1280, 800);
    window.projects()->open(folder.filePath("p.gpkg"));
    window.showStage("model");
    window.show();
    longestPause([&] { return window.settled(); }, [] {});
    AlongLook along;
    along.choice = {AlongChoice::Kind::Quantity, "GR"};
    window.selection().setAlong(along);
    auto* block = window.page()->find<BlockView>();
    auto look = block->look();
    look.block = false, look.coarse = true;
    block->setLook(look);
    longestPause([&] { return window.settled(); }, [] {});
    fmt::print("turning 2,000 holes with values: {:.0f} pictures a second (10)\n", turned(*block, 40));
}

} // namespace

int main(int argc, char** argv) {
    fox::app::Application application(argc, argv);
    fox::app::applyChosenTheme();
    const QString which = argc > 1 ? argv[1] : "";
    if (which.isEmpty() || which == "table") table();
    if (which.isEmpty() || which == "survey") survey();
    if (which.isEmpty() || which == "surface") surface();
    if (which.isEmpty() || which == "contact") contact();
    if (which.isEmpty() || which == "layers") layers();
    if (which.isEmpty() || which == "slider") slider();
    if (which.isEmpty() || which == "looking") looking(), manyHoles();
    if (which.isEmpty() || which == "wells") wells();
}
