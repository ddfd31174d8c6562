#include "layers/spec_json.h"

#include "base/errors.h"

#include <fmt/format.h>

namespace fox {

using nlohmann::json;

namespace {

std::string pathIn(const json& j, const char* key, const std::filesystem::path& folder) {
    return (folder / j.at(key).get<std::string>()).lexically_normal().string();
}

json placesJson(const Polyline2& line) {
    json out = json::array();
    for (const auto p : line) out.push_back({p.x, p.y});
    return out;
}

/// The method of points, under the keys of the headless tool.
SurfaceSettings methodIn(const json& j) {
    SurfaceSettings s;
    if (j.contains("method")) {
        const std::string written = j.at("method");
        const auto method = methodNamed(written);
        if (!method) throw UsageError(fmt::format("\"{}\" is not a method; there are {}.", written, methodNames()));
        s.method = *method;
    }
    if (j.contains("power")) s.power = positiveIn(j, "power");
    s.neighbours = j.value("neighbours", 0);
    if (j.contains("radius")) s.radius = positiveIn(j, "radius");
    return s;
}

FieldSource lineSource(const json& j) {
    FieldSource out{FieldSource::From::Line, 0, ""};
    for (const auto& p : j.at("line")) out.line.push_back({p.at(0), p.at(1), p.size() > 2 ? p.at(2).get<double>() : kNoValue});
    if (j.contains("level"))
        for (auto& p : out.line) p.z = numberIn(j, "level");
    for (const auto& p : out.line)
        if (!std::isfinite(p.x) || !std::isfinite(p.y) || !std::isfinite(p.z))
            throw UsageError("A \"line\" with values needs an easting, a northing and a level at each corner, or \"level\".");
    return out;
}

} // namespace

void readArea(const json& j, const std::filesystem::path& folder, std::string& file, Polygon2& ring) {
    if (j.contains("file")) file = pathIn(j, "file", folder);
    if (j.contains("ring")) {
        ring = placesIn(j.at("ring"), "\"ring\"");
        if (ring.size() > 1 && ring.front() == ring.back()) ring.pop_back();
        if (ring.size() < 3) throw UsageError("A \"ring\" needs at least three places.");
    }
    if (file.empty() && ring.empty()) throw UsageError("An area needs \"file\" or \"ring\".");
}

json areaJson(const std::string& file, const Polygon2& ring) {
    return ring.empty() ? json{{"file", file}} : json{{"ring", placesJson(ring)}};
}

FieldSource fieldSourceOf(const json& j, const std::filesystem::path& folder) {
    using From = FieldSource::From;
    if (j.is_number()) return {From::Number, j.get<double>(), ""};
    if (j.is_string()) {
        if (j == "unit") return {From::Units, 0, ""};
        if (j == "ground") return {From::Ground, 0, ""};
        throw UsageError(fmt::format("\"{}\" is not a source of values; give \"unit\", \"ground\", a number or an object.",
                                     j.get<std::string>()));
    }
    if (j.contains("level") && !j.contains("line")) return {From::Number, numberIn(j, "level"), ""};
    if (j.contains("grid")) return {From::Grid, 0, pathIn(j, "grid", folder)};
    if (j.contains("base")) return {From::Base, 0, j.at("base").get<std::string>()};
    if (j.contains("surface")) return {From::Surface, 0, j.at("surface").get<std::string>()};
    if (j.contains("water")) return {From::Water, 0, j.at("water").get<std::string>()};
    if (j.contains("line")) return lineSource(j);
    if (j.contains("points"))
        return {From::Points, 0, pathIn(j, "points", folder), j.value("column", ""), methodIn(j), j.value("log", false), {}};
    throw UsageError(fmt::format("{} is not a source of levels or values.", j.dump()));
}

json toJson(const FieldSource& s) {
    using From = FieldSource::From;
    switch (s.from) {
    case From::None: return nullptr;
    case From::Units: return "unit";
    case From::Number: return s.number;
    case From::Ground: return "ground";
    case From::Base: return {{"base", s.name}};
    case From::Grid: return {{"grid", s.name}};
    case From::Surface: return {{"surface", s.name}};
    case From::Water: return {{"water", s.name}};
    case From::Line: {
        json line = json::array();
        for (const auto& p : s.line) line.push_back({p.x, p.y, p.z});
        return {{"line", line}};
    }
    case From::Points: {
        json out{{"points", s.name}, {"column", s.column}, {"method", name(s.settings.method)}, {"log", s.logarithmic}};
        if (s.settings.method == Method::InverseDistance) out["power"] = s.settings.power;
        if (s.settings.neighbours > 0) out["neighbours"] = s.settings.neighbours;
        if (s.settings.radius) out["radius"] = *s.settings.radius;
        return out;
    }
    }
    return nullptr;
}

namespace {

void readParts(const json& j, LayerRule& layer) {
    constexpr std::size_t kMostParts = 1000;
    if (j.is_array()) {
        layer.parts.clear();
        for (const auto& part : j) layer.parts.push_back(part.get<double>());
    } else {
        const double n = j.get<double>();
        if (!(n >= 1 && n <= double(kMostParts) && n == std::floor(n)))
            throw UsageError(
                fmt::format("\"parts\" is {:g}; a layer has 1 to {} whole parts, or a list of proportions.", n, kMostParts));
        layer.parts.assign(std::size_t(n), 1);
    }
    if (layer.parts.empty() || layer.parts.size() > kMostParts
        || !std::ranges::all_of(layer.parts, [](double p) { return p > 0 && std::isfinite(p); }))
        throw UsageError("\"parts\" must be proportions of more than 0.");
}

LayerRule layerRuleOf(const json& j, const std::filesystem::path& folder) {
    LayerRule out;
    out.name = j.value("name", "");
    out.units = j.value("units", out.units);
    if (j.contains("parts")) readParts(j.at("parts"), out);
    if (j.contains("thickness")) out.thickness = positiveIn(j, "thickness");
    if (j.contains("below")) out.below = positiveIn(j, "below");
    if (j.contains("above")) out.above = positiveIn(j, "above");
    if (j.contains("evenly")) {
        const double n = positiveIn(j, "evenly");
        if (n != std::floor(n) || n > 1000) throw UsageError("\"evenly\" must be a whole number of layers, 1000 at most.");
        out.evenly = int(n);
    }
    if (j.contains("bottom")) {
        const auto& bottom = j.at("bottom");
        if (bottom.is_object() && bottom.contains("thickness"))
            out.below = positiveIn(bottom, "thickness");
        else
            out.bottom = fieldSourceOf(bottom, folder);
    }
    return out;
}

} // namespace

std::vector<LayerRule> layerRulesOf(const json& j, const std::filesystem::path& folder) {
    std::vector<LayerRule> out;
    for (const auto& layer : j) out.push_back(layerRuleOf(layer, folder));
    if (out.empty()) throw UsageError("There must be at least one layer.");
    return out;
}

json toJson(const std::vector<LayerRule>& layers) {
    json out = json::array();
    for (const auto& l : layers) {
        json j{{"name", l.name}};
        if (!l.units.empty()) j["units"] = l.units;
        if (l.parts.size() > 1) j["parts"] = l.parts;
        if (l.thickness) j["thickness"] = *l.thickness;
        if (l.below) j["below"] = *l.below;
        if (l.above) j["above"] = *l.above;
        if (l.evenly) j["evenly"] = *l.evenly;
        if (l.bottom)
            j["bottom"] = l.bottom->from == FieldSource::From::Number ? json{{"level", l.bottom->number}} : toJson(*l.bottom);
        out.push_back(std::move(j));
    }
    return out;
}

ThinRule thinRuleOf(const json& j, double metres) {
    ThinRule out{metres, CellAnswer::Passive};
    if (j.is_null()) return out;
    if (j.contains("metres")) {
        out.metres = numberIn(j, "metres");
        if (!(out.metres >= 0)) throw UsageError("\"thin\": \"metres\" must not be negative.");
    }
    const auto then = j.value("then", "inactive");
    for (const auto known : answersTo(CellMark::Thin))
        if (then == name(known)) {
            out.then = known;
            return out;
        }
    throw UsageError(fmt::format("\"thin\": \"then\" is \"{}\"; it can be inactive, thicken or join.", then));
}

std::map<std::string, FieldSource> cellValuesOf(const json& j, const std::filesystem::path& folder) {
    std::map<std::string, FieldSource> out;
    for (const auto& [key, value] : j.items()) {
        if (std::ranges::find(cellValueKinds(), std::string_view(key), &CellValueKind::key) == cellValueKinds().end())
            throw UsageError(fmt::format("\"{}\" is not a value of cells.", key));
        if (!value.is_null()) out.emplace(key, fieldSourceOf(value, folder));
    }
    return out;
}

json toJson(const std::map<std::string, FieldSource>& values) {
    json out = json::object();
    for (const auto& [key, source] : values) out[key] = toJson(source);
    return out;
}

} // namespace fox
