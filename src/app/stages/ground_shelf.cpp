#include "stages/ground_shelf.h"

#include "base/errors.h"
#include "project/ground_edits.h"
#include "project/named_surface_edits.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QDate>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>
#include <cstring>

namespace fox::app {

namespace {

QDoubleSpinBox* metresBox(double value, double most, const QString& none) {
    auto* box = new NumberBox;
    box->setRange(0, most);
    box->setDecimals(1);
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    box->setSuffix(" m");
    box->setSpecialValueText(none);
    box->setValue(value);
    box->setKeyboardTracking(false);
    return box;
}

} // namespace

GroundShelf::GroundShelf(Selection* s, QWidget* parent) : Shelf(tr("Ground"), s, parent) {
    connect(mainButton(tr("Add data…"), tr("Bring in survey points, breaklines, contours, outlines, grids or background images")),
            &QPushButton::clicked, this, [this] { emit actionAsked(ImportFiles{}); });
    connect(s, &Selection::planLookChanged, this, [this] { refill(); });
}

void GroundShelf::choice(QCheckBox* box, const QString& right, const std::function<void()>& more) {
    auto* line = new QWidget(this);
    line->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(4, 1, 4, 1);
    box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    box->setToolTip(box->toolTip().isEmpty() ? box->text() : box->toolTip());
    row->addWidget(box, 1);
    auto* figure = new QLabel(right, line);
    figure->setProperty("muted", true);
    row->addWidget(figure);
    if (more) {
        auto* button = new QToolButton(line);
        button->setText(QString::fromUtf8("…"));
        button->setObjectName("more_" + box->objectName());
        button->setToolTip(tr("Read it again with other settings, or remove it"));
        button->setAccessibleName(tr("More of %1").arg(box->text()));
        connect(button, &QToolButton::clicked, this, more);
        row->addWidget(button);
    }
    wide(line);
}

void GroundShelf::fillBody() {
    const auto& g = *products()->project.ground;
    fillSources();
    if (g.empty())
        words(
            tr("No survey yet: the ground is drawn between the holes alone. Drop a CSV of survey points, lines (GPKG, shapefile, "
               "GeoJSON, DXF), a grid or a background image on the window, or get an elevation grid."));
    offer(tr("Get an elevation grid or map…"), [this] { emit actionAsked(GetTiles{}); });
    fillCodes();
    fillOutlines();
    fillPictures();
    fillBackground();
    fillTerrain();
    fillLook();
    fillNamed();
    fillMending();
}

/// Surfaces beside the ground: a design, an older survey, a horizon.
void GroundShelf::fillNamed() {
    heading(tr("Named surfaces"));
    const auto& all = *products()->project.namedSurfaces;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto& s = all[i];
        auto* line = new QWidget(this);
        auto* parts = new QHBoxLayout(line);
        parts->setContentsMargins(4, 1, 4, 1);
        auto* shown = new QCheckBox(qt(s.name), line);
        shown->setObjectName("showNamed_" + qt(s.name));
        shown->setChecked(selection()->planLook().named == s.name);
        shown->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
        QString made = tr("%1 from %2").arg(QString::fromUtf8(fox::words(s.from)), qt(s.source));
        if (i < products()->namedSurfaces.size() && s.byMethod())
            made += tr(", leave-one-out error %1").arg(metres(products()->namedSurfaces[i]->fitted->fit.leaveOneOut.rmse));
        shown->setToolTip(tr("Show on the plan: %1").arg(made));
        connect(shown, &QCheckBox::toggled, this, [this, name = s.name](bool on) {
            auto look = selection()->planLook();
            look.named = on ? std::optional(name) : std::nullopt;
            selection()->setPlanLook(look);
        });
        parts->addWidget(shown, 1);
        if (s.byMethod()) {
            auto* method = new QComboBox(line);
            method->setObjectName("methodOfNamed_" + qt(s.name));
            for (const auto m : allMethods()) method->addItem(QString::fromUtf8(fox::words(m)));
            method->setCurrentIndex(int(std::ranges::find(allMethods(), s.settings.method) - allMethods().begin()));
            method->setToolTip(tr("How %1 is interpolated").arg(qt(s.name)));
            method->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
            connect(method, &QComboBox::activated, this, [this, name = s.name](int at) {
                emit editMade([name, m = allMethods()[std::size_t(at)]](const Project& p) {
                    return changeNamedSurface(
                        p, name, [m](NamedSurface& n) { n.settings.method = m; }, fox::words(m));
                });
            });
            parts->addWidget(method, 1);
        }
        auto* more = new QToolButton(line);
        more->setText(QString::fromUtf8("…"));
        more->setObjectName("moreOfNamed_" + qt(s.name));
        more->setAccessibleName(tr("More of %1").arg(qt(s.name)));
        more->setToolTip(tr("Rename, copy or remove it"));
        connect(more, &QToolButton::clicked, this, [this, s] { namedMenu(s); });
        parts->addWidget(more);
        wide(line);
    }
    if (all.empty()) words(tr("A design, an older survey or a water table to compare with: none yet."));
    offer(tr("Add a surface…"), [this] { addNamedMenu(); });
    if (!all.empty()) offer(tr("Compare surfaces…"), [this] { emit actionAsked(CompareSurfaces{}); });
}

