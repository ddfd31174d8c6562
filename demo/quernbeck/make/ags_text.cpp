#include "ags_group.h"
#include "files.h"

#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace quernbeck {

namespace {

std::string m2(double v) { return fmt::format("{:.2f}", v); }
std::string orEmpty(const std::optional<double>& v) { return v ? m2(*v) : ""; }

const std::map<std::string, std::map<std::string, std::string>>& abbreviations() {
    static const std::map<std::string, std::map<std::string, std::string>> kWords{
        {"LOCA_TYPE",
         {{"RC", "Rotary cored"},
          {"CP", "Cable percussion (shell and auger)"},
          {"TP", "Trial pit/trench"},
          {"WLS", "Dynamic (windowless) sampler"}}},
        {"LOCA_STAT", {{"FINAL", "Final data"}}},
        {"LOCA_GREF", {{"UTM31", "Universal grid, zone 31 north"}}},
        {"GEOL_LEG",
         {{"101", "Topsoil"},
          {"102", "Made Ground"},
          {"204", "Silty clay"},
          {"205", "Gravelly clay"},
          {"401", "Sand"},
          {"502", "Sandy gravel"},
          {"601", "Peat"},
          {"803", "Mudstone"}}},
        {"GEOL_GEOL",
         {{"TS", "Topsoil"},
          {"MG", "Made Ground"},
          {"AL", "Alluvium"},
          {"PT", "Peat"},
          {"RG", "River Gravel"},
          {"TL", "Till"},
          {"SL", "Sand Lens"},
          {"MW", "Weathered Mudstone"},
          {"MS", "Mudstone"},
          {"M.G.", "Made Ground"},
          {"made gr", "Made Ground"}}},
        {"SAMP_TYPE",
         {{"B", "Bulk disturbed sample"}, {"D", "Small disturbed sample"}, {"U", "Undisturbed sample - open drive"}}},
        {"MONG_TYPE", {{"SP", "Standpipe"}}},
        {"MOND_TYPE", {{"WLEV", "Water level"}}},
        {"PIPE_TYPE", {{"PLAIN", "Plain pipe"}, {"SLOT", "Slotted pipe"}}},
        {"DICT_TYPE", {{"HEADING", "Flag to indicate definition is a HEADING"}}},
        {"DICT_STAT", {{"OTHER", "Other field"}}}};
    return kWords;
}

const std::vector<Heading> kSample{
    {"LOCA_ID", "", "ID"}, {"SAMP_TOP", "m", "2DP"}, {"SAMP_REF", "", "X"}, {"SAMP_TYPE", "", "PA"}, {"SAMP_ID", "", "ID"}};

std::vector<Heading> onSpecimen(std::vector<Heading> more) {
    auto all = kSample;
    all.push_back({"SPEC_REF", "", "X"});
    all.push_back({"SPEC_DPTH", "m", "2DP"});
    all.insert(all.end(), more.begin(), more.end());
    return all;
}

struct Groups {
    Group loca{"LOCA",
               {{"LOCA_ID", "", "ID"},
                {"LOCA_TYPE", "", "PA"},
                {"LOCA_STAT", "", "PA"},
                {"LOCA_NATE", "m", "2DP"},
                {"LOCA_NATN", "m", "2DP"},
                {"LOCA_GREF", "", "PA"},
                {"LOCA_GL", "m", "2DP"},
                {"LOCA_FDEP", "m", "2DP"}}};
    Group horn{"HORN",
               {{"LOCA_ID", "", "ID"},
                {"HORN_TOP", "m", "2DP"},
                {"HORN_BASE", "m", "2DP"},
                {"HORN_ORNT", "deg", "0DP"},
                {"HORN_INCL", "deg", "0DP"}}};
    Group geol{"GEOL",
               {{"LOCA_ID", "", "ID"},
                {"GEOL_TOP", "m", "2DP"},
                {"GEOL_BASE", "m", "2DP"},
                {"GEOL_DESC", "", "X"},
                {"GEOL_LEG", "", "PA"},
                {"GEOL_GEOL", "", "PA"},
                {"GEOL_STAT", "", "X"},
                {"GEOL_SURE", "", "X"}}};
    Group detl{"DETL", {{"LOCA_ID", "", "ID"}, {"DETL_TOP", "m", "2DP"}, {"DETL_BASE", "m", "2DP"}, {"DETL_DESC", "", "X"}}};
    Group samp{"SAMP", kSample};
    Group ispt{"ISPT", {{"LOCA_ID", "", "ID"}, {"ISPT_TOP", "m", "2DP"}, {"ISPT_NVAL", "", "0DP"}, {"ISPT_REP", "", "X"}}};
    Group core{"CORE",
               {{"LOCA_ID", "", "ID"},
                {"CORE_TOP", "m", "2DP"},
                {"CORE_BASE", "m", "2DP"},
                {"CORE_PREC", "%", "0DP"},
                {"CORE_SREC", "%", "0DP"},
                {"CORE_RQD", "%", "0DP"}}};
    Group wstg{"WSTG", {{"LOCA_ID", "", "ID"}, {"WSTG_DPTH", "m", "2DP"}}};
    Group wstd{"WSTD",
               {{"LOCA_ID", "", "ID"}, {"WSTG_DPTH", "m", "2DP"}, {"WSTD_NMIN", "min", "0DP"}, {"WSTD_POST", "m", "2DP"}}};
    Group pipe{"PIPE",
               {{"LOCA_ID", "", "ID"},
                {"PIPE_REF", "", "X"},
                {"PIPE_TOP", "m", "2DP"},
                {"PIPE_BASE", "m", "2DP"},
                {"PIPE_DIAM", "mm", "0DP"},
                {"PIPE_TYPE", "", "PA"}}};
    Group mong{"MONG",
               {{"LOCA_ID", "", "ID"},
                {"MONG_ID", "", "X"},
                {"MONG_DIS", "m", "2DP"},
                {"MONG_TYPE", "", "PA"},
                {"MONG_TRZ", "m", "2DP"},
                {"MONG_BRZ", "m", "2DP"}}};
    Group mond{"MOND",
               {{"LOCA_ID", "", "ID"},
                {"MONG_ID", "", "X"},
                {"MONG_DIS", "m", "2DP"},
                {"MOND_DTIM", "yyyy-mm-ddThh:mm", "DT"},
                {"MOND_TYPE", "", "PA"},
                {"MOND_REF", "", "X"},
                {"MOND_INST", "", "X"},
                {"MOND_RDNG", "", "XN"},
                {"MOND_UNIT", "", "PU"}}};
    Group llpl{"LLPL", onSpecimen({{"LLPL_LL", "%", "0DP"}, {"LLPL_PL", "%", "0DP"}, {"LLPL_PI", "%", "0DP"}})};
    Group lden{"LDEN", onSpecimen({{"LDEN_BDEN", "Mg/m3", "2DP"}, {"LDEN_DDEN", "Mg/m3", "2DP"}})};
    Group grag{"GRAG", onSpecimen({{"GRAG_GRAV", "%", "0DP"}, {"GRAG_SAND", "%", "0DP"}, {"GRAG_FINE", "%", "0DP"}})};

