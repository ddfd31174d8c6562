// Units of columns: what headings say of them, and that no length is taken in another unit in silence.
#include "base/length_unit.h"
#include "fixtures.h"
#include "holes/table_holes.h"
#include "project/json.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

ImportPreview read(const std::string& text, SourceSettings s = {}) {
    return readSource({"rows.csv", "", text, 0, {}, std::move(s), ""}, "EPSG:25831");
}

std::string words(const Findings& findings) {
    std::string out;
    for (const auto& f : findings) out += f.message + "\n";
    return out;
}

constexpr double kUsFoot = 1200.0 / 3937;

} // namespace

TEST_CASE("A heading is taken apart into name and unit", "[units]") {
    const std::tuple<const char*, const char*, const char*> cases[] = {{"Level (ft)", "Level", "ft"},
                                                                       {"Depth [m bgl]", "Depth", "m bgl"},
                                                                       {"depth_m", "depth", "m"},
                                                                       {"Ground level", "Ground level", ""},
                                                                       {"Top m", "Top", "m"},
                                                                       {"Easting (US survey ft)", "Easting", "US survey ft"},
                                                                       {"z", "z", ""},
                                                                       {"", "", ""},
                                                                       {"  E (m)  ", "E", "m"},
                                                                       {"Dip (deg)", "Dip", "deg"},
                                                                       {"Level (ft", "Level", "ft"},
                                                                       {"LOCA_GL", "LOCA_GL", ""}};
    for (const auto& [heading, name, unit] : cases) {
        CAPTURE(heading);
        CHECK(headingWithUnit(heading).name == name);
        CHECK(headingWithUnit(heading).unit == unit);
    }
}

TEST_CASE("Units of length are known in the spellings that are used", "[units]") {
    const std::pair<const char*, double> cases[] = {
        {"m", 1},          {"M", 1},           {"metres", 1}, {"ft", 0.3048},     {"Ft.", 0.3048},
        {"feet", 0.3048},  {"ft bgl", 0.3048}, {"m OD", 1},   {"us-ft", kUsFoot}, {"US survey feet", kUsFoot},
        {"ftUS", kUsFoot}, {"mm", 0.001}};
    for (const auto& [word, metres] : cases) {
        CAPTURE(word);
        REQUIRE(lengthUnitNamed(word));
        CHECK(lengthUnitNamed(word)->metres == Approx(metres).epsilon(1e-15));
    }
    for (const char* word : {"", "deg", "kPa", "fathoms", "mAmp"}) CHECK_FALSE(lengthUnitNamed(word));
    for (const char* word : {"deg", "Degrees", "\u00b0"}) CHECK(isDegrees(word));
    CHECK_FALSE(isDegrees("m"));
    for (const auto& unit : lengthUnits()) CHECK(lengthUnitNamed(unit.key) == &unit);
}

TEST_CASE("Levels in feet beside coordinates in metres are converted, column by column, and it is said", "[units][import]") {
    const auto u = read("Point,Easting (m),Northing (m),Level (ft),Code\n1,480100,6120100,100,GL\n2,480200,6120150,110,GL\n");
    REQUIRE(u.survey);
    CHECK(u.survey->points[0].place == Point3{480100, 6120100, 100 * 0.3048});
    CHECK(u.survey->points[1].place.z == Approx(110 * 0.3048).epsilon(1e-15));
    CHECK(words(u.file.findings).find("levels at 0.3048 m") != std::string::npos);
    SECTION("the same by an order that is chosen, before the unit of the whole file") {
        SourceSettings s;
        s.columns = {"point", "easting", "northing", "level (us-ft)", "code"};
        s.unit = 0.3048;
        const auto chosen = read("1,480100,6120100,100,GL\n2,480200,6120150,110,GL\n", s);
        CHECK(chosen.survey->points[0].place.x == Approx(480100 * 0.3048).epsilon(1e-15));
        CHECK(chosen.survey->points[0].place.z == Approx(100 * kUsFoot).epsilon(1e-15));
    }
    SECTION("metres throughout are not spoken of") {
        CHECK(read("Easting (m),Northing (m),Level (m)\n480100,6120100,10\n480200,6120150,11\n").file.findings.empty());
    }
}

