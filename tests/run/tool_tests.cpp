#include "../core/fixtures.h"
#include "call.h"
#include "formats/raster.h"
#include "formats/vector.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <set>

using namespace fox;
using namespace fox::test;
using nlohmann::json;

namespace {

std::string square(const TemporaryFolder& folder) {
    return folder.write("p.csv", "easting,northing,level\n0,0,10\n100,0,20\n0,100,30\n100,100,40\n50,50,20\n").string();
}

} // namespace

TEST_CASE("inspect tells what an AGS file holds", "[run]") {
    const auto j = call("inspect " FOX_DEMO "/phase2_river.ags --json").parsed();
    CHECK(keys(j) == std::set<std::string>{"format", "version", "tables", "holes", "bounds", "crs"});
    CHECK(j["format"] == "AGS");
    CHECK(j["version"] == "3.1");
    CHECK(j["holes"].size() == 14);
    CHECK(keys(j["holes"][0]) == std::set<std::string>{"id", "type", "easting", "northing", "level", "depth"});
    const auto geol = std::ranges::find_if(j["tables"], [](const json& t) { return t["name"] == "GEOL"; });
    REQUIRE(geol != j["tables"].end());
    CHECK((*geol)["columns"][0] == "HOLE_ID");
    const auto text = readBytes(FOX_DEMO "/phase2_river.ags");
    int rows = 0;
    bool inGeology = false;
    for (const auto line : split(text, '\n')) { // logical rows: <CONT> lines are not counted
        if (line.starts_with("\"**")) inGeology = line.starts_with("\"**GEOL");
        rows += inGeology && (line.starts_with("\"R") || line.starts_with("\"QB"));
    }
    CHECK((*geol)["rows"] == rows);
    CHECK(j["bounds"]["xmin"] == 480180);
    CHECK(j["crs"].is_null());
}

TEST_CASE("inspect reads other files too, and missing values are null", "[run]") {
    const auto ags = call("inspect " FOX_DEMO "/phase1_main.ags --json").parsed();
    const auto lost = std::ranges::find_if(ags["holes"], [](const json& h) { return h["id"] == "QB116"; });
    CHECK((*lost)["level"].is_null());
    const auto csv = call("inspect " FOX_DEMO "/survey.csv --json").parsed();
    CHECK(csv["format"] == "CSV");
    CHECK(csv["tables"][0]["rows"].get<int>() > 2500);
    CHECK(csv["bounds"]["zmax"].get<double>() > 40);
    const auto gpkg = call("inspect " FOX_DEMO "/breaklines.gpkg --json").parsed();
    CHECK(gpkg["crs"] == "EPSG:25831");
    CHECK(gpkg["tables"].size() == 2);
}

TEST_CASE("Files that can't be read exit with 1 and one line that names them", "[run]") {
    const TemporaryFolder folder;
    for (const auto& [name, bytes] :
         {std::pair{"empty.ags", ""}, {"noise.ags", "not a table at all"}, {"noise.bin", "\1\2\3\4\5"}}) {
        const auto a = call("inspect --json " + folder.write(name, bytes).string());
        CAPTURE(name, a.error);
        CHECK(a.status == 1);
        CHECK(a.out.empty());
        CHECK(a.oneErrorLine());
        CHECK(a.error.find(name) != std::string::npos);
    }
    const auto gone = call("inspect /nowhere/x.ags");
    CHECK(gone.status == 1);
    CHECK(gone.error.find("/nowhere/x.ags") != std::string::npos);
    const auto project = call("audit --json " + folder.write("no.gpkg", std::string(4000, 'x')).string());
    CHECK(project.status == 1);
    CHECK(project.oneErrorLine());
}

TEST_CASE("check says in its document that a file is empty or of no known format", "[run][check]") {
    const TemporaryFolder folder;
    folder.write("empty.ags", "");
    folder.write("foreign.ags", "hello\nworld\n");
    for (const char* name : {"empty.ags", "foreign.ags"}) {
        CAPTURE(name);
        const auto answer = call("check " + (folder / name).string() + " --json");
        CHECK(answer.status == 1);
        CHECK(answer.oneErrorLine());
        const auto document = answer.parsed();
        CHECK(document["format"].is_null());
        CHECK(document["version"].is_null());
        CHECK(document["counts"]["error"] == 1);
        REQUIRE(document["findings"].size() == 1);
        CHECK(document["findings"][0]["severity"] == "error");
        CHECK(document["findings"][0]["message"].get<std::string>().find(name) != std::string::npos);
        CHECK(call("check " + (folder / name).string()).out.empty()); // without --json a line on standard error is enough
    }
    const auto missing = call("check " + (folder / "none.ags").string() + " --json");
    CHECK(missing.status == 1);
    CHECK(missing.out.empty());
    CHECK(missing.oneErrorLine());
}

