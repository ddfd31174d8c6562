// Which holes, lines, surfaces and values are looked at, and lines mended where they are seen.
#include "base/files.h"
#include "dialogs/compare_sheet.h"
#include "harness.h"
#include "project/named_surface_edits.h"
#include "project/project_lines.h"
#include "project/sequence_edits.h"
#include "sequence/hole_choice.h"
#include "shell/ground_actions.h"
#include "shell/help_window.h"
#include "shell/pane.h"
#include "shell/shortcut_sheet.h"
#include "shell/welcome.h"
#include "style/theme.h"
#include "views/along_legend.h"
#include "views/block_canvas.h"
#include "views/block_view.h"
#include "views/corner_table.h"
#include "views/correlation_view.h"
#include "views/cut_layer.h"
#include "views/hole_ticks.h"
#include "views/log_view.h"
#include "views/plan_view.h"
#include "views/scene_blocks.h"
#include "views/section_view.h"
#include "views/surface_chooser.h"
#include "views/table_view.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMouseEvent>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QTableView>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTest>
#include <QTextBrowser>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

QPushButton* chip(QWidget& window, View* view) {
    for (auto* pane : window.findChildren<Pane*>())
        if (pane->view() == view) return child<QPushButton>(pane, "shownHoles");
    throw std::runtime_error("the view is in no pane");
}

/// An entry of a menu that is open, by what it begins with, however deep.
QAction* entry(QMenu* menu, const QString& words) {
    for (auto* a : menu->actions()) {
        if (a->text().startsWith(words)) return a;
        if (a->menu())
            if (auto* found = entry(a->menu(), words)) return found;
    }
    return nullptr;
}

QMenu* openMenu(const char* name) {
    QMenu* menu = nullptr;
    waitFor("the menu to open", [&] {
        for (auto* w : QApplication::topLevelWidgets())
            if (auto* m = qobject_cast<QMenu*>(w); m && m->objectName() == name && m->isVisible()) menu = m;
        return menu != nullptr;
    });
    return menu;
}

/// Chooses an entry of a menu that is open, and closes it.
void choose(const char* menu, const QString& words) {
    auto* open = openMenu(menu);
    auto* action = entry(open, words);
    if (!action) throw std::runtime_error("no entry " + words.toStdString());
    action->trigger();
    open->close();
    QApplication::processEvents();
}

double luminance(const QColor& c) {
    const auto channel = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * channel(c.redF()) + 0.7152 * channel(c.greenF()) + 0.0722 * channel(c.blueF());
}
double contrast(const QColor& a, const QColor& b) {
    const double la = luminance(a), lb = luminance(b);
    return (std::max(la, lb) + 0.05) / (std::min(la, lb) + 0.05);
}

} // namespace

TEST_CASE("A set of shown holes is followed by every view, and taken back in the head of a pane", "[app][looking]") {
    DemoWindow window("model");
    auto* plan = window.view<PlanView>();
    auto* section = window.view<SectionView>();
    auto* block = window.view<BlockView>();
    const auto& all = *window.project().holes;
    CHECK(chip(*window, plan)->isHidden());
    const auto pits = holesOfKind(all, HoleKind::Dug);
    REQUIRE_FALSE(pits.empty());
    const auto pictured = coloursOf(plan);
    CHECK(pictured > 5);
    window->selection().showHoles(pits);
    window.settle();
    CHECK(chip(*window, plan)->text().startsWith(QString("%1 of %2").arg(pits.size()).arg(all.size())));
    const auto& s = *window->session().products()->sections.front();
    const auto on = std::ranges::count_if(s.holes, [&](const auto& h) { return std::ranges::count(pits, h.name) > 0; });
    CHECK(section->summary().contains(on == 1 ? "1 hole " : QString("%1 holes").arg(on)));
    // a hole that is not shown can't be picked on the plan
    const auto drilled = holesOfKind(all, HoleKind::Drilled);
    const auto place = *findHole(all, drilled.front())->place();
    window->selection().setHole({});
    click(plan, plan->screenOf(place));
    CHECK(window->selection().hole() != QString::fromStdString(drilled.front()));
    if (block->hasOpenGl()) {
        const auto* canvas = block->findChild<BlockCanvas*>();
        CHECK(canvas->scene().tops().size() <= pits.size());
    }
    window->showStage("sequence");
    window.settle();
    for (const auto& name : window.view<CorrelationView>()->holesShown())
        CHECK(std::ranges::count(pits, name.toStdString()) == 1);
    window->showStage("model");
    chip(*window, plan)->click();
    CHECK_FALSE(window->selection().shownHoles());
    CHECK(chip(*window, plan)->isHidden());
    CHECK(window->session().project().holes->size() == all.size()); // nothing of it was an edit
    CHECK_FALSE(window->session().history().canUndo());
}

