#include "views/section_view.h"

#include "model/surface_maps.h"
#include "project/surface_edits.h"
#include "style/theme.h"

#include <QKeyEvent>
#include <QPainter>

namespace fox::app {

SectionView::SectionView(Selection* selection, QWidget* parent)
    : PannedView(selection, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_next(new QAction(tr("next"), this)),
      m_draw(new QAction(tr("draw line"), this)),
      m_guide(new QAction(tr("guide"), this)) {
    setObjectName("sectionView");
    setAccessibleName(tr("Section through the model"));
    m_fit->setToolTip(tr("Show the whole section (F)"));
    m_next->setToolTip(tr("Show the next section line"));
    m_draw->setToolTip(tr("Draw a new section line on the plan"));
    m_guide->setToolTip(tr("Draw where the base of the chosen unit lies, where you know better than the holes"));
    m_guide->setCheckable(true);
    connect(m_guide, &QAction::triggered, this, [this](bool on) {
        m_guide->setChecked(false);
        on ? startGuide() : endGuide();
    });
    connect(m_fit, &QAction::triggered, this, &PannedView::fit);
    connect(m_draw, &QAction::triggered, this, &SectionView::drawLineAsked);
    connect(m_next, &QAction::triggered, this, [this] {
        if (const int n = products() ? int(products()->sections.size()) : 0)
            this->selection()->setSection((this->selection()->section() + 1) % n);
    });
    connect(selection, &Selection::sectionChanged, this, [this] {
        fit();
        emit summaryChanged();
        update();
    });
    connect(selection, &Selection::exaggerationChanged, this, [this] {
        fit();
        emit summaryChanged();
    });
    for (auto signal : {&Selection::holeChanged, &Selection::hoverChanged, &Selection::unitChanged})
        connect(selection, signal, this, qOverload<>(&QWidget::update));
}

QList<QAction*> SectionView::tools() { return {m_fit, m_next, m_draw, m_guide}; }

std::optional<std::size_t> SectionView::chosenBase() const {
    if (!products() || !products()->model) return {};
    const auto u = products()->project.sequence->index(selection()->unit().toStdString());
    return u && *u < products()->model->bases.size() ? u : std::nullopt;
}

void SectionView::startGuide() {
    if (!chosenBase()) return emit failed(tr("Choose a unit first: a guide belongs to a unit's base."));
    if (!section()) return;
    m_guideLine.clear();
    m_drawingGuide = true;
    m_guide->setChecked(true);
    setCursor(Qt::CrossCursor);
    setFocus();
    emit summaryChanged();
}

void SectionView::endGuide() {
    m_drawingGuide = false;
    m_guide->setChecked(false);
    unsetCursor();
    auto line = std::exchange(m_guideLine, {});
    line.erase(std::unique(line.begin(), line.end()), line.end()); // a double click sets its place twice
    emit summaryChanged();
    update();
    const auto u = chosenBase();
    if (line.empty() || !u || !section()) return;
    std::ranges::sort(line, {}, &Point2::x);
    Polyline3 guide;
    for (const auto& p : line) {
        const auto place = pointAlong(section()->line, p.x);
        guide.push_back({place.x, place.y, std::round(p.y * 100) / 100});
    }
    emit editMade(
        [code = products()->project.sequence->units[*u].code, guide](const Project& p) { return addGuide(p, code, guide); });
}

const Section* SectionView::section() const {
    if (!products() || products()->sections.empty()) return nullptr;
    const auto i = std::clamp(selection()->section(), 0, int(products()->sections.size()) - 1);
    const auto* s = products()->sections[std::size_t(i)].get();
    return s->chainage.empty() ? nullptr : s;
}

QString SectionView::summary() const {
    const auto* s = section();
    if (!s) return {};
    if (m_drawingGuide) return tr("click where the base lies, double-click to end, Esc cancels");
    const auto i = std::size_t(std::clamp(selection()->section(), 0, int(products()->sections.size()) - 1));
    const auto name = QString::fromStdString((*products()->project.sections)[i].name);
    return tr("%1 to %1′ · %2 holes within %3 m · height ×%4")
        .arg(name)
        .arg(s->holes.size())
        .arg((*products()->project.sections)[i].reach)
        .arg(selection()->exaggeration());
}

void SectionView::productsChanged() { fitIfNeeded(); }

QRectF SectionView::worldBounds() const {
    const auto* s = section();
    if (!s) return {};
    double low = kNoValue, high = kNoValue;
    const auto meet = [&](double z) {
        if (std::isfinite(z)) low = std::fmin(low, z), high = std::fmax(high, z);
    };
    for (const double z : s->ground) meet(z);
    for (const auto& b : s->bases)
        for (const double z : b) meet(z);
    for (const auto& h : s->holes) meet(h.endLevel);
    if (std::isnan(low)) return {};
    return {0, low - 2, s->chainage.back(), high - low + 4};
}

void SectionView::paintUnits(QPainter& painter) const {
    const auto* s = section();
    const auto& units = products()->project.sequence->units;
    const double floor = toWorld(QPointF(0, height())).y() - 5; // the oldest unit goes down out of sight
    const auto n = s->chainage.size();
    for (std::size_t u = 0; u < units.size(); ++u) {
        const auto top = [&](std::size_t i) { return u == 0 ? s->ground[i] : s->bases[u - 1][i]; };
        const auto base = [&](std::size_t i) {
            return u < s->bases.size() ? s->bases[u][i] : std::isnan(top(i)) ? kNoValue : floor;
        };
        const bool faded = !selection()->unit().isEmpty() && selection()->unit() != QString::fromStdString(units[u].code);
        const auto known = [&](std::size_t i) { return !std::isnan(top(i)) && !std::isnan(base(i)); };
        for (std::size_t i = 0; i < n;) { // runs where both surfaces are known
            if (!known(i)) {
                ++i;
                continue;
            }
            QPolygonF area;
            const auto first = i;
            for (; i < n && known(i); ++i) area << toScreen(s->chainage[i], top(i));
            for (auto k = i; k-- > first;) area << toScreen(s->chainage[k], base(k));
            auto fill = unitColour(units[u]);
            if (faded) fill.setAlpha(70);
            painter.setPen(Qt::NoPen);
            painter.setBrush(fill);
            painter.drawPolygon(area);
            if (!faded) {
                painter.setBrush(hatch(units[u]));
                painter.drawPolygon(area);
            }
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(QColor(37, 33, 28, 150), 0.9));
            if (u < s->bases.size()) {
                QPolygonF line;
                for (auto k = first; k < i; ++k) line << toScreen(s->chainage[k], base(k));
                painter.drawPolyline(line);
            }
        }
    }
    QPolygonF ground;
    for (std::size_t i = 0; i < n; ++i)
        if (!std::isnan(s->ground[i])) ground << toScreen(s->chainage[i], s->ground[i]);
    painter.setPen(QPen(colour::moss.darker(130), 1.8));
    painter.drawPolyline(ground);
}

void SectionView::paintHoles(QPainter& painter) const {
    constexpr double kHalf = 5; // pixels
    const auto& units = products()->project.sequence->units;
    std::vector<QRectF> taken;
    for (const auto& h : section()->holes) {
        const auto name = QString::fromStdString(h.name);
        const bool selected = name == selection()->hole(), hovered = name == selection()->hovered();
        if (h.sticks.empty()) continue;
        for (const auto& stick : h.sticks) {
            const auto a = toScreen(stick.topChainage, stick.topLevel), b = toScreen(stick.baseChainage, stick.baseLevel);
            const QPolygonF box({a + QPointF(-kHalf, 0), a + QPointF(kHalf, 0), b + QPointF(kHalf, 0), b + QPointF(-kHalf, 0)});
            painter.setBrush(stick.unit ? QBrush(unitColour(units[*stick.unit])) : QBrush(Qt::white, Qt::DiagCrossPattern));
            painter.setPen(QPen(selected || hovered ? colour::fox : colour::ink, selected ? 2.2 : 1.1));
            painter.drawPolygon(box);
        }
        painter.setPen(QPen(colour::slate, 1.3));
        painter.setBrush(colour::water);
        for (const double level : h.water) {
            const auto at = toScreen(h.chainage, level) + QPointF(kHalf + 7, 0);
            painter.drawPolygon(QPolygonF({at, at + QPointF(-5, -8), at + QPointF(5, -8)}));
        }
        const auto end = toScreen(h.endChainage, h.endLevel);
        if (!h.reachesOldest) { // torn off: the hole stops short
            painter.setPen(QPen(colour::fox, 1.6));
            painter.setBrush(Qt::NoBrush);
            painter.drawPolyline(QPolygonF({end + QPointF(-kHalf, 1), end + QPointF(-kHalf / 2, 5), end + QPointF(0, 1),
                                            end + QPointF(kHalf / 2, 5), end + QPointF(kHalf, 1)}));
        }
        painter.setFont(bodyFont(11, selected));
        const double wide = QFontMetricsF(painter.font()).horizontalAdvance(name);
        QRectF label(toScreen(h.sticks.front().topChainage, h.sticks.front().topLevel) + QPointF(-wide / 2, -20),
                     QSizeF(wide, 14));
        label.moveLeft(std::clamp(label.left(), 48.0, std::max(48.0, width() - wide - 4)));
        while (std::ranges::any_of(taken, [&](const QRectF& t) { return t.adjusted(-3, 0, 3, 0).intersects(label); }))
            label.translate(0, -14);
        taken.push_back(label);
        painter.setPen(selected ? colour::fox : colour::ink);
        painter.drawText(label, Qt::AlignCenter, name);
    }
}

void SectionView::paintAxes(QPainter& painter) const {
    painter.setFont(bodyFont(11));
    const auto step = [](double wanted) {
        const double power = std::pow(10, std::floor(std::log10(wanted)));
        return power * (wanted / power < 2 ? 2 : wanted / power < 5 ? 5 : 10);
    };
    painter.fillRect(QRectF(0, 0, 46, height()), colour::paper);
    const double levelStep = step(28 / (pixelsPerMetre() * stretch()));
    const double low = toWorld({0, double(height()) - 24}).y(), high = toWorld({0, 8}).y();
    for (double z = std::ceil(low / levelStep) * levelStep; z <= high; z += levelStep) {
        const double y = toScreen(0, z).y();
        painter.setPen(colour::muted);
        painter.drawText(QRectF(0, y - 8, 38, 16), Qt::AlignRight | Qt::AlignVCenter, QString::number(z) + " m");
        painter.drawLine(QPointF(41, y), QPointF(46, y));
    }
    painter.fillRect(QRectF(0, height() - 20, width(), 20), colour::paper);
    const double chainageStep = step(70 / pixelsPerMetre());
    for (double c = 0; c <= section()->chainage.back() + 1e-6; c += chainageStep) {
        const double x = toScreen(c, 0).x();
        if (x < 44 || x > width() - 6) continue;
        painter.setPen(colour::muted);
        painter.drawLine(QPointF(x, height() - 20), QPointF(x, height() - 16));
        painter.drawText(QRectF(x - 40, height() - 16, 80, 15), Qt::AlignCenter, QString::number(c) + " m");
    }
}

void SectionView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), colour::paper);
    if (!section()) {
        const bool lines = products() && !products()->project.sections->empty();
        return paintEmpty(painter, rect(),
                          lines ? tr("There is no ground along this line yet.")
                                : tr("No section line yet. Press “draw line” and click its corners on the plan."));
    }
    paintUnits(painter);
    paintCrossings(painter);
    paintDoubt(painter);
    paintHoles(painter);
    paintContacts(painter);
    paintGuides(painter);
    paintAxes(painter);
}

