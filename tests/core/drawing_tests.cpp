// Drawings: blocks, levels, layers, and files that are cut short.
#include "formats/drawing.h"
#include "ground_fixtures.h"
#include "project/ground_edits.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <sstream>

using namespace fox;
using namespace fox::test;

TEST_CASE("Inserted blocks of a drawing with a level attribute are points", "[ground][import]") {
    const TemporaryFolder folder;
    const std::string dxf =
        "0\nSECTION\n2\nHEADER\n0\nENDSEC\n0\nSECTION\n2\nTABLES\n0\nENDSEC\n0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n8\n0\n2\nSPOT\n70\n"
        "2\n10\n0\n20\n0\n30\n0\n3\nSPOT\n1\n\n"
        "0\nATTDEF\n8\n0\n10\n0\n20\n0\n40\n1\n1\n\n3\nlevel\n2\nLEVEL\n70\n0\n0\nENDBLK\n8\n0\n0\nENDSEC\n"
        "0\nSECTION\n2\nENTITIES\n0\nINSERT\n8\nspots\n66\n1\n2\nSPOT\n10\n480010\n20\n6120020\n30\n0\n"
        "0\nATTRIB\n8\nspots\n10\n480010\n20\n6120020\n40\n1\n1\n23.45\n2\nLEVEL\n70\n0\n0\nSEQEND\n8\nspots\n"
        "0\nLINE\n8\nbank\n10\n480000\n20\n6120000\n30\n5\n11\n480010\n21\n6120000\n31\n6\n0\nENDSEC\n0\nEOF\n";
    const auto u = grounded(folder.write("d.dxf", dxf));
    REQUIRE(u.lines);
    CHECK(u.lines->lines.size() == 1);
    REQUIRE(u.lines->points.size() == 1);
    CHECK(u.lines->points[0].place == Point3{480010, 6120020, 23.45});
}

namespace {

/// A drawing with a block "TREE" (a circle and a line of 4 m), inserted where `inserts` say, and `others` beside.
std::string drawingWithTrees(const std::vector<Point3>& inserts, const std::string& others) {
    std::string out = "0\nSECTION\n2\nHEADER\n0\nENDSEC\n0\nSECTION\n2\nTABLES\n0\nENDSEC\n0\nSECTION\n2\nBLOCKS\n"
                      "0\nBLOCK\n8\n0\n2\nTREE\n70\n0\n10\n0\n20\n0\n30\n0\n3\nTREE\n1\n\n"
                      "0\nCIRCLE\n8\n0\n10\n0\n20\n0\n30\n0\n40\n2\n"
                      "0\nLINE\n8\n0\n10\n-2\n20\n0\n30\n0\n11\n2\n21\n0\n31\n0\n0\nENDBLK\n8\n0\n0\nENDSEC\n"
                      "0\nSECTION\n2\nENTITIES\n";
    for (const auto& p : inserts) out += fmt::format("0\nINSERT\n8\ntrees\n2\nTREE\n10\n{}\n20\n{}\n30\n{}\n", p.x, p.y, p.z);
    return out + others + "0\nENDSEC\n0\nEOF\n";
}

} // namespace

TEST_CASE("What is drawn inside a block is a symbol, not a breakline", "[ground][import]") {
    const TemporaryFolder folder;
    const std::string bank = "0\nLINE\n8\nbank\n10\n480000\n20\n6120000\n30\n25\n11\n480090\n21\n6120000\n31\n26\n";
    const std::vector<Point3> trees{{480010, 6120010, 25.2}, {480050, 6120030, 0}, {480070, 6120020, 25.6}};
    const auto u = grounded(folder.write("trees.dxf", drawingWithTrees(trees, bank)));
    REQUIRE(u.lines);
    CHECK(u.lines->lines.size() == 1); // the bank, and no circle
    REQUIRE(u.lines->points.size() == 2);
    CHECK(u.lines->points[0].place == trees[0]);
    CHECK(u.lines->points[1].place == trees[2]);
    CHECK(mentions(u.file.findings, "FC-LINES", "inserts 3 blocks"));
    CHECK(mentions(u.file.findings, "FC-LINES", "1 point has no level"));
    // a drawing that is nothing but blocks is taken apart
    const auto all = grounded(folder.write("all.dxf", drawingWithTrees({trees[0], {480050, 6120030, 25.1}, trees[2]}, "")));
    REQUIRE(all.lines);
    CHECK(all.lines->lines.size() == 6);
    CHECK(grounded(folder.write("bare.dxf", drawingWithTrees({}, bank))).lines->lines.size() == 1);
}

