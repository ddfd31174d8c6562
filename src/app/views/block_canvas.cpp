#include "views/block_canvas.h"

#include "style/theme.h"
#include "views/layer_values.h"
#include "views/occupied.h"
#include "views/scene_blocks.h"

#include <QKeyEvent>
#include <QLineF>
#include <QMouseEvent>
#include <QPainter>
#include <QThreadPool>
#include <QWheelEvent>
#include <numbers>

namespace fox::app {

BlockCanvas::BlockCanvas(std::shared_ptr<SceneDrawer> drawer, Selection* selection, QWidget* parent)
    : QWidget(parent), m_drawer(std::move(drawer)), m_place(m_drawer->makePlace()), m_selection(selection), m_preparing(this) {
    setObjectName("blockCanvas");
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Ground model in three dimensions"));
    setAttribute(Qt::WA_OpaquePaintEvent);
    constexpr int kRest = 60; // milliseconds
    m_atRest.setInterval(kRest);
    m_atRest.setSingleShot(true);
    connect(&m_atRest, &QTimer::timeout, this, [this] {
        m_smooth = true;
        redraw();
    });
    for (auto signal :
         {&Selection::holeChanged, &Selection::unitChanged, &Selection::sectionChanged, &Selection::exaggerationChanged,
          &Selection::unitsShownChanged, &Selection::planeChanged, &Selection::shownHolesChanged, &Selection::alongChanged,
          &Selection::cutsChanged, &Selection::layerLookChanged})
        connect(selection, signal, this, &BlockCanvas::refill);
    constexpr int kSlow = 200; // milliseconds between steps of a slider that moves
    m_fineAgain.setInterval(kSlow);
    m_fineAgain.setSingleShot(true);
    connect(&m_fineAgain, &QTimer::timeout, this, [this] { setMoving(false); });
    connect(selection, &Selection::blockLookChanged, this, [this] {
        const auto& look = m_selection->blockLook();
        if (std::exchange(m_limits, look.limits()) != look.limits() && look.on) m_look.coarse = true;
        if (m_look.coarse) m_fineAgain.start(); // while a cut-off is moved fewer blocks are drawn
        refill();
    });
}

void BlockCanvas::redraw() {
    m_undrawn = true;
    update();
}

void BlockCanvas::setLook(const BlockScene::Look& look) {
    m_look = look;
    refill();
}

void BlockCanvas::fit() {
    m_distance = kFitDistance;
    m_away = 0;
    std::ranges::fill(m_shift, 0.0);
    placeEye();
    redraw();
}

void BlockCanvas::lookFrom(double azimuth, double elevation) {
    m_azimuth = azimuth, m_elevation = elevation;
    placeEye();
    redraw();
}

QImage BlockCanvas::picture(QSize size) const {
    BlockCanvas other(m_drawer, m_selection, nullptr);
    other.resize(size);
    other.m_look = m_look;
    other.m_look.coarse = false;
    other.m_away = 0;
    other.m_azimuth = m_azimuth, other.m_elevation = m_elevation, other.m_distance = m_distance;
    std::ranges::copy(m_shift, other.m_shift);
    if (m_products && m_products->ground) {
        auto look = lookNow();
        look.coarse = false;
        other.m_newest = BlockScene(BlockScene::prepare(*m_products, look));
    }
    other.placeEye();
    other.m_smooth = true;
    const auto wanted = other.wanted();
    other.show(wanted, m_drawer->drawNow(other.m_place, wanted));
    auto picture = other.m_picture;
    QPainter painter(&picture);
    other.paintOverlay(painter);
    return picture;
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
    auto layers = m_selection->layerLook();
    if (layers.onPlan && (shownGrid(m_products.get(), layers) || shownMesh(m_products.get(), layers))) {
        layers.layer = 0, layers.line = 0, layers.byColumn = false; // these show on the plan alone
        look.layers = layers;
        look.block = look.terrain = false;
        look.ground = BlockScene::Look::Ground::Hidden;
        look.surfaces.clear();
        look.fences = false;
    }
    return look;
}

/// Beside the window; what was drawn before stays until then.
void BlockCanvas::prepare() {
    m_wanted = false;
    m_products = m_source ? m_source() : nullptr;
    if (!m_products || !m_products->ground) return take({});
    const auto look = lookNow();
    if (m_newest.shapes() && m_newestOf == m_products && m_newestLook == look) return m_preparing.stop(); // looked at again
    m_preparing.start(
        [products = m_products, look](const Progress& progress) { return BlockScene::prepare(*products, look, progress); },
        [this, products = m_products, look](std::shared_ptr<const BlockScene::Shapes> shapes) {
            m_newestOf = products, m_newestLook = look;
            take(BlockScene(std::move(shapes)));
        },
        [](const QString&) {});
}

void BlockCanvas::take(BlockScene scene) {
    m_newest = std::move(scene);
    placeEye();
    redraw();
}

void BlockCanvas::resizeEvent(QResizeEvent*) {
    if (m_distance == kFitDistance) m_away = 0; // it fills the pane still
    placeEye();
    redraw();
}

void BlockCanvas::changeEvent(QEvent* e) {
    if (e->type() == QEvent::PaletteChange) redraw();
    QWidget::changeEvent(e);
}

void BlockCanvas::paintEvent(QPaintEvent*) {
    if (m_wanted) prepare();
    if (m_undrawn && !m_drawing) draw();
    QPainter painter(this);
    painter.fillRect(rect(), colour::desk);
    painter.drawImage(QPointF(0, 0), m_picture);
    paintOverlay(painter);
}

SceneDrawer::Wanted BlockCanvas::wanted() const {
    return {m_newest.shapes(), m_eye, size() * devicePixelRatioF(), colour::desk, m_smooth};
}

/// Beside the window; what was drawn before is seen until then.
void BlockCanvas::draw() {
    m_undrawn = false;
    if (size().isEmpty()) return;
    m_drawing = true;
    const auto now = wanted();
    m_smooth = false; // until it is at rest again
    m_drawer->draw(m_place, now, this, [this, now](QImage picture) {
        m_drawing = false;
        show(now, std::move(picture));
    });
}

void BlockCanvas::show(const SceneDrawer::Wanted& what, QImage picture) {
    m_picture = std::move(picture);
    m_picture.setDevicePixelRatio(devicePixelRatioF());
    // a hundred thousand faces take a while to be given back
    QThreadPool::globalInstance()->start([before = std::exchange(m_scene, BlockScene(what.shapes))]() mutable { before = {}; });
    m_seenFrom = what.eye;
    ++m_pictures;
    if (m_drawer->isInSoftware() && !what.smooth && !m_undrawn) m_atRest.start();
    update();
}

/// Names of holes and the figures of the frame, facing whoever looks; where they would lie over one another the first stays.
void BlockCanvas::paintOverlay(QPainter& painter) const {
    m_labelsShown = 0;
    if (m_scene.nodes() == 0) return;
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
    const double a = m_seenFrom.azimuth * std::numbers::pi / 180;
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

double BlockCanvas::fitAway() const {
    constexpr double kFilled = 0.86; // of the pane: figures and names stand outside the box
    const auto [toViewer, right, up] = m_eye.axes();
    const double tangent = std::tan(BlockEye::kAngle / 2 * std::numbers::pi / 180) * kFilled,
                 wide = double(width()) / std::max(1, height());
    const auto extent = m_newest.extent();
    double away = 1;
    for (int corner = 0; corner < 8; ++corner) {
        double nearer = 0, x = 0, y = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const double at = (corner >> k & 1 ? 1 : -1) * extent.half[k];
            nearer += at * toViewer[k], x += at * right[k], y += at * up[k];
        }
        away = std::max(away, nearer + std::max(std::abs(x) / (tangent * wide), std::abs(y) / tangent));
    }
    return away;
}

void BlockCanvas::placeEye() {
    const auto extent = m_newest.extent();
    m_eye.azimuth = m_azimuth, m_eye.elevation = m_elevation;
    for (std::size_t i = 0; i < 3; ++i) m_eye.focus[i] = extent.centre[i] + m_shift[i];
    if (std::exchange(m_fittedTo, QSizeF(extent.half[0], extent.half[1])) != QSizeF(extent.half[0], extent.half[1])) m_away = 0;
    if (m_away == 0 && m_newest.shapes()) m_away = fitAway(); // and kept while it is turned, so that it does not come and go
    m_eye.away = m_distance / kFitDistance * (m_away > 0 ? m_away : 3 * extent.radius);
}

void BlockCanvas::turn(double azimuth, double elevation) {
    m_azimuth += azimuth;
    m_elevation = std::clamp(m_elevation + elevation, -10.0, 89.0);
    placeEye();
    redraw();
}

void BlockCanvas::mousePressEvent(QMouseEvent* e) {
    m_pressed = m_last = e->position();
    m_dragged = false;
    if (e->button() == Qt::LeftButton && !takePlane(e->position())) takeCut(e->position());
}

bool BlockCanvas::takePlane(QPointF p) {
    if (!m_selection->plane()) return false;
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
    constexpr double kReach = 14; // pixels
    for (const auto& handle : m_scene.cutHandles()) {
        if (QLineF(onScreen(handle.at), p).length() > kReach || handle.cut >= m_selection->cuts().size()) continue;
        m_cutDrag = CutDrag{handle, m_selection->cuts()[handle.cut]};
        return true;
    }
    return false;
}

/// The middle moves the cut along with the hand; the end turns it about its middle.
void BlockCanvas::dragCut(QPointF p) {
    auto cuts = m_selection->cuts();
    const auto under = m_seenFrom.placeUnder(p, m_cutDrag->handle.at[2], size());
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
        placeEye();
        redraw();
    } else if (e->buttons() & Qt::LeftButton) {
        turn(-moved.x() * 0.4, moved.y() * 0.3);
    }
}

void BlockCanvas::mouseReleaseEvent(QMouseEvent* e) {
    setMoving(false);
    if (m_planeDrag) return m_planeDrag.reset();
    if (m_cutDrag) return m_cutDrag.reset();
    if (m_dragged || e->button() != Qt::LeftButton) return;
    constexpr double kReach = 12; // pixels
    QString best;
    double nearest = kReach;
    for (const auto& top : m_scene.tops())
        if (const double d = QLineF(onScreen(top.at), e->position()).length(); d < nearest) nearest = d, best = top.name;
    if (!best.isEmpty()) m_selection->setHole(best);
}

void BlockCanvas::wheelEvent(QWheelEvent* e) {
    m_distance = std::clamp(m_distance * std::pow(0.87, e->angleDelta().y() / 120.0), 0.2, 12.0);
    placeEye();
    redraw();
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
    case Qt::Key_Equal: m_distance *= 0.87, placeEye(), redraw(); break;
    case Qt::Key_Minus: m_distance /= 0.87, placeEye(), redraw(); break;
    default: QWidget::keyPressEvent(e);
    }
}

} // namespace fox::app
