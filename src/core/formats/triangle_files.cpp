#include "formats/triangle_mesh.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"

#include <fmt/format.h>
#include <pugixml.hpp>
#include <sstream>

namespace fox {

namespace {

/// To the tenth of a millimetre; a solid, whose volume is to be that of the model, in full.
std::string inWords(const Point3& p, Coordinates as) {
    return as == Coordinates::Full ? fmt::format("{} {} {}", p.x, p.y, p.z) : fmt::format("{:.4f} {:.4f} {:.4f}", p.x, p.y, p.z);
}

std::string landXml(const TriangleMesh& mesh, Coordinates) {
    pugi::xml_document document;
    auto declaration = document.append_child(pugi::node_declaration);
    declaration.append_attribute("version") = "1.0";
    declaration.append_attribute("encoding") = "UTF-8";
    auto root = document.append_child("LandXML");
    root.append_attribute("xmlns") = "http://www.landxml.org/schema/LandXML-1.2";
    root.append_attribute("version") = "1.2";
    root.append_attribute("date") = "2000-01-01"; // required by the schema; a surface has no date of its own
    root.append_attribute("time") = "00:00:00";
    auto metric = root.append_child("Units").append_child("Metric");
    for (const auto& [key, unit] : {std::pair{"areaUnit", "squareMeter"},
                                    {"linearUnit", "meter"},
                                    {"volumeUnit", "cubicMeter"},
                                    {"temperatureUnit", "celsius"},
                                    {"pressureUnit", "milliBars"}})
        metric.append_attribute(key) = unit;
    if (const std::string authority = "EPSG:"; mesh.crs.starts_with(authority)) {
        auto system = root.append_child("CoordinateSystem");
        system.append_attribute("name") = mesh.crs.c_str();
        system.append_attribute("epsgCode") = mesh.crs.substr(authority.size()).c_str();
    }
    auto surface = root.append_child("Surfaces").append_child("Surface");
    surface.append_attribute("name") = mesh.name.c_str();
    auto definition = surface.append_child("Definition");
    definition.append_attribute("surfType") = "TIN";
    auto points = definition.append_child("Pnts");
    int id = 0;
    for (const auto& v : mesh.vertices) {
        auto p = points.append_child("P");
        p.append_attribute("id") = ++id;
        p.text() = fmt::format("{:.4f} {:.4f} {:.4f}", v.y, v.x, v.z).c_str();
    }
    auto faces = definition.append_child("Faces");
    for (const auto& t : mesh.triangles)
        faces.append_child("F").text() = fmt::format("{} {} {}", t[0] + 1, t[1] + 1, t[2] + 1).c_str();
    std::ostringstream out;
    document.save(out, " ");
    return out.str();
}

std::string obj(const TriangleMesh& mesh, Coordinates as) {
    std::string out = fmt::format("o {}\n", mesh.name);
    for (const auto& v : mesh.vertices) out += "v " + inWords(v, as) + "\n";
    for (const auto& t : mesh.triangles) fmt::format_to(std::back_inserter(out), "f {} {} {}\n", t[0] + 1, t[1] + 1, t[2] + 1);
    return out;
}

std::string ply(const TriangleMesh& mesh, Coordinates as) {
    std::string out = fmt::format("ply\nformat ascii 1.0\ncomment {}\nelement vertex {}\nproperty double x\nproperty double "
                                  "y\nproperty double z\nelement face {}\nproperty list uchar int vertex_indices\nend_header\n",
                                  mesh.name, mesh.vertices.size(), mesh.triangles.size());
    for (const auto& v : mesh.vertices) out += inWords(v, as) + "\n";
    for (const auto& t : mesh.triangles) fmt::format_to(std::back_inserter(out), "3 {} {} {}\n", t[0], t[1], t[2]);
    return out;
}

std::string dxf(const TriangleMesh& mesh, Coordinates) {
    std::string out = "0\nSECTION\n2\nENTITIES\n";
    for (const auto& t : mesh.triangles) {
        fmt::format_to(std::back_inserter(out), "0\n3DFACE\n8\n{}\n", mesh.name);
        for (int i = 0; i < 4; ++i) { // a triangle repeats its third corner
            const auto& p = mesh.vertices[std::size_t(t[std::size_t(std::min(i, 2))])];
            fmt::format_to(std::back_inserter(out), "{}\n{:.4f}\n{}\n{:.4f}\n{}\n{:.4f}\n", 10 + i, p.x, 20 + i, p.y, 30 + i,
                           p.z);
        }
    }
    return out + "0\nENDSEC\n0\nEOF\n";
}

struct MeshFormat {
    const char* ending;
    std::string (*write)(const TriangleMesh&, Coordinates);
};
constexpr MeshFormat kMeshFormats[] = {{".xml", landXml}, {".obj", obj}, {".ply", ply}, {".dxf", dxf}};

const MeshFormat* meshFormatOf(const std::filesystem::path& path) {
    for (const auto& f : kMeshFormats)
        if (equalNoCase(path.extension().string(), f.ending)) return &f;
    return nullptr;
}

} // namespace

bool isTriangleEnding(const std::filesystem::path& path) { return meshFormatOf(path) != nullptr; }

void writeTriangleMesh(const std::filesystem::path& path, const TriangleMesh& mesh, Coordinates as) {
    const auto* format = meshFormatOf(path);
    if (!format) throw UsageError(fmt::format("{}: triangles are written as .xml (LandXML), .obj, .ply or .dxf.", path.string()));
    writeBytes(path, format->write(mesh, as));
}

} // namespace fox
