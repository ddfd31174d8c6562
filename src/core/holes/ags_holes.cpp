#include "holes/ags_holes.h"

#include "base/length_unit.h"
#include "base/text.h"
#include "base/written_number.h"
#include "formats/ags_dictionary.h"

#include <algorithm>
#include <fmt/format.h>
#include <initializer_list>
#include <map>
#include <set>
#include <unordered_map>

namespace fox {

namespace {

/// Cells of one group by heading, with a finding for text where a number should be.
class GroupCells {
public:
    GroupCells(const AgsFile& file, std::initializer_list<const char*> groupNames, Findings& findings,
               const std::vector<std::string>& without = {})
        : m_file(file), m_findings(findings) {
        for (const char* name : groupNames)
            if (!m_group && !std::ranges::count(without, name)) m_group = file.group(name);
    }
    ~GroupCells() {
        for (const auto& [heading, bad] : m_bad)
            m_findings.push_back({Severity::Error, rule("8"), m_file.name, bad.line, m_group->name, heading, bad.hole,
                                  fmt::format("{} should be a number and is \"{}\"{}; it counts as missing{}.", heading, bad.text,
                                              bad.ambiguous ? ", which may mean thousands or a decimal comma" : "",
                                              bad.times > 1 ? fmt::format(" ({} such values in this column)", bad.times) : "")});
        for (const auto& [heading, taken] : m_withUnit)
            m_findings.push_back({Severity::Warning, rule("8"), m_file.name, taken.line, m_group->name, heading, taken.hole,
                                  fmt::format("{} is \"{}\"; the number at its start is taken ({} such values).", heading,
                                              taken.text, taken.times)});
        for (const auto& [heading, read] : m_separated)
            m_findings.push_back({Severity::Warning, "FC-NUMBER", m_file.name, read.line, m_group->name, heading, read.hole,
                                  fmt::format("{} is \"{}\"; it is read as {} ({}).", heading, read.text, read.value,
                                              counted(std::size_t(read.times), "such value"))});
        for (const auto& [heading, unit] : m_turned)
            m_findings.push_back({Severity::Warning, "FC-UNIT", m_file.name, m_group->unitLine, m_group->name, heading, "",
                                  fmt::format("{} is given in {}; it was turned into metres.", heading, unit)});
        for (const auto& [heading, unit] : m_unknownUnits)
            m_findings.push_back(
                {Severity::Warning, "FC-UNIT", m_file.name, m_group->unitLine, m_group->name, heading, "",
                 fmt::format("{} is given in \"{}\", which is not a known unit of length; its values are taken as "
                             "metres.",
                             heading, unit)});
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
            if (cell.empty()) continue;
            using Kind = WrittenNumber::Kind;
            const auto read = readWrittenNumber(cell);
            if (read.kind != Kind::Plain) {
                auto& tally = (read.kind == Kind::WithWords ? m_withUnit : read.value ? m_separated : m_bad)[h];
                if (tally.times++ == 0)
                    tally = {
                        line(row), 1, std::string(cell), std::string(hole), read.value.value_or(0), read.kind == Kind::Ambiguous};
            }
            return read.value ? std::optional(inMetres(*read.value, *column)) : std::nullopt;
        }
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
    double inMetres(double value, std::size_t column) {
        const auto [at, isNew] = m_factors.try_emplace(column, 1);
        if (!isNew || column >= m_group->units.size()) return value * at->second;
        const std::string unit(trimmed(m_group->units[column]));
        const auto& heading = m_group->headings[column];
        const auto* rule = AgsDictionary::standard(m_file.edition).heading(m_group->name, heading);
        if (unit.empty() || (rule && !rule->unit.empty() && rule->unit != "m")) return value;
        if (const auto* length = lengthUnitNamed(unit)) {
            at->second = length->metres;
            if (length->metres != 1) m_turned.try_emplace(heading, unit);
        } else if (rule && rule->unit == "m") {
            m_unknownUnits.try_emplace(heading, unit);
        }
        return value * at->second;
    }
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
    std::map<std::size_t, double> m_factors;                     // of columns
};

class HoleReader {
public:
    HoleReader(const AgsFile& file, const std::vector<std::string>& without) : m_file(file), m_without(without) {}

