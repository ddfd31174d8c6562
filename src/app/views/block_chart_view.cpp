#include "views/block_chart_view.h"

#include "base/errors.h"
#include "blocks/block_totals.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/ask_file.h"
#include "views/paper_image.h"
#include "views/save_drawing.h"
#include "views/scene_blocks.h"

#include <QMenu>
#include <QMouseEvent>
#include <QPainter>

namespace fox::app {

namespace {

QString words(BlockChartView::Plot plot) {
    using Plot = BlockChartView::Plot;
    switch (plot) {
    case Plot::CutOff: return BlockChartView::tr("Volume against the cut-off");
    case Plot::Histogram: return BlockChartView::tr("Values of blocks beside the readings");
    case Plot::East: return BlockChartView::tr("Means along east");
    case Plot::North: return BlockChartView::tr("Means along north");
    case Plot::Level: return BlockChartView::tr("Means by level");
    case Plot::LeftOut: break;
    }
    return BlockChartView::tr("Holes left out one by one");
}

} // namespace

BlockChartView::BlockChartView(Selection* s, QWidget* parent)
    : View(s, parent), m_show(new QAction(tr("show"), this)), m_save(new QAction(tr("save…"), this)) {
    setObjectName("blockChart");
    setAccessibleName(tr("Chart of a block model"));
    m_show->setToolTip(tr("Choose what the chart shows"));
    m_save->setToolTip(tr("Save the chart as PNG, PDF or SVG"));
    connect(m_show, &QAction::triggered, this, &BlockChartView::showMenu);
    connect(m_save, &QAction::triggered, this, &BlockChartView::save);
    connect(selection(), &Selection::blockLookChanged, this, &BlockChartView::draw);
}

QString BlockChartView::summary() const {
    const auto* made = shownBlocks(products().get(), selection()->blockLook());
    if (!made || !made->blocks) return {};
    const bool byUnit = (m_plot == Plot::Histogram || m_plot == Plot::LeftOut) && unitIndex();
    return tr("%1: %2").arg(qt(made->spec.name), words(m_plot).toLower())
           + (byUnit ? tr(", %1 alone").arg(qt(m_unit)) : QString());
}

void BlockChartView::showPlot(Plot plot) {
    m_plot = plot;
    draw();
}

void BlockChartView::draw() {
    m_drawing.reset();
    emit summaryChanged();
    update();
}

void BlockChartView::showMenu() {
    auto* menu = new QMenu(this);
    menu->setObjectName("blockChartMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const auto plot : {Plot::CutOff, Plot::Histogram, Plot::East, Plot::North, Plot::Level, Plot::LeftOut}) {
        auto* a = menu->addAction(words(plot), this, [this, plot] { showPlot(plot); });
        a->setCheckable(true);
        a->setChecked(plot == m_plot);
    }
    const auto* made = shownBlocks(products().get(), selection()->blockLook());
    if (made && made->blocks && (m_plot == Plot::Histogram || m_plot == Plot::LeftOut)) {
        menu->addSeparator();
        const auto add = [&](const QString& text, const std::string& unit) {
            auto* a = menu->addAction(text, this, [this, unit] {
                m_unit = unit;
                draw();
            });
            a->setCheckable(true);
            a->setChecked(unit == m_unit);
        };
        add(tr("All units"), {});
        const auto& units = products()->project.sequence->units;
        for (const auto& u : totalsByUnit(*made->blocks, *products()->project.sequence))
            add(tr("%1 alone").arg(qt(units[u.unit].name)), units[u.unit].code);
    }
    menu->popup(QCursor::pos());
}

/// Sorting a million values takes as long as somebody notices who moves the cut-off: once for a model is enough.
const CutOffCurve& BlockChartView::curveOf(const std::shared_ptr<const BlockModel>& blocks, bool above) const {
    if (m_curveOf != std::pair(blocks, above)) m_curveOf = {blocks, above}, m_curve = cutOffCurve(*blocks, above);
    return m_curve;
}

std::optional<std::size_t> BlockChartView::unitIndex() const {
    return m_unit.empty() ? std::nullopt : products()->project.sequence->index(m_unit);
}

QString BlockChartView::emptyWords() const {
    if (!products()) return tr("Working…");
    const auto* made = shownBlocks(products().get(), selection()->blockLook());
    if (!made) return tr("The chart of a block model shows here: add one in the panel.");
    return made->blocks ? QString() : qt(made->problem);
}

paper::Drawing BlockChartView::drawingOf(double width, double height) const {
    const auto& look = selection()->blockLook();
    const auto& made = *shownBlocks(products().get(), look);
    const auto& unit = made.composites->unitOfMeasure;
    const BlockPlot plot{made.blocks.get(),
                         made.composites.get(),
                         &made.judged,
                         products()->project.sequence.get(),
                         unit.empty() ? made.spec.quantity : made.spec.quantity + ", " + unit,
                         look.limits(),
                         look.side != BlockLook::Side::Below,
                         m_plot == Plot::CutOff ? &curveOf(made.blocks, look.side != BlockLook::Side::Below) : nullptr,
                         unitIndex()};
    switch (m_plot) {
    case Plot::CutOff: return drawCutOffCurve(plot, width, height);
    case Plot::Histogram: return drawBlockHistogram(plot, width, height);
    case Plot::East: return drawSwath(plot, SwathAxis::East, width, height);
    case Plot::North: return drawSwath(plot, SwathAxis::North, width, height);
    case Plot::Level: return drawSwath(plot, SwathAxis::Level, width, height);
    case Plot::LeftOut: break;
    }
    return drawLeftOutHoles(plot, width, height);
}

void BlockChartView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), colour::paper);
    if (const auto text = emptyWords(); !text.isEmpty()) return paintEmpty(painter, rect(), text);
    if (!m_drawing) m_drawing = drawingOf(width() * kMillimetresPerPixel, height() * kMillimetresPerPixel);
    painter.drawImage(QPointF(), imageOf(*m_drawing, devicePixelRatioF()));
}

