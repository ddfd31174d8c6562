#include "views/correlation_view.h"

#include "base/errors.h"
#include "project/sequence_edits.h"
#include "sequence/correlation.h"
#include "sequence/picked_logs.h"
#include "style/theme.h"
#include "style/words.h"

#include <QActionGroup>
#include <QContextMenuEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <set>

namespace fox::app {

namespace {
constexpr double kGap = 60; // world metres between holes that stand evenly
} // namespace

CorrelationView::CorrelationView(Selection* selection, QWidget* parent)
    : PannedView(selection, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_look(new QAction(tr("order, curves…"), this)),
      m_pick(new QAction(tr("pick base"), this)),
      m_propose(new QAction(tr("proposal…"), this)) {
    setObjectName("correlationView");
    setAccessibleName(tr("Holes side by side"));
    m_fit->setToolTip(tr("Show all holes of the line (F)"));
    m_look->setToolTip(tr("In which order the holes stand, what they are flattened on, and which curve is drawn"));
    connect(m_look, &QAction::triggered, this, &CorrelationView::chooseLook);
    m_pick->setToolTip(tr("Click where the base of the chosen unit lies in a hole, on its log or curve (P)"));
    m_pick->setCheckable(true);
    m_propose->setToolTip(tr("Assign units to intervals: what the program proposes, or by a tilted plane"));
    connect(m_fit, &QAction::triggered, this, &PannedView::fit);
    connect(m_propose, &QAction::triggered, this, &CorrelationView::proposalAsked);
    connect(m_pick, &QAction::triggered, this, [this](bool on) {
        m_pick->setChecked(false);
        on ? startPicking() : endPicking();
    });
    connect(selection, &Selection::sectionChanged, this, [this] {
        arrange();
        fit();
        emit summaryChanged();
    });
    connect(selection, &Selection::shownHolesChanged, this, [this] {
        arrange();
        fit();
        emit summaryChanged();
    });
    for (auto signal : {&Selection::holeChanged, &Selection::hoverChanged, &Selection::unitChanged})
        connect(selection, signal, this, qOverload<>(&QWidget::update));
    connect(selection, &Selection::planeChanged, this, &CorrelationView::assignByPlane);
}

QList<QAction*> CorrelationView::tools() { return {m_fit, m_look, m_pick, m_propose}; }

QString CorrelationView::summary() const {
    if (selection()->planePoints())
        return tr("click the plane's level on three holes: %1 of 3").arg(selection()->planePoints()->size());
    if (selection()->plane())
        return tr("drag the plane up or down, its squares to tilt it; outlined: what becomes %1")
            .arg(qt(selection()->plane()->unit));
    if (m_picking) return tr("click the base of %1 on log after log; Esc ends").arg(selection()->unit());
    if (m_columns.empty()) return {};
    auto words = counted(qint64(m_columns.size()), "hole");
    if (m_order == Order::AlongSection && products() && !products()->project.sections->empty()) {
        const auto i = std::clamp(selection()->section(), 0, int(products()->project.sections->size()) - 1);
        words += tr(" along %1").arg(qt((*products()->project.sections)[std::size_t(i)].name));
    }
    words += m_hung.isEmpty() ? tr(" · at their levels") : tr(" · flattened on the base of %1").arg(m_hung);
    if (!m_curve.isEmpty()) words += QString::fromUtf8(" · ") + m_curve;
    return words;
}

void CorrelationView::setOrder(Order order) {
    if (order == m_order && order != Order::DownPlane) return; // a plane may fall another way by now
    if (order == Order::AsChosen && m_chosenOrder.isEmpty()) m_chosenOrder = holesShown();
    m_order = order;
    arrange();
    fit();
    emit summaryChanged();
}

void CorrelationView::setSpacing(Spacing spacing) {
    if (spacing == m_spacing) return;
    m_spacing = spacing;
    arrange();
    fit();
}

void CorrelationView::hangFrom(const QString& code) {
    if (code == m_hung) return;
    m_hung = code;
    arrange();
    fit();
    emit summaryChanged();
}

void CorrelationView::setCurve(const QString& name) {
    if (name == m_curve) return;
    m_curve = name;
    arrange(); // holes with no log but with this curve stand here too
    update();
    emit summaryChanged();
}

QStringList CorrelationView::holesShown() const {
    QStringList out;
    for (const auto& c : m_columns) out << qt(c.read->name);
    return out;
}

void CorrelationView::moveHole(const QString& name, int by) {
    auto names = holesShown();
    const auto at = names.indexOf(name);
    if (at < 0) return;
    names.move(at, std::clamp(int(at) + by, 0, int(names.size()) - 1));
    m_chosenOrder = names;
    m_order = Order::AsChosen;
    m_spacing = Spacing::Even;
    arrange();
    update();
    emit summaryChanged();
}

void CorrelationView::productsChanged() {
    arrange();
    assignByPlane();
    fitIfNeeded();
}

void CorrelationView::resizeEvent(QResizeEvent* e) {
    arrange();
    PannedView::resizeEvent(e);
}

/// Which holes stand here, where, and how much higher each is drawn.
void CorrelationView::arrange() {
    m_columns.clear();
    if (!products()) return;
    const auto& sections = *products()->project.sections;
    const bool along = m_order == Order::AlongSection && !sections.empty();
    const auto i = std::size_t(std::clamp(selection()->section(), 0, std::max(0, int(sections.size()) - 1)));
    struct Placed {
        double key;
        Column column;
    };
    std::vector<Placed> placed;
    m_logs = withPicks(*products()->reading, *products()->project.sequence, *products()->project.interpretation);
    for (const auto& read : m_logs.holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path || !this->selection()->isShown(read.name)) continue;
        const auto at = path->at({}).plan();
        double key = m_order == Order::ByNorthing ? at.y : at.x;
        if (m_order == Order::DownPlane && selection()->plane()) { // from where it is highest, in metres along its fall
            const auto& plane = selection()->plane()->plane;
            key = -plane.at(at) / std::max(1e-9, std::hypot(plane.east, plane.north));
        }
        if (along) {
            const auto p = project(sections[i].line, at);
            if (p.distance > std::max(sections[i].reach, 60.0)) continue; // what is near enough to be compared
            key = p.chainage;
        } else if (m_order == Order::AsChosen) {
            const auto place = m_chosenOrder.indexOf(qt(read.name));
            if (place < 0) continue;
            key = double(place);
        }
        placed.push_back({key, {&read, *path, key, 0}});
    }
    std::ranges::stable_sort(placed, {}, &Placed::key);
    const bool even = m_spacing == Spacing::Even || m_order == Order::AsChosen;
    for (std::size_t k = 0; k < placed.size(); ++k) {
        auto& c = placed[k].column;
        c.x = even ? double(k) * kGap : placed[k].key - placed.front().key;
        m_columns.push_back(std::move(c));
    }
    // hung: the base of the unit, or where the hole is without it the base of the last younger one, is at 0
    const auto hung = products()->project.sequence->index(m_hung.toStdString());
    if (hung)
        for (auto& c : m_columns) c.raised = -c.path.at(hangingDepth(*c.read, *hung)).z;
    // heights fill the view, whatever the line's length
    const auto world = worldBounds();
    const auto m = margins();
    if (!world.isEmpty() && width() > 100 && height() > 100)
        m_stretch = std::max(1e-3, (height() - m.top() - m.bottom()) / world.height() * world.width()
                                       / std::max(20.0, width() - m.left() - m.right()));
}

QRectF CorrelationView::worldBounds() const {
    if (m_columns.empty()) return {};
    double low = kNoValue, high = kNoValue;
    for (const auto& c : m_columns) {
        high = std::fmax(high, yOf(c, 0));
        double deepest = c.read->hole->intervals.empty() ? 0 : c.read->hole->end().metres; // what is only picked has curves
        if (deepest == 0)
            for (const auto& curve : c.read->hole->curves)
                if (curve.readings && !curve.readings->empty()) deepest = std::max(deepest, curve.readings->back().depth);
        low = std::fmin(low, yOf(c, deepest));
    }
    const double edge = m_columns.size() > 1 ? (m_columns.back().x - m_columns.front().x) * 0.05 + 5 : kGap / 2;
    return {m_columns.front().x - edge, low - 1, m_columns.back().x - m_columns.front().x + 2 * edge,
            std::max(2.0, high - low + 2)};
}

double CorrelationView::yOf(const Column& c, double depth) const { return c.path.at(Depth{depth}).z + c.raised; }

double CorrelationView::depthAt(const Column& c, QPointF p) const {
    const double top = c.path.at({}).z + c.raised, down = top - c.path.at(Depth{1}).z - c.raised;
    return down > 0 ? (top - toWorld(p).y()) / down : 0; // an inclined hole by its first direction
}

double CorrelationView::halfWidth() const {
    double least = 1e9;
    for (std::size_t i = 1; i < m_columns.size(); ++i) least = std::min(least, m_columns[i].x - m_columns[i - 1].x);
    return std::clamp(least * pixelsPerMetre() * 0.16, 4.0, 13.0);
}

const CorrelationView::Column* CorrelationView::columnAt(QPointF p) const {
    const Column* best = nullptr;
    double nearest = std::max(halfWidth() + 6, m_curve.isEmpty() ? 0.0 : halfWidth() + 40);
    for (const auto& c : m_columns) {
        const double off = p.x() - toScreen(c.x, 0).x();
        // the curve stands to the right of its log
        const double away = off < 0 || m_curve.isEmpty() ? std::abs(off) + (m_curve.isEmpty() ? 0 : 34) : off;
        if (away <= nearest) nearest = away, best = &c;
    }
    return best;
}

const CorrelationView::Column* CorrelationView::columnOf(const QString& hole) const {
    const auto it = std::ranges::find_if(m_columns, [&](const Column& c) { return qt(c.read->name) == hole; });
    return it == m_columns.end() ? nullptr : &*it;
}

QPointF CorrelationView::screenOf(const QString& hole, double depth) const {
    const auto* c = columnOf(hole);
    return c ? toScreen(c->x, yOf(*c, depth)) : QPointF();
}

const Interval* CorrelationView::intervalAt(const Column& c, double depth) const {
    for (const auto& i : c.read->logged())
        if (i.usable() && i.top.metres <= depth && depth < i.base.metres) return &i;
    return nullptr;
}

std::optional<std::size_t> CorrelationView::chosenBase() const {
    if (!products()) return {};
    const auto u = products()->project.sequence->index(selection()->unit().toStdString());
    return u && *u < products()->contacts.size() ? u : std::nullopt;
}

// --- what the user does

void CorrelationView::startPicking() {
    if (!chosenBase())
        return emit failed(tr("Choose a unit first, in the list or by a click on a log: a pick is a unit's base."));
    m_picking = true;
    m_pick->setChecked(true);
    setCursor(Qt::CrossCursor);
    setFocus();
    emit summaryChanged();
}

void CorrelationView::endPicking() {
    m_picking = false;
    m_pick->setChecked(false);
    unsetCursor();
    emit summaryChanged();
}

void CorrelationView::clicked(QPointF p) {
    setFocus();
    const auto* c = columnAt(p);
    if (!c) {
        m_marked.reset();
        return update();
    }
    const auto name = qt(c->read->name);
    const double depth = depthAt(*c, p);
    if (selection()->planePoints()) {
        if (!selection()->addPlanePoint(c->path.at(Depth{std::max(0.0, depth)})))
            emit failed(tr("These three holes stand on one line, through which many planes go. Choose three others."));
        return;
    }
    if (m_picking) { // and goes on: the next hole has its base too
        if (!chosenBase()) return endPicking();
        return setPickAt(name, selection()->unit().toStdString(), Depth{depth});
    }
    selection()->setHole(name);
    m_marked.reset();
    if (const auto* i = intervalAt(*c, depth)) {
        m_marked = Marked{name, i->top, i->base};
        for (const auto& r : c->read->intervals)
            if (r.top <= i->top && i->base <= r.base) selection()->setUnit(qt(products()->project.sequence->units[r.unit].code));
    }
    update();
}

void CorrelationView::hoveredAt(QPointF p) {
    const auto* c = columnAt(p);
    selection()->setHovered(c ? qt(c->read->name) : QString());
    QString tip;
    if (c) {
        const double depth = depthAt(*c, p);
        tip = tr("%1, %2 deep").arg(qt(c->read->name), metres(depth));
        if (const auto* i = intervalAt(*c, depth))
            tip += tr("\n%1 to %2: %3").arg(metres(i->top.metres), metres(i->base.metres), qt(i->description));
        const auto place = c->path.at(Depth{std::max(0.0, depth)});
        emit pointed(place.x, place.y, place.z, {});
    }
    setToolTip(tip);
}

void CorrelationView::assign(const std::optional<QString>& code) {
    if (!m_marked || !products()) return emit failed(tr("Click an interval of a log first."));
    emit editMade([stretch = DepthRange{m_marked->hole.toStdString(), m_marked->top, m_marked->base},
                   unit = code ? std::optional(code->toStdString()) : std::nullopt](const Project& p) {
        return setIntervals(p, {stretch}, unit);
    });
}

void CorrelationView::setPickAt(const QString& hole, const std::string& unit, std::optional<Depth> depth) {
    emit editMade([name = hole.toStdString(), unit, depth](const Project& p) { return setPick(p, name, unit, depth); });
}

void CorrelationView::contextMenuEvent(QContextMenuEvent* e) {
    const auto* c = columnAt(e->pos());
    if (!c || !products()) return;
    const auto name = qt(c->read->name);
    const double depth = depthAt(*c, e->pos());
    const auto* i = intervalAt(*c, depth);
    auto* menu = new QMenu(this);
    menu->setObjectName("correlationMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    if (i) {
        m_marked = Marked{name, i->top, i->base};
        update();
        auto* heading = menu->addAction(tr("%1, %2 to %3, is").arg(name, metres(i->top.metres), metres(i->base.metres)));
        heading->setEnabled(false);
        for (const auto& u : products()->project.sequence->units)
            connect(menu->addAction(QIcon(swatch(u)), qt(u.code) + "  " + qt(u.name)), &QAction::triggered, this,
                    [this, code = qt(u.code)] { assign(code); });
        connect(menu->addAction(tr("no unit of the sequence")), &QAction::triggered, this, [this] { assign(QString()); });
        connect(menu->addAction(tr("what its code says")), &QAction::triggered, this, [this] { assign(std::nullopt); });
        menu->addSeparator();
    }
    if (const auto u = chosenBase()) {
        const auto code = products()->project.sequence->units[*u].code;
        connect(menu->addAction(tr("Pick the base of %1 here").arg(qt(code))), &QAction::triggered, this,
                [this, name, code, depth] { setPickAt(name, code, Depth{depth}); });
        if (std::ranges::any_of(products()->project.interpretation->picks,
                                [&](const Pick& p) { return qt(p.hole) == name && p.unit == code; }))
            connect(menu->addAction(tr("Take the pick of %1 away").arg(qt(code))), &QAction::triggered, this,
                    [this, name, code] { setPickAt(name, code, std::nullopt); });
        menu->addSeparator();
    }
    connect(menu->addAction(tr("Move %1 to the left").arg(name)), &QAction::triggered, this,
            [this, name] { moveHole(name, -1); });
    connect(menu->addAction(tr("Move %1 to the right").arg(name)), &QAction::triggered, this,
            [this, name] { moveHole(name, 1); });
    menu->popup(e->globalPos());
}

void CorrelationView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_P) return m_picking ? endPicking() : startPicking();
    if (e->key() == Qt::Key_Escape && selection()->planePoints()) return selection()->cancelPlanePoints();
    if (e->key() == Qt::Key_Escape && m_picking) return endPicking();
    // a marked interval moves to the next younger or older unit
    if (m_marked && products() && (e->key() == Qt::Key_PageUp || e->key() == Qt::Key_PageDown)) {
        const auto& units = products()->project.sequence->units;
        const auto now = products()->project.sequence->index(selection()->unit().toStdString());
        const int to = int(now.value_or(0)) + (e->key() == Qt::Key_PageUp ? -1 : 1);
        if (to < 0 || to >= int(units.size())) return;
        assign(qt(units[std::size_t(to)].code));
        selection()->setUnit(qt(units[std::size_t(to)].code));
        return;
    }
    if (e->key() == Qt::Key_Delete && m_marked) return assign(std::nullopt);
    PannedView::keyPressEvent(e);
}

