#include "handover/ags_export.h"

#include "base/text.h"
#include "formats/ags_build.h"
#include "importing/import.h"

#include <ctime>
#include <fmt/chrono.h>
#include <fmt/format.h>

namespace fox {

namespace {

using Row = AgsBuilder::Row;

constexpr std::string_view kProbing = "dynamic probing";

std::string two(double v) { return fmt::format("{:.2f}", v); }
std::string two(Depth d) { return two(d.metres); }

class Writer {
public:
    Writer(const Holes& holes, const Project& project) : m_holes(holes), m_project(project), m_names(displayNames(holes)) {
        for (const auto& h : holes)
            for (const auto& s : h.stations)
                for (const double angle : {s.azimuth, s.inclination})
                    m_angleDecimals = std::max(m_angleDecimals, decimalsOf(angle));
    }

    std::string write() {
        const auto now = std::time(nullptr);
        m_builder.add("PROJ", {{"PROJ_ID", "1"}, {"PROJ_NAME", asAscii(m_project.name)}});
        m_builder.add("TRAN", {{"TRAN_ISNO", "1"},
                               {"TRAN_DATE", fmt::format("{:%Y-%m-%d}", fmt::localtime(now))},
                               {"TRAN_PROD", "Not given"},
                               {"TRAN_STAT", "Working data"},
                               {"TRAN_DESC", "Holes of " + asAscii(m_project.name)},
                               {"TRAN_AGS", "4.1"},
                               {"TRAN_RECV", "Not given"},
                               {"TRAN_DLIM", "|"},
                               {"TRAN_RCON", "+"}});
        for (std::size_t i = 0; i < m_holes.size(); ++i) {
            m_id = asAscii(m_names[i]);
            place(m_holes[i]);
            ground(m_holes[i]);
            tests(m_holes[i]);
            water(m_holes[i]);
            soundings(m_holes[i]);
            probing(m_holes[i]);
            curves(m_holes[i]);
        }
        for (const auto& [code, words] : *m_project.codeNames)
            if (m_codes.contains(code)) m_builder.describe("GEOL_GEOL", asAscii(code), asAscii(words));
        for (const auto& u : m_project.sequence->units)
            if (m_codes.contains(u.code)) m_builder.describe("GEOL_GEOL", asAscii(u.code), asAscii(u.name));
        std::vector<std::string> notes; // columns that need another type are no news here
        return m_builder.text(notes);
    }

private:
    /// How many decimals an angle has, three at most: whole degrees are the standard's, what was measured more finely stays.
    static int decimalsOf(double degrees) {
        int decimals = 0;
        for (double scale = 1; decimals < 3 && std::abs(degrees * scale - std::round(degrees * scale)) > 1e-6; scale *= 10)
            ++decimals;
        return decimals;
    }

    Row at(Row row) const {
        row["LOCA_ID"] = m_id;
        return row;
    }

    void place(const Hole& h) {
        Row row{{"LOCA_TYPE", asAscii(h.type)}};
        if (h.place()) row["LOCA_NATE"] = two(h.place()->x), row["LOCA_NATN"] = two(h.place()->y);
        if (h.place() && !m_project.site->crs.empty()) row["LOCA_GREF"] = m_project.site->crs;
        if (h.level) row["LOCA_GL"] = two(h.level->metres);
        if (const auto end = h.finalDepth.value_or(h.end()); end > Depth{0}) row["LOCA_FDEP"] = two(end);
        if (!m_project.site->crs.empty())
            m_builder.describe("LOCA_GREF", m_project.site->crs, "Coordinate system by its EPSG number");
        if (!h.type.empty())
            m_builder.describe("LOCA_TYPE", asAscii(h.type),
                               asAscii(h.type == "LAS" ? "well, from its log" : typeInWords(h.type)));
        m_builder.add("LOCA", at(std::move(row)));
        for (std::size_t k = 0; k < h.stations.size(); ++k) {
            const auto& s = h.stations[k];
            const auto base = k + 1 < h.stations.size() ? h.stations[k + 1].depth : h.end();
            m_builder.add("HORN", at({{"HORN_TOP", two(s.depth)},
                                      {"HORN_BASE", two(base)},
                                      {"HORN_ORNT", fmt::format("{:.{}f}", s.azimuth, m_angleDecimals)},
                                      {"HORN_INCL", fmt::format("{:.{}f}", s.inclination, m_angleDecimals)}}));
        }
    }

