#include "formats/ags_check.h"

#include "base/text.h"
#include "formats/ags_check_parts.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <set>
#include <unordered_map>
#include <unordered_set>
#include <utility>

namespace fox {

namespace {

/// A key value of a row: its cells with a mark between that no field holds.
std::string keyOf(const AgsGroup& g, std::size_t row, const std::vector<std::size_t>& columns) {
    std::string key;
    for (const auto c : columns) {
        key += trimmed(g.cell(row, c));
        key += '\x1f';
    }
    return key;
}

class Checker {
public:
    Checker(const AgsFile& file, const std::optional<std::filesystem::path>& folder, const Progress& progress)
        : m_file(file), m_folder(folder), m_progress(progress), m_dictionary(AgsDictionary::of(file)), m_out(file) {}

    Findings check() {
        checkWhole();
        for (std::size_t i = 0; i < m_file.groups.size(); ++i) {
            m_progress.report(double(i) / double(m_file.groups.size()), "Checking " + m_file.groups[i].name);
            checkGroup(m_file.groups[i]);
        }
        checkAgsLookUps(m_file, m_dictionary, m_folder, m_progress, m_out);
        auto out = m_out.take();
        out.insert(out.end(), m_file.findings.begin(), m_file.findings.end());
        std::ranges::stable_sort(out, {}, &Finding::line);
        return out;
    }

private:
    bool four() const { return m_file.edition == AgsEdition::Ags4; }

    using Rule = AgsRule;

    void add(const Rule& rule, int line, std::string group, std::string heading, std::string hole, std::string words) {
        m_out.add(rule, line, std::move(group), std::move(heading), std::move(hole), std::move(words));
    }

    // --- the file as a whole: rules 2, 13, 14, 15 to 17, 20

    void checkWhole() {
        static constexpr Rule kEmpty{"2", "2"};
        if (std::ranges::none_of(m_file.groups, [](const AgsGroup& g) { return !g.rows.empty(); }))
            add(kEmpty, 1, "", "", "", "The file has no group with a row of data.");
        one("PROJ", {"13", "13"}, "what project the data is of");
        if (four()) one("TRAN", {"14", ""}, "who sent the data, when and in which edition");
        checkEdition();
    }

    void checkEdition() {
        static constexpr std::string_view kKnown[] = {"3", "3.0", "3.1", "3.1a", "4", "4.0", "4.0.3", "4.0.4", "4.1", "4.1.1"};
        if (std::ranges::count(kKnown, lower(m_file.version)) > 0) return;
        const auto* group = m_file.group(four() ? "TRAN" : "PROJ");
        add({"14", "FC-FORM", Severity::Warning}, group->rows.front().line, group->name, four() ? "TRAN_AGS" : "PROJ_AGS", "",
            fmt::format("The edition is given as \"{}\", which is not a known one; the file is checked as edition {}.",
                        shown(m_file.version), four() ? "4" : "3"));
    }

    void one(const char* name, const Rule& rule, const char* purpose) {
        const auto* g = m_file.group(name);
        if (!g || g->rows.empty())
            add(rule, g ? g->line : 1, name, "", "", fmt::format("The file has no {} row: it does not say {}.", name, purpose));
        else if (g->rows.size() > 1)
            add(rule, g->rows[1].line, name, "", "", fmt::format("{} has {} rows; it must have one.", name, g->rows.size()));
    }

    // --- one group

    void checkGroup(const AgsGroup& g) {
        checkRows(g);
        checkNames(g);
        const auto* rule = m_dictionary.group(g.name);
        checkHeadings(g, rule);
        if (four()) checkTypes(g, rule);
        if (!four()) checkNumbers3(g, rule);
        if (!rule) return;
        if (!rule->unproven) checkKeys(g, *rule);
        if (!rule->unproven) checkRequired(g, *rule);
        checkParents(g, *rule);
    }

    void checkRows(const AgsGroup& g) {
        static constexpr Rule kOrder{"2b", "12"}, kFields{"4b", "12"};
        if (g.headingLine == 0 && g.headings.empty()) {
            add(kOrder, g.line, g.name, "", "", fmt::format("{} has no HEADING row.", g.name));
            return;
        }
        if (four()) {
            if (g.unitLine == 0) add(kOrder, g.line, g.name, "", "", fmt::format("{} has no UNIT row.", g.name));
            if (g.typeLine == 0) add(kOrder, g.line, g.name, "", "", fmt::format("{} has no TYPE row.", g.name));
            const int data = g.rows.empty() ? 0 : g.rows.front().line;
            int before = 0;
            for (const int line : {g.headingLine, g.unitLine, g.typeLine, data}) {
                if (line > 0 && line < before)
                    add(kOrder, line, g.name, "", "",
                        fmt::format("The rows of {} are not in the order GROUP, HEADING, UNIT, TYPE, DATA.", g.name));
                before = std::max(before, line);
            }
            if (g.rows.empty()) add({"2", ""}, g.line, g.name, "", "", fmt::format("{} has no DATA row.", g.name));
        }
        const auto sameCount = [&](int line, std::size_t n, const char* word) {
            if (line > 0 && n != g.headings.size())
                add(kFields, line, g.name, "", "",
                    fmt::format("The {} row of {} has {} fields where the HEADING row has {}.", word, g.name, n,
                                g.headings.size()));
        };
        checkPieces(g);
        sameCount(g.unitLine, g.units.size(), four() ? "UNIT" : "<UNITS>");
        sameCount(g.typeLine, g.types.size(), "TYPE");
    }

