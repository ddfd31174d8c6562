#include "views/plan_view.h"

#include "base/errors.h"
#include "style/theme.h"

#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

namespace fox::app {

PlanView::PlanView(Selection* selection, QWidget* parent)
    : PannedView(selection, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_draw(new QAction(tr("draw section"), this)),
      m_colour(new QAction(tr("colour"), this)),
      m_labels(new QAction(tr("labels"), this)) {
    setObjectName("planView");
    setAccessibleName(tr("Plan of the site"));
    m_fit->setToolTip(tr("Show everything (F)"));
    m_draw->setToolTip(tr("Draw a section line: click its corners, double-click or Enter to end, Esc to give up"));
    m_draw->setCheckable(true);
    m_colour->setToolTip(tr("Colour the holes by a value: depth, level, a unit's depth or thickness, blow counts"));
    m_labels->setToolTip(tr("What is written beside the holes"));
    connect(m_fit, &QAction::triggered, this, &PannedView::fit);
    connect(m_draw, &QAction::triggered, this, [this](bool on) {
        if (on)
            startDrawing();
        else
            m_drawing = false, m_line.clear(), update();
    });
    connect(m_colour, &QAction::triggered, this, &PlanView::chooseColouring);
    connect(m_labels, &QAction::triggered, this, &PlanView::chooseLabel);
    for (auto signal : {&Selection::holeChanged, &Selection::hoverChanged, &Selection::sectionChanged})
        connect(selection, signal, this, qOverload<>(&QWidget::update));
}

QList<QAction*> PlanView::tools() { return {m_fit, m_draw, m_colour, m_labels}; }

QString PlanView::summary() const {
    if (!products()) return {};
    if (m_drawing) return tr("click the corners of the section line, double-click to end");
    if (!m_placing.isEmpty()) return tr("click where %1 is, Esc to give up").arg(m_placing);
    if (m_colouring)
        return tr("holes by %1").arg(QString::fromStdString(fox::words(*m_colouring, *products()->project.sequence)));
    const auto interval = products()->contourInterval;
    if (products()->contours && !products()->contours->empty())
        return tr("holes by kind · ground contours %1 m / %2 m").arg(interval).arg(interval * 5);
    return tr("holes by kind");
}

void PlanView::productsChanged() {
    m_names = products() ? displayNames(*products()->project.holes) : std::vector<std::string>();
    workOutValues();
    fitIfNeeded();
}

void PlanView::workOutValues() {
    m_values.clear();
    if (!m_colouring || !products()) return update();
    m_values = valuesOf(*m_colouring, *products()->project.holes, *products()->reading);
    m_low = m_high = kNoValue;
    for (const auto& v : m_values)
        if (v) m_low = std::fmin(m_low, *v), m_high = std::fmax(m_high, *v);
    update();
}

void PlanView::setColouring(std::optional<HoleValue> value) {
    m_colouring = value;
    if (value && m_label == Label::Name) m_label = Label::Value;
    if (!value && m_label == Label::Value) m_label = Label::Name;
    workOutValues();
    emit summaryChanged();
}

void PlanView::setLabel(Label label) {
    m_label = label;
    update();
}

void PlanView::chooseColouring() {
    if (!products()) return;
    using Kind = HoleValue::Kind;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](QMenu* to, const QString& words, std::optional<HoleValue> value) {
        auto* a = to->addAction(words, this, [this, value] { setColouring(value); });
        a->setCheckable(true);
        a->setChecked(m_colouring == value);
    };
    add(menu, tr("Nothing"), {});
    add(menu, tr("Final depth"), HoleValue{Kind::FinalDepth});
    add(menu, tr("Ground level"), HoleValue{Kind::GroundLevel});
    const auto& units = products()->project.sequence->units;
    auto* depth = menu->addMenu(tr("Depth to a unit"));
    auto* thickness = menu->addMenu(tr("Thickness of a unit"));
    for (std::size_t u = 0; u < units.size(); ++u) {
        add(depth, QString::fromStdString(units[u].name), HoleValue{Kind::DepthToUnit, u});
        add(thickness, QString::fromStdString(units[u].name), HoleValue{Kind::UnitThickness, u});
    }
    auto* blows = menu->addMenu(tr("SPT N at a depth"));
    for (const double at : {1.0, 2.0, 3.0, 5.0, 7.5, 10.0, 15.0, 20.0})
        add(blows, tr("%1 m").arg(at), HoleValue{Kind::BlowCount, 0, at});
    menu->popup(QCursor::pos());
}

void PlanView::chooseLabel() {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const std::pair<Label, QString> kLabels[] = {
        {Label::None, tr("Nothing")},           {Label::Name, tr("Name")},
        {Label::Kind, tr("Kind of hole")},      {Label::GroundLevel, tr("Ground level")},
        {Label::FinalDepth, tr("Final depth")}, {Label::Value, tr("Name and what it is coloured by")}};
    for (const auto& [label, words] : kLabels) {
        auto* a = menu->addAction(words, this, [this, l = label] { setLabel(l); });
        a->setCheckable(true);
        a->setChecked(m_label == label);
    }
    menu->popup(QCursor::pos());
}

QString PlanView::labelOf(std::size_t i) const {
    const auto& h = (*products()->project.holes)[i];
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

void PlanView::startPlacing(const QString& hole) {
    m_placing = hole;
    setCursor(Qt::CrossCursor);
    setFocus();
    emit summaryChanged();
    update();
}

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
    if (!m_placing.isEmpty() && products()) {
        const auto w = toWorld(p);
        const auto name = std::exchange(m_placing, {});
        unsetCursor();
        emit summaryChanged();
        try { // the place is given to the centimetre
            emit editMade(setHolePlace(products()->project, name.toStdString(),
                                       {std::round(w.x() * 100) / 100, std::round(w.y() * 100) / 100}));
            selection()->setHole(name);
        } catch (const Error& e) {
            emit failed(QString::fromStdString(e.what()));
        }
        return;
    }
    if (m_drawing) {
        const auto w = toWorld(p);
        m_line.push_back({w.x(), w.y()});
        update();
        return;
    }
    const auto* hole = holeAt(p);
    selection()->setHole(hole ? QString::fromStdString(m_names[std::size_t(hole - products()->project.holes->data())])
                              : QString());
}

void PlanView::mouseDoubleClickEvent(QMouseEvent* e) {
    if (m_drawing)
        finishDrawing();
    else
        PannedView::mouseDoubleClickEvent(e);
}

void PlanView::keyPressEvent(QKeyEvent* e) {
    if (!m_placing.isEmpty() && e->key() == Qt::Key_Escape) {
        m_placing.clear();
        unsetCursor();
        return emit summaryChanged();
    }
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
    selection()->setHovered(hole ? QString::fromStdString(m_names[std::size_t(hole - products()->project.holes->data())])
                                 : QString());
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

namespace {

/// Which part of the screen has something on it, in squares of a few pixels: labels keep out of each other's way.
class Occupied {
public:
    explicit Occupied(const QSize& size)
        : m_columns(size.width() / kSquare + 1),
          m_rows(size.height() / kSquare + 1),
          m_taken(std::size_t(m_columns * m_rows), false) {}
    bool free(const QRectF& box) const {
        bool all = true;
        each(box, [&](std::size_t i) { all = all && !m_taken[i]; });
        return all;
    }
    void take(const QRectF& box) {
        each(box, [&](std::size_t i) { m_taken[i] = true; });
    }

private:
    static constexpr int kSquare = 4; // pixels
    template <typename Use>
    void each(const QRectF& box, Use&& use) const {
        const int left = std::max(0, int(box.left()) / kSquare), right = std::min(m_columns - 1, int(box.right()) / kSquare);
        const int top = std::max(0, int(box.top()) / kSquare), bottom = std::min(m_rows - 1, int(box.bottom()) / kSquare);
        for (int r = top; r <= bottom; ++r)
            for (int c = left; c <= right; ++c) use(std::size_t(r * m_columns + c));
    }
    int m_columns, m_rows;
    mutable std::vector<bool> m_taken;
};

} // namespace

void PlanView::paintHoles(QPainter& painter) const {
    const auto& holes = *products()->project.holes;
    Occupied occupied(size());
    std::vector<std::size_t> order; // the selected one last, over the others
    for (std::size_t i = 0; i < holes.size(); ++i)
        if (const auto p = holes[i].place()) {
            const auto at = toScreen(p->x, p->y);
            if (!QRectF(rect()).adjusted(-20, -20, 20, 20).contains(at)) continue;
            occupied.take({at - QPointF(7, 7), QSizeF(14, 14)});
            order.push_back(i);
        }
    const auto chosen = selection()->hole().toStdString();
    std::ranges::stable_partition(order, [&](std::size_t i) { return m_names[i] != chosen; });
    painter.setFont(bodyFont(11));
    const QFontMetricsF metrics(painter.font());
    for (const auto i : order) {
        const auto& h = holes[i];
        const auto at = toScreen(h.place()->x, h.place()->y);
        const auto name = QString::fromStdString(m_names[i]);
        const bool selected = name == selection()->hole(), hovered = name == selection()->hovered();
        if (selected || hovered) {
            painter.setPen(QPen(colour::fox, selected ? 3 : 1.5));
            painter.setBrush(selected ? QColor(251, 233, 222, 180) : QColor(Qt::transparent));
            painter.drawEllipse(at, 11, 11);
        }
        const bool valued = i < m_values.size() && m_values[i];
        const double span = m_high > m_low ? m_high - m_low : 1;
        if (m_colouring && !valued) painter.setOpacity(0.45);
        paintHoleSymbol(painter, at, kindOf(h), m_colouring && valued ? 7 : 6,
                        valued ? valueColour((*m_values[i] - m_low) / span) : QColor());
        painter.setOpacity(1);
        if (h.leftOut) { // crossed out: it speaks of no surface
            painter.setPen(QPen(colour::red, 1.6));
            painter.drawLine(at + QPointF(-8, 8), at + QPointF(8, -8));
        }
        const auto label = labelOf(i).isEmpty() && (selected || hovered) ? name : labelOf(i);
        if (label.isEmpty()) continue;
        const double wide = metrics.horizontalAdvance(label);
        // right, left, above, below: the first that is free; none, no label
        for (const auto& offset : {QPointF(10, -7), QPointF(-10 - wide, -7), QPointF(-wide / 2, -23), QPointF(-wide / 2, 9)}) {
            const QRectF box(at + offset, QSizeF(wide, 14));
            if (!(QRectF(rect()).contains(box) && occupied.free(box)) && !selected && !hovered) continue;
            occupied.take(box);
            painter.setPen(selected ? colour::fox : colour::ink);
            painter.drawText(box, Qt::AlignLeft | Qt::AlignVCenter, label);
            break;
        }
    }
}

void PlanView::paintLegend(QPainter& painter) const {
    if (!m_colouring || std::isnan(m_low)) return;
    const QRectF box(width() - 190, height() - 46, 178, 36);
    painter.fillRect(box.adjusted(-6, -4, 6, 4), QColor(255, 253, 249, 225));
    for (int k = 0; k < 60; ++k)
        painter.fillRect(QRectF(box.left() + k * box.width() / 60, box.top() + 15, box.width() / 60 + 1, 8),
                         valueColour(k / 59.0));
    painter.setPen(colour::ink);
    painter.setFont(bodyFont(11));
    painter.drawText(box, Qt::AlignTop | Qt::AlignLeft,
                     QString::fromStdString(fox::words(*m_colouring, *products()->project.sequence)));
    painter.drawText(box, Qt::AlignBottom | Qt::AlignLeft, QString::number(m_low, 'g', 4));
    painter.drawText(box, Qt::AlignBottom | Qt::AlignRight, QString::number(m_high, 'g', 4));
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
    paintLegend(painter);
}

} // namespace fox::app
