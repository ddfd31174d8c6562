#pragma once
#include "ground/tin.h"

#include <filesystem>

namespace fox {

/// Writes triangles by the file's ending: .xml (LandXML 1.2, northing before easting as that standard has
/// it), .obj, .ply, .dxf (one 3DFACE a triangle). Absolute coordinates to the millimetre.
/// @throws UsageError for another ending, FileError if it can't be written
void writeTin(const std::filesystem::path&, const Tin&, const std::string& name);
bool isTinEnding(const std::filesystem::path&);

} // namespace fox
