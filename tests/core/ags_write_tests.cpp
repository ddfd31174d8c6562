// Changed cells, conversion from edition 3, and files of one's own.
#include "fixtures.h"
#include "formats/ags_build.h"
#include "formats/ags_changes.h"
#include "formats/ags_check.h"
#include "formats/ags_convert.h"
#include "handover/ags_export.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

std::string phase1() { return readBytes(FOX_DEMO "/phase1_main.ags"); }
std::string phase2() { return readBytes(FOX_DEMO "/phase2_river.ags"); }

/// Lines that differ between two texts of the same number of lines.
int differing(const std::string& a, const std::string& b) {
    const auto x = split(a, '\n'), y = split(b, '\n');
    REQUIRE(x.size() == y.size());
    int n = 0;
    for (std::size_t i = 0; i < x.size(); ++i) n += x[i] != y[i];
    return n;
}

} // namespace

TEST_CASE("Only the rows of changed cells change", "[ags][write]") {
    const auto bytes = phase1();
    const auto file = readAgs(bytes, "p.ags");
    const auto line = file.group("LOCA")->rows[3].line;
    CHECK(withChanges(bytes, "p.ags", {}) == bytes);
    const auto changed = withChanges(bytes, "p.ags", {{line, "LOCA_GL", "12.34"}, {line, "LOCA_REM", "say \"yes\""}});
    const auto again = readAgs(changed, "p.ags");
    CHECK(again.group("LOCA")->cell(3, *again.group("LOCA")->column("LOCA_GL")) == "12.34");
    if (file.group("LOCA")->column("LOCA_REM")) CHECK(differing(bytes, changed) == 1);
    CHECK_THROWS_WITH(withChanges(bytes, "p.ags", {{1, "LOCA_GL", "1"}}), Catch::Contains("line 1"));
}

TEST_CASE("A heading that the group lacks is added to all its rows", "[ags][write]") {
    const auto bytes = phase1();
    const auto file = readAgs(bytes, "p.ags");
    const auto& loca = *file.group("LOCA");
    REQUIRE_FALSE(loca.column("LOCA_LETT"));
    const auto changed = withChanges(bytes, "p.ags", {{loca.rows[0].line, "LOCA_LETT", "AB"}});
    const auto again = readAgs(changed, "p.ags");
    CHECK(again.findings.empty());
    CHECK(again.group("LOCA")->cell(0, *again.group("LOCA")->column("LOCA_LETT")) == "AB");
    CHECK(again.group("LOCA")->types.size() == loca.types.size() + 1);
    CHECK(differing(bytes, changed) == int(loca.rows.size()) + 3);
}

TEST_CASE("Changed rows of edition 3 keep to 240 characters", "[ags][write]") {
    const auto bytes = phase2();
    const auto file = readAgs(bytes, "p.ags");
    const auto& geol = *file.group("GEOL");
    const std::string words(700, 'x');
    const auto changed = withChanges(bytes, "p.ags", {{geol.rows[2].line, "GEOL_DESC", words + " \"end\""}});
    for (const auto l : split(changed, '\n')) CHECK(l.size() <= 241);
    const auto again = readAgs(changed, "p.ags");
    CHECK(again.group("GEOL")->cell(2, *again.group("GEOL")->column("GEOL_DESC")) == words + " \"end\"");
    CHECK(again.group("GEOL")->rows.size() == geol.rows.size());
    CHECK(holesOf(again).holes.size() == holesOf(file).holes.size());
}

TEST_CASE("Changing a file that was read is the same as reading the changed file", "[ags][write]") {
    const auto bytes = phase1();
    auto file = readAgs(bytes, "p.ags");
    const std::vector<CellChange> changes{{file.group("LOCA")->rows[1].line, "LOCA_GL", "1.00"},
                                          {file.group("GEOL")->rows[4].line, "GEOL_GEOL", "ZZ"},
                                          {file.group("LOCA")->rows[0].line, "LOCA_CLST", "2"}};
    change(file, changes);
    const auto other = readAgs(withChanges(bytes, "p.ags", changes), "p.ags");
    REQUIRE(file.groups.size() == other.groups.size());
    for (std::size_t g = 0; g < file.groups.size(); ++g) {
        REQUIRE(file.groups[g].rows.size() == other.groups[g].rows.size());
        for (std::size_t r = 0; r < file.groups[g].rows.size(); ++r)
            for (std::size_t c = 0; c < file.groups[g].headings.size(); ++c)
                CHECK(file.groups[g].cell(r, c) == other.groups[g].cell(r, c));
    }
}

