// volume, contours in terrain, inspect of grids and pictures: the tool from outside.
#include "../core/fixtures.h"
#include "call.h"
#include "formats/raster.h"
#include "formats/vector.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

Grid gridOf(double level, double slope = 0) {
    Grid grid(Frame{0, 0, 100, 50, 5});
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c) grid.at(c, r) = level + slope * (grid.frame.centre(c, r).x - 50);
    return grid;
}

FeatureLayer ring(const Polygon2& p) {
    Feature f{GeometryKind::Polygon, {{}}, false, {}};
    for (const auto& q : p) f.parts[0].push_back({q.x, q.y, 0});
    return {"area", "EPSG:25831", {f}};
}

} // namespace

TEST_CASE("volume sums cells above and below, inside an outline", "[run][ground]") {
    const TemporaryFolder folder;
    writeRaster(folder / "a.tif", gridOf(12, 0.1), "EPSG:25831");
    writeRaster(folder / "b.tif", gridOf(12), "EPSG:25831");
    const auto words = "volume --upper " + (folder / "a.tif").string() + " --lower " + (folder / "b.tif").string();
    auto v = call(words + " --json").parsed();
    CHECK(v["area"] == 5000);
    CHECK(v["above"].get<double>() == Approx(0.1 * 25 * 2500));
    CHECK(v["below"].get<double>() == Approx(0.1 * 25 * 2500));
    CHECK(v["net"].get<double>() == Approx(0).margin(1e-9));
    writeVector(folder / "o.gpkg", {ring({{50, 0}, {100, 0}, {100, 50}, {50, 50}})});
    v = call(words + " --outline " + (folder / "o.gpkg").string() + " --json").parsed();
    CHECK(v["area"] == 2500);
    CHECK(v["below"] == 0);
    CHECK(call(words).out.find("above") != std::string::npos);
}

TEST_CASE("volume refuses grids that do not match, saying how", "[run][ground]") {
    const TemporaryFolder folder;
    writeRaster(folder / "a.tif", gridOf(1), "EPSG:25831");
    writeRaster(folder / "other.tif", gridOf(1), "EPSG:25832");
    writeRaster(folder / "cell.tif", Grid(Frame{0, 0, 100, 50, 10}), "EPSG:25831");
    writeRaster(folder / "extent.tif", Grid(Frame{0, 0, 100, 55, 5}), "EPSG:25831");
    const auto against = [&](const char* name) {
        return call("volume --upper " + (folder / "a.tif").string() + " --lower " + (folder / name).string() + " --json");
    };
    for (const auto& [name, words] : {std::pair{"other.tif", "coordinate system"},
                                      {"cell.tif", "differ in extent or cell"},
                                      {"extent.tif", "N 0 to 55"},
                                      {"gone.tif", "gone.tif"}}) {
        const auto answer = against(name);
        CHECK(answer.status == 1);
        CHECK(answer.out.empty());
        CHECK(answer.oneErrorLine());
        CHECK(answer.error.find(words) != std::string::npos);
    }
    CHECK(call("volume --upper a.tif").status == 2);
}

TEST_CASE("terrain rounds flats between contours, and says what it counted", "[run][ground]") {
    const TemporaryFolder folder;
    FeatureLayer layer{"c", "EPSG:25831", {}};
    for (int k = 1; k <= 5; ++k) {
        Feature f{GeometryKind::Line, {{}}, false, {{"ELEV", 60.0 - 10 * k}}};
        for (int i = 0; i <= 60; ++i)
            f.parts[0].push_back(
                {100.0 * k * std::cos(i * std::numbers::pi / 30), 100.0 * k * std::sin(i * std::numbers::pi / 30), 0});
        layer.features.push_back(std::move(f));
    }
    writeVector(folder / "c.gpkg", {layer});
    folder.write("q.csv", "easting,northing\n0,0\n50,0\n150,0\n");
    const auto out = (folder / "r.csv").string();
    const auto j = call("terrain --contours " + (folder / "c.gpkg").string() + " --level-field ELEV --at "
                        + (folder / "q.csv").string() + " --out " + out + " --json")
                       .parsed();
    CHECK(j["flat_triangles"] == 0);
    CHECK(j["contour_vertices"] == 5 * 61);
    CHECK(j["zmax"].get<double>() > 53); // the top is at 60, the last contour at 50, half an interval is kept
    CHECK(j["zmax"].get<double>() < 55);
    const auto table = readTable(readBytes(out), "r.csv");
    CHECK(table.number(1, 2).value() > 52);
    CHECK(table.number(2, 2).value() == Approx(45).margin(0.5));
}

