// Numbers, depths and types as they stand in contractors' files: with units, thousands and commas, blank, typed as text. None is
// ever cut short or passed over in silence.
#include "base/written_number.h"
#include "fixtures.h"
#include "formats/ags_check.h"
#include "holes/ags_holes.h"
#include "holes/file_check.h"
#include "holes/hole_checks.h"

#include <catch2/catch.hpp>
#include <cstring>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;
using Kind = WrittenNumber::Kind;

namespace {

/// An edition 4 file with a LOCA group of these headings, units and rows ("BH1|480500|24").
std::string locaFile(const std::string& headings, const std::string& units, const std::vector<std::string>& rows) {
    const auto line = [](const char* first, const std::string& cells) {
        std::string out = fmt::format("\"{}\"", first);
        for (const auto cell : split(cells, '|')) out += fmt::format(",\"{}\"", cell);
        return out + "\r\n";
    };
    std::string types;
    for (std::size_t i = 0; i < split(headings, '|').size(); ++i) types += i == 0 ? "ID" : "|2DP";
    std::string out =
        "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\",\"P1\"\r\n\r\n"
        "\"GROUP\",\"LOCA\"\r\n";
    out += line("HEADING", headings) + line("UNIT", units) + line("TYPE", types);
    for (const auto& row : rows) out += line("DATA", row);
    return out;
}

AgsHoles holesIn(const std::string& text) { return holesOf(readAgs(text, "site.ags")); }

std::vector<Finding> about(const Findings& findings, const std::string& heading) {
    std::vector<Finding> out;
    std::ranges::copy_if(findings, std::back_inserter(out), [&](const Finding& f) { return f.heading == heading; });
    return out;
}

} // namespace

TEST_CASE("A number in a cell is read whole, or not at all", "[base][numbers]") {
    const struct {
        const char* text;
        Kind kind;
        double value;
    } kWritten[] = {{"5", Kind::Plain, 5},
                    {" -2.50 ", Kind::Plain, -2.5},
                    {"+3", Kind::Plain, 3},
                    {"5.00m", Kind::WithWords, 5},
                    {"2.1 (dry)", Kind::WithWords, 2.1},
                    {"3.50 m bgl", Kind::WithWords, 3.5},
                    {"12%", Kind::WithWords, 12},
                    {"45\xC2\xB0", Kind::WithWords, 45},
                    {"-1.5m", Kind::WithWords, -1.5},
                    {"523,412.10", Kind::Separated, 523412.10},
                    {"12,50", Kind::Separated, 12.5},
                    {"0,5", Kind::Separated, 0.5},
                    {"0,125", Kind::Separated, 0.125},
                    {",5", Kind::Separated, 0.5},
                    {"-12,5", Kind::Separated, -12.5},
                    {"1,234,567", Kind::Separated, 1234567},
                    {"1.234,56", Kind::Separated, 1234.56},
                    {"1.234.567,8", Kind::Separated, 1234567.8},
                    {"523 412.10", Kind::Separated, 523412.1},
                    {"6 120 400", Kind::Separated, 6120400},
                    {"523'412", Kind::Separated, 523412},
                    {"6120400,25", Kind::Separated, 6120400.25},
                    {"12,50 m", Kind::Separated, 12.5}};
    for (const auto& w : kWritten) {
        CAPTURE(w.text);
        const auto read = readWrittenNumber(w.text);
        CHECK(int(read.kind) == int(w.kind));
        REQUIRE(read.value);
        CHECK(*read.value == Approx(w.value).epsilon(1e-12));
    }
    for (const char* ambiguous : {"12,500", "1,234", "-523,412"}) {
        CAPTURE(ambiguous);
        const auto read = readWrittenNumber(ambiguous);
        CHECK(int(read.kind) == int(Kind::Ambiguous));
        CHECK_FALSE(read.value);
    }
    for (const char* none :
         {"",  " ", "dry", "NP",  "50/75", "<5",       ">50", "1 2", "5 10", "1,2,3", "12,34,567", "1..2", "1.2.3",
          "-", ".", ",",   "--5", "1,,2",  "12.5,3.1", "5;6", "0x",  "nan",  "inf",   "1 234 56",  "1'23"}) {
        CAPTURE(none);
        const auto read = readWrittenNumber(none);
        if (std::string_view(none) == "0x") { // words may follow
            CHECK(int(read.kind) == int(Kind::WithWords));
            continue;
        }
        CHECK(int(read.kind) == int(Kind::None));
        CHECK_FALSE(read.value);
    }
}

