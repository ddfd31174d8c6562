#pragma once
#include "views/ground_layer.h"
#include "views/layer_values.h"

#include <QImage>

namespace fox::app {

/// A mesh on a plan: its triangles by the unit of the layer that is looked at, those with the smallest angles marked.
class MeshLayer {
public:
    void paint(QPainter&, const PlanTransform&, const ProductSet&, const LayerLook&);

private:
    std::shared_ptr<const LayeredMesh> m_of; ///< kept, so that no other one can have its address
    std::size_t m_layer = 0;
    QRectF m_world;
    QSize m_size;
    QImage m_image;
};

} // namespace fox::app
