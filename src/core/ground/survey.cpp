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
        if (table.decimalComma || table.separator == ';') std::ranges::replace(text, ',', '.');
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
        survey.findings.push_back({Severity::Note, "FC-SURVEY", table.name, firstEmpty, "", "level", "",
                                   counted(std::size_t(survey.withoutLevel), "point has no level; it is left out of the ground.",
                                           "points have no level; they are left out of the ground.")});
    return survey;
}

std::vector<Polygon2> ringsOf(const Feature& polygon) {
    std::vector<Polygon2> rings;
    for (const auto& part : polygon.parts) {
        rings.emplace_back();
        for (const auto& p : part) rings.back().push_back(p.plan());
    }
    return rings;
}

RingWithHoles firstOutline(const std::vector<FeatureLayer>& layers, const std::string& file) {
    for (const auto& layer : layers)
        for (const auto& feature : layer.features)
            if (feature.kind == GeometryKind::Polygon)
                if (const auto shapes = nested(ringsOf(feature)); !shapes.empty()) return shapes.front();
    throw FileError(fmt::format("{} has no area (polygon) to serve as an outline.", file));
}

Area outlineArea(const std::vector<FeatureLayer>& layers, const std::string& file) {
    for (const auto& layer : layers) {
        std::vector<Polygon2> outlines, holes;
        for (const auto& feature : layer.features)
            if (feature.kind == GeometryKind::Polygon)
                for (auto& shape : nested(ringsOf(feature))) {
                    outlines.push_back(std::move(shape.ring));
                    holes.insert(holes.end(), shape.holes.begin(), shape.holes.end());
                }
        if (!outlines.empty()) return Area(outlines, holes);
    }
    throw FileError(fmt::format("{} has no area (polygon) to serve as an outline.", file));
}

} // namespace fox
