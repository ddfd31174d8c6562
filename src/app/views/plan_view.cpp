#include "views/plan_view.h"

#include "views/background_layer.h"
#include "views/contact_layer.h"
#include "views/hole_menu.h"
#include "views/value_layer.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/picture.h"
#include "formats/raster.h"
#include "project/ground_edits.h"
#include "project/sequence_edits.h"
#include "project/surface_edits.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/ask_file.h"
#include "views/number_box.h"
#include "views/plane_layer.h"
#include "views/typical_level.h"
#include "views/water_choice_box.h"

#include <QInputDialog>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <fmt/format.h>

namespace fox::app {

PlanView::PlanView(Selection* selection, QWidget* parent)
    : PannedView(selection, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_ground(new GroundLayer(this)),
      m_surface(new SurfaceLayer(this)),
      m_map(new MapLayer(this)),
      m_lines(selection),
      m_cuts(selection),
      m_draw(new QAction(tr("draw"), this)),
      m_colour(new QAction(tr("show"), this)),
      m_labels(new QAction(tr("labels"), this)) {
    setObjectName("planView");
    setAccessibleName(tr("Plan of the site"));
    m_fit->setToolTip(tr("Show everything (F)"));
    m_draw->setToolTip(tr("Draw a section line or an outline, or mend the ground's triangles"));
    m_draw->setCheckable(true);
    m_colour->setToolTip(tr("Shading, triangles, points and pictures of the ground; the holes' colours"));
    m_labels->setToolTip(tr("What is written beside the holes and the survey points"));
    connect(m_fit, &QAction::triggered, this, &PannedView::fit);
    connect(m_draw, &QAction::triggered, this, [this](bool on) {
        m_draw->setChecked(!on); // it shows whether something is being drawn, not that it was pressed
        on ? chooseDrawing() : giveUp();
    });
    connect(m_colour, &QAction::triggered, this, &PlanView::chooseColouring);
    connect(m_labels, &QAction::triggered, this, &PlanView::chooseLabel);
    connect(m_ground, &GroundLayer::changed, this, qOverload<>(&QWidget::update));
    connect(m_surface, &SurfaceLayer::changed, this, qOverload<>(&QWidget::update));
    connect(m_surface, &SurfaceLayer::changed, this, &View::summaryChanged);
    connect(m_map, &MapLayer::changed, this, qOverload<>(&QWidget::update));
    connect(selection, &Selection::trialChanged, this, qOverload<>(&QWidget::update));
    connect(selection, &Selection::variogramDragged, this,
            [this] { m_surface->setDragged(this->selection()->draggedVariogram()); });
    connect(selection, &Selection::unitChanged, this, [this] {
        m_surface->setUnit(chosenBase());
        emit summaryChanged();
        update();
    });
    connect(selection, &Selection::planLookChanged, this, &View::summaryChanged);
    connect(selection, &Selection::planeChanged, this, &PlanView::assignByPlane);
    connect(selection, &Selection::planLookChanged, this, [this] { m_map->prepare(this->selection()->planLook()); });
    connect(selection, &Selection::shownHolesChanged, this, [this] {
        m_holes.setShown(this->selection()->shownHoles());
        update();
    });
    m_holes.setShown(selection->shownHoles());
    connect(selection, &Selection::lineChanged, this, &View::summaryChanged);
    for (auto signal : {&Selection::holeChanged, &Selection::hoverChanged, &Selection::sectionChanged, &Selection::lineChanged,
                        &Selection::cutsChanged, &Selection::planLookChanged, &Selection::layerLookChanged,
                        &Selection::blockLookChanged, &Selection::drillPlacesChanged})
        connect(selection, signal, this, qOverload<>(&QWidget::update));
}

QList<QAction*> PlanView::tools() { return {m_fit, m_draw, m_colour, m_labels}; }

QString PlanView::summary() const {
    if (!products()) return {};
    switch (m_drawing) {
    case Drawing::Section: return tr("click the corners of the section line, Backspace takes one back, double-click to end");
    case Drawing::Outline: return tr("click the corners of the outline, Backspace takes one back, double-click to end");
    case Drawing::SiteLimit: return tr("click the corners of the site limit, Backspace takes one back, double-click to end");
    case Drawing::Fault: return tr("click along the fault, Backspace takes one corner back, double-click to end");
    case Drawing::GuideLine: return tr("click the corners of the guide line, double-click to end, then give its level");
    case Drawing::GuidePoint: return tr("click where you know the base, then give its level");
    case Drawing::Present:
        return tr("click where the unit is present, or around an area; double-click or Enter ends, Esc cancels");
    case Drawing::Absent: return tr("click where the unit is absent, or around an area; double-click or Enter ends, Esc cancels");
    case Drawing::Cells: return tr("click a cell and press Enter, or click around cells and double-click; Esc cancels");
    case Drawing::Rectangle: return tr("click two corners of the rectangle");
    case Drawing::Spot: return tr("click the spot");
    case Drawing::Trial: return tr("click where you want to know what a hole would find");
    case Drawing::Breakline: return tr("click along the breakline, double-click to end, then give its level");
    case Drawing::ShownArea: return tr("click around the holes that are to be shown, double-click to end, Esc cancels");
    case Drawing::None: break;
    }
    if (m_joining) return tr("click the line that is to be joined to it, Esc cancels");
    if (const auto hint = m_lines.hint(); !hint.isEmpty()) return hint;
    if (m_mending) return mendingWords();
    if (selection()->planLook().triangles && m_ground->tooManyTriangles(transform()))
        return tr("too many triangles to draw: come nearer");
    if (!m_placing.isEmpty()) return tr("click where %1 is, Esc cancels").arg(m_placing);
    if (selection()->layerLook().onPlan) return layerSummary();
    if (m_map->shown(selection()->planLook()))
        return tr("geological map, %1").arg(QString::fromStdString(fox::words(*selection()->planLook().map)));
    if (const auto* water = m_water.shown(products().get(), selection()->planLook())) {
        const auto used = std::ranges::count_if(water->fitted->points, [](const auto& p) { return p.used && p.place; });
        return tr("%1: %2, contours %3 m")
            .arg(QString::fromStdString(selection()->planLook().water->name), counted(used, "point"))
            .arg(water->interval);
    }
    if (m_surface->shown(selection()->planLook()) && chosenBase()) {
        const auto& base = *products()->model->bases[*chosenBase()];
        auto words = tr("%1: %2, %3 · rings: leave-one-out error, m")
                         .arg(QString::fromStdString(products()->project.sequence->units[*chosenBase()].name),
                              counted(base.contacts, "contact"), counted(base.bounds, "limit"));
        if (m_surface->hasPresenceLine()) words += tr(" · black line: its edge, dashed where uncertain");
        return words;
    }
    if (const auto& by = m_holes.colouring())
        return tr("holes by %1").arg(QString::fromStdString(fox::words(*by, *products()->project.sequence)));
    const auto interval = products()->contourInterval;
    if (products()->contours && !products()->contours->empty())
        return tr("holes by kind · ground contours %1 m / %2 m")
            .arg(interval)
            .arg(interval * products()->project.contours->majorEvery);
    return tr("holes by kind");
}

QString PlanView::layerSummary() const {
    const auto& look = selection()->layerLook();
    if (m_gridEditor.isDragging()) return m_gridEditor.words();
    if (const auto* made = shownMesh(products().get(), look))
        return made->mesh ? tr("%1: %2").arg(qt(made->spec.name), counted(qint64(made->mesh->plan.triangles.size()), "triangle"))
                          : qt(made->problem);
    const auto* g = shownGrid(products().get(), look);
    if (!g) return tr("no layered grid yet");
    const auto layer = std::min(look.layer, g->layers.size() - 1);
    return tr("layer %1 of %2, %3 · %4")
        .arg(layer + 1)
        .arg(g->layers.size())
        .arg(qt(g->layers[layer]), layerValueWords(*g, look.value).toLower());
}

Wanted PlanView::wanted(const Project&) const {
    const auto& look = selection()->planLook();
    Wanted out{ProductKind::GroundStatistics, ProductKind::Outliers};
    if (look.contours) out.kinds.insert(ProductKind::Contours);
    if (look.pictures) out.kinds.insert(ProductKind::Pictures);
    if (look.map) out.kinds.insert(ProductKind::Grids);
    if (selection()->layerLook().onPlan) out.kinds.insert(ProductKind::Layers), out.kinds.insert(ProductKind::Meshes);
    if (selection()->blockLook().on) out.kinds.insert(ProductKind::Excavations);
    if (selection()->blockLook().on && selection()->blockLook().planLevel) out.kinds.insert(ProductKind::Blocks);
    if (look.water) out.kinds.insert(ProductKind::WaterSurfaces);
    if (look.named) out.kinds.insert(ProductKind::NamedSurfaces);
    return out;
}

void PlanView::assignByPlane() {
    m_assigned = {};
    if (products() && selection()->plane())
        m_assigned = assignedAbove(*products()->project.holes, *products()->project.sequence, *products()->project.interpretation,
                                   *selection()->plane());
    update();
}

void PlanView::productsChanged() {
    assignByPlane();
    m_ground->setProducts(products());
    m_surface->setProducts(products());
    m_map->setProducts(products());
    m_map->prepare(selection()->planLook());
    m_surface->setUnit(chosenBase());
    m_holes.setProducts(products());
    if (products()) m_lines.setProject(products()->project);
    fitIfNeeded();
}

void PlanView::setColouring(std::optional<HoleValue> value) {
    m_holes.setColouring(value);
    update();
    emit summaryChanged();
}

void PlanView::setLabel(Label label) {
    m_holes.setLabel(label);
    update();
}

void PlanView::chooseColouring() {
    if (!products()) return;
    using Kind = HoleValue::Kind;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](QMenu* to, const QString& words, std::optional<HoleValue> value) {
        auto* a = to->addAction(words, this, [this, value] { setColouring(value); });
        a->setCheckable(true);
        a->setChecked(m_holes.colouring() == value);
    };
    addGroundLook(*menu);
    menu->addSeparator();
    addHoleLook(*menu);
    auto* holes = menu->addMenu(tr("Holes coloured by"));
    add(holes, tr("Nothing"), {});
    add(holes, tr("Final depth"), HoleValue{Kind::FinalDepth});
    add(holes, tr("Ground level"), HoleValue{Kind::GroundLevel});
    const auto& units = products()->project.sequence->units;
    auto* depth = holes->addMenu(tr("Depth to a unit"));
    auto* thickness = holes->addMenu(tr("Thickness of a unit"));
    for (std::size_t u = 0; u < units.size(); ++u) {
        add(depth, QString::fromStdString(units[u].name), HoleValue{Kind::DepthToUnit, u});
        add(thickness, QString::fromStdString(units[u].name), HoleValue{Kind::UnitThickness, u});
    }
    auto* blows = holes->addMenu(tr("SPT N at a depth"));
    for (const double at : {1.0, 2.0, 3.0, 5.0, 7.5, 10.0, 15.0, 20.0})
        add(blows, tr("%1 m").arg(at), HoleValue{Kind::BlowCount, 0, at});
    auto* water = holes->addMenu(tr("Level of water"));
    water->setObjectName("colourByWater");
    using enum WaterStatistic;
    for (const auto which : {Latest, Highest, Lowest, Mean}) {
        HoleValue value{Kind::Water};
        value.water.which = which;
        add(water, QString::fromUtf8(fox::words(which)), value);
    }
    auto* atDate = water->addAction(tr("at a date…"), this, &PlanView::askWaterDate);
    atDate->setCheckable(true);
    atDate->setChecked(m_holes.colouring() && m_holes.colouring()->kind == Kind::Water
                       && m_holes.colouring()->water.which == AtDate);
    menu->addSeparator();
    menu->addAction(tr("Save a picture…"), this, &PlanView::savePicture);
    menu->popup(QCursor::pos());
}

void PlanView::askWaterDate() {
    bool ok = false;
    const auto& now = m_holes.colouring();
    const auto start = now && !now->water.date.empty() ? now->water.date : usualDate(*products()->project.holes);
    const auto typed = QInputDialog::getText(this, tr("Level of water at a date"), tr("Date, as 2026-03-01"), QLineEdit::Normal,
                                             QString::fromStdString(start), &ok)
                           .trimmed();
    if (!ok) return;
    if (!timeOf(typed.toStdString())) return emit failed(tr("\"%1\" is not a date; write it as 2026-03-01.").arg(typed));
    HoleValue value{HoleValue::Kind::Water};
    value.water = {WaterStatistic::AtDate, typed.toStdString()};
    setColouring(value);
}

void PlanView::savePicture() {
    const auto path = askSaveFile(this, tr("Picture of the plan"), "pictures", "plan.png",
                                  tr("PNG with a world file (*.png);;GeoTIFF (*.tif)"), "png", {"pgw", "prj"});
    if (path.isEmpty()) return;
    try {
        savePictureTo(path);
    } catch (const Error& e) {
        emit failed(QString::fromStdString(e.what()));
    }
}

void PlanView::savePictureTo(const QString& path) {
    const auto image = grab().toImage().convertToFormat(QImage::Format_RGBA8888);
    const double pixel = 1 / (image.devicePixelRatio() * pixelsPerMetre()); // metres
    const auto corner = toWorld({0, 0});
    const std::filesystem::path target = path.toStdString();
    const bool tiff = fox::lower(target.extension().string()).starts_with(".tif");
    const auto crs = products() ? products()->project.site->crs : std::string();
    Picture picture{image.width(), image.height(), {}, {}, {}};
    for (int row = 0; row < image.height(); ++row)
        picture.rgba.insert(picture.rgba.end(), image.constScanLine(row), image.constScanLine(row) + 4 * image.width());
    if (tiff) picture.georeference = {corner.x(), pixel, 0, corner.y(), 0, -pixel}, picture.crs = crs;
    writePicture(target, picture);
    if (tiff) return;
    const auto beside = [&](const char* ending) { return std::filesystem::path(target).replace_extension(ending); };
    writeBytes(beside(".pgw"), fmt::format("{0:.9g}\n0\n0\n{1:.9g}\n{2:.4f}\n{3:.4f}\n", pixel, -pixel, corner.x() + pixel / 2,
                                           corner.y() - pixel / 2)); // of the first pixel's middle
    const auto system = projectionText(crs);
    if (!system.empty()) writeBytes(beside(".prj"), system);
}

void PlanView::addGroundLook(QMenu& menu) {
    const auto add = [this](QMenu& to, const QString& words, bool now, auto&& change) {
        auto* a = to.addAction(words, this, [this, change] {
            auto look = selection()->planLook();
            change(look);
            selection()->setPlanLook(look);
        });
        a->setCheckable(true);
        a->setChecked(now);
    };
    const auto look = selection()->planLook();
    using Shading = PlanLook::Shading;
    auto& shading = *menu.addMenu(tr("Ground shaded by"));
    for (const auto& [kind, words] : {std::pair{Shading::None, tr("nothing")},
                                      {Shading::Level, tr("level")},
                                      {Shading::Slope, tr("slope")},
                                      {Shading::Light, tr("light from the north-west")}})
        add(shading, words, look.shading == kind, [k = kind](PlanLook& l) { l.shading = k; });
    add(menu, tr("Contours"), look.contours, [](PlanLook& l) { l.contours = !l.contours; });
    add(menu, tr("Triangles"), look.triangles, [](PlanLook& l) { l.triangles = !l.triangles; });
    add(menu, tr("Survey points"), look.points, [](PlanLook& l) { l.points = !l.points; });
    add(menu, tr("Background images"), look.pictures, [](PlanLook& l) { l.pictures = !l.pictures; });
    using Surface = PlanLook::Surface;
    auto& surface = *menu.addMenu(
        chosenBase() ? tr("Base of %1").arg(QString::fromStdString(products()->project.sequence->units[*chosenBase()].name))
                     : tr("Base of the chosen unit"));
    add(surface, tr("not shown"), look.surface == Surface::None, [](PlanLook& l) { l.surface = Surface::None; });
    for (int k = 1; k <= int(Surface::Top); ++k)
        add(surface, QString::fromUtf8(fox::words(SurfaceValue(k - 1))), look.surface == Surface(k),
            [k](PlanLook& l) { l.surface = Surface(k); });
    addWaterLook(menu);
    addNamedLook(menu);
    addColourLook(menu);
    auto& map = *menu.addMenu(tr("Geological map"));
    add(map, tr("not shown"), !look.map, [](PlanLook& l) { l.map.reset(); });
    add(map, tr("at the ground"), look.map == MapSurface{}, [](PlanLook& l) { l.map = MapSurface{}; });
    map.addAction(tr("at a level…"), this, [this] { askMapMetres(MapSurface::Kind::Level); });
    map.addAction(tr("at a depth below ground…"), this, [this] { askMapMetres(MapSurface::Kind::Depth); });
    add(menu, tr("The model's cells"), look.grid, [](PlanLook& l) { l.grid = !l.grid; });
    using PointLabel = PlanLook::PointLabel;
    auto& labels = *menu.addMenu(tr("Survey points' labels"));
    for (const auto& [kind, words] : {std::pair{PointLabel::None, tr("nothing")},
                                      {PointLabel::Number, tr("number")},
                                      {PointLabel::Level, tr("level")},
                                      {PointLabel::Code, tr("code")}})
        add(labels, words, look.pointLabel == kind, [k = kind](PlanLook& l) { l.pointLabel = k, l.points = true; });
}

void PlanView::addWaterLook(QMenu& menu) {
    const auto look = selection()->planLook();
    auto& water = *menu.addMenu(tr("Water surface"));
    const auto add = [&](const QString& words, std::optional<PlanLook::Water> value) {
        auto* a = water.addAction(words, this, [this, value] {
            auto changed = selection()->planLook();
            changed.water = value;
            selection()->setPlanLook(changed);
        });
        a->setCheckable(true);
        a->setChecked(look.water == value);
    };
    add(tr("not shown"), {});
    for (const auto& w : *products()->project.waterSurfaces) {
        add(tr("%1: level").arg(QString::fromStdString(w.name)), PlanLook::Water{w.name, false});
        add(tr("%1: depth below ground").arg(QString::fromStdString(w.name)), PlanLook::Water{w.name, true});
    }
    if (products()->project.waterSurfaces->empty())
        water.addAction(tr("none yet: add one on the Model stage"))->setEnabled(false);
}

void PlanView::addNamedLook(QMenu& menu) {
    const auto& all = *products()->project.namedSurfaces;
    if (all.empty()) return;
    auto& named = *menu.addMenu(tr("Named surface"));
    named.setObjectName("namedSurfaceShown");
    const auto add = [&](const QString& words, std::optional<std::string> name) {
        auto* a = named.addAction(words, this, [this, name] {
            auto look = selection()->planLook();
            look.named = name;
            selection()->setPlanLook(look);
        });
        a->setCheckable(true);
        a->setChecked(selection()->planLook().named == name);
    };
    add(tr("not shown"), {});
    for (const auto& s : all) add(QString::fromStdString(s.name), s.name);
}

/// Colours of surfaces: their scale, spread evenly or in bands.
void PlanView::addColourLook(QMenu& menu) {
    const auto look = selection()->planLook();
    auto& colours = *menu.addMenu(tr("Colours of surfaces"));
    colours.setObjectName("surfaceColours");
    const auto add = [&](const QString& words, bool now, const std::function<void(PlanLook&)>& change) {
        auto* a = colours.addAction(words, this, [this, change] {
            auto next = selection()->planLook();
            change(next);
            selection()->setPlanLook(next);
        });
        a->setCheckable(true);
        a->setChecked(now);
    };
    for (const auto scale : paper::kColourScales)
        add(QString::fromUtf8(paper::words(scale)), look.scale == scale, [scale](PlanLook& l) { l.scale = scale; });
    colours.addSeparator();
    using Kind = paper::ClassKind;
    add(tr("spread evenly"), look.classes.kind == Kind::None, [](PlanLook& l) { l.classes.kind = Kind::None; });
    add(tr("bands of equal width"), look.classes.kind == Kind::Equal, [](PlanLook& l) { l.classes.kind = Kind::Equal; });
    add(tr("bands of equal area"), look.classes.kind == Kind::Quantile, [](PlanLook& l) { l.classes.kind = Kind::Quantile; });
    auto* typed = colours.addAction(tr("bands by limits…"), this, &PlanView::askClasses);
    typed->setCheckable(true);
    typed->setChecked(look.classes.kind == Kind::Typed);
    auto& count = *colours.addMenu(tr("Number of bands"));
    for (const int n : {3, 4, 5, 6, 7, 8, 10, 12}) {
        auto* a = count.addAction(QString::number(n), this, [this, n] {
            auto next = selection()->planLook();
            next.classes.count = n;
            if (next.classes.kind == Kind::None || next.classes.kind == Kind::Typed) next.classes.kind = Kind::Equal;
            selection()->setPlanLook(next);
        });
        a->setCheckable(true);
        a->setChecked(look.classes.count == n);
    }
}

void PlanView::askClasses() {
    QStringList now;
    for (const double v : selection()->planLook().classes.typed) now << QString::number(v);
    bool ok = false;
    const auto typed =
        QInputDialog::getText(this, tr("Colours of surfaces"), tr("Limits between bands, apart by blanks: 5 10 20"),
                              QLineEdit::Normal, now.join(' '), &ok);
    if (!ok) return;
    const auto limits = paper::limitsWritten(typed.toStdString());
    if (limits.empty()) return emit failed(tr("Limits are numbers that rise, apart by blanks: 5 10 20."));
    auto look = selection()->planLook();
    look.classes.kind = paper::ClassKind::Typed;
    look.classes.typed = limits;
    selection()->setPlanLook(look);
}

void PlanView::addHoleLook(QMenu& menu) {
    auto& holes = *menu.addMenu(tr("Holes shown"));
    holes.setObjectName("holesShown");
    fillHoleMenu(holes, *selection(), *products(), this,
                 {[this](const Edit& edit) { emit editMade(edit); }, [this] { startDrawing(Drawing::ShownArea); }});
}

void PlanView::askMapMetres(MapSurface::Kind kind) {
    const bool level = kind == MapSurface::Kind::Level;
    const auto now = selection()->planLook().map;
    const double start = now && now->kind == kind ? now->metres : level ? typicalLevel(*products()) : 3;
    bool ok = false;
    const double metres = QInputDialog::getDouble(
        this, tr("Geological map"), level ? tr("Level, m") : tr("Depth below ground, m"), start, -10000, 10000, 2, &ok);
    if (!ok) return;
    auto look = selection()->planLook();
    look.map = MapSurface{kind, metres};
    selection()->setPlanLook(look);
}

void PlanView::chooseLabel() {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const std::pair<Label, QString> kLabels[] = {
        {Label::None, tr("Nothing")},           {Label::Name, tr("Name")},
        {Label::Kind, tr("Kind of hole")},      {Label::GroundLevel, tr("Ground level")},
        {Label::FinalDepth, tr("Final depth")}, {Label::Value, tr("Name and what it is coloured by")}};
    for (const auto& [label, words] : kLabels) {
        auto* a = menu->addAction(words, this, [this, l = label] { setLabel(l); });
        a->setCheckable(true);
        a->setChecked(m_holes.label() == label);
    }
    menu->popup(QCursor::pos());
}

void PlanView::startPlacing(const QString& hole) {
    m_placing = hole;
    setCursor(Qt::CrossCursor);
    setFocus();
    emit summaryChanged();
    update();
}

QRectF PlanView::worldBounds() const {
    if (!products() || !products()->frame) return {};
    auto b = products()->frame->box();
    if (products()->groundStatistics && !products()->groundStatistics->extent.empty()) { // the ground may go on beyond it
        auto ground = products()->groundStatistics->extent;
        const auto& area = products()->terrain->area; // beyond a limit nothing is drawn
        const auto limit = area.isEverywhere() || area.isOutsideOfRings() ? ground : area.box();
        b.include({std::max(ground.xmin, limit.xmin), std::max(ground.ymin, limit.ymin)});
        b.include({std::min(ground.xmax, limit.xmax), std::min(ground.ymax, limit.ymax)});
    }
    return {b.xmin, b.ymin, b.width(), b.height()};
}

void PlanView::clicked(QPointF p) {
    if (!m_placing.isEmpty() && products()) {
        const auto w = toWorld(p);
        const auto name = std::exchange(m_placing, {});
        unsetCursor();
        emit summaryChanged();
        const Point2 place{std::round(w.x() * 100) / 100, std::round(w.y() * 100) / 100}; // to the centimetre
        emit editMade([hole = name.toStdString(), place](const Project& now) { return setHolePlace(now, hole, place); });
        selection()->setHole(name);
        return;
    }
    if (m_drawing != Drawing::None) {
        const auto w = toWorld(p);
        m_line.push_back({w.x(), w.y()});
        if (m_line.size() == (m_drawing == Drawing::Rectangle ? 2 : 1) && m_drawing >= Drawing::Rectangle) return finishDrawing();
        update();
        return;
    }
    if (m_mending && products()) return mendAt(p);
    const auto* line = m_lines.lineAt(transform(), p);
    if (m_joining) {
        const auto first = *std::exchange(m_joining, std::nullopt);
        emit summaryChanged();
        if (!line) return emit failed(tr("There is no line here to join it to."));
        selection()->setLine({});
        return emit editMade([first, second = *line](const Project& now) { return joinLines(now, first, second); });
    }
    const auto hole = m_holes.holeAt(transform(), p), trial = hole.isEmpty() ? m_holes.trialAt(transform(), p) : QString();
    selection()->setTrial(trial);
    if (trial.isEmpty()) selection()->setHole(hole);
    if (!hole.isEmpty() || !trial.isEmpty()) line = nullptr;
    selection()->setLine(line ? std::optional(*line) : std::nullopt);
    if (!line || line->kind != ProjectLine::Kind::Section) return;
    const auto& sections = *products()->project.sections;
    const auto at = std::ranges::find(sections, line->name, &SectionLine::name);
    if (at != sections.end()) selection()->setSection(int(at - sections.begin()));
}

void PlanView::mousePressEvent(QMouseEvent* e) {
    const bool idle = m_drawing == Drawing::None && !m_mending && m_placing.isEmpty() && !m_joining;
    if (idle && e->button() == Qt::LeftButton && products() && m_lines.press(transform(), e->position())) {
        setFocus();
        return update();
    }
    if (idle && e->button() == Qt::LeftButton && m_cuts.press(transform(), e->position())) return;
    if (const auto* spec = editableGrid();
        spec && idle && e->button() == Qt::LeftButton && m_gridEditor.press(transform(), spec->grid, e->position()))
        return setFocus();
    PannedView::mousePressEvent(e);
}

void PlanView::mouseMoveEvent(QMouseEvent* e) {
    if (m_cuts.isDragging()) {
        const auto w = toWorld(e->position());
        return m_cuts.drag({w.x(), w.y()});
    }
    if (m_gridEditor.isDragging()) {
        const auto w = toWorld(e->position());
        m_gridEditor.drag({w.x(), w.y()}, e->modifiers() & Qt::ShiftModifier);
        emit summaryChanged();
        return update();
    }
    if (!m_lines.isDragging() || !products()) {
        PannedView::mouseMoveEvent(e);
        if (m_drawing == Drawing::None && !m_mending && m_placing.isEmpty())
            isOnHandle(e->position()) ? setCursor(Qt::SizeAllCursor) : unsetCursor();
        return;
    }
    const auto w = toWorld(e->position());
    if (const auto edit = m_lines.drag(transform(), {w.x(), w.y()}, !(e->modifiers() & Qt::AltModifier), products()->project))
        emit editPreviewed(*edit);
    emit summaryChanged();
    update();
}

void PlanView::mouseReleaseEvent(QMouseEvent* e) {
    if (m_cuts.isDragging()) return m_cuts.release();
    if (m_gridEditor.isDragging()) return endGridDrag(e->position());
    if (!m_lines.isDragging()) return PannedView::mouseReleaseEvent(e);
    if (const auto edit = m_lines.release())
        emit editMade(*edit);
    else
        emit previewEnded();
    emit summaryChanged();
    update();
}

void PlanView::mouseDoubleClickEvent(QMouseEvent* e) {
    if (m_drawing != Drawing::None)
        finishDrawing();
    else if (m_mending)
        e->accept(); // two quick clicks are two clicks
    else
        PannedView::mouseDoubleClickEvent(e);
}

void PlanView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) return giveUp();
    if (m_drawing == Drawing::None && (e->key() == Qt::Key_Delete || e->key() == Qt::Key_Backspace)) {
        if (const auto edit = m_lines.remove()) emit editMade(*edit);
        return update();
    }
    if (m_drawing != Drawing::None && (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter)) return finishDrawing();
    if (m_drawing != Drawing::None && e->key() == Qt::Key_Backspace) {
        if (!m_line.empty()) m_line.pop_back();
        return update();
    }
    PannedView::keyPressEvent(e);
}