void CorrelationView::chooseLook() {
    if (!products()) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](const QString& words, bool on, auto go) {
        auto* a = menu->addAction(words);
        a->setCheckable(true);
        a->setChecked(on);
        connect(a, &QAction::triggered, this, go);
    };
    menu->addSection(tr("Order"));
    add(tr("along the section line"), m_order == Order::AlongSection, [this] { setOrder(Order::AlongSection); });
    add(tr("all, from west to east"), m_order == Order::ByEasting, [this] { setOrder(Order::ByEasting); });
    add(tr("all, from south to north"), m_order == Order::ByNorthing, [this] { setOrder(Order::ByNorthing); });
    if (selection()->plane())
        add(tr("all, in the direction that the plane falls"), m_order == Order::DownPlane,
            [this] { setOrder(Order::DownPlane); });
    add(tr("as moved by hand"), m_order == Order::AsChosen, [this] { setOrder(Order::AsChosen); });
    menu->addSection(tr("Spacing"));
    add(tr("even"), m_spacing == Spacing::Even, [this] { setSpacing(Spacing::Even); });
    add(tr("as they stand"), m_spacing == Spacing::True, [this] { setSpacing(Spacing::True); });
    menu->addSection(tr("Flattened on"));
    add(tr("levels"), m_hung.isEmpty(), [this] { hangFrom({}); });
    const auto& units = products()->project.sequence->units;
    for (std::size_t u = 0; u + 1 < units.size(); ++u)
        add(tr("base of %1").arg(qt(units[u].code)), m_hung == qt(units[u].code),
            [this, code = qt(units[u].code)] { hangFrom(code); });
    std::set<QString> curves;
    for (const auto& h : *products()->project.holes) {
        for (const auto& c : h.curves) curves.insert(qt(c.name));
        if (!h.blowCounts.empty()) curves.insert("SPT N");
    }
    menu->addSection(tr("Curve"));
    add(tr("none"), m_curve.isEmpty(), [this] { setCurve({}); });
    for (const auto& c : curves) add(c, m_curve == c, [this, c] { setCurve(c); });
    menu->popup(QCursor::pos());
}