void GroundShelf::namedMenu(const NamedSurface& s) {
    auto* menu = new QMenu(this);
    menu->setObjectName("namedMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Rename…"), this, [this, name = s.name] {
        bool ok = false;
        const auto to = QInputDialog::getText(this, tr("Rename %1").arg(qt(name)), tr("Name"), QLineEdit::Normal, qt(name), &ok);
        if (ok) emit editMade([name, to = to.toStdString()](const Project& p) { return renameNamedSurface(p, name, to); });
    });
    menu->addAction(tr("Copy, to try another method"), this,
                    [this, s] { emit editMade([s](const Project& p) { return addNamedSurface(p, s); }); });
    menu->addAction(tr("Remove"), this,
                    [this, name = s.name] { emit editMade([name](const Project& p) { return removeNamedSurface(p, name); }); });
    menu->popup(QCursor::pos());
}

void GroundShelf::addNamedMenu() {
    auto* menu = new QMenu(this);
    menu->setObjectName("addNamedMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [this](QMenu& to, const QString& words, NamedSurface surface) {
        to.addAction(words, this,
                     [this, surface] { emit editMade([surface](const Project& p) { return addNamedSurface(p, surface); }); });
    };
    using From = NamedSurface::From;
    menu->addAction(tr("From a file: points, a grid, triangles…"), this, [this] { emit actionAsked(AddNamedSurface{}); });
    auto& contactMenu = *menu->addMenu(tr("From the contacts of a base"));
    const auto& units = products()->project.sequence->units;
    for (std::size_t u = 0; u + 1 < units.size(); ++u) {
        NamedSurface s;
        s.name = "Contacts of " + units[u].code, s.from = From::Contacts, s.source = units[u].code;
        add(contactMenu, qt(units[u].name), s);
    }
    auto& waterMenu = *menu->addMenu(tr("From a water surface"));
    for (const auto& w : *products()->project.waterSurfaces) {
        NamedSurface s;
        s.name = w.name + " (surface)", s.from = From::Water, s.source = w.name;
        add(waterMenu, qt(w.name), s);
    }
    contactMenu.menuAction()->setVisible(!contactMenu.isEmpty());
    waterMenu.menuAction()->setVisible(!waterMenu.isEmpty());
    if (products()->ground) {
        NamedSurface s;
        s.name = "Ground " + QDate::currentDate().toString(Qt::ISODate).toStdString();
        s.from = From::Grid, s.source = "the ground on that day", s.grid = products()->ground;
        add(*menu, tr("The ground as it is now"), s);
    }
    menu->popup(QCursor::pos());
}

