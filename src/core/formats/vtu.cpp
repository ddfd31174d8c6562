#include "formats/vtu.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/limits.h"
#include "formats/web_text.h"

#include <charconv>
#include <cpl_string.h>
#include <cstring>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <fstream>
#include <pugixml.hpp>
#include <sstream>
#include <zlib.h>

namespace fox {

namespace {

// --- writing

/// Arrays behind the XML, each with its length in bytes in front.
class AppendedArrays {
public:
    template <typename T>
    std::string declare(const char* type, const std::string& name, int components, const std::vector<T>& values) {
        std::string out =
            fmt::format("<DataArray type=\"{}\" Name=\"{}\"{} format=\"appended\" offset=\"{}\"/>\n", type, xmlText(name),
                        components > 1 ? fmt::format(" NumberOfComponents=\"{}\"", components) : "", m_offset);
        const auto bytes = values.size() * sizeof(T);
        m_parts.emplace_back(reinterpret_cast<const char*>(values.data()), bytes);
        m_offset += sizeof(std::uint64_t) + bytes;
        return out;
    }
    void write(std::ostream& out) const {
        for (const auto& [data, bytes] : m_parts) {
            const auto length = std::uint64_t(bytes);
            out.write(reinterpret_cast<const char*>(&length), sizeof length);
            out.write(data, std::streamsize(bytes));
        }
    }

private:
    std::vector<std::pair<const char*, std::size_t>> m_parts;
    std::uint64_t m_offset = 0;
};

} // namespace

void writeVtu(const std::filesystem::path& path, const UnstructuredCells& cells) {
    static_assert(sizeof(Point3) == 3 * sizeof(double));
    AppendedArrays arrays;
    auto remark = cells.remark;
    std::ranges::replace(remark, '-', '_'); // two dashes end a comment
    std::string xml = "<?xml version=\"1.0\"?>\n";
    if (!remark.empty()) xml += fmt::format("<!-- {} -->\n", remark);
    xml += "<VTKFile type=\"UnstructuredGrid\" version=\"1.0\" byte_order=\"LittleEndian\" header_type=\"UInt64\">\n"
           "<UnstructuredGrid>\n";
    xml += fmt::format("<Piece NumberOfPoints=\"{}\" NumberOfCells=\"{}\">\n", cells.nodes.size(), cells.types.size());
    xml += "<Points>\n" + arrays.declare("Float64", "Points", 3, cells.nodes) + "</Points>\n<Cells>\n";
    xml += arrays.declare("Int64", "connectivity", 1, cells.connectivity);
    xml += arrays.declare("Int64", "offsets", 1, cells.offsets);
    xml += arrays.declare("UInt8", "types", 1, cells.types) + "</Cells>\n<CellData>\n";
    for (const auto& d : cells.data)
        xml += std::holds_alternative<std::vector<double>>(d.values)
                   ? arrays.declare("Float64", d.name, 1, std::get<std::vector<double>>(d.values))
                   : arrays.declare("Int32", d.name, 1, std::get<std::vector<std::int32_t>>(d.values));
    xml += "</CellData>\n</Piece>\n</UnstructuredGrid>\n<AppendedData encoding=\"raw\">\n_";
    std::ofstream out(path, std::ios::binary);
    out << xml;
    arrays.write(out);
    out << "\n</AppendedData>\n</VTKFile>\n";
    if (!out.flush()) throw FileError(fmt::format("{} can't be written.", path.string()));
}

namespace {

// --- reading

std::string decoded(std::string text) {
    const int length = CPLBase64DecodeInPlace(reinterpret_cast<GByte*>(text.data()));
    text.resize(std::size_t(std::max(length, 0)));
    return text;
}

/// How many signs of base 64 stand for so many bytes.
std::size_t encodedLength(std::size_t bytes) { return (bytes + 2) / 3 * 4; }

/// The arrays of one file, whatever form they are in.
class ArrayReader {
public:
    ArrayReader(const std::string& bytes, const std::string& name) : m_name(name) {
        auto head = bytes;
        if (const auto at = bytes.find("<AppendedData"); at != bytes.npos) {
            const auto mark = bytes.find('_', bytes.find('>', at)), end = bytes.rfind("</AppendedData");
            if (mark == bytes.npos || end == bytes.npos || end < mark) fail("its appended data have no beginning or no end");
            m_appended = std::string_view(bytes).substr(mark + 1, end - mark - 1);
            m_encoded = bytes.substr(at, mark - at).find("base64") != std::string::npos;
            const auto close = bytes.find('>', end);
            if (close == bytes.npos) fail("its appended data have no beginning or no end");
            m_appendedElement = std::string_view(bytes).substr(at, close + 1 - at);
            head = fmt::format("{}{}{}", bytes.substr(0, at), kPlaceOfAppended, bytes.substr(close + 1));
        }
        if (!m_document.load_buffer(head.data(), head.size(), pugi::parse_default | pugi::parse_comments)) fail("it is not XML");
        const auto root = m_document.child("VTKFile");
        if (std::string_view(root.attribute("type").as_string()) != "UnstructuredGrid")
            fail("it is not an unstructured grid of VTK");
        if (std::string_view(root.attribute("byte_order").as_string("LittleEndian")) != "LittleEndian")
            fail("its bytes are in big-endian order");
        m_headerBytes = std::string_view(root.attribute("header_type").as_string("UInt32")) == "UInt64" ? 8 : 4;
        const std::string_view compressor = root.attribute("compressor").as_string();
        if (!compressor.empty() && compressor != "vtkZLibDataCompressor")
            fail(fmt::format("it is compressed by {}; zlib alone can be read", compressor));
        m_compressed = !compressor.empty();
    }

