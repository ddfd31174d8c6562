#include "base/parallel.h"
#include "fixtures.h"

#include <atomic>
#include <catch2/catch.hpp>
#include <fstream>

using namespace fox;
using namespace fox::test;

TEST_CASE("Numbers are whole decimals, the same in every locale", "[base]") {
    CHECK(parseNumber("12.5") == 12.5);
    CHECK(parseNumber("  -3 ") == -3);
    CHECK(parseNumber("+7") == 7);
    CHECK(parseNumber("1e3") == 1000);
    for (const char* text : {"", " ", "abc", "12x", "1,5", "nan", "inf", "-inf", "0x10", "1 2", "--3", "1e999"}) {
        CAPTURE(text);
        CHECK_FALSE(parseNumber(text));
    }
}

TEST_CASE("A number may lead its unit", "[base]") {
    CHECK(parseLeadingNumber("3.50m") == 3.5);
    CHECK(parseLeadingNumber("3.50 m") == 3.5);
    CHECK(parseLeadingNumber("-1.2") == -1.2);
    for (const char* text : {"", "-", "N/A", "Not recorded", "m3", "nan5", "inf", "."}) {
        CAPTURE(text);
        CHECK_FALSE(parseLeadingNumber(text));
    }
}

TEST_CASE("Latin-1 becomes UTF-8, and UTF-8 is known", "[base]") {
    CHECK(latin1ToUtf8("Q\xFCrn") == "Q\xC3\xBCrn");
    CHECK(isUtf8("plain"));
    CHECK(isUtf8("Q\xC3\xBCrn"));
    CHECK_FALSE(isUtf8("Q\xFCrn"));
    CHECK_FALSE(isUtf8("cut \xC3"));
    for (int c = 128; c < 256; ++c) CHECK(isUtf8(latin1ToUtf8(std::string(1, char(c)))));
}

TEST_CASE("Splitting keeps empty pieces", "[base]") {
    CHECK(split("a,,b,", ',') == std::vector<std::string_view>{"a", "", "b", ""});
    CHECK(split("", ',') == std::vector<std::string_view>{""});
    CHECK(trimmed(" \t a b \r\n") == "a b");
    CHECK(equalNoCase("Loca_Id", "LOCA_ID"));
}

TEST_CASE("A number goes with its noun", "[base]") {
    CHECK(counted(0, "hole") == "0 holes");
    CHECK(counted(1, "hole") == "1 hole");
    CHECK(counted(2, "hole") == "2 holes");
    CHECK(counted(1, "vertex", "vertices") == "1 vertex");
    CHECK(counted(12, "vertex lies", "vertices lie") == "12 vertices lie");
}

TEST_CASE("A frame has whole cells from its north-west corner", "[base]") {
    const Frame f{0, 0, 100, 95, 10};
    CHECK(f.columns() == 10);
    CHECK(f.rows() == 10);
    CHECK(f.centre(0, 0) == Point2{5, 90});
    CHECK(f.centre(9, 9) == Point2{95, 0});
    CHECK(Frame{0, 0, 0.3, 0.3, 0.1}.columns() == 3); // not 4 by rounding
}

TEST_CASE("A frame around places covers them with a round cell", "[base][random]") {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> at(-1e5, 1e5);
    for (int i = 0; i < 200; ++i) {
        Box2 box;
        box.include({at(random), at(random)});
        box.include({at(random), at(random)});
        const auto f = frameAround(box);
        REQUIRE(f.xmin <= box.xmin);
        REQUIRE(f.ymax >= box.ymax);
        REQUIRE(f.xmax >= box.xmax);
        REQUIRE(f.ymin <= box.ymin);
        const double mantissa = f.cell / std::pow(10, std::floor(std::log10(f.cell) + 1e-9));
        REQUIRE((std::abs(mantissa - 1) < 1e-6 || std::abs(mantissa - 2) < 1e-6 || std::abs(mantissa - 5) < 1e-6));
        REQUIRE(f.columns() <= 400);
    }
    Box2 one;
    one.include({5, 5});
    CHECK(frameAround(one).columns() > 1);
}

TEST_CASE("Inside and outside a polygon that is not convex", "[base]") {
    const Polygon2 horseshoe{{0, 0}, {10, 0}, {10, 10}, {7, 10}, {7, 3}, {3, 3}, {3, 10}, {0, 10}};
    CHECK(contains(horseshoe, {1, 9}));
    CHECK(contains(horseshoe, {9, 9}));
    CHECK(contains(horseshoe, {5, 1}));
    CHECK_FALSE(contains(horseshoe, {5, 8}));
    CHECK_FALSE(contains(horseshoe, {-1, 5}));
}