/// Where other sections cross this one.
void SectionView::paintCrossings(QPainter& painter) const {
    const auto& lines = *products()->project.sections;
    const int own = std::clamp(selection()->section(), 0, int(lines.size()) - 1);
    painter.setFont(bodyFont(11, true));
    for (int i = 0; i < int(lines.size()); ++i) {
        if (i == own) continue;
        for (const auto& crossing : crossingsOf(section()->line, lines[std::size_t(i)].line)) {
            const double x = toScreen(crossing.first, 0).x();
            if (x < 48 || x > width() - 4) continue;
            painter.setPen(QPen(colour::slate, 1.2, Qt::DashDotLine));
            painter.drawLine(QPointF(x, 18), QPointF(x, height() - 22));
            const QRectF tag(x - 11, 2, 22, 16);
            painter.setPen(QPen(colour::slate, 1));
            painter.setBrush(colour::paper);
            painter.drawRoundedRect(tag, 3, 3);
            painter.drawText(tag, Qt::AlignCenter, QString::fromStdString(lines[std::size_t(i)].name));
        }
    }
}

/// The chosen base, plus and minus its standard deviation.
void SectionView::paintDoubt(QPainter& painter) const {
    const auto u = chosenBase();
    if (!u || *u >= section()->bases.size()) return;
    const auto& s = *section();
    const auto& base = s.bases[*u];
    const auto& doubt = s.deviations[*u];
    painter.save();
    for (std::size_t i = 0; i < base.size();) {
        if (std::isnan(base[i]) || std::isnan(doubt[i])) {
            ++i;
            continue;
        }
        QPolygonF upper, lower;
        for (; i < base.size() && !std::isnan(base[i]) && !std::isnan(doubt[i]); ++i) {
            upper << toScreen(s.chainage[i], base[i] + doubt[i]);
            lower << toScreen(s.chainage[i], base[i] - doubt[i]);
        }
        QPolygonF band = upper;
        for (auto k = lower.size(); k-- > 0;) band << lower[k];
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(196, 84, 26, 60));
        painter.drawPolygon(band);
        painter.setPen(QPen(QColor(196, 84, 26, 190), 1, Qt::DashLine));
        painter.drawPolyline(upper);
        painter.drawPolyline(lower);
    }
    QPolygonF line;
    const auto draw = [&] {
        painter.setPen(QPen(colour::fox, 2));
        painter.drawPolyline(line);
        line.clear();
    };
    for (std::size_t i = 0; i < base.size(); ++i) std::isnan(base[i]) ? draw() : void(line << toScreen(s.chainage[i], base[i]));
    draw();
    painter.restore();
}

