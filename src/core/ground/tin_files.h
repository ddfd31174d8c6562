#pragma once
#include "ground/tin.h"

#include <filesystem>

namespace fox {

/// Writes triangles by the file's ending: .xml (LandXML 1.2, northing before easting as that standard has
/// it), .obj, .ply, .dxf (one 3DFACE a triangle). Absolute coordinates to the millimetre.
/// @throws UsageError for another ending, FileError if it can't be written
void writeTin(const std::filesystem::path&, const Tin&, const std::string& name);
bool isTinEnding(const std::filesystem::path&);

/// Triangles as a file has them.
struct TriangleMesh {
    std::string name;
    std::vector<Point3> vertices;
    std::vector<std::array<int, 3>> triangles; ///< indices of vertices
};
/// LandXML (.xml: the first surface, northing before easting, invisible faces left out), .obj, .ply (text).
/// @throws FileError saying what is wrong and where
TriangleMesh readTin(const std::filesystem::path&);
/// Each edge once, by the indices of its ends.
std::vector<std::pair<int, int>> edgesOf(const TriangleMesh&);

} // namespace fox
