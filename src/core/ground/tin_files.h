#pragma once
#include "formats/triangle_mesh.h"
#include "ground/tin.h"

namespace fox {

/// The triangles that are present.
TriangleMesh meshOf(const Tin&, const std::string& name);
/// As writeTriangleMesh(), with the coordinate system where the format has room for it. @throws UsageError, FileError
void writeTin(const std::filesystem::path&, const Tin&, const std::string& name, const std::string& crs);

} // namespace fox
