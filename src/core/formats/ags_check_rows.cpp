// Rules 8 and 10: values by their types, keys, required headings and parents. Each goes through all rows of a group, which may be
// millions, so that they run beside one another. Keys are compared by 64-bit hashes, sorted; those that agree are compared as
// text.
#include "base/length_unit.h"
#include "base/measure_unit.h"
#include "base/text.h"
#include "formats/ags_check_parts.h"

#include <algorithm>
#include <fmt/format.h>
#include <tbb/parallel_sort.h>

namespace fox {

namespace {

using Columns = std::vector<std::size_t>;

std::uint64_t hashOf(const AgsGroup& g, std::size_t row, const Columns& columns) {
    std::uint64_t hash = 0x9E3779B97F4A7C15u;
    for (const auto c : columns) {
        hash ^= std::hash<std::string_view>{}(trimmed(g.cell(row, c)));
        hash *= 0xFF51AFD7ED558CCDu; // mixes the columns' order in
        hash ^= hash >> 32;
    }
    return hash;
}

bool sameKey(const AgsGroup& a, std::size_t rowOfA, const Columns& columnsOfA, const AgsGroup& b, std::size_t rowOfB,
             const Columns& columnsOfB) {
    for (std::size_t k = 0; k < columnsOfA.size(); ++k)
        if (trimmed(a.cell(rowOfA, columnsOfA[k])) != trimmed(b.cell(rowOfB, columnsOfB[k]))) return false;
    return true;
}

/// The rows of a group by the hashes of their keys.
class KeyIndex {
public:
    KeyIndex(const AgsGroup& group, const Columns& columns) : m_group(group), m_columns(columns) {
        m_rows.reserve(group.rows.size());
        for (std::size_t r = 0; r < group.rows.size(); ++r) m_rows.push_back({hashOf(group, r, columns), r});
        tbb::parallel_sort(m_rows.begin(), m_rows.end());
    }

    /// Calls use(row, first) for each row that has the key of an earlier one.
    template <typename Use>
    void eachRepeated(Use&& use) const {
        std::vector<std::pair<std::size_t, std::size_t>> found;
        for (auto run = m_rows.begin(); run != m_rows.end();) {
            auto end = run + 1;
            while (end != m_rows.end() && end->first == run->first) ++end;
            for (auto row = run + 1; row < end; ++row)
                for (auto first = run; first < row; ++first)
                    if (sameKey(m_group, row->second, m_columns, m_group, first->second, m_columns)) {
                        found.emplace_back(row->second, first->second);
                        break;
                    }
            run = end;
        }
        std::ranges::sort(found);
        for (const auto& [row, first] : found) use(row, first);
    }

    bool has(const AgsGroup& other, std::size_t row, const Columns& columns) const {
        const auto hash = hashOf(other, row, columns);
        for (auto at = std::ranges::lower_bound(m_rows, hash, {}, &Entry::first); at != m_rows.end() && at->first == hash; ++at)
            if (sameKey(m_group, at->second, m_columns, other, row, columns)) return true;
        return false;
    }

private:
    using Entry = std::pair<std::uint64_t, std::size_t>;
    const AgsGroup& m_group;
    const Columns& m_columns;
    std::vector<Entry> m_rows;
};

/// The checks of one group's rows.
class RowChecks {
public:
    RowChecks(const AgsFile& file, const AgsDictionary& dictionary, const AgsGroup& group, AgsFindings& out)
        : m_file(file), m_dictionary(dictionary), g(group), m_rule(dictionary.group(group.name)), m_out(out) {}

    // --- rule 8

    void checkColumn(std::size_t c) {
        checkUnit(c);
        if (!four()) return checkNumbers3(c);
        if (c < g.types.size()) checkTypes(c);
    }

