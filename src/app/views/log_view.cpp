#include "views/log_view.h"

#include "base/errors.h"
#include "style/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <fmt/format.h>

namespace fox::app {

namespace {
constexpr double kTop = 22, kFoot = 26, kWide = 40; // pixels
}

LogView::LogView(Selection* selection, QWidget* parent) : View(selection, parent) {
    setObjectName("logView");
    setAccessibleName(tr("Log of the selected hole"));
    connect(selection, &Selection::holeChanged, this, [this] {
        m_drag.reset();
        emit summaryChanged();
        update();
    });
    connect(selection, &Selection::unitChanged, this, qOverload<>(&QWidget::update));
}

const Hole* LogView::hole() const {
    return products() ? findHole(*products()->project.holes, selection()->hole().toStdString()) : nullptr;
}

QString LogView::summary() const {
    const auto* h = hole();
    return h ? QString::fromStdString(fmt::format("{} · {}", displayName(*products()->project.holes, *h), typeInWords(h->type)))
             : QString();
}

const Unit* LogView::unitOf(const Interval& i) const {
    for (const auto& read : products()->reading->holes)
        if (read.name == selection()->hole().toStdString())
            for (const auto& r : read.intervals)
                if (r.top <= i.top && i.base <= r.base) return &products()->project.sequence->units[r.unit];
    return nullptr;
}

double LogView::yOf(double depth) const {
    const auto* h = hole();
    const double end = h ? std::max(1.0, h->end().metres) : 10;
    return kTop + (height() - kTop - kFoot) * depth / end;
}

double LogView::depthAt(double y) const {
    const auto* h = hole();
    const double end = h ? std::max(1.0, h->end().metres) : 10;
    return (y - kTop) / (height() - kTop - kFoot) * end;
}

void LogView::paintColumn(QPainter& painter, const Hole& h) const {
    const double x = columnX();
    double lastBase = 0;
    for (std::size_t k = 0; k < h.intervals.size(); ++k) {
        const auto& i = h.intervals[k];
        if (!i.usable()) continue;
        double top = i.top.metres, base = i.base.metres;
        if (m_drag && m_drag->interval == k) base = m_drag->depth;
        if (m_drag && m_drag->interval + 1 == k) top = m_drag->depth;
        lastBase = base;
        const QRectF box(QPointF(x, yOf(top)), QPointF(x + kWide, yOf(base)));
        const auto* unit = unitOf(i);
        painter.setPen(QPen(colour::ink, 1.1));
        painter.setBrush(unit ? QBrush(unitColour(*unit)) : QBrush(colour::paper));
        painter.drawRect(box);
        painter.setBrush(unit ? hatch(*unit) : QBrush(colour::muted, Qt::DiagCrossPattern));
        painter.drawRect(box);
        if (unit && selection()->unit() == QString::fromStdString(unit->code)) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(colour::fox, 2.2));
            painter.drawRect(box);
        }
    }
    const auto& units = products()->project.sequence->units;
    const auto* last = h.intervals.empty() ? nullptr : unitOf(h.intervals.back());
    if (last && last != &units.back()) { // torn off: the hole stops short
        QPolygonF torn;
        for (int k = 0; k <= 8; ++k) torn << QPointF(x + kWide * k / 8, yOf(lastBase) + (k % 2 ? 6 : 1));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(colour::fox, 1.8));
        painter.drawPolyline(torn);
    }
    painter.setFont(bodyFont(11));
    const double end = h.end().metres;
    const double step = end > 40 ? 10 : end > 12 ? 5 : end > 4 ? 2 : 1;
    for (double d = 0; d <= end + 1e-9; d += step / 5) {
        const bool major = std::abs(std::remainder(d, step)) < 1e-6;
        painter.setPen(colour::muted);
        painter.drawLine(QPointF(x - (major ? 8 : 4), yOf(d)), QPointF(x, yOf(d)));
        if (major) painter.drawText(QRectF(0, yOf(d) - 8, x - 11, 16), Qt::AlignRight | Qt::AlignVCenter, QString::number(d));
    }
}

void LogView::paintWords(QPainter& painter, const Hole& h) const {
    const bool blows = !h.blowCounts.empty() && width() > 205;
    const double x = columnX() + kWide + 8, wide = width() - x - (blows ? 66 : 6);
    painter.setFont(bodyFont(11));
    const QFontMetricsF metrics(painter.font());
    double free = 0;
    for (const auto& i : h.intervals) {
        if (!i.usable()) continue;
        const double y = std::max(yOf(i.top.metres), free), room = yOf(i.base.metres) - y;
        if (room < metrics.height() - 2) continue; // no room: the tooltip has it
        const int lines = std::max(1, int(room / metrics.lineSpacing()));
        const auto* unit = unitOf(i);
        const auto code = i.codes.find(products()->project.sequence->unitHeading);
        const auto lead = unit                    ? QString::fromStdString(unit->code)
                          : code == i.codes.end() ? QString("?")
                                                  : QString::fromStdString(code->second) + "?";
        auto words = lead + "  " + QString::fromStdString(i.description);
        QRectF box(x, y, wide, lines * metrics.lineSpacing() + 1);
        auto fits = metrics.boundingRect(box, Qt::TextWordWrap, words).height() <= box.height() + 1;
        while (!fits && words.size() > 4) {
            words.truncate(words.lastIndexOf(' ', words.endsWith(QChar(0x2026)) ? -3 : -1));
            if (words.size() < 6) break;
            words += QChar(0x2026);
            fits = metrics.boundingRect(box, Qt::TextWordWrap, words).height() <= box.height() + 1;
        }
        painter.setPen(unit ? colour::ink : colour::red);
        painter.drawText(box, Qt::TextWordWrap, words);
        free = y + std::min(box.height(), metrics.boundingRect(box, Qt::TextWordWrap, words).height());
    }
}

