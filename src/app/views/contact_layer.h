#pragma once
#include "views/ground_layer.h"

namespace fox::app {

/// The sign of a contact that is in no hole: a lying bar on a foot, in the colour of its unit.
void paintContactSign(QPainter&, QPointF at, const QColor&);

/// Contacts that are in no log, on a plan, with lines between those of one trace.
void paintContactPoints(QPainter&, const PlanTransform&, const ProductSet&);

} // namespace fox::app