void PlanView::paintCells(QPainter& painter, const PlanTransform& t) {
    const auto& look = selection()->layerLook();
    m_mesh.paint(painter, t, *products(), look);
    m_cells.paint(painter, t, *products(), look);
}

void PlanView::hoveredAt(QPointF p) {
    const auto w = toWorld(p);
    m_cursor = Point2{w.x(), w.y()};
    if (m_drawing != Drawing::None) update();
    if (!products()) return;
    selection()->setHovered(m_holes.holeAt(transform(), p));
    selection()->setProbe(*m_cursor);
    const double level = products()->terrain->levelAt(*m_cursor).value_or(kNoValue);
    QString unit;
    if (products()->model && !products()->project.sequence->units.empty())
        if (const auto at = products()->model->columnAt(*m_cursor).unitAt(level))
            unit = QString::fromStdString(products()->project.sequence->units[*at].name);
    if (const auto u = chosenBase())
        if (const auto words = baseInWords(*products()->model, *u, *m_cursor); !words.empty())
            unit += QString::fromUtf8(" · ") + QString::fromStdString(words);
    if (const auto words = CellLayer::wordsAt(*m_cursor, products().get(), selection()->layerLook()); !words.isEmpty())
        unit = words;
    emit pointed(w.x(), w.y(), level, unit);
}

