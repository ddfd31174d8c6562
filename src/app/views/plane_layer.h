#pragma once
#include "sequence/plane_assignment.h"
#include "views/ground_layer.h"

namespace fox::app {

/// The plane above which intervals are assigned, on a plan: its level lines with figures over the box of the holes, which way it
/// falls, and rings round the holes of which it takes something.
void paintPlane(QPainter&, const PlanTransform&, const ProductSet&, const PlaneAssignment&, const AssignedByPlane&);

} // namespace fox::app