TEST_CASE("A number with its thousands parted is the one that was written", "[base][numbers][random]") {
    const auto seed = GENERATE(range(1u, 201u));
    std::mt19937 random(seed);
    const long long whole = (long long)(random() % 9'000'000 + 1000);
    const int cents = int(random() % 100);
    const bool negative = random() % 2;
    const auto plain = std::to_string(whole);
    const double value = (negative ? -1 : 1) * (double(whole) + cents / 100.0);
    const struct { char thousands, decimal; } kStyles[] = {{',', '.'}, {'.', ','}, {' ', '.'}, {' ', ','}, {'\'', '.'}};
    for (const auto& style : kStyles) {
        std::string text;
        for (std::size_t i = 0; i < plain.size(); ++i) {
            if (i > 0 && (plain.size() - i) % 3 == 0) text += style.thousands;
            text += plain[i];
        }
        text = fmt::format("{}{}{}{:02}", negative ? "-" : "", text, style.decimal, cents);
        CAPTURE(text);
        const auto read = readWrittenNumber(text);
        REQUIRE(read.value);
        CHECK(*read.value == Approx(value).epsilon(1e-12));
        CHECK(int(read.kind) == int(Kind::Separated));
    }
}

TEST_CASE("Any bytes in a cell are a whole number, or none; nothing crashes", "[base][numbers][random]") {
    std::mt19937 random(7);
    const std::string alphabet = "0123456789.,-+' mE(%\xC2\xB0";
    int separated = 0, words = 0;
    for (int i = 0; i < 20000; ++i) {
        std::string text;
        for (auto n = random() % 9; n > 0; --n) text += alphabet[random() % alphabet.size()];
        const auto read = readWrittenNumber(text);
        CAPTURE(text);
        if (read.value) CHECK(std::isfinite(*read.value));
        CHECK(read.value.has_value() == (read.kind != Kind::None && read.kind != Kind::Ambiguous));
        CHECK((read.kind == Kind::Plain) == parseNumber(text).has_value());
        separated += read.kind == Kind::Separated, words += read.kind == Kind::WithWords;
    }
    CHECK(separated > 100); // the hard cases were met
    CHECK(words > 100);
}

TEST_CASE("Coordinates with thousands and levels with a decimal comma are read whole, and it is said", "[ags][numbers]") {
    const auto read = holesIn(locaFile("LOCA_ID|LOCA_NATE|LOCA_NATN|LOCA_GL|LOCA_FDEP", "|m|m|m|m",
                                       {"BH1|523,412.10|6,120,400.00|12,50|5.00m", "BH2|523,500.00|6,120,500.00|12,500|7.00"}));
    REQUIRE(read.holes.size() == 2);
    CHECK(*read.holes[0].easting == Approx(523412.10)); // it was once 523
    CHECK(*read.holes[0].northing == Approx(6120400));
    CHECK(read.holes[0].level->metres == Approx(12.5)); // it was once 12
    CHECK(read.holes[0].finalDepth->metres == 5);
    CHECK_FALSE(read.holes[1].level); // twelve thousand five hundred, or twelve and a half
    const auto easting = about(read.findings, "LOCA_NATE");
    REQUIRE(easting.size() == 1);
    CHECK(easting[0].message == "LOCA_NATE is \"523,412.10\"; it is read as 523412.1 (2 such values).");
    const auto level = about(read.findings, "LOCA_GL");
    REQUIRE(level.size() == 2);
    CHECK(std::ranges::any_of(level, [](const Finding& f) {
        return f.line == 12 && f.message.find("may mean thousands or a decimal comma; it counts as missing") != std::string::npos;
    }));
    CHECK(about(read.findings, "LOCA_FDEP").size() == 1);
}

