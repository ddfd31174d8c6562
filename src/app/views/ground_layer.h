#pragma once
#include "views/occupied.h"
#include "views/plan_look.h"
#include "views/shaded_ground.h"

class QPainter;

class QPainterPath;

namespace fox::app {

/// How a plan lies on the screen.
struct PlanTransform {
    std::function<QPointF(double x, double y)> toScreen;
    QRectF world; ///< what is in sight; y up
    double pixelsPerMetre = 1;
    QSize size; ///< pixels
};

/// The ground on a plan: pictures behind, shading, triangles, contours, survey points with labels, outlines, and points
/// that are off.
class GroundLayer : public QObject {
    Q_OBJECT
public:
    explicit GroundLayer(QObject* parent);
    void setProducts(std::shared_ptr<const ProductSet>);
    /// Below everything else.
    void paintBehind(QPainter&, const PlanTransform&, const PlanLook&);
    void paintContours(QPainter&, const PlanTransform&, const PlanLook&, Occupied&) const;
    void paintOutlines(QPainter&, const PlanTransform&) const; ///< with their names
    /// Over contours, under holes.
    void paintPoints(QPainter&, const PlanTransform&, const PlanLook&, Occupied&) const;
    void paintLegend(QPainter&, const PlanTransform&, const PlanLook&) const;
    bool settled() const { return !m_shaded.busy(); }
    /// More triangles in sight than can be told apart: they are not drawn.
    static constexpr double kMostTriangles = 20000;
    bool tooManyTriangles(const PlanTransform&) const;

signals:
    void changed();

private:
    void paintPictures(QPainter&, const PlanTransform&) const;
    void paintTriangles(QPainter&, const PlanTransform&) const;
    QPainterPath groundPath(const PlanTransform&) const;

    std::shared_ptr<const ProductSet> m_products;
    /// A piece of a contour, short enough to be left out when it is out of sight.
    struct Piece {
        std::size_t contour, begin, end; ///< vertices
        Box2 box;
    };
    static std::vector<Piece> piecesOf(const std::vector<ContourLine>&);
    std::vector<Piece> m_pieces, m_drawnPieces; ///< of contours, and of those with fewer vertices
    std::vector<QImage> m_pictures;             ///< as products' pictures; they share their bytes
    ShadedGround m_shaded;
};

} // namespace fox::app
