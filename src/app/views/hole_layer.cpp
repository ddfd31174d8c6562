#include "views/hole_layer.h"

#include "style/theme.h"
#include "views/selection.h"
#include "views/value_legend.h"

#include <QLineF>
#include <QPainter>

namespace fox::app {

void HoleLayer::setProducts(std::shared_ptr<const ProductSet> products) {
    m_products = std::move(products);
    m_names = m_products ? displayNames(*m_products->project.holes) : std::vector<std::string>();
    workOutValues();
}

void HoleLayer::setColouring(std::optional<HoleValue> value) {
    m_colouring = value;
    if (value && m_label == Label::Name) m_label = Label::Value;
    if (!value && m_label == Label::Value) m_label = Label::Name;
    workOutValues();
}

void HoleLayer::workOutValues() {
    m_values.clear();
    if (!m_colouring || !m_products) return;
    m_values = valuesOf(*m_colouring, *m_products->project.holes, *m_products->reading);
    m_low = m_high = kNoValue;
    for (const auto& v : m_values)
        if (v) m_low = std::fmin(m_low, *v), m_high = std::fmax(m_high, *v);
}

QString HoleLayer::labelOf(std::size_t i) const {
    const auto& h = (*m_products->project.holes)[i];
    const auto name = QString::fromStdString(m_names[i]);
    switch (m_label) {
    case Label::None: return {};
    case Label::Name: return name;
    case Label::Kind: return QString::fromStdString(h.type);
    case Label::GroundLevel: return h.level ? QString::number(h.level->metres, 'f', 2) : QString();
    case Label::FinalDepth: return h.finalDepth ? QString::number(h.finalDepth->metres, 'f', 2) : QString();
    case Label::Value: break;
    }
    return i < m_values.size() && m_values[i] ? QString("%1: %2").arg(name).arg(*m_values[i], 0, 'g', 4) : name;
}

void HoleLayer::occupy(const PlanTransform& t, Occupied& occupied) const {
    const auto& holes = *m_products->project.holes;
    for (std::size_t i = 0; i < holes.size(); ++i)
        if (const auto p = holes[i].place(); p && isShown(i))
            occupied.take({t.toScreen(p->x, p->y) - QPointF(7, 7), QSizeF(14, 14)});
}

QString HoleLayer::holeAt(const PlanTransform& t, QPointF p) const {
    constexpr double kReach = 9; // pixels
    QString best;
    double nearest = kReach;
    if (!m_products) return best;
    const auto& holes = *m_products->project.holes;
    for (std::size_t i = 0; i < holes.size(); ++i)
        if (const auto place = holes[i].place(); place && isShown(i)) {
            const auto d = QLineF(t.toScreen(place->x, place->y), p).length();
            if (d < nearest) nearest = d, best = QString::fromStdString(m_names[i]);
        }
    return best;
}

QString HoleLayer::trialAt(const PlanTransform& t, QPointF p) const {
    constexpr double kReach = 9; // pixels
    if (m_products)
        for (const auto& trial : *m_products->project.trialColumns)
            if (QLineF(t.toScreen(trial.place.x, trial.place.y), p).length() < kReach) return QString::fromStdString(trial.name);
    return {};
}

void paintHoleSymbol(QPainter& painter, QPointF at, HoleKind kind, double size, const QColor& fill) {
    painter.setPen(QPen(colour::ink, 1.4));
    painter.setBrush(fill.isValid() ? fill : colour::paper);
    switch (kind) {
    case HoleKind::Drilled:
        painter.drawEllipse(at, size, size);
        if (fill.isValid()) break;
        painter.setBrush(colour::ink);
        painter.drawChord(QRectF(at - QPointF(size, size), QSizeF(2 * size, 2 * size)), 180 * 16, 180 * 16);
        break;
    case HoleKind::Dug: painter.drawRect(QRectF(at - QPointF(size, size) * 0.85, QSizeF(size, size) * 1.7)); break;
    case HoleKind::Pushed:
        painter.drawPolygon(QPolygonF({at + QPointF(0, -size), at + QPointF(size, size * 0.8), at + QPointF(-size, size * 0.8)}));
        break;
    case HoleKind::Other:
        painter.drawPolygon(
            QPolygonF({at + QPointF(0, -size), at + QPointF(size, 0), at + QPointF(0, size), at + QPointF(-size, 0)}));
        break;
    }
}

void HoleLayer::paintOne(QPainter& painter, std::size_t i, QPointF at, bool selected, bool hovered) const {
    const auto& h = (*m_products->project.holes)[i];
    if (selected || hovered) {
        painter.setPen(QPen(colour::fox, selected ? 3 : 1.5));
        auto halo = colour::chosen;
        halo.setAlpha(180);
        painter.setBrush(selected ? halo : QColor(Qt::transparent));
        painter.drawEllipse(at, 11, 11);
    }
    const bool valued = i < m_values.size() && m_values[i];
    const double span = m_high > m_low ? m_high - m_low : 1;
    if (m_colouring && !valued) painter.setOpacity(0.45);
    paintHoleSymbol(painter, at, kindOf(h), m_colouring && valued ? 7 : 6,
                    valued ? valueColour((*m_values[i] - m_low) / span) : QColor());
    painter.setOpacity(1);
    if (!h.excluded) return;
    painter.setPen(QPen(colour::red, 1.6)); // crossed out: it speaks of no surface
    painter.drawLine(at + QPointF(-8, 8), at + QPointF(8, -8));
}

void HoleLayer::paint(QPainter& painter, const PlanTransform& t, const Selection& selection, Occupied& occupied,
                      bool onSigns) const {
    const auto& holes = *m_products->project.holes;
    const QRectF all(QPointF(), QSizeF(t.size));
    std::vector<std::size_t> order; // the selected one last, over the others
    for (std::size_t i = 0; i < holes.size(); ++i)
        if (const auto p = holes[i].place(); p && isShown(i)) {
            const auto at = t.toScreen(p->x, p->y);
            if (!all.adjusted(-20, -20, 20, 20).contains(at)) continue;
            occupied.take({at - QPointF(7, 7), QSizeF(14, 14)});
            order.push_back(i);
        }
    const auto chosen = selection.hole().toStdString();
    std::ranges::stable_partition(order, [&](std::size_t i) { return m_names[i] != chosen; });
    painter.setFont(bodyFont(11));
    const QFontMetricsF metrics(painter.font());
    for (const auto i : order) {
        const auto at = t.toScreen(holes[i].place()->x, holes[i].place()->y);
        const auto name = QString::fromStdString(m_names[i]);
        const bool selected = name == selection.hole(), hovered = name == selection.hovered();
        paintOne(painter, i, at, selected, hovered);
        const auto label = labelOf(i).isEmpty() && (selected || hovered) ? name : labelOf(i);
        if (label.isEmpty()) continue;
        const double wide = metrics.horizontalAdvance(label);
        // right, left, above, below: the first that is free; none, no label
        for (const auto& offset : {QPointF(10, -7), QPointF(-10 - wide, -7), QPointF(-wide / 2, -23), QPointF(-wide / 2, 9)}) {
            const QRectF box(at + offset, QSizeF(wide, 14));
            if (!(all.contains(box) && occupied.free(box)) && !selected && !hovered) continue;
            occupied.take(box);
            if (onSigns) painter.fillRect(box, colour::veil(175));
            painter.setPen(selected ? colour::fox : colour::ink);
            painter.drawText(box, Qt::AlignLeft | Qt::AlignVCenter, label);
            break;
        }
    }
}

void HoleLayer::paintTrials(QPainter& painter, const PlanTransform& transform, const Selection& selection,
                            Occupied& occupied) const {
    painter.setFont(bodyFont(11));
    for (const auto& t : *m_products->project.trialColumns) {
        const auto at = transform.toScreen(t.place.x, t.place.y);
        const auto name = QString::fromStdString(t.name);
        const bool chosen = name == selection.trial();
        painter.setPen(QPen(chosen ? colour::fox : colour::slate, chosen ? 2.4 : 1.6));
        painter.setBrush(colour::paper);
        painter.drawRect(QRectF(at - QPointF(3.5, 7), QSizeF(7, 14))); // a column, not a hole
        painter.drawLine(at + QPointF(-3.5, 0), at + QPointF(3.5, 0));
        const QRectF label(at + QPointF(8, -7), QSizeF(QFontMetricsF(painter.font()).horizontalAdvance(name), 14));
        if (!occupied.free(label) && !chosen) continue;
        occupied.take(label);
        painter.drawText(label, Qt::AlignLeft | Qt::AlignVCenter, name);
    }
}

void paintDrillPlaces(QPainter& painter, const PlanTransform& transform, const std::vector<DrillPlace>& ranked,
                      Occupied& occupied) {
    const auto shown = std::min(ranked.size(), kDrillPlaces);
    for (std::size_t i = shown; i-- > 0;) { // the best on top
        if (!(ranked[i].gain > 0)) continue;
        const auto at = transform.toScreen(ranked[i].place.x, ranked[i].place.y);
        painter.setPen(QPen(colour::fox, 2));
        painter.setBrush(i == 0 ? colour::fox : colour::paper);
        painter.drawEllipse(at, 10, 10);
        painter.setFont(bodyFont(11, true));
        painter.setPen(i == 0 ? colour::paper : colour::fox);
        painter.drawText(QRectF(at - QPointF(10, 10), QSizeF(20, 20)), Qt::AlignCenter, QString::number(i + 1));
        const auto gain = QString("%1 %").arg(100 * ranked[i].gain, 0, 'f', 0);
        const QRectF label(at + QPointF(13, -7), QSizeF(QFontMetricsF(painter.font()).horizontalAdvance(gain) + 2, 14));
        if (!occupied.free(label) && i > 0) continue;
        occupied.take(label);
        painter.fillRect(label, colour::veil(200));
        painter.setPen(colour::ink);
        painter.drawText(label, Qt::AlignLeft | Qt::AlignVCenter, gain);
    }
}

void HoleLayer::paintLegend(QPainter& painter, const PlanTransform& t) const {
    if (!m_colouring || std::isnan(m_low)) return;
    paintValueLegend(painter, t.size, QString::fromStdString(fox::words(*m_colouring, *m_products->project.sequence)),
                     QString::number(m_low, 'g', 4), QString::number(m_high, 'g', 4));
}

} // namespace fox::app
