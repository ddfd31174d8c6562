#include "views/column_panel.h"

#include "style/theme.h"

#include <QCoreApplication>
#include <QPainter>

namespace fox::app {

void paintPredicted(QPainter& painter, const QRectF& area, const QString& name, Point2 place, const ModelColumn& column,
                    const Sequence& sequence, const QString& chosenUnit) {
    const auto say = [](const char* words) { return QCoreApplication::translate("fox::app::LogView", words); };
    painter.save();
    painter.setClipRect(area);
    painter.setFont(bodyFont(12, true));
    painter.setPen(colour::ink);
    painter.drawText(QRectF(area.left() + 6, area.top() + 3, area.width() - 8, 17), Qt::AlignLeft | Qt::AlignVCenter, name);
    painter.setFont(bodyFont(10));
    painter.setPen(colour::muted);
    painter.drawText(QRectF(area.left() + 6, area.top() + 19, area.width() - 8, 14), Qt::AlignLeft | Qt::AlignVCenter,
                     QString::fromUtf8("E %1 · N %2").arg(coordinate(place.x), coordinate(place.y)));
    if (std::isnan(column.ground)) {
        painter.restore();
        painter.setPen(colour::muted);
        painter.drawText(area.adjusted(12, 40, -12, -12), Qt::AlignCenter | Qt::TextWordWrap,
                         say("There is no ground here, so there is no model."));
        return;
    }
    double lowest = column.ground;
    for (const double b : column.bases)
        if (!std::isnan(b)) lowest = std::min(lowest, b);
    const double floor = lowest - std::max(1.0, 0.12 * (column.ground - lowest)); // the oldest unit goes on
    const QRectF box(area.left() + 46, area.top() + 44, 30, area.height() - 64);
    const auto y = [&](double level) { return box.top() + (column.ground - level) / (column.ground - floor) * box.height(); };
    double free = -1e9; // labels below one another
    painter.setFont(bodyFont(11));
    const auto label = [&](double level, const QString& words, const QColor& ink) {
        const double at = std::max(y(level) - 7, free);
        painter.setPen(QPen(colour::line, 1));
        painter.drawLine(QPointF(box.right() + 2, y(level)), QPointF(box.right() + 8, at + 7));
        painter.setPen(ink);
        painter.drawText(QRectF(box.right() + 10, at, area.right() - box.right() - 12, 14), Qt::AlignLeft | Qt::AlignVCenter,
                         words);
        free = at + 14;
    };
    painter.setPen(colour::muted);
    painter.drawText(QRectF(area.left(), y(column.ground) - 7, 44, 14), Qt::AlignRight | Qt::AlignVCenter,
                     QString::number(column.ground, 'f', 2));
    for (std::size_t u = 0; u <= column.bases.size() && u < sequence.units.size(); ++u) {
        const double top = column.top(u), base = u < column.bases.size() ? column.bases[u] : floor;
        if (std::isnan(top)) break;
        const bool known = !std::isnan(base);
        const double drawn = known ? base : floor;
        if (top - drawn < 1e-6) continue;
        const auto& unit = sequence.units[u];
        const QRectF stretch(QPointF(box.left(), y(top)), QPointF(box.right(), y(drawn)));
        painter.setPen(QPen(colour::ink, 1));
        painter.setBrush(known ? QBrush(unitColour(unit)) : QBrush(colour::muted, Qt::DiagCrossPattern));
        painter.drawRect(stretch);
        painter.setBrush(hatch(unit));
        painter.drawRect(stretch);
        if (chosenUnit == QString::fromStdString(unit.code)) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(colour::fox, 2.2));
            painter.drawRect(stretch);
        }
        const auto code = QString::fromStdString(unit.code);
        if (u == column.bases.size() || !known) {
            label(drawn, known ? code + say(", the oldest") : say("not known below"), colour::ink);
            break;
        }
        const double sd = column.deviations[u];
        label(base,
              QString::fromUtf8("%1  %2%3")
                  .arg(code, QString::number(base, 'f', 2),
                       std::isnan(sd) ? QString() : QString::fromUtf8(" ± %1").arg(sd, 0, 'f', 1)),
              colour::ink);
        if (!std::isnan(sd) && sd > 0) { // the band in which it may lie
            painter.setPen(Qt::NoPen);
            painter.setBrush(QColor(196, 84, 26, 70));
            painter.drawRect(QRectF(QPointF(box.left() - 6, y(std::min(column.ground, base + sd))),
                                    QPointF(box.left() - 2, y(std::max(floor, base - sd)))));
        }
    }
    painter.restore();
}

} // namespace fox::app
