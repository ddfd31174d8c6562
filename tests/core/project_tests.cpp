#include "fixtures.h"
#include "formats/raster.h"
#include "formats/vector.h"
#include "handover/export_files.h"
#include "holes/hole_checks.h"
#include "store/restore_points.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <catch2/catch.hpp>
#include <csignal>
#include <sys/wait.h>
#include <unistd.h>

using namespace fox;
using namespace fox::test;

TEST_CASE("Undo and redo walk through every version", "[project]") {
    History history(demo().project);
    const auto start = history.now();
    history.add(mergeCode(history.now(), "M.G.", "MG"));
    history.add(setMethod(history.now(), "RG", Method::Linear));
    CHECK(history.undoLabel() == "Base of RG by Linear on triangles");
    const auto end = history.now();
    history.undo();
    history.undo();
    CHECK_FALSE(history.canUndo());
    CHECK(sameValue(history.now(), start));
    CHECK(history.now().sequence == start.sequence); // the very same part
    history.redo();
    history.redo();
    CHECK(history.now().sequence == end.sequence);
    history.undo();
    history.add(addSection(history.now(), {{0, 0}, {1, 1}}));
    CHECK_FALSE(history.canRedo());
}

TEST_CASE("A coordinate system is known by number or name, and must be projected", "[project]") {
    CHECK(setSystem({}, "25832").project.site->crs == "EPSG:25832");
    CHECK(setSystem({}, "epsg:25831").label == "Coordinate system EPSG:25831");
    CHECK(setSystem({}, "").project.site->crs.empty());
    CHECK_THROWS_WITH(setSystem({}, "EPSG:4326"), Catch::Contains("EPSG:4326"));
    CHECK_THROWS_AS(setSystem({}, "somewhere"), Error);
}

TEST_CASE("Parts that an edit does not touch are shared", "[project]") {
    const auto& p = demo().project;
    const auto moved = moveBoundary(p, "R06", findHole(*p.holes, "R06")->intervals[1].base,
                                    Depth{findHole(*p.holes, "R06")->intervals[1].base.metres + 0.1})
                           .project;
    CHECK(moved.ground == p.ground);
    CHECK(moved.sequence == p.sequence);
    CHECK(moved.files == p.files);
    CHECK(moved.holes != p.holes);
}

TEST_CASE("A boundary moves both intervals, and not past them", "[project]") {
    Project p;
    p.holes = part(Holes{hole("h", 0, 0, 0, {{1, "A"}, {3, "B"}, {5, "C"}})});
    const auto h = moveBoundary(p, "h", Depth{1}, Depth{1.4}).project.holes->at(0);
    CHECK(h.intervals[0].base == Depth{1.4});
    CHECK(h.intervals[1].top == Depth{1.4});
    CHECK_THROWS_AS(moveBoundary(p, "h", Depth{1}, Depth{3}), Error);
    CHECK_THROWS_AS(moveBoundary(p, "h", Depth{3}, Depth{0.5}), Error);
    CHECK_THROWS_WITH(moveBoundary(p, "x", Depth{1}, Depth{0.5}), Catch::Contains("no hole named x"));
}

TEST_CASE("Only what changed is worked out again", "[project]") {
    Products products;
    const auto before = products.of(demo().project);
    const auto* r06 = findHole(*demo().project.holes, "R06");
    REQUIRE(r06);
    // the base of the gravel in R06
    std::size_t index = 0;
    while (r06->intervals[index].codes.at("GEOL_GEOL") != "RG") ++index;
    const auto after = products.of(
        moveBoundary(demo().project, "R06", r06->intervals[index].base, Depth{r06->intervals[index].base.metres - 0.2}).project);
    CHECK(after->terrain == before->terrain);
    CHECK(after->ground == before->ground);
    CHECK(after->contours == before->contours);
    // the gravel's base, and those that are chosen by what the hole has under it; no other
    const auto& units = demo().project.sequence->units;
    for (std::size_t u = 0; u < after->model->bases.size(); ++u) {
        CAPTURE(units[u].code);
        const bool touched = units[u].code == "RG" || units[u].code == "SL" || units[u].code == "TL";
        CHECK((after->model->bases[u] != before->model->bases[u]) == touched);
    }
    CHECK(after->sections[0] != before->sections[0]);
    const auto undone = products.of(demo().project);
    CHECK(undone->model == before->model); // remembered
    CHECK(undone->sections[0] == before->sections[0]);
    CHECK(undone->modelGrid == before->modelGrid);
}

