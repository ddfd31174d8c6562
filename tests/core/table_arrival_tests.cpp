// Tables as they arrive: without the trade's headings, in degrees, before or after the file that has their holes.
#include "base/degrees.h"
#include "fixtures.h"
#include "formats/crs.h"
#include "project/json.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

ImportPreview read(const char* name, const std::string& text, const SiteContext& site = "EPSG:25831") {
    return readSource({name, "", text, 0, {}, {}, ""}, site);
}

ColumnRole roleOf(const ImportPreview& u, std::size_t column) {
    return u.file.settings.mappings.at(u.sheets.at(0).name).roles.at(column);
}

const Hole& holeIn(const ImportPreview& u, const std::string& id) {
    const auto at = std::ranges::find(u.holes, id, &Hole::id);
    if (at == u.holes.end()) throw std::runtime_error("no hole " + id);
    return *at;
}

/// An AGS file of project P1 with two holes, of which the second has no place.
std::string agsFile() {
    return "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\",\"PROJ_NAME\"\r\n\"UNIT\",\"\",\"\"\r\n\"TYPE\",\"ID\",\"X\"\r\n"
           "\"DATA\",\"P1\",\"Site\"\r\n\r\n"
           "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\",\"LOCA_FDEP\"\r\n"
           "\"UNIT\",\"\",\"m\",\"m\",\"m\",\"m\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"2DP\",\"2DP\"\r\n"
           "\"DATA\",\"BH1\",\"480500.00\",\"6120400.00\",\"24.00\",\"10.00\"\r\n"
           "\"DATA\",\"BH2\",\"\",\"\",\"\",\"8.00\"\r\n\r\n"
           "\"GROUP\",\"GEOL\"\r\n\"HEADING\",\"LOCA_ID\",\"GEOL_TOP\",\"GEOL_BASE\",\"GEOL_DESC\",\"GEOL_GEOL\"\r\n"
           "\"UNIT\",\"\",\"m\",\"m\",\"\",\"\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"X\",\"PA\"\r\n"
           "\"DATA\",\"BH1\",\"0.00\",\"3.00\",\"CLAY\",\"AL\"\r\n\"DATA\",\"BH1\",\"3.00\",\"10.00\",\"GRAVEL\",\"RG\"\r\n"
           "\"DATA\",\"BH2\",\"0.00\",\"8.00\",\"CLAY\",\"AL\"\r\n";
}

const Hole& inProject(const Project& p, const char* id) {
    const auto at = std::ranges::find(*p.holes, std::string(id), &Hole::id);
    if (at == p.holes->end()) throw std::runtime_error("no hole in the project");
    return *at;
}

} // namespace

TEST_CASE("Degrees are read as they are written", "[base][degrees]") {
    const struct {
        const char* text;
        double degrees;
    } kWritten[] = {{"52.5301", 52.5301},
                    {"-0.125", -0.125},
                    {"52,5301\xC2\xB0", 52.5301},
                    {"52.5301\xC2\xB0 N", 52.5301},
                    {"0.125 W", -0.125},
                    {"S 12 30", -12.5},
                    {"51:28:52.5", 51 + 28 / 60.0 + 52.5 / 3600},
                    {"52\xC2\xB0 31' 48.36\" N", 52.53010},
                    {"52\xC2\xB0 31\xE2\x80\xB2 48,36\xE2\x80\xB3", 52.53010},
                    {"-0:30", -0.5},
                    {" 12 ", 12},
                    {"180", 180}};
    for (const auto& w : kWritten) {
        CAPTURE(w.text);
        const auto read = parseDegrees(w.text);
        REQUIRE(read);
        CHECK(*read == Approx(w.degrees).epsilon(1e-9));
    }
    for (const char* wrong :
         {"", " ", "N", "north", "52.5 30", "52 61", "52 -3", "1 2 3 4", "181", "-12 S", "52 30 60", "12 m", "1x"}) {
        CAPTURE(wrong);
        CHECK_FALSE(parseDegrees(wrong));
    }
}

TEST_CASE("Degrees written in parts are those that they were made of", "[base][degrees][random]") {
    const auto seed = GENERATE(range(1u, 41u));
    std::mt19937 random(seed);
    const int d = int(random() % 180), m = int(random() % 60), s = int(random() % 60);
    const bool west = random() % 2;
    const double value = (west ? -1 : 1) * (d + m / 60.0 + s / 3600.0);
    for (const auto& text :
         {fmt::format("{}\xC2\xB0{}'{}\"{}", d, m, s, west ? "W" : "E"), fmt::format("{}{}:{}:{}", west ? "-" : "", d, m, s),
          fmt::format("{} {} {} {}", west ? "w" : "e", d, m, s), fmt::format("{:.9f}", value)}) {
        CAPTURE(text);
        REQUIRE(parseDegrees(text));
        CHECK(*parseDegrees(text) == Approx(value).margin(1e-8));
    }
}

