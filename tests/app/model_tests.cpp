#include "dialogs/export_dialog.h"
#include "dialogs/volumes_sheet.h"
#include "harness.h"
#include "shell/sequence_actions.h"
#include "views/block_canvas.h"
#include "views/block_lattice.h"
#include "views/block_view.h"
#include "views/log_view.h"
#include "views/plan_view.h"
#include "views/section_view.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFile>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMouseEvent>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTest>
#include <catch2/catch.hpp>
#include <thread>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

void mouse(QWidget* w, QEvent::Type type, QPointF at, Qt::MouseButtons held) {
    QMouseEvent e(type, at, w->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held, Qt::NoModifier);
    QApplication::sendEvent(w, &e);
}

void setMap(DemoWindow& window, std::optional<MapSurface> map) {
    auto look = window->selection().planLook();
    look.map = map;
    window->selection().setPlanLook(look);
    window.settle();
}

} // namespace

TEST_CASE("A base is dragged on a section: a guide line, and the surface follows", "[app][model]") {
    DemoWindow window("model");
    window->selection().setUnit("TL");
    window.settle();
    auto* view = window.view<SectionView>();
    const auto& s = *window->session().products()->sections.front();
    // a place between holes, away from all of them
    double best = 0, at = 0;
    for (double c = 50; c < s.chainage.back() - 50; c += 10) {
        double near = 1e9;
        for (const auto& h : s.holes) near = std::min(near, std::abs(h.chainage - c));
        if (near > best) best = near, at = c;
    }
    const auto u = *window.project().sequence->index("TL");
    const auto place = pointAlong(s.line, at);
    const double level = window->session().products()->model->columnAt(place).bases[u];
    const auto from = view->screenOf(at, level), to = from + QPointF(0, 24);
    mouse(view, QEvent::MouseButtonPress, from, Qt::LeftButton);
    for (int k = 1; k <= 4; ++k) mouse(view, QEvent::MouseMove, from + (to - from) * k / 4, Qt::LeftButton);
    picture(view, "section_pulled");
    mouse(view, QEvent::MouseButtonRelease, to, Qt::NoButton);
    window.settle();
    REQUIRE(window.project().interpretation->guides.size() == 1);
    const auto& guide = window.project().interpretation->guides[0];
    CHECK(guide.unit == "TL");
    CHECK(guide.line.size() == 3);
    CHECK(window->session().products()->model->columnAt(place).bases[u] < level - 0.3);
    CHECK(window->session().products()->model->columnAt(guide.line[1].plan()).bases[u] == Approx(guide.line[1].z).margin(0.02));
    window->session().undo();
    window.settle();
    CHECK(window->session().products()->model->columnAt(place).bases[u] == Approx(level));
}

TEST_CASE("Sections that cross are marked, named, and have their holes within a distance", "[app][model]") {
    DemoWindow window("model");
    const auto& frame = *window->session().products()->frame;
    const double x = (frame.xmin + frame.xmax) / 2;
    window->session().apply([&](const Project& p) { return addSection(p, {{x, frame.ymin + 20}, {x, frame.ymax - 20}}); });
    window.settle();
    const auto last = window.project().sections->size() - 1;
    window->selection().setSection(int(last));
    window.settle();
    picture(&*window, "sections_cross");
    auto* name = child<QLineEdit>(&*window, "sectionName");
    name->setText("X");
    emit name->editingFinished();
    window.settle();
    CHECK(window.project().sections->back().name == "X");
    const auto few = window->session().products()->sections.back()->holes.size();
    child<QDoubleSpinBox>(&*window, "sectionReach")->setValue(150);
    window.settle();
    CHECK(window->session().products()->sections.back()->holes.size() > few);
}