    AgsHoles read() {
        readProject();
        readPlaces();
        readStations();
        readGeology();
        readBlowCounts();
        readDetails();
        readSamples();
        readWater();
        readInstallations();
        readCores();
        readPointValues();
        readCodeNames();
        for (const auto& [group, lost] : m_orphans)
            add(Severity::Error, lost.line, group, lost.hole,
                fmt::format("{} in {} of holes that the file does not list, the first of \"{}\"; kept in the file, but not used.",
                            counted(std::size_t(lost.rows), "row is", "rows are"), group, lost.hole),
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
                hole.stations.push_back({Depth{0}, *inclination, bearing(places, r, "HOLE_ORNT", *inclination, hole.id)});
            else if (inclination && *inclination != 90)
                add(*inclination == 0 ? Severity::Note : Severity::Warning, hole.line, places.group().name, hole.id,
                    fmt::format("HOLE_INCL is {:g}, where 90 is straight down and 0 horizontal; the hole is taken as vertical.",
                                *inclination),
                    "FC-PATH");
            const auto x = places.number(r, {"LOCA_LOCX", "HOLE_LOCX"}, hole.id),
                       y = places.number(r, {"LOCA_LOCY", "HOLE_LOCY"}, hole.id);
            m_out.localPlaces.push_back(x && y ? std::optional(Point2{*x, *y}) : std::nullopt);
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
        auto at = m_byId.find(std::string(id));
        if (at == m_byId.end()) at = spelledOtherwise(cells, row, std::string(id));
        if (at == m_byId.end()) {
            auto& lost = m_orphans[cells.group().name];
            if (lost.rows++ == 0) lost.line = cells.line(row), lost.hole = id;
            return nullptr;
        }
        return m_last = &m_out.holes.change(at->second);
    }

    using HolePlace = std::unordered_map<std::string, std::size_t>::iterator;

    /// A hole whose id differs in nothing but case and blanks is taken for it, and that is said once a spelling.
    HolePlace spelledOtherwise(GroupCells& cells, std::size_t row, const std::string& id) {
        if (m_byLetters.empty())
            for (auto at = m_byId.begin(); at != m_byId.end(); ++at) {
                const auto [place, isNew] = m_byLetters.try_emplace(withoutBlanks(at->first), at);
                if (!isNew) place->second = m_byId.end(); // two holes are written so: neither is meant for sure
            }
        const auto letters = withoutBlanks(id);
        const auto known = letters.empty() ? m_byLetters.end() : m_byLetters.find(letters);
        if (known == m_byLetters.end() || known->second == m_byId.end()) return m_byId.end();
        if (m_spellings.insert(id).second)
            add(Severity::Warning, cells.line(row), cells.group().name, known->second->first,
                fmt::format("The hole \"{}\" in {} is taken for {}, which differs only in case or blanks.", id,
                            cells.group().name, known->second->first),
                "FC-ID");
        return known->second;
    }
    static std::string withoutBlanks(std::string_view id) {
        std::string out;
        for (const char c : upper(id))
            if (c != ' ' && c != '\t') out += c;
        return out;
    }

    void readStations() {
        GroupCells cells(m_file, {"HORN"}, m_out.findings, m_without);
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
            hole->stations.push_back({Depth{*top}, *inclination, bearing(cells, r, "HORN_ORNT", *inclination, hole->id)});
        }
        m_out.holes.changeEach([](Hole& hole) { std::ranges::stable_sort(hole.stations, {}, &PathStation::depth); });
    }

    /// Degrees from north. An inclined hole without one is said, once a hole.
    double bearing(GroupCells& cells, std::size_t row, const char* heading, double inclination, const std::string& hole) {
        const auto degrees = cells.number(row, {heading}, hole);
        if (!degrees && inclination != 90 && m_withoutBearing.insert(hole).second)
            add(Severity::Warning, cells.line(row), cells.group().name, hole,
                fmt::format("The hole is inclined at {:g} degrees and {} is empty: it is taken to go down towards north.",
                            inclination, heading),
                "FC-PATH");
        return degrees.value_or(0);
    }