TEST_CASE("Positions in degrees, with degree signs and decimal commas, are projected to the project's system",
          "[import][degrees]") {
    const CoordinateChange toDegrees("EPSG:25831", "EPSG:4326");
    const auto place = toDegrees.forward({480500, 6120400});
    REQUIRE(place);
    auto written =
        fmt::format("Pit;Latitude;Longitude;Ground level [m]\r\nTP-1;{:.8f}\xC2\xB0;{:.8f}\xC2\xB0;40.2\r\n", place->y, place->x);
    std::ranges::replace(written, '.', ',');
    const auto u = read("pits.csv", written);
    CHECK(roleOf(u, 1) == ColumnRole::Latitude);
    CHECK(roleOf(u, 2) == ColumnRole::Longitude);
    const auto& pit = holeIn(u, "TP-1");
    REQUIRE(pit.place());
    CHECK(pit.place()->x == Approx(480500).margin(0.01));
    CHECK(pit.place()->y == Approx(6120400).margin(0.01));
    CHECK(pit.level->metres == Approx(40.2));
    SECTION("without a system they wait, and it is said") {
        const auto waiting = read("pits.csv", written, "");
        CHECK_FALSE(holeIn(waiting, "TP-1").place());
        REQUIRE(waiting.file.findings.size() == 1);
        CHECK(waiting.file.findings[0].message.find("only latitude and longitude") != std::string::npos);
    }
    SECTION("what is not degrees is said, with its line, and the hole stays without a place") {
        const auto bad = read("pits.csv", "Hole,Lat,Lon\nA,52.1,2.5\nB,152.1,2.5\nC,52.3,2.4\nD,unknown,2.4\n");
        CHECK(holeIn(bad, "A").place());
        CHECK_FALSE(holeIn(bad, "B").place());
        CHECK_FALSE(holeIn(bad, "D").place());
        const auto about =
            std::ranges::count_if(bad.file.findings, [](const Finding& f) { return f.severity == Severity::Error; });
        CHECK(about == 2);
        CHECK(bad.file.findings[0].line == 3);
        CHECK(bad.file.findings[0].hole == "B");
    }
    SECTION("an easting and northing go before them") {
        const auto both = read("pits.csv", "Hole,Easting,Northing,Lat,Lon\nA,480900,6120500,52.1,2.5\n");
        CHECK(holeIn(both, "A").place()->x == 480900);
    }
}

TEST_CASE("A title and a header are passed over too where the columns are named", "[formats][table]") {
    const auto rowsOf = [](const char* text, std::vector<std::string> columns) {
        return readTable(text, "t", std::move(columns)).rows;
    };
    const std::vector<std::string> names{"point", "northing", "easting", "level"};
    const auto both =
        rowsOf("Tops read off the old map\n\nNr\tY\tX\tTop\n1\t5824059\t323206\t27.7\n2\t5823490\t322829\t22.8\n", names);
    REQUIRE(both.size() == 2); // the header was once a row that is not numbers
    CHECK(both[0].line == 4);
    CHECK(rowsOf("Survey, lot 2\n1\t5824059\t323206\t27.7\n", names).size() == 1);
    CHECK(rowsOf("Nr\tY\tX\tTop\n1\t5824059\t323206\t27.7\n", names).size() == 1);
    CHECK(rowsOf("1\t5824059\t323206\t27.7\n2\t5823490\t322829\t22.8\n", names).size() == 2);
    CHECK(rowsOf("7,,,\n1,5824059,323206,27.7\n2,5823490,322829,22.8\n", names).size() == 3); // a number that is not used stays
}

TEST_CASE("Contacts under a title and a header are read the same a second time", "[import][contacts]") {
    const std::string text = "Tops read off the old map\n\nNr\tY\tX\t\tTop\tFormation\n"
                             "1\t6120400\t480500\t\t22.5\tRG\n2\t6120480\t480610\t\t22.9\tRG\n3\t6120530\t480720\t\t23.1\tRG\n"
                             "4\t6120570\t480550\t\t22.7\tRG\n5\t6120420\t480690\t\t22.8\tRG\n";
    const auto first = read("tops.tsv", text);
    REQUIRE(first.contacts);
    CHECK(first.contacts->points.size() == 5);
    CHECK(first.file.findings.empty());
    const auto second = readSource(first.file, "EPSG:25831");
    REQUIRE(second.contacts);
    CHECK(second.contacts->points == first.contacts->points);
    CHECK(second.file.findings.empty());
}

