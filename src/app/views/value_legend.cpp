#include "views/value_legend.h"

#include "style/theme.h"

#include <QPainter>

namespace fox::app {

void paintValueLegend(QPainter& painter, const QSize& view, const QString& title, const QString& low, const QString& high) {
    const QRectF box(view.width() - 190, view.height() - 46, 178, 36);
    painter.fillRect(box.adjusted(-6, -4, 6, 4), QColor(255, 253, 249, 225));
    for (int k = 0; k < 60; ++k)
        painter.fillRect(QRectF(box.left() + k * box.width() / 60, box.top() + 15, box.width() / 60 + 1, 8),
                         valueColour(k / 59.0));
    painter.setPen(colour::ink);
    painter.setFont(bodyFont(11));
    painter.drawText(box, Qt::AlignTop | Qt::AlignLeft, title);
    painter.drawText(box, Qt::AlignBottom | Qt::AlignLeft, low);
    painter.drawText(box, Qt::AlignBottom | Qt::AlignRight, high);
}

} // namespace fox::app