TEST_CASE("Units of length are known with their datum and in any spelling; others are said", "[ags][numbers]") {
    for (const char* unit : {"ft", "Ft.", "ft bgl", "feet", "FT OD"}) {
        CAPTURE(unit);
        const auto read = holesIn(locaFile("LOCA_ID|LOCA_GL|LOCA_FDEP", fmt::format("|m OD|{}", unit), {"BH1|12.50|100"}));
        CHECK(read.holes[0].level->metres == 12.5);
        CHECK(read.holes[0].finalDepth->metres == Approx(30.48));
        REQUIRE(about(read.findings, "LOCA_FDEP").size() == 1);
        CHECK(about(read.findings, "LOCA_FDEP")[0].rule == "FC-UNIT");
        CHECK(about(read.findings, "LOCA_GL").empty());
    }
    const auto read = holesIn(locaFile("LOCA_ID|LOCA_GL|LOCA_FDEP", "|m|fathoms", {"BH1|12.50|10"}));
    CHECK(read.holes[0].finalDepth->metres == 10);
    REQUIRE(about(read.findings, "LOCA_FDEP").size() == 1);
    CHECK(about(read.findings, "LOCA_FDEP")[0].message.find("\"fathoms\"") != std::string::npos);
}

TEST_CASE("What the reader found is left out only where the check of rules says it of the same line", "[ags][numbers]") {
    Findings checked{{Severity::Error, "AGS4 Rule 8", "a.ags", 5, "LOCA", "LOCA_GL", "", "checked"},
                     {Severity::Error, "AGS4 Rule 10c", "a.ags", 9, "GEOL", "LOCA_ID", "", "checked"}};
    const Findings read{{Severity::Error, "AGS4 Rule 8", "a.ags", 5, "LOCA", "LOCA_GL", "BH1", "the same"},
                        {Severity::Error, "AGS4 Rule 10c", "a.ags", 9, "GEOL", "", "BH1", "the same by its rule"},
                        {Severity::Error, "AGS4 Rule 8", "a.ags", 6, "LOCA", "LOCA_GL", "BH2", "another line"},
                        {Severity::Error, "AGS4 Rule 10b", "a.ags", 5, "LOCA", "LOCA_ID", "BH1", "another heading and rule"},
                        {Severity::Warning, "FC-PATH", "a.ags", 5, "LOCA", "LOCA_GL", "BH1", "no rule of the standard"}};
    addUnlessKnown(checked, read);
    std::vector<std::string> said;
    for (const auto& f : checked) said.push_back(f.message);
    CHECK(
        said
        == std::vector<std::string>{"checked", "checked", "another line", "another heading and rule", "no rule of the standard"});
}

TEST_CASE("A coordinate typed as text escapes rule 8, and is said all the same", "[ags][numbers]") {
    auto text = locaFile("LOCA_ID|LOCA_NATE|LOCA_NATN", "|m|m", {"BH1|523,412.10|6120400.00"});
    const auto types = text.find("\"TYPE\",\"ID\",\"2DP\"");
    REQUIRE(types != text.npos);
    text.replace(types, 17, "\"TYPE\",\"ID\",\"X\"");
    const auto u = readSource({"site.ags", "", text, 0, {}, {}, ""}, "");
    const auto said = about(u.file.findings, "LOCA_NATE");
    CHECK(std::ranges::any_of(said, [](const Finding& f) { return f.message.find("523412.1") != std::string::npos; }));
    CHECK(*u.holes[0].easting == Approx(523412.1));
}

TEST_CASE("A column typed as text is judged by the dictionary", "[ags][types]") {
    const auto check = [](const std::string& type, const std::string& easting, const char* kind) {
        auto text = locaFile("LOCA_ID|LOCA_TYPE|LOCA_NATE", "||m", {fmt::format("BH1|{}|{}", kind, easting)});
        const auto at = text.find("\"TYPE\",\"ID\",\"2DP\",\"2DP\"");
        text.replace(at, 23,
                     fmt::format("\"TYPE\",\"ID\",\"{}\",\"{}\"", type == "PA" ? "PA" : "X", type == "PA" ? "2DP" : type));
        return checkAgs(readAgs(text, "a.ags"), {});
    };
    const auto words = [](const Findings& findings, const std::string& heading) {
        std::vector<std::string> out;
        for (const auto& f : about(findings, heading))
            if (f.rule == "AGS4 Rule 8" || f.rule == "AGS4 Rule 16") out.push_back(f.rule + ": " + f.message);
        return out;
    };
    const auto asText = words(check("X", "523,412.10", "BH"), "LOCA_NATE");
    REQUIRE(asText.size() == 2); // it was once none
    CHECK(asText[0] == "AGS4 Rule 8: LOCA_NATE is of type X, where the dictionary has 2DP: it is judged by the dictionary.");
    CHECK(asText[1] == "AGS4 Rule 8: LOCA_NATE is \"523,412.10\", which is not of the dictionary's type 2DP.");
    CHECK(words(check("X", "523412.1", "BH"), "LOCA_NATE").size() == 1); // a number all the same
    CHECK(words(check("X", "", "BH"), "LOCA_NATE").size() == 1);
    const auto code = words(check("X", "523412.10", "BH"), "LOCA_TYPE");
    CHECK(std::ranges::any_of(code, [](const std::string& w) { return w.starts_with("AGS4 Rule 16"); }));
    CHECK(std::ranges::none_of(words(check("PA", "523412.10", "BH"), "LOCA_TYPE"),
                               [](const std::string& w) { return w.starts_with("AGS4 Rule 8"); }));
}

