#include "formats/crs.h"
#include "formats/picture.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"
#include "formats/vector.h"
#include "ground/tin_files.h"
#include "ground_fixtures.h"
#include "handover/export_files.h"
#include "importing/ground_import.h"
#include "project/ground_edits.h"
#include "project/remedies.h"
#include "services/made_up_ground.h"
#include "services/services.h"
#include "store/store.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

using Use = GroundSources::Outline::Use;

Feature line(const Polyline3& l, bool levels, std::map<std::string, Feature::Value> attributes = {}) {
    return {GeometryKind::Line, {l}, levels, std::move(attributes)};
}

} // namespace

// --- survey tables

TEST_CASE("A survey comes in whatever the order, separator and decimal sign of its columns", "[ground][import]") {
    const Point3 wanted{480001.5, 6120002.25, 12.75};
    const auto first = [](const std::string& text, std::vector<std::string> columns = {}) {
        SourceSettings s;
        s.as = SourceSettings::As::SurveyPoints;
        s.columns = std::move(columns);
        const auto u = understoodText("s.csv", text, s);
        REQUIRE(u.survey);
        return u.survey->points.at(0);
    };
    CHECK(first("point,easting,northing,level,code\n7,480001.5,6120002.25,12.75,GL\n") == SurveyPoint{"7", wanted, "GL"});
    CHECK(first("Code;Z;N;E;No\nGL;12,75;6120002,25;480001,5;7\n").place == wanted);
    CHECK(first("7 \t6120002.25\t480001.5\t12.75\tGL\n8\t6120003\t480002\t13\tGL\n",
                {"point", "northing", "easting", "level", "code"})
          == SurveyPoint{"7", wanted, "GL"});
    CHECK(first("x|y|z\n480001.5|6120002.25|12.75\n").place == wanted);
}

TEST_CASE("Feet become metres: coordinates and levels, or levels alone where the file has its own system", "[ground][import]") {
    SourceSettings s;
    s.as = SourceSettings::As::SurveyPoints;
    s.unit = 0.3048;
    const std::string text = "e,n,z\n1000,2000,100\n";
    CHECK(understoodText("s.csv", text, s).survey->points[0].place.x == Approx(304.8));
    CHECK(understoodText("s.csv", text, s).survey->points[0].place.z == Approx(30.48));
    s.crs = "EPSG:25831";
    CHECK(understoodText("s.csv", text, s).survey->points[0].place.x == 1000);
    CHECK(understoodText("s.csv", text, s).survey->points[0].place.z == Approx(30.48));
}

TEST_CASE("Places that can't be in the project's system are said", "[ground][import]") {
    const TemporaryFolder folder;
    CHECK(mentions(grounded(folder.write("deg.csv", "e,n,z\n2.7,55.2,4\n2.71,55.21,5\n")).file.findings, "FC-SENSE", "degrees"));
    const auto swapped = grounded(folder.write("swap.csv", "e,n,z\n6120000,480000,4\n6120100,480100,5\n"));
    CHECK(mentions(swapped.file.findings, "FC-SWAPPED", "exchanged"));
    CHECK(grounded(FOX_DEMO "/survey.csv").file.findings.empty());
}

// --- strings

TEST_CASE("Coded points are joined by their string's number, in the survey's order", "[ground]") {
    std::vector<SurveyPoint> points;
    int k = 0;
    for (const char* code : {"TB1", "TB2", "GL", "TB1", "tb 2", "TB2", "TBX", "TB3"})
        points.push_back({"", {double(k++), 0, 0}, code});
    const auto strings = stringsOf(points, "TB");
    REQUIRE(strings.size() == 2); // TB3 has one point
    CHECK(strings[0].size() == 2);
    CHECK(strings[1].size() == 3);
    CHECK(strings[1][1].x == 4);
    CHECK(stringCodes(points) == std::vector<std::string>{"TB"});
    CHECK(codeWithoutNumber("TB 12") == "TB");
    CHECK(codeWithoutNumber("12") == "12");
    CHECK(stringCodes({{"", {}, "GL"}, {"", {}, "GL"}}).empty());
}

