#pragma once
#include "model/model.h"

#include <QRectF>
#include <QString>

class QPainter;

namespace fox::app {

/// Draws what a hole at a place would find: units from the ground down, with the levels of their bases and their uncertainty.
void paintPredicted(QPainter&, const QRectF& area, const QString& name, Point2 place, const ModelColumn&, const Sequence&,
                    const QString& chosenUnit);

} // namespace fox::app
