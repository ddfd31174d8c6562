#include "views/value_legend.h"

#include "style/theme.h"

#include <QPainter>
#include <functional>

namespace fox::app {

namespace {

void paintScale(QPainter& painter, const QSize& view, const QString& title, const QString& low, const QString& high,
                const std::function<QColor(double)>& colourAt) {
    const QRectF box(view.width() - 190, view.height() - 46, 178, 36);
    painter.fillRect(box.adjusted(-6, -4, 6, 4), colour::veil(225));
    for (int k = 0; k < 60; ++k)
        painter.fillRect(QRectF(box.left() + k * box.width() / 60, box.top() + 15, box.width() / 60 + 1, 8), colourAt(k / 59.0));
    painter.setPen(colour::ink);
    painter.setFont(bodyFont(11));
    painter.drawText(box, Qt::AlignTop | Qt::AlignLeft, title);
    painter.drawText(box, Qt::AlignBottom | Qt::AlignLeft, low);
    painter.drawText(box, Qt::AlignBottom | Qt::AlignRight, high);
}

} // namespace

void paintValueLegend(QPainter& painter, const QSize& view, const QString& title, const QString& low, const QString& high) {
    paintScale(painter, view, title, low, high, valueColour);
}

void paintValueLegend(QPainter& painter, const QSize& view, const QString& title, const paper::ValueColours& colours) {
    if (colours.limits.empty())
        return paintScale(painter, view, title, QString::number(colours.low, 'g', 4), QString::number(colours.high, 'g', 4),
                          [&](double share) { return qColour(paper::scaleColour(colours.scale, share)); });
    constexpr double kRow = 15;
    const auto classes = colours.limits.size() + 1;
    const double high = kRow * double(classes + 1);
    const QRectF box(view.width() - 170, view.height() - high - 10, 158, high);
    auto behind = colour::paper;
    behind.setAlpha(230);
    painter.fillRect(box.adjusted(-6, -4, 6, 4), behind);
    painter.setPen(colour::ink);
    painter.setFont(bodyFont(11));
    painter.drawText(QRectF(box.topLeft(), QSizeF(box.width(), kRow)), Qt::AlignLeft | Qt::AlignVCenter, title);
    for (std::size_t k = 0; k < classes; ++k) {
        const auto at = classes - 1 - k;
        const QRectF row(box.left(), box.top() + kRow * double(k + 1), box.width(), kRow);
        painter.fillRect(QRectF(row.left(), row.top() + 2, 22, kRow - 4),
                         qColour(paper::scaleColour(colours.scale, double(at) / double(classes - 1))));
        painter.drawText(row.adjusted(28, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                         QString::fromStdString(colours.classInWords(at)));
    }
}

} // namespace fox::app
