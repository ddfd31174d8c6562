// Soundings in places of their own, and a year of monitoring and laboratory results in holes of the main investigation.
#include "ags_group.h"
#include "files.h"

#include <array>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace quernbeck {

namespace {

std::string two(double v) { return fmt::format("{:.2f}", v); }

Unit unitAt(double e, double n, double level) {
    const auto b = bases(e, n);
    for (int u = 0; u < kUnits - 1; ++u)
        if (level > b[std::size_t(u)]) return Unit(u);
    return MS;
}

/// The file: PROJ, TRAN, the lists of units, types and abbreviations that the groups use, and the groups.
std::string fileOf(const std::string& project, const std::string& title, const std::string& sent,
                   const std::vector<const Group*>& groups,
                   const std::map<std::pair<std::string, std::string>, std::string>& codes) {
    Group proj{"PROJ", {{"PROJ_ID", "", "ID"}, {"PROJ_NAME", "", "X"}, {"PROJ_LOC", "", "X"}}};
    proj.add({project, title, "Quernbeck (invented)"});
    Group tran{"TRAN",
               {{"TRAN_ISNO", "", "X"},
                {"TRAN_DATE", "yyyy-mm-dd", "DT"},
                {"TRAN_PROD", "", "X"},
                {"TRAN_STAT", "", "X"},
                {"TRAN_AGS", "", "X"},
                {"TRAN_RECV", "", "X"},
                {"TRAN_DLIM", "", "X"},
                {"TRAN_RCON", "", "X"}}};
    tran.add({"1", sent, "Ashlode Ground Investigation", "Final", "4.1", "Quernbeck Drainage Board", "|", "+"});
    Group unit{"UNIT", {{"UNIT_UNIT", "", "X"}, {"UNIT_DESC", "", "X"}}},
        type{"TYPE", {{"TYPE_TYPE", "", "X"}, {"TYPE_DESC", "", "X"}}},
        abbr{"ABBR", {{"ABBR_HDNG", "", "X"}, {"ABBR_CODE", "", "X"}, {"ABBR_DESC", "", "X"}}};
    std::set<std::string> units, types;
    auto all = groups;
    for (const auto* g : {&proj, &tran, &unit, &type, &abbr}) all.push_back(g);
    for (const auto* g : all)
        for (std::size_t c = 0; c < g->headings().size(); ++c) {
            const auto& h = g->headings()[c];
            types.insert(h.type);
            if (*h.unit) units.insert(h.unit);
            if (std::string_view(h.type) == "PU")
                for (const auto& row : g->rows())
                    if (!row[c].empty()) units.insert(row[c]);
        }
    for (const auto& u : units) unit.add({u, "unit " + u});
    for (const auto& t : types) type.add({t, "type " + t});
    for (const auto& [code, words] : codes) abbr.add({code.first, code.second, words});
    std::string out;
    for (const auto* g : {&proj, &tran, &unit, &type, &abbr}) out += g->text();
    for (const auto* g : groups) out += g->text();
    return out;
}

/// What a cone meets in each unit: resistance (MPa) at its top and more a metre, friction ratio (%), excess pore pressure (kPa).
struct Cone {
    double resistance, perMetre, ratio, excess;
};
constexpr std::array<Cone, kUnits> kCone{{{0.9, 0, 4, 0},
                                          {2.5, 0.1, 2, 0},
                                          {0.45, 0.05, 3.2, 60},
                                          {0.35, 0.02, 6.5, 20},
                                          {16, 0.6, 0.8, 0},
                                          {2.6, 0.12, 4, 180},
                                          {13, 0.4, 0.9, 0},
                                          {3.2, 0.15, 4, 220},
                                          {9, 0.5, 5, 300},
                                          {25, 1, 4, 300}}};
constexpr double kWaterDepth = 1.4;

} // namespace

