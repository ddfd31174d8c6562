#include "holes/ags_holes.h"

#include "holes/ags_rows.h"

#include <algorithm>
#include <fmt/format.h>

namespace fox {

namespace {

class HoleReader {
public:
    HoleReader(const AgsFile& file, const std::vector<std::string>& without)
        : m_file(file), m_rows(file, without, m_out.holes, m_out.findings) {}

    AgsHoles read() {
        readProject();
        readPlaces();
        readStations();
        readGeology();
        readDetails();
        readSamples();
        readCores();
        readAgsWater(m_rows);
        readAgsTests(m_rows);
        readCodeNames();
        m_rows.sayOrphans();
        std::ranges::stable_sort(m_out.findings, {}, &Finding::line);
        return std::move(m_out);
    }

private:
    bool four() const { return m_rows.isFour(); }

    void add(Severity severity, int line, std::string group, std::string hole, std::string words, std::string rule) {
        m_rows.add(severity, line, std::move(group), std::move(hole), std::move(words), std::move(rule));
    }

    void readProject() {
        auto project = m_rows.cells({"PROJ"}, true);
        if (project.rows() > 0) {
            m_out.project = project.text(0, {"PROJ_ID"});
            m_out.title = project.text(0, {"PROJ_NAME"});
        }
        if (m_out.project.empty()) m_out.project = m_file.name;
    }

    void readPlaces() {
        auto places = m_rows.cells({"LOCA", "HOLE"}, true);
        if (!places || places.rows() == 0)
            return add(Severity::Error, 0, four() ? "LOCA" : "HOLE", "",
                       "The file lists no holes: it has no rows in the group of places.",
                       four() ? "AGS4 Rule 10c" : "AGS3 Rule 12");
        std::size_t onlyLocal = 0;
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
            takeLocalLevel(places, r, hole);
            if (const auto depth = places.number(r, {"LOCA_FDEP", "HOLE_FDEP"}, hole.id)) hole.finalDepth = Depth{*depth};
            const auto inclination = places.number(r, {"HOLE_INCL"}, hole.id);
            if (inclination && *inclination > 0 && *inclination < 90)
                hole.stations.push_back(
                    {Depth{0}, *inclination, bearing(places, r, "HOLE_ORNT", *inclination, hole.id), hole.line});
            else if (inclination && *inclination != 90)
                add(*inclination == 0 ? Severity::Note : Severity::Warning, hole.line, places.group().name, hole.id,
                    fmt::format("HOLE_INCL is {:g}, where 90 is straight down and 0 horizontal; the hole is taken as vertical.",
                                *inclination),
                    "FC-PATH");
            const auto x = places.number(r, {"LOCA_LOCX", "HOLE_LOCX"}, hole.id),
                       y = places.number(r, {"LOCA_LOCY", "HOLE_LOCY"}, hole.id);
            m_out.localPlaces.push_back(x && y ? std::optional(Point2{*x, *y}) : std::nullopt);
            onlyLocal += x && y && !hole.place();
            m_rows.addHole(std::move(hole), places.group().name);
        }
        if (onlyLocal == 0) return;
        add(Severity::Warning, places.line(0), places.group().name, "",
            fmt::format(
                "{} coordinates on the site's own grid only (LOCX, LOCY). Tie that grid to the national one by two points "
                "that are known in both: read the file again and tick \"places from the local grid\".",
                counted(onlyLocal, "hole has", "holes have")),
            "FC-LOCAL-GRID");
        m_out.findings.back().remedy = Remedy{"Tie the local grid...", ReadFileAgain{m_file.name}};
    }

    /// The local grid's level where there is no other one.
    void takeLocalLevel(GroupCells& places, std::size_t row, Hole& hole) {
        if (hole.level) return;
        const auto level = places.number(row, {"LOCA_LOCZ", "HOLE_LOCZ"}, hole.id);
        if (!level) return;
        hole.level = Level{*level};
        add(Severity::Note, hole.line, places.group().name, hole.id,
            fmt::format("The ground level is missing; its level on the local grid (LOCZ), {:.2f} m, is used.", *level),
            "FC-LOCAL-GRID");
    }

