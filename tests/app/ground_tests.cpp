// The Ground stage: data of every kind dropped in, codes, outlines, mending, tiles, pictures, comparing.
#include "harness.h"
#include "project/remedies.h"

#include "base/files.h"
#include "dialogs/compare_sheet.h"
#include "dialogs/import_sheet.h"
#include "dialogs/picture_sheet.h"
#include "dialogs/source_sheet.h"
#include "dialogs/tile_sheet.h"
#include "formats/raster.h"
#include "project/ground_edits.h"
#include "views/block_view.h"
#include "views/plan_view.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolButton>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// Drops files and imports each as it is understood.
void dropAndImport(DemoWindow& window, const QStringList& paths) {
    dropFiles(&*window, paths);
    auto* sheet = importSheet(*window);
    child<QPushButton>(sheet, "importButton")->click();
    waitFor("the sheet to close", [&] { return !window->findChild<ImportSheet*>("importSheet"); });
    window.settle();
}

const Terrain& terrain(DemoWindow& window) { return *window->session().products()->terrain; }

template <typename Sheet>
Sheet* sheetOf(DemoWindow& window, const char* name) {
    Sheet* sheet = nullptr;
    waitFor(name, [&] {
        sheet = window->findChild<Sheet*>(name);
        return sheet && sheet->isVisible();
    });
    return sheet;
}

} // namespace

TEST_CASE("Contours with a level column, outlines, a grid and a plan are dropped in together", "[window][ground]") {
    DemoWindow window("ground");
    dropFiles(&*window, {FOX_DEMO "/hill_contours.shp"});
    auto* sheet = importSheet(*window);
    CHECK(child<QComboBox>(sheet, "lineRole")->currentText() == "contours");
    CHECK(child<QComboBox>(sheet, "levelField")->currentText() == "column ELEV");
    CHECK(child<QLabel>(sheet, "importFacts")->text().contains("lines"));
    picture(sheet, "import_contours");
    child<QPushButton>(sheet, "importButton")->click();
    waitFor("the sheet to close", [&] { return !window->findChild<ImportSheet*>("importSheet"); });
    window.settle();
    CHECK(window.project().ground->lines.back().role == LineRole::Contours);
    dropAndImport(window, {FOX_DEMO "/coarse_dem.tif", FOX_DEMO "/outlines.gpkg", FOX_DEMO "/old_plan.png"});
    CHECK(window.project().ground->rasters.size() == 1);
    CHECK(window.project().ground->outlines.size() == 3);
    CHECK(window.project().pictures->size() == 1);
    CHECK_FALSE(terrain(window).levelAt({480905, 6120300})); // the pond is an island
    picture(&*window, "ground_all");
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(window.project().pictures->empty());
}

TEST_CASE("The import's choices of lines take effect at once: role, level column, kept area, thinning", "[window][ground]") {
    DemoWindow window("ground");
    dropFiles(&*window, {FOX_DEMO "/hill_contours.shp"});
    auto* sheet = importSheet(*window);
    const auto vertices = [&] {
        waitFor("the file to be read again", [&] { return !sheet->reading(); });
        const auto facts = child<QLabel>(sheet, "importFacts")->text();
        return facts.section("; ", 1).section(" of ", 0, 0).toInt();
    };
    const int all = vertices();
    REQUIRE(all > 500);
    auto* keep = child<QComboBox>(sheet, "keepArea");
    REQUIRE(keep->count() > 1);
    keep->setCurrentIndex(1);
    emit keep->activated(1);
    const int kept = vertices();
    CHECK(kept < all);
    child<QDoubleSpinBox>(sheet, "thinBy")->setValue(0.5);
    CHECK(vertices() < kept);
    auto* role = child<QComboBox>(sheet, "lineRole");
    role->setCurrentIndex(0);
    emit role->activated(0);
    vertices();
    CHECK(child<QLabel>(sheet, "importFacts")->text().startsWith("breaklines"));
    sheet->reject();
}

TEST_CASE("Unticking a code takes its points out of the ground at once, and undo brings them back", "[window][ground]") {
    DemoWindow window("ground");
    const auto before = terrain(window).tin.triangles().size();
    child<QCheckBox>(&*window, "code_GL")->click();
    window.settle();
    CHECK(terrain(window).tin.triangles().size() < before / 2);
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(terrain(window).tin.triangles().size() == before);
    child<QCheckBox>(&*window, "use_breaklines.gpkg")->click();
    window.settle();
    CHECK(terrain(window).breaklineSegments == 0);
}