    void ground(const Hole& h) {
        for (const auto& i : h.intervals) {
            Row row{{"GEOL_TOP", two(i.top)}, {"GEOL_BASE", two(i.base)}, {"GEOL_DESC", asAscii(i.description)}};
            for (const auto& [heading, code] : i.codes) {
                const bool standard = AgsDictionary::standard(AgsEdition::Ags4).heading("GEOL", heading) != nullptr;
                if (!standard && !heading.starts_with("GEOL_")) continue;
                if (!standard) m_builder.define("GEOL", heading, "Code of the file that it came from");
                row[heading] = asAscii(code);
                if (heading == "GEOL_GEOL") m_codes.insert(code);
            }
            // a table's own column of units, where there is no geology code
            for (const auto& [heading, code] : i.codes)
                if (!heading.starts_with("GEOL_")) row.try_emplace("GEOL_GEOL", asAscii(code));
            m_builder.add("GEOL", at(std::move(row)));
        }
        for (const auto& d : h.details)
            m_builder.add("DETL", at({{"DETL_TOP", two(d.top)}, {"DETL_BASE", two(d.base)}, {"DETL_DESC", asAscii(d.words)}}));
    }

    void tests(const Hole& h) {
        for (const auto& b : h.blowCounts) penetrationTest(b);
        for (const auto& s : h.samples)
            m_builder.add("SAMP", at({{"SAMP_TOP", two(s.top)},
                                      {"SAMP_BASE", s.base ? two(*s.base) : ""},
                                      {"SAMP_TYPE", asAscii(s.type)},
                                      {"SAMP_REF", asAscii(s.reference)}}));
        // after how many minutes it had risen is not known here, and WSTD asks for it: readStrikes() knows the remark
        for (const auto& s : h.strikes)
            m_builder.add("WSTG", at({{"WSTG_DPTH", two(s.depth)},
                                      {"WSTG_REM", s.roseTo ? fmt::format("Rose to {} m", two(*s.roseTo)) : ""}}));
        for (const auto& c : h.coreRuns) {
            const auto percent = [](const std::optional<double>& v) { return v ? fmt::format("{:.0f}", *v) : std::string(); };
            m_builder.add("CORE", at({{"CORE_TOP", two(c.top)},
                                      {"CORE_BASE", two(c.base)},
                                      {"CORE_PREC", percent(c.recovery)},
                                      {"CORE_SREC", percent(c.solid)},
                                      {"CORE_RQD", percent(c.rqd)}}));
        }
    }

    void penetrationTest(const BlowCount& b) {
        const auto whole = [](double v) { return fmt::format("{:.0f}", v); };
        Row row{{"ISPT_TOP", two(b.depth)}, {"ISPT_REP", asAscii(b.reported)}, {"ISPT_TYPE", asAscii(b.type)}};
        if (!b.refused()) row["ISPT_NVAL"] = whole(b.blows);
        if (b.refused()) {
            row["ISPT_MAIN"] = whole(b.blows);
            if (*b.penetration > 0) row["ISPT_NPEN"] = whole(*b.penetration);
            if (b.reported.empty()) row["ISPT_REP"] = words(b);
        }
        if (b.energyRatio) row["ISPT_ERAT"] = whole(*b.energyRatio);
        if (b.water) row["ISPT_WAT"] = two(*b.water);
        if (b.casing) row["ISPT_CAS"] = two(*b.casing);
        const auto increments = [&](const std::vector<BlowCount::Increment>& all, int first) {
            for (int k = 0; k < int(all.size()) && first + k <= 6; ++k) {
                const auto& [blows, penetration] = all[std::size_t(k)];
                row[fmt::format("ISPT_INC{}", first + k)] = whole(blows);
                if (penetration) row[fmt::format("ISPT_PEN{}", first + k)] = whole(*penetration);
            }
        };
        if (b.seating.size() == 2) increments(b.seating, 1);
        if (b.seating.size() == 1) row["ISPT_SEAT"] = whole(b.seating[0].blows);
        increments(b.main, 3);
        if (!b.type.empty()) m_builder.describe("ISPT_TYPE", asAscii(b.type), b.type == "C" ? "Solid cone" : "Split spoon");
        m_builder.add("ISPT", at(std::move(row)));
    }

