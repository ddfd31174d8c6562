#include "views/block_view.h"

#include "style/theme.h"
#include "views/block_canvas.h"

#include <QLabel>
#include <QMenu>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QVBoxLayout>

namespace fox::app {

namespace {

bool openGlWorks() {
    QOpenGLContext context;
    if (!context.create()) return false;
    QOffscreenSurface surface;
    surface.create();
    return surface.isValid() && context.makeCurrent(&surface) && context.format().majorVersion() >= 3;
}

constexpr double kCuts[] = {0, 0.35, 0.55, 0.75};

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
    static const bool works = openGlWorks();
    if (works) {
        m_canvas = new BlockCanvas(selection, this);
        layout->addWidget(m_canvas);
        m_look.cut = kCuts[m_cutStep];
        m_canvas->setLook(m_look);
        m_canvas->hide();
        setFocusProxy(m_canvas);
        m_words->setText(tr("The block shows here as soon as there is ground: import holes or a survey."));
    } else {
        m_words->setText(
            tr("This machine offers no OpenGL 3, which the block view needs. Plan, sections, logs and tables work without it."));
    }
    m_fit->setToolTip(tr("Show the whole block (F)"));
    m_cut->setToolTip(tr("Cut the block open from the south, a step further each time"));
    m_shown->setToolTip(tr("The ground solid, see-through or away; the block or only the holes; what colours the holes"));
    m_higher->setToolTip(tr("Draw heights larger than lengths: 1, 2, 5, 10, 20 times"));
    connect(m_fit, &QAction::triggered, this, &BlockView::fit);
    connect(m_cut, &QAction::triggered, this, &BlockView::nextCut);
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

QList<QAction*> BlockView::tools() { return {m_fit, m_cut, m_shown, m_higher}; }

QString BlockView::summary() const {
    if (!products() || (!products()->modelGrid && !m_look.terrain)) return {};
    if (m_look.terrain) return tr("the ground, %1 triangles").arg(products()->terrain->tin.triangles().size());
    if (!m_look.block)
        return m_look.stickHeading.empty() ? tr("holes by unit under the ground")
                                           : tr("holes by %1 under the ground").arg(QString::fromStdString(m_look.stickHeading));
    const auto cut = kCuts[m_cutStep];
    return (cut > 0 ? tr("all units · cut open from the south") : tr("all units"))
           + tr(" · cells %1 m").arg(products()->modelGrid->ground.frame.cell);
}

void BlockView::fit() {
    if (m_canvas) m_canvas->fit();
}

void BlockView::nextCut() {
    m_cutStep = (m_cutStep + 1) % int(std::size(kCuts));
    m_look.cut = kCuts[m_cutStep];
    setLook(m_look);
}

void BlockView::setLook(const BlockScene::Look& look) {
    m_look = look;
    if (m_canvas) m_canvas->setLook(m_look);
    emit summaryChanged();
}

void BlockView::chooseShown() {
    if (!products()) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](QMenu* to, const QString& words, bool now, auto&& change) {
        auto* a = to->addAction(words, this, [this, change] {
            auto next = m_look;
            change(next);
            setLook(next);
        });
        a->setCheckable(true);
        a->setChecked(now);
    };
    using Ground = BlockScene::Look::Ground;
    add(menu, tr("Ground solid"), m_look.ground == Ground::Solid, [](auto& l) { l.ground = Ground::Solid; });
    add(menu, tr("Ground see-through"), m_look.ground == Ground::SeeThrough, [](auto& l) { l.ground = Ground::SeeThrough; });
    add(menu, tr("No ground"), m_look.ground == Ground::Hidden, [](auto& l) { l.ground = Ground::Hidden; });
    menu->addSeparator();
    add(menu, tr("Ground alone, triangle by triangle"), m_look.terrain, [](auto& l) { l.terrain = !l.terrain; });
    add(menu, tr("Block of units"), m_look.block && !m_look.terrain,
        [](auto& l) { l.block = l.terrain || !l.block, l.terrain = false; });
    auto* sticks = menu->addMenu(tr("Holes coloured by"));
    add(sticks, tr("unit"), m_look.stickHeading.empty(), [](auto& l) { l.stickHeading.clear(); });
    for (const auto& h : unitHeadings(*products()->project.holes))
        add(sticks, QString::fromStdString(h.heading), m_look.stickHeading == h.heading,
            [name = h.heading](auto& l) { l.stickHeading = name; });
    menu->popup(QCursor::pos());
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
    m_canvas->setProducts(products());
}

} // namespace fox::app