TEST_CASE("Numbered strings of a survey can be joined as breaklines", "[window][ground]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    std::string text = "point,easting,northing,level,code\n";
    for (int i = 0; i < 6; ++i)
        for (int k = 1; k <= 2; ++k)
            text += fmt::format("{},{},{},{},KB{}\n", i * 2 + k, 480100 + i * 20, 6120100 + k * 5, 25 + k, k);
    const auto path = folder.filePath("strings.csv");
    writeBytes(path.toStdString(), text);
    dropAndImport(window, {path});
    const int before = terrain(window).breaklineSegments;
    child<QCheckBox>(&*window, "join_KB")->click();
    window.settle();
    CHECK(terrain(window).breaklineSegments == before + 10);
    CHECK(terrain(window).tin.hasEdge({480100, 6120105}, {480120, 6120105}));
}

TEST_CASE("Edges are turned, triangles removed and points left out or given a level by clicks on the plan", "[window][ground]") {
    DemoWindow window("ground");
    auto* plan = window.view<PlanView>();
    plan->showPlace({480700, 6120200});
    window.settle();
    const auto& tin = terrain(window).tin;
    // an edge that can be turned, near the middle of the view
    std::optional<std::pair<Point2, Point2>> edge;
    for (double d = 0; d < 60 && !edge; d += 3) {
        const auto near = edgeNear(tin, {480700 + d, 6120200});
        if (near && tin.swapped(near->first, near->second)) edge = near;
    }
    REQUIRE(edge);
    plan->startMending(TinEdit::Kind::SwapEdge);
    CHECK(window->selection().planLook().triangles);
    picture(&*window, "ground_mending");
    const Point2 middle{(edge->first.x + edge->second.x) / 2, (edge->first.y + edge->second.y) / 2};
    click(plan, plan->screenOf(middle));
    window.settle();
    REQUIRE(window.project().ground->edits.size() == 1);
    CHECK_FALSE(terrain(window).tin.hasEdge(edge->first, edge->second));
    press(plan, Qt::Key_Escape);
    const auto v = vertexNear(terrain(window).tin, {480690, 6120190}).value();
    plan->startMending(TinEdit::Kind::SetLevel);
    click(plan, plan->screenOf(v.plan()));
    auto* box = child<QDoubleSpinBox>(plan, "pointLevel");
    box->setValue(v.z + 5);
    press(box, Qt::Key_Return);
    window.settle();
    CHECK(terrain(window).levelAt(v.plan()).value() == Approx(v.z + 5).margin(0.001));
    // which is now far off its neighbours: a finding with Show and Leave out
    const auto& findings = *window->session().products()->findings;
    CHECK(std::ranges::any_of(findings, [](const Finding& f) { return f.rule == "FC-POINT-OFF"; }));
    plan->startMending(TinEdit::Kind::LeaveOut);
    click(plan, plan->screenOf(v.plan()));
    window.settle();
    CHECK(std::ranges::none_of(terrain(window).tin.vertices(), [&](const Point3& p) { return p.plan() == v.plan(); }));
    plan->startMending(TinEdit::Kind::RemoveTriangle);
    click(plan, plan->screenOf({480720, 6120230}));
    window.settle();
    CHECK_FALSE(terrain(window).levelAt({480720, 6120230}));
    press(plan, Qt::Key_Escape);
    for (int i = 0; i < 4; ++i) press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(window.project().ground->edits.empty());
    CHECK(terrain(window).tin.hasEdge(edge->first, edge->second));
}

TEST_CASE("An outline drawn on the plan can become an island", "[window][ground]") {
    DemoWindow window("ground");
    auto* plan = window.view<PlanView>();
    plan->startDrawing(PlanView::Drawing::Outline);
    for (const auto& p : {Point2{480300, 6120200}, {480500, 6120200}, {480500, 6120350}}) click(plan, plan->screenOf(p));
    press(plan, Qt::Key_Return);
    window.settle();
    REQUIRE(window.project().ground->outlines.size() == 1);
    auto* use = child<QComboBox>(&*window, "outline_0");
    use->setCurrentIndex(2);
    emit use->activated(2);
    window.settle();
    CHECK_FALSE(terrain(window).levelAt({480460, 6120230}));
    CHECK(terrain(window).levelAt({480800, 6120230}).has_value());
    // along the outline, so that triangles end there
    const auto before = terrain(window).tin.vertices().size();
    child<QCheckBox>(&*window, "cutAtOutlines")->click();
    window.settle();
    CHECK(terrain(window).tin.vertices().size() > before);
}

