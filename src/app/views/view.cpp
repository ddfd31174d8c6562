#include "views/view.h"

#include "style/theme.h"

#include <QKeyEvent>
#include <QPainter>
#include <QWheelEvent>

namespace fox::app {

View::View(Selection* selection, QWidget* parent) : QWidget(parent), m_selection(selection) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
}

void View::setProducts(std::shared_ptr<const ProductSet> products) {
    if (m_products == products) return;
    const auto before = std::exchange(m_products, std::move(products));
    if (before && m_products && m_products->sameFor(wanted(m_products->project), *before)) return;
    productsChanged();
    emit summaryChanged();
}

QPointF PannedView::toScreen(double x, double y) const {
    return {width() / 2.0 + (x - m_centre.x()) * m_scale, height() / 2.0 - (y - m_centre.y()) * m_scale * stretch()};
}

QPointF PannedView::toWorld(QPointF p) const {
    return {m_centre.x() + (p.x() - width() / 2.0) / m_scale, m_centre.y() - (p.y() - height() / 2.0) / (m_scale * stretch())};
}

void PannedView::fit() {
    const auto world = worldBounds();
    if (world.isEmpty() || width() < 40 || height() < 40) return;
    const auto m = margins();
    const double wide = std::max(20.0, width() - m.left() - m.right()), high = std::max(20.0, height() - m.top() - m.bottom());
    m_scale = std::min(wide / world.width(), high / (world.height() * stretch()));
    // the middle of what the margins leave free
    m_centre = {world.center().x() - (m.left() - m.right()) / 2 / m_scale,
                world.center().y() + (m.top() - m.bottom()) / 2 / (m_scale * stretch())};
    m_fitted = true;
    m_userMoved = false;
    update();
}

void PannedView::fitIfNeeded() {
    if (!m_fitted || !m_userMoved) fit();
    update();
}

void PannedView::zoomBy(double factor) {
    m_scale *= factor;
    m_userMoved = true;
    update();
}

void PannedView::centreAt(QPointF world) {
    m_centre = world;
    m_fitted = m_userMoved = true;
    update();
}

void PannedView::resizeEvent(QResizeEvent*) { fitIfNeeded(); }

void PannedView::wheelEvent(QWheelEvent* e) {
    if (!m_fitted) return;
    const auto under = toWorld(e->position());
    m_scale *= std::pow(1.2, e->angleDelta().y() / 120.0);
    m_userMoved = true;
    const auto now = toWorld(e->position());
    m_centre += under - now; // what is under the cursor stays there
    update();
    e->accept();
}

void PannedView::mousePressEvent(QMouseEvent* e) {
    if (e->button() == Qt::LeftButton || e->button() == Qt::MiddleButton) m_pressed = e->position();
    m_dragged = false;
}

void PannedView::mouseMoveEvent(QMouseEvent* e) {
    if (m_pressed) {
        const auto moved = e->position() - *m_pressed;
        constexpr double kClickSlack = 4; // pixels
        if (!m_dragged && moved.manhattanLength() < kClickSlack) return;
        m_dragged = m_userMoved = true;
        m_centre += QPointF(-moved.x() / m_scale, moved.y() / (m_scale * stretch()));
        m_pressed = e->position();
        update();
    }
    hoveredAt(e->position());
}

void PannedView::mouseReleaseEvent(QMouseEvent* e) {
    if (m_pressed && !m_dragged && e->button() == Qt::LeftButton) clicked(e->position());
    m_pressed.reset();
}

void PannedView::leaveEvent(QEvent*) {
    selection()->setHovered({});
    emit pointed(kNoValue, kNoValue, kNoValue, {});
}

void PannedView::keyPressEvent(QKeyEvent* e) {
    const double step = 40 / m_scale;
    switch (e->key()) {
    case Qt::Key_Plus:
    case Qt::Key_Equal: zoomBy(1.25); break;
    case Qt::Key_Minus: zoomBy(0.8); break;
    case Qt::Key_F: fit(); break;
    case Qt::Key_Left: m_centre.rx() -= step; break;
    case Qt::Key_Right: m_centre.rx() += step; break;
    case Qt::Key_Up: m_centre.ry() += step / stretch(); break;
    case Qt::Key_Down: m_centre.ry() -= step / stretch(); break;
    default: View::keyPressEvent(e); return;
    }
    m_userMoved |= e->key() != Qt::Key_F;
    update();
}

void paintEmpty(QPainter& painter, const QRectF& area, const QString& words) {
    painter.setPen(colour::muted);
    painter.setFont(bodyFont());
    painter.drawText(area.adjusted(20, 20, -20, -20), Qt::AlignCenter | Qt::TextWordWrap, words);
}

} // namespace fox::app
