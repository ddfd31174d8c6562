#pragma once
#include "views/layer_values.h"
#include "views/view.h"

namespace fox::app {

/// A row or a column of a layered grid as a section: its cells by unit or value, with the model's own bases over them.
class GridSectionView : public PannedView {
    Q_OBJECT
public:
    explicit GridSectionView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Grid section"); }
    QString summary() const override;
    Wanted wanted(const Project&) const override { return {ProductKind::Layers}; }
    QList<QAction*> tools() override { return {m_fit, m_turn, m_before, m_next}; }
    QPointF screenOf(double along, double level) const { return toScreen(along, level); }

protected:
    void paintEvent(QPaintEvent*) override;
    void productsChanged() override;
    QRectF worldBounds() const override;
    double stretch() const override { return selection()->exaggeration(); }
    QMarginsF margins() const override { return {52, 14, 14, 26}; }
    void clicked(QPointF) override;
    void hoveredAt(QPointF) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    const LayeredGrid* grid() const { return shownGrid(products().get(), selection()->layerLook()); }
    int lines() const;
    int line() const;
    void step(int by);
    std::size_t columnAt(const LayeredGrid&, int along) const; ///< of the plan
    double cellWidth(const LayeredGrid&, int along) const;     ///< metres
    std::optional<std::size_t> cellAt(QPointF) const;
    void paintCells(QPainter&, const LayeredGrid&) const;
    void paintModel(QPainter&, const LayeredGrid&);
    void paintHeads(QPainter&, const LayeredGrid&) const;
    void paintScales(QPainter&) const;

    QAction *m_fit, *m_turn, *m_before, *m_next;
    QString m_hovered; ///< the cell under the cursor, in words
    /// The model's bases along the line, and what they were worked out for.
    struct Bases {
        std::shared_ptr<const Model> model;
        const LayeredGrid* grid = nullptr;
        int line = -1;
        bool byColumn = false;
        std::vector<ModelColumn> columns;
    } m_bases;
};

} // namespace fox::app
