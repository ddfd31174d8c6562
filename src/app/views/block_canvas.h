#pragma once
#include "views/background.h"
#include "views/block_scene.h"
#include "views/scene_drawer.h"
#include "views/selection.h"

#include <QTimer>
#include <QWidget>

class QPainter;

namespace fox::app {

/// Shows a scene as VTK draws it, with names and figures over it. Drag turns, right drag or Shift moves, the wheel comes nearer,
/// a click picks.
class BlockCanvas : public QWidget {
    Q_OBJECT
public:
    BlockCanvas(std::shared_ptr<SceneDrawer>, Selection*, QWidget* parent);
    /// Where the newest products are: what is looked at may change without them, and ask for more of them than before.
    void setSource(std::function<std::shared_ptr<const ProductSet>()> source) { m_source = std::move(source); }
    void productsChanged() { refill(); }
    /// Cut, ground, block and sticks; what is selected and hidden comes from the selection.
    void setLook(const BlockScene::Look&);
    /// What is asked for is drawn, or is not to be seen.
    bool settled() const {
        return isHidden()
               || (!m_wanted && !m_undrawn && !m_drawing && !m_preparing.busy() && !m_atRest.isActive()
                   && !m_fineAgain.isActive());
    }
    const BlockScene& scene() const { return m_scene; } ///< that is seen
    void fit();
    std::size_t drawnCells() const { return m_scene.nodes(); } ///< fewer while it is turned
    /// Looks from a side: degrees, 0 from the south, 90 from the east; and above the horizon.
    void lookFrom(double azimuth, double elevation);
    double azimuth() const { return m_azimuth; } ///< from which it is looked at
    QPointF onScreen(const double at[3]) const { return m_seenFrom.onScreen(at, size()); }
    std::size_t pictures() const { return m_pictures; }       ///< that were drawn until now
    std::size_t labelsShown() const { return m_labelsShown; } ///< names and figures that found room in the last picture
    /// What is seen, in another size.
    QImage picture(QSize) const;

protected:
    void resizeEvent(QResizeEvent*) override;
    void changeEvent(QEvent*) override;
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void refill();
    void redraw(); ///< what is seen has changed
    void draw();
    SceneDrawer::Wanted wanted() const;
    void show(const SceneDrawer::Wanted&, QImage);
    BlockScene::Look lookNow() const; ///< with what is selected and hidden
    void prepare();
    void take(BlockScene);
    void placeEye();
    void turn(double azimuth, double elevation);

    static constexpr double kFitDistance = 1.75;
    /// How far off the block's corners are all in sight, from where it is looked at now.
    double fitAway() const;
    QSizeF m_fittedTo; ///< what was in sight when that was worked out: half its width and depth, metres
    double m_away = 0; ///< at the usual distance; 0: not worked out yet
    std::shared_ptr<SceneDrawer> m_drawer;
    std::shared_ptr<SceneDrawer::Place> m_place;
    BlockScene m_scene;  ///< that is seen
    BlockScene m_newest; ///< prepared last
    BlockEye m_eye;      ///< from where it is to be looked at
    BlockEye m_seenFrom; ///< from where it is seen
    QImage m_picture;    ///< that is seen
    std::size_t m_pictures = 0;
    bool m_undrawn = true;  ///< m_picture is of something before
    bool m_drawing = false; ///< another is on its way
    BlockScene::Look m_look;
    Selection* m_selection;
    std::function<std::shared_ptr<const ProductSet>()> m_source;
    std::shared_ptr<const ProductSet> m_products; ///< that were prepared last
    std::shared_ptr<const ProductSet> m_newestOf; ///< from which m_newest is
    BlockScene::Look m_newestLook;                ///< and at which look
    bool m_wanted = true;                         ///< shapes are to be prepared when it is painted: a hidden view costs nothing
    /// Without a graphics card edges are smoothed in the finished picture, once nothing moves: that takes as long as a picture.
    bool m_smooth = false;
    QTimer m_atRest, m_fineAgain;
    ValueLimits m_limits;                                                ///< of the blocks that are shown
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
    void paintOverlay(QPainter&) const; ///< names and figures
    bool takePlane(QPointF);
    void dragPlane(QPointF);
    bool m_dragged = false;
    mutable std::size_t m_labelsShown = 0;
    void setMoving(bool);                                              ///< coarser while it moves, if there is much to draw
    Background<std::shared_ptr<const BlockScene::Shapes>> m_preparing; // last: it uses the above
};

} // namespace fox::app
