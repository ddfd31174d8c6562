#include "views/block_view.h"

#include "style/theme.h"
#include "style/words.h"
#include "views/along_legend.h"
#include "views/along_menu.h"
#include "views/ask_file.h"
#include "views/block_canvas.h"
#include "views/block_legend.h"
#include "views/hole_menu.h"
#include "views/layer_values.h"
#include "views/scene_blocks.h"
#include "views/surface_chooser.h"
#include "views/typical_level.h"

#include <QDir>
#include <QFileDialog>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QVBoxLayout>
#include <numbers>

namespace fox::app {

namespace {

constexpr double kFirstCut = 0.35; ///< a block that nobody has cut yet shows what is in it

} // namespace

BlockView::BlockView(Selection* selection, QWidget* parent)
    : View(selection, parent),
      m_later(new QTimer(this)),
      m_fit(new QAction(tr("fit"), this)),
      m_cut(new QAction(tr("cut"), this)),
      m_shown(new QAction(tr("show"), this)),
      m_higher(new QAction(tr("height ×%1").arg(selection->exaggeration()), this)) {
    setObjectName("blockView");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    m_words = new QLabel(this);
    m_words->setAlignment(Qt::AlignCenter);
    m_words->setWordWrap(true);
    m_words->setMargin(24);
    m_words->setProperty("muted", true);
    layout->addWidget(m_words);
    if (auto drawer = SceneDrawer::shared()) {
        m_canvas = new BlockCanvas(std::move(drawer), selection, this);
        m_canvas->setSource([this] { return products(); });
        layout->addWidget(m_canvas);
        m_look.cut.south = kFirstCut;
        m_canvas->setLook(m_look);
        m_canvas->hide();
        m_legend = new AlongLegend(selection, this);
        m_blockLegend = new BlockLegend(selection, this);
        for (auto signal : {&Selection::alongChanged, &Selection::cutsChanged, &Selection::shownHolesChanged,
                            &Selection::blockLookChanged, &Selection::layerLookChanged})
            connect(selection, signal, this, &View::summaryChanged);
        connect(selection, &Selection::alongChanged, this, &BlockView::showAlongLegend);
        setFocusProxy(m_canvas);
        m_words->setText(tr("The block shows here as soon as there is ground: import holes or a survey."));
    } else {
        m_words->setText(
            tr("This machine offers no OpenGL 3, which the block view needs. Plan, sections, logs and tables work without it."));
    }
    m_fit->setToolTip(tr("Show the whole block (F)"));
    m_cut->setToolTip(tr("Cut the block open: from the south or west, along the section line, above a level"));
    m_shown->setToolTip(tr("The ground solid, see-through or away; the block or only the holes; what colours the holes"));
    m_higher->setToolTip(tr("Vertical exaggeration: 1, 2, 5, 10, 20 times"));
    connect(m_fit, &QAction::triggered, this, &BlockView::fit);
    connect(m_cut, &QAction::triggered, this, &BlockView::chooseCut);
    m_later->setSingleShot(true);
    connect(m_later, &QTimer::timeout, this, &BlockView::showProducts);
    connect(m_shown, &QAction::triggered, this, &BlockView::chooseShown);
    connect(m_higher, &QAction::triggered, this, [this] {
        const double now = this->selection()->exaggeration();
        this->selection()->setExaggeration(now < 2 ? 2 : now < 5 ? 5 : now < 10 ? 10 : now < 20 ? 20 : 1);
    });
    connect(selection, &Selection::exaggerationChanged, this,
            [this] { m_higher->setText(tr("height ×%1").arg(this->selection()->exaggeration())); });
}

bool BlockView::settled() const { return !m_later->isActive() && (!m_canvas || m_canvas->settled()); }

QList<QAction*> BlockView::tools() { return {m_fit, m_cut, m_shown, m_higher}; }

QStringList BlockView::cutInWords() const {
    QStringList words;
    const auto& cut = m_look.cut;
    if (cut.south > 0) words << tr("cut open from the south");
    if (cut.west > 0) words << tr("from the west");
    if (cut.line) words << tr("along the section");
    if (const auto n = selection()->cuts().size()) words << tr("by %1").arg(counted(qint64(n), "upright plane"));
    if (cut.level) words << tr("down to %1").arg(metres(*cut.level, 1));
    return words;
}

QString BlockView::summary() const {
    if (!products() || (!products()->modelGrid && !m_look.terrain && !selection()->layerLook().onPlan)) return {};
    if (const auto& look = selection()->blockLook(); look.on)
        if (const auto* made = shownBlocks(products().get(), look); made && made->blocks)
            return (QStringList{limitsInWords(look, qt(made->spec.name))}
                    + (made->outOfDate ? QStringList{tr("out of date")} : QStringList())
                    + (m_look.apart > 0 && look.pit && !products()->excavations.empty() ? QStringList{tr("lifted out of the pit")}
                                                                                        : QStringList())
                    + cutInWords())
                .join(", ");
    if (const auto& look = selection()->layerLook(); look.onPlan) {
        const auto apart = m_look.apart > 0 ? tr(", layers apart") : QString();
        if (const auto* mesh = shownMesh(products().get(), look); mesh && mesh->mesh)
            return tr("%1, %2%3").arg(qt(mesh->spec.name), counted(qint64(mesh->mesh->elements()), "prism"), apart);
        if (const auto* made = shownLayers(products().get(), look); made && made->grid)
            return tr("%1 by %2%3").arg(qt(made->spec.name), layerValueWords(*made->grid, look.value).toLower(), apart);
    }
    if (m_look.terrain) return tr("the ground, %1").arg(counted(qint64(products()->terrain->tin.triangles().size()), "triangle"));
    if (!m_look.block)
        return tr("holes by %1 under the ground").arg(QString::fromStdString(fox::words(selection()->along().choice)));
    QStringList words{m_look.apart > 0 ? tr("exploded view") : tr("all units")};
    words << cutInWords();
    if (m_look.fences) words << tr("all sections");
    if (products()->modelGrid) words << tr("cells %1 m").arg(products()->modelGrid->ground.frame.cell);
    return words.join(QString::fromUtf8(" · "));
}

Wanted BlockView::wanted(const Project& project) const {
    if (selection()->layerLook().onPlan && !(project.layeredGrids->empty() && project.meshes->empty()))
        return {ProductKind::Layers, ProductKind::Meshes, ProductKind::Pictures}; // they are seen the sooner
    Wanted out{ProductKind::Grids, ProductKind::Pictures};
    if (m_look.contours) out.kinds.insert(ProductKind::Contours);
    if (m_look.faces == BlockScene::Look::Faces::Values) out.kinds.insert(ProductKind::Blocks);
    if (selection()->blockLook().on) out.kinds.insert(ProductKind::Blocks), out.kinds.insert(ProductKind::Excavations);
    if (m_look.terrain) out.kinds.insert(ProductKind::GroundStatistics);
    if (m_look.fences) out.kinds.insert(ProductKind::Sections);
    for (const auto& s : m_look.surfaces) {
        if (s.of == SceneSurface::Of::Named) out.kinds.insert(ProductKind::NamedSurfaces);
        if (s.of == SceneSurface::Of::Water) out.kinds.insert(ProductKind::WaterSurfaces);
    }
    if (const auto* line = selection()->sectionOf(project)) out.sections.insert(line->name);
    return out;
}

void BlockView::fit() {
    if (m_canvas) m_canvas->fit();
}

QImage BlockView::picture(QSize size) const { return m_canvas ? m_canvas->picture(size) : QImage(); }

void BlockView::addChoice(QMenu& to, const QString& words, bool now, const std::function<void(BlockScene::Look&)>& change) {
    auto* a = to.addAction(words, this, [this, change] {
        auto next = m_look;
        change(next);
        setLook(next);
    });
    a->setCheckable(true);
    a->setChecked(now);
}

void BlockView::chooseCut() {
    if (!products()) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](QMenu* to, const QString& words, bool now, auto&& change) {
        addChoice(*to, words, now, [change](BlockScene::Look& l) { change(l.cut); });
    };
    add(menu, tr("Whole"), !m_look.cut.any() && selection()->cuts().empty(), [this](BlockCut& c) {
        c = {};
        selection()->setCuts({});
    });
    auto* south = menu->addMenu(tr("From the south"));
    auto* west = menu->addMenu(tr("From the west"));
    for (const int percent : {0, 20, 35, 50, 65, 80}) {
        const double share = percent / 100.0;
        const auto words = percent == 0 ? tr("not") : tr("%1 % taken away").arg(percent);
        add(south, words, m_look.cut.south == share, [share](BlockCut& c) { c.south = share; });
        add(west, words, m_look.cut.west == share, [share](BlockCut& c) { c.west = share; });
    }
    add(menu, tr("Along the section line, its right side taken away"), m_look.cut.line, [](BlockCut& c) { c.line = !c.line; });
    if (m_look.cut.level)
        add(menu, tr("Above %1 taken away").arg(metres(*m_look.cut.level, 1)), true, [](BlockCut& c) { c.level.reset(); });
    menu->addAction(tr("Take away what lies above a level…"), this, &BlockView::askCutLevel);
    menu->addSeparator();
    menu->addAction(tr("Add an upright plane"), this, &BlockView::addUprightCut);
    const auto& cuts = selection()->cuts();
    for (std::size_t k = 0; k < cuts.size(); ++k) {
        auto* one = menu->addMenu(tr("Plane %1, %2°").arg(k + 1).arg(std::lround(std::fmod(cuts[k].azimuth + 360, 360))));
        one->addAction(tr("Cut from its other side"), this, [this, k] {
            auto next = selection()->cuts();
            next[k].azimuth += 180;
            selection()->setCuts(next);
        });
        one->addAction(tr("Remove"), this, [this, k] {
            auto next = selection()->cuts();
            next.erase(next.begin() + std::ptrdiff_t(k));
            selection()->setCuts(next);
        });
    }
    menu->popup(QCursor::pos());
}