    /// Pushes of a cone, with their readings row by row at each depth.
    void soundings(const Hole& h) {
        static constexpr struct {
            const char *track, *heading;
            double factor; ///< of the heading's unit in the track's
            int decimals;
        } kTracks[] = {{"cone resistance", "SCPT_RES", 1, 4},         {"sleeve friction", "SCPT_FRES", 1e-3, 4},
                       {"pore pressure u1", "SCPT_PWP1", 1e-3, 4},    {"pore pressure u2", "SCPT_PWP2", 1e-3, 4},
                       {"pore pressure u3", "SCPT_PWP3", 1e-3, 4},    {"friction ratio", "SCPT_FRR", 1, 1},
                       {"corrected cone resistance", "SCPT_QT", 1, 4}};
        for (const auto& s : h.soundings) {
            std::map<double, Row> rows;
            for (const auto& c : h.curves)
                for (const auto& t : kTracks)
                    if (c.push == s.push && c.name == t.track)
                        for (const auto& r : *c.readings)
                            if (!std::isnan(r.value))
                                rows[r.depth][t.heading] = fmt::format("{:.{}f}", r.value * t.factor, t.decimals);
            if (rows.empty()) continue;
            Row general{{"SCPG_TESN", asAscii(s.push)}, {"SCPG_REF", asAscii(s.cone)}};
            if (s.areaRatio) general["SCPG_CAR"] = two(*s.areaRatio);
            if (s.water) general["SCPG_WAT"] = two(*s.water);
            m_builder.add("SCPG", at(std::move(general)));
            for (auto& [depth, row] : rows) {
                row["SCPG_TESN"] = asAscii(s.push);
                row["SCPT_DPTH"] = fmt::format("{:.3f}", depth); // readings stand a centimetre or two apart
                m_builder.add("SCPT", at(std::move(row)));
            }
        }
    }

    /// Installations, and readings of water in them as depths.
    void water(const Hole& h) {
        using Part = Installation::Part;
        std::map<std::string, Row> points;
        for (const auto& i : h.installations) {
            auto& point = points[i.part == Part::ResponseZone || i.part == Part::Tip ? i.name : std::string()];
            if (i.part == Part::ResponseZone) point["MONG_TRZ"] = two(i.top), point["MONG_BRZ"] = two(i.base);
            if (i.part == Part::Tip) point["MONG_DIS"] = two(i.top);
            if (i.part == Part::Backfill)
                m_builder.add("BKFL", at({{"BKFL_TOP", two(i.top)}, {"BKFL_BASE", two(i.base)}, {"BKFL_REM", asAscii(i.name)}}));
            const bool isPipe = i.part == Part::PlainPipe || i.part == Part::SlottedPipe || i.part == Part::Pipe;
            if (!isPipe) continue;
            const char* type = i.part == Part::PlainPipe ? "PLAIN" : i.part == Part::SlottedPipe ? "SLOT" : "";
            if (*type) m_builder.describe("PIPE_TYPE", type, i.part == Part::PlainPipe ? "Plain pipe" : "Slotted pipe");
            m_builder.add("PIPE", at({{"PIPE_REF", asAscii(i.name.empty() ? "1" : i.name)},
                                      {"PIPE_TOP", two(i.top)},
                                      {"PIPE_BASE", two(i.base)},
                                      {"PIPE_TYPE", type}}));
        }
        for (const auto& w : h.waterLevels) points.try_emplace(w.pipe);
        for (auto& [name, row] : points) {
            const bool isRead = std::ranges::count(h.waterLevels, name, &WaterLevel::pipe) > 0;
            if (row.empty() && !isRead) continue;
            row["MONG_ID"] = asAscii(name.empty() ? "1" : name);
            m_builder.add("MONG", at(row));
        }
        if (!h.waterLevels.empty()) m_builder.describe("MOND_TYPE", "WDEP", "Depth to water");
        for (const auto& w : h.waterLevels) {
            Row row{{"MONG_ID", asAscii(w.pipe.empty() ? "1" : w.pipe)},
                    {"MOND_DTIM", asAscii(w.measured)},
                    {"MOND_TYPE", "WDEP"},
                    {"MOND_RDNG", w.dry ? "Dry" : two(w.depth)},
                    {"MOND_UNIT", "m"},
                    {"MOND_REM", asAscii(w.given)}};
            if (const auto& point = points[w.pipe]; point.contains("MONG_DIS")) row["MONG_DIS"] = point.at("MONG_DIS");
            m_builder.add("MOND", at(std::move(row)));
        }
    }