// --- painting

void CorrelationView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), colour::paper);
    if (m_columns.empty()) {
        const bool holes = products() && !products()->reading->holes.empty();
        return paintEmpty(painter, rect(),
                          holes
                              ? tr("No logged hole lies near the chosen section line. Choose another line, or “all, from west to "
                                   "east” under “order, curves…”.")
                              : tr("No hole with geology yet. Import AGS files or tables first."));
    }
    const Column* before = nullptr; // the last hole with a log: lines pass by those with curves alone
    for (const auto& c : m_columns) {
        if (c.read->intervals.empty()) continue;
        if (before) paintBetween(painter, *before, c);
        before = &c;
    }
    for (const auto& c : m_columns) paintColumn(painter, c);
    for (const auto& c : m_columns) paintContacts(painter, c);
    if (selection()->plane()) {
        for (const auto& c : m_columns) paintAssigned(painter, c);
        planeLine().paint(painter, selection()->plane()->plane);
    }
    if (selection()->planePoints())
        for (const auto& p : *selection()->planePoints())
            for (const auto& c : m_columns)
                if (distance(c.path.at({}).plan(), p.plan()) < 1) {
                    painter.setPen(QPen(colour::fox, 2.4));
                    painter.setBrush(colour::paper);
                    painter.drawEllipse(toScreen(c.x, p.z + c.raised), 6, 6);
                }
    paintScale(painter);
}

