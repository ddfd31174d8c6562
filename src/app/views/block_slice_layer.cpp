#include "views/block_slice_layer.h"

#include "sheets/unit_style.h"

#include <QPainter>

namespace fox::app {

namespace {

QImage sliceImage(const BlockModel& m, const BlockLook& look, const Sequence& sequence) {
    QImage out(m.count[0], m.count[1], QImage::Format_ARGB32_Premultiplied);
    out.fill(Qt::transparent);
    const int k = int(std::floor((*look.planLevel - m.corner.z) / m.spec.dz));
    if (k < 0 || k >= m.count[2]) return out;
    const auto colouring = colouringOf(m, look);
    const auto limits = look.limits();
    std::size_t b = std::size_t(k) * std::size_t(m.count[0]) * std::size_t(m.count[1]);
    for (int j = 0; j < m.count[1]; ++j)
        for (int i = 0; i < m.count[0]; ++i, ++b) {
            if (!limits.hold(m.value[b])) continue;
            const bool byUnit = look.colour == BlockLook::Colour::Unit && m.unit[b] >= 0;
            out.setPixelColor(i, m.count[1] - 1 - j,
                              byUnit ? unitColour(sequence.units[std::size_t(m.unit[b])])
                                     : qColour(colouring.colours.of(colouring.valuesOf(m)[b])));
        }
    return out;
}

} // namespace

void BlockSliceLayer::paint(QPainter& painter, const PlanTransform& t, const ProductSet& products, const BlockLook& look) {
    const auto* made = look.on && look.blocks && look.planLevel ? shownBlocks(&products, look) : nullptr;
    if (!made || !made->blocks) return;
    const auto& m = *made->blocks;
    if (m_of != made->blocks || m_look != look) {
        m_of = made->blocks, m_look = look;
        m_image = sliceImage(m, look, *products.project.sequence);
    }
    const auto nw = t.toScreen(m.corner.x, m.corner.y + m.count[1] * m.spec.dy),
               se = t.toScreen(m.corner.x + m.count[0] * m.spec.dx, m.corner.y);
    painter.drawImage(QRectF(nw, se), m_image);
}

} // namespace fox::app