void BlockChartView::resizeEvent(QResizeEvent* e) {
    View::resizeEvent(e);
    draw();
}

void BlockChartView::setLimitAt(double x) {
    if (m_plot != Plot::CutOff || !emptyWords().isEmpty()) return;
    const auto curve = drawingOf(width() * kMillimetresPerPixel, height() * kMillimetresPerPixel);
    const auto& made = *shownBlocks(products().get(), selection()->blockLook());
    const auto range = blockColours(*made.blocks);
    double left = kNoValue, right = kNoValue; // of the curve on the paper
    for (const auto& item : curve.items)
        if (const auto* line = std::get_if<paper::Line>(&item.shape); line && item.layer == "curve")
            for (const auto& p : line->points) left = std::fmin(left, p.x), right = std::fmax(right, p.x);
    if (!(right > left)) return;
    auto look = selection()->blockLook();
    const double share = std::clamp((x * kMillimetresPerPixel - left) / (right - left), 0.0, 1.0);
    const double value = range.low + share * (range.high - range.low);
    const double low = look.limit.value_or(range.low), high = look.upTo.value_or(range.high);
    const bool isUpper = look.side == BlockLook::Side::Between && std::abs(value - high) < std::abs(value - low);
    (isUpper ? look.upTo : look.limit) = value;
    selection()->setBlockLook(look);
}

void BlockChartView::mousePressEvent(QMouseEvent* e) { setLimitAt(e->position().x()); }
void BlockChartView::mouseMoveEvent(QMouseEvent* e) {
    if (e->buttons() & Qt::LeftButton) setLimitAt(e->position().x());
}

void BlockChartView::save() {
    if (!emptyWords().isEmpty()) return emit failed(tr("There is nothing in the chart to save."));
    const auto path = askSaveFile(this, tr("Save the chart"), "pictures", "blocks.png", drawingKinds(), "png");
    if (path.isEmpty()) return;
    try {
        saveTo(path);
    } catch (const Error& e) {
        emit failed(qt(e.what()));
    }
}

void BlockChartView::saveTo(const QString& path) const { saveDrawing(path, drawingOf(200, 140)); }

} // namespace fox::app
