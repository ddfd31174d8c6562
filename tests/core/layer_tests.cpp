// Layers of a drawing, each for what it is: ground, faults, section lines, outlines, or only to look at.
#include "formats/triangle_mesh.h"
#include "formats/vector.h"
#include "ground_fixtures.h"
#include "project/ground_edits.h"
#include "project/site_edits.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

FeatureLayer lineLayer(const char* name, std::vector<Polyline3> lines, bool levels = true) {
    FeatureLayer layer{name, "", {}};
    for (auto& l : lines) layer.features.push_back({GeometryKind::Line, {std::move(l)}, levels, {}});
    return layer;
}

/// Six layers: banks with levels, contours, a road and a fault without, a boundary that closes, a section line.
std::vector<FeatureLayer> drawing() {
    return {
        lineLayer("BANK", {{{480000, 6120000, 10}, {480100, 6120040, 11}, {480200, 6120020, 10.5}}}),
        lineLayer("CONTOURS", {{{480000, 6120100, 15}, {480200, 6120110, 15}}, {{480000, 6120200, 20}, {480200, 6120210, 20}}}),
        lineLayer("ROAD", {{{480000, 6120150, 0}, {480200, 6120160, 0}}, {{480010, 6120150, 0}, {480100, 6120300, 0}}}, false),
        lineLayer("FAULT", {{{480050, 6120000, 0}, {480060, 6120300, 0}}}, false),
        lineLayer(
            "BOUNDARY",
            {{{480000, 6120000, 0}, {480200, 6120000, 0}, {480200, 6120300, 0}, {480000, 6120300, 0}, {480000, 6120000, 0}}},
            false),
        lineLayer("SECTION A", {{{480000, 6120010, 0}, {480200, 6120290, 0}}}, false)};
}

std::filesystem::path written(const TemporaryFolder& folder) {
    writeVector(folder / "drainage.dxf", drawing());
    return folder / "drainage.dxf";
}

SourceSettings answered(const ImportPreview& u) {
    auto s = u.file.settings;
    s.layerRoles = u.proposedRoles;
    return s;
}

} // namespace

TEST_CASE("A drawing of several layers asks which are ground, and proposes by levels and names", "[layers][import]") {
    const TemporaryFolder folder;
    const auto u = grounded(written(folder));
    CHECK(u.asksForLayers());
    using enum LineRole;
    const std::map<std::string, LineRole> expected{{"BANK", Breaklines}, {"BOUNDARY", Outlines}, {"CONTOURS", Contours},
                                                   {"FAULT", Faults},    {"ROAD", LookOnly},     {"SECTION A", Sections}};
    for (const auto& [layer, role] : expected) {
        CAPTURE(layer);
        CHECK(u.proposedRoles.at(layer) == role);
    }
    REQUIRE(u.tables.size() == 6);
    for (const auto& t : u.tables) CHECK(t.feeds == words(expected.at(t.name)));
    // reading it again is no answer
    CHECK(grounded(folder / "drainage.dxf", u.file.settings).asksForLayers());
    CHECK_FALSE(grounded(folder / "drainage.dxf", answered(u)).asks());
    SECTION("each layer goes where it belongs, and a newer issue takes its place") {
        auto p = with(inUtm(), folder / "drainage.dxf", answered(u));
        const auto check = [&] {
            REQUIRE(p.ground->lines.size() == 2);
            for (const auto& s : p.ground->lines) CHECK(s.lines.size() == (s.role == Contours ? 2 : 1));
            REQUIRE(p.background->size() == 1);
            CHECK(p.background->at(0).layer == "ROAD");
            CHECK(p.background->at(0).lines.size() == 2);
            REQUIRE(p.interpretation->faults.size() == 1);
            CHECK(p.interpretation->faults[0].fault.name == "FAULT");
            REQUIRE(p.sections->size() == 1);
            CHECK(p.sections->at(0).name == "SECTION A");
            REQUIRE(p.ground->outlines.size() == 1);
            CHECK(p.ground->outlines[0].ring.size() >= 4);
        };
        check();
        p = changeBackground(
                p, "drainage.dxf", "ROAD", [](BackgroundLines& b) { b.colour = "#112233"; }, "colour")
                .project;
        p = with(p, folder / "drainage.dxf", answered(u));
        check();
        CHECK(p.background->at(0).colour == "#112233");
        CHECK(p.files->size() == 1);
        p = removeSource(p, "drainage.dxf").project;
        CHECK((p.background->empty() && p.ground->lines.empty() && p.files->empty()));
    }
    SECTION("a layer that is unticked stays out, another role is kept") {
        auto s = answered(u);
        s.groupsOut = {"ROAD", "FAULT"};
        s.layerRoles["BANK"] = LookOnly;
        const auto read = grounded(folder / "drainage.dxf", s);
        CHECK(std::ranges::count(read.tables, "not imported", &SourceTable::feeds) == 2);
        const auto p = importSource(inUtm(), read).project;
        CHECK(p.interpretation->faults.empty());
        REQUIRE(p.background->size() == 1);
        CHECK(p.background->at(0).layer == "BANK");
        CHECK(settingsBefore(p, "drainage.dxf").layerRoles.at("BANK") == LookOnly);
    }
}

