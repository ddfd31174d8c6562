#include "formats/ags_check.h"

#include "base/text.h"
#include "formats/ags_dictionary.h"

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

/// A cell for a sentence: not longer than a line.
std::string shown(std::string_view cell) {
    return cell.size() <= 40 ? std::string(cell) : fmt::format("{}...", cell.substr(0, 37));
}

class Checker {
public:
    Checker(const AgsFile& file, const std::optional<std::filesystem::path>& folder, const Progress& progress)
        : m_file(file), m_folder(folder), m_progress(progress), m_dictionary(AgsDictionary::of(file)) {}

    Findings check() {
        readTransmission();
        checkWhole();
        for (std::size_t i = 0; i < m_file.groups.size(); ++i) {
            m_progress.report(double(i) / double(m_file.groups.size()), "Checking " + m_file.groups[i].name);
            checkGroup(m_file.groups[i]);
        }
        checkLookUps();
        for (const auto& [where, tally] : m_tallies)
            if (tally.times > kListedEach) {
                auto f = tally.last;
                f.message = fmt::format("{} more like the {} before it in {}.", tally.times - kListedEach, kListedEach,
                                        f.heading.empty() ? f.group : f.heading);
                m_out.push_back(std::move(f));
            }
        m_out.insert(m_out.end(), m_file.findings.begin(), m_file.findings.end());
        std::ranges::stable_sort(m_out, {}, &Finding::line);
        return std::move(m_out);
    }

private:
    bool four() const { return m_file.edition == AgsEdition::Ags4; }

    /// `three` is the rule of edition 3; empty where only edition 4 has one.
    struct Rule {
        const char* four;
        const char* three;
        Severity severity = Severity::Error;
    };

    void add(const Rule& rule, int line, std::string group, std::string heading, std::string hole, std::string words) {
        const char* number = four() ? rule.four : rule.three;
        if (!*number) return; // the edition has no such rule
        Finding f{rule.severity,    fmt::format("AGS{} Rule {}", four() ? 4 : 3, number),
                  m_file.name,      line,
                  std::move(group), std::move(heading),
                  std::move(hole),  std::move(words)};
        auto& tally = m_tallies[f.rule + f.group + '.' + f.heading];
        if (++tally.times > kListedEach) {
            tally.last = std::move(f);
            return;
        }
        m_out.push_back(std::move(f));
    }

    std::string holeAt(const AgsGroup& g, std::size_t row) const {
        auto column = g.column("LOCA_ID");
        if (!column) column = g.column("HOLE_ID");
        return column ? std::string(trimmed(g.cell(row, *column))) : std::string();
    }

    void readTransmission() {
        const auto* tran = m_file.group("TRAN");
        if (!tran || tran->rows.empty()) return;
        if (const auto c = tran->column("TRAN_DLIM")) m_delimiter = trimmed(tran->cell(0, *c));
        if (const auto c = tran->column("TRAN_RCON")) m_joiner = trimmed(tran->cell(0, *c));
    }

    // --- the file as a whole: rules 2, 13, 14, 15 to 17, 20

