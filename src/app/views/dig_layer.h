#pragma once
#include "views/ground_layer.h"
#include "views/scene_blocks.h"

#include <QImage>

namespace fox::app {

/// The excavation that is looked at on a plan: how deep it is dug, its edge and its benches.
class DigLayer {
public:
    void paint(QPainter&, const PlanTransform&, const ProductSet&, const BlockLook&);

private:
    std::shared_ptr<const Excavation> m_of; ///< kept, so that no other one can have its address
    QImage m_image;                         ///< a pixel a cell
};

} // namespace fox::app
