// AGS files as they arrive: quotes inside quotes, groups in pieces, editions nobody knows, words where names should be.
#include "ags_fixtures.h"
#include "fixtures.h"
#include "formats/ags.h"
#include "formats/ags_check.h"
#include "formats/ags_row.h"
#include "holes/ags_holes.h"
#include "holes/file_check.h"
#include "holes/hole_checks.h"
#include "project/hole_edits.h"
#include "project/remedies.h"

#include <catch2/catch.hpp>
#include <random>

using namespace fox;
using namespace fox::test;

namespace {

AgsGroupText geology(const std::vector<std::string>& rows) {
    return {"GEOL", "LOCA_ID|GEOL_TOP|GEOL_BASE|GEOL_DESC|GEOL_LEG", "|m|m||", "ID|2DP|2DP|X|PA", rows};
}

/// The file with one line put in place of another.
std::string with(std::string text, const std::string& from, const std::string& to) {
    const auto at = text.find(from);
    REQUIRE(at != text.npos);
    return text.replace(at, from.size(), to);
}

std::string cellOf(const AgsFile& file, const char* group, std::size_t row, const char* heading) {
    const auto* g = file.group(group);
    return std::string(g->cell(row, *g->column(heading)));
}

} // namespace

TEST_CASE("Quotes inside quotes stay in their cell", "[formats][ags][quotes]") {
    const auto base = ags4({oneHole(), geology({"BH1|0.00|2.00|HERE|LC", "BH1|2.00|3.00|Sand|SA"})});
    const struct {
        const char *written, *read;
    } kCells[] = {{"\"Firm \"blue\", grey CLAY\"", "Firm \"blue\", grey CLAY"},
                  {"\"\"Blue\" clay, firm\"", "\"Blue\" clay, firm"},
                  {"\"Clay, \"firm\", and \"stiff\", below\"", "Clay, \"firm\", and \"stiff\", below"},
                  {"\"Clay \"a\",\"b\" with sand\"", "Clay \"a\",\"b\" with sand"},
                  {"\"Pipe of 4\" found\"", "Pipe of 4\" found"},
                  {"\"Firm \"\"blue\"\", grey CLAY\"", "Firm \"blue\", grey CLAY"}};
    for (const auto& c : kCells) {
        CAPTURE(c.written);
        const auto file = readAgs(with(base, "\"HERE\"", c.written), "site.ags");
        REQUIRE(file.group("GEOL")->rows.size() == 2);
        CHECK(cellOf(file, "GEOL", 0, "GEOL_DESC") == c.read);
        CHECK(cellOf(file, "GEOL", 0, "GEOL_LEG") == "LC");
        CHECK(cellOf(file, "GEOL", 1, "GEOL_DESC") == "Sand");
    }
    CHECK(mentions(readAgs(with(base, "\"HERE\"", kCells[0].written), "site.ags").findings, "AGS4 Rule 5", "inside a field"));
    CHECK_FALSE(mentions(readAgs(with(base, "\"HERE\"", kCells[5].written), "site.ags").findings, "AGS4 Rule 5", "inside"));
}

TEST_CASE("Doubled quotes are made single wherever they stand", "[formats][ags][quotes][property]") {
    std::mt19937 random(11);
    for (int round = 0; round < 200; ++round) {
        std::vector<std::string> cells;
        std::vector<std::string> rows;
        for (int r = 0; r < 5; ++r) {
            std::string text, doubled;
            for (unsigned i = 0; i < random() % 12; ++i) {
                const char c = "\"ab ,\""[random() % 6];
                text += c;
                doubled += c == '"' ? std::string(2, c) : std::string(1, c);
            }
            cells.push_back(text);
            rows.push_back("BH1|" + std::to_string(r) + ".00|" + std::to_string(r + 1) + ".00|" + doubled + "|LC");
        }
        const auto file = readAgs(ags4({oneHole(), geology(rows)}), "site.ags");
        REQUIRE(file.group("GEOL")->rows.size() == 5);
        for (std::size_t r = 0; r < 5; ++r) CHECK(cellOf(file, "GEOL", r, "GEOL_DESC") == cells[r]);
    }
}

