#include "handover/mesh_files.h"

#include "formats/netcdf_file.h"
#include "formats/raster.h"
#include "formats/table.h"
#include "formats/vtu.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace fox {

using nlohmann::json;

namespace {

void addCell(std::string& out, double v) {
    out += ',';
    if (!std::isnan(v)) fmt::format_to(std::back_inserter(out), "{}", v);
}

std::string codeOf(const LayerFileWords& words, int unit) { return unit < 0 ? "" : words.units[std::size_t(unit)]; }

/// Writes a mesh, its coordinates less an origin.
class MeshWriter {
public:
    MeshWriter(const LayeredMesh& mesh, Point2 origin, const LayerFileWords& words)
        : m_mesh(mesh), m_origin(origin), m_words(words) {}

    std::string nodes() const {
        std::string out = "node,x,y,z,surface\n";
        const auto n = m_mesh.plan.nodes.size();
        for (std::size_t s = 0; s <= m_mesh.layers.size(); ++s)
            for (std::size_t i = 0; i < n; ++i)
                fmt::format_to(std::back_inserter(out), "{},{},{},{},{}\n", s * n + i + 1, x(i), y(i), m_mesh.levels[s * n + i],
                               s + 1);
        return out;
    }

    std::string elements() const {
        std::string out = "element,layer,n1,n2,n3,n4,n5,n6,unit";
        for (const auto& [key, values] : m_mesh.values) out += "," + key;
        for (const auto& [unit, shares] : m_mesh.shares) out += "," + tableCell("share_" + m_words.units[unit]);
        out += '\n';
        for (std::size_t e = 0; e < m_mesh.elements(); ++e) {
            fmt::format_to(std::back_inserter(out), "{},{}", e + 1, e / m_mesh.plan.triangles.size() + 1);
            for (const auto node : m_mesh.nodesOf(e)) fmt::format_to(std::back_inserter(out), ",{}", node + 1);
            out += "," + tableCell(codeOf(m_words, m_mesh.unit[e]));
            for (const auto& [key, values] : m_mesh.values) addCell(out, values[e]);
            for (const auto& [unit, shares] : m_mesh.shares) addCell(out, shares[e]);
            out += '\n';
        }
        return out;
    }

    std::string faces() const {
        std::string out = "name,layer,n1,n2,n3,n4,conductivity,thickness,flow\n";
        const auto n = m_mesh.plan.nodes.size();
        for (const auto& faces : m_mesh.faces)
            for (const auto& [layer, a, b] : faces.faces) {
                const auto upper = std::size_t(layer) * n + 1, lower = upper + n;
                fmt::format_to(std::back_inserter(out), "{},{},{},{},{},{}", tableCell(faces.asked.name), layer + 1,
                               upper + std::size_t(a), upper + std::size_t(b), lower + std::size_t(b), lower + std::size_t(a));
                addCell(out, faces.asked.conductivity.value_or(kNoValue));
                addCell(out, faces.asked.thickness.value_or(kNoValue));
                out += faces.asked.along ? ",along\n" : ",across\n";
            }
        return out;
    }

    UnstructuredCells wedges() const {
        UnstructuredCells out;
        out.remark = "units:";
        for (std::size_t u = 0; u < m_words.units.size(); ++u) out.remark += fmt::format(" {} = {};", u, m_words.units[u]);
        const auto n = m_mesh.plan.nodes.size();
        for (std::size_t i = 0; i < m_mesh.levels.size(); ++i) out.nodes.push_back({x(i % n), y(i % n), m_mesh.levels[i]});
        std::vector<std::int32_t> layer, unit;
        for (std::size_t e = 0; e < m_mesh.elements(); ++e) {
            for (const auto node : m_mesh.nodesOf(e)) out.connectivity.push_back(std::int64_t(node));
            out.offsets.push_back(std::int64_t(out.connectivity.size()));
            out.types.push_back(13);
            layer.push_back(std::int32_t(e / m_mesh.plan.triangles.size() + 1));
            unit.push_back(m_mesh.unit[e]);
        }
        out.data = {{"layer", std::move(layer)}, {"unit", std::move(unit)}};
        for (const auto& [key, values] : m_mesh.values) out.data.push_back({key, values});
        for (const auto& [u, shares] : m_mesh.shares) out.data.push_back({"share_" + m_words.units[u], shares});
        return out;
    }

