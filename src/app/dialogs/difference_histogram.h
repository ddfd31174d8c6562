#pragma once
#include "base/grid.h"

#include <QWidget>

namespace fox::app {

/// How often a difference of two surfaces has which size.
class DifferenceHistogram : public QWidget {
    Q_OBJECT
public:
    explicit DifferenceHistogram(QWidget* parent);
    void setDifference(const Grid&); ///< none: it is empty
    QSize sizeHint() const override { return {260, 130}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    std::vector<std::size_t> m_bins;
    double m_low = 0, m_high = 0;
};

} // namespace fox::app
