#pragma once
#include "base/point.h"

#include <array>
#include <filesystem>
#include <string>
#include <vector>

namespace fox {

/// Triangles as a file has them.
struct TriangleMesh {
    std::string name;
    std::vector<Point3> vertices;
    std::vector<std::array<int, 3>> triangles; ///< indices of vertices
    std::string crs = {};                      ///< "EPSG:25831"; LandXML alone has room for it
};
/// LandXML (.xml: the first surface, northing before easting, invisible faces left out), .obj, .ply (text).
/// @throws FileError saying what is wrong and where
TriangleMesh readTriangleMesh(const std::filesystem::path&);
/// All surfaces of a file, each with its name; of .obj and .ply the one that there is.
std::vector<TriangleMesh> readSurfaces(const std::filesystem::path&);
std::vector<TriangleMesh> readSurfaces(const std::string& bytes, const std::string& name);
/// The first surface of a file's bytes, by its name's ending.
TriangleMesh readTriangleMesh(const std::string& bytes, const std::string& name);
enum class Coordinates { TenthOfMillimetre, Full };
/// Writes triangles by the file's ending: .xml (LandXML 1.2, northing before easting as that standard has it), .obj, .ply
/// (text), .dxf (one 3DFACE a triangle). Absolute coordinates; LandXML and DXF to the tenth of a millimetre always.
/// @throws UsageError for another ending, FileError if it can't be written
void writeTriangleMesh(const std::filesystem::path&, const TriangleMesh&, Coordinates = Coordinates::TenthOfMillimetre);
bool isTriangleEnding(const std::filesystem::path&);

/// Each edge once, by the indices of its ends.
std::vector<std::pair<int, int>> edgesOf(const TriangleMesh&);

} // namespace fox
