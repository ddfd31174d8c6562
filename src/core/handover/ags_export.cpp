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

std::string two(double v) { return fmt::format("{:.2f}", v); }
std::string two(Depth d) { return two(d.metres); }

/// AGS is plain ASCII: what is not is written as a question mark, and letters with marks without them.
std::string plain(const std::string& text) {
    static const std::pair<const char*, const char*> kLetters[] = {{"\xC2\xB0", " deg"},  {"\xE2\x80\x93", "-"},
                                                                   {"\xE2\x80\x99", "'"}, {"\xC2\xB2", "2"},
                                                                   {"\xC2\xB3", "3"},     {"\xC2\xB5", "u"}};
    std::string out = text;
    for (const auto& [from, to] : kLetters)
        for (auto at = out.find(from); at != out.npos; at = out.find(from)) out.replace(at, std::string_view(from).size(), to);
    std::string ascii;
    for (const char c : out)
        if (c >= 0)
            ascii += c == '\n' || c == '\r' ? ' ' : c;
        else if ((c & 0xC0) == 0xC0)
            ascii += '?';
    return ascii;
}

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
        m_builder.add("PROJ", {{"PROJ_ID", "1"}, {"PROJ_NAME", plain(m_project.name)}});
        m_builder.add("TRAN", {{"TRAN_ISNO", "1"},
                               {"TRAN_DATE", fmt::format("{:%Y-%m-%d}", fmt::localtime(now))},
                               {"TRAN_PROD", "Not given"},
                               {"TRAN_STAT", "Working data"},
                               {"TRAN_DESC", "Holes of " + plain(m_project.name)},
                               {"TRAN_AGS", "4.1"},
                               {"TRAN_RECV", "Not given"},
                               {"TRAN_DLIM", "|"},
                               {"TRAN_RCON", "+"}});
        for (std::size_t i = 0; i < m_holes.size(); ++i) {
            m_id = plain(m_names[i]);
            place(m_holes[i]);
            ground(m_holes[i]);
            tests(m_holes[i]);
            curves(m_holes[i]);
        }
        for (const auto& [code, words] : *m_project.codeNames)
            if (m_codes.contains(code)) m_builder.describe("GEOL_GEOL", plain(code), plain(words));
        for (const auto& u : m_project.sequence->units)
            if (m_codes.contains(u.code)) m_builder.describe("GEOL_GEOL", plain(u.code), plain(u.name));
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
        Row row{{"LOCA_TYPE", plain(h.type)}};
        if (h.place()) row["LOCA_NATE"] = two(h.place()->x), row["LOCA_NATN"] = two(h.place()->y);
        if (h.place() && !m_project.site->crs.empty()) row["LOCA_GREF"] = m_project.site->crs;
        if (h.level) row["LOCA_GL"] = two(h.level->metres);
        if (const auto end = h.finalDepth.value_or(h.end()); end > Depth{0}) row["LOCA_FDEP"] = two(end);
        if (!m_project.site->crs.empty())
            m_builder.describe("LOCA_GREF", m_project.site->crs, "Coordinate system by its EPSG number");
        if (!h.type.empty())
            m_builder.describe("LOCA_TYPE", plain(h.type), plain(h.type == "LAS" ? "well, from its log" : typeInWords(h.type)));
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
            Row row{{"GEOL_TOP", two(i.top)}, {"GEOL_BASE", two(i.base)}, {"GEOL_DESC", plain(i.description)}};
            for (const auto& [heading, code] : i.codes) {
                const bool standard = AgsDictionary::standard(AgsEdition::Ags4).heading("GEOL", heading) != nullptr;
                if (!standard && !heading.starts_with("GEOL_")) continue;
                if (!standard) m_builder.define("GEOL", heading, "Code of the file that it came from");
                row[heading] = plain(code);
                if (heading == "GEOL_GEOL") m_codes.insert(code);
            }
            // a table's own column of units, where there is no geology code
            for (const auto& [heading, code] : i.codes)
                if (!heading.starts_with("GEOL_")) row.try_emplace("GEOL_GEOL", plain(code));
            m_builder.add("GEOL", at(std::move(row)));
        }
        for (const auto& d : h.details)
            m_builder.add("DETL", at({{"DETL_TOP", two(d.top)}, {"DETL_BASE", two(d.base)}, {"DETL_DESC", plain(d.words)}}));
    }

    void tests(const Hole& h) {
        for (const auto& b : h.blowCounts)
            m_builder.add("ISPT", at({{"ISPT_TOP", two(b.depth)}, {"ISPT_NVAL", fmt::format("{:.0f}", b.blows)}}));
        for (const auto& s : h.samples)
            m_builder.add("SAMP", at({{"SAMP_TOP", two(s.top)},
                                      {"SAMP_BASE", s.base ? two(*s.base) : ""},
                                      {"SAMP_TYPE", plain(s.type)},
                                      {"SAMP_REF", plain(s.reference)}}));
        for (const auto& s : h.strikes) m_builder.add("WSTG", at({{"WSTG_DPTH", two(s.depth)}}));
        for (const auto& c : h.coreRuns) {
            const auto percent = [](const std::optional<double>& v) { return v ? fmt::format("{:.0f}", *v) : std::string(); };
            m_builder.add("CORE", at({{"CORE_TOP", two(c.top)},
                                      {"CORE_BASE", two(c.base)},
                                      {"CORE_PREC", percent(c.recovery)},
                                      {"CORE_SREC", percent(c.solid)},
                                      {"CORE_RQD", percent(c.rqd)}}));
        }
    }

    /// The standard has no group for geophysical logs: one of our own, defined in DICT.
    void curves(const Hole& h) {
        if (h.curves.empty()) return;
        m_builder.define("WLOG", "", "Readings down a hole", "LOCA");
        m_builder.define("WLOG", "LOCA_ID", "Location identifier");
        m_builder.define("WLOG", "WLOG_DPTH", "Depth of the reading (m)");
        m_builder.define("WLOG", "WLOG_NAME", "What was read");
        m_builder.define("WLOG", "WLOG_RDNG", "Reading");
        m_builder.define("WLOG", "WLOG_UNIT", "Unit of the reading");
        for (const auto& c : h.curves)
            for (const auto& r : *c.readings)
                if (!std::isnan(r.value))
                    m_builder.add("WLOG", at({{"WLOG_DPTH", two(r.depth)},
                                              {"WLOG_NAME", plain(c.name)},
                                              {"WLOG_RDNG", fmt::format("{:.6g}", r.value)},
                                              {"WLOG_UNIT", plain(c.unit)}}));
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