TEST_CASE("Work that is asked to stop stops, and what it did by then is kept", "[project]") {
    std::stop_source stop;
    int heard = 0;
    const Progress progress(stop.get_token(), [&](double, std::string_view words) {
        ++heard;
        if (words.starts_with("Base of")) stop.request_stop();
    });
    Products products;
    CHECK_THROWS_AS(products.of(demo().project, progress), Stopped);
    CHECK(heard > 1);
    CHECK(products.of(demo().project)->model);
}

TEST_CASE("Progress goes forward to the end", "[project]") {
    double last = 0;
    std::string words;
    Products().of(demo().project, Progress({}, [&](double f, std::string_view w) {
                      if (w != "Keeping bounds" && w != "Triangulating") {
                          CHECK(f >= last);
                          last = f;
                      }
                      words = w;
                  }));
    CHECK(last == 1);
    CHECK(words == "Up to date");
}

TEST_CASE("A project comes back from its file as it was", "[store]") {
    const TemporaryFolder folder;
    auto project = demo().project;
    project.ground = part([&] {
        GroundSources ground;
        ground.points = project.ground->points;
        ground.lines = {{"flat", LineRole::Breaklines, std::vector<Polyline3>{{{1, 2, kNoValue}, {3, 4, kNoValue}}}}};
        ground.holeLevels = false;
        return ground;
    }());
    auto sequence = *project.sequence;
    sequence.aliases["M.G."] = "MG";
    sequence.units[2].recipe.settings.variogram = Variogram{VariogramModel::Gaussian, 0.1, 2, 300};
    sequence.units[2].recipe.reference = BaseReference::Depth;
    sequence.units[3].base = BaseRule::Laps;
    project.sequence = part(sequence);
    ProjectStore::create(folder / "p.gpkg", project);
    const auto read = ProjectStore::read(folder / "p.gpkg");
    CHECK(std::isnan(read.ground->lines[0].lines[0][0].z)); // NaN is not equal to itself
    auto compare = read;
    compare.ground = project.ground;
    CHECK(*read.site == *project.site);
    CHECK(*read.holes == *project.holes);
    CHECK(*read.files == *project.files);
    CHECK(*read.sequence == *project.sequence);
    CHECK(sameValue(compare, project));
    CHECK(read.ground->points == project.ground->points);
    CHECK(*read.files->at(0).bytes == readBytes(FOX_DEMO "/phase1_main.ags")); // byte for byte
}

TEST_CASE("Edits are saved one by one, and opening makes a restore point", "[store]") {
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", demo().project);
    {
        auto store = ProjectStore::open(folder / "p.gpkg");
        REQUIRE(restorePointsOf(folder / "p.gpkg").size() == 1);
        store.save(mergeCode(store.saved(), "M.G.", "MG").project);
        store.save(addSection(store.saved(), {{480000, 6120000}, {480100, 6120100}}).project);
    }
    const auto read = ProjectStore::read(folder / "p.gpkg");
    CHECK(read.sequence->aliases.at("M.G.") == "MG");
    CHECK(read.sections->size() == 4);
    CHECK(read.sections->back().name == "D");
    CHECK(ProjectStore::read(restorePointsOf(folder / "p.gpkg").front().file).sections->size() == 3);
    ProjectStore::open(folder / "p.gpkg"); // the next opening replaces nothing
    const auto points = restorePointsOf(folder / "p.gpkg");
    REQUIRE(points.size() == 2);
    CHECK(points[0].time > points[1].time);
    CHECK(ProjectStore::read(points[0].file).sections->size() == 4);
    CHECK(ProjectStore::read(points[1].file).sections->size() == 3);
    ProjectStore::open(folder / "p.gpkg"); // unchanged: there is one already
    CHECK(restorePointsOf(folder / "p.gpkg").size() == 2);
}

