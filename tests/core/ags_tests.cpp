#include "fixtures.h"
#include "formats/ags.h"
#include "formats/ags_row.h"
#include "holes/ags_holes.h"
#include "holes/hole_checks.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

const std::string kHead4 =
    "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\",\"LOCA_FDEP\"\r\n\"UNIT\",\"\",\"m\","
    "\"m\",\"m\",\"m\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"2DP\",\"2DP\"\r\n";
const std::string kGeol4 = "\r\n\"GROUP\",\"GEOL\"\r\n\"HEADING\",\"LOCA_ID\",\"GEOL_TOP\",\"GEOL_BASE\",\"GEOL_DESC\",\"GEOL_"
                           "GEOL\"\r\n\"UNIT\",\"\",\"m\",\"m\",\"\",\"\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"X\",\"PA\"\r\n";

AgsFile read(const std::string& text) { return readAgs(text, "test.ags"); }
AgsHoles holes(const std::string& text) { return holesOf(read(text)); }

} // namespace

TEST_CASE("An AGS 4 group keeps cells as written, with line numbers", "[formats]") {
    const auto file = read(kHead4 + "\"DATA\",\"BH01\",\"10.50\",\"20.00\",\"5.00\",\"12.00\"\r\n");
    const auto* loca = file.group("LOCA");
    REQUIRE(loca);
    CHECK(loca->headings.size() == 5);
    CHECK(loca->units[1] == "m");
    CHECK(loca->types[0] == "ID");
    CHECK(loca->rows.at(0).line == 5);
    CHECK(loca->cell(0, *loca->column("loca_nate")) == "10.50");
    CHECK(file.findings.empty());
    CHECK(file.edition == AgsEdition::Ags4);
}

TEST_CASE("Doubled quotes, commas and empty cells survive", "[formats]") {
    const auto file = read(kGeol4.substr(2) + "\"DATA\",\"BH01\",\"0.00\",\"1.00\",\"CLAY, \"\"firm\"\", grey\",\"\"\r\n");
    CHECK(file.group("GEOL")->cell(0, 3) == "CLAY, \"firm\", grey");
    CHECK(file.group("GEOL")->cell(0, 4).empty());
    CHECK(file.findings.empty());
}

TEST_CASE("What is not AGS is refused in a sentence", "[formats]") {
    CHECK_THROWS_WITH(read(""), Catch::Contains("is empty"));
    CHECK_THROWS_WITH(read(" \r\n\r\n"), Catch::Contains("is empty"));
    CHECK_THROWS_WITH(read("easting,northing\n1,2\n"), Catch::Contains("test.ags is not an AGS file"));
    CHECK_THROWS_WITH(read(std::string(1000, '\0')), Catch::Contains("is not an AGS file"));
}

TEST_CASE("Awkward rows are read and said with the line", "[formats]") {
    const auto bad = [](const std::string& row) { return read(kHead4 + row); };
    SECTION("a missing quote") {
        const auto file = bad("\"DATA\",\"BH01,\"10.50\",\"20.00\",\"5.00\",\"12.00\"\r\n");
        CHECK(file.group("LOCA")->cell(0, 0) == "BH01");
        CHECK(file.group("LOCA")->cell(0, 4) == "12.00");
        REQUIRE(mentions(file.findings, "AGS4 Rule 5", "quotation mark is missing"));
        CHECK(file.findings.front().line == 5);
    }
    SECTION("a file that ends in the middle of a row") {
        const auto file = bad("\"DATA\",\"BH01\",\"10.50\",\"20.0");
        CHECK(file.group("LOCA")->rows.size() == 1);
        CHECK(mentions(file.findings, "AGS4 Rule 5", "cut short"));
        CHECK(mentions(file.findings, "AGS4 Rule 4b"));
    }
    SECTION("a line break inside a field") {
        const auto file =
            bad("\"DATA\",\"BH\r\n01\",\"10.50\",\"20.00\",\"5.00\",\"12.00\"\r\n\"DATA\",\"BH02\",\"1\",\"2\",\"3\",\"4\"\r\n");
        CHECK(file.group("LOCA")->cell(0, 0) == "BH 01");
        REQUIRE(file.group("LOCA")->rows.size() == 2);
        CHECK(file.group("LOCA")->rows[1].line == 7);
        CHECK(mentions(file.findings, "AGS4 Rule 6", "1 line break inside a field"));
    }
    SECTION("semicolons, single quotes, lower case, LF alone: once each with a count") {
        auto text =
            std::string("\"GROUP\";\"loca\"\n\"HEADING\";\"loca_id\";\"loca_gl\"\n\"data\";\"A\";\"1\"\n'DATA','B','2'\n");
        const auto file = read(text);
        REQUIRE(file.group("LOCA")->rows.size() == 2);
        CHECK(file.group("LOCA")->cell(1, 1) == "2");
        CHECK(mentions(file.findings, "AGS4 Rule 2a", "4 lines"));
        CHECK(std::ranges::count(file.findings, "AGS4 Rule 2a", &Finding::rule) == 1);
        CHECK(mentions(file.findings, "AGS4 Rule 6", "another separator"));
    }
    SECTION("too few and too many fields") {
        const auto file = bad("\"DATA\",\"BH01\",\"1\"\r\n\"DATA\",\"BH02\",\"1\",\"2\",\"3\",\"4\",\"5\"\r\n");
        CHECK(std::ranges::count(file.findings, "AGS4 Rule 4b", &Finding::rule) == 2);
        CHECK(file.group("LOCA")->cell(0, 4).empty());
    }
    SECTION("a word that no row begins with") {
        const auto file = bad("\"DATE\",\"BH01\",\"1\",\"2\",\"3\",\"4\"\r\n");
        CHECK(mentions(file.findings, "AGS4 Rule 3", "\"DATE\""));
    }
    SECTION("a group in two pieces, the second with another heading") {
        const auto file = read(kHead4
                               + "\"DATA\",\"BH01\",\"1\",\"2\",\"3\",\"4\"\r\n\r\n\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\","
                                 "\"LOCA_REM\"\r\n\"DATA\",\"BH02\",\"wet\"\r\n");
        const auto* loca = file.group("LOCA");
        REQUIRE(loca->rows.size() == 2);
        CHECK(loca->cell(1, 0) == "BH02");
        CHECK(loca->cell(1, *loca->column("LOCA_REM")) == "wet");
        CHECK(loca->cell(0, *loca->column("LOCA_FDEP")) == "4");
    }
    SECTION("a byte-order mark and Latin-1") {
        const auto file = read("\xEF\xBB\xBF" + kHead4 + "\"DATA\",\"Q\xFC\",\"1\",\"2\",\"3\",\"4\"\r\n");
        CHECK(file.group("LOCA")->cell(0, 0) == "Q\xC3\xBC");
        CHECK(mentions(file.findings, "AGS4 Rule 1", "byte-order mark"));
        CHECK(mentions(file.findings, "AGS4 Rule 1", "Latin-1"));
    }
}

