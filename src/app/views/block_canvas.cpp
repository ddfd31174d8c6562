#include "views/block_canvas.h"

#include "style/theme.h"
#include "views/occupied.h"
#include "views/scene_blocks.h"

#include <QKeyEvent>
#include <QLineF>
#include <QMouseEvent>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QPainter>
#include <QWheelEvent>
#include <numbers>
#include <vtkCamera.h>
#include <vtkCoordinate.h>
#include <vtkGenericOpenGLRenderWindow.h>
#include <vtkLight.h>
#include <vtkNew.h>
#include <vtkOpenGLState.h>
#include <vtkRenderer.h>

namespace fox::app {

struct BlockCanvas::Vtk {
    vtkNew<vtkGenericOpenGLRenderWindow> window;
    vtkNew<vtkRenderer> renderer;
};

/// Words over the picture, in a widget of their own: what VTK leaves of OpenGL is not what a painter expects.
class BlockOverlay : public QWidget {
public:
    explicit BlockOverlay(BlockCanvas* canvas) : QWidget(canvas), m_canvas(canvas) {
        setAttribute(Qt::WA_TransparentForMouseEvents);
        setObjectName("blockOverlay");
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        m_canvas->paintOverlay(painter);
    }

private:
    BlockCanvas* m_canvas;
};

BlockCanvas::BlockCanvas(Selection* selection, QWidget* parent)
    : QOpenGLWidget(parent), m_overlay(new BlockOverlay(this)), m_selection(selection), m_preparing(this) {
    setObjectName("blockCanvas");
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Ground model in three dimensions"));
    constexpr int kRest = 60; // milliseconds
    m_atRest.setInterval(kRest);
    m_atRest.setSingleShot(true);
    connect(&m_atRest, &QTimer::timeout, this, [this] {
        m_smooth = true;
        update();
    });
    for (auto signal :
         {&Selection::holeChanged, &Selection::unitChanged, &Selection::sectionChanged, &Selection::exaggerationChanged,
          &Selection::unitsShownChanged, &Selection::planeChanged, &Selection::shownHolesChanged, &Selection::alongChanged,
          &Selection::cutsChanged, &Selection::blockLookChanged})
        connect(selection, signal, this, &BlockCanvas::refill);
}

BlockCanvas::~BlockCanvas() {
    if (!m_vtk) return;
    makeCurrent();
    m_vtk->window->Finalize();
    m_vtk.reset();
    doneCurrent();
}

void BlockCanvas::setLook(const BlockScene::Look& look) {
    m_look = look;
    refill();
}

void BlockCanvas::fit() {
    m_distance = kFitDistance;
    m_away = 0;
    std::ranges::fill(m_shift, 0.0);
    placeCamera();
    update();
}

void BlockCanvas::lookFrom(double azimuth, double elevation) {
    m_azimuth = azimuth, m_elevation = elevation;
    placeCamera();
    update();
}

QImage BlockCanvas::picture(QSize size) const {
    BlockCanvas other(m_selection, nullptr);
    other.resize(size);
    other.m_look = m_look;
    other.m_look.coarse = false;
    other.m_away = 0;
    other.m_azimuth = m_azimuth, other.m_elevation = m_elevation, other.m_distance = m_distance;
    std::ranges::copy(m_shift, other.m_shift);
    if (m_products && m_products->ground) {
        auto look = lookNow();
        look.coarse = false;
        other.m_shapes = BlockScene::prepare(*m_products, look);
    }
    other.m_wanted = false;
    other.m_smooth = true, other.m_pieceByPiece = false;
    auto image = other.grabFramebuffer();
    QPainter painter(&image);
    other.paintOverlay(painter);
    return image;
}

void BlockCanvas::setMoving(bool moving) {
    if (moving && m_scene.nodes() <= 2 * BlockScene::kCoarseNodes) return; // little enough to be turned as it is
    if (moving == m_look.coarse) return;
    m_look.coarse = moving;
    refill();
}

void BlockCanvas::refill() {
    m_wanted = true;
    update();
}

BlockScene::Look BlockCanvas::lookNow() const {
    auto look = m_look;
    look.hole = m_selection->hole();
    look.unit = m_selection->unit();
    look.hidden.clear();
    for (const auto& u : m_products->project.sequence->units)
        if (const auto code = QString::fromStdString(u.code); m_selection->unitHidden(code)) look.hidden.insert(code);
    look.section = m_selection->section();
    look.exaggeration = m_selection->exaggeration();
    look.plane = m_selection->plane();
    look.along = m_selection->along();
    look.shownHoles = m_selection->shownHoles();
    look.cut.planes = m_selection->cuts();
    if (look.faces == BlockScene::Look::Faces::Values) look.faceValues = m_selection->blockLook();
    if (look.plane) look.block = look.terrain = false; // it lies within
    const auto& blocks = m_selection->blockLook();
    if (blocks.on && (shownBlocks(m_products.get(), blocks) || shownExcavation(m_products.get(), blocks))) {
        look.blocks = blocks;
        look.block = look.terrain = false;
    }
    return look;
}

/// Beside the window; what was drawn before stays until then.
void BlockCanvas::prepare() {
    m_wanted = false;
    m_products = m_source ? m_source() : nullptr;
    if (!m_products || !m_products->ground) return take(nullptr, {}, {});
    const auto look = lookNow();
    if (m_shapes && m_shapesOf == m_products && m_shapesLook == look) return m_preparing.stop(); // it is looked at again
    m_preparing.start(
        [products = m_products, look](const Progress& progress) { return BlockScene::prepare(*products, look, progress); },
        [this, products = m_products, look](std::shared_ptr<const BlockScene::Shapes> shapes) {
            take(std::move(shapes), products, look);
        },
        [](const QString&) {});
}

void BlockCanvas::take(std::shared_ptr<const BlockScene::Shapes> shapes, std::shared_ptr<const ProductSet> of,
                       const BlockScene::Look& look) {
    m_shapes = std::move(shapes), m_shapesOf = std::move(of), m_shapesLook = look;
    m_stale = true;
    update();
}

namespace {

/// Drawn by the processor: Mesa's rasterisers say so in their names.
bool isSoftware(QOpenGLContext* context) {
    const auto* name = reinterpret_cast<const char*>(context->functions()->glGetString(GL_RENDERER));
    const QString renderer = QString::fromLatin1(name ? name : "").toLower();
    return renderer.contains("llvmpipe") || renderer.contains("softpipe") || renderer.contains("swrast");
}

} // namespace

void BlockCanvas::initializeGL() {
    m_vtk = std::make_unique<Vtk>();
    m_vtk->window->SetReadyForRendering(true);
    m_vtk->window->SetOwnContext(0);
    m_vtk->window->SetIsCurrent(true);
    m_vtk->window->SetFrameBlitModeToBlitToCurrent();
    // without a graphics card each sample costs as much as a picture: edges are smoothed in the finished picture instead
    m_inSoftware = isSoftware(context());
    m_vtk->window->SetMultiSamples(m_inSoftware ? 0 : 4);
    m_vtk->window->AddRenderer(m_vtk->renderer);
    m_vtk->window->OpenGLInitContext();     // looks up the functions; the first Render would come too late for the state
    m_vtk->renderer->SetBackgroundAlpha(1); // else the window behind would shine through smoothed edges
    m_vtk->renderer->SetUseDepthPeeling(false);
    m_vtk->renderer->AutomaticLightCreationOff();
    vtkNew<vtkLight> light; // from the north-west, as hill shading has it
    light->SetLightTypeToSceneLight();
    light->SetPosition(-1, 1, 1.6);
    light->SetFocalPoint(0, 0, 0);
    light->SetIntensity(0.75);
    m_vtk->renderer->AddLight(light);
    vtkNew<vtkLight> lamp; // with the viewer, so that walls that face them are not black
    lamp->SetLightTypeToHeadlight();
    lamp->SetIntensity(0.45);
    m_vtk->renderer->AddLight(lamp);
    m_stale = m_shapes != nullptr;
}

void BlockCanvas::resizeGL(int, int) {
    if (m_distance == kFitDistance) m_away = 0; // it fills the pane still
    m_overlay->resize(size());
    placeCamera();
}

void BlockCanvas::paintGL() {
    if (!m_vtk) return;
    if (m_wanted) prepare();
    if (std::exchange(m_stale, false)) {
        m_scene.show(m_vtk->renderer, m_shapes);
        m_more = true;
        placeCamera();
    }
    const bool pieceByPiece = m_inSoftware && m_pieceByPiece;
    if (m_more) {
        m_more = m_scene.showMore(m_vtk->renderer, pieceByPiece ? 1 : std::numeric_limits<std::size_t>::max());
        if (!m_more && m_scene.nodes() > 0) m_pieceByPiece = false;
        m_vtk->renderer->ResetCameraClippingRange();
        if (m_more) update();
    }
    const double ratio = devicePixelRatioF();
    m_vtk->renderer->SetBackground(colour::desk.redF(), colour::desk.greenF(), colour::desk.blueF());
    m_vtk->window->SetIsCurrent(true);
    m_vtk->window->SetSize(int(width() * ratio), int(height() * ratio));
    auto* state = m_vtk->window->GetState();
    state->Reset();
    state->Push();
    m_vtk->window->OpenGLInitState();
    m_vtk->renderer->SetUseFXAA(m_inSoftware && m_smooth);
    m_vtk->window->Render();
    if (m_inSoftware && !m_smooth && !m_more) m_atRest.start();
    m_smooth = false; // until it is at rest again
    // what is see-through must not make the widget so: Qt would blend what lies behind it
    auto* gl = QOpenGLContext::currentContext()->functions();
    gl->glBindFramebuffer(GL_FRAMEBUFFER, defaultFramebufferObject());
    gl->glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_TRUE);
    gl->glClearColor(0, 0, 0, 1);
    gl->glClear(GL_COLOR_BUFFER_BIT);
    gl->glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
    state->Pop();
}

