#include "formats/ags_changes.h"

#include "formats/ags_reader.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace fox {

namespace {

void appendQuoted(std::string& out, std::string_view cell) {
    out += '"';
    for (const char c : cell) {
        if (c == '"') out += '"';
        out += c;
    }
    out += '"';
}

/// Edition 3 allows 240 characters a line: long text goes on in <CONT> rows.
constexpr std::size_t kLongest3 = 240;

std::vector<std::string> rows3(const std::vector<std::string>& cells) {
    std::vector<std::string> lines{agsRow(cells)};
    if (lines[0].size() <= kLongest3) return lines;
    // short fields first, then pieces of the long ones
    std::vector<std::string> first = cells;
    std::vector<std::size_t> longOnes;
    for (std::size_t i = 0; i < cells.size(); ++i)
        if (cells[i].size() > 30) longOnes.push_back(i), first[i].clear();
    lines[0] = agsRow(first);
    for (const auto i : longOnes) {
        std::string_view rest = cells[i];
        while (!rest.empty()) {
            std::vector<std::string> next(cells.size());
            next[0] = "<CONT>";
            const auto bare = agsRow(next).size();
            std::size_t take = std::min(rest.size(), kLongest3 - std::min(bare, kLongest3 - 20));
            while (take > 1) { // doubled quotes take room
                next[i] = rest.substr(0, take);
                if (agsRow(next).size() <= kLongest3) break;
                --take;
            }
            next[i] = rest.substr(0, take);
            lines.push_back(agsRow(next));
            rest.remove_prefix(take);
        }
    }
    return lines;
}

/// Where each line of the file begins; one more at the end.
std::vector<std::size_t> lineStarts(std::string_view bytes) {
    std::vector<std::size_t> starts{0};
    for (std::size_t at = bytes.find('\n'); at != bytes.npos; at = bytes.find('\n', at + 1)) starts.push_back(at + 1);
    if (starts.back() != bytes.size()) starts.push_back(bytes.size());
    return starts;
}

class Rewriter {
public:
    Rewriter(const std::string& bytes, const AgsFile& file) : m_bytes(bytes), m_file(file), m_starts(lineStarts(bytes)) {}

    std::string rewrite(const std::vector<CellChange>& changes) {
        for (const auto& change : changes) take(change);
        for (auto& [group, added] : m_widened) widen(*group, added);
        for (const auto& [at, cells] : m_rows) replace(*at.first, at.second, cells);
        std::string out;
        out.reserve(m_bytes.size() + 4096);
        for (std::size_t line = 1; line < m_starts.size();) {
            const auto patch = m_patches.find(int(line));
            if (patch == m_patches.end()) {
                out.append(m_bytes, m_starts[line - 1], m_starts[line] - m_starts[line - 1]);
                ++line;
            } else {
                out += patch->second.text;
                line += std::size_t(patch->second.lines);
            }
        }
        return out;
    }

private:
    using RowKey = std::pair<const AgsGroup*, std::size_t>;

    void take(const CellChange& change) {
        for (const auto& g : m_file.groups)
            for (std::size_t r = 0; r < g.rows.size(); ++r) {
                if (g.rows[r].line != change.line) continue;
                auto column = g.column(change.heading);
                if (!column) {
                    auto& added = m_widened[&g];
                    const auto at = std::ranges::find(added, change.heading);
                    column = g.headings.size() + std::size_t(at - added.begin());
                    if (at == added.end()) added.push_back(change.heading);
                }
                auto& row = cellsOf(g, r);
                if (row.size() <= *column) row.resize(*column + 1);
                row[*column] = change.value;
                return;
            }
        throw FileError(fmt::format("{}, line {}: there is no row of data to change.", m_file.name, change.line));
    }

    std::vector<std::string>& cellsOf(const AgsGroup& g, std::size_t r) {
        auto& cells = m_rows[{&g, r}];
        if (cells.empty())
            for (std::size_t c = 0; c < g.headings.size(); ++c) cells.emplace_back(g.cell(r, c));
        return cells;
    }

