// The project file as other hands leave it: GIS libraries, strangers, writers that died, full disks.
#include "fixtures.h"
#include "project/ground_edits.h"
#include "project/sequence_edits.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <catch2/catch.hpp>
#include <csignal>
#include <gdal_utils.h>
#include <ogrsf_frmts.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace fox;
using namespace fox::test;

namespace {

/// A small site that is not the demo: four holes, a survey, lines, an outline, a limit, sections, own decisions.
Project smallSite() {
    Project p;
    p.name = "Small";
    p.site = part(Site{"EPSG:25831", Frame{0, 0, 400, 300, 10}, {{0, 0}, {400, 0}, {400, 300}, {0, 300}}});
    Holes holes;
    for (int i = 0; i < 4; ++i)
        holes.push_back(hole("H" + std::to_string(i), 50 + 90 * i, 40 + 60 * i, 20 + i, {{1, "A"}, {4.5, "B"}, {9, "C"}}));
    p.holes = part(holes);
    auto ground = groundOf("0 0 20, 400 0 22, 400 300 25, 0 300 21, 200 150 23");
    ground.lines.push_back({"bank.gpkg", LineRole::Breaklines, std::vector<Polyline3>{{{10, 10, 20}, {390, 280, 24}}}});
    ground.lines.push_back(
        {"road.gpkg", LineRole::Breaklines, std::vector<Polyline3>{{{20, 200, kNoValue}, {300, 210, kNoValue}}}});
    ground.outlines.push_back(
        {"pond", "", {{100, 100}, {140, 100}, {140, 140}, {100, 140}}, GroundSources::Outline::Use::Island});
    p.ground = part(ground);
    p.sequence = part(sequence({"A", "B", "C"}));
    p = addSection(p, {{0, 50}, {400, 260}}).project;
    p = addTrialColumn(p, {200, 100}).project;
    return p;
}

/// The same values; a level that is missing in both is the same.
bool same(Project a, Project b) {
    for (auto* p : {&a, &b}) {
        auto ground = *p->ground;
        for (auto& source : ground.lines) {
            auto lines = *source.lines;
            for (auto& line : lines)
                for (auto& at : line)
                    if (std::isnan(at.z)) at.z = -99;
            source.lines = lines;
        }
        p->ground = part(ground);
    }
    return sameValue(a, b);
}

/// A small site in a file.
struct SiteFile {
    TemporaryFolder folder;
    std::filesystem::path path = folder / "site.gpkg";
    Project project = smallSite();
    SiteFile() { ProjectStore::create(path, project); }
    /// Runs SQL as a stranger with plain SQLite.
    void sql(const std::string& statements) {
        SQLite::Database db(path.string(), SQLite::OPEN_READWRITE);
        db.exec(statements);
    }
    struct Opened {
        Project project;
        Findings findings;
    };
    /// Opens it for writing, saves a change of every kind, and reads it again: what was read must come back.
    Opened open() {
        auto store = ProjectStore::open(path);
        INFO(store.readOnlyBecause());
        REQUIRE(store.readOnlyBecause().empty());
        auto changed = store.saved();
        if (!changed.holes->empty()) changed = setExcluded(changed, displayNames(*changed.holes).front(), true).project;
        changed = addSection(changed, {{1, 1}, {2, 9}}).project;
        changed = addTrialColumn(changed, {3, 4}).project;
        changed = addOutline(changed, "more", {{0, 0}, {5, 0}, {5, 5}}, GroundSources::Outline::Use::None).project;
        const Opened out{store.saved(), store.findings()};
        store.save(changed);
        Findings later;
        CHECK(same(ProjectStore::read(path, later), changed));
        CHECK(later.size() <= out.findings.size()); // what was not written since is still as it was
        return out;
    }
};

bool says(const Findings& findings, const std::string& words) {
    return std::ranges::any_of(findings, [&](const Finding& f) { return f.message.find(words) != std::string::npos; });
}

/// The file as a GIS library opens it.
struct Gis {
    GDALDatasetUniquePtr data;
    explicit Gis(const std::filesystem::path& path) {
        GDALAllRegister();
        data.reset(GDALDataset::Open(path.c_str(), GDAL_OF_VECTOR | GDAL_OF_UPDATE));
        REQUIRE(data);
    }
    OGRLayer* layer(const char* name) {
        auto* l = data->GetLayerByName(name);
        REQUIRE(l);
        return l;
    }
    void setGeometry(const char* name, const char* wkt, std::int64_t fid = 1) {
        const OGRFeatureUniquePtr f(layer(name)->GetFeature(fid));
        REQUIRE(f);
        OGRGeometry* g = nullptr;
        REQUIRE(OGRGeometryFactory::createFromWkt(wkt, nullptr, &g) == OGRERR_NONE);
        f->SetGeometryDirectly(g);
        CHECK(layer(name)->SetFeature(f.get()) == OGRERR_NONE);
    }
};

} // namespace