TEST_CASE("An interval whose base is blank ends where the next begins, or at the final depth, and it is said", "[ags][geology]") {
    const auto file = [](const std::vector<std::string>& intervals, const char* finalDepth) {
        auto text =
            locaFile("LOCA_ID|LOCA_FDEP", "|m", {fmt::format("BH1|{}", finalDepth)})
            + "\r\n\"GROUP\",\"GEOL\"\r\n\"HEADING\",\"LOCA_ID\",\"GEOL_TOP\",\"GEOL_BASE\",\"GEOL_DESC\",\"GEOL_GEOL\"\r\n"
              "\"UNIT\",\"\",\"m\",\"m\",\"\",\"\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"X\",\"PA\"\r\n";
        for (const auto& i : intervals) text += "\"DATA\",\"BH1\"," + i + ",\"CLAY\",\"AL\"\r\n";
        return text;
    };
    const auto read = holesIn(file({"\"0.00\",\"2.00\"", "\"2.00\",\"\"", "\"3.50\",\"\""}, "8.00"));
    const auto& log = read.holes[0].intervals;
    REQUIRE(log.size() == 3); // the two were once left out
    CHECK(log[1].base.metres == 3.5);
    CHECK(log[2].base.metres == 8);
    std::vector<std::string> said;
    for (const auto& f : read.findings)
        if (f.rule == "FC-DEPTH") said.push_back(f.message);
    REQUIRE(said.size() == 2);
    CHECK(said[0] == "GEOL_BASE is empty: the interval from 2.00 m is taken to end at 3.50 m, where the next one begins.");
    CHECK(said[1] == "GEOL_BASE is empty: the interval from 3.50 m is taken to end at 8.00 m, the final depth.");
    SECTION("without a final depth the last one is left out, with an error") {
        const auto open = holesIn(file({"\"0.00\",\"2.00\"", "\"2.00\",\"\""}, ""));
        CHECK(open.holes[0].intervals.size() == 1);
        CHECK(std::ranges::any_of(open.findings,
                                  [](const Finding& f) { return f.rule == "FC-DEPTH" && f.severity == Severity::Error; }));
    }
    SECTION("what is not a number is not a blank") {
        const auto words = holesIn(file({"\"0.00\",\"2.00\"", "\"2.00\",\"end\""}, "8.00"));
        CHECK(words.holes[0].intervals.size() == 1);
    }
    SECTION("two that begin together end together") {
        const auto twins = holesIn(file({"\"2.00\",\"\"", "\"2.00\",\"\"", "\"5.00\",\"6.00\""}, "8.00"));
        REQUIRE(twins.holes[0].intervals.size() == 3);
        CHECK(twins.holes[0].intervals[0].base.metres == 5);
        CHECK(twins.holes[0].intervals[1].base.metres == 5);
    }
}