TEST_CASE("Codes that are no ground are left out of it, joined ones are edges", "[ground]") {
    auto ground = groundOf("0 0 0, 10 0 0, 10 10 0, 0 10 0");
    auto survey = *ground.points.back().points;
    survey.push_back({"wall", {5, 5, 3}, "WL"});
    survey.push_back({"a", {2, 2, 1}, "TB1"});
    survey.push_back({"b", {8, 9, 1}, "TB1"});
    ground.points.back().points = survey;
    Findings findings;
    ground.codesOut = {"WL"};
    ground.codesJoined = {"TB"};
    const auto terrain = makeTerrain(terrainInputOf(ground, {}, findings));
    CHECK(terrain.tin.vertices().size() == 6);
    CHECK(terrain.tin.hasEdge({2, 2}, {8, 9}));
    CHECK(codesOf(ground).at("TB1") == 2);
    ground.points.back().used = false;
    CHECK(makeTerrain(terrainInputOf(ground, {}, findings)).tin.empty());
}

// --- lines

TEST_CASE("Lines come in from GeoPackage, GeoJSON, shapefile and DXF with their levels", "[ground][import]") {
    const TemporaryFolder folder;
    const Polyline3 bank = points("480000 6120000 10, 480050 6120020 12.5");
    const auto* name = GENERATE("l.gpkg", "l.shp", "l.dxf");
    writeVector(folder / name, {{"l", "EPSG:25831", {line(bank, true)}}});
    const auto u = grounded(folder / name);
    REQUIRE(u.lines);
    CHECK(u.lines->role == LineRole::Breaklines);
    REQUIRE(u.lines->lines.size() == 1);
    for (std::size_t i = 0; i < 2; ++i) {
        CHECK(u.lines->lines[0][i].x == Approx(bank[i].x).epsilon(1e-12));
        CHECK(u.lines->lines[0][i].z == Approx(bank[i].z));
    }
    const auto json =
        folder.write("l.geojson", R"({"type":"FeatureCollection","crs":{"type":"name","properties":{"name":"EPSG:25831"}},
        "features":[{"type":"Feature","properties":{},"geometry":{"type":"LineString","coordinates":[[480000,6120000,1],[480010,6120000,2]]}}]})");
    CHECK(grounded(json).lines->lines.at(0).at(1).z == 2);
}

TEST_CASE("Lines in another system are brought to the site's", "[ground][import]") {
    const TemporaryFolder folder;
    const CoordinateChange change("EPSG:25831", "EPSG:25832");
    Polyline3 there;
    for (const auto& p : points("480000 6120000 10, 480050 6120020 12"))
        there.push_back({change.forward(p.plan())->x, change.forward(p.plan())->y, p.z});
    writeVector(folder / "l.gpkg", {{"l", "EPSG:25832", {line(there, true)}}});
    const auto u = grounded(folder / "l.gpkg");
    CHECK(u.lines->lines.at(0).at(1).x == Approx(480050).margin(0.001));
    CHECK(u.lines->lines.at(0).at(1).y == Approx(6120020).margin(0.001));
}

TEST_CASE("A level column is proposed for flat geometry, and can be chosen", "[ground][import]") {
    const TemporaryFolder folder;
    writeVector(folder / "c.gpkg", {{"c",
                                     "EPSG:25831",
                                     {line(points("480000 6120000, 480050 6120020"), false, {{"id", 7.0}, {"ELEV", 20.0}}),
                                      line(points("480000 6120010, 480050 6120030"), false, {{"id", 8.0}, {"ELEV", 21.0}})}}});
    const auto u = grounded(folder / "c.gpkg");
    CHECK(u.lines->levelField == "ELEV");
    CHECK(u.lines->fields.front() == "ELEV");
    CHECK(u.lines->role == LineRole::Contours);
    CHECK(u.lines->lines.at(1).at(0).z == 21);
    SourceSettings s;
    s.role = LineRole::Contours;
    s.levelField = "id";
    CHECK(grounded(folder / "c.gpkg", s).lines->lines.at(1).at(0).z == 8);
    s.levelField = "nothing";
    CHECK_THROWS_WITH(grounded(folder / "c.gpkg", s), Catch::Contains("has no column nothing"));
}

TEST_CASE("Only what lies in the kept area is read, cut at its edge, then thinned; how much is said", "[ground][import]") {
    const TemporaryFolder folder;
    FeatureLayer layer{"c", "EPSG:25831", {}};
    for (int k = 0; k < 50; ++k) {
        Polyline3 l;
        for (int i = 0; i <= 100; ++i) l.push_back({480000.0 + i * 10, 6120000.0 + k * 100, 5.0 + k});
        layer.features.push_back(line(l, true));
    }
    writeVector(folder / "c.gpkg", {layer});
    SourceSettings s;
    s.keep = {{480095, 6120950}, {480205, 6120950}, {480205, 6121150}, {480095, 6121150}};
    auto u = grounded(folder / "c.gpkg", s);
    REQUIRE(u.lines->lines.size() == 2); // at 6121000 and 6121100
    CHECK(u.lines->lines[0].front().x == Approx(480095));
    CHECK(u.lines->lines[0].back().x == Approx(480205));
    CHECK(u.lines->lines[0].size() == 13);
    s.thin = 0.1;
    u = grounded(folder / "c.gpkg", s);
    CHECK(u.lines->lines[0].size() == 2);
    CHECK(u.lines->verticesKept == 4);
    CHECK(u.lines->verticesRead >= 200);
    s.keep = {{0, 0}, {1, 0}, {1, 1}};
    CHECK(mentions(grounded(folder / "c.gpkg", s).file.findings, "FC-LINES"));
}

