#pragma once
#include "base/point.h"

#include <cstdint>
#include <filesystem>
#include <string>
#include <variant>
#include <vector>

namespace fox {

/// Numbers of each cell of an unstructured grid.
struct CellNumbers {
    std::string name;
    std::variant<std::vector<double>, std::vector<std::int32_t>> values;
};

/// Cells for a VTK XML unstructured grid: hexahedra (12), wedges (13) and so on, by their numbers in that format.
struct UnstructuredCells {
    std::vector<Point3> nodes;
    std::vector<std::int64_t> connectivity; ///< nodes of all cells, one after another
    std::vector<std::int64_t> offsets;      ///< where each cell's nodes end
    std::vector<std::uint8_t> types;
    std::vector<CellNumbers> data;
    std::string remark = {}; ///< a comment at the head of the file
};
/// Writes .vtu with its numbers as they are in memory (appended, raw, little-endian). @throws FileError
void writeVtu(const std::filesystem::path&, const UnstructuredCells&);

/// A file of cells that somebody else made. Numbers as text, base 64 or raw, also compressed by zlib, little-endian; one piece.
class VtuFile {
public:
    /// @throws FileError naming the file and what of it can't be read
    VtuFile(std::string bytes, std::string name);
    std::size_t cells() const { return m_middles.size(); }
    /// Of each cell, the mean of its nodes.
    const std::vector<Point3>& middles() const { return m_middles; }
    /// The same file with more numbers of each cell, in the place of those of the same name. The rest of it stays as it is.
    std::string with(const std::vector<CellNumbers>&) const;

private:
    std::string m_bytes, m_name;
    std::vector<Point3> m_middles;
};

} // namespace fox