TEST_CASE("A project comes back from its file as it was, and nothing is found in it", "[store][foreign]") {
    SiteFile site;
    const auto opened = site.open();
    CHECK(same(opened.project, site.project));
    CHECK(opened.findings.empty());
}

TEST_CASE("A vertex moved in a GIS moves the line; the project opens and saves", "[store][foreign]") {
    SiteFile site;
    Gis(site.path).setGeometry("section_lines", "LINESTRING (0 55, 200 140, 400 260)");
    const auto opened = site.open();
    CHECK(opened.project.sections->front().line == Polyline2{{0, 55}, {200, 140}, {400, 260}});
}

TEST_CASE("Geometry of any shape that a GIS writes opens", "[store][foreign]") {
    const char* layer = nullptr;
    const char* wkt = nullptr;
    std::tie(layer, wkt) = GENERATE(table<const char*, const char*>({
        {"section_lines", "LINESTRING Z (0 50 1, 400 260 2)"},
        {"section_lines", "LINESTRING M (0 50 1, 400 260 2)"},
        {"section_lines", "LINESTRING ZM (0 50 1 2, 400 260 2 3)"},
        {"section_lines", "MULTILINESTRING ((0 50, 400 260), (0 0, 5 5))"},
        {"section_lines", "CIRCULARSTRING (0 50, 200 200, 400 260)"},
        {"section_lines", "LINESTRING EMPTY"},
        {"section_lines", "POINT (1 2)"},
        {"holes", "POINT ZM (50 40 20 1)"},
        {"holes", "MULTIPOINT Z ((50 40 20))"},
        {"holes", "POINT EMPTY"},
        {"ground_points", "MULTIPOINT Z ((0 0 20), (1 1 20))"},
        {"ground_points", "LINESTRING Z (0 0 1, 2 2 2)"},
        {"ground_lines", "MULTILINESTRING Z ((10 10 20, 390 280 24), (0 0 1, 9 9 2))"},
        {"ground_lines", "COMPOUNDCURVE Z ((10 10 20, 100 100 21), CIRCULARSTRING Z (100 100 21, 150 160 22, 200 150 23))"},
        {"outlines", "MULTIPOLYGON (((0 0, 400 0, 400 300, 0 300, 0 0)), ((500 500, 510 500, 510 510, 500 500)))"},
        {"outlines", "CURVEPOLYGON (CIRCULARSTRING (0 0, 200 200, 400 0, 200 -200, 0 0))"},
        {"outlines", "POLYGON EMPTY"},
        {"trial_columns", "POINT Z (7 8 9)"},
    }));
    CAPTURE(layer, wkt);
    SiteFile site;
    Gis(site.path).setGeometry(layer, wkt);
    const auto opened = site.open();
    CHECK(opened.project.holes->size() == 4);
    if (std::string_view(wkt).find("EMPTY") != std::string_view::npos && std::string_view(layer) != "holes")
        CHECK(says(opened.findings, "row 1: the geometry can't be used, it is empty"));
}

