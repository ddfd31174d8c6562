// The part "Blocks" of the Model stage, in the real window: block models, the cut-off, excavations.
#include "base/errors.h"
#include "base/files.h"
#include "blocks/block_simulation.h"
#include "blocks/block_totals.h"
#include "formats/table.h"
#include "harness.h"
#include "shell/block_actions.h"
#include "stages/shelf.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/block_chart_view.h"
#include "views/block_view.h"
#include "views/number_box.h"
#include "views/plan_view.h"
#include "views/scene_blocks.h"
#include "views/section_view.h"
#include "views/table_view.h"
#include "views/variogram_chart.h"

#include <QComboBox>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPointer>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QSlider>
#include <QStyle>
#include <QStyleOptionSlider>
#include <QTableView>
#include <QTemporaryDir>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

const BlockProduct* blocksOf(DemoWindow& window) {
    return shownBlocks(window->session().products().get(), window->selection().blockLook());
}
const ExcavationProduct* digOf(DemoWindow& window) {
    return shownExcavation(window->session().products().get(), window->selection().blockLook());
}

void pressRowOf(DemoWindow& window, const QString& words) {
    for (auto* row : shelf(window)->findChildren<ShelfRow*>())
        if (row->accessibleName().startsWith(words)) {
            QTest::mouseClick(row, Qt::LeftButton);
            return window.settle();
        }
    FAIL("no row says " << words.toStdString());
}

/// Opens the fold with how the chosen model is made.
void showSettings(DemoWindow& window) {
    if (!shelf(window)->findChild<NumberBox*>("blockWidth")) pressRowOf(window, "Blocks, values and method");
}

/// Opens a menu of the side panel, and takes the line that begins so, looking into menus below it.
void takeFrom(DemoWindow& window, const QString& row, const char* menuName, const QString& line) {
    pressRowOf(window, row);
    auto* menu = child<QMenu>(shelf(window), menuName);
    QList<QAction*> all = menu->actions();
    for (int i = 0; i < all.size(); ++i)
        if (all[i]->menu()) all << all[i]->menu()->actions();
    for (auto* a : all)
        if (!a->menu() && a->text().startsWith(line)) {
            a->trigger();
            menu->close();
            return window.settle();
        }
    FAIL("the menu has no line " << line.toStdString());
}

} // namespace

TEST_CASE("Blocks are a part of the Model stage with values, chart, plan and cases", "[app][blocks]") {
    DemoWindow window("model");
    QTest::mouseClick(child<QPushButton>(shelf(window), "part_blocks"), Qt::LeftButton);
    window.settle();
    REQUIRE(blocksOf(window));
    INFO(blocksOf(window)->problem);
    REQUIRE(blocksOf(window)->blocks);
    CHECK(window.view<BlockChartView>()->summary().contains("Lead"));
    CHECK(coloursOf(window.view<BlockChartView>()) > 5);
    CHECK(window.view<TableView>()->shown() == "excavations");
    // section A crosses the gas works: its blocks and what is dug there lie under its holes
    const auto* line = window->selection().sectionOf(window.project());
    REQUIRE(line);
    CHECK(blockCells(*blocksOf(window)->blocks, {}, *window.project().sequence, line->line).size() > 50);
    BlockLook look;
    look.excavation = "Contaminated ground";
    const auto dug = dugAlong(*window->session().products(), look, line->line);
    CHECK(std::ranges::any_of(dug, [](Point2 p) { return !std::isnan(p.y); }));
    CHECK(window.view<TableView>()->table()->model()->rowCount() == 2);
    for (const auto plot : {BlockChartView::Plot::Histogram, BlockChartView::Plot::East, BlockChartView::Plot::Level,
                            BlockChartView::Plot::LeftOut}) {
        window.view<BlockChartView>()->showPlot(plot);
        CHECK(coloursOf(window.view<BlockChartView>()) > 5);
    }
    picture(&*window, "blocks");
    QTest::mouseClick(child<QPushButton>(shelf(window), "part_model"), Qt::LeftButton);
    window.settle();
    CHECK_FALSE(window->selection().blockLook().on);
}