TEST_CASE("Faults of line files are findings, never a wrong surface in silence", "[ground][import]") {
    const auto read = [](std::vector<Feature> features, LineChoices choices = {}) {
        return groundLinesOf({{"l", "", std::move(features)}}, choices, "f.gpkg").findings;
    };
    CHECK(mentions(read({}), "FC-LINES", "layer l is empty"));
    CHECK(mentions(read({line(points("0 0 0"), true)}), "FC-LINES", "only one vertex"));
    CHECK(mentions(read({line({{0, 0, 1}, {kNoValue, 1, 1}, {2, 2, 1}}, true)}), "FC-LINES", "not numbers"));
    CHECK(mentions(read({line(points("0 0, 1 1"), false)}, {LineRole::Contours, "", 0, {}, {}, {}}), "FC-LINES",
                   "without a level"));
    CHECK(mentions(read({line(points("0 0 0, 1 1 0"), true)}), "FC-LINES", "Every level in it is 0"));
    CHECK(mentions(read({{GeometryKind::Point, {{{1, 2, 0}}}, false, {}}}), "FC-LINES", "1 point has no level"));
}

TEST_CASE("Levels of 0 far from all others are none: texts and symbols of drawings dig no pits", "[ground][import]") {
    const auto point = [](double x, double z) { return Feature{GeometryKind::Point, {{{x, 0, z}}}, true, {}}; };
    const auto read = [](std::vector<Feature> features) { return groundLinesOf({{"l", "", std::move(features)}}, {}, "d.dxf"); };
    // a survey about 40 m up, with a text at 0 and a circle of a symbol at 0
    auto u = read({line(points("0 0 40, 9 0 41, 20 0 44"), true), point(3, 42), point(4, 0),
                   line(points("5 5 0, 6 5 0, 6 6 0, 5 5 0"), true)});
    REQUIRE(u.points.size() == 1);
    CHECK(u.points[0].place.z == 42);
    REQUIRE(u.lines.size() == 2);
    for (const auto& p : u.lines[1]) CHECK(std::isnan(p.z)); // it lies on the ground
    CHECK(mentions(u.findings, "FC-LINES", "lie at 0.00"));
    // a line that comes down to 0 at one end is at its levels
    u = read({line(points("0 0 40, 9 0 0"), true), point(3, 42)});
    CHECK(u.lines[0][1].z == 0);
    // by the sea 0 is a level: it is on the way from -3 to 5
    u = read({point(1, -3), point(2, 0), point(3, 5)});
    CHECK(u.points.size() == 3);
    CHECK(u.findings.empty());
    // so is a contour at 0 below one at 5
    std::vector<Feature> contours;
    for (int i = 0; i < 5; ++i) contours.push_back(line({{0, i * 9.0, i * 5.0}, {9, i * 9.0, i * 5.0}}, true));
    u = read(contours);
    CHECK(u.role == LineRole::Contours);
    CHECK(std::ranges::count_if(u.lines, [](const Polyline3& l) { return l.front().z == 0; }) == 1);
    CHECK(u.findings.empty());
    // nothing but zeros: no ground of it
    u = read({point(1, 0), point(2, 0)});
    CHECK(u.points.empty());
    CHECK(mentions(u.findings, "FC-LINES", "Every level in it is 0"));
}

TEST_CASE("Triangles of another program's LandXML come in as their edges and give the same surface", "[ground][import]") {
    const TemporaryFolder folder;
    TerrainInput input;
    input.points = points("480000 6120000 1, 480100 6120000 2, 480100 6120100 3, 480000 6120100 4, 480050 6120040 9");
    input.longestEdge = 120;
    const auto terrain = makeTerrain(input);
    writeTin(folder / "t.xml", terrain.tin, "t", "");
    const auto project = with(inUtm(), folder / "t.xml");
    Findings findings;
    const auto back = makeTerrain(terrainInputOf(*project.ground, {}, findings));
    for (const auto& p : points("480020 6120010, 480070 6120080, 480051 6120041"))
        CHECK(back.levelAt(p.plan()).value() == Approx(terrain.levelAt(p.plan()).value()));
}