TEST_CASE("check --strict exits with 1 for warnings too", "[run][check]") {
    const TemporaryFolder folder;
    folder.write("warned.csv", "Hole,Easting,Northing,Level,Depth to top,Depth to base,Unit\nA,480500,6120400,24,0.5,2,AL\n");
    const auto path = (folder / "warned.csv").string();
    const auto usual = call("check " + path + " --json"), strict = call("check " + path + " --json --strict");
    REQUIRE(usual.parsed()["counts"]["warning"].get<int>() > 0);
    CHECK(usual.parsed()["counts"]["error"] == 0);
    CHECK(usual.status == 0);
    CHECK(strict.status == 1);
    CHECK(strict.out == usual.out);
    CHECK(strict.oneErrorLine());
}

TEST_CASE("Wrong words exit with 2", "[run]") {
    const TemporaryFolder folder;
    const auto p = square(folder);
    const std::string grid = " --out " + (folder / "g.tif").string();
    for (const std::string& words : std::vector{
             std::string("nonsense"), std::string(""),
             "surface --points " + p + " --method magic --frame 0,0,100,100 --cell 10" + grid,
             "surface --points " + p + " --method kriging --frame 100,0,0,100 --cell 10" + grid,
             "surface --points " + p + " --method kriging --frame 0,0,100,100 --cell 0" + grid,
             "surface --points " + p + " --method kriging --frame 0,0,x,100 --cell 1" + grid,
             "surface --points " + p + " --method kriging --frame 0,0,100,100 --cell 10 --out " + (folder / "g.png").string(),
             "surface --points " + p + " --method kriging --variogram blob,0,1,10 --frame 0,0,100,100 --cell 10" + grid,
             std::string("section x.gpkg --line 1,2,3 --step 5"),
             "export " + demoProject() + " --what nothing --as tif --dir " + folder.path().string()}) {
        CAPTURE(words);
        CHECK(call(words).status == 2);
    }
    CHECK(std::filesystem::is_empty(folder.path()) == false);
    CHECK_FALSE(std::filesystem::exists(folder / "g.tif"));
}

TEST_CASE("build tells what it chose, what it left out, and counts findings", "[run]") {
    const TemporaryFolder folder;
    const auto a = call("build " FOX_DEMO "/quernbeck.build.json --json --out " + (folder / "q.gpkg").string());
    CHECK(a.status == 0);
    const auto j = a.parsed();
    CHECK(keys(j) == std::set<std::string>{"chosen", "left_out", "messages", "findings"});
    // a line on standard error for every error and warning
    CHECK(j["messages"].size() == j["findings"]["error"].get<std::size_t>() + j["findings"]["warning"].get<std::size_t>());
    CHECK(std::size_t(std::ranges::count(a.error, '\n')) == j["messages"].size());
    for (const auto& m : j["messages"]) CHECK(a.error.find(m["message"].get<std::string>()) != std::string::npos);
    CHECK(keys(j["findings"]) == std::set<std::string>{"error", "warning", "note"});
    for (const auto& l : j["left_out"]) CHECK(keys(l) == std::set<std::string>{"hole", "file", "line", "reason"});
    const auto lost = std::ranges::find_if(j["left_out"], [](const json& l) { return l["hole"] == "QB123"; });
    REQUIRE(lost != j["left_out"].end());
    CHECK((*lost)["file"] == "phase1_main.ags");
    CHECK((*lost)["line"].get<int>() > 0);
    CHECK(call("build " FOX_DEMO "/quernbeck.build.json --out " + (folder / "nowhere/q.gpkg").string()).status == 1);
}

TEST_CASE("column gives the same places as section and the model's own order", "[run]") {
    const auto j =
        call("column " + demoProject() + " --at 480660,6120425 --at 480500,6120300 --at 470000,6120000 --json").parsed();
    REQUIRE(j.size() == 3);
    CHECK(keys(j[0]) == std::set<std::string>{"easting", "northing", "ground", "units", "probabilities"});
    double before = j[0]["ground"];
    for (const auto& u : j[0]["units"]) {
        CHECK(keys(u) == std::set<std::string>{"code", "top", "base", "thickness", "sd"});
        CHECK(u["top"] == before);
        if (u["base"].is_null()) break;
        CHECK(u["thickness"].get<double>() > 0);
        before = u["base"];
    }
    CHECK(j[0]["units"].back()["code"] == "MS");
    CHECK(j[0]["units"].back()["base"].is_null());
    CHECK(j[2]["ground"].is_null()); // off the site
    CHECK(j[2]["units"].empty());
    const auto s = call("section " + demoProject() + " --line 480660,6120425,480500,6120300 --step 500 --json").parsed();
    CHECK(keys(s) == std::set<std::string>{"chainage", "ground", "bases", "holes"});
    CHECK(s["ground"][0].get<double>() == Approx(j[0]["ground"].get<double>()));
    CHECK(s["ground"].back().get<double>() == Approx(j[1]["ground"].get<double>()));
    CHECK(s["bases"]["RG"].size() == s["chainage"].size());
    CHECK(keys(s["holes"][0]) == std::set<std::string>{"id", "chainage", "offset"});
    const TemporaryFolder folder;
    const auto file = folder.write("q.csv", "northing,easting\n6120425,480660\n").string();
    CHECK(call("column " + demoProject() + " --at-file " + file + " --json").parsed()[0]["units"] == j[0]["units"]);
    const auto& present = j[0]["probabilities"];
    CHECK(present.size() == 10); // every unit, present or not
    for (const auto& [code, p] : present.items()) {
        CAPTURE(code);
        CHECK((p.is_null() || (p.get<double>() >= 0 && p.get<double>() <= 1))); // null: made by a method without a variance
    }
    CHECK(present["MS"] == 1);
    CHECK(present["TL"].get<double>() > 0.9);
    CHECK_FALSE(j[2].contains("probabilities")); // outside the site
}

