#include "dialogs/place_map.h"

#include "style/theme.h"
#include "views/view.h"

#include <QPainter>

namespace fox::app {

void PlaceMap::setPlaces(std::vector<Point2> there, std::vector<Point2> coming, bool asDots) {
    m_there = std::move(there);
    m_coming = std::move(coming);
    m_dots = asDots;
    constexpr std::size_t kShown = 20000; // of millions, enough to see where they lie
    if (m_coming.size() > kShown) {
        const auto stride = m_coming.size() / kShown + 1;
        std::vector<Point2> some;
        for (std::size_t i = 0; i < m_coming.size(); i += stride) some.push_back(m_coming[i]);
        m_coming = std::move(some);
    }
    update();
}

void PlaceMap::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), colour::desk);
    Box2 box;
    for (const auto* places : {&m_coming, &m_there})
        for (const auto& p : *places) box.include(p);
    if (m_coming.empty()) return paintEmpty(painter, rect(), tr("No places in this file."));
    const double scale = std::min((width() - 30) / std::max(1.0, box.width()), (height() - 40) / std::max(1.0, box.height()));
    const auto at = [&](Point2 p) {
        return QPointF(width() / 2.0 + (p.x - box.centre().x) * scale, height() / 2.0 - 6 - (p.y - box.centre().y) * scale);
    };
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour::line.darker(125));
    for (const auto& p : m_there) painter.drawEllipse(at(p), 3, 3);
    painter.setBrush(colour::fox);
    const double size = m_dots ? 1 : 4;
    for (const auto& p : m_coming) painter.drawEllipse(at(p), size, size);
    painter.setPen(colour::muted);
    painter.setFont(bodyFont(11));
    painter.drawText(rect().adjusted(8, 4, -8, -4), Qt::AlignBottom | Qt::AlignLeft,
                     m_there.empty() ? tr("places in this file") : tr("this file in orange, the project's holes in grey"));
}

} // namespace fox::app
