#include "views/ground_layer.h"

#include "style/theme.h"
#include "views/value_legend.h"

#include <QPainter>
#include <QPainterPath>

namespace fox::app {

namespace {

bool meets(const Box2& b, const QRectF& world) {
    return b.xmax >= world.left() && b.xmin <= world.right() && b.ymax >= world.top() && b.ymin <= world.bottom();
}

Box2 boxOf(const QRectF& world) { return {world.left(), world.top(), world.right(), world.bottom()}; }

/// A label in the middle of a line, along it, the line left out under it.
void labelLine(QPainter& painter, const QPolygonF& line, const QString& text, Occupied& occupied, const QRectF& seen) {
    const QFontMetricsF metrics(painter.font());
    const double wide = metrics.horizontalAdvance(text) + 6;
    double length = 0;
    for (qsizetype i = 0; i + 1 < line.size(); ++i) length += QLineF(line[i], line[i + 1]).length();
    constexpr double kFirst = 90, kEvery = 420; // pixels along the line
    if (length < wide * 2.5) return;
    double along = 0, next = std::min(kFirst, length / 2);
    for (qsizetype i = 0; i + 1 < line.size(); ++i) {
        const QLineF piece(line[i], line[i + 1]);
        while (piece.length() > 0 && next <= along + piece.length()) {
            const auto at = piece.pointAt((next - along) / piece.length());
            next += kEvery;
            // the direction over the label's width, so that a kink does not turn it
            const auto before = line[std::max<qsizetype>(0, i - 2)], after = line[std::min(line.size() - 1, i + 3)];
            double angle = -QLineF(before, after).angle();
            if (angle < -90 && angle > -270) angle += 180;
            const QRectF box(at - QPointF(wide / 2, wide / 2), QSizeF(wide, wide));
            if (!seen.contains(box) || !occupied.free(box)) continue;
            occupied.take(box);
            painter.save();
            painter.translate(at);
            painter.rotate(angle);
            const QRectF label(-wide / 2, -7, wide, 14);
            painter.fillRect(label.adjusted(0, 2, 0, -2), colour::veil(235));
            painter.drawText(label, Qt::AlignCenter, text);
            painter.restore();
        }
        along += piece.length();
    }
}

} // namespace

GroundLayer::GroundLayer(QObject* parent) : QObject(parent), m_shaded(this) {
    connect(&m_shaded, &ShadedGround::changed, this, &GroundLayer::changed);
}

void GroundLayer::setProducts(std::shared_ptr<const ProductSet> products) {
    const bool other = !products || !m_products || products->contours != m_products->contours;
    m_products = std::move(products);
    m_pictures.clear();
    if (!m_products) return;
    for (const auto& p : m_products->pictures)
        m_pictures.push_back(p ? QImage(p->rgba.data(), p->width, p->height, QImage::Format_RGBA8888) : QImage());
    if (!other) return;
    m_pieces = m_products->contours ? piecesOf(*m_products->contours) : std::vector<Piece>();
    m_drawnPieces = m_products->drawnContours ? piecesOf(*m_products->drawnContours) : std::vector<Piece>();
}

std::vector<GroundLayer::Piece> GroundLayer::piecesOf(const std::vector<ContourLine>& contours) {
    constexpr std::size_t kVertices = 200;
    std::vector<Piece> out;
    for (std::size_t i = 0; i < contours.size(); ++i) {
        const auto& line = contours[i].line;
        for (std::size_t begin = 0; begin + 1 < line.size(); begin += kVertices) {
            Piece piece{i, begin, std::min(begin + kVertices + 1, line.size()), {}};
            for (auto k = piece.begin; k < piece.end; ++k) piece.box.include(line[k]);
            out.push_back(piece);
        }
    }
    return out;
}

void GroundLayer::paintBehind(QPainter& painter, const PlanTransform& t, const PlanLook& look) {
    if (!m_products) return;
    m_shaded.want(m_products->terrain, look.shading, t.world, t.pixelsPerMetre);
    if (look.pictures) paintPictures(painter, t);
    if (look.shading != PlanLook::Shading::None && !m_shaded.image().isNull()) {
        const auto& w = m_shaded.world();
        const QRectF target(t.toScreen(w.left(), w.bottom()), t.toScreen(w.right(), w.top()));
        painter.setOpacity(look.pictures && !m_pictures.empty() ? 0.55 : 0.85);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(target, m_shaded.image());
        painter.setOpacity(1);
    }
    if (look.triangles) paintTriangles(painter, t);
}

void GroundLayer::paintPictures(QPainter& painter, const PlanTransform& t) const {
    const auto& placed = *m_products->project.pictures;
    for (std::size_t i = 0; i < placed.size() && i < m_pictures.size(); ++i) {
        if (!placed[i].isDrawn() || m_pictures[i].isNull()) continue;
        const auto& p = placed[i].placing;
        const auto origin = t.toScreen(p.x0, p.y0), right = t.toScreen(p.x0 + p.xx, p.y0 + p.yx),
                   down = t.toScreen(p.x0 + p.xy, p.y0 + p.yy);
        painter.save();
        painter.setOpacity(placed[i].opacity);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.setTransform(QTransform(right.x() - origin.x(), right.y() - origin.y(), down.x() - origin.x(),
                                        down.y() - origin.y(), origin.x(), origin.y()),
                             true);
        painter.drawImage(0, 0, m_pictures[i]);
        painter.restore();
    }
}

bool GroundLayer::tooManyTriangles(const PlanTransform& t) const {
    if (!m_products || !m_products->groundStatistics || m_products->groundStatistics->extent.empty()) return false;
    const auto& all = m_products->groundStatistics->extent;
    const auto seen = t.world.intersected(QRectF(all.xmin, all.ymin, all.width(), all.height()));
    const double share = seen.width() * seen.height() / std::max(1e-9, all.width() * all.height());
    return share * double(m_products->terrain->tin.triangles().size()) > kMostTriangles;
}

/// What of the view is ground: inside the limits, outside the islands.
QPainterPath GroundLayer::groundPath(const PlanTransform& t) const {
    const auto& area = m_products->terrain->area;
    QPainterPath path; // the even-odd rule takes holes out
    if (area.isOutsideOfRings()) path.addRect(QRectF(QPointF(0, 0), QSizeF(t.size)));
    for (const auto& ring : area.rings()) {
        QPolygonF polygon;
        for (const auto& p : ring) polygon << t.toScreen(p.x, p.y);
        path.addPolygon(polygon);
        path.closeSubpath();
    }
    return path;
}

void GroundLayer::paintTriangles(QPainter& painter, const PlanTransform& t) const {
    if (tooManyTriangles(t)) return;
    painter.save();
    if (!m_products->terrain->area.isEverywhere()) painter.setClipPath(groundPath(t), Qt::IntersectClip);
    const auto& tin = m_products->terrain->tin;
    QVector<QLineF> plain, fixed;
    for (const auto i : tin.trianglesIn(boxOf(t.world))) {
        const auto& triangle = tin.triangles()[i];
        const auto c = tin.corners(triangle);
        for (std::size_t e = 0; e < 3; ++e) {
            const int n = triangle.neighbour[e];
            if (tin.isPresent(n) && std::size_t(n) < i)
                continue; // once an edge: the other triangle meets the view too, or the edge does not
            const auto &a = c[(e + 1) % 3], &b = c[(e + 2) % 3];
            (tin.isFixed(i, e) ? fixed : plain).push_back({t.toScreen(a.x, a.y), t.toScreen(b.x, b.y)});
        }
    }
    constexpr qsizetype kFine = 6000; // more lines than that are drawn the quick way
    painter.setRenderHint(QPainter::Antialiasing, plain.size() < kFine);
    auto edge = colour::slate;
    edge.setAlpha(120);
    painter.setPen(QPen(edge, plain.size() < kFine ? 0.7 : 0));
    painter.drawLines(plain);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(colour::slate, 1.6));
    painter.drawLines(fixed);
    painter.restore();
}