/// Through the middle of the block, with its cut face to the viewer.
void BlockView::addUprightCut() {
    if (!products()->ground) return;
    auto cuts = selection()->cuts();
    const double azimuth = std::round((90 + m_canvas->azimuth()) / 5) * 5;
    cuts.push_back({products()->ground->frame.box().centre(), azimuth});
    if (cuts.size() == 1 && m_look.cut.any()) { // what was cut away by shares would hide what it lays open
        auto next = m_look;
        next.cut = {};
        setLook(next);
    }
    selection()->setCuts(cuts);
}

void BlockView::chooseSurfaces() {
    auto* chooser = new SurfaceChooser(products()->project, m_look.surfaces, this);
    chooser->setAttribute(Qt::WA_DeleteOnClose);
    connect(chooser, &SurfaceChooser::chosen, this, [this](const std::vector<SceneSurface>& surfaces) {
        auto next = m_look;
        next.surfaces = surfaces;
        setLook(next);
    });
    chooser->show();
}

void BlockView::showAlongLegend() {
    if (!m_legend) return;
    const auto& choice = selection()->along().choice;
    if (!products() || choice.kind == AlongChoice::Kind::Unit) return m_legend->setValues(nullptr);
    m_legend->setValues(
        std::make_shared<const AlongValues>(alongValues(choice, *products()->project.holes, *products()->reading)));
}

