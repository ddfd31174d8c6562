// Coordinate systems: found by name, area and number; their units; what files say of theirs.
#include "formats/crs.h"
#include "formats/system_list.h"
#include "ground_fixtures.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// Codes of what is found, the best first.
std::vector<std::string> codes(const std::vector<SystemInfo>& systems) {
    std::vector<std::string> out;
    for (const auto& s : systems) out.push_back(s.code);
    return out;
}

/// An AGS 4 file of one hole, with these extra headings of LOCA.
std::string agsWith(const std::string& headings, const std::string& cells,
                    const std::string& place = "\"480100.00\",\"6120100.00\"") {
    return "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\","
           "\"P1\"\r\n\r\n\"GROUP\",\"LOCA\"\r\n"
           "\"HEADING\",\"LOCA_ID\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\","
           + headings + "\r\n\"DATA\",\"BH1\"," + place + ",\"20.00\"," + cells + "\r\n";
}

ImportPreview agsRead(const std::string& text, const char* siteCrs, SourceSettings s = {}) {
    return readSource({"site.ags", "", text, 0, {}, std::move(s), ""}, siteCrs);
}

} // namespace

TEST_CASE("A system is found by its number, words of its name and where it is used", "[systems]") {
    CHECK(codes(systemsLike("25831")).front() == "EPSG:25831");
    CHECK(codes(systemsLike("epsg:25831")).front() == "EPSG:25831");
    CHECK(codes(systemsLike("ETRS89 / UTM zone 31N")).front() == "EPSG:25831");
    const auto zone = codes(systemsLike("utm 31n etrs89"));
    CHECK(std::ranges::count(zone, "EPSG:25831") == 1);
    CHECK_FALSE(systemsLike("netherlands").empty());
    CHECK(systemsLike("").empty());
    CHECK(systemsLike("no system is called so").empty());
    CHECK(systemsLike("zone", 5).size() == 5);
    CHECK(systemNamed("etrs89 / utm zone 31n")->code == "EPSG:25831");
    CHECK_FALSE(systemNamed("99999999"));
}

TEST_CASE("A project works in metres; a system in feet says so", "[systems]") {
    CHECK(unitOfSystem("EPSG:25831").isMetre());
    const auto feet = unitOfSystem("EPSG:2263");
    CHECK(feet.metres == Approx(1200.0 / 3937).epsilon(1e-12));
    CHECK(unitOfSystem("EPSG:4326").metres == 0);
    CHECK_THROWS_AS(unitOfSystem("EPSG:999999"), Error);
    CHECK_THROWS_WITH(setSystem(Project(), "EPSG:2263"), Catch::Contains("a project works in metres"));
}

TEST_CASE("Points in a system in feet are converted in plan and in level, and it is said", "[systems][import]") {
    const CoordinateChange change("EPSG:2263", "EPSG:32618");
    const auto there = change.forward({980000, 200000});
    REQUIRE(there);
    const std::string text = "easting,northing,level\n980000,200000,100\n980100,200000,110\n980000,200100,120\n";
    SourceSettings s;
    s.crs = "EPSG:2263";
    const auto read = [&](const SourceSettings& settings) {
        return readSource({"s.csv", "", text, 0, {}, settings, ""}, "EPSG:32618");
    };
    const auto u = read(s);
    REQUIRE(u.survey);
    CHECK(u.survey->points[0].place.x == Approx(there->x).margin(0.001));
    CHECK(u.survey->points[0].place.z == Approx(100 * 1200.0 / 3937));
    CHECK(mentions(u.file.findings, "FC-UNIT", "0.30480061"));
    s.unit = 1; // somebody knows that the levels are in metres
    const auto metres = read(s);
    CHECK(metres.survey->points[0].place.z == 100);
    CHECK(mentions(metres.file.findings, "FC-UNIT", "levels are taken as metres"));
}

TEST_CASE("An AGS file that says its system sets it in an empty project, and is doubted in another one", "[systems][import]") {
    const auto text = agsWith("\"LOCA_GREF\"", "\"ETRS89 / UTM zone 31N\"");
    const auto alone = agsRead(text, "");
    CHECK(alone.system == "EPSG:25831");
    const auto made = importSource(Project(), alone);
    CHECK(made.project.site->crs == "EPSG:25831");
    CHECK(made.label.find("in EPSG:25831") != std::string::npos);
    CHECK(mentions(agsRead(text, "EPSG:25832").file.findings, "FC-SYSTEM", "(EPSG:25831), and is read in EPSG:25832"));
    CHECK_FALSE(mentions(agsRead(text, "EPSG:25831").file.findings, "FC-SYSTEM"));
    CHECK(agsRead(agsWith("\"LOCA_GREF\"", "\"local\""), "").system.empty());
}