TEST_CASE("A row is parted between quotes, and joined again", "[formats][ags][quotes]") {
    CHECK(cellsBetweenQuotes("\"a\",\"\",\"b\"") == std::vector<std::string>{"a", "", "b"});
    CHECK(cellsBetweenQuotes("\"a \"\"x\"\"\",\"b\"") == std::vector<std::string>{"a \"x\"", "b"});
    CHECK(cellsBetweenQuotes("a,b").empty());
    std::vector<std::string> cells{"1", "2", "3", "4"};
    joinCells(cells, 1, 2);
    CHECK(cells == std::vector<std::string>{"1", "2\",\"3", "4"});
}

TEST_CASE("Each piece of a repeated group is read in its own units", "[ags][units]") {
    auto second = oneHole();
    second.units = "|m|m|ft|ft";
    second.rows = {"BH2|480600.00|6120500.00|100.00|50.00"};
    const auto text = ags4({oneHole(), second});
    const auto file = readAgs(text, "site.ags");
    REQUIRE(file.group("LOCA")->rows.size() == 2);
    const auto holes = holesOf(file).holes;
    REQUIRE(holes.size() == 2);
    CHECK(holes[0].level->metres == Approx(30));
    CHECK(holes[1].level->metres == Approx(30.48));
    CHECK(holes[1].finalDepth->metres == Approx(15.24));
    CHECK(mentions(checkAgs(file), "FC-UNIT", "in ft in this part of LOCA and in m before"));
    const auto without = with(text, "\"UNIT\",\"\",\"m\",\"m\",\"ft\",\"ft\"\r\n", "");
    CHECK(mentions(checkAgs(readAgs(without, "site.ags")), "AGS4 Rule 2b", "This part of LOCA has no UNIT row"));
}

TEST_CASE("An edition that nobody knows, and words in small letters, are said", "[ags][rules]") {
    const AgsGroupText tran{"TRAN", "TRAN_ISNO|TRAN_AGS", "", "", {"1|5.7"}};
    CHECK(mentions(checkAgs(readAgs(ags4({tran, oneHole()}), "site.ags")), "AGS4 Rule 14", "\"5.7\""));
    for (const char* known : {"4.0.3", "4.0.4", "4.1", "4.1.1"}) {
        const AgsGroupText fine{"TRAN", "TRAN_ISNO|TRAN_AGS", "", "", {std::string("1|") + known}};
        CHECK_FALSE(mentions(checkAgs(readAgs(ags4({fine, oneHole()}), "site.ags")), "AGS4 Rule 14", "not a known one"));
    }
    const auto small = readAgs(with(ags4({oneHole()}), "\"DATA\",\"BH1\"", "\"data\",\"BH1\""), "site.ags");
    CHECK(mentions(small.findings, "AGS4 Rule 3", "small letters"));
    CHECK(small.group("LOCA")->rows.size() == 1);
}

TEST_CASE("One code in two spellings is said once", "[ags][rules]") {
    const auto file = readAgs(ags4({oneHole(), geology({"BH1|0.00|1.00|a|LC", "BH1|1.00|2.00|b|lc", "BH1|2.00|3.00|c|L C",
                                                        "BH1|3.00|4.00|d|lc", "BH1|4.00|5.00|e|SA"})}),
                              "site.ags");
    const auto findings = checkAgs(file);
    CHECK(std::ranges::count(findings, "FC-SPELLING", &Finding::rule) == 2);
    CHECK(mentions(findings, "FC-SPELLING", "lc differs from LC"));
    CHECK(mentions(findings, "FC-SPELLING", "L C differs from LC"));
}

TEST_CASE("A link with a part of the key is said", "[ags][rules]") {
    const AgsGroupText tran{"TRAN", "TRAN_ISNO|TRAN_AGS|TRAN_DLIM|TRAN_RCON", "", "", {"1|4.1|#|+"}};
    const auto linked = [&](const std::string& link) {
        AgsGroupText samples{
            "SAMP", "LOCA_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE|SAMP_ID", "|m|||", "ID|2DP|X|PA|ID", {"BH1|1.00|1|D|S1"}};
        AgsGroupText own{"GEOL",
                         "LOCA_ID|GEOL_TOP|GEOL_BASE|GEOL_DESC|GEOL_LEG|GEOL_REM",
                         "|m|m|||",
                         "ID|2DP|2DP|X|PA|RL",
                         {"BH1|0.00|1.00|a|LC|" + link}};
        return checkAgs(readAgs(ags4({tran, oneHole(), samples, own}), "site.ags"));
    };
    CHECK(mentions(linked("SAMP#BH1#1.00"), "AGS4 Rule 11c", "gives 2 of the 5 key fields of SAMP"));
    CHECK_FALSE(mentions(linked("LOCA#BH1"), "AGS4 Rule 11c", ""));
}

