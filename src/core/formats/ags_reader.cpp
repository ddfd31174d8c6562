#include "formats/ags_reader.h"

#include "base/limits.h"
#include "base/text.h"
#include "formats/ags_row.h"

#include <algorithm>
#include <cstring>
#include <fmt/format.h>
#include <map>

namespace fox {

std::string_view firstAgsWord(std::string_view line) {
    line = trimmed(line);
    while (!line.empty() && (line.front() == '"' || line.front() == '\'')) line.remove_prefix(1);
    return line.substr(0, line.find_first_of("\"',;\t"));
}

namespace {

bool beginsRow4(std::string_view line) {
    const auto word = firstAgsWord(line);
    return equalNoCase(word, "DATA") || equalNoCase(word, "GROUP") || equalNoCase(word, "HEADING") || equalNoCase(word, "UNIT")
           || equalNoCase(word, "TYPE");
}

/// A fault that a file tends to have on every line: said once, with its first line and a count.
struct Tally {
    const char* rule4;
    const char* rule3;
    const char *one, *many; ///< after the number of lines
    int firstLine = 0, lines = 0;
    void add(int line) {
        if (lines++ == 0) firstLine = line;
    }
};

class Reader {
public:
    Reader(AgsFile& file, std::string& text, const Progress& progress) : m_file(file), m_text(text), m_progress(progress) {}

    void read() {
        const char* const begin = m_text.data();
        const char* const end = begin + m_text.size();
        m_at = begin;
        int untilReport = 0;
        while (m_at < end) {
            ++m_line;
            if (--untilReport < 0) {
                untilReport = 20000;
                m_progress.report(double(m_at - begin) / double(end - begin), "Reading " + m_file.name);
            }
            if (m_group && m_ags4 && readCleanDataRow(end)) continue;
            readAnyLine(end);
        }
        finish();
    }

private:
    /// The usual row, "DATA","a","b" and a line end, without a copy. False (and nothing read) if it is not one.
    bool readCleanDataRow(const char* end) {
        static constexpr std::string_view kLead = "\"DATA\",";
        if (end - m_at < std::ptrdiff_t(kLead.size()) || std::memcmp(m_at, kLead.data(), kLead.size()) != 0) return false;
        const auto* newline = static_cast<const char*>(std::memchr(m_at, '\n', std::size_t(end - m_at)));
        const char* const lineEnd = newline ? newline : end;
        auto& cells = m_group->cells;
        const std::size_t first = cells.size();
        if (first + m_group->headings.size() > cells.capacity()) makeRoom(end);
        m_doubled.clear();
        const char* p = m_at + kLead.size();
        while (p < lineEnd && *p == '"') {
            const char* const start = ++p;
            bool hasDoubled = false;
            for (p = endOfCell(p, lineEnd); p + 1 < lineEnd && p[1] == '"'; p = endOfCell(p + 2, lineEnd)) hasDoubled = true;
            if (p >= lineEnd) break;
            if (hasDoubled) m_doubled.push_back(cells.size());
            cells.emplace_back(start, std::size_t(p - start));
            ++p;
            if (p < lineEnd && *p == ',') {
                ++p;
                continue;
            }
            const bool carriageReturn = p < lineEnd && *p == '\r';
            if (p + carriageReturn != lineEnd || cells.size() - first != m_group->headings.size()) break;
            if (!carriageReturn) m_lineEnd.add(m_line);
            for (const auto c : m_doubled) cells[c] = madeSingle(cells[c]);
            m_group->rows.push_back({m_line, 1, first, 0});
            m_at = newline ? newline + 1 : end;
            return true;
        }
        cells.resize(first);
        return false;
    }