    void probing(const Hole& h) {
        for (const auto& c : h.curves) {
            if (c.name != kProbing) continue;
            const auto test = c.push.empty() ? "1" : asAscii(c.push);
            m_builder.add("DPRG", at({{"DPRG_TESN", test}}));
            for (const auto& r : *c.readings)
                m_builder.add("DPRB", at({{"DPRG_TESN", test},
                                          {"DPRB_DPTH", two(r.depth)},
                                          {"DPRB_BLOW", fmt::format("{:.0f}", r.value)},
                                          {"DPRB_INC", "100"}})); // the track is in blows per 100 mm
        }
    }

    /// The standard has no group for geophysical logs, and results of tests are known here by their names and not by their
    /// specimens: one of our own, defined in DICT, that readOwnReadings() takes in again.
    void curves(const Hole& h) {
        const auto isOwn = [](const Curve& c) {
            return c.push.empty() ? c.name != kProbing : c.name == "conductivity" || c.name == "natural gamma";
        };
        if (std::ranges::none_of(h.curves, isOwn)) return;
        m_builder.define("WLOG", "", "Readings down a hole", "LOCA");
        m_builder.define("WLOG", "LOCA_ID", "Location identifier");
        m_builder.define("WLOG", "WLOG_DPTH", "Depth of the reading (m)");
        m_builder.define("WLOG", "WLOG_NAME", "What was read");
        m_builder.define("WLOG", "WLOG_RDNG", "Reading");
        m_builder.define("WLOG", "WLOG_UNIT", "Unit of the reading");
        m_builder.define("WLOG", "WLOG_TYPE", "LOG of a log down the hole, RESULT of a test");
        m_builder.define("WLOG", "WLOG_TESN", "Sounding that the reading belongs to");
        m_builder.define("WLOG", "WLOG_HDNG", "Heading of the file that it came from");
        for (const auto& c : h.curves)
            for (std::size_t i = 0; isOwn(c) && i < c.readings->size(); ++i) {
                const auto& r = (*c.readings)[i];
                const auto said = std::ranges::find(c.written, i, &Curve::Written::reading);
                if (std::isnan(r.value) && said == c.written.end()) continue;
                m_builder.add("WLOG",
                              at({{"WLOG_DPTH", fmt::format("{:.3f}", r.depth)},
                                  {"WLOG_NAME", asAscii(c.name)},
                                  {"WLOG_RDNG", said == c.written.end() ? fmt::format("{:.9g}", r.value) : asAscii(said->text)},
                                  {"WLOG_UNIT", asAscii(c.unit)},
                                  {"WLOG_TYPE", c.single ? "RESULT" : "LOG"},
                                  {"WLOG_TESN", asAscii(c.push)},
                                  {"WLOG_HDNG", asAscii(c.words)}}));
            }
    }

    int m_angleDecimals = 0;
    const Holes& m_holes;
    const Project& m_project;
    std::vector<std::string> m_names;
    std::string m_id;
    std::set<std::string> m_codes;
    AgsBuilder m_builder;
};

} // namespace

std::string agsOf(const Holes& holes, const Project& project) { return Writer(holes, project).write(); }

std::vector<std::pair<std::string, std::string>> agsFilesOf(const Project& project) {
    std::vector<std::pair<std::string, std::string>> out;
    std::set<std::string> sources;
    for (const auto& f : *project.files)
        if (f.format.starts_with("AGS")) {
            out.emplace_back(f.name, correctedBytes(project, f));
            sources.insert(f.name);
        }
    Holes others;
    for (const auto& h : *project.holes)
        if (!sources.contains(h.file)) others.push_back(h);
    if (!others.empty())
        out.emplace_back(sources.contains("holes.ags") ? "holes_other_sources.ags" : "holes.ags", agsOf(others, project));
    return out;
}

} // namespace fox