void PlanView::showPlace(Point2 p) {
    centreAt({p.x, p.y});
    if (pixelsPerMetre() < 2) zoomBy(2 / pixelsPerMetre());
}

void PlanView::showArea(const Box2& area) {
    centreAt({area.centre().x, area.centre().y});
    constexpr double kShare = 0.8; // of the view
    const double wanted = kShare * std::min(width() / std::max(1.0, area.width()), height() / std::max(1.0, area.height()));
    zoomBy(wanted / pixelsPerMetre());
}

void PlanView::centreOn(const QString& name) {
    if (!products()) return;
    const auto* hole = findHole(*products()->project.holes, name.toStdString());
    if (hole && hole->place() && !rect().contains(toScreen(hole->place()->x, hole->place()->y).toPoint())) fit();
}

void PlanView::paintLines(QPainter& painter) const {
    const auto& p = products()->project;
    if (!p.site->limit.empty()) {
        QPolygonF limit;
        for (const auto& c : p.site->limit) limit << toScreen(c.x, c.y);
        painter.setPen(QPen(colour::ink, 1, Qt::DashLine));
        painter.drawPolygon(limit);
    }
    painter.setFont(bodyFont(12, true));
    for (std::size_t i = 0; i < p.sections->size(); ++i) {
        const auto& s = (*p.sections)[i];
        const bool chosen = int(i) == selection()->section();
        QPolygonF line;
        for (const auto& c : s.line) line << toScreen(c.x, c.y);
        painter.setPen(QPen(chosen ? colour::fox : colour::slate, chosen ? 2 : 1.2));
        painter.drawPolyline(line);
        if (line.isEmpty()) continue;
        painter.drawText(line.first() + QPointF(-12, -5), QString::fromStdString(s.name));
        painter.drawText(line.last() + QPointF(6, -5), QString::fromStdString(s.name) + QChar(0x2032));
    }
    paintDrawing(painter);
}

