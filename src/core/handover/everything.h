#pragma once
#include "products/products.h"

#include <filesystem>

namespace fox {

/// One GeoPackage of everything that a project has: layers "holes", "intervals" (lines along the holes: hole, top, base, unit,
/// codes, description), "contacts", "values", those of the lines and areas, "geological_map", "contours", "contours_base_CODE",
/// sections where they lie ("section_A_surfaces"); grids "ground", "base_CODE", "thickness_CODE" and of water surfaces. What
/// there is not is left out. Grids are 32-bit as the format has them. `set` has Grids, Contours, Sections and WaterSurfaces.
/// @throws Error if there is nothing, FileError
void writeEverything(const std::filesystem::path& gpkg, const ProductSet& set);

} // namespace fox