    void readGeology() {
        GroupCells cells(m_file, {"GEOL"}, m_out.findings);
        if (cells.rows() == 0)
            add(Severity::Warning, cells ? cells.group().line : 0, "GEOL", "",
                "The file has no geology (no GEOL rows): its holes say nothing about any unit.", "FC-LOG");
        // any heading but those of depth and free text may carry the unit
        std::vector<std::size_t> codeColumns;
        static constexpr std::string_view kNoCodes[] = {"LOCA_ID",   "HOLE_ID",  "GEOL_TOP", "GEOL_BASE",
                                                        "GEOL_DESC", "GEOL_REM", "FILE_FSET"};
        for (std::size_t c = 0; cells && c < cells.group().headings.size(); ++c)
            if (!std::ranges::count(kNoCodes, cells.group().headings[c])) codeColumns.push_back(c);
        for (std::size_t r = 0; r < cells.rows(); ++r) {
            auto* hole = holeOf(cells, r);
            if (!hole) continue;
            const auto top = cells.number(r, {"GEOL_TOP"}, hole->id), base = cells.number(r, {"GEOL_BASE"}, hole->id);
            if (!top || (!base && !cells.text(r, {"GEOL_BASE"}).empty())) {
                leaveOut(cells.line(r), hole->id);
                continue;
            }
            Interval interval{
                Depth{*top}, Depth{base.value_or(kOpen)}, std::string(cells.text(r, {"GEOL_DESC"})), {}, cells.line(r)};
            for (const auto c : codeColumns)
                if (const auto code = trimmed(cells.group().cell(r, c)); !code.empty())
                    interval.codes.emplace(cells.group().headings[c], code);
            hole->intervals.push_back(std::move(interval));
        }
        m_out.holes.changeEach([&](Hole& hole) {
            std::ranges::stable_sort(hole.intervals, {}, &Interval::top);
            closeBases(hole);
        });
    }

    void leaveOut(int line, const std::string& hole) {
        add(Severity::Error, line, "GEOL", hole, "An interval has no top or no base that is a number; it is left out.",
            "FC-DEPTH");
    }

    /// An interval whose base is blank ends where the next one begins, the last one at the final depth.
    void closeBases(Hole& hole) {
        for (std::size_t k = 0; k < hole.intervals.size(); ++k) {
            auto& interval = hole.intervals[k];
            if (!std::isnan(interval.base.metres)) continue;
            const auto next = std::find_if(hole.intervals.begin() + std::ptrdiff_t(k), hole.intervals.end(),
                                           [&](const Interval& other) { return other.top > interval.top; });
            const bool isLast = next == hole.intervals.end();
            if (isLast && (!hole.finalDepth || *hole.finalDepth <= interval.top)) {
                leaveOut(interval.line, hole.id);
                continue;
            }
            interval.base = isLast ? *hole.finalDepth : next->top;
            add(Severity::Warning, interval.line, "GEOL", hole.id,
                fmt::format("GEOL_BASE is empty: the interval from {:.2f} m is taken to end at {:.2f} m, {}.",
                            interval.top.metres, interval.base.metres, isLast ? "the final depth" : "where the next one begins"),
                "FC-DEPTH");
        }
        std::erase_if(hole.intervals, [](const Interval& i) { return std::isnan(i.base.metres); });
    }

    void readBlowCounts() {
        GroupCells cells(m_file, {"ISPT"}, m_out.findings, m_without);
        for (std::size_t r = 0; r < cells.rows(); ++r) {
            auto* hole = holeOf(cells, r);
            if (!hole) continue;
            const auto top = cells.number(r, {"ISPT_TOP"}, hole->id), blows = cells.number(r, {"ISPT_NVAL"}, hole->id);
            if (top && blows) hole->blowCounts.push_back({Depth{*top}, *blows});
        }
        m_out.holes.changeEach([](Hole& hole) { std::ranges::stable_sort(hole.blowCounts, {}, &BlowCount::depth); });
    }