// --- outlines, grids, pictures

TEST_CASE("Outlines come with their names and are used as these propose", "[ground][import]") {
    const auto project = with(inUtm(), FOX_DEMO "/outlines.gpkg");
    const auto& outlines = project.ground->outlines;
    REQUIRE(outlines.size() == 3);
    CHECK(outlines[0].name == "site limit");
    CHECK(outlines[0].use == Use::Limit);
    CHECK(outlines[1].use == Use::Island);
    CHECK(outlines[2].use == Use::None);
    auto ground = *project.ground;
    ground.points.push_back({"s", understood(FOX_DEMO "/survey.csv").survey->points});
    Findings findings;
    const auto terrain = makeTerrain(terrainInputOf(ground, {}, findings));
    CHECK(findings.empty());
    CHECK_FALSE(terrain.levelAt({480905, 6120300})); // the pond's middle
    CHECK_FALSE(terrain.levelAt({480000, 6120000})); // beyond the limit
    CHECK(terrain.levelAt({480700, 6120300}).has_value());
    // along the outlines: what is handed on ends there
    ground.cutAtOutlines = true;
    const auto cut = makeTerrain(terrainInputOf(ground, {}, findings));
    CHECK(cut.tin.vertices().size() > terrain.tin.vertices().size());
    CHECK(cut.levelAt({480700, 6120300}).value() == Approx(terrain.levelAt({480700, 6120300}).value()).margin(0.05));
}

TEST_CASE("The coarse grid is the ground beyond the survey", "[ground][import]") {
    auto project = with(inUtm(), FOX_DEMO "/survey.csv");
    project = with(project, FOX_DEMO "/coarse_dem.tif");
    REQUIRE(project.ground->rasters.size() == 1);
    Findings findings;
    const auto terrain = makeTerrain(terrainInputOf(*project.ground, {}, findings));
    for (const auto& p : points("479800 6120500, 481700 6120500, 480700 6121250")) {
        CHECK_FALSE(terrain.tin.levelAt(p.plan()));
        CHECK(terrain.levelAt(p.plan()).value() == Approx(quernbeck::ground(p.x, p.y)).margin(1.5));
    }
    SourceSettings finer;
    finer.cell = 10;
    CHECK(grounded(FOX_DEMO "/coarse_dem.tif", finer).grid->frame.cell == 10);
}

TEST_CASE("A picture comes in with its bytes; where it has no place it is not drawn until it is placed", "[ground][import]") {
    auto project = with(inUtm(), FOX_DEMO "/survey.csv");
    const auto u = grounded(FOX_DEMO "/old_plan.png");
    REQUIRE(u.picture);
    CHECK(u.picture->width > 100);
    CHECK(mentions(u.file.findings, "FC-PICTURE", "does not say where it lies"));
    project = importSource(project, u).project;
    REQUIRE(project.pictures->size() == 1);
    CHECK_FALSE(project.pictures->front().placed);
    CHECK_FALSE(project.pictures->front().isDrawn());
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", project);
    CHECK(*ProjectStore::read(folder / "p.gpkg").pictures == *project.pictures);
    const std::vector<ControlPoint> marks{
        {{0, 0}, {480000, 6121000}}, {{100, 0}, {480100, 6121000}}, {{0, 100}, {480000, 6120900}}};
    const auto placed = placePicture(project, "old_plan.png", marks).project;
    CHECK(placed.pictures->front().placing.toPlan({50, 50}) == Point2{480050, 6120950});
    CHECK(placed.pictures->front().marks == marks);
    CHECK(placed.pictures->front().isDrawn());
    CHECK_THROWS_AS(placePicture(project, "other.png", marks), Error);
    CHECK_THROWS_AS(placePicture(project, "old_plan.png", {marks[0]}), Error);
    const auto set = Products().of(placed);
    REQUIRE(set->pictures.size() == 1);
    CHECK(*set->pictures[0] == *u.picture);
}

