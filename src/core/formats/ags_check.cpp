#include "formats/ags_check.h"

#include "base/parallel.h"
#include "base/text.h"
#include "formats/ags_check_parts.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>
#include <utility>

namespace fox {

namespace {

class Checker {
public:
    Checker(const AgsFile& file, const std::optional<std::filesystem::path>& folder, const Progress& progress)
        : m_file(file), m_folder(folder), m_progress(progress), m_dictionary(AgsDictionary::of(file)), m_out(file) {}

    Findings check() {
        checkWhole();
        for (const auto& group : m_file.groups) checkGroup(group);
        auto checks = agsRowChecks(m_file, m_dictionary);
        checks.push_back([this](AgsFindings& found) { checkAgsLookUps(m_file, m_dictionary, m_folder, m_progress, found); });
        auto out = m_out.take();
        for (auto& found : onAllThreads(checks))
            out.insert(out.end(), std::make_move_iterator(found.begin()), std::make_move_iterator(found.end()));
        out.insert(out.end(), m_file.findings.begin(), m_file.findings.end());
        std::ranges::stable_sort(out, {}, &Finding::line);
        return out;
    }

private:
    bool four() const { return m_file.edition == AgsEdition::Ags4; }

    /// What each check finds, in their order.
    std::vector<Findings> onAllThreads(const std::vector<AgsRowCheck>& checks) {
        m_progress.report(0.5, "Checking " + m_file.name);
        std::vector<Findings> found(checks.size());
        parallelFor(
            checks.size(), 1,
            [&](std::size_t i, std::size_t) {
                AgsFindings here(m_file);
                checks[i](here);
                found[i] = here.take();
            },
            m_progress);
        return found;
    }

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
        checkSince(g.line, g.name, "", rule->since);
        const auto* standard = AgsDictionary::standard(m_file.edition).group(g.name);
        std::optional<std::size_t> before;
        std::string beforeName;
        bool own = false;
        for (const auto& h : g.headings) {
            const auto position = rule->position(h);
            if (position) checkSince(g.headingLine, g.name, h, rule->headings[*position].since);
            if (rule->unproven || (position && rule->headings[*position].unproven)) continue;
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

    /// What came with a later edition than the one that the file says it is in.
    void checkSince(int line, const std::string& group, const std::string& heading, const std::string& since) {
        if (AgsDictionary::isOlder(m_file.version, since) && !isDefined(group, heading))
            add({"9", "4", Severity::Warning}, line, group, heading, "",
                fmt::format("{} came with edition {}; the file says that it is in edition {}.", heading.empty() ? group : heading,
                            since, m_file.version));
    }

    /// In the file's own DICT group.
    bool isDefined(const std::string& group, const std::string& heading) const {
        const auto* dict = m_file.group("DICT");
        const auto ofGroup = dict ? dict->column("DICT_GRP") : std::nullopt,
                   ofHeading = dict ? dict->column("DICT_HDNG") : std::nullopt;
        for (std::size_t r = 0; ofGroup && ofHeading && r < dict->rows.size(); ++r)
            if (equalNoCase(trimmed(dict->cell(r, *ofGroup)), group) && equalNoCase(trimmed(dict->cell(r, *ofHeading)), heading))
                return true;
        return false;
    }

    void undefined(int line, const std::string& group, const std::string& heading) {
        if (m_file.group("DICT")) return;
        if (std::exchange(m_saidDict, true)) return;
        add({"18", "16", Severity::Warning}, line, group, heading, "",
            "The file has groups or headings of its own and no DICT group that defines them.");
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
