#pragma once
#include "ground/contours.h"
#include "views/ground_layer.h"

#include <QImage>

namespace fox::app {

/// Lines of equal value with their figures, where there is room for them.
void paintContourLines(QPainter&, const PlanTransform&, const std::vector<ContourLine>&, Occupied&);

/// A grid in colours by value (see valueColour), a pixel a cell, clear where there is no value. Colours are spread from `low` to
/// `high`; where one is NaN it becomes the grid's own, and stays NaN if that has no values.
QImage valueImage(const Grid&, double& low, double& high);

} // namespace fox::app
