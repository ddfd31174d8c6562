// Objects of layers one by one: filtered by values, left out, given a level; numbers, codes and guide lines.
#include "formats/vector.h"
#include "ground_fixtures.h"
#include "model/section.h"
#include "project/json.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

Feature kerb(double y, double level, const char* kind, double number) {
    return {GeometryKind::Line,
            {{{480000, 6120000 + y, level}, {480200, 6120000 + y, level + 0.5}}},
            true,
            {{"kind", std::string(kind)}, {"no", number}}};
}

/// Four lines of three kinds, numbered from 1 as a GeoPackage does.
std::filesystem::path kerbs(const TemporaryFolder& folder) {
    FeatureLayer layer{
        "kerbs", "EPSG:25831", {kerb(0, 20, "kerb", 1), kerb(50, 21, "wall", 2), kerb(100, 22, "kerb", 3), kerb(150, 23, "", 4)}};
    writeVector(folder / "kerbs.gpkg", {layer});
    return folder / "kerbs.gpkg";
}

} // namespace

TEST_CASE("Only objects with the wanted values are read, and the others are counted", "[layers][objects]") {
    const TemporaryFolder folder;
    const auto all = grounded(kerbs(folder));
    REQUIRE(all.lines);
    CHECK(all.lines->lines.size() == 4);
    CHECK(all.lines->values.at("kind") == std::map<std::string, std::size_t>{{"", 1}, {"kerb", 2}, {"wall", 1}});
    CHECK(all.lines->objects.size() == 4);
    auto s = all.file.settings;
    s.filter = {"kind", {"kerb", ""}};
    const auto some = grounded(folder / "kerbs.gpkg", s);
    CHECK(some.lines->lines.size() == 3);
    CHECK(some.lines->objects.size() == 3);
    CHECK(std::ranges::any_of(
        some.file.findings, [](const Finding& f) { return f.message == "1 object has another value in kind and is left out."; }));
    s.filter = {"no", {"2"}};
    CHECK(grounded(folder / "kerbs.gpkg", s).lines->lines.size() == 1);
    CHECK(settingsOf(toJson(s)) == s);
}

TEST_CASE("An object is left out, or has a level given, by its number in the file, whatever else is filtered",
          "[layers][objects]") {
    const TemporaryFolder folder;
    const auto all = grounded(kerbs(folder));
    auto s = all.file.settings;
    auto wall = all.lines->objects.at(1).choice, last = all.lines->objects.at(3).choice;
    wall.isOut = true;
    last.level = 30;
    s.objects = {wall, last};
    s.keep = square(480000, 6120040, 200); // the first lies outside
    const auto read = grounded(folder / "kerbs.gpkg", s);
    REQUIRE(read.lines->lines.size() == 2);
    CHECK(read.lines->lines[0][0].z == 22);
    for (const auto& p : read.lines->lines[1]) CHECK(p.z == 30);
    CHECK(std::ranges::any_of(read.file.findings, [](const Finding& f) { return f.message == "1 object is skipped by hand."; }));
    // what is left out is still there to be chosen
    CHECK(std::ranges::count_if(read.lines->objects, [](const auto& o) { return o.choice.isOut; }) == 1);
    CHECK(settingsOf(toJson(s)) == s);
    SECTION("a project has it so, and read again without the choices, otherwise") {
        auto p = with(inUtm(), folder / "kerbs.gpkg", s);
        REQUIRE(p.ground->lines.size() == 1);
        CHECK(p.ground->lines[0].lines.size() == 2);
        s.objects.clear(), s.keep.clear();
        p = rereadSource(p, "kerbs.gpkg", s).project;
        CHECK(p.ground->lines[0].lines.size() == 4);
    }
}