TEST_CASE("A hole, a date and a number are water levels, whatever their headings", "[import][table]") {
    const auto u = read("readings.csv",
                        "Bohrung;Datum;Abstich [m]\r\nBH1;03.02.2024;1,71\r\nBH1;04.03.2024;1,92\r\nBH2;03.02.2024;0,88\r\n");
    CHECK(roleOf(u, 0) == ColumnRole::HoleId);
    CHECK(roleOf(u, 1) == ColumnRole::MeasuredAt);
    CHECK(roleOf(u, 2) == ColumnRole::WaterLevel);
    CHECK(holeIn(u, "BH1").waterLevels.size() == 2);
    CHECK(holeIn(u, "BH1").intervals.empty()); // it was once taken for the top of a unit called Abstich
    CHECK(holeIn(u, "BH2").waterLevels.at(0).depth.metres == Approx(0.88));
}

TEST_CASE("Numbers without a name are tops of units only where depths rise along the row", "[import][table]") {
    SECTION("two and more that rise are") {
        const auto u = read("tops.csv", "Well,Drift,Chalk,Clay\nW1,0,4.5,31\nW2,0,,29\nW3,0,6,35.5\n");
        CHECK(roleOf(u, 1) == ColumnRole::UnitTop);
        CHECK(holeIn(u, "W1").intervals.size() == 3);
    }
    SECTION("a single one is not") {
        const auto u = read("one.csv", "Well,Index\nW1,4.5\nW2,9\n");
        CHECK(roleOf(u, 1) == ColumnRole::Ignored);
        CHECK(u.sheets.size() == 1);
    }
    SECTION("those that fall are not") {
        const auto u = read("chemistry.csv", "Well,Chloride,Sulphate\nW1,45,12\nW2,60,25\nW3,38,14\n");
        CHECK(roleOf(u, 1) == ColumnRole::Ignored);
        CHECK(roleOf(u, 2) == ColumnRole::Ignored);
    }
    SECTION("several beside a date are no water levels") {
        const auto u = read("lab.csv", "Well,Date,Chloride,Sulphate\nW1,2024-02-03,45,12\nW2,2024-02-03,60,25\n");
        CHECK(roleOf(u, 1) == ColumnRole::MeasuredAt);
        CHECK(roleOf(u, 2) == ColumnRole::Ignored);
    }
}

TEST_CASE("An AGS file brings the holes that only a table knew; they stay one hole, whichever came first", "[import][names]") {
    const std::string table = "Hole,Easting,Northing,Level\nBH2,480700,6120500,25.5\nBH9,480800,6120600,26\n";
    const auto start = setSystem({}, "25831").project;
    auto tableFirst = importSource(start, read("planned.csv", table)).project;
    REQUIRE(tableFirst.holes->size() == 2);
    const auto u = readSource({"site.ags", "", agsFile(), 0, {}, {}, ""}, SiteContext(tableFirst));
    const auto changes = changesBy(tableFirst, u);
    REQUIRE(changes.size() == 2);
    CHECK(changes[0].kind == HoleChange::Kind::New);
    CHECK(changes[1].kind == HoleChange::Kind::Changed);
    CHECK(changes[1].joins);
    REQUIRE_FALSE(changes[1].facts.empty());
    CHECK(changes[1].facts[0] == "planned.csv knew it so far");
    tableFirst = importSource(tableFirst, u).project;
    REQUIRE(tableFirst.holes->size() == 3);
    const auto& joined = inProject(tableFirst, "BH2");
    CHECK(joined.project == "P1");
    CHECK(joined.file == "site.ags");
    CHECK(displayName(*tableFirst.holes, joined) == "BH2");
    CHECK(joined.intervals.size() == 1);
    REQUIRE(joined.place()); // which the AGS file does not say
    CHECK(*joined.place() == Point2{480700, 6120500});

    auto agsFirst = importSource(start, read("site.ags", agsFile())).project;
    agsFirst = importSource(agsFirst, readSource({"planned.csv", "", table, 0, {}, {}, ""}, SiteContext(agsFirst)),
                            {ImportChoices::Existing::Update, false, ""})
                   .project;
    REQUIRE(agsFirst.holes->size() == 3);
    for (const char* id : {"BH1", "BH2", "BH9"}) {
        CAPTURE(id);
        const auto &a = inProject(tableFirst, id), &b = inProject(agsFirst, id);
        CHECK(a.place() == b.place());
        CHECK(a.level == b.level);
        CHECK(a.finalDepth == b.finalDepth);
        CHECK(a.intervals.size() == b.intervals.size());
        CHECK(displayName(*tableFirst.holes, a) == displayName(*agsFirst.holes, b));
    }
    SECTION("read again, the file keeps what the table said of its holes") {
        const auto again = rereadSource(tableFirst, "site.ags", {}).project;
        CHECK(inProject(again, "BH2").place() == joined.place());
        CHECK(again.holes->size() == 3);
    }
    SECTION("the next issue of the AGS file finds them too") {
        auto next = agsFile();
        next.replace(next.find("\"8.00\"\r\n\r\n"), 6, "\"9.00\"");
        const auto issue = readSource({"site.ags", "", next, 0, {}, {}, ""}, SiteContext(tableFirst));
        CHECK(earlierIssue(tableFirst, issue));
        const auto after = importSource(tableFirst, issue, {ImportChoices::Existing::Update, false, ""}).project;
        CHECK(after.holes->size() == 3);
        CHECK(inProject(after, "BH2").finalDepth->metres == 9);
        CHECK(inProject(after, "BH2").place() == joined.place());
    }
    SECTION("a well that only its log told of keeps the log") {
        const std::string las = "~V\nVERS. 2.0:\nWRAP. NO:\n~W\nSTRT.M 0:\nSTOP.M 2:\nSTEP.M 1:\nNULL. -999.25:\nWELL. BH1:\n"
                                "~C\nDEPT.M:\nGR.API:\n~A\n0 10\n1 20\n2 30\n";
        const auto logFirst = importSource(start, read("bh1.las", las)).project;
        REQUIRE(logFirst.holes->size() == 1);
        const auto both =
            importSource(logFirst, readSource({"site.ags", "", agsFile(), 0, {}, {}, ""}, SiteContext(logFirst))).project;
        CHECK(both.holes->size() == 2);
        const auto& well = inProject(both, "BH1");
        CHECK(well.project == "P1");
        CHECK(well.curves.size() == 1);
        CHECK(well.intervals.size() == 2);
        CHECK(well.finalDepth->metres == 10); // the log's end is no end of the hole
        CHECK(both.files->size() == 2);
    }
    SECTION("a table that says its project knows holes of that project alone") {
        const auto own =
            importSource(start, read("planned.csv", "Project,Hole,Easting,Northing\nP7,BH2,480700,6120500\n")).project;
        const auto after = importSource(own, readSource({"site.ags", "", agsFile(), 0, {}, {}, ""}, SiteContext(own))).project;
        CHECK(after.holes->size() == 3);
    }
    SECTION("a hole of another project with this id is another hole") {
        auto other = agsFile();
        other.replace(other.find("\"P1\""), 4, "\"P2\"");
        const auto second =
            importSource(tableFirst, readSource({"other.ags", "", other, 0, {}, {}, ""}, SiteContext(tableFirst))).project;
        CHECK(second.holes->size() == 5);
    }
}

