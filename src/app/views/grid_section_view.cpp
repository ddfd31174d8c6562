#include "views/grid_section_view.h"

#include "style/theme.h"
#include "style/words.h"

#include <QKeyEvent>
#include <QPainter>

namespace fox::app {

GridSectionView::GridSectionView(Selection* selection, QWidget* parent)
    : PannedView(selection, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_turn(new QAction(tr("row / column"), this)),
      m_before(new QAction(tr("previous"), this)),
      m_next(new QAction(tr("next"), this)) {
    setObjectName("gridSectionView");
    setAccessibleName(tr("Section through a row or a column of the layered grid"));
    m_fit->setToolTip(tr("Show everything (F)"));
    m_turn->setToolTip(tr("Rows run from west to east, columns from north to south (C)"));
    m_before->setToolTip(tr("The row or column before (Page Up)"));
    m_next->setToolTip(tr("The next row or column (Page Down)"));
    connect(m_fit, &QAction::triggered, this, &PannedView::fit);
    connect(m_before, &QAction::triggered, this, [this] { step(-1); });
    connect(m_next, &QAction::triggered, this, [this] { step(1); });
    connect(m_turn, &QAction::triggered, this, [this] {
        auto look = this->selection()->layerLook();
        look.byColumn = !look.byColumn;
        look.line = -1;
        this->selection()->setLayerLook(look);
        fit();
    });
    connect(selection, &Selection::layerLookChanged, this, [this] {
        fitIfNeeded();
        emit summaryChanged();
        update();
    });
    connect(selection, &Selection::exaggerationChanged, this, &PannedView::fit);
}

int GridSectionView::lines() const {
    const auto* g = grid();
    return !g ? 0 : selection()->layerLook().byColumn ? g->plan.columns() : g->plan.rows();
}

int GridSectionView::line() const {
    const auto* g = grid();
    return g ? shownLine(*g, selection()->layerLook()) : 0;
}

void GridSectionView::step(int by) {
    auto look = selection()->layerLook();
    look.line = std::clamp(line() + by, 0, std::max(0, lines() - 1));
    selection()->setLayerLook(look);
}

QString GridSectionView::summary() const {
    if (!grid()) return {};
    if (!m_hovered.isEmpty()) return m_hovered;
    return selection()->layerLook().byColumn ? tr("column %1 of %2, from north to south").arg(line() + 1).arg(lines())
                                             : tr("row %1 of %2, from west to east").arg(line() + 1).arg(lines());
}

void GridSectionView::productsChanged() {
    m_hovered.clear();
    fitIfNeeded();
}

std::size_t GridSectionView::columnAt(const LayeredGrid& g, int along) const {
    return selection()->layerLook().byColumn ? g.plan.index(line(), along) : g.plan.index(along, line());
}

double GridSectionView::cellWidth(const LayeredGrid& g, int along) const {
    return selection()->layerLook().byColumn ? g.plan.height(along) : g.plan.width(along);
}

QRectF GridSectionView::worldBounds() const {
    const auto* g = grid();
    if (!g) return {};
    double length = 0, low = kNoValue, high = kNoValue;
    const int count = selection()->layerLook().byColumn ? g->plan.rows() : g->plan.columns();
    for (int i = 0; i < count; ++i) {
        length += cellWidth(*g, i);
        const auto column = columnAt(*g, i);
        high = std::fmax(high, g->top[g->index(0, column)]);
        low = std::fmin(low, g->bottom[g->index(g->layers.size() - 1, column)]);
    }
    if (!(high > low)) return {};
    return {0, low, length, high - low};
}

void GridSectionView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), colour::paper);
    const auto* made = shownLayers(products().get(), selection()->layerLook());
    if (!made) return paintEmpty(painter, rect(), tr("No layered grid yet. Add one in the side panel."));
    if (!made->grid) return paintEmpty(painter, rect(), qt(made->problem));
    painter.setRenderHint(QPainter::Antialiasing);
    paintCells(painter, *made->grid);
    paintModel(painter, *made->grid);
    paintHeads(painter, *made->grid);
    paintScales(painter);
}