std::string soundings() {
    Group loca{"LOCA",
               {{"LOCA_ID", "", "ID"},
                {"LOCA_TYPE", "", "PA"},
                {"LOCA_NATE", "m", "2DP"},
                {"LOCA_NATN", "m", "2DP"},
                {"LOCA_GL", "m", "2DP"},
                {"LOCA_FDEP", "m", "2DP"}}};
    Group scpg{"SCPG",
               {{"LOCA_ID", "", "ID"},
                {"SCPG_TESN", "", "X"},
                {"SCPG_TYPE", "", "PA"},
                {"SCPG_REF", "", "X"},
                {"SCPG_WAT", "m", "2DP"},
                {"SCPG_CAR", "", "2DP"}}};
    Group scpt{"SCPT",
               {{"LOCA_ID", "", "ID"},
                {"SCPG_TESN", "", "X"},
                {"SCPT_DPTH", "m", "2DP"},
                {"SCPT_RES", "MN/m2", "4DP"},
                {"SCPT_FRES", "MN/m2", "4DP"},
                {"SCPT_PWP2", "MN/m2", "4DP"}}};
    Chance chance(2204);
    constexpr std::array<std::array<double, 2>, 6> kPlaces{
        {{255, 520}, {430, 470}, {600, 455}, {770, 420}, {960, 470}, {1180, 480}}};
    for (std::size_t i = 0; i < kPlaces.size(); ++i) {
        const double e = kWest + kPlaces[i][0], n = kSouth + kPlaces[i][1], level = std::round(ground(e, n) * 100) / 100;
        const auto id = fmt::format("QC{}", 401 + i);
        // the third was pushed again beside an obstruction
        for (int push = 1; push <= (i == 2 ? 2 : 1); ++push) {
            const std::string name = push == 1 ? "1" : "1A";
            double end = i == 2 && push == 1 ? 2.6 : 14, rock = 0, depth = 0;
            scpg.add({id, name, "PC", fmt::format("C{}", 11 + i), two(kWaterDepth), "0.80"});
            for (int k = 1; (depth = 0.02 * k) <= end && rock < 0.6; ++k) {
                const auto unit = unitAt(e, n, level - depth);
                if (unit >= MW) rock += 0.02;
                const auto& cone = kCone[std::size_t(unit)];
                const double wave = 1 + 0.18 * std::sin(depth * 4.1 + double(i)) + chance.between(-0.06, 0.06);
                const double qc = std::min(45.0, (cone.resistance + cone.perMetre * depth) * wave);
                const double fs = qc * cone.ratio / 100 * (1 + chance.between(-0.08, 0.08));
                const double u = std::max(0.0, 9.81 * (depth - kWaterDepth))
                                 + (depth > kWaterDepth ? cone.excess * chance.between(0.9, 1.1) : 0);
                scpt.add({id, name, two(depth), fmt::format("{:.4f}", qc), fmt::format("{:.4f}", fs),
                          fmt::format("{:.4f}", u / 1000)});
            }
            if (push == (i == 2 ? 2 : 1)) loca.add({id, "SCP", two(e), two(n), two(level), two(std::min(end, depth))});
        }
    }
    return fileOf("QB22", "Quernbeck flood bypass, soundings", "2022-05-16", {&loca, &scpg, &scpt},
                  {{{"LOCA_TYPE", "SCP"}, "Static cone penetrometer"}, {{"SCPG_TYPE", "PC"}, "Piezocone"}});
}

