#pragma once
#include "base/point.h"

#include <array>
#include <filesystem>
#include <string>
#include <utility>
#include <vector>

namespace fox {

/// Writes six-sided cells (lower four corners counter-clockwise, then the upper four) as a VTK XML unstructured grid (.vtu, as
/// text): `unit` is an integer of each cell, `names` say in words which is which, `values` are further numbers of each cell.
/// @throws FileError if it can't be written
void writeCellFile(const std::filesystem::path&, const std::vector<Point3>& nodes,
                   const std::vector<std::array<std::size_t, 8>>& cells, const std::vector<int>& unit,
                   const std::vector<std::string>& names, const std::vector<std::pair<std::string, std::vector<double>>>& values);

} // namespace fox