TEST_CASE("Pictures come back from GeoTIFF and PNG pixel by pixel; a GeoTIFF keeps its place", "[formats]") {
    const TemporaryFolder folder;
    Picture picture{3, 2, {}, std::array<double, 6>{480000, 2, 0, 6120004, 0, -2}, "EPSG:25831"};
    for (int i = 0; i < 24; ++i) picture.rgba.push_back(std::uint8_t(i % 4 == 3 ? 255 : i * 9));
    writePicture(folder / "p.tif", picture);
    const auto back = readPicture(readBytes(folder / "p.tif"), "p.tif");
    CHECK(back == picture);
    CHECK(looksLikePicture(folder / "p.tif"));
    CHECK_FALSE(looksLikePicture(FOX_DEMO "/coarse_dem.tif"));
    writePicture(folder / "p.png", picture);
    CHECK(readPicture(readBytes(folder / "p.png"), "p.png").rgba == picture.rgba);
    CHECK_THROWS_AS(readPicture("no picture", "x.png"), FileError);
    const auto placed = with(inUtm(), folder / "p.tif");
    CHECK(placed.pictures->front().placing.toPlan({3, 2}) == Point2{480006, 6120000});
}

TEST_CASE("A placing fits three marks exactly, more by least squares, and says when they are nearly on a line", "[ground]") {
    const Georeference truth{480000, 0.5, 0.02, 6121000, 0.02, -0.5};
    std::vector<ControlPoint> marks;
    for (const auto& p : points("10 10, 900 40, 450 700, 100 600")) marks.push_back({p.plan(), truth.toPlan(p.plan())});
    const auto three = fitGeoreference(std::span(marks).first(3));
    CHECK(three.findings.empty());
    CHECK(distance(three.placing.toPlan({300, 300}), truth.toPlan({300, 300})) < 1e-6);
    marks[3].place.x += 4;
    const auto four = fitGeoreference(marks);
    CHECK(four.rms > 0.3);
    CHECK(four.rms < 4);
    CHECK(four.residuals.size() == 4);
    const auto pixel = four.placing.toPixel(four.placing.toPlan({123, 456}));
    CHECK(pixel.x == Approx(123));
    CHECK(pixel.y == Approx(456));
    const std::vector<ControlPoint> near{
        {{0, 0}, truth.toPlan({0, 0})}, {{500, 5}, truth.toPlan({500, 5})}, {{1000, 0}, truth.toPlan({1000, 0})}};
    CHECK(mentions(fitGeoreference(near).findings, "FC-PICTURE", "nearly on a line"));
    const std::vector<ControlPoint> straight{{{0, 0}, {0, 0}}, {{1, 0}, {1, 0}}, {{2, 0}, {2, 0}}};
    CHECK_THROWS_WITH(fitGeoreference(straight), Catch::Contains("on one line"));
    auto mirrored = std::vector<ControlPoint>{{{0, 0}, {0, 0}}, {{100, 0}, {100, 0}}, {{0, 100}, {0, 100}}};
    CHECK(mentions(fitGeoreference(mirrored).findings, "FC-PICTURE", "mirror"));
}

// --- edits, updates, the store

TEST_CASE("A newer issue of a survey takes the old one's place, and mendings are applied to it", "[ground][import]") {
    const TemporaryFolder folder;
    const auto path = folder.write("s.csv", "point,easting,northing,level,code\n1,480000,6120000,1,GL\n2,480100,6120000,1,GL\n"
                                            "3,480100,6120100,1,GL\n4,480000,6120100,1,GL\n5,480050,6120050,9,GL\n");
    auto project = with(inUtm(), path);
    project = setSourceUsed(project, "s.csv", GroundPart::Points, true).project;
    project = mend(project, {TinEdit::Kind::LeaveOut, {480050, 6120050}, {}, 0}).project;
    Products products;
    CHECK(products.of(project)->terrain->levelAt({480050, 6120050}) == 1.0);
    const auto later = folder.write("s.csv", "point,easting,northing,level,code\n1,480000,6120000,2,GL\n2,480100,6120000,2,GL\n"
                                             "3,480100,6120100,2,GL\n4,480000,6120100,2,GL\n5,480050,6120050,9,GL\n");
    const auto u = grounded(later);
    REQUIRE(earlierIssue(project, u));
    const auto updated = importSource(project, u);
    CHECK(updated.label == "Update s.csv (5 points)");
    CHECK(updated.project.files->size() == 1);
    CHECK(products.of(updated.project)->terrain->levelAt({480050, 6120050}) == 2.0);
    // the same from the project's side: read again where the file lies
    const auto again = rereadSource(project, "s.csv", project.files->front().settings).project;
    CHECK(again.ground->points == updated.project.ground->points);
    // and what was mended at a place that is gone is said
    folder.write("s.csv", "e,n,z\n480000,6120000,2\n480100,6120000,2\n480100,6120100,2\n");
    const auto gone = rereadSource(project, "s.csv", project.files->front().settings).project;
    CHECK(mentions(*products.of(gone)->findings, "FC-MENDED"));
}

