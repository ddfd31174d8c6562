#include "views/block_placing.h"

#include "style/theme.h"
#include "views/layer_values.h"

namespace fox::app {

BlockPlacing::BlockPlacing(const ProductSet& products, const BlockScene::Look& look)
    : m_products(products), m_look(look), m_middle(products.ground->frame.box().centre()) {
    for (const double z : products.ground->values) m_lowest = std::fmin(m_lowest, z), m_highest = std::fmax(m_highest, z);
    m_floor = m_lowest;
    const auto* layers = look.layers ? shownGrid(&products, *look.layers) : nullptr;
    const auto* mesh = look.layers ? shownMesh(&products, *look.layers) : nullptr;
    if (mesh && mesh->mesh) {
        for (const double z : mesh->mesh->levels) m_floor = std::fmin(m_floor, z);
    } else if (layers) {
        for (const double z : layers->bottom) m_floor = std::fmin(m_floor, z);
    } else if (products.modelGrid) {
        for (const auto& b : products.modelGrid->bases)
            for (const double z : b.values) m_floor = std::fmin(m_floor, z);
    }
    m_floor -= 4; // so that the oldest unit shows
    if (look.terrain) {
        if (const auto& facts = products.groundStatistics) // spikes too
            m_lowest = std::fmin(m_lowest, facts->measures.zmin), m_highest = std::fmax(m_highest, facts->measures.zmax);
        m_floor = m_lowest;
    }
    if (look.block && !look.terrain && products.modelGrid) m_gap = look.apart * (m_highest - m_floor);
}

double BlockPlacing::lift(std::size_t unit) const {
    const auto units = m_products.project.sequence->units.size();
    return m_gap > 0 && unit < units ? m_gap * double(units - 1 - unit) : 0;
}

bool BlockPlacing::isHidden(std::size_t unit) const {
    return m_look.hidden.contains(QString::fromStdString(m_products.project.sequence->units[unit].code));
}

QColor BlockPlacing::fill(std::size_t u) const {
    const auto& unit = m_products.project.sequence->units[u];
    auto c = unitColour(unit);
    const bool faded = !m_look.unit.isEmpty() && m_look.unit != QString::fromStdString(unit.code);
    return faded ? QColor((c.red() + 2 * 247) / 3, (c.green() + 2 * 243) / 3, (c.blue() + 2 * 236) / 3) : c;
}

} // namespace fox::app
