#pragma once
#include "surfaces/variogram.h"

#include <QWidget>

namespace fox::app {

/// The empirical variogram as points, the larger the more pairs, and the fitted model through them.
class VariogramChart : public QWidget {
    Q_OBJECT
public:
    VariogramChart(std::vector<VariogramLag>, const Variogram&, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {280, 96}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    std::vector<VariogramLag> m_lags;
    Variogram m_model;
};

} // namespace fox::app
