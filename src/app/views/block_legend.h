#pragma once
#include "products/products.h"
#include "views/selection.h"

#include <QWidget>

namespace fox::app {

/// What the colours of blocks mean, in a corner of a 3D view: a scale with the cut-off marked. Hidden where blocks have the
/// colours of their units, or are not shown.
class BlockLegend : public QWidget {
    Q_OBJECT
public:
    BlockLegend(Selection*, QWidget* parent);
    void setProducts(std::shared_ptr<const ProductSet>);
    QRectF bar() const; ///< of the scale, pixels
    QString title() const;

protected:
    void paintEvent(QPaintEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    void show();
    void place();
    const BlockProduct* shown() const; ///< null: the legend has nothing to say

    Selection* m_selection;
    std::shared_ptr<const ProductSet> m_products;
    paper::ValueColours m_colours;
};

} // namespace fox::app