TEST_CASE("The demo's AGS 3 file becomes AGS 4.1 with the same holes and no fault", "[ags][write]") {
    const auto before = readAgs(phase2(), "p.ags");
    const auto converted = toAgs41(before);
    const auto after = readAgs(converted.text, "p.ags");
    CHECK(after.version == "4.1");
    CHECK(checkAgs(after).empty());
    const auto a = holesOf(before), b = holesOf(after);
    REQUIRE(a.holes.size() == b.holes.size());
    CHECK(a.codeNames == b.codeNames);
    for (std::size_t i = 0; i < a.holes.size(); ++i) {
        CAPTURE(a.holes[i].id);
        CHECK(a.holes[i].place() == b.holes[i].place());
        CHECK(a.holes[i].level == b.holes[i].level);
        CHECK(a.holes[i].finalDepth == b.holes[i].finalDepth);
        CHECK(a.holes[i].type == b.holes[i].type);
        REQUIRE(a.holes[i].intervals.size() == b.holes[i].intervals.size());
        for (std::size_t k = 0; k < a.holes[i].intervals.size(); ++k) {
            CHECK(a.holes[i].intervals[k].description == b.holes[i].intervals[k].description);
            CHECK(a.holes[i].intervals[k].codes == b.holes[i].intervals[k].codes);
        }
        CHECK(a.holes[i].blowCounts == b.holes[i].blowCounts);
        CHECK(a.holes[i].strikes == b.holes[i].strikes);
    }
    CHECK_THROWS_AS(toAgs41(after), UsageError);
}

TEST_CASE("What has no place in 4.1 is kept and said", "[ags][write]") {
    const std::string text =
        "\"**PROJ\"\r\n\"*PROJ_ID\",\"*PROJ_NAME\",\"*PROJ_AGS\"\r\n\"P1\",\"Test\",\"3.1\"\r\n\r\n"
        "\"**HOLE\"\r\n\"*HOLE_ID\",\"*HOLE_FDEP\",\"*HOLE_INCL\",\"*HOLE_ORNT\",\"*HOLE_LOG\",\"*HOLE_BACD\",\"*?HOLE_OWN\"\r\n"
        "\"<UNITS>\",\"m\",\"deg\",\"deg\",\"\",\"dd/mm/yyyy\",\"\"\r\n\"BH1\",\"10.00\",\"60\",\"90\",\"AB\",\"03/04/"
        "2001\",\"blue\"\r\n\r\n"
        "\"**WSTK\"\r\n\"*HOLE_ID\",\"*WSTK_DEP\",\"*WSTK_NMIN\",\"*WSTK_DATE\",\"*WSTK_TIME\",\"*WSTK_POST\"\r\n\"<UNITS>\","
        "\"m\",\"min\",\"dd/mm/yyyy\",\"hhmm\",\"m\"\r\n"
        "\"BH1\",\"4.00\",\"5\",\"01/02/2001\",\"0930\",\"3.50\"\r\n\"BH1\",\"4.00\",\"20\",\"01/02/"
        "2001\",\"0930\",\"3.00\"\r\n\r\n"
        "\"**PREF\"\r\n\"*HOLE_ID\",\"*PREF_TDEP\",\"*PREF_TYPE\",\"*PREF_TRZ\",\"*PREF_BRZ\"\r\n\"<UNITS>\",\"m\",\"\",\"m\","
        "\"m\"\r\n\"BH1\",\"9.00\",\"SP\",\"6.00\",\"9.00\"\r\n\r\n"
        "\"**POBS\"\r\n\"*HOLE_ID\",\"*PREF_TDEP\",\"*POBS_DATE\",\"*POBS_DEP\"\r\n\"<UNITS>\",\"m\",\"dd/mm/"
        "yyyy\",\"m\"\r\n\"BH1\",\"9.00\",\"05/06/2001\",\"2.20\"\r\n\r\n"
        "\"**?OWNG\"\r\n\"*HOLE_ID\",\"*?OWNG_A\"\r\n\"BH1\",\"kept\"\r\n";
    const auto converted = toAgs41(readAgs(text, "t.ags"));
    const auto file = readAgs(converted.text, "t.ags");
    const auto cell = [&](const char* group, std::size_t row, const char* heading) -> std::string {
        const auto* g = file.group(group);
        REQUIRE(g);
        REQUIRE(g->column(heading));
        return std::string(g->cell(row, *g->column(heading)));
    };
    CHECK(cell("HORN", 0, "HORN_INCL") == "60");
    CHECK(cell("HORN", 0, "HORN_BASE") == "10.00");
    CHECK(cell("HDPH", 0, "HDPH_LOG") == "AB");
    CHECK(file.group("WSTG")->rows.size() == 1);
    CHECK(cell("WSTG", 0, "WSTG_DTIM") == "2001-02-01T09:30");
    CHECK(file.group("WSTD")->rows.size() == 2);
    CHECK(cell("WSTD", 1, "WSTD_POST") == "3.00");
    CHECK(cell("MOND", 0, "MOND_RDNG") == "2.20");
    CHECK(cell("MOND", 0, "MONG_ID") == cell("MONG", 0, "MONG_ID"));
    CHECK(cell("OWNG", 0, "OWNG_A") == "kept");
    CHECK(cell("LOCA", 0, "LOCA_OWN") == "blue");
    CHECK(cell("LOCA", 0, "LOCA_BACD") == "03/04/2001");
    CHECK(file.group("DICT"));
    CHECK(converted.notes.size() >= 4);
    const auto findings = checkAgs(file);
    CHECK(count(findings, Severity::Error) == 0);
}

