#pragma once
#include "views/block_objects.h"
#include "views/ground_layer.h"

namespace fox::app {

// Values at points in space: lozenges in the colours of the least to the most of what was measured.

void paintValuePoints(QPainter&, const PlanTransform&, const Project&);
/// Little upright bars; values that are not used are left out.
SceneTubes sceneValues(const Project&, const BlockPlacing&);

} // namespace fox::app