/// What each hole on the section says of the chosen base: a disc for a contact, an arrow for a bound.
void SectionView::paintContacts(QPainter& painter) const {
    const auto u = chosenBase();
    if (!u || *u >= products()->contacts.size()) return;
    for (const auto& c : *products()->contacts[*u]) {
        const auto on = std::ranges::find(section()->holes, c.hole, &SectionHole::name);
        if (on == section()->holes.end()) continue;
        const auto at = toScreen(project(section()->line, c.place.plan()).chainage, c.place.z);
        painter.setPen(QPen(colour::paper, 1.2));
        painter.setBrush(c.byHand ? colour::fox : colour::ink);
        if (c.kind == ContactKind::Observed) {
            painter.drawEllipse(at, 5, 5);
            continue;
        }
        const double way = c.kind == ContactKind::Absent ? -1 : 1;
        painter.drawPolygon(QPolygonF({at + QPointF(-6, 0), at + QPointF(6, 0), at + QPointF(0, way * 10)}));
    }
}

void SectionView::paintGuides(QPainter& painter) const {
    painter.setPen(QPen(colour::fox, 2, Qt::DashDotLine));
    painter.setBrush(colour::paper);
    const auto diamond = [&](QPointF p) {
        painter.drawPolygon(QPolygonF({p + QPointF(0, -5), p + QPointF(5, 0), p + QPointF(0, 5), p + QPointF(-5, 0)}));
    };
    if (const auto u = chosenBase())
        for (const auto& g : products()->project.interpretation->guides) {
            if (g.unit != products()->project.sequence->units[*u].code) continue;
            for (const auto& p : g.line)
                if (const auto at = project(section()->line, p.plan()); at.distance <= kSectionHoles)
                    diamond(toScreen(at.chainage, p.z));
        }
    QPolygonF drawn;
    if (m_pull)
        for (const auto& p : pulled(*m_pull)) drawn << toScreen(p.x, p.y);
    for (const auto& p : m_guideLine) drawn << toScreen(p.x, p.y);
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(drawn);
    for (const auto& p : drawn) diamond(p);
}