void GroundShelf::fillSources() {
    const auto& g = *products()->project.ground;
    heading(tr("Sources"));
    const auto source = [&](const std::string& file, GroundPart of, bool used, const QString& right) {
        auto* box = new QCheckBox(qt(file));
        const bool both = std::ranges::count(g.points, file, &GroundSources::Points::file) > 0
                          && std::ranges::count(g.lines, file, &GroundSources::Lines::file) > 0;
        box->setObjectName("use_" + qt(file) + (both && of == GroundPart::Points ? " points" : both ? " lines" : ""));
        box->setChecked(used);
        connect(box, &QCheckBox::toggled, this, [this, file, of](bool on) {
            emit editMade([file, of, on](const Project& p) { return setSourceUsed(p, file, of, on); });
        });
        choice(box, right, [this, file] { emit actionAsked(ShowSource{qt(file)}); });
    };
    for (const auto& s : g.points) source(s.file, GroundPart::Points, s.used, counted(qint64(s.points.size()), "point"));
    for (const auto& s : g.lines) {
        const char* many = fox::words(s.role); // "breaklines"
        const std::string one(many, std::strlen(many) - 1);
        source(s.file, GroundPart::Lines, s.used, counted(qint64(s.lines.size()), one.c_str(), many));
    }
    for (const auto& s : g.rasters) source(s.file, GroundPart::Grid, s.used, tr("grid, %1 m").arg(s.grid->frame.cell, 0, 'g', 4));
    auto* holes = new QCheckBox(tr("Use borehole ground levels"));
    holes->setObjectName("useHoleLevels");
    holes->setChecked(g.holeLevels);
    connect(holes, &QCheckBox::toggled, this,
            [this](bool on) { emit editMade([on](const Project& p) { return setHoleLevels(p, on); }); });
    choice(holes, counted(qint64(products()->project.holes->size()), "hole"));
}

void GroundShelf::fillCodes() {
    const auto& g = *products()->project.ground;
    if (!products()->groundStatistics) return; // not yet
    const auto& codes = products()->groundStatistics->codes;
    if (codes.empty() || (codes.size() == 1 && codes.begin()->first.empty())) return;
    heading(tr("Survey codes that are ground"));
    for (const auto& [code, n] : codes) {
        auto* box = new QCheckBox(code.empty() ? tr("(no code)") : qt(code));
        box->setObjectName("code_" + qt(code));
        box->setChecked(!g.codesOut.contains(code));
        box->setToolTip(tr("Untick what is not ground: wall tops, tree tops, manhole inverts"));
        connect(box, &QCheckBox::toggled, this,
                [this, c = code](bool on) { emit editMade([c, on](const Project& p) { return setCodeUsed(p, c, on); }); });
        choice(box, counted(qint64(n), "point"));
    }
    for (const auto& code : products()->groundStatistics->joinable) {
        auto* box = new QCheckBox(tr("Join %1 by number as breaklines").arg(qt(code)));
        box->setObjectName("join_" + qt(code));
        box->setChecked(g.codesJoined.contains(code));
        connect(box, &QCheckBox::toggled, this,
                [this, code](bool on) { emit editMade([code, on](const Project& p) { return setCodeJoined(p, code, on); }); });
        choice(box, {});
    }
}

void GroundShelf::fillOutlines() {
    const auto& outlines = products()->project.ground->outlines;
    const bool site = !products()->project.site->limit.empty();
    heading(tr("Outlines and islands"));
    if (site) row(tr("Site limit"), tr("no ground outside"));
    for (std::size_t i = 0; i < outlines.size(); ++i) {
        auto* line = new QWidget(this);
        line->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
        auto* l = new QHBoxLayout(line);
        l->setContentsMargins(4, 1, 4, 1);
        auto* name = new QLabel(qt(outlines[i].name), line);
        name->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
        auto* use = new QComboBox(line);
        use->setObjectName(QString("outline_%1").arg(i));
        use->addItems({tr("only kept"), tr("no ground outside"), tr("no ground inside")});
        use->setCurrentIndex(int(outlines[i].use));
        use->setAccessibleName(tr("What %1 is for").arg(qt(outlines[i].name)));
        connect(use, &QComboBox::activated, this, [this, outline = outlines[i]](int chosen) {
            emit editMade(
                [outline, chosen](const Project& p) { return setOutlineUse(p, outline, GroundSources::Outline::Use(chosen)); });
        });
        auto* remove = new QToolButton(line);
        remove->setObjectName(QString("removeOutline_%1").arg(i));
        remove->setText(tr("Remove"));
        remove->setToolTip(tr("Remove %1 from the project").arg(qt(outlines[i].name)));
        connect(remove, &QToolButton::clicked, this, [this, outline = outlines[i]] {
            emit editMade([outline](const Project& p) { return removeOutline(p, outline); });
        });
        l->addWidget(name, 1);
        l->addWidget(use);
        l->addWidget(remove);
        wide(line);
    }
    offer(tr("Draw an outline…"), [this] { emit actionAsked(DrawOnPlan{DrawOnPlan::What::Outline}); });
}

