#include "dialogs/difference_histogram.h"

#include "ground/compare.h"
#include "style/theme.h"

#include <QPainter>

namespace fox::app {

DifferenceHistogram::DifferenceHistogram(QWidget* parent) : QWidget(parent) {
    setObjectName("differenceHistogram");
    setAccessibleName(tr("Histogram of the difference"));
    setMinimumHeight(90);
}

void DifferenceHistogram::setDifference(const Grid& difference) {
    constexpr std::size_t kBins = 40;
    const auto s = statisticsOf(difference);
    m_bins = s.cells > 0 ? histogramOf(difference, kBins) : std::vector<std::size_t>();
    m_low = s.least, m_high = s.most;
    update();
}

void DifferenceHistogram::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), colour::paper);
    if (m_bins.empty()) return;
    const auto most = double(*std::ranges::max_element(m_bins));
    const QRectF plot(6, 6, width() - 12, height() - 28);
    const double wide = plot.width() / double(m_bins.size());
    for (std::size_t k = 0; k < m_bins.size(); ++k) {
        const double high = most > 0 ? plot.height() * double(m_bins[k]) / most : 0;
        painter.fillRect(QRectF(plot.left() + double(k) * wide, plot.bottom() - high, std::max(1.0, wide - 1), high),
                         colour::slate);
    }
    painter.setPen(colour::muted);
    painter.drawLine(plot.bottomLeft(), plot.bottomRight());
    if (m_low < 0 && m_high > 0) { // where they agree
        const double x = plot.left() - m_low / (m_high - m_low) * plot.width();
        painter.setPen(QPen(colour::fox, 1, Qt::DashLine));
        painter.drawLine(QPointF(x, plot.top()), QPointF(x, plot.bottom()));
    }
    painter.setFont(bodyFont(11));
    painter.setPen(colour::ink);
    const QRectF words(plot.left(), plot.bottom() + 3, plot.width(), 17);
    painter.drawText(words, Qt::AlignLeft, metres(m_low));
    painter.drawText(words, Qt::AlignHCenter, tr("cells by difference"));
    painter.drawText(words, Qt::AlignRight, metres(m_high));
}

} // namespace fox::app
