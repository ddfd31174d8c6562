#pragma once
#include "project/products.h"

namespace fox {

/// What can be handed on, and as which kinds of file.
struct ExportKind {
    const char* what;            ///< "ground", "contours", "bases", "tops", "thickness", "holes"
    const char* words;           ///< "Bases of units"
    std::vector<std::string> as; ///< "tif", "asc", "xyz", "gpkg"; ground also "landxml", "dxf", "obj", "ply"; contours "gpkg",
                                 ///< "dxf"; holes "ags", "gpkg"
};
const std::vector<ExportKind>& exportKinds();

/// Writes one file an object into `folder` (made if it is not there): ground.tif, base_MG.tif, top_MG.tif,
/// thickness_MG.tif, holes.gpkg. Holes as AGS: agsFilesOf(). All of them or none. Returns their paths.
/// @throws Error if the pair is not in exportKinds() or there is nothing to write, FileError
std::vector<std::filesystem::path> exportFiles(const ProductSet&, const std::string& what, const std::string& as,
                                               const std::filesystem::path& folder);

} // namespace fox
