#include "views/water_layer.h"

#include "style/theme.h"
#include "views/contour_lines.h"
#include "views/value_legend.h"

#include <QPainter>

namespace fox::app {

const WaterProduct* WaterLayer::shown(const ProductSet* products, const PlanLook& look) const {
    if (!products || !look.water) return nullptr;
    const auto& all = *products->project.waterSurfaces;
    for (std::size_t i = 0; i < all.size() && i < products->waterSurfaces.size(); ++i)
        if (all[i].name == look.water->name && products->waterSurfaces[i]->levels) return products->waterSurfaces[i].get();
    return nullptr;
}

void WaterLayer::paintBehind(QPainter& painter, const PlanTransform& t, const ProductSet& products, const PlanLook& look,
                             Occupied& occupied) {
    const auto* water = shown(&products, look);
    if (!water) return;
    const auto& grid = look.water->depth ? water->depths : water->levels;
    if (grid != m_drawn || m_look != look) {
        m_drawn = grid, m_look = look;
        m_colours = coloursFor(grid->values, look);
        m_image = valueImage(*grid, m_colours);
    }
    const auto& f = grid->frame;
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.setOpacity(0.8);
    painter.drawImage(QRectF(t.toScreen(f.xmin, f.ymax), t.toScreen(f.xmin + f.columns() * f.cell, f.ymax - f.rows() * f.cell)),
                      m_image);
    painter.setOpacity(1);
    paintContourLines(painter, t, water->contours, occupied);
}

void WaterLayer::paintMarks(QPainter& painter, const PlanTransform& t, const ProductSet& products, const PlanLook& look,
                            Occupied& occupied) const {
    const auto* water = shown(&products, look);
    if (!water) return;
    painter.setFont(bodyFont(11, true));
    for (const auto& p : water->fitted->points) {
        if (!p.place || !p.used) continue;
        const auto at = t.toScreen(p.place->x, p.place->y);
        painter.setPen(QPen(colour::slate, 1.4));
        painter.setBrush(colour::paper);
        painter.drawPolygon(QPolygonF({at, at + QPointF(-6, -10), at + QPointF(6, -10)}));
        const auto text = QString::number(p.place->z, 'f', 2);
        const QRectF label(at + QPointF(9, -14), QSizeF(QFontMetricsF(painter.font()).horizontalAdvance(text) + 4, 14));
        if (!occupied.free(label)) continue;
        occupied.take(label);
        painter.fillRect(label, colour::veil(215));
        painter.setPen(colour::ink);
        painter.drawText(label, Qt::AlignCenter, text);
    }
}

void WaterLayer::paintLegend(QPainter& painter, const PlanTransform& t, const PlanLook& look) const {
    if (!look.water || m_image.isNull() || std::isnan(m_colours.low)) return;
    const auto name = QString::fromStdString(look.water->name);
    paintValueLegend(painter, t.size,
                     look.water->depth ? QObject::tr("%1: depth below ground, m").arg(name)
                                       : QObject::tr("%1: level, m").arg(name),
                     m_colours);
}

} // namespace fox::app