TEST_CASE("audit and volumes have the contract's keys and agree with the core", "[run]") {
    const auto a = call("audit " + demoProject() + " --json").parsed();
    for (const char* key : {"matched_fraction", "worst_difference", "bounds_broken", "holes"}) CHECK(a.contains(key));
    CHECK(a["bounds_broken"] == 0);
    CHECK(a["matched_fraction"].get<double>() > 0.98);
    CHECK(keys(a["holes"][0]) == std::set<std::string>{"id", "logged_length", "matched_length", "contacts"});
    CHECK(keys(a["holes"][0]["contacts"][0]) == std::set<std::string>{"unit", "observed", "modelled", "difference"});
    const auto v = call("volumes " + demoProject() + " --json").parsed();
    CHECK(keys(v) == std::set<std::string>{"area", "units"});
    CHECK(keys(v["units"][0]) == std::set<std::string>{"code", "volume", "area", "mean_thickness", "max_thickness"});
    CHECK(v["units"].size() == 9); // the oldest has no base
    const auto inside = call("volumes " + demoProject() + " --outline " FOX_DEMO "/outlines.gpkg --json").parsed();
    CHECK(inside["area"].get<double>() <= v["area"].get<double>());
    const auto table = call("volumes " + demoProject());
    CHECK(table.status == 0);
    CHECK(table.out.find("mean_thickness") != std::string::npos);
}

TEST_CASE("Results do not depend on threads", "[run]") {
    CHECK(call("volumes " + demoProject() + " --json --threads 1").out
          == call("volumes " + demoProject() + " --json --threads 2").out);
}

TEST_CASE("surface writes a grid, its variance and the contract's facts", "[run]") {
    const TemporaryFolder folder;
    const auto out = (folder / "g.tif").string(), variance = (folder / "v.tif").string();
    const auto a = call("surface --points " + square(folder) + " --method kriging --frame 0,0,100,95 --cell 10 --out " + out
                        + " --variance " + variance + " --json");
    REQUIRE(a.status == 0);
    const auto j = a.parsed();
    CHECK(keys(j)
          == std::set<std::string>{"method", "points", "merged", "cells", "empty", "variogram", "leave_one_out", "bounds"});
    CHECK(j["cells"] == 100);
    CHECK(j["empty"] == 0);
    CHECK(keys(j["variogram"]) == std::set<std::string>{"model", "nugget", "partial_sill", "range"});
    CHECK(keys(j["leave_one_out"]) == std::set<std::string>{"n", "rmse", "mae", "bias"});
    CHECK(keys(j["bounds"]) == std::set<std::string>{"upper", "lower", "broken"});
    const auto grid = readRaster(out).grid;
    CHECK(grid.frame.ymax == 95);
    CHECK(grid.frame.rows() == 10);
    CHECK(readRaster(variance).grid.at(4, 4) >= 0);
    const auto at = folder.write("q.csv", "name,x,y\na,50,50\nb,25,75\n").string(), result = (folder / "r.csv").string();
    REQUIRE(call("surface --points " + square(folder) + " --method linear --at " + at + " --out " + result).status == 0);
    CHECK(readBytes(result) == "name,x,y,value\na,50,50,20\nb,25,75,25\n");
}