TEST_CASE("Holes are ticked one by one, filtered by a table, drawn around, and kept as a set", "[app][looking]") {
    DemoWindow window("holes");
    const auto names = displayNames(*window.project().holes);
    HoleTicks ticks(names, &window->selection(), &*window);
    auto* list = child<QListWidget>(&ticks, "holeTicksList");
    REQUIRE(list->count() == int(names.size()));
    list->item(0)->setCheckState(Qt::Unchecked);
    REQUIRE(window->selection().shownHoles());
    CHECK(window->selection().shownHoles()->size() == names.size() - 1);
    child<QPushButton>(&ticks, "holeTicksNone")->click();
    CHECK(window->selection().shownHoles()->empty());
    QTest::keyClicks(child<QLineEdit>(&ticks, "holeTicksFilter"), "QB10");
    child<QPushButton>(&ticks, "holeTicksAll")->click();
    REQUIRE(window->selection().shownHoles());
    for (const auto& name : *window->selection().shownHoles()) CHECK(name.find("QB10") != name.npos);
    picture(&ticks, "hole_ticks");

    auto* table = window.view<TableView>();
    table->tools()[2]->trigger(); // filter
    QTest::keyClicks(child<QLineEdit>(table, "tableFilter"), "R0");
    waitFor("the rows to be filtered",
            [&] { return table->settled() && table->table()->model()->rowCount() < int(names.size()); });
    child<QPushButton>(table, "showRows")->click();
    CHECK(int(window->selection().shownHoles()->size()) == table->table()->model()->rowCount());

    auto* plan = window.view<PlanView>();
    plan->fit();
    plan->startDrawing(PlanView::Drawing::ShownArea);
    const auto r = QRectF(plan->rect()).adjusted(30, 30, -plan->width() / 2.0, -30);
    for (const auto& corner : {r.topLeft(), r.topRight(), r.bottomRight(), r.bottomLeft()}) click(plan, corner);
    press(plan, Qt::Key_Return);
    REQUIRE(window->selection().shownHoles());
    const auto inside = window->selection().shownHoles()->size();
    CHECK(inside > 0);
    CHECK(inside < names.size());
    window->session().apply(
        [holes = std::vector<std::string>(window->selection().shownHoles()->begin(), window->selection().shownHoles()->end())](
            const Project& p) { return keepHoleSet(p, "west", holes); });
    window.settle();
    window->selection().setShownHoles({});
    const ModalAnswers none("nothing", [](QWidget*) {});
    plan->tools()[2]->trigger(); // show
    QMenu* menu = nullptr;
    waitFor("the menu", [&] { return (menu = plan->findChild<QMenu*>("holesShown")) != nullptr; });
    auto* kept = entry(menu, "west");
    REQUIRE(kept);
    kept->trigger();
    CHECK(window->selection().shownHoles()->size() == inside);
    for (auto* m : plan->findChildren<QMenu*>()) m->close();
}