/// Names of holes and the figures of the frame, facing whoever looks; where they would lie over one another the first stays.
void BlockCanvas::paintOverlay(QPainter& painter) const {
    m_labelsShown = 0;
    if (!m_vtk || m_scene.nodes() == 0) return;
    painter.setRenderHint(QPainter::TextAntialiasing);
    Occupied occupied(size());
    const QRectF all(rect());
    const auto write = [&](const QString& words, QPointF at, const QColor& ink, bool always) {
        const QFontMetricsF metrics(painter.font());
        const QRectF box(at - QPointF(metrics.horizontalAdvance(words) / 2 + 2, 8),
                         QSizeF(metrics.horizontalAdvance(words) + 4, 15));
        if (!all.contains(box) || (!always && !occupied.free(box))) return;
        occupied.take(box);
        ++m_labelsShown;
        auto behind = colour::paper;
        behind.setAlpha(170);
        painter.fillRect(box, behind);
        painter.setPen(ink);
        painter.drawText(box, Qt::AlignCenter, words);
    };
    painter.setFont(bodyFont(11, true));
    const auto chosen = m_selection->hole();
    const bool names = m_look.names && !m_look.terrain;
    const auto nameAt = [&](const BlockScene::Top& top) { return onScreen(top.at) - QPointF(0, 15); };
    for (const auto& top : m_scene.tops())
        if (top.name == chosen) write(top.name, nameAt(top), colour::fox, true);
    painter.setFont(bodyFont(11));
    const double a = m_azimuth * std::numbers::pi / 180;
    const double facing[4] = {std::cos(a), std::sin(a), -std::cos(a), -std::sin(a)}; // how much each side is seen
    // levels stand on the corner that is farthest to the left on the screen
    int corner = 4;
    double left = 1e9;
    for (const auto& l : m_scene.labels())
        if (l.side >= 4)
            if (const double x = onScreen(l.at).x(); x < left) left = x, corner = l.side;
    for (const auto& l : m_scene.labels())
        if (l.side < 0 || (l.side < 4 && facing[l.side] > 0.15) || l.side == corner)
            write(l.words, onScreen(l.at), colour::muted, false);
    if (!names) return;
    for (const auto& top : m_scene.tops())
        if (top.name != chosen) write(top.name, nameAt(top), colour::ink, false);
}