TEST_CASE("A process that is killed while saving leaves a whole project", "[store]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    ProjectStore::create(path, demo().project);
    const std::size_t before = ProjectStore::read(path).sections->size();
    for (int round = 0; round < 6; ++round) {
        int ready[2];
        REQUIRE(pipe(ready) == 0);
        const pid_t child = fork();
        REQUIRE(child >= 0);
        if (child == 0) {
            auto store = ProjectStore::open(path);
            for (int i = 0;; ++i) {
                auto p = moveBoundary(store.saved(), "QB101", findHole(*store.saved().holes, "QB101")->intervals[0].base,
                                      Depth{0.2 + 0.01 * (i % 10) + 0.001})
                             .project;
                store.save(addSection(p, {{480000.0 + i, 6120000}, {480100, 6120100}}).project);
                if (i == round) [[maybe_unused]]
                    const auto written = write(ready[1], "x", 1);
            }
        }
        char byte;
        CHECK(read(ready[0], &byte, 1) == 1); // some saves are done, and it is in the middle of another
        kill(child, SIGKILL);
        waitpid(child, nullptr, 0);
        close(ready[0]), close(ready[1]);
        const auto back = ProjectStore::open(path).saved();
        CHECK(back.holes->size() == demo().project.holes->size());
        CHECK(back.sections->size() > before);
    }
}

TEST_CASE("The project file is a GeoPackage that GDAL reads", "[store]") {
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", demo().project);
    const auto layers = readVector(folder / "p.gpkg");
    const auto layer = [&](const char* name) { return std::ranges::find(layers, name, &FeatureLayer::name); };
    REQUIRE(layer("holes") != layers.end());
    CHECK(layer("holes")->features.size() == 42);
    CHECK(layer("holes")->crs == "EPSG:25831");
    const auto& first = layer("holes")->features.front();
    CHECK(std::get<std::string>(first.attributes.at("hole_id")) == "QB101");
    CHECK(first.parts[0][0].x == 480095);
    CHECK(layer("section_lines")->features.size() == 3);
    CHECK(layer("outlines")->features.front().kind == GeometryKind::Polygon);
    CHECK(layer("ground_points")->features.size() == demo().project.ground->points[0].points.size());
    SQLite::Database db((folder / "p.gpkg").string());
    CHECK(db.execAndGet("PRAGMA integrity_check").getString() == "ok");
    CHECK(db.execAndGet("SELECT count(*) FROM pragma_foreign_key_check").getInt() == 0);
}

TEST_CASE("What is no project, or no whole one, is refused in a sentence", "[store]") {
    const TemporaryFolder folder;
    CHECK_THROWS_WITH(ProjectStore::read(folder / "none.gpkg"), Catch::Contains("none.gpkg can't be opened"));
    CHECK_THROWS_WITH(ProjectStore::read(folder.write("short.gpkg", "SQL")), Catch::Contains("too short"));
    CHECK_THROWS_WITH(ProjectStore::read(folder.write("text.gpkg", std::string(5000, 'x'))),
                      Catch::Contains("is not a GeoPackage"));
    CHECK_THROWS_WITH(ProjectStore::read(FOX_DEMO "/breaklines.gpkg"), Catch::Contains("not one that Fox Cellar made"));
    ProjectStore::create(folder / "p.gpkg", demo().project);
    const auto whole = readBytes(folder / "p.gpkg");
    for (const double share : {0.1, 0.5, 0.9})
        CHECK_THROWS_AS(ProjectStore::read(folder.write(
                            "cut.gpkg", std::string_view(whole).substr(0, std::size_t(double(whole.size()) * share)))),
                        FileError);
    {
        SQLite::Database db((folder / "p.gpkg").string(), SQLite::OPEN_READWRITE);
        db.exec("UPDATE settings SET value = '99' WHERE key = 'schema_version'");
    }
    CHECK_THROWS_WITH(ProjectStore::read(folder / "p.gpkg"), Catch::Contains("later Fox Cellar"));
}