TEST_CASE("Samples, tests and water below the end of a hole are said, once a kind", "[ags][checks]") {
    Hole hole;
    hole.id = "BH1", hole.easting = 480500, hole.northing = 6120400, hole.level = Level{24}, hole.finalDepth = Depth{8};
    hole.intervals.push_back({Depth{0}, Depth{8}, "CLAY", {{"GEOL_GEOL", "AL"}}, 5});
    hole.samples = {{Depth{7.5}, {}, "B", "1"}, {Depth{8}, {}, "B", "2"}};
    hole.blowCounts = {{Depth{7}, 12}};
    const auto said = [&] {
        Holes holes;
        holes.push_back(hole);
        std::vector<std::string> out;
        for (const auto& f : checkHoles(holes))
            if (f.rule == "FC-BELOW-END") out.push_back(f.message);
        return out;
    };
    CHECK(said().empty());                               // at the very end is in the hole
    hole.samples.push_back({Depth{8.15}, {}, "D", "3"}); // behind a seating drive
    hole.blowCounts.push_back({Depth{8.5}, 30});
    CHECK(said().empty());
    hole.samples.push_back({Depth{8.75}, {}, "B", "4"});
    hole.samples.push_back({Depth{9.25}, {}, "B", "5"});
    hole.blowCounts.push_back({Depth{8.6}, 30});
    hole.strikes.push_back({Depth{12}, {}});
    CHECK(said()
          == std::vector<std::string>{"A sample is below the final depth of 8.00 m, at 9.25 m and 1 more.",
                                      "A standard penetration test is below the final depth of 8.00 m, at 8.60 m.",
                                      "A water strike is below the final depth of 8.00 m, at 12.00 m."});
    hole.finalDepth.reset();
    CHECK(said().empty());
}

TEST_CASE("Groups may be named by one to four capitals or digits", "[ags]") {
    for (const char* name : {"A", "AB", "LAB", "OWN1"}) {
        CAPTURE(name);
        auto text = locaFile("LOCA_ID", "", {"BH1"});
        text += fmt::format("\r\n\"GROUP\",\"{0}\"\r\n\"HEADING\",\"LOCA_ID\",\"{0}_X\"\r\n\"UNIT\",\"\",\"\"\r\n"
                            "\"TYPE\",\"ID\",\"X\"\r\n\"DATA\",\"BH1\",\"1\"\r\n",
                            name);
        const auto findings = checkAgs(readAgs(text, "a.ags"), {});
        CHECK(std::ranges::none_of(findings, [](const Finding& f) { return f.rule == "AGS4 Rule 19"; }));
        auto small = text;
        for (auto at = small.find(name); at != small.npos; at = small.find(name, at + 1))
            if (small.compare(at - 1, 1, "\"") == 0 && small[at + std::strlen(name)] == '"') small[at] = 'z';
        CHECK(std::ranges::any_of(checkAgs(readAgs(small, "a.ags"), {}),
                                  [](const Finding& f) { return f.rule == "AGS4 Rule 19"; }));
    }
}

TEST_CASE("The local grid takes no place from a hole that has none on it", "[import][local]") {
    const auto text = locaFile("LOCA_ID|LOCA_NATE|LOCA_NATN|LOCA_LOCX|LOCA_LOCY", "|m|m|m|m",
                               {"BH1|480500|6120400|100|100", "BH2|480600|6120500||"});
    SourceSettings settings;
    settings.localGrid = LocalGrid{{{0, 0}, {480400, 6120300}}, {{1000, 0}, {481400, 6120300}}};
    const auto u = readSource({"a.ags", "", text, 0, {}, settings, ""}, "");
    REQUIRE(u.holes.size() == 2);
    CHECK(u.holes[0].place()->x == Approx(480500));
    CHECK(u.holes[0].place()->y == Approx(6120400));
    REQUIRE(u.holes[1].place()); // it was once taken away
    CHECK(*u.holes[1].place() == Point2{480600, 6120500});
}

TEST_CASE("An inclined hole without a bearing is said, once", "[ags][path]") {
    const auto text =
        locaFile("LOCA_ID|LOCA_NATE|LOCA_NATN|LOCA_GL", "|m|m|m", {"BH1|480500|6120400|24"})
        + "\r\n\"GROUP\",\"HORN\"\r\n\"HEADING\",\"LOCA_ID\",\"HORN_TOP\",\"HORN_BASE\",\"HORN_ORNT\",\"HORN_INCL\"\r\n"
          "\"UNIT\",\"\",\"m\",\"m\",\"deg\",\"deg\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"0DP\",\"0DP\"\r\n"
          "\"DATA\",\"BH1\",\"0.00\",\"5.00\",\"\",\"90\"\r\n\"DATA\",\"BH1\",\"5.00\",\"9.00\",\"\",\"60\"\r\n"
          "\"DATA\",\"BH1\",\"9.00\",\"12.00\",\"\",\"55\"\r\n";
    const auto read = holesIn(text);
    CHECK(read.holes[0].stations.size() == 3);
    std::vector<Finding> said;
    std::ranges::copy_if(read.findings, std::back_inserter(said), [](const Finding& f) { return f.rule == "FC-PATH"; });
    REQUIRE(said.size() == 1);
    CHECK(said[0].message == "The hole is inclined at 60 degrees and HORN_ORNT is empty: it is taken to go down towards north.");
}