    /// The cell with each two quotes as one, in its place in the text: no copy is needed, as it gets shorter.
    std::string_view madeSingle(std::string_view cell) {
        char* const begin = m_text.data() + (cell.data() - m_text.data());
        char* const end = begin + cell.size();
        char* to = static_cast<char*>(std::memchr(begin, '"', cell.size()));
        for (const char* from = to; from < end;) {
            // a quote and the one behind it, then all up to the next
            *to++ = *from;
            from += 2;
            const auto* next = from < end ? static_cast<const char*>(std::memchr(from, '"', std::size_t(end - from))) : nullptr;
            const auto length = std::size_t((next ? next : end) - std::min<const char*>(from, end));
            std::memmove(to, from, length);
            to += length;
            from += length;
        }
        return {begin, std::size_t(to - begin)};
    }

    /// A large group gets at once the room that it would need if it went on to the end of the file: memory that is not
    /// touched costs nothing, and growing step by step would copy it again and again.
    void makeRoom(const char* end) {
        auto& cells = m_group->cells;
        constexpr std::size_t kLarge = 1 << 16; // cells
        std::size_t wanted = std::max<std::size_t>(256, cells.size() * 2);
        if (cells.size() >= kLarge && m_at > m_groupStart)
            wanted = std::max(
                wanted, std::size_t(1.02 * double(cells.size()) * double(end - m_groupStart) / double(m_at - m_groupStart)));
        cells.reserve(wanted + m_group->headings.size());
        m_group->rows.reserve(wanted / std::max<std::size_t>(1, m_group->headings.size()) + 1);
    }

    /// The next quote. Most cells are short: a few steps by hand, then the library's faster search.
    static const char* endOfCell(const char* p, const char* end) {
        constexpr std::ptrdiff_t kShort = 12;
        const char* const near = end - p > kShort ? p + kShort : end;
        while (p < near && *p != '"') ++p;
        if (p < near || p == end) return p;
        const auto* quote = static_cast<const char*>(std::memchr(p, '"', std::size_t(end - p)));
        return quote ? quote : end;
    }

    std::string_view takeLine(const char* end) {
        const auto* newline = static_cast<const char*>(std::memchr(m_at, '\n', std::size_t(end - m_at)));
        std::string_view line(m_at, std::size_t((newline ? newline : end) - m_at));
        m_at = newline ? newline + 1 : end;
        if (line.ends_with('\r'))
            line.remove_suffix(1);
        else if (newline && !trimmed(line).empty())
            m_lineEnd.add(m_line);
        return line;
    }

    bool beginsRow(std::string_view line) const {
        const auto word = firstAgsWord(line);
        return m_ags4 ? beginsRow4(line) : word.starts_with('*') || word.starts_with('<') || trimmed(line).starts_with('"');
    }

    /// A cell with more line breaks than this is a quote that was never closed: reading on would take the rest of the file.
    static constexpr int kMostBreaks = 50;

    void readAnyLine(const char* end) {
        m_progress.check();
        const int startLine = m_line;
        std::string_view line = takeLine(end);
        if (trimmed(line).empty()) return;
        LooseRow row = parseLooseRow(line, StrayQuote::IsText);
        std::string joined;
        if (auto cells = row.strayQuote || row.open ? withQuotesInside(line, row) : std::nullopt) {
            m_quoteInside.add(startLine);
            return m_ags4 ? take4(std::move(*cells), startLine) : take3(std::move(*cells), startLine, line);
        }
        // a quoted cell that did not end: a line break inside it, unless a new row begins below
        for (int breaks = 0; row.open && m_at < end && breaks < kMostBreaks && joined.size() < limits::kTextLength
                             && !beginsRow(peekLine(end)) && !trimmed(peekLine(end)).empty();
             ++breaks) {
            m_progress.check();
            if (joined.empty()) joined = line;
            ++m_line;
            joined += ' ';
            joined += trimmed(takeLine(end));
            m_breakInCell.add(startLine);
            row = parseLooseRow(joined, StrayQuote::IsText);
        }
        if (row.open && m_at >= end) {
            add(Severity::Error, 5, 0, startLine, "The file ends in the middle of a row: it may have been cut short.");
        } else if (row.strayQuote || row.open) {
            const auto other = parseLooseRow(joined.empty() ? line : std::string_view(joined), StrayQuote::StartsCell);
            const bool fits = m_group && other.cells.size() == m_group->headings.size() + (m_ags4 ? 1 : 0);
            if (fits || row.open) {
                add(Severity::Error, 5, 0, startLine,
                    "A quotation mark is missing; the row is read as it was most likely meant.");
                if (fits) row = other;
            } else {
                m_strayQuote.add(startLine);
            }
        }
        if (row.unquoted) m_unquoted.add(startLine);
        if (row.otherSeparator) m_separator.add(startLine);
        if (row.blanks) m_blanks.add(startLine);
        if (m_ags4)
            take4(std::move(row.cells), startLine);
        else
            take3(std::move(row.cells), startLine, line);
    }

