#include "views/named_layer.h"

#include "style/words.h"
#include "views/contour_lines.h"
#include "views/selection.h"
#include "views/value_legend.h"

#include <QPainter>

namespace fox::app {

const NamedSurfaceProduct* NamedLayer::shown(const ProductSet* products, const PlanLook& look) const {
    if (!products || !look.named) return nullptr;
    const auto& all = *products->project.namedSurfaces;
    for (std::size_t i = 0; i < all.size() && i < products->namedSurfaces.size(); ++i)
        if (all[i].name == *look.named && products->namedSurfaces[i]->levels) return products->namedSurfaces[i].get();
    return nullptr;
}

void NamedLayer::paintBehind(QPainter& painter, const PlanTransform& t, const ProductSet& products, const PlanLook& look,
                             Occupied& occupied) {
    const auto* surface = shown(&products, look);
    if (!surface) return;
    if (surface->levels != m_drawn || m_look != look) {
        m_drawn = surface->levels, m_look = look;
        m_colours = coloursFor(m_drawn->values, look);
        m_image = valueImage(*m_drawn, m_colours);
    }
    const auto& f = m_drawn->frame;
    painter.setRenderHint(QPainter::SmoothPixmapTransform, look.classes.kind == paper::ClassKind::None);
    painter.setOpacity(0.8);
    painter.drawImage(QRectF(t.toScreen(f.xmin, f.ymax), t.toScreen(f.xmin + f.columns() * f.cell, f.ymax - f.rows() * f.cell)),
                      m_image);
    painter.setOpacity(1);
    paintContourLines(painter, t, surface->contours, occupied);
}

void NamedLayer::paintLegend(QPainter& painter, const PlanTransform& t, const PlanLook& look) const {
    if (!look.named || m_image.isNull() || std::isnan(m_colours.low)) return;
    paintValueLegend(painter, t.size, Selection::tr("%1: level, m").arg(qt(*look.named)), m_colours);
}

} // namespace fox::app