TEST_CASE("Holes of other sources go out as AGS 4.1 that passes its own check", "[ags][write]") {
    auto p =
        importSource(
            {},
            understoodText(
                "places.csv",
                "Hole,Easting,Northing,Ground level,Final depth\nA1,480100.5,6120200,21.3,8\nA2,480200,6120300,,6.5\nA3,,,,\n"))
            .project;
    p = importSource(p,
                     understoodText("logs.csv", "Hole;From;To;Unit;Description\nA1;0;2,5;Made ground;Brown \xC2\xB0 "
                                                "\"fill\"\nA1;2,5;8;TL;Stiff CLAY\nA2;0;6,5;TL;Stiff CLAY\n"),
                     {ImportChoices::Existing::Update, false, ""})
            .project;
    p = importSource(p, understood(FOX_DEMO "/supply_wells/SW1.las")).project;
    const auto files = agsFilesOf(p);
    REQUIRE(files.size() == 1);
    CHECK(files[0].first == "holes.ags");
    const auto file = readAgs(files[0].second, "holes.ags");
    const auto findings = checkAgs(file);
    for (const auto& f : findings) UNSCOPED_INFO(describe(f) + " " + f.rule);
    CHECK(findings.empty());
    const auto back = holesOf(file);
    REQUIRE(back.holes.size() == 4);
    CHECK(back.holes[0].place() == Point2{480100.5, 6120200});
    CHECK(back.holes[0].intervals.size() == 2);
    CHECK(back.holes[0].intervals[0].base == Depth{2.5});
    CHECK(file.group("WLOG")->rows.size() > 200);
}

TEST_CASE("An untouched AGS file goes out byte for byte, an edited one with its row changed", "[ags][write]") {
    auto p = importSource({}, understood(FOX_DEMO "/phase1_main.ags")).project;
    CHECK(agsFilesOf(p).at(0).second == phase1());
    p = setHoleLevel(p, "QB101", Level{30.5}).project;
    const auto out = agsFilesOf(p).at(0).second;
    CHECK(differing(phase1(), out) == 1);
    CHECK(findHole(holesOf(readAgs(out, "p")).holes, "QB101")->level == Level{30.5});
}
