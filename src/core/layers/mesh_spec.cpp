#include "layers/mesh_spec.h"

#include "base/errors.h"
#include "layers/spec_json.h"

#include <fmt/format.h>

namespace fox {

using nlohmann::json;

namespace {

constexpr const char* kMeshFormat = "fox-cellar-mesh";

json lineJson(const Polyline2& line) {
    json out = json::array();
    for (const auto p : line) out.push_back({p.x, p.y});
    return out;
}

MeshLine meshLineOf(const json& j, const std::filesystem::path& folder) {
    MeshLine out;
    out.name = j.value("name", "");
    if (j.contains("file")) out.file = (folder / j.at("file").get<std::string>()).lexically_normal().string();
    if (j.contains("line")) out.line = placesIn(j.at("line"), "\"line\"");
    if (out.file.empty() && out.line.size() < 2)
        throw UsageError(fmt::format("The line \"{}\" needs a file or two places at least.", out.name));
    if (j.contains("edge")) out.edge = positiveIn(j, "edge");
    return out;
}

MeshPlace meshPlaceOf(const json& j) {
    MeshPlace out;
    out.name = j.value("name", "");
    out.at = placesIn(json::array({j.at("at")}), "\"at\"").front();
    if (j.contains("edge")) out.edge = positiveIn(j, "edge");
    return out;
}

MeshFaces meshFacesOf(const json& j, const MeshSpec& spec) {
    MeshFaces out;
    out.line = j.at("line");
    out.name = j.value("name", out.line);
    if (std::ranges::find(spec.lines, out.line, &MeshLine::name) == spec.lines.end())
        throw UsageError(
            fmt::format("The faces \"{}\" follow the line \"{}\", which is not among the lines.", out.name, out.line));
    const auto& layers = j.at("layers");
    out.first = layers.at(0), out.last = layers.at(1);
    if (out.first < 1 || out.last < out.first)
        throw UsageError(fmt::format("The faces \"{}\" go from layer {} to layer {}.", out.name, out.first, out.last));
    if (j.contains("snap")) out.snap = numberIn(j, "snap");
    if (!(out.snap >= 0)) throw UsageError("\"snap\" must not be negative.");
    if (j.contains("conductivity")) out.conductivity = positiveIn(j, "conductivity");
    if (j.contains("thickness")) out.thickness = positiveIn(j, "thickness");
    const auto flow = j.value("flow", "along");
    if (flow != "along" && flow != "across")
        throw UsageError(fmt::format("\"flow\" is \"{}\"; it can be along or across.", flow));
    out.along = flow == "along";
    return out;
}

void readSizes(const json& j, MeshSpec& spec) {
    if (j.contains("edge")) spec.edge = positiveIn(j, "edge");
    if (j.contains("elements")) {
        const double n = positiveIn(j, "elements");
        if (n != std::floor(n) || n > 5e7) throw UsageError("\"elements\" must be a whole number, 50000000 at most.");
        spec.elements = std::size_t(n);
    }
    if (spec.elements.has_value() == (spec.edge > 0)) throw UsageError("A mesh needs either \"edge\" or \"elements\".");
    if (j.contains("growth")) spec.growth = numberIn(j, "growth");
    if (!(spec.growth > 1.01)) throw UsageError(fmt::format("\"growth\" is {:g}; it must be more than 1.01.", spec.growth));
    if (j.contains("angle")) spec.angle = numberIn(j, "angle");
    if (!(spec.angle >= 0 && spec.angle <= kLargestMeshAngle))
        throw UsageError(fmt::format("\"angle\" is {:g}; it can be 0 to {:g} degrees.", spec.angle, kLargestMeshAngle));
}

} // namespace

MeshSpec meshSpecOf(std::string_view text, const std::filesystem::path& folder) {
    const auto j = specDocument(text, kMeshFormat);
    return readSpec(
        [&] {
            MeshSpec spec;
            spec.name = j.value("name", "");
            readArea(j.at("outline"), folder, spec.outline.file, spec.outline.ring);
            for (const auto& island : j.value("islands", json::array())) {
                auto& read = spec.islands.emplace_back();
                readArea(island, folder, read.file, read.ring);
            }
            for (const auto& line : j.value("lines", json::array())) spec.lines.push_back(meshLineOf(line, folder));
            for (const auto& place : j.value("places", json::array())) spec.places.push_back(meshPlaceOf(place));
            readSizes(j, spec);
            if (j.contains("origin")) spec.origin = placesIn(json::array({j.at("origin")}), "\"origin\"").front();
            if (j.contains("top")) spec.top = fieldSourceOf(j.at("top"), folder);
            spec.layers = layerRulesOf(j.at("layers"), folder);
            spec.thin = thinRuleOf(j.value("thin", json()), spec.thin).metres;
            if (!(spec.thin > 0)) throw UsageError("\"thin\": \"metres\" must be more than 0, or prisms would have no volume.");
            for (const auto& faces : j.value("faces", json::array())) spec.faces.push_back(meshFacesOf(faces, spec));
            spec.values = cellValuesOf(j.value("values", json::object()), folder);
            return spec;
        },
        "The specification of the mesh");
}

std::string toJson(const MeshSpec& spec) {
    json j{{"format", kMeshFormat},
           {"version", 1},
           {"name", spec.name},
           {"outline", areaJson(spec.outline.file, spec.outline.ring)},
           {"growth", spec.growth},
           {"angle", spec.angle},
           {"top", toJson(spec.top)},
           {"layers", toJson(spec.layers)},
           {"thin", {{"metres", spec.thin}}},
           {"values", toJson(spec.values)}};
    for (const auto& island : spec.islands) j["islands"].push_back(areaJson(island.file, island.ring));
    for (const auto& l : spec.lines) {
        json line{{"name", l.name}};
        if (!l.file.empty()) line["file"] = l.file;
        if (!l.line.empty()) line["line"] = lineJson(l.line);
        if (l.edge) line["edge"] = *l.edge;
        j["lines"].push_back(std::move(line));
    }
    for (const auto& p : spec.places) {
        json place{{"name", p.name}, {"at", {p.at.x, p.at.y}}};
        if (p.edge > 0) place["edge"] = p.edge;
        j["places"].push_back(std::move(place));
    }
    if (spec.elements)
        j["elements"] = *spec.elements;
    else
        j["edge"] = spec.edge;
    if (spec.origin) j["origin"] = {spec.origin->x, spec.origin->y};
    for (const auto& f : spec.faces) {
        json faces{{"name", f.name},
                   {"line", f.line},
                   {"layers", {f.first, f.last}},
                   {"snap", f.snap},
                   {"flow", f.along ? "along" : "across"}};
        if (f.conductivity) faces["conductivity"] = *f.conductivity;
        if (f.thickness) faces["thickness"] = *f.thickness;
        j["faces"].push_back(std::move(faces));
    }
    return j.dump(1);
}

} // namespace fox