TEST_CASE("A failed save leaves the file and what is saved as they were", "[store]") {
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", demo().project);
    auto store = ProjectStore::open(folder / "p.gpkg");
    SQLite::Database other((folder / "p.gpkg").string(), SQLite::OPEN_READWRITE);
    other.exec("BEGIN IMMEDIATE");
    CHECK_THROWS_WITH(store.save(mergeCode(store.saved(), "M.G.", "MG").project), Catch::Contains("could not be saved"));
    other.exec("ROLLBACK");
    CHECK(store.saved().sequence->aliases.empty());
    store.save(mergeCode(store.saved(), "M.G.", "MG").project);
    CHECK(ProjectStore::read(folder / "p.gpkg").sequence->aliases.size() == 1);
}

TEST_CASE("A grid comes back from its file", "[formats]") {
    const TemporaryFolder folder;
    Grid grid({480000, 6120000, 480040, 6120030, 10});
    for (std::size_t i = 0; i < grid.values.size(); ++i) grid.values[i] = 1.25 * double(i) + 0.1;
    grid.at(1, 1) = kNoValue;
    for (const char* file : {"g.tif", "g.asc", "g.gpkg"}) {
        CAPTURE(file);
        writeRaster(folder / file, grid, "EPSG:25831");
        const auto back = readRaster(folder / file);
        CHECK(back.grid.frame == grid.frame);
        CHECK(std::isnan(back.grid.at(1, 1)));
        CHECK(back.grid.at(3, 2) == Approx(grid.at(3, 2)).epsilon(1e-6));
    }
    CHECK(readRaster(folder / "g.tif").crs == "EPSG:25831");
    CHECK(readRaster(folder / "g.tif").grid.at(2, 2) == grid.at(2, 2)); // Float64
    writeRaster(folder / "g.xyz", grid, "");
    const auto xyz = readBytes(folder / "g.xyz");
    CHECK(xyz.starts_with("480005 6120025 0.1\n"));
    CHECK(std::ranges::count(xyz, '\n') == 11); // twelve cells, one of them empty
    CHECK(xyz.find("-9999") == xyz.npos);
    CHECK(xyz.find("nan") == xyz.npos);
    const auto back = readRaster(folder / "g.xyz").grid;
    CHECK(back.frame == grid.frame);
    CHECK(back.at(0, 2) == Approx(grid.at(0, 2)).epsilon(1e-6));
    CHECK(std::isnan(back.at(1, 1)));
    // the system of an ASCII grid is a file beside it: none is left under the name of a scratch file
    CHECK(readRaster(folder / "g.asc").crs.empty());
    for (const auto& entry : std::filesystem::directory_iterator(folder.path())) {
        CAPTURE(entry.path());
        CHECK(entry.path().filename().string().starts_with("g."));
    }
    CHECK_THROWS_AS(writeRaster(folder / "g.png", grid, ""), UsageError);
    CHECK_THROWS_AS(writeRaster(folder / "nowhere/g.tif", grid, ""), FileError);
    CHECK_THROWS_WITH(readRaster(folder.write("bad.tif", "nonsense")), Catch::Contains("bad.tif"));
}

TEST_CASE("Exports are all there or none", "[project]") {
    const TemporaryFolder folder;
    const auto files = exportFiles(*demoProducts(), "bases", "tif", folder / "out");
    CHECK(files.size() == 9);
    CHECK(std::filesystem::exists(folder / "out/base_RG.tif"));
    CHECK(readRaster(folder / "out/base_RG.tif").crs == "EPSG:25831");
    CHECK(exportFiles(*demoProducts(), "holes", "gpkg", folder / "out").size() == 1);
    CHECK(readVector(folder / "out/holes.gpkg").at(0).features.size() == 41); // one has no place
    CHECK_THROWS_WITH(exportFiles(*demoProducts(), "holes", "tif", folder / "none"), Catch::Contains("nothing was written"));
    CHECK_FALSE(std::filesystem::exists(folder / "none"));
}

TEST_CASE("Importing adds holes once, keeps same ids of two projects apart, and says what is there", "[project]") {
    Project p = demo().project;
    const auto again = understood(FOX_DEMO "/phase1_main.ags");
    const auto changes = changesBy(p, again);
    CHECK(std::ranges::count(changes, HoleChange::Kind::Same, &HoleChange::kind) == 28);
    CHECK(importSource(p, again).project.holes->size() == 42);
    const auto later = understood(FOX_DEMO "/phase3_later.ags");
    const auto added = importSource(p, later);
    CHECK(added.label == "Import phase3_later.ags (5 holes)");
    CHECK(added.project.holes->size() == 47);
    CHECK(findHole(*p.holes, "QB114 (QB19)") != findHole(*p.holes, "QB114 (QB16)"));
    CHECK_FALSE(findHole(*p.holes, "QB114"));
    Project empty;
    const auto first = importSource(empty, again).project;
    CHECK(first.sequence->units.size() >= 9);
    CHECK(first.name == "Quernbeck flood bypass, main investigation");
}