std::string monitoring() {
    Group loca{"LOCA", {{"LOCA_ID", "", "ID"}}};
    Group samp{
        "SAMP",
        {{"LOCA_ID", "", "ID"}, {"SAMP_TOP", "m", "2DP"}, {"SAMP_REF", "", "X"}, {"SAMP_TYPE", "", "PA"}, {"SAMP_ID", "", "ID"}}};
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
                {"MOND_DTIM", "yyyy-mm-dd", "DT"},
                {"MOND_TYPE", "", "PA"},
                {"MOND_REF", "", "X"},
                {"MOND_INST", "", "X"},
                {"MOND_RDNG", "", "XN"},
                {"MOND_UNIT", "", "PU"}}};
    const auto onSample = [](std::vector<Heading> more) {
        std::vector<Heading> all{{"LOCA_ID", "", "ID"},    {"SAMP_TOP", "m", "2DP"}, {"SAMP_REF", "", "X"},
                                 {"SAMP_TYPE", "", "PA"},  {"SAMP_ID", "", "ID"},    {"SPEC_REF", "", "X"},
                                 {"SPEC_DPTH", "m", "2DP"}};
        all.insert(all.end(), more.begin(), more.end());
        return all;
    };
    Group lnmc{"LNMC", onSample({{"LNMC_MC", "%", "0DP"}})};
    Group trig{"TRIG", onSample({{"TRIG_TYPE", "", "PA"}, {"TRIG_CU", "kPa", "XN"}})};
    Group rucs{"RUCS", onSample({{"RUCS_UCS", "MPa", "1DP"}})};
    Group eres{"ERES", onSample({{"ERES_CODE", "", "PA"},
                                 {"ERES_METH", "", "X"},
                                 {"ERES_MATX", "", "PA"},
                                 {"ERES_RTYP", "", "PA"},
                                 {"ERES_TESN", "", "X"},
                                 {"ERES_NAME", "", "X"},
                                 {"ERES_RVAL", "", "U"},
                                 {"ERES_RUNI", "", "PU"},
                                 {"ERES_RTXT", "", "X"}})};
    Chance chance(1905);
    for (const auto& d : phase1()) {
        const auto& h = d.hole;
        if (h.type != "RC" || h.intervals.empty()) continue;
        loca.add({h.id});
        if (!d.strikes.empty()) {
            const double tip = d.strikes.front() + 3;
            mong.add({h.id, "P2", two(tip), "SP", two(tip - 1), two(tip)});
            for (int month = 1; month <= 12; ++month) {
                const double depth = d.strikes.front() - 0.5 + 0.45 * std::cos(month * 0.52) + chance.between(-0.05, 0.05);
                mond.add({h.id, "P2", two(tip), fmt::format("2020-{:02}-12", month), "WDEP", "", "",
                          month == 8 && h.id == "QB110" ? "Dry" : two(depth), "m"});
            }
        }
        int number = 100; // behind those of the main investigation
        for (const auto& i : h.intervals) {
            if (!i.usable()) continue;
            const auto code = i.codes.at("GEOL_GEOL");
            const double depth = i.top.metres + 0.4 * (i.base.metres - i.top.metres);
            const std::vector<std::string> sample{h.id, two(depth), fmt::to_string(++number),
                                                  code == "MW" || code == "MS" ? "C" : "U", fmt::format("{}-{}", h.id, number)};
            samp.add(sample);
            const auto test = [&](Group& to, std::vector<std::string> values) {
                auto row = sample;
                row.insert(row.end(), {"1", two(depth)});
                row.insert(row.end(), values.begin(), values.end());
                to.add(std::move(row));
            };
            const bool clay = code == "AL" || code == "TL";
            if (clay) test(lnmc, {fmt::format("{:.0f}", (code == "AL" ? 48 : 17) * chance.between(0.9, 1.1))});
            if (clay) test(trig, {"UU", fmt::format("{:.0f}", (code == "AL" ? 22 : 140 + 4 * depth) * chance.between(0.8, 1.2))});
            if (code == "MW" || code == "MS")
                test(rucs, {fmt::format("{:.1f}", (code == "MW" ? 2.2 : 11) * chance.between(0.6, 1.4))});
            const double arsenic = (code == "MG" ? 48 : code == "AL" ? 14 : 4) * chance.between(0.6, 1.5);
            if (code == "MG" || code == "M.G." || clay)
                test(eres, {"AS", "acid digest", "SOIL", "REG", "1", "Arsenic", fmt::format("{:.1f}", arsenic < 5 ? 5 : arsenic),
                            "mg/kg", arsenic < 5 ? "<5.0" : fmt::format("{:.1f}", arsenic)});
        }
    }
    return fileOf("QB19", "Quernbeck flood bypass, monitoring and laboratory", "2021-01-20",
                  {&loca, &samp, &mong, &mond, &lnmc, &trig, &rucs, &eres},
                  {{{"SAMP_TYPE", "U"}, "Undisturbed sample - open drive"},
                   {{"SAMP_TYPE", "C"}, "Core sample"},
                   {{"MONG_TYPE", "SP"}, "Standpipe"},
                   {{"MOND_TYPE", "WDEP"}, "Depth to water"},
                   {{"TRIG_TYPE", "UU"}, "Unconsolidated undrained"},
                   {{"ERES_CODE", "AS"}, "Arsenic"},
                   {{"ERES_MATX", "SOIL"}, "Soil"},
                   {{"ERES_RTYP", "REG"}, "Regular sample"}});
}

} // namespace quernbeck