TEST_CASE("The cut-off is dragged, typed and clicked on the curve, and figures follow", "[app][blocks]") {
    DemoWindow window("blocks");
    const auto& model = *blocksOf(window)->blocks;
    auto* slider = child<QSlider>(shelf(window), "cutOff");
    const auto range = blockColours(model);
    slider->setValue(500);
    window.settle();
    const double middle = (range.low + range.high) / 2;
    REQUIRE(window->selection().blockLook().limit);
    CHECK(*window->selection().blockLook().limit == Approx(middle));
    const auto some = totalOf(model, *window.project().sequence, {.above = middle});
    CHECK(child<NumberBox>(shelf(window), "cutOffValue")->value() == Approx(middle).margin(0.001));
    CHECK(window.view<BlockView>()->summary().contains("above"));
    typeInto(child<NumberBox>(shelf(window), "cutOffValue"), "200");
    window.settle();
    CHECK(*window->selection().blockLook().limit == 200);
    CHECK(totalOf(model, *window.project().sequence, {.above = 200}).volume > some.volume);
    auto* side = child<QComboBox>(shelf(window), "cutOffSide");
    side->setCurrentIndex(1);
    emit side->activated(1);
    window.settle();
    CHECK(window->selection().blockLook().side == BlockLook::Side::Below);
    CHECK(window.view<BlockView>()->summary().contains("below"));
    auto* chart = window.view<BlockChartView>();
    click(chart, QPointF(chart->width() * 0.75, chart->height() * 0.5));
    window.settle();
    CHECK(*window->selection().blockLook().limit > middle);
    pressRowOf(window, "Show all blocks");
    CHECK_FALSE(window->selection().blockLook().limit);
    CHECK(window.project().blockModels->size() == 1); // looking is no edit
}

TEST_CASE("A cut-off slider is dragged by the mouse, and stays in the hand", "[app][blocks]") {
    DemoWindow window("blocks");
    const QPointer<QSlider> slider = child<QSlider>(shelf(window), "cutOff");
    QStyleOptionSlider option;
    option.initFrom(slider);
    option.minimum = slider->minimum(), option.maximum = slider->maximum();
    option.orientation = Qt::Horizontal, option.sliderPosition = slider->value();
    auto at = slider->style()->subControlRect(QStyle::CC_Slider, &option, QStyle::SC_SliderHandle, slider).center();
    QTest::mousePress(slider, Qt::LeftButton, {}, at);
    double last = -1e9;
    for (int i = 0; i < 6; ++i) {
        at.rx() += slider->width() / 10;
        QTest::mouseMove(slider, at);
        QCoreApplication::processEvents();
        REQUIRE(slider); // the panel is not made anew under the hand
        REQUIRE(window->selection().blockLook().limit);
        CHECK(*window->selection().blockLook().limit > last);
        last = *window->selection().blockLook().limit;
        const auto total = totalOf(*blocksOf(window)->blocks, *window.project().sequence, {.above = last});
        CHECK(child<QLabel>(shelf(window), "cutOffBlocks")->text() == QLocale().toString(qulonglong(total.blocks)));
        CHECK(child<QLabel>(shelf(window), "cutOffVolume")->text() == volume(total.volume));
    }
    QTest::mouseRelease(slider, Qt::LeftButton, {}, at);
    window.settle();
    CHECK(*window->selection().blockLook().limit == last);
}

