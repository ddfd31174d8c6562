// Rules 11, 15 to 18 and 20: what a file uses and what it lists.
#include "base/text.h"
#include "formats/ags_check_parts.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>
#include <unordered_map>
#include <unordered_set>

namespace fox {

namespace {

class LookUps {
public:
    LookUps(const AgsFile& file, const AgsDictionary& dictionary, const std::optional<std::filesystem::path>& folder,
            const Progress& progress, AgsFindings& out)
        : m_file(file), m_dictionary(dictionary), m_folder(folder), m_progress(progress), m_out(out) {
        readTransmission();
    }

    void check() {
        if (four()) {
            checkListOf("UNIT", "UNIT_UNIT", "PU", {"15", "", Severity::Warning}, &AgsGroup::units, &AgsGroup::unitLine);
            checkListOf("TYPE", "TYPE_TYPE", "PT", {"17", "", Severity::Warning}, &AgsGroup::types, &AgsGroup::typeLine);
        }
        checkAbbreviations();
        checkGeologyCodes();
        checkDictGroup();
        checkFiles();
        if (four()) checkLinks();
    }

private:
    using Values = std::unordered_set<std::string_view>;

    bool four() const { return m_file.edition == AgsEdition::Ags4; }

    void add(const AgsRule& rule, int line, std::string group, std::string heading, std::string hole, std::string words) {
        m_out.add(rule, line, std::move(group), std::move(heading), std::move(hole), std::move(words));
    }

    void readTransmission() {
        const auto* tran = m_file.group("TRAN");
        if (!tran || tran->rows.empty()) return;
        if (const auto c = tran->column("TRAN_DLIM")) m_delimiter = trimmed(tran->cell(0, *c));
        if (const auto c = tran->column("TRAN_RCON")) m_joiner = trimmed(tran->cell(0, *c));
    }

    Values valuesOf(const AgsGroup* g, const char* heading) const {
        Values out;
        const auto c = g ? g->column(heading) : std::nullopt;
        for (std::size_t r = 0; c && r < g->rows.size(); ++r) out.insert(trimmed(g->cell(r, *c)));
        return out;
    }

    void listed(const AgsRule& rule, const Values& known, Values& said, std::string_view value, int line, const AgsGroup& g,
                const std::string& heading, const char* list) {
        value = trimmed(value);
        if (value.empty() || known.contains(value) || !said.insert(value).second) return;
        add(rule, line, g.name, heading, "", fmt::format("{} is used in {} and not listed in {}.", shown(value), heading, list));
    }

    /// What the UNIT or TYPE rows and the fields of type PU or PT use must stand in the group of that name.
    void checkListOf(const char* list, const char* heading, const char* type, const AgsRule& rule,
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
            return trimmed(g.types[c]) == "PA" || (known && known->type == "PA" && hidesType(trimmed(g.types[c]), "PA"));
        }
        if (four()) return false;
        return headings.contains(g.headings[c]);
    }

    void checkAbbreviations() {
        const AgsRule rule{"16", "14", Severity::Warning};
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
                    sayOtherSpelling(g, r, c);
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

    /// The same code in capitals and small letters, or with other blanks.
    void sayOtherSpelling(const AgsGroup& g, std::size_t r, std::size_t c) {
        const std::string code(trimmed(g.cell(r, c)));
        std::string letters = upper(code);
        std::erase(letters, ' ');
        if (letters.empty()) return;
        const auto [first, isNew] = m_spellings.try_emplace(g.headings[c] + '\x1f' + letters, code);
        if (!isNew && first->second != code && m_saidSpellings.insert(g.headings[c] + '\x1f' + code).second)
            add({"FC-SPELLING", "FC-SPELLING", Severity::Warning}, g.rows[r].line, g.name, g.headings[c], holeAt(g, r),
                fmt::format("{} differs from {}, used above, only in case or blanks: they count as two codes.", shown(code),
                            shown(first->second)));
    }

    /// Codes of geology that need not stand in ABBR.
    void checkGeologyCodes() {
        const auto* g = m_file.group("GEOL");
        if (!g) return;
        for (std::size_t c = 0; c < g->headings.size(); ++c) {
            static constexpr std::string_view kCodes[] = {"GEOL_GEOL", "GEOL_GEO2", "GEOL_LEG", "GEOL_STAT", "GEOL_FORM"};
            if (std::ranges::count(kCodes, g->headings[c]) == 0) continue;
            Values looked;
            for (std::size_t r = 0; r < g->rows.size(); ++r)
                if (looked.insert(g->cell(r, c)).second) sayOtherSpelling(*g, r, c);
        }
    }

    void checkDictGroup() {
        const AgsRule rule{"18", "16", Severity::Warning};
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
        const AgsRule rule{"20", "20", Severity::Warning};
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
                for (const auto link : split(rest, joiner)) {
                    const auto fields = split(link, m_delimiter.front());
                    if (!linkLeads(fields))
                        say("11c", fmt::format("The record link {} leads to no row, or to more than one.", shown(link)));
                    else if (const auto whole = keyHeadings(fields.front()); fields.size() - 1 < whole)
                        say("11c", fmt::format("The record link {} gives {} of the {} key fields of {}.", shown(link),
                                               fields.size() - 1, whole, trimmed(fields.front())));
                }
            });
    }

    /// How many of the headings that a group has are of its key.
    std::size_t keyHeadings(std::string_view group) const {
        const auto* target = m_file.group(trimmed(group));
        const auto* rule = target ? m_dictionary.group(target->name) : nullptr;
        if (!rule) return 0;
        return std::size_t(
            std::ranges::count_if(rule->headings, [&](const auto& h) { return h.key && target->column(h.name).has_value(); }));
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

    const AgsFile& m_file;
    const AgsDictionary& m_dictionary;
    const std::optional<std::filesystem::path>& m_folder;
    const Progress& m_progress;
    AgsFindings& m_out;
    std::string m_delimiter, m_joiner;
    std::unordered_map<std::string, std::string> m_spellings; ///< of codes, by heading and letters: how it was written first
    std::unordered_set<std::string> m_saidSpellings;
    mutable std::map<std::pair<const AgsGroup*, std::size_t>, std::unordered_map<std::string, int>> m_rowsBy;
};

} // namespace

void checkAgsLookUps(const AgsFile& file, const AgsDictionary& dictionary, const std::optional<std::filesystem::path>& folder,
                     const Progress& progress, AgsFindings& out) {
    LookUps(file, dictionary, folder, progress, out).check();
}

} // namespace fox