TEST_CASE("Sticks show values with a legend whose range is dragged, and codes that are ticked", "[app][looking]") {
    DemoWindow window("model");
    auto* section = window.view<SectionView>();
    auto* legend = section->findChild<AlongLegend*>();
    REQUIRE(legend);
    CHECK(legend->isHidden());
    const auto before = section->grab().toImage();
    const auto quantity = testQuantities(*window.project().holes).front().name;
    AlongLook look;
    look.choice = {AlongChoice::Kind::Quantity, quantity};
    look.graph = look.samples = true;
    window->selection().setAlong(look);
    window.settle();
    CHECK(legend->isVisible());
    const auto shown = section->grab().toImage();
    CHECK(shown != before);
    picture(section, "section_values");
    if (auto* block = window.view<BlockView>(); block->hasOpenGl()) picture(block, "block_values");
    // its upper end to the middle
    const auto bar = legend->bar();
    pointer(legend, QEvent::MouseButtonPress, QPointF(bar.right(), bar.center().y()));
    pointer(legend, QEvent::MouseMove, bar.center());
    pointer(legend, QEvent::MouseButtonRelease, bar.center(), Qt::NoButton);
    REQUIRE(window->selection().along().range);
    const auto [low, high] = *window->selection().along().range;
    CHECK(high < low + 0.6 * (high - low) / 0.5);
    CHECK(legend->xOf(high) == Approx(bar.center().x()).margin(2));
    window.settle();
    CHECK(section->grab().toImage() != shown);

    look = {};
    look.choice = {AlongChoice::Kind::Column, "GEOL_LEG"};
    window->selection().setAlong(look);
    window.settle();
    const auto codes = section->grab().toImage();
    pointer(legend, QEvent::MouseButtonPress, QPointF(20, 6 + 16 + 8));
    pointer(legend, QEvent::MouseButtonRelease, QPointF(20, 6 + 16 + 8), Qt::NoButton);
    CHECK(window->selection().along().hiddenCodes.size() == 1);
    window.settle();
    CHECK(section->grab().toImage() != codes);
    window->selection().setAlong({});
    window.settle();
    CHECK(legend->isHidden());
    CHECK(section->grab().toImage() == before);
}

TEST_CASE("A section's corner is dragged on the plan: the section follows, and Undo takes it back", "[app][looking][lines]") {
    DemoWindow window("model");
    auto* plan = window.view<PlanView>();
    plan->fit();
    window.settle();
    const auto line = window.project().sections->front();
    const auto a = line.line[0], b = line.line[1];
    window->selection().setHole({});
    // where the line is clear of holes and of others
    for (double t = 0.5; t < 0.95 && !window->selection().line(); t += 0.03)
        click(plan, plan->screenOf({a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)}));
    REQUIRE(window->selection().line());
    CHECK(window->selection().line()->name == line.name);
    CHECK(plan->summary().contains("drag corners"));
    picture(plan, "line_chosen");
    const auto before = window->session().products()->sections.front();
    const auto from = plan->screenOf(a), to = from + QPointF(40, 30);
    pointer(plan, QEvent::MouseButtonPress, from);
    for (int k = 1; k <= 4; ++k) pointer(plan, QEvent::MouseMove, from + (to - from) * k / 4, Qt::LeftButton, Qt::AltModifier);
    waitFor("the section to follow the hand", [&] {
        const auto now = window->session().products()->sections.front();
        return now && now != before && now->line.front() != a;
    });
    CHECK_FALSE(window->session().history().canUndo()); // not yet an edit
    pointer(plan, QEvent::MouseButtonRelease, to, Qt::NoButton);
    window.settle();
    CHECK(window.project().sections->front().line.front() != a);
    CHECK(window->session().history().undoLabel() == "Move the section line " + line.name);
    window->session().undo();
    window.settle();
    CHECK(window.project().sections->front().line == line.line);
    // Esc while it is dragged leaves everything as it is
    click(plan, plan->screenOf({a.x + 0.5 * (b.x - a.x), a.y + 0.5 * (b.y - a.y)}));
    if (!window->selection().line()) window->selection().setLine(linesOf(window.project()).front());
    pointer(plan, QEvent::MouseButtonPress, from);
    pointer(plan, QEvent::MouseMove, to, Qt::LeftButton, Qt::AltModifier);
    press(plan, Qt::Key_Escape);
    pointer(plan, QEvent::MouseButtonRelease, to, Qt::NoButton);
    window.settle();
    CHECK(window.project().sections->front().line == line.line);
    CHECK_FALSE(window->session().history().canUndo());
}

