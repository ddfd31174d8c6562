#include "views/log_view.h"

#include "base/errors.h"
#include "project/interval_edits.h"
#include "project/sequence_edits.h"
#include "sequence/interval_parts.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/column_panel.h"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <fmt/format.h>

namespace fox::app {

namespace {
QString nameOf(const LogPanel& panel) { return QString::fromStdString(panel.content().name); }
} // namespace

LogView::LogView(Selection* selection, QWidget* parent)
    : View(selection, parent),
      m_keep(new QAction(tr("keep"), this)),
      m_alone(new QAction(tr("alone"), this)),
      m_probe(new QAction(tr("cursor"), this)) {
    setObjectName("logView");
    setAccessibleName(tr("Log of the selected hole"));
    m_keep->setToolTip(tr("Keep this hole here, beside the one that is picked next (K)"));
    m_alone->setToolTip(tr("Show the selected hole alone again"));
    connect(m_keep, &QAction::triggered, this, &LogView::keep);
    connect(m_alone, &QAction::triggered, this, [this] {
        m_kept.clear();
        emit summaryChanged();
        update();
    });
    connect(selection, &Selection::holeChanged, this, [this] {
        m_drag.reset();
        emit summaryChanged();
        update();
    });
    connect(selection, &Selection::unitChanged, this, qOverload<>(&QWidget::update));
    connect(selection, &Selection::shownHolesChanged, this, qOverload<>(&QWidget::update));
    m_probe->setCheckable(true);
    m_probe->setToolTip(tr("Show what a hole would find at the place under the cursor on plan and section"));
    connect(m_probe, &QAction::toggled, this, &LogView::predict);
    connect(selection, &Selection::trialChanged, this, &LogView::predict);
    connect(selection, &Selection::probeChanged, this, [this] {
        if (m_probe->isChecked()) predict();
    });
}

void LogView::productsChanged() {
    m_models.clear();
    predict();
}

void LogView::predict() {
    m_predicted.reset();
    emit summaryChanged();
    update();
    if (!products() || !products()->model || products()->model->bases.empty()) return;
    const auto at = [&](const QString& name, Point2 place) {
        m_predicted = Predicted{name, place, products()->model->columnAt(place, true)};
    };
    if (m_probe->isChecked() && selection()->probe()) return at(tr("here"), *selection()->probe());
    for (const auto& t : *products()->project.trialColumns)
        if (QString::fromStdString(t.name) == selection()->trial()) at(selection()->trial(), t.place);
}

const Hole* LogView::hole() const {
    return products() ? findHole(*products()->project.holes, selection()->hole().toStdString()) : nullptr;
}

QString LogView::summary() const {
    if (m_predicted) return tr("what a hole would find: bases, levels in m");
    const auto* h = hole();
    if (!h) return m_kept.isEmpty() ? QString() : m_kept.join(", ");
    auto words = selection()->hole() + QString::fromUtf8(" · ") + QString::fromStdString(typeInWords(h->type));
    if (h->excluded) words += tr(" · excluded from surfaces");
    auto others = m_kept;
    others.removeAll(selection()->hole());
    return others.isEmpty() ? words : words + tr(" · beside %1").arg(others.join(", "));
}

void LogView::keep() {
    const auto name = selection()->hole();
    if (name.isEmpty() || m_kept.contains(name)) return;
    m_kept << name;
    emit summaryChanged();
    update();
}

std::vector<LogPanel> LogView::panels() {
    std::vector<LogPanel> out;
    if (!products()) return out;
    auto names = m_kept;
    names.removeIf([this](const QString& n) { return !selection()->isShown(n.toStdString()); });
    if (const auto now = selection()->hole(); !now.isEmpty() && !names.contains(now)) names << now;
    std::vector<LogContent> contents;
    double deepest = 0;
    for (const auto& name : names) {
        const auto* h = findHole(*products()->project.holes, name.toStdString());
        if (!h) continue;
        LogContent content{h, nullptr, products()->project.sequence.get(), name.toStdString(), {}};
        content.water = *products()->project.shownWater;
        for (const auto& read : products()->reading->holes)
            if (read.hole == h) content.reading = &read;
        deepest = std::max(deepest, h->end().metres);
        if (const auto path = HolePath::of(*h); path && products()->model && !products()->model->bases.empty()) {
            auto known = m_models.find(name);
            if (known == m_models.end())
                known = m_models.emplace(name, modelAlong(*products()->model, *path, h->end().metres)).first;
            content.model = known->second;
        }
        contents.push_back(std::move(content));
    }
    const double wide = double(width()) / double(std::max<std::size_t>(1, contents.size()));
    for (std::size_t i = 0; i < contents.size(); ++i)
        out.emplace_back(contents[i], QRectF(double(i) * wide, 0, wide, height()), deepest);
    return out;
}

std::optional<LogPanel> LogView::mainPanel() {
    for (auto& p : panels())
        if (nameOf(p) == selection()->hole()) return p;
    return {};
}

double LogView::yOf(double depth) {
    const auto panel = mainPanel();
    return panel ? panel->yOf(depth) : 0;
}

double LogView::columnX() {
    const auto panel = mainPanel();
    return panel ? panel->columnLeft() : 0;
}

void LogView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), colour::paper);
    if (m_predicted)
        return paintPredicted(painter, rect(), m_predicted->name, m_predicted->place, m_predicted->column,
                              *products()->project.sequence, selection()->unit());
    const auto all = panels();
    if (all.empty())
        return paintEmpty(painter, rect(), tr("Pick a hole on the plan, in the table or on a section to see its log."));
    for (const auto& panel : all) {
        const bool main = nameOf(panel) == selection()->hole();
        const auto& h = *panel.content().hole;
        if (h.intervals.empty() && h.curves.empty() && h.blowCounts.empty())
            paintEmpty(painter, panel.area(), tr("%1 has no geology.").arg(nameOf(panel)));
        else
            paintLog(painter, panel, main ? m_drag : std::nullopt);
        if (panel.area().left() > 0) {
            painter.setPen(QPen(colour::line, 1));
            painter.drawLine(panel.area().topLeft(), panel.area().bottomLeft());
        }
        if (!main || !m_drag) continue;
        painter.setPen(QPen(colour::fox, 1.6));
        painter.drawLine(QPointF(panel.columnLeft() - 8, panel.yOf(m_drag->depth)),
                         QPointF(panel.area().right() - 4, panel.yOf(m_drag->depth)));
        painter.setFont(bodyFont(11, true));
        painter.drawText(QRectF(panel.columnRight() + 8, panel.yOf(m_drag->depth) - 17, 120, 16), Qt::AlignLeft,
                         metres(m_drag->depth));
    }
}

