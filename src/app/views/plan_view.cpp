#include "views/plan_view.h"

#include "style/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

namespace fox::app {

PlanView::PlanView(Selection* selection, QWidget* parent)
    : PannedView(selection, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_draw(new QAction(tr("draw section"), this)),
      m_labels(new QAction(tr("labels"), this)) {
    setObjectName("planView");
    setAccessibleName(tr("Plan of the site"));
    m_fit->setToolTip(tr("Show everything (F)"));
    m_draw->setToolTip(tr("Draw a section line: click its corners, double-click or Enter to end, Esc to give up"));
    m_draw->setCheckable(true);
    m_labels->setCheckable(true);
    m_labels->setChecked(true);
    m_labels->setToolTip(tr("Names of holes"));
    connect(m_fit, &QAction::triggered, this, &PannedView::fit);
    connect(m_draw, &QAction::triggered, this, [this](bool on) {
        if (on)
            startDrawing();
        else
            m_drawing = false, m_line.clear(), update();
    });
    connect(m_labels, &QAction::toggled, this, qOverload<>(&QWidget::update));
    for (auto signal : {&Selection::holeChanged, &Selection::hoverChanged, &Selection::sectionChanged})
        connect(selection, signal, this, qOverload<>(&QWidget::update));
}

QList<QAction*> PlanView::tools() { return {m_fit, m_draw, m_labels}; }

QString PlanView::summary() const {
    if (!products()) return {};
    if (m_drawing) return tr("click the corners of the section line, double-click to end");
    const auto interval = products()->contourInterval;
    if (products()->contours && !products()->contours->empty())
        return tr("holes by kind · ground contours %1 m / %2 m").arg(interval).arg(interval * 5);
    return tr("holes by kind");
}

void PlanView::productsChanged() { fitIfNeeded(); }

QRectF PlanView::worldBounds() const {
    if (!products() || !products()->frame) return {};
    const auto b = products()->frame->box();
    return {b.xmin, b.ymin, b.width(), b.height()};
}

void PlanView::startDrawing() {
    m_drawing = true;
    m_line.clear();
    m_draw->setChecked(true);
    setCursor(Qt::CrossCursor);
    setFocus();
    emit summaryChanged();
    update();
}

void PlanView::finishDrawing() {
    m_drawing = false;
    m_draw->setChecked(false);
    unsetCursor();
    // a double click sets its corner twice
    m_line.erase(std::unique(m_line.begin(), m_line.end()), m_line.end());
    if (m_line.size() >= 2 && products()) {
        emit editMade(addSection(products()->project, m_line));
        selection()->setSection(int(products()->project.sections->size()));
    }
    m_line.clear();
    emit summaryChanged();
    update();
}

void PlanView::clicked(QPointF p) {
    if (m_drawing) {
        const auto w = toWorld(p);
        m_line.push_back({w.x(), w.y()});
        update();
        return;
    }
    const auto* hole = holeAt(p);
    selection()->setHole(hole ? QString::fromStdString(displayName(*products()->project.holes, *hole)) : QString());
}

void PlanView::mouseDoubleClickEvent(QMouseEvent* e) {
    if (m_drawing)
        finishDrawing();
    else
        PannedView::mouseDoubleClickEvent(e);
}

void PlanView::keyPressEvent(QKeyEvent* e) {
    if (m_drawing && (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter)) return finishDrawing();
    if (m_drawing && e->key() == Qt::Key_Escape) {
        m_line.clear();
        return finishDrawing();
    }
    PannedView::keyPressEvent(e);
}

void PlanView::hoveredAt(QPointF p) {
    const auto w = toWorld(p);
    m_cursor = Point2{w.x(), w.y()};
    if (m_drawing) update();
    if (!products()) return;
    const auto* hole = holeAt(p);
    selection()->setHovered(hole ? QString::fromStdString(displayName(*products()->project.holes, *hole)) : QString());
    const double level = products()->terrain->levelAt(*m_cursor).value_or(kNoValue);
    QString unit;
    if (products()->model && !products()->project.sequence->units.empty())
        if (const auto at = products()->model->columnAt(*m_cursor).unitAt(level))
            unit = QString::fromStdString(products()->project.sequence->units[*at].name);
    emit pointed(w.x(), w.y(), level, unit);
}

const Hole* PlanView::holeAt(QPointF p) const {
    constexpr double kReach = 9; // pixels
    const Hole* best = nullptr;
    double nearest = kReach;
    if (!products()) return nullptr;
    for (const auto& h : *products()->project.holes)
        if (const auto place = h.place()) {
            const auto d = QLineF(toScreen(place->x, place->y), p).length();
            if (d < nearest) nearest = d, best = &h;
        }
    return best;
}

void PlanView::centreOn(const QString& name) {
    if (!products()) return;
    const auto* hole = findHole(*products()->project.holes, name.toStdString());
    if (hole && hole->place() && !rect().contains(toScreen(hole->place()->x, hole->place()->y).toPoint())) fit();
}

void PlanView::paintContours(QPainter& painter) const {
    if (!products()->contours) return;
    const double major = products()->contourInterval * 5;
    painter.setBrush(Qt::NoBrush);
    for (const auto& c : *products()->contours) {
        QPolygonF line;
        line.reserve(qsizetype(c.line.size()));
        for (const auto& p : c.line) line << toScreen(p.x, p.y);
        const bool isMajor = std::abs(std::remainder(c.level, major)) < 1e-6;
        painter.setPen(QPen(isMajor ? colour::contourMajor : colour::contour, isMajor ? 1.3 : 0.8));
        painter.drawPolyline(line);
        if (!isMajor || line.size() < 12) continue;
        const auto at = line[line.size() / 2];
        const auto text = QString::number(c.level, 'g', 6);
        painter.setFont(bodyFont(10));
        const QRectF box(at - QPointF(12, 7), QSizeF(24, 14));
        painter.fillRect(box, colour::paper);
        painter.drawText(box, Qt::AlignCenter, text);
    }
}

void PlanView::paintLines(QPainter& painter) const {
    const auto& p = products()->project;
    if (!p.site->limit.empty()) {
        QPolygonF limit;
        for (const auto& c : p.site->limit) limit << toScreen(c.x, c.y);
        painter.setPen(QPen(colour::ink, 1, Qt::DashLine));
        painter.drawPolygon(limit);
    }
    painter.setFont(bodyFont(12, true));
    for (std::size_t i = 0; i < p.sections->size(); ++i) {
        const auto& s = (*p.sections)[i];
        const bool chosen = int(i) == selection()->section();
        QPolygonF line;
        for (const auto& c : s.line) line << toScreen(c.x, c.y);
        painter.setPen(QPen(chosen ? colour::fox : colour::slate, chosen ? 2 : 1.2));
        painter.drawPolyline(line);
        if (line.isEmpty()) continue;
        painter.drawText(line.first() + QPointF(-12, -5), QString::fromStdString(s.name));
        painter.drawText(line.last() + QPointF(6, -5), QString::fromStdString(s.name) + QChar(0x2032));
    }
    if (m_line.empty()) return;
    QPolygonF line;
    for (const auto& c : m_line) line << toScreen(c.x, c.y);
    if (m_cursor) line << toScreen(m_cursor->x, m_cursor->y);
    painter.setPen(QPen(colour::fox, 2, Qt::DashLine));
    painter.drawPolyline(line);
}

void paintHoleSymbol(QPainter& painter, QPointF at, HoleKind kind, double size) {
    painter.setPen(QPen(colour::ink, 1.4));
    painter.setBrush(colour::paper);
    switch (kind) {
    case HoleKind::Drilled:
        painter.drawEllipse(at, size, size);
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

void PlanView::paintHoles(QPainter& painter) const {
    const auto& holes = *products()->project.holes;
    std::vector<QRectF> taken;
    for (const auto& h : holes)
        if (const auto p = h.place()) taken.emplace_back(toScreen(p->x, p->y) - QPointF(7, 7), QSizeF(14, 14));
    painter.setFont(bodyFont(11));
    const QFontMetricsF metrics(painter.font());
    for (const auto& h : holes) {
        const auto place = h.place();
        if (!place) continue;
        const auto at = toScreen(place->x, place->y);
        const auto name = QString::fromStdString(displayName(holes, h));
        const bool selected = name == selection()->hole(), hovered = name == selection()->hovered();
        if (selected || hovered) {
            painter.setPen(QPen(colour::fox, selected ? 3 : 1.5));
            painter.setBrush(selected ? QColor(251, 233, 222, 180) : QColor(Qt::transparent));
            painter.drawEllipse(at, 11, 11);
        }
        paintHoleSymbol(painter, at, kindOf(h));
        if (!m_labels->isChecked() && !selected && !hovered) continue;
        const double wide = metrics.horizontalAdvance(name);
        // right, left, above, below: the first that is free; none, no label
        for (const auto& offset : {QPointF(10, -7), QPointF(-10 - wide, -7), QPointF(-wide / 2, -23), QPointF(-wide / 2, 9)}) {
            const QRectF box(at + offset, QSizeF(wide, 14));
            const bool free =
                QRectF(rect()).contains(box) && std::ranges::none_of(taken, [&](const QRectF& t) { return t.intersects(box); });
            if (!free && !selected && !hovered) continue;
            taken.push_back(box);
            painter.setPen(selected ? colour::fox : colour::ink);
            painter.drawText(box, Qt::AlignLeft | Qt::AlignVCenter, name);
            break;
        }
    }
}

void PlanView::paintScale(QPainter& painter) const {
    const double wanted = 110 / pixelsPerMetre(), power = std::pow(10, std::floor(std::log10(wanted)));
    const double length = power * (wanted / power >= 5 ? 5 : wanted / power >= 2 ? 2 : 1);
    const QPointF at(14, height() - 14);
    const double wide = length * pixelsPerMetre();
    painter.fillRect(QRectF(at.x() - 5, at.y() - 21, std::max(wide, 50.0) + 10, 28), QColor(255, 253, 249, 215));
    painter.setPen(QPen(colour::ink, 2));
    painter.drawLine(at, at + QPointF(wide, 0));
    painter.setFont(bodyFont(11));
    painter.drawText(at + QPointF(0, -5), length >= 1000 ? QString("%1 km").arg(length / 1000) : QString("%1 m").arg(length));
    const QPointF north(width() - 22, 40);
    painter.setBrush(colour::ink);
    painter.setPen(Qt::NoPen);
    painter.drawPolygon(QPolygonF({north + QPointF(0, -14), north + QPointF(5, 2), north + QPointF(-5, 2)}));
    painter.setPen(colour::ink);
    painter.drawText(QRectF(north + QPointF(-10, -30), QSizeF(20, 14)), Qt::AlignCenter, "N");
}

void PlanView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), colour::paper);
    if (worldBounds().isEmpty())
        return paintEmpty(painter, rect(),
                          products()
                              ? tr("No holes and no ground yet. Drop AGS files or a survey CSV on the window, or press Import.")
                              : tr("Working…"));
    paintContours(painter);
    paintLines(painter);
    paintHoles(painter);
    paintScale(painter);
}

} // namespace fox::app