TEST_CASE("A whole file can be only to look at", "[layers][import]") {
    const TemporaryFolder folder;
    writeVector(folder / "rivers.gpkg", {lineLayer("rivers", {{{480000, 6120000, 0}, {480100, 6120040, 0}}}, false)});
    SourceSettings s;
    s.role = LineRole::LookOnly;
    const auto p = with(inUtm(), folder / "rivers.gpkg", s);
    CHECK(p.ground->lines.empty());
    CHECK(p.background->size() == 1);
}

TEST_CASE("Lines only to look at come back from the project's file, and move with it", "[layers][store]") {
    const TemporaryFolder folder;
    auto p = inUtm();
    p.background = part(std::vector<BackgroundLines>{
        {"a.dxf", "ROAD", std::vector<Polyline3>{{{480000, 6120000, kNoValue}, {480100, 6120040, kNoValue}}}, "#112233", 2.0,
         false, true},
        {"a.dxf", "RIVER", std::vector<Polyline3>{{{480000, 6120000, 3}, {480100, 6120040, 4}}}}});
    ProjectStore::create(folder / "p.gpkg", p);
    const auto back = ProjectStore::read(folder / "p.gpkg");
    REQUIRE(back.background->size() == 2);
    const auto& road = back.background->at(0);
    CHECK((road.layer == "ROAD" && road.colour == "#112233" && road.width == 2.0 && !road.shown && road.draped));
    CHECK(std::isnan(road.lines[0][0].z));
    CHECK(back.background->at(1) == p.background->at(1));
    const auto moved = moveToSystem(p, "EPSG:25832").project;
    CHECK(std::abs(moved.background->at(1).lines[0][0].x - 480000) > 1000);
    CHECK(moved.background->at(1).lines[0][0].z == 3);
    CHECK_THROWS_WITH(changeBackground(
                          p, "a.dxf", "NONE", [](BackgroundLines&) {}, "x"),
                      Catch::Contains("layer NONE"));
}

TEST_CASE("All surfaces of a LandXML file are there by name, and those that are unticked make no ground", "[layers][import]") {
    const TemporaryFolder folder;
    const auto surface = [](const char* name, double level) {
        return fmt::format(
            "<Surface name=\"{}\"><Definition surfType=\"TIN\"><Pnts><P id=\"1\">6120000 480000 {}</P><P id=\"2\">6120000 "
            "480100 {}</P><P id=\"3\">6120100 480000 {}</P></Pnts><Faces><F>1 2 3</F></Faces></Definition></Surface>",
            name, level, level, level);
    };
    folder.write("both.xml", "<LandXML version=\"1.2\"><Units><Metric linearUnit=\"meter\"/></Units><Surfaces>"
                                 + surface("existing", 10) + surface("design", 14) + "</Surfaces></LandXML>");
    CHECK(readSurfaces(folder / "both.xml").size() == 2);
    const auto u = grounded(folder / "both.xml");
    REQUIRE(u.tables.size() == 2);
    CHECK((u.tables[0].name == "existing" && u.tables[1].name == "design"));
    CHECK(mentions(u.file.findings, "FC-LINES", "2 surfaces (existing, design)"));
    auto s = u.file.settings;
    s.groupsOut = {"design"};
    const auto one = grounded(folder / "both.xml", s);
    CHECK(one.file.findings.empty());
    REQUIRE(one.lines);
    CHECK(one.lines->lines.size() == 3);
    for (const auto& line : one.lines->lines) CHECK(line[0].z == 10);
}