TEST_CASE("Corners are added, caught, deleted and typed; lines are parted, joined and removed by the menu",
          "[app][looking][lines]") {
    DemoWindow window("model");
    auto* plan = window.view<PlanView>();
    window->session().apply([](const Project& p) { return addSection(p, {{480200, 6120900}, {480800, 6120900}}); });
    window.settle();
    plan->fit();
    const auto own = [&]() -> const SectionLine& { return window.project().sections->back(); };
    const auto chosen = [&] {
        for (const auto& l : linesOf(window.project()))
            if (l.kind == ProjectLine::Kind::Section && l.name == own().name) return l;
        throw std::runtime_error("the section is gone");
    };
    window->selection().setLine(chosen());
    // a new corner is pulled out of the middle of the side, and catches at a hole
    const auto middle = plan->screenOf({480500, 6120900});
    const auto& holes = *window.project().holes;
    Point2 hole;
    double nearest = 1e9;
    for (const auto& h : holes)
        if (const auto p = h.place(); p && distance(*p, {480500, 6120700}) < nearest)
            nearest = distance(*p, {480500, 6120700}), hole = *p;
    pointer(plan, QEvent::MouseButtonPress, middle);
    pointer(plan, QEvent::MouseMove, plan->screenOf(hole) + QPointF(3, 2));
    CHECK(plan->summary().contains("Alt lets it go"));
    pointer(plan, QEvent::MouseButtonRelease, plan->screenOf(hole) + QPointF(3, 2), Qt::NoButton);
    window.settle();
    REQUIRE(own().line.size() == 3);
    CHECK(own().line[1] == hole);
    // parted there by the menu, and joined again
    QContextMenuEvent right(QContextMenuEvent::Mouse, plan->screenOf(hole).toPoint(),
                            plan->mapToGlobal(plan->screenOf(hole).toPoint()));
    window->selection().setLine(chosen());
    const auto sections = window.project().sections->size();
    QApplication::sendEvent(plan, &right);
    choose("lineMenu", "Split here");
    window.settle();
    REQUIRE(window.project().sections->size() == sections + 1);
    window->session().undo();
    window.settle();
    // Delete takes the corner that was touched last
    window->selection().setLine(chosen());
    click(plan, plan->screenOf(hole));
    press(plan, Qt::Key_Delete);
    window.settle();
    CHECK(own().line.size() == 2);
    // typed coordinates
    CornerTable table(chosen(), &*window);
    QObject::connect(&table, &CornerTable::editMade, &window->session(), &Session::apply);
    auto* cells = child<QTableWidget>(&table, "corners");
    cells->item(0, 0)->setText("480250.5");
    window.settle();
    CHECK(own().line[0].x == 480250.5);
    cells->item(0, 1)->setText("north");
    CHECK(own().line[0].y == 6120900);
    cells->setCurrentCell(0, 0);
    child<QPushButton>(&table, "addCorner")->click();
    window.settle();
    CHECK(own().line.size() == 3);
    child<QPushButton>(&table, "removeCorner")->click();
    window.settle();
    CHECK(own().line.size() == 2);
    picture(&table, "corner_table");
    // the whole line
    window->selection().setLine(chosen());
    press(plan, Qt::Key_Escape);
    CHECK_FALSE(window->selection().line());
    window->selection().setLine(chosen());
    press(plan, Qt::Key_Delete);
    window.settle();
    CHECK(window.project().sections->size() == sections - 1);
}

