#pragma once
#include "base/point.h"
#include "ground/georeference.h"
#include "ground/lines.h"

#include <QImage>
#include <QWidget>
#include <vector>

namespace fox::app {

/// What a file holds, to be drawn small: dots, lines, areas, and a picture (of a grid, shaded, or a picture itself).
struct PlacePreview {
    std::vector<Point2> dots;
    std::vector<Polyline2> lines;
    std::vector<std::vector<Polygon2>> areas; ///< each with its holes
    std::vector<GroundLines::Object> objects; ///< to be chosen one by one; they stand in place of lines, areas and points
    QImage image;
    Georeference placing;    ///< of the image: pixels to metres
    bool imagePlaced = true; ///< else it fills the map
    QString emptyWords;      ///< why nothing is there to be drawn; empty: the file has no places
    Box2 box() const;
};

/// A small map for the import: what is in the file, over what the project has already.
class PlaceMap : public QWidget {
    Q_OBJECT
public:
    explicit PlaceMap(QWidget* parent) : QWidget(parent) { setMinimumSize(260, 170), setObjectName("importMap"); }
    void setPlaces(std::vector<Point2> there, PlacePreview coming);
    /// Where a place of the map is in this widget, pixels.
    QPointF pixelOf(Point2) const;

signals:
    /// One of the objects was clicked, or a level or an answer was chosen for it: how it is to be read from now on.
    void objectChanged(const fox::ObjectChoice&);

protected:
    void paintEvent(QPaintEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    bool event(QEvent*) override; ///< tooltips of objects

private:
    struct View {
        Point2 centre;
        double scale = 1; ///< pixels in a metre
        QPointF middle;
    };
    View view() const;
    void paintObjects(QPainter&) const;
    const GroundLines::Object* objectAt(QPointF) const; ///< the nearest within a few pixels
    void askLevel(const ObjectChoice&);

    std::vector<Point2> m_there;
    PlacePreview m_coming;
    Box2 m_box; ///< around both
};

} // namespace fox::app