TEST_CASE("Only what depends on a changed source is made again", "[ground]") {
    Products products;
    const auto project = demo().project;
    const auto before = products.of(project);
    const auto contours = products.of(changeContours(project, [](ContourChoices& c) { c.interval = 5; }).project);
    CHECK(contours->terrain == before->terrain);
    CHECK(contours->ground == before->ground);
    CHECK(contours->contours != before->contours);
    CHECK(contours->model->bases == before->model->bases);
    const auto code = products.of(setCodeUsed(project, "SP", false).project);
    CHECK(code->terrain != before->terrain);
    CHECK(code->reading == before->reading);
}

TEST_CASE("Far-off ground points are findings that can be shown and left out", "[ground]") {
    auto ground = groundOf("0 0 0");
    std::vector<SurveyPoint> survey;
    for (int i = 0; i < 12; ++i)
        for (int k = 0; k < 12; ++k)
            survey.push_back(
                {"", {480000 + i * 10.0 + 0.1 * (k % 3), 6120000 + k * 10.0 + 0.1 * (i % 4), 5 + 0.01 * ((i * k) % 3)}, ""});
    survey[6 * 12 + 5].place.z = 25;
    ground.points.back().points = survey;
    auto project = inUtm();
    project.ground = part(ground);
    Products products;
    const auto set = products.of(project);
    const auto f = std::ranges::find(*set->findings, "FC-POINT-OFF", &Finding::rule);
    REQUIRE(f != set->findings->end());
    CHECK(f->place == survey[6 * 12 + 5].place.plan());
    REQUIRE(f->remedy);
    const auto mended = fox::apply(project, *f->remedy).project;
    CHECK(mended.ground->edits.size() == 1);
    CHECK_FALSE(mentions(*products.of(mended)->findings, "FC-POINT-OFF"));
}

TEST_CASE("Edits of the ground share the points and lines of the version before", "[ground]") {
    const auto project = with(inUtm(), FOX_DEMO "/survey.csv");
    const auto* points = &*project.ground->points[0].points;
    CHECK(&*setCodeUsed(project, "GL", false).project.ground->points[0].points == points);
    CHECK(&*mend(project, {TinEdit::Kind::LeaveOut, {1, 2}, {}, 0}).project.ground->points[0].points == points);
}

TEST_CASE("Each edit of the ground says what it does, and refuses what is not there", "[ground]") {
    const auto project = with(with(inUtm(), FOX_DEMO "/survey.csv"), FOX_DEMO "/outlines.gpkg");
    CHECK(setCodeUsed(project, "GL", false).label == "Do not use code GL as ground");
    CHECK(setCodeUsed(setCodeUsed(project, "GL", false).project, "GL", true).project.ground->codesOut.empty());
    CHECK(setCodeJoined(project, "TB", true).project.ground->codesJoined.contains("TB"));
    CHECK(setOutlineUse(project, project.ground->outlines[2], Use::Limit).label == "No ground outside culvert footprint");
    CHECK_THROWS_AS(setOutlineUse(project, {"gone", "", {}, Use::None}, Use::Limit), Error);
    CHECK(removeOutline(project, project.ground->outlines[1]).project.ground->outlines.size() == 2);
    CHECK_THROWS_AS(addOutline(project, "x", {{0, 0}, {1, 1}}, Use::None), Error);
    CHECK_FALSE(setSourceUsed(project, "survey.csv", GroundPart::Points, false).project.ground->points[0].used);
    CHECK_THROWS_AS(setSourceUsed(project, "nothing.csv", GroundPart::Points, false), Error);
    CHECK(removeSource(project, "survey.csv").project.ground->points.empty());
    CHECK(removeSource(project, "survey.csv").project.files->size() == 1);
    CHECK_THROWS_AS(removeSource(project, "nothing.csv"), Error);
    CHECK_THROWS_AS(setLongestEdge(project, -1), Error);
    CHECK_THROWS_AS(changeContours(project, [](ContourChoices& c) { c.interval = -1; }), Error);
    // a second level for one place takes the first's
    auto twice = mend(project, {TinEdit::Kind::SetLevel, {1, 1}, {}, 5}).project;
    twice = mend(twice, {TinEdit::Kind::SetLevel, {1, 1}, {}, 6}).project;
    REQUIRE(twice.ground->edits.size() == 1);
    CHECK(twice.ground->edits[0].level == 6);
    CHECK(removeMending(twice, twice.ground->edits[0]).project.ground->edits.empty());
}

