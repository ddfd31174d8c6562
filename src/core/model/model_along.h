#pragma once
#include "model/model.h"

namespace fox {

/// A part of what the model has along a hole, by depth along it.
struct ModelInterval {
    double top, base; ///< metres
    std::size_t unit;
};
/// What the model has along a hole's path, down to a depth; nothing where it is not known. Vertical holes exactly, others in
/// steps of 0.25 m.
std::vector<ModelInterval> modelAlong(const Model&, const HolePath&, double depth);

} // namespace fox
