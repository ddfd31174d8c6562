#include "output.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/table.h"
#include "project/json.h"

#include <algorithm>
#include <ctime>
#include <fmt/chrono.h>
#include <fmt/format.h>
#include <iostream>
#include <optional>

namespace fox::run {

namespace {

using nlohmann::json;

std::string cellText(const json& v) {
    if (v.is_null()) return "-";
    if (v.is_number_float()) return fmt::format("{:.3f}", v.get<double>());
    if (v.is_string()) return v.get<std::string>();
    return v.dump();
}

/// Rows of objects as columns; nested values are left to --json.
void printRows(const std::string& title, const json& rows) {
    std::vector<std::string> keys;
    for (const auto& [key, value] : rows.front().items())
        if (!value.is_structured()) keys.push_back(key);
    std::vector<std::vector<std::string>> cells{keys};
    for (const auto& row : rows) {
        auto& line = cells.emplace_back();
        for (const auto& key : keys) line.push_back(row.contains(key) ? cellText(row[key]) : "");
    }
    std::vector<std::size_t> width(keys.size(), 0);
    for (const auto& line : cells)
        for (std::size_t i = 0; i < keys.size(); ++i) width[i] = std::max(width[i], line[i].size());
    if (!title.empty()) std::cout << title << '\n';
    for (const auto& line : cells) {
        for (std::size_t i = 0; i < keys.size(); ++i) std::cout << fmt::format("  {:<{}}", line[i], width[i]);
        std::cout << '\n';
    }
}

void printFacts(const json& j, const std::string& prefix) {
    std::size_t width = 0;
    for (const auto& [key, value] : j.items())
        if (!value.is_structured()) width = std::max(width, key.size());
    for (const auto& [key, value] : j.items())
        if (!value.is_structured()) std::cout << fmt::format("{}{:<{}}  {}\n", prefix, key, width, cellText(value));
    for (const auto& [key, value] : j.items()) {
        if (value.is_object()) {
            std::cout << prefix << key << '\n';
            printFacts(value, prefix + "  ");
        } else if (value.is_array() && !value.empty() && value.front().is_object()) {
            printRows(prefix + key, value);
        } else if (value.is_array()) {
            std::cout << fmt::format("{}{}  {} values\n", prefix, key, value.size());
        }
    }
}

} // namespace

void print(const json& j, bool asJson) {
    if (asJson)
        std::cout << j.dump() << '\n';
    else if (j.is_array() && !j.empty())
        printRows("", j);
    else
        printFacts(j, "");
}

std::vector<double> numbers(const std::string& list, const std::string& option, std::size_t count, Count how) {
    std::vector<double> out;
    for (const auto item : split(list, ',')) {
        const auto value = parseNumber(item);
        if (!value) throw UsageError(fmt::format("{}: \"{}\" is not a number.", option, item));
        out.push_back(*value);
    }
    if (how == Count::Exact ? out.size() != count : out.size() < count)
        throw UsageError(fmt::format("{} takes {}{} numbers, separated by commas; there are {}.", option,
                                     how == Count::Exact ? "" : "at least ", count, out.size()));
    return out;
}

Frame frame(const std::string& extent, double cell) {
    const auto n = numbers(extent, "--frame", 4);
    return frameOf(nlohmann::json{{"xmin", n[0]}, {"ymin", n[1]}, {"xmax", n[2]}, {"ymax", n[3]}, {"cell", cell}});
}

namespace {

std::size_t columnNamed(const Table& table, const std::string& wanted, std::initializer_list<const char*> guesses,
                        const char* what) {
    if (!wanted.empty()) {
        if (const auto column = table.column(wanted)) return *column;
        throw FileError(
            fmt::format("{} has no column {}; its columns are: {}.", table.name, wanted, fmt::join(table.columns, ", ")));
    }
    for (const char* guess : guesses)
        if (const auto column = table.column(guess)) return *column;
    throw FileError(
        fmt::format("{} has no column for {}; its columns are: {}.", table.name, what, fmt::join(table.columns, ", ")));
}

double numberIn(const Table& table, const Table::Row& row, std::size_t column) {
    const std::string text = column < row.cells.size() ? row.cells[column] : "";
    if (const auto value = parseNumber(text)) return *value;
    throw FileError(
        fmt::format("{}, line {}: {} is \"{}\", which is not a number.", table.name, row.line, table.columns[column], text));
}

constexpr auto kEastings = {"easting", "e", "x"};
constexpr auto kNorthings = {"northing", "n", "y"};
constexpr auto kLevels = {"level", "z", "elevation", "value"};

} // namespace

std::vector<Point3> readPoints(const std::filesystem::path& path, const CsvColumns& columns) {
    const auto table = readTable(readBytes(path), path.string());
    const auto x = columnNamed(table, columns.x, kEastings, "easting"), y = columnNamed(table, columns.y, kNorthings, "northing"),
               z = columnNamed(table, columns.z, kLevels, "level");
    std::vector<Point3> points;
    for (const auto& row : table.rows)
        points.push_back({numberIn(table, row, x), numberIn(table, row, y), numberIn(table, row, z)});
    return points;
}

PlacesFile::PlacesFile(const std::filesystem::path& path, Unnamed unnamed) {
    const auto table = readTable(readBytes(path), path.string());
    const bool named = std::ranges::any_of(kEastings, [&](const char* c) { return table.column(c).has_value(); });
    const bool byName = named || table.columns.size() < 2 || unnamed == Unnamed::Refused;
    const auto x = byName ? columnNamed(table, "", kEastings, "easting") : 0;
    const auto y = byName ? columnNamed(table, "", kNorthings, "northing") : 1;
    m_header = table.columns;
    for (const auto& row : table.rows) {
        m_places.push_back({numberIn(table, row, x), numberIn(table, row, y)});
        m_rows.push_back(row.cells);
    }
}

std::string PlacesFile::with(const std::vector<std::pair<std::string, std::vector<double>>>& columns) const {
    std::string out;
    const auto line = [&](const std::vector<std::string>& cells, auto&& extra) {
        for (std::size_t i = 0; i < m_header.size(); ++i) out += (i ? "," : "") + tableCell(i < cells.size() ? cells[i] : "");
        for (const auto& column : columns) out += "," + extra(column);
        out += '\n';
    };
    line(m_header, [](const auto& column) { return column.first; });
    for (std::size_t r = 0; r < m_rows.size(); ++r)
        line(m_rows[r], [&](const auto& column) {
            return std::isnan(column.second[r]) ? std::string() : fmt::format("{}", column.second[r]);
        });
    return out;
}

std::string today() { return fmt::format("{:%Y-%m-%d}", fmt::localtime(std::time(nullptr))); }

} // namespace fox::run