void BlockView::askCutLevel() {
    bool ok = false;
    const double level = QInputDialog::getDouble(this, tr("Cut open"), tr("What lies above this level is taken away, m"),
                                                 m_look.cut.level.value_or(typicalLevel(*products())), -10000, 10000, 2, &ok);
    if (!ok) return;
    auto next = m_look;
    next.cut.level = level;
    setLook(next);
}

void BlockView::addViews(QMenu& menu) {
    if (!m_canvas) return;
    auto& views = *menu.addMenu(tr("Look from"));
    const auto add = [&](const QString& words, double azimuth, double elevation) {
        views.addAction(words, this, [this, azimuth, elevation] { m_canvas->lookFrom(azimuth, elevation); });
    };
    add(tr("above"), 0, 89);
    add(tr("the south"), 0, 20);
    add(tr("the east"), 90, 20);
    add(tr("the north"), 180, 20);
    add(tr("the west"), -90, 20);
    const auto& lines = *products()->project.sections;
    if (lines.empty()) return;
    const auto& line = lines[std::size_t(std::clamp(selection()->section(), 0, int(lines.size()) - 1))].line;
    const auto a = line.front(), b = line.back();
    const double along = std::atan2(-(b.x - a.x), b.y - a.y) * 180 / std::numbers::pi;
    add(tr("the section's start, along it"), along, 12);
    add(tr("its right side, facing it"), along + 90, 12);
}