TEST_CASE("A column called water level has levels where the ground tells so, else depths, and that is said",
          "[import][table][water]") {
    const auto read = [](const std::string& text) {
        SourceFile file;
        file.name = "wells.csv", file.bytes = text;
        return readSource(std::move(file), SiteContext(""));
    };
    const auto levels = read("Hole,Easting,Northing,Ground level,Date,Water level\nW1,480500,6120400,24.10,2026-03-01,21.90\n"
                             "W2,480560,6120400,25.00,2026-03-01,22.40\n");
    REQUIRE(levels.holes.size() == 2);
    CHECK(levels.holes[0].waterLevels.at(0).depth.metres == Approx(2.2));
    CHECK(levels.holes[0].waterLevels.at(0).given == "level 21.90");
    CHECK(mentions(levels.file.findings, "FC-TABLE", "read as levels: 21.90 m in W1 is water 2.20 m below ground"));
    const auto partly = read("Hole,Easting,Northing,Ground level,Date,Water level\nW1,480500,6120400,24.10,2026-03-01,21.90\n"
                             "W2,480560,6120400,,2026-03-01,22.40\n");
    REQUIRE(partly.holes.size() == 2);
    CHECK(partly.holes[0].waterLevels.size() == 1);
    CHECK(partly.holes[1].waterLevels.empty()); // not as depths, and not in silence
    CHECK(mentions(partly.file.findings, "FC-TABLE", "can't be turned into depths"));
    const auto depths = read("Hole,Easting,Northing,Ground level,Date,Water level\nW1,480500,6120400,24.10,2026-03-01,2.20\n");
    CHECK(depths.holes.at(0).waterLevels.at(0).depth.metres == 2.2);
    CHECK(mentions(depths.file.findings, "FC-TABLE", "read as depths below ground"));
    const auto unknown = read("Hole,Date,Water level\nW1,2026-03-01,2.20\n");
    CHECK(unknown.holes.at(0).waterLevels.at(0).depth.metres == 2.2);
    CHECK(mentions(unknown.file.findings, "FC-TABLE", "name the holes' ground levels"));
    const auto named = read("Hole,Easting,Northing,Ground level,Date,Depth to water\nW1,480500,6120400,24.10,2026-03-01,21.90\n");
    CHECK(named.holes.at(0).waterLevels.at(0).depth.metres == 21.9);
    CHECK_FALSE(mentions(named.file.findings, "FC-TABLE", "is read as"));
}