TEST_CASE("Blocks between two values, on the plan at a level, cut open, and by unit", "[app][blocks]") {
    DemoWindow window("blocks");
    pickIn(window, "cutOffSide", "between");
    typeInto(child<NumberBox>(shelf(window), "cutOffValue"), "100");
    typeInto(child<NumberBox>(shelf(window), "cutOffUpToValue"), "400");
    window.settle();
    const auto& look = window->selection().blockLook();
    CHECK(look.limits() == ValueLimits{100, 400});
    CHECK(window.view<BlockView>()->summary().contains("between 100 and 400"));
    const auto& model = *blocksOf(window)->blocks;
    const auto& sequence = *window.project().sequence;
    const auto total = totalOf(model, sequence, look.limits());
    CHECK(child<QLabel>(shelf(window), "cutOffBlocks")->text() == QLocale().toString(qulonglong(total.blocks)));
    // a click on the curve moves the end that is nearer
    auto* chart = window.view<BlockChartView>();
    click(chart, QPointF(chart->width() * 0.9, chart->height() * 0.5));
    CHECK(look.limit == 100.0);
    CHECK(*look.upTo > 400);
    // what a cut leaves
    const auto faces = [&](const BlocksLeft& left) { return blockFaces(model, {}, sequence, 1'000'000, left).size(); };
    const double middle = model.corner.x + model.count[0] * model.spec.dx / 2;
    const auto east = faces({[&](Point2 p) { return p.x > middle; }, {}}),
               west = faces({[&](Point2 p) { return p.x < middle; }, {}});
    CHECK(east < faces({}));
    CHECK(east + west > faces({})); // both lay the cut open
    CHECK(faces({{}, model.corner.z}) == 0);
    CHECK(faces({{}, 1e6}) == faces({}));
    // the plan has another picture with them
    auto* plan = window.view<PlanView>();
    pickIn(window, "cutOffSide", "above");
    pressRowOf(window, "Show all blocks");
    const auto before = plan->grab().toImage();
    pickIn(window, "blocksOnPlan", "blocks at a level");
    typeInto(child<NumberBox>(shelf(window), "blockPlanLevel"), "22");
    window.settle();
    CHECK(look.planLevel == 22.0);
    CHECK(plan->grab().toImage() != before);
    picture(&*window, "blocks-on-plan");
    chart->showPlot(BlockChartView::Plot::Histogram);
    CHECK(coloursOf(chart) > 5);
}

TEST_CASE("Variograms of blocks are fitted in two directions, dragged, and fitted again", "[app][blocks]") {
    DemoWindow window("blocks");
    showSettings(window);
    REQUIRE(blocksOf(window)->blocks->variogram);
    const auto used = *blocksOf(window)->blocks->variogram;
    const double vertical = blocksOf(window)->blocks->spec.vertical;
    const auto release = [&](const char* name, QPointF by) {
        auto* chart = child<VariogramChart>(shelf(window), name);
        const auto at = chart->screenOf(VariogramChart::Handle::Range);
        QTest::mousePress(chart, Qt::LeftButton, {}, at.toPoint());
        QTest::mouseMove(chart, (at + by).toPoint());
        QTest::mouseRelease(chart, Qt::LeftButton, {}, (at + by).toPoint());
        window.settle();
    };
    // a shorter range of levels: they count more, the range in plan stays
    release("blockVariogramVertical", {-40, 0});
    const auto& spec = window.project().blockModels->front();
    REQUIRE(spec.variogram);
    CHECK(spec.variogram->range == Approx(used.range));
    CHECK(spec.vertical > vertical);
    CHECK_FALSE(spec.verticalFitted);
    CHECK(blocksOf(window)->blocks->spec.vertical == spec.vertical);
    // a shorter range in plan: the range of levels stays
    const double ofLevels = spec.variogram->range / spec.vertical;
    release("blockVariogramHorizontal", {-30, 0});
    const auto& now = window.project().blockModels->front();
    CHECK(now.variogram->range < used.range);
    CHECK(now.variogram->range / now.vertical == Approx(ofLevels));
    picture(&*window, "block-variograms");
    pressRowOf(window, "Fit again");
    CHECK_FALSE(window.project().blockModels->front().variogram);
    CHECK(window.project().blockModels->front().verticalFitted);
    REQUIRE(blocksOf(window)->blocks);
    CHECK(blocksOf(window)->blocks->spec.vertical >= 1);
    pickIn(window, "blockVerticalFitted", "typed");
    CHECK_FALSE(window.project().blockModels->front().verticalFitted);
    CHECK(window.project().blockModels->front().vertical == blocksOf(window)->blocks->spec.vertical);
}

