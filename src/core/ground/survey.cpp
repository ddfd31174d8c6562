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
        survey.findings.push_back(
            {Severity::Note, "FC-SURVEY", table.name, firstEmpty, "", "level", "",
             fmt::format("{} points have no level; they are left out of the ground.", survey.withoutLevel)});
    return survey;
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

Area outlineArea(const std::vector<FeatureLayer>& layers, const std::string& file) {
    for (const auto& layer : layers) {
        std::vector<Polygon2> outlines, holes;
        for (const auto& feature : layer.features) {
            if (feature.kind != GeometryKind::Polygon) continue;
            std::vector<Polygon2> rings;
            for (const auto& part : feature.parts) {
                rings.emplace_back();
                for (const auto& p : part) rings.back().push_back(p.plan());
            }
            for (std::size_t i = 0; i < rings.size(); ++i) {
                bool hole = false; // a ring inside an odd number of the others is one, whichever way it runs
                for (std::size_t k = 0; k < rings.size(); ++k)
                    if (k != i && rings[i].size() > 2) hole ^= contains(rings[k], rings[i].front());
                (hole ? holes : outlines).push_back(rings[i]);
            }
        }
        if (!outlines.empty()) return Area(outlines, holes);
    }
    throw FileError(fmt::format("{} has no area (polygon) to serve as an outline.", file));
}

} // namespace fox