TEST_CASE("While a boundary is dragged on a log the section follows, and Esc takes it back", "[app][looking][preview]") {
    DemoWindow window("model");
    const auto& products = *window->session().products();
    const auto& s = *products.sections.front();
    auto* log = window.view<LogView>();
    // a hole on the section whose log has a boundary between two units
    for (const auto& h : s.holes) {
        const auto* hole = findHole(*products.project.holes, h.name);
        if (hole->intervals.size() > 2 && hole->intervals[1].usable() && hole->intervals[2].usable()
            && hole->intervals[1].base.metres - hole->intervals[1].top.metres > 1.5)
            window->selection().setHole(QString::fromStdString(h.name));
    }
    window.settle();
    const auto* hole = findHole(*window.project().holes, window->selection().hole().toStdString());
    REQUIRE(hole);
    const double base = hole->intervals[1].base.metres;
    const QPointF from(log->columnX() + 4, log->yOf(base)), to(from.x(), log->yOf(base - 0.6));
    const auto before = window->session().products()->sections.front();
    pointer(log, QEvent::MouseButtonPress, from);
    for (int k = 1; k <= 3; ++k) pointer(log, QEvent::MouseMove, from + (to - from) * k / 3);
    waitFor("the section to follow", [&] {
        const auto* now = findHole(*window->session().products()->project.holes, window->selection().hole().toStdString());
        return now && now->intervals[1].base.metres < base - 0.3 && window->session().products()->sections.front() != before;
    });
    CHECK_FALSE(window->session().history().canUndo());
    CHECK(findHole(*window.project().holes, window->selection().hole().toStdString())->intervals[1].base.metres == base);
    press(log, Qt::Key_Escape);
    window.settle();
    CHECK(window->session().products()->sections.front() == before);
    pointer(log, QEvent::MouseButtonRelease, to, Qt::NoButton);
    CHECK_FALSE(window->session().history().canUndo());
    pointer(log, QEvent::MouseButtonPress, from);
    for (int k = 1; k <= 3; ++k) pointer(log, QEvent::MouseMove, from + (to - from) * k / 3);
    pointer(log, QEvent::MouseButtonRelease, to, Qt::NoButton);
    window.settle();
    CHECK(window->session().history().canUndo());
    CHECK(findHole(*window.project().holes, window->selection().hole().toStdString())->intervals[1].base.metres
          == Approx(base - 0.6).margin(0.1));
}

TEST_CASE("A surface from a file is shown, made by another method, compared and removed", "[app][looking][named]") {
    DemoWindow window("ground");
    const QTemporaryDir folder;
    std::string csv = "easting,northing,level\n";
    for (int i = 0; i < 40; ++i)
        csv += fmt::format("{},{},{}\n", 480050 + (i % 8) * 190, 6120050 + (i / 8) * 210, 10 + (i % 5) * 0.3);
    writeBytes(folder.filePath("horizon.csv").toStdString(), csv);
    GroundActions* actions = window->findChild<GroundActions*>();
    REQUIRE(actions);
    actions->readNamedSurface(folder.filePath("horizon.csv"));
    waitFor("the surface to be there", [&] { return window.project().namedSurfaces->size() == 1; });
    window.settle();
    auto* plan = window.view<PlanView>();
    const auto before = plan->grab().toImage();
    child<QCheckBox>(&*window, "showNamed_horizon")->click();
    window.settle();
    CHECK(window->selection().planLook().named == "horizon");
    CHECK(plan->grab().toImage() != before);
    auto* method = child<QComboBox>(&*window, "methodOfNamed_horizon");
    const auto wanted = std::ranges::find(allMethods(), Method::InverseDistance) - allMethods().begin();
    method->setCurrentIndex(int(wanted));
    emit method->activated(int(wanted));
    window.settle();
    CHECK(window.project().namedSurfaces->front().settings.method == Method::InverseDistance);
    // bands of equal width, with a legend
    auto look = window->selection().planLook();
    look.classes = {paper::ClassKind::Equal, 5, {}};
    look.scale = paper::ColourScale::Grey;
    window->selection().setPlanLook(look);
    window.settle();
    picture(plan, "named_surface");
    window->session().apply([](const Project& p) {
        auto copy = p.namedSurfaces->front();
        copy.settings.method = Method::Nearest;
        return addNamedSurface(p, copy);
    });
    window.settle();
    CompareSheet sheet(window.made({ProductKind::NamedSurfaces}), &*window);
    auto *first = child<QComboBox>(&sheet, "compareFirst"), *second = child<QComboBox>(&sheet, "compareSecond");
    first->setCurrentIndex(first->findText("horizon"));
    second->setCurrentIndex(second->findText("horizon 2"));
    waitFor("the comparison", [&] { return !sheet.working(); });
    auto* figures = child<QTableWidget>(&sheet, "compareTable");
    CHECK(figures->item(6, 0)->text() == "Standard deviation");
    CHECK(figures->item(6, 1)->text().toDouble() == 0); // "0.123 m" is not a plain number
    CHECK(figures->item(6, 1)->text() != "0.000 m");
    picture(&sheet, "compare_named");
    window->session().undo();
    window->session().undo();
    window.settle();
    CHECK(window.project().namedSurfaces->front().settings.method != Method::InverseDistance);
}

