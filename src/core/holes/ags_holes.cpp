#include "holes/ags_holes.h"

#include "base/text.h"

#include <fmt/format.h>
#include <initializer_list>
#include <unordered_map>

namespace fox {

namespace {

/// Cells of one group by heading, with a finding for text where a number should be.
class GroupCells {
public:
    GroupCells(const AgsFile& file, std::initializer_list<const char*> groupNames, Findings& findings)
        : m_file(file), m_findings(findings) {
        for (const char* name : groupNames)
            if (!m_group) m_group = file.group(name);
    }
    ~GroupCells() {
        for (const auto& [heading, bad] : m_bad)
            m_findings.push_back({Severity::Error, rule("8"), m_file.name, bad.line, m_group->name, heading, bad.hole,
                                  fmt::format("{} should be a number and is \"{}\"; it counts as missing{}.", heading, bad.text,
                                              bad.times > 1 ? fmt::format(" ({} such values in this column)", bad.times) : "")});
        for (const auto& [heading, taken] : m_withUnit)
            m_findings.push_back({Severity::Warning, rule("8"), m_file.name, taken.line, m_group->name, heading, taken.hole,
                                  fmt::format("{} is \"{}\"; the number at its start is taken ({} such values).", heading,
                                              taken.text, taken.times)});
    }
    GroupCells(const GroupCells&) = delete;
    GroupCells& operator=(const GroupCells&) = delete;

    explicit operator bool() const { return m_group != nullptr; }
    const AgsGroup& group() const { return *m_group; }
    std::size_t rows() const { return m_group ? m_group->rows.size() : 0; }
    int line(std::size_t row) const { return m_group->rows[row].line; }

    std::string_view text(std::size_t row, std::initializer_list<const char*> headings) {
        for (const char* h : headings)
            if (const auto column = columnOf(h)) return trimmed(m_group->cell(row, *column));
        return {};
    }
    std::optional<double> number(std::size_t row, std::initializer_list<const char*> headings, std::string_view hole) {
        for (const char* h : headings) {
            const auto column = columnOf(h);
            if (!column) continue;
            const auto cell = trimmed(m_group->cell(row, *column));
            if (cell.empty()) return {};
            if (const auto value = parseNumber(cell)) return value;
            const auto leading = parseLeadingNumber(cell);
            auto& tally = (leading ? m_withUnit : m_bad)[h];
            if (tally.times++ == 0) tally = {line(row), 1, std::string(cell), std::string(hole)};
            return leading;
        }
        return {};
    }

private:
    struct Bad {
        int line = 0, times = 0;
        std::string text, hole;
    };
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
    std::map<std::string, Bad> m_bad, m_withUnit;
};

class HoleReader {
public:
    explicit HoleReader(const AgsFile& file) : m_file(file) {}

    AgsHoles read() {
        readProject();
        readPlaces();
        readStations();
        readGeology();
        readBlowCounts();
        readCodeNames();
        for (const auto& [group, lost] : m_orphans)
            add(Severity::Error, lost.line, group, lost.hole,
                fmt::format("{} rows of {} belong to holes that the file does not list, the first to \"{}\"; they are kept in "
                            "the file but not used.",
                            lost.rows, group, lost.hole),
                four() ? "AGS4 Rule 10c" : "AGS3 Rule 12");
        std::ranges::stable_sort(m_out.findings, {}, &Finding::line);
        return std::move(m_out);
    }

private:
    bool four() const { return m_file.edition == AgsEdition::Ags4; }

    void add(Severity severity, int line, std::string group, std::string hole, std::string words, std::string rule) {
        m_out.findings.push_back(
            {severity, std::move(rule), m_file.name, line, std::move(group), "", std::move(hole), std::move(words)});
    }

    void readProject() {
        GroupCells project(m_file, {"PROJ"}, m_out.findings);
        if (project.rows() > 0) {
            m_out.project = project.text(0, {"PROJ_ID"});
            m_out.title = project.text(0, {"PROJ_NAME"});
        }
        if (m_out.project.empty()) m_out.project = m_file.name;
    }

    void readPlaces() {
        GroupCells places(m_file, {"LOCA", "HOLE"}, m_out.findings);
        if (!places || places.rows() == 0)
            return add(Severity::Error, 0, four() ? "LOCA" : "HOLE", "",
                       "The file lists no holes: it has no rows in the group of places.",
                       four() ? "AGS4 Rule 10c" : "AGS3 Rule 12");
        for (std::size_t r = 0; r < places.rows(); ++r) {
            Hole hole;
            hole.id = places.text(r, {"LOCA_ID", "HOLE_ID"});
            hole.line = places.line(r);
            if (hole.id.empty()) {
                hole.id = fmt::format("(no id, line {})", hole.line);
                add(Severity::Error, hole.line, places.group().name, hole.id, "The hole has no id; it is named after its line.",
                    four() ? "AGS4 Rule 10b" : "AGS3 Rule 12");
            }
            hole.project = m_out.project;
            hole.file = m_file.name;
            hole.type = places.text(r, {"LOCA_TYPE", "HOLE_TYPE"});
            hole.easting = places.number(r, {"LOCA_NATE", "HOLE_NATE"}, hole.id);
            hole.northing = places.number(r, {"LOCA_NATN", "HOLE_NATN"}, hole.id);
            if (const auto level = places.number(r, {"LOCA_GL", "HOLE_GL"}, hole.id)) hole.level = Level{*level};
            if (const auto depth = places.number(r, {"LOCA_FDEP", "HOLE_FDEP"}, hole.id)) hole.finalDepth = Depth{*depth};
            const auto inclination = places.number(r, {"HOLE_INCL"}, hole.id);
            if (inclination && *inclination > 0 && *inclination < 90)
                hole.stations.push_back({Depth{0}, *inclination, places.number(r, {"HOLE_ORNT"}, hole.id).value_or(0)});
            place(std::move(hole), places.group().name);
        }
    }