TEST_CASE("AGS 3 headings run on, units are units, CONT adds to the row above", "[formats]") {
    const auto file = read("\"**PROJ\"\r\n\"*PROJ_ID\",\"*PROJ_AGS\"\r\n\"P1\",\"3.1\"\r\n\r\n\"**GEOL\"\r\n\"*HOLE_ID\",\"*GEOL_"
                           "TOP\",\r\n\"*GEOL_BASE\",\"*?GEOL_ODD\",\"*GEOL_DESC\"\r\n\"<UNITS>\",\"m\",\"m\",\"\",\"\"\r\n"
                           "\"BH1\",\"0.00\",\"2.10\",\"\",\"Soft grey \"\r\n\"<CONT>\",\"\",\"\",\"x\",\"CLAY with "
                           "\"\r\n\"<CONT>\",\"\",\"\",\"\",\"shells\"\r\n\"BH1\",\"2.10\",\"3.00\",\"\",\"SAND\"\r\n");
    CHECK(file.edition == AgsEdition::Ags3);
    CHECK(file.version == "3.1");
    const auto* geol = file.group("GEOL");
    REQUIRE(geol);
    CHECK(geol->headings == std::vector<std::string>{"HOLE_ID", "GEOL_TOP", "GEOL_BASE", "?GEOL_ODD", "GEOL_DESC"});
    CHECK(geol->units[1] == "m");
    REQUIRE(geol->rows.size() == 2);
    CHECK(geol->rows[0].line == 9);
    CHECK(geol->cell(0, 4) == "Soft grey CLAY with shells");
    CHECK(geol->cell(0, 3) == "x");
    CHECK(file.findings.empty());
}

TEST_CASE("Cutting and mangling an AGS file never crashes and never loses a line's place", "[formats][fuzz]") {
    const auto original = readBytes(GENERATE(as<std::string>{}, FOX_DEMO "/phase1_main.ags", FOX_DEMO "/phase2_river.ags"));
    const int lines = int(std::ranges::count(original, '\n')) + 2;
    std::mt19937 random(4);
    int read = 0, refused = 0;
    for (int round = 0; round < 150; ++round) {
        auto text = original.substr(0, 12000);
        for (unsigned k = 0, changes = 1 + random() % 12; k < changes; ++k) {
            const auto at = random() % text.size();
            switch (random() % 5) {
            case 0: text[at] = "\"',;\n\r\t<>*"[random() % 10]; break;
            case 1: text.erase(at, random() % 40); break;
            case 2: text.insert(at, text.substr(random() % text.size(), random() % 60)); break;
            case 3: text[at] = char(random()); break;
            case 4: text.resize(std::max<std::size_t>(1, at)); break;
            }
        }
        try {
            const auto file = readAgs(text, "mangled.ags");
            const auto content = holesOf(file);
            for (const auto& f : file.findings) REQUIRE((f.line >= 0 && f.line <= lines + 60));
            for (const auto& g : file.groups) REQUIRE(g.cells.size() == g.rows.size() * g.headings.size());
            ++read;
        } catch (const FileError&) {
            ++refused;
        }
    }
    CHECK(read > 50);
}

