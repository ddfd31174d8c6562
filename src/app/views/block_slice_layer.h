#pragma once
#include "views/ground_layer.h"
#include "views/scene_blocks.h"

#include <QImage>

namespace fox::app {

/// The layer of blocks at BlockLook::planLevel on a plan, in their colours; those beyond the cut-off are left out.
class BlockSliceLayer {
public:
    void paint(QPainter&, const PlanTransform&, const ProductSet&, const BlockLook&);

private:
    std::shared_ptr<const BlockModel> m_of; ///< kept, so that no other one can have its address
    BlockLook m_look;
    QImage m_image; ///< a pixel a block
};

} // namespace fox::app
