#pragma once
#include "sheets/block_plot.h"
#include "views/view.h"

namespace fox::app {

/// Plots of the block model that is looked at: volume against the cut-off, its values beside the readings, means along the axes,
/// what holes that are left out have. A click or a drag on the curve sets the cut-off.
class BlockChartView : public View {
    Q_OBJECT
public:
    enum class Plot { CutOff, Histogram, East, North, Level, LeftOut };
    explicit BlockChartView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Block chart"); }
    QString summary() const override;
    Wanted wanted(const Project&) const override { return {ProductKind::Blocks}; }
    QList<QAction*> tools() override { return {m_show, m_save}; }
    void showPlot(Plot);
    Plot plot() const { return m_plot; }
    void saveTo(const QString& path) const; ///< png, pdf or svg by its ending. @throws Error

protected:
    void productsChanged() override { draw(); }
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;

private:
    void draw();
    void showMenu();
    void save();
    QString emptyWords() const;
    paper::Drawing drawingOf(double width, double height) const;
    void setLimitAt(double x);
    const CutOffCurve& curveOf(const std::shared_ptr<const BlockModel>&, bool above) const;
    std::optional<std::size_t> unitIndex() const; ///< of the unit that is shown alone

    QAction *m_show, *m_save;
    Plot m_plot = Plot::CutOff;
    std::string m_unit; ///< code of the unit that the histogram and the holes left out are of; empty: all
    std::optional<paper::Drawing> m_drawing;
    mutable std::pair<std::shared_ptr<const BlockModel>, bool> m_curveOf;
    mutable CutOffCurve m_curve; ///< of that
};

} // namespace fox::app
