// Lines, outlines and places that are drawn on the plan by hand, and the triangles that are mended there.
#include "views/plan_view.h"

#include "base/errors.h"
#include "project/ground_edits.h"
#include "project/layer_edits.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "project/surface_edits.h"
#include "sequence/hole_choice.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/corner_table.h"
#include "views/layer_values.h"
#include "views/number_box.h"
#include "views/typical_level.h"

#include <QInputDialog>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QRegularExpression>

namespace fox::app {

void PlanView::chooseDrawing() {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Section line"), this, [this] { startDrawing(Drawing::Section); });
    menu->addAction(tr("Outline"), this, [this] { startDrawing(Drawing::Outline); });
    menu->addAction(tr("Site limit"), this, [this] { startDrawing(Drawing::SiteLimit); });
    menu->addAction(tr("Fault"), this, [this] { startDrawing(Drawing::Fault); });
    menu->addAction(tr("Breakline"), this, [this] { startDrawing(Drawing::Breakline); });
    menu->addAction(tr("Predicted log"), this, [this] { startDrawing(Drawing::Trial); });
    if (chosenBase()) {
        const auto name = QString::fromStdString(products()->project.sequence->units[*chosenBase()].name);
        menu->addAction(tr("Guide point of the base of %1").arg(name), this, [this] { startDrawing(Drawing::GuidePoint); });
        menu->addAction(tr("Guide line of the base of %1").arg(name), this, [this] { startDrawing(Drawing::GuideLine); });
        menu->addAction(tr("%1 is present here").arg(name), this, [this] { startDrawing(Drawing::Present); });
        menu->addAction(tr("%1 is absent here").arg(name), this, [this] { startDrawing(Drawing::Absent); });
    }
    auto* mends = menu->addMenu(tr("Edit triangles"));
    using Kind = TinEdit::Kind;
    for (const auto& [kind, words] : {std::pair{Kind::SwapEdge, tr("Flip edge")},
                                      {Kind::RemoveTriangle, tr("Remove a triangle")},
                                      {Kind::LeaveOut, tr("Leave out a point")},
                                      {Kind::SetLevel, tr("Set a point's level")}})
        mends->addAction(words, this, [this, k = kind] { startMending(k); });
    menu->popup(QCursor::pos());
}

void PlanView::startDrawing(Drawing what) {
    if (m_drawing != what) giveUp();
    m_line.clear();
    m_drawing = what;
    m_draw->setChecked(true);
    setCursor(Qt::CrossCursor);
    setFocus();
    emit summaryChanged();
    update();
}

void PlanView::startMending(TinEdit::Kind kind) {
    giveUp();
    m_mending = kind;
    m_draw->setChecked(true);
    auto look = selection()->planLook();
    look.triangles = true; // what is to be mended must be seen
    selection()->setPlanLook(look);
    setCursor(Qt::CrossCursor);
    setFocus();
    emit summaryChanged();
}

void PlanView::giveUp() {
    const bool ended = std::exchange(m_drawing, Drawing::None) != Drawing::None;
    if (m_lines.isDragging()) {
        m_lines.cancel();
        emit previewEnded();
    } else if (!ended && !m_joining) {
        selection()->setLine({});
    }
    m_joining.reset();
    m_gridEditor.cancel();
    selection()->cancelPlanePoints();
    m_mending.reset();
    m_line.clear();
    if (m_levelBox) m_levelBox->deleteLater();
    m_draw->setChecked(false);
    m_placing.clear();
    unsetCursor();
    emit summaryChanged();
    update();
    if (ended) emit drawingEnded();
}

QString PlanView::mendingWords() const {
    switch (*m_mending) {
    case TinEdit::Kind::SwapEdge: return tr("click edges to flip them, Esc to end");
    case TinEdit::Kind::RemoveTriangle: return tr("click triangles to remove them, Esc to end");
    case TinEdit::Kind::LeaveOut: return tr("click points to leave them out, Esc to end");
    case TinEdit::Kind::SetLevel: break;
    }
    return tr("click a point to set its level, Esc to end");
}

void PlanView::finishDrawing() {
    // a double click sets its corner twice
    m_line.erase(std::unique(m_line.begin(), m_line.end()), m_line.end());
    if (const auto missing = missingCorners(); !missing.isEmpty()) {
        update();
        return emit failed(missing); // and the drawing goes on
    }
    const auto what = m_drawing;
    auto line = std::exchange(m_line, {});
    giveUp();
    if (products()) takeDrawn(what, line);
}

/// What is still to be clicked before the drawing can end; empty if nothing is.
QString PlanView::missingCorners() const {
    const auto has = m_line.size();
    switch (m_drawing) {
    case Drawing::Outline:
    case Drawing::ShownArea:
    case Drawing::SiteLimit: return has >= 3 ? QString() : tr("An outline needs three corners. Click the next one; Esc cancels.");
    case Drawing::Section:
    case Drawing::Fault:
    case Drawing::Breakline:
    case Drawing::GuideLine:
    case Drawing::Rectangle: return has >= 2 ? QString() : tr("A line needs two corners. Click the next one; Esc cancels.");
    case Drawing::Present:
    case Drawing::Absent:
    case Drawing::Cells:
        return has == 1 || has >= 3 ? QString()
                                    : tr("An area needs three corners, a position one. Click the next one; Esc cancels.");
    default: return has >= 1 ? QString() : tr("Click the place on the plan; Esc cancels.");
    }
}

void PlanView::takeDrawn(Drawing what, const Polyline2& line) {
    switch (what) {
    case Drawing::Section:
        emit editMade([line](const Project& p) { return addSection(p, line); });
        return selection()->setSection(int(products()->project.sections->size()));
    case Drawing::Outline:
        return emit editMade([line, name = tr("outline %1")](const Project& p) {
            const auto number = p.ground->outlines.size() + 1;
            return addOutline(p, name.arg(number).toStdString(), line, GroundSources::Outline::Use::None);
        });
    case Drawing::SiteLimit: return emit editMade([line](const Project& p) { return setSiteLimit(p, line); });
    case Drawing::Fault: {
        const auto u = chosenBase(); // it steps the chosen base and older ones, all if none is chosen
        return emit editMade([line, youngest = u ? products()->project.sequence->units[*u].code
                                                 : std::string()](const Project& p) { return addFault(p, line, youngest); });
    }
    case Drawing::Breakline: return askBreaklineLevels(line);
    case Drawing::ShownArea: return selection()->showHoles(holesInside(*products()->project.holes, Area(line)));
    case Drawing::GuideLine:
    case Drawing::GuidePoint: return askGuideLevels(line);
    case Drawing::Present:
    case Drawing::Absent: {
        if (!chosenBase()) return emit failed(tr("Choose a unit first: where is which unit?"));
        const PresenceMark mark{products()->project.sequence->units[*chosenBase()].code, line, what == Drawing::Present};
        return emit editMade([mark](const Project& p) { return addPresenceMark(p, mark); });
    }
    case Drawing::Cells: return emit cellsDrawn(line);
    case Drawing::Rectangle: return emit rectangleDrawn(line.front(), line.back());
    case Drawing::Trial: {
        const Point2 place{std::round(line.front().x * 100) / 100, std::round(line.front().y * 100) / 100};
        const auto name = freeTrialName(products()->project);
        emit editMade([place, name](const Project& p) { return addTrialColumn(p, place, name); });
        return selection()->setTrial(QString::fromStdString(name));
    }
    case Drawing::Spot: return emit spotPicked(line.front());
    case Drawing::None: return;
    }
}

const LayerSpec* PlanView::editableGrid() const {
    const auto& look = selection()->layerLook();
    if (!look.onPlan || shownMesh(products().get(), look)) return nullptr;
    const auto* made = shownLayers(products().get(), look);
    return made ? &made->spec : nullptr;
}

/// Without a drag it was a click on what lies under the handle: a hole, for instance.
void PlanView::endGridDrag(QPointF at) {
    const auto* spec = editableGrid();
    const auto grid = m_gridEditor.release();
    if (!grid) clicked(at);
    if (spec && grid)
        emit editMade([name = spec->name, grid = *grid](const Project& p) {
            return changeLayeredGrid(
                p, name, [&](LayerSpec& s) { s.grid = grid; }, "another plan grid");
        });
    emit summaryChanged();
    update();
}

bool PlanView::isOnHandle(QPointF p) const {
    const auto* spec = editableGrid();
    return m_lines.isOnHandle(transform(), p) || (spec && m_gridEditor.isOnHandle(transform(), spec->grid, p));
}

void PlanView::mendAt(QPointF p) {
    const auto w = toWorld(p);
    const Point2 place{w.x(), w.y()};
    const auto& tin = products()->terrain->tin;
    using Kind = TinEdit::Kind;
    const auto make = [this](const TinEdit& edit) { emit editMade([edit](const Project& now) { return mend(now, edit); }); };
    switch (*m_mending) {
    case Kind::SwapEdge:
        if (const auto edge = edgeNear(tin, place)) {
            if (!tin.swapped(edge->first, edge->second))
                return emit failed(
                    tr("This edge can't be flipped: it lies on a line or on the boundary, or its two triangles make a "
                       "hollow corner."));
            make({Kind::SwapEdge, edge->first, edge->second, 0});
        }
        break;
    case Kind::RemoveTriangle:
        if (const auto at = tin.triangleAt(place)) {
            const auto c = tin.corners(tin.triangles()[*at]);
            make({Kind::RemoveTriangle, {(c[0].x + c[1].x + c[2].x) / 3, (c[0].y + c[1].y + c[2].y) / 3}, {}, 0});
        }
        break;
    case Kind::LeaveOut:
        if (const auto v = vertexNear(tin, place)) make({Kind::LeaveOut, v->plan(), {}, 0});
        break;
    case Kind::SetLevel:
        if (const auto v = vertexNear(tin, place)) askLevel(*v);
        break;
    }
}

QDoubleSpinBox* PlanView::levelBoxAt(Point2 place, double level) {
    if (m_levelBox) m_levelBox->deleteLater();
    m_levelBox = new NumberBox(this);
    m_levelBox->setObjectName("pointLevel");
    m_levelBox->setAccessibleName(tr("Level"));
    m_levelBox->setRange(-12000, 9000);
    m_levelBox->setDecimals(3);
    m_levelBox->setSuffix(tr(" m"));
    m_levelBox->setValue(level);
    m_levelBox->move((toScreen(place.x, place.y) + QPointF(8, -12)).toPoint());
    m_levelBox->show();
    m_levelBox->setFocus();
    m_levelBox->selectAll();
    return m_levelBox;
}

void PlanView::askLevel(const Point3& vertex) {
    auto* box = levelBoxAt(vertex.plan(), vertex.z);
    box->setToolTip(tr("The point's level; Enter takes it"));
    connect(box, &QDoubleSpinBox::editingFinished, this, [this, vertex, box] {
        if (box != m_levelBox) return;
        const double level = box->value();
        m_levelBox->deleteLater();
        m_levelBox.clear();
        setFocus();
        if (std::abs(level - vertex.z) > 5e-4)
            emit editMade(
                [edit = TinEdit{TinEdit::Kind::SetLevel, vertex.plan(), {}, level}](const Project& p) { return mend(p, edit); });
    });
}

std::optional<std::size_t> PlanView::chosenBase() const {
    if (!products() || !products()->model) return {};
    const auto u = products()->project.sequence->index(selection()->unit().toStdString());
    return u && *u < products()->model->bases.size() ? u : std::nullopt;
}

void PlanView::askGuideLevels(Polyline2 line) {
    const auto u = chosenBase();
    if (!u) return emit failed(tr("Choose a unit first: a guide belongs to a unit's base."));
    // a line keeps the shape of the base as it is and is moved up or down to the level given for its last place
    std::vector<double> now;
    for (const auto& p : line) now.push_back(products()->model->columnAt(p).bases[*u]);
    const double last = std::isnan(now.back()) ? 0 : now.back();
    auto* box = levelBoxAt(line.back(), std::round(last * 100) / 100);
    box->setToolTip(line.size() == 1 ? tr("Level of the base here; Enter takes it")
                                     : tr("Level of the base at the line's end; the line is moved up or down as a whole"));
    connect(box, &QDoubleSpinBox::editingFinished, this,
            [this, line, now, last, box, code = products()->project.sequence->units[*u].code] {
                if (box != m_levelBox) return;
                const double shift = box->value() - last;
                m_levelBox->deleteLater();
                m_levelBox.clear();
                setFocus();
                Polyline3 guide;
                for (std::size_t i = 0; i < line.size(); ++i)
                    guide.push_back({line[i].x, line[i].y, (std::isnan(now[i]) ? last : now[i]) + shift});
                emit editMade([code, guide](const Project& p) { return addGuide(p, code, guide); });
            });
}

/// A breakline has the ground's levels, or one level that is typed.
void PlanView::askBreaklineLevels(const Polyline2& line) {
    const auto ground = products()->terrain->levelAt(line.back());
    auto* box = levelBoxAt(line.back(), std::round(ground.value_or(0) * 100) / 100);
    box->setToolTip(tr("Level of the whole breakline; left as it is, it lies on the ground; Enter takes it"));
    connect(box, &QDoubleSpinBox::editingFinished, this, [this, line, box, was = box->value()] {
        if (box != m_levelBox) return;
        const double level = box->value() == was ? kNoValue : box->value();
        m_levelBox->deleteLater();
        m_levelBox.clear();
        setFocus();
        Polyline3 drawn;
        for (const auto& p : line) drawn.push_back({p.x, p.y, level});
        emit editMade([drawn](const Project& p) { return addBreakline(p, drawn); });
    });
}

void PlanView::contextMenuEvent(QContextMenuEvent* e) {
    if (m_drawing != Drawing::None || !products()) return;
    if (!m_lines.cornerAt(transform(), e->pos()))
        if (const auto* line = m_lines.lineAt(transform(), e->pos())) selection()->setLine(*line);
    if (!selection()->line()) return;
    auto* menu = new QMenu(this);
    menu->setObjectName("lineMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    lineMenu(*menu, e->pos());
    menu->popup(e->globalPos());
}

/// What can be done with the chosen line.
void PlanView::lineMenu(QMenu& menu, QPointF at) {
    const auto line = *selection()->line();
    const bool isExtent = line.kind == ProjectLine::Kind::Extent;
    const auto add = [&](const QString& words, Edit edit) {
        menu.addAction(words, this, [this, edit] {
            selection()->setLine({});
            emit editMade(edit);
        });
    };
    if (const auto corner = m_lines.cornerAt(transform(), at); corner && !isExtent) {
        auto corners = line.corners;
        corners.erase(corners.begin() + std::ptrdiff_t(*corner));
        menu.addAction(tr("Remove this corner"), this, [this, corners] {
            emit editMade(m_lines.edit(corners));
            update();
        });
        if (!line.isClosed() && *corner > 0 && *corner + 1 < line.corners.size())
            add(tr("Split here"), [line, c = *corner](const Project& p) { return splitLine(p, line, c); });
    }
    if (!isExtent) menu.addAction(tr("Coordinates…"), this, &PlanView::showCorners);
    if (!line.isClosed()) {
        add(tr("Reverse"), [line](const Project& p) { return reverseLine(p, line); });
        menu.addAction(tr("Join with another…"), this, [this, line] {
            m_joining = line;
            emit summaryChanged();
        });
    }
    if (line.kind == ProjectLine::Kind::Section)
        menu.addAction(tr("Parallel sections…"), this, [this, name = line.name] { askParallels(name); });
    menu.addSeparator();
    add(isExtent ? tr("Extent around the data again") : tr("Remove the %1").arg(qt(describe(line))),
        [line](const Project& p) { return removeLine(p, line); });
}

void PlanView::showCorners() {
    if (!selection()->line()) return;
    auto* table = new CornerTable(*selection()->line(), this);
    table->setAttribute(Qt::WA_DeleteOnClose);
    connect(table, &CornerTable::editMade, this, &View::editMade);
    connect(table, &CornerTable::lineChanged, this, [this](const ProjectLine& line) { selection()->setLine(line); });
    table->show();
}

void PlanView::askParallels(const std::string& section) {
    bool ok = false;
    const auto typed = QInputDialog::getText(this, tr("Parallel sections"), tr("Distance in m, number to the left, to the right"),
                                             QLineEdit::Normal, "25 2 2", &ok);
    if (!ok) return;
    const auto parts = typed.split(QRegularExpression("[ ,;]+"), Qt::SkipEmptyParts);
    bool good[3] = {false, false, false};
    const double each = parts.size() == 3 ? parts[0].toDouble(&good[0]) : 0;
    const int left = parts.size() == 3 ? parts[1].toInt(&good[1]) : 0, right = parts.size() == 3 ? parts[2].toInt(&good[2]) : 0;
    if (!good[0] || !good[1] || !good[2]) return emit failed(tr("Type three numbers apart by blanks: 25 2 2."));
    emit editMade([=](const Project& p) { return addParallelSections(p, section, each, left, right); });
}

void PlanView::paintDrawing(QPainter& painter) const {
    if (m_line.empty()) return;
    QPolygonF line;
    for (const auto& c : m_line) line << toScreen(c.x, c.y);
    if (m_cursor) line << toScreen(m_cursor->x, m_cursor->y);
    painter.setPen(QPen(colour::fox, 2, Qt::DashLine));
    painter.setBrush(Qt::NoBrush);
    if (m_drawing == Drawing::Rectangle)
        painter.drawRect(QRectF(line.first(), line.last()).normalized());
    else if (m_drawing == Drawing::Outline || m_drawing == Drawing::SiteLimit || m_drawing == Drawing::Present
             || m_drawing == Drawing::Absent || m_drawing == Drawing::ShownArea || m_drawing == Drawing::Cells)
        painter.drawPolygon(line);
    else
        painter.drawPolyline(line);
}

} // namespace fox::app
