#pragma once
#include "paper/drawing.h"
#include "products/products.h"

namespace fox {

/// Charts that a sheet of the project can have, by their key, with words: "values:SPT N", "SPT N by unit"; "water", "Water
/// against time"; "variogram:RG", "Variogram of RG".
std::vector<std::pair<std::string, std::string>> sheetCharts(const ProductSet&);
/// Millimetres. None if the project has nothing of that key.
std::optional<paper::Drawing> drawSheetChart(const std::string& key, const ProductSet&, double width, double height);
/// Half mean squared differences by distance, as points by how many pairs there are, and the variogram that the base is made
/// with. Layers "frame", "pairs", "variogram". None of a base without a variogram.
std::optional<paper::Drawing> drawVariogram(const BaseSurface&, double width, double height);

} // namespace fox