/// The drawing, and over it what is chosen.
void LogView::paintLog(QPainter& painter, const LogPanel& panel, const std::optional<MovedBoundary>& moved) const {
    const auto drawing = panel.drawing(moved);
    painter.drawImage(QPointF(), imageOf(drawing, devicePixelRatioF()));
    if (selection()->unit().isEmpty()) return;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::fox, 2.2));
    for (const auto& item : drawing.items) {
        if (item.layer != "column" || item.name != selection()->unit().toStdString()) continue;
        QPolygonF box;
        for (const auto& p : std::get<paper::FilledArea>(item.shape).rings.front())
            box << QPointF(p.x, p.y) / kMillimetresPerPixel;
        painter.drawPolygon(box);
    }
}

std::optional<std::size_t> LogView::boundaryAt(const LogPanel& panel, QPointF p) const {
    if (p.x() < panel.columnLeft() - 8 || p.x() > panel.columnRight() + 8) return {};
    const auto& intervals = panel.content().logged();
    for (std::size_t k = 0; k + 1 < intervals.size(); ++k)
        if (intervals[k].usable() && std::abs(panel.yOf(intervals[k].base.metres) - p.y()) < 5) return k;
    return {};
}

void LogView::mousePressEvent(QMouseEvent* e) {
    if (m_predicted) return;
    for (const auto& panel : panels()) {
        if (!panel.area().contains(e->position())) continue;
        const bool main = nameOf(panel) == selection()->hole();
        const auto boundary = main ? boundaryAt(panel, e->position()) : std::nullopt;
        if (boundary && e->button() == Qt::LeftButton) {
            m_dragFrom = panel.content().logged()[*boundary].base;
            m_drag = MovedBoundary{*boundary, m_dragFrom.metres};
        } else {
            selection()->setHole(nameOf(panel));
            const double depth = panel.depthAt(e->position().y());
            for (const auto& i : panel.content().logged())
                if (i.usable() && i.top.metres <= depth && depth < i.base.metres)
                    if (const auto* unit = panel.content().unitOf(i)) selection()->setUnit(QString::fromStdString(unit->code));
        }
        break;
    }
    update();
}

