#pragma once
#include "products/products.h"
#include "views/ground_layer.h"

#include <QImage>

namespace fox::app {

/// A water surface on a plan: its levels, or depths below the ground, in colours with lines of equal level, and its points.
class WaterLayer {
public:
    /// Null, and nothing is drawn, if the project has none of that name.
    const WaterProduct* shown(const ProductSet*, const PlanLook&) const;
    void paintBehind(QPainter&, const PlanTransform&, const ProductSet&, const PlanLook&, Occupied&);
    void paintMarks(QPainter&, const PlanTransform&, const ProductSet&, const PlanLook&, Occupied&) const;
    void paintLegend(QPainter&, const PlanTransform&, const PlanLook&) const;

private:
    std::shared_ptr<const Grid> m_drawn; ///< of which the picture is
    QImage m_image;
    PlanLook m_look; ///< of the picture
    paper::ValueColours m_colours;
};

} // namespace fox::app
