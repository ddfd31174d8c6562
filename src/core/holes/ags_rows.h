#pragma once
// Rows of an AGS file on their way into holes.
#include "base/text.h"
#include "formats/ags.h"
#include "holes/hole.h"

#include <initializer_list>
#include <map>
#include <set>
#include <unordered_map>

namespace fox {

/// Cells of one group by heading, with a finding for text where a number should be.
class GroupCells {
public:
    GroupCells(const AgsFile& file, std::initializer_list<const char*> groupNames, Findings& findings,
               const std::vector<std::string>& without = {})
        : m_file(file), m_findings(findings) {
        for (const char* name : groupNames)
            if (!m_group && !std::ranges::count(without, name)) m_group = file.group(name);
    }
    ~GroupCells(); ///< says what was wrong with numbers and units
    GroupCells(const GroupCells&) = delete;
    GroupCells& operator=(const GroupCells&) = delete;

    explicit operator bool() const { return m_group != nullptr; }
    const AgsGroup& group() const { return *m_group; }
    std::size_t rows() const { return m_group ? m_group->rows.size() : 0; }
    int line(std::size_t row) const { return m_group->rows[row].line; }

    bool has(const char* heading) { return columnOf(heading).has_value(); }
    std::string_view text(std::size_t row, std::initializer_list<const char*> headings) {
        for (const char* h : headings)
            if (const auto column = columnOf(h)) return trimmed(m_group->cell(row, *column));
        return {};
    }
    /// None, and said once a column, where text stands that is no number; lengths in metres.
    std::optional<double> number(std::size_t row, std::initializer_list<const char*> headings, std::string_view hole);
    /// The unit of the first of these headings that the group has, in the piece that the row stands in.
    std::string_view unit(std::size_t row, std::initializer_list<const char*> headings) {
        for (const char* h : headings)
            if (const auto column = columnOf(h)) return trimmed(m_group->unit(row, *column));
        return {};
    }

private:
    struct Bad {
        int line = 0, times = 0;
        std::string text, hole;
        double value = 0;
        bool ambiguous = false; ///< a comma before three digits
    };
    /// By the unit of its column, where the dictionary has metres or says nothing: what is counted or an angle stays as it is.
    double inMetres(double value, std::size_t row, std::size_t column);
    std::string rule(const char* number) const {
        return fmt::format("AGS{} Rule {}", m_file.edition == AgsEdition::Ags4 ? 4 : 3, number);
    }
    std::optional<std::size_t> columnOf(const char* heading) {
        const auto [at, isNew] = m_columns.try_emplace(heading);
        if (isNew && m_group) at->second = m_group->column(heading);
        return at->second;
    }

    const AgsFile& m_file;
    Findings& m_findings;
    const AgsGroup* m_group = nullptr;
    std::unordered_map<const char*, std::optional<std::size_t>> m_columns; // literals: one address each
    std::map<std::string, Bad> m_bad, m_withUnit, m_separated;
    std::map<std::string, std::string> m_turned, m_unknownUnits; // heading -> unit
    std::vector<std::optional<double>> m_factors;                // of the columns of one piece
    int m_factorsOfPiece = -1;
};

/// The rows of a file's groups with the holes that they are of.
class AgsRows {
public:
    /// Groups in `without` are passed over.
    AgsRows(const AgsFile& file, const std::vector<std::string>& without, Holes& holes, Findings& findings)
        : m_file(file), m_without(without), m_holes(holes), m_findings(findings) {}

    bool isFour() const { return m_file.edition == AgsEdition::Ags4; }
    const AgsFile& file() const { return m_file; }
    Holes& holes() { return m_holes; }

    /// Another one of the same id gets a number behind it, with an error.
    void addHole(Hole, const std::string& group);
    void add(Severity severity, int line, std::string group, std::string hole, std::string words, std::string rule) {
        m_findings.push_back(
            {severity, std::move(rule), m_file.name, line, std::move(group), "", std::move(hole), std::move(words)});
    }
    /// Of a row; null, and counted, if the file lists none of that id. One that differs in nothing but case and blanks is taken
    /// for it, and that is said once a spelling.
    Hole* holeOf(GroupCells&, std::size_t row);
    /// The first of the groups that the file has; `always`: also where it is one of those that are passed over.
    GroupCells cells(std::initializer_list<const char*> groups, bool always = false) {
        static const std::vector<std::string> kNone;
        return {m_file, groups, m_findings, always ? kNone : m_without};
    }
    bool isOut(std::string_view group) const { return std::ranges::count(m_without, group) > 0; }
    /// Calls use(cells, row, hole) for each row of the first of the groups that the file has.
    template <typename Use>
    void eachRow(std::initializer_list<const char*> groups, Use&& use) {
        GroupCells cells(m_file, groups, m_findings, m_without);
        for (std::size_t r = 0; r < cells.rows(); ++r)
            if (auto* hole = holeOf(cells, r)) use(cells, r, *hole);
    }
    /// That rows were of no hole.
    void sayOrphans();

private:
    struct TextHash : std::hash<std::string_view> {
        using is_transparent = void; // no string is made to look one up
    };
    using HolePlaces = std::unordered_map<std::string, std::size_t, TextHash, std::equal_to<>>;
    using HolePlace = HolePlaces::iterator;
    HolePlace spelledOtherwise(GroupCells&, std::size_t row, const std::string& id);
    struct Orphans {
        int line = 0, rows = 0;
        std::string hole;
    };
    const AgsFile& m_file;
    const std::vector<std::string>& m_without;
    Holes& m_holes;
    Findings& m_findings;
    HolePlaces m_byId;
    std::unordered_map<std::string, HolePlace> m_byLetters; ///< by capitals without blanks; the end where two are written so
    std::set<std::string> m_spellings;                      ///< of holes, that were said
    std::map<std::string, Orphans> m_orphans;
    Hole* m_last = nullptr;
    std::size_t m_lastIndex = 0; ///< of the hole that it is
};

inline std::optional<Depth> depthAt(std::optional<double> metres) {
    return metres ? std::optional(Depth{*metres}) : std::nullopt;
}

/// Standard penetration tests, soundings, probing, and results of tests in the ground and in the laboratory.
void readAgsTests(AgsRows&);
/// Whether readAgsTests() takes results from a group of the laboratory or of tests in the ground.
bool givesAgsResults(std::string_view group);
/// Strikes of water, installations, and readings of water in them.
void readAgsWater(AgsRows&);

} // namespace fox
