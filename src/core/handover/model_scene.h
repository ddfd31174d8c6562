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

/// How the bodies of units look.
enum class SceneLook {
    Colours, ///< of units
    Patterns ///< with the sign of a unit's ground over its colour, as on sections: a picture that is repeated over the body
};

/// The model as a scene: "Units" with a closed body a unit, named by its code; "Ground", with the pictures that are draped on
/// it; "Holes" with a tube an interval; "Faults" as upright sheets; "Water surfaces". x east, y up, z south, in metres from
/// localOrigin(), which stands with the system in the scene's extras: {"crs", "origin": [E, N, level]}. A unit's extras are its
/// name, colour and volume, a hole's its level and depth.
/// `set` has Grids, Pictures and WaterSurfaces. With `reduced` bodies and ground are those. @throws Error without a model
GltfScene sceneOf(const ProductSet& set, const ReducedModel* reduced = nullptr, SceneLook = SceneLook::Colours);

/// A mesh with texture coordinates (u to the right, v down) for a picture that is repeated every `tile` metres: on faces that lie
/// flatter than 45 degrees it runs east and south, on others along the face and down. Corners between the two are doubled.
/// Corners are in metres, x east, y north, z up; `texture` has a pair for each.
struct TiledMesh {
    TriangleMesh mesh;
    std::vector<std::array<float, 2>> texture;
};
TiledMesh tiled(const TriangleMesh&, double tile);

} // namespace fox
