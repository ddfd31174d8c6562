#pragma once
#include "blocks/block_spec.h"
#include "blocks/value_points.h"
#include "model/model.h"

namespace fox {

/// A value in space that blocks are made from: a reading, or the mean of several over a length.
struct Composite {
    Point3 place;
    double value = 0;
    std::optional<std::size_t> unit; ///< by the hole's log, else by the model; none: in none
    std::string hole;                ///< display name; empty for a point that is in no hole
};

/// What composites were made from, and what was left out.
struct Composites {
    std::vector<Composite> values;
    std::string unitOfMeasure;
    std::size_t capped = 0;   ///< values taken as the cap
    std::size_t limits = 0;   ///< results that are more or less than their number, taken as the number
    std::size_t unplaced = 0; ///< values of holes without a place or level
    Findings findings;
};

/// Means over `composite` metres from the top of each hole; within, of each unit's stretch in it. A reading stands for the depths
/// nearest to it; a stretch without a reading gives none. Values that coincide are one, their mean. Only units of
/// `only` stay.
/// @throws Error if nothing has the quantity, with those that there are; FileError for a file of points
Composites compositesOf(const BlockSpec&, const Holes&, const InterpretedLogs&, const Model&, std::span<const ValueSource> = {});

/// The mean over [from, to] of readings by depth, each standing for the depths nearest to it; kNoValue without any.
double nearestMean(std::span<const std::pair<double, double>> readings, double from, double to);

} // namespace fox