/// The model's extent, and its cells where they are large enough to be told apart.
void PlanView::paintGrid(QPainter& painter) const {
    const auto& f = *products()->frame;
    const QRectF all(toScreen(f.xmin, f.ymax), toScreen(f.xmin + f.columns() * f.cell, f.ymax - f.rows() * f.cell));
    painter.setRenderHint(QPainter::Antialiasing, false);
    constexpr double kLeast = 4; // pixels
    if (f.cell * pixelsPerMetre() >= kLeast) {
        auto faint = colour::slate;
        faint.setAlpha(60);
        painter.setPen(QPen(faint, 1));
        for (int c = 0; c <= f.columns(); ++c) {
            const double x = toScreen(f.xmin + c * f.cell, 0).x();
            if (x >= 0 && x <= width()) painter.drawLine(QPointF(x, all.top()), QPointF(x, all.bottom()));
        }
        for (int r = 0; r <= f.rows(); ++r) {
            const double y = toScreen(0, f.ymax - r * f.cell).y();
            if (y >= 0 && y <= height()) painter.drawLine(QPointF(all.left(), y), QPointF(all.right(), y));
        }
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::slate, 1.4));
    painter.drawRect(all);
    painter.setRenderHint(QPainter::Antialiasing, true);
}

void PlanView::paintScale(QPainter& painter) const {
    const double wanted = 110 / pixelsPerMetre(), power = std::pow(10, std::floor(std::log10(wanted)));
    const double length = power * (wanted / power >= 5 ? 5 : wanted / power >= 2 ? 2 : 1);
    const QPointF at(14, height() - 14);
    const double wide = length * pixelsPerMetre();
    painter.fillRect(QRectF(at.x() - 5, at.y() - 21, std::max(wide, 50.0) + 10, 28), colour::veil(215));
    painter.setPen(QPen(colour::ink, 2));
    painter.drawLine(at, at + QPointF(wide, 0));
    painter.setFont(bodyFont(11));
    painter.drawText(at + QPointF(0, -5), length >= 1000 ? QString("%1 km").arg(length / 1000) : QString("%1 m").arg(length));
    const QPointF north(width() - 22, 40);
    painter.setBrush(colour::ink);
    painter.setPen(Qt::NoPen);
    painter.drawPolygon(QPolygonF({north + QPointF(0, -14), north + QPointF(5, 2), north + QPointF(-5, 2)}));
    painter.setPen(colour::ink);
    painter.drawText(QRectF(north + QPointF(-10, -30), QSizeF(20, 14)), Qt::AlignCenter, "N");
}