    void addSamples(const Drilled& d) {
        const auto& h = d.hole;
        int number = 0;
        for (const auto& i : h.intervals) {
            if (!i.usable()) continue;
            const auto code = i.codes.at("GEOL_GEOL");
            const bool clay = code == "AL" || code == "TL", coarse = code == "RG" || code == "SL";
            const std::string type = clay && i.base.metres - i.top.metres > 1 ? "U" : coarse ? "B" : "D";
            const auto depth = m2(i.top.metres + 0.3);
            const std::vector<std::string> key{h.id, depth, fmt::format("{}", ++number), type,
                                               fmt::format("{}-{:02}", h.id, number)};
            samp.add(key);
            const auto test = [&](Group& to, std::vector<std::string> values) {
                auto row = key;
                row.emplace_back("1");
                row.push_back(depth);
                row.insert(row.end(), values.begin(), values.end());
                to.add(std::move(row));
            };
            const double wave = std::sin(double(number) * 1.7 + h.easting.value_or(0) / 100);
            if (clay) {
                const int liquid = int((code == "AL" ? 58 : 34) + 6 * wave), plastic = int((code == "AL" ? 26 : 16) + 2 * wave);
                test(llpl, {fmt::to_string(liquid), fmt::to_string(plastic), fmt::to_string(liquid - plastic)});
                test(lden, {m2((code == "AL" ? 1.72 : 2.14) + 0.05 * wave), m2((code == "AL" ? 1.15 : 1.86) + 0.04 * wave)});
            }
            if (coarse) {
                const int gravel = int((code == "RG" ? 58 : 6) + 5 * wave), fines = int(6 + 3 * wave);
                test(grag, {fmt::to_string(gravel), fmt::to_string(100 - gravel - fines), fmt::to_string(fines)});
            }
        }
    }