TEST_CASE("surface makes every method of the contract", "[run]") {
    const TemporaryFolder folder;
    const auto p = square(folder);
    const auto at = folder.write("at.csv", "x,y\n40,60\n").string();
    const auto low = folder.write("low.csv", "x,y,z\n60,40,25\n").string();
    const auto result = (folder / "r.csv").string();
    for (const char* method :
         {"linear", "natural-neighbour", "inverse-distance", "kriging", "universal-kriging", "thin-plate", "nearest"}) {
        CAPTURE(method);
        const std::string words = fmt::format("surface --points {} --method {} --at {} --out {} --json", p, method, at, result);
        const auto a = call(words);
        REQUIRE(a.status == 0);
        const auto j = a.parsed();
        CHECK(j["method"] == method);
        const bool kriging = std::string_view(method).find("kriging") != std::string_view::npos;
        CHECK(j["variogram"].is_null() != kriging);
        CHECK((readBytes(result).find("variance") != std::string::npos) == kriging);
        const bool nearest = std::string_view(method) == "nearest";
        const auto bounded = call(words + " --lower-bounds " + low);
        CHECK(bounded.status == (nearest ? 2 : 0));
        if (!nearest) CHECK(bounded.parsed()["bounds"]["broken"] == 0);
        const auto variance =
            call(fmt::format("surface --points {} --method {} --frame 0,0,100,100 --cell 10 --out {} --variance {}", p, method,
                             (folder / "g.tif").string(), (folder / "v.tif").string()));
        CHECK(variance.status == (kriging ? 0 : 2));
    }
    // beyond the reach no value, outside the hull one where it is asked for
    const auto far = folder.write("far.csv", "x,y\n400,60\n").string();
    CHECK(call("surface --points " + p + " --method kriging --reach 50 --at " + far + " --out " + result).status == 0);
    CHECK(readBytes(result).find("400,60,,") != std::string::npos);
    CHECK(call("surface --points " + p + " --method linear --at " + far + " --out " + result).status == 0);
    CHECK(readBytes(result).find("400,60,\n") != std::string::npos);
    CHECK(call("surface --points " + p + " --method linear --carry-on --at " + far + " --out " + result).status == 0);
    CHECK(readBytes(result).find("400,60,\n") == std::string::npos);
    CHECK(call("surface --points " + p + " --method linear --radius 5 --reach 5 --at " + far + " --out " + result).status == 2);
    CHECK(call("surface --points " + p + " --method kriging --reach 0 --at " + far + " --out " + result).status == 2);
}

TEST_CASE("surface keeps bounds, and says which can't be met", "[run]") {
    const TemporaryFolder folder;
    const auto p = square(folder), low = folder.write("low.csv", "x,y,z\n25,25,30\n").string(),
               against = folder.write("against.csv", "x,y,z\n50,50,5\n").string();
    const auto at = folder.write("q.csv", "x,y\n25,25\n").string(), result = (folder / "r.csv").string();
    const auto a = call("surface --points " + p + " --method kriging --lower-bounds " + low + " --at " + at + " --out " + result
                        + " --json");
    REQUIRE(a.status == 0);
    CHECK(a.parsed()["bounds"] == json{{"upper", 0}, {"lower", 1}, {"broken", 0}});
    CHECK(readBytes(result).find("25,25,30") != std::string::npos);
    const auto b = call("surface --points " + p + " --method kriging --upper-bounds " + against + " --at " + at + " --out "
                        + (folder / "none.csv").string());
    CHECK(b.status == 1);
    CHECK(b.error.find("against.csv") != std::string::npos);
    CHECK(b.error.find("50.00") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(folder / "none.csv"));
}

TEST_CASE("A row that is no number is named with its line, and nothing is written", "[run]") {
    const TemporaryFolder folder;
    const auto p = folder.write("bad.csv", "easting,northing,level\n0,0,1\n10,x,2\n").string(), out = (folder / "g.tif").string();
    const auto a = call("surface --points " + p + " --method kriging --frame 0,0,10,10 --cell 1 --out " + out);
    CHECK(a.status == 1);
    CHECK(a.error.find("bad.csv, line 3") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(out));
    CHECK(call("surface --points " + p + " --method kriging --frame 0,0,1e7,1e7 --cell 0.01 --out " + out).status
          == 1); // too many cells
    CHECK(call("terrain --points " + p + " --frame 0,0,10,10 --cell 1 --out " + out).status == 1);
}

