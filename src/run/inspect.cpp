#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "ground/survey.h"
#include "holes/ags_holes.h"
#include "output.h"
#include "project/json.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>
#include <set>

namespace fox::run {

using nlohmann::json;

namespace {

/// Bounds in plan and of levels; null while empty.
struct Bounds {
    Box2 box;
    double zmin = kNoValue, zmax = kNoValue;
    void include(Point2 p, std::optional<double> z) {
        box.include(p);
        if (z) zmin = std::fmin(zmin, *z), zmax = std::fmax(zmax, *z);
    }
    json toJson() const {
        if (box.empty()) return nullptr;
        return {{"xmin", box.xmin}, {"ymin", box.ymin},     {"xmax", box.xmax},
                {"ymax", box.ymax}, {"zmin", number(zmin)}, {"zmax", number(zmax)}};
    }
};

json orNull(const std::optional<double>& v) { return v ? json(*v) : json(nullptr); }

json inspectAgs(const AgsFile& file) {
    json tables = json::array(), holes = json::array();
    for (const auto& g : file.groups) tables.push_back({{"name", g.name}, {"rows", g.rows.size()}, {"columns", g.headings}});
    const auto content = holesOf(file);
    Bounds bounds;
    for (const auto& h : content.holes) {
        const auto level = h.level ? std::optional(h.level->metres) : std::nullopt;
        if (const auto p = h.place()) bounds.include(*p, level);
        holes.push_back({{"id", h.id},
                         {"type", h.type},
                         {"easting", orNull(h.easting)},
                         {"northing", orNull(h.northing)},
                         {"level", orNull(level)},
                         {"depth", h.finalDepth ? json(h.finalDepth->metres) : json(nullptr)}});
    }
    for (const auto* findings : {&file.findings, &content.findings})
        for (const auto& f : *findings) std::cerr << describe(f) << '\n';
    return {{"format", "AGS"}, {"version", file.version},   {"tables", tables},
            {"holes", holes},  {"bounds", bounds.toJson()}, {"crs", nullptr}};
}

json inspectTable(const Table& table) {
    Bounds bounds;
    if (surveyColumns(table).complete()) {
        const auto survey = surveyOf(table);
        for (const auto& p : survey.points) bounds.include(p.place.plan(), p.place.z);
    }
    return {{"format", "CSV"},
            {"version", nullptr},
            {"tables", json::array({{{"name", table.name}, {"rows", table.rows.size()}, {"columns", table.columns}}})},
            {"bounds", bounds.toJson()},
            {"crs", nullptr}};
}

json inspectVector(const std::filesystem::path& path) {
    Bounds bounds;
    json tables = json::array();
    json crs = nullptr;
    for (const auto& layer : readVector(path)) {
        std::set<std::string> columns;
        for (const auto& f : layer.features) {
            for (const auto& part : f.parts)
                for (const auto& p : part) bounds.include(p.plan(), f.hasLevels ? std::optional(p.z) : std::nullopt);
            for (const auto& [key, value] : f.attributes) columns.insert(key);
        }
        tables.push_back({{"name", layer.name}, {"rows", layer.features.size()}, {"columns", columns}});
        if (!layer.crs.empty()) crs = layer.crs;
    }
    auto format = upper(path.extension().string());
    return {{"format", format.empty() ? "vector" : format.substr(1)},
            {"version", nullptr},
            {"tables", tables},
            {"bounds", bounds.toJson()},
            {"crs", crs}};
}

} // namespace

void inspect(const Words& words) {
    auto bytes = readBytes(words.file);
    if (trimmed(bytes).empty()) throw FileError(fmt::format("{} is empty: there is nothing in it to read.", words.file.string()));
    if (looksLikeAgs(bytes)) return print(inspectAgs(readAgs(std::move(bytes), words.file.filename().string())), words.json);
    const auto ending = lower(words.file.extension().string());
    if (ending == ".csv" || ending == ".txt")
        return print(inspectTable(readTable(bytes, words.file.filename().string())), words.json);
    if (ending == ".ags")
        throw FileError(
            fmt::format("{} is not an AGS file: no line begins with \"GROUP\" (AGS 4) or \"**\" (AGS 3).", words.file.string()));
    print(inspectVector(words.file), words.json);
}

} // namespace fox::run
