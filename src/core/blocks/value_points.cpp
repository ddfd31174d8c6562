#include "blocks/value_points.h"

#include "base/errors.h"
#include "base/length_unit.h"
#include "base/text.h"
#include "base/written_number.h"
#include "blocks/value_headings.h"
#include "ground/survey.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fox {

namespace {

constexpr const char* kValueNames[] = {"value", "reading", "result", "concentration", "measured"};

struct ReadValue {
    double value = 0;
    ValueSign sign = ValueSign::None;
};

/// "12.5", "< 0.5"; none if it is not a number.
std::optional<ReadValue> readValue(std::string_view text) {
    ReadValue out;
    text = trimmed(text);
    if (!text.empty() && (text.front() == '<' || text.front() == '>')) {
        out.sign = ValueSign(text.front());
        text.remove_prefix(1);
        if (text.starts_with('=')) text.remove_prefix(1);
    }
    const auto number = readWrittenNumber(text);
    if (!number.value) return {};
    out.value = *number.value;
    return out;
}

/// Whether most cells of a column are numbers, signs of detection limits aside.
bool holdsNumbers(const Table& table, std::size_t column) {
    std::size_t filled = 0, numbers = 0;
    for (std::size_t row = 0; row < table.rows.size(); ++row) {
        const auto cell = table.cell(row, column);
        if (trimmed(cell).empty()) continue;
        ++filled;
        numbers += table.number(row, column).has_value() || readValue(cell).has_value();
    }
    return numbers > 0 && 2 * numbers > filled;
}

/// Reads a table row by row.
class ValueReader {
public:
    ValueReader(const Table& table, ValueColumns columns) : m_table(table), m_columns(std::move(columns)) {
        m_points.resize(m_columns.values.size());
    }

    ValueRows read() {
        for (std::size_t row = 0; row < m_table.rows.size(); ++row) readRow(row);
        for (std::size_t i = 0; i < m_points.size(); ++i) {
            const auto heading = headingWithUnit(m_table.columns[m_columns.values[i]]);
            m_out.sources.push_back({"", std::string(heading.name), std::string(heading.unit), std::move(m_points[i]), true});
        }
        sayUnused();
        return std::move(m_out);
    }

private:
    void sayUnused() {
        std::vector<std::string> names;
        for (std::size_t c = 0; c < m_table.columns.size(); ++c)
            if (c != m_columns.easting && c != m_columns.northing && c != m_columns.level && !trimmed(m_table.columns[c]).empty()
                && std::ranges::count(m_columns.values, c) == 0)
                names.push_back(m_table.columns[c]);
        if (!names.empty())
            m_out.findings.push_back({Severity::Note, "FC-VALUE", m_table.name, 1, "", "", "",
                                      fmt::format("Columns that are not used: {}.", fmt::join(names, ", "))});
    }

    void readRow(std::size_t row) {
        const auto x = position(row, *m_columns.easting, "easting");
        const auto y = x ? position(row, *m_columns.northing, "northing") : std::nullopt;
        const auto z = y ? position(row, *m_columns.level, "level") : std::nullopt;
        if (!z) return;
        for (std::size_t i = 0; i < m_columns.values.size(); ++i) {
            const auto column = m_columns.values[i];
            const auto cell = m_table.cell(row, column);
            if (trimmed(cell).empty()) continue;
            auto read = readValue(cell);
            if (const auto plain = m_table.number(row, column)) read = ReadValue{*plain, ValueSign::None};
            if (!read || !std::isfinite(read->value))
                wrong(row, m_table.columns[column],
                      fmt::format("The value is \"{}\", which is not a number; it is left out.", cell));
            else
                m_points[i].push_back({{*x, *y, *z}, read->value, read->sign, m_table.rows[row].line});
        }
    }

    std::optional<double> position(std::size_t row, std::size_t column, const char* what) {
        const auto value = m_table.number(row, column);
        if (value && std::isfinite(*value)) return value;
        const auto cell = trimmed(m_table.cell(row, column));
        wrong(row, what,
              cell.empty() ? fmt::format("The {} is missing; the row is left out.", what)
                           : fmt::format("The {} is \"{}\", which is not a number; the row is left out.", what, cell));
        return {};
    }

    void wrong(std::size_t row, std::string heading, std::string sentence) {
        m_out.findings.push_back(
            {Severity::Error, "FC-VALUE", m_table.name, m_table.rows[row].line, "", std::move(heading), "", std::move(sentence)});
    }

    const Table& m_table;
    ValueColumns m_columns;
    std::vector<std::vector<ValuePoint>> m_points; ///< of each column of values
    ValueRows m_out;
};

} // namespace

bool isValueHeading(const std::string& column) {
    const auto heading = headingWithUnit(column);
    return std::ranges::any_of(kValueNames, [&](const char* name) { return equalNoCase(heading.name, name); });
}

bool saysValue(const std::string& column) {
    const auto unit = headingWithUnit(column).unit;
    return isValueHeading(column) || (!unit.empty() && !lengthUnitNamed(unit) && !isDegrees(unit));
}

std::string written(const ValuePoint& point) {
    return point.sign == ValueSign::None ? fmt::format("{:g}", point.value)
                                         : fmt::format("{}{:g}", char(point.sign), point.value);
}

ValueColumns valueColumns(const Table& table) {
    const auto survey = surveyColumns(table);
    ValueColumns out{survey.easting, survey.northing, survey.level, {}};
    for (std::size_t c = 0; c < table.columns.size(); ++c)
        if (c != survey.easting && c != survey.northing && c != survey.level && c != survey.name && c != survey.code
            && !trimmed(table.columns[c]).empty() && (holdsNumbers(table, c) || isValueHeading(table.columns[c])))
            out.values.push_back(c);
    return out;
}

bool namesValues(const Table& table) {
    return std::ranges::any_of(valueColumns(table).values, [&](std::size_t c) { return saysValue(table.columns[c]); });
}

std::vector<std::vector<std::string>> usualValueOrders(std::size_t columns) {
    const std::vector<std::vector<std::string>> all{{"easting", "northing", "level", "value"},
                                                    {"northing", "easting", "level", "value"},
                                                    {"point", "easting", "northing", "level", "value"},
                                                    {"point", "northing", "easting", "level", "value"}};
    std::vector<std::vector<std::string>> out;
    for (const auto& order : all)
        if (order.size() == columns) out.push_back(order);
    return out;
}

ValueRows valuePointsOf(const Table& table) {
    auto columns = valueColumns(table);
    if (!columns.complete())
        throw FileError(fmt::format("{} has no column for {}: name it in the header or say the order of the columns. The columns "
                                    "are: {}.",
                                    table.name,
                                    !columns.easting    ? "easting"
                                    : !columns.northing ? "northing"
                                    : !columns.level    ? "the level"
                                                        : "a value",
                                    fmt::join(table.columns, ", ")));
    return ValueReader(table, std::move(columns)).read();
}

} // namespace fox