TEST_CASE("Surfaces stand in the block by themselves, coloured as chosen, and planes cut it open", "[app][looking][block]") {
    DemoWindow window("model");
    auto* block = window.view<BlockView>();
    if (!block->hasOpenGl()) return;
    auto* canvas = block->findChild<BlockCanvas*>();
    window.settle();
    const auto actors = canvas->scene().actors();
    SurfaceChooser chooser(window.project(), {}, &*window);
    QObject::connect(&chooser, &SurfaceChooser::chosen, block, [block](const std::vector<SceneSurface>& surfaces) {
        auto look = block->look();
        look.surfaces = surfaces;
        block->setLook(look);
    });
    auto* table = child<QTableWidget>(&chooser, "surfaces");
    REQUIRE(table->rowCount() > 8);
    child<QCheckBox>(table, "surface2")->click();
    auto* colour = child<QComboBox>(table, "surfaceColour4");
    colour->setCurrentIndex(3);
    emit colour->activated(3);
    child<QCheckBox>(table, "surfaceContours4")->click();
    window.settle();
    REQUIRE(block->look().surfaces.size() == 2);
    CHECK(block->look().surfaces[1].colouring == SceneSurface::Colouring::Deviation);
    CHECK(canvas->scene().actors() >= actors + 3); // two surfaces, and contours
    picture(&chooser, "surface_chooser");
    auto look = block->look();
    look.block = false;
    block->setLook(look);
    window.settle();
    picture(block, "surfaces_3d");
    look.block = true;
    look.surfaces.clear();
    look.cut = {};
    block->setLook(look);
    window.settle();
    const auto whole = canvas->scene().actors();
    const auto box = window->session().products()->ground->frame.box();
    window->selection().setCuts({{box.centre(), 60}});
    window.settle();
    block->grab();
    CHECK(canvas->labelsShown() > 15); // figures of the frame, and names
    CHECK(canvas->scene().cutHandles().size() == 2);
    CHECK(canvas->scene().actors() > whole);
    picture(block, "upright_cut");
    // dragged on the plan by its middle, turned by its end
    auto* plan = window.view<PlanView>();
    plan->fit();
    const PlanTransform t{[plan](double x, double y) {
                              return plan->screenOf({x, y});
                          },
                          plan->world(), plan->width() / plan->world().width(), plan->size()};
    const auto [middle, end] = CutLayer::handles(t, window->selection().cuts()[0]);
    pointer(plan, QEvent::MouseButtonPress, middle);
    pointer(plan, QEvent::MouseMove, middle + QPointF(30, 0));
    pointer(plan, QEvent::MouseButtonRelease, middle + QPointF(30, 0), Qt::NoButton);
    CHECK(window->selection().cuts()[0].through.x > box.centre().x + 1);
    const auto turned = CutLayer::handles(t, window->selection().cuts()[0]).second;
    pointer(plan, QEvent::MouseButtonPress, turned);
    pointer(plan, QEvent::MouseMove, turned + QPointF(0, 60));
    pointer(plan, QEvent::MouseButtonRelease, turned + QPointF(0, 60), Qt::NoButton);
    CHECK(std::abs(window->selection().cuts()[0].azimuth - 60) > 5);
    window.settle();
}