TEST_CASE("What blocks are made from and how is set in the panel, and limits are felt", "[app][blocks]") {
    DemoWindow window("blocks");
    showSettings(window);
    const auto spec = [&]() -> const BlockSpec& { return window.project().blockModels->front(); };
    const auto known = blocksOf(window)->blocks->known();
    pressRowOf(window, "Cap high values");
    REQUIRE(spec().cap);
    CHECK(blocksOf(window)->composites->capped > 0);
    typeInto(child<NumberBox>(shelf(window), "blockCap"), "100");
    window.settle();
    CHECK(blockColours(*blocksOf(window)->blocks).high <= 110); // kriging goes a little beyond
    pressRowOf(window, "Do not cap values");
    CHECK_FALSE(spec().cap);
    typeInto(child<NumberBox>(shelf(window), "blockRadiusVertical"), "0.4");
    window.settle();
    CHECK(spec().verticalRadius == 0.4);
    CHECK(blocksOf(window)->blocks->known() < known);
    typeInto(child<NumberBox>(shelf(window), "blockRadiusVertical"), "0");
    typeInto(child<NumberBox>(shelf(window), "blockPerHole"), "2");
    window.settle();
    CHECK(spec().perHole == 2);
    pickIn(window, "blockLog", "their logarithms");
    CHECK(spec().logarithmic);
    typeInto(child<NumberBox>(shelf(window), "blockWidth"), "20"); // the whole site in small blocks takes long
    window.settle();
    pickIn(window, "blockExtent", "the site");
    CHECK_FALSE(spec().extent);
    pickIn(window, "blockExtent", "around the values");
    CHECK(spec().extent);
    typeInto(child<NumberBox>(shelf(window), "blockWidth"), "4");
    window.settle();
    pickIn(window, "blockMethod", "inverse distance");
    typeInto(child<NumberBox>(shelf(window), "blockPower"), "3");
    window.settle();
    CHECK(spec().power == 3);
    auto* units = child<QPushButton>(shelf(window), "blockOnly")->menu();
    for (auto* a : units->actions())
        if (a->text().startsWith("AL ")) a->trigger();
    window.settle();
    CHECK(spec().only == std::vector<std::string>{"AL"});
    INFO(blocksOf(window)->problem);
    REQUIRE(blocksOf(window)->blocks);
    for (const auto& u : totalsByUnit(*blocksOf(window)->blocks, *window.project().sequence))
        CHECK((*window.project().sequence).units[u.unit].code == "AL");
}

TEST_CASE("Blocks that take long say that they are out of date, and are made when that is pressed", "[app][blocks]") {
    DemoWindow window("blocks");
    showSettings(window);
    window->session().setPatience(0);
    const auto before = blocksOf(window)->blocks;
    typeInto(child<NumberBox>(shelf(window), "blockNeighbours"), "5");
    window.settle();
    CHECK(blocksOf(window)->outOfDate);
    CHECK(blocksOf(window)->blocks == before);
    CHECK(window.view<BlockView>()->summary().contains("out of date"));
    CHECK(child<NumberBox>(shelf(window), "blockNeighbours")->value() == 5); // what is wanted
    picture(&*window, "out-of-date");
    pressRowOf(window, "Make again");
    CHECK_FALSE(blocksOf(window)->outOfDate);
    CHECK(blocksOf(window)->spec.neighbours == 5);
    // what is written is never out of date
    typeInto(child<NumberBox>(shelf(window), "blockNeighbours"), "7");
    window.settle();
    REQUIRE(blocksOf(window)->outOfDate);
    QTemporaryDir folder;
    window->blocks()->writeTable("Lead", folder.filePath("lead.csv"));
    waitFor("the table", [&] { return window->blocks()->settled() && QFile::exists(folder.filePath("lead.csv")); });
    window.settle();
    CHECK_FALSE(blocksOf(window)->outOfDate);
    const auto table = readTable(readBytes(folder.filePath("lead.csv").toStdString()), "lead.csv");
    CHECK(table.rows.size() > 5);
    CHECK(table.number(0, *table.column("blocks")) == double(blocksOf(window)->blocks->known()));
}

