#include "formats/triangle_mesh.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"

#include <cmath>
#include <fmt/format.h>
#include <map>
#include <pugixml.hpp>

namespace fox {

namespace {

/// Numbers of one line or element; those that are none are a fault.
std::vector<double> numbersIn(std::string_view text, const std::string& where) {
    std::vector<double> out;
    while (!(text = trimmed(text)).empty()) {
        const auto end = text.find_first_of(" \t\r\n");
        const auto word = text.substr(0, end);
        const auto value = parseNumber(word);
        if (!value) throw FileError(fmt::format("{}: \"{}\" is not a number.", where, word));
        out.push_back(*value);
        text = end == text.npos ? std::string_view() : text.substr(end);
    }
    return out;
}

TriangleMesh surfaceOf(const pugi::xml_node& surface, double unit, const std::string& file);

std::vector<TriangleMesh> readLandXml(const std::string& bytes, const std::string& file) {
    pugi::xml_document document;
    // entities are not resolved by pugixml beyond the five of XML itself
    if (const auto result = document.load_buffer(bytes.data(), bytes.size()); !result)
        throw FileError(fmt::format("{} is not complete XML: {} at byte {}.", file, result.description(), result.offset));
    const auto root = document.child("LandXML");
    if (!root) throw FileError(fmt::format("{} is XML, but not LandXML.", file));
    const auto feet = root.child("Units").child("Imperial");
    const double unit = !feet                                                                          ? 1
                        : feet.attribute("linearUnit").as_string() == std::string_view("USSurveyFoot") ? 1200.0 / 3937
                                                                                                       : 0.3048;
    std::vector<TriangleMesh> out;
    for (const auto surface : root.child("Surfaces").children("Surface"))
        if (const auto definition = surface.child("Definition"); definition.child("Pnts") && definition.child("Faces"))
            out.push_back(surfaceOf(surface, unit, file));
    if (out.empty()) throw FileError(fmt::format("{} has no surface of triangles.", file));
    return out;
}

TriangleMesh surfaceOf(const pugi::xml_node& surface, double unit, const std::string& file) {
    const auto definition = surface.child("Definition");
    TriangleMesh mesh{surface.attribute("name").as_string("surface"), {}, {}};
    std::map<std::string, int> ids;
    for (const auto p : definition.child("Pnts").children("P")) {
        const auto id = std::string(p.attribute("id").as_string());
        const auto n = numbersIn(p.text().as_string(), fmt::format("{}, point {}", file, id));
        if (n.size() < 3) throw FileError(fmt::format("{}, point {}: a northing, an easting and a level are needed.", file, id));
        ids[id] = int(mesh.vertices.size());
        mesh.vertices.push_back({n[1] * unit, n[0] * unit, n[2] * unit});
    }
    for (const auto f : definition.child("Faces").children("F")) {
        if (f.attribute("i").as_int() == 1) continue; // said to be invisible
        std::array<int, 3> face{};
        std::size_t n = 0;
        for (const auto word : split(f.text().as_string(), ' ')) {
            if (word.empty()) continue;
            const auto known = ids.find(std::string(word));
            if (known == ids.end() || n == 3)
                throw FileError(fmt::format("{}: the face \"{}\" does not name three points.", file, f.text().as_string()));
            face[n++] = known->second;
        }
        if (n != 3) throw FileError(fmt::format("{}: the face \"{}\" does not name three points.", file, f.text().as_string()));
        mesh.triangles.push_back(face);
    }
    return mesh;
}

/// Calls use(words, line number) for each line that is not empty.
template <typename Use>
void eachLine(const std::string& bytes, Use&& use) {
    int number = 0;
    std::string_view rest = bytes;
    while (!rest.empty()) {
        ++number;
        const auto end = rest.find('\n');
        const auto line = trimmed(rest.substr(0, end));
        rest = end == rest.npos ? std::string_view() : rest.substr(end + 1);
        if (!line.empty() && !use(line, number)) return;
    }
}

int indexOf(double value, int vertices, const std::string& where) {
    if (value != std::floor(value) || value < 0 || value >= vertices)
        throw FileError(fmt::format("{}: there is no vertex {}.", where, value));
    return int(value);
}

TriangleMesh readObj(const std::string& bytes, const std::string& file) {
    TriangleMesh mesh{"surface", {}, {}};
    eachLine(bytes, [&](std::string_view line, int number) {
        const auto where = fmt::format("{}, line {}", file, number);
        if (line.starts_with("o ")) mesh.name = trimmed(line.substr(2));
        if (line.starts_with("v ")) {
            const auto n = numbersIn(line.substr(2), where);
            if (n.size() < 3) throw FileError(where + ": a vertex has three numbers.");
            mesh.vertices.push_back({n[0], n[1], n[2]});
        }
        if (line.starts_with("f ")) {
            std::vector<int> corners;
            for (auto word : split(line.substr(2), ' ')) {
                if (word.empty()) continue;
                word = word.substr(0, word.find('/'));
                const double v = parseNumber(word).value_or(0);
                corners.push_back(indexOf(v < 0 ? v + double(mesh.vertices.size()) : v - 1, int(mesh.vertices.size()), where));
            }
            for (std::size_t i = 2; i < corners.size(); ++i) mesh.triangles.push_back({corners[0], corners[i - 1], corners[i]});
        }
        return true;
    });
    return mesh;
}

TriangleMesh readPly(const std::string& bytes, const std::string& file) {
    TriangleMesh mesh{"surface", {}, {}};
    std::size_t vertices = 0, faces = 0;
    bool inBody = false, ascii = false;
    eachLine(bytes, [&](std::string_view line, int number) {
        const auto where = fmt::format("{}, line {}", file, number);
        const auto words = split(line, ' ');
        if (!inBody) {
            ascii |= line.starts_with("format ascii");
            if (words.size() == 3 && words[0] == "element") {
                const double count = parseNumber(words[2]).value_or(-1);
                constexpr double kMost = 1e9;
                if (!(count >= 0 && count <= kMost)) throw FileError(fmt::format("{}: \"{}\" is not a count.", where, words[2]));
                (words[1] == "vertex" ? vertices : faces) = std::size_t(count);
            }
            if (line == "end_header") {
                if (!ascii) throw FileError(file + " is a binary PLY; only text is read.");
                inBody = true;
            }
            return true;
        }
        const auto n = numbersIn(line, where);
        if (mesh.vertices.size() < vertices) {
            if (n.size() < 3) throw FileError(where + ": a vertex has three numbers.");
            mesh.vertices.push_back({n[0], n[1], n[2]});
        } else if (faces > 0) {
            --faces;
            if (n.empty() || n.size() < n[0] + 1 || n[0] < 3) throw FileError(where + ": a face names its corners.");
            const auto at = [&](std::size_t i) { return indexOf(n[i], int(vertices), where); };
            for (std::size_t i = 3; i <= std::size_t(n[0]); ++i) mesh.triangles.push_back({at(1), at(i - 1), at(i)});
        }
        return true;
    });
    return mesh;
}

} // namespace

std::vector<TriangleMesh> readSurfaces(const std::string& bytes, const std::string& name) {
    const auto file = lower(name);
    std::vector<TriangleMesh> out;
    if (file.ends_with(".obj"))
        out.push_back(readObj(bytes, name));
    else if (file.ends_with(".ply"))
        out.push_back(readPly(bytes, name));
    else
        out = readLandXml(bytes, name);
    std::erase_if(out, [](const TriangleMesh& mesh) { return mesh.triangles.empty(); });
    if (out.empty()) throw FileError(fmt::format("{} has no triangles.", name));
    return out;
}

std::vector<TriangleMesh> readSurfaces(const std::filesystem::path& path) {
    return readSurfaces(readBytes(path), path.filename().string());
}

TriangleMesh readTriangleMesh(const std::string& bytes, const std::string& name) {
    return std::move(readSurfaces(bytes, name).front());
}

TriangleMesh readTriangleMesh(const std::filesystem::path& path) {
    return readTriangleMesh(readBytes(path), path.filename().string());
}

std::vector<std::pair<int, int>> edgesOf(const TriangleMesh& mesh) {
    std::vector<std::pair<int, int>> edges;
    for (const auto& t : mesh.triangles)
        for (std::size_t i = 0; i < 3; ++i) edges.emplace_back(std::minmax(t[i], t[(i + 1) % 3]));
    std::ranges::sort(edges);
    edges.erase(std::unique(edges.begin(), edges.end()), edges.end());
    return edges;
}

} // namespace fox
