#pragma once
#include "sheets/plots.h"
#include "views/view.h"

namespace fox::app {

/// Results of tests against level or depth with their statistics by unit, or levels of water against time. A click on a value
/// chooses its hole.
class ChartView : public View {
    Q_OBJECT
public:
    explicit ChartView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Chart"); }
    QString summary() const override;
    QList<QAction*> tools() override { return {m_show, m_byDepth, m_save}; }

    /// A quantity as testQuantities() names it; kWater: water over time.
    void showQuantity(const QString& name, const QString& unit);
    static constexpr const char* kWater = "water over time";
    QString quantity() const { return m_quantity; }
    /// By its ending: png, pdf, svg, or csv (for tests with NAME_by_unit.csv beside it, the statistics). @throws Error
    void saveTo(const QString& path) const;

protected:
    void productsChanged() override;
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;

private:
    bool isWater() const { return m_quantity == kWater; }
    void chooseFirst(); ///< something that there is, if what was shown is gone
    void showMenu();
    void save();
    void draw();
    const paper::Drawing& drawing();
    paper::Drawing drawingOf(double width, double height) const;
    QString emptyWords() const;
    QString holeAt(QPointF pixel);

    QAction *m_show, *m_byDepth, *m_save;
    QString m_quantity, m_unit; ///< the quantity and what it is measured in
    std::vector<TestQuantity> m_quantities;
    std::vector<TestValue> m_values;
    std::vector<WaterSeries> m_series;
    std::optional<paper::Drawing> m_drawing;
};

} // namespace fox::app
