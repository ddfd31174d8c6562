#include "views/block_view.h"

#include "style/theme.h"
#include "views/block_canvas.h"

#include <QLabel>
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
      m_fit(new QAction(tr("fit"), this)),
      m_cut(new QAction(tr("cut"), this)),
      m_ground(new QAction(tr("ground"), this)),
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
        m_canvas->setLook(kCuts[m_cutStep], false);
        m_canvas->hide();
        setFocusProxy(m_canvas);
        m_words->setText(tr("The block shows here as soon as there is ground: import holes or a survey."));
    } else {
        m_words->setText(
            tr("This machine offers no OpenGL 3, which the block view needs. Plan, sections, logs and tables work without it."));
    }
    m_fit->setToolTip(tr("Show the whole block (F)"));
    m_cut->setToolTip(tr("Cut the block open from the south, a step further each time"));
    m_ground->setToolTip(tr("See through the ground"));
    m_ground->setCheckable(true);
    m_higher->setToolTip(tr("Draw heights larger than lengths: 1, 2, 5, 10, 20 times"));
    connect(m_fit, &QAction::triggered, this, &BlockView::fit);
    connect(m_cut, &QAction::triggered, this, &BlockView::nextCut);
    connect(m_ground, &QAction::toggled, this, [this](bool on) {
        if (m_canvas) m_canvas->setLook(kCuts[m_cutStep], on);
    });
    connect(m_higher, &QAction::triggered, this, [this] {
        const double now = this->selection()->exaggeration();
        this->selection()->setExaggeration(now < 2 ? 2 : now < 5 ? 5 : now < 10 ? 10 : now < 20 ? 20 : 1);
    });
    connect(selection, &Selection::exaggerationChanged, this,
            [this] { m_higher->setText(tr("height ×%1").arg(this->selection()->exaggeration())); });
}

QList<QAction*> BlockView::tools() { return {m_fit, m_cut, m_ground, m_higher}; }

QString BlockView::summary() const {
    if (!products() || !products()->modelGrid) return {};
    const auto cut = kCuts[m_cutStep];
    return (cut > 0 ? tr("all units · cut open from the south") : tr("all units"))
           + tr(" · cells %1 m").arg(products()->modelGrid->ground.frame.cell);
}

void BlockView::fit() {
    if (m_canvas) m_canvas->fit();
}

void BlockView::nextCut() {
    m_cutStep = (m_cutStep + 1) % int(std::size(kCuts));
    if (m_canvas) m_canvas->setLook(kCuts[m_cutStep], m_ground->isChecked());
    emit summaryChanged();
}

void BlockView::productsChanged() {
    if (!m_canvas) return;
    const bool something = products() && products()->ground && !products()->terrain->tin.empty();
    m_words->setVisible(!something);
    m_canvas->setVisible(something);
    m_canvas->setProducts(products());
}

} // namespace fox::app
