#pragma once
#include "base/grid.h"

#include <filesystem>
#include <string>

namespace fox {

struct Raster {
    Grid grid;
    std::string crs; ///< "EPSG:25831", or empty
};

/// @throws FileError if GDAL can't read it, it is turned, or its cells are not square
Raster readRaster(const std::filesystem::path&);

/// Float64, north up, no-value cells as the format has them. The ending chooses the format: .tif, .asc,
/// .xyz, .gpkg (32-bit there, the format has no other).
/// @throws UsageError for another ending, FileError if it can't be written
void writeRaster(const std::filesystem::path&, const Grid&, const std::string& crs);

/// Whether writeRaster knows the ending.
bool isRasterEnding(const std::filesystem::path&);

} // namespace fox
