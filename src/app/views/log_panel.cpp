#include "views/log_panel.h"

namespace fox::app {

LogPanel::LogPanel(LogContent content, const QRectF& area, double deepest) : m_content(std::move(content)), m_area(area) {
    m_layout.area.include({area.left() * kMillimetresPerPixel, area.top() * kMillimetresPerPixel});
    m_layout.area.include({area.right() * kMillimetresPerPixel, area.bottom() * kMillimetresPerPixel});
    m_layout.deepest = std::max(1.0, deepest);
}

paper::Drawing LogPanel::drawing(const std::optional<MovedBoundary>& moved) const {
    auto content = m_content;
    content.moved = moved;
    return drawLog(content, m_layout);
}

} // namespace fox::app
