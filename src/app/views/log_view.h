#pragma once
#include "views/log_panel.h"
#include "views/view.h"

namespace fox::app {

/// The log of the selected hole, and of holes that are kept beside it, at one scale. A boundary of the selected hole
/// can be dragged; an interval is split, and its parts get their units, from the menu on it.
class LogView : public View {
    Q_OBJECT
public:
    explicit LogView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Log"); }
    QString summary() const override;
    QList<QAction*> tools() override { return {m_keep, m_alone, m_probe}; }
    QSize sizeHint() const override { return {230, 400}; }
    /// Where a depth of the selected hole is in the view, pixels from its top.
    double yOf(double depth);
    double columnX(); ///< left side of the selected hole's column
    QStringList kept() const { return m_kept; }
    bool followsDragging() const override { return true; }
    bool showsHoles() const override { return !m_kept.isEmpty(); }

public slots:
    void keep(); ///< the selected hole stays, also when another is selected

protected:
    void paintEvent(QPaintEvent*) override;
    void productsChanged() override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    const Hole* hole() const; ///< the selected one
    std::vector<LogPanel> panels();
    std::optional<LogPanel> mainPanel();
    void paintLog(QPainter&, const LogPanel&, const std::optional<MovedBoundary>&) const;
    std::optional<std::size_t> boundaryAt(const LogPanel&, QPointF) const;

    Edit dragEdit() const;

    std::optional<MovedBoundary> m_drag;
    Depth m_dragFrom; ///< where the boundary is that is dragged
    QStringList m_kept;
    /// What the model has at the selected predicted log, or under the cursor.
    struct Predicted {
        QString name;
        Point2 place;
        ModelColumn column;
    };
    void predict();
    std::optional<Predicted> m_predicted;
    std::map<QString, std::vector<ModelInterval>> m_models; ///< along holes, worked out once
    QAction *m_keep, *m_alone, *m_probe;
};

} // namespace fox::app
