#pragma once
#include "model/section.h"
#include "paper/drawing.h"
#include "paper/sheet_template.h"
#include "products/products.h"

namespace fox {

/// A section in a box of the page, on as many pages as it takes, each with a little of the page before.
struct SectionPages {
    std::vector<std::vector<paper::Item>> pages;
    double scale = 0, verticalScale = 0; ///< 1:n
    std::size_t overfull = 0;            ///< heights that the scale can't show
};
/// Holes with patterns, names and water, and a test as a graph beside them if the template has one; levels on either side, other
/// sections where they cross it, and the bases' 80 % band if it is chosen. No pages if there is no ground along the line.
SectionPages layOutSection(const SheetTemplate&, const Box2&, const SectionLine&, const Section&, const ProductSet&);

} // namespace fox