void GroundLayer::paintContours(QPainter& painter, const PlanTransform& t, const PlanLook& look, Occupied& occupied) const {
    if (!m_products) return;
    if (!m_products->contours || !look.contours) return;
    const double major = m_products->contourInterval * m_products->project.contours->majorEvery;
    painter.setBrush(Qt::NoBrush);
    painter.setFont(bodyFont(10));
    const QRectF seen(QPointF(4, 4), QSizeF(t.size) - QSizeF(8, 8));
    std::vector<std::pair<QPolygonF, QString>> labelled;
    const bool dark = look.shading != PlanLook::Shading::None;
    const bool coarse = m_products->drawnContours && m_products->drawnTolerance * t.pixelsPerMetre < 0.7;
    const auto& contours = coarse ? *m_products->drawnContours : *m_products->contours;
    for (const auto& piece : coarse ? m_drawnPieces : m_pieces) {
        if (!meets(piece.box, t.world)) continue;
        const auto& c = contours[piece.contour];
        QPolygonF line;
        line.reserve(qsizetype(piece.end - piece.begin));
        for (auto k = piece.begin; k < piece.end; ++k) line << t.toScreen(c.line[k].x, c.line[k].y);
        const bool isMajor = std::abs(std::remainder(c.level, major)) < 1e-6;
        const QColor minorColour = dark ? QColor(90, 76, 48, 150) : colour::contour;
        painter.setPen(QPen(isMajor ? (dark ? QColor("#5f4c22") : colour::contourMajor) : minorColour, isMajor ? 1.3 : 0.8));
        painter.drawPolyline(line);
        if (isMajor) labelled.emplace_back(std::move(line), QString::number(c.level, 'g', 7));
    }
    painter.setPen(themeInForce() == Theme::Dark ? colour::contourMajor : QColor("#6f5a2e"));
    for (const auto& [line, text] : labelled) labelLine(painter, line, text, occupied, seen);
}