    /// Rows without units, in edition 3, and later pieces of a group.
    void checkPieces(const AgsGroup& g) {
        const auto* rule = m_dictionary.group(g.name);
        const bool hasUnits = rule && std::ranges::any_of(rule->headings, [](const auto& h) { return !h.unit.empty(); });
        if (!four() && g.unitLine == 0 && !g.rows.empty() && hasUnits)
            add({"", "FC-FORM", Severity::Warning}, g.headingLine, g.name, "", "",
                fmt::format("{} has no <UNITS> row: its values are taken to be in the standard's units.", g.name));
        for (const auto& piece : g.laterPieces) {
            if (four() && piece.unitLine == 0)
                add({"2b", ""}, piece.line, g.name, "", "", fmt::format("This part of {} has no UNIT row.", g.name));
            if (four() && piece.typeLine == 0)
                add({"2b", ""}, piece.line, g.name, "", "", fmt::format("This part of {} has no TYPE row.", g.name));
            for (std::size_t c = 0; c < std::min({piece.units.size(), g.units.size(), g.headings.size()}); ++c)
                if (const auto here = trimmed(piece.units[c]), before = trimmed(g.units[c]); !here.empty() && here != before)
                    add({"FC-UNIT", "FC-UNIT", Severity::Warning}, piece.unitLine, g.name, g.headings[c], "",
                        fmt::format("{} is in {} in this part of {} and in {} before; each row is read in its own unit.",
                                    g.headings[c], shown(here), g.name, before.empty() ? "no unit" : shown(before)));
        }
    }