    void readStations() {
        auto cells = m_rows.cells({"HORN"});
        for (std::size_t r = 0; r < cells.rows(); ++r) {
            auto* hole = m_rows.holeOf(cells, r);
            if (!hole) continue;
            const auto top = cells.number(r, {"HORN_TOP"}, hole->id);
            const auto inclination = cells.number(r, {"HORN_INCL"}, hole->id);
            if (!top || !inclination) {
                add(Severity::Warning, cells.line(r), "HORN", hole->id,
                    "A row of the hole's path has no depth or no inclination; it is left out.", "FC-PATH");
                continue;
            }
            hole->stations.push_back(
                {Depth{*top}, *inclination, bearing(cells, r, "HORN_ORNT", *inclination, hole->id), cells.line(r)});
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
        if (m_rows.isOut("GEOL")) return;
        auto cells = m_rows.cells({"GEOL"});
        if (cells.rows() == 0) {
            const bool hasTests = std::ranges::any_of(
                m_file.groups, [](const AgsGroup& g) { return !g.rows.empty() && std::string_view(feeds(g.name)) == "tests"; });
            add(hasTests ? Severity::Note : Severity::Warning, cells ? cells.group().line : 0, "GEOL", "",
                hasTests ? "The file has no geology (no GEOL rows): what it has is added to the holes that other files tell of."
                         : "The file has no geology (no GEOL rows): its holes say nothing about any unit.",
                "FC-LOG");
        }
        // any heading but those of depth and free text may carry the unit
        std::vector<std::size_t> codeColumns;
        static constexpr std::string_view kNoCodes[] = {"LOCA_ID",   "HOLE_ID",  "GEOL_TOP", "GEOL_BASE",
                                                        "GEOL_DESC", "GEOL_REM", "FILE_FSET"};
        for (std::size_t c = 0; cells && c < cells.group().headings.size(); ++c)
            if (!std::ranges::count(kNoCodes, cells.group().headings[c])) codeColumns.push_back(c);
        for (std::size_t r = 0; r < cells.rows(); ++r) {
            auto* hole = m_rows.holeOf(cells, r);
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
            if (!std::ranges::is_sorted(hole.intervals, {}, &Interval::top)) // most come so
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

    void readDetails() {
        m_rows.eachRow({"DETL"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto top = cells.number(r, {"DETL_TOP"}, hole.id), base = cells.number(r, {"DETL_BASE"}, hole.id);
            if (top) hole.details.push_back({Depth{*top}, Depth{base.value_or(*top)}, std::string(cells.text(r, {"DETL_DESC"}))});
        });
    }

    void readSamples() {
        m_rows.eachRow({"SAMP"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            if (const auto top = cells.number(r, {"SAMP_TOP"}, hole.id))
                hole.samples.push_back({Depth{*top}, depthAt(cells.number(r, {"SAMP_BASE"}, hole.id)),
                                        std::string(cells.text(r, {"SAMP_TYPE"})), std::string(cells.text(r, {"SAMP_REF"}))});
        });
        m_out.holes.changeEach([](Hole& hole) { std::ranges::stable_sort(hole.samples, {}, &Sample::top); });
    }

    void readCores() {
        m_rows.eachRow({"CORE"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto top = cells.number(r, {"CORE_TOP"}, hole.id), base = cells.number(r, {"CORE_BASE", "CORE_BOT"}, hole.id);
            if (top && base)
                hole.coreRuns.push_back({Depth{*top}, Depth{*base}, cells.number(r, {"CORE_PREC"}, hole.id),
                                         cells.number(r, {"CORE_SREC"}, hole.id), cells.number(r, {"CORE_RQD"}, hole.id)});
        });
        m_out.holes.changeEach([](Hole& hole) { std::ranges::stable_sort(hole.coreRuns, {}, &CoreRun::top); });
    }

    void readCodeNames() {
        auto cells = m_rows.cells({"ABBR"}, true);
        for (std::size_t r = 0; r < cells.rows(); ++r)
            if (cells.text(r, {"ABBR_HDNG"}).starts_with("GEOL_"))
                m_out.codeNames.try_emplace(std::string(cells.text(r, {"ABBR_CODE"})), cells.text(r, {"ABBR_DESC"}));
    }

    static constexpr double kOpen = kNoValue; ///< the base of an interval until it is known
    const AgsFile& m_file;
    AgsHoles m_out;
    AgsRows m_rows;
    std::set<std::string> m_withoutBearing;
};

} // namespace

AgsHoles holesOf(const AgsFile& file, const std::vector<std::string>& without) { return HoleReader(file, without).read(); }

const char* feeds(std::string_view group) {
    static constexpr std::pair<std::string_view, const char*> kFeeds[] = {
        {"LOCA", "places"},         {"HOLE", "places"}, {"HORN", "paths"}, {"GEOL", "geology"}, {"DETL", "geology"},
        {"ABBR", "names of codes"}, {"ISPT", "tests"},  {"SAMP", "tests"}, {"CORE", "tests"},   {"WSTG", "tests"},
        {"WSTD", "tests"},          {"WSTK", "tests"},  {"PIPE", "tests"}, {"MONG", "tests"},   {"PREF", "tests"},
        {"BKFL", "tests"},          {"MOND", "tests"},  {"POBS", "tests"}, {"SCPG", "tests"},   {"SCPT", "tests"},
        {"STCN", "tests"},          {"DPRB", "tests"},  {"ERES", "tests"}, {"GCHM", "tests"},   {"CNMT", "tests"},
        {"WLOG", "tests"}};
    for (const auto& [name, what] : kFeeds)
        if (name == group) return what;
    return givesAgsResults(group) ? "tests" : "";
}

} // namespace fox
