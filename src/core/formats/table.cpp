#include "formats/table.h"

#include "base/encoding.h"
#include "base/errors.h"
#include "base/text.h"
#include "formats/table_rows.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace fox {

std::optional<std::size_t> Table::column(std::string_view heading) const {
    for (std::size_t i = 0; i < columns.size(); ++i)
        if (equalNoCase(trimmed(columns[i]), heading)) return i;
    return {};
}

std::string_view Table::cell(std::size_t row, std::size_t c) const {
    const auto& cells = rows[row].cells;
    return c < cells.size() ? trimmed(cells[c]) : std::string_view();
}

std::optional<double> Table::number(std::size_t row, std::size_t c) const {
    const auto text = cell(row, c);
    if (!decimalComma) return parseNumber(text);
    std::string pointed(text);
    std::ranges::replace(pointed, ',', '.');
    return parseNumber(pointed);
}

namespace {

/// Whether blanks part the cells: most of the first lines have three words or more, as many in each, and nearly all are numbers.
bool isPartedByBlanks(std::string_view text) {
    constexpr int kLooked = 20;
    std::map<std::size_t, int> widths;
    int lines = 0;
    for (const auto line : split(text, '\n')) {
        if (trimmed(line).empty()) continue;
        std::size_t words = 0, numbers = 0;
        for (const auto part : split(trimmed(line), ' ')) {
            std::string word(part);
            if (word.empty()) continue;
            ++words;
            const auto comma = word.find(',');
            if (comma != word.npos && comma > 0 && comma + 1 < word.size()) word[comma] = '.';
            numbers += parseNumber(word).has_value();
        }
        if (words >= 3 && numbers >= 2) ++widths[words];
        if (++lines == kLooked) break;
    }
    return lines > 0 && std::ranges::any_of(widths, [&](const auto& w) { return 10 * w.second >= 6 * lines; });
}

char separatorOf(std::string_view text) {
    const auto head = text.substr(0, 2000);
    const auto times = [&](char c) { return std::ranges::count(head, c); };
    if (times(';') == 0 && times('\t') == 0 && times('|') == 0 && isPartedByBlanks(head)) return ' ';
    // a semicolon or tab wins over commas, which may then be decimal signs
    if (times(';') > 0) return ';';
    if (times('\t') > 0) return '\t';
    return times(',') == 0 && times('|') > 0 ? '|' : ',';
}

/// Commas between digits and never a point, but those of dates: the comma is the decimal sign.
/// Also where some columns have points: tables are joined from several programs. A comma before three digits may part thousands.
bool hasDecimalCommas(const std::vector<Table::Row>& rows) {
    int commas = 0, sure = 0, points = 0;
    for (const auto& row : rows)
        for (const auto& cell : row.cells) {
            const auto comma = cell.find(',');
            const bool digits = !cell.empty() && cell.find_first_not_of("0123456789,.-+") == cell.npos;
            if (digits && comma != cell.npos && cell.find(',', comma + 1) == cell.npos && cell.find('.') == cell.npos) {
                ++commas;
                sure += cell.size() - comma != 4;
            }
            // two points are a date's; one beside a comma parts thousands, or the comma does
            if (digits && comma == cell.npos && std::ranges::count(cell, '.') == 1) ++points;
        }
    return sure > 0 || (commas > 0 && points == 0);
}

std::size_t filled(const Table::Row& row) {
    return std::size_t(std::ranges::count_if(row.cells, [](auto& c) { return !c.empty(); }));
}

/// A number with a decimal comma is one too: 411941,32.
bool isAnyNumber(const std::string& cell) {
    if (parseNumber(cell)) return true;
    if (std::ranges::count(cell, ',') != 1) return false;
    auto pointed = cell;
    std::ranges::replace(pointed, ',', '.');
    return parseNumber(pointed).has_value();
}

bool hasNumber(const Table::Row& row) { return std::ranges::any_of(row.cells, isAnyNumber); }

/// How many rows stand over the table as its title: lone cells above the first row of three or more, or sentences whose commas
/// make up to half as many cells as rows usually have, above a header of at least as many as usual.
std::size_t titleRows(const std::vector<Table::Row>& rows) {
    constexpr std::size_t kLooked = 50;
    std::vector<std::size_t> widths;
    for (std::size_t r = 0; r < std::min(kLooked, rows.size()); ++r) widths.push_back(filled(rows[r]));
    std::ranges::nth_element(widths, widths.begin() + std::ptrdiff_t(widths.size() / 2));
    const auto usual = widths[widths.size() / 2];
    const auto header = std::ranges::find_if(rows, [&](auto& r) { return filled(r) >= usual && !hasNumber(r); });
    if (usual >= 3 && header != rows.end()
        && std::all_of(rows.begin(), header, [&](auto& r) { return 2 * filled(r) <= usual && !hasNumber(r); }))
        return std::size_t(header - rows.begin());
    const auto wide = std::ranges::find_if(rows, [](auto& r) { return filled(r) >= 3; });
    const bool lone = wide != rows.end() && std::all_of(rows.begin(), wide, [](auto& r) { return filled(r) == 1; });
    return lone ? std::size_t(wide - rows.begin()) : 0;
}

} // namespace

Table tableOf(std::vector<Table::Row> rows, std::string name, std::vector<std::string> columns) {
    Table table;
    table.name = std::move(name);
    table.columns = std::move(columns);
    if (rows.empty()) throw FileError(fmt::format("{} is empty: there is nothing in it to read.", table.name));
    const bool named = !table.columns.empty();
    auto header = titleRows(rows);
    if (named && std::any_of(rows.begin(), rows.begin() + std::ptrdiff_t(header), hasNumber)) header = 0; // may be data
    const bool anyNumber = hasNumber(rows[header]);
    if (!named) table.columns = rows[header].cells;
    const auto first = !named || !anyNumber ? header + 1 : header;
    table.rows.assign(std::make_move_iterator(rows.begin() + std::ptrdiff_t(first)), std::make_move_iterator(rows.end()));
    return table;
}