void LogView::paintBlows(QPainter& painter, const Hole& h) const {
    if (h.blowCounts.empty() || width() <= 205) return;
    const double x = width() - 60, wide = 50;
    const double most = std::max(50.0, std::ranges::max(h.blowCounts, {}, &BlowCount::blows).blows);
    painter.setFont(bodyFont(10));
    painter.setPen(colour::slate);
    painter.drawText(QRectF(x - 6, height() - 20, wide + 12, 16), Qt::AlignCenter, tr("SPT N to %1").arg(most));
    QPolygonF line;
    for (const auto& b : h.blowCounts) line << QPointF(x + wide * b.blows / most, yOf(b.depth.metres));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::slate, 1.4));
    painter.drawPolyline(line);
    painter.setBrush(colour::slate);
    for (const auto& p : line) painter.drawEllipse(p, 2, 2);
}

void LogView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), colour::paper);
    const auto* h = hole();
    if (!h) return paintEmpty(painter, rect(), tr("Pick a hole on the plan, in the table or on a section to see its log."));
    if (h->intervals.empty()) return paintEmpty(painter, rect(), tr("%1 has no geology.").arg(selection()->hole()));
    paintColumn(painter, *h);
    paintWords(painter, *h);
    paintBlows(painter, *h);
    if (!m_drag) return;
    painter.setPen(QPen(colour::fox, 1.6));
    painter.drawLine(QPointF(columnX() - 8, yOf(m_drag->depth)), QPointF(width() - 4.0, yOf(m_drag->depth)));
    painter.setFont(bodyFont(11, true));
    painter.drawText(QRectF(columnX() + kWide + 8, yOf(m_drag->depth) - 17, 120, 16), Qt::AlignLeft, metres(m_drag->depth));
}

std::optional<std::size_t> LogView::boundaryAt(QPointF p) const {
    const auto* h = hole();
    if (!h || p.x() < columnX() - 8 || p.x() > columnX() + kWide + 8) return {};
    for (std::size_t k = 0; k + 1 < h->intervals.size(); ++k)
        if (h->intervals[k].usable() && std::abs(yOf(h->intervals[k].base.metres) - p.y()) < 5) return k;
    return {};
}

void LogView::mousePressEvent(QMouseEvent* e) {
    const auto boundary = boundaryAt(e->position());
    if (boundary && e->button() == Qt::LeftButton)
        m_drag = Drag{*boundary, hole()->intervals[*boundary].base.metres};
    else if (const auto* h = hole()) {
        const double depth = depthAt(e->position().y());
        for (const auto& i : h->intervals)
            if (i.usable() && i.top.metres <= depth && depth < i.base.metres)
                if (const auto* unit = unitOf(i)) selection()->setUnit(QString::fromStdString(unit->code));
    }
    update();
}

void LogView::mouseMoveEvent(QMouseEvent* e) {
    const auto* h = hole();
    if (!h) return;
    const double depth = depthAt(e->position().y());
    if (m_drag && m_drag->interval + 1 < h->intervals.size()) {
        constexpr double kLeast = 0.01; // metres; no interval without length
        const double low = h->intervals[m_drag->interval].top.metres + kLeast,
                     high = h->intervals[m_drag->interval + 1].base.metres - kLeast;
        m_drag->depth = std::clamp(std::round(depth * 100) / 100, std::min(low, high), high);
        update();
        return;
    }
    setCursor(boundaryAt(e->position()) ? Qt::SplitVCursor : Qt::ArrowCursor);
    QString tip;
    for (const auto& i : h->intervals)
        if (i.usable() && i.top.metres <= depth && depth < i.base.metres)
            tip = QString::fromStdString(
                fmt::format("{:.2f} to {:.2f} m: {}\n{}, line {}", i.top.metres, i.base.metres, i.description, h->file, i.line));
    setToolTip(tip);
    if (h->level && h->place()) emit pointed(h->place()->x, h->place()->y, h->level->metres - depth, {});
}

void LogView::mouseReleaseEvent(QMouseEvent*) {
    if (!m_drag) return;
    const auto drag = *m_drag;
    m_drag.reset();
    update();
    const auto* h = hole();
    if (!h || h->intervals[drag.interval].base.metres == drag.depth) return;
    try {
        emit editMade(moveBoundary(products()->project, selection()->hole().toStdString(), drag.interval, Depth{drag.depth}));
    } catch (const Error& e) {
        emit failed(QString::fromStdString(e.what()));
    }
}

void LogView::leaveEvent(QEvent*) { emit pointed(kNoValue, kNoValue, kNoValue, {}); }

void LogView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape && m_drag) {
        m_drag.reset();
        update();
        return;
    }
    View::keyPressEvent(e);
}

} // namespace fox::app
