// Levels of water at a date, and surfaces of them.
#include "base/errors.h"
#include "fixtures.h"
#include "formats/raster.h"
#include "handover/export_files.h"
#include "holes/soundings.h"
#include "project/hole_edits.h"
#include "project/json.h"
#include "project/sequence_edits.h"
#include "project/water_edits.h"
#include "sheets/section_drawing.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

double plane(Point2 p) { return 20 + 0.01 * (p.x - 1000) - 0.02 * (p.y - 2000); }

/// Nine holes of a sand on a clay with a standpipe each, on which the water lies on a plane in March and a metre higher in June;
/// every third pipe is in the clay.
Project waterSite() {
    Project p;
    Holes holes;
    for (int i = 0; i < 9; ++i) {
        const double x = 1000 + 100 * (i % 3) + 7 * (i / 3), y = 2000 + 90 * (i / 3) + 11 * (i % 2);
        auto h = hole(fmt::format("B{}", i + 1), x, y, 30, {{8, "SA"}, {20, "CL"}});
        const double depth = 30 - plane({x, y});
        h.waterLevels = {{"2026-03-01", Depth{depth}, "P"},
                         {"2026-06-01T09:00", Depth{depth - 1}, "P"},
                         {"2026-06-01T15:00", Depth{depth - 1.5}, "P"},
                         {"2026-07-01", Depth{18}, "P", true}};
        const double response = i % 3 == 2 ? 12 : 5;
        h.installations = {{Installation::Part::ResponseZone, Depth{response}, Depth{response + 2}, "P"}};
        holes.push_back(std::move(h));
    }
    giveNames(holes);
    p.holes = part(std::move(holes));
    Sequence sequence;
    sequence.unitHeading = "GEOL_GEOL";
    sequence.units.resize(2);
    sequence.units[0].code = "SA", sequence.units[0].name = "Sand", sequence.units[1].code = "CL",
    sequence.units[1].name = "Clay";
    p.sequence = part(std::move(sequence));
    Site s;
    s.frame = Frame{1000, 2000, 1220, 2200, 10};
    p.site = part(std::move(s));
    return p;
}

WaterSurface inMarch(const std::string& unit = {}) {
    WaterSurface s;
    s.name = "March", s.unit = unit, s.reading = {WaterStatistic::AtDate, "2026-03-01"};
    return s;
}

FittedWaterSurface fitted(const WaterSurface& wanted, const Project& p) {
    return fitWaterSurface(wanted, *p.holes, readHoles(*p.holes, *p.sequence), *p.sequence);
}

std::size_t used(const std::vector<WaterPoint>& points) { return std::size_t(std::ranges::count_if(points, &WaterPoint::used)); }

} // namespace

TEST_CASE("The level at a date is the last reading of that day, else between two readings", "[holes][water]") {
    const auto p = waterSite();
    const auto series = waterSeries(*p.holes).front();
    const double march = series.readings.front().level;
    const auto at = [&](const char* date) { return levelOf(series, {WaterStatistic::AtDate, date}); };
    CHECK(*at("2026-03-01") == march);
    CHECK(*at("01/06/2026") == march + 1.5);
    CHECK(*at("2026-06-01T09:00") == march + 1);
    CHECK(*at("2026-04-16T04:30") == Approx(march + 0.5)); // half way in time to nine o'clock
    CHECK_FALSE(at("2026-02-28"));
    CHECK_FALSE(at("2026-06-20")); // dry after that
    CHECK_FALSE(at("soon"));
    const auto depths = waterIn((*p.holes)[0], {WaterStatistic::AtDate, "2026-06-01"});
    REQUIRE(depths.size() == 1);
    CHECK(depths[0].depth.metres == Approx(30 - march - 1.5));
    CHECK(depths[0].when == "2026-06-01T15:00");
    CHECK(waterIn((*p.holes)[0], {WaterStatistic::Mean, {}})[0].when.empty());
    for (const auto s :
         {WaterStatistic::Highest, WaterStatistic::Lowest, WaterStatistic::Latest, WaterStatistic::Mean, WaterStatistic::AtDate})
        CHECK(waterStatisticNamed(name(s)) == s);
    CHECK_FALSE(waterStatisticNamed("yesterday"));
}

TEST_CASE("A water surface through points on a plane is that plane", "[model][water]") {
    const auto p = waterSite();
    auto wanted = inMarch();
    const auto automatic = fitted(wanted, p);
    REQUIRE(automatic.fit.data.size() == 9);
    CHECK(automatic.errors.size() >= 4);
    // of the smooth methods the one with the smallest error
    for (const auto& [method, error] : automatic.errors)
        if (hasVariogram(method) || method == Method::ThinPlate) CHECK(automatic.fit.leaveOneOut.rmse <= error * 1.02 + 1e-9);
    CHECK(automatic.fit.settings.method != Method::Nearest);
    for (const auto method : {Method::UniversalKriging, Method::ThinPlate}) {
        wanted.method = method;
        const auto made = fitted(wanted, p);
        CHECK(made.fit.settings.method == method);
        for (const Point2 at : {Point2{1010, 2010}, {1111, 2099}, {1215, 2190}})
            CHECK(made.fit.surface->at(at) == Approx(plane(at)).margin(1e-4));
    }
    wanted.reach = 40;
    CHECK(std::isnan(fitted(wanted, p).fit.surface->at({1150, 2140 + 500})));
}