TEST_CASE("Blobs with envelopes and in big-endian order are read", "[store][foreign]") {
    SiteFile site;
    // a line by hand: header with an XY envelope, everything big-endian
    std::string blob("GP\0\x02", 4);
    const auto big = [&](auto v) {
        char bytes[sizeof v];
        std::memcpy(bytes, &v, sizeof v);
        std::reverse(bytes, bytes + sizeof v);
        blob.append(bytes, sizeof v);
    };
    big(std::int32_t(25831));
    for (const double v : {0.0, 9.0, 0.0, 7.0}) big(v); // the envelope
    blob += '\0';
    big(std::uint32_t(2)), big(std::uint32_t(2));
    for (const double v : {0.0, 0.0, 9.0, 7.0}) big(v);
    {
        SQLite::Database db(site.path.string(), SQLite::OPEN_READWRITE);
        SQLite::Statement s(db, "UPDATE section_lines SET geom = ?");
        s.bind(1, blob.data(), int(blob.size()));
        s.exec();
    }
    const auto opened = site.open();
    CHECK(opened.project.sections->front().line == Polyline2{{0, 0}, {9, 7}});
    CHECK(opened.findings.empty());
}

TEST_CASE("A hole's point moved in a GIS moves the hole, and is named", "[store][foreign]") {
    SiteFile site;
    Gis(site.path).setGeometry("holes", "POINT Z (60 45 20)");
    const auto opened = site.open();
    CHECK(opened.project.holes->at(0).place() == Point2{60, 45});
    REQUIRE(opened.findings.size() == 1);
    CHECK(opened.findings[0].hole == "H0");
    CHECK(opened.findings[0].message.find("holes, row 1") != std::string::npos);
}

TEST_CASE("An easting changed in the table moves the hole too", "[store][foreign]") {
    SiteFile site;
    site.sql("UPDATE holes SET easting = 77 WHERE hole_id = 'H1'");
    const auto opened = site.open();
    CHECK(opened.project.holes->at(1).easting == 77);
    CHECK(says(opened.findings, "easting or northing was changed"));
}

TEST_CASE("A ground point or line without levels is not at level 0", "[store][foreign]") {
    SiteFile site;
    Gis gis(site.path);
    gis.setGeometry("ground_points", "POINT (0 0)");
    gis.setGeometry("ground_lines", "LINESTRING (10 10, 390 280)");
    gis.data.reset();
    const auto opened = site.open();
    CHECK(opened.project.ground->points[0].points.size() == 4);
    CHECK(std::isnan(opened.project.ground->lines[0].lines[0][0].z));
    CHECK(says(opened.findings, "ground_points, row 1: the point has no level"));
    CHECK(says(opened.findings, "ground_lines, row 1: the line has lost its levels"));
    const auto ground = Products().of(opened.project)->ground;
    CHECK(*std::ranges::min_element(ground->values) > 15);
}

TEST_CASE("A ring inside the site limit is an island, and comes back as one", "[store][foreign]") {
    SiteFile site;
    Gis(site.path).setGeometry("outlines", "POLYGON ((0 0, 400 0, 400 300, 0 300, 0 0), (200 200, 250 200, 250 250, 200 200))");
    const auto opened = site.open();
    CHECK(opened.project.site->limit.size() == 4);
    const auto& outlines = opened.project.ground->outlines;
    const auto island = std::ranges::find_if(outlines, [](const auto& o) { return o.name == "site limit, hole 1"; });
    REQUIRE(island != outlines.end());
    CHECK(island->use == GroundSources::Outline::Use::Island);
    CHECK(island->ring.size() == 3);
}

