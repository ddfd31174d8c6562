// Work grows with the input, not with its square: an input ten times larger takes at most fifteen times the steps. Steps are
// the checks of Progress, which stand in every loop over what a file holds; no clock is asked.
#include "fixtures.h"
#include "formats/ags_check.h"
#include "ground/area.h"
#include "ground/triangulate.h"
#include "handover/interpretation_csv.h"
#include "project/finding_rules.h"
#include "surfaces/nearest_points.h"
#include "surfaces/realisations.h"

#include <catch2/catch.hpp>
#include <chrono>
#include <fmt/format.h>
#include <thread>

using namespace fox;
using namespace fox::test;

namespace {

/// Steps of work on an input of a size.
std::size_t steps(const std::function<void(std::size_t, const Progress&)>& work, std::size_t size) {
    const auto count = std::make_shared<std::atomic<std::size_t>>(0);
    work(size, Progress().counting(count));
    return *count;
}

void checkLinear(const std::function<void(std::size_t, const Progress&)>& work, std::size_t size = 400) {
    const auto small = steps(work, size), large = steps(work, 10 * size);
    CAPTURE(small, large);
    CHECK(small >= size); // it does step through its input
    CHECK(large <= 15 * small);
}

std::string ags(const std::string& groups) {
    return "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\",\"P\"\r\n\r\n" + groups;
}

std::string repeated(std::size_t n, const std::function<std::string(std::size_t)>& part) {
    std::string out;
    for (std::size_t i = 0; i < n; ++i) out += part(i);
    return out;
}

} // namespace

TEST_CASE("A quote that is never closed does not take the file with it", "[limits][ags]") {
    checkLinear([](std::size_t n, const Progress& progress) {
        const auto file = readAgs(ags("\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_REM\"\r\n\"DATA\",\"A\",\"open\r\n"
                                      + repeated(n, [](std::size_t i) { return fmt::format("words {}\r\n", i); })
                                      + "\"DATA\",\"B\",\"closed\"\r\n"),
                                  "open.ags", progress);
        const auto* loca = file.group("LOCA");
        REQUIRE(loca);
        REQUIRE(!loca->rows.empty());
        CHECK(loca->cell(loca->rows.size() - 1, 0) == "B"); // what stands below is read
    });
}

TEST_CASE("Many rows that go on with one cell are joined once", "[limits][ags]") {
    checkLinear([](std::size_t n, const Progress& progress) {
        const auto file = readAgs(
            "\"**PROJ\"\r\n\"*PROJ_ID\"\r\n\"P\"\r\n\r\n\"**GEOL\"\r\n\"*HOLE_ID\",\"*GEOL_TOP\",\"*GEOL_DESC\"\r\n"
            "\"<UNITS>\",\"m\",\"\"\r\n\"A\",\"0\",\"a\"\r\n"
                + repeated(n, [](std::size_t) { return std::string("\"<CONT>\",\"\",\"b\"\r\n"); }) + "\"B\",\"0\",\"other\"\r\n",
            "cont.ags", progress);
        const auto* geol = file.group("GEOL");
        REQUIRE(geol);
        REQUIRE(geol->rows.size() == 2);
        CHECK(geol->cell(0, 2).size() == n + 1);
        CHECK(geol->cell(1, 2) == "other");
    });
}