    pugi::xml_node piece() const {
        const auto grid = m_document.child("VTKFile").child("UnstructuredGrid");
        if (!grid.child("Piece") || grid.child("Piece").next_sibling("Piece")) fail("it does not have just one piece");
        return grid.child("Piece");
    }

    /// The file with these arrays of its cells, in place of those of the same names.
    std::string with(const std::vector<CellNumbers>& numbers) const {
        pugi::xml_document out;
        out.reset(m_document);
        auto piece = out.child("VTKFile").child("UnstructuredGrid").child("Piece");
        auto data = piece.child("CellData") ? piece.child("CellData") : piece.append_child("CellData");
        for (const auto& n : numbers) {
            while (data.remove_child(data.find_child_by_attribute("DataArray", "Name", n.name.c_str()))) {
            }
            auto array = data.append_child("DataArray");
            array.append_attribute("type") = n.values.index() == 1 ? "Int32" : "Float64";
            array.append_attribute("Name") = n.name.c_str();
            array.append_attribute("format") = "ascii";
            array.text() = std::visit([](const auto& v) { return fmt::format("\n{}\n", fmt::join(v, "\n")); }, n.values).c_str();
        }
        std::ostringstream text;
        out.save(text, "", pugi::format_raw);
        auto bytes = text.str();
        const auto at = m_appendedElement.empty() ? bytes.npos : bytes.find(kPlaceOfAppended);
        return at == bytes.npos ? bytes : bytes.replace(at, kPlaceOfAppended.size(), m_appendedElement);
    }

    std::vector<double> read(pugi::xml_node array) const {
        if (!array) fail("an array is missing");
        const std::string_view format = array.attribute("format").as_string("ascii");
        if (format == "ascii") return textNumbers(array.text().as_string());
        const std::string_view type = array.attribute("type").as_string();
        if (format == "appended") {
            const auto offset = std::size_t(array.attribute("offset").as_ullong());
            if (offset > m_appended.size()) fail("an array begins behind the end");
            return numbers(block(m_appended.substr(offset), m_encoded), type);
        }
        std::string text = array.text().as_string();
        std::erase_if(text, [](unsigned char c) { return std::isspace(c); });
        return numbers(block(text, true), type);
    }

    [[noreturn]] void fail(const std::string& why) const { throw FileError(fmt::format("{} can't be read: {}.", m_name, why)); }

private:
    static std::vector<double> textNumbers(const char* text) {
        std::vector<double> out;
        const char* end = text + std::strlen(text);
        for (;;) {
            while (text != end && std::isspace(static_cast<unsigned char>(*text))) ++text;
            double v = 0;
            const auto read = std::from_chars(text, end, v);
            if (read.ptr == text) return out;
            out.push_back(v);
            text = read.ptr;
        }
    }

    std::uint64_t header(std::string_view bytes, std::size_t i) const {
        std::uint64_t v = 0;
        if ((i + 1) * m_headerBytes > bytes.size()) fail("an array ends too early");
        std::memcpy(&v, bytes.data() + i * m_headerBytes, m_headerBytes);
        return v;
    }

    /// The bytes of an array that begins here.
    std::string block(std::string_view from, bool encoded) const {
        if (m_compressed) return inflated(from, encoded);
        if (!encoded) {
            const auto length = header(from, 0);
            if (length > from.size() - m_headerBytes) fail("an array ends too early");
            return std::string(from.substr(m_headerBytes, length));
        }
        const auto head = decoded(std::string(from.substr(0, encodedLength(m_headerBytes))));
        const auto all = decoded(
            std::string(from.substr(0, encodedLength(m_headerBytes + std::min<std::uint64_t>(header(head, 0), from.size())))));
        if (all.size() < m_headerBytes + header(head, 0)) fail("an array ends too early");
        return all.substr(m_headerBytes, header(head, 0));
    }

