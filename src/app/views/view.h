#pragma once
#include "products/products.h"
#include "project/hole_edits.h"
#include "views/selection.h"

#include <QAction>
#include <QWidget>

namespace fox::app {

/// What stands in a pane: shows products, shares the selection, sends intentions. It reads and computes nothing.
class View : public QWidget {
    Q_OBJECT
public:
    View(Selection* selection, QWidget* parent);
    virtual QString title() const = 0;
    virtual QString summary() const = 0;           ///< one line of what is in it
    virtual QList<QAction*> tools() { return {}; } ///< at most four
    /// Whether the choice of holes in the selection says what it shows.
    virtual bool showsHoles() const { return false; }
    /// Whether it shows what an edit would make while something is dragged, from products without grids.
    virtual bool followsDragging() const { return false; }
    /// Nothing is being made for it beside the window.
    virtual bool settled() const { return true; }
    /// What it shows beyond what is always worked out; what it was given may still be without it.
    virtual Wanted wanted(const Project&) const { return {}; }
    /// Null while there are none yet.
    void setProducts(std::shared_ptr<const ProductSet>);
    const std::shared_ptr<const ProductSet>& products() const { return m_products; }

signals:
    void summaryChanged();
    void wantedChanged();
    void editMade(const fox::Edit&);
    /// What an edit would make is to be shown while something is dragged; nothing any more.
    void editPreviewed(const fox::Edit&);
    void previewEnded();
    /// Place and level under the cursor, and the unit there; NaN and empty where there is none.
    void pointed(double easting, double northing, double level, const QString& unit);
    void failed(const QString& sentence);

protected:
    virtual void productsChanged() = 0;
    Selection* selection() const { return m_selection; }

private:
    Selection* m_selection;
    std::shared_ptr<const ProductSet> m_products;
};

/// A view in two dimensions that pans by dragging and zooms about the cursor with the wheel. World x to the right,
/// world y up; `stretch` screen metres an upward metre.
class PannedView : public View {
    Q_OBJECT
public:
    using View::View;
    QSize sizeHint() const override { return {400, 300}; }

public slots:
    void fit();
    void zoomBy(double factor);
    void centreAt(QPointF world);

protected:
    virtual QRectF worldBounds() const = 0; ///< what fit() shows; empty if there is nothing
    virtual double stretch() const { return 1; }
    virtual QMarginsF margins() const { return {16, 16, 16, 16}; } ///< pixels
    virtual void clicked(QPointF) {}                               ///< without a drag
    virtual void hoveredAt(QPointF) {}

    QPointF toScreen(double x, double y) const;
    QPointF toWorld(QPointF) const;
    double pixelsPerMetre() const { return m_scale; }

    void resizeEvent(QResizeEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void fitIfNeeded(); ///< the first time there is something to show

private:
    QPointF m_centre; ///< world
    double m_scale = 1;
    bool m_fitted = false, m_userMoved = false, m_dragged = false;
    std::optional<QPointF> m_pressed;
};

/// Grey words in the middle of an empty view: what it needs.
void paintEmpty(QPainter&, const QRectF&, const QString& words);

} // namespace fox::app