void GroundLayer::paintOutlines(QPainter& painter, const PlanTransform& t) const {
    if (!m_products) return;
    using Use = GroundSources::Outline::Use;
    painter.setFont(bodyFont(11));
    for (const auto& o : m_products->project.ground->outlines) {
        const auto onScreen = [&](const Polygon2& points) {
            QPolygonF out;
            for (const auto& p : points) out << t.toScreen(p.x, p.y);
            return out;
        };
        const auto ring = onScreen(o.ring);
        QPainterPath shape; // the even-odd rule takes holes out
        shape.addPolygon(ring);
        shape.closeSubpath();
        for (const auto& hole : o.holes) shape.addPolygon(onScreen(hole)), shape.closeSubpath();
        painter.setPen(QPen(o.use == Use::None ? colour::muted : colour::ink, o.use == Use::None ? 1 : 1.4, Qt::DashDotLine));
        painter.setBrush(o.use == Use::Island ? QBrush(colour::water, Qt::BDiagPattern) : QBrush(Qt::NoBrush));
        painter.drawPath(shape);
        const auto highest = std::ranges::min_element(ring, {}, &QPointF::y);
        if (highest != ring.end()) painter.drawText(*highest + QPointF(4, -4), QString::fromStdString(o.name));
    }
    painter.setBrush(Qt::NoBrush);
}

void GroundLayer::paintPoints(QPainter& painter, const PlanTransform& t, const PlanLook& look, Occupied& occupied) const {
    if (!m_products) return;
    const auto& ground = *m_products->project.ground;
    if (look.points) {
        Occupied dots(t.size);       // one point a square of pixels is enough to look at
        QVector<QLineF> in, outside; // drawn at once, sharp and quick
        painter.setFont(bodyFont(10));
        const QFontMetricsF metrics(painter.font());
        const QRectF seen(QPointF(0, 0), QSizeF(t.size));
        const auto draw = [&](const SurveyPoint& p) {
            const auto at = t.toScreen(p.place.x, p.place.y);
            const QRectF dot(at - QPointF(1, 1), QSizeF(2, 2));
            if (!dots.free(dot)) return;
            dots.take(dot);
            const bool out = ground.codesOut.contains(p.code);
            const QPointF a = out ? QPointF(2.5, 2.5) : QPointF(2.5, 0), b = out ? QPointF(-2.5, 2.5) : QPointF(0, 2.5);
            (out ? outside : in) << QLineF(at - a, at + a) << QLineF(at - b, at + b);
            using Label = PlanLook::PointLabel;
            // first whether there is room at all: of thousands of points hardly one has any
            if (look.pointLabel == Label::None || !occupied.free(QRectF(at + QPointF(-3, -20), QSizeF(40, 28)))) return;
            const auto text = look.pointLabel == Label::Number  ? QString::fromStdString(p.name)
                              : look.pointLabel == Label::Level ? QString::number(p.place.z, 'f', 2)
                                                                : QString::fromStdString(p.code);
            if (text.isEmpty()) return;
            const QRectF box(at + QPointF(5, -12), QSizeF(metrics.horizontalAdvance(text) + 2, 12));
            if (!seen.contains(box) || !occupied.free(box.adjusted(-8, -8, 8, 8))) return;
            occupied.take(box);
            painter.drawText(box, Qt::AlignLeft | Qt::AlignVCenter, text);
        };
        if (const auto& facts = m_products->groundStatistics) {
            constexpr std::size_t kEnough = 4000; // squares of points: from afar, one of each is as much as can be seen
            painter.setPen(colour::slate);
            facts->pointGrid.visit(boxOf(t.world), kEnough, 1, [&](std::size_t i) { draw(*facts->points[i]); });
            painter.setRenderHint(QPainter::Antialiasing, false);
            painter.drawLines(in);
            painter.setPen(colour::red);
            painter.drawLines(outside);
            painter.setRenderHint(QPainter::Antialiasing);
        }
    }
    if (!m_products->outliers) return;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour::red, 2));
    for (const auto& o : *m_products->outliers) {
        const auto& v = m_products->terrain->tin.vertices()[std::size_t(o.vertex)];
        if (t.world.contains(v.x, v.y)) painter.drawEllipse(t.toScreen(v.x, v.y), 8, 8);
    }
}

void GroundLayer::paintLegend(QPainter& painter, const PlanTransform& t, const PlanLook& look) const {
    using Shading = PlanLook::Shading;
    if ((look.shading != Shading::Level && look.shading != Shading::Slope) || m_shaded.image().isNull()) return;
    paintValueLegend(painter, t.size, look.shading == Shading::Level ? tr("level of the ground, m") : tr("slope, degrees"),
                     QString::number(m_shaded.low(), 'f', 1), QString::number(m_shaded.high(), 'f', 1));
}

} // namespace fox::app