TEST_CASE("A build file is refused in a sentence that says why", "[project]") {
    const TemporaryFolder folder;
    const auto build = [&](const std::string& text) { return buildProject(folder.write("b.json", text)); };
    std::filesystem::copy(FOX_DEMO "/phase2_river.ags", folder / "h.ags");
    const std::string head = R"({"format":"fox-cellar-build","version":1,"holes":[{"file":"h.ags"}])";
    CHECK_THROWS_WITH(build("{"), Catch::Contains("is not valid JSON"));
    CHECK_THROWS_WITH(build("{\"version\": 4E80770}"), Catch::Contains("is not valid JSON")); // too large a number
    CHECK_THROWS_WITH(build("{}"), Catch::Contains("is not a build file"));
    CHECK_THROWS_WITH(build(R"({"format":"fox-cellar-build","version":1,"holes":[{"file":"gone.ags"}]})"),
                      Catch::Contains("gone.ags can't be opened"));
    CHECK_THROWS_WITH(build(R"({"format":"fox-cellar-build","version":1,"holes":[{"file":"h.ags"},{"file":"h.ags"}]})"),
                      Catch::Contains("is in an earlier file already"));
    CHECK_THROWS_AS(build(head + R"(,"surfaces":{"default":{"method":"magic"}}})"), UsageError);
    CHECK_THROWS_AS(build(head + R"(,"frame":{"xmin":5,"ymin":0,"xmax":1,"ymax":9,"cell":1}})"), UsageError);
    CHECK_THROWS_WITH(build(head + R"(,"frame":{"xmin":0,"ymin":0,"xmax":1e6,"ymax":1e6,"cell":0.1}})"),
                      Catch::Contains("the limit is"));
    CHECK_THROWS_WITH(build(head + R"(,"unit_heading":"GEOL_STAT"})"), Catch::Contains("GEOL_STAT"));
    const auto aliased = build(head + R"(,"unit_aliases":{"M.G.":"MG","made gr":"MG"}})");
    CHECK(aliased.project.sequence->aliases == std::map<std::string, std::string>{{"M.G.", "MG"}, {"made gr", "MG"}});
    const auto built = build(head + "}");
    CHECK(built.chosen.contains("sequence"));
    CHECK(built.chosen["unit_heading"] == "GEOL_GEOL");
    CHECK(Products().of(built.project)->modelGrid);
}

TEST_CASE("A hole with a wrong coordinate does not stretch the extent, and comes into it once it is put right",
          "[project][frame]") {
    Project p;
    Holes holes;
    for (int i = 0; i < 8; ++i) {
        Hole h;
        h.id = "BH" + std::to_string(i);
        h.easting = 480500 + 90.0 * i, h.northing = 6120400 + 40.0 * (i % 3), h.level = Level{24};
        holes.push_back(std::move(h));
    }
    p.holes = part(holes);
    const auto right = frameOf(p);
    REQUIRE(right);
    Hole wrong;
    wrong.id = "wrong";
    wrong.easting = 1480500, wrong.northing = 6120400, wrong.level = Level{24};
    holes.push_back(wrong);
    p.holes = part(holes);
    CHECK(frameOf(p) == right);
    const auto findings = checkHoles(holes);
    CHECK(std::ranges::count(findings, std::string("FC-FAR-OFF"), &Finding::rule) == 1);
    holes.change(8).easting = 481500;
    p.holes = part(holes);
    CHECK(frameOf(p)->xmax >= 481500);
    SECTION("of two holes neither is far off") {
        Holes two;
        two.push_back(holes[0]);
        two.push_back(wrong);
        p.holes = part(two);
        CHECK(frameOf(p)->xmax >= 1480500);
    }
}