TEST_CASE("Block models are added from test results, and from values at points", "[app][blocks]") {
    DemoWindow window("blocks");
    takeFrom(window, "Add a block model", "blockQuantityMenu", "SPT N");
    REQUIRE(window.project().blockModels->size() == 2);
    INFO(blocksOf(window)->problem);
    REQUIRE(blocksOf(window)->blocks);
    CHECK(window.project().blockModels->back().verticalFitted);
    std::vector<ValuePoint> points;
    for (int i = 0; i < 60; ++i) points.push_back({{480300 + 9.0 * (i % 8), 6120300 + 9.0 * (i / 8), 20 + 0.1 * i}, 1.0 * i});
    window->session().apply([&](const Project& p) {
        Edited e{p, "values"};
        e.project.valuePoints = part(std::vector{ValueSource{"probes.csv", "zinc", "mg/kg", SharedList<ValuePoint>(points)}});
        return e;
    });
    window.settle();
    takeFrom(window, "Add a block model", "blockQuantityMenu", "zinc in mg/kg");
    INFO(blocksOf(window)->problem);
    REQUIRE(blocksOf(window)->blocks);
    CHECK(window.project().blockModels->back().of == BlockSpec::Of::Values);
    CHECK(window.project().blockModels->back().extent); // around the probes
    CHECK(blocksOf(window)->composites->unitOfMeasure == "mg/kg");
}

TEST_CASE("Models and cases are renamed and copied, and lie side by side", "[app][blocks]") {
    DemoWindow window("blocks");
    const ModalAnswers asked("", [&](QWidget* dialog) {
        auto* box = qobject_cast<QInputDialog*>(dialog);
        REQUIRE(box);
        box->setTextValue("  Lead, kriged ");
        box->accept();
    });
    pressRowOf(window, "Rename Lead");
    CHECK(window.project().blockModels->front().name == "Lead, kriged");
    CHECK(window.project().excavations->front().blocks == "Lead, kriged"); // it follows
    CHECK(digOf(window)->dig);
    pressRowOf(window, "Another model like Lead");
    REQUIRE(window.project().blockModels->size() == 2);
    CHECK(window.project().blockModels->back().name == "Lead, kriged 2");
    CHECK(blocksOf(window)->spec.name == "Lead, kriged 2");
    pressRowOf(window, "Another case like Contaminated ground");
    REQUIRE(window.project().excavations->size() == 3);
    typeInto(child<NumberBox>(shelf(window), "slope_"), "60");
    window.settle();
    auto* rows = window.view<TableView>()->table()->model();
    REQUIRE(rows->rowCount() == 3);
    const auto cell = [&](int row, const char* column) {
        for (int c = 0; c < rows->columnCount(); ++c)
            if (rows->headerData(c, Qt::Horizontal).toString() == column) return rows->index(row, c).data().toString();
        FAIL("no column " << column);
        return QString();
    };
    CHECK(cell(0, "Wanted is").contains("above 300"));
    QStringList excavated;
    for (int r = 0; r < 3; ++r) excavated << cell(r, "Excavated");
    CHECK(excavated.count(excavated.front()) == 1);
    CHECK(cell(0, "Depth").toDouble() > 1);
    CHECK(cell(0, "Mass wanted").toDouble() > 0);
    CHECK(cell(0, "Mass wanted").toDouble() <= cell(0, "Mass").toDouble());
}