TEST_CASE("Holes are read with places, paths, intervals and blow counts", "[holes]") {
    const auto read = holes(readBytes(FOX_DEMO "/phase1_main.ags"));
    CHECK(read.project == "QB19");
    REQUIRE(read.holes.size() == 28);
    const auto inclined = std::ranges::find(read.holes, "QB128", &Hole::id);
    REQUIRE(inclined->stations.size() == 1);
    CHECK(inclined->stations[0].inclination == 65);
    CHECK(inclined->stations[0].azimuth == 190);
    CHECK(read.holes.front().intervals.front().codes.at("GEOL_GEOL") == "TS");
    CHECK_FALSE(read.holes.front().blowCounts.empty());
    CHECK(read.codeNames.at("RG") == "River Gravel");
    CHECK(read.findings.empty());
}

TEST_CASE("Odd numbers and rows are findings that name file, line and hole", "[holes]") {
    SECTION("text in number columns") {
        const auto read = holes(kHead4 + "\"DATA\",\"BH01\",\"N/A\",\"20.00\",\"5.00m\",\"-\"\r\n" + kGeol4);
        const auto& h = read.holes.at(0);
        CHECK_FALSE(h.easting);
        CHECK(h.level == Level{5});
        CHECK_FALSE(h.finalDepth);
        CHECK(mentions(read.findings, "AGS4 Rule 8", "\"N/A\""));
        CHECK(mentions(read.findings, "AGS4 Rule 8", "5.00m"));
        CHECK(read.findings.back().file == "test.ags");
        CHECK(std::ranges::all_of(read.findings,
                                  [](const Finding& f) { return f.rule == "FC-LOG" || (f.line == 5 && f.hole == "BH01"); }));
    }
    SECTION("two holes of one name") {
        const auto read =
            holes(kHead4 + "\"DATA\",\"BH01\",\"1\",\"2\",\"3\",\"4\"\r\n\"DATA\",\"BH01\",\"5\",\"6\",\"7\",\"8\"\r\n" + kGeol4
                  + "\"DATA\",\"BH01\",\"0\",\"1\",\"\",\"A\"\r\n");
        REQUIRE(read.holes.size() == 2);
        CHECK(read.holes[1].id == "BH01 #2");
        CHECK(read.holes[0].intervals.size() == 1);
        CHECK(mentions(read.findings, "AGS4 Rule 10a", "lines 5 and 6"));
    }
    SECTION("no geology, and rows of a hole that is not there") {
        const auto read = holes(kHead4 + "\"DATA\",\"BH01\",\"1\",\"2\",\"3\",\"4\"\r\n" + kGeol4
                                + "\"DATA\",\"BH99\",\"0\",\"1\",\"\",\"A\"\r\n");
        CHECK(mentions(read.findings, "AGS4 Rule 10c", "BH99"));
        const auto none = holes(kHead4 + "\"DATA\",\"BH01\",\"1\",\"2\",\"3\",\"4\"\r\n");
        CHECK(mentions(none.findings, "FC-LOG"));
    }
    SECTION("no group of places") {
        const auto read = holes(kGeol4.substr(2) + "\"DATA\",\"BH01\",\"0\",\"1\",\"\",\"A\"\r\n");
        CHECK(read.holes.empty());
        CHECK(mentions(read.findings, "AGS4 Rule 10c", "lists no holes"));
    }
}

TEST_CASE("Faults of sense are found in the demo's holes, each with its line", "[holes]") {
    const auto findings = checkHoles(*demo().project.holes);
    const auto of = [&](const char* rule) { return std::ranges::find(findings, rule, &Finding::rule); };
    REQUIRE(of("FC-PLACE") != findings.end());
    CHECK(of("FC-PLACE")->hole == "QB123");
    CHECK(of("FC-LEVEL")->hole == "QB116");
    CHECK(of("FC-UPSIDE-DOWN")->hole == "QB118");
    const auto text = readBytes(FOX_DEMO "/phase1_main.ags");
    const auto line = split(text, '\n').at(std::size_t(of("FC-UPSIDE-DOWN")->line) - 1);
    CHECK(std::string(line).starts_with("\"DATA\",\"QB118\""));
}

TEST_CASE("A hole's kind, words and fullest code column", "[holes]") {
    Hole pit;
    pit.type = "TP";
    CHECK(kindOf(pit) == HoleKind::Dug);
    CHECK(typeInWords("RC") == "rotary cored");
    CHECK(typeInWords("ZZ") == "ZZ");
    auto h = hole("A", 0, 0, 0, {{1, "X"}, {2, "Y"}});
    h.intervals[0].codes["GEOL_LEG"] = h.intervals[1].codes["GEOL_LEG"] = "101";
    h.intervals[1].codes.erase("GEOL_GEOL");
    const auto headings = unitHeadings({h});
    REQUIRE(headings.size() == 2);
    CHECK(headings[0].heading == "GEOL_LEG"); // full, where the usual column is half empty
    CHECK(headings[0].filled == 1);
}