SeparatedText::SeparatedText(std::string_view bytes) {
    if (looksLikeUtf16(bytes) || !isUtf8(bytes)) bytes = m_owned = decodeText(std::string(bytes)).text;
    if (bytes.starts_with("\xEF\xBB\xBF")) bytes.remove_prefix(3);
    m_separator = separatorOf(bytes);
    if (bytes.starts_with("sep=") && bytes.size() > 4) {
        m_separator = bytes[4];
        const auto end = bytes.find('\n');
        bytes.remove_prefix(end == bytes.npos ? bytes.size() : end + 1);
        m_firstLine = 2;
    }
    m_text = bytes;
}

// A row without quotes ends at its line's end and is split where its separators are. One with quotes is gone through letter by
// letter: quotes hold separators and line breaks, and a doubled quote is one.
std::size_t SeparatedText::nextRow(std::size_t at, int& line, Cells& cells) const {
    cells.views.clear();
    cells.anyFilled = false;
    const auto* begin = m_text.data() + at;
    const auto left = m_text.size() - at;
    const auto* end = static_cast<const char*>(std::memchr(begin, '\n', left));
    auto length = end ? std::size_t(end - begin) : left;
    if (std::memchr(begin, '"', length)) return nextQuotedRow(at, line, cells);
    auto next = at + length + (end ? 1 : 0);
    if (const auto* back = static_cast<const char*>(std::memchr(begin, '\r', length))) {
        const auto upTo = std::size_t(back - begin);
        if (upTo + 1 < length || !end) next = at + upTo + 1; // a line end of its own
        length = upTo;
    }
    ++line;
    splitPlain(m_text.substr(at, length), cells);
    return next;
}

void SeparatedText::splitPlain(std::string_view row, Cells& cells) const {
    const auto add = [&](std::string_view cell) {
        cells.views.push_back(trimmed(cell));
        cells.anyFilled |= !cells.views.back().empty();
    };
    for (std::size_t from = 0;;) {
        const auto to = row.find(m_separator, from);
        const auto cell = row.substr(from, to - from);
        if (m_separator != ' ' || !cell.empty()) add(cell); // however many blanks there are
        if (to == row.npos) break;
        from = to + 1;
    }
}

std::size_t SeparatedText::nextQuotedRow(std::size_t at, int& line, Cells& cells) const {
    cells.quoted.clear();
    std::string cell;
    bool quoted = false;
    const auto endCell = [&] {
        cells.quoted.emplace_back(trimmed(cell));
        cell.clear();
    };
    for (; at < m_text.size(); ++at) {
        const char c = m_text[at];
        const bool lineEnd = c == '\n' || c == '\r';
        const bool secondOfTwo = c == '\n' && at > 0 && m_text[at - 1] == '\r';
        if (lineEnd && !secondOfTwo) ++line;
        if (quoted) {
            if (c != '"')
                cell += lineEnd ? ' ' : c;
            else if (at + 1 < m_text.size() && m_text[at + 1] == '"')
                cell += m_text[++at];
            else
                quoted = false;
        } else if (c == '"' && trimmed(cell).empty()) {
            cell.clear();
            quoted = true;
        } else if (c == m_separator && c == ' ') {
            if (!cell.empty()) endCell();
        } else if (c == m_separator) {
            endCell();
        } else if (lineEnd) {
            ++at;
            if (c == '\r' && at < m_text.size() && m_text[at] == '\n') ++at;
            break;
        } else {
            cell += c;
        }
    }
    if (m_separator != ' ' || !cell.empty()) endCell();
    for (const auto& text : cells.quoted) {
        cells.views.push_back(text);
        cells.anyFilled |= !text.empty();
    }
    return at;
}

namespace {
Table::Row rowOf(int line, const std::vector<std::string_view>& cells) { return {line, {cells.begin(), cells.end()}}; }

Table asTable(std::vector<Table::Row> rows, const SeparatedText& text, std::string name, std::vector<std::string> columns) {
    const bool commas = text.separator() != ',' && hasDecimalCommas(rows);
    auto table = tableOf(std::move(rows), std::move(name), std::move(columns));
    table.separator = text.separator();
    table.decimalComma = commas;
    return table;
}
} // namespace

Table readTable(std::string_view bytes, std::string name, std::vector<std::string> columns) {
    const SeparatedText text(bytes);
    std::vector<Table::Row> rows;
    text.eachRow([&](int line, const auto& cells) {
        rows.push_back(rowOf(line, cells));
        return true;
    });
    return asTable(std::move(rows), text, std::move(name), std::move(columns));
}

Table sampledTable(const SeparatedText& text, std::string name, std::vector<std::string> columns, std::size_t most,
                   std::size_t& count) {
    std::vector<Table::Row> rows;
    count = 0;
    text.eachRow([&](int, const auto&) { return ++count > 0; });
    const auto first = most / 2, stride = std::max<std::size_t>(1, count / std::max<std::size_t>(1, most - first));
    std::size_t at = 0;
    text.eachRow([&](int line, const auto& cells) {
        if (at < first || at % stride == 0) rows.push_back(rowOf(line, cells));
        ++at;
        return true;
    });
    return asTable(std::move(rows), text, std::move(name), std::move(columns));
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
