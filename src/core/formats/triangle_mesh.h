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
};
/// LandXML (.xml: the first surface, northing before easting, invisible faces left out), .obj, .ply (text).
/// @throws FileError saying what is wrong and where
TriangleMesh readTriangleMesh(const std::filesystem::path&);
/// The same of a file's bytes, by its name's ending.
TriangleMesh readTriangleMesh(const std::string& bytes, const std::string& name);
/// Each edge once, by the indices of its ends.
std::vector<std::pair<int, int>> edgesOf(const TriangleMesh&);

} // namespace fox