    void checkKeys() {
        if (m_rule && !m_rule->unproven) checkKeys(*m_rule);
    }
    void checkRequired() {
        if (m_rule && !m_rule->unproven) checkRequired(*m_rule);
    }
    void checkParents() {
        if (m_rule) checkParents(*m_rule);
    }

private:
    /// A unit that values can't be turned into the dictionary's from. Lengths are the reader's to judge, patterns of dates rule
    /// 8's.
    void checkUnit(std::size_t c) {
        static constexpr Rule kUnit{"8", "19", Severity::Warning};
        const auto* known = m_rule ? m_rule->heading(g.headings[c]) : nullptr;
        const auto unit = c < g.units.size() ? trimmed(g.units[c]) : std::string_view();
        if (!known || known->unproven || known->unit.empty() || unit.empty()) return;
        const bool isDated = known->type == "DT" || known->type == "T" || known->unit.find("yy") != known->unit.npos
                             || known->unit.find("hh") != known->unit.npos;
        if (isDated || lengthUnitNamed(known->unit) || (isDegrees(known->unit) && isDegrees(unit))) return;
        if (!measureFactor(unit, known->unit))
            add(kUnit, g.unitLine, g.name, known->name, "",
                fmt::format("{} is in {}, where the dictionary has {}.", known->name, shown(unit), known->unit));
    }

    void checkTypes(std::size_t c) {
        static constexpr Rule kValue{"8", ""};
        const auto type = std::string(trimmed(g.types[c]));
        const auto unit = c < g.units.size() ? std::string(trimmed(g.units[c])) : std::string();
        if (type.empty())
            return add(kValue, g.typeLine, g.name, g.headings[c], "", fmt::format("{} has no TYPE.", g.headings[c]));
        if (!isAgsType(type))
            add(kValue, g.typeLine, g.name, g.headings[c], "",
                fmt::format("{} is not a data type of the standard.", shown(type)));
        if (const auto* known = m_rule ? m_rule->heading(g.headings[c]) : nullptr;
            known && !known->unproven && hidesType(type, known->type))
            return checkHidden(c, type, *known);
        const AgsTypeTest test(type, unit);
        for (std::size_t r = 0; !test.takesAll() && r < g.rows.size(); ++r) {
            const auto cell = g.cell(r, c);
            if (!test.fits(cell))
                add(kValue, g.rows[r].line, g.name, g.headings[c], holeAt(g, r),
                    fmt::format("{} is \"{}\", which is not of its type {}{}.", g.headings[c], shown(cell), type,
                                type == "DT" || type == "T" ? " (" + unit + ")" : ""));
        }
    }

    /// Such a column is judged by the dictionary; of numbers any count of decimals will do. Abbreviations are rule 16's.
    void checkHidden(std::size_t c, const std::string& type, const AgsHeadingRule& known) {
        static constexpr Rule kValue{"8", "", Severity::Warning}; // the file's own TYPE row admits what stands there
        add(kValue, g.typeLine, g.name, known.name, "",
            fmt::format("{} is of type {}, where the dictionary has {}: it is judged by the dictionary.", known.name, type,
                        known.type));
        const auto written = c < g.units.size() ? std::string(trimmed(g.units[c])) : std::string();
        const AgsTypeTest test(isAgsNumberType(known.type) ? "U" : known.type, written.empty() ? known.unit : written);
        for (std::size_t r = 0; known.type != "PA" && r < g.rows.size(); ++r)
            if (const auto cell = trimmed(g.cell(r, c)); !test.fits(cell))
                add(kValue, g.rows[r].line, g.name, known.name, holeAt(g, r),
                    fmt::format("{} is \"{}\", which is not of the dictionary's type {}.", known.name, shown(cell), known.type));
    }

    /// Edition 3 has no types, but a heading in metres or with a date pattern says what it holds.
    void checkNumbers3(std::size_t c) {
        static constexpr Rule kValue{"", "19"};
        const auto* heading = m_rule ? m_rule->heading(g.headings[c]) : nullptr;
        const auto unit = c < g.units.size() && !trimmed(g.units[c]).empty() ? lower(trimmed(g.units[c]))
                          : heading                                          ? heading->unit
                                                                             : std::string();
        const bool date = unit == "dd/mm/yyyy", number = unit == "m" || unit == "deg";
        if (!date && !number) return;
        const AgsTypeTest test(date ? "DT" : "U", unit);
        for (std::size_t r = 0; r < g.rows.size(); ++r)
            if (const auto cell = trimmed(g.cell(r, c)); !test.fits(cell))
                add(kValue, g.rows[r].line, g.name, g.headings[c], holeAt(g, r),
                    fmt::format("{} is \"{}\", which is {}.", g.headings[c], shown(cell),
                                date ? "not a date dd/mm/yyyy" : "not a number"));
    }

    // --- rule 10

