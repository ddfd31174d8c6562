#include "ground/survey.h"

#include "base/errors.h"
#include "base/length_unit.h"
#include "base/text.h"
#include "ground/survey_text.h"

#include <fmt/format.h>

namespace fox {

namespace {

std::optional<std::size_t> anyColumn(const Table& table, std::initializer_list<const char*> names) {
    for (const char* name : names)
        for (std::size_t c = 0; c < table.columns.size(); ++c)
            if (equalNoCase(headingWithUnit(table.columns[c]).name, name)) return c;
    return {};
}

std::optional<double> unitOf(const Table& table, std::optional<std::size_t> column) {
    const auto* unit = column ? lengthUnitNamed(headingWithUnit(table.columns[*column]).unit) : nullptr;
    return unit ? std::optional(unit->metres) : std::nullopt;
}

} // namespace

SurveyColumns surveyColumns(const Table& table) {
    SurveyColumns out{anyColumn(table, {"point", "name", "id", "number"}), anyColumn(table, {"easting", "e", "x", "east"}),
                      anyColumn(table, {"northing", "n", "y", "north"}),
                      anyColumn(table, {"level", "z", "elevation", "height", "rl"}), anyColumn(table, {"code", "feature"})};
    out.eastingUnit = unitOf(table, out.easting);
    out.northingUnit = unitOf(table, out.northing);
    out.levelUnit = unitOf(table, out.level);
    return out;
}

namespace {

/// Takes one row after another.
class SurveyReading {
public:
    /// @throws FileError naming the columns that are not there
    explicit SurveyReading(const Table& head)
        : m_name(head.name), m_columns(surveyColumns(head)), m_decimalComma(head.decimalComma || head.separator == ';') {
        if (!m_columns.complete())
            throw FileError(fmt::format(
                "{} has no column for {}: name it in the header or say the order of the columns. The columns are: {}.", head.name,
                !m_columns.easting    ? "easting"
                : !m_columns.northing ? "northing"
                                      : "level",
                fmt::join(head.columns, ", ")));
    }

    template <typename Cell>
    void add(int line, const std::vector<Cell>& cells) {
        const auto cell = [&](std::optional<std::size_t> column) {
            return column && *column < cells.size() ? std::string_view(cells[*column]) : std::string_view();
        };
        const auto x = number(cell(m_columns.easting)), y = number(cell(m_columns.northing)), z = number(cell(m_columns.level));
        if (x && y && z) {
            m_out.points.push_back({std::string(cell(m_columns.name)), {*x, *y, *z}, std::string(cell(m_columns.code))});
            return;
        }
        const auto* wrong = !x ? "easting" : !y ? "northing" : "level";
        const auto text = cell(!x ? m_columns.easting : !y ? m_columns.northing : m_columns.level);
        if (x && y && trimmed(text).empty()) {
            if (m_out.withoutLevel++ == 0) m_firstEmpty = line;
            return;
        }
        m_out.findings.push_back(
            {Severity::Error, "FC-SURVEY", m_name, line, "", wrong, "",
             text.empty() ? fmt::format("The {} is missing; the point is left out.", wrong)
                          : fmt::format("The {} is \"{}\", which is not a number; the point is left out.", wrong, text)});
    }

    void expect(std::size_t points) { m_out.points.reserve(points); }

    Survey take() {
        if (m_out.withoutLevel > 0)
            m_out.findings.push_back(
                {Severity::Note, "FC-SURVEY", m_name, m_firstEmpty, "", "level", "",
                 counted(std::size_t(m_out.withoutLevel), "point has no level; it is left out of the ground.",
                         "points have no level; they are left out of the ground.")});
        return std::move(m_out);
    }

private:
    std::optional<double> number(std::string_view text) const {
        if (!m_decimalComma || text.find(',') == text.npos) return parseNumber(text);
        std::string pointed(text);
        std::ranges::replace(pointed, ',', '.');
        return parseNumber(pointed);
    }

    const std::string m_name;
    const SurveyColumns m_columns;
    const bool m_decimalComma;
    int m_firstEmpty = 0;
    Survey m_out;
};

} // namespace

Survey surveyOf(const Table& table) {
    SurveyReading reading(table);
    reading.expect(table.rows.size());
    for (const auto& row : table.rows) reading.add(row.line, row.cells);
    return reading.take();
}

Survey surveyOf(const SeparatedText& text, const Table& head, const Progress& progress) {
    SurveyReading reading(head);
    const int first = head.rows.empty() ? 1 : head.rows.front().line;
    std::size_t rows = 0;
    text.eachRow([&](int line, const auto& cells) {
        constexpr std::size_t kLooked = 10'000; // rows between two looks at whether to stop
        if (++rows % kLooked == 0) progress.check();
        if (line >= first) reading.add(line, cells);
        return true;
    });
    return reading.take();
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
