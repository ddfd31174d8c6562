#include "views/contact_layer.h"

#include "style/theme.h"

#include <QPainter>

namespace fox::app {

void paintContactSign(QPainter& painter, QPointF at, const QColor& fill) {
    const auto strokes = [&] {
        painter.drawLine(at + QPointF(-5, 0), at + QPointF(5, 0));
        painter.drawLine(at, at + QPointF(0, 4));
    };
    painter.setPen(QPen(colour::ink, 4.6, Qt::SolidLine, Qt::RoundCap));
    strokes();
    painter.setPen(QPen(fill, 2.4, Qt::SolidLine, Qt::RoundCap));
    strokes();
}

void paintContactPoints(QPainter& painter, const PlanTransform& t, const ProductSet& set) {
    const QRectF all = QRectF(QPointF(), QSizeF(t.size)).adjusted(-8, -8, 8, 8);
    for (std::size_t u = 0; u < set.contacts.size(); ++u) {
        const auto fill = unitColour(set.project.sequence->units[u]);
        const Contact* before = nullptr;
        painter.setPen(QPen(fill.darker(130), 1.6));
        for (const auto& c : *set.contacts[u]) {
            if (before && c.follows(*before))
                painter.drawLine(t.toScreen(before->place.x, before->place.y), t.toScreen(c.place.x, c.place.y));
            before = &c;
        }
        for (const auto& c : *set.contacts[u])
            if (const auto at = t.toScreen(c.place.x, c.place.y); c.isPoint() && c.trace < 0 && all.contains(at))
                paintContactSign(painter, at, fill);
    }
}

} // namespace fox::app