void PlanView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), colour::paper);
    if (worldBounds().isEmpty())
        return paintEmpty(painter, rect(),
                          products()
                              ? tr("No holes and no ground yet. Drop AGS files or a survey CSV on the window, or press Import.")
                              : tr("Working…"));
    const auto t = transform();
    const auto& look = selection()->planLook();
    Occupied occupied(size());
    m_holes.occupy(t, occupied);
    const bool map = m_map->shown(look), water = !map && m_water.shown(products().get(), look),
               named = !map && !water && m_named.shown(products().get(), look), cells = selection()->layerLook().onPlan,
               surface = !map && !water && !named && !cells && m_surface->shown(look);
    m_ground->paintBehind(painter, t, look);
    if (map)
        m_map->paintBehind(painter, t, look, selection()->unit());
    else if (water)
        m_water.paintBehind(painter, t, *products(), look, occupied);
    else if (named)
        m_named.paintBehind(painter, t, *products(), look, occupied);
    else if (cells)
        paintCells(painter, t);
    else
        m_surface->paintBehind(painter, t, look, occupied);
    m_blocks.paint(painter, t, *products(), selection()->blockLook());
    m_dig.paint(painter, t, *products(), selection()->blockLook());
    if (look.grid) paintGrid(painter);
    paintBackgroundLines(painter, t, *products()->project.background);
    m_ground->paintOutlines(painter, t);
    if (!surface && !water && !named && !cells)
        m_ground->paintContours(painter, t, look, occupied); // two sets of lines would be read as one
    m_surface->paintFaults(painter, t);
    paintLines(painter);
    if (water)
        m_water.paintMarks(painter, t, *products(), look, occupied);
    else
        m_surface->paintMarks(painter, t, look, occupied);
    paintContactPoints(painter, t, *products());
    paintValuePoints(painter, t, products()->project);
    m_holes.paint(painter, t, *selection(), occupied, map);
    m_holes.paintTrials(painter, t, *selection(), occupied);
    paintDrillPlaces(painter, t, selection()->drillPlaces(), occupied);
    if (selection()->plane()) paintPlane(painter, t, *products(), *selection()->plane(), m_assigned);
    m_ground->paintPoints(painter, t, look, occupied);
    m_lines.paint(painter, t);
    m_cuts.paint(painter, t);
    if (const auto* spec = editableGrid()) m_gridEditor.paint(painter, t, spec->grid);
    paintScale(painter);
    m_holes.paintLegend(painter, t);
    if (map) return m_map->paintLegend(painter, t, look);
    if (water) return m_water.paintLegend(painter, t, look);
    if (named) return m_named.paintLegend(painter, t, look);
    if (cells) return m_cells.paintLegend(painter, t, *products(), selection()->layerLook());
    if (!m_holes.colouring()) surface ? m_surface->paintLegend(painter, t, look) : m_ground->paintLegend(painter, t, look);
}

PlanTransform PlanView::transform() const {
    const auto a = toWorld({0, 0}), b = toWorld(QPointF(width(), height()));
    return {[this](double x, double y) { return toScreen(x, y); }, QRectF(QPointF(a.x(), b.y()), QPointF(b.x(), a.y())),
            pixelsPerMetre(), size()};
}

} // namespace fox::app
