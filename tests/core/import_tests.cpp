// LAS, tables, workbooks, systems and newer issues: what arrives, and what is done with it.
#include "fixtures.h"
#include "formats/ags_changes.h"
#include "formats/crs.h"
#include "formats/las.h"
#include "formats/workbook.h"
#include "holes/file_check.h"
#include "holes/hole_checks.h"
#include "holes/las_holes.h"
#include "importing/file_edits.h"
#include "project/remedies.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <ogrsf_frmts.h>

using namespace fox;
using namespace fox::test;

namespace {

Table table(const std::string& text, std::vector<std::string> columns = {}) {
    return readTable(text, "t.csv", std::move(columns));
}

TableHoles holesIn(const std::string& text) {
    const auto t = table(text);
    return holesOf(t, guessMapping(t), "P");
}

const std::string kLas =
    "~VERSION\n VERS. 2.0 : LAS\n WRAP. NO :\n~WELL\n STRT.M 0 :\n STOP.M 2 :\n STEP.M 1 :\n NULL. -999.25 :\n WELL. W7 : name\n"
    " XCOORD.M 480100 : east\n YCOORD.M 6120100 : north\n EGL.M 21.5 : level\n~CURVE\n DEPT.M :\n GAMM.GAPI : gamma\n RES.OHMM "
    ":\n";

} // namespace

// --- tables

TEST_CASE("Separated text in its dialects gives the same table", "[formats][table]") {
    const auto same = table("a,b\n1.5,x y\n2.5,\"p,\"\"q\"\"\"\n");
    CHECK(same.columns == std::vector<std::string>{"a", "b"});
    REQUIRE(same.rows.size() == 2);
    CHECK(same.cell(1, 1) == "p,\"q\"");
    for (const char* text : {"a;b\r\n1,5;x y\r\n2,5;\"p,\"\"q\"\"\"\r\n", "a\tb\n1.5\tx y\n2.5\tp,\"q\"\n",
                             "sep=;\na;b\n1,5;x y\n2,5;\"p,\"\"q\"\"\"\n",
                             "\xEF\xBB\xBF"
                             "a,b\r1.5,x y\r2.5,\"p,\"\"q\"\"\"\r",
                             "a|b\n1.5|x y\n2.5|p,\"q\"\n"}) {
        CAPTURE(text);
        // the bar is no separator while there are commas: that text is another matter
        const auto t = table(text);
        if (std::string_view(text).starts_with("a|b")) continue;
        CHECK(t.columns == same.columns);
        REQUIRE(t.rows.size() == 2);
        CHECK(t.number(0, 0) == 1.5);
        CHECK(t.number(1, 0) == 2.5);
        CHECK(t.cell(1, 1) == same.cell(1, 1));
    }
    CHECK(table("a|b\n1|2\n").columns.size() == 2);
}

TEST_CASE("Line numbers count breaks inside quotes", "[formats][table]") {
    const auto t = table("a,b\n1,\"x\ny\"\n\n2,z\n");
    REQUIRE(t.rows.size() == 2);
    CHECK(t.rows[0].line == 2);
    CHECK(t.cell(0, 1) == "x y");
    CHECK(t.rows[1].line == 5);
}

TEST_CASE("UTF-16 and Latin-1 tables are read", "[formats][table]") {
    std::string wide("\xFF\xFE", 2);
    for (const char c : std::string("a\tb\n1\t\xE9\n")) wide += {c, '\0'};
    CHECK(table(wide).cell(0, 1) == "\xC3\xA9");
    CHECK(table("a,b\n1,\xE9\n").cell(0, 1) == "\xC3\xA9");
}

TEST_CASE("A title above the header is passed over", "[formats][table]") {
    const auto t = table("Borehole schedule,,\n,,\nHole,E,N\nA,1,2\n");
    CHECK(t.columns == std::vector<std::string>{"Hole", "E", "N"});
    CHECK(t.rows.at(0).line == 4);
}