TEST_CASE("The ground that an excavation is for has the volume that it says", "[app][blocks]") {
    DemoWindow window("blocks");
    pressRowOf(window, "Gravel borrow");
    const auto& sequence = *window.project().sequence;
    const auto& model = *window->session().products()->model;
    const auto taken = takenGround(*digOf(window), sequence,
                                   [&](Point2 p, double level) { return model.columnAt(p).unitAt(level).value_or(0); });
    const double volume = double(taken.known()) * taken.blockVolume();
    CHECK(volume == Approx(digOf(window)->dig->wanted).epsilon(0.03)); // blocks a twenty-fourth of the pit high
    for (std::size_t b = 0; b < taken.blocks(); ++b)
        if (!std::isnan(taken.value[b])) REQUIRE(sequence.units[std::size_t(taken.unit[b])].code == "RG");
    auto look = window.view<BlockView>()->look();
    look.apart = 0.3;
    window.view<BlockView>()->setLook(look);
    window.settle();
    CHECK(window.view<BlockView>()->summary().contains("lifted out of the pit"));
    picture(&*window, "taken-units");
}

TEST_CASE("A section is saved with the blocks and the pit that are shown on it", "[app][blocks]") {
    DemoWindow window("blocks");
    QTemporaryDir folder;
    const auto saved = [&](const char* name) {
        const auto path = folder.filePath(name);
        window.view<SectionView>()->savePictureTo(path);
        return readBytes(path.toStdString());
    };
    const auto with = saved("with.svg");
    auto look = window->selection().blockLook();
    look.blocks = false;
    window->selection().setBlockLook(look);
    window.settle();
    const auto without = saved("without.svg");
    look.pit = false;
    window->selection().setBlockLook(look);
    window.settle();
    const auto bare = saved("bare.svg");
    CHECK(with.size() > without.size() + 1000);
    CHECK(without.size() > bare.size());
    CHECK(saved("section.pdf").starts_with("%PDF"));
    CHECK(saved("section.png").substr(1, 3) == "PNG");
    CHECK_THROWS_AS(window.view<SectionView>()->savePictureTo("/no such folder/section.png"), FileError);
}

TEST_CASE("The panel stays where it is scrolled to when another excavation is chosen", "[app][blocks]") {
    DemoWindow window("blocks");
    auto* bar = shelf(window)->findChild<QScrollArea*>()->verticalScrollBar();
    REQUIRE(bar->maximum() > 300);
    bar->setValue(300);
    pressRowOf(window, "Gravel borrow");
    CHECK(digOf(window)->spec.name == "Gravel borrow");
    CHECK(bar->value() == 300);
}

TEST_CASE("Probabilities of lying beyond the cut-off are worked out, and go when the model changes", "[app][blocks]") {
    DemoWindow window("blocks");
    typeInto(child<NumberBox>(shelf(window), "cutOffValue"), "300");
    window.settle();
    pressRowOf(window, "Work out probabilities");
    waitFor("probabilities", [&] { return simulationOf(*blocksOf(window)->blocks, window->selection().blockLook()) != nullptr; });
    window.settle();
    const auto range = simulationOf(*blocksOf(window)->blocks, window->selection().blockLook())->volume({.above = 300});
    CHECK(range.p10 > 0);
    CHECK(range.p10 < range.p90);
    auto* colour = child<QComboBox>(shelf(window), "blockColour");
    const int last = colour->count() - 1;
    CHECK(colour->itemText(last) == "probability");
    colour->setCurrentIndex(last);
    emit colour->activated(last);
    window.settle();
    const auto colouring = colouringOf(*blocksOf(window)->blocks, window->selection().blockLook());
    CHECK(colouring.colours.high == 1);
    picture(&*window, "probabilities");
    showSettings(window);
    typeInto(child<NumberBox>(shelf(window), "blockWidth"), "8");
    window.settle();
    CHECK_FALSE(simulationOf(*blocksOf(window)->blocks, window->selection().blockLook()));
    CHECK(colouringOf(*blocksOf(window)->blocks, window->selection().blockLook()).colours.high > 1);
}