void GroundShelf::fillPictures() {
    const auto& pictures = *products()->project.pictures;
    if (pictures.empty()) return;
    heading(tr("Background images"));
    for (const auto& picture : pictures) {
        auto* box = new QCheckBox(qt(picture.file));
        box->setObjectName("picture_" + qt(picture.file));
        box->setChecked(picture.isDrawn());
        box->setEnabled(picture.placed);
        connect(box, &QCheckBox::toggled, this, [this, file = picture.file](bool on) {
            emit editMade(
                [file, on](const Project& p) { return changePicture(p, file, [&](PlacedPicture& shown) { shown.shown = on; }); });
        });
        const auto right = !picture.placed         ? tr("not placed")
                           : picture.marks.empty() ? QString()
                                                   : counted(qint64(picture.marks.size()), "control point");
        choice(box, right, [this, file = picture.file] { emit actionAsked(ShowPicture{qt(file)}); });
        if (!picture.placed)
            offer(tr("Place %1…").arg(qt(picture.file)),
                  [this, file = picture.file] { emit actionAsked(ShowPicture{qt(file)}); });
    }
}

/// Layers of drawings that make no ground.
void GroundShelf::fillBackground() {
    const auto& background = *products()->project.background;
    if (background.empty()) return;
    heading(tr("Only to look at"));
    for (const auto& layer : background) {
        auto* box = new QCheckBox(qt(layer.layer));
        box->setObjectName("background_" + qt(layer.layer));
        box->setToolTip(tr("%1 of %2: drawn on the plan and in 3D, no ground").arg(qt(layer.layer), qt(layer.file)));
        QPixmap colour(12, 12);
        colour.fill(QColor(qt(layer.colour)));
        box->setIcon(colour);
        box->setChecked(layer.shown);
        connect(box, &QCheckBox::toggled, this, [this, file = layer.file, name = layer.layer](bool on) {
            emit editMade([file, name, on](const Project& p) {
                return changeBackground(
                    p, file, name, [&](BackgroundLines& b) { b.shown = on; }, on ? "shown" : "hidden");
            });
        });
        choice(box, counted(qint64(layer.lines.size()), "line"), [this, layer] { backgroundMenu(layer); });
    }
}

void GroundShelf::backgroundMenu(const BackgroundLines& layer) {
    const auto change = [this, file = layer.file, name = layer.layer](const std::function<void(BackgroundLines&)>& how,
                                                                      const std::string& what) {
        emit editMade([file, name, how, what](const Project& p) { return changeBackground(p, file, name, how, what); });
    };
    auto* menu = new QMenu(this);
    menu->setObjectName("backgroundMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Colour…"), this, [this, change, now = layer.colour, name = layer.layer] {
        const auto chosen = QColorDialog::getColor(QColor(qt(now)), this, tr("Colour of %1").arg(qt(name)));
        if (chosen.isValid()) change([to = chosen.name().toStdString()](BackgroundLines& b) { b.colour = to; }, "colour");
    });
    for (const double width : {1.2, 2.0, 3.5}) {
        auto* action =
            menu->addAction(width < 2   ? tr("Thin")
                            : width < 3 ? tr("Medium")
                                        : tr("Thick"),
                            this, [change, width] { change([width](BackgroundLines& b) { b.width = width; }, "width"); });
        action->setCheckable(true);
        action->setChecked(layer.width == width);
    }
    auto* draped = menu->addAction(tr("On the ground in 3D"), this, [change, on = !layer.draped] {
        change([on](BackgroundLines& b) { b.draped = on; }, on ? "on the ground in 3D" : "not in 3D");
    });
    draped->setCheckable(true);
    draped->setChecked(layer.draped);
    menu->addSeparator();
    menu->addAction(tr("File…"), this, [this, file = qt(layer.file)] { emit actionAsked(ShowSource{file}); });
    menu->popup(QCursor::pos());
}

