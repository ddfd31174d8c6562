#include "dialogs/grid_map.h"

#include "style/theme.h"
#include "views/contour_lines.h"
#include "views/view.h"

#include <QPainter>

namespace fox::app {

void GridMap::setEmptyWords(const QString& words) {
    m_emptyWords = words;
    update();
}

void GridMap::setMap(const Grid& grid, const QString& title, double low, double high) {
    m_title = title;
    m_frame = grid.frame;
    m_low = low, m_high = high;
    m_image = valueImage(grid, m_low, m_high);
    m_lines.clear();
    if (!std::isnan(m_low)) m_lines = contoursOf(grid, contourInterval(m_low, m_high > m_low ? m_high : m_low + 1));
    update();
}

void GridMap::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), colour::desk);
    if (m_image.isNull() || std::isnan(m_low)) return paintEmpty(painter, rect(), m_emptyWords);
    const auto size = QSizeF(m_image.size()).scaled(QSizeF(width() - 8, height() - 26), Qt::KeepAspectRatio);
    const QRectF target(QPointF((width() - size.width()) / 2, 22), size);
    painter.drawImage(target, m_image);
    const double wide = m_frame.columns() * m_frame.cell, high = m_frame.rows() * m_frame.cell;
    painter.setPen(QPen(QColor(37, 33, 28, 120), 0.8));
    for (const auto& contour : m_lines) {
        QPolygonF line;
        for (const auto& p : contour.line)
            line << QPointF(target.left() + (p.x - m_frame.xmin) / wide * size.width(),
                            target.top() + (m_frame.ymax - p.y) / high * size.height());
        painter.drawPolyline(line);
    }
    painter.setPen(colour::ink);
    painter.setFont(bodyFont(11, true));
    painter.drawText(QRectF(6, 3, width() - 176.0, 16), Qt::AlignLeft, m_title);
    // which colours stand for which values, beside the title
    const QRectF bar(width() - 118.0, 6, 70, 9);
    constexpr int kSteps = 35;
    for (int k = 0; k < kSteps; ++k)
        painter.fillRect(QRectF(bar.left() + k * bar.width() / kSteps, bar.top(), bar.width() / kSteps + 1, bar.height()),
                         valueColour(k / double(kSteps - 1)));
    painter.setFont(bodyFont(11));
    painter.drawText(QRectF(bar.left() - 46, 3, 42, 16), Qt::AlignRight, QString::number(m_low, 'f', 1));
    painter.drawText(QRectF(bar.right() + 4, 3, 44, 16), Qt::AlignLeft, QString::number(m_high, 'f', 1));
}

} // namespace fox::app