TEST_CASE("Columns of many names are understood", "[holes][table]") {
    const auto roles = [](const std::string& text) { return guessMapping(table(text)).roles; };
    using enum ColumnRole;
    CHECK(roles("BH ID,Easting (m),Northing (m),Ground Level (mOD),Depth (m)\nA,1,2,3,4\n")
          == std::vector{HoleId, Easting, Northing, GroundLevel, FinalDepth});
    CHECK(roles("Hole,Depth to top (m),Depth to base (m),Geology code,Description\nA,0,1,TL,till\n")
          == std::vector{HoleId, Top, Base, Code, Description});
    CHECK(roles("Hole,Depth,Unit\nA,0,TL\n") == std::vector{HoleId, Top, Code});
    CHECK(roles("Hole,Topsoil,Till,Rock\nA,0,0.3,9\n") == std::vector{HoleId, UnitTop, UnitTop, UnitTop});
    CHECK(roles("Hole,Depth,N\nA,1.5,12\n") == std::vector{HoleId, Depth, Value});
    const auto feet = guessMapping(table("Hole,From (ft),To (ft),Unit\nA,0,10,TL\n"));
    CHECK(feet.units == std::vector<std::string>{"", "ft", "ft", ""});
    CHECK(holesOf(table("Hole,From (ft),To (ft),Unit\nA,0,10,TL\n"), feet, "P").holes[0].intervals[0].base.metres
          == Approx(3.048));
    CHECK(whatItHolds(guessMapping(table("x,y\n1,2\n"))).empty());
}

TEST_CASE("Tops of units, one row each or one column each, give the same log", "[holes][table]") {
    const auto rows = holesIn("Hole,Depth to top,Unit,Final depth\nA,0,TS,9\nA,2.5,TL,9\nA,0.3,RG,9\n");
    const auto columns = holesIn("Hole,TS,RG,TL,Final depth\nA,0,0.3,2.5,9\n");
    for (const auto* read : {&rows, &columns}) {
        REQUIRE(read->holes.size() == 1);
        const auto& log = read->holes[0].intervals;
        REQUIRE(log.size() == 3);
        CHECK(log[1].codes.at("GEOL_GEOL") == "RG");
        CHECK(log[1].base == Depth{2.5});
        CHECK(log[2].base == Depth{9});
        CHECK(read->findings.empty());
    }
    const auto open = holesIn("Hole,Depth to top,Unit\nA,0,TS\nA,0.3,TL\n");
    CHECK(open.holes[0].intervals.back().base.metres == Approx(0.4));
    CHECK(mentions(open.findings, "FC-TABLE", "is not known"));
}

TEST_CASE("Rows that can't be read are said with their line, and the rest stays", "[holes][table]") {
    const auto read = holesIn("Hole,From,To,Unit\nA,0,1,TS\n,1,2,TL\nA,1,x,TL\nA,3,4.5m,TL\nB,,2,TL\n");
    CHECK(read.holes.size() == 2);
    CHECK(read.holes[0].intervals.size() == 2);
    CHECK(mentions(read.findings, "FC-TABLE", "names no hole"));
    CHECK(mentions(read.findings, "FC-TABLE", "no depth to its top"));
    const auto bad =
        std::ranges::find_if(read.findings, [](const Finding& f) { return f.message.find("\"x\"") != std::string::npos; });
    REQUIRE(bad != read.findings.end());
    CHECK(bad->line == 4);
    CHECK(mentions(read.findings, "FC-TABLE", "the number at its start is taken"));
}

TEST_CASE("A workbook's sheets are tables, and its holes join", "[formats][table]") {
    const auto sheets = readWorkbook(readBytes(FOX_DEMO "/supply_wells/wells.xlsx"), "wells.xlsx");
    REQUIRE(sheets.size() == 1);
    CHECK(sheets[0].rows.size() == 6);
    CHECK(sheets[0].cell(0, 0) == "SW1");
    CHECK(sheets[0].rows[0].line == 2);
    CHECK_THROWS_WITH(readWorkbook("no workbook at all", "x.xlsx"), Catch::Contains("x.xlsx can't be read as a workbook"));
}

TEST_CASE("An ODS workbook is read as an XLSX one, sheet by sheet", "[formats][table]") {
    const TemporaryFolder folder;
    const auto path = (folder / "holes.ods").string();
    {
        GDALAllRegister();
        auto* book = GetGDALDriverManager()->GetDriverByName("ODS")->Create(path.c_str(), 0, 0, 0, GDT_Unknown, nullptr);
        REQUIRE(book);
        for (const char* name : {"Places", "More"}) {
            auto* sheet = book->CreateLayer(name);
            for (const char* column : {"Hole", "Easting", "Northing", "Level"}) {
                OGRFieldDefn field(column, std::string_view(column) == "Hole" ? OFTString : OFTReal);
                sheet->CreateField(&field);
            }
            OGRFeature row(sheet->GetLayerDefn());
            row.SetField(0, fmt::format("{}1", name).c_str());
            row.SetField(1, 480100.25), row.SetField(2, 6120100.0), row.SetField(3, 21.3);
            REQUIRE(sheet->CreateFeature(&row) == OGRERR_NONE);
        }
        GDALClose(book);
    }
    const auto u = understood(path);
    CHECK(u.file.format == "ODS");
    REQUIRE(u.holes.size() == 2);
    CHECK(u.holes[0].id == std::string_view("Places1"));
    CHECK(u.holes[0].place() == Point2{480100.25, 6120100});
    CHECK(u.holes[1].level == Level{21.3});
    CHECK(checkFile(path).format == "ODS");
}