TEST_CASE("A deleted hole takes its rows along, an added one comes in", "[store][foreign]") {
    SiteFile site;
    {
        Gis gis(site.path);
        REQUIRE(gis.layer("holes")->DeleteFeature(2) == OGRERR_NONE);
        auto* layer = gis.layer("holes");
        const OGRFeatureUniquePtr f(OGRFeature::CreateFeature(layer->GetLayerDefn()));
        f->SetField("hole_id", "NEW");
        f->SetField("project_id", "P");
        OGRPoint at(5, 6, 21);
        f->SetGeometry(&at);
        REQUIRE(layer->CreateFeature(f.get()) == OGRERR_NONE);
    }
    const auto opened = site.open();
    REQUIRE(opened.project.holes->size() == 4);
    CHECK(findHole(*opened.project.holes, "H1") == nullptr);
    CHECK(findHole(*opened.project.holes, "NEW")->place() == Point2{5, 6});
    CHECK(says(opened.findings, "3 rows belong to holes that are no longer there"));
}

TEST_CASE("Layers rewritten by a GIS, with a spatial index and other names of columns, open and save again and again",
          "[store][foreign]") {
    SiteFile site;
    const char* layer = GENERATE("holes", "section_lines", "ground_points", "outlines");
    const bool renamed = GENERATE(false, true);
    CAPTURE(layer, renamed);
    {
        GDALAllRegister();
        const auto copy = site.folder / "copy.gpkg";
        std::filesystem::copy_file(site.path, copy);
        std::vector<const char*> words{"-overwrite", "-update", "-nln", layer, "-lco", "SPATIAL_INDEX=YES"};
        if (renamed)
            for (const char* w : {"-lco", "GEOMETRY_NAME=the_geom", "-lco", "FID=id"}) words.push_back(w);
        words.push_back(layer);
        words.push_back(nullptr);
        auto* options = GDALVectorTranslateOptionsNew(const_cast<char**>(words.data()), nullptr);
        GDALDatasetUniquePtr from(GDALDataset::Open(copy.c_str(), GDAL_OF_VECTOR));
        Gis to(site.path);
        GDALDatasetH source = GDALDataset::ToHandle(from.get());
        REQUIRE(GDALVectorTranslate(nullptr, GDALDataset::ToHandle(to.data.get()), 1, &source, options, nullptr));
        GDALVectorTranslateOptionsFree(options);
    }
    auto opened = site.open();
    CHECK(same(opened.project, site.project));
    opened = site.open();
    CHECK(opened.project.sections->size() == 2);
}

TEST_CASE("A layer put into another system by a GIS is brought back", "[store][foreign]") {
    TemporaryFolder folder;
    auto p = smallSite();
    p.site = part(Site{"EPSG:25831", std::nullopt, {}});
    p.sections = part(std::vector<SectionLine>{{"A", {{480000, 6120000}, {481000, 6120500}}}});
    ProjectStore::create(folder / "p.gpkg", p);
    {
        std::filesystem::copy_file(folder / "p.gpkg", folder / "copy.gpkg");
        const char* words[] = {"-overwrite", "-update",       "-t_srs",        "EPSG:25832",
                               "-nln",       "section_lines", "section_lines", nullptr};
        auto* options = GDALVectorTranslateOptionsNew(const_cast<char**>(words), nullptr);
        GDALDatasetUniquePtr from(GDALDataset::Open((folder / "copy.gpkg").c_str(), GDAL_OF_VECTOR));
        Gis to(folder / "p.gpkg");
        GDALDatasetH source = GDALDataset::ToHandle(from.get());
        REQUIRE(GDALVectorTranslate(nullptr, GDALDataset::ToHandle(to.data.get()), 1, &source, options, nullptr));
        GDALVectorTranslateOptionsFree(options);
    }
    auto store = ProjectStore::open(folder / "p.gpkg");
    CHECK(store.saved().sections->at(0).line[1].x == Approx(481000).margin(0.001));
    CHECK(says(store.findings(), "EPSG:25832"));
}

