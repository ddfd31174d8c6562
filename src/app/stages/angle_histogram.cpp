#include "stages/angle_histogram.h"

#include "style/theme.h"

#include <QPainter>
#include <algorithm>

namespace fox::app {

namespace {
constexpr int kBars = 12;
constexpr double kStep = 5; ///< degrees
} // namespace

AngleHistogram::AngleHistogram(const std::vector<double>& degrees, QWidget* parent) : QWidget(parent), m_counts(kBars, 0) {
    for (const double a : degrees) ++m_counts[std::size_t(std::clamp(int(a / kStep), 0, kBars - 1))];
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    QStringList words;
    for (int i = 0; i < kBars; ++i)
        if (m_counts[std::size_t(i)] > 0)
            words << tr("%1 to %2°: %3").arg(i * kStep).arg((i + 1) * kStep).arg(m_counts[std::size_t(i)]);
    setToolTip(tr("Triangles by their smallest angle") + "\n" + words.join("\n"));
    setAccessibleName(tr("Triangles by their smallest angle"));
    setAccessibleDescription(words.join(", "));
}

void AngleHistogram::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const double high = height() - 16, wide = width() / double(kBars);
    const int most = std::max(1, *std::ranges::max_element(m_counts));
    for (int i = 0; i < kBars; ++i) {
        const double bar = high * m_counts[std::size_t(i)] / most;
        painter.fillRect(QRectF(i * wide + 1, high - bar, wide - 2, bar), (i + 1) * kStep <= 20 ? colour::fox : colour::slate);
    }
    painter.setPen(colour::muted);
    painter.drawLine(QPointF(0, high), QPointF(width(), high));
    painter.setFont(bodyFont(11));
    for (const int degrees : {0, 20, 40, 60}) {
        const double at = degrees / kStep * wide;
        painter.drawText(QRectF(std::clamp(at - 20, 0.0, width() - 40.0), high + 1, 40, 15),
                         degrees == 0    ? int(Qt::AlignLeft)
                         : degrees == 60 ? int(Qt::AlignRight)
                                         : int(Qt::AlignHCenter),
                         QString("%1°").arg(degrees));
    }
}

} // namespace fox::app
