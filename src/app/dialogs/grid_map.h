#pragma once
#include "ground/contours.h"

#include <QImage>
#include <QWidget>

namespace fox::app {

/// A small map of a surface: shaded by value, with lines of equal value.
class GridMap : public QWidget {
    Q_OBJECT
public:
    using QWidget::QWidget;
    /// `low` and `high` set the colours, so that two maps can be told apart by them; NaN: the grid's own.
    void setMap(const Grid&, const QString& title, double low = std::numeric_limits<double>::quiet_NaN(),
                double high = std::numeric_limits<double>::quiet_NaN());
    void setEmptyWords(const QString&);
    QSize sizeHint() const override { return {380, 280}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QImage m_image;
    Frame m_frame;
    std::vector<ContourLine> m_lines;
    double m_low = 0, m_high = 1;
    QString m_title, m_emptyWords;
};

} // namespace fox::app