TEST_CASE("A geological map lies on the plan at the ground, a level and a depth", "[app][model]") {
    DemoWindow window("model");
    auto* plan = window.view<PlanView>();
    setMap(window, MapSurface{});
    CHECK(plan->summary() == "geological map, at the ground");
    const auto ground = plan->grab().toImage();
    picture(&*window, "map_ground");
    setMap(window, MapSurface{MapSurface::Kind::Depth, 4});
    CHECK(plan->summary().contains("4 m below ground"));
    CHECK(plan->grab().toImage() != ground);
    picture(&*window, "map_depth");
    setMap(window, MapSurface{MapSurface::Kind::Level, 18});
    picture(&*window, "map_level");
    setMap(window, std::nullopt);
    CHECK_FALSE(plan->summary().contains("geological map"));
}

TEST_CASE("A trial column says what a hole would find; the cursor does so anywhere", "[app][model]") {
    DemoWindow window("model");
    window.settle();
    auto* plan = window.view<PlanView>();
    auto* log = window.view<LogView>();
    plan->startDrawing(PlanView::Drawing::Trial);
    const Point2 place{480900, 6120520};
    click(plan, plan->screenOf(place));
    window.settle();
    REQUIRE(window.project().trialColumns->size() == 1);
    const auto& trial = window.project().trialColumns->front();
    CHECK(distance(trial.place, place) < 8);
    CHECK(window->selection().trial().toStdString() == trial.name);
    CHECK(log->summary().contains("what a hole would find"));
    picture(&*window, "trial_column");
    // picking a hole shows its log again, with the model beside it
    window->selection().setHole(QString::fromStdString(window->session().products()->reading->holes.front().name));
    CHECK(window->selection().trial().isEmpty());
    CHECK_FALSE(log->summary().contains("what a hole would find"));
    picture(log, "log_and_model");
    for (auto* tool : log->tools())
        if (tool->isCheckable()) tool->setChecked(true);
    window->selection().setProbe(Point2{480700, 6120500});
    CHECK(log->summary().contains("what a hole would find"));
}

TEST_CASE("Volumes by outline and above a level, with their range", "[app][model]") {
    DemoWindow window("model");
    window.settle();
    window->sequence()->openVolumes();
    auto* sheet = window->sequence()->volumes();
    waitFor("the sheet", [&] { return sheet->isVisible(); });
    auto* table = child<QTableWidget>(sheet, "volumesTable");
    const auto& v = *window->session().products()->volumes;
    const auto counted = [&] { waitFor("the volumes", [&] { return sheet->settled(); }); };
    counted();
    REQUIRE(table->rowCount() == int(v.units.size()) + 1);
    CHECK(table->item(4, 1)->text().toDouble() == Approx(v.units[4].volume).margin(1));
    auto* above = child<QComboBox>(sheet, "volumesAbove");
    above->setCurrentIndex(1);
    emit above->activated(1);
    auto* level = child<QDoubleSpinBox>(sheet, "volumesMetres");
    level->setValue(18);
    counted();
    CHECK(table->rowCount() == int(v.units.size()) + 2); // the oldest is dug too
    CHECK(table->item(4, 1)->text().toDouble() < v.units[4].volume);
    click(child<QPushButton>(sheet, "volumesRange"), {10, 8});
    waitFor("the range", [&] { return sheet->settled(); });
    const double p10 = table->item(4, 5)->text().toDouble(), p90 = table->item(4, 7)->text().toDouble();
    CHECK(p10 > 0);
    CHECK(p90 > p10);
    CHECK(sheet->asText().startsWith("Unit\tVolume"));
    // a volume outside its own range is said, and no other
    QStringList outside;
    for (int row = 0; row + 1 < table->rowCount(); ++row) {
        const auto figure = [&](int column) { return table->item(row, column)->text().toDouble(); };
        if (figure(1) < figure(5) || figure(1) > figure(7)) outside << table->item(row, 0)->text().section(' ', 0, 0);
    }
    const auto words = child<QLabel>(sheet, "volumesWords")->text();
    CHECK(words.contains("outside the range") == !outside.isEmpty());
    if (!outside.isEmpty()) CHECK(words.startsWith(outside.join(", ") + ":"));
    picture(sheet, "volumes");
    // a formation surface from a file
    QTemporaryDir folder;
    QFile grid(folder.filePath("formation.asc"));
    REQUIRE(grid.open(QIODevice::WriteOnly));
    grid.write("ncols 2\nnrows 2\nxllcorner 480400\nyllcorner 6120300\ncellsize 200\nNODATA_value -9999\n16 16\n16 16\n");
    grid.close();
    sheet->takeSurface(grid.fileName());
    counted();
    const int last = table->rowCount() - 1;
    CHECK(table->item(last, 2)->text().toDouble() <= 400 * 400);
    QSignalSpy failed(sheet, &VolumesSheet::failed);
    sheet->takeSurface(folder.filePath("nothing.asc")); // says so, and what there was stays
    counted();
    REQUIRE(failed.size() == 1);
    CHECK(failed[0][0].toString().contains("nothing.asc"));
    CHECK(table->rowCount() == last + 1);
    CHECK(table->item(last, 1)->text().toDouble() > 0);
}