std::optional<double> SectionView::baseAt(double chainage) const {
    const auto u = chosenBase();
    if (!u || !section()) return {};
    const auto& s = *section();
    const auto after = std::ranges::lower_bound(s.chainage, chainage);
    if (after == s.chainage.end()) return {};
    const auto k = std::size_t(after - s.chainage.begin()), i = k > 0 ? k - 1 : k;
    const double span = s.chainage[k] - s.chainage[i], share = span > 0 ? (chainage - s.chainage[i]) / span : 0;
    const double level = s.bases[*u][i] + share * (s.bases[*u][k] - s.bases[*u][i]);
    return std::isnan(level) ? std::nullopt : std::optional(level);
}

bool SectionView::onBase(QPointF p) const {
    const auto w = toWorld(p);
    const auto level = w.x() >= 0 ? baseAt(w.x()) : std::nullopt;
    constexpr double kReach = 5; // pixels
    return level && std::abs(toScreen(w.x(), *level).y() - p.y()) <= kReach && holeAt(p).isEmpty();
}

Polyline2 SectionView::pulled(Point2 to) const {
    double left = 0, right = section()->chainage.back();
    for (const auto& h : section()->holes) {
        if (h.chainage < to.x) left = std::max(left, h.chainage);
        if (h.chainage > to.x) right = std::min(right, h.chainage);
    }
    Polyline2 line;
    for (const double chainage : {(left + to.x) / 2, to.x, (to.x + right) / 2}) {
        if (chainage == to.x)
            line.push_back(to);
        else if (const auto level = baseAt(chainage))
            line.push_back({chainage, *level});
    }
    return line;
}

