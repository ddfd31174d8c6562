#pragma once
#include "base/files.h"
#include "formats/xyz.h"
#include "model/geological_map.h"
#include "products/products.h"

namespace fox {

/// What can be handed on, and as which kinds of file.
struct ExportKind {
    const char* what;            ///< "ground", "bases", "model"
    const char* words;           ///< "Bases of units"
    std::vector<std::string> as; ///< "tif", "landxml"
    Wanted needs;                ///< what it is made from
    /// The same, as one kind of file: a page needs more than the bodies.
    Wanted neededAs(const std::string& as) const;
};
const std::vector<ExportKind>& exportKinds();

struct ExportOptions {
    MapSurface map = {};             ///< of "map"
    double exaggeration = 5;         ///< of sections as pages
    std::optional<Frame> frame = {}; ///< extent and cells of grids and of what is made from them; none: the site's
    XyzStyle xyz = {};               ///< of grids as text
    bool patterns = false;           ///< of the model as glTF: the signs of units' ground, as pictures on the bodies
    std::string time = {};           ///< "2026-11-30T09:00:00", in files that say when they were made; empty: now
};

/// `set` has what the kind needs. Writes one file an object into `folder` (made if it is not there): ground.tif, base_MG.tif,
/// top_MG.xml, model_MG.obj, section_A.svg, holes.gpkg. A base whose recipe has a grid of its own is written on that; grids as
/// triangles join cell centres. What can't stand in a file's name becomes "_". Holes as AGS: agsFilesOf(). All of them or none.
/// They are made, and take their places when they are committed: until then what they would replace can be asked about.
/// @throws Error if the pair is not in exportKinds() or there is nothing to write, FileError
ReplaceFiles prepareExport(const ProductSet& set, const std::string& what, const std::string& as,
                           const std::filesystem::path& folder, const ExportOptions& = {});
/// The same, committed. Returns their paths.
std::vector<std::filesystem::path> exportFiles(const ProductSet& set, const std::string& what, const std::string& as,
                                               const std::filesystem::path& folder, const ExportOptions& = {});

} // namespace fox