TEST_CASE("Ground, pictures and contours come back from the project file", "[store][ground]") {
    const TemporaryFolder folder;
    auto project = with(inUtm(), FOX_DEMO "/survey.csv");
    for (const char* file : {"/breaklines.gpkg", "/hill_contours.shp", "/outlines.gpkg", "/coarse_dem.tif", "/old_plan.png"})
        project = with(project, std::string(FOX_DEMO) + file);
    project = setCodeUsed(project, "SP", false).project;
    project = setCodeJoined(project, "TB", true).project;
    project = setSourceUsed(project, "hill_contours.shp", GroundPart::Lines, false).project;
    project = mend(project, {TinEdit::Kind::SwapEdge, {1, 2}, {3, 4}, 0}).project;
    project = mend(project, {TinEdit::Kind::SetLevel, {1, 2}, {}, 7.5}).project;
    project = setLongestEdge(project, 80).project;
    project = setBlend(project, 25).project;
    project = changeContours(project, [](ContourChoices& c) { c = {0.5, 4, true}; }).project;
    project = placePicture(project, "old_plan.png", {{{0, 0}, {1, 2}}, {{10, 0}, {3, 2}}, {{0, 10}, {1, 0}}}).project;
    ProjectStore::create(folder / "p.gpkg", project);
    CHECK(sameValue(ProjectStore::read(folder / "p.gpkg"), project));
    CHECK(ProjectStore::isProject(folder / "p.gpkg"));
    CHECK_FALSE(ProjectStore::isProject(FOX_DEMO "/outlines.gpkg"));
    // what is changed later is written too, the grid staying as it was
    auto store = ProjectStore::open(folder / "p.gpkg");
    auto changed = removeSource(project, "breaklines.gpkg").project;
    changed = setOutlineUse(changed, changed.ground->outlines[1], Use::None).project;
    store.save(changed);
    CHECK(sameValue(ProjectStore::read(folder / "p.gpkg"), changed));
}

// --- handing on

TEST_CASE("Contours go out as GeoPackage and DXF and come back at their levels", "[export][ground]") {
    const TemporaryFolder folder;
    const auto set = demoProducts();
    for (const char* as : {"gpkg", "dxf"}) {
        const auto files = exportFiles(*set, "contours", as, folder.path());
        REQUIRE(files.size() == 1);
        const auto back = groundLinesOf(readVector(files[0]), {LineRole::Contours, "", 0, {}, {}, {}}, "c");
        CHECK(back.lines.size() == set->contours->size());
        double low = 1e9, high = -1e9;
        for (const auto& l : back.lines) low = std::min(low, l.front().z), high = std::max(high, l.front().z);
        CHECK(low == Approx(set->contours->front().level));
        CHECK(high == Approx(set->contours->back().level));
    }
}

TEST_CASE("The ground's triangles go out in every format and read back as the same surface", "[export][ground]") {
    const TemporaryFolder folder;
    const auto set = demoProducts();
    for (const char* as : {"landxml", "obj", "ply"}) {
        const auto mesh = readTriangleMesh(exportFiles(*set, "ground", as, folder.path()).at(0));
        CHECK(mesh.triangles.size() == set->terrain->tin.triangles().size());
    }
    const auto faces = readVector(exportFiles(*set, "ground", "dxf", folder.path()).at(0));
    CHECK(faces.at(0).features.size() == set->terrain->tin.triangles().size());
}

TEST_CASE("A build file takes contours, grids, outlines and codes", "[build][ground]") {
    const TemporaryFolder folder;
    for (const char* name : {"survey.csv", "breaklines.gpkg", "coarse_dem.tif", "outlines.gpkg", "hill_contours.shp",
                             "hill_contours.shx", "hill_contours.dbf", "hill_contours.prj", "phase1_main.ags"})
        std::filesystem::copy_file(std::filesystem::path(FOX_DEMO) / name, folder / name);
    const auto build = folder.write("b.json", R"({"format":"fox-cellar-build","version":1,"crs":"EPSG:25831",
        "holes":[{"file":"phase1_main.ags"}],
        "ground":{"points":[{"file":"survey.csv","columns":"point,northing,easting,level,code"}],
                  "breaklines":[{"file":"breaklines.gpkg"}],"contours":[{"file":"hill_contours.shp","level_field":"ELEV"}],
                  "rasters":[{"file":"coarse_dem.tif"}],"outlines":[{"file":"outlines.gpkg"}],"codes_out":["SP"],"blend":20}})");
    const auto built = buildProject(build);
    const auto& g = *built.project.ground;
    CHECK(g.points[0].points.size() > 3000);
    CHECK(g.lines.size() == 2);
    CHECK(g.lines[1].role == LineRole::Contours);
    CHECK(g.rasters.size() == 1);
    CHECK(g.outlines.size() == 3);
    CHECK(g.codesOut.contains("SP"));
    CHECK(g.blend == 20);
    folder.write("b2.json", R"({"format":"fox-cellar-build","version":1,"holes":[],"ground":{"rasters":[{"file":"gone.tif"}]}})");
    CHECK_THROWS_WITH(buildProject(folder / "b2.json"), Catch::Contains("gone.tif"));
}