TEST_CASE("terrain makes a TIN, a grid and values at places", "[run]") {
    const TemporaryFolder folder;
    const auto p = folder.write("s.csv", "1,0,0,10,GL\n2,100,0,20,GL\n3,0,100,20,GL\n4,100,100,30,GL\n5,50,50,,GL\n").string();
    const auto a =
        call("terrain --points " + p + " --columns point,northing,easting,level,code --frame 0,0,100,100 --cell 10 --out "
             + (folder / "t.asc").string() + " --tin " + (folder / "t.xml").string() + " --json");
    REQUIRE(a.status == 0);
    const auto j = a.parsed();
    CHECK(keys(j)
          == std::set<std::string>{"points", "merged", "triangles", "breakline_segments", "contour_vertices", "plan_area",
                                   "surface_area", "zmin", "zmax", "flat_triangles"});
    CHECK(j["points"] == 4);
    CHECK(j["triangles"] == 2);
    CHECK(j["plan_area"].get<double>() == Approx(10000));
    CHECK(a.error.find("no level") != std::string::npos); // left out, and noted
    CHECK(readRaster(folder / "t.asc").grid.at(0, 9) == Approx(11));
    CHECK(std::filesystem::exists(folder / "t.xml"));
    const auto at = folder.write("q.csv", "easting,northing\n50,50\n500,50\n").string(), result = (folder / "r.csv").string();
    REQUIRE(call("terrain --points " + p + " --columns point,northing,easting,level,code --at " + at + " --out " + result).status
            == 0);
    CHECK(readBytes(result) == "easting,northing,value\n50,50,20\n500,50,\n");
    const auto contours = call("terrain --contours " FOX_DEMO
                               "/hill_contours.shp --level-field ELEV --frame 480900,6120700,481400,6120990 --cell 10 --out "
                               + (folder / "h.tif").string() + " --json")
                              .parsed();
    CHECK(contours["contour_vertices"].get<int>() > 500);
    CHECK(contours["zmax"].get<double>() > 35);
    CHECK(call("terrain --contours " FOX_DEMO "/hill_contours.shp --level-field NONE --frame 0,0,9,9 --cell 1 --out "
               + (folder / "x.tif").string())
              .error.find("ELEV")
          != std::string::npos);
}

TEST_CASE("export prints the files it wrote", "[run]") {
    const TemporaryFolder folder;
    const auto a = call("export " + demoProject() + " --what bases --as tif --dir " + (folder / "out").string());
    REQUIRE(a.status == 0);
    CHECK(std::ranges::count(a.out, '\n') == 9);
    for (const auto line : split(trimmed(a.out), '\n')) CHECK(std::filesystem::exists(line));
    CHECK(call("export " + demoProject() + " --what ground --as gpkg --dir " + (folder / "out").string()).status == 0);
    CHECK(call("export " + demoProject() + " --what holes --as gpkg --dir " + (folder / "out").string()).status == 0);
    const auto other = call("export " + demoProject() + " --what holes --as vtu --dir " + (folder / "none").string());
    CHECK(other.status == 1);
    CHECK_FALSE(std::filesystem::exists(folder / "none"));
}

TEST_CASE("An outline and an island take values away", "[run]") {
    const TemporaryFolder folder;
    const auto area = (folder / "a.gpkg").string();
    FeatureLayer layer{
        "area", "", {{GeometryKind::Polygon, {points("0 0, 50 0, 50 100, 0 100")}, false, {{"what", std::string("west")}}}}};
    writeVector(area, {layer});
    const auto p = square(folder);
    const std::string words = "surface --points " + p + " --method inverse-distance --frame 0,0,100,100 --cell 10 --json --out ";
    const auto inside = call(words + (folder / "in.tif").string() + " --outline " + area);
    REQUIRE(inside.status == 0);
    CHECK(inside.parsed()["empty"] == 50);
    const auto outside = call(words + (folder / "out.tif").string() + " --island " + area);
    CHECK(outside.parsed()["empty"] == 50);
    const auto a = readRaster(folder / "in.tif").grid, b = readRaster(folder / "out.tif").grid;
    for (std::size_t i = 0; i < a.values.size(); ++i) CHECK(std::isnan(a.values[i]) != std::isnan(b.values[i]));
    CHECK(call(words + (folder / "x.tif").string() + " --outline " + p).status == 1); // no area in it
    CHECK_FALSE(std::filesystem::exists(folder / "x.tif"));
}

TEST_CASE("All outputs of a call appear or none does", "[run]") {
    const TemporaryFolder folder;
    const auto out = (folder / "g.tif").string();
    const auto a = call("surface --points " + square(folder) + " --method kriging --frame 0,0,100,100 --cell 10 --out " + out
                        + " --variance " + (folder / "nowhere/v.tif").string());
    CHECK(a.status == 1);
    CHECK(a.oneErrorLine());
    CHECK_FALSE(std::filesystem::exists(out));
    CHECK(std::distance(std::filesystem::directory_iterator(folder.path()), {}) == 1); // the points; no scratch is left
}

TEST_CASE("The same hole twice from one project is refused by name; from two it is kept twice", "[run]") {
    const TemporaryFolder folder;
    std::filesystem::copy(FOX_DEMO "/phase2_river.ags", folder / "a.ags");
    auto other = readBytes(FOX_DEMO "/phase2_river.ags");
    other.replace(other.find("\"QB16\""), 6, "\"ZZ99\"");
    folder.write("b.ags", other);
    const auto build = [&](const char* second) {
        const auto file =
            folder.write("x.json", std::string(R"({"format":"fox-cellar-build","version":1,"holes":[{"file":"a.ags"},{"file":")")
                                       + second + R"("}]})");
        return call("build " + file.string() + " --json --out " + (folder / "x.gpkg").string());
    };
    const auto refused = build("a.ags");
    CHECK(refused.status == 1);
    CHECK(refused.error.find("a.ags") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(folder / "x.gpkg"));
    CHECK(build("b.ags").status == 0);
    const auto holes = call("audit " + (folder / "x.gpkg").string() + " --json").parsed()["holes"];
    CHECK(holes.size() == 28);
    CHECK(std::ranges::any_of(holes, [](const json& h) { return h["id"] == "R06 (ZZ99)"; }));
}

