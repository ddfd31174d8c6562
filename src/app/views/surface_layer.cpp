#include "views/surface_layer.h"

#include "ground/contours.h"
#include "ground/shading.h"
#include "style/theme.h"
#include "views/contour_lines.h"
#include "views/value_legend.h"

#include <QPainter>
#include <QPainterPath>

namespace fox::app {

namespace {

SurfaceValue valueOf(PlanLook::Surface surface) { return SurfaceValue(int(surface) - 1); }

/// Small errors green, large ones red, against a scale in metres.
QColor errorColour(double error, double scale) {
    const double t = std::clamp(std::abs(error) / scale, 0.0, 1.0);
    const auto mix = [&](const QColor& a, const QColor& b, double s) {
        return QColor(int(a.red() + s * (b.red() - a.red())), int(a.green() + s * (b.green() - a.green())),
                      int(a.blue() + s * (b.blue() - a.blue())));
    };
    return t < 0.5 ? mix(colour::green, colour::amber, 2 * t) : mix(colour::amber, colour::red, 2 * t - 1);
}

} // namespace

SurfaceLayer::SurfaceLayer(QObject* parent) : QObject(parent), m_work(this) {}

void SurfaceLayer::setProducts(std::shared_ptr<const ProductSet> products) { m_products = std::move(products); }

void SurfaceLayer::setUnit(std::optional<std::size_t> unit) {
    if (unit == m_unit) return;
    m_unit = unit;
    m_made.image = {}; // of another unit: not even for a moment
    m_made.lines.clear(), m_made.presence.clear();
    emit changed();
}

void SurfaceLayer::setDragged(std::shared_ptr<const Variogram> v) {
    if (v == m_dragged) return;
    m_dragged = std::move(v);
    emit changed();
}

void SurfaceLayer::want(const PlanTransform& t, const PlanLook& look) {
    const auto surface = look.surface;
    const auto& own = m_products->project.sequence->units[*m_unit].recipe.grid;
    const Wanted wanted{m_products->model, m_unit, surface, t.world, m_dragged, own, look.scale, look.classes};
    if (wanted == m_wanted) return;
    if (m_dragged && m_work.busy()) return; // one picture after the other; it is asked for again when this one is there
    if (surface != m_wanted.surface) m_made.image = {}, m_made.lines.clear(), m_made.presence.clear();
    start(wanted, t.pixelsPerMetre);
}

void SurfaceLayer::start(const Wanted& wanted, double pixelsPerMetre) {
    m_wanted = wanted;
    m_work.start([wanted, pixelsPerMetre](const Progress& progress) { return make(wanted, pixelsPerMetre, progress); },
                 [this](Made made) {
                     m_made = std::move(made);
                     emit changed();
                 },
                 [](const QString&) {});
}

SurfaceLayer::Made SurfaceLayer::make(const Wanted& wanted, double pixelsPerMetre, const Progress& progress) {
    const auto& model = *wanted.model;
    const auto unit = *wanted.unit;
    const auto& world = wanted.world;
    const double kPixels = wanted.dragged ? 12 : 6; // on the screen, a cell; smoothed when drawn
    const Frame frame =
        wanted.grid.value_or(Frame{world.left(), world.top(), world.right(), world.bottom(), kPixels / pixelsPerMetre});
    const auto value = valueOf(wanted.surface);
    SurfaceMap map;
    if (wanted.dragged) {
        auto changed = model.sequence->units[unit];
        changed.recipe.settings.variogram = *wanted.dragged;
        map = mapOf(withBase(model, unit, fitBase(changed, {model.bases[unit]->in}, progress)), unit, value, frame, progress);
    } else {
        map = mapOf(model, unit, value, frame, progress);
    }
    Made made{QImage(frame.columns(), frame.rows(), QImage::Format_ARGB32_Premultiplied), {}, {}, {}, {}, 1};
    made.world.setLeft(frame.xmin);
    made.world.setBottom(frame.ymax), made.world.setTop(frame.ymax - frame.rows() * frame.cell);
    made.world.setRight(frame.xmin + frame.columns() * frame.cell);
    PlanLook look;
    look.scale = wanted.scale, look.classes = wanted.classes;
    made.colours = coloursFor(map.values.values, look);
    auto &low = made.colours.low, &high = made.colours.high;
    if (value == SurfaceValue::Chance) low = 0, high = 1;
    if (value == SurfaceValue::Uncertainty || value == SurfaceValue::Distance || value == SurfaceValue::Thickness) low = 0;
    const bool fades = value == SurfaceValue::Level || value == SurfaceValue::Thickness || value == SurfaceValue::Depth
                       || value == SurfaceValue::Top;
    const auto light = lightOn(map.values, 315, 45, 6);
    for (int r = 0; r < frame.rows(); ++r) {
        auto* line = reinterpret_cast<QRgb*>(made.image.scanLine(r));
        for (int c = 0; c < frame.columns(); ++c) {
            const double v = map.values.at(c, r);
            if (std::isnan(v)) {
                line[c] = 0;
                continue;
            }
            const auto base = qColour(made.colours.of(v));
            const double l = light.at(c, r), dim = !fades || std::isnan(l) ? 1 : 0.75 + 0.35 * l;
            const double alpha = fades ? 0.15 + 0.85 * map.confidence.at(c, r) : 0.9;
            const auto channel = [&](int k) { return int(std::clamp(k * dim, 0.0, 255.0) * alpha); };
            line[c] = qRgba(channel(base.red()), channel(base.green()), channel(base.blue()), int(255 * alpha));
        }
    }
    made.presence = presenceLines(map.presence, typicalSpacing(*model.bases[unit]));
    if (std::isnan(low)) return made;
    made.interval = value == SurfaceValue::Chance ? 0.25 : contourInterval(low, std::max(high, low + 1e-3));
    made.lines = contoursOf(map.values, made.interval);
    return made;
}

void SurfaceLayer::paintBehind(QPainter& painter, const PlanTransform& t, const PlanLook& look, Occupied& occupied) {
    if (!m_products || !m_products->model || !shown(look) || *m_unit >= m_products->model->bases.size()) return;
    want(t, look);
    if (m_made.image.isNull()) return;
    const auto& w = m_made.world;
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(QRectF(t.toScreen(w.left(), w.bottom()), t.toScreen(w.right(), w.top())), m_made.image);
    paintContourLines(painter, t, m_made.lines, occupied);
    paintPresence(painter, t);
}

/// On a light line, solid where it is known to within half the distance between data points.
void SurfaceLayer::paintPresence(QPainter& painter, const PlanTransform& t) const {
    for (const auto& stretch : m_made.presence) {
        QPolygonF line;
        for (const auto& p : stretch.line) line << t.toScreen(p.x, p.y);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(255, 255, 255, 190), 5));
        painter.drawPolyline(line);
        QPen pen(colour::ink, 2.4, stretch.isSure ? Qt::SolidLine : Qt::DashLine);
        pen.setCapStyle(Qt::FlatCap);
        painter.setPen(pen);
        painter.drawPolyline(line);
    }
}

