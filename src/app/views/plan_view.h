#pragma once
#include "sequence/plane_assignment.h"
#include "views/block_slice_layer.h"
#include "views/cell_layer.h"
#include "views/cut_layer.h"
#include "views/dig_layer.h"
#include "views/grid_editor.h"
#include "views/ground_layer.h"
#include "views/hole_layer.h"
#include "views/line_editor.h"
#include "views/map_layer.h"
#include "views/mesh_layer.h"
#include "views/named_layer.h"
#include "views/surface_layer.h"
#include "views/view.h"
#include "views/water_layer.h"

#include <QPointer>

class QDoubleSpinBox;
class QMenu;

namespace fox::app {

/// Places from above: ground contours, holes by kind, section lines, site limit.
class PlanView : public PannedView {
    Q_OBJECT
public:
    explicit PlanView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Plan"); }
    QString summary() const override;
    Wanted wanted(const Project&) const override;
    QList<QAction*> tools() override;
    enum class Drawing {
        None,
        Section,
        Outline,
        SiteLimit,
        Fault,
        Breakline,
        ShownArea,
        GuideLine,
        Present,
        Absent,
        Cells,
        Rectangle,
        Spot,
        GuidePoint,
        Trial
    };
    bool drawing() const { return m_drawing != Drawing::None; }
    bool showsHoles() const override { return true; }
    bool settled() const override { return m_ground->settled() && m_surface->settled() && m_map->settled(); }
    /// What is in sight.
    QRectF world() const { return transform().world; }
    /// What holes are coloured by; none: by nothing.
    void setColouring(std::optional<HoleValue>);
    using Label = HoleLayer::Label;
    void setLabel(Label);
    /// Where a place is in the view, for pointers and tests.
    QPointF screenOf(Point2 p) const { return toScreen(p.x, p.y); }
    /// What is in sight: a GeoTIFF (.tif), or a PNG with a file beside it that says where it lies, and one that says in which
    /// system. @throws FileError if it can't be written
    void savePictureTo(const QString& path);

public slots:
    /// Clicks set corners, a double click or Enter ends, Esc cancels.
    void startDrawing(Drawing = Drawing::Section);
    void startMending(fox::TinEdit::Kind); ///< each click mends something, until Esc
    void giveUp();                         ///< what is being drawn, mended or placed
    void showPlace(fox::Point2);
    void showArea(const fox::Box2&);        ///< it fills the view
    void startPlacing(const QString& hole); ///< the next click is its place; Esc cancels
    void centreOn(const QString& hole);

signals:
    void rectangleDrawn(fox::Point2 corner, fox::Point2 opposite);
    void spotPicked(fox::Point2);
    void cellsDrawn(const fox::Polygon2& around); ///< of the layered grid; one corner: the cell there
    void drawingEnded();                          ///< with a result or without

protected:
    void paintEvent(QPaintEvent*) override;
    void productsChanged() override;
    QRectF worldBounds() const override;
    QMarginsF margins() const override { return {40, 26, 46, 34}; } // room for names at the edge
    void clicked(QPointF) override;
    void hoveredAt(QPointF) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    PlanTransform transform() const;
    void paintLines(QPainter&) const;
    void paintDrawing(QPainter&) const;
    void paintScale(QPainter&) const;
    void paintGrid(QPainter&) const;
    void paintCells(QPainter&, const PlanTransform&);
    QString layerSummary() const;
    /// The plan grid that can be dragged: of the layers that are shown; null while there is none.
    const LayerSpec* editableGrid() const;
    void endGridDrag(QPointF);
    bool isOnHandle(QPointF) const;
    void askMapMetres(MapSurface::Kind);
    void addWaterLook(QMenu&);
    void addNamedLook(QMenu&);
    void addColourLook(QMenu&);
    void addHoleLook(QMenu&);
    void askClasses();
    void lineMenu(QMenu&, QPointF);
    void askParallels(const std::string& section);
    void showCorners();
    void askBreaklineLevels(const Polyline2&);
    void askWaterDate();
    void chooseColouring();
    void addGroundLook(QMenu&);
    void chooseDrawing();
    void mendAt(QPointF);
    void askLevel(const Point3& vertex);
    void askGuideLevels(Polyline2);
    std::optional<std::size_t> chosenBase() const; ///< the selected unit's, if it has one
    QDoubleSpinBox* levelBoxAt(Point2, double level);
    QString mendingWords() const;
    void chooseLabel();
    void savePicture();
    void finishDrawing();
    QString missingCorners() const;
    void takeDrawn(Drawing, const Polyline2&);

    Drawing m_drawing = Drawing::None;
    std::optional<TinEdit::Kind> m_mending;
    QPointer<QDoubleSpinBox> m_levelBox;
    Polyline2 m_line;
    std::optional<Point2> m_cursor;
    QString m_placing; ///< the hole that the next click places
    HoleLayer m_holes;
    QAction* m_fit;
    GroundLayer* m_ground;
    SurfaceLayer* m_surface;
    MapLayer* m_map;
    WaterLayer m_water;
    NamedLayer m_named;
    LineEditor m_lines;
    CutLayer m_cuts;
    GridEditor m_gridEditor;
    CellLayer m_cells;
    MeshLayer m_mesh;
    BlockSliceLayer m_blocks;
    DigLayer m_dig;
    std::optional<ProjectLine> m_joining; ///< the line that the next one clicked is joined to
    AssignedByPlane m_assigned;           ///< by the selection's plane
    void assignByPlane();
    QAction *m_draw, *m_colour, *m_labels;
};

} // namespace fox::app
