#include "views/log_panel.h"

#include "style/theme.h"

#include <QPainter>
#include <QPainterPath>

namespace fox::app {

namespace {
constexpr double kModel = 30, kWater = 20, kSamples = 14, kCores = 24, kTrack = 56, kLeastWords = 96; // pixels

QString qt(const std::string& s) { return QString::fromStdString(s); }

/// A round number above a value, for the end of an axis.
double roundUp(double v) {
    if (!(v > 0)) return 1;
    const double power = std::pow(10, std::floor(std::log10(v)));
    for (const double step : {1.0, 2.0, 5.0, 10.0})
        if (v <= step * power) return step * power;
    return 10 * power;
}
} // namespace

LogPanel::LogPanel(Source source, const QRectF& area, double deepest)
    : m_source(std::move(source)), m_area(area), m_deepest(std::max(1.0, deepest)) {}

double LogPanel::yOf(double depth) const { return m_area.top() + kTop + (m_area.height() - kTop - kFoot) * depth / m_deepest; }
double LogPanel::depthAt(double y) const { return (y - m_area.top() - kTop) / (m_area.height() - kTop - kFoot) * m_deepest; }

const Unit* LogPanel::unitOf(const Interval& i) const {
    if (m_source.reading)
        for (const auto& r : m_source.reading->intervals)
            if (r.top <= i.top && i.base <= r.base) return &m_source.sequence->units[r.unit];
    return nullptr;
}

void LogPanel::paint(QPainter& painter, const QString& chosenUnit, const std::optional<Moved>& moved) const {
    const auto& h = *m_source.hole;
    painter.save();
    painter.setClipRect(m_area);
    painter.setFont(bodyFont(12, true));
    painter.setPen(h.excluded ? colour::muted : colour::ink);
    const auto level = h.level ? QString("  %1").arg(metres(h.level->metres)) : QString();
    painter.drawText(QRectF(m_area.left() + 6, m_area.top() + 3, m_area.width() - 8, 17), Qt::AlignLeft | Qt::AlignVCenter,
                     m_source.name + level);
    paintScale(painter);
    paintColumn(painter, chosenUnit, moved);
    // words first, then what there is room for beside them, the most asked for before the rest
    double x = columnRight() + 4, right = m_area.right() - 4;
    if (!m_source.model.empty()) paintModel(painter, x), x += kModel;
    const auto room = [&](double wide) { return right - x - wide >= (h.intervals.empty() ? -1 : kLeastWords); };
    if ((!h.strikes.empty() || !h.installations.empty()) && room(kWater)) paintWater(painter, x), x += kWater;
    if (!h.blowCounts.empty() && room(kTrack)) right -= kTrack, paintBlows(painter, right, kTrack - 6);
    if (!h.samples.empty() && room(kSamples)) paintSamples(painter, x), x += kSamples;
    if (!h.coreRuns.empty() && room(kCores)) paintCores(painter, x), x += kCores;
    static const QColor kColours[] = {colour::slate, colour::fox, colour::moss, colour::amberText, colour::red};
    const bool logOnly = h.intervals.empty();
    const double wide = logOnly ? std::max(kTrack, (right - x) / double(std::max<std::size_t>(1, h.curves.size()))) : kTrack;
    std::size_t k = 0;
    for (const auto& c : h.curves) {
        if (!c.readings || c.readings->empty() || !room(wide)) continue;
        const double left = logOnly ? x + 4 : right - wide;
        (logOnly ? x : right) += logOnly ? wide : -wide;
        paintCurve(painter, c, left, wide - 8, kColours[k++ % std::size(kColours)]);
    }
    if (!h.intervals.empty()) paintWords(painter, x + 4, right - x - 8);
    painter.restore();
}

void LogPanel::paintColumn(QPainter& painter, const QString& chosenUnit, const std::optional<Moved>& moved) const {
    const auto& h = *m_source.hole;
    double lastBase = 0;
    for (std::size_t k = 0; k < h.intervals.size(); ++k) {
        const auto& i = h.intervals[k];
        if (!i.usable()) continue;
        double top = i.top.metres, base = i.base.metres;
        if (moved && moved->interval == k) base = moved->depth;
        if (moved && moved->interval + 1 == k) top = moved->depth;
        lastBase = base;
        const QRectF box(QPointF(columnLeft(), yOf(top)), QPointF(columnRight(), yOf(base)));
        const auto* unit = unitOf(i);
        painter.setPen(QPen(colour::ink, 1.1));
        painter.setBrush(unit ? QBrush(unitColour(*unit)) : QBrush(colour::paper));
        painter.drawRect(box);
        painter.setBrush(unit ? hatch(*unit) : QBrush(colour::muted, Qt::DiagCrossPattern));
        painter.drawRect(box);
        if (unit && chosenUnit == qt(unit->code)) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(colour::fox, 2.2));
            painter.drawRect(box);
        }
    }
    const auto* last = h.intervals.empty() ? nullptr : unitOf(h.intervals.back());
    if (!last || last == &m_source.sequence->units.back()) return;
    QPolygonF torn; // the hole stops short
    for (int k = 0; k <= 8; ++k) torn << QPointF(columnLeft() + kColumn * k / 8, yOf(lastBase) + (k % 2 ? 6 : 1));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::fox, 1.8));
    painter.drawPolyline(torn);
}