/// A filled disc or area where the geologist says that the unit is, an empty one where it is not.
void SurfaceLayer::paintPresenceMarks(QPainter& painter, const PlanTransform& t) const {
    const auto& code = m_products->project.sequence->units[*m_unit].code;
    for (const auto& mark : m_products->project.interpretation->presence) {
        if (mark.unit != code) continue;
        QPolygonF area;
        for (const auto& p : mark.area) area << t.toScreen(p.x, p.y);
        painter.setPen(QPen(colour::fox, 2));
        auto fill = colour::fox;
        fill.setAlpha(mark.area.size() > 1 ? 60 : 255);
        painter.setBrush(mark.present ? QBrush(fill) : QBrush(Qt::NoBrush));
        if (area.size() > 1) {
            painter.drawPolygon(area);
            continue;
        }
        const auto at = area.first();
        painter.setBrush(mark.present ? colour::fox : colour::paper);
        painter.drawEllipse(at, 6, 6);
        if (!mark.present) painter.drawLine(at + QPointF(-4, 4), at + QPointF(4, -4));
    }
}

void SurfaceLayer::paintFaults(QPainter& painter, const PlanTransform& t) const {
    if (!m_products) return;
    painter.setFont(bodyFont(11, true));
    for (const auto& f : m_products->project.interpretation->faults) {
        QPolygonF line;
        for (const auto& p : f.fault.line) line << t.toScreen(p.x, p.y);
        painter.setPen(QPen(colour::red, 2.4));
        painter.drawPolyline(line);
        painter.drawText(line[line.size() / 2] + QPointF(6, -6), QString::fromStdString(f.fault.name));
    }
}