void GroundShelf::fillTerrain() {
    const auto& t = *products()->terrain;
    if (!products()->groundStatistics) return;
    const auto& m = products()->groundStatistics->measures;
    heading(tr("Terrain"));
    row(tr("Triangles"), tr("%L1").arg(t.tin.triangles().size()));
    if (m.flatTriangles > 0) row(tr("of them flat"), QString::number(m.flatTriangles));
    if (t.flatsMended > 0) row(tr("Points that remove flat triangles"), QString::number(t.flatsMended));
    if (t.edgeTriangles > 0) row(tr("Long outer triangles dropped"), QString::number(t.edgeTriangles));
    row(tr("Breakline pieces"), QString::number(t.breaklineSegments));
    row(tr("Area in plan"), QString::fromUtf8("%1 ha").arg(m.planArea / 1e4, 0, 'f', 2));
    row(tr("Levels"), std::isnan(m.zmin) ? tr("none") : tr("%1 to %2").arg(metres(m.zmin, 1), metres(m.zmax, 1)));
    if (products()->outliers && !products()->outliers->empty())
        words(counted(qint64(products()->outliers->size()), "point is", "points are")
                  + tr(" far off the neighbours: ringed red on the plan, and listed below."),
              colour::amberText);
    offer(tr("Compare with another surface…"), [this] { emit actionAsked(CompareSurfaces{}); });
}

void GroundShelf::fillLook() {
    heading(tr("Contours"));
    const auto& choices = *products()->project.contours;
    auto* line = new QWidget(this);
    line->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    auto* l = new QHBoxLayout(line);
    l->setContentsMargins(4, 1, 4, 1);
    auto* interval = metresBox(choices.interval, 1000, tr("automatic (%1 m)").arg(products()->contourInterval));
    interval->setObjectName("contourInterval");
    interval->setDecimals(2);
    interval->setAccessibleName(tr("Contour interval"));
    interval->setToolTip(tr("Metres from contour to contour; 0 takes a round one that gives about a dozen"));
    const auto change = [this](std::function<void(ContourChoices&)> how) {
        emit editMade([how](const Project& p) { return changeContours(p, how); });
    };
    connect(interval, &QDoubleSpinBox::valueChanged, this,
            [change](double v) { change([v](ContourChoices& c) { c.interval = v; }); });
    auto* major = new QComboBox(line);
    major->setObjectName("contourMajor");
    major->setAccessibleName(tr("Which contours are index contours"));
    major->setToolTip(tr("Which contours are index contours: drawn stronger, with their level"));
    for (const int n : {2, 4, 5, 10}) major->addItem(tr("index every %1th").arg(n), n);
    major->setItemText(0, tr("index every 2nd"));
    major->setCurrentIndex(std::max(0, major->findData(choices.majorEvery)));
    connect(major, &QComboBox::activated, this,
            [change, major] { change([every = major->currentData().toInt()](ContourChoices& c) { c.majorEvery = every; }); });
    l->addWidget(interval, 1);
    l->addWidget(major);
    wide(line);
    auto* smooth = new QCheckBox(tr("smooth lines"));
    smooth->setObjectName("contoursSmooth");
    smooth->setToolTip(tr("Corners cut, to look at. Unticked, they are exactly as the triangles have them"));
    smooth->setChecked(choices.smooth);
    connect(smooth, &QCheckBox::toggled, this, [change](bool on) { change([on](ContourChoices& c) { c.smooth = on; }); });
    choice(smooth, products()->contours ? counted(qint64(products()->contours->size()), "line") : QString());
    heading(tr("On the plan"));
    const auto look = selection()->planLook();
    auto* shading = new QComboBox;
    shading->setObjectName("shading");
    shading->setAccessibleName(tr("Shading of the ground"));
    shading->addItems({tr("no shading"), tr("shaded by level"), tr("shaded by slope"), tr("lit from the north-west")});
    shading->setCurrentIndex(int(look.shading));
    connect(shading, &QComboBox::activated, this, [this](int i) {
        auto next = selection()->planLook();
        next.shading = PlanLook::Shading(i);
        selection()->setPlanLook(next);
    });
    wide(shading);
    const auto shown = [&](const QString& words, const char* name, bool PlanLook::*member) {
        auto* box = new QCheckBox(words);
        box->setObjectName(name);
        box->setChecked(look.*member);
        connect(box, &QCheckBox::toggled, this, [this, member](bool on) {
            auto next = selection()->planLook();
            next.*member = on;
            selection()->setPlanLook(next);
        });
        choice(box, {});
    };
    shown(tr("triangles"), "showTriangles", &PlanLook::triangles);
    shown(tr("survey points with labels"), "showPoints", &PlanLook::points);
}