TEST_CASE("Whatever stands in a row, the project opens, or says why not, in little time and memory", "[store][foreign]") {
    const char* statement = GENERATE(
        "UPDATE ground_points SET source = -1", "UPDATE ground_points SET source = 40000000 WHERE fid = 3",
        "UPDATE ground_points SET source = 'x'", "UPDATE ground_lines SET source = 9e18",
        "UPDATE source_files SET name = '../../x'", "UPDATE holes SET easting = 1e308, northing = 9e999",
        "UPDATE holes SET hole_id = ''", "UPDATE holes SET hole_id = CAST(x'EDA080FF41' AS TEXT)",
        "UPDATE holes SET hole_id = 'H0'", "UPDATE intervals SET codes = '[1,2' WHERE fid = 1",
        "UPDATE intervals SET top = 'deep', base = NULL", "UPDATE intervals SET codes = '{\"A\":3}'",
        "INSERT INTO path_stations (hole_fid, depth, inclination, azimuth) VALUES (1, 0, 1e300, -5)",
        "INSERT INTO installations (hole_fid, top, base, part) VALUES (1, 0, 1, 77)",
        "INSERT INTO curves (hole_fid, name, readings) VALUES (1, 'GR', x'010203')",
        "UPDATE settings SET value = '{' WHERE key = 'ground'",
        "UPDATE settings SET value = '{\"edits\":[{\"kind\":\"leave out\"}]}' WHERE key = 'ground'",
        "UPDATE settings SET value = '{\"xmin\":0,\"ymin\":0,\"xmax\":10000,\"ymax\":10000,\"cell\":0.5}' WHERE key = 'frame'",
        "UPDATE settings SET value = '{\"xmin\":0,\"ymin\":0,\"xmax\":1e300,\"ymax\":1,\"cell\":1e-9}' WHERE key = 'frame'",
        "UPDATE settings SET value = '{\"xmin\":5,\"ymin\":0,\"xmax\":1,\"ymax\":1,\"cell\":1}' WHERE key = 'frame'",
        "UPDATE settings SET value = 'EPSG:0' WHERE key = 'crs'", "UPDATE settings SET value = x'FF00FE' WHERE key = 'name'",
        "UPDATE units SET recipe = '{\"method\":\"magic\"}'", "UPDATE units SET recipe = '[]', logged = '7', colour = 'red;'",
        "UPDATE units SET code = 'A'", "DELETE FROM units",
        "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 20000) INSERT INTO units (code, name) SELECT "
        "'U' "
        "|| i, 'x' FROM n",
        "INSERT INTO source_files (name, format, holes, size, bytes, findings) VALUES ('bomb', 'CSV', 0, 400000000, "
        "x'789c0300000000010001', '[]')",
        "INSERT INTO ground_grids (source_file, frame, cells) VALUES ('g', "
        "'{\"xmin\":0,\"ymin\":0,\"xmax\":14000,\"ymax\":14000,\"cell\":1}', x'00')",
        "ALTER TABLE intervals RENAME TO old; CREATE VIEW intervals AS WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i FROM "
        "n) "
        "SELECT i AS fid, 1 AS hole_fid, 0 AS top, 1 AS base, '' AS description, '{}' AS codes, 1 AS source_line FROM n",
        "DROP TABLE intervals", "DROP TABLE section_lines", "ALTER TABLE holes DROP COLUMN kind",
        "CREATE TRIGGER t AFTER INSERT ON trial_columns BEGIN SELECT load_everything(); END",
        "CREATE TRIGGER t AFTER INSERT ON trial_columns BEGIN DELETE FROM holes; END",
        "UPDATE section_lines SET geom = x'47500001'", "UPDATE section_lines SET geom = zeroblob(3000)",
        "UPDATE trial_columns SET geom = NULL", "DELETE FROM gpkg_geometry_columns", "PRAGMA journal_mode = WAL");
    CAPTURE(statement);
    SiteFile site;
    site.sql(statement);
    rusage before{}, after{};
    getrusage(RUSAGE_SELF, &before);
    const auto opened = site.open();
    getrusage(RUSAGE_SELF, &after);
    CHECK(after.ru_maxrss - before.ru_maxrss < 2'000'000); // kilobytes
    for (const auto& f : *opened.project.files) CHECK(f.name.find('/') == f.name.npos);
    CHECK(opened.project.sequence->units.size() <= 500);
    Products().of(opened.project);
}

