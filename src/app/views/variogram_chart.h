#pragma once
#include "surfaces/variogram.h"

#include <QWidget>

namespace fox::app {

/// The empirical variogram as points, the larger the more pairs, and a model through them whose nugget, sill and range
/// can be dragged by handles, or moved by arrow keys.
class VariogramChart : public QWidget {
    Q_OBJECT
public:
    explicit VariogramChart(QWidget* parent = nullptr);
    /// The unit of half squared differences, m² if nothing is set, and what differs: "contacts".
    void setWords(const QString& unit, const QString& what);
    void setLags(std::vector<VariogramLag>);
    void setModel(const Variogram&);
    const Variogram& model() const { return m_model; }
    QSize sizeHint() const override { return {280, 110}; }
    enum class Handle { Nugget, Sill, Range };
    std::vector<Handle> handles() const; ///< that there are: a linear model has no range
    QPointF screenOf(Handle) const;      ///< for pointers and tests

signals:
    void dragged(const fox::Variogram&);  ///< while it is being moved
    void released(const fox::Variogram&); ///< when it has been

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QRectF box() const;
    QPointF at(double distance, double gamma) const;
    void scaleToShow();
    void moveTo(Handle, QPointF);
    std::optional<Handle> handleAt(QPointF) const;

    QString m_unit;
    std::vector<VariogramLag> m_lags;
    Variogram m_model;
    double m_farthest = 1, m_highest = 1;
    std::optional<Handle> m_held;
    Handle m_chosen = Handle::Range; ///< that the keys move
};

} // namespace fox::app
