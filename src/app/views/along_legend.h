#pragma once
#include "views/selection.h"

#include <QWidget>

namespace fox::app {

/// What the colours along holes mean, in a corner of a view. The ends of a range are dragged; codes are ticked.
class AlongLegend : public QWidget {
    Q_OBJECT
public:
    AlongLegend(Selection*, QWidget* parent);
    /// Null, or of units: it is hidden.
    void setValues(std::shared_ptr<const AlongValues>);
    QRectF bar() const; ///< of a quantity's scale, pixels
    double xOf(double value) const;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    void place();
    std::pair<double, double> range() const;

    Selection* m_selection;
    std::shared_ptr<const AlongValues> m_values;
    enum class End { None, Low, High } m_dragged = End::None;
};

} // namespace fox::app