/// Each unit from one hole to the next; what a hole does not reach is not drawn.
void CorrelationView::paintBetween(QPainter& painter, const Column& a, const Column& b) const {
    const auto& units = products()->project.sequence->units;
    const double half = halfWidth();
    const double left = toScreen(a.x, 0).x() + half, right = toScreen(b.x, 0).x() - half;
    if (right - left < 4) return;
    const double x[] = {left, (left + right) / 2, right};
    for (const auto& between : unitsBetween(stretchesOf(*a.read, a.path, units.size(), a.raised),
                                            stretchesOf(*b.read, b.path, units.size(), b.raised))) {
        QPolygonF area, under;
        for (int k = 0; k < 3; ++k) under << QPointF(x[k], toScreen(0, between.base[k]).y());
        for (int k = 2; k >= 0; --k) area << QPointF(x[k], toScreen(0, between.top[k]).y());
        area += under;
        const auto& unit = units[between.unit];
        auto fill = unitColour(unit);
        const bool chosen = selection()->unit() == qt(unit.code), faded = !selection()->unit().isEmpty() && !chosen;
        fill.setAlpha(faded ? 45 : 150);
        painter.setPen(Qt::NoPen);
        painter.setBrush(fill);
        painter.drawPolygon(area);
        if (between.unit + 1 == units.size()) continue;
        painter.setPen(
            QPen(chosen ? colour::fox : colour::muted, chosen ? 1.8 : 0.9, between.open ? Qt::DashLine : Qt::SolidLine));
        painter.drawPolyline(under);
    }
}

