#include "views/scene_drawer.h"

#include <QCoreApplication>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFramebufferObject>
#include <QOpenGLFunctions>
#include <QPointer>
#include <vtkCamera.h>
#include <vtkGenericOpenGLRenderWindow.h>
#include <vtkLight.h>
#include <vtkNew.h>
#include <vtkOpenGLState.h>
#include <vtkRenderer.h>
#include <vtkRendererCollection.h>

namespace fox::app {

class SceneDrawer::Place {
public:
    vtkNew<vtkRenderer> renderer;
    std::shared_ptr<const BlockScene::Shapes> shown;
    bool isNew = true;
};

struct SceneDrawer::Gl {
    QOffscreenSurface surface; ///< made on the thread of the window
    QOpenGLContext context;
    std::unique_ptr<QOpenGLFramebufferObject> frame;
    vtkSmartPointer<vtkGenericOpenGLRenderWindow> window;

    void makeWindow(bool inSoftware);
};

namespace {

/// Mesa's rasterisers say so in their names.
bool drawsByProcessor(QOpenGLContext& context) {
    const auto* name = reinterpret_cast<const char*>(context.functions()->glGetString(GL_RENDERER));
    const QString renderer = QString::fromLatin1(name ? name : "").toLower();
    return renderer.contains("llvmpipe") || renderer.contains("softpipe") || renderer.contains("swrast");
}

void setLights(vtkRenderer& renderer) {
    renderer.AutomaticLightCreationOff();
    vtkNew<vtkLight> light; // from the north-west, as hill shading has it
    light->SetLightTypeToSceneLight();
    light->SetPosition(-1, 1, 1.6);
    light->SetFocalPoint(0, 0, 0);
    light->SetIntensity(0.75);
    renderer.AddLight(light);
    vtkNew<vtkLight> lamp; // with the viewer, so that walls that face them are not black
    lamp->SetLightTypeToHeadlight();
    lamp->SetIntensity(0.45);
    renderer.AddLight(lamp);
}

void setCamera(vtkRenderer& renderer, const BlockEye& eye) {
    auto* camera = renderer.GetActiveCamera();
    camera->SetFocalPoint(eye.focus.data());
    camera->SetPosition(eye.position().data());
    camera->SetViewUp(0, 0, 1);
    camera->SetViewAngle(BlockEye::kAngle);
    renderer.ResetCameraClippingRange();
}

} // namespace

void SceneDrawer::Gl::makeWindow(bool inSoftware) {
    window = vtkSmartPointer<vtkGenericOpenGLRenderWindow>::New();
    window->SetReadyForRendering(true);
    window->SetOwnContext(0);
    window->SetIsCurrent(true);
    window->SetFrameBlitModeToBlitToCurrent();
    // without a graphics card each sample costs as much as a picture: edges are smoothed in the finished picture instead
    window->SetMultiSamples(inSoftware ? 0 : 4);
    window->OpenGLInitContext(); // looks up the functions; the first Render would come too late for the state
}

std::shared_ptr<SceneDrawer> SceneDrawer::shared() {
    static bool tried = false;
    static std::shared_ptr<SceneDrawer> drawer;
    if (std::exchange(tried, true)) return drawer;
    std::shared_ptr<SceneDrawer> made(new SceneDrawer);
    if (!made->start()) return nullptr;
    qAddPostRoutine([] {
        drawer->stop(); // while there is a display
        drawer.reset();
    });
    return drawer = made;
}

SceneDrawer::SceneDrawer() : m_gl(std::make_unique<Gl>()) {}

SceneDrawer::~SceneDrawer() { stop(); }

bool SceneDrawer::start() {
    QSurfaceFormat format;
    format.setVersion(3, 2);
    format.setProfile(QSurfaceFormat::CoreProfile);
    auto& context = m_gl->context;
    context.setFormat(format);
    m_gl->surface.setFormat(format);
    m_gl->surface.create();
    if (!context.create() || !m_gl->surface.isValid() || !context.makeCurrent(&m_gl->surface)
        || context.format().majorVersion() < 3)
        return false;
    m_inSoftware = drawsByProcessor(context);
    context.doneCurrent();
    context.moveToThread(&m_thread);
    m_worker.moveToThread(&m_thread);
    m_thread.start();
    return true;
}

void SceneDrawer::stop() {
    if (!m_thread.isRunning()) return;
    QMetaObject::invokeMethod(
        &m_worker,
        [this] {
            if (m_gl->window) {
                m_gl->context.makeCurrent(&m_gl->surface);
                m_gl->window->Finalize();
                m_gl->window = nullptr;
                m_gl->frame.reset();
                m_gl->context.doneCurrent();
            }
            m_gl->context.moveToThread(m_window.thread());
            m_worker.moveToThread(m_window.thread());
        },
        Qt::BlockingQueuedConnection);
    m_thread.quit();
    m_thread.wait();
}

std::shared_ptr<SceneDrawer::Place> SceneDrawer::makePlace() {
    return {new Place, [drawer = shared_from_this()](Place* place) {
                const auto release = [drawer, place] {
                    if (drawer->m_gl->window && !place->isNew) {
                        drawer->m_gl->context.makeCurrent(&drawer->m_gl->surface);
                        drawer->m_gl->window->GetRenderers()->RemoveItem(place->renderer);
                        place->renderer->SetRenderWindow(nullptr);
                    }
                    delete place;
                };
                if (drawer->m_thread.isRunning())
                    QMetaObject::invokeMethod(&drawer->m_worker, release, Qt::AutoConnection);
                else
                    release();
            }};
}

void SceneDrawer::draw(std::shared_ptr<Place> place, Wanted wanted, QObject* receiver, std::function<void(QImage)> done) {
    QMetaObject::invokeMethod(
        &m_worker,
        [this, place = std::move(place), wanted = std::move(wanted), to = QPointer(receiver), done = std::move(done)] {
            QMetaObject::invokeMethod(
                &m_window,
                [to, done, picture = drawn(*place, wanted)] {
                    if (to) done(picture);
                },
                Qt::QueuedConnection);
        },
        Qt::QueuedConnection);
}

QImage SceneDrawer::drawNow(const std::shared_ptr<Place>& place, const Wanted& wanted) {
    QImage picture;
    QMetaObject::invokeMethod(
        &m_worker, [&] { picture = drawn(*place, wanted); }, Qt::BlockingQueuedConnection);
    return picture;
}

/// On the thread.
QImage SceneDrawer::drawn(Place& place, const Wanted& wanted) {
    m_gl->context.makeCurrent(&m_gl->surface);
    if (!m_gl->window) m_gl->makeWindow(m_inSoftware);
    auto& window = *m_gl->window;
    window.SetIsCurrent(true);
    auto& renderer = *place.renderer;
    if (std::exchange(place.isNew, false)) {
        renderer.SetRenderWindow(&window);
        renderer.SetUseDepthPeeling(false);
        setLights(renderer);
    }
    if (std::exchange(place.shown, wanted.shapes) != wanted.shapes) BlockScene::fill(renderer, wanted.shapes.get());
    setCamera(renderer, wanted.eye);
    renderer.SetBackground(wanted.background.redF(), wanted.background.greenF(), wanted.background.blueF());
    renderer.SetUseFXAA(m_inSoftware && wanted.smooth);
    // of the window's list alone: RemoveRenderer would throw away what the others have in OpenGL
    window.GetRenderers()->RemoveAllItems();
    window.GetRenderers()->AddItem(&renderer);
    const auto size = wanted.size;
    if (!m_gl->frame || m_gl->frame->size() != size) m_gl->frame = std::make_unique<QOpenGLFramebufferObject>(size);
    m_gl->frame->bind();
    window.SetSize(size.width(), size.height());
    auto* state = window.GetState();
    state->Reset();
    state->Push();
    window.OpenGLInitState();
    window.Render();
    QImage picture(size, QImage::Format_RGB32); // what is see-through must not make the picture so
    auto* gl = m_gl->context.functions();
    m_gl->frame->bind();
    gl->glReadPixels(0, 0, size.width(), size.height(), GL_BGRA, GL_UNSIGNED_BYTE, picture.bits());
    state->Pop();
    return std::move(picture).mirrored();
}

} // namespace fox::app
