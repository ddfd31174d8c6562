#pragma once
#include "base/point.h"

#include <array>
#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace fox {

/// An image: red, green, blue and opacity, a byte each, row by row from the top.
struct Picture {
    int width = 0, height = 0;
    std::vector<std::uint8_t> rgba;
    /// Its own georeference: easting and northing of the top left corner, and what a pixel to the right and a pixel down
    /// add, as GDAL has it (x0, xx, xy, y0, yx, yy).
    std::optional<std::array<double, 6>> georeference;
    std::string crs; ///< "EPSG:25831", or empty
    bool operator==(const Picture&) const = default;
};

/// PNG, JPEG, TIFF and what else GDAL reads, from its bytes; one band is grey. @throws FileError naming it
Picture readPicture(const std::string& bytes, const std::string& name);
/// GeoTIFF or PNG by ending. @throws UsageError for another ending, FileError
void writePicture(const std::filesystem::path&, const Picture&);
/// Whether a name ends as pictures do. A .tif may be a grid or a picture: see looksLikePicture.
bool isPictureName(const std::string& name);
/// A TIFF with bytes for values in three or four bands, or a palette, is a picture; others are grids.
bool looksLikePicture(const std::filesystem::path&);

/// The most pixels that are read: 200 million.
inline constexpr double kMostPixels = 2e8;

} // namespace fox
