#pragma once
#include "paper/colour_scale.h"
#include "products/products.h"
#include "views/layer_look.h"

#include <QColor>
#include <QString>
#include <optional>
#include <vector>

namespace fox::app {

/// The layered grid that is looked at; null if there is none, or it could not be made.
const LayeredGrid* shownGrid(const ProductSet*, const LayerLook&);
/// Its product, with the reason if it could not be made; null if the project has none.
const LayerProduct* shownLayers(const ProductSet*, const LayerLook&);

/// The mesh that is looked at; null if a grid is, or the project has none of that name.
const MeshProduct* shownMesh(const ProductSet*, const LayerLook&);

/// The row or column that is shown as a section.
int shownLine(const LayeredGrid&, const LayerLook&);

/// What of the cells can be looked at: a key of LayerLook::value and its words with their unit, "Thickness, m".
struct LayerValueKind {
    std::string key;
    QString words;
};
std::vector<LayerValueKind> layerValueKinds(const LayeredGrid&);
QString layerValueWords(const LayeredGrid&, const std::string& key);
/// The number of a cell under a key; kNoValue where there is none, and for units and checks.
double layerValue(const LayeredGrid&, const std::string& key, std::size_t cell);

/// The colours of what is looked at, over the active cells of a layer, or of all.
paper::ValueColours layerColours(const LayeredGrid&, const LayerLook&, std::optional<std::size_t> layer);
/// The colour of a cell; none: it is not drawn.
std::optional<QColor> layerColour(const LayeredGrid&, const Sequence&, const LayerLook&, std::size_t cell,
                                  const paper::ValueColours&);

/// What stands in a cell, in a line: "layer 3, row 18, column 73: 16.85 to 20.27 m, River Gravel".
QString cellWords(const LayeredGrid&, const Sequence&, std::size_t cell);

} // namespace fox::app
