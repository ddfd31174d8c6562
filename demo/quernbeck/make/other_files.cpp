#include "base/files.h"
#include "files.h"

#include <QGuiApplication>
#include <QImage>
#include <QPainter>
#include <QPainterPath>
#include <cmath>
#include <cpl_conv.h>
#include <fmt/format.h>
#include <gdal_priv.h>
#include <nlohmann/json.hpp>
#include <ogrsf_frmts.h>

namespace quernbeck {

namespace {

struct Well {
    const char* name;
    double u, v, depth;
};
constexpr Well kWells[] = {{"SW1", 505, 470, 28}, {"SW2", 590, 455, 26}, {"SW3", 680, 400, 27},
                           {"SW4", 770, 395, 26}, {"SW5", 860, 405, 25}, {"SW6", 950, 420, 27}};

std::string lasText(const Well& w, std::uint64_t seed) {
    static constexpr double kGamma[] = {55, 60, 78, 30, 22, 70, 25, 74, 92, 105},
                            kOhm[] = {60, 45, 22, 18, 140, 38, 160, 36, 26, 20};
    std::string out = fmt::format("~VERSION INFORMATION\n VERS. 2.0 : LAS 2.0\n WRAP. NO : one line a depth\n~WELL INFORMATION\n "
                                  "STRT.M 0.2 : first depth\n STOP.M {:.1f} : last depth\n STEP.M 0.2 : step\n"
                                  " NULL. -999.25 : no value\n WELL. {} : well\n~CURVE INFORMATION\n DEPT.M : depth\n GAMM.GAPI "
                                  ": natural gamma\n RES.OHMM : resistivity\n~ASCII\n",
                                  w.depth, w.name);
    Chance chance(seed);
    const double e = kWest + w.u, n = kSouth + w.v, top = ground(e, n);
    const auto b = bases(e, n);
    const int last = int(std::lround(w.depth / 0.2));
    for (int i = 1; i <= last; ++i) {
        const double d = 0.2 * i;
        std::size_t u = 0;
        while (u < b.size() && top - d <= b[u]) ++u;
        const bool lost = i > last - 3; // the tool's lower sensor does not reach the foot
        out += fmt::format(" {:.1f} {:.2f} {:.2f}\n", d, lost ? -999.25 : kGamma[u] + chance.between(-6, 6),
                           kOhm[u] * chance.between(0.85, 1.15));
    }
    return out;
}

void writeWells(const std::filesystem::path& folder) {
    std::filesystem::create_directories(folder);
    std::uint64_t seed = 100;
    for (const auto& w : kWells) fox::writeBytes(folder / fmt::format("{}.las", w.name), lasText(w, ++seed));
    // a spreadsheet by GDAL; its parts carry the time of making, so it is left as it is once there
    if (std::filesystem::exists(folder / "wells.xlsx")) return;
    GDALAllRegister();
    std::unique_ptr<GDALDataset> set(
        GetGDALDriverManager()->GetDriverByName("XLSX")->Create((folder / "wells.xlsx").c_str(), 0, 0, 0, GDT_Unknown, nullptr));
    auto* sheet = set->CreateLayer("wells", nullptr, wkbNone, nullptr);
    OGRFieldDefn name("Well", OFTString);
    sheet->CreateField(&name);
    for (const char* column : {"Easting", "Northing", "Ground level"}) {
        OGRFieldDefn field(column, OFTReal);
        sheet->CreateField(&field);
    }
    for (const auto& w : kWells) {
        OGRFeature row(sheet->GetLayerDefn());
        const double e = kWest + w.u, n = kSouth + w.v;
        row.SetField(0, w.name);
        row.SetField(1, e);
        row.SetField(2, n);
        row.SetField(3, std::round(ground(e, n) * 100) / 100);
        if (sheet->CreateFeature(&row) != OGRERR_NONE) throw std::runtime_error("wells.xlsx can't be written.");
    }
}

/// A plan as an old scan: yellowed, a little turned, with a printed grid and no georeference.
void writeOldPlan(const std::filesystem::path& folder) {
    constexpr int kWide = 1100, kHigh = 760;
    QImage image(kWide, kHigh, QImage::Format_RGB32);
    image.fill(QColor("#efe6cd"));
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(30, 22);
    painter.rotate(0.7);
    const double scale = 0.66; // pixels a metre
    const auto at = [&](double e, double n) { return QPointF((e - kWest) * scale, (kNorth - n) * scale); };
    painter.setPen(QPen(QColor("#a59a7c"), 1));
    painter.setFont(QFont("Inter", 9));
    for (int k = 0; k <= 5; ++k) {
        const double e = kWest + 300 * k;
        painter.drawLine(at(e, kSouth), at(e, kNorth));
        painter.drawText(at(e, kNorth) + QPointF(4, 12), QString::number(int(e)));
    }
    for (int k = 0; k <= 3; ++k) {
        const double n = kSouth + 300 * k + 100;
        painter.drawLine(at(kWest, n), at(kEast, n));
        painter.drawText(at(kWest, n) + QPointF(4, -3), QString::number(int(n)));
    }
    painter.setPen(QPen(QColor("#3c4a57"), 3));
    QPainterPath beck(at(kWest, beckNorthing(kWest)));
    for (double e = kWest + 15; e <= kEast; e += 15) beck.lineTo(at(e, beckNorthing(e) + 14)); // it has moved since
    painter.drawPath(beck);
    painter.setPen(QPen(QColor("#54483a"), 1.5));
    for (const auto& [u, v, w] : {std::tuple{380.0, 360.0, 90.0}, {960.0, 600.0, 110.0}})
        painter.drawRect(QRectF(at(kWest + u, kSouth + v), QSizeF(w * scale, 60 * scale)));
    painter.drawText(at(kWest + 372, kSouth + 372), "Gas works");
    painter.drawText(at(kWest + 962, kSouth + 612), "Brick yard");
    painter.setFont(QFont("Inter", 15));
    painter.drawText(at(kWest + 30, kSouth + 40), "QUERNBECK, plan of the lower town, sheet 4");
    painter.end();
    image.save(QString::fromStdString((folder / "old_plan.png").string()));
}

void writeDips(const std::filesystem::path& folder) {
    std::string out = "hole,date,dip,by\n";
    for (const auto& d : phase1()) {
        if (d.strikes.empty() || d.hole.type != "RC") continue;
        for (int month = 1; month <= 6; ++month)
            out += fmt::format("{},2020-{:02}-08,{:.2f},EM\n", d.hole.id, month,
                               d.strikes.front() - 0.8 + 0.15 * std::sin(month * 1.1));
    }
    fox::writeBytes(folder / "dips.csv", out);
}

/// Lead in probes about the gas works, every 20 m and every metre down.
void writeContamination(const std::filesystem::path& folder) {
    std::string out = "easting,northing,level,lead (mg/kg)\n";
    Chance chance(700);
    for (double u = 330; u <= 490; u += 20)
        for (double v = 270; v <= 400; v += 20) {
            const double e = kWest + u + chance.between(-3, 3), n = kSouth + v + chance.between(-3, 3), top = ground(e, n);
            for (const double depth : {0.5, 1.5, 2.5, 3.5})
                out += fmt::format("{:.2f},{:.2f},{:.2f},{:.0f}\n", e, n, top - depth,
                                   lead(e, n, top - depth) * chance.between(0.9, 1.1));
        }
    fox::writeBytes(folder / "contamination.csv", out);
}

nlohmann::ordered_json leadBlocks() {
    return {{"format", "fox-cellar-blocks"},
            {"version", 1},
            {"name", "Lead"},
            {"value", {{"points", "contamination.csv"}, {"column", "lead"}}},
            {"block", {4, 4, 0.5}},
            {"extent", {{"xmin", kWest + 326}, {"ymin", kSouth + 266}, {"xmax", kWest + 494}, {"ymax", kSouth + 394}}},
            {"from_level", 18},
            {"to_level", 32},
            {"method", "kriging"},
            {"neighbours", 16},
            {"radius", 45},
            {"vertical", 10}};
}

/// Gamma of the supply wells, for when they have been imported.
nlohmann::ordered_json gammaBlocks() {
    return {{"format", "fox-cellar-blocks"},
            {"version", 1},
            {"name", "Gamma"},
            {"value", {{"curve", "GAMM"}}},
            {"block", {25, 25, 1}},
            {"from_level", -10},
            {"to_level", 30},
            {"composite", 1},
            {"units", "within"},
            {"method", "inverse-distance"},
            {"neighbours", 16},
            {"radius", 400},
            {"vertical", 20}};
}

nlohmann::ordered_json excavations() {
    using nlohmann::ordered_json;
    const auto at = [](double u, double v) { return ordered_json::array({kWest + u, kSouth + v}); };
    return ordered_json::array(
        {{{"format", "fox-cellar-excavation"},
          {"version", 1},
          {"name", "Contaminated ground"},
          {"wanted", {{"blocks", "Lead"}, {"above", 300}}},
          {"slope", 35},
          {"cell", 2}},
         {{"format", "fox-cellar-excavation"},
          {"version", 1},
          {"name", "Gravel borrow"},
          {"wanted", {{"units", ordered_json::array({"RG"})}}},
          {"inside", {{"ring", ordered_json::array({at(900, 480), at(1040, 480), at(1040, 560), at(900, 560)})}}},
          {"slope", {{"", 30}, {"RG", 38}, {"TL", 45}, {"TU", 45}}},
          {"bench", {{"height", 3}, {"berm", 4}}},
          {"factor", {{"RG", 1.15}, {"AL", 1.25}}},
          {"cell", 4}}});
}

nlohmann::ordered_json layersOf(bool withFloor) {
    using nlohmann::ordered_json;
    auto layers =
        ordered_json::array({{{"name", "Soft ground"}, {"units", {"TS", "MG", "AL", "PT"}}},
                             {{"name", "Gravel"}, {"units", ordered_json::array({"RG"})}, {"parts", withFloor ? 2 : 1}},
                             {{"name", "Upper till"}, {"units", ordered_json::array({"TU"})}},
                             {{"name", "Sand lens"}, {"units", ordered_json::array({"SL"})}},
                             {{"name", "Till"}, {"units", ordered_json::array({"TL"})}},
                             {{"name", "Weathered rock"}, {"units", ordered_json::array({"MW"})}},
                             {{"name", "Mudstone"}, {"units", ordered_json::array({"MS"})}, {"bottom", {{"level", -30}}}}});
    if (withFloor) layers.back()["parts"] = {1, 3};
    return layers;
}

/// The wellfield's pumping well, and its coordinates as the specifications have them.
nlohmann::ordered_json pumpingWell() {
    const auto& well = kWells[3];
    return nlohmann::ordered_json::array({kWest + well.u, kSouth + well.v});
}

nlohmann::ordered_json layeredGrid() {
    using nlohmann::ordered_json;
    auto beck = ordered_json::array(); // its water stands a little under the ground beside it
    for (double e = kWest; e <= kEast; e += 100) {
        const double n = beckNorthing(e);
        beck.push_back({e, std::round(n), std::round((ground(e, n) + 0.4) * 10) / 10});
    }
    return {
        {"format", "fox-cellar-layers"},
        {"version", 1},
        {"name", "Bypass"},
        {"grid",
         {{"corner", {kWest, kNorth}},
          {"turn", 0},
          {"columns", {{"count", 75}, {"width", 20}}},
          {"rows", {{"count", 50}, {"width", 20}}},
          {"finer", ordered_json::array({{{"place", pumpingWell()}, {"width", 5}, {"growth", 1.3}}})}}},
        {"layers", layersOf(true)},
        {"thin", {{"metres", 0.2}, {"then", "inactive"}}},
        {"values",
         {{"conductivity", "unit"}, {"vertical_conductivity", "unit"}, {"recharge", 6e-9}, {"fixed_head", {{"line", beck}}}}}};
}

nlohmann::ordered_json wellfieldMesh() {
    using nlohmann::ordered_json;
    const auto at = [](double u, double v) { return ordered_json::array({kWest + u, kSouth + v}); };
    return {{"format", "fox-cellar-mesh"},
            {"version", 1},
            {"name", "Wellfield"},
            {"outline", {{"ring", ordered_json::array({at(60, 60), at(1440, 60), at(1440, 940), at(60, 940)})}}},
            {"lines", ordered_json::array(
                          {{{"name", "F1"}, {"line", ordered_json::array({at(340, 62.857), at(62.7, 280.736)})}, {"edge", 20}}})},
            {"places", ordered_json::array({{{"name", "SW4"}, {"at", pumpingWell()}, {"edge", 5}}})},
            {"edge", 60},
            {"origin", {kWest, kSouth}},
            {"layers", layersOf(false)},
            {"thin", {{"metres", 0.1}}},
            {"faces", ordered_json::array({{{"name", "F1"},
                                            {"line", "F1"},
                                            {"layers", {1, 7}},
                                            {"conductivity", 1e-8},
                                            {"thickness", 0.5},
                                            {"flow", "across"}}})},
            {"values", {{"conductivity", "unit"}, {"vertical_conductivity", "unit"}}}};
}

void writeBuildFile(const std::filesystem::path& folder) {
    using nlohmann::ordered_json;
    ordered_json j{
        {"format", "fox-cellar-build"},
        {"version", 1},
        {"name", "Quernbeck flood bypass"},
        {"crs", kCrs},
        {"frame", {{"xmin", kWest}, {"ymin", kSouth}, {"xmax", kEast}, {"ymax", kNorth}, {"cell", 10}}},
        {"holes", ordered_json::array({{{"file", "phase1_main.ags"}}, {{"file", "phase2_river.ags"}}})},
        {"unit_heading", "GEOL_GEOL"},
        {"ground",
         {{"points", ordered_json::array({{{"file", "survey.csv"}, {"columns", "point,northing,easting,level,code"}}})},
          {"breaklines", ordered_json::array({{{"file", "breaklines.gpkg"}}})},
          {"limit", {{"file", "outlines.gpkg"}}},
          {"hole_levels", true}}}};
    static constexpr const char* kColours[] = {"#8d8178", "#a79d91", "#c9b797", "#7d6a50", "#d8c074",
                                               "#cba68d", "#e6d39a", "#b08e76", "#a9b6bb", "#90a0a9"};
    // m/s along the layers; a tenth across them
    static constexpr double kConductivities[] = {1e-6, 1e-5, 2e-7, 5e-8, 5e-4, 1e-8, 5e-5, 5e-9, 1e-6, 1e-7};
    static constexpr double kUnitWeights[] = {17, 18, 17.5, 11, 20, 20.5, 19.5, 21, 22, 24}; // kN/m3
    for (int u = 0; u < kUnits; ++u) {
        ordered_json unit{{"code", code(Unit(u))}, {"name", name(Unit(u))}, {"colour", kColours[u]}, {"base", "cuts"}};
        if (u == TU || u == TL) unit["logged"] = {"TL"};
        unit["unit_weight"] = kUnitWeights[u];
        unit["conductivity"] = kConductivities[u], unit["vertical_conductivity"] = kConductivities[u] / 10;
        j["sequence"].push_back(unit);
    }
    const auto point = [](double u, double v) { return ordered_json::array({kWest + u, kSouth + v}); };
    // for each unit the method with the smallest left-out error; what the beck laid down follows its valley to the east
    const auto alongValley = [](const char* method, double ratio) {
        return ordered_json{{"method", method}, {"anisotropy", {{"azimuth", 92}, {"ratio", ratio}}}};
    };
    j["surfaces"] = {{"default", {{"method", "kriging"}}},     {"MG", {{"method", "thin-plate"}}},
                     {"AL", alongValley("kriging", 2)},        {"PT", alongValley("thin-plate", 1.5)},
                     {"RG", alongValley("thin-plate", 2)},     {"TL", {{"method", "universal-kriging"}}},
                     {"MW", {{"method", "universal-kriging"}}}};
    j["faults"] = ordered_json::array(
        {{{"name", "F1"}, {"youngest", "TL"}, {"line", ordered_json::array({point(420, 0), point(0, 330)})}}});
    j["sections"] = ordered_json::array(
        {{{"name", "A"},
          {"line", ordered_json::array({point(330, 780), point(300, 575), point(380, 455), point(440, 320), point(270, 250)})}},
         {{"name", "B"},
          {"line", ordered_json::array({point(180, 500), point(450, 440), point(660, 425), point(905, 430), point(1190, 430),
                                        point(1420, 350)})}},
         {{"name", "C"},
          {"line", ordered_json::array({point(1050, 880), point(1140, 640), point(1300, 560), point(1330, 190)})}}});
    j["layered_grids"] = ordered_json::array({layeredGrid()});
    j["meshes"] = ordered_json::array({wellfieldMesh()});
    j["blocks"] = ordered_json::array({leadBlocks()});
    j["excavations"] = excavations();
    fox::writeBytes(folder / "quernbeck.build.json", j.dump(1) + "\n");
}

} // namespace

void writeOtherFiles(const std::filesystem::path& folder) {
    writeWells(folder / "supply_wells");
    fox::writeBytes(folder / "supply_wells" / "gamma_blocks.json", gammaBlocks().dump(1) + "\n");
    writeOldPlan(folder);
    writeDips(folder);
    writeContamination(folder);
    writeBuildFile(folder);
}

} // namespace quernbeck