    void addWater(const Drilled& d) {
        const auto& h = d.hole;
        for (const double strike : d.strikes) {
            wstg.add({h.id, m2(strike)});
            for (const int minutes : {5, 20})
                wstd.add({h.id, m2(strike), fmt::to_string(minutes), m2(strike - 0.6 - 0.02 * minutes)});
            if (h.type != "RC") continue;
            const double foot = std::min(strike + 4, h.finalDepth->metres);
            pipe.add({h.id, "1", "0.00", m2(strike + 0.5), "50", "PLAIN"});
            pipe.add({h.id, "1", m2(strike + 0.5), m2(foot), "50", "SLOT"});
            mong.add({h.id, "SP1", m2(foot), "SP", m2(strike + 0.5), m2(foot)});
            for (int month = 1; month <= 4; ++month)
                mond.add({h.id, "SP1", m2(foot), fmt::format("2019-{:02}-14T10:30", month + 3), "WLEV", "", "",
                          m2(strike - 0.9 + 0.12 * month), "m"});
        }
    }

    void add(const Drilled& d) {
        const auto& h = d.hole;
        loca.add({h.id, h.type, "FINAL", orEmpty(h.easting), orEmpty(h.northing), "UTM31", h.level ? m2(h.level->metres) : "",
                  m2(h.finalDepth->metres)});
        for (std::size_t i = 0; i < h.stations.size(); ++i) {
            const auto& s = h.stations[i];
            const double base = i + 1 < h.stations.size() ? h.stations[i + 1].depth.metres : h.finalDepth->metres;
            horn.add(
                {h.id, m2(s.depth.metres), m2(base), fmt::format("{:.0f}", s.azimuth), fmt::format("{:.0f}", s.inclination)});
        }
        for (const auto& i : h.intervals) {
            const auto code = i.codes.at("GEOL_GEOL");
            geol.add({h.id, m2(i.top.metres), m2(i.base.metres), i.description, i.codes.at("GEOL_LEG"), code, "",
                      code == "TL" ? "fair" : "good"});
            if (code == "AL" && i.base.metres - i.top.metres > 2)
                detl.add({h.id, m2(i.top.metres + 1), m2(i.top.metres + 1.2), "Thin band of black organic clay."});
        }
        for (const auto& b : h.blowCounts)
            ispt.add({h.id, m2(b.depth.metres), fmt::format("{:.0f}", b.blows), fmt::format("N={:.0f}", b.blows)});
        addSamples(d);
        addWater(d);
        if (h.type == "RC")
            for (const auto& i : h.intervals)
                if (const auto code = i.codes.at("GEOL_GEOL"); (code == "MW" || code == "MS") && i.usable())
                    core.add({h.id, m2(i.top.metres), m2(i.base.metres), "96", code == "MS" ? "82" : "41",
                              code == "MS" ? "64" : "12"});
    }