TEST_CASE("Record links are looked up, not searched for", "[limits][ags]") {
    checkLinear([](std::size_t n, const Progress& progress) {
        const auto rows = [&](const char* lead) {
            return repeated(n, [&](std::size_t i) {
                return fmt::format("\"DATA\",\"H{}\"{}\r\n", i, lead[0] ? fmt::format(",\"LOCA|H{}\"", i) : "");
            });
        };
        const auto file =
            readAgs(ags("\"GROUP\",\"TRAN\"\r\n\"HEADING\",\"TRAN_DLIM\",\"TRAN_RCON\"\r\n\"UNIT\",\"\",\"\"\r\n\"TYPE\",\"X\","
                        "\"X\"\r\n\"DATA\",\"|\",\"+\"\r\n\r\n\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\"\r\n\"UNIT\",\"\"\r\n"
                        "\"TYPE\",\"ID\"\r\n"
                        + rows("")
                        + "\r\n\"GROUP\",\"SAMP\"\r\n\"HEADING\",\"LOCA_ID\",\"SAMP_LINK\"\r\n\"UNIT\",\"\",\"\"\r\n"
                          "\"TYPE\",\"ID\",\"RL\"\r\n"
                        + rows("link")),
                    "links.ags");
        const auto findings = checkAgs(file, {}, progress);
        CHECK(std::ranges::count(findings, "AGS4 Rule 11c", &Finding::rule) == 0);
    });
}

TEST_CASE("A group with more headings than a table has is cut, and short rows do not fill the memory", "[limits][ags]") {
    const auto headings = repeated(6000, [](std::size_t i) { return fmt::format(",\"LOCA_H{}\"", i); });
    const auto file =
        readAgs(ags("\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\"" + headings + "\r\n\"DATA\",\"A\"\r\n"), "wide.ags");
    CHECK(file.group("LOCA")->headings.size() == 4096);
    const auto rows = repeated(3000, [](std::size_t i) { return fmt::format("\"DATA\",\"H{}\"\r\n", i); });
    CHECK_THROWS_WITH(readAgs(ags("\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\"" + headings + "\r\n" + rows), "wide.ags"),
                      Catch::Contains("far shorter"));
}

TEST_CASE("Corrections are carried to a newer issue by key, not by search", "[limits][import]") {
    // 400 corrected holes of 400 took 64 million comparisons; 3,000 would have taken 27 thousand million
    const auto issue = [](const char* depth) {
        return ags("\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\",\"LOCA_FDEP\"\r\n"
                   "\"UNIT\",\"\",\"m\",\"m\",\"m\",\"m\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"2DP\",\"2DP\"\r\n"
                   + repeated(3000, [&](std::size_t i) {
                         return fmt::format("\"DATA\",\"H{}\",\"{}.00\",\"7.00\",\"5.00\",\"{}\"\r\n", i, i + 1, depth);
                     }));
    };
    auto p = importSource({}, understoodText("site.ags", issue("9.00"))).project;
    std::vector<HoleChangeOf> changes;
    for (int i = 0; i < 3000; ++i) changes.push_back({fmt::format("H{}", i), [](Hole& h) { h.level = Level{6}; }});
    p = changeHoles(p, changes, "levels").project;
    REQUIRE(p.corrections->size() == 3000);
    const auto next =
        importSource(p, understoodText("site.ags", issue("9.50")), {ImportChoices::Existing::Update, false, ""}).project;
    CHECK(next.corrections->size() == 3000);
    CHECK(next.holes->at(2999).level == Level{6});
    CHECK(next.holes->at(2999).finalDepth == Depth{9.5});
}

