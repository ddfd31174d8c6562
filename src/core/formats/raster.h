#pragma once
#include "base/finding.h"
#include "base/grid.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace fox {

struct Raster {
    Grid grid;
    std::string crs; ///< "EPSG:25831", or empty
};

/// @throws FileError if GDAL can't read it, it is turned, or its cells are not square
Raster readRaster(const std::filesystem::path&);

/// Any grid that GDAL reads, brought to north-up square cells in `crs` ("EPSG:25831") where it is not: turned grids,
/// oblong cells, other systems, bilinearly. `cell` asks for another cell size (metres), then by cubic convolution. What
/// had to be assumed is a finding: a file without a system is taken to be in `crs`.
/// @throws FileError if it can't be read, has no place in the world, or would have more than limits::kGridCells
Raster readRasterIn(const std::filesystem::path&, const std::string& crs, std::optional<double> cell, Findings&);

/// A grid brought from one coordinate system to another, bilinearly; the cell size is what the change makes of it.
/// @throws Error if that can't be done
Grid movedGrid(const Grid&, const std::string& from, const std::string& to);

/// Float64, north up, no-value cells as the format has them: -9999 in .asc, none at all in .xyz. The ending chooses the format:
/// .tif, .asc (whose system goes into a file beside it, see projectionText), .xyz (which has no system), .gpkg (32-bit there,
/// the format has no other).
/// @throws UsageError for another ending, FileError if it can't be written
void writeRaster(const std::filesystem::path&, const Grid&, const std::string& crs);

/// Grids of one frame as bands of one GeoTIFF, each with its description. @throws FileError
void writeBands(const std::filesystem::path&, const std::vector<std::pair<std::string, Grid>>&, const std::string& crs);

struct NamedGrid {
    std::string name; ///< of its table
    Grid grid;
};
/// Adds grids to a GeoPackage, which is made if it is not there; 32-bit, as that format has them. @throws FileError
void addGrids(const std::filesystem::path& gpkg, const std::vector<NamedGrid>&, const std::string& crs);

/// What the .prj file beside a grid or shapefile says, as well-known text; empty if the system is not known.
std::string projectionText(const std::string& crs);

/// Whether writeRaster knows the ending.
bool isRasterEnding(const std::filesystem::path&);

} // namespace fox