TEST_CASE("Cut faces show units with their patterns, in plain colours, or the values of a block model", "[window][block]") {
    DemoWindow window("model");
    auto* block = window.view<BlockView>();
    if (!block->hasOpenGl()) return;
    using Faces = BlockScene::Look::Faces;
    const auto made = window.made({ProductKind::Blocks, ProductKind::Grids});
    const auto* shown = shownBlocks(made.get(), {});
    REQUIRE((shown && shown->blocks));
    const auto& model = *shown->blocks;
    std::size_t most = 0; // where there is most lead
    for (std::size_t b = 0; b < model.value.size(); ++b)
        if (std::isnan(model.value[most]) || model.value[b] > model.value[most]) most = b;
    const auto columns = std::size_t(model.count[0]), rows = std::size_t(model.count[1]);
    const Point2 there{model.corner.x + (double(most % columns) + 0.5) * model.spec.dx,
                       model.corner.y + (double(most / columns % rows) + 0.5) * model.spec.dy};
    auto look = block->look();
    look.cut = {};
    window->selection().setCuts({{there, 90}}); // its face looks to the south
    std::map<Faces, QImage> seen;
    for (const auto faces : {Faces::Signs, Faces::Colours, Faces::Values}) {
        look.faces = faces;
        block->setLook(look);
        window.settle();
        seen[faces] = block->picture({900, 600});
        picture(block, faces == Faces::Values ? "cut_values" : faces == Faces::Signs ? "cut_signs" : "cut_colours");
    }
    const auto different = [](const QImage& a, const QImage& b) {
        int n = 0;
        for (int y = 0; y < a.height(); ++y)
            for (int x = 0; x < a.width(); ++x) n += a.pixel(x, y) != b.pixel(x, y);
        return n;
    };
    CHECK(different(seen[Faces::Signs], seen[Faces::Colours]) > 300);
    CHECK(different(seen[Faces::Signs], seen[Faces::Values]) > 300);
    CHECK(block->wanted(window.project()).kinds.contains(ProductKind::Blocks)); // which nobody else asks for here
}

TEST_CASE("Words can be read on every ground they stand on, in both themes", "[app][theme]") {
    for (const auto theme : {Theme::Light, Theme::Dark}) {
        applyTheme(theme);
        CAPTURE(int(theme));
        for (const auto* ink : {&colour::ink, &colour::muted})
            for (const auto* ground : {&colour::paper, &colour::desk, &colour::stage}) {
                CAPTURE(ink->name().toStdString(), ground->name().toStdString());
                CHECK(contrast(*ink, *ground) >= 4.5);
            }
        for (const auto* ink : {&colour::red, &colour::amberText, &colour::slate}) CHECK(contrast(*ink, colour::paper) >= 4.5);
        CHECK(contrast(colour::fox, colour::paper) >= 4.4); // of lines and large words; the light one is 4.5 on white
        CHECK(contrast(colour::ink, colour::chosen) >= 4.5);
    }
    applyTheme();
}

