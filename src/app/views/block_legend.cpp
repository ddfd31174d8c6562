#include "views/block_legend.h"

#include "style/theme.h"
#include "style/words.h"
#include "views/scene_blocks.h"

#include <QEvent>
#include <QPainter>

namespace fox::app {

namespace {
constexpr int kWide = 176, kRow = 16;
}

BlockLegend::BlockLegend(Selection* selection, QWidget* parent) : QWidget(parent), m_selection(selection) {
    setObjectName("blockLegend");
    setAccessibleName(tr("Colours of blocks"));
    setAttribute(Qt::WA_TransparentForMouseEvents);
    resize(kWide, 3 * kRow + 10);
    hide();
    parent->installEventFilter(this);
    connect(selection, &Selection::blockLookChanged, this, &BlockLegend::show);
}

bool BlockLegend::eventFilter(QObject* watched, QEvent* e) {
    if (watched == parent() && e->type() == QEvent::Resize) place();
    return QWidget::eventFilter(watched, e);
}

void BlockLegend::setProducts(std::shared_ptr<const ProductSet> products) {
    m_products = std::move(products);
    show();
}

const BlockProduct* BlockLegend::shown() const {
    const auto& look = m_selection->blockLook();
    if (!look.on || !look.blocks || look.colour == BlockLook::Colour::Unit) return nullptr;
    const auto* made = shownBlocks(m_products.get(), look);
    return made && made->blocks ? made : nullptr;
}

void BlockLegend::show() {
    const auto* made = shown();
    if (made) m_colours = colouringOf(*made->blocks, m_selection->blockLook()).colours;
    setVisible(made && m_colours.high > m_colours.low);
    if (isVisible()) place();
    update();
}

void BlockLegend::place() {
    move(parentWidget()->width() - width() - 8, 8);
    raise();
}

QRectF BlockLegend::bar() const { return {10, 5.0 + kRow + 2, kWide - 20.0, 10}; }

QString BlockLegend::title() const {
    const auto* made = shown();
    if (!made) return {};
    const auto& look = m_selection->blockLook();
    if (look.colour == BlockLook::Colour::Probability && simulationOf(*made->blocks, look) && look.hasLimits())
        return tr("probability");
    const auto& unit = made->composites->unitOfMeasure;
    if (look.colour == BlockLook::Colour::Variance && !made->blocks->variance.empty())
        return tr("variance of %1").arg(qt(made->spec.quantity));
    return unit.empty() ? qt(made->spec.quantity) : tr("%1, %2").arg(qt(made->spec.quantity), qt(unit));
}

void BlockLegend::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    auto behind = colour::paper;
    behind.setAlpha(235);
    painter.setPen(QPen(colour::line, 1));
    painter.setBrush(behind);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    painter.setFont(bodyFont(11, true));
    painter.setPen(colour::ink);
    painter.drawText(QRectF(10, 5, kWide - 20, kRow), Qt::AlignLeft | Qt::AlignVCenter, title());
    const auto b = bar();
    const double span = m_colours.high - m_colours.low;
    for (int x = 0; x < int(b.width()); ++x)
        painter.fillRect(QRectF(b.left() + x, b.top(), 1.5, b.height()),
                         qColour(m_colours.of(m_colours.low + span * x / b.width())));
    // what is not shown is covered; variances and probabilities have no cut-off
    const auto& look = m_selection->blockLook();
    if (look.colour == BlockLook::Colour::Value) {
        const auto xOf = [&](double v) { return b.left() + std::clamp((v - m_colours.low) / span, 0.0, 1.0) * b.width(); };
        const auto limits = look.limits();
        painter.setPen(QPen(colour::ink, 1.4));
        for (const auto& [limit, from, to] : {std::tuple(limits.above, m_colours.low, limits.above.value_or(0)),
                                              std::tuple(limits.below, limits.below.value_or(0), m_colours.high)}) {
            if (!limit) continue;
            painter.fillRect(QRectF(QPointF(xOf(from), b.top() - 1), QPointF(xOf(to), b.bottom() + 1)), behind);
            painter.drawLine(QPointF(xOf(*limit), b.top() - 3), QPointF(xOf(*limit), b.bottom() + 3));
        }
    }
    painter.setFont(bodyFont(11));
    painter.setPen(colour::ink);
    const QRectF figures(10, b.bottom() + 3, kWide - 20, kRow);
    painter.drawText(figures, Qt::AlignLeft | Qt::AlignVCenter, QString::number(m_colours.low, 'g', 4));
    painter.drawText(figures, Qt::AlignRight | Qt::AlignVCenter, QString::number(m_colours.high, 'g', 4));
}

} // namespace fox::app