TEST_CASE("Each column of a table of holes has its unit", "[units][import]") {
    const std::string text = "Hole,Easting (ft),Northing (ft),GL (m),Top (ft),Base (mm),Unit\nBH1,1000,2000,12.5,0,3048,MG\n";
    const auto u = read(text);
    REQUIRE(u.holes.size() == 1);
    const auto& h = u.holes[0];
    CHECK(*h.easting == Approx(304.8));
    CHECK(*h.northing == Approx(609.6));
    CHECK(h.level->metres == 12.5);
    REQUIRE(h.intervals.size() == 1);
    CHECK(h.intervals[0].base.metres == Approx(3.048));
    const auto& mapping = u.file.settings.mappings.begin()->second;
    CHECK(mapping.units == std::vector<std::string>{"", "ft", "ft", "m", "ft", "mm", ""});
    SECTION("a choice goes before the heading") {
        auto s = u.file.settings;
        s.mappings.begin()->second.units[5] = "cm";
        CHECK(read(text, s).holes[0].intervals[0].base.metres == Approx(30.48));
    }
    SECTION("choices are kept; those of earlier versions, which were for the whole table, are read") {
        CHECK(settingsOf(toJson(u.file.settings)) == u.file.settings);
        auto earlier = toJson(u.file.settings);
        auto& table = earlier["tables"].begin().value();
        table.erase("units");
        table["feet"] = true;
        CHECK(settingsOf(earlier).mappings.begin()->second.units == std::vector<std::string>{"", "", "", "ft", "ft", "ft", ""});
    }
}

TEST_CASE("A corrected cell stands in the unit of its column, and reads the same again", "[units][corrections]") {
    auto p =
        importSource({}, read("Hole,Easting,Northing,GL (ft),Top (m),Base (m),Unit\nBH1,480100,6120100,100,0,3,MG\n")).project;
    p = setHoleLevel(p, "BH1", Level{21}).project;
    REQUIRE(p.corrections->size() == 1);
    CHECK(p.corrections->at(0).before == "100.0000");
    CHECK(p.corrections->at(0).after == "68.8976");
    const auto again = rereadSource(p, "rows.csv", p.files->at(0).settings).project;
    CHECK(again.holes->at(0).level->metres == Approx(21).margin(1e-4));
}

TEST_CASE("Levels and depths in degrees are refused with a word", "[units][import]") {
    const auto u = read("Hole,Easting,Northing,Ground level (deg),Top (m),Base (m),Unit\nBH1,480100,6120100,12.5,0,3,MG\n");
    REQUIRE(u.holes.size() == 1);
    CHECK_FALSE(u.holes[0].level);
    CHECK(words(u.file.findings).find("Ground level (deg) is in degrees") != std::string::npos);
    CHECK(std::ranges::any_of(u.file.findings, [](const Finding& f) { return f.severity == Severity::Error; }));
}

TEST_CASE("Depths of contacts in feet are converted", "[units][contacts]") {
    const auto u = read("Hole,Depth (ft),Unit\nBH1,10,MG\nBH2,20,MG\n");
    if (u.contacts) {
        CHECK(u.contacts->points[0].depth.metres == Approx(3.048));
    } else {
        REQUIRE(u.holes.size() == 2);
        CHECK(u.holes[0].intervals.front().top.metres == Approx(3.048));
    }
    SourceSettings s;
    s.as = SourceSettings::As::Contacts;
    const auto asked = read("Hole,Depth (ft),Unit\nBH1,10,MG\nBH2,20,MG\n", s);
    REQUIRE(asked.contacts);
    CHECK(asked.contacts->points[1].depth.metres == Approx(6.096));
}

TEST_CASE("Dips with dates come from a table, in any order of its columns", "[water][import]") {
    const auto u = read("Date;Bohrloch;Well;Depth to water (ft)\n2025-03-04;x;W1;10\n2025-04-04;x;W1;11\n;x;W2;5\n");
    REQUIRE(u.holes.size() == 2);
    REQUIRE(u.holes[0].waterLevels.size() == 2);
    CHECK(u.holes[0].waterLevels[1].measured == "2025-04-04");
    CHECK(u.holes[0].waterLevels[1].depth.metres == Approx(11 * 0.3048));
    CHECK(words(u.file.findings).find("no date") != std::string::npos);
    CHECK(u.tables[0].feeds.find("water levels") != std::string::npos);
    SECTION("a column called dip beside a date is the water's; beside an azimuth it is a direction") {
        CHECK(read("Well,Date,Dip\nW1,2025-03-04,3.5\n").holes[0].waterLevels.size() == 1);
        const auto path = read("Hole,Depth,Dip,Azimuth\nBH1,0,60,120\n");
        REQUIRE(path.holes.size() == 1);
        CHECK(path.holes[0].waterLevels.empty());
        CHECK(path.holes[0].stations.size() == 1);
    }
    SECTION("later readings join those that are there") {
        auto p = importSource({}, u).project;
        ImportChoices update;
        update.existing = ImportChoices::Existing::Update;
        const auto later = readSource({"later.csv",
                                       "",
                                       std::string("Well,Date,Depth to water (m)\nW1,2025-04-04,3.30\nW1,2025-05-04,3.10\n"),
                                       0,
                                       {},
                                       {},
                                       ""},
                                      SiteContext(p));
        p = importSource(p, later, update).project;
        const auto& levels = findHole(*p.holes, "W1")->waterLevels;
        CHECK(levels.size() == 4); // another value of the same day is another reading
        CHECK(*importSource(p, later, update).project.holes == *p.holes);
    }
}