// --- LAS

TEST_CASE("A LAS file gives a hole with curves, nulls left open", "[formats][las]") {
    const auto file = readLas(kLas + "~A\n0 50 -999.25\n1 55 20\n2 60 21\n", "w.las");
    CHECK(file.findings.empty());
    const auto read = holeOf(file);
    CHECK(read.hole.id == "W7");
    CHECK(read.hole.place() == Point2{480100, 6120100});
    CHECK(read.hole.level == Level{21.5});
    CHECK(read.hole.finalDepth == Depth{2});
    REQUIRE(read.hole.curves.size() == 2);
    CHECK(std::isnan(read.hole.curves[1].readings->at(0).value));
    CHECK(read.hole.curves[0].readings->at(2).value == 60);
    CHECK(holeOf(file, {"RES"}).hole.curves.size() == 1);
}

TEST_CASE("Wrapped lines, feet, upward logs and version 1.2 are read as meant", "[formats][las]") {
    auto wrapped = kLas;
    wrapped.replace(wrapped.find("NO"), 2, "YES");
    const auto file = readLas(wrapped + "~A\n0\n 50 10\n1\n 55\n 20\n", "w.las");
    CHECK(file.steps() == 2);
    CHECK(file.values[2][1] == 20);
    const auto feet = holeOf(readLas("~V\nVERS. 2.0:\nWRAP. NO:\n~C\nDEPT.FT:\nGR.API:\n~A\n10 1\n0 2\n", "deep.las"));
    CHECK(feet.hole.id == "deep"); // from the file's name
    CHECK(feet.hole.finalDepth->metres == Approx(3.048));
    CHECK(feet.hole.curves[0].readings->at(0).value == 2);
    CHECK(mentions(feet.findings, "FC-LAS", "feet"));
    CHECK(mentions(feet.findings, "FC-LAS", "put in order"));
    const auto old = readLas("~V\nVERS. 1.2:\nWRAP. NO:\n~W\nSTRT.M 0:\nWELL. WELL: Old 3\n~C\nDEPT.M:\n~A\n0\n1\n", "x.las");
    CHECK(holeOf(old).hole.id == "Old 3");
}

TEST_CASE("Faults of a LAS file are said with their line", "[formats][las]") {
    CHECK_THROWS_WITH(readLas("easting,northing\n", "x.las"), Catch::Contains("x.las is not a LAS file"));
    const auto file = readLas(kLas + "~A\n0 50 10\n1 abc\n2 60 21 9\n", "w.las");
    CHECK(mentions(file.findings, "FC-LAS", "\"abc\""));
    CHECK(mentions(file.findings, "FC-LAS", "2 rows have another number of values"));
    CHECK(file.steps() == 3);
    CHECK(mentions(readLas("~V\nVERS. 2.0:\n~C\nDEPT.M:\n", "x").findings, "FC-LAS", "no ~A section"));
    CHECK(mentions(readLas("~V\nVERS. 2.0:\n~A\n1 2\n", "x").findings, "FC-LAS", "no ~Curve section"));
}

TEST_CASE("Logs first, their places from a workbook later", "[project][import]") {
    Project p;
    for (const char* name : {"SW1", "SW2"})
        p = importSource(p, understood(FOX_DEMO "/supply_wells/" + std::string(name) + ".las")).project;
    CHECK(p.holes->size() == 2);
    CHECK_FALSE(p.holes->at(0).place());
    const auto wells = understood(FOX_DEMO "/supply_wells/wells.xlsx");
    CHECK(wells.partial);
    const auto changes = changesBy(p, wells);
    REQUIRE(changes.size() == 6);
    CHECK(changes[0].kind == HoleChange::Kind::Changed);
    CHECK(changes[0].facts.at(0) == "gets a place");
    CHECK(changes[5].kind == HoleChange::Kind::New);
    const auto after = importSource(p, wells, {ImportChoices::Existing::Update, false, ""}).project;
    CHECK(after.holes->size() == 6);
    CHECK(after.holes->at(0).place());
    CHECK(after.holes->at(0).curves.size() == 2); // the log stays
    CHECK(after.holes->at(0).finalDepth == Depth{28});
    CHECK_FALSE(importSource(p, wells).project.holes->at(0).place()); // left as they are, by choice
}