void CorrelationView::paintColumn(QPainter& painter, const Column& c) const {
    const auto& units = products()->project.sequence->units;
    const auto name = qt(c.read->name);
    const double half = halfWidth(), x = toScreen(c.x, 0).x();
    const bool selected = name == selection()->hole(), hovered = name == selection()->hovered();
    const auto y = [&](double depth) { return toScreen(0, yOf(c, depth)).y(); };
    for (const auto& i : c.read->logged()) {
        if (!i.usable()) continue;
        const auto r = std::ranges::find_if(
            c.read->intervals, [&](const InterpretedInterval& known) { return known.top <= i.top && i.base <= known.base; });
        const bool known = r != c.read->intervals.end();
        const QRectF box(QPointF(x - half, y(i.top.metres)), QPointF(x + half, y(i.base.metres)));
        painter.setPen(QPen(selected || hovered ? colour::fox : colour::ink, selected ? 1.6 : 1));
        painter.setBrush(known ? QBrush(unitColour(units[r->unit])) : QBrush(colour::paper));
        painter.drawRect(box);
        painter.setBrush(known && !r->returned ? hatch(units[r->unit]) : QBrush(colour::red, Qt::DiagCrossPattern));
        painter.drawRect(box);
        if (known && r->byHand) painter.fillRect(QRectF(box.right() - 2, box.top() + 1, 4, box.height() - 2), colour::fox);
        if (m_marked && m_marked->hole == name && m_marked->top == i.top && m_marked->base == i.base) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(colour::fox, 3));
            painter.drawRect(box.adjusted(-2, 0, 2, 0));
        }
    }
    // a hole with curves and no log would else be empty
    const auto curve = m_curve.isEmpty() && c.read->hole->intervals.empty() && !c.read->hole->curves.empty()
                           ? qt(c.read->hole->curves.front().name)
                           : m_curve;
    if (!curve.isEmpty()) paintCurve(painter, c, curve, x + half + 3, x + half + 38);
    painter.setFont(bodyFont(11, selected));
    painter.setPen(selected ? colour::fox : colour::ink);
    const QFontMetricsF metrics(painter.font());
    const double top = y(0);
    painter.save();
    if (m_columns.size() > 1 && (m_columns[1].x - m_columns[0].x) * pixelsPerMetre() < metrics.horizontalAdvance(name) + 6) {
        painter.translate(x + 4, top - 5); // no room side by side: upwards
        painter.rotate(-60);
        painter.drawText(QPointF(0, 0), name);
    } else {
        painter.drawText(QRectF(x - 50, top - 19, 100, 15), Qt::AlignCenter, name);
    }
    painter.restore();
}

