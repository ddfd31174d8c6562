#pragma once
#include "views/background.h"
#include "views/block_scene.h"
#include "views/selection.h"

#include <QOpenGLWidget>
#include <QTimer>

class QPainter;

namespace fox::app {

/// VTK drawing into a Qt OpenGL widget. Drag turns, right drag or Shift moves, the wheel comes nearer, a click picks.
class BlockCanvas : public QOpenGLWidget {
    Q_OBJECT
public:
    BlockCanvas(Selection*, QWidget* parent);
    ~BlockCanvas() override;
    /// Where the newest products are: what is looked at may change without them, and ask for more of them than before.
    void setSource(std::function<std::shared_ptr<const ProductSet>()> source) { m_source = std::move(source); }
    void productsChanged() { refill(); }
    /// Cut, ground, block and sticks; what is selected and hidden comes from the selection.
    void setLook(const BlockScene::Look&);
    /// What is asked for is drawn, or is not to be seen.
    bool settled() const {
        return isHidden() || (!m_wanted && !m_stale && !m_more && !m_preparing.busy() && !m_atRest.isActive());
    }
    const BlockScene& scene() const { return m_scene; }
    void fit();
    std::size_t drawnCells() const { return m_scene.nodes(); } ///< fewer while it is turned
    /// Looks from a side: degrees, 0 from the south, 90 from the east; and above the horizon.
    void lookFrom(double azimuth, double elevation);
    double azimuth() const { return m_azimuth; } ///< from which it is looked at
    QPointF onScreen(const double at[3]) const;
    std::size_t labelsShown() const { return m_labelsShown; } ///< names and figures that found room in the last picture
    /// What is seen, in another size. Empty without OpenGL.
    QImage picture(QSize) const;

protected:
    void initializeGL() override;
    void resizeGL(int, int) override;
    void paintGL() override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void refill();
    BlockScene::Look lookNow() const; ///< with what is selected and hidden
    void prepare();
    void take(std::shared_ptr<const BlockScene::Shapes>, std::shared_ptr<const ProductSet> of, const BlockScene::Look&);
    void placeCamera();
    void turn(double azimuth, double elevation);

    static constexpr double kFitDistance = 1.75;
    /// How far off the block's corners are all in sight, from where it is looked at now.
    double fitAway() const;
    QSizeF m_fittedTo; ///< what was in sight when that was worked out: half its width and depth, metres
    double m_away = 0; ///< at the usual distance; 0: not worked out yet
    struct Vtk;
    class BlockOverlay* m_overlay;
    std::unique_ptr<Vtk> m_vtk;
    BlockScene m_scene;
    BlockScene::Look m_look;
    Selection* m_selection;
    std::function<std::shared_ptr<const ProductSet>()> m_source;
    std::shared_ptr<const ProductSet> m_products;       ///< that were prepared last
    std::shared_ptr<const BlockScene::Shapes> m_shapes; ///< prepared last
    std::shared_ptr<const ProductSet> m_shapesOf;       ///< of these products
    BlockScene::Look m_shapesLook;                      ///< and at this look
    bool m_wanted = true; ///< shapes are to be prepared when it is painted: a hidden view costs nothing
    bool m_stale = false; ///< m_shapes are not in the scene yet
    bool m_more = false;  ///< only some of their pieces are
    /// Without a graphics card edges are smoothed in the finished picture, once nothing moves: that takes as long as a picture.
    bool m_smooth = false, m_inSoftware = false;
    /// Its first picture comes piece by piece: for each kind of piece a program is made by the processor, a tenth of a second in
    /// all, during which nothing else could be done.
    bool m_pieceByPiece = true;
    QTimer m_atRest;
    double m_azimuth = -24, m_elevation = 33, m_distance = kFitDistance; ///< degrees; distance in radii of the block
    double m_shift[3] = {0, 0, 0};
    QPointF m_pressed, m_last;
    /// A handle of the plane's sheet that is being dragged: which, and the plane as it was.
    struct PlaneDrag {
        std::size_t handle = 0;
        Plane before;
        double pixelsPerMetre = 1; ///< upwards, at the handle
    };
    std::optional<PlaneDrag> m_planeDrag;
    /// A handle of an upright cut that is being dragged.
    struct CutDrag {
        BlockScene::CutHandle handle;
        UprightCut before;
    };
    std::optional<CutDrag> m_cutDrag;
    bool takeCut(QPointF);
    void dragCut(QPointF);
    std::optional<Point2> placeUnder(QPointF, double height) const; ///< metres of the scene
    friend class BlockOverlay;
    void paintOverlay(QPainter&) const; ///< names and figures
    bool takePlane(QPointF);
    void dragPlane(QPointF);
    bool m_dragged = false;
    mutable std::size_t m_labelsShown = 0;
    void setMoving(bool);                                              ///< coarser while it moves, if there is much to draw
    Background<std::shared_ptr<const BlockScene::Shapes>> m_preparing; // last: it uses the above
};

} // namespace fox::app
