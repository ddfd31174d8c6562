#pragma once
#include "paper/colour_scale.h"

#include <QSize>
#include <QString>

class QPainter;

namespace fox::app {

/// Which colours stand for which values (see valueColour), in the lower right corner of a view.
void paintValueLegend(QPainter&, const QSize& view, const QString& title, const QString& low, const QString& high);
/// The same for a scale; with classes a row for each, the highest on top.
void paintValueLegend(QPainter&, const QSize& view, const QString& title, const paper::ValueColours&);

} // namespace fox::app