TEST_CASE("A build of holes alone chooses all the rest, and says so", "[run]") {
    const TemporaryFolder folder;
    const auto file = folder.write("b.json", std::string(R"({"format":"fox-cellar-build","version":1,"holes":[{"file":")")
                                                 + FOX_DEMO + R"(/phase1_main.ags"}]})");
    const auto a = call("build " + file.string() + " --json --out " + (folder / "p.gpkg").string());
    REQUIRE(a.status == 0);
    const auto chosen = a.parsed()["chosen"];
    for (const char* key : {"frame", "unit_heading", "sequence", "hole_levels", "surfaces"}) {
        CAPTURE(key);
        CHECK(chosen.contains(key));
    }
    CHECK(chosen["surfaces"]["RG"]["method"] == "automatic");
    double weights = 0;
    for (const auto& part : chosen["surfaces"]["RG"]["average"]) weights += part["weight"].get<double>();
    CHECK(weights == Approx(1));
    CHECK(call("volumes " + (folder / "p.gpkg").string() + " --json").parsed()["area"].get<double>() > 1e5);
    const auto files =
        call("export " + (folder / "p.gpkg").string() + " --what ground --as landxml --json --dir " + (folder / "out").string())
            .parsed()["files"];
    REQUIRE(files.size() == 1);
    CHECK(readBytes(files[0].get<std::string>()).find("<LandXML") != std::string::npos);
}

TEST_CASE("check tells every fault by rule, line and hole, and exits by it", "[run]") {
    CHECK(call("check " FOX_DEMO "/phase1_main.ags --json").status == 0); // warnings of sense alone
    const TemporaryFolder folder;
    auto text = readBytes(FOX_DEMO "/phase1_main.ags");
    const auto at = text.find("\"DATA\",\"QB102\"");
    text.replace(at, 14, "\"DATA\",\"QB101\"");
    const auto answer = call("check " + folder.write("twice.ags", text).string() + " --json");
    CHECK(answer.status == 1);
    CHECK(answer.oneErrorLine());
    const auto j = answer.parsed();
    CHECK(keys(j) == std::set<std::string>{"format", "version", "counts", "findings"});
    CHECK(j["counts"]["error"].get<int>() > 0);
    const auto found = std::ranges::find_if(j["findings"], [](const json& f) { return f["rule"] == "AGS4 Rule 10a"; });
    REQUIRE(found != j["findings"].end());
    CHECK(keys(*found) == std::set<std::string>{"severity", "rule", "line", "group", "heading", "hole", "message"});
    CHECK((*found)["hole"] == "QB101");
    CHECK((*found)["line"] == 1 + std::count(text.begin(), text.begin() + std::ptrdiff_t(at), '\n'));
    CHECK(call("check " + (folder / "gone.ags").string()).status == 1);
    CHECK(call("check").status == 2);
}

TEST_CASE("rewrite gives the same bytes, or AGS 4.1 with what was kept aside on standard error", "[run]") {
    const TemporaryFolder folder;
    const auto out = (folder / "o.ags").string();
    CHECK(call("rewrite " FOX_DEMO "/phase2_river.ags " + out).status == 0);
    CHECK(readBytes(out) == readBytes(FOX_DEMO "/phase2_river.ags"));
    const auto converted = call("rewrite " FOX_DEMO "/phase2_river.ags " + out + " --to 4.1");
    CHECK(converted.status == 0);
    CHECK(converted.error.find("TRAN_PROD") != std::string::npos);
    CHECK(call("check " + out + " --json").parsed()["counts"]["error"] == 0);
    CHECK(call("rewrite " FOX_DEMO "/phase2_river.ags " + out + " --to 5").status == 2);
    CHECK(call("rewrite " FOX_DEMO "/survey.csv " + (folder / "n.ags").string()).status == 1);
    CHECK_FALSE(std::filesystem::exists(folder / "n.ags"));
}

TEST_CASE("inspect tells what logs and workbooks hold", "[run]") {
    const auto las = call("inspect " FOX_DEMO "/supply_wells/SW1.las --json").parsed();
    CHECK(las["format"] == "LAS");
    CHECK(las["tables"][0]["columns"].size() == 3);
    CHECK(las["holes"][0]["depth"] == 28.0);
    CHECK(las["holes"][0]["easting"].is_null());
    const auto book = call("inspect " FOX_DEMO "/supply_wells/wells.xlsx --json").parsed();
    CHECK(book["tables"][0]["rows"] == 6);
    CHECK(book["holes"].size() == 6);
    CHECK(book["bounds"]["xmin"] == 480505.0);
}

