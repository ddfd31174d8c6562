#include "views/section_view.h"

#include "base/errors.h"
#include "model/surface_maps.h"
#include "project/surface_edits.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/along_menu.h"
#include "views/ask_file.h"
#include "views/hole_menu.h"
#include "views/paper_image.h"
#include "views/save_drawing.h"
#include "views/scene_blocks.h"

#include <QKeyEvent>
#include <QMenu>
#include <QPainter>

namespace fox::app {

namespace {
constexpr int kLeft = 46, kFoot = 20; // pixels that the scales take up
} // namespace

SectionView::SectionView(Selection* selection, QWidget* parent)
    : PannedView(selection, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_next(new QAction(tr("next"), this)),
      m_shown(new QAction(tr("show"), this)),
      m_guide(new QAction(tr("guide"), this)),
      m_legend(new AlongLegend(selection, this)) {
    setObjectName("sectionView");
    setAccessibleName(tr("Section through the model"));
    m_fit->setToolTip(tr("Show the whole section (F)"));
    m_next->setToolTip(tr("Show the next section line (Page Down; Page Up the one before)"));
    m_shown->setToolTip(tr("Which holes stand on the section, what they show, and at which scale; draw a new line"));
    m_guide->setToolTip(tr("Draw where the base of the chosen unit lies, where you know better than the holes"));
    m_guide->setCheckable(true);
    connect(m_guide, &QAction::triggered, this, [this](bool on) {
        m_guide->setChecked(false);
        on ? startGuide() : endGuide();
    });
    connect(m_fit, &QAction::triggered, this, &PannedView::fit);
    connect(m_shown, &QAction::triggered, this, &SectionView::chooseShown);
    connect(m_next, &QAction::triggered, this, [this] { step(1); });
    connect(selection, &Selection::shownHolesChanged, this, [this] {
        emit summaryChanged();
        update();
    });
    connect(selection, &Selection::alongChanged, this, &SectionView::workOutAlong);
    connect(selection, &Selection::blockLookChanged, this, &SectionView::workOutBlocks);
    connect(selection, &Selection::sectionChanged, this, [this] {
        workOutBlocks();
        m_toFit = !section();
        fit();
        emit summaryChanged();
        update();
    });
    connect(selection, &Selection::exaggerationChanged, this, [this] {
        fit();
        emit summaryChanged();
    });
    for (auto signal : {&Selection::holeChanged, &Selection::hoverChanged, &Selection::unitChanged, &Selection::planeChanged})
        connect(selection, signal, this, qOverload<>(&QWidget::update));
}

QList<QAction*> SectionView::tools() { return {m_fit, m_next, m_shown, m_guide}; }

std::optional<std::size_t> SectionView::chosenBase() const {
    if (!products() || !products()->model) return {};
    const auto u = products()->project.sequence->index(selection()->unit().toStdString());
    return u && *u < products()->model->bases.size() ? u : std::nullopt;
}

void SectionView::step(int by) {
    if (const int n = products() ? int(products()->sections.size()) : 0)
        selection()->setSection((std::clamp(selection()->section(), 0, n - 1) + by + n) % n);
}

void SectionView::chooseShown() {
    if (!products()) return;
    auto* menu = new QMenu(this);
    menu->setObjectName("sectionMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    fillHoleMenu(*menu->addMenu(tr("Holes shown")), *selection(), *products(), this,
                 {[this](const Edit& edit) { emit editMade(edit); }, {}});
    fillAlongMenu(*menu->addMenu(tr("Holes show")), *selection(), *products(), this);
    auto& heights = *menu->addMenu(tr("Heights"));
    for (const double times : {1.0, 2.0, 5.0, 10.0, 20.0}) {
        auto* a = heights.addAction(times == 1 ? tr("true to scale") : tr("%1 times").arg(times), this,
                                    [this, times] { selection()->setExaggeration(times); });
        a->setCheckable(true);
        a->setChecked(selection()->exaggeration() == times);
    }
    menu->addSeparator();
    auto& lines = *menu->addMenu(tr("Section"));
    for (std::size_t i = 0; i < products()->project.sections->size(); ++i) {
        auto* a =
            lines.addAction(qt((*products()->project.sections)[i].name), this, [this, i] { selection()->setSection(int(i)); });
        a->setCheckable(true);
        a->setChecked(i == chosenIndex());
    }
    menu->addAction(tr("Draw a new section line"), this, &SectionView::drawLineAsked);
    if (section()) menu->addAction(tr("Save a picture…"), this, &SectionView::savePicture);
    menu->popup(QCursor::pos());
}

/// Values along holes and signs, once for a version and a choice.
void SectionView::workOutAlong() {
    m_along.reset(), m_signs.reset();
    if (products()) {
        const auto& holes = *products()->project.holes;
        const auto& look = selection()->along();
        if (look.choice.kind != AlongChoice::Kind::Unit) {
            auto values = alongValues(look.choice, holes, *products()->reading);
            for (auto& stretches : values.holes)
                std::erase_if(stretches, [&](const AlongStretch& s) { return look.hiddenCodes.contains(s.code); });
            m_along = std::make_shared<const AlongValues>(std::move(values));
        }
        if (look.samples) {
            auto signs = std::make_shared<std::vector<std::vector<AlongSign>>>();
            for (const auto& h : holes) signs->push_back(signsAlong(h, *products()->project.shownWater));
            m_signs = std::move(signs);
        }
    }
    m_legend->setValues(m_along);
    update();
}

/// Only holes that the selection shows stand on it.
std::shared_ptr<const Section> SectionView::withShownHoles(const std::shared_ptr<const Section>& whole) {
    if (!whole || !selection()->shownHoles()) return whole;
    if (whole != m_whole || m_shownOf != selection()->shownHoles()) {
        auto some = *whole;
        std::erase_if(some.holes, [&](const SectionHole& h) { return !selection()->isShown(h.name); });
        m_whole = whole, m_shownOf = selection()->shownHoles();
        m_shownSection = std::make_shared<const Section>(std::move(some));
    }
    return m_shownSection;
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

std::size_t SectionView::chosenIndex() const {
    return std::size_t(std::clamp(selection()->section(), 0, int(products()->sections.size()) - 1));
}

const Section* SectionView::section() const {
    if (!products() || products()->sections.empty()) return nullptr;
    const auto* s = products()->sections[chosenIndex()].get();
    return !s || s->chainage.empty() ? nullptr : s;
}

QString SectionView::summary() const {
    const auto* s = section();
    if (!s) return {};
    const auto shown = std::ranges::count_if(s->holes, [this](const auto& h) { return selection()->isShown(h.name); });
    if (m_drawingGuide) return tr("click where the base lies, double-click to end, Esc cancels");
    const auto i = chosenIndex();
    const auto name = QString::fromStdString((*products()->project.sections)[i].name);
    return tr("%1 to %1′ · %2 within %3 m · height ×%4")
        .arg(name)
        .arg(counted(qint64(shown), "hole"))
        .arg((*products()->project.sections)[i].reach)
        .arg(selection()->exaggeration());
}

Wanted SectionView::wanted(const Project& project) const {
    Wanted out;
    if (const auto* line = selection()->sectionOf(project)) out.sections.insert(line->name);
    if (selection()->blockLook().on) out.kinds.insert(ProductKind::Blocks), out.kinds.insert(ProductKind::Excavations);
    return out;
}

/// Blocks and the dug surface along the line.
void SectionView::workOutBlocks() {
    m_cells.reset(), m_dug.reset();
    const auto& look = selection()->blockLook();
    const auto* line = products() && look.on ? selection()->sectionOf(products()->project) : nullptr;
    if (line) {
        const auto* made = look.blocks ? shownBlocks(products().get(), look) : nullptr;
        if (made && made->blocks)
            m_cells = std::make_shared<const std::vector<SectionCell>>(
                blockCells(*made->blocks, look, *products()->project.sequence, line->line));
        if (auto dug = dugAlong(*products(), look, line->line); !dug.empty())
            m_dug = std::make_shared<const std::vector<Point2>>(std::move(dug));
    }
    update();
}

void SectionView::productsChanged() {
    workOutAlong();
    workOutBlocks();
    if (m_toFit && section()) {
        m_toFit = false;
        return fit(); // another line, whatever was looked at on the one before
    }
    fitIfNeeded();
}

QRectF SectionView::worldBounds() const {
    const auto* s = section();
    if (!s) return {};
    const auto levels = levelsOf(*s);
    if (!levels) return {};
    const auto [low, high] = *levels;
    return {0, low - 2, s->chainage.back(), high - low + 4};
}

SectionLayout SectionView::layout() const {
    constexpr double mm = kMillimetresPerPixel;
    SectionLayout out;
    out.width = width() * mm, out.height = height() * mm;
    out.area.include({kLeft * mm, 0});
    out.area.include({std::max(kLeft + 1, width()) * mm, std::max(1, height() - kFoot) * mm});
    const auto corner = toWorld({kLeft, 0});
    out.firstChainage = corner.x(), out.highestLevel = corner.y();
    out.perMetre = pixelsPerMetre() * mm;
    out.exaggeration = stretch();
    return out;
}

void SectionView::savePicture() {
    const auto& name = (*products()->project.sections)[chosenIndex()].name;
    const auto path = askSaveFile(this, tr("Picture of section %1").arg(qt(name)), "pictures", tr("section_%1.png").arg(qt(name)),
                                  drawingKinds(), "png");
    if (path.isEmpty()) return;
    try {
        savePictureTo(path);
    } catch (const Error& e) {
        emit failed(qt(e.what()));
    }
}

void SectionView::savePictureTo(const QString& path) {
    const auto now = toDraw();
    saveDrawing(path, drawSection(*now.section, *now.sequence, now.layout, now.style));
}

/// The drawing that goes on paper too, made again when the section, the part in sight or what is chosen is another.
const QImage& SectionView::drawn() {
    auto now = toDraw();
    if (m_image.isNull() || !(now == m_drawn)) {
        m_image = imageOf(drawSection(*now.section, *now.sequence, now.layout, now.style), now.devicePixelRatio);
        m_drawn = std::move(now);
    }
    return m_image;
}

SectionView::Drawn SectionView::toDraw() {
    SectionStyle style;
    style.strong = products()->project.sequence->index(selection()->unit().toStdString());
    style.marked = selection()->hole().toStdString();
    style.along = m_along;
    if (m_along) style.colours = alongColours(*m_along, selection()->along());
    style.graph = selection()->along().graph;
    style.signs = m_signs;
    style.cells = m_cells, style.dug = m_dug;
    style.stick *= selection()->along().stickWidth;
    return {withShownHoles(products()->sections[chosenIndex()]),
            products()->project.sequence,
            layout(),
            style,
            devicePixelRatioF(),
            colour::paper};
}

/// The hole under the cursor, here or in another view, lights up.
void SectionView::paintHovered(QPainter& painter) const {
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::fox, 1.4));
    for (const auto& h : section()->holes) {
        if (h.name != selection()->hovered().toStdString() || !selection()->isShown(h.name)) continue;
        for (const auto& stick : h.sticks)
            painter.drawRect(QRectF(toScreen(stick.topChainage, stick.topLevel), toScreen(stick.baseChainage, stick.baseLevel))
                                 .normalized()
                                 .adjusted(-6, 0, 6, 0));
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
                                : tr("No section line yet. Press Ctrl+L and click its corners on the plan."));
    }
    painter.drawImage(QPointF(), drawn());
    painter.setClipRect(QRect(kLeft, 0, width() - kLeft, height() - kFoot));
    paintCrossings(painter);
    paintDoubt(painter);
    paintHovered(painter);
    paintContacts(painter);
    paintGuides(painter);
    if (selection()->plane()) planeLine().paint(painter, selection()->plane()->plane);
}