// --- systems

TEST_CASE("A file's own coordinate system is brought to the project's", "[project][import]") {
    const CoordinateChange change("EPSG:4326", "EPSG:25831");
    const auto there = change.forward({2.7, 55.2});
    REQUIRE(there);
    const auto back = change.back(*there);
    CHECK(back->x == Approx(2.7).epsilon(1e-9));
    CHECK(back->y == Approx(55.2).epsilon(1e-9));
    SourceSettings settings;
    settings.crs = "EPSG:4326";
    const auto u =
        readSource({"p.csv", "", std::string("Hole,Easting,Northing\nA,2.7,55.2\n"), 0, {}, settings, ""}, "EPSG:25831");
    CHECK(u.holes.at(0).easting == there->x);
    CHECK_THROWS_WITH(CoordinateChange("EPSG:999999", "EPSG:25831"), Catch::Contains("EPSG:999999"));
}

TEST_CASE("Two control points tie a local grid to the national one", "[holes]") {
    const LocalGrid grid{{{0, 0}, {1000, 2000}}, {{100, 0}, {1000, 2100}}};
    CHECK(grid.scale() == Approx(1));
    CHECK(grid.rotation() == Approx(90));
    const auto p = grid.toNational({10, 5});
    CHECK(p.x == Approx(995));
    CHECK(p.y == Approx(2010));
    SourceSettings settings;
    settings.localGrid = grid;
    const auto u = understoodText(
        "h.ags",
        "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_LOCX\",\"LOCA_LOCY\"\r\n\"UNIT\",\"\",\"m\",\"m\"\r\n"
        "\"TYPE\",\"ID\",\"2DP\",\"2DP\"\r\n\"DATA\",\"A\",\"10.00\",\"5.00\"\r\n\"DATA\",\"B\",\"\",\"\"\r\n",
        settings);
    CHECK(u.holes.at(0).easting == Approx(995));
    CHECK_FALSE(u.holes.at(1).place());
}

TEST_CASE("Depths in feet and millimetres become metres, and it is said", "[holes]") {
    const auto u = understoodText(
        "h.ags", "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_GL\",\"LOCA_FDEP\"\r\n\"UNIT\",\"\",\"ft\",\"mm\"\r\n"
                 "\"TYPE\",\"ID\",\"2DP\",\"2DP\"\r\n\"DATA\",\"A\",\"100.00\",\"5000.00\"\r\n");
    CHECK(u.holes.at(0).level->metres == Approx(30.48));
    CHECK(u.holes.at(0).finalDepth->metres == Approx(5));
    CHECK(mentions(u.file.findings, "FC-UNIT", "LOCA_GL is given in ft"));
}

// --- sense

TEST_CASE("Faults of sense come with what can be done about them", "[holes]") {
    Holes holes;
    for (int i = 0; i < 5; ++i)
        holes.push_back(hole(fmt::format("H{}", i), 480000 + 100 * i, 6120000 + 50 * i, 20 + i, {{1, "A"}, {5, "B"}}));
    const auto found = [&](const char* rule) {
        const auto all = checkHoles(holes);
        const auto at = std::ranges::find(all, rule, &Finding::rule);
        return at == all.end() ? std::optional<Finding>() : std::optional(*at);
    };
    CHECK(checkHoles(holes).empty());
    SECTION("swapped") {
        std::swap(*holes.change(2).easting, *holes.change(2).northing);
        REQUIRE(found("FC-SWAPPED"));
        CHECK(found("FC-SWAPPED")->remedy->action == Remedy::Action(SwapCoordinates{"H2"}));
    }
    SECTION("far off") {
        holes.change(2).easting = 520000;
        CHECK(found("FC-FAR-OFF")->hole == "H2");
    }
    SECTION("zero level") {
        holes.change(1).level = Level{0};
        CHECK(found("FC-ZERO-LEVEL")->hole == "H1");
    }
    SECTION("below the end, and feet") {
        holes.change(0).finalDepth = Depth{4};
        CHECK(found("FC-BELOW-END")->remedy->action == Remedy::Action(SetFinalDepthTo{"H0", Depth{5}}));
        holes.change(0).finalDepth = Depth{5 / 0.3048};
        CHECK(found("FC-FEET"));
    }
    SECTION("a gap") {
        holes.change(0).intervals[0].base = Depth{0.4};
        REQUIRE(found("FC-GAP"));
        CHECK(found("FC-GAP")->remedy->action == Remedy::Action(CloseGapAbove{"H0", Depth{1}}));
    }
    SECTION("a place off the earth") {
        holes.change(2).easting = 7.8e93;
        CHECK(found("FC-FAR-OFF"));
    }
    SECTION("twins") {
        holes.change(3).easting = *holes[0].easting + 0.04, holes.change(3).northing = holes[0].northing;
        CHECK(found("FC-TWIN")->message.find("H0") != std::string::npos);
    }
}