TEST_CASE("inspect knows grids, pictures and triangles", "[run][ground]") {
    const TemporaryFolder folder;
    const auto grid = call("inspect " FOX_DEMO "/coarse_dem.tif --json").parsed();
    CHECK(grid["format"] == "TIF");
    CHECK(grid["cell"] == 30);
    CHECK(grid["crs"] == "EPSG:25831");
    CHECK(grid["bounds"]["zmax"].get<double>() > 30);
    const auto picture = call("inspect " FOX_DEMO "/old_plan.png --json").parsed();
    CHECK(picture["format"] == "PNG");
    CHECK(picture["width"].get<int>() > 100);
    CHECK(picture["bounds"].is_null());
    REQUIRE(call("terrain --points " FOX_DEMO "/survey.csv --tin " + (folder / "t.xml").string() + " --json").status == 0);
    const auto triangles = call("inspect " + (folder / "t.xml").string() + " --json").parsed();
    CHECK(triangles["tables"][0]["rows"].get<int>() > 5000);
}

TEST_CASE("export hands contours on, and the ground as PLY", "[run][ground]") {
    const TemporaryFolder folder;
    const auto project = (folder / "d.gpkg").string();
    REQUIRE(call("build " FOX_DEMO "/quernbeck.build.json --out " + project).status == 0);
    for (const auto& [what, as, file] : {std::tuple{"contours", "gpkg", "contours.gpkg"},
                                         {"contours", "dxf", "contours.dxf"},
                                         {"ground", "ply", "ground.ply"}}) {
        CHECK(call("export " + project + " --what " + what + " --as " + as + " --dir " + folder.path().string()).status == 0);
        CHECK(std::filesystem::exists(folder / file));
    }
    CHECK(call("export " + project + " --what contours --as tif --dir " + folder.path().string()).status == 1);
}

TEST_CASE("build takes a survey without a header where the holes say which column is the easting, and asks where nothing does",
          "[run][ground]") {
    const TemporaryFolder folder;
    std::string survey, holes = "hole,easting,northing,level,top,base,code\n";
    for (int i = 0; i < 40; ++i)
        survey += fmt::format("{} {:.2f} {:.2f} {:.2f} GL\r\n", 100 + i, 6120300 + 11.0 * (i / 8), 480700 + 9.0 * (i % 8),
                              30 + 0.1 * i);
    for (int i = 0; i < 3; ++i)
        holes += fmt::format("B{},{},{},30.5,0,2,MG\nB{},{},{},30.5,2,9,TL\n", i, 480705 + 20 * i, 6120310 + 9 * i, i,
                             480705 + 20 * i, 6120310 + 9 * i);
    folder.write("survey.txt", survey);
    folder.write("holes.csv", holes);
    const auto build = [&](const std::string& what) {
        folder.write("b.json", R"({"format":"fox-cellar-build","version":1,)" + what + "}");
        return call("build " + (folder / "b.json").string() + " --out " + (folder / "p.gpkg").string() + " --json");
    };
    const std::string points = R"("ground":{"points":[{"file":"survey.txt"}]})";
    const auto known = build(R"("holes":[{"file":"holes.csv"}],)" + points);
    CAPTURE(known.error);
    REQUIRE(known.status == 0);
    const auto column = call("column " + (folder / "p.gpkg").string() + " --at 480700,6120300 --json").parsed();
    CHECK(column[0]["ground"].get<double>() == Approx(30).margin(0.01));
    std::filesystem::remove(folder / "p.gpkg");
    const auto asked = build(R"("holes":[],)" + points);
    CHECK(asked.status == 1);
    CHECK(asked.error.find("survey.txt: Columns 2 and 3 are coordinates") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(folder / "p.gpkg"));
}
