#pragma once
#include "ground/contours.h"
#include "views/ground_layer.h"

#include <QImage>

namespace fox::app {

/// Lines of equal value with their figures, where there is room for them.
void paintContourLines(QPainter&, const PlanTransform&, const std::vector<ContourLine>&, Occupied&);

/// The colours of these values as a plan is to have them: from the least to the most, in its scale and classes.
paper::ValueColours coloursFor(std::span<const double>, const PlanLook&);
/// A grid in colours, a pixel a cell, clear where there is no value.
QImage valueImage(const Grid&, const paper::ValueColours&);
/// A grid in colours by value (see valueColour), a pixel a cell, clear where there is no value. Colours are spread from `low` to
/// `high`; where one is NaN it becomes the grid's own, and stays NaN if that has no values.
QImage valueImage(const Grid&, double& low, double& high);

} // namespace fox::app