TEST_CASE("Tables read thousands and commas in their own decimal sign", "[import][table][numbers]") {
    const auto read = [](const std::string& text) { return readSource({"t.csv", "", text, 0, {}, {}, ""}, ""); };
    const auto pointed =
        read("Hole,Easting,Northing,Level\nA,\"523,412.10\",\"6,120,400.00\",\"12,50\"\nB,523500.00,6120500.00,13.5\n");
    CHECK(*pointed.holes[0].easting == Approx(523412.1));
    CHECK(pointed.holes[0].level->metres == Approx(12.5));
    CHECK(pointed.file.findings.size() >= 3); // each is said
    const auto comma = read("Hole;Easting;Northing;Level\nA;523412,10;6120400,00;12,50\nB;523.500,00;6120500,00;13,5\n");
    CHECK(comma.holes.size() == 2);
    CHECK(*comma.holes[0].easting == Approx(523412.1));
    CHECK(*comma.holes[1].easting == Approx(523500)); // a point that parts thousands
}

TEST_CASE("A hole that lies flat or rises is said, with what to do", "[ags][path]") {
    const auto file = [](const char* inclination) {
        return locaFile("LOCA_ID|LOCA_NATE|LOCA_NATN|LOCA_GL|LOCA_FDEP", "|m|m|m|m", {"BH1|480500|6120400|24|20"})
               + fmt::format(
                   "\r\n\"GROUP\",\"HORN\"\r\n\"HEADING\",\"LOCA_ID\",\"HORN_TOP\",\"HORN_BASE\",\"HORN_ORNT\",\"HORN_INCL\"\r\n"
                   "\"UNIT\",\"\",\"m\",\"m\",\"deg\",\"deg\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"0DP\",\"0DP\"\r\n"
                   "\"DATA\",\"BH1\",\"0.00\",\"20.00\",\"45\",\"{}\"\r\n",
                   inclination);
    };
    const auto said = [&](const char* inclination) {
        std::vector<std::string> out;
        for (const auto& f : checkHoles(holesIn(file(inclination)).holes))
            if (f.rule == "FC-PATH") out.push_back(f.message);
        return out;
    };
    for (const char* usual : {"1", "60", "90"}) {
        CAPTURE(usual);
        CHECK(said(usual).empty());
    }
    REQUIRE(said("0").size() == 1);
    CHECK(said("0")[0]
          == "The hole is horizontal at 0.00 m, as its inclination is 0, where 90 is straight down. It may have been measured "
             "from the vertical.");
    for (const char* rising : {"-60", "120"}) {
        CAPTURE(rising);
        REQUIRE(said(rising).size() == 1);
        CHECK(said(rising)[0].find("rises at 0.00 m") != std::string::npos);
    }
    SECTION("edition 3 says it of HOLE_INCL") {
        const std::string three =
            "\"**PROJ\"\r\n\"*PROJ_ID\"\r\n\"<UNITS>\"\r\n\"P1\"\r\n\r\n\"**HOLE\"\r\n"
            "\"*HOLE_ID\",\"*HOLE_NATE\",\"*HOLE_NATN\",\"*HOLE_GL\",\"*HOLE_ORNT\",\"*HOLE_INCL\"\r\n"
            "\"<UNITS>\",\"m\",\"m\",\"m\",\"deg\",\"deg\"\r\n"
            "\"A\",\"480500\",\"6120400\",\"24\",\"45\",\"0\"\r\n\"B\",\"480600\",\"6120400\",\"24\",\"45\",\"-60\"\r\n"
            "\"C\",\"480700\",\"6120400\",\"24\",\"45\",\"60\"\r\n";
        const auto read = holesIn(three);
        std::vector<std::string> holes;
        for (const auto& f : read.findings)
            if (f.rule == "FC-PATH") holes.push_back(f.hole);
        CHECK(holes == std::vector<std::string>{"A", "B"});
        CHECK(read.holes[0].stations.empty());
        CHECK(read.holes[2].stations.size() == 1);
    }
}