    void widen(const AgsGroup& g, const std::vector<std::string>& added) {
        const bool four = m_file.edition == AgsEdition::Ags4;
        const auto line = [&](int number, std::vector<std::string> cells, const char* word,
                              const std::vector<std::string>& more) {
            if (number == 0) return;
            if (four) cells.insert(cells.begin(), word);
            cells.insert(cells.end(), more.begin(), more.end());
            patch(number, 1, {agsRow(cells)});
        };
        auto headings = g.headings;
        auto news = added;
        if (!four)
            for (auto* list : {&headings, &news})
                for (auto& h : *list) h = "*" + h;
        line(g.headingLine, headings, "HEADING", news);
        auto units = g.units;
        if (!four && !units.empty()) units[0] = "<UNITS>";
        line(g.unitLine, units, "UNIT", std::vector<std::string>(added.size()));
        line(g.typeLine, g.types, "TYPE", std::vector<std::string>(added.size(), "X"));
        for (std::size_t r = 0; r < g.rows.size(); ++r) cellsOf(g, r).resize(g.headings.size() + added.size());
    }

    void replace(const AgsGroup& g, std::size_t r, const std::vector<std::string>& cells) {
        if (m_file.edition == AgsEdition::Ags3) return patch(g.rows[r].line, g.rows[r].lines, rows3(cells));
        auto all = cells;
        all.insert(all.begin(), "DATA");
        patch(g.rows[r].line, g.rows[r].lines, {agsRow(all)});
    }

    void patch(int line, int lines, const std::vector<std::string>& rows) {
        const auto end = m_starts[std::size_t(line - 1 + lines)];
        // the line end that the file uses there
        const std::string_view old =
            std::string_view(m_bytes).substr(m_starts[std::size_t(line - 1)], end - m_starts[std::size_t(line - 1)]);
        const char* ending = old.ends_with("\r\n") ? "\r\n" : old.ends_with('\n') ? "\n" : "";
        std::string text;
        for (std::size_t i = 0; i < rows.size(); ++i) {
            text += rows[i];
            text += i + 1 < rows.size() && !*ending ? "\r\n" : ending;
        }
        m_patches[line] = {std::move(text), lines};
    }

    struct Patch {
        std::string text;
        int lines;
    };
    const std::string& m_bytes;
    const AgsFile& m_file;
    std::vector<std::size_t> m_starts;
    std::map<RowKey, std::vector<std::string>> m_rows;
    std::map<const AgsGroup*, std::vector<std::string>> m_widened;
    std::map<int, Patch> m_patches;
};

} // namespace

std::string agsRow(const std::vector<std::string>& cells) {
    std::string out;
    for (std::size_t i = 0; i < cells.size(); ++i) {
        if (i) out += ',';
        appendQuoted(out, cells[i]);
    }
    return out;
}

void change(AgsFile& file, const std::vector<CellChange>& changes) {
    if (changes.empty()) return;
    std::map<int, std::pair<AgsGroup*, std::size_t>> rows;
    for (auto& g : file.groups)
        for (std::size_t r = 0; r < g.rows.size(); ++r) rows[g.rows[r].line] = {&g, r};
    for (const auto& c : changes) {
        const auto at = rows.find(c.line);
        if (at == rows.end()) continue;
        auto& [group, row] = at->second;
        auto column = group->column(c.heading);
        if (!column) {
            group->addHeading(c.heading);
            column = group->headings.size() - 1;
        }
        group->cells[group->rows[row].firstCell + *column] = file.mended.emplace_back(c.value);
    }
}

std::string withChanges(const std::string& bytes, const std::string& name, const std::vector<CellChange>& changes) {
    if (changes.empty()) return bytes;
    const auto file = readAgs(bytes, name);
    auto text = agsText(bytes);
    text.text = Rewriter(text.text, file).rewrite(changes);
    return agsBytes(std::move(text));
}

} // namespace fox