void CorrelationView::paintCurve(QPainter& painter, const Column& c, const QString& name, double left, double right) const {
    QPolygonF line;
    const auto y = [&](double depth) { return toScreen(0, yOf(c, depth)).y(); };
    // one scale for all holes, so that they can be compared
    double most = 0;
    const auto meet = [&](const Hole& h) {
        if (name == "SPT N")
            for (const auto& b : h.blowCounts) most = std::max(most, b.blows);
        for (const auto& curve : h.curves)
            if (qt(curve.name) == name && curve.readings)
                for (const auto& r : *curve.readings)
                    if (!std::isnan(r.value)) most = std::max(most, r.value);
    };
    for (const auto& other : m_columns) meet(*other.read->hole);
    if (!(most > 0)) return;
    if (name == "SPT N")
        for (const auto& b : c.read->hole->blowCounts) line << QPointF(left + (right - left) * b.blows / most, y(b.depth.metres));
    QPainterPath path;
    for (const auto& curve : c.read->hole->curves) {
        if (qt(curve.name) != name || !curve.readings) continue;
        bool open = false;
        for (const auto& r : *curve.readings) {
            const QPointF at(left + (right - left) * std::max(0.0, r.value) / most, y(r.depth));
            if (std::isnan(r.value))
                open = false;
            else
                open ? path.lineTo(at) : path.moveTo(at), open = true;
        }
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::line, 1));
    if (!line.isEmpty() || !path.isEmpty()) {
        const double top = !line.isEmpty() ? line.front().y() : path.boundingRect().top();
        const double base = !line.isEmpty() ? line.back().y() : path.boundingRect().bottom();
        painter.drawLine(QPointF(left, top), QPointF(left, base));
    }
    painter.setPen(QPen(colour::slate, 1.3));
    painter.drawPath(path);
    painter.drawPolyline(line);
    painter.setBrush(colour::slate);
    for (const auto& p : line) painter.drawEllipse(p, 1.8, 1.8);
}