TEST_CASE("The block is cut open every way, fenced and pulled apart, and goes out as a picture", "[app][model]") {
    DemoWindow window("model");
    window.settle();
    auto* block = window.view<BlockView>();
    if (!block->hasOpenGl()) return;
    block->resize(900, 560);
    auto shot = [&](const char* name) {
        window.settle();
        const auto image = block->picture({900, 560});
        if (const auto folder = qEnvironmentVariable("FOX_PICTURES"); !folder.isEmpty()) image.save(folder + "/" + name + ".png");
        return image;
    };
    auto look = block->look();
    look.cut = {};
    block->setLook(look);
    const auto whole = shot("block_whole");
    REQUIRE(whole.size() == QSize(900, 560));
    const auto differs = [&](const char* name, auto change) {
        auto next = look;
        change(next);
        block->setLook(next);
        const auto image = shot(name);
        CAPTURE(name);
        CHECK(image != whole);
        return image;
    };
    differs("block_south", [](auto& l) { l.cut.south = 0.5; });
    differs("block_west", [](auto& l) { l.cut.west = 0.5; });
    differs("block_line", [](auto& l) { l.cut.line = true; });
    differs("block_level", [](auto& l) { l.cut.level = 18; });
    differs("block_apart", [](auto& l) { l.apart = 0.3; });
    differs("block_fence", [](auto& l) { l.fences = true, l.cut.south = 0.98, l.ground = BlockScene::Look::Ground::Hidden; });
    CHECK(block->summary().contains("all sections"));
    window->selection().setUnitHidden("TS", true);
    window->selection().setUnitHidden("AL", true);
    differs("block_without", [](auto& l) { l.ground = BlockScene::Look::Ground::Hidden; });
    window->selection().setUnitHidden("TS", false);
    window->selection().setUnitHidden("AL", false);
}

TEST_CASE("The site's extent is typed, taken from the plan and from what there is", "[app][model]") {
    DemoWindow window("site");
    window.settle();
    const auto before = *window->session().products()->frame;
    child<QDoubleSpinBox>(&*window, "siteWest")->setValue(before.xmin + 200);
    window.settle();
    CHECK(window->session().products()->frame->xmin == before.xmin + 200);
    auto* east = child<QDoubleSpinBox>(&*window, "siteEast");
    east->setValue(before.xmin - 500); // past the western edge: that goes along
    window.settle();
    CHECK(window->session().products()->frame->xmax == before.xmin - 500);
    CHECK(window->session().products()->frame->xmin == Approx(before.xmin - 500 - (before.xmax - before.xmin - 200)));
    window->session().undo();
    window.settle();
    CHECK(child<QDoubleSpinBox>(&*window, "siteEast")->value() == Approx(before.xmax));
    auto* plan = window.view<PlanView>();
    plan->zoomBy(2);
    auto* from = child<QPushButton>(&*window, "siteExtentFrom");
    for (auto* a : from->menu()->actions())
        if (a->text().contains("plan")) a->trigger();
    window.settle();
    const auto& now = *window->session().products()->frame;
    CHECK(now.xmax - now.xmin < before.xmax - before.xmin);
    for (auto* a : child<QPushButton>(&*window, "siteExtentFrom")->menu()->actions())
        if (a->text().contains("holes")) a->trigger();
    window.settle();
    CHECK_FALSE(window.project().site->frame);
}