    Columns keyColumns(const AgsGroupRule& rule) const {
        Columns columns;
        for (const auto& h : rule.headings)
            if (const auto c = h.key ? g.column(h.name) : std::nullopt) columns.push_back(*c);
        return columns;
    }

    void checkKeys(const AgsGroupRule& rule) {
        static constexpr Rule kKey{"10a", "18"};
        for (const auto& h : rule.headings)
            if (h.key && !g.column(h.name) && (four() || h.required))
                add(kKey, g.headingLine, g.name, h.name, "", fmt::format("The key heading {} is missing in {}.", h.name, g.name));
        const auto columns = keyColumns(rule);
        if (columns.empty()) return;
        const auto* leading = rule.heading(g.headings[columns.front()]);
        for (std::size_t r = 0; leading && !leading->required && r < g.rows.size(); ++r)
            if (trimmed(g.cell(r, columns.front())).empty())
                add(kKey, g.rows[r].line, g.name, leading->name, "",
                    fmt::format("The key field {} is empty: the row can't be told to belong to anything.", leading->name));
        KeyIndex(g, columns).eachRepeated([&](std::size_t r, std::size_t first) {
            add(kKey, g.rows[r].line, g.name, g.headings[columns.back()], holeAt(g, r),
                fmt::format("This row of {} has the same key ({}) as the row on line {}.", g.name, keyInWords(r, columns),
                            g.rows[first].line));
        });
    }

    std::string keyInWords(std::size_t row, const Columns& columns) const {
        std::string words;
        for (const auto c : columns)
            words += fmt::format("{}{} {}", words.empty() ? "" : ", ", g.headings[c], shown(trimmed(g.cell(row, c))));
        return words;
    }

    void checkRequired(const AgsGroupRule& rule) {
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

    void checkParents(const AgsGroupRule& rule) {
        static constexpr Rule kParent{"10c", "18"};
        const auto* parentRule = rule.parent.empty() ? nullptr : m_dictionary.group(rule.parent);
        if (!parentRule || g.rows.empty() || rule.parent == "PROJ") return;
        const auto* parent = m_file.group(rule.parent);
        if (!parent) {
            add(kParent, g.line, g.name, "", "",
                fmt::format("{} has rows, but its parent group {} is not in the file.", g.name, rule.parent));
            return;
        }
        Columns here, there; // the parent's key, where both have it
        for (const auto& h : parentRule->headings) {
            const auto c = h.key ? g.column(h.name) : std::nullopt, p = parent->column(h.name);
            if (c && p) here.push_back(*c), there.push_back(*p);
        }
        if (here.empty()) return;
        const KeyIndex known(*parent, there);
        for (std::size_t r = 0; r < g.rows.size(); ++r) {
            if (r > 0 && sameKey(g, r, here, g, r - 1, here)) continue; // rows of one parent stand together
            if (!known.has(g, r, here))
                add(kParent, g.rows[r].line, g.name, g.headings[here.back()], holeAt(g, r),
                    fmt::format("No row of {} has {}.", rule.parent, keyInWords(r, here)));
        }
    }

    using Rule = AgsRule;
    bool four() const { return m_file.edition == AgsEdition::Ags4; }
    void add(const Rule& rule, int line, std::string group, std::string heading, std::string hole, std::string words) {
        m_out.add(rule, line, std::move(group), std::move(heading), std::move(hole), std::move(words));
    }

    const AgsFile& m_file;
    const AgsDictionary& m_dictionary;
    const AgsGroup& g;
    const AgsGroupRule* m_rule;
    AgsFindings& m_out;
};

} // namespace

std::vector<AgsRowCheck> agsRowChecks(const AgsFile& file, const AgsDictionary& dictionary) {
    std::vector<AgsRowCheck> out;
    for (const auto& group : file.groups) {
        const auto add = [&](auto check) {
            out.push_back([&file, &dictionary, &group, check](AgsFindings& found) {
                RowChecks checks(file, dictionary, group, found);
                check(checks);
            });
        };
        for (std::size_t c = 0; c < group.headings.size(); ++c) add([c](RowChecks& of) { of.checkColumn(c); });
        add([](RowChecks& of) { of.checkKeys(); });
        add([](RowChecks& of) { of.checkRequired(); });
        add([](RowChecks& of) { of.checkParents(); });
    }
    return out;
}

} // namespace fox
