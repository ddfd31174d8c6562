#include "stages/variogram_chart.h"

#include "style/theme.h"

#include <QPainter>

namespace fox::app {

VariogramChart::VariogramChart(std::vector<VariogramLag> lags, const Variogram& model, QWidget* parent)
    : QWidget(parent), m_lags(std::move(lags)), m_model(model) {
    setFixedHeight(96);
    setToolTip(tr("Half the mean squared difference of contacts by their distance; larger dots stand for more pairs"));
}

void VariogramChart::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF box(24, 6, width() - 34.0, height() - 24.0);
    const double farthest = m_lags.empty() ? m_model.range : m_lags.back().distance * 1.05;
    double highest = m_model.at(farthest);
    for (const auto& l : m_lags) highest = std::max(highest, l.gamma);
    if (!(highest > 0)) return;
    const auto at = [&](double h, double g) {
        return QPointF(box.left() + box.width() * h / farthest, box.bottom() - box.height() * g / (highest * 1.05));
    };
    painter.setPen(QPen(colour::muted, 1));
    painter.drawLine(box.topLeft(), box.bottomLeft());
    painter.drawLine(box.bottomLeft(), box.bottomRight());
    painter.setFont(bodyFont(10));
    painter.drawText(QRectF(box.right() - 80, box.bottom() + 2, 80, 14), Qt::AlignRight,
                     QString("%1 m").arg(farthest, 0, 'f', 0));
    painter.drawText(QRectF(box.left() + 4, box.top() - 4, 90, 14), Qt::AlignLeft,
                     QString::fromUtf8("%1 m²").arg(highest, 0, 'g', 2));
    QPolygonF line;
    for (int i = 0; i <= 80; ++i) line << at(farthest * i / 80, m_model.at(std::max(1e-9, farthest * i / 80)));
    painter.setPen(QPen(colour::fox, 1.6));
    painter.drawPolyline(line);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour::slate);
    int most = 1;
    for (const auto& l : m_lags) most = std::max(most, l.pairs);
    for (const auto& l : m_lags)
        painter.drawEllipse(at(l.distance, l.gamma), 1.6 + 2.4 * std::sqrt(double(l.pairs) / most),
                            1.6 + 2.4 * std::sqrt(double(l.pairs) / most));
}

} // namespace fox::app
