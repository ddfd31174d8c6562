#pragma once
#include "products/products.h"
#include "sheets/depth_texts.h"

namespace fox {

// What AGS groups say of a hole that the program has no other use for than to print it.

/// Cells of one heading of a group, "WETH.WETH_GRAD", at their depths: of rows that have the hole's id and a depth.
std::vector<DepthText> fieldTexts(const Hole&, const std::string& heading, const ProductSet&);
/// Headings that fieldTexts() can be asked for: of groups with holes and depths, each once.
std::vector<std::string> depthFields(const ProductSet&);
/// Whether that heading has numbers and no unit of measure.
bool lacksUnit(const Hole&, const std::string& heading, const ProductSet&);

/// Down to which depth a hole, or its casing, has a diameter.
struct HoleDiameter {
    bool isCasing = false;
    double depth = 0; ///< metres
    double millimetres = 0;
};
/// By depth; from groups HDIA and CDIA.
std::vector<HoleDiameter> diametersOf(const Hole&, const ProductSet&);
/// Date, and depths of hole, casing and water, at the depth of the hole; from group PTIM.
std::vector<DepthText> progressTexts(const Hole&, const ProductSet&);
/// The remark on the hole at its top, then those at depths.
std::vector<DepthText> remarkTexts(const Hole&, const ProductSet&);
/// A remark at a depth or over a length, as it is printed.
std::string detailInWords(const Detail&);

} // namespace fox
