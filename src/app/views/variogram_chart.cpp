#include "views/variogram_chart.h"

#include "style/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace fox::app {

VariogramChart::VariogramChart(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(110);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("Variogram"));
    setWords(QString::fromUtf8("m²"), tr("contacts"));
}

void VariogramChart::setWords(const QString& unit, const QString& what) {
    m_unit = unit;
    setToolTip(tr("Half the mean squared difference of %1 by their distance; larger dots stand for more pairs. Drag the "
                  "handles: nugget (left), sill (right), range (below). Keys: Space takes the next handle, arrows move it.")
                   .arg(what));
    update();
}

void VariogramChart::setLags(std::vector<VariogramLag> lags) {
    m_lags = std::move(lags);
    scaleToShow();
    update();
}

void VariogramChart::setModel(const Variogram& model) {
    if (m_model == model) return;
    m_model = model;
    if (std::ranges::count(handles(), m_chosen) == 0) m_chosen = Handle::Sill;
    if (!m_held) scaleToShow();
    update();
}

void VariogramChart::scaleToShow() {
    m_farthest = m_lags.empty() ? m_model.range * 1.3 : m_lags.back().distance * 1.1;
    m_highest = m_model.at(m_farthest);
    for (const auto& l : m_lags) m_highest = std::max(m_highest, l.gamma);
    m_highest = m_highest > 0 ? m_highest * 1.15 : 1;
}

QRectF VariogramChart::box() const { return {30, 8, width() - 42.0, height() - 28.0}; }

QPointF VariogramChart::at(double h, double g) const {
    const auto b = box();
    return {b.left() + b.width() * h / m_farthest, b.bottom() - b.height() * g / m_highest};
}

std::vector<VariogramChart::Handle> VariogramChart::handles() const {
    if (m_model.model == VariogramModel::Linear) return {Handle::Nugget, Handle::Sill}; // it goes on rising: there is no range
    return {Handle::Nugget, Handle::Sill, Handle::Range};
}

QPointF VariogramChart::screenOf(Handle handle) const {
    const double range = std::min(m_model.range, m_farthest);
    switch (handle) {
    case Handle::Nugget: return at(0, m_model.nugget);
    case Handle::Sill: return at(m_farthest, std::min(m_highest, m_model.at(m_farthest)));
    case Handle::Range: break;
    }
    return {at(range, 0).x(), box().bottom()};
}

std::optional<VariogramChart::Handle> VariogramChart::handleAt(QPointF p) const {
    constexpr double kReach = 10; // pixels
    for (const auto h : handles())
        if (QLineF(screenOf(h), p).length() <= kReach) return h;
    return {};
}

void VariogramChart::moveTo(Handle handle, QPointF p) {
    const auto b = box();
    const double h = std::clamp((p.x() - b.left()) / b.width(), 0.0, 1.0) * m_farthest;
    const double g = std::clamp((b.bottom() - p.y()) / b.height(), 0.0, 1.0) * m_highest;
    auto v = m_model;
    const double top = m_model.at(m_farthest), shape = m_model.partialSill > 0 ? (top - m_model.nugget) / m_model.partialSill : 1;
    switch (handle) {
    case Handle::Nugget: // the sill stays where it is
        v.nugget = std::min(g, top * 0.98);
        v.partialSill = (top - v.nugget) / shape;
        break;
    case Handle::Sill: v.partialSill = std::max((g - v.nugget) / shape, m_highest * 1e-3); break;
    case Handle::Range: v.range = std::max(h, m_farthest * 0.01); break;
    }
    if (v == m_model) return;
    m_model = v;
    update();
    emit dragged(m_model);
}

void VariogramChart::mousePressEvent(QMouseEvent* e) {
    m_held = handleAt(e->position());
    if (m_held) m_chosen = *m_held;
    update();
}

void VariogramChart::mouseMoveEvent(QMouseEvent* e) {
    if (m_held) return moveTo(*m_held, e->position());
    const auto over = handleAt(e->position());
    setCursor(!over ? Qt::ArrowCursor : *over == Handle::Range ? Qt::SizeHorCursor : Qt::SizeVerCursor);
}

void VariogramChart::mouseReleaseEvent(QMouseEvent*) {
    if (!std::exchange(m_held, std::nullopt)) return;
    emit released(m_model);
}

void VariogramChart::keyPressEvent(QKeyEvent* e) {
    constexpr double kStep = 4; // pixels
    QPointF by;
    switch (e->key()) {
    case Qt::Key_Space: {
        const auto all = handles();
        const auto now = std::ranges::find(all, m_chosen);
        m_chosen = now == all.end() || now + 1 == all.end() ? all.front() : *(now + 1);
        return update();
    }
    case Qt::Key_Left: by = {-kStep, 0}; break;
    case Qt::Key_Right: by = {kStep, 0}; break;
    case Qt::Key_Up: by = {0, -kStep}; break;
    case Qt::Key_Down: by = {0, kStep}; break;
    default: return QWidget::keyPressEvent(e);
    }
    moveTo(m_chosen, screenOf(m_chosen) + by);
    emit released(m_model);
}

void VariogramChart::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto b = box();
    painter.setPen(QPen(colour::muted, 1));
    painter.drawLine(b.topLeft(), b.bottomLeft());
    painter.drawLine(b.bottomLeft(), b.bottomRight());
    painter.setFont(bodyFont(10));
    painter.drawText(QRectF(b.right() - 90, b.bottom() + 5, 90, 14), Qt::AlignRight, metres(m_farthest, m_farthest < 20 ? 1 : 0));
    painter.drawText(QRectF(b.left() + 6, b.top() - 6, b.width() - 6, 14), Qt::AlignLeft,
                     QString("%1 %2").arg(m_highest, 0, 'g', m_highest < 1 ? 2 : 4).arg(m_unit));
    int most = 1;
    for (const auto& l : m_lags) most = std::max(most, l.pairs);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour::slate);
    for (const auto& l : m_lags) {
        const double size = 1.6 + 2.8 * std::sqrt(double(l.pairs) / most);
        painter.drawEllipse(at(l.distance, l.gamma), size, size);
    }
    QPolygonF line;
    for (int i = 0; i <= 120; ++i) line << at(m_farthest * i / 120, m_model.at(std::max(1e-9, m_farthest * i / 120)));
    painter.setPen(QPen(colour::fox, 1.8));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(line);
    painter.setPen(QPen(colour::fox, 1, Qt::DotLine));
    const auto range = screenOf(Handle::Range);
    if (m_model.model != VariogramModel::Linear)
        painter.drawLine(range, QPointF(range.x(), at(0, m_model.at(m_model.range)).y()));
    for (const auto h : handles()) {
        const bool marked = m_held == h || (hasFocus() && m_chosen == h);
        painter.setPen(QPen(colour::fox, 1.6));
        painter.setBrush(marked ? colour::fox : colour::paper);
        painter.drawRect(QRectF(screenOf(h) - QPointF(4, 4), QSizeF(8, 8)));
    }
}

} // namespace fox::app