TEST_CASE("A block model is added, set and removed in the side panel, and each can be undone", "[app][blocks]") {
    DemoWindow window("blocks");
    takeFrom(window, "Add a block model", "blockQuantityMenu", "SPT N");
    REQUIRE(window.project().blockModels->size() == 2);
    REQUIRE(blocksOf(window));
    CHECK(blocksOf(window)->spec.name == "SPT");
    REQUIRE(blocksOf(window)->blocks);
    const auto known = blocksOf(window)->blocks->known();
    CHECK(known > 100);
    typeInto(child<NumberBox>(shelf(window), "blockRadius"), "60");
    window.settle();
    CHECK(blocksOf(window)->blocks->known() < known); // nothing beyond reach
    auto* method = child<QComboBox>(shelf(window), "blockMethod");
    method->setCurrentIndex(1);
    emit method->activated(1);
    window.settle();
    CHECK(blocksOf(window)->blocks->variogram);
    pressRowOf(window, "Remove SPT");
    CHECK(window.project().blockModels->size() == 1);
    for (int i = 0; i < 4; ++i) {
        window->session().undo();
        window.settle();
    }
    CHECK(window.project().blockModels->size() == 1);
    CHECK((*window.project().blockModels)[0].name == "Lead");
}

TEST_CASE("An excavation is added from the cut-off, its slopes are set, and its surface is kept", "[app][blocks]") {
    DemoWindow window("blocks");
    typeInto(child<NumberBox>(shelf(window), "cutOffValue"), "500");
    window.settle();
    takeFrom(window, "Add an excavation", "wantedMenu", "Blocks of Lead above");
    REQUIRE(window.project().excavations->size() == 3);
    REQUIRE(digOf(window));
    INFO(digOf(window)->problem);
    REQUIRE(digOf(window)->dig);
    CHECK(digOf(window)->spec.limit == 500);
    const double before = digOf(window)->dig->excavated;
    CHECK(before > digOf(window)->dig->wanted);
    typeInto(child<NumberBox>(shelf(window), "slope_"), "20");
    window.settle();
    CHECK(digOf(window)->dig->excavated > before);
    typeInto(child<NumberBox>(shelf(window), "benchHeight"), "1");
    window.settle();
    CHECK(digOf(window)->dig->benches.size() > 1);
    pressRowOf(window, "Keep the dug surface");
    REQUIRE(window.project().namedSurfaces->size() == 1);
    CHECK(window.project().namedSurfaces->front().name == "Lead, dug");
    // a slope that can't be is put back
    typeInto(child<NumberBox>(shelf(window), "slope_"), "0");
    window.settle();
    CHECK(digOf(window)->spec.slopes.at("") == 20);
    picture(&*window, "excavation");
}

