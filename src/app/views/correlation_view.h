#pragma once
#include "views/plane_line.h"
#include "views/view.h"

namespace fox::app {

/// Holes side by side at their levels, along a section line or in any order, with logs and curves in each and units drawn
/// across between them as they are now understood. An interval is given its unit here, and bases are picked.
class CorrelationView : public PannedView {
    Q_OBJECT
public:
    explicit CorrelationView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Correlation"); }
    QString summary() const override;
    QList<QAction*> tools() override;
    bool followsDragging() const override { return true; }
    bool showsHoles() const override { return true; }

    enum class Order { AlongSection, ByEasting, ByNorthing, DownPlane, AsChosen };
    enum class Spacing { Even, True };
    void setOrder(Order);
    void setSpacing(Spacing);
    /// Levels, or the base of a unit drawn as a level line.
    void hangFrom(const QString& unitCode);
    QString hungFrom() const { return m_hung; }
    /// Which curve is drawn beside each log: a curve's name, "SPT N", or empty for none.
    void setCurve(const QString& name);
    QStringList holesShown() const;
    /// Moves a hole one place; the order is then as chosen.
    void moveHole(const QString& name, int by);

    /// Where a hole's depth is on the screen, in the middle of its column.
    QPointF screenOf(const QString& hole, double depth) const;
    bool picking() const { return m_picking; }
    /// The plane of the assignment as it lies here.
    PlaneLine planeLine() const;

public slots:
    /// The next click in a hole picks the chosen unit's base there.
    void startPicking();
    void endPicking();
    /// What the interval under the cursor, or the selected one, is; an empty code: no unit; none: by its code.
    void assign(const std::optional<QString>& unitCode);
    void setPickAt(const QString& hole, const std::string& unit, std::optional<Depth>); ///< none: as logged

signals:
    void proposalAsked();

protected:
    void paintEvent(QPaintEvent*) override;
    void productsChanged() override;
    QRectF worldBounds() const override;
    double stretch() const override { return m_stretch; }
    QMarginsF margins() const override { return {54, 40, 24, 16}; }
    void clicked(QPointF) override;
    void hoveredAt(QPointF) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;

private:
    /// A hole as it stands here.
    struct Column {
        const InterpretedHole* read;
        HolePath path;
        double x;      ///< world, of its middle
        double raised; ///< metres that its levels are drawn higher
    };
    void arrange();
    void chooseLook();
    const Column* columnAt(QPointF) const;
    const Column* columnOf(const QString& hole) const;
    double depthAt(const Column&, QPointF) const;
    double yOf(const Column&, double depth) const; ///< world
    const Interval* intervalAt(const Column&, double depth) const;
    std::optional<std::size_t> chosenBase() const;
    double halfWidth() const; ///< of a log's column, pixels

    void paintBetween(QPainter&, const Column&, const Column&) const;
    void paintColumn(QPainter&, const Column&) const;
    void paintCurve(QPainter&, const Column&, const QString& name, double left, double right) const;
    void paintContacts(QPainter&, const Column&) const;
    void paintScale(QPainter&) const;
    void assignByPlane();
    void paintAssigned(QPainter&, const Column&) const;

    Order m_order = Order::AlongSection;
    Spacing m_spacing = Spacing::Even;
    QString m_hung, m_curve;
    QStringList m_chosenOrder;
    InterpretedLogs m_logs; ///< with what picks say of holes without a log
    std::vector<Column> m_columns;
    double m_stretch = 5;
    bool m_picking = false;
    /// The interval that keys and menu speak of.
    struct Marked {
        QString hole;
        Depth top, base;
    };
    std::optional<Marked> m_marked;
    AssignedByPlane m_assigned; ///< by the selection's plane
    PlaneGrip m_grip;
    QAction *m_fit, *m_look, *m_pick, *m_propose;
};

} // namespace fox::app
