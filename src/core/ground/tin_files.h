#pragma once
#include "formats/triangle_mesh.h"
#include "ground/tin.h"

namespace fox {

/// The triangles that are present.
TriangleMesh meshOf(const Tin&, const std::string& name);
/// As writeTriangleMesh(). @throws UsageError, FileError
void writeTin(const std::filesystem::path&, const Tin&, const std::string& name);

} // namespace fox
