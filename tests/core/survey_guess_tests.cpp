// Surveys as they come from the field: without a header, in any order of columns, in any dialect.
#include "formats/crs.h"
#include "ground_fixtures.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <numeric>

using namespace fox;
using namespace fox::test;

namespace {

struct Dialect {
    std::string separator;
    bool decimalComma = false;
    std::string end = "\n";
};

/// Columns by letter: # number, N northing, E easting, L level, C code. A survey of a hill, 60 points in the order in which
/// somebody walked.
std::string surveyIn(const std::string& order, const Dialect& d, unsigned seed, bool header, double pointsFrom = 4001) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> step(-14, 14);
    std::string out;
    const char* names[] = {"Pt", "Rechts", "Hoch", "H", "Bem"};
    const auto field = [&](char what, int i, double e, double n) -> std::string {
        const double z = 24 + 6 * std::sin(e / 150) * std::cos(n / 190);
        std::string text = what == '#'   ? fmt::format("{:.0f}", pointsFrom + i)
                           : what == 'E' ? fmt::format("{:.2f}", e)
                           : what == 'N' ? fmt::format("{:.2f}", n)
                           : what == 'L' ? fmt::format("{:.2f}", z)
                                         : (i % 5 == 0   ? "TB"
                                            : i % 7 == 0 ? "RD"
                                                         : "GL");
        if (d.decimalComma) std::ranges::replace(text, '.', ',');
        return text;
    };
    const auto line = [&](const std::function<std::string(char)>& of) {
        for (std::size_t c = 0; c < order.size(); ++c) out += (c ? d.separator : "") + of(order[c]);
        out += d.end;
    };
    if (header) line([&](char what) { return std::string(names[std::string("#ENLC").find(what)]); });
    double e = 480700, n = 6120400;
    for (int i = 0; i < 60; ++i) {
        e += step(random), n += step(random);
        line([&](char what) { return field(what, i, e, n); });
    }
    return out;
}

ImportPreview read(const std::string& text, const SiteContext& site) {
    return readSource({"survey.csv", "", text, 0, {}, {}, ""}, site);
}

/// Whether every point is where it was walked.
bool isRight(const ImportPreview& u) {
    return u.survey && u.survey->points.size() == 60 && std::ranges::all_of(u.survey->points, [](const SurveyPoint& p) {
               const double z = 24 + 6 * std::sin(p.place.x / 150) * std::cos(p.place.y / 190);
               return std::abs(p.place.x - 480700) < 1000 && std::abs(p.place.y - 6120400) < 1000
                      && std::abs(p.place.z - z) < 0.05;
           });
}

SiteContext inSystem() { return SiteContext("EPSG:25831"); }
SiteContext withData() {
    SiteContext site("");
    site.data = {480000, 6120000, 481500, 6121000};
    return site;
}

} // namespace

TEST_CASE("Columns without names are known by their values, and never wrongly in silence", "[ground][import][guess]") {
    int files = 0, right = 0;
    unsigned seed = 1;
    for (const char* order : {"#NELC", "#ENLC", "ENL", "NEL", "#ENL", "CENL"})
        for (const auto& dialect : {Dialect{","}, Dialect{";", true}, Dialect{"\t"}, Dialect{" "}, Dialect{", ", false, "\r\n"}})
            for (const bool header : {false, true}) {
                CAPTURE(order, dialect.separator, header);
                for (const auto& site : {inSystem(), withData()}) {
                    const auto u = read(surveyIn(order, dialect, ++seed, header), site);
                    ++files;
                    right += isRight(u);
                    CHECK((isRight(u) || u.asksForOrder())); // never wrong without a question
                    if (!isRight(u)) continue;
                    for (const auto& point : u.survey->points) // a code is no number of a point, wherever it stands
                        CHECK(point.code.empty() == (std::string_view(order).find('C') == std::string_view::npos));
                    const auto again = readSource(u.file, site); // with the columns named, as a project reads it again
                    CHECK(isRight(again));
                }
            }
    CAPTURE(files, right);
    CHECK(files == 120);
    CHECK(10 * right >= 9 * files);
}