void SurfaceLayer::paintMarks(QPainter& painter, const PlanTransform& t, const PlanLook& look, Occupied& occupied) const {
    if (!m_products || !m_products->model || !m_unit || *m_unit >= m_products->model->bases.size()) return;
    const auto& code = m_products->project.sequence->units[*m_unit].code;
    painter.setPen(QPen(colour::fox, 2, Qt::DashDotLine));
    for (const auto& g : m_products->project.interpretation->guides) {
        if (g.unit != code) continue;
        QPolygonF line;
        for (const auto& p : g.line) line << t.toScreen(p.x, p.y);
        painter.setBrush(Qt::NoBrush);
        painter.drawPolyline(line);
        painter.setBrush(colour::paper);
        for (const auto& p : line)
            painter.drawPolygon(QPolygonF({p + QPointF(0, -5), p + QPointF(5, 0), p + QPointF(0, 5), p + QPointF(-5, 0)}));
    }
    paintPresenceMarks(painter, t);
    if (!shown(look)) return;
    const auto& base = *m_products->model->bases[*m_unit];
    const double scale = std::max(0.1, 2 * (std::isnan(base.leaveOneOut.rmse) ? 0 : base.leaveOneOut.rmse));
    painter.setFont(bodyFont(10, true));
    for (const auto& c : *m_products->contacts[*m_unit]) {
        const auto at = t.toScreen(c.place.x, c.place.y);
        if (c.kind == ContactKind::Observed) {
            const auto error = base.leaveOneOutAt(c.hole);
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(error ? errorColour(*error, scale) : colour::muted, 3.5));
            painter.drawEllipse(at, 10, 10);
            if (!error) continue;
            const auto text = QString("%1%2").arg(*error > 0 ? "+" : QString(QChar(0x2212))).arg(std::abs(*error), 0, 'f', 1);
            const QRectF label(at + QPointF(-18, 11), QSizeF(36, 13));
            if (!occupied.free(label)) continue;
            occupied.take(label);
            painter.setPen(colour::ink);
            painter.drawText(label, Qt::AlignCenter, text);
            continue;
        }
        // an arrow: the base is deeper, or higher, than this
        const double way = c.kind == ContactKind::Absent ? -1 : 1;
        painter.setPen(QPen(colour::slate, 1.8));
        painter.setBrush(c.kind == ContactKind::TooShort ? Qt::NoBrush : QBrush(colour::slate));
        const auto foot = at + QPointF(0, way * 9);
        painter.drawPolygon(QPolygonF({foot + QPointF(-5, 0), foot + QPointF(5, 0), foot + QPointF(0, way * 7)}));
    }
}

void SurfaceLayer::paintLegend(QPainter& painter, const PlanTransform& t, const PlanLook& look) const {
    if (!m_products || !shown(look) || m_made.image.isNull() || std::isnan(m_made.colours.low)) return;
    const auto& unit = m_products->project.sequence->units[*m_unit];
    paintValueLegend(painter, t.size,
                     QString::fromStdString(unit.code) + ": " + QString::fromUtf8(fox::words(valueOf(look.surface))),
                     m_made.colours);
}

} // namespace fox::app