    /// The cells of a row with quotes inside a cell that are not doubled, if it has as many as the group has headings when it is
    /// parted only where a cell ends for sure, at quote, comma, quote. Where that makes too many, cells of text are joined again.
    std::optional<std::vector<std::string>> withQuotesInside(std::string_view line, const LooseRow& read) const {
        if (!m_group || m_group->headings.empty() || firstAgsWord(line).starts_with('*')) return {};
        const auto lead = std::size_t(m_ags4); // the row's word
        const auto wanted = m_group->headings.size() + lead;
        if (read.cells.size() == wanted && !read.open && !read.unquoted) return {};
        auto cells = cellsBetweenQuotes(line);
        if (cells.size() < wanted) return {};
        if (cells.size() > wanted) {
            const auto column = columnOfText();
            if (!column) return {};
            joinCells(cells, *column + lead, cells.size() - wanted + 1);
        }
        return cells;
    }

    /// The column that is most likely to have quotes in its text: the first of descriptions, else of remarks, else of names.
    std::optional<std::size_t> columnOfText() const {
        for (const char* ending : {"_DESC", "_REM", "_NAME"})
            for (std::size_t c = 0; c < m_group->headings.size(); ++c)
                if (m_group->headings[c].ends_with(ending)) return c;
        return {};
    }

    std::string_view peekLine(const char* end) const {
        const auto* newline = static_cast<const char*>(std::memchr(m_at, '\n', std::size_t(end - m_at)));
        return {m_at, std::size_t((newline ? newline : end) - m_at)};
    }

    void take4(std::vector<std::string> cells, int line) {
        const std::string word = upper(trimmed(cells.front()));
        if (word != cells.front()) m_wordCase.add(line);
        cells.erase(cells.begin());
        if (word == "GROUP") {
            while (cells.size() > 1 && cells.back().empty()) cells.pop_back();
            if (cells.empty() || trimmed(cells.front()).empty()) {
                add(Severity::Error, 4, 0, line, "A GROUP row has no name; the rows under it are left out.");
                m_group = nullptr;
                return;
            }
            if (cells.size() > 1) add(Severity::Error, 4, 0, line, "A GROUP row holds more than the name.", "4a");
            beginGroup(std::string(trimmed(cells.front())), line);
        } else if (!m_group) {
            m_homeless.add(line);
        } else if (word == "HEADING") {
            setHeadings(std::move(cells), line);
        } else if (word == "UNIT") {
            m_group->unitLine = line;
            m_group->units = std::move(cells);
        } else if (word == "TYPE") {
            m_group->typeLine = line;
            m_group->types = std::move(cells);
        } else if (word == "DATA") {
            takeData(std::move(cells), line);
        } else {
            add(Severity::Error, 3, 0, line,
                fmt::format("A row begins with \"{}\", not with GROUP, HEADING, UNIT, TYPE or DATA; it is left out.",
                            word.substr(0, 40)));
        }
    }

