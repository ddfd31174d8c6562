#pragma once
#include "views/view.h"

namespace fox::app {

/// The log of the selected hole: depth scale, column, descriptions, blow counts. A boundary can be dragged.
class LogView : public View {
    Q_OBJECT
public:
    explicit LogView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Log"); }
    QString summary() const override;
    QSize sizeHint() const override { return {230, 400}; }
    /// Where a depth is in the view, pixels from its top.
    double yOf(double depth) const;
    double columnX() const { return 40; }

protected:
    void paintEvent(QPaintEvent*) override;
    void productsChanged() override { update(); }
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    const Hole* hole() const;
    const Unit* unitOf(const Interval&) const;
    std::optional<std::size_t> boundaryAt(QPointF) const; ///< index of the interval above it
    double depthAt(double y) const;
    void paintColumn(QPainter&, const Hole&) const;
    void paintWords(QPainter&, const Hole&) const;
    void paintBlows(QPainter&, const Hole&) const;

    struct Drag {
        std::size_t interval;
        double depth;
    };
    std::optional<Drag> m_drag;
};

} // namespace fox::app