TEST_CASE("Every remedy is an edit that takes its finding away", "[project]") {
    Project p;
    Holes holes;
    for (int i = 0; i < 5; ++i)
        holes.push_back(hole(fmt::format("H{}", i), 480000 + 100 * i, 6120000 + 50 * i, 20 + i, {{1, "A"}, {5, "B"}}));
    std::swap(*holes.change(2).easting, *holes.change(2).northing);
    holes.change(0).intervals[0].base = Depth{0.4};
    holes.change(1).finalDepth = Depth{4};
    holes.change(3).finalDepth.reset();
    holes.change(4).intervals[0].top = Depth{0.2};
    p.holes = part(holes);
    int applied = 0;
    for (auto findings = checkHoles(*p.holes); !findings.empty(); findings = checkHoles(*p.holes)) {
        REQUIRE(findings.front().remedy);
        const auto e = apply(p, *findings.front().remedy);
        CHECK_FALSE(e.label.empty());
        p = e.project;
        REQUIRE(++applied < 10);
    }
    CHECK(applied == 5);
}

// --- newer issues, corrections

TEST_CASE("A newer issue tells hole by hole what it changes, and keeps corrections that still hold", "[project][import]") {
    const auto text = readBytes(FOX_DEMO "/phase1_main.ags");
    auto p = importSource({}, understood(FOX_DEMO "/phase1_main.ags")).project;
    p = setHoleLevel(p, "QB101", Level{30.5}).project; // still the old value in the new issue
    p = setHoleLevel(p, "QB102", Level{31.5}).project; // the contractor changed it too
    p = setExcluded(p, "QB103", true).project;
    const auto file = readAgs(text, "f");
    const auto& loca = *file.group("LOCA");
    std::vector<CellChange> changes{{loca.rows[1].line, "LOCA_GL", "22.22"}};
    auto newer = withChanges(text, "f", changes);
    const auto lines = split(newer, '\n');
    std::string without;
    for (std::size_t i = 0; i + 1 < lines.size(); ++i) // the last hole is gone, one has come
        if (std::string(lines[i]).find("\"QB128\"") == std::string::npos) without += std::string(lines[i]) + "\n";
    const auto at = without.find("\"DATA\",\"QB101\"");
    auto row = without.substr(at, without.find('\n', at) + 1 - at);
    row.replace(row.find("QB101"), 5, "QB999");
    without.insert(at, row);

    const auto u = understoodText("phase1_main.ags", without);
    REQUIRE(earlierIssue(p, u));
    const auto told = changesBy(p, u);
    const auto kind = [&](const char* name) { return std::ranges::find(told, name, &HoleChange::hole)->kind; };
    CHECK(kind("QB999") == HoleChange::Kind::New);
    CHECK(kind("QB128") == HoleChange::Kind::Gone);
    CHECK(kind("QB104") == HoleChange::Kind::Same);
    const auto e = importSource(p, u, {ImportChoices::Existing::Update, true, ""});
    const auto& holes = *e.project.holes;
    CHECK(findHole(holes, "QB101")->level == Level{30.5});
    CHECK(findHole(holes, "QB102")->level == Level{22.22});
    CHECK(findHole(holes, "QB103")->excluded);
    CHECK(findHole(holes, "QB999"));
    CHECK_FALSE(findHole(holes, "QB128"));
    CHECK(e.project.files->size() == 1);
    CHECK(e.project.corrections->size() == 1);
    CHECK(mentions(e.project.files->at(0).findings, "FC-CORRECTION", "31.50"));
    CHECK(e.project.corrections->at(0).line == findHole(holes, "QB101")->line); // it moved a line down
}

