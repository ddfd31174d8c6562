#include "investigation.h"

#include <cmath>
#include <fmt/format.h>

namespace quernbeck {

namespace {

double rounded(double v, double to) { return std::round(v / to) * to; }

const char* description(Unit u, int variant) {
    static constexpr const char* kWords[][2] = {
        {"Grass over dark brown slightly gravelly sandy CLAY with rootlets. (TOPSOIL)",
         "Soft dark brown sandy CLAY with frequent roots. (TOPSOIL)"},
        {"Brown and grey gravelly clayey SAND with brick, ash and concrete fragments. (MADE GROUND)",
         "Black ashy sandy GRAVEL of clinker, brick and slate. (MADE GROUND)"},
        {"Soft grey silty CLAY with occasional shell fragments. (ALLUVIUM)",
         "Very soft to soft bluish grey laminated silty CLAY. (ALLUVIUM)"},
        {"Spongy dark brown fibrous PEAT with wood fragments.", "Plastic black pseudo-fibrous PEAT."},
        {"Dense brown sandy fine to coarse rounded GRAVEL of quartzite and flint. (RIVER GRAVEL)",
         "Medium dense orange brown very sandy GRAVEL with occasional cobbles. (RIVER GRAVEL)"},
        {"Stiff reddish brown slightly sandy gravelly CLAY. (TILL)",
         "Very stiff brown slightly gravelly CLAY with occasional cobbles. (TILL)"},
        {"Medium dense brown fine to medium SAND. (GLACIAL SAND)", "Dense yellowish brown silty fine SAND. (GLACIAL SAND)"},
        {"Stiff reddish brown slightly sandy gravelly CLAY. (TILL)", "Very stiff to hard dark grey gravelly CLAY. (TILL)"},
        {"Weak reddish brown distinctly weathered MUDSTONE, recovered as gravelly clay.",
         "Very weak red brown MUDSTONE, heavily fractured."},
        {"Moderately strong reddish brown thickly laminated MUDSTONE, bedding dipping about 3 degrees to the south-east.",
         "Medium strong red brown MUDSTONE with thin green grey bands."}};
    return kWords[u][variant % 2];
}

const char* legend(Unit u) {
    static constexpr const char* kLegends[] = {"101", "102", "204", "601", "502", "205", "401", "205", "803", "803"};
    return kLegends[u];
}

double blowsIn(Unit u, double depth) {
    static constexpr double kAtTop[] = {5, 9, 4, 3, 28, 22, 26, 27, 52, 75};
    static constexpr double kPerMetre[] = {0, 0.6, 0.3, 0.1, 1.1, 1.5, 1.2, 1.4, 2, 1};
    return std::round(kAtTop[u] + kPerMetre[u] * depth + 3 * std::sin(depth * 2.3));
}

/// The unit at a point, by the truth.
Unit unitAt(const fox::Point3& p) {
    const auto b = bases(p.x, p.y);
    for (int u = 0; u < kUnits - 1; ++u)
        if (p.z > b[std::size_t(u)]) return Unit(u);
    return MS;
}

} // namespace

Drilled drill(const std::string& id, const std::string& type, double e, double n, double depth, double rock,
              const std::vector<fox::PathStation>& stations) {
    Drilled out;
    auto& h = out.hole;
    h.id = id, h.type = type, h.easting = rounded(e, 0.01), h.northing = rounded(n, 0.01);
    h.level = fox::Level{rounded(ground(*h.easting, *h.northing), 0.01)};
    h.stations = stations;
    const auto path = *fox::HolePath::of(h);
    constexpr double kLook = 0.05; // what a logger resolves
    double inRock = 0;
    std::optional<Unit> current;
    double top = 0, at = 0;
    const auto close = [&](double base) {
        if (current && base - top > 0.02)
            h.intervals.push_back({fox::Depth{top},
                                   fox::Depth{rounded(base, 0.01)},
                                   description(*current, int(h.intervals.size()) + int(id.back())),
                                   {{"GEOL_GEOL", loggedCode(*current)}, {"GEOL_LEG", legend(*current)}}});
        top = rounded(base, 0.01);
    };
    for (at = 0; at < depth - 1e-9 && inRock < rock; at += kLook) {
        const auto unit = unitAt(path.at(fox::Depth{at + kLook / 2}));
        if (unit == MS || unit == MW) inRock += kLook;
        // both tills are one till to the logger
        if (!current || std::string(loggedCode(unit)) != loggedCode(*current)) {
            close(at);
            current = unit;
        }
        if (out.strikes.empty() && unit == RG) out.strikes.push_back(rounded(at + 0.4, 0.1));
    }
    close(at);
    h.finalDepth = fox::Depth{rounded(at, 0.01)};
    for (double d = 1.2; type != "TP" && d < at - 0.45; d += d < 9 ? 1.5 : 2.0)
        h.blowCounts.push_back({fox::Depth{rounded(d, 0.01)}, blowsIn(unitAt(path.at(fox::Depth{d + 0.2})), d)});
    return out;
}

namespace {
struct Plan {
    const char* id;
    const char* type;
    double u, v, depth, rock;
};
fox::Hole& named(std::vector<Drilled>& holes, const std::string& id) {
    return std::ranges::find(holes, id, [](const Drilled& d) { return d.hole.id; })->hole;
}
std::vector<Drilled> drillAll(std::initializer_list<Plan> plans) {
    std::vector<Drilled> out;
    for (const auto& p : plans) out.push_back(drill(p.id, p.type, kWest + p.u, kSouth + p.v, p.depth, p.rock));
    return out;
}
} // namespace

std::vector<Drilled> phase1() {
    auto holes = drillAll({
        {"QB101", "RC", 95, 845, 40, 4},   {"QB102", "RC", 330, 780, 40, 4},  {"QB103", "CP", 560, 865, 14, 9},
        {"QB104", "RC", 790, 750, 40, 4},  {"QB105", "RC", 1050, 880, 45, 3}, {"QB106", "CP", 1290, 930, 16, 9},
        {"QB107", "RC", 1405, 770, 40, 4}, {"QB108", "CP", 120, 610, 18, 9},  {"QB109", "RC", 300, 575, 30, 5},
        {"QB110", "RC", 480, 540, 30, 5},  {"QB111", "CP", 655, 520, 12, 9},  {"QB112", "RC", 850, 480, 30, 4},
        {"QB113", "CP", 1010, 565, 13, 9}, {"QB114", "RC", 1140, 640, 35, 4}, {"QB115", "RC", 1300, 560, 35, 4},
        {"QB116", "CP", 1430, 480, 12, 9}, {"QB117", "RC", 75, 330, 35, 4},   {"QB118", "CP", 270, 250, 15, 9},
        {"QB119", "RC", 440, 320, 30, 4},  {"QB120", "TP", 410, 345, 3.6, 9}, {"QB121", "TP", 1000, 575, 3.2, 9},
        {"QB122", "RC", 620, 240, 38, 4},  {"QB123", "CP", 830, 190, 15, 9},  {"QB124", "RC", 1060, 260, 38, 4},
        {"QB125", "RC", 1330, 190, 38, 4}, {"QB126", "TP", 720, 560, 3.4, 9},
    });
    // two inclined holes towards the fault and under the beck
    holes.push_back(
        drill("QB127", "RC", kWest + 230, kSouth + 150, 38, 5, {{fox::Depth{0}, 70, 225}, {fox::Depth{20}, 66, 228}}));
    holes.push_back(drill("QB128", "RC", kWest + 560, kSouth + 500, 32, 5, {{fox::Depth{0}, 65, 190}}));
    // faults of the trade, as the README lists them
    auto& lost = named(holes, "QB123");
    lost.easting = lost.northing = 0;
    named(holes, "QB116").level.reset();
    auto& off = named(holes, "QB104");
    off.level = fox::Level{off.level->metres - 1.2};
    auto& upside = named(holes, "QB118").intervals[1];
    upside.base = fox::Depth{upside.top.metres - 0.3};
    for (const auto& [id, spelling] : {std::pair{"QB119", "M.G."}, {"QB120", "made gr"}})
        for (auto& i : named(holes, id).intervals)
            if (i.codes["GEOL_GEOL"] == "MG") i.codes["GEOL_GEOL"] = spelling;
    return holes;
}

std::vector<Drilled> phase2() {
    return drillAll({
        {"QB114", "CP", 180, 500, 12, 9},
        {"R02", "CP", 255, 470, 12, 9},
        {"R03", "RC", 380, 455, 28, 4},
        {"R04", "CP", 450, 440, 14, 9},
        {"R05", "CP", 540, 405, 13, 9},
        {"R06", "RC", 660, 425, 26, 4},
        {"R07", "WLS", 735, 385, 5, 9},
        {"R08", "CP", 800, 350, 12, 9},
        {"R09", "RC", 905, 430, 26, 4},
        {"R10", "WLS", 985, 440, 5, 9},
        {"R11", "CP", 1090, 500, 13, 9},
        {"R12", "RC", 1190, 430, 26, 4},
        {"R13", "CP", 1310, 400, 14, 9},
        {"R14", "CP", 1420, 350, 13, 9},
    });
}

std::vector<Drilled> phase3() {
    return drillAll({{"QB301", "RC", 700, 640, 30, 4},
                     {"QB302", "RC", 930, 640, 32, 4},
                     {"QB303", "RC", 1220, 320, 30, 4},
                     {"QB304", "CP", 350, 380, 16, 9},
                     {"QB305", "RC", 560, 330, 30, 4}});
}

} // namespace quernbeck