void LogView::mouseMoveEvent(QMouseEvent* e) {
    if (m_predicted) return;
    for (const auto& panel : panels()) {
        const bool main = nameOf(panel) == selection()->hole();
        const auto& h = *panel.content().hole;
        const auto& log = panel.content().logged();
        const double depth = panel.depthAt(e->position().y());
        if (m_drag && main && m_drag->interval + 1 < log.size()) {
            constexpr double kLeast = 0.01; // metres; no interval without length
            const double low = log[m_drag->interval].top.metres + kLeast, high = log[m_drag->interval + 1].base.metres - kLeast;
            const double was = std::exchange(m_drag->depth, std::clamp(std::round(depth * 100) / 100, std::min(low, high), high));
            if (was != m_drag->depth) emit editPreviewed(dragEdit()); // sections and surfaces follow
            return update();
        }
        if (m_drag || !panel.area().contains(e->position())) continue;
        setCursor(main && boundaryAt(panel, e->position()) ? Qt::SplitVCursor : Qt::ArrowCursor);
        QString tip;
        for (const auto& i : log)
            if (i.usable() && i.top.metres <= depth && depth < i.base.metres)
                tip = QString::fromStdString(fmt::format("{:.2f} to {:.2f} m: {}\n{}, line {}", i.top.metres, i.base.metres,
                                                         i.description, h.file, i.line));
        for (const auto& d : h.details)
            if (d.top.metres <= depth && depth <= d.base.metres)
                tip += QString::fromStdString(fmt::format("\n{:.2f} to {:.2f} m: {}", d.top.metres, d.base.metres, d.words));
        setToolTip(tip);
        if (h.level && h.place()) emit pointed(h.place()->x, h.place()->y, h.level->metres - depth, {});
    }
}

void LogView::mouseReleaseEvent(QMouseEvent*) {
    if (!m_drag) return;
    const auto drag = *m_drag;
    m_drag.reset();
    update();
    if (m_dragFrom.metres == drag.depth) return emit previewEnded();
    m_drag = drag; // which the edit says
    const auto edit = dragEdit();
    m_drag.reset();
    emit editMade(edit);
}

Edit LogView::dragEdit() const {
    return [name = selection()->hole().toStdString(), from = m_dragFrom, to = Depth{m_drag->depth}](const Project& p) {
        return splitAt(*p.interpretation, name, from) ? moveSplit(p, name, from, to) : moveBoundary(p, name, from, to);
    };
}

/// What can be done with the interval under the cursor, or the split.
void LogView::contextMenuEvent(QContextMenuEvent* e) {
    if (m_predicted) return;
    for (const auto& panel : panels()) {
        if (!panel.area().contains(e->pos())) continue;
        const auto name = panel.content().name;
        const auto& log = panel.content().logged();
        auto* menu = new QMenu(this);
        menu->setObjectName("logMenu");
        menu->setAttribute(Qt::WA_DeleteOnClose);
        const auto add = [this](QMenu* to, const QString& words, Edit edit) {
            to->addAction(words, this, [this, edit] { emit editMade(edit); });
        };
        if (const auto boundary = boundaryAt(panel, e->pos()))
            if (const auto split = splitAt(*products()->project.interpretation, name, log[*boundary].base))
                add(menu, tr("Remove the split at %1").arg(metres(split->metres)),
                    [name, at = *split](const Project& p) { return removeSplit(p, name, at); });
        const Depth depth{std::round(panel.depthAt(e->pos().y()) * 100) / 100};
        if (const auto* i = intervalWithin(log, depth); i && menu->isEmpty()) {
            add(menu, tr("Split at %1").arg(metres(depth.metres)),
                [name, depth](const Project& p) { return splitInterval(p, name, depth); });
            const std::vector<DepthRange> stretch{{name, i->top, i->base}};
            auto* units = menu->addMenu(tr("%1 to %2 is").arg(metres(i->top.metres), metres(i->base.metres)));
            for (const auto& u : products()->project.sequence->units)
                add(units, qt(u.code) + "  " + qt(u.name),
                    [stretch, code = u.code](const Project& p) { return setIntervals(p, stretch, code); });
            units->addSeparator();
            add(units, tr("no unit"), [stretch](const Project& p) { return setIntervals(p, stretch, std::string()); });
            add(units, tr("the unit of its code"), [stretch](const Project& p) { return setIntervals(p, stretch, {}); });
        }
        if (menu->isEmpty()) return delete menu;
        menu->popup(e->globalPos());
        return;
    }
}

void LogView::leaveEvent(QEvent*) { emit pointed(kNoValue, kNoValue, kNoValue, {}); }

void LogView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_K) return keep();
    if (e->key() == Qt::Key_Escape && m_drag) {
        m_drag.reset();
        emit previewEnded();
        update();
        return;
    }
    View::keyPressEvent(e);
}

} // namespace fox::app
