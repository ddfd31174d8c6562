#pragma once
#include "paper/drawing.h"
#include "paper/sheet_template.h"
#include "products/products.h"

namespace fox {

/// A plan in a frame of the page, to scale.
struct PlanFrame {
    std::vector<paper::Item> items;
    double scale = 0;                        ///< 1:n
    Point2 corner;                           ///< easting and northing of the page's top left corner
    std::size_t overfull = 0;                ///< names that found no room beside their holes
    std::vector<std::string> withoutPattern; ///< units of a map that have none
};
/// What a plan shows in its frame: the ground's contours, background lines, outlines, section lines and faults, grid crosses with
/// their coordinates, holes with names where there is room; a map the units at the ground with their patterns; contours the base
/// of `unit` in bands with lines of equal level. In the middle of the frame is the middle of what there is. Scale 1:`scale`; 0:
/// the largest usual one that shows all. `marked`: a hole that is set off.
PlanFrame drawPlanFrame(const SheetTemplate&, const Box2& frame, const ProductSet&, std::optional<std::size_t> unit,
                        const std::string& marked = {});

} // namespace fox