TEST_CASE("With neither a system nor data, which column is the easting is asked", "[ground][import][guess]") {
    const auto u = read(surveyIn("#NELC", {","}, 3, false), SiteContext(""));
    CHECK(u.asksForOrder());
    CHECK_FALSE(u.survey);
    CHECK_THAT(u.guess->why, Catch::Contains("Columns 2 and 3 are coordinates"));
    CHECK_THROWS_WITH(importSource({}, u), Catch::Contains("survey.csv: Columns 2 and 3"));
    // the answer is the order of the columns
    SourceSettings answer;
    answer.columns = {"point", "northing", "easting", "level", "code"};
    const auto told = readSource({"survey.csv", "", surveyIn("#NELC", {","}, 3, false), 0, {}, answer, ""}, SiteContext(""));
    CHECK(isRight(told));
    CHECK(told.survey->points[0].code == "TB");
    CHECK(told.survey->points[0].name == "4001");
}

TEST_CASE("A small local grid is asked about too, and numbers of points are not taken for coordinates",
          "[ground][import][guess]") {
    std::string text;
    for (int i = 0; i < 30; ++i)
        text += fmt::format("{},{:.2f},{:.2f},{:.2f}\n", i + 1, 100 + 7.3 * (i % 6), 200 + 9.1 * (i / 6), 12 + 0.1 * i);
    const auto u = read(text, SiteContext(""));
    REQUIRE(u.asksForOrder());
    CHECK(u.guess->columns == std::vector<std::string>{"point", "easting", "northing", "level"});
}