    void checkWhole() {
        static constexpr Rule kEmpty{"2", "2"};
        if (std::ranges::none_of(m_file.groups, [](const AgsGroup& g) { return !g.rows.empty(); }))
            add(kEmpty, 1, "", "", "", "The file has no group with a row of data.");
        one("PROJ", {"13", "13"}, "what project the data is of");
        if (four()) one("TRAN", {"14", ""}, "who sent the data, when and in which edition");
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
        checkKeys(g, *rule);
        checkRequired(g, *rule);
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
        sameCount(g.unitLine, g.units.size(), four() ? "UNIT" : "<UNITS>");
        sameCount(g.typeLine, g.types.size(), "TYPE");
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
            if (const auto* known = rule ? rule->heading(g.headings[c]) : nullptr; known && hides(type, known->type)) {
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

    static bool isNumberType(std::string_view type) {
        return type == "U" || type == "MC" || type.ends_with("DP") || type.ends_with("SF") || type.ends_with("SCI");
    }

    /// Whether a column is typed as text where the dictionary has numbers, dates or abbreviations, so that nothing would be asked
    /// of its values.
    static bool hides(std::string_view type, std::string_view known) {
        return (type == "X" || type == "XN" || type == "ID") && (isNumberType(known) || known == "DT" || known == "PA");
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
            const bool fits = isNumberType(known.type) ? trimmed(cell).empty() || parseNumber(cell).has_value()
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

    // --- look-ups: rules 11, 15, 16, 17, 18, 20

    using Values = std::unordered_set<std::string_view>;

    Values valuesOf(const AgsGroup* g, const char* heading) const {
        Values out;
        const auto c = g ? g->column(heading) : std::nullopt;
        for (std::size_t r = 0; c && r < g->rows.size(); ++r) out.insert(trimmed(g->cell(r, *c)));
        return out;
    }

    void checkLookUps() {
        if (four()) {
            checkListOf("UNIT", "UNIT_UNIT", "PU", {"15", "", Severity::Warning}, &AgsGroup::units, &AgsGroup::unitLine);
            checkListOf("TYPE", "TYPE_TYPE", "PT", {"17", "", Severity::Warning}, &AgsGroup::types, &AgsGroup::typeLine);
        }
        checkAbbreviations();
        checkDictGroup();
        checkFiles();
        if (four()) checkLinks();
    }

    void listed(const Rule& rule, const Values& known, Values& said, std::string_view value, int line, const AgsGroup& g,
                const std::string& heading, const char* list) {
        value = trimmed(value);
        if (value.empty() || known.contains(value) || !said.insert(value).second) return;
        add(rule, line, g.name, heading, "", fmt::format("{} is used in {} and not listed in {}.", shown(value), heading, list));
    }

    /// What the UNIT or TYPE rows and the fields of type PU or PT use must stand in the group of that name.
    void checkListOf(const char* list, const char* heading, const char* type, const Rule& rule,
                     std::vector<std::string> AgsGroup::*row, int AgsGroup::*rowLine) {
        const auto* group = m_file.group(list);
        const auto known = valuesOf(group, heading);
        Values said;
        for (const auto& g : m_file.groups) {
            for (std::size_t c = 0; c < (g.*row).size() && c < g.headings.size(); ++c)
                listed(rule, known, said, (g.*row)[c], g.*rowLine, g, g.headings[c], list);
            forType(g, type, [&](std::size_t r, std::size_t c) {
                listed(rule, known, said, g.cell(r, c), g.rows[r].line, g, g.headings[c], list);
            });
        }
        if (!group && !said.empty())
            add({rule.four, ""}, 1, list, "", "", fmt::format("The file has no {} group to list what it uses.", list));
    }

    template <typename Visit>
    void forType(const AgsGroup& g, std::string_view type, Visit&& visit) const {
        for (std::size_t c = 0; c < g.types.size() && c < g.headings.size(); ++c)
            if (trimmed(g.types[c]) == type)
                for (std::size_t r = 0; r < g.rows.size(); ++r) visit(r, c);
    }

    /// Columns of abbreviations: by TYPE in edition 4, by what ABBR speaks of in edition 3.
    bool abbreviated(const AgsGroup& g, std::size_t c, const Values& headings) const {
        if (four() && c < g.types.size()) {
            const auto* known = m_dictionary.heading(g.name, g.headings[c]);
            return trimmed(g.types[c]) == "PA" || (known && known->type == "PA" && hides(trimmed(g.types[c]), "PA"));
        }
        if (four()) return false;
        return headings.contains(g.headings[c]);
    }

    void checkAbbreviations() {
        const Rule rule{"16", "14", Severity::Warning};
        const auto* group = m_file.group("ABBR");
        const auto headings = valuesOf(group, "ABBR_HDNG");
        std::unordered_set<std::string> known;
        const auto hdng = group ? group->column("ABBR_HDNG") : std::nullopt,
                   code = group ? group->column("ABBR_CODE") : std::nullopt;
        if (hdng && code)
            for (std::size_t r = 0; r < group->rows.size(); ++r)
                known.insert(fmt::format("{}\x1f{}", trimmed(group->cell(r, *hdng)), trimmed(group->cell(r, *code))));
        const std::string joiner = m_joiner.empty() ? "+" : m_joiner;
        std::unordered_set<std::string> said;
        for (const auto& g : m_file.groups)
            for (std::size_t c = 0; c < g.headings.size(); ++c) {
                // DICT's own words are the standard's
                if (!abbreviated(g, c, headings) || g.name == "DICT" || g.name == "ABBR") continue;
                Values looked;
                for (std::size_t r = 0; r < g.rows.size(); ++r) {
                    if (!looked.insert(g.cell(r, c)).second) continue;
                    for (const auto part : split(g.cell(r, c), joiner.front())) {
                        const auto abbreviation = trimmed(part);
                        auto entry = fmt::format("{}\x1f{}", g.headings[c], abbreviation);
                        if (abbreviation.empty() || known.contains(entry) || !said.insert(std::move(entry)).second) continue;
                        add(rule, g.rows[r].line, g.name, g.headings[c], holeAt(g, r),
                            fmt::format("{} is used in {} and not listed in ABBR.", shown(abbreviation), g.headings[c]));
                    }
                }
            }
        if (!group && !said.empty()) add({"16", "14"}, 1, "ABBR", "", "", "The file uses abbreviations and has no ABBR group.");
    }

    void checkDictGroup() {
        const Rule rule{"18", "16", Severity::Warning};
        const auto* dict = m_file.group("DICT");
        if (!dict) return;
        const auto type = dict->column("DICT_TYPE"), group = dict->column("DICT_GRP"), heading = dict->column("DICT_HDNG");
        if (!type || !group) return;
        std::map<std::string, std::size_t> lastPosition;
        for (std::size_t r = 0; r < dict->rows.size(); ++r) {
            const auto name = upper(trimmed(dict->cell(r, *group)));
            const auto h = heading ? upper(trimmed(dict->cell(r, *heading))) : std::string();
            const bool isHeading = equalNoCase(trimmed(dict->cell(r, *type)), "HEADING");
            if (isHeading && h.empty())
                add(rule, dict->rows[r].line, "DICT", "DICT_HDNG", "", "A heading is defined without a name.");
            const auto* g = m_file.group(name);
            const auto column = g && isHeading ? g->column(h) : std::nullopt;
            if (!column) continue;
            auto& last = lastPosition[name];
            if (*column + 1 < last)
                add({"18a", "", Severity::Warning}, dict->rows[r].line, "DICT", "DICT_HDNG", "",
                    fmt::format("{} is defined in another order than {} has its headings in.", h, name));
            last = std::max(last, *column + 1);
        }
    }

    void checkFiles() {
        const Rule rule{"20", "20", Severity::Warning};
        const auto* group = m_file.group("FILE");
        const auto known = valuesOf(group, "FILE_FSET");
        Values said;
        for (const auto& g : m_file.groups) {
            const auto c = g.name == "FILE" ? std::nullopt : g.column("FILE_FSET");
            for (std::size_t r = 0; c && r < g.rows.size(); ++r)
                listed(rule, known, said, g.cell(r, *c), g.rows[r].line, g, "FILE_FSET", "FILE");
        }
        const auto set = group ? group->column("FILE_FSET") : std::nullopt,
                   name = group ? group->column("FILE_NAME") : std::nullopt;
        if (!m_folder || !set || !name) return;
        for (std::size_t r = 0; r < group->rows.size(); ++r) {
            const auto path = *m_folder / "FILE" / trimmed(group->cell(r, *set)) / trimmed(group->cell(r, *name));
            std::error_code code;
            if (!std::filesystem::exists(path, code))
                add(rule, group->rows[r].line, "FILE", "FILE_NAME", "",
                    fmt::format("The associated file {} is not there.", path.lexically_relative(*m_folder).string()));
        }
    }

    void checkLinks() {
        for (const auto& g : m_file.groups)
            forType(g, "RL", [&](std::size_t r, std::size_t c) {
                const auto cell = trimmed(g.cell(r, c));
                m_progress.check();
                if (cell.empty()) return;
                const auto say = [&](const char* rule, std::string words) {
                    add({rule, "", Severity::Warning}, g.rows[r].line, g.name, g.headings[c], holeAt(g, r), std::move(words));
                };
                if (m_delimiter.empty())
                    return say("11a", "Record links are used, and TRAN_DLIM does not say what parts their fields.");
                std::string_view rest = cell;
                const char joiner = m_joiner.empty() ? '+' : m_joiner.front();
                if (m_joiner.empty() && rest.find('+') != rest.npos)
                    say("11b", "Several record links are joined, and TRAN_RCON does not say by what.");
                for (const auto link : split(rest, joiner))
                    if (!linkLeads(split(link, m_delimiter.front())))
                        say("11c", fmt::format("The record link {} leads to no row, or to more than one.", shown(link)));
            });
    }

    bool linkLeads(const std::vector<std::string_view>& fields) const {
        const auto* target = m_file.group(trimmed(fields.front()));
        const auto* rule = target ? m_dictionary.group(target->name) : nullptr;
        if (!rule) return false;
        std::vector<std::size_t> columns;
        for (const auto& h : rule->headings)
            if (h.key && columns.size() + 1 < fields.size()) {
                const auto c = target->column(h.name);
                if (!c) return false;
                columns.push_back(*c);
            }
        if (columns.size() + 1 != fields.size() || columns.empty()) return false;
        std::string key;
        for (std::size_t k = 1; k < fields.size(); ++k) key.append(trimmed(fields[k])) += '\x1f';
        const auto& rows = rowsBy(*target, columns);
        const auto found = rows.find(key);
        return found != rows.end() && found->second == 1;
    }

    /// How many rows of a group have each key, by its first so many key columns: counted once, however many links there are.
    const std::unordered_map<std::string, int>& rowsBy(const AgsGroup& g, const std::vector<std::size_t>& columns) const {
        auto& rows = m_rowsBy[{&g, columns.size()}];
        if (!rows.empty() || g.rows.empty()) return rows;
        for (std::size_t r = 0; r < g.rows.size(); ++r) {
            m_progress.check();
            std::string key;
            for (const auto c : columns) key.append(trimmed(g.cell(r, c))) += '\x1f';
            ++rows[key];
        }
        return rows;
    }

    struct Tally {
        int times = 0;
        Finding last;
    };
    const AgsFile& m_file;
    const std::optional<std::filesystem::path>& m_folder;
    const Progress& m_progress;
    AgsDictionary m_dictionary;
    std::string m_delimiter, m_joiner;
    Findings m_out;
    mutable std::map<std::pair<const AgsGroup*, std::size_t>, std::unordered_map<std::string, int>> m_rowsBy;
    std::map<std::string, Tally> m_tallies;
    bool m_saidDict = false;
};

} // namespace

Findings checkAgs(const AgsFile& file, const std::optional<std::filesystem::path>& folder, const Progress& progress) {
    return Checker(file, folder, progress).check();
}

} // namespace fox
