#include "views/dig_layer.h"

#include "style/theme.h"

#include <QPainter>
#include <QPainterPath>

namespace fox::app {

void DigLayer::paint(QPainter& painter, const PlanTransform& t, const ProductSet& products, const BlockLook& look) {
    const auto* made = look.on && look.pit ? shownExcavation(&products, look) : nullptr;
    if (!made || !made->dig) return;
    const auto& dig = *made->dig;
    const auto& f = dig.dug.frame;
    if (m_of != made->dig) {
        m_of = made->dig;
        m_image = QImage(f.columns(), f.rows(), QImage::Format_ARGB32_Premultiplied);
        m_image.fill(Qt::transparent);
        double deepest = 1;
        for (const double d : dig.depth.values)
            if (d > deepest) deepest = d;
        for (int r = 0; r < f.rows(); ++r)
            for (int c = 0; c < f.columns(); ++c)
                if (const double d = dig.depth.at(c, r); d > 0.005) {
                    auto shade = colour::fox;
                    shade.setAlphaF(0.18 + 0.55 * d / deepest);
                    m_image.setPixelColor(c, r, shade);
                }
    }
    const auto nw = t.toScreen(f.xmin, f.ymax), se = t.toScreen(f.xmin + f.columns() * f.cell, f.ymax - f.rows() * f.cell);
    const bool overBlocks = look.blocks && look.planLevel; // whose colours have to be read
    if (!overBlocks) painter.drawImage(QRectF(nw, se), m_image);
    painter.save();
    painter.setPen(QPen(colour::ink, 1));
    for (const auto& line : benchLines(dig)) {
        QPainterPath path;
        for (std::size_t i = 0; i < line.line.size(); ++i) {
            const auto at = t.toScreen(line.line[i].x, line.line[i].y);
            i == 0 ? path.moveTo(at) : path.lineTo(at);
        }
        painter.drawPath(path);
    }
    painter.restore();
}

} // namespace fox::app
