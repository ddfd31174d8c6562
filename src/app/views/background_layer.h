#pragma once
#include "views/ground_layer.h"

namespace fox::app {

/// Lines only to look at, on a plan: what is in sight, with no more vertices than can be told apart.
void paintBackgroundLines(QPainter&, const PlanTransform&, const std::vector<BackgroundLines>&);

} // namespace fox::app
