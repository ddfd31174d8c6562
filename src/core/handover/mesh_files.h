#pragma once
#include "base/files.h"
#include "base/progress.h"
#include "handover/layer_files.h"
#include "layers/layered_mesh.h"

namespace fox {

/// Files of a layered mesh, waiting for their places: nodes.csv, elements.csv, faces.csv, mesh.vtu, mesh.nc (UGRID 1.0) and
/// mesh.json, the record. Coordinates are less the origin of the specification. docs/formats.md has them.
/// @throws FileError
ReplaceFiles prepareMeshFiles(const LayeredMesh&, const std::optional<Point2>& origin, const LayerFileWords&,
                              const std::filesystem::path& folder, const Progress& = {});

/// Counts of a mesh under the keys of the headless tool: nodes, elements, triangles, smallest_angle, median_angle, layers, faces,
/// volume, checks.
std::string meshSummary(const LayeredMesh&);

} // namespace fox
