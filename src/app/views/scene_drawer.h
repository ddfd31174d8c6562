#pragma once
#include "views/block_eye.h"
#include "views/block_scene.h"

#include <QImage>
#include <QThread>
#include <functional>
#include <memory>

namespace fox::app {

/// Draws scenes into pictures, on a thread of its own: making a graphics card's programs can take a second without one, and the
/// window goes on meanwhile. One OpenGL for all 3D views, so that its programs are made once. Needs no place on a screen.
/// Called on the thread of the window.
class SceneDrawer : public std::enable_shared_from_this<SceneDrawer> {
public:
    /// The one of all views. Null where OpenGL 3 is not to be had.
    static std::shared_ptr<SceneDrawer> shared();
    ~SceneDrawer();

    struct Wanted {
        std::shared_ptr<const BlockScene::Shapes> shapes; ///< null: nothing
        BlockEye eye;
        QSize size; ///< pixels
        QColor background;
        bool smooth = false; ///< edges are smoothed in the finished picture; with a graphics card they always are
    };
    /// Where the scene of one view is kept between its pictures.
    class Place;
    std::shared_ptr<Place> makePlace();
    /// `done` comes on the thread of the window, unless the receiver is gone by then.
    void draw(std::shared_ptr<Place>, Wanted, QObject* receiver, std::function<void(QImage)> done);
    /// Waits for it.
    QImage drawNow(const std::shared_ptr<Place>&, const Wanted&);
    /// The processor draws: a picture takes as long as it has pixels and edges to smooth.
    bool isInSoftware() const { return m_inSoftware; }

private:
    SceneDrawer();
    bool start();
    void stop();
    QImage drawn(Place&, const Wanted&);
    struct Gl;
    std::unique_ptr<Gl> m_gl; ///< of the thread, once that runs
    QThread m_thread;
    QObject m_worker, m_window; ///< live on the thread and on that of the window
    bool m_inSoftware = false;
};

} // namespace fox::app