TEST_CASE("Points on one line make no triangle, and not a long wait", "[limits][ground]") {
    std::vector<Point3> line;
    for (int i = 0; i < 50'000; ++i) line.push_back({double(i), double(2 * i), 1});
    CHECK(triangulate(line).tin.empty());
    std::vector<Point3> nearly;
    for (int i = 0; i < 60'000; ++i) nearly.push_back({double(i), 0, 1});
    nearly.push_back({30'000, 5, 2});
    CHECK(triangulate(nearly).tin.triangles().size() == 59'999);
}

TEST_CASE("Many outlines are joined as one area", "[limits][ground]") {
    std::vector<Polygon2> outlines;
    for (int i = 0; i < 2000; ++i) outlines.push_back({{i * 1.0, 0}, {i + 1.5, 0}, {i + 1.5, 1}, {i * 1.0, 1}});
    const Area area(outlines, {});
    CHECK(area.contains({1000.2, 0.5}));
    CHECK_FALSE(area.contains({1000.2, 1.5}));
    CHECK(area.box().width() == Approx(2000.5));
    CHECK(area.spansAt(0.5).contains(3.3));
}

TEST_CASE("Inverse distance with a radius weighs only what lies in it, however many points there are", "[limits][surfaces]") {
    constexpr double kRadius = 25; // of points ten metres apart
    SurfaceSettings settings;
    settings.method = Method::InverseDistance;
    settings.radius = kRadius;
    const auto cloud = [](std::size_t n) { // as dense, the larger the more there are
        std::vector<Point3> out;
        const auto side = std::size_t(std::sqrt(double(n)));
        for (std::size_t i = 0; i < n; ++i)
            out.push_back({10.0 * double(i % side) + double(i % 7) / 7, 10.0 * double(i / side), double(i % 13)});
        return out;
    };
    checkLinear([&](std::size_t n, const Progress& progress) {
        const auto data = cloud(n);
        std::vector<Point2> places;
        for (const auto& p : data) places.push_back(p.plan());
        const NearestPoints near(places);
        std::vector<NearestPoints::Hit> hits;
        for (const auto& p : places) {
            near.find(p, data.size(), kRadius, hits);
            for (std::size_t k = 0; k < hits.size(); ++k) progress.check();
        }
    });
    // and its values are those of weighing all points within the radius
    const auto data = cloud(900);
    const auto fit = fitSurface(data, {}, settings);
    for (const auto& at : {Point2{33, 47}, {150, 3}, {289, 281}, {71.5, 120}}) {
        double sum = 0, weights = 0;
        for (const auto& p : data)
            if (const double d = distance(p.plan(), at); d <= kRadius) sum += p.z / (d * d), weights += 1 / (d * d);
        CHECK(fit.surface->at(at) == Approx(sum / weights));
    }
}

TEST_CASE("A search radius finds what lies within it, nearest first, as looking at all does", "[limits][surfaces][random]") {
    const auto cloud = randomPoints(5, 3000, 1000);
    std::vector<Point2> places;
    for (const auto& p : cloud) places.push_back(p.plan());
    const NearestPoints near(places);
    std::vector<NearestPoints::Hit> hits;
    for (int i = 0; i < 50; ++i) {
        const Point2 at{20.0 * i, 1000 - 17.0 * i};
        near.find(at, places.size(), 60.0, hits);
        std::size_t within = 0;
        for (const auto& p : places) within += distance(p, at) <= 60;
        REQUIRE(hits.size() == within);
        CHECK(std::ranges::is_sorted(hits, {}, &NearestPoints::Hit::squaredDistance));
    }
}

TEST_CASE("Picks of a table, and ranges of it, are taken in one pass as one edit", "[limits][sequence]") {
    checkLinear([](std::size_t n, const Progress& progress) {
        Project p;
        Holes holes;
        std::string table = "hole,unit,top,base,kind\n";
        for (std::size_t i = 0; i < n; ++i) {
            holes.push_back(hole(fmt::format("H{}", i), double(i), 0, 10, {{2, "A"}, {5, "B"}}));
            table += fmt::format("H{},A,,3.5,pick\nH{},A,2,5,by hand\n", i, i);
        }
        p.holes = part(holes);
        p.sequence = part(sequence({"A", "B"}));
        const auto in = importInterpretation(p, table, "picks.csv", progress);
        CHECK(in.picks == int(n));
        CHECK(in.intervals == int(n));
        CHECK(in.edited.project.interpretation->picks.size() == n);
        CHECK(in.edited.project.interpretation->intervals.size() == n);
        const auto again = importInterpretation(in.edited.project,
                                                "hole,unit,base,kind\nH7,A,4.2,pick\nnobody,A,1,pick\nH8,A,99,pick\n", "b.csv");
        CHECK(again.edited.project.interpretation->picks.size() == n);
        CHECK(again.findings.size() == 2);
    });
}

TEST_CASE("Findings of one kind are listed to a hundred and counted beyond", "[limits]") {
    Findings all;
    for (int i = 0; i < 250; ++i) all.push_back({Severity::Warning, "FC-GAP", "a.ags", i, "", "", "", "a gap"});
    for (int i = 0; i < 3; ++i) all.push_back({Severity::Error, "FC-SURVEY", "s.csv", i, "", "", "", "a row"});
    const auto shown = listed(all);
    CHECK(shown.size() == 100 + 3 + 1);
    CHECK(count(shown, Severity::Warning) == 250);
    CHECK(shown.back().message.find("150 more") != std::string::npos);
    CHECK(listed(shown).size() == shown.size());
}

TEST_CASE("Realisations can be stopped, and end whatever the limits say", "[limits][surfaces]") {
    std::vector<Point3> points;
    for (int i = 0; i < 30; ++i) points.push_back({i * 10.0, (i % 7) * 13.0, 0.1 * (i % 5)});
    SurfaceSettings settings;
    settings.method = Method::Kriging;
    settings.variogram = Variogram{VariogramModel::Spherical, 0, 1, 100};
    std::vector<Bound> bounds;
    for (int i = 0; i < 20; ++i) {
        bounds.push_back({{i * 15.0 + 3, 40, -40}, Side::Upper, "far"}); // forty deviations out
        bounds.push_back({{i * 15.0 + 3, 44, i % 2 ? 1e12 : -1e12}, i % 2 ? Side::Upper : Side::Lower, "no limit"});
    }
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(Realisations(points, bounds, settings, 5, 1, Progress(stop.get_token())), Stopped);
    const Realisations some(points, bounds, settings, 5, 1);
    const Point2 place{3, 40};
    std::vector<double> values(5);
    some.evaluate(std::span(&place, 1), values);
    for (const double v : values) CHECK(v <= -40 + 1e-6);
}

TEST_CASE("Every code that findings have is in the one table of rules, and in the guide", "[limits]") {
    std::set<std::string> used, known;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(FOX_SOURCE "/src")) {
        if (entry.path().extension() != ".cpp" || entry.path().stem() == "finding_rules") continue;
        const auto text = readBytes(entry.path());
        for (auto at = text.find("\"FC-"); at != text.npos; at = text.find("\"FC-", at + 1))
            used.insert(text.substr(at + 1, text.find('"', at + 1) - at - 1));
    }
    const auto guide = readBytes(FOX_SOURCE "/docs/guide.md");
    for (const auto& r : findingRules()) {
        CAPTURE(r.code);
        CHECK(known.insert(r.code).second);
        CHECK(guide.find(fmt::format("| {} |", r.code)) != guide.npos);
    }
    for (const auto& code : used) {
        CAPTURE(code);
        CHECK(known.contains(code));
    }
    CHECK(stageOf("FC-ORDER") == Stage::Sequence);
    CHECK(stageOf("AGS4 Rule 4b") == Stage::Holes);
}

TEST_CASE("Text is well formed by the Unicode standard, or made so", "[limits]") {
    CHECK(isUtf8("\xC3\xA9 \xE2\x82\xAC \xF0\x9F\xA6\x8A"));
    for (const char* bad :
         {"\xED\xA0\x80", "\xC0\xAF", "\xE0\x80\x80", "\xF4\x90\x80\x80", "\xF8\x88\x80\x80\x80", "\x80", "\xE2\x82"}) {
        CHECK_FALSE(isUtf8(bad));
        CHECK(isUtf8(toUtf8(bad)));
    }
    CHECK(toUtf8("a\xED\xA0\x80z").front() == 'a');
    CHECK(toUtf8("a\xED\xA0\x80z").back() == 'z');
    CHECK(safeFileName("../../x") == "x");
    CHECK(safeFileName("C:\\data\\holes.ags") == "holes.ags");
    CHECK(safeFileName("..") == "file");
    CHECK(safeFileName("a\nb:c") == "a_b_c");
}
