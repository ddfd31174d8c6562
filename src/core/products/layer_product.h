#pragma once
#include "layers/layered_grid.h"
#include "products/making.h"

namespace fox {

/// A layered grid of the project, or why there is none.
struct LayerProduct {
    LayerSpec spec;
    std::shared_ptr<const LayeredGrid> grid; ///< null if it can't be made
    std::string problem;                     ///< a sentence; empty if it could
    Findings findings;                       ///< of what it is made from
};
/// From the project's model, its named and water surfaces, and the files that the specification names.
std::shared_ptr<const LayerProduct> layerProduct(const Making&, const LayerSpec&);

/// What a source of levels or values is read from. @throws Error for what is not there
Field fieldOf(const Making&, const FieldSource&, Findings&);
/// The part of the plan that a specification asks for. @throws FileError
Area areaOf(const std::string& file, const Polygon2& ring);
/// The files that sources of levels and values are read from.
std::vector<std::string> sourceFiles(const FieldSource& top, const std::vector<LayerRule>&,
                                     const std::map<std::string, FieldSource>&);
/// When the files of a specification were last changed, so that a product made from them is made again.
std::vector<std::string> stampsOf(const std::vector<std::string>& files);

} // namespace fox
