#pragma once
#include "layers/layered_mesh.h"
#include "products/making.h"

namespace fox {

/// A layered mesh of the project, or why there is none.
struct MeshProduct {
    MeshSpec spec;
    std::shared_ptr<const LayeredMesh> mesh; ///< null if it can't be made
    std::string problem;                     ///< a sentence; empty if it could
    Findings findings;                       ///< of what it is made from
};
/// From the project's model, its named and water surfaces, and the files that the specification names.
std::shared_ptr<const MeshProduct> meshProduct(const Making&, const MeshSpec&);

} // namespace fox
