#include "project/layer_edits.h"

#include "project/spec_edits.h"

namespace fox {

namespace {

constexpr const char *kGrid = "layered grid", *kMesh = "mesh";

} // namespace

Edited addLayeredGrid(const Project& project, LayerSpec spec) {
    return spec_edits::add(project, &Project::layeredGrids, std::move(spec), kGrid, "Layers");
}
Edited removeLayeredGrid(const Project& project, const std::string& name) {
    return spec_edits::remove(project, &Project::layeredGrids, name, kGrid);
}
Edited renameLayeredGrid(const Project& project, const std::string& name, const std::string& wanted) {
    return spec_edits::rename(project, &Project::layeredGrids, name, wanted, kGrid);
}
Edited changeLayeredGrid(const Project& project, const std::string& name, const std::function<void(LayerSpec&)>& change,
                         const std::string& words) {
    return spec_edits::change(project, &Project::layeredGrids, name, change, words, kGrid);
}

Edited addMesh(const Project& project, MeshSpec spec) {
    return spec_edits::add(project, &Project::meshes, std::move(spec), kMesh, "Mesh");
}
Edited removeMesh(const Project& project, const std::string& name) {
    return spec_edits::remove(project, &Project::meshes, name, kMesh);
}
Edited changeMesh(const Project& project, const std::string& name, const std::function<void(MeshSpec&)>& change,
                  const std::string& words) {
    return spec_edits::change(project, &Project::meshes, name, change, words, kMesh);
}

} // namespace fox