namespace {
constexpr double kViewAngle = 32; // degrees, of the height
}

double BlockCanvas::fitAway() const {
    constexpr double kRadians = std::numbers::pi / 180, kFilled = 0.86; // of the pane: figures and names stand outside the box
    const double a = m_azimuth * kRadians, e = m_elevation * kRadians;
    const double toViewer[3] = {std::cos(e) * std::sin(a), -std::cos(e) * std::cos(a), std::sin(e)},
                 right[3] = {std::cos(a), std::sin(a), 0},
                 up[3] = {-std::sin(e) * std::sin(a), std::sin(e) * std::cos(a), std::cos(e)};
    const double tangent = std::tan(kViewAngle / 2 * kRadians) * kFilled, wide = double(width()) / std::max(1, height());
    const auto extent = m_scene.extent();
    double away = 1;
    for (int corner = 0; corner < 8; ++corner) {
        double nearer = 0, x = 0, y = 0;
        for (int k = 0; k < 3; ++k) {
            const double at = (corner >> k & 1 ? 1 : -1) * extent.half[k];
            nearer += at * toViewer[k], x += at * right[k], y += at * up[k];
        }
        away = std::max(away, nearer + std::max(std::abs(x) / (tangent * wide), std::abs(y) / tangent));
    }
    return away;
}