TEST_CASE("Holes on the local grid only are said with what to do, and their level is used", "[ags][local]") {
    const auto read = holesOf(
        readAgs(ags4({{"LOCA", "LOCA_ID|LOCA_LOCX|LOCA_LOCY|LOCA_LOCZ", "|m|m|m", "", {"BH1|100|200|31.5", "BH2|150|200|32"}}}),
                "l.ags"));
    REQUIRE(read.holes.size() == 2);
    CHECK(read.holes[0].level->metres == 31.5);
    CHECK_FALSE(read.holes[0].place());
    REQUIRE(mentions(read.findings, "FC-LOCAL-GRID", "2 holes have coordinates on the site's own grid only"));
    const auto at = std::ranges::find_if(read.findings, [](const Finding& f) { return f.remedy.has_value(); });
    REQUIRE(at != read.findings.end());
    CHECK(std::get<ReadFileAgain>(at->remedy->action).file == "l.ags");
}

TEST_CASE("A hole that lies flat can be read as measured from the vertical", "[ags][path]") {
    const AgsGroupText path{
        "HORN", "LOCA_ID|HORN_TOP|HORN_BASE|HORN_ORNT|HORN_INCL", "|m|m|deg|deg", "ID|2DP|2DP|0DP|0DP", {"BH1|0.00|20.00|90|0"}};
    const auto holes = holesOf(readAgs(ags4({oneHole(), path}), "p.ags")).holes;
    const auto found = checkHoles(holes);
    const auto at = std::ranges::find(found, "FC-PATH", &Finding::rule);
    REQUIRE(at != found.end());
    CHECK(at->message.find("horizontal") != std::string::npos);
    REQUIRE(at->remedy);
    Project project;
    project.files = part(std::vector<SourceFile>{{"p.ags", "AGS 4.1", std::string(), 1, {}, {}, {}}});
    project.holes = part(holes);
    const auto mended = apply(project, *at->remedy).project;
    CHECK((*mended.holes)[0].stations[0].inclination == 90);
    REQUIRE(mended.corrections->size() == 1);
    CHECK((*mended.corrections)[0].heading == "HORN_INCL");
    CHECK((*mended.corrections)[0].before == "0.00");
    CHECK((*mended.corrections)[0].after == "90.00");
    CHECK_FALSE(mentions(checkHoles(*mended.holes), "FC-PATH", "horizontal"));
    CHECK_THROWS_AS(measureFromVertical(Project{}, "BH1"), Error);
}

TEST_CASE("A file whose holes all have their coordinates swapped is told once and mended at once", "[ags][swapped]") {
    Holes holes;
    for (int i = 0; i < 8; ++i) {
        Hole h;
        h.id = h.name = fmt::format("A{}", i), h.file = "a.ags", h.line = 10 + i;
        h.easting = 480500 + 40 * i, h.northing = 6120500 + 25 * (i % 3);
        if (i >= 6) h.file = "b.ags", std::swap(h.easting, h.northing);
        holes.push_back(h);
    }
    const auto found = checkHoles(holes);
    REQUIRE(std::ranges::count(found, "FC-SWAPPED", &Finding::rule) == 1);
    const auto at = std::ranges::find(found, "FC-SWAPPED", &Finding::rule);
    CHECK(at->file == "b.ags");
    Project project;
    project.holes = part(holes);
    project.files = part(std::vector<SourceFile>{
        {"b.ags", "AGS 4.1", std::string(), 2, {{Severity::Error, "FC-SWAPPED", "b.ags", 0, "", "", "", "x"}}, {}, {}}});
    const auto mended = apply(project, *at->remedy).project;
    CHECK((*mended.holes)[7].easting == 480500 + 280);
    CHECK((*mended.files)[0].findings.empty());
    CHECK(std::ranges::count(checkHoles(*mended.holes), "FC-SWAPPED", &Finding::rule) == 0);
}

