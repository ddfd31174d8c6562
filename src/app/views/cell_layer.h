#pragma once
#include "views/ground_layer.h"
#include "views/layer_values.h"

#include <QImage>

namespace fox::app {

/// One layer of a layered grid on a plan: its cells by value, unit or check, their edges where there is room, the row or column
/// that is shown as a section.
class CellLayer {
public:
    void paint(QPainter&, const PlanTransform&, const ProductSet&, const LayerLook&);
    void paintLegend(QPainter&, const PlanTransform&, const ProductSet&, const LayerLook&) const;
    /// What lies under a place, in words; empty outside the grid.
    static QString wordsAt(Point2, const ProductSet*, const LayerLook&);

private:
    struct Drawn {
        std::shared_ptr<const LayeredGrid> grid; ///< kept, so that no other one can have its address
        LayerLook look;
        QPointF corner; ///< of the grid on the screen
        double pixelsPerMetre = 0;
        QSize size;
        bool operator==(const Drawn&) const = default;
    };
    QImage drawn(const PlanTransform&, const ProductSet&, const LayeredGrid&, const LayerLook&);

    Drawn m_of;
    QImage m_image;
    paper::ValueColours m_colours;
};

} // namespace fox::app