TEST_CASE("Holes that have only latitude and longitude are projected", "[systems][import]") {
    const CoordinateChange change("EPSG:4326", "EPSG:25831");
    const auto expected = change.forward({2.7, 55.22});
    const auto text = agsWith("\"LOCA_LAT\",\"LOCA_LON\"", "\"55.22\",\"2.7\"", "\"\",\"\"");
    const auto u = agsRead(text, "EPSG:25831");
    REQUIRE(u.holes.size() == 1);
    REQUIRE(u.holes[0].place());
    CHECK(distance(*u.holes[0].place(), *expected) < 0.001);
    CHECK(mentions(u.file.findings, "FC-SYSTEM", "projected to EPSG:25831"));
    CHECK(mentions(agsRead(text, "").file.findings, "FC-SYSTEM", "set the project's coordinate system"));
    SourceSettings s;
    s.crs = "EPSG:25832"; // of the file's other holes: these go there and on
    CHECK(distance(*agsRead(text, "EPSG:25831", s).holes[0].place(), *expected) < 0.01);
}

TEST_CASE("Holes outside the area of the system are found in AGS files too", "[systems][import]") {
    CHECK_FALSE(mentions(agsRead(agsWith("\"LOCA_TYPE\"", "\"RC\""), "EPSG:25831").file.findings, "FC-SENSE"));
    CHECK(mentions(agsRead(agsWith("\"LOCA_TYPE\"", "\"RC\"", "\"6120100.00\",\"480100.00\""), "EPSG:25831").file.findings,
                   "FC-SWAPPED", "exchanged"));
}

TEST_CASE("Holes that were left in the file at import can be added later", "[import]") {
    const auto u = understood(FOX_DEMO "/phase1_main.ags");
    const auto all = u.holes.size();
    ImportChoices choices;
    choices.holesOut = {u.holes[0].id, u.holes[3].id};
    auto p = importSource(Project(), u, choices).project;
    CHECK(p.holes->size() == all - 2);
    CHECK(settingsBefore(p, "phase1_main.ags").holesOut.size() == 2);
    auto s = p.files->at(0).settings;
    s.holesOut = {u.holes[3].id};
    p = rereadSource(p, "phase1_main.ags", s).project;
    CHECK(p.holes->size() == all - 1);
    CHECK(std::ranges::count(*p.holes, u.holes[0].id, &Hole::id) == 1);
    CHECK(std::ranges::count(*p.holes, u.holes[3].id, &Hole::id) == 0);
    CHECK(p.files->at(0).holes == int(all) - 1);
}

TEST_CASE("Systems are proposed that put a file's coordinates beside the project's data", "[systems]") {
    // a place in two systems
    const Point2 utm{480500, 6120500};
    const auto other = CoordinateChange("EPSG:25831", "EPSG:25832").forward(utm);
    REQUIRE(other);
    const auto found = systemsFitting(*other, {"EPSG:25831", utm, {}, {}});
    REQUIRE_FALSE(found.empty());
    CHECK(found.size() <= 8);
    // every one of them puts it there, the nearest first
    double before = 0;
    for (const auto& s : found) {
        const auto place = CoordinateChange(s.code, "EPSG:25831").forward(*other);
        REQUIRE(place);
        CHECK(distance(*place, utm) <= kNearby * 1100);
        CHECK(distance(*place, utm) >= before - 1);
        before = distance(*place, utm);
    }
    CHECK(distance(*CoordinateChange(found.front().code, "EPSG:25831").forward(*other), utm) < 1);
    SECTION("without a neighbour, what was used before goes first, and nothing is made up") {
        const auto used = systemsFitting({480500, 5620500}, {{}, {}, {}, {"EPSG:32631", "EPSG:25831"}});
        CHECK(codes(used) == std::vector<std::string>{"EPSG:25831", "EPSG:32631"});
        CHECK(systemsFitting(utm, {}).empty());
        CHECK(systemsFitting({1e9, 1e9}, {{}, {}, {}, {"EPSG:25831"}}).empty());
    }
}

TEST_CASE("Where a system is meant to be used is known, with a tenth to spare", "[systems]") {
    const AreaOfUse zone("EPSG:25831"); // 0 to 6 degrees east
    CHECK(zone.holds({480500, 6120500}));
    CHECK_FALSE(zone.holds({6120500, 480500})); // exchanged
    CHECK_FALSE(zone.holds({0, 0}));
    const CoordinateChange toDegrees("EPSG:25831", "EPSG:4326");
    for (const double longitude : {-0.5, 0.0, 3.0, 6.0, 6.5}) {
        const auto p = toDegrees.back({longitude, 55});
        REQUIRE(p);
        CAPTURE(longitude);
        CHECK(zone.holds(*p));
    }
    for (const double longitude : {-2.0, 8.0}) {
        const auto p = toDegrees.back({longitude, 55});
        REQUIRE(p);
        CAPTURE(longitude);
        CHECK_FALSE(zone.holds(*p));
    }
    SECTION("a system that is not known says nothing against any place") {
        CHECK(AreaOfUse("").holds({1e9, -1e9}));
        CHECK(AreaOfUse("EPSG:999999").holds({1e9, -1e9}));
        CHECK(AreaOfUse("no system").holds({0, 0}));
    }
}