TEST_CASE("Edition 3: stars that lack, units that go on, and no units at all", "[ags][edition3]") {
    const std::string places =
        "\"**HOLE\"\r\n\"*HOLE_ID\",\"*HOLE_NATE\",\"HOLE_NATN\",\"*HOLE_GL\"\r\n\"<UNITS>\",\"m\",\"m\",\"\"\r\n"
        "\"<CONT>\",\"\",\"\",\"ft\"\r\n\"BH1\",\"480500\",\"6120500\",\"100\"\r\n";
    const auto file = readAgs(ags3({}) + places, "three.ags");
    CHECK(mentions(file.findings, "FC-FORM", "lacks its star"));
    const auto holes = holesOf(file).holes;
    REQUIRE(holes.size() == 1);
    CHECK(holes[0].northing == 6120500);
    CHECK(holes[0].level->metres == Approx(30.48));
    const auto bare =
        readAgs(ags3({{"HOLE", "HOLE_ID|HOLE_NATE|HOLE_NATN|HOLE_GL", "", "", {"BH1|480500|6120500|20"}}}), "three.ags");
    CHECK(mentions(checkAgs(bare), "FC-FORM", "HOLE has no <UNITS> row"));
    const auto noFirst = readAgs(
        ags3({}) + "\"**HOLE\"\r\n\"HOLE_ID\",\"*HOLE_NATE\"\r\n\"<UNITS>\",\"m\"\r\n\"BH1\",\"480500\"\r\n", "three.ags");
    REQUIRE(noFirst.group("HOLE"));
    CHECK(noFirst.group("HOLE")->headings == std::vector<std::string>{"HOLE_ID", "HOLE_NATE"});
    CHECK(noFirst.group("HOLE")->rows.size() == 1);
}

TEST_CASE("Findings on holes of an edition 3 file name its groups", "[ags][edition3]") {
    const auto holes =
        holesOf(readAgs(ags3({{"HOLE", "HOLE_ID|HOLE_NATE|HOLE_NATN", "|m|m", "", {"BH1|0|0"}}}), "three.ags")).holes;
    const auto as3 = checkHoles(holes, {"three.ags"});
    REQUIRE_FALSE(as3.empty());
    CHECK(std::ranges::none_of(as3, [](const Finding& f) { return f.group == "LOCA" || f.heading.starts_with("LOCA"); }));
    CHECK(std::ranges::any_of(as3, [](const Finding& f) { return f.group == "HOLE" && f.heading == "HOLE_NATE"; }));
    CHECK(std::ranges::any_of(checkHoles(holes), [](const Finding& f) { return f.heading == "LOCA_NATE"; }));
    TemporaryFolder folder;
    const auto path = folder.write("three.ags", ags3({{"HOLE", "HOLE_ID|HOLE_NATE|HOLE_NATN", "|m|m", "", {"BH1|0|0"}}}));
    const auto checked = checkFile(path);
    CHECK(std::ranges::none_of(checked.findings, [](const Finding& f) { return f.heading.starts_with("LOCA"); }));
}

TEST_CASE("Groups that are known by name only are accepted with any heading", "[ags][dictionary]") {
    const auto errors = [](const std::vector<AgsGroupText>& groups) {
        Findings out;
        for (auto& f : checkAgs(readAgs(ags4(groups), "site.ags")))
            if (f.rule == "AGS4 Rule 9" || f.rule == "AGS4 Rule 10a" || f.rule == "AGS4 Rule 10b") out.push_back(f);
        return out;
    };
    const auto ground = geology({"BH1|0.00|1.00|a|LC"});
    for (const char* group : {"DLOG", "FGHG", "LBSG", "ESCG", "RCAG", "LDYN", "PMTG"}) {
        CAPTURE(group);
        const auto heading = std::string(group) + "_ODD";
        CHECK(errors({oneHole(), ground, {group, "LOCA_ID|" + heading, "", "", {"BH1|1", "BH1|2"}}}).empty());
    }
    CHECK_FALSE(errors({oneHole(), ground, {"ISPT", "LOCA_ID|ISPT_TOP|ISPT_ODD", "", "", {"BH1|1.00|1"}}}).empty());
    CHECK_FALSE(errors({oneHole(), ground, {"QQQQ", "LOCA_ID|QQQQ_ODD", "", "", {"BH1|1"}}}).empty());
    const auto three = checkAgs(readAgs(
        ags3({{"HOLE", "HOLE_ID", "", "", {"BH1"}}, {"CBRG", "HOLE_ID|CBRG_COND", "", "", {"BH1|soaked"}}}), "three.ags"));
    CHECK_FALSE(mentions(three, "AGS3 Rule 4", "CBRG"));
}
