#include "views/map_layer.h"

#include "style/theme.h"

#include <QPainter>
#include <QPainterPath>

namespace fox::app {

MapLayer::MapLayer(QObject* parent) : QObject(parent), m_work(this) {}

void MapLayer::setProducts(std::shared_ptr<const ProductSet> products) { m_products = std::move(products); }

void MapLayer::prepare(const PlanLook& look) {
    if (!shown(look) || (m_of == m_products->modelGrid && m_surface == look.map)) return;
    if (m_surface != look.map) m_map.clear();
    m_of = m_products->modelGrid;
    m_surface = look.map;
    m_work.start([grid = m_of, surface = *look.map](const Progress&) { return geologicalMap(*grid, surface); },
                 [this](std::vector<MapArea> map) {
                     m_map = std::move(map);
                     emit changed();
                 },
                 [](const QString&) {});
}

void MapLayer::paintBehind(QPainter& painter, const PlanTransform& t, const PlanLook& look, const QString& chosenUnit) const {
    if (!shown(look)) return;
    const auto& units = m_products->project.sequence->units;
    for (const auto& area : m_map) {
        if (area.unit >= units.size()) continue;
        QPainterPath path;
        for (const auto& ring : area.rings) {
            QPolygonF line;
            for (const auto& p : ring) line << t.toScreen(p.x, p.y);
            path.addPolygon(line);
            path.closeSubpath();
        }
        const auto& unit = units[area.unit];
        const bool faded = !chosenUnit.isEmpty() && chosenUnit != QString::fromStdString(unit.code);
        auto fill = unitColour(unit);
        fill.setAlpha(faded ? 110 : 235);
        painter.setPen(QPen(QColor(37, 33, 28, faded ? 90 : 170), 1));
        painter.setBrush(fill);
        painter.drawPath(path);
        if (faded) continue;
        painter.setPen(Qt::NoPen);
        painter.setBrush(hatch(unit));
        painter.drawPath(path);
    }
}

void MapLayer::paintLegend(QPainter& painter, const PlanTransform& t, const PlanLook& look) const {
    if (!shown(look) || m_map.empty()) return;
    const auto& units = m_products->project.sequence->units;
    painter.setFont(bodyFont(11));
    const QFontMetricsF metrics(painter.font());
    const auto title = QString::fromStdString(words(*look.map));
    double wide = metrics.horizontalAdvance(title);
    std::vector<std::size_t> there;
    for (const auto& a : m_map)
        if (a.unit < units.size()) {
            there.push_back(a.unit);
            wide = std::max(wide, 22 + metrics.horizontalAdvance(QString::fromStdString(units[a.unit].name)));
        }
    const QRectF box(t.size.width() - wide - 22, t.size.height() - 26 - 17.0 * double(there.size()), wide + 14,
                     20 + 17.0 * double(there.size()));
    painter.fillRect(box, colour::veil(225));
    painter.setPen(colour::muted);
    painter.drawText(QRectF(box.left() + 6, box.top() + 2, wide, 15), Qt::AlignLeft | Qt::AlignVCenter, title);
    double y = box.top() + 19;
    for (const auto u : there) {
        painter.drawPixmap(QPointF(box.left() + 6, y), swatch(units[u], 13));
        painter.setPen(colour::ink);
        painter.drawText(QRectF(box.left() + 26, y - 1, wide, 15), Qt::AlignLeft | Qt::AlignVCenter,
                         QString::fromStdString(units[u].name));
        y += 17;
    }
}

} // namespace fox::app
