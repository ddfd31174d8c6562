#include "formats/table.h"

#include "base/errors.h"
#include "base/text.h"

#include <algorithm>
#include <fmt/format.h>

namespace fox {

std::optional<std::size_t> Table::column(std::string_view heading) const {
    for (std::size_t i = 0; i < columns.size(); ++i)
        if (equalNoCase(trimmed(columns[i]), heading)) return i;
    return {};
}

namespace {

std::vector<std::string> cellsOf(std::string_view line, char separator) {
    std::vector<std::string> cells(1);
    bool quoted = false;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const char c = line[i];
        if (quoted) {
            if (c != '"')
                cells.back() += c;
            else if (i + 1 < line.size() && line[i + 1] == '"')
                cells.back() += line[++i];
            else
                quoted = false;
        } else if (c == '"' && trimmed(cells.back()).empty()) {
            cells.back().clear();
            quoted = true;
        } else if (c == separator) {
            cells.emplace_back();
        } else {
            cells.back() += c;
        }
    }
    for (auto& cell : cells) cell = std::string(trimmed(cell));
    return cells;
}

char separatorOf(std::string_view bytes) {
    const auto head = bytes.substr(0, 2000);
    const auto times = [&](char c) { return std::ranges::count(head, c); };
    // a semicolon or tab wins over commas, which may then be decimal signs
    if (times(';') > 0) return ';';
    return times('\t') > 0 ? '\t' : ',';
}

} // namespace

Table readTable(std::string_view bytes, std::string name, std::vector<std::string> columns) {
    Table table;
    table.name = std::move(name);
    table.columns = std::move(columns);
    if (bytes.starts_with("\xEF\xBB\xBF")) bytes.remove_prefix(3);
    table.separator = separatorOf(bytes);
    const bool named = !table.columns.empty();
    bool first = true;
    int number = 0;
    while (!bytes.empty()) {
        ++number;
        const auto end = bytes.find('\n');
        const auto line = trimmed(bytes.substr(0, end));
        bytes.remove_prefix(end == bytes.npos ? bytes.size() : end + 1);
        if (line.empty()) continue;
        auto cells = cellsOf(line, table.separator);
        if (first) {
            first = false;
            const bool anyNumber = std::ranges::any_of(cells, [](auto& c) { return parseNumber(c).has_value(); });
            if (!named) table.columns = std::move(cells);
            if (!named || !anyNumber) continue;
        }
        table.rows.push_back({number, std::move(cells)});
    }
    if (first) throw FileError(fmt::format("{} is empty: there is nothing in it to read.", table.name));
    return table;
}

std::string tableCell(std::string_view cell) {
    if (cell.find_first_of(",;\t\"\n") == cell.npos) return std::string(cell);
    std::string out = "\"";
    for (const char c : cell) {
        if (c == '"') out += '"';
        out += c;
    }
    return out + '"';
}

} // namespace fox