void GridSectionView::paintCells(QPainter& painter, const LayeredGrid& g) const {
    const auto& units = products()->project.sequence->units;
    const int count = selection()->layerLook().byColumn ? g.plan.rows() : g.plan.columns();
    std::vector<QBrush> patterns;
    for (const auto& u : units) patterns.push_back(hatch(u));
    auto edge = colour::ink;
    edge.setAlpha(70);
    double from = 0;
    for (int i = 0; i < count; ++i) {
        const double to = from + cellWidth(g, i);
        for (std::size_t k = 0; k < g.layers.size(); ++k) {
            const auto cell = g.index(k, columnAt(g, i));
            if (g.state[cell] == CellState::Outside || g.thickness(cell) <= 0) continue;
            const QRectF box(toScreen(from, g.top[cell]), toScreen(to, g.bottom[cell]));
            const auto u = g.unit[cell];
            if (u >= 0) {
                auto fill = unitColour(units[std::size_t(u)]);
                if (g.state[cell] == CellState::Passive) fill.setAlpha(90);
                painter.fillRect(box, fill);
                if (g.state[cell] == CellState::Active) painter.fillRect(box, patterns[std::size_t(u)]);
            }
            const bool marked = (g.marks[cell] & ~std::uint8_t(CellMark::Ratio)) != 0;
            painter.setPen(k == selection()->layerLook().layer ? QPen(colour::fox, 1.2) : QPen(edge, 0.6));
            painter.setBrush(Qt::NoBrush);
            painter.drawRect(box);
            if (marked) painter.fillRect(QRectF(box.left(), box.top(), box.width(), std::max(2.5, box.height())), colour::fox);
        }
        from = to;
    }
}

/// The bases that the grid was made from, so that one sees what cells make of them.
void GridSectionView::paintModel(QPainter& painter, const LayeredGrid& g) {
    const auto& model = products()->model;
    if (!model) return;
    const bool byColumn = selection()->layerLook().byColumn;
    const int count = byColumn ? g.plan.rows() : g.plan.columns();
    if (m_bases.model != model || m_bases.grid != &g || m_bases.line != line() || m_bases.byColumn != byColumn) {
        std::vector<Point2> places;
        for (int i = 0; i < count; ++i) places.push_back(byColumn ? g.plan.centre(line(), i) : g.plan.centre(i, line()));
        m_bases = {model, &g, line(), byColumn, model->columnsAt(places)};
    }
    const auto draw = [&](const QPen& pen, auto levelOf) {
        painter.setPen(pen);
        QPolygonF piece;
        double from = 0;
        for (int i = 0; i < count; ++i) {
            const double at = from + cellWidth(g, i) / 2;
            from += cellWidth(g, i);
            const double level = levelOf(m_bases.columns[std::size_t(i)]);
            if (!std::isnan(level)) piece << toScreen(at, level);
            if (std::isnan(level) || i + 1 == count) {
                painter.drawPolyline(piece);
                piece.clear();
            }
        }
    };
    for (std::size_t u = 0; u < model->bases.size(); ++u)
        draw(QPen(colour::ink, 0.9), [u](const ModelColumn& c) { return std::isnan(c.ground) ? kNoValue : c.bases[u]; });
    draw(QPen(colour::ink, 1.5), [](const ModelColumn& c) { return c.ground; });
}

void GridSectionView::paintHeads(QPainter& painter, const LayeredGrid& g) const {
    const auto heads = g.values.find("starting_head");
    if (heads == g.values.end()) return;
    QPolygonF levels;
    double from = 0;
    const int count = selection()->layerLook().byColumn ? g.plan.rows() : g.plan.columns();
    for (int i = 0; i < count; ++i) {
        const double at = from + cellWidth(g, i) / 2;
        from += cellWidth(g, i);
        for (std::size_t k = 0; k < g.layers.size(); ++k)
            if (const auto cell = g.index(k, columnAt(g, i));
                g.state[cell] == CellState::Active && !std::isnan(heads->second[cell])) {
                levels << toScreen(at, heads->second[cell]);
                break;
            }
    }
    painter.setPen(QPen(colour::water, 1.6, Qt::DashLine));
    painter.drawPolyline(levels);
}