void BlockCanvas::placeCamera() {
    if (!m_vtk) return;
    const auto extent = m_scene.extent();
    constexpr double kRadians = std::numbers::pi / 180;
    if (std::exchange(m_fittedTo, QSizeF(extent.half[0], extent.half[1])) != QSizeF(extent.half[0], extent.half[1])) m_away = 0;
    if (m_away == 0 && m_shapes) m_away = fitAway(); // and kept while it is turned, so that it does not come and go
    const double away = m_distance / kFitDistance * (m_away > 0 ? m_away : 3 * extent.radius);
    double focus[3];
    for (int i = 0; i < 3; ++i) focus[i] = extent.centre[i] + m_shift[i];
    auto* camera = m_vtk->renderer->GetActiveCamera();
    camera->SetFocalPoint(focus);
    camera->SetPosition(focus[0] + away * std::cos(m_elevation * kRadians) * std::sin(m_azimuth * kRadians),
                        focus[1] - away * std::cos(m_elevation * kRadians) * std::cos(m_azimuth * kRadians),
                        focus[2] + away * std::sin(m_elevation * kRadians));
    camera->SetViewUp(0, 0, 1);
    camera->SetViewAngle(kViewAngle);
    m_vtk->renderer->ResetCameraClippingRange();
    m_overlay->update();
}

void BlockCanvas::turn(double azimuth, double elevation) {
    m_azimuth += azimuth;
    m_elevation = std::clamp(m_elevation + elevation, -10.0, 89.0);
    placeCamera();
    update();
}

void BlockCanvas::mousePressEvent(QMouseEvent* e) {
    m_pressed = m_last = e->position();
    m_dragged = false;
    if (e->button() == Qt::LeftButton && !takePlane(e->position())) takeCut(e->position());
}

QPointF BlockCanvas::onScreen(const double at[3]) const {
    vtkNew<vtkCoordinate> coordinate;
    coordinate->SetCoordinateSystemToWorld();
    coordinate->SetValue(at[0], at[1], at[2]);
    const double* pixel = coordinate->GetComputedDoubleDisplayValue(m_vtk->renderer);
    const double ratio = devicePixelRatioF();
    return {pixel[0] / ratio, height() - pixel[1] / ratio};
}

bool BlockCanvas::takePlane(QPointF p) {
    if (!m_vtk || !m_selection->plane()) return false;
    constexpr double kReach = 14; // pixels
    const auto& handles = m_scene.planeHandles();
    for (std::size_t i = 0; i < handles.size(); ++i) {
        const auto at = onScreen(handles[i].at);
        if (QLineF(at, p).length() > kReach) continue;
        const double above[3] = {handles[i].at[0], handles[i].at[1], handles[i].at[2] + m_selection->exaggeration()};
        m_planeDrag = PlaneDrag{i, m_selection->plane()->plane, std::max(0.01, at.y() - onScreen(above).y())};
        return true;
    }
    return false;
}

bool BlockCanvas::takeCut(QPointF p) {
    if (!m_vtk) return false;
    constexpr double kReach = 14; // pixels
    for (const auto& handle : m_scene.cutHandles()) {
        if (QLineF(onScreen(handle.at), p).length() > kReach || handle.cut >= m_selection->cuts().size()) continue;
        m_cutDrag = CutDrag{handle, m_selection->cuts()[handle.cut]};
        return true;
    }
    return false;
}

/// Where a ray through a pixel is at a height of the scene; none if it runs level.
std::optional<Point2> BlockCanvas::placeUnder(QPointF p, double height) const {
    const double ratio = devicePixelRatioF();
    const auto world = [&](double depth) {
        m_vtk->renderer->SetDisplayPoint(p.x() * ratio, (this->height() - p.y()) * ratio, depth);
        m_vtk->renderer->DisplayToWorld();
        const double* w = m_vtk->renderer->GetWorldPoint();
        return Point3{w[0] / w[3], w[1] / w[3], w[2] / w[3]};
    };
    const auto near = world(0), far = world(1);
    if (std::abs(far.z - near.z) < 1e-9) return {};
    const double t = (height - near.z) / (far.z - near.z);
    return Point2{near.x + t * (far.x - near.x), near.y + t * (far.y - near.y)};
}