TEST_CASE("Coordinates and level are found among many columns of numbers, wherever they stand", "[ground][guess][random]") {
    const auto seed = GENERATE(range(1u, 13u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    const std::size_t width = 12 + seed;
    std::vector<std::size_t> at(width);
    std::iota(at.begin(), at.end(), std::size_t(0));
    std::ranges::shuffle(at, random);
    const std::size_t easting = at[0], northing = at[1], level = at[2];
    std::uniform_real_distribution<double> along(0, 800), noise(-50, 50);
    std::vector<Table::Row> rows;
    for (int i = 0; i < 300; ++i) {
        Table::Row row;
        const double e = 480300 + along(random), n = 6120100 + along(random);
        for (std::size_t c = 0; c < width; ++c)
            row.cells.push_back(fmt::format("{:.2f}", c == easting    ? e
                                                      : c == northing ? n
                                                      : c == level    ? 24 + 6 * std::sin(e / 150) * std::cos(n / 190)
                                                                      : noise(random)));
        rows.push_back(std::move(row));
    }
    const ExpectedPlaces expected[] = {{{480200, 6120000, 481200, 6121000}, ""}, {{}, "EPSG:25831"}};
    for (const auto& where : expected) {
        const auto guess = guessSurvey(rows, false, where);
        REQUIRE(guess);
        CHECK(guess->columns[easting] == "easting");
        CHECK(guess->columns[northing] == "northing");
        CHECK(guess->columns[level] == "level");
        CHECK(guess->order == SurveyGuess::Order::Known);
    }
    const auto alone = guessSurvey(rows, false, {}); // by the values alone the two may be exchanged, which is asked
    REQUIRE(alone);
    CHECK(alone->order == SurveyGuess::Order::Asked);
    CHECK((alone->columns[easting] == "easting" || alone->columns[easting] == "northing"));
    CHECK((alone->columns[northing] == "easting" || alone->columns[northing] == "northing"));
    CHECK(alone->columns[level] == "level");
}

TEST_CASE("Rows with holes in them, and rows that are short, are no obstacle to the guess", "[ground][guess][random]") {
    const auto seed = GENERATE(range(1u, 9u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> along(0, 800), chance(0, 1);
    std::vector<Table::Row> rows;
    for (int i = 0; i < 200; ++i) {
        const double e = 480300 + along(random), n = 6120100 + along(random);
        Table::Row row;
        row.cells = {std::to_string(i + 1), fmt::format("{:.2f}", n), fmt::format("{:.2f}", e),
                     fmt::format("{:.2f}", 24 + e / 400), i % 3 ? "GL" : "TB"};
        if (chance(random) < 0.1) row.cells[3].clear();  // a level that was not taken
        if (chance(random) < 0.05) row.cells[1].clear(); // a northing that is missing
        if (chance(random) < 0.1) row.cells.resize(4);   // no code
        rows.push_back(std::move(row));
    }
    rows[17].cells.clear();
    const auto guess = guessSurvey(rows, false, {{480200, 6120000, 481200, 6121000}, "EPSG:25831"});
    REQUIRE(guess);
    CHECK(guess->columns == std::vector<std::string>{"point", "northing", "easting", "level", "code"});
    CHECK(guess->order == SurveyGuess::Order::Known);
}

TEST_CASE("Points that lie nowhere near the project can be told what they are", "[ground][import][guess]") {
    SiteContext far("");
    far.data = {2000, 3000, 2500, 3500};
    const auto text = surveyIn("#NELC", {","}, 3, false);
    const auto u = read(text, far);
    REQUIRE(u.asksForOrder());
    CHECK_THAT(u.guess->why, Catch::Contains("what they hold"));
    REQUIRE(u.sheets.size() == 1);
    CHECK(u.sheets[0].rows.size() == 60);
    CHECK_THROWS_WITH(importSource({}, u), Catch::Contains("No columns of coordinates"));
    SourceSettings answer;
    answer.columns = {"point", "northing", "easting", "level", "code"};
    CHECK(isRight(readSource({"survey.csv", "", text, 0, {}, answer, ""}, far)));
}

TEST_CASE("Columns with points and columns with decimal commas are read in one table", "[formats][table][guess]") {
    const auto pointed = surveyIn("ENLC", {";"}, 9, false);
    std::string text;
    for (const auto& row : split(pointed, '\n')) {
        auto cells = split(row, ';');
        if (cells.size() < 4) continue;
        std::string level(cells[2]);
        std::ranges::replace(level, '.', ',');
        text += fmt::format("{};{};{};{}\n", cells[0], cells[1], level, cells[3]);
    }
    CHECK(isRight(read(text, withData())));
    std::ranges::replace(text, ';', '\t');
    CHECK(isRight(read(text, withData())));
    // commas that part thousands are none
    CHECK_FALSE(readTable("a\tb\n1,234\t5.5\n2,345\t6.5\n", "t.txt").decimalComma);
}

TEST_CASE("What is not a survey is not taken for one", "[ground][import][guess]") {
    const auto holes = read("Hole,Easting,Northing,Level\nB1,480700,6120400,24\nB2,480800,6120500,25\n", inSystem());
    CHECK_FALSE(holes.survey);
    CHECK(holes.holes.size() == 2);
    const auto words = read("colour,size\nred,3\nblue,4\n", inSystem());
    CHECK_FALSE(words.survey);
    CHECK_FALSE(words.guess);
    CHECK_FALSE(guessSurvey({}, false, {}));
    CHECK_FALSE(guessSurvey({{1, {"5", "6"}}, {2, {"7", "8"}}}, false, {})); // no third column
}

TEST_CASE("Blanks part the cells of a table, however many there are", "[formats][table][guess]") {
    const auto t = readTable("  1   480612.59  6120466.03 24.16 GL\n 12   480619.78  6120473.31 24.38 GL\n", "s.txt",
                             {"point", "easting", "northing", "level", "code"});
    REQUIRE(t.rows.size() == 2);
    CHECK(t.rows[1].cells == std::vector<std::string>{"12", "480619.78", "6120473.31", "24.38", "GL"});
    CHECK(t.rows[1].line == 2);
    CHECK(readTable("1 480612,59 6120466,03 24,16\n2 480612,60 6120466,03 24,17\n", "s.txt", {"p", "e", "n", "z"}).number(0, 1)
          == 480612.59);
    CHECK(readTable("a title, with words\nb, c d e\n", "t.csv").separator == ','); // a table of words
    CHECK(readTable("1, 480612.59, 6120466.03\n2, 480612.59, 6120466.03\n", "t.csv").separator == ',');
}

TEST_CASE("The usual orders are offered for as many columns as there are", "[ground][guess]") {
    CHECK(usualSurveyOrders(2).empty());
    CHECK(usualSurveyOrders(3)
          == std::vector<std::vector<std::string>>{{"easting", "northing", "level"}, {"northing", "easting", "level"}});
    CHECK(usualSurveyOrders(4).size() == 4);
    for (const auto& order : usualSurveyOrders(6)) CHECK(order.size() == 6);
}