void GridSectionView::paintScales(QPainter& painter) const {
    painter.fillRect(QRectF(0, 0, 48, height()), colour::paper);
    painter.fillRect(QRectF(0, height() - 22, width(), 22), colour::paper);
    painter.setPen(colour::muted);
    painter.setFont(figureFont(11));
    const auto stepOf = [](double pixels) {
        const double least = 34 / pixels, power = std::pow(10, std::floor(std::log10(least)));
        for (const double f : {1.0, 2.0, 5.0})
            if (f * power >= least) return f * power;
        return 10 * power;
    };
    const auto low = toWorld(QPointF(0, height() - 22)), high = toWorld(QPointF(width(), 0));
    const double up = stepOf(pixelsPerMetre() * stretch());
    for (double level = std::ceil(low.y() / up) * up; level <= high.y(); level += up) {
        const auto at = toScreen(0, level).y();
        painter.drawLine(QPointF(44, at), QPointF(48, at));
        painter.drawText(QRectF(0, at - 8, 41, 16), Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(level, 'f', up < 1 ? 1 : 0));
    }
    const double along = stepOf(pixelsPerMetre() / 2);
    const auto left = toWorld(QPointF(48, 0)).x();
    for (double s = std::max(0.0, std::ceil(left / along) * along); s <= high.x(); s += along) {
        const auto at = toScreen(s, 0).x();
        painter.drawLine(QPointF(at, height() - 22), QPointF(at, height() - 18));
        painter.drawText(QRectF(at - 40, height() - 18, 80, 16), Qt::AlignCenter, QString::number(s, 'f', along < 1 ? 1 : 0));
    }
}

std::optional<std::size_t> GridSectionView::cellAt(QPointF p) const {
    const auto* g = grid();
    if (!g) return {};
    const auto world = toWorld(p);
    const int count = selection()->layerLook().byColumn ? g->plan.rows() : g->plan.columns();
    double from = 0;
    for (int i = 0; i < count; ++i) {
        const double to = from + cellWidth(*g, i);
        if (world.x() >= from && world.x() < to)
            for (std::size_t k = 0; k < g->layers.size(); ++k) {
                const auto cell = g->index(k, columnAt(*g, i));
                if (world.y() <= g->top[cell] && world.y() > g->bottom[cell]) return cell;
            }
        from = to;
    }
    return {};
}

void GridSectionView::clicked(QPointF p) {
    const auto cell = cellAt(p);
    if (!cell) return;
    auto look = selection()->layerLook();
    look.layer = *cell / grid()->plan.cells();
    selection()->setLayerLook(look);
}

void GridSectionView::hoveredAt(QPointF p) {
    const auto cell = cellAt(p);
    const auto words = cell ? cellWords(*grid(), *products()->project.sequence, *cell) : QString();
    if (cell) {
        const auto column = *cell % grid()->plan.cells();
        const auto n = std::size_t(grid()->plan.columns());
        const auto place = grid()->plan.centre(int(column % n), int(column / n));
        const auto unit = grid()->unit[*cell];
        emit pointed(place.x, place.y, toWorld(p).y(),
                     unit < 0 ? QString() : qt(products()->project.sequence->units[std::size_t(unit)].name));
    }
    if (words == m_hovered) return;
    m_hovered = words;
    emit summaryChanged();
}

void GridSectionView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_PageUp) return step(-1);
    if (e->key() == Qt::Key_PageDown) return step(1);
    if (e->key() == Qt::Key_C) return m_turn->trigger();
    PannedView::keyPressEvent(e);
}

} // namespace fox::app