TEST_CASE("Shading, triangles and labelled points show on the plan; contours take another interval", "[window][ground]") {
    DemoWindow window("ground");
    auto* plan = window.view<PlanView>();
    const auto bare = plan->grab().toImage();
    auto* shading = child<QComboBox>(&*window, "shading");
    for (int i = 1; i <= 3; ++i) {
        shading = child<QComboBox>(&*window, "shading");
        shading->setCurrentIndex(i);
        emit shading->activated(i);
        plan->grab(); // asks for the picture
        waitFor("the shading", [&] { return plan->settled(); });
        CHECK(plan->grab().toImage() != bare);
        picture(&*window, i == 1 ? "ground_level" : i == 2 ? "ground_slope" : "ground_light");
    }
    child<QCheckBox>(&*window, "showTriangles")->click();
    child<QCheckBox>(&*window, "showPoints")->click();
    plan->showPlace({480700, 6120430});
    waitFor("the shading", [&] { return plan->settled(); });
    picture(&*window, "ground_near");
    const auto lines = window->session().products()->contours->size();
    child<QDoubleSpinBox>(&*window, "contourInterval")->setValue(0.5);
    window.settle();
    CHECK(window->session().products()->contours->size() > 2 * lines);
    CHECK(window->session().products()->contourInterval == 0.5);
    child<QCheckBox>(&*window, "contoursSmooth")->click();
    window.settle();
    CHECK(window.project().contours->smooth);
}

TEST_CASE("A tile of the elevation service says its size, can be stopped, and becomes ground", "[window][ground]") {
    DemoWindow window("ground");
    for (auto* shelf : window->findChildren<Shelf*>())
        if (shelf->isVisible() && !window->findChild<TileSheet*>()) emit shelf->actionAsked(GetTiles{});
    auto* sheet = sheetOf<TileSheet>(window, "tileSheet");
    CHECK(child<QLabel>(sheet, "tileSize")->text().contains("x 74 cells of 30 m"));
    child<QDoubleSpinBox>(sheet, "tileSide2")->setValue(900000);
    child<QDoubleSpinBox>(sheet, "tileSide3")->setValue(6900000);
    CHECK(child<QLabel>(sheet, "tileSize")->text().contains("at most"));
    CHECK_FALSE(child<QPushButton>(sheet, "tileFetch")->isEnabled());
    child<QDoubleSpinBox>(sheet, "tileSide2")->setValue(482100);
    child<QDoubleSpinBox>(sheet, "tileSide3")->setValue(6121600);
    picture(sheet, "tile_sheet");
    // the rectangle may be drawn on the plan too
    child<QPushButton>(sheet, "tileDraw")->click();
    CHECK_FALSE(sheet->isVisible());
    auto* plan = window.view<PlanView>();
    click(plan, plan->screenOf({480200, 6120200}));
    click(plan, plan->screenOf({481100, 6120800}));
    CHECK(sheet->isVisible());
    CHECK(child<QDoubleSpinBox>(sheet, "tileSide0")->value() == Approx(480200).margin(4));
    CHECK(child<QDoubleSpinBox>(sheet, "tileSide3")->value() == Approx(6120800).margin(4));
    child<QPushButton>(sheet, "tileFetch")->click();
    child<QPushButton>(sheet, "tileStop")->click();
    waitFor("the job to stop", [&] { return !sheet->working(); });
    CHECK(child<QLabel>(sheet, "tileSize")->text().contains("Stopped"));
    child<QPushButton>(sheet, "tileFetch")->click();
    auto* import = importSheet(*window);
    CHECK(child<QLabel>(import, "importFacts")->text().contains("Grid: "));
    child<QPushButton>(import, "importButton")->click();
    waitFor("the sheet to close", [&] { return !window->findChild<ImportSheet*>("importSheet"); });
    window.settle();
    REQUIRE(window.project().ground->rasters.size() == 1);
    CHECK(window.project().ground->rasters[0].grid->frame.cell == 30);
}

TEST_CASE("A map of the service lies behind the plan where it was asked for", "[window][ground]") {
    DemoWindow window("ground");
    for (auto* shelf : window->findChildren<Shelf*>())
        if (shelf->isVisible() && !window->findChild<TileSheet*>()) emit shelf->actionAsked(GetTiles{});
    auto* sheet = sheetOf<TileSheet>(window, "tileSheet");
    child<QComboBox>(sheet, "tileOffer")->setCurrentIndex(2);
    child<QPushButton>(sheet, "tileFetch")->click();
    auto* import = importSheet(*window);
    CHECK(child<QLabel>(import, "importFacts")->text().startsWith("Picture: "));
    child<QPushButton>(import, "importButton")->click();
    waitFor("the sheet to close", [&] { return !window->findChild<ImportSheet*>("importSheet"); });
    window.settle();
    REQUIRE(window.project().pictures->size() == 1);
    const auto& placing = window.project().pictures->front().placing;
    CHECK(placing.toPlan({0, 0}) == Point2{479400, 6121600});
    CHECK(placing.xx == 2);
    picture(&*window, "ground_map");
}

