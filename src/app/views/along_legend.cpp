#include "views/along_legend.h"

#include "style/theme.h"
#include "style/words.h"
#include "views/along_menu.h"

#include <QEvent>
#include <QMouseEvent>
#include <QPainter>

namespace fox::app {

namespace {
constexpr int kWide = 196, kRow = 16, kMostRows = 14;
}

AlongLegend::AlongLegend(Selection* selection, QWidget* parent) : QWidget(parent), m_selection(selection) {
    setObjectName("alongLegend");
    setAccessibleName(tr("Colours along holes"));
    hide();
    parent->installEventFilter(this);
    connect(selection, &Selection::alongChanged, this, qOverload<>(&QWidget::update));
}

bool AlongLegend::eventFilter(QObject* watched, QEvent* e) {
    if (watched == parent() && e->type() == QEvent::Resize) place();
    return QWidget::eventFilter(watched, e);
}

void AlongLegend::setValues(std::shared_ptr<const AlongValues> values) {
    m_values = std::move(values);
    using Kind = AlongChoice::Kind;
    const bool any =
        m_values
        && (m_values->choice.kind == Kind::Column ? !m_values->codes.empty()
                                                  : m_values->choice.kind == Kind::Quantity && !std::isnan(m_values->low));
    setToolTip(!any                                      ? QString()
               : m_values->choice.kind == Kind::Quantity ? tr("Drag the ends of the range; double-click for all values")
                                                         : tr("Click a code to show or hide it"));
    setVisible(any);
    if (any) place();
    update();
}

void AlongLegend::place() {
    if (!m_values) return;
    const auto rows = m_values->choice.kind == AlongChoice::Kind::Column
                          ? int(std::min<std::size_t>(m_values->codes.size(), kMostRows)) + 1
                          : 3;
    resize(kWide, rows * kRow + 12);
    move(parentWidget()->width() - width() - 8, parentWidget()->height() - height() - 28);
    raise();
}

std::pair<double, double> AlongLegend::range() const {
    return m_selection->along().range.value_or(std::pair(m_values->low, m_values->high));
}

QRectF AlongLegend::bar() const { return {10, 6.0 + kRow + 2, kWide - 20.0, 10}; }

double AlongLegend::xOf(double value) const {
    const double span = m_values->high > m_values->low ? m_values->high - m_values->low : 1;
    return bar().left() + std::clamp((value - m_values->low) / span, 0.0, 1.0) * bar().width();
}

void AlongLegend::paintEvent(QPaintEvent*) {
    if (!m_values) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    auto behind = colour::paper;
    behind.setAlpha(235);
    painter.setPen(QPen(colour::line, 1));
    painter.setBrush(behind);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    painter.setFont(bodyFont(11, true));
    painter.setPen(colour::ink);
    const auto title =
        m_values->unit.empty() ? qt(words(m_values->choice)) : tr("%1, %2").arg(qt(words(m_values->choice)), qt(m_values->unit));
    painter.drawText(QRectF(10, 6, kWide - 20, kRow), Qt::AlignLeft | Qt::AlignVCenter, title);
    painter.setFont(bodyFont(11));
    if (m_values->choice.kind == AlongChoice::Kind::Column) {
        for (std::size_t k = 0; k < m_values->codes.size() && k < kMostRows; ++k) {
            const QRectF row(10, 6.0 + kRow * double(k + 1), kWide - 20, kRow);
            const bool hidden = m_selection->along().hiddenCodes.contains(m_values->codes[k].first);
            painter.setPen(QPen(colour::ink, 1));
            painter.setBrush(hidden ? QBrush(Qt::NoBrush) : QBrush(QColor(qt(m_values->codes[k].second))));
            painter.drawRect(QRectF(row.left(), row.top() + 3, 14, kRow - 6));
            painter.setPen(hidden ? colour::muted : colour::ink);
            const bool last = k + 1 == kMostRows && m_values->codes.size() > kMostRows;
            painter.drawText(row.adjusted(20, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                             last ? tr("%1 more codes").arg(m_values->codes.size() - kMostRows + 1)
                                  : qt(m_values->codes[k].first));
        }
        return;
    }
    const auto colours = alongColours(*m_values, m_selection->along());
    const auto b = bar();
    for (int x = 0; x < int(b.width()); ++x) {
        const double v = m_values->low + (m_values->high - m_values->low) * x / b.width();
        painter.fillRect(QRectF(b.left() + x, b.top(), 1.5, b.height()), qColour(colours.of(v)));
    }
    const auto [low, high] = range();
    for (const double v : {low, high}) {
        const double x = xOf(v);
        painter.setPen(QPen(colour::ink, 1.2));
        painter.setBrush(colour::paper);
        painter.drawPolygon(QPolygonF({{x, b.bottom() - 3}, {x + 5, b.bottom() + 4}, {x - 5, b.bottom() + 4}}));
    }
    painter.setPen(colour::ink);
    const QRectF figures(10, b.bottom() + 3, kWide - 20, kRow);
    painter.drawText(figures, Qt::AlignLeft | Qt::AlignVCenter, QString::number(low, 'g', 4));
    painter.drawText(figures, Qt::AlignRight | Qt::AlignVCenter, QString::number(high, 'g', 4));
}

void AlongLegend::mousePressEvent(QMouseEvent* e) {
    e->accept();
    if (!m_values || e->button() != Qt::LeftButton) return;
    if (m_values->choice.kind == AlongChoice::Kind::Column) {
        const auto row = std::size_t(std::max(0.0, (e->position().y() - 6) / kRow));
        if (row == 0 || row > m_values->codes.size()) return;
        auto look = m_selection->along();
        const auto& code = m_values->codes[row - 1].first;
        if (look.hiddenCodes.erase(code) == 0) look.hiddenCodes.insert(code);
        return m_selection->setAlong(look);
    }
    const auto [low, high] = range();
    m_dragged = std::abs(xOf(low) - e->position().x()) <= std::abs(xOf(high) - e->position().x()) ? End::Low : End::High;
    if (e->type() == QEvent::MouseButtonDblClick) m_dragged = End::None;
}

void AlongLegend::mouseMoveEvent(QMouseEvent* e) {
    e->accept();
    if (m_dragged == End::None || !m_values) return;
    auto [low, high] = range();
    const double least = (m_values->high - m_values->low) / 200;
    const double v = m_values->low + (e->position().x() - bar().left()) / bar().width() * (m_values->high - m_values->low);
    if (m_dragged == End::Low)
        low = std::clamp(v, m_values->low, high - least);
    else
        high = std::clamp(v, low + least, m_values->high);
    auto look = m_selection->along();
    look.range = std::pair(low, high);
    m_selection->setAlong(look);
}

void AlongLegend::mouseReleaseEvent(QMouseEvent* e) {
    e->accept();
    m_dragged = End::None;
}

} // namespace fox::app