TEST_CASE("A project of AGS, logs and a workbook is built, and its holes go out as AGS", "[run]") {
    const TemporaryFolder folder;
    const std::string demo = FOX_DEMO;
    json build{{"format", "fox-cellar-build"}, {"version", 1}, {"crs", "EPSG:25831"}};
    for (const char* file : {"/phase1_main.ags", "/supply_wells/SW1.las", "/supply_wells/wells.xlsx"})
        build["holes"].push_back({{"file", demo + file}});
    const auto project = (folder / "p.gpkg").string();
    REQUIRE(call("build " + folder.write("b.json", build.dump()).string() + " --out " + project).status == 0);
    const auto written = call("export " + project + " --what holes --as ags --dir " + (folder / "out").string());
    CHECK(written.status == 0);
    CHECK(readBytes(folder / "out/phase1_main.ags") == readBytes(FOX_DEMO "/phase1_main.ags"));
    const auto checked = call("check " + (folder / "out/holes.ags").string() + " --json");
    CHECK(checked.status == 0);
    CHECK(checked.parsed()["counts"]["error"] == 0);
    CHECK(call("inspect " + (folder / "out/holes.ags").string() + " --json").parsed()["holes"].size() == 6);
}

TEST_CASE("Volumes above a level, with their range, are what a dig digs", "[run]") {
    const auto all = call("volumes " + demoProject() + " --json").parsed();
    const auto dig = call("volumes " + demoProject() + " --above 18 --realisations 20 --json").parsed();
    REQUIRE(dig["units"].size() == all["units"].size() + 1); // the oldest is dug too
    CHECK(dig["units"].back()["code"] == "MS");
    for (std::size_t i = 0; i < all["units"].size(); ++i)
        CHECK(dig["units"][i]["volume"].get<double>() <= all["units"][i]["volume"].get<double>() + 1e-6);
    const auto& gravel = dig["units"][4];
    CHECK(gravel["code"] == "RG");
    CHECK(gravel["p10"].get<double>() < gravel["p50"].get<double>());
    CHECK(gravel["p50"].get<double>() < gravel["p90"].get<double>());
    // a grid at the same level is the same dig, where it has values
    const TemporaryFolder folder;
    const auto grid = folder.write("dig.asc", "ncols 2\nnrows 2\nxllcorner 479000\nyllcorner 6119000\ncellsize 2000\n"
                                              "NODATA_value -9999\n18 18\n18 18\n");
    const auto same = call("volumes " + demoProject() + " --above-grid " + grid.string() + " --json").parsed();
    CHECK(same["units"][4]["volume"].get<double>() == Approx(gravel["volume"].get<double>()).epsilon(1e-9));
    CHECK(call("volumes " + demoProject() + " --above 18 --above-grid " + grid.string()).status == 2);
    CHECK(call("volumes " + demoProject() + " --above-grid " + (folder / "none.tif").string()).status == 1);
}

TEST_CASE("The model, its sections and its map go out through the tool", "[run]") {
    const TemporaryFolder folder;
    const auto dir = (folder / "out").string();
    const auto files = [&](const std::string& words) {
        const auto j = call("export " + demoProject() + " --dir " + dir + " --json " + words).parsed();
        for (const auto& f : j["files"]) CHECK(std::filesystem::exists(f.get<std::string>()));
        return j["files"].size();
    };
    CHECK(files("--what model --as vtu") == 1);
    CHECK(files("--what model --as obj") == 9);
    CHECK(files("--what bases --as landxml") == 9);
    CHECK(files("--what tops --as dxf") == 10);
    CHECK(files("--what map --as gpkg --level 18") == 1);
    CHECK(files("--what sections --as svg --exaggeration 8") >= 1);
    CHECK(files("--what interpretation --as csv") == 1);
    CHECK(call("export " + demoProject() + " --what map --as gpkg --level 1 --depth 2 --dir " + dir).status == 2);
    CHECK(call("export " + demoProject() + " --what trial-columns --as csv --dir " + dir).status == 1);
}

TEST_CASE("A build file says units' rules, intervals, picks and how far sections reach", "[run]") {
    const TemporaryFolder folder;
    auto j = json::parse(readBytes(FOX_DEMO "/quernbeck.build.json"));
    for (auto* list : {&j["holes"], &j["ground"]["points"], &j["ground"]["breaklines"]})
        for (auto& entry : *list) entry["file"] = std::string(FOX_DEMO) + "/" + entry["file"].get<std::string>();
    j["ground"]["limit"]["file"] = FOX_DEMO "/outlines.gpkg";
    j["sequence"][0]["least_thickness"] = 5;
    j["sequence"][4]["water"] = "aquifer";
    j["sequence"][4]["outline"] = {{480000, 6120000}, {480700, 6120000}, {480700, 6121000}, {480000, 6121000}};
    j["sections"] = {{{"name", "Q"}, {"line", {{480100, 6120300}, {481300, 6120500}}}, {"holes_within", 80}}};
    const auto build = folder.write("b.json", j.dump()).string();
    const auto project = (folder / "p.gpkg").string();
    REQUIRE(call("build " + build + " --out " + project).status == 0);
    const auto v = call("volumes " + project + " --json").parsed();
    CHECK(v["units"][0]["volume"] == 0); // no topsoil is 5 m thick
    const auto column = call("column " + project + " --at 481000,6120450 --json").parsed();
    for (const auto& u : column[0]["units"]) CHECK(u["code"] != "RG"); // outside its outline
    j["sequence"][4]["water"] = "river";
    CHECK(call("build " + folder.write("c.json", j.dump()).string() + " --out " + project).status == 2);
}