    void checkNames(const AgsGroup& g) {
        const auto plain = [](std::string_view s, bool underscore) {
            return std::ranges::all_of(
                s, [&](char c) { return (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || (underscore && c == '_'); });
        };
        const auto name = std::string_view(g.name).substr(g.name.starts_with('?') ? 1 : 0);
        if (name.empty() || name.size() > 4 || !plain(name, false))
            add({"19", "7"}, g.line, g.name, "", "",
                fmt::format("The group's name {} is not one to four capitals or digits.", shown(g.name)));
        std::set<std::string_view> seen;
        for (const auto& heading : g.headings) {
            const auto h = std::string_view(heading).substr(!four() && heading.starts_with('?') ? 1 : 0);
            if (!seen.insert(heading).second)
                add({"7", "3"}, g.headingLine, g.name, heading, "", fmt::format("{} stands twice in {}.", heading, g.name));
            if (h.empty() || h.size() > 9 || !plain(h, true)) {
                add({"19a", "8"}, g.headingLine, g.name, heading, "",
                    fmt::format("The heading {} is not at most nine capitals, digits and underscores.",
                                h.empty() ? "(empty)" : shown(h)));
                continue;
            }
            const auto prefix = h.substr(0, h.find('_'));
            const bool borrowed = m_dictionary.ownerOf(h) || h.starts_with("SPEC_") || h.starts_with("TEST_");
            if (h.find('_') == h.npos || (prefix != name && !borrowed))
                add({"19b", ""}, g.headingLine, g.name, heading, "",
                    fmt::format("The heading {} neither begins with {}_ nor is borrowed from another group.", heading, g.name));
        }
    }

    void checkHeadings(const AgsGroup& g, const AgsGroupRule* rule) {
        static constexpr Rule kDictionary{"9", "4"};
        const bool ownMark = !four() && g.name.starts_with('?');
        if (!rule) {
            if (!ownMark || !m_file.group("DICT"))
                add(kDictionary, g.line, g.name, "", "",
                    fmt::format("{} is neither a group of the standard nor defined in DICT; it is kept as it is.",
                                shown(g.name)));
            undefined(g.line, g.name, "");
            return;
        }
        const auto* standard = AgsDictionary::standard(m_file.edition).group(g.name);
        std::optional<std::size_t> before;
        std::string beforeName;
        bool own = false;
        for (const auto& h : g.headings) {
            const auto position = rule->position(h);
            if (!position && rule->unproven) continue;
            if (!position) {
                add(kDictionary, g.headingLine, g.name, h, "",
                    fmt::format("{} is neither a heading of the standard's {} nor defined in DICT; it is kept as it is.",
                                shown(h), g.name));
                undefined(g.headingLine, g.name, h);
                continue;
            }
            const bool isOwn = standard && !standard->heading(h);
            if (own && !isOwn && standard)
                add({"9", ""}, g.headingLine, g.name, h, "",
                    fmt::format("{} is the standard's and stands behind a user-defined heading; those come last.", h));
            own |= isOwn;
            if (four() && before && *position < *before)
                add({"7", "", Severity::Warning}, g.headingLine, g.name, h, "",
                    fmt::format("{} stands behind {}; the dictionary has it before.", h, beforeName));
            if (!isOwn) before = position, beforeName = h;
        }
    }

    void undefined(int line, const std::string& group, const std::string& heading) {
        if (m_file.group("DICT")) return;
        if (std::exchange(m_saidDict, true)) return;
        add({"18", "16", Severity::Warning}, line, group, heading, "",
            "The file has groups or headings of its own and no DICT group that defines them.");
    }

    // --- rule 8

    void checkTypes(const AgsGroup& g, const AgsGroupRule* rule) {
        static constexpr Rule kValue{"8", ""};
        for (std::size_t c = 0; c < g.headings.size() && c < g.types.size(); ++c) {
            const auto type = std::string(trimmed(g.types[c]));
            const auto unit = c < g.units.size() ? std::string(trimmed(g.units[c])) : std::string();
            if (type.empty()) {
                add(kValue, g.typeLine, g.name, g.headings[c], "", fmt::format("{} has no TYPE.", g.headings[c]));
                continue;
            }
            if (!isAgsType(type))
                add(kValue, g.typeLine, g.name, g.headings[c], "",
                    fmt::format("{} is not a data type of the standard.", shown(type)));
            if (const auto* known = rule ? rule->heading(g.headings[c]) : nullptr; known && hidesType(type, known->type)) {
                checkHidden(g, c, type, *known);
                continue;
            }
            for (std::size_t r = 0; r < g.rows.size(); ++r) {
                const auto cell = g.cell(r, c);
                if (!fitsType(cell, type, unit))
                    add(kValue, g.rows[r].line, g.name, g.headings[c], holeAt(g, r),
                        fmt::format("{} is \"{}\", which is not of its type {}{}.", g.headings[c], shown(cell), type,
                                    type == "DT" || type == "T" ? " (" + unit + ")" : ""));
            }
        }
    }

    /// Such a column is judged by the dictionary; of numbers any count of decimals will do. Abbreviations are rule 16's.
    void checkHidden(const AgsGroup& g, std::size_t c, const std::string& type, const AgsHeadingRule& known) {
        static constexpr Rule kValue{"8", "", Severity::Warning}; // the file's own TYPE row admits what stands there
        add(kValue, g.typeLine, g.name, known.name, "",
            fmt::format("{} is of type {}, where the dictionary has {}: it is judged by the dictionary.", known.name, type,
                        known.type));
        const auto written = c < g.units.size() ? std::string(trimmed(g.units[c])) : std::string();
        const auto pattern = written.empty() ? known.unit : written;
        for (std::size_t r = 0; known.type != "PA" && r < g.rows.size(); ++r) {
            const auto cell = g.cell(r, c);
            const bool fits = isAgsNumberType(known.type) ? trimmed(cell).empty() || parseNumber(cell).has_value()
                                                          : fitsType(cell, known.type, pattern);
            if (!fits)
                add(kValue, g.rows[r].line, g.name, known.name, holeAt(g, r),
                    fmt::format("{} is \"{}\", which is not of the dictionary's type {}.", known.name, shown(cell), known.type));
        }
    }

    /// Edition 3 has no types, but a heading in metres or with a date pattern says what it holds.
    void checkNumbers3(const AgsGroup& g, const AgsGroupRule* rule) {
        static constexpr Rule kValue{"", "19"};
        for (std::size_t c = 0; c < g.headings.size(); ++c) {
            const auto* heading = rule ? rule->heading(g.headings[c]) : nullptr;
            const auto unit = c < g.units.size() && !trimmed(g.units[c]).empty() ? lower(trimmed(g.units[c]))
                              : heading                                          ? heading->unit
                                                                                 : std::string();
            const bool date = unit == "dd/mm/yyyy", number = unit == "m" || unit == "deg";
            if (!date && !number) continue;
            for (std::size_t r = 0; r < g.rows.size(); ++r) {
                const auto cell = trimmed(g.cell(r, c));
                if (cell.empty() || (date ? fitsType(cell, "DT", unit) : parseNumber(cell).has_value())) continue;
                add(kValue, g.rows[r].line, g.name, g.headings[c], holeAt(g, r),
                    fmt::format("{} is \"{}\", which is {}.", g.headings[c], shown(cell),
                                date ? "no date dd/mm/yyyy" : "no number"));
            }
        }
    }

    // --- rule 10

    std::vector<std::size_t> keyColumns(const AgsGroup& g, const AgsGroupRule& rule) const {
        std::vector<std::size_t> columns;
        for (const auto& h : rule.headings)
            if (const auto c = h.key ? g.column(h.name) : std::nullopt) columns.push_back(*c);
        return columns;
    }

    void checkKeys(const AgsGroup& g, const AgsGroupRule& rule) {
        static constexpr Rule kKey{"10a", "18"};
        for (const auto& h : rule.headings)
            if (h.key && !g.column(h.name) && (four() || h.required))
                add(kKey, g.headingLine, g.name, h.name, "", fmt::format("The key heading {} is missing in {}.", h.name, g.name));
        const auto columns = keyColumns(g, rule);
        if (columns.empty()) return;
        const auto* leading = rule.heading(g.headings[columns.front()]);
        for (std::size_t r = 0; leading && !leading->required && r < g.rows.size(); ++r)
            if (trimmed(g.cell(r, columns.front())).empty())
                add(kKey, g.rows[r].line, g.name, leading->name, "",
                    fmt::format("The key field {} is empty: the row can't be told to belong to anything.", leading->name));
        std::unordered_map<std::string, int> seen;
        seen.reserve(g.rows.size());
        for (std::size_t r = 0; r < g.rows.size(); ++r) {
            const auto [first, isNew] = seen.try_emplace(keyOf(g, r, columns), g.rows[r].line);
            if (!isNew)
                add(kKey, g.rows[r].line, g.name, g.headings[columns.size() == 1 ? columns[0] : columns.back()], holeAt(g, r),
                    fmt::format("This row of {} has the same key ({}) as the row on line {}.", g.name, keyInWords(g, r, columns),
                                first->second));
        }
    }

    std::string keyInWords(const AgsGroup& g, std::size_t row, const std::vector<std::size_t>& columns) const {
        std::string words;
        for (const auto c : columns)
            words += fmt::format("{}{} {}", words.empty() ? "" : ", ", g.headings[c], shown(trimmed(g.cell(row, c))));
        return words;
    }

    void checkRequired(const AgsGroup& g, const AgsGroupRule& rule) {
        static constexpr Rule kRequired{"10b", "18"};
        for (const auto& h : rule.headings) {
            if (!h.required) continue;
            const auto c = g.column(h.name);
            if (!c) {
                if (!h.key)
                    add(kRequired, g.headingLine, g.name, h.name, "",
                        fmt::format("The required heading {} is missing in {}.", h.name, g.name));
                continue;
            }
            for (std::size_t r = 0; r < g.rows.size(); ++r)
                if (trimmed(g.cell(r, *c)).empty())
                    add(kRequired, g.rows[r].line, g.name, h.name, holeAt(g, r),
                        fmt::format("{} is required and is empty.", h.name));
        }
    }

    void checkParents(const AgsGroup& g, const AgsGroupRule& rule) {
        static constexpr Rule kParent{"10c", "18"};
        const auto* parentRule = rule.parent.empty() ? nullptr : m_dictionary.group(rule.parent);
        if (!parentRule || g.rows.empty() || rule.parent == "PROJ") return;
        const auto* parent = m_file.group(rule.parent);
        if (!parent) {
            add(kParent, g.line, g.name, "", "",
                fmt::format("{} has rows, but its parent group {} is not in the file.", g.name, rule.parent));
            return;
        }
        std::vector<std::size_t> here, there; // the parent's key, where both have it
        for (const auto& h : parentRule->headings) {
            const auto c = h.key ? g.column(h.name) : std::nullopt, p = parent->column(h.name);
            if (c && p) here.push_back(*c), there.push_back(*p);
        }
        if (here.empty()) return;
        std::unordered_set<std::string> known;
        known.reserve(parent->rows.size());
        for (std::size_t r = 0; r < parent->rows.size(); ++r) known.insert(keyOf(*parent, r, there));
        for (std::size_t r = 0; r < g.rows.size(); ++r)
            if (!known.contains(keyOf(g, r, here)))
                add(kParent, g.rows[r].line, g.name, g.headings[here.back()], holeAt(g, r),
                    fmt::format("No row of {} has {}.", rule.parent, keyInWords(g, r, here)));
    }

    const AgsFile& m_file;
    const std::optional<std::filesystem::path>& m_folder;
    const Progress& m_progress;
    AgsDictionary m_dictionary;
    AgsFindings m_out;
    bool m_saidDict = false;
};

} // namespace

Findings checkAgs(const AgsFile& file, const std::optional<std::filesystem::path>& folder, const Progress& progress) {
    return Checker(file, folder, progress).check();
}

} // namespace fox