TEST_CASE("What corrections hold back is not announced as a change", "[project][import]") {
    const auto text = readBytes(FOX_DEMO "/phase1_main.ags");
    auto p = importSource({}, understood(FOX_DEMO "/phase1_main.ags")).project;
    for (const char* id : {"QB101", "QB102", "QB104"}) p = setHoleLevel(p, id, Level{30.5}).project;
    const auto loca = readAgs(text, "f");
    const auto newer = withChanges(text, "f", std::vector<CellChange>{{loca.group("LOCA")->rows[4].line, "LOCA_GL", "22.22"}});
    const auto u = understoodText("phase1_main.ags", newer);
    const auto changed = [](const std::vector<HoleChange>& all) {
        return std::ranges::count(all, HoleChange::Kind::Changed, &HoleChange::kind);
    };
    const auto told = changesBy(p, u);
    for (const auto& c : told)
        if (c.kind == HoleChange::Kind::Changed) UNSCOPED_INFO(fmt::format("{}: {}", c.hole, fmt::join(c.facts, ", ")));
    CHECK(changed(told) == 1); // the three that were corrected keep their corrections
    const auto e = importSource(p, u, {ImportChoices::Existing::Update, false, ""});
    CHECK(e.label.find("0 new, 1 changed, 0 gone") != std::string::npos);
    CHECK(e.project.corrections->size() == 3);
    CHECK(changed(changesBy({}, u)) == 0);
}

TEST_CASE("The very same file is known, and a file of its name is read as it was before", "[project][import]") {
    SourceSettings settings;
    settings.groupsOut = {"ISPT"};
    const auto p = importSource({}, understood(FOX_DEMO "/phase1_main.ags", settings)).project;
    CHECK(settingsBefore(p, "phase1_main.ags").groupsOut == std::vector<std::string>{"ISPT"});
    CHECK(settingsBefore(p, "another.ags") == SourceSettings());
    REQUIRE(sameFile(p, understood(FOX_DEMO "/phase1_main.ags", settings)));
    CHECK(sameFile(p, understood(FOX_DEMO "/phase1_main.ags", settings))->name == "phase1_main.ags");
    CHECK_FALSE(sameFile(p, understood(FOX_DEMO "/phase1_main.ags"))); // with one group more
    CHECK_FALSE(sameFile(p, understood(FOX_DEMO "/phase2_river.ags")));
    CHECK_FALSE(sameFile({}, understood(FOX_DEMO "/phase1_main.ags")));
}

TEST_CASE("An import says where the extent has gone, if nobody set it", "[project][import]") {
    const auto tableOf = [](const char* rows) { return std::string("hole,easting,northing,level,depth\n") + rows; };
    const auto first = importSource({}, understoodText("a.csv", tableOf("H1,1000,2000,5,9\nH2,1100,2100,5,9\n")));
    CHECK(first.label.find("extent") == std::string::npos); // there was none before
    const auto far = understoodText("b.csv", tableOf("H3,1900,2000,5,9\n"));
    const auto second = importSource(first.project, far);
    CHECK_THAT(second.label, Catch::Contains("the extent is now 990 m x"));
    const auto within = importSource(first.project, understoodText("c.csv", tableOf("H3,1050,2050,5,9\n")));
    CHECK(within.label.find("extent") == std::string::npos);
    auto set = first.project;
    set.site = part(Site{"", Frame{0, 0, 50, 50, 5}, {}});
    CHECK(importSource(set, far).label.find("extent") == std::string::npos);
}

TEST_CASE("Groups left out come in later from the kept file", "[project][import]") {
    SourceSettings settings;
    settings.groupsOut = {"ISPT", "SAMP"};
    auto p = importSource({}, understood(FOX_DEMO "/phase1_main.ags", settings)).project;
    const auto tests = [](const Project& q) {
        std::size_t n = 0;
        for (const auto& h : *q.holes) n += h.blowCounts.size() + h.samples.size();
        return n;
    };
    CHECK(tests(p) == 0);
    p = setHoleLevel(p, "QB101", Level{30.5}).project;
    const auto e = rereadSource(p, "phase1_main.ags", {});
    CHECK(tests(e.project) > 20);
    CHECK(findHole(*e.project.holes, "QB101")->level == Level{30.5});
    CHECK(e.project.holes->size() == p.holes->size());
}

