#include "base/files.h"
#include "files.h"
#include "formats/raster.h"
#include "formats/vector.h"
#include "ground/terrain.h"

#include <cmath>
#include <fmt/format.h>

namespace quernbeck {

namespace {

using fox::Feature;
using fox::GeometryKind;
using fox::Point3;

Point3 onGround(double e, double n) { return {e, n, ground(e, n)}; }

/// A point at a distance from the beck's middle, on the ground.
Point3 beside(double e, double across) {
    const double slope = beckNorthing(e + 0.5) - beckNorthing(e - 0.5);
    const double length = std::sqrt(1 + slope * slope);
    return onGround(e - across * slope / length, beckNorthing(e) + across / length);
}

double roadNorthing(double e) { return kSouth + 700 + 45 * std::sin((e - kWest) / 260); }

void writeSurvey(const std::filesystem::path& folder) {
    Chance chance(7);
    std::string out = "point,northing,easting,level,code\n";
    int number = 1000;
    const auto add = [&](Point3 p, const char* code, double noise) {
        out += fmt::format("{},{:.2f},{:.2f},{:.2f},{}\n", ++number, p.y, p.x, p.z + chance.between(-noise, noise), code);
    };
    constexpr double kSpacing = 24; // metres, set out by pacing
    for (double n = kSouth - 30; n <= kNorth + 30; n += kSpacing)
        for (double e = kWest - 30; e <= kEast + 30; e += kSpacing) {
            const auto p = onGround(e + chance.between(-7, 7), n + chance.between(-7, 7));
            if (std::abs(fromBeck(p.x, p.y)) > 14) add(p, "GL", 0.03);
        }
    for (double e = kWest; e <= kEast; e += 18)
        for (const auto& [across, code] : {std::pair{9.0, "TB"}, {4.0, "BB"}, {-4.0, "BB"}, {-9.0, "TB"}})
            add(beside(e, across), code, 0.02);
    for (double e = kWest; e <= kEast; e += 25)
        for (const double side : {-3.5, 3.5}) add(onGround(e, roadNorthing(e) + side), "RD", 0.01);
    for (int i = 0; i < 24; ++i)
        add(onGround(chance.between(kWest + 20, kEast - 20), chance.between(kSouth + 20, kNorth - 20)), "SP", 0.02);
    fox::writeBytes(folder / "survey.csv", out);
}

void writeBreaklines(const std::filesystem::path& folder) {
    fox::FeatureLayer banks{"banks", kCrs, {}}, road{"road", kCrs, {}};
    for (const auto& [across, what] : {std::pair{9.0, "top of bank, north"},
                                       {4.0, "bottom of bank, north"},
                                       {-4.0, "bottom of bank, south"},
                                       {-9.0, "top of bank, south"}}) {
        Feature f{GeometryKind::Line, {{}}, true, {{"what", std::string(what)}}};
        for (double e = kWest - 20; e <= kEast + 20; e += 12) f.parts[0].push_back(beside(e, across));
        banks.features.push_back(std::move(f));
    }
    for (const double side : {-3.5, 3.5}) {
        Feature f{GeometryKind::Line, {{}}, true, {{"what", std::string("road edge")}}};
        for (double e = kWest - 20; e <= kEast + 20; e += 20) f.parts[0].push_back(onGround(e, roadNorthing(e) + side));
        road.features.push_back(std::move(f));
    }
    fox::writeVector(folder / "breaklines.gpkg", {banks, road}, kWhen);
}

Feature area(const char* what, const fox::Polygon2& ring) {
    Feature f{GeometryKind::Polygon, {{}}, false, {{"what", std::string(what)}}};
    for (const auto& p : ring) f.parts[0].push_back({p.x, p.y, 0});
    return f;
}

void writeOutlines(const std::filesystem::path& folder) {
    fox::FeatureLayer limit{
        "site_limit",
        kCrs,
        {area("site limit",
              {{kWest + 12, kSouth + 15}, {kEast - 10, kSouth + 8}, {kEast - 6, kNorth - 14}, {kWest + 9, kNorth - 9}})}};
    fox::Polygon2 ring;
    for (int i = 0; i < 24; ++i)
        ring.push_back({kWest + 905 + 38 * std::cos(i * 0.2618), kSouth + 300 + 24 * std::sin(i * 0.2618)});
    fox::FeatureLayer pond{"pond", kCrs, {area("pond", ring)}};
    fox::Polygon2 culvert;
    for (const double side : {6.0, -6.0})
        for (int i = 0; i <= 8; ++i) {
            const double e = kWest + 560 + 40 * (side > 0 ? i : 8 - i);
            culvert.push_back({e, roadNorthing(e) - 120 + side});
        }
    fox::FeatureLayer footprint{"culvert_footprint", kCrs, {area("culvert footprint", culvert)}};
    fox::writeVector(folder / "outlines.gpkg", {limit, pond, footprint}, kWhen);
}

void writeHillContours(const std::filesystem::path& folder) {
    fox::Grid grid(fox::Frame{kWest + 850, kSouth + 640, kEast, kNorth + 60, 5});
    for (int row = 0; row < grid.frame.rows(); ++row)
        for (int c = 0; c < grid.frame.columns(); ++c)
            grid.at(c, row) = ground(grid.frame.centre(c, row).x, grid.frame.centre(c, row).y);
    fox::FeatureLayer layer{"hill_contours", kCrs, {}};
    for (const auto& line : fox::contoursOf(grid, 1)) {
        Feature f{GeometryKind::Line, {{}}, false, {{"ELEV", line.level}}};
        for (std::size_t i = 0; i < line.line.size(); i += 2) f.parts[0].push_back({line.line[i].x, line.line[i].y, 0});
        if (f.parts[0].size() >= 2) layer.features.push_back(std::move(f));
    }
    for (const char* ending : {".shp", ".shx", ".dbf", ".prj", ".cpg"})
        std::filesystem::remove(folder / (std::string("hill_contours") + ending));
    fox::writeVector(folder / "hill_contours.shp", {layer});
    // a dBase file begins with the day when it was written; the demo's files are the same on every day
    auto table = fox::readBytes(folder / "hill_contours.dbf");
    table.replace(1, 3, "\x7e\x0b\x19");
    fox::writeBytes(folder / "hill_contours.dbf", table);
}

void writeCoarseGrid(const std::filesystem::path& folder) {
    Chance chance(30);
    fox::Grid grid(fox::Frame{kWest - 300, kSouth - 300, kEast + 300, kNorth + 300, 30});
    for (int row = 0; row < grid.frame.rows(); ++row)
        for (int c = 0; c < grid.frame.columns(); ++c) {
            const auto p = grid.frame.centre(c, row);
            grid.at(c, row) = std::round((ground(p.x, p.y) + chance.between(-0.8, 0.8)) * 10) / 10;
        }
    fox::writeRaster(folder / "coarse_dem.tif", grid, kCrs);
}

} // namespace

void writeSurveyFiles(const std::filesystem::path& folder) {
    writeSurvey(folder);
    writeBreaklines(folder);
    writeOutlines(folder);
    writeHillContours(folder);
    writeCoarseGrid(folder);
}

} // namespace quernbeck