TEST_CASE("Faults of one table beyond a hundred are counted", "[store][foreign]") {
    SiteFile site;
    site.sql(
        "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 5000) INSERT INTO intervals (hole_fid, top) "
        "SELECT 1, 2 FROM n");
    const auto opened = site.open();
    CHECK(opened.findings.size() == 101);
    CHECK(says(opened.findings, "4900 more faults"));
}

TEST_CASE("A journal left by a writer that died is played back, also where nothing may be written", "[store][foreign]") {
    SiteFile site;
    const pid_t child = fork();
    REQUIRE(child >= 0);
    if (child == 0) { // dies in the middle of a transaction, with half of it in the file
        SQLite::Database db(site.path.string(), SQLite::OPEN_READWRITE);
        db.exec(
            "PRAGMA cache_size = 1; PRAGMA synchronous = OFF; BEGIN; UPDATE holes SET hole_id = 'lost'; DELETE FROM intervals; "
            "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 20000) INSERT INTO picks (hole, unit, "
            "depth_m) SELECT 'x', 'y', i FROM n;");
        kill(getpid(), SIGKILL);
    }
    waitpid(child, nullptr, 0);
    const auto journal = std::filesystem::path(site.path.string() + "-journal");
    REQUIRE(std::filesystem::file_size(journal) > 0);
    const bool writable = GENERATE(true, false);
    CAPTURE(writable);
    if (!writable) std::filesystem::permissions(site.path, std::filesystem::perms::owner_read);
    CHECK(same(ProjectStore::read(site.path), site.project));
    std::filesystem::permissions(site.path, std::filesystem::perms::owner_all);
    site.open();
    CHECK_FALSE(std::filesystem::exists(journal));
}

TEST_CASE("Two hundred saves killed at random moments leave the state before or after the edit", "[store]") {
    SiteFile site;
    std::mt19937 random(7);
    for (int round = 1; round <= 200; ++round) {
        int ready[2];
        REQUIRE(pipe(ready) == 0);
        const pid_t child = fork();
        REQUIRE(child >= 0);
        if (child == 0) {
            auto store = ProjectStore::open(site.path);
            [[maybe_unused]] const auto told = write(ready[1], "x", 1);
            for (int i = 1;; ++i) // each save moves a hole and adds an outline: both or neither
                store.save(addOutline(setHolePlace(store.saved(), "H1", {double(round), double(i)}).project,
                                      std::to_string(round) + "/" + std::to_string(i), {{0, 0}, {1, 0}, {1, 1}},
                                      GroundSources::Outline::Use::None)
                               .project);
        }
        char byte = 0;
        REQUIRE(read(ready[0], &byte, 1) == 1);
        usleep(random() % 12000); // a random moment: what is tested is that none of them matters
        kill(child, SIGKILL);
        waitpid(child, nullptr, 0);
        close(ready[0]), close(ready[1]);
        Findings findings;
        const auto back = ProjectStore::read(site.path, findings);
        REQUIRE(findings.empty());
        const auto place = back.holes->at(1).place().value();
        const auto last = back.ground->outlines.back().name;
        if (last != "pond") REQUIRE(last == std::to_string(int(place.x)) + "/" + std::to_string(int(place.y)));
        REQUIRE(back.holes->size() == 4);
        if (round % 20 == 0) { // else the file would only grow
            auto store = ProjectStore::open(site.path);
            store.save(site.project);
        }
    }
}