void SectionView::mousePressEvent(QMouseEvent* e) {
    if (e->button() == Qt::LeftButton && !m_drawingGuide && onBase(e->position())) {
        const auto w = toWorld(e->position());
        m_pull = Point2{w.x(), w.y()};
        m_pullStart = e->position();
        return update();
    }
    PannedView::mousePressEvent(e);
}

void SectionView::mouseMoveEvent(QMouseEvent* e) {
    if (m_pull) {
        m_pull->y = toWorld(e->position()).y();
        return update();
    }
    PannedView::mouseMoveEvent(e);
    if (!m_drawingGuide) setCursor(onBase(e->position()) ? Qt::SplitVCursor : Qt::ArrowCursor);
}

void SectionView::mouseReleaseEvent(QMouseEvent* e) {
    if (!m_pull) return PannedView::mouseReleaseEvent(e);
    const auto to = *std::exchange(m_pull, std::nullopt);
    update();
    constexpr double kLeast = 3; // pixels; less is a click
    const auto u = chosenBase();
    if (std::abs(e->position().y() - m_pullStart.y()) < kLeast || !u || !section()) return;
    Polyline3 guide;
    for (const auto& p : pulled(to)) {
        const auto place = pointAlong(section()->line, p.x);
        guide.push_back({place.x, place.y, std::round(p.y * 100) / 100});
    }
    emit editMade(
        [code = products()->project.sequence->units[*u].code, guide](const Project& p) { return addGuide(p, code, guide); });
}

void SectionView::mouseDoubleClickEvent(QMouseEvent* e) { m_drawingGuide ? endGuide() : PannedView::mouseDoubleClickEvent(e); }

void SectionView::keyPressEvent(QKeyEvent* e) {
    if (m_pull && e->key() == Qt::Key_Escape) {
        m_pull.reset();
        return update();
    }
    if (m_drawingGuide && e->key() == Qt::Key_Escape) m_guideLine.clear();
    if (m_drawingGuide && (e->key() == Qt::Key_Escape || e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter))
        return endGuide();
    PannedView::keyPressEvent(e);
}

QString SectionView::holeAt(QPointF p) const {
    if (!section()) return {};
    for (const auto& h : section()->holes)
        for (const auto& s : h.sticks) {
            const auto a = toScreen(s.topChainage, s.topLevel), b = toScreen(s.baseChainage, s.baseLevel);
            if (QRectF(a, b).normalized().adjusted(-7, -24, 7, 4).contains(p)) return QString::fromStdString(h.name);
        }
    return {};
}

void SectionView::clicked(QPointF p) {
    if (!m_drawingGuide) return selection()->setHole(holeAt(p));
    const auto w = toWorld(p);
    if (w.x() >= 0 && w.x() <= section()->chainage.back()) m_guideLine.push_back({w.x(), w.y()});
    update();
}

void SectionView::hoveredAt(QPointF p) {
    selection()->setHovered(holeAt(p));
    if (!section()) return;
    const auto w = toWorld(p);
    if (w.x() < 0 || w.x() > section()->chainage.back()) return emit pointed(kNoValue, kNoValue, kNoValue, {});
    const auto place = pointAlong(section()->line, w.x());
    selection()->setProbe(place);
    QString unit;
    if (const auto at = products()->model->columnAt(place).unitAt(w.y()))
        unit = QString::fromStdString(products()->project.sequence->units[*at].name);
    if (const auto u = chosenBase())
        if (const auto words = baseInWords(*products()->model, *u, place); !words.empty())
            unit += QString::fromUtf8(" · ") + QString::fromStdString(words);
    emit pointed(place.x, place.y, w.y(), unit);
}

} // namespace fox::app