TEST_CASE("A cell of any group can be edited, and what it feeds follows", "[project]") {
    auto p = importSource({}, understood(FOX_DEMO "/phase1_main.ags")).project;
    const auto& h = *findHole(*p.holes, "QB105");
    const int line = h.intervals[1].line;
    const auto e = setFileCells(p, "phase1_main.ags", {{line, "GEOL_GEOL", "ZZ"}});
    CHECK(findHole(*e.project.holes, "QB105")->intervals[1].codes.at("GEOL_GEOL") == "ZZ");
    REQUIRE(correctionOf(e.project, "phase1_main.ags", line, "GEOL_GEOL"));
    CHECK(correctionOf(e.project, "phase1_main.ags", line, "GEOL_GEOL")->before == h.intervals[1].codes.at("GEOL_GEOL"));
    const auto back = setFileCells(e.project, "phase1_main.ags", {{line, "GEOL_GEOL", h.intervals[1].codes.at("GEOL_GEOL")}});
    CHECK(back.project.corrections->empty());
    CHECK(*back.project.holes == *p.holes);
    CHECK_THROWS_WITH(setFileCells(p, "phase1_main.ags", {{1, "X", "y"}}), Catch::Contains("line 1"));
    CHECK_THROWS_WITH(setFileCells(p, "no.ags", {{1, "X", "y"}}), Catch::Contains("no.ags"));
}

TEST_CASE("Edits leave a trail that names file, line, before and after", "[project]") {
    auto p = importSource({}, understood(FOX_DEMO "/phase2_river.ags")).project;
    const auto name = displayName(*p.holes, p.holes->at(0));
    const double was = p.holes->at(0).level->metres;
    p = setHoleLevel(p, name, Level{1}).project;
    p = setHoleLevel(p, name, Level{2}).project;
    REQUIRE(p.corrections->size() == 1); // one a cell
    CHECK(p.corrections->at(0).heading == "HOLE_GL");
    CHECK(parseNumber(p.corrections->at(0).before) == Approx(was));
    CHECK(p.corrections->at(0).after == "2.00");
    CHECK(setHoleLevel(p, name, Level{was}).project.corrections->empty());
    p = setExcluded(moveBoundary(p, name, p.holes->at(0).intervals[0].base, Depth{p.holes->at(0).intervals[0].base.metres + 0.05})
                        .project,
                    name, true)
            .project;
    CHECK(p.corrections->size() == 3);
    const auto csv = readTable(correctionsAsCsv(p), "c.csv");
    CHECK(csv.rows.size() == 4);
    CHECK(csv.columns == std::vector<std::string>{"file", "line", "hole", "group", "heading", "before", "after", "why"});
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", p);
    CHECK(sameValue(ProjectStore::read(folder / "p.gpkg"), p));
}

TEST_CASE("What a sheet says of an AGS file's hole is a correction of that file", "[project][import]") {
    auto p = importSource({}, understood(FOX_DEMO "/phase1_main.ags")).project;
    p = importSource(p, understoodText("levels.csv", "Hole,Ground level\nQB116,27.4\n"),
                     {ImportChoices::Existing::Update, false, ""})
            .project;
    CHECK(findHole(*p.holes, "QB116")->level == Level{27.4});
    REQUIRE(p.corrections->size() == 1);
    CHECK(rereadSource(p, "phase1_main.ags", {}).project.holes->at(15).level == findHole(*p.holes, "QB116")->level);
}

TEST_CASE("Curves, tests and settings are in the file as they were", "[store]") {
    auto p = importSource({}, understood(FOX_DEMO "/phase1_main.ags")).project;
    p = importSource(p, understood(FOX_DEMO "/supply_wells/SW3.las")).project;
    p = importSource(p, understood(FOX_DEMO "/supply_wells/wells.xlsx"), {ImportChoices::Existing::Update, false, ""}).project;
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", p);
    auto store = ProjectStore::open(folder / "p.gpkg");
    CHECK(sameValue(ProjectStore::read(folder / "p.gpkg"), p));
    const auto edited = setHoleLevel(p, "QB101", Level{1}).project;
    store.save(edited);
    const auto again = ProjectStore::read(folder / "p.gpkg");
    CHECK(sameValue(again, edited));
    CHECK(again.files->at(2).settings.mappings.size() == 1);
}