    void place(Hole hole, const std::string& group) {
        const auto [first, isNew] = m_byId.try_emplace(hole.id, m_out.holes.size());
        if (!isNew) {
            const auto& other = m_out.holes[first->second];
            const std::string id = hole.id;
            for (int n = 2; m_byId.contains(hole.id); ++n) hole.id = fmt::format("{} #{}", id, n);
            m_byId.emplace(hole.id, m_out.holes.size());
            add(Severity::Error, hole.line, group, id,
                fmt::format("Two holes are named {}, on lines {} and {}; the second is kept as \"{}\", and what else the file "
                            "says of {} goes to the first.",
                            id, other.line, hole.line, hole.id, id),
                four() ? "AGS4 Rule 10a" : "AGS3 Rule 12");
        }
        m_out.holes.push_back(std::move(hole));
    }

    Hole* holeOf(GroupCells& cells, std::size_t row) {
        const auto id = cells.text(row, {"LOCA_ID", "HOLE_ID"});
        if (m_last && m_last->id == id) return m_last; // rows of a hole stand together
        const auto at = m_byId.find(std::string(id));
        if (at == m_byId.end()) {
            auto& lost = m_orphans[cells.group().name];
            if (lost.rows++ == 0) lost.line = cells.line(row), lost.hole = id;
            return nullptr;
        }
        return m_last = &m_out.holes[at->second];
    }

    void readStations() {
        GroupCells cells(m_file, {"HORN"}, m_out.findings);
        for (std::size_t r = 0; r < cells.rows(); ++r) {
            auto* hole = holeOf(cells, r);
            if (!hole) continue;
            const auto top = cells.number(r, {"HORN_TOP"}, hole->id);
            const auto inclination = cells.number(r, {"HORN_INCL"}, hole->id);
            if (!top || !inclination) {
                add(Severity::Warning, cells.line(r), "HORN", hole->id,
                    "A row of the hole's path has no depth or no inclination; it is left out.", "FC-PATH");
                continue;
            }
            hole->stations.push_back({Depth{*top}, *inclination, cells.number(r, {"HORN_ORNT"}, hole->id).value_or(0)});
        }
        for (auto& hole : m_out.holes) std::ranges::stable_sort(hole.stations, {}, &PathStation::depth);
    }

    void readGeology() {
        GroupCells cells(m_file, {"GEOL"}, m_out.findings);
        if (cells.rows() == 0)
            add(Severity::Warning, cells ? cells.group().line : 0, "GEOL", "",
                "The file has no geology (no GEOL rows): its holes say nothing about any unit.", "FC-LOG");
        for (std::size_t r = 0; r < cells.rows(); ++r) {
            auto* hole = holeOf(cells, r);
            if (!hole) continue;
            const auto top = cells.number(r, {"GEOL_TOP"}, hole->id), base = cells.number(r, {"GEOL_BASE"}, hole->id);
            if (!top || !base) {
                add(Severity::Error, cells.line(r), "GEOL", hole->id,
                    "An interval has no top or no base that is a number; it is left out.", "FC-DEPTH");
                continue;
            }
            Interval interval{Depth{*top}, Depth{*base}, std::string(cells.text(r, {"GEOL_DESC"})), {}, cells.line(r)};
            for (const char* heading : {"GEOL_GEOL", "GEOL_GEO2", "GEOL_STAT", "GEOL_LEG"})
                if (const auto code = cells.text(r, {heading}); !code.empty()) interval.codes.emplace(heading, code);
            hole->intervals.push_back(std::move(interval));
        }
        for (auto& hole : m_out.holes) std::ranges::stable_sort(hole.intervals, {}, &Interval::top);
    }

    void readBlowCounts() {
        GroupCells cells(m_file, {"ISPT"}, m_out.findings);
        for (std::size_t r = 0; r < cells.rows(); ++r) {
            auto* hole = holeOf(cells, r);
            if (!hole) continue;
            const auto top = cells.number(r, {"ISPT_TOP"}, hole->id), blows = cells.number(r, {"ISPT_NVAL"}, hole->id);
            if (top && blows) hole->blowCounts.push_back({Depth{*top}, *blows});
        }
        for (auto& hole : m_out.holes) std::ranges::stable_sort(hole.blowCounts, {}, &BlowCount::depth);
    }

    void readCodeNames() {
        GroupCells cells(m_file, {"ABBR"}, m_out.findings);
        for (std::size_t r = 0; r < cells.rows(); ++r)
            if (cells.text(r, {"ABBR_HDNG"}).starts_with("GEOL_"))
                m_out.codeNames.try_emplace(std::string(cells.text(r, {"ABBR_CODE"})), cells.text(r, {"ABBR_DESC"}));
    }

    struct Orphans {
        int line = 0, rows = 0;
        std::string hole;
    };
    const AgsFile& m_file;
    AgsHoles m_out;
    std::unordered_map<std::string, std::size_t> m_byId;
    std::map<std::string, Orphans> m_orphans;
    Hole* m_last = nullptr;
};

} // namespace

AgsHoles holesOf(const AgsFile& file) { return HoleReader(file).read(); }

} // namespace fox