/// What the model has here, so that it can be held against the log by eye.
void LogPanel::paintModel(QPainter& painter, double x) const {
    const double right = x + kModel - 12;
    for (const auto& s : m_source.model) {
        const QRectF box(QPointF(x, yOf(s.top)), QPointF(right, yOf(s.base)));
        painter.setPen(QPen(colour::muted, 1));
        painter.setBrush(unitColour(m_source.sequence->units[s.unit]));
        painter.drawRect(box);
    }
    painter.setFont(bodyFont(10));
    painter.setPen(colour::muted);
    painter.drawText(QRectF(x - 8, m_area.top() + 24, kModel + 8, 13), Qt::AlignCenter,
                     QCoreApplication::translate("fox::app::LogView", "model"));
}

void LogPanel::paintScale(QPainter& painter) const {
    painter.setFont(bodyFont(11));
    const double perMetre = yOf(1) - yOf(0);
    // labels at least 34 pixels apart
    double step = 1;
    for (const double s : {0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0})
        if (step = s; s * perMetre >= 34) break;
    const double end = m_source.hole->end().metres;
    for (int k = 0; k * step / 5 <= end + 1e-9; ++k) {
        const double d = k * step / 5;
        const bool major = k % 5 == 0;
        painter.setPen(colour::muted);
        painter.drawLine(QPointF(columnLeft() - (major ? 8 : 4), yOf(d)), QPointF(columnLeft(), yOf(d)));
        if (major)
            painter.drawText(QRectF(m_area.left(), yOf(d) - 8, kScale - 11, 16), Qt::AlignRight | Qt::AlignVCenter,
                             QString::number(d));
    }
}

void LogPanel::paintWater(QPainter& painter, double x) const {
    using Part = Installation::Part;
    for (const auto& i : m_source.hole->installations) {
        const QRectF pipe(QPointF(x + 12, yOf(i.top.metres)), QPointF(x + 17, yOf(i.base.metres)));
        if (i.part == Part::ResponseZone) {
            painter.fillRect(pipe.adjusted(-3, 0, 3, 0), QColor(181, 201, 211, 120));
            continue;
        }
        painter.setPen(QPen(colour::slate, 1, i.part == Part::SlottedPipe ? Qt::DotLine : Qt::SolidLine));
        painter.drawLine(pipe.topLeft(), pipe.bottomLeft());
        painter.drawLine(pipe.topRight(), pipe.bottomRight());
    }
    for (const auto& s : m_source.hole->strikes) {
        const QPointF at(x + 6, yOf(s.depth.metres));
        painter.setPen(QPen(colour::slate, 1.3));
        painter.setBrush(colour::water);
        painter.drawPolygon(QPolygonF({at, at + QPointF(-5, -8), at + QPointF(5, -8)}));
        if (!s.roseTo) continue;
        const QPointF rose(x + 6, yOf(s.roseTo->metres));
        painter.setBrush(Qt::NoBrush);
        painter.drawLine(at, rose);
        painter.drawPolygon(QPolygonF({rose, rose + QPointF(-5, -8), rose + QPointF(5, -8)}));
    }
}

void LogPanel::paintSamples(QPainter& painter, double x) const {
    painter.setPen(QPen(colour::ink, 1));
    for (const auto& s : m_source.hole->samples) {
        const double y = yOf(s.top.metres), base = yOf(s.base.value_or(s.top).metres);
        painter.setBrush(colour::ink);
        if (base - y > 3)
            painter.drawRect(QRectF(x + 4, y, 4, base - y));
        else
            painter.drawEllipse(QPointF(x + 6, y), 2.5, 2.5);
    }
}