    std::vector<const Group*> all() const {
        return {&loca, &horn, &geol, &detl, &samp, &ispt, &core, &wstg, &wstd, &pipe, &mong, &mond, &llpl, &lden, &grag};
    }
};

const std::map<std::string, std::string>& unitWords() {
    static const std::map<std::string, std::string> kWords{{"m", "metre"},         {"deg", "degree"},
                                                           {"%", "percentage"},    {"min", "minute"},
                                                           {"mm", "millimetre"},   {"Mg/m3", "megagram per cubic metre"},
                                                           {"yyyy-mm-dd", "date"}, {"yyyy-mm-ddThh:mm", "date and time"}};
    return kWords;
}
const std::map<std::string, std::string>& typeWords() {
    static const std::map<std::string, std::string> kWords{{"ID", "Unique identifier"},
                                                           {"PA", "Text listed in the ABBR group"},
                                                           {"PT", "Text listed in the TYPE group"},
                                                           {"PU", "Text listed in the UNIT group"},
                                                           {"X", "Text"},
                                                           {"XN", "Text or number"},
                                                           {"DT", "Date and time"},
                                                           {"2DP", "Value with 2 decimal places"},
                                                           {"0DP", "Value with no decimal places"}};
    return kWords;
}

} // namespace

std::string ags4(const std::vector<Drilled>& holes, const std::string& project, const std::string& title, bool allGroups) {
    Group proj{"PROJ", {{"PROJ_ID", "", "ID"}, {"PROJ_NAME", "", "X"}, {"PROJ_LOC", "", "X"}, {"PROJ_CLNT", "", "X"}}};
    proj.add({project, title, "Quernbeck (invented)", "Quernbeck Drainage Board"});
    Group tran{"TRAN",
               {{"TRAN_ISNO", "", "X"},
                {"TRAN_DATE", "yyyy-mm-dd", "DT"},
                {"TRAN_PROD", "", "X"},
                {"TRAN_STAT", "", "X"},
                {"TRAN_DESC", "", "X"},
                {"TRAN_AGS", "", "X"},
                {"TRAN_RECV", "", "X"},
                {"TRAN_DLIM", "", "X"},
                {"TRAN_RCON", "", "X"}}};
    tran.add(
        {"1", "2019-09-02", "Ashlode Ground Investigation", "Final", "Final data", "4.1", "Quernbeck Drainage Board", "|", "+"});
    Groups g;
    for (const auto& d : holes) g.add(d);
    Group dict{"DICT",
               {{"DICT_TYPE", "", "PA"},
                {"DICT_GRP", "", "X"},
                {"DICT_HDNG", "", "X"},
                {"DICT_STAT", "", "PA"},
                {"DICT_DTYP", "", "PT"},
                {"DICT_DESC", "", "X"},
                {"DICT_UNIT", "", "PU"},
                {"DICT_EXMP", "", "X"}}};
    dict.add({"HEADING", "GEOL", "GEOL_SURE", "OTHER", "X", "How sure the logger was of the unit", "", "good"});
    Group unit{"UNIT", {{"UNIT_UNIT", "", "X"}, {"UNIT_DESC", "", "X"}}},
        type{"TYPE", {{"TYPE_TYPE", "", "X"}, {"TYPE_DESC", "", "X"}}};
    Group abbr{"ABBR", {{"ABBR_HDNG", "", "X"}, {"ABBR_CODE", "", "X"}, {"ABBR_DESC", "", "X"}}};
    std::vector<const Group*> data{&proj, &tran, &dict};
    for (const auto* group : allGroups ? g.all() : std::vector<const Group*>{&g.loca, &g.geol, &g.ispt})
        if (!group->rows().empty()) data.push_back(group);
    std::set<std::string> units{}, types{};
    std::map<std::string, std::set<std::string>> codes;
    auto everything = data;
    for (const auto* group : {&unit, &type, &abbr}) everything.push_back(group);
    for (const auto* group : everything)
        for (std::size_t c = 0; c < group->headings().size(); ++c) {
            const auto& h = group->headings()[c];
            types.insert(h.type);
            if (*h.unit) units.insert(h.unit);
            for (const auto& row : group->rows()) {
                if (row[c].empty()) continue;
                if (std::string_view(h.type) == "PA") codes[h.name].insert(row[c]);
                if (std::string_view(h.type) == "PU") units.insert(row[c]);
            }
        }
    for (const auto& u : units) unit.add({u, unitWords().at(u)});
    for (const auto& t : types) type.add({t, typeWords().at(t)});
    for (const auto& [heading, used] : codes)
        for (const auto& code : used) abbr.add({heading, code, abbreviations().at(heading).at(code)});
    std::string out = proj.text() + tran.text() + unit.text() + type.text() + abbr.text() + dict.text();
    for (std::size_t i = 3; i < data.size(); ++i) out += data[i]->text();
    return out;
}

