#pragma once
#include <QSize>
#include <QString>

class QPainter;

namespace fox::app {

/// Which colours stand for which values (see valueColour), in the lower right corner of a view.
void paintValueLegend(QPainter&, const QSize& view, const QString& title, const QString& low, const QString& high);

} // namespace fox::app
