// Surveys that go from their text to points without a table between: the same points and findings as by the table, row by row.
#include "fixtures.h"
#include "formats/table_rows.h"
#include "ground/survey_text.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// Rows of a survey with whatever else is found in such files: quotes, blank lines, missing and wrong levels, spare cells.
std::string surveyText(std::mt19937& random, std::size_t rows, char separator, const char* end, bool comma) {
    const auto number = [&](double v) {
        auto text = fmt::format("{:.2f}", v);
        if (comma) std::ranges::replace(text, '.', ',');
        return text;
    };
    const std::string sep(1, separator);
    std::string text = "point" + sep + "easting" + sep + "northing" + sep + "level" + sep + "code" + end;
    for (std::size_t i = 0; i < rows; ++i) {
        const auto what = random() % 20;
        if (what == 0) text += end; // a blank line
        const std::string level = what == 1 ? "" : what == 2 ? "dry" : number(20 + double(random() % 900) / 100);
        const std::string code = what == 3   ? "\"kerb" + sep + " top\""
                                 : what == 4 ? "\"say \"\"wall\"\"\""
                                 : what == 5 ? "\"two" + std::string("\n") + "lines\""
                                             : std::string(random() % 2 ? "GL" : " TB1 ");
        text += fmt::format("{}{}{}{}{}{}{}{}{}", i, sep, number(480000 + double(random() % 5000) / 10), sep,
                            number(6120000 + double(random() % 5000) / 10), sep, level, sep, code);
        if (what == 6) text += sep + "spare";
        text += end;
    }
    return text;
}

std::string words(const Findings& findings) {
    std::string out;
    for (const auto& f : findings) out += fmt::format("{} {} {}: {}\n", int(f.severity), f.line, f.heading, f.message);
    return out;
}

} // namespace

TEST_CASE("A survey read straight from its text is the same as by a table", "[survey][random]") {
    const auto seed = GENERATE(range(1u, 41u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    const bool comma = random() % 3 == 0;
    const char separator = comma ? ';' : ",;\t"[random() % 3];
    const char* ends[] = {"\n", "\r\n", "\r"};
    const auto text = surveyText(random, 60, separator, ends[random() % 3], comma);
    const auto table = readTable(text, "s.csv");
    const auto expected = surveyOf(table);
    const SeparatedText rows(text);
    CHECK(rows.separator() == separator);
    std::size_t count = 0;
    const auto head = sampledTable(rows, "s.csv", {}, 20, count);
    CHECK(head.columns == table.columns);
    CHECK(head.decimalComma == table.decimalComma);
    const auto got = surveyOf(rows, head);
    REQUIRE(got.points.size() == expected.points.size());
    CHECK(got.points == expected.points);
    CHECK(got.withoutLevel == expected.withoutLevel);
    CHECK(words(got.findings) == words(expected.findings));
    CHECK(got.points.size() > 40); // most rows are good
}

TEST_CASE("Rows are counted, and a sample has the first ones and some from all over", "[survey]") {
    std::string text = "point,easting,northing,level,code\n";
    for (int i = 0; i < 5000; ++i) text += fmt::format("{},{},{},{},GL\n", i, 480000 + i, 6120000 + i, 20);
    const SeparatedText rows(text);
    std::size_t count = 0;
    const auto sample = sampledTable(rows, "s.csv", {}, 100, count);
    CHECK(count >= 5000);
    CHECK(sample.rows.size() <= 101);
    REQUIRE(sample.rows.size() > 50);
    CHECK(sample.cell(0, 0) == "0");
    CHECK(sample.rows.back().line > 2500);
    for (std::size_t r = 1; r < sample.rows.size(); ++r) CHECK(sample.rows[r].line > sample.rows[r - 1].line);
}

TEST_CASE("Going through the rows ends when it is told to, and nothing is read beyond the text", "[survey]") {
    const SeparatedText rows("a,b\n1,2\n\n3,4");
    std::vector<std::pair<int, std::string>> seen;
    rows.eachRow([&](int line, const auto& cells) {
        seen.emplace_back(line, std::string(cells[0]));
        return true;
    });
    CHECK(seen == std::vector<std::pair<int, std::string>>{{1, "a"}, {2, "1"}, {4, "3"}});
    int visited = 0;
    rows.eachRow([&](int, const auto&) { return ++visited < 2; });
    CHECK(visited == 2);
    const SeparatedText empty("");
    empty.eachRow([&](int, const auto&) {
        FAIL("an empty text has no rows");
        return true;
    });
    const SeparatedText open("a,\"never closed\n1,2\n");
    int rowsOfOpen = 0;
    open.eachRow([&](int, const auto&) { return ++rowsOfOpen, true; });
    CHECK(rowsOfOpen >= 1);
}

TEST_CASE("Units in headings hold for a long survey as for a short one", "[survey][units]") {
    std::string text = "Point,Easting (m),Northing (m),Level (ft),Code\n";
    for (int i = 0; i < 60'000; ++i) // more than two megabytes: it goes by without a table
        text += fmt::format("{},{}.00,{}.00,{}.50,GL         \n", i, 480000 + i % 300, 6120000 + i / 300, 100 + i % 7);
    REQUIRE(text.size() > 2'000'000);
    const auto u = readSource({"long.csv", "", SharedBytes(text), 0, {}, {}, ""}, "EPSG:25831");
    REQUIRE(u.survey);
    REQUIRE(u.survey->points.size() == 60'000);
    CHECK(u.survey->points[3].place.z == Approx(103.5 * 0.3048));
    CHECK(u.survey->points[3].place.x == 480003);
    CHECK(std::ranges::any_of(u.file.findings, [](const Finding& f) { return f.rule == "FC-UNIT"; }));
}