namespace {

std::string row3(const std::vector<std::string>& cells) {
    std::string out;
    for (const auto& c : cells) out += (out.empty() ? "\"" : ",\"") + c + "\"";
    return out + "\r\n";
}

/// A GEOL row; a long description goes on in <CONT> lines.
std::string geologyRows(const fox::Hole& h, const fox::Interval& i) {
    constexpr std::size_t kPiece = 60;
    std::string rest = i.description, out;
    const auto piece = [&] {
        // broken after a blank, which stays, so that the pieces join as they were
        auto end = rest.size() <= kPiece ? rest.size() : rest.rfind(' ', kPiece) + 1;
        auto p = rest.substr(0, end);
        rest.erase(0, end);
        return p;
    };
    out += row3({h.id, m2(i.top.metres), m2(i.base.metres), piece(), i.codes.at("GEOL_LEG"), i.codes.at("GEOL_GEOL")});
    while (!rest.empty()) out += row3({"<CONT>", "", "", piece(), "", ""});
    return out;
}

} // namespace

std::string ags3(const std::vector<Drilled>& holes, const std::string& project, const std::string& title) {
    std::string out = row3({"**PROJ"}) + row3({"*PROJ_ID", "*PROJ_NAME", "*PROJ_LOC", "*PROJ_AGS", "*PROJ_DATE"})
                      + row3({"<UNITS>", "", "", "", "dd/mm/yyyy"})
                      + row3({project, title, "Quernbeck (invented)", "3.1", "11/10/2016"}) + "\r\n";
    out += row3({"**ABBR"}) + row3({"*ABBR_HDNG", "*ABBR_CODE", "*ABBR_DESC"});
    for (const char* heading : {"GEOL_GEOL", "GEOL_LEG"})
        for (const auto& [abbreviation, words] : abbreviations().at(heading)) out += row3({heading, abbreviation, words});
    out += "\r\n" + row3({"**UNIT"}) + row3({"*UNIT_UNIT", "*UNIT_DESC"}) + row3({"m", "metre"})
           + row3({"dd/mm/yyyy", "day month year"}) + "\r\n";
    out += row3({"**HOLE"}) + "\"*HOLE_ID\",\"*HOLE_TYPE\",\"*HOLE_NATE\",\"*HOLE_NATN\",\r\n" + row3({"*HOLE_GL", "*HOLE_FDEP"})
           + row3({"<UNITS>", "", "m", "m", "m", "m"});
    for (const auto& [h, strikes] : holes)
        out += row3({h.id, h.type, m2(*h.easting), m2(*h.northing), m2(h.level->metres), m2(h.finalDepth->metres)});
    out += "\r\n" + row3({"**GEOL"}) + row3({"*HOLE_ID", "*GEOL_TOP", "*GEOL_BASE", "*GEOL_DESC", "*GEOL_LEG", "*GEOL_GEOL"})
           + row3({"<UNITS>", "m", "m", "", "", ""});
    for (const auto& [h, strikes] : holes)
        for (const auto& i : h.intervals) out += geologyRows(h, i);
    out += "\r\n" + row3({"**ISPT"}) + row3({"*HOLE_ID", "*ISPT_TOP", "*ISPT_NVAL"}) + row3({"<UNITS>", "m", ""});
    for (const auto& [h, strikes] : holes)
        for (const auto& b : h.blowCounts) out += row3({h.id, m2(b.depth.metres), fmt::format("{:.0f}", b.blows)});
    return out + "\r\n";
}

} // namespace quernbeck
