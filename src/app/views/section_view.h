#pragma once
#include "sheets/section_drawing.h"
#include "views/along_legend.h"
#include "views/plane_line.h"
#include "views/view.h"

#include <QImage>

namespace fox::app {

/// One section: ground, units with their hatches, and the holes that stand on it.
class SectionView : public PannedView {
    Q_OBJECT
public:
    explicit SectionView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Section"); }
    QString summary() const override;
    Wanted wanted(const Project&) const override;
    QList<QAction*> tools() override;
    QPointF screenOf(double chainage, double level) const { return toScreen(chainage, level); }
    bool followsDragging() const override { return true; }
    bool showsHoles() const override { return true; }
    bool drawingGuide() const { return m_drawingGuide; }
    /// The plane of an assignment as it lies here.
    PlaneLine planeLine() const;
    /// What is in sight, with blocks and the dug surface where they are shown. @throws FileError
    void savePictureTo(const QString& path);

public slots:
    /// Clicks set places of a guide of the chosen unit's base, a double click or Enter ends, Esc cancels.
    void startGuide();

signals:
    void drawLineAsked();

protected:
    void paintEvent(QPaintEvent*) override;
    void productsChanged() override;
    QRectF worldBounds() const override;
    double stretch() const override { return selection()->exaggeration(); }
    QMarginsF margins() const override { return {52, 40, 14, 26}; }
    void clicked(QPointF) override;
    void hoveredAt(QPointF) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    const Section* section() const;
    void step(int by); ///< to another section line
    void chooseShown();
    void savePicture();
    void workOutAlong();
    void workOutBlocks();
    std::shared_ptr<const Section> withShownHoles(const std::shared_ptr<const Section>&);
    std::size_t chosenIndex() const; ///< of products()->sections, which must not be empty
    SectionLayout layout() const;
    const QImage& drawn();
    void paintHovered(QPainter&) const;
    std::optional<std::size_t> chosenBase() const;
    void endGuide();
    void paintDoubt(QPainter&) const;
    void paintContacts(QPainter&) const;
    void paintGuides(QPainter&) const;
    QString holeAt(QPointF) const;
    void paintCrossings(QPainter&) const;
    /// Level of the chosen base along the section, between its places.
    std::optional<double> baseAt(double chainage) const;
    bool onBase(QPointF) const;
    /// The chosen base as it would go through a place: that place, and the base as it is halfway to the holes beside it.
    Polyline2 pulled(Point2 to) const;

    QAction *m_fit, *m_next, *m_shown, *m_guide;
    std::shared_ptr<const Section> m_whole, m_shownSection; ///< the product, and what of its holes is shown
    std::optional<std::set<std::string>> m_shownOf;
    std::shared_ptr<const AlongValues> m_along;
    AlongLegend* m_legend;
    std::shared_ptr<const std::vector<std::vector<AlongSign>>> m_signs;
    std::shared_ptr<const std::vector<SectionCell>> m_cells;
    std::shared_ptr<const std::vector<Point2>> m_dug;
    bool m_toFit = false; ///< another line was chosen and is being worked out
    bool m_drawingGuide = false;
    Polyline2 m_guideLine;        ///< chainage and level
    std::optional<Point2> m_pull; ///< where the chosen base is being dragged to, chainage and level
    QPointF m_pullStart;
    PlaneGrip m_grip;
    /// What the image was made from.
    struct Drawn {
        std::shared_ptr<const Section> section;
        std::shared_ptr<const Sequence> sequence;
        SectionLayout layout;
        SectionStyle style;
        double devicePixelRatio = 1;
        QColor paper; ///< of the theme
        bool operator==(const Drawn&) const = default;
    } m_drawn;
    Drawn toDraw();
    QImage m_image;
};

} // namespace fox::app