TEST_CASE("build takes contacts_from tables and layers; audit lists them with file and line", "[run][contacts]") {
    const TemporaryFolder folder;
    std::filesystem::copy(FOX_DEMO, folder / "demo", std::filesystem::copy_options::recursive);
    auto demo = nlohmann::json::parse(readBytes(folder / "demo" / "quernbeck.build.json"));
    folder.write("demo/tops.csv", "x,y,z,stratum\n480640,6120470,17.1,TU\n480720,6120500,17.3,TU\n");
    const auto built = [&](const nlohmann::json& entries) {
        demo["contacts_from"] = entries;
        folder.write("demo/own.build.json", demo.dump());
        return call("build " + (folder / "demo" / "own.build.json").string() + " --out " + (folder / "p.gpkg").string());
    };
    REQUIRE(built({{{"file", "tops.csv"}, {"surface", "top"}}}).status == 0);
    const auto audit = call("audit " + (folder / "p.gpkg").string() + " --json").parsed();
    REQUIRE(audit["contacts"].size() == 2);
    const auto& second = audit["contacts"][1];
    CHECK(second["hole"].is_null());
    CHECK(second["file"] == "tops.csv");
    CHECK(second["line"] == 3);
    CHECK(std::abs(second["difference"].get<double>()) < 0.01);
    CHECK(second["observed"] == 17.3);
    CHECK(second["unit"] == "RG"); // the top of the unit under it
    std::filesystem::remove(folder / "p.gpkg");
    SECTION("a unit that is not in the sequence, a level that is not a number: named with the line, nothing written") {
        folder.write("demo/tops.csv", "x,y,z,stratum\n480700,6120500,14.25,QQ\n480760,6120540,deep,MS\n");
        const auto refused = built({{{"file", "tops.csv"}}});
        CHECK(refused.status == 1);
        CHECK(refused.error.find("tops.csv, line 2") != std::string::npos);
        CHECK(refused.error.find("tops.csv, line 3") != std::string::npos);
        CHECK_FALSE(std::filesystem::exists(folder / "p.gpkg"));
        CHECK(built({{{"file", "none.csv"}}}).status == 1);
        CHECK(built({{{"file", "tops.csv"}, {"surface", "side"}}}).status == 2);
    }
    SECTION("by order of columns, without a header") {
        folder.write("demo/tops.csv", "6120500,480700,14.25,RG\n");
        REQUIRE(built({{{"file", "tops.csv"}, {"columns", "northing,easting,level,unit"}}}).status == 0);
        CHECK(call("audit " + (folder / "p.gpkg").string() + " --json").parsed()["contacts"].size() == 1);
    }
    SECTION("contacts alone make a model, without any hole") {
        folder.write("ground.csv", "x,y,z\n0,0,20\n400,0,20\n400,300,20\n0,300,20\n200,100,20.5\n");
        folder.write("base.csv", "x,y,z,unit\n50,50,15\n50,50,15,CL\n350,50,14,CL\n200,250,16,CL\n");
        const nlohmann::json alone{{"format", "fox-cellar-build"},
                                   {"version", 1},
                                   {"holes", nlohmann::json::array()},
                                   {"ground", {{"points", {{{"file", "ground.csv"}}}}}},
                                   {"sequence", {{{"code", "CL"}}, {{"code", "MS"}}}},
                                   {"contacts_from", {{{"file", "base.csv"}}}}};
        folder.write("alone.json", alone.dump());
        const auto words = "build " + (folder / "alone.json").string() + " --out " + (folder / "alone.gpkg").string();
        CHECK(call(words).status == 1); // a row has no unit
        folder.write("base.csv", "x,y,z,unit\n50,50,15,CL\n350,50,14,CL\n200,250,16,CL\n");
        const auto made = call(words);
        CAPTURE(made.error);
        REQUIRE(made.status == 0);
        const auto column = call("column " + (folder / "alone.gpkg").string() + " --at 350,50 --json").parsed();
        CHECK(column[0]["units"][0]["base"].get<double>() == Approx(14).margin(0.01));
    }
}