TEST_CASE("Points and lines of one drawing are used or not apart from one another", "[ground][import]") {
    const TemporaryFolder folder;
    const std::string bank = "0\nLINE\n8\nbank\n10\n480000\n20\n6120000\n30\n25\n11\n480090\n21\n6120000\n31\n26\n";
    auto p = with(inUtm(), folder.write("d.dxf", drawingWithTrees({{480010, 6120010, 25.2}}, bank)));
    REQUIRE(p.ground->points.size() == 1);
    REQUIRE(p.ground->lines.size() == 1);
    p = setSourceUsed(p, "d.dxf", GroundPart::Lines, false).project;
    CHECK(p.ground->points[0].used);
    CHECK_FALSE(p.ground->lines[0].used);
    const auto e = setSourceUsed(p, "d.dxf", GroundPart::Points, false);
    CHECK_FALSE(e.project.ground->points[0].used);
    CHECK(e.label == "Do not use d.dxf (points)");
    CHECK_THROWS_AS(setSourceUsed(p, "d.dxf", GroundPart::Grid, false), Error);
}

TEST_CASE("A drawing that is cut short is refused, and does not keep its reader for ever", "[ground][import]") {
    const TemporaryFolder folder;
    const std::string whole =
        "0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nbank\n10\n480000\n20\n6120000\n30\n5\n11\n480010\n21\n6120000\n31\n6\n"
        "0\nENDSEC\n0\nEOF\n";
    CHECK(readVector(folder.write("whole.dxf", whole)).at(0).features.size() == 1);
    CHECK(readVector(folder.write("blanks.dxf", whole + "\r\n  \n")).at(0).features.size() == 1);
    for (std::size_t length = 0; length + 4 < whole.size(); length += 7) {
        CAPTURE(length);
        CHECK_THROWS_AS(readVector(folder.write("cut.dxf", whole.substr(0, length))), FileError);
    }
    CHECK_THROWS_WITH(readVector(folder.write("cut.dxf", whole.substr(0, 60))), Catch::Contains("cut short"));
    // one that kept it for ever
    CHECK_THROWS_AS(readVector(folder.write("odd.dxf", "  0\nSECTION\n p/fo0\nLWPOLYLINEPOL\n0,0\nYLINE\n  8\nOF\n")), FileError);
}

TEST_CASE("A drawing out of order is refused with its line, before a library reads it", "[formats][drawing]") {
    const auto check = [](const std::string& text) {
        std::istringstream in(text);
        checkDrawing(in, "d.dxf");
    };
    const std::string section = "0\nSECTION\n2\nENTITIES\n", end = "0\nENDSEC\n0\nEOF\n";
    CHECK_NOTHROW(check(section + "0\nLINE\n8\n0\n" + end));
    CHECK_NOTHROW(check(section + end + "\r\n"));
    CHECK_NOTHROW(check("  0\r\nSECTION\r\n  2\r\nBLOCKS\r\n  0\r\nBLOCK\r\n  0\r\nENDBLK\r\n  0\r\nENDSEC\r\n  0\r\nEOF\r\n"));
    CHECK_NOTHROW(check("999\na remark\n0\nEOF\n")); // nothing in it
    const auto refused = [&](const std::string& text, const char* words) {
        CAPTURE(text);
        CHECK_THROWS_WITH(check(text), Catch::Contains(words));
    };
    refused("", "cut short");
    refused(section + "0\nENDSEC\n", "cut short");
    refused(section + "0\nEOF\n", "line 6: EOF stands in a section");
    refused(section + section + end, "begins in another one");
    refused("0\nENDSEC\n0\nEOF\n", "line 2: a section ends that did not begin");
    refused("0\nLINE\n0\nEOF\n", "LINE stands outside of all sections");
    refused(section + "0\nBLOCK\n" + end, "block that is not closed");
    refused(section + "0\nENDBLK\n" + end, "a block ends that did not begin");
    refused(section + "eight\n0\n" + end, "line 5: \"eight\" stands where a group code should be");
    refused(section + "9e99\n0\n" + end, "\"9e99\" stands where a group code should be");
    refused(section + "8\nba" + std::string(1, '\0') + "nk\n" + end, "line 6: there are bytes that are not text");
    refused(section + "8", "middle of a pair");
}