TEST_CASE("Depths and levels part and meet", "[base]") {
    CHECK(Level{10} - Depth{3} == Level{7});
    CHECK(Level{10} - Level{7} == Depth{3});
    CHECK(Depth{1} < Depth{2});
}

TEST_CASE("Parallel pieces cover everything once, and errors come through", "[base]") {
    std::vector<std::atomic<int>> seen(1001);
    parallelFor(seen.size(), 7, [&](std::size_t begin, std::size_t end) {
        REQUIRE(end - begin <= 7);
        for (auto i = begin; i < end; ++i) ++seen[i];
    });
    CHECK(std::ranges::all_of(seen, [](const auto& n) { return n == 1; }));
    parallelFor(0, 7, [](std::size_t, std::size_t) { FAIL("there is nothing to do"); });
    CHECK_THROWS_AS(parallelFor(100, 1,
                                [](std::size_t i, std::size_t) {
                                    if (i == 50) throw Error("x");
                                }),
                    Error);
}

TEST_CASE("Work stops between pieces once asked to", "[base]") {
    std::stop_source stop;
    std::atomic<int> done = 0;
    CHECK_THROWS_AS(parallelFor(
                        100000, 1,
                        [&](std::size_t, std::size_t) {
                            if (++done == 10) stop.request_stop();
                        },
                        Progress(stop.get_token())),
                    Stopped);
    CHECK(done < 100000);
}

TEST_CASE("A file is replaced whole or stays as it was", "[base]") {
    const TemporaryFolder folder;
    folder.write("a.txt", "before");
    {
        ReplaceFile replace(folder / "a.txt");
        std::ofstream(replace.scratch()) << "half";
        CHECK(replace.scratch().extension() == ".txt");
    }
    CHECK(readBytes(folder / "a.txt") == "before");
    CHECK(std::distance(std::filesystem::directory_iterator(folder.path()), {}) == 1); // no scratch left
    {
        ReplaceFile replace(folder / "a.txt");
        std::ofstream(replace.scratch()) << "after";
        replace.commit();
    }
    CHECK(readBytes(folder / "a.txt") == "after");
    CHECK_THROWS_WITH(writeBytes(folder / "none/a.txt", "x"), Catch::Contains("can't be written"));
    CHECK_THROWS_WITH(readBytes(folder.path()), Catch::Contains("is a folder"));
    ReplaceFiles several;
    several.add(folder / "b.txt", [](const auto& scratch) { writeBytes(scratch, "b"); });
    CHECK_THROWS_AS(several.add(folder / "c.txt", [](const auto&) { throw FileError("no"); }), FileError);
    CHECK_FALSE(std::filesystem::exists(folder / "b.txt"));
}

TEST_CASE("Files prepared apart are written together or not at all", "[base]") {
    const TemporaryFolder folder;
    folder.write("b.txt", "before");
    const auto prepared = [&](const char* name) {
        ReplaceFiles files;
        files.add(folder / name, [](const auto& scratch) { writeBytes(scratch, "after"); });
        return files;
    };
    {
        auto all = prepared("a.txt");
        all.take(prepared("b.txt"));
        all.take(prepared("c.txt"));
        CHECK(all.targets() == std::vector{folder / "a.txt", folder / "b.txt", folder / "c.txt"});
        std::filesystem::create_directories(folder / "c.txt/full"); // no file can take its place
        CHECK_THROWS_AS(all.commit(), FileError);
    }
    CHECK_FALSE(std::filesystem::exists(folder / "a.txt"));
    CHECK(readBytes(folder / "b.txt") == "before");
    std::filesystem::remove_all(folder / "c.txt");
    auto all = prepared("a.txt");
    auto more = prepared("b.txt");
    all.take(std::move(more));
    all.commit();
    CHECK(readBytes(folder / "a.txt") == "after");
    CHECK(readBytes(folder / "b.txt") == "after");
    CHECK(std::distance(std::filesystem::directory_iterator(folder.path()), {}) == 2); // no scratch left
}

TEST_CASE("A finding says where it is", "[base]") {
    const Finding f{Severity::Error, "FC-LEVEL", "a.ags", 57, "LOCA", "LOCA_GL", "BH01", "It is missing."};
    CHECK(describe(f) == "a.ags, line 57: BH01: It is missing.");
    CHECK(describe({Severity::Note, "", "", 0, "", "", "", "Only words."}) == "Only words.");
    CHECK(count({f, f}, Severity::Error) == 2);
    CHECK(std::string(word(Severity::Warning)) == "warning");
}