TEST_CASE("One window at a time: a second one can look, and the right to write dies with the process", "[store]") {
    SiteFile site;
    {
        auto first = ProjectStore::open(site.path);
        const auto second = ProjectStore::open(site.path);
        CHECK(first.readOnlyBecause().empty());
        CHECK(second.readOnlyBecause().find("another window") != std::string::npos);
        CHECK(same(second.saved(), site.project));
        auto writer = ProjectStore::open(site.path);
        CHECK_THROWS_WITH(writer.save(addSection(writer.saved(), {{0, 0}, {1, 1}}).project), Catch::Contains("read-only"));
        CHECK_THROWS_WITH(ProjectStore::create(site.path, Project{}), Catch::Contains("another window"));
    }
    int ready[2];
    REQUIRE(pipe(ready) == 0);
    const pid_t child = fork();
    if (child == 0) {
        const auto held = ProjectStore::open(site.path);
        [[maybe_unused]] const auto told = write(ready[1], "x", 1);
        pause();
    }
    char byte = 0;
    REQUIRE(read(ready[0], &byte, 1) == 1);
    CHECK_FALSE(ProjectStore::open(site.path).readOnlyBecause().empty());
    kill(child, SIGKILL);
    waitpid(child, nullptr, 0);
    close(ready[0]), close(ready[1]);
    CHECK(ProjectStore::open(site.path).readOnlyBecause().empty());
}

TEST_CASE("A file removed, replaced or written to meanwhile is said, and nothing is lost", "[store]") {
    SiteFile site;
    auto store = ProjectStore::open(site.path);
    const auto edited = addSection(store.saved(), {{0, 0}, {1, 1}}).project;
    SECTION("removed") {
        std::filesystem::remove(site.path);
        CHECK_THROWS_WITH(store.save(edited), Catch::Contains("no longer there"));
    }
    SECTION("replaced") {
        std::filesystem::copy_file(site.path, site.folder / "other.gpkg");
        std::filesystem::rename(site.folder / "other.gpkg", site.path);
        CHECK_THROWS_WITH(store.save(edited), Catch::Contains("another file now"));
    }
    SECTION("written to by another program") {
        site.sql("UPDATE units SET name = 'theirs'");
        CHECK_THROWS_WITH(store.save(edited), Catch::Contains("changed by another program"));
        store.save(edited); // the user's word
        CHECK(ProjectStore::read(site.path).sections->size() == 2);
        CHECK(ProjectStore::read(site.path).sequence->units[0].name == "theirs"); // a part that was not edited here
    }
    CHECK(store.saved().sections->size() + 0 <= 2);
}

TEST_CASE("An edit of one hole writes that hole's rows and no others", "[store]") {
    SiteFile site;
    {
        auto store = ProjectStore::open(site.path);
        store.save(setHoleLevel(store.saved(), "H2", Level{33}).project);
    }
    SQLite::Database db(site.path.string(), SQLite::OPEN_READONLY);
    const auto rows = [&](const char* sql) { return db.execAndGet(sql).getInt(); };
    // rows that were written anew have numbers above those that were there
    CHECK(rows("SELECT COUNT(*) FROM intervals WHERE fid > 12") == 3);
    CHECK(rows("SELECT COUNT(DISTINCT hole_fid) FROM intervals WHERE fid > 12") == 1);
    CHECK(rows("SELECT COUNT(*) FROM intervals") == 12);
    CHECK(rows("SELECT fid FROM holes WHERE hole_id = 'H2'") == 3);
}

TEST_CASE("Holes that come, go and change places are saved as they are", "[store][random]") {
    SiteFile site;
    auto store = ProjectStore::open(site.path);
    std::mt19937 random(11);
    for (int round = 0; round < 40; ++round) {
        auto p = store.saved();
        auto holes = *p.holes;
        switch (random() % 4) {
        case 0: holes.push_back(hole("N" + std::to_string(round), round, 2, 20, {{1, "A"}, {2, "B"}})); break;
        case 1:
            if (holes.size() > 1) {
                const auto gone = holes[random() % holes.size()].id;
                holes.removeIf([&](const Hole& h) { return h.id == gone; });
            }
            break;
        case 2: holes.change(random() % holes.size()).intervals.push_back({Depth{9}, Depth{9.5}, "more", {}, 0}); break;
        default: {
            Holes turned;
            for (std::size_t i = holes.size(); i-- > 0;) turned.push_back(holes[i]);
            holes = turned;
        }
        }
        p.holes = part(holes);
        store.save(p);
        REQUIRE(*ProjectStore::read(site.path).holes == holes);
    }
}