TEST_CASE("Everything that can be exported is written from the window", "[app][model]") {
    DemoWindow window("model");
    window.settle();
    QTemporaryDir folder;
    ExportDialog dialog(asking(*window), &*window);
    dialog.setFolder(folder.path());
    dialog.show();
    const auto write = [&](const char* thing, const char* format) {
        tickAlone(dialog, {thing});
        auto* as = child<QComboBox>(&dialog, (std::string("as_") + thing).c_str());
        as->setCurrentIndex(as->findData(format));
        click(child<QPushButton>(&dialog, "exportButton"), {10, 8});
        waitFor("the files", [&] { return dialog.settled(); });
        return child<QPlainTextEdit>(&dialog, "exportResult")->toPlainText();
    };
    CHECK(write("model", "vtu").contains("model.vtu"));
    CHECK(write("sections", "svg").contains("section_"));
    CHECK(write("interpretation", "csv").contains("interpretation.csv"));
    CHECK(write("map", "gpkg").contains("map.gpkg"));
    CHECK(write("trial-columns", "csv").contains("no predicted log"));
    picture(&dialog, "export");
}

TEST_CASE("A block is drawn by some of its cells, without what a cut takes away, and closed by walls", "[model]") {
    ModelGrid grid{Grid({0, 0, 100, 60, 1}), {Grid({0, 0, 100, 60, 1})}, {}};
    std::ranges::fill(grid.ground.values, 10);
    std::ranges::fill(grid.bases[0].values, 4);
    const auto walls = [](const BlockLattice& l) {
        int n = 0;
        l.eachRimEdge([&](int, int, int, int) { ++n; });
        return n;
    };
    const BlockLattice whole(&grid, grid.ground, -2, {}, nullptr, 100000);
    CHECK(whole.nodes() == 6000);
    CHECK(walls(whole) == 2 * (99 + 59));
    CHECK(whole.levels(3, 3) == std::vector<double>{10, 4, -2});
    const BlockLattice coarse(&grid, grid.ground, -2, {}, nullptr, 400);
    CHECK(coarse.nodes() <= 500);
    CHECK(coarse.place(coarse.columns() - 1, 0).x == 99.5); // out to the last cell
    CHECK(walls(coarse) == 2 * (coarse.columns() - 1 + coarse.rows() - 1));
    const BlockLattice south(&grid, grid.ground, -2, {0.5, 0, {}, false, {}}, nullptr, 100000);
    CHECK(south.square(0, 0));
    CHECK_FALSE(south.square(0, 50));
    const BlockLattice west(&grid, grid.ground, -2, {0, 0.5, {}, false, {}}, nullptr, 100000);
    CHECK_FALSE(west.square(0, 0));
    CHECK(west.square(70, 0));
    const BlockLattice level(&grid, grid.ground, -2, {0, 0, 7.0, false, {}}, nullptr, 100000);
    CHECK(level.levels(3, 3) == std::vector<double>{7, 4, -2});
    const Polyline2 north{{50, 0}, {50, 60}}; // its right side is the east
    const BlockLattice line(&grid, grid.ground, -2, {0, 0, {}, true, {}}, &north, 100000);
    CHECK(line.square(10, 10));
    CHECK_FALSE(line.square(70, 10));
    // an oblique plane: whole squares and cut ones together are the area that it leaves
    BlockCut oblique;
    oblique.planes.push_back({{37, 22}, 33});
    const BlockLattice cut(&grid, grid.ground, -2, oblique, nullptr, 100000);
    double area = 0;
    int parts = 0;
    for (int j = 0; j + 1 < cut.rows(); ++j)
        for (int i = 0; i + 1 < cut.columns(); ++i) {
            if (cut.square(i, j)) area += 1;
            const auto ring = cut.cutSquare(i, j);
            parts += !ring.empty();
            for (std::size_t k = 0; k < ring.size(); ++k) {
                const auto &a = ring[k], &b = ring[(k + 1) % ring.size()];
                area += (b.x * a.y - a.x * b.y) / 2;
            }
        }
    CHECK(parts > 30);
    double left = 0; // by points
    constexpr int kFine = 4;
    for (double y = 0.5 + 0.5 / kFine; y < 59.5; y += 1.0 / kFine)
        for (double x = 0.5 + 0.5 / kFine; x < 99.5; x += 1.0 / kFine)
            left += oblique.planes[0].rightOf({x, y}) <= 0 ? 1.0 / (kFine * kFine) : 0;
    CHECK(std::abs(area) == Approx(left).epsilon(0.003));
    // a hole in the ground has walls of its own
    grid.ground.at(40, 30) = kNoValue;
    CHECK(walls(BlockLattice(&grid, grid.ground, -2, {}, nullptr, 100000)) == 2 * (99 + 59) + 8);
}

