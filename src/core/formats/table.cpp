#include "formats/table.h"

#include "base/errors.h"
#include "base/text.h"

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

/// One pass over the text; quotes hold separators and line breaks.
class Splitter {
public:
    Splitter(std::string_view text, char separator) : m_text(text), m_separator(separator) {}

    std::vector<Table::Row> rows() {
        for (m_at = 0; m_at < m_text.size(); ++m_at) take(m_text[m_at]);
        if (m_quoted || !m_cell.empty() || !m_row.empty()) endRow();
        return std::move(m_rows);
    }

private:
    void take(char c) {
        const bool lineEnd = c == '\n' || c == '\r';
        if (lineEnd && !(c == '\n' && m_at > 0 && m_text[m_at - 1] == '\r')) ++m_line;
        if (m_quoted) {
            if (c != '"')
                m_cell += c == '\r' ? ' ' : c == '\n' ? ' ' : c;
            else if (m_at + 1 < m_text.size() && m_text[m_at + 1] == '"')
                m_cell += m_text[++m_at];
            else
                m_quoted = false;
        } else if (c == '"' && trimmed(m_cell).empty()) {
            m_cell.clear();
            m_quoted = true;
        } else if (c == m_separator && c == ' ') {
            if (!m_cell.empty()) endCell(); // however many there are
        } else if (c == m_separator) {
            endCell();
        } else if (lineEnd) {
            endRow();
        } else {
            m_cell += c;
        }
    }

    void endCell() {
        m_row.emplace_back(trimmed(m_cell));
        m_cell.clear();
    }

    void endRow() {
        if (m_separator != ' ' || !m_cell.empty()) endCell();
        if (std::ranges::any_of(m_row, [](auto& c) { return !c.empty(); })) m_rows.push_back({m_start, std::move(m_row)});
        m_row.clear();
        m_quoted = false;
        m_start = m_line;
    }

    std::string_view m_text;
    char m_separator;
    std::size_t m_at = 0;
    bool m_quoted = false;
    int m_line = 1, m_start = 1;
    std::string m_cell;
    std::vector<std::string> m_row;
    std::vector<Table::Row> m_rows;
};

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

std::string utf16ToUtf8(std::string_view bytes, bool littleEndian) {
    std::string out;
    const auto unit = [&](std::size_t i) {
        const auto a = std::uint8_t(bytes[i]), b = std::uint8_t(bytes[i + 1]);
        return littleEndian ? unsigned(a | b << 8) : unsigned(b | a << 8);
    };
    const auto put = [&](unsigned code) {
        if (code < 0x80)
            out += char(code);
        else if (code < 0x800)
            out += {char(0xC0 | code >> 6), char(0x80 | (code & 0x3F))};
        else if (code < 0x10000)
            out += {char(0xE0 | code >> 12), char(0x80 | (code >> 6 & 0x3F)), char(0x80 | (code & 0x3F))};
        else
            out += {char(0xF0 | code >> 18), char(0x80 | (code >> 12 & 0x3F)), char(0x80 | (code >> 6 & 0x3F)),
                    char(0x80 | (code & 0x3F))};
    };
    for (std::size_t i = 2; i + 1 < bytes.size(); i += 2) {
        const auto high = unit(i);
        if (high >= 0xD800 && high < 0xDC00 && i + 3 < bytes.size()) {
            put(0x10000 + ((high - 0xD800) << 10) + ((unit(i + 2) - 0xDC00) & 0x3FF));
            i += 2;
        } else {
            put(high);
        }
    }
    return out;
}

/// Commas between digits and never a point: the comma is the decimal sign.
bool hasDecimalCommas(const std::vector<Table::Row>& rows) {
    int commas = 0, points = 0;
    for (const auto& row : rows)
        for (const auto& cell : row.cells) {
            const auto comma = cell.find(',');
            const bool digits = !cell.empty() && cell.find_first_not_of("0123456789,.-+") == cell.npos;
            if (digits && comma != cell.npos && cell.find(',', comma + 1) == cell.npos && cell.find('.') == cell.npos) ++commas;
            if (digits && cell.find('.') != cell.npos) ++points;
        }
    return commas > 0 && points == 0;
}

std::size_t filled(const Table::Row& row) {
    return std::size_t(std::ranges::count_if(row.cells, [](auto& c) { return !c.empty(); }));
}

} // namespace

Table tableOf(std::vector<Table::Row> rows, std::string name, std::vector<std::string> columns) {
    Table table;
    table.name = std::move(name);
    table.columns = std::move(columns);
    if (rows.empty()) throw FileError(fmt::format("{} is empty: there is nothing in it to read.", table.name));
    const bool named = !table.columns.empty();
    std::size_t header = 0;
    // a title over the table: lone cells above the first row of three or more
    const auto wide = std::ranges::find_if(rows, [](auto& r) { return filled(r) >= 3; });
    if (!named && wide != rows.end() && std::all_of(rows.begin(), wide, [](auto& r) { return filled(r) == 1; }))
        header = std::size_t(wide - rows.begin());
    const bool anyNumber = std::ranges::any_of(rows[header].cells, [](auto& c) { return parseNumber(c).has_value(); });
    if (!named) table.columns = rows[header].cells;
    const auto first = !named || !anyNumber ? header + 1 : header;
    table.rows.assign(std::make_move_iterator(rows.begin() + std::ptrdiff_t(first)), std::make_move_iterator(rows.end()));
    return table;
}

Table readTable(std::string_view bytes, std::string name, std::vector<std::string> columns) {
    std::string mended;
    if (bytes.starts_with("\xFF\xFE") || bytes.starts_with("\xFE\xFF"))
        bytes = mended = utf16ToUtf8(bytes, bytes.front() == '\xFF');
    if (bytes.starts_with("\xEF\xBB\xBF")) bytes.remove_prefix(3);
    if (!isUtf8(bytes)) bytes = mended = latin1ToUtf8(bytes);
    char separator = separatorOf(bytes);
    int passed = 0;
    if (bytes.starts_with("sep=") && bytes.size() > 4) {
        separator = bytes[4];
        const auto end = bytes.find('\n');
        bytes.remove_prefix(end == bytes.npos ? bytes.size() : end + 1);
        passed = 1;
    }
    auto rows = Splitter(bytes, separator).rows();
    for (auto& row : rows) row.line += passed;
    const bool commas = separator != ',' && hasDecimalCommas(rows);
    auto table = tableOf(std::move(rows), std::move(name), std::move(columns));
    table.separator = separator;
    table.decimalComma = commas;
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
