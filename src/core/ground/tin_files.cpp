#include "ground/tin_files.h"

namespace fox {

TriangleMesh meshOf(const Tin& tin, const std::string& name) {
    TriangleMesh mesh{name, {tin.vertices().begin(), tin.vertices().end()}, {}};
    for (const auto& t : tin.triangles()) mesh.triangles.push_back({t.vertex[0], t.vertex[1], t.vertex[2]});
    return mesh;
}

void writeTin(const std::filesystem::path& path, const Tin& tin, const std::string& name, const std::string& crs) {
    auto mesh = meshOf(tin, name);
    mesh.crs = crs;
    writeTriangleMesh(path, mesh);
}

} // namespace fox
