#pragma once
#include "model/model.h"

#include <QRectF>
#include <QString>

class QPainter;

namespace fox::app {

/// A stretch of what the model has along a hole, by depth along it.
struct ModelStretch {
    double top, base; ///< metres
    std::size_t unit;
};
/// What the model has along a hole's path, down to a depth; nothing where it is not known.
std::vector<ModelStretch> modelAlong(const Model&, const HolePath&, double depth);

/// Draws what a hole at a place would find: units from the ground down, with the levels of their bases and their uncertainty.
void paintPredicted(QPainter&, const QRectF& area, const QString& name, Point2 place, const ModelColumn&, const Sequence&,
                    const QString& chosenUnit);

} // namespace fox::app