TEST_CASE("A water surface takes the points of its unit, and those that are chosen", "[model][water]") {
    const auto p = waterSite();
    const auto logs = readHoles(*p.holes, *p.sequence);
    const auto pointsOf = [&](const WaterSurface& s) { return waterPoints(s, *p.holes, logs, *p.sequence); };
    CHECK(used(pointsOf(inMarch())) == 9);
    CHECK(used(pointsOf(inMarch("SA"))) == 6);
    CHECK(used(pointsOf(inMarch("CL"))) == 3);
    CHECK(used(pointsOf(inMarch("gone"))) == 0);
    auto chosen = inMarch("SA");
    chosen.points = {{"B3 / P", true}, {"B1 / P", false}};
    const auto points = pointsOf(chosen);
    CHECK(used(points) == 6);
    CHECK_FALSE(points[0].used);
    CHECK(points[2].used);
    CHECK(points[2].unit == std::size_t(1));
    CHECK(points[0].name == "B1 / P");
    // none, one, two: no method can be judged, and nothing is made up where nothing is known
    auto none = inMarch("gone");
    CHECK(std::isnan(fitted(none, p).fit.surface->at({1100, 2100})));
    none.points = {{"B5 / P", true}};
    const auto one = fitted(none, p);
    CHECK(one.errors.empty());
    CHECK(one.fit.surface->at({1000, 2000}) == Approx(one.fit.data.front().z));
    const auto csv = waterPointsCsv(one, *p.sequence);
    CHECK(csv.find("B5 / P,") != csv.npos);
    CHECK(csv.find(",SA,yes\n") != csv.npos);
}

TEST_CASE("Water surfaces are edited, follow the names of holes, and are kept in the project file", "[project][water]") {
    auto p = waterSite();
    p = setShownWater(p, {WaterStatistic::Highest, {}}).project;
    auto e = addWaterSurface(p, "SA");
    CHECK(e.label == "Add the water surface Water in Sand");
    CHECK(e.project.waterSurfaces->front().reading.which == WaterStatistic::Highest); // as it is shown
    e = addWaterSurface(e.project, "SA");
    CHECK(e.project.waterSurfaces->back().name == "Water in Sand 2");
    e = renameWaterSurface(e.project, "Water in Sand 2", " Spring ");
    e = changeWaterSurface(
        e.project, "Spring",
        [](WaterSurface& s) {
            s.points = {{"B1 / P", false}, {"B10 / P", true}}, s.method = Method::Kriging, s.reach = 120;
            s.reading = {WaterStatistic::AtDate, "2026-03-01"};
        },
        "points");
    p = setHoleName(e.project, "B1", "BH-1").project;
    const auto& points = p.waterSurfaces->back().points;
    CHECK(points == std::map<std::string, bool>{{"BH-1 / P", false}, {"B10 / P", true}});
    CHECK_THROWS_AS(addWaterSurface(p, "ZZ"), Error);
    CHECK_THROWS_AS(removeWaterSurface(p, "nothing"), Error);
    CHECK_THROWS_AS(renameWaterSurface(p, "Spring", "water in sand"), Error);
    CHECK_THROWS_AS(renameWaterSurface(p, "Spring", "  "), Error);
    CHECK_THROWS_AS(setShownWater(p, {WaterStatistic::AtDate, "soon"}), Error);
    CHECK_THROWS_AS(changeWaterSurface(
                        p, "Spring",
                        [](WaterSurface& s) {
                            s.reading = {WaterStatistic::AtDate, ""};
                        },
                        "date"),
                    Error);
    for (const auto& s : *p.waterSurfaces) CHECK(waterSurfaceOf(toJson(s)) == s);
    CHECK_THROWS_AS(waterSurfaceOf({{"reading", "latest"}}), UsageError);
    CHECK_THROWS_AS(waterSurfaceOf({{"name", "A"}, {"method", "guessing"}}), UsageError);
    CHECK_THROWS_AS(waterSurfaceOf({{"name", "A"}, {"reading", "at-date"}, {"date", "x"}}), UsageError);
    const TemporaryFolder folder;
    const auto file = folder / "water.gpkg";
    { ProjectStore::create(file, p); }
    const auto again = ProjectStore::read(file);
    CHECK(*again.waterSurfaces == *p.waterSurfaces);
    CHECK(*again.shownWater == *p.shownWater);
    CHECK(removeWaterSurface(again, "Spring").project.waterSurfaces->size() == 1);
}