/// The middle moves the cut along with the hand; the end turns it about its middle.
void BlockCanvas::dragCut(QPointF p) {
    auto cuts = m_selection->cuts();
    const auto under = placeUnder(p, m_cutDrag->handle.at[2]);
    if (m_cutDrag->handle.cut >= cuts.size() || !under || !m_products || !m_products->ground) return;
    const auto middle = m_products->ground->frame.box().centre();
    const Point2 place{under->x + middle.x, under->y + middle.y};
    auto& cut = cuts[m_cutDrag->handle.cut];
    cut = m_cutDrag->before;
    if (!m_cutDrag->handle.turns)
        cut.through = place;
    else if (distance(place, cut.through) > 1)
        cut.azimuth = std::atan2(place.x - cut.through.x, place.y - cut.through.y) * 180 / std::numbers::pi;
    m_selection->setCuts(cuts);
}

/// The middle moves the plane; a corner tilts it about the corner across.
void BlockCanvas::dragPlane(QPointF p) {
    if (!m_selection->plane()) return m_planeDrag.reset();
    auto how = *m_selection->plane();
    const auto& handles = m_scene.planeHandles();
    const double up = (m_pressed.y() - p.y()) / m_planeDrag->pixelsPerMetre;
    how.plane = m_planeDrag->before;
    if (m_planeDrag->handle == 0 || handles.size() != 5) {
        how.plane.through.z += up;
    } else {
        const auto place = handles[m_planeDrag->handle].place, across = handles[1 + (m_planeDrag->handle + 1) % 4].place;
        how.plane = turned(how.plane, place, how.plane.at(place) + up, across);
    }
    m_selection->setPlane(how);
}

void BlockCanvas::mouseMoveEvent(QMouseEvent* e) {
    if (m_planeDrag) return dragPlane(e->position());
    if (m_cutDrag) {
        setMoving(true);
        return dragCut(e->position());
    }
    const auto moved = e->position() - m_last;
    m_last = e->position();
    if ((e->position() - m_pressed).manhattanLength() > 4) m_dragged = true;
    if (!m_dragged) return;
    setMoving(true);
    if (e->buttons() & Qt::RightButton || (e->buttons() & Qt::LeftButton && e->modifiers() & Qt::ShiftModifier)) {
        const double metre = m_scene.extent().radius * m_distance / std::max(1, height()) * 0.6;
        const double a = m_azimuth * std::numbers::pi / 180;
        m_shift[0] -= metre * (moved.x() * std::cos(a) - moved.y() * -std::sin(a) * -1);
        m_shift[1] -= metre * (moved.x() * std::sin(a) - moved.y() * std::cos(a));
        placeCamera();
        update();
    } else if (e->buttons() & Qt::LeftButton) {
        turn(-moved.x() * 0.4, moved.y() * 0.3);
    }
}

void BlockCanvas::mouseReleaseEvent(QMouseEvent* e) {
    setMoving(false);
    if (m_planeDrag) return m_planeDrag.reset();
    if (m_cutDrag) return m_cutDrag.reset();
    if (m_dragged || e->button() != Qt::LeftButton || !m_vtk) return;
    constexpr double kReach = 12; // pixels
    QString best;
    double nearest = kReach;
    for (const auto& top : m_scene.tops())
        if (const double d = QLineF(onScreen(top.at), e->position()).length(); d < nearest) nearest = d, best = top.name;
    if (!best.isEmpty()) m_selection->setHole(best);
}

void BlockCanvas::wheelEvent(QWheelEvent* e) {
    m_distance = std::clamp(m_distance * std::pow(0.87, e->angleDelta().y() / 120.0), 0.2, 12.0);
    placeCamera();
    update();
    e->accept();
}

void BlockCanvas::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Left: turn(8, 0); break;
    case Qt::Key_Right: turn(-8, 0); break;
    case Qt::Key_Up: turn(0, 6); break;
    case Qt::Key_Down: turn(0, -6); break;
    case Qt::Key_F: fit(); break;
    case Qt::Key_Plus:
    case Qt::Key_Equal: m_distance *= 0.87, placeCamera(), update(); break;
    case Qt::Key_Minus: m_distance /= 0.87, placeCamera(), update(); break;
    default: QOpenGLWidget::keyPressEvent(e);
    }
}

} // namespace fox::app