void GroundShelf::fillMending() {
    heading(tr("Manual edits"));
    using Kind = TinEdit::Kind;
    for (const auto& [kind, words] : {std::pair{Kind::SwapEdge, tr("Flip edge…")},
                                      {Kind::RemoveTriangle, tr("Remove a triangle…")},
                                      {Kind::LeaveOut, tr("Leave out a point…")},
                                      {Kind::SetLevel, tr("Set a point's level…")}})
        offer(words, [this, k = kind] { emit actionAsked(EditTriangles{k}); });
    const auto& edits = products()->project.ground->edits;
    constexpr std::size_t kShown = 40;
    for (std::size_t i = 0; i < std::min(kShown, edits.size()); ++i) {
        const auto& e = edits[i];
        const auto what = e.kind == Kind::SetLevel ? tr("level %1").arg(metres(e.level)) : tr(name(e.kind));
        row(tr("%1 at %2 %3").arg(what, coordinate(e.a.x), coordinate(e.a.y)), tr("take back"),
            [this, e] { emit editMade([e](const Project& p) { return removeMending(p, e); }); });
    }
    if (edits.size() > kShown) words(tr("and %1 more").arg(edits.size() - kShown));
}

void GroundShelf::fillCard() {
    const auto& g = *products()->project.ground;
    if (g.empty()) return;
    cardTitle(tr("How it is made"), {});
    const auto metresField = [&](const QString& name, const char* object, double value, const QString& none, const QString& tip,
                                 Edited (*set)(const Project&, double)) {
        auto* box = metresBox(value, 100000, none);
        box->setObjectName(object);
        box->setToolTip(tip);
        connect(box, &QDoubleSpinBox::valueChanged, this,
                [this, set](double v) { emit editMade([set, v](const Project& p) { return set(p, v); }); });
        cardWidget(name, box);
    };
    metresField(tr("Longest edge"), "longestEdge", g.longestEdge, tr("any"),
                tr("Outer triangles with a longer edge are dropped, from the boundary inwards"), setLongestEdge);
    if (products()->groundStatistics && products()->groundStatistics->linesWithoutLevels)
        metresField(tr("Search distance for levels"), "reach", g.reach, tr("any"),
                    tr("A breakline without levels takes them from ground points within this distance"), setReach);
    if (!g.rasters.empty())
        metresField(tr("Blend distance"), "blend", g.blend, tr("nothing"),
                    tr("The coarse grid is drawn to the survey over this distance"), setBlend);
    const auto box = [&](const QString& words, const char* object, bool on, const QString& tip,
                         Edited (*set)(const Project&, bool)) {
        auto* b = new QCheckBox(words);
        b->setObjectName(object);
        b->setChecked(on);
        b->setToolTip(tip);
        connect(b, &QCheckBox::toggled, this,
                [this, set](bool now) { emit editMade([set, now](const Project& p) { return set(p, now); }); });
        cardWide(b);
    };
    if (std::ranges::any_of(g.lines, [](const auto& s) { return s.role == LineRole::Contours; }))
        box(tr("Remove flat triangles between contours"), "mendFlats", g.mendFlats,
            tr("Hilltops become round, valleys get a floor; else triangles on one contour stay flat"), setMendFlats);
    if (!products()->terrain->area.isEverywhere())
        box(tr("Triangles follow outlines"), "cutAtOutlines", g.cutAtOutlines,
            tr("Outlines are put into the triangles; else these only hide what lies beyond. Needed to export a cut surface"),
            setCutAtOutlines);
}

} // namespace fox::app