TEST_CASE("Points take number and code from columns", "[layers][objects]") {
    const TemporaryFolder folder;
    FeatureLayer layer{"spots", "EPSG:25831", {}};
    for (int i = 0; i < 3; ++i)
        layer.features.push_back({GeometryKind::Point,
                                  {{{480000 + 10.0 * i, 6120000, 20.0 + i}}},
                                  true,
                                  {{"nr", double(100 + i)}, {"feat", std::string(i == 1 ? "TREE" : "GL")}}});
    writeVector(folder / "spots.gpkg", {layer});
    auto s = grounded(folder / "spots.gpkg").file.settings;
    CHECK(grounded(folder / "spots.gpkg", s).lines->points[0].code.empty());
    s.numberField = "nr", s.codeField = "feat";
    const auto read = grounded(folder / "spots.gpkg", s);
    REQUIRE(read.lines->points.size() == 3);
    CHECK(read.lines->points[1] == SurveyPoint{"101", {480010, 6120000, 21}, "TREE"});
    CHECK(codesOf(*with(inUtm(), folder / "spots.gpkg", s).ground) == std::map<std::string, int>{{"GL", 2}, {"TREE", 1}});
}

TEST_CASE("Guide lines go to the unit that a column or their layer names", "[layers][objects]") {
    auto p = inUtm();
    Sequence sequence;
    for (const auto& [code, name] : {std::pair{"MG", "Made Ground"}, {"RG", "River gravel"}, {"TL", "Till"}}) {
        Unit unit;
        unit.code = code, unit.name = name;
        sequence.units.push_back(std::move(unit));
    }
    p.sequence = part(sequence);
    const TemporaryFolder folder;
    const auto guide = [](const char* unit, double level) {
        return Feature{
            GeometryKind::Line, {{{480000, 6120000, level}, {480100, 6120100, level}}}, true, {{"unit_name", std::string(unit)}}};
    };
    FeatureLayer named{"interpretation", "EPSG:25831", {guide("river gravel", 15), guide("RG", 14), guide("XX", 13)}};
    writeVector(folder / "guides.gpkg", {named});
    SourceSettings s;
    s.role = LineRole::Guides;
    s.codeField = "unit_name";
    const auto after = with(p, folder / "guides.gpkg", s);
    REQUIRE(after.interpretation->guides.size() == 2);
    CHECK(after.interpretation->guides[0].unit == "RG");
    CHECK(after.interpretation->guides[0].line[0].z == 15);
    CHECK(std::ranges::any_of(after.files->at(0).findings,
                              [](const Finding& f) { return f.message.find("no unit XX") != std::string::npos; }));
    CHECK(with(after, folder / "guides.gpkg", s).interpretation->guides.size() == 2); // a newer issue brings no second copy
    SECTION("by the layer's name; without a level it is an error") {
        writeVector(folder / "tl.gpkg",
                    {{"TL",
                      "EPSG:25831",
                      {guide("", 10), {GeometryKind::Line, {{{480000, 6120000, 0}, {480100, 6120100, 0}}}, false, {}}}}});
        s.codeField.clear();
        const auto byLayer = with(p, folder / "tl.gpkg", s);
        REQUIRE(byLayer.interpretation->guides.size() == 1);
        CHECK(byLayer.interpretation->guides[0].unit == "TL");
        CHECK(std::ranges::any_of(byLayer.files->at(0).findings, [](const Finding& f) {
            return f.severity == Severity::Error && f.message.find("guide line is without a level") != std::string::npos;
        }));
    }
}

TEST_CASE("Lines with levels that run along a section are drawn on it, and others not", "[section][objects]") {
    const Polyline2 section{{0, 0}, {1000, 0}};
    BackgroundLines seismic{"s.dxf", "BASE OF RG",
                            std::vector<Polyline3>{{{100, 5, 12}, {300, 8, 14}, {500, 4, 13}},
                                                   {{0, 400, 9}, {1000, 400, 9}},   // far off
                                                   {{200, -300, 5}, {200, 300, 7}}, // across
                                                   {{0, 0, kNoValue}, {900, 0, kNoValue}}}};
    const auto traces = tracesAlong(section, {seismic}, 25);
    REQUIRE(traces.size() == 2);
    CHECK(traces[0].points.front() == Point2{100, 12});
    CHECK(traces[0].points.back() == Point2{500, 13});
    for (std::size_t i = 1; i < traces[0].points.size(); ++i) CHECK(traces[0].points[i].x > traces[0].points[i - 1].x);
    for (const auto& p : traces[1].points) { // where it crosses: nearly upright, between its levels there
        CHECK(p.x == Approx(200));
        CHECK(p.y == Approx(6).margin(0.1));
    }
    seismic.shown = false;
    CHECK(tracesAlong(section, {seismic}, 25).empty());
    CHECK(tracesAlong(section, {}, 25).empty());
}
