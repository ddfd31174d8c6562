#pragma once
#include "formats/gltf.h"
#include "model/reduced_model.h"
#include "products/products.h"

namespace fox {

/// Where the local coordinates of files begin whose numbers are too short for those of the project: a round place near the
/// middle of the extent, metres; levels are not moved.
Point2 localOrigin(const ProductSet&);

/// A fault as an upright sheet from the ground to the lowest base; nothing where there is no ground.
TriangleMesh faultSheet(const ProductSet&, const Fault&);

/// The model as a scene: "Units" with a closed body a unit, named by its code; "Ground", with the pictures that are draped on
/// it; "Holes" with a tube an interval; "Faults" as upright sheets; "Water surfaces". x east, y up, z south, in metres from
/// localOrigin(), which stands with the system in the scene's extras: {"crs", "origin": [E, N, level]}. A unit's extras are its
/// name, colour and volume, a hole's its level and depth.
/// `set` has Grids, Pictures and WaterSurfaces. With `reduced` bodies and ground are those. @throws Error without a model
GltfScene sceneOf(const ProductSet& set, const ReducedModel* reduced = nullptr);

} // namespace fox