TEST_CASE("The scanned plan is placed by marks: typed, or pointed at on the plan", "[window][ground]") {
    DemoWindow window("ground");
    dropAndImport(window, {FOX_DEMO "/old_plan.png"});
    child<QToolButton>(&*window, "more_picture_old_plan.png")->click();
    auto* sheet = sheetOf<PictureSheet>(window, "pictureSheet");
    auto* canvas = sheet->findChild<MarkCanvas*>();
    auto* table = child<QTableWidget>(sheet, "markTable");
    const auto mark = [&](Point2 pixel, double easting, double northing) {
        click(canvas, canvas->screenOf(pixel));
        const int row = table->rowCount() - 1;
        table->item(row, 1)->setText(QString::number(easting));
        table->item(row, 2)->setText(QString::number(northing));
    };
    mark({50, 50}, 480000, 6121000);
    mark({500, 52}, 480900, 6120996);
    CHECK_FALSE(child<QPushButton>(sheet, "placePicture")->isEnabled());
    mark({50, 400}, 480000, 6120300);
    CHECK(child<QPushButton>(sheet, "placePicture")->isEnabled());
    // a fourth, on the plan
    click(canvas, canvas->screenOf({500, 400}));
    table->setCurrentCell(3, 1);
    child<QPushButton>(sheet, "markOnPlan")->click();
    CHECK_FALSE(sheet->isVisible());
    auto* plan = window.view<PlanView>();
    click(plan, plan->screenOf({480900, 6120300}));
    CHECK(sheet->isVisible());
    CHECK(child<QLabel>(sheet, "markWords")->text().contains("left over"));
    picture(sheet, "picture_sheet");
    child<QPushButton>(sheet, "placePicture")->click();
    window.settle();
    REQUIRE(window.project().pictures->front().marks.size() == 4);
    const auto corner = window.project().pictures->front().placing.toPlan({50, 50});
    CHECK(corner.x == Approx(480000).margin(8));
    CHECK(corner.y == Approx(6121000).margin(8));
    picture(&*window, "ground_plan_behind");
}

TEST_CASE("Ground and coarse grid are compared: cut, fill, a map and a profile", "[window][ground]") {
    DemoWindow window("ground");
    dropAndImport(window, {FOX_DEMO "/coarse_dem.tif"});
    for (auto* shelf : window->findChildren<Shelf*>())
        if (shelf->isVisible() && !window->findChild<CompareSheet*>()) emit shelf->actionAsked(CompareSurfaces{});
    auto* sheet = sheetOf<CompareSheet>(window, "compareSheet");
    auto* table = child<QTableWidget>(sheet, "compareTable");
    waitFor("the comparison", [&] { return !sheet->working() && table->item(0, 1); });
    CHECK(table->item(0, 1)->text().toDouble() == 0); // has its unit
    CHECK(table->item(0, 1)->text().startsWith("14"));
    picture(sheet, "compare_sheet");
    CHECK(child<QPushButton>(sheet, "compareSave")->isEnabled());
    // the report: the figures of the table, the profile, and the map, whose cells add up to the same volumes
    const QTemporaryDir folder;
    const auto csv = std::filesystem::path(folder.filePath("c.csv").toStdString());
    sheet->saveTo(csv);
    const auto report = readBytes(csv);
    CHECK(report.starts_with("first,Ground\nsecond,coarse_dem.tif\ninside,everywhere\nmethod,cells\n"));
    CHECK(report.find("chainage m,first m,second m\n0.00,") != std::string::npos);
    const auto saved = readRaster(folder.filePath("c.tif").toStdString());
    CHECK(saved.crs == "EPSG:25831");
    double above = 0, below = 0;
    for (const double d : saved.grid.values)
        if (!std::isnan(d)) (d > 0 ? above : below) += std::abs(d) * 100; // cells of 10 m
    const auto figure = [&](int row) { return table->item(row, 1)->text().section(' ', 0, 0).toDouble(); };
    CHECK(figure(1) == Approx(above).margin(0.1));
    CHECK(figure(2) == Approx(below).margin(0.1));
    CHECK(report.find(fmt::format("first above m3,{:.3f}", above).substr(0, 24)) != std::string::npos);
    CHECK_THROWS_AS(sheet->saveTo("/nowhere/at/all.csv"), FileError);
    sheet->reject();
}

