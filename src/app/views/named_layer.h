#pragma once
#include "views/ground_layer.h"

#include <QImage>

namespace fox::app {

/// A named surface on a plan: its levels in colours, with contours.
class NamedLayer {
public:
    /// Null, and nothing is drawn, if the project has none of that name.
    const NamedSurfaceProduct* shown(const ProductSet*, const PlanLook&) const;
    void paintBehind(QPainter&, const PlanTransform&, const ProductSet&, const PlanLook&, Occupied&);
    void paintLegend(QPainter&, const PlanTransform&, const PlanLook&) const;

private:
    std::shared_ptr<const Grid> m_drawn; ///< of which the picture is
    PlanLook m_look;
    paper::ValueColours m_colours;
    QImage m_image;
};

} // namespace fox::app