    std::string inflated(std::string_view from, bool encoded) const {
        const auto take = [&](std::size_t bytes) { // from the front, decoded
            const auto length = encoded ? encodedLength(bytes) : bytes;
            if (length > from.size()) fail("an array ends too early");
            std::string out(from.substr(0, length));
            return encoded ? decoded(out) : out;
        };
        const auto count = std::size_t(header(take(m_headerBytes), 0));
        if (count > from.size()) fail("an array has too many parts");
        const auto head = take((3 + count) * m_headerBytes);
        const auto size = header(head, 1), last = header(head, 2);
        from.remove_prefix(encoded ? encodedLength((3 + count) * m_headerBytes) : (3 + count) * m_headerBytes);
        std::size_t compressed = 0;
        for (std::size_t i = 0; i < count; ++i) compressed += std::min<std::size_t>(header(head, 3 + i), from.size());
        const auto data = take(compressed);
        std::string out;
        std::size_t at = 0;
        for (std::size_t i = 0; i < count; ++i) {
            auto length = uLongf(i + 1 == count && last > 0 ? last : size);
            const auto packed = std::size_t(header(head, 3 + i));
            constexpr std::uint64_t kMostPacked = 1100; // zlib packs no more than about a thousand times
            if (length > limits::kFileBytes || at + packed > data.size() || length > (packed + 1) * kMostPacked)
                fail("an array's parts do not fit");
            std::string part(length, '\0');
            if (uncompress(reinterpret_cast<Bytef*>(part.data()), &length, reinterpret_cast<const Bytef*>(data.data() + at),
                           uLong(packed))
                != Z_OK)
                fail("an array can't be unpacked");
            out.append(part, 0, length);
            at += packed;
        }
        return out;
    }

    template <typename T>
    static std::vector<double> as(const std::string& bytes) {
        std::vector<T> values(bytes.size() / sizeof(T));
        if (!values.empty()) std::memcpy(values.data(), bytes.data(), values.size() * sizeof(T));
        return {values.begin(), values.end()};
    }
    std::vector<double> numbers(const std::string& bytes, std::string_view type) const {
        if (type == "Float64") return as<double>(bytes);
        if (type == "Float32") return as<float>(bytes);
        if (type == "Int64") return as<std::int64_t>(bytes);
        if (type == "UInt64") return as<std::uint64_t>(bytes);
        if (type == "Int32") return as<std::int32_t>(bytes);
        if (type == "UInt32") return as<std::uint32_t>(bytes);
        if (type == "Int16") return as<std::int16_t>(bytes);
        if (type == "UInt8") return as<std::uint8_t>(bytes);
        fail(fmt::format("it has numbers of the type \"{}\"", type));
    }

    static constexpr std::string_view kPlaceOfAppended = "<PlaceOfAppendedData/>"; // while the rest is parsed
    std::string m_name;
    pugi::xml_document m_document;
    std::string_view m_appended, m_appendedElement;
    bool m_encoded = false, m_compressed = false;
    std::size_t m_headerBytes = 4;
};

pugi::xml_node arrayNamed(pugi::xml_node parent, const char* name) {
    return parent.find_child_by_attribute("DataArray", "Name", name);
}

} // namespace

VtuFile::VtuFile(std::string bytes, std::string name) : m_bytes(std::move(bytes)), m_name(std::move(name)) {
    const ArrayReader reader(m_bytes, m_name);
    const auto piece = reader.piece();
    const auto points = reader.read(piece.child("Points").child("DataArray"));
    const auto connectivity = reader.read(arrayNamed(piece.child("Cells"), "connectivity"));
    const auto offsets = reader.read(arrayNamed(piece.child("Cells"), "offsets"));
    std::size_t begin = 0;
    for (const double o : offsets) {
        if (!(o > double(begin)) || o > double(connectivity.size())) reader.fail("its cells have no nodes or too many");
        Point3 sum;
        const auto end = std::size_t(o);
        for (auto i = begin; i < end; ++i) {
            const double node = connectivity[i];
            if (!(node >= 0) || !(3 * node + 2 < double(points.size()))) reader.fail("a cell has a node that is not there");
            const auto at = 3 * std::size_t(node);
            sum.x += points[at], sum.y += points[at + 1], sum.z += points[at + 2];
        }
        const double n = double(end - begin);
        m_middles.push_back({sum.x / n, sum.y / n, sum.z / n});
        begin = end;
    }
}

std::string VtuFile::with(const std::vector<CellNumbers>& numbers) const { return ArrayReader(m_bytes, m_name).with(numbers); }

} // namespace fox
