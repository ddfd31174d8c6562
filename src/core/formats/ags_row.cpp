#include "formats/ags_row.h"

#include "base/text.h"

#include <algorithm>

namespace fox {

namespace {

/// The separator of a line: a comma unless the line has none outside quotes but another one.
char separatorOf(std::string_view line, char quote) {
    int commas = 0, semicolons = 0, tabs = 0;
    bool inside = false;
    for (const char c : line) {
        if (c == quote) inside = !inside;
        if (inside) continue;
        commas += c == ',', semicolons += c == ';', tabs += c == '\t';
    }
    if (commas > 0 || (semicolons == 0 && tabs == 0)) return ',';
    return semicolons >= tabs ? ';' : '\t';
}

} // namespace

std::vector<std::string> cellsBetweenQuotes(std::string_view line) {
    std::vector<std::string> cells;
    line = trimmed(line);
    if (line.size() < 2 || line.front() != '"' || line.back() != '"') return cells;
    line = line.substr(1, line.size() - 2);
    constexpr std::string_view kBetween = "\",\"";
    for (;;) {
        const auto end = line.find(kBetween);
        std::string cell(line.substr(0, end));
        for (auto at = cell.find("\"\""); at != cell.npos; at = cell.find("\"\"", at + 1)) cell.erase(at, 1);
        cells.push_back(std::move(cell));
        if (end == line.npos) return cells;
        line.remove_prefix(end + kBetween.size());
    }
}

void joinCells(std::vector<std::string>& cells, std::size_t first, std::size_t count) {
    const auto from = cells.begin() + std::ptrdiff_t(first);
    for (auto at = from + 1; at != from + std::ptrdiff_t(count); ++at) *from += "\",\"" + *at;
    cells.erase(from + 1, from + std::ptrdiff_t(count));
}

LooseRow parseLooseRow(std::string_view line, StrayQuote stray) {
    LooseRow row;
    line = trimmed(line);
    const char quote = line.starts_with('\'') ? '\'' : '"';
    const char separator = separatorOf(line, quote);
    row.otherSeparator = separator != ',' || quote != '"';

    const auto skipBlanks = [&](std::size_t i) {
        while (i < line.size() && line[i] == ' ') ++i;
        return i;
    };
    std::size_t i = 0;
    for (;;) {
        std::size_t start = skipBlanks(i);
        if (start > i) row.blanks = true;
        std::string cell;
        if (start < line.size() && line[start] == quote) {
            bool closed = false;
            i = start + 1;
            while (i < line.size() && !closed) {
                if (line[i] != quote) {
                    cell += line[i++];
                    continue;
                }
                const auto next = skipBlanks(i + 1);
                if (i + 1 < line.size() && line[i + 1] == quote && !(next == i + 1 && cell.empty() && i + 2 >= line.size())) {
                    cell += quote;
                    i += 2;
                } else if (next >= line.size() || line[next] == separator) {
                    closed = true;
                    row.blanks |= next > i + 1 && next < line.size();
                    i = next;
                } else if (stray == StrayQuote::StartsCell && cell.ends_with(separator)) {
                    cell.pop_back();
                    row.strayQuote = closed = true;
                    --i; // stand on the separator, the quote opens the next cell
                } else {
                    row.strayQuote = true;
                    cell += line[i++];
                }
            }
            row.open = !closed;
        } else {
            const auto end = std::min(line.find(separator, start), line.size());
            cell = trimmed(line.substr(start, end - start));
            row.unquoted = true;
            i = end;
        }
        row.cells.push_back(std::move(cell));
        if (i >= line.size()) return row;
        ++i;                    // the separator
        if (i >= line.size()) { // a trailing separator makes an empty cell
            row.cells.emplace_back();
            return row;
        }
    }
}

} // namespace fox