    void writeUgrid(const std::filesystem::path& to) const {
        const auto& plan = m_mesh.plan;
        std::vector<double> xs, ys, faceX, faceY;
        for (std::size_t i = 0; i < plan.nodes.size(); ++i) xs.push_back(x(i)), ys.push_back(y(i));
        std::vector<std::int32_t> faceNodes, layers, units(m_mesh.unit.begin(), m_mesh.unit.end());
        for (const auto& t : plan.triangles) {
            double sx = 0, sy = 0;
            for (const int node : t) {
                faceNodes.push_back(node);
                sx += xs[std::size_t(node)] / 3, sy += ys[std::size_t(node)] / 3;
            }
            faceX.push_back(sx), faceY.push_back(sy);
        }
        for (std::size_t k = 0; k < m_mesh.layers.size(); ++k) layers.push_back(std::int32_t(k + 1));
        static constexpr std::int32_t kNone = 0;
        const auto text = [](const char* s) { return std::string(s); };
        const NetcdfAttributes onFaces{
            {"mesh", text("mesh")}, {"location", text("face")}, {"coordinates", text("face_x face_y")}};
        std::string codes;
        for (const auto& u : m_words.units) codes += (codes.empty() ? "" : " ") + u;
        std::vector<NetcdfVariable> variables{
            {"mesh",
             {},
             std::span(&kNone, 1),
             {{"cf_role", text("mesh_topology")},
              {"topology_dimension", std::int32_t(2)},
              {"node_coordinates", text("node_x node_y")},
              {"face_node_connectivity", text("face_nodes")},
              {"face_dimension", text("face")},
              {"face_coordinates", text("face_x face_y")}}},
            {"node_x", {"node"}, xs, {{"standard_name", text("projection_x_coordinate")}, {"units", text("m")}}},
            {"node_y", {"node"}, ys, {{"standard_name", text("projection_y_coordinate")}, {"units", text("m")}}},
            {"face_x", {"face"}, faceX, {{"standard_name", text("projection_x_coordinate")}, {"units", text("m")}}},
            {"face_y", {"face"}, faceY, {{"standard_name", text("projection_y_coordinate")}, {"units", text("m")}}},
            {"face_nodes",
             {"face", "corner"},
             faceNodes,
             {{"cf_role", text("face_node_connectivity")}, {"start_index", std::int32_t(0)}}},
            {"layer", {"layer"}, layers, {{"long_name", text("number of the layer")}, {"positive", text("down")}}},
            {"level",
             {"surface", "node"},
             m_mesh.levels,
             {{"long_name", text("level of the surfaces between layers")},
              {"units", text("m")},
              {"positive", text("up")},
              {"mesh", text("mesh")},
              {"location", text("node")},
              {"coordinates", text("node_x node_y")}}},
            {"unit", {"layer", "face"}, units, onFaces}};
        variables.back().attributes.push_back({"flag_meanings", codes});
        for (const auto& kind : cellValueKinds())
            if (const auto at = m_mesh.values.find(kind.key); at != m_mesh.values.end()) {
                variables.push_back({kind.key, {"layer", "face"}, at->second, onFaces});
                variables.back().attributes.push_back({"units", *kind.unit ? text(kind.unit) : text("1")});
            }
        writeNetcdf(to,
                    {{"node", plan.nodes.size()},
                     {"face", plan.triangles.size()},
                     {"corner", 3},
                     {"layer", m_mesh.layers.size()},
                     {"surface", m_mesh.layers.size() + 1}},
                    variables,
                    {{"Conventions", text("CF-1.10 UGRID-1.0")},
                     {"title", m_words.project},
                     {"source", text("Fox Cellar")},
                     {"origin_easting", m_origin.x},
                     {"origin_northing", m_origin.y},
                     {"crs_wkt", projectionText(m_words.crs)}});
    }

private:
    double x(std::size_t node) const { return m_mesh.plan.nodes[node].x - m_origin.x; }
    double y(std::size_t node) const { return m_mesh.plan.nodes[node].y - m_origin.y; }

    const LayeredMesh& m_mesh;
    Point2 m_origin;
    const LayerFileWords& m_words;
};

json summaryOf(const LayeredMesh& m) {
    auto angles = m.plan.smallestAngles();
    std::ranges::sort(angles);
    json faces = json::object(), volumes = json::array();
    for (const auto& f : m.faces) faces[f.asked.name] = faces.value(f.asked.name, std::size_t(0)) + f.faces.size();
    for (std::size_t k = 0; k < m.layers.size(); ++k) volumes.push_back(m.volume(k));
    const auto middle = angles.size() / 2;
    return {{"nodes", m.nodes()},
            {"elements", m.elements()},
            {"triangles", m.plan.triangles.size()},
            {"edge", m.plan.edge},
            {"smallest_angle", angles.front()},
            {"median_angle", angles.size() % 2 == 1 ? angles[middle] : (angles[middle - 1] + angles[middle]) / 2},
            {"layers", m.layers.size()},
            {"faces", faces},
            {"volume", volumes},
            {"checks", {{"inverted", m.inverted()}, {"thin", m.thin}}}};
}

} // namespace

std::string meshSummary(const LayeredMesh& m) { return summaryOf(m).dump(); }

ReplaceFiles prepareMeshFiles(const LayeredMesh& mesh, const std::optional<Point2>& origin, const LayerFileWords& words,
                              const std::filesystem::path& folder, const Progress& progress) {
    std::error_code error;
    std::filesystem::create_directories(folder, error);
    if (error) throw FileError(fmt::format("{} can't be made: {}.", folder.string(), error.message()));
    const MeshWriter writer(mesh, origin.value_or(Point2{}), words);
    ReplaceFiles out;
    progress.report(0.1, "Nodes and elements");
    out.add(folder / "nodes.csv", [&](const auto& scratch) { writeBytes(scratch, writer.nodes()); });
    out.add(folder / "elements.csv", [&](const auto& scratch) { writeBytes(scratch, writer.elements()); });
    out.add(folder / "faces.csv", [&](const auto& scratch) { writeBytes(scratch, writer.faces()); });
    progress.report(0.6, "Files");
    out.add(folder / "mesh.vtu", [&](const auto& scratch) { writeVtu(scratch, writer.wedges()); });
    out.add(folder / "mesh.nc", [&](const auto& scratch) { writer.writeUgrid(scratch); });
    json remarks = json::array();
    for (const auto& f : words.findings) remarks.push_back(describe(f));
    const json record{{"format", "fox-cellar-mesh-record"},
                      {"version", 1},
                      {"made", words.date},
                      {"project", words.project},
                      {"crs", words.crs},
                      {"specification", words.specification.empty() ? json() : json::parse(words.specification)},
                      {"layers", mesh.layers},
                      {"units", words.units},
                      {"summary", summaryOf(mesh)},
                      {"remarks", remarks}};
    out.add(folder / "mesh.json", [&](const auto& scratch) { writeBytes(scratch, record.dump(1)); });
    return out;
}

} // namespace fox
