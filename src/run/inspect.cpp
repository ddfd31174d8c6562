#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/picture.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"
#include "formats/workbook.h"
#include "ground/survey.h"
#include "holes/ags_holes.h"
#include "holes/las_holes.h"
#include "holes/table_holes.h"
#include "importing/ground_import.h"
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

json holesJson(const Holes& all, Bounds& bounds) {
    json holes = json::array();
    for (const auto& h : all) {
        const auto level = h.level ? std::optional(h.level->metres) : std::nullopt;
        if (const auto p = h.place()) bounds.include(*p, level);
        holes.push_back({{"id", h.id},
                         {"type", h.type},
                         {"easting", orNull(h.easting)},
                         {"northing", orNull(h.northing)},
                         {"level", orNull(level)},
                         {"depth", h.finalDepth ? json(h.finalDepth->metres) : json(nullptr)}});
    }
    return holes;
}

json document(const std::string& format, const json& version, json tables, const Bounds& bounds) {
    return {
        {"format", format}, {"version", version}, {"tables", std::move(tables)}, {"bounds", bounds.toJson()}, {"crs", nullptr}};
}

void say(const Findings& findings) {
    for (const auto& f : findings) std::cerr << describe(f) << '\n';
}

json inspectAgs(const AgsFile& file) {
    json tables = json::array();
    for (const auto& g : file.groups) tables.push_back({{"name", g.name}, {"rows", g.rows.size()}, {"columns", g.headings}});
    // places are asked for: geology and results of tests, of which there may be millions, are left alone
    std::vector<std::string> others;
    for (const auto& g : file.groups)
        if (const std::string_view what = feeds(g.name); what == "tests" || what == "geology") others.push_back(g.name);
    const auto content = holesOf(file, others);
    Bounds bounds;
    const auto holes = holesJson(content.holes, bounds);
    say(file.findings);
    say(content.findings);
    auto out = document("AGS", file.version, std::move(tables), bounds);
    out["holes"] = holes;
    return out;
}

json inspectLas(const LasFile& file) {
    json columns = json::array();
    for (const auto& c : file.curves) columns.push_back(c.name);
    const auto content = holeOf(file);
    Bounds bounds;
    const auto holes = holesJson({content.hole}, bounds);
    say(file.findings);
    say(content.findings);
    auto out =
        document("LAS", file.version, json::array({{{"name", "curves"}, {"rows", file.steps()}, {"columns", columns}}}), bounds);
    out["holes"] = holes;
    return out;
}

/// Sheets of a workbook, or one table of text. A table of points is a survey, one that names holes gives holes.
json inspectTables(const std::vector<Table>& sheets, const std::string& format) {
    Bounds bounds;
    json tables = json::array(), holes = json::array();
    for (const auto& table : sheets) {
        const auto comma = table.name.find(", ");
        tables.push_back({{"name", comma == table.name.npos ? table.name : table.name.substr(comma + 2)},
                          {"rows", table.rows.size()},
                          {"columns", table.columns}});
        const auto mapping = guessMapping(table);
        const auto columns = surveyColumns(table);
        if (columns.complete() && !mapping.has(ColumnRole::Top) && !namesHoles(table)) {
            const auto survey = surveyOf(table);
            for (const auto& p : survey.points) bounds.include(p.place.plan(), p.place.z);
        } else if (!whatItHolds(mapping).empty()) {
            const auto read = holesOf(table, mapping, table.name);
            for (auto& h : holesJson(read.holes, bounds)) holes.push_back(h);
            say(read.findings);
        }
    }
    auto out = document(format, nullptr, std::move(tables), bounds);
    if (!holes.empty()) out["holes"] = holes;
    return out;
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

json described(const std::string& format, const std::string& table, std::size_t rows, const Bounds& bounds,
               const std::string& crs) {
    return {{"format", format},
            {"version", nullptr},
            {"tables", json::array({{{"name", table}, {"rows", rows}, {"columns", json::array()}}})},
            {"bounds", bounds.toJson()},
            {"crs", crs.empty() ? json(nullptr) : json(crs)}};
}

std::string formatName(const std::filesystem::path& path) { return upper(path.extension().string()).substr(1); }

json inspectGrid(const std::filesystem::path& path) {
    Findings findings;
    const auto raster = readRasterIn(path, "", {}, findings);
    say(findings);
    const auto& f = raster.grid.frame;
    Bounds bounds;
    double low = kNoValue, high = kNoValue;
    std::size_t values = 0;
    for (const double v : raster.grid.values) low = std::fmin(low, v), high = std::fmax(high, v), values += !std::isnan(v);
    const auto z = [](double v) { return std::isnan(v) ? std::nullopt : std::optional(v); };
    bounds.include({f.xmin, f.ymax - f.rows() * f.cell}, z(low));
    bounds.include({f.xmin + f.columns() * f.cell, f.ymax}, z(high));
    auto out = described(formatName(path), "grid", values, bounds, raster.crs);
    out["columns"] = f.columns(), out["rows"] = f.rows(), out["cell"] = f.cell;
    return out;
}

json inspectPicture(const std::string& bytes, const std::string& name) {
    const auto picture = readPicture(bytes, name);
    Bounds bounds;
    if (const auto& t = picture.georeference)
        for (const double x : {0.0, double(picture.width)})
            for (const double y : {0.0, double(picture.height)})
                bounds.include({(*t)[0] + x * (*t)[1] + y * (*t)[2], (*t)[3] + x * (*t)[4] + y * (*t)[5]}, {});
    auto out = described(formatName(name), "picture", 1, bounds, picture.crs);
    out["width"] = picture.width, out["height"] = picture.height;
    return out;
}

json inspectTriangles(const std::filesystem::path& path) {
    const auto mesh = readTriangleMesh(path);
    Bounds bounds;
    for (const auto& v : mesh.vertices) bounds.include(v.plan(), v.z);
    return described(formatName(path), mesh.name, mesh.triangles.size(), bounds, "");
}

} // namespace

void inspect(const Options& options) {
    auto bytes = readBytes(options.file);
    if (trimmed(bytes).empty())
        throw FileError(fmt::format("{} is empty: there is nothing in it to read.", options.file.string()));
    if (looksLikeAgs(bytes)) return print(inspectAgs(readAgs(std::move(bytes), options.file.filename().string())), options.json);
    const auto name = options.file.filename().string();
    const auto ending = lower(options.file.extension().string());
    if (looksLikeLas(bytes)) return print(inspectLas(readLas(bytes, name)), options.json);
    if (isWorkbookName(name))
        return print(inspectTables(readWorkbook(bytes, name), ending == ".ods" ? "ODS" : "XLSX"), options.json);
    if (ending == ".xyz") { // a grid, or a list of points
        try {
            return print(inspectGrid(options.file), options.json);
        } catch (const FileError&) {
            return print(inspectTables({readTable(bytes, name)}, "XYZ"), options.json);
        }
    }
    if (ending == ".csv" || ending == ".txt" || ending == ".tsv")
        return print(inspectTables({readTable(bytes, name)}, "CSV"), options.json);
    if (ending == ".ags")
        throw FileError(fmt::format("{} is not an AGS file: no line begins with \"GROUP\" (AGS 4) or \"**\" (AGS 3).",
                                    options.file.string()));
    switch (groundKindOf(options.file)) {
    case GroundKind::Grid: return print(inspectGrid(options.file), options.json);
    case GroundKind::Picture: return print(inspectPicture(bytes, name), options.json);
    case GroundKind::Triangles: return print(inspectTriangles(options.file), options.json);
    default: print(inspectVector(options.file), options.json);
    }
}

} // namespace fox::run
