#pragma once
#include "base/point.h"
#include "ground/georeference.h"

#include <QImage>
#include <QWidget>
#include <vector>

namespace fox::app {

/// What a file holds, to be drawn small: dots, lines, areas, and a picture (of a grid, shaded, or a picture itself).
struct PlacePreview {
    std::vector<Point2> dots;
    std::vector<Polyline2> lines;
    std::vector<std::vector<Polygon2>> areas; ///< each with its holes
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

protected:
    void paintEvent(QPaintEvent*) override;

private:
    std::vector<Point2> m_there;
    PlacePreview m_coming;
};

} // namespace fox::app