TEST_CASE("A changed survey file is read again from the project, and all follows", "[window][ground]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const auto path = folder.filePath("extra.csv");
    writeBytes(path.toStdString(), "point,easting,northing,level,code\n1,480700,6120300,30,SP\n2,480710,6120300,30,SP\n");
    dropAndImport(window, {path});
    CHECK(terrain(window).levelAt({480700, 6120300}).value() == Approx(30));
    writeBytes(path.toStdString(), "point,easting,northing,level,code\n1,480700,6120300,31,SP\n2,480710,6120300,31,SP\n");
    child<QToolButton>(&*window, "more_use_extra.csv")->click();
    child<QPushButton>(sheetOf<SourceSheet>(window, "sourceSheet"), "readAgain")->click();
    auto* sheet = importSheet(*window);
    waitFor("the file to be read", [&] { return !sheet->reading(); });
    child<QPushButton>(sheet, "importButton")->click();
    waitFor("the file to be read", [&] { return window.project().ground->points.back().points.front().place.z == 31; });
    window.settle();
    CHECK(terrain(window).levelAt({480700, 6120300}).value() == Approx(31));
}

TEST_CASE("A point that is off is shown on the plan from its finding and left out by its remedy", "[window][ground]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    const auto path = folder.filePath("spike.csv");
    writeBytes(path.toStdString(), "e,n,z\n480701,6120301,60\n480800,6120200,24\n");
    dropAndImport(window, {path});
    const auto& findings = *window->session().products()->findings;
    const auto f = std::ranges::find(findings, "FC-POINT-OFF", &Finding::rule);
    REQUIRE(f != findings.end());
    picture(&*window, "ground_spike");
    const auto remedy = *f->remedy;
    window->session().apply([&](const Project& p) { return fox::apply(p, remedy); });
    window.settle();
    CHECK(std::ranges::none_of(*window->session().products()->findings, [&](const Finding& g) { return g.remedy == remedy; }));
}

TEST_CASE("The ground stands alone in 3D, with a picture draped over it", "[window][ground]") {
    DemoWindow window("ground");
    auto* block = window.view<BlockView>();
    REQUIRE(block->hasOpenGl());
    CHECK(block->look().terrain);
    CHECK(block->summary().contains("triangles"));
    dropAndImport(window, {FOX_DEMO "/old_plan.png"});
    window->session().apply([](const Project& p) {
        return changePicture(p, "old_plan.png", [](PlacedPicture& placed) {
            placed.placing = {480000, 1.5, 0, 6121000, 0, -1.5};
            placed.draped = true;
        });
    });
    window.settle();
    picture(&*window, "ground_draped");
    CHECK(window->session().products()->pictures.size() == 1);
}

TEST_CASE("A GeoPackage that is no project is imported when it is dropped", "[window][ground]") {
    DemoWindow window("ground");
    dropFiles(&*window, {FOX_DEMO "/outlines.gpkg"});
    auto* sheet = importSheet(*window);
    CHECK(child<QComboBox>(sheet, "lineRole")->currentText() == "outlines");
    sheet->reject();
}

TEST_CASE("A picture's sheet that stays open follows the project and takes nothing back", "[window][ground]") {
    DemoWindow window("ground");
    if (window.project().pictures->empty()) dropAndImport(window, {FOX_DEMO "/old_plan.png"});
    const auto file = window.project().pictures->front().file;
    for (auto* shelf : window->findChildren<Shelf*>())
        if (shelf->isVisible()) emit shelf->actionAsked(ShowPicture{QString::fromStdString(file)});
    auto* sheet = sheetOf<PictureSheet>(window, "pictureSheet");
    auto* draped = sheet->findChild<QCheckBox*>();
    REQUIRE(draped);
    const bool before = window.project().pictures->front().draped;
    // elsewhere: it is draped, and shown at another opacity
    window->session().apply([&](const Project& p) {
        return changePicture(p, file, [&](PlacedPicture& picture) { picture.draped = !before, picture.opacity = 0.25; });
    });
    CHECK(draped->isChecked() == !before);
    auto* opacity = sheet->findChild<QSlider*>();
    CHECK(opacity->value() == 25);
    opacity->setSliderDown(true);
    opacity->setValue(80);
    opacity->setSliderDown(false); // released
    window.settle();
    CHECK(window.project().pictures->front().opacity == Approx(0.8));
    CHECK(window.project().pictures->front().draped == !before); // not as it was when the sheet was opened
    window->session().apply([&](const Project& p) { return removeSource(p, file); });
    waitFor("the sheet to close", [&] { return !window->findChild<PictureSheet*>() || !sheet->isVisible(); });
    window.settle();
}