PlaneLine SectionView::planeLine() const {
    std::vector<PlaneLine::Node> nodes;
    if (!selection()->plane() || !section()) return PlaneLine({});
    // at the line's corners and its ends, as far as they are in sight: so the handles are too
    const double left = std::max(0.0, toWorld({kLeft + 30.0, 0}).x()),
                 right = std::min(section()->chainage.back(), toWorld({width() - 30.0, 0}).x());
    std::vector<double> stops{left};
    double corner = 0;
    for (std::size_t i = 1; i < section()->line.size(); ++i) {
        corner += distance(section()->line[i - 1], section()->line[i]);
        if (corner > left && corner < right) stops.push_back(corner);
    }
    if (right > left) stops.push_back(right);
    for (const double chainage : stops) {
        const auto place = pointAlong(section()->line, chainage);
        nodes.push_back({toScreen(chainage, selection()->plane()->plane.at(place)), place});
    }
    return PlaneLine(std::move(nodes));
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
        if (on == section()->holes.end() || !selection()->isShown(c.hole)) continue;
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
    if (e->button() == Qt::LeftButton && selection()->plane() && !selection()->planePoints()
        && m_grip.take(planeLine(), e->position(), selection()->plane()->plane, toWorld(e->position()).y()))
        return;
    if (e->button() == Qt::LeftButton && !m_drawingGuide && onBase(e->position())) {
        const auto w = toWorld(e->position());
        m_pull = Point2{w.x(), w.y()};
        m_pullStart = e->position();
        return update();
    }
    PannedView::mousePressEvent(e);
}

void SectionView::mouseMoveEvent(QMouseEvent* e) {
    if (const auto moved = m_grip.moved(planeLine(), toWorld(e->position()).y())) {
        auto next = *selection()->plane();
        next.plane = *moved;
        return selection()->setPlane(next);
    }
    if (m_pull) {
        m_pull->y = toWorld(e->position()).y();
        return update();
    }
    PannedView::mouseMoveEvent(e);
    if (!m_drawingGuide) setCursor(onBase(e->position()) ? Qt::SplitVCursor : Qt::ArrowCursor);
}

void SectionView::mouseReleaseEvent(QMouseEvent* e) {
    if (m_grip.release()) return;
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
    if (e->key() == Qt::Key_PageDown) return step(1);
    if (e->key() == Qt::Key_PageUp) return step(-1);
    PannedView::keyPressEvent(e);
}

QString SectionView::holeAt(QPointF p) const {
    if (!section()) return {};
    for (const auto& h : section()->holes)
        for (const auto& s : h.sticks) {
            if (!selection()->isShown(h.name)) break;
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