TEST_CASE("Names of holes and water levels that strangers have written are read as far as they can be", "[store][names]") {
    SiteFile site;
    { // with names of their own and two dips
        auto store = ProjectStore::open(site.path);
        auto p = setHoleName(store.saved(), "H1", "North").project;
        auto holes = *p.holes;
        holes.change(1).waterLevels = {{"2025-03-04", Depth{1.5}, "P1"}, {"2025-04-04", Depth{1.7}, ""}};
        p.holes = part(std::move(holes));
        store.save(p);
    }
    SECTION("two holes of one name: the second gets one of its own, and it is said") {
        site.sql("UPDATE holes SET name = 'North' WHERE hole_id = 'H2'");
        const auto opened = site.open();
        const auto names = displayNames(*opened.project.holes);
        CHECK(std::set<std::string>(names.begin(), names.end()).size() == names.size());
        CHECK(findHole(*opened.project.holes, "North")->id == "H1");
        CHECK(findHole(*opened.project.holes, "H2")->id == "H2");
        CHECK(says(opened.findings, "another hole has this name"));
    }
    SECTION("a hole that was added without a name gets its id, unless another is called so") {
        site.sql("INSERT INTO holes (hole_id, project_id, easting, northing, ground_level) VALUES ('North','P',10,20,5), "
                 "('New','P',30,20,5)");
        const auto opened = site.open();
        REQUIRE(opened.project.holes->size() == 6);
        CHECK(findHole(*opened.project.holes, "North")->id == "H1");
        CHECK(findHole(*opened.project.holes, "North (P)")->id == "North");
        CHECK(findHole(*opened.project.holes, "New")->id == "New");
    }
    SECTION("names that are gone are the ids again") {
        site.sql("UPDATE holes SET name = NULL");
        const auto opened = site.open();
        CHECK(displayNames(*opened.project.holes) == std::vector<std::string>{"H0", "H1", "H2", "H3"});
    }
    SECTION("a column of names that is no more") {
        site.sql("ALTER TABLE holes DROP COLUMN name");
        const auto opened = site.open();
        CHECK(displayNames(*opened.project.holes) == std::vector<std::string>{"H0", "H1", "H2", "H3"});
    }
    SECTION("dips of strange depths and dates, and of holes that are not there") {
        site.sql("INSERT INTO water_levels (hole_fid, measured, depth, pipe) VALUES (1, 'yesterday', 'deep', ''), (1, NULL, 2.5, "
                 "NULL), "
                 "(77, '2025-01-01', 1, ''), (2, '2025-05-04', 1e300, '')");
        const auto opened = site.open();
        const auto& holes = *opened.project.holes;
        REQUIRE(holes[0].waterLevels.size() == 1);
        CHECK(holes[0].waterLevels[0] == WaterLevel{"", Depth{2.5}, ""});
        CHECK(holes[1].waterLevels.size() == 2);
        CHECK(opened.findings.size() >= 2);
    }
    SECTION("a table of dips that is no more") {
        site.sql("DROP TABLE water_levels");
        const auto opened = site.open();
        for (const auto& h : *opened.project.holes) CHECK(h.waterLevels.empty());
    }
    SECTION("nothing was touched: all is as it was") {
        const auto opened = site.open();
        CHECK(opened.findings.empty());
        CHECK(findHole(*opened.project.holes, "North")->waterLevels.size() == 2);
    }
}
