#pragma once
#include "views/layer_values.h"
#include "views/scene_blocks.h"

namespace fox::app {

/// The layers of a grid or of a mesh in space, in the project's coordinates.
struct LayerShapes {
    std::vector<BlockFace> faces; ///< of cells or prisms; triangles have their last corner twice
    std::vector<BlockFace> walls; ///< upright faces of a mesh
};
/// Of the grid or mesh that is looked at, in the colours of its plan. Layers lie `gap` metres apart, the lowest where it is.
/// Where the faces would be more than `most`, cells are taken together. Empty without one.
LayerShapes layerShapes(const ProductSet&, const LayerLook&, double gap, std::size_t most, const Progress& = {});

} // namespace fox::app