TEST_CASE("A file is checked by what it is", "[check]") {
    const TemporaryFolder folder;
    CHECK(checkFile(FOX_DEMO "/supply_wells/SW1.las").format == "LAS");
    CHECK(checkFile(FOX_DEMO "/supply_wells/wells.xlsx").format == "XLSX");
    const auto csv = checkFile(folder.write("h.csv", "Hole,Easting,Northing,Level\nA,0,0,1\nB,x,2,3\n"));
    CHECK(mentions(csv.findings, "FC-PLACE", "0, 0"));
    CHECK(count(csv.findings, Severity::Error) == 1);
    CHECK_THROWS_WITH(checkFile(folder.write("x.bin", "abc")), Catch::Contains("no rules"));
}

TEST_CASE("The column that carries the unit is chosen at the first import, and later in one edit", "[project][import]") {
    const auto u = understood(FOX_DEMO "/phase1_main.ags");
    const auto headings = unitHeadings(u.holes);
    REQUIRE(headings.size() >= 2);
    CHECK(headings[0].heading == "GEOL_GEOL");
    const auto p = importSource({}, u, {ImportChoices::Existing::Leave, false, "GEOL_LEG"}).project;
    CHECK(p.sequence->unitHeading == "GEOL_LEG");
    CHECK(p.sequence->index("204"));
    const auto e = setUnitHeading(p, "GEOL_GEOL");
    CHECK(e.project.sequence->index("RG"));
    CHECK_FALSE(e.project.sequence->index("204"));
    // a second file does not make the sequence anew
    CHECK(importSource(e.project, understood(FOX_DEMO "/phase3_later.ags")).project.sequence == e.project.sequence);
}

TEST_CASE("Samples, water strikes and installations come from tables too", "[import]") {
    const auto u = understoodText("lab.csv", "Hole,Depth,Sample type,Sample ref\nBH1,2.5,U,7\nBH1,1.5,D,6\nBH1,,B,8\n");
    REQUIRE(u.holes.size() == 1);
    CHECK(u.tables.at(0).feeds == "samples");
    REQUIRE(u.holes[0].samples.size() == 2);
    CHECK(u.holes[0].samples[0] == Sample{Depth{1.5}, {}, "D", "6"});
    CHECK(mentions(u.file.findings, "FC-TABLE", "The sample has no depth"));
    const auto water = understoodText("water.csv", "BH,Strike depth,Rose to\nBH1,4.2,2.8\nBH1,7,\n");
    REQUIRE(water.holes.at(0).strikes.size() == 2);
    CHECK(water.holes[0].strikes[0] == WaterStrike{Depth{4.2}, Depth{2.8}});
    CHECK_FALSE(water.holes[0].strikes[1].roseTo);
    const auto pipes =
        understoodText("pipes.csv", "BH,Pipe top,Pipe base,Pipe type\nBH1,0,3,plain\nBH1,3,6,slotted\nBH1,6,5,plain\n");
    REQUIRE(pipes.holes.at(0).installations.size() == 2);
    CHECK(pipes.holes[0].installations[0].part == Installation::Part::PlainPipe);
    CHECK(mentions(pipes.file.findings, "FC-TABLE", "not below its top"));
}

TEST_CASE("A well can be named after its file", "[import]") {
    for (const auto& file : std::filesystem::directory_iterator(FOX_DEMO "/supply_wells")) {
        if (file.path().extension() != ".las") continue;
        SourceSettings s;
        s.idFromFileName = true;
        CHECK(understood(file.path(), s).holes.at(0).id == file.path().stem().string());
    }
}

TEST_CASE("A hole written in another case or with blanks in another group is the same hole, and that is said", "[import]") {
    auto text = readBytes(FOX_DEMO "/phase1_main.ags");
    const auto geol = text.find("\"GROUP\",\"GEOL\"");
    const auto at = text.find("\"QB101\"", geol);
    REQUIRE(at != text.npos);
    const auto before = understoodText("a.ags", text);
    text.replace(at, 7, "\"qb 101\"");
    const auto after = understoodText("a.ags", text);
    const auto intervals = [](const ImportPreview& u) { return findHole(u.holes, "QB101")->intervals.size(); };
    CHECK(intervals(after) == intervals(before));
    CHECK(mentions(after.file.findings, "FC-ID", "\"qb 101\" in GEOL is taken for QB101"));
}
