#include "ground/survey.h"

#include "base/errors.h"
#include "base/text.h"

#include <fmt/format.h>

namespace fox {

namespace {
std::optional<std::size_t> anyColumn(const Table& table, std::initializer_list<const char*> names) {
    for (const char* name : names)
        if (const auto column = table.column(name)) return column;
    return {};
}
} // namespace

SurveyColumns surveyColumns(const Table& table) {
    return {anyColumn(table, {"point", "name", "id", "number"}), anyColumn(table, {"easting", "e", "x", "east"}),
            anyColumn(table, {"northing", "n", "y", "north"}), anyColumn(table, {"level", "z", "elevation", "height", "rl"}),
            anyColumn(table, {"code", "feature"})};
}

Survey surveyOf(const Table& table) {
    const auto columns = surveyColumns(table);
    if (!columns.complete())
        throw FileError(fmt::format(
            "{} has no column for {}: name it in the header or say the order of the columns. The columns are: {}.", table.name,
            !columns.easting    ? "easting"
            : !columns.northing ? "northing"
                                : "level",
            fmt::join(table.columns, ", ")));
    Survey survey;
    const auto cell = [](const Table::Row& row, std::optional<std::size_t> column) -> std::string {
        return column && *column < row.cells.size() ? row.cells[*column] : std::string();
    };
    const auto number = [&](std::string text) {
        if (table.separator == ';') std::ranges::replace(text, ',', '.');
        return parseNumber(text);
    };
    int firstEmpty = 0;
    for (const auto& row : table.rows) {
        const auto x = number(cell(row, columns.easting)), y = number(cell(row, columns.northing)),
                   z = number(cell(row, columns.level));
        if (x && y && z) {
            survey.points.push_back({cell(row, columns.name), {*x, *y, *z}, cell(row, columns.code)});
            continue;
        }
        const auto wrong = !x ? "easting" : !y ? "northing" : "level";
        const auto text = cell(row, !x ? columns.easting : !y ? columns.northing : columns.level);
        if (x && y && trimmed(text).empty()) {
            if (survey.withoutLevel++ == 0) firstEmpty = row.line;
            continue;
        }
        survey.findings.push_back(
            {Severity::Error, "FC-SURVEY", table.name, row.line, "", wrong, "",
             text.empty() ? fmt::format("The {} is missing; the point is left out.", wrong)
                          : fmt::format("The {} is \"{}\", which is not a number; the point is left out.", wrong, text)});
    }
    if (survey.withoutLevel > 0)
        survey.findings.push_back(
            {Severity::Note, "FC-SURVEY", table.name, firstEmpty, "", "level", "",
             fmt::format("{} points have no level; they are left out of the ground.", survey.withoutLevel)});
    return survey;
}

std::vector<Polyline3> breaklinesOf(const std::vector<FeatureLayer>& layers, const std::string& levelField,
                                    const std::string& file) {
    std::vector<Polyline3> lines;
    bool anyLine = false;
    for (const auto& layer : layers)
        for (const auto& feature : layer.features) {
            if (feature.kind == GeometryKind::Point) continue;
            anyLine = true;
            std::optional<double> level;
            if (!levelField.empty()) {
                const auto at =
                    std::ranges::find_if(feature.attributes, [&](const auto& a) { return equalNoCase(a.first, levelField); });
                if (at == feature.attributes.end()) {
                    std::vector<std::string> names;
                    for (const auto& [name, value] : feature.attributes) names.push_back(name);
                    throw FileError(fmt::format("{} has no column {} with a level; its columns are: {}.", file, levelField,
                                                fmt::join(names, ", ")));
                }
                if (const auto* value = std::get_if<double>(&at->second))
                    level = *value;
                else if (const auto* text = std::get_if<std::string>(&at->second))
                    level = parseNumber(*text);
            }
            for (auto part : feature.parts) {
                for (auto& p : part) p.z = level ? *level : feature.hasLevels ? p.z : kNoValue;
                if (feature.kind == GeometryKind::Polygon && !part.empty() && part.front() != part.back() && level)
                    part.push_back(part.front());
                lines.push_back(std::move(part));
            }
        }
    if (!anyLine) throw FileError(fmt::format("{} has no lines.", file));
    return lines;
}

Polygon2 firstOutline(const std::vector<FeatureLayer>& layers, const std::string& file) {
    for (const auto& layer : layers)
        for (const auto& feature : layer.features)
            if (feature.kind == GeometryKind::Polygon && !feature.parts.empty()) {
                Polygon2 ring;
                for (const auto& p : feature.parts.front()) ring.push_back(p.plan());
                if (ring.size() > 1 && ring.front() == ring.back()) ring.pop_back();
                return ring;
            }
    throw FileError(fmt::format("{} has no area (polygon) to serve as an outline.", file));
}

} // namespace fox