    /// Calls use(cells, row, hole) for each row of the first of the groups that the file has.
    template <typename Use>
    void eachRow(std::initializer_list<const char*> groups, Use&& use) {
        GroupCells cells(m_file, groups, m_out.findings, m_without);
        for (std::size_t r = 0; r < cells.rows(); ++r)
            if (auto* hole = holeOf(cells, r)) use(cells, r, *hole);
    }

    static std::optional<Depth> depth(std::optional<double> metres) {
        return metres ? std::optional(Depth{*metres}) : std::nullopt;
    }

    void readDetails() {
        eachRow({"DETL"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto top = cells.number(r, {"DETL_TOP"}, hole.id), base = cells.number(r, {"DETL_BASE"}, hole.id);
            if (top) hole.details.push_back({Depth{*top}, Depth{base.value_or(*top)}, std::string(cells.text(r, {"DETL_DESC"}))});
        });
    }

    void readSamples() {
        eachRow({"SAMP"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            if (const auto top = cells.number(r, {"SAMP_TOP"}, hole.id))
                hole.samples.push_back({Depth{*top}, depth(cells.number(r, {"SAMP_BASE"}, hole.id)),
                                        std::string(cells.text(r, {"SAMP_TYPE"})), std::string(cells.text(r, {"SAMP_REF"}))});
        });
        m_out.holes.changeEach([](Hole& hole) { std::ranges::stable_sort(hole.samples, {}, &Sample::top); });
    }

    void readWater() {
        eachRow({"WSTG", "WSTK"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto at = cells.number(r, {"WSTG_DPTH", "WSTK_DEP"}, hole.id);
            if (!at) return;
            const auto known = std::ranges::find(hole.strikes, Depth{*at}, &WaterStrike::depth);
            auto& strike = known == hole.strikes.end() ? hole.strikes.emplace_back(WaterStrike{Depth{*at}, {}}) : *known;
            rise(strike, cells.number(r, {"WSTK_POST"}, hole.id));
        });
        eachRow({"WSTD"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto at = cells.number(r, {"WSTG_DPTH"}, hole.id);
            for (auto& strike : hole.strikes)
                if (at && strike.depth.metres == *at) rise(strike, cells.number(r, {"WSTD_POST"}, hole.id));
        });
    }

    static void rise(WaterStrike& strike, std::optional<double> to) {
        if (to && (!strike.roseTo || *to < strike.roseTo->metres)) strike.roseTo = Depth{*to};
    }

    void readInstallations() {
        using Part = Installation::Part;
        eachRow({"PIPE"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto top = cells.number(r, {"PIPE_TOP"}, hole.id), base = cells.number(r, {"PIPE_BASE"}, hole.id);
            if (!top || !base) return;
            const auto type = upper(cells.text(r, {"PIPE_TYPE"}));
            const bool plain = type.find("PLAIN") != type.npos || type == "PLN";
            hole.installations.push_back({plain ? Part::PlainPipe : Part::SlottedPipe, Depth{*top}, Depth{*base},
                                          std::string(cells.text(r, {"PIPE_REF"}))});
        });
        eachRow({"MONG", "PREF"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto top = cells.number(r, {"MONG_TRZ", "PREF_TRZ"}, hole.id),
                       base = cells.number(r, {"MONG_BRZ", "PREF_BRZ"}, hole.id);
            if (top && base)
                hole.installations.push_back(
                    {Part::ResponseZone, Depth{*top}, Depth{*base}, std::string(cells.text(r, {"MONG_ID", "PREF_REF"}))});
        });
    }

    void readCores() {
        eachRow({"CORE"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto top = cells.number(r, {"CORE_TOP"}, hole.id), base = cells.number(r, {"CORE_BASE", "CORE_BOT"}, hole.id);
            if (top && base)
                hole.coreRuns.push_back({Depth{*top}, Depth{*base}, cells.number(r, {"CORE_PREC"}, hole.id),
                                         cells.number(r, {"CORE_SREC"}, hole.id), cells.number(r, {"CORE_RQD"}, hole.id)});
        });
        m_out.holes.changeEach([](Hole& hole) { std::ranges::stable_sort(hole.coreRuns, {}, &CoreRun::top); });
    }

