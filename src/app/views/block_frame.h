#pragma once
#include "views/block_objects.h"

namespace fox::app {

/// Edges of the block's box with ticks at round eastings, northings and levels, and an arrow to the north, in metres of the
/// scene; their figures are labels that are painted over the picture.
struct SceneFrame {
    std::vector<SceneLine> lines;
    std::vector<BlockScene::Label> labels;
};
SceneFrame sceneFrame(const Box2& extent, const BlockPlacing&);

} // namespace fox::app