TEST_CASE("A water surface has grids, contours, a line on sections, and goes out", "[products][water]") {
    auto p = waterSite();
    auto surface = inMarch();
    surface.method = Method::UniversalKriging;
    p.waterSurfaces = part(std::vector<WaterSurface>{surface});
    GroundSources ground; // flat at 20.5 m: the water stands above it in a part of the site
    std::vector<SurveyPoint> corners;
    for (const Point2 c : {Point2{990, 1990}, {1230, 1990}, {1230, 2210}, {990, 2210}}) {
        corners.emplace_back();
        corners.back().place = {c.x, c.y, 20.5};
    }
    ground.points.push_back({"corners.csv", std::move(corners)});
    ground.holeLevels = false;
    p.ground = part(std::move(ground));
    p = addSection(p, {{1000, 2100}, {1220, 2100}}).project;
    Products products;
    const auto set = products.of(p);
    REQUIRE(set->waterSurfaces.size() == 1);
    const auto& made = *set->waterSurfaces[0];
    REQUIRE(made.levels);
    const auto& frame = made.levels->frame;
    double above = 0;
    for (int r = 0; r < frame.rows(); ++r)
        for (int c = 0; c < frame.columns(); ++c) {
            const double level = plane(frame.centre(c, r));
            CHECK(made.levels->at(c, r) == Approx(level).margin(1e-4));
            CHECK(made.depths->at(c, r) == Approx(20.5 - level).margin(1e-4));
            above += level > 20.5 ? frame.cell * frame.cell : 0;
        }
    CHECK(above > 0);
    CHECK(made.aboveGround == Approx(above));
    CHECK_FALSE(made.contours.empty());
    for (const auto& contour : made.contours)
        for (const auto& at : contour.line) { // between cell centres; beyond them a line ends as it comes
            const double inside = std::min({at.x - frame.xmin, frame.xmax - at.x, at.y - frame.ymin, frame.ymax - at.y});
            if (inside >= frame.cell / 2) CHECK(plane(at) == Approx(contour.level).margin(0.01));
        }
    const auto& section = *set->sections.at(0);
    REQUIRE(section.waters.size() == 1);
    for (std::size_t i = 0; i < section.chainage.size(); ++i)
        CHECK(section.waters[0].levels[i] == Approx(plane(pointAlong(section.line, section.chainage[i]))).margin(1e-4));
    const auto drawing = sectionSheet(section, *p.sequence, "A", 5);
    CHECK(std::ranges::any_of(drawing.items, [](const auto& i) { return i.layer == "water surfaces" && i.name == "March"; }));

    // another date makes this surface anew, and nothing else of the model
    auto june = changeWaterSurface(
        p, "March", [](WaterSurface& s) { s.reading.date = "2026-06-01"; }, "June");
    const auto later = products.of(june.project);
    CHECK(later->model == set->model);
    CHECK(later->terrain == set->terrain);
    CHECK(later->waterSurfaces[0]->levels->at(5, 5) == Approx(made.levels->at(5, 5) + 1.5));

    const TemporaryFolder folder;
    CHECK(exportFiles(*set, "water-surfaces", "tif", folder.path()).size() == 2);
    const auto raster = readRaster(folder / "March_depth.tif");
    CHECK(raster.grid.at(3, 3) == Approx(made.depths->at(3, 3)));
    CHECK(exportFiles(*set, "water-surfaces", "csv", folder.path()).front().filename() == "March_points.csv");
    CHECK(exportFiles(*set, "water-contours", "gpkg", folder.path()).front().filename() == "March_contours.gpkg");
    CHECK_THROWS_AS(exportFiles(*products.of(waterSite()), "water-surfaces", "tif", folder.path()), Error);
}

TEST_CASE("What is stated of a sounding takes the place of what is assumed", "[project][soundings]") {
    Project p;
    auto h = hole("C1", 0, 0, 30, {});
    h.soundings = {{"1", "", 0.8, Depth{2}}, {"1A"}};
    h.finalDepth = Depth{20};
    Holes holes;
    holes.push_back(h);
    giveNames(holes);
    p.holes = part(std::move(holes));
    const auto stated = setSoundingAssumptions(p, "C1", "1", 16.5, Depth{0.7}).project;
    const auto& now = (*stated.holes)[0];
    CHECK(assumedFor(now, now.soundings[0]).unitWeight == 16.5);
    CHECK(assumedFor(now, now.soundings[0]).water.metres == 0.7);
    CHECK(words(assumedFor(now, now.soundings[0])) == "unit weight 16.5 kN/m3, water at 0.70 m (stated)");
    CHECK(assumedFor(now, now.soundings[1]).unitWeight == 18); // of the other push nothing was stated
    const auto back = setSoundingAssumptions(stated, "C1", "1", {}, {}).project;
    CHECK(assumedFor((*back.holes)[0], (*back.holes)[0].soundings[0]).water.metres == 2);
    CHECK_THROWS_AS(setSoundingAssumptions(p, "C1", "2", 18, {}), Error);
    CHECK_THROWS_AS(setSoundingAssumptions(p, "C1", "1", -1, {}), Error);
    const TemporaryFolder folder;
    { ProjectStore::create(folder / "c.gpkg", stated); }
    CHECK((*ProjectStore::read(folder / "c.gpkg").holes)[0].soundings == now.soundings);
}