    void take3(std::vector<std::string> cells, int line, std::string_view text) {
        auto& first = cells.front();
        if (m_group && !m_continued.empty() && !equalNoCase(first, "<CONT>")) endContinuation();
        if (text.size() > 240) m_long.add(line);
        if (first.starts_with("**")) {
            beginGroup(first.substr(2), line);
            m_headingsOpen = true;
        } else if (first.starts_with('*')) {
            while (cells.size() > 1 && cells.back().empty()) cells.pop_back(); // "a line that ends in a comma goes on"
            for (auto& c : cells) c.starts_with('*') ? void(c.erase(0, 1)) : m_withoutStar.add(line);
            if (!m_group) return m_homeless.add(line);
            if (!m_headingsOpen) return add(Severity::Error, 0, 3, line, "Headings stand among the data; they are left out.");
            auto all = m_group->headings;
            all.insert(all.end(), cells.begin(), cells.end());
            m_group->headings.clear();
            setHeadings(std::move(all), line);
        } else if (!m_group) {
            m_homeless.add(line);
        } else if (equalNoCase(first, "<UNITS>")) {
            m_headingsOpen = false;
            m_group->unitLine = line;
            // the row has a cell a heading, the first of which is the word itself
            first.clear();
            m_group->units = std::move(cells);
        } else if (equalNoCase(first, "<CONT>")) {
            if (m_group->rows.empty() && m_group->unitLine > 0)
                continueUnits(cells);
            else
                continueRow(cells, line);
        } else if (m_headingsOpen && areHeadings(cells)) {
            while (cells.size() > 1 && cells.back().empty()) cells.pop_back();
            m_withoutStar.add(line);
            auto all = m_group->headings;
            for (auto& c : cells) all.push_back(c.starts_with('*') ? c.substr(1) : c);
            m_group->headings.clear();
            setHeadings(std::move(all), line);
        } else {
            m_headingsOpen = false;
            takeData(std::move(cells), line);
        }
    }

    /// What <CONT> rows have added goes into the cells once the row has ended: a cell may be continued very often.
    void endContinuation() {
        for (auto& [at, text] : m_continued) m_group->cells[at] = keep(std::move(text));
        m_continued.clear();
    }

    void continueUnits(const std::vector<std::string>& cells) {
        auto& units = m_group->units;
        for (std::size_t i = 1; i < cells.size() && i < limits::kColumns; ++i) {
            if (i >= units.size()) units.resize(i + 1);
            units[i] += cells[i];
        }
    }

