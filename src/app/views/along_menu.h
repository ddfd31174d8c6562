#pragma once
#include "views/selection.h"

class QMenu;

namespace fox {
struct ProductSet;
}

namespace fox::app {

/// What the sticks of holes show: units, codes of a column, a test, curve or sounding; a graph, signs, their width.
void fillAlongMenu(QMenu&, Selection&, const ProductSet&, QWidget* parent);

/// The colours of a quantity along holes, by the range that was chosen or that of all values.
paper::ValueColours alongColours(const AlongValues&, const AlongLook&);

} // namespace fox::app
