#include "formats/cell_file.h"

#include "base/files.h"

#include <algorithm>
#include <fmt/format.h>
#include <pugixml.hpp>
#include <sstream>

namespace fox {

namespace {

void addArray(pugi::xml_node parent, const char* type, const std::string& name, int components, const std::string& text) {
    auto array = parent.append_child("DataArray");
    array.append_attribute("type") = type;
    array.append_attribute("Name") = name.c_str();
    if (components > 1) array.append_attribute("NumberOfComponents") = components;
    array.append_attribute("format") = "ascii";
    array.text() = text.c_str();
}

} // namespace

void writeCellFile(const std::filesystem::path& path, const std::vector<Point3>& nodes,
                   const std::vector<std::array<std::size_t, 8>>& cells, const std::vector<int>& unit,
                   const std::vector<std::string>& names,
                   const std::vector<std::pair<std::string, std::vector<double>>>& values) {
    pugi::xml_document document;
    std::string legend = " Units:";
    for (std::size_t i = 0; i < names.size(); ++i) legend += fmt::format(" {} = {};", i, names[i]);
    std::ranges::replace(legend, '-', '_'); // two dashes end a comment
    document.append_child(pugi::node_comment).set_value((legend + " ").c_str());
    auto root = document.append_child("VTKFile");
    root.append_attribute("type") = "UnstructuredGrid";
    root.append_attribute("version") = "0.1";
    root.append_attribute("byte_order") = "LittleEndian";
    auto piece = root.append_child("UnstructuredGrid").append_child("Piece");
    piece.append_attribute("NumberOfPoints") = static_cast<unsigned long long>(nodes.size());
    piece.append_attribute("NumberOfCells") = static_cast<unsigned long long>(cells.size());
    std::string text;
    const auto out = std::back_inserter(text);
    for (const auto& p : nodes) fmt::format_to(out, "{:.4f} {:.4f} {:.4f}\n", p.x, p.y, p.z);
    addArray(piece.append_child("Points"), "Float64", "Points", 3, text);
    auto topology = piece.append_child("Cells");
    text.clear();
    for (const auto& c : cells) fmt::format_to(out, "{}\n", fmt::join(c, " "));
    addArray(topology, "Int64", "connectivity", 1, text);
    text.clear();
    for (std::size_t i = 0; i < cells.size(); ++i) fmt::format_to(out, "{}\n", 8 * (i + 1));
    addArray(topology, "Int64", "offsets", 1, text);
    text.clear();
    for (std::size_t i = 0; i < cells.size(); ++i) fmt::format_to(out, "12\n"); // a hexahedron
    addArray(topology, "UInt8", "types", 1, text);
    auto data = piece.append_child("CellData");
    data.append_attribute("Scalars") = "unit";
    text.clear();
    for (const int u : unit) fmt::format_to(out, "{}\n", u);
    addArray(data, "Int32", "unit", 1, text);
    for (const auto& [name, numbers] : values) {
        text.clear();
        for (const double v : numbers) fmt::format_to(out, "{:.4g}\n", v);
        addArray(data, "Float64", name, 1, text);
    }
    std::ostringstream bytes;
    document.save(bytes, " ");
    writeBytes(path, bytes.str());
}

} // namespace fox