    /// Single results that a log shows beside the ground: one curve each, of points.
    void readPointValues() {
        struct Result {
            const char* group;
            const char* depth;
            const char* value;
            const char* name;
            const char* unit;
        };
        static constexpr Result kResults[] = {{"LNMC", "SAMP_TOP", "LNMC_MC", "moisture content", "%"},
                                              {"LDEN", "SAMP_TOP", "LDEN_BDEN", "bulk density", "Mg/m3"},
                                              {"LLPL", "SAMP_TOP", "LLPL_LL", "liquid limit", "%"},
                                              {"LLPL", "SAMP_TOP", "LLPL_PL", "plastic limit", "%"},
                                              {"IVAN", "IVAN_DPTH", "IVAN_IVAN", "vane strength", "kPa"},
                                              {"SCPT", "SCPT_DPTH", "SCPT_RES", "cone resistance", "MN/m2"},
                                              {"STCN", "STCN_DPTH", "STCN_RES", "cone resistance", "MN/m2"}};
        for (const auto& result : kResults) {
            std::map<Hole*, std::vector<Curve::Reading>> found;
            eachRow({result.group}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
                const auto at = cells.number(r, {"SPEC_DPTH", result.depth}, hole.id);
                // text beside numbers ("NP") is usual in results: no finding
                const auto value = parseNumber(cells.text(r, {result.value}));
                if (at && value) found[&hole].push_back({*at, *value});
            });
            for (auto& [hole, readings] : found) {
                std::ranges::stable_sort(readings, {}, &Curve::Reading::depth);
                hole->curves.push_back({result.name, result.unit, result.value, std::string_view(result.group) != "SCPT",
                                        std::make_shared<const std::vector<Curve::Reading>>(std::move(readings))});
            }
        }
    }

    void readCodeNames() {
        GroupCells cells(m_file, {"ABBR"}, m_out.findings);
        for (std::size_t r = 0; r < cells.rows(); ++r)
            if (cells.text(r, {"ABBR_HDNG"}).starts_with("GEOL_"))
                m_out.codeNames.try_emplace(std::string(cells.text(r, {"ABBR_CODE"})), cells.text(r, {"ABBR_DESC"}));
    }

    static constexpr double kOpen = kNoValue; ///< the base of an interval until it is known
    struct Orphans {
        int line = 0, rows = 0;
        std::string hole;
    };
    const AgsFile& m_file;
    const std::vector<std::string>& m_without;
    AgsHoles m_out;
    std::unordered_map<std::string, std::size_t> m_byId;
    std::unordered_map<std::string, HolePlace> m_byLetters; ///< by capitals without blanks; the end where two are written so
    std::set<std::string> m_spellings;                      ///< of holes, that were said
    std::set<std::string> m_withoutBearing;
    std::map<std::string, Orphans> m_orphans;
    Hole* m_last = nullptr;
};

} // namespace

AgsHoles holesOf(const AgsFile& file, const std::vector<std::string>& without) { return HoleReader(file, without).read(); }

const char* feeds(std::string_view group) {
    static constexpr std::pair<std::string_view, const char*> kFeeds[] = {
        {"LOCA", "places"},         {"HOLE", "places"}, {"HORN", "paths"}, {"GEOL", "geology"}, {"DETL", "geology"},
        {"ABBR", "names of codes"}, {"ISPT", "tests"},  {"SAMP", "tests"}, {"CORE", "tests"},   {"WSTG", "tests"},
        {"WSTD", "tests"},          {"WSTK", "tests"},  {"PIPE", "tests"}, {"MONG", "tests"},   {"PREF", "tests"},
        {"LNMC", "tests"},          {"LDEN", "tests"},  {"LLPL", "tests"}, {"IVAN", "tests"},   {"SCPT", "tests"},
        {"STCN", "tests"}};
    for (const auto& [name, what] : kFeeds)
        if (name == group) return what;
    return "";
}

} // namespace fox
