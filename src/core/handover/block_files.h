#pragma once
#include "base/files.h"
#include "blocks/block_model.h"

namespace fox {

/// Blocks as .vtu, .csv (both without those that have no value), .tif (a band a layer of blocks, the lowest first, values alone)
/// or .nc (all, NaN where there is none): easting, northing and level of the centre, unit, value, of kriging its variance, and
/// how many composites were used.
/// @throws UsageError for another ending, FileError
ReplaceFiles prepareBlockFile(const BlockModel&, const Sequence&, const std::string& crs, const std::filesystem::path&);

} // namespace fox