/// What the hole says of the chosen unit's base; picks of all units.
void CorrelationView::paintContacts(QPainter& painter, const Column& c) const {
    const double x = toScreen(c.x, 0).x(), half = halfWidth();
    for (const auto& p : products()->project.interpretation->picks) {
        if (p.hole != c.read->name) continue;
        const QPointF at(x - half - 2, toScreen(0, yOf(c, p.depth.metres)).y());
        painter.setPen(QPen(colour::fox, 2));
        painter.drawLine(at, at + QPointF(2 * half + 4, 0));
        painter.setFont(bodyFont(10, true));
        painter.drawText(at + QPointF(-4 - QFontMetricsF(painter.font()).horizontalAdvance(qt(p.unit)), 4), qt(p.unit));
    }
    const auto u = chosenBase();
    if (!u) return;
    for (const auto& contact : *products()->contacts[*u]) {
        if (contact.hole != c.read->name) continue;
        const QPointF at(x, toScreen(0, contact.place.z + c.raised).y());
        painter.setPen(QPen(colour::paper, 1.2));
        painter.setBrush(contact.byHand ? colour::fox : colour::ink);
        if (contact.kind == ContactKind::Observed) {
            painter.drawEllipse(at, 4.5, 4.5);
            continue;
        }
        const double way = contact.kind == ContactKind::Absent ? -1 : 1; // the base is higher, or deeper, than this
        painter.drawPolygon(QPolygonF({at + QPointF(-5, 0), at + QPointF(5, 0), at + QPointF(0, way * 8)}));
    }
}

void CorrelationView::paintScale(QPainter& painter) const {
    painter.fillRect(QRectF(0, 0, 46, height()), colour::paper);
    painter.setFont(bodyFont(11));
    painter.setPen(colour::muted);
    const double wanted = 30 / (pixelsPerMetre() * stretch());
    const double power = std::pow(10, std::floor(std::log10(wanted)));
    const double step = power * (wanted / power < 2 ? 2 : wanted / power < 5 ? 5 : 10);
    const double low = toWorld({0, double(height()) - 8}).y(), high = toWorld({0, 8}).y();
    for (double z = std::ceil(low / step) * step; z <= high; z += step) {
        const double y = toScreen(0, z).y();
        painter.drawText(QRectF(0, y - 8, 38, 16), Qt::AlignRight | Qt::AlignVCenter,
                         m_hung.isEmpty() ? QString::number(z) + " m" : QString::number(z));
        painter.drawLine(QPointF(41, y), QPointF(46, y));
    }
}

} // namespace fox::app