void BlockView::savePicture() {
    bool ok = false;
    const auto typed =
        QInputDialog::getText(this, tr("Picture"), tr("Width and height in pixels"), QLineEdit::Normal, "2400x1500", &ok);
    if (!ok) return;
    const auto parts = typed.split('x');
    const QSize size = parts.size() == 2 ? QSize(parts[0].toInt(), parts[1].toInt()) : QSize();
    if (size.width() < 16 || size.height() < 16 || size.width() > 8192 || size.height() > 8192)
        return emit failed(tr("A size is written WIDTHxHEIGHT, each from 16 to 8192 pixels."));
    const auto path = askSaveFile(this, tr("Picture of the block"), "pictures", "block.png", tr("Pictures (*.png)"), "png");
    if (path.isEmpty()) return;
    if (!picture(size).save(path)) emit failed(tr("%1 can't be written.").arg(path));
}

void BlockView::setLook(const BlockScene::Look& look) {
    m_look = look;
    if (m_canvas) m_canvas->setLook(m_look);
    emit summaryChanged();
    emit wantedChanged();
}

void BlockView::chooseShown() {
    if (!products()) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](QMenu* to, const QString& words, bool now, auto&& change) { addChoice(*to, words, now, change); };
    using Ground = BlockScene::Look::Ground;
    add(menu, tr("Ground solid"), m_look.ground == Ground::Solid, [](auto& l) { l.ground = Ground::Solid; });
    add(menu, tr("Ground see-through"), m_look.ground == Ground::SeeThrough, [](auto& l) { l.ground = Ground::SeeThrough; });
    add(menu, tr("Contours on the ground"), m_look.contours, [](auto& l) { l.contours = !l.contours; });
    add(menu, tr("No ground"), m_look.ground == Ground::Hidden, [](auto& l) { l.ground = Ground::Hidden; });
    menu->addSeparator();
    add(menu, tr("Ground alone, triangle by triangle"), m_look.terrain, [](auto& l) { l.terrain = !l.terrain; });
    add(menu, tr("Block of units"), m_look.block && !m_look.terrain,
        [](auto& l) { l.block = l.terrain || !l.block, l.terrain = false; });
    menu->addAction(tr("Surfaces…"), this, &BlockView::chooseSurfaces);
    addFaces(*menu);
    menu->addSeparator();
    fillHoleMenu(*menu->addMenu(tr("Holes shown")), *selection(), *products(), this,
                 {[this](const Edit& edit) { emit editMade(edit); }, {}});
    fillAlongMenu(*menu->addMenu(tr("Holes show")), *selection(), *products(), this);
    add(menu, tr("Names of holes"), m_look.names, [](auto& l) { l.names = !l.names; });
    add(menu, tr("Frame of coordinates"), m_look.frame, [](auto& l) { l.frame = !l.frame; });
    menu->addSeparator();
    add(menu, tr("All sections, as a fence"), m_look.fences, [](auto& l) { l.fences = !l.fences; });
    auto* apart = menu->addMenu(tr("Exploded view"));
    for (const auto& [share, words] : {std::pair{0.0, tr("not")}, {0.1, tr("a little")}, {0.3, tr("more")}, {0.6, tr("far")}})
        add(apart, words, m_look.apart == share, [s = share](auto& l) { l.apart = s; });
    addViews(*menu);
    if (m_canvas) menu->addAction(tr("Save a picture…"), this, &BlockView::savePicture);
    menu->popup(QCursor::pos());
}

/// What the block's upright faces show.
void BlockView::addFaces(QMenu& menu) {
    using Faces = BlockScene::Look::Faces;
    auto& faces = *menu.addMenu(tr("Cut faces show"));
    const auto add = [&](const QString& words, Faces f) {
        addChoice(faces, words, m_look.faces == f, [f](auto& l) { l.faces = f; });
    };
    add(tr("units with their patterns"), Faces::Signs);
    add(tr("units in plain colours"), Faces::Colours);
    const auto& models = *products()->project.blockModels;
    if (models.empty()) return;
    const auto chosen = std::ranges::find(models, selection()->blockLook().model, &BlockSpec::name);
    add(tr("values of %1").arg(qt((chosen == models.end() ? models.front() : *chosen).name)), Faces::Values);
}

void BlockView::productsChanged() {
    if (!m_canvas) return;
    constexpr int kAfter = 100; // ms
    if (std::exchange(m_drawn, true)) return m_later->start(kAfter);
    showProducts();
}

void BlockView::showProducts() {
    const bool something = products() && products()->ground && !products()->terrain->empty();
    m_words->setVisible(!something);
    m_canvas->setVisible(something);
    m_canvas->productsChanged();
    showAlongLegend();
    if (m_blockLegend) m_blockLegend->setProducts(products());
}

} // namespace fox::app
