#pragma once
#include "model/model.h"

namespace fox {

/// What lies at a place in space.
struct GroundAt {
    std::optional<std::size_t> unit; ///< none above the ground, and outside the extent
    double depth = kNoValue;         ///< metres below the ground, negative above it; kNoValue outside the extent
};
/// By the model's columns; places that share easting and northing share one. On all allowed threads.
std::vector<GroundAt> groundAt(const Model&, std::span<const Point3>, const Progress& = {});

/// How much of each unit of a column lies between two levels, metres; the oldest goes down without end.
std::vector<double> unitThicknesses(const ModelColumn&, std::size_t units, double top, double bottom);

} // namespace fox
