#pragma once
#include "project/edits.h"

namespace fox {

/// Under a name that no other layered grid has: "Layers 2" if it is taken.
Edited addLayeredGrid(const Project&, LayerSpec);
/// @throws Error if there is none of that name
Edited removeLayeredGrid(const Project&, const std::string& name);
/// @throws Error without a name, or for one that is taken
Edited renameLayeredGrid(const Project&, const std::string& name, const std::string& wanted);
/// `words` say what: "thin cells". @throws Error if there is none of that name, and what `change` throws
Edited changeLayeredGrid(const Project&, const std::string& name, const std::function<void(LayerSpec&)>& change,
                         const std::string& words);

/// The same for meshes.
Edited addMesh(const Project&, MeshSpec);
Edited removeMesh(const Project&, const std::string& name);
Edited changeMesh(const Project&, const std::string& name, const std::function<void(MeshSpec&)>& change,
                  const std::string& words);

} // namespace fox
