#include "shell/stage_column.h"

#include "style/theme.h"
#include "style/words.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPainter>
#include <QToolTip>

namespace fox::app {

StageColumn::StageColumn(std::vector<Band> bands, QWidget* parent) : QWidget(parent), m_bands(std::move(bands)) {
    setObjectName("stageColumn");
    setFixedWidth(int(std::lround(92 * textScale())));
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Stages of the work"));
}

QRectF StageColumn::bandRect(int stage) const {
    const double high = double(height()) / double(m_bands.size());
    return {0, stage * high, double(width()), high};
}

void StageColumn::setFigure(int stage, const QString& figure, Severity state, int count) {
    auto& b = m_bands[std::size_t(stage)];
    b.figure = figure, b.state = state, b.count = count;
    update();
}

void StageColumn::setCurrent(int stage) {
    if (stage == m_current || stage < 0 || stage >= int(m_bands.size())) return;
    m_current = stage;
    update();
}

void StageColumn::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    for (int i = 0; i < int(m_bands.size()); ++i) {
        const auto& b = m_bands[std::size_t(i)];
        const auto box = bandRect(i);
        const bool now = i == m_current;
        painter.fillRect(box, now ? colour::paper : colour::stage);
        const QRectF layer(box.left(), box.top(), 16, box.height());
        painter.fillRect(layer, b.colour);
        painter.fillRect(layer, b.hatch);
        painter.setPen(colour::line);
        painter.drawLine(box.bottomLeft(), box.bottomRight());
        painter.drawLine(box.topRight(), box.bottomRight());
        if (now) painter.fillRect(QRectF(box.right() - 2, box.top(), 2, box.height()), colour::fox);
        if (now && hasFocus()) {
            painter.setPen(QPen(colour::fox, 1, Qt::DotLine));
            painter.setBrush(Qt::NoBrush);
            painter.drawRect(box.adjusted(18, 2, -4, -2));
        }
        painter.setPen(now ? colour::fox : colour::ink);
        painter.setFont(bodyFont(13, true));
        painter.drawText(QPointF(22, box.top() + 23), b.name);
        for (const int size : {12, 11, 10}) { // smaller letters where a figure is long
            painter.setFont(bodyFont(size));
            if (painter.fontMetrics().horizontalAdvance(b.figure) <= box.right() - 24) break;
        }
        painter.setPen(colour::muted);
        painter.drawText(QPointF(22, box.top() + 39), b.figure);
        painter.setFont(bodyFont(12));
        painter.setPen(Qt::NoPen);
        painter.setBrush(severityColour(b.state));
        painter.drawEllipse(QPointF(26, box.top() + 50), 4, 4);
        if (b.count > 0) {
            painter.setPen(colour::ink);
            painter.drawText(QPointF(35, box.top() + 54.5), QString::number(b.count));
        }
        painter.setPen(colour::muted);
        painter.setFont(bodyFont(11));
        if (box.height() > 84) painter.drawText(QPointF(24, box.bottom() - 9), QString("Alt %1").arg(i + 1));
    }
}

void StageColumn::mousePressEvent(QMouseEvent* e) {
    for (int i = 0; i < int(m_bands.size()); ++i)
        if (bandRect(i).contains(e->position())) emit chosen(i);
}

void StageColumn::keyPressEvent(QKeyEvent* e) {
    const int step = e->key() == Qt::Key_Down ? 1 : e->key() == Qt::Key_Up ? -1 : 0;
    if (step == 0) return QWidget::keyPressEvent(e);
    const int to = std::clamp(m_current + step, 0, int(m_bands.size()) - 1);
    if (to != m_current) emit chosen(to);
}

bool StageColumn::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(e);
        for (int i = 0; i < int(m_bands.size()); ++i) {
            const auto& b = m_bands[std::size_t(i)];
            if (!bandRect(i).contains(help->pos())) continue;
            const auto state =
                b.count == 0 ? tr("nothing to see to") : counted(b.count, "finding") + QString(" (%1)").arg(word(b.state));
            QToolTip::showText(help->globalPos(), b.name + ": " + state, this);
        }
        return true;
    }
    return QWidget::event(e);
}

} // namespace fox::app