TEST_CASE("A cutting along a section, with water, sectors, a wide floor and what is dug before", "[app][blocks]") {
    DemoWindow window("blocks");
    window->selection().setSection(1);
    window.settle();
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& s) { said = s; });
    QString typed = "18 17";
    const ModalAnswers asked("", [&](QWidget* dialog) {
        auto* box = qobject_cast<QInputDialog*>(dialog);
        REQUIRE(box);
        box->setTextValue(typed);
        box->accept();
    });
    const auto before = window.project().excavations->size();
    takeFrom(window, "Add an excavation", "wantedMenu", "A cutting along section");
    CHECK(said.contains("two levels and a width")); // and nothing is added
    CHECK(window.project().excavations->size() == before);
    typed = "18 17 12";
    takeFrom(window, "Add an excavation", "wantedMenu", "A cutting along section");
    REQUIRE(window.project().excavations->size() == before + 1);
    REQUIRE(digOf(window));
    INFO(digOf(window)->problem);
    REQUIRE(digOf(window)->dig);
    const auto plain = digOf(window)->dig;
    CHECK(digOf(window)->spec.lineWidth == 12);
    typeInto(child<NumberBox>(shelf(window), "digWidth"), "4");
    window.settle();
    const double narrow = digOf(window)->dig->excavated;
    CHECK(narrow < plain->excavated);
    typeInto(child<NumberBox>(shelf(window), "digFloorWidth"), "12");
    window.settle();
    CHECK(digOf(window)->dig->excavated > narrow);
    pickIn(window, "digWater", "at a level");
    typeInto(child<NumberBox>(shelf(window), "digWaterLevel"), "19");
    window.settle();
    REQUIRE(digOf(window)->dig->belowWater);
    CHECK(*digOf(window)->dig->belowWater > 0);
    const double dry = digOf(window)->dig->excavated;
    typed = "0 180 400";
    pressRowOf(window, "Another slope in some directions");
    CHECK(said.contains("two directions"));
    typed = "0 180 15";
    pressRowOf(window, "Another slope in some directions");
    CHECK(digOf(window)->spec.sectors.size() == 1);
    CHECK(digOf(window)->dig->excavated > dry);
    pressRowOf(window, "Remove the sector");
    CHECK(digOf(window)->dig->excavated == Approx(dry));
    const auto other = qt(window.project().excavations->front().name);
    pickIn(window, "digAfter", other);
    CHECK(digOf(window)->spec.after == window.project().excavations->front().name);
    INFO(digOf(window)->problem);
    CHECK(digOf(window)->dig);
    pressRowOf(window, "Range in equally likely models");
    waitFor("the range", [&] {
        for (auto* row : shelf(window)->findChildren<ShelfRow*>())
            if (row->accessibleName().startsWith("Waste, P10 to P90")) return true;
        return false;
    });
    auto* plan = window.view<PlanView>();
    const auto middle = plan->screenOf({480000, 6120000});
    pressRowOf(window, "Show it on the plan");
    CHECK(plan->screenOf({480000, 6120000}) != middle);
    picture(&*window, "cutting");
}

TEST_CASE("Blocks and excavations are written as files beside the window", "[app][blocks]") {
    DemoWindow window("blocks");
    QTemporaryDir folder;
    window->blocks()->writeBlocks("Lead", folder.filePath("lead.csv"));
    waitFor("the blocks", [&] { return window->blocks()->settled() && QFile::exists(folder.filePath("lead.csv")); });
    const auto table = readTable(readBytes(folder.filePath("lead.csv").toStdString()), "lead.csv");
    CHECK(table.rows.size() == blocksOf(window)->blocks->known());
    window->blocks()->writeExcavation("Gravel borrow", folder.path());
    waitFor("the excavation", [&] { return window->blocks()->settled() && QFile::exists(folder.filePath("bench.gpkg")); });
    CHECK(QFile::exists(folder.filePath("dug.tif")));
    QString said;
    QObject::connect(&*window, &MainWindow::said, [&](const QString& s) { said = s; });
    window->blocks()->writeBlocks("nothing", folder.filePath("x.csv"));
    waitFor("a refusal", [&] { return said.contains("nothing"); });
    QFile spec(folder.filePath("s.json"));
    REQUIRE(spec.open(QIODevice::WriteOnly));
    spec.write(R"({"format":"fox-cellar-excavation","version":1,"wanted":{"units":["PT"]},"slope":30,"cell":20})");
    spec.close();
    window->blocks()->addFiles({folder.filePath("s.json")});
    window.settle();
    CHECK(window.project().excavations->size() == 3);
    CHECK(digOf(window)->spec.name == "s");
}

TEST_CASE("The part \"Blocks\" says what it needs in an empty project", "[app][blocks]") {
    DemoWindow window("blocks");
    window->session().apply([](const Project&) { return Edited{Project{}, "Empty"}; });
    window.settle();
    CHECK(window.view<BlockChartView>()->summary().isEmpty());
    auto* write = shelf(window)->findChild<QPushButton*>("part_blocks");
    REQUIRE(write);
    CHECK(window.view<TableView>()->table()->model()->rowCount() == 0);
}