/// Total recovery light, solid darker, RQD darkest, a tenth of the width each ten per cent.
void LogPanel::paintCores(QPainter& painter, double x) const {
    for (const auto& c : m_source.hole->coreRuns) {
        const QRectF run(QPointF(x + 2, yOf(c.top.metres)), QPointF(x + kCores - 4, yOf(c.base.metres)));
        const std::pair<std::optional<double>, QColor> kBars[] = {
            {c.recovery, QColor("#E4DACB")}, {c.solid, QColor("#BFAF98")}, {c.rqd, QColor("#7A6B55")}};
        for (const auto& [percent, fill] : kBars)
            if (percent)
                painter.fillRect(QRectF(run.left(), run.top(), run.width() * std::clamp(*percent / 100, 0.0, 1.0), run.height()),
                                 fill);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(colour::muted, 0.8));
        painter.drawRect(run);
    }
}

void LogPanel::paintWords(QPainter& painter, double x, double wide) const {
    if (wide < 50) return;
    const auto& h = *m_source.hole;
    painter.setFont(bodyFont(11));
    const QFontMetricsF metrics(painter.font());
    double free = 0;
    for (const auto& i : h.intervals) {
        if (!i.usable()) continue;
        const double y = std::max(yOf(i.top.metres), free), room = yOf(i.base.metres) - y;
        if (room < metrics.height() - 2) continue; // no room: the tooltip has it
        const int lines = std::max(1, int(room / metrics.lineSpacing()));
        const auto* unit = unitOf(i);
        const auto code = i.codes.find(m_source.sequence->unitHeading);
        const auto lead = unit ? qt(unit->code) : code == i.codes.end() ? QString("?") : qt(code->second) + "?";
        auto words = lead + "  " + qt(i.description);
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

void LogPanel::paintTrack(QPainter& painter, double x, double wide, const QString& name, double low, double high,
                          const QString& unit) const {
    painter.setPen(QPen(colour::line, 1));
    painter.drawLine(QPointF(x, yOf(0)), QPointF(x, yOf(m_deepest)));
    painter.drawLine(QPointF(x + wide, yOf(0)), QPointF(x + wide, yOf(m_deepest)));
    painter.setFont(bodyFont(10));
    painter.setPen(colour::muted);
    const auto elided = QFontMetrics(painter.font()).elidedText(name, Qt::ElideRight, int(wide + 4));
    painter.drawText(QRectF(x - 2, m_area.top() + 19, wide + 6, 13), Qt::AlignLeft, elided);
    painter.drawText(QRectF(x - 2, m_area.bottom() - 18, wide + 4, 13), Qt::AlignLeft, QString::number(low, 'g', 3));
    painter.drawText(QRectF(x - 2, m_area.bottom() - 18, wide + 4, 13), Qt::AlignRight,
                     QString::number(high, 'g', 3) + (wide > 70 && !unit.isEmpty() ? " " + unit : QString()));
}

void LogPanel::paintBlows(QPainter& painter, double x, double wide) const {
    const auto& counts = m_source.hole->blowCounts;
    const double most = std::max(50.0, std::ranges::max(counts, {}, &BlowCount::blows).blows);
    paintTrack(painter, x, wide, QCoreApplication::translate("fox::app::LogView", "SPT N"), 0, most);
    QPolygonF line;
    for (const auto& b : counts) line << QPointF(x + wide * b.blows / most, yOf(b.depth.metres));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::slate, 1.4));
    painter.drawPolyline(line);
    painter.setBrush(colour::slate);
    for (const auto& p : line) painter.drawEllipse(p, 2, 2);
}

void LogPanel::paintCurve(QPainter& painter, const Curve& c, double x, double wide, const QColor& ink) const {
    double high = 0, low = 0;
    for (const auto& r : *c.readings)
        if (!std::isnan(r.value)) high = std::max(high, r.value), low = std::min(low, r.value);
    high = roundUp(high);
    const auto at = [&](const Curve::Reading& r) { return QPointF(x + wide * (r.value - low) / (high - low), yOf(r.depth)); };
    paintTrack(painter, x, wide, qt(c.name), low, high, qt(c.unit));
    painter.setPen(QPen(ink, 1.1));
    painter.setBrush(ink);
    if (c.single) {
        for (const auto& r : *c.readings)
            if (!std::isnan(r.value)) painter.drawEllipse(at(r), 2, 2);
        return;
    }
    QPainterPath path;
    bool open = false;
    // no more points than lines of pixels can show: extremes stay
    const std::size_t stride = std::max<std::size_t>(1, c.readings->size() / 4000);
    for (std::size_t i = 0; i < c.readings->size(); i += stride) {
        const auto& r = (*c.readings)[i];
        if (std::isnan(r.value)) {
            open = false;
            continue;
        }
        open ? path.lineTo(at(r)) : path.moveTo(at(r));
        open = true;
    }
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(path);
}

} // namespace fox::app