TEST_CASE("The window is drawn in the dark theme, and with larger text, without being made anew", "[app][theme]") {
    DemoWindow window("model");
    auto* section = window.view<SectionView>();
    const auto light = section->grab().toImage();
    QSettings().setValue("theme", "dark");
    QSettings().setValue("textScale", 1.25);
    const auto back = qScopeGuard([] {
        QSettings().remove("theme");
        QSettings().remove("textScale");
        applyTheme();
    });
    window->takeTheme();
    CHECK(themeInForce() == Theme::Dark);
    CHECK(textScale() == 1.25);
    window.settle();
    const auto dark = section->grab().toImage();
    CHECK(QColor(dark.pixel(2, 2)).lightness() < 80);
    CHECK(QColor(light.pixel(2, 2)).lightness() > 200);
    CHECK(coloursOf(section) > 20);
    if (auto* block = window.view<BlockView>(); block->hasOpenGl()) { // drawn anew on the dark, not only repainted
        auto* canvas = block->findChild<BlockCanvas*>();
        waitFor("the block in the dark",
                [&] { return canvas->settled() && QColor(canvas->grab().toImage().pixel(2, 2)).lightness() < 80; });
    }
    picture(&*window, "dark");
}

TEST_CASE("The guide opens at the stage's chapter and is searched; shortcuts are listed and filtered", "[app][help]") {
    DemoWindow window("ground");
    const auto trigger = [&](const char* name) {
        for (auto* a : window->actions())
            if (a->objectName() == name) a->trigger();
    };
    trigger("guide");
    auto* help = window->findChild<HelpWindow*>();
    REQUIRE(help);
    CHECK(help->chapter() == "The ground");
    window->showStage("model");
    trigger("guide");
    CHECK(window->findChildren<HelpWindow*>().size() == 1);
    CHECK(help->chapter() == "The model");
    auto* text = child<QTextBrowser>(help, "helpText");
    CHECK(text->toPlainText().size() > 5000);
    auto* search = child<QLineEdit>(help, "helpSearch");
    QTest::keyClicks(search, "breakline");
    CHECK(text->textCursor().selectedText().compare("breakline", Qt::CaseInsensitive) == 0);
    for (int chapter = 0; chapter < 6; ++chapter) { // every stage has a chapter that is there
        window->showStage(stages()[std::size_t(chapter)].id);
        trigger("guide");
        CHECK(help->chapter() == chapterOf(stages()[std::size_t(chapter)].id));
    }
    picture(help, "help");
    trigger("shortcuts");
    auto* sheet = window->findChild<ShortcutSheet*>();
    REQUIRE(sheet);
    auto* table = child<QTableWidget>(sheet, "shortcuts");
    const auto visible = [&] {
        int n = 0;
        for (int r = 0; r < table->rowCount(); ++r) n += !table->isRowHidden(r);
        return n;
    };
    const int all = visible();
    CHECK(all > 25);
    QTest::keyClicks(child<QLineEdit>(sheet, "shortcutSearch"), "section");
    CHECK(visible() > 1);
    CHECK(visible() < all);
}

TEST_CASE("A project without data says how to begin, and no longer once there is some", "[app][welcome]") {
    const QTemporaryDir folder;
    DemoWindow window("site");
    auto* welcome = window->findChild<Welcome*>();
    REQUIRE(welcome);
    CHECK(welcome->isHidden());
    window->session().openNew(folder.filePath("empty.gpkg"), [] { return Project{}; });
    window.settle();
    CHECK(welcome->isVisible());
    picture(&*window, "welcome");
    CHECK(child<QPushButton>(welcome, "welcomeFiles")->isVisible());
    child<QPushButton>(welcome, "welcomeClose")->click();
    CHECK(welcome->isHidden());
    window->session().openNew(folder.filePath("other.gpkg"), [] { return Project{}; });
    window.settle();
    CHECK(welcome->isVisible()); // another project
    window->session().apply([](const Project& p) {
        Edited e{p, "a hole"};
        Holes holes;
        Hole h;
        h.id = "X1", h.project = "P", h.easting = 1, h.northing = 2;
        holes.push_back(h);
        giveNames(holes);
        e.project.holes = part(std::move(holes));
        return e;
    });
    window.settle();
    CHECK(welcome->isHidden());
    window->session().undo();
    window.settle();
    CHECK(welcome->isVisible());
}
