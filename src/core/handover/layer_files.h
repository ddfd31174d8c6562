#pragma once
#include "base/files.h"
#include "base/progress.h"
#include "layers/layered_grid.h"

namespace fox {

/// What goes beside a layered grid into its folder.
struct LayerFileWords {
    std::string project, crs;       ///< "EPSG:25831", or empty
    std::vector<std::string> units; ///< codes, as LayeredGrid::unit counts them
    std::string specification;      ///< JSON, as it was asked for
    std::string date;               ///< "2026-11-30"
    Findings findings = {};         ///< of what it was made from
};

/// Files of a layered grid, waiting for their places: per layer k from 1 top_k.txt, bottom_k.txt, state_k.txt and one a value
/// (rows of the grid as lines, north first, `nan` where there is none), the same as .tif where the grid is not turned and evenly
/// spaced; grid.nc (CF), grid.vtu, cells.csv, and layers.json, the record of what was made from what. docs/formats.md has them.
/// @throws FileError
ReplaceFiles prepareLayerFiles(const LayeredGrid&, const LayerFileWords&, const std::filesystem::path& folder,
                               const Progress& = {});
/// Commits them; then files that the folder's record lists from an earlier run, and this one does not have, are removed. Returns
/// what was written.
std::vector<std::filesystem::path> commitLayerFiles(ReplaceFiles&, const std::filesystem::path& folder);
/// Prepares and commits.
std::vector<std::filesystem::path> writeLayerFiles(const LayeredGrid&, const LayerFileWords&, const std::filesystem::path& folder,
                                                   const Progress& = {});

/// Counts of a grid under the keys of the headless tool: layers, rows, columns, cells, active, volume, checks.
std::string layerSummary(const LayeredGrid&);

/// A folder read back.
struct CheckedLayers {
    LayeredGrid grid;
    std::vector<std::string> faults; ///< sentences: files that are missing or disagree, cells that can't be
};
/// Reads what prepareLayerFiles wrote, compares its forms with one another and looks at every cell.
/// @throws FileError if there is no record or it can't be read
CheckedLayers checkLayerFiles(const std::filesystem::path& folder);

} // namespace fox