TEST_CASE("A block of many cells is turned with fewer of them, and whole again when it is let go", "[app][model]") {
    DemoWindow window("model");
    if (!window.view<BlockView>()->hasOpenGl()) return;
    window->session().apply([&](const Project& p) { return setCell(p, 4); });
    window.settle();
    auto* canvas = window.view<BlockView>()->findChild<BlockCanvas*>();
    REQUIRE(canvas);
    const auto still = canvas->drawnCells();
    CHECK(still > 2 * BlockScene::kCoarseNodes);
    const QPointF from(100, 100);
    mouse(canvas, QEvent::MouseButtonPress, from, Qt::LeftButton);
    for (int k = 1; k <= 3; ++k) mouse(canvas, QEvent::MouseMove, from + QPointF(20 * k, 0), Qt::LeftButton);
    waitFor("fewer cells", [&] { return canvas->drawnCells() <= 1.1 * BlockScene::kCoarseNodes; });
    mouse(canvas, QEvent::MouseButtonRelease, from + QPointF(60, 0), Qt::NoButton);
    waitFor("all cells", [&] { return canvas->drawnCells() == still; });
}

TEST_CASE("However many holes there are, the block view draws them with a handful of actors", "[app][model]") {
    DemoWindow window("model");
    auto* block = window.view<BlockView>();
    if (!block->hasOpenGl()) return;
    window->selection().setHole("QB101");
    window.settle();
    auto* canvas = block->findChild<BlockCanvas*>();
    REQUIRE(canvas);
    CHECK(canvas->scene().tops().size() > 30);
    const auto actors = canvas->scene().actors();
    const auto units = window.project().sequence->units.size();
    CHECK(actors < 10 + units); // one a unit for the patterns of its cut faces
    auto look = block->look();
    look.faces = BlockScene::Look::Faces::Colours;
    block->setLook(look);
    window.settle();
    CHECK(canvas->scene().actors() < 10);
    look.block = false, look.ground = BlockScene::Look::Ground::Hidden;
    block->setLook(look);
    window.settle();
    CHECK(canvas->scene().actors() == 4); // the frame, heads, sticks, and the chosen hole's stick
}

TEST_CASE("Shapes of the block view are prepared on another thread, and it stops when asked", "[app][model]") {
    DemoWindow window("model");
    const auto products = window->session().products();
    std::shared_ptr<const BlockScene::Shapes> shapes;
    std::jthread([&] { shapes = BlockScene::prepare(*products, {}); }).join();
    CHECK(shapes);
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(BlockScene::prepare(*products, {}, Progress(stop.get_token())), Stopped);
}