// --- services

TEST_CASE("The stand-in's levels agree with the demo's hills and exist anywhere", "[services]") {
    const auto service = standInElevationService();
    const auto offers = service->offers();
    REQUIRE(offers.size() == 2);
    const TileRequest site{{480000, 6120000, 481500, 6121000}, "EPSG:25831"};
    const auto tile = service->fetch(offers[0], site, {});
    CHECK(tile.crs == "EPSG:25831");
    CHECK(tile.grid.frame.cell == 30);
    for (int r = 0; r < tile.grid.frame.rows(); ++r)
        for (int c = 0; c < tile.grid.frame.columns(); ++c) {
            const auto p = tile.grid.frame.centre(c, r);
            CHECK(tile.grid.at(c, r) == Approx(quernbeck::ground(p.x, p.y)).margin(0.01)); // PROJ's way there and back
        }
    double lowest = 1e9, highest = -1e9;
    for (double lon = -180; lon <= 180; lon += 7)
        for (double lat = -88; lat <= 88; lat += 7) {
            const double z = made_up::groundAt(lon, lat);
            CHECK(std::isfinite(z));
            lowest = std::min(lowest, z), highest = std::max(highest, z);
        }
    CHECK(lowest == 0);
    CHECK(highest > 150);
    CHECK(made_up::groundAt(180, 20) == Approx(made_up::groundAt(-180, 20)).margin(1e-6)); // no seam
    CHECK(made_up::groundAt(10, 45) == made_up::groundAt(10, 45));
}

TEST_CASE("A request says its size before it is asked, and refuses what is too much or nothing", "[services]") {
    const auto offer = standInElevationService()->offers()[1];
    const auto size = sizeOf(offer, {{0, 6000000, 9000, 6009050}, "EPSG:25831"});
    CHECK(size.columns == 100);
    CHECK(size.rows == 101);
    CHECK(size.megabytes == Approx(100 * 101 * 8 / 1e6));
    CHECK_THROWS_WITH(sizeOf(offer, {{0, 0, 0, 10}, "EPSG:25831"}), Catch::Contains("empty"));
    CHECK_THROWS_WITH(sizeOf(offer, {{0, 0, 1e7, 1e7}, "EPSG:25831"}), Catch::Contains("at most"));
    CHECK_THROWS_WITH(sizeOf(offer, {{0, 0, 900, 900}, ""}), Catch::Contains("coordinate system"));
}

TEST_CASE("A tile's job tells its progress and stops when asked", "[services]") {
    const auto service = standInElevationService();
    const TileRequest request{{480000, 6120000, 510000, 6150000}, "EPSG:25831"};
    double last = -1;
    std::stop_source stop;
    const Progress progress(stop.get_token(), [&](double fraction, std::string_view) {
        CHECK(fraction >= last);
        last = fraction;
        if (fraction > 0.3) stop.request_stop();
    });
    CHECK_THROWS_AS(service->fetch(service->offers()[1], request, progress), Stopped);
    CHECK(last < 0.5);
}

TEST_CASE("The stand-in's map lies where it was asked for and shows the beck", "[services]") {
    const auto service = standInMapService();
    const TileRequest request{{480000, 6120300, 480400, 6120700}, "EPSG:25831"};
    const auto map = service->fetch(service->offers()[0], request, {});
    CHECK(map.width == 200);
    REQUIRE(map.georeference);
    CHECK((*map.georeference)[0] == 480000);
    CHECK((*map.georeference)[3] == 6120700);
    const auto pixel = [&](double e, double n) {
        const auto i = (std::size_t((6120700 - n) / 2) * 200 + std::size_t((e - 480000) / 2)) * 4;
        return std::array{map.rgba[i], map.rgba[i + 2]};
    };
    const double beck = quernbeck::beckNorthing(480215);
    CHECK(pixel(480215, beck)[1] > pixel(480215, beck)[0]);                 // blue
    CHECK(pixel(480215, beck + 60)[1] < pixel(480215, beck + 60)[0]);       // land
    CHECK(pixel(480301, beck + 60)[0] < 0.9 * pixel(480309, beck + 60)[0]); // the grid of 100 m
}