    /// Names like HOLE_ID in every cell, of which the first lacks its star.
    static bool areHeadings(const std::vector<std::string>& cells) {
        std::size_t named = 0;
        for (const auto& cell : cells) {
            const auto name = std::string_view(cell).substr(cell.starts_with('*') ? 1 : 0);
            const bool plain = std::ranges::all_of(
                name, [](char c) { return (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_' || c == '?'; });
            if (!plain || (!name.empty() && name.find('_') == name.npos)) return false;
            named += name.size() > 4;
        }
        return named > 0;
    }

    void continueRow(const std::vector<std::string>& cells, int line) {
        if (m_group->rows.empty())
            return add(Severity::Error, 0, 14, line, "A <CONT> row has no row above to continue; it is left out.");
        auto& row = m_group->rows.back();
        row.lines = m_line - row.line + 1;
        const auto first = row.firstCell;
        for (std::size_t i = 1; i < cells.size() && i < m_group->headings.size(); ++i)
            if (!cells[i].empty()) {
                m_progress.check();
                const auto [text, isNew] = m_continued.try_emplace(first + i, m_group->cells[first + i]);
                if (text->second.size() < limits::kTextLength) text->second += cells[i];
            }
    }

    void beginGroup(std::string name, int line) {
        const std::string capitals = upper(name);
        if (capitals != name) m_case.add(line);
        if (m_file.group(capitals))
            add(Severity::Error, 2, 3, line, fmt::format("Group {} comes a second time; its rows are joined.", capitals), "2b");
        m_group = &m_file.groups.emplace_back();
        m_groupStart = m_at;
        m_group->name = capitals;
        m_group->line = line;
    }

    void setHeadings(std::vector<std::string> headings, int line) {
        while (headings.size() > 1 && headings.back().empty()) headings.pop_back();
        for (auto& h : headings) {
            const std::string capitals = upper(trimmed(h));
            if (capitals != h) m_case.add(line);
            h = capitals;
        }
        if (!m_group->rows.empty()) { // other headings from here on: another piece of the group
            add(Severity::Error, 2, 3, line,
                fmt::format("Group {} has headings a second time; the rows below them are read by those.", m_group->name), "2b");
            const auto name = m_group->name;
            m_group = &m_file.groups.emplace_back();
            m_group->name = name;
            m_group->line = line;
        }
        if (m_group->headingLine == 0) m_group->headingLine = line;
        if (headings.size() > limits::kColumns) {
            add(Severity::Error, 7, 3, line,
                fmt::format("{} has {} headings; those beyond {} are left out.", m_group->name, headings.size(),
                            limits::kColumns));
            headings.resize(limits::kColumns);
        }
        m_group->headings = std::move(headings);
    }

    void takeData(std::vector<std::string> cells, int line) {
        const auto wanted = m_group->headings.size();
        if (wanted == 0) return m_homeless.add(line);
        while (cells.size() > wanted && trimmed(cells.back()).empty()) {
            cells.pop_back();
            m_trailing.add(line);
        }
        if (cells.size() != wanted) {
            add(Severity::Error, 4, 0, line,
                fmt::format("The row has {} fields where {} has {} headings; {}.", cells.size(), m_group->name, wanted,
                            cells.size() < wanted ? "the missing ones are taken as empty" : "those beyond are left out"),
                "4b");
            // rows far shorter than the headings would make many times as many cells as the file has bytes
            if (cells.size() < wanted) m_filledCells += wanted - cells.size();
            if (m_filledCells > m_text.size() + kFilledCells)
                throw FileError(fmt::format("{}, line {}: {} has {} headings and rows that are far shorter; that is not a table "
                                            "that can be read.",
                                            m_file.name, line, m_group->name, wanted));
            cells.resize(wanted);
        }
        m_group->rows.push_back({line, m_line - line + 1, m_group->cells.size(), 0});
        for (auto& c : cells) m_group->cells.push_back(keep(std::move(c)));
    }

    static constexpr std::size_t kFilledCells = 1'000'000; ///< that short rows may have beside the file's size

    std::string_view keep(std::string cell) { return m_file.mended.emplace_back(std::move(cell)); }

    void add(Severity severity, int rule4, int rule3, int line, std::string message, std::string_view ruleText = {}) {
        std::string rule = "FC-FORM";
        if (m_ags4 && rule4 > 0)
            rule = fmt::format("AGS4 Rule {}", ruleText.empty() ? fmt::to_string(rule4) : std::string(ruleText));
        if (!m_ags4 && rule3 > 0) rule = fmt::format("AGS3 Rule {}", rule3);
        m_file.findings.push_back({severity, rule, m_file.name, line, m_group ? m_group->name : "", "", "", std::move(message)});
    }

    void finish() {
        if (m_group) endContinuation();
        joinSplitGroups();
        for (auto* tally : {&m_lineEnd, &m_unquoted, &m_separator, &m_blanks, &m_case, &m_wordCase, &m_breakInCell, &m_strayQuote,
                            &m_quoteInside, &m_trailing, &m_homeless, &m_withoutStar, &m_long})
            if (tally->lines > 0) {
                const char* rule = m_ags4 ? tally->rule4 : tally->rule3;
                m_file.findings.push_back({Severity::Error, rule, m_file.name, tally->firstLine, "", "", "",
                                           counted(std::size_t(tally->lines), tally->one, tally->many)});
            }
        std::ranges::stable_sort(m_file.findings, {}, &Finding::line);
    }

    /// Rows of a group's later pieces go to the first, heading by heading.
    void joinSplitGroups() {
        std::vector<AgsGroup> joined;
        for (auto& piece : m_file.groups) {
            auto first = std::ranges::find(joined, piece.name, &AgsGroup::name);
            if (first == joined.end()) {
                joined.push_back(std::move(piece));
                continue;
            }
            for (const auto& h : piece.headings)
                if (!first->column(h)) first->addHeading(h);
            first->laterPieces.push_back(inOrderOf(*first, piece));
            const int number = int(first->laterPieces.size());
            for (std::size_t r = 0; r < piece.rows.size(); ++r) {
                first->rows.push_back({piece.rows[r].line, piece.rows[r].lines, first->cells.size(), number});
                for (const auto& h : first->headings) {
                    const auto column = piece.column(h);
                    first->cells.push_back(column ? piece.cell(r, *column) : std::string_view());
                }
            }
        }
        m_file.groups = std::move(joined);
    }

    /// Units and types of a later piece by the headings of the first.
    static AgsGroup::Piece inOrderOf(const AgsGroup& first, const AgsGroup& piece) {
        AgsGroup::Piece out{piece.line, piece.unitLine, piece.typeLine, {}, {}};
        const auto put = [&](const std::vector<std::string>& from, std::vector<std::string>& to) {
            for (const auto& h : first.headings) {
                const auto column = piece.column(h);
                to.push_back(column && *column < from.size() ? from[*column] : std::string());
            }
        };
        put(piece.units, out.units);
        put(piece.types, out.types);
        return out;
    }

    std::map<std::size_t, std::string> m_continued; ///< cells of the last row that <CONT> rows go on with
    std::size_t m_filledCells = 0;
    std::vector<std::size_t> m_doubled; ///< cells of the row at hand in which quotes are doubled
    AgsFile& m_file;
    std::string& m_text;
    const Progress& m_progress;
    const bool m_ags4 = m_file.edition == AgsEdition::Ags4;
    const char* m_at = nullptr;
    const char* m_groupStart = nullptr;
    int m_line = 0;
    AgsGroup* m_group = nullptr;
    bool m_headingsOpen = false;
    Tally m_lineEnd{"AGS4 Rule 2a", "FC-FORM", "line does not end in CR LF.", "lines do not end in CR LF."};
    Tally m_unquoted{"AGS4 Rule 5", "AGS3 Rule 5", "row has fields without quotation marks.",
                     "rows have fields without quotation marks."};
    Tally m_separator{"AGS4 Rule 6", "AGS3 Rule 6", "row uses another separator or quotation mark than the standard's.",
                      "rows use another separator or quotation mark than the standard's."};
    Tally m_blanks{"AGS4 Rule 6", "AGS3 Rule 6", "row has blanks between fields.", "rows have blanks between fields."};
    Tally m_case{"AGS4 Rule 19", "AGS3 Rule 2", "name is not in capitals as written.", "names are not in capitals as written."};
    Tally m_wordCase{"AGS4 Rule 3", "FC-FORM", "row begins with its word in small letters.",
                     "rows begin with their word in small letters."};
    Tally m_breakInCell{"AGS4 Rule 6", "AGS3 Rule 6", "line break inside a field was read as a blank.",
                        "line breaks inside fields were read as blanks."};
    Tally m_strayQuote{"AGS4 Rule 5", "AGS3 Rule 5", "row has quotation marks inside a field that are not doubled.",
                       "rows have quotation marks inside a field that are not doubled."};
    Tally m_quoteInside{"AGS4 Rule 5", "AGS3 Rule 5",
                        "row has quotation marks inside a field that are not doubled; they are taken as a part of its text.",
                        "rows have quotation marks inside a field that are not doubled; they are taken as a part of its text."};
    Tally m_trailing{"AGS4 Rule 4b", "FC-FORM", "empty field stands beyond the last heading.",
                     "empty fields stand beyond the last heading."};
    Tally m_homeless{"AGS4 Rule 2b", "AGS3 Rule 3", "row stands before any group or its headings; it is left out.",
                     "rows stand before any group or its headings; they are left out."};
    Tally m_withoutStar{"FC-FORM", "FC-FORM", "heading lacks its star; it is taken as a heading.",
                        "headings lack their star; they are taken as headings."};
    Tally m_long{"FC-FORM", "AGS3 Rule 9", "line is longer than 240 characters.", "lines are longer than 240 characters."};
};

} // namespace

void readAgsRows(AgsFile& file, std::string& text, const Progress& progress) { Reader(file, text, progress).read(); }

} // namespace fox
