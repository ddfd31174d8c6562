#include "base/errors.h"
#include "fixtures.h"
#include "formats/crs.h"
#include "formats/raster.h"
#include "project/ground_edits.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "project/surface_edits.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// A project with something of every kind that has a place.
Project everywhere() {
    auto p = demo().project;
    p = addTrialColumn(p, {480500, 6120400}).project;
    p = addGuide(p, "TL", {{480400, 6120300, 12}, {480500, 6120300, 13}}).project;
    p = addFault(p, {{480300, 6120100}, {480600, 6120900}}, "TL").project;
    p = addOutline(p, "pond", {{480300, 6120200}, {480500, 6120200}, {480500, 6120350}}, GroundSources::Outline::Use::Island)
            .project;
    p = setSiteLimit(p, {{480100, 6120100}, {481300, 6120100}, {481300, 6120900}}).project;
    return mend(p, {TinEdit::Kind::LeaveOut, {480111, 6120222}, {}, 0}).project;
}

} // namespace

TEST_CASE("All that has a place is moved into another system, and back to where it was", "[project]") {
    const auto before = everywhere();
    const auto edited = moveToSystem(before, "25832");
    const auto& there = edited.project;
    CHECK(there.site->crs == "EPSG:25832");
    CHECK(edited.label == "Move all data from EPSG:25831 to EPSG:25832");
    const CoordinateChange change("EPSG:25831", "EPSG:25832");
    const auto moved = [&](Point2 now, Point2 was) { return distance(now, change.forward(was).value()) < 1e-6; };
    for (std::size_t i = 0; i < before.holes->size(); ++i)
        if (const auto was = before.holes->at(i).place()) CHECK(moved(there.holes->at(i).place().value(), *was));
    CHECK(moved(there.ground->points[0].points.front().place.plan(), before.ground->points[0].points.front().place.plan()));
    CHECK(there.ground->points[0].points.front().place.z == before.ground->points[0].points.front().place.z);
    CHECK(moved(there.ground->lines[0].lines.front().front().plan(), before.ground->lines[0].lines.front().front().plan()));
    CHECK(moved(there.ground->outlines.back().ring[1], before.ground->outlines.back().ring[1]));
    CHECK(moved(there.ground->edits.back().a, {480111, 6120222}));
    CHECK(moved(there.site->limit[0], {480100, 6120100}));
    CHECK(moved(there.sections->front().line[0], before.sections->front().line[0]));
    CHECK(moved(there.trialColumns->back().place, {480500, 6120400}));
    CHECK(moved(there.interpretation->guides.back().line[1].plan(), {480500, 6120300}));
    CHECK(there.interpretation->guides.back().line[1].z == 13);
    CHECK(moved(there.interpretation->faults.back().fault.line[1], {480600, 6120900}));
    for (const auto& file : *there.files) CHECK_FALSE(file.settings.crs.empty()); // they came in the old one

    const auto back = moveToSystem(there, "25831").project;
    for (std::size_t i = 0; i < before.holes->size(); ++i)
        if (const auto was = before.holes->at(i).place()) CHECK(distance(back.holes->at(i).place().value(), *was) < 1e-3);
    CHECK(distance(back.sections->front().line[0], before.sections->front().line[0]) < 1e-3);
}

TEST_CASE("A grid is sampled again in the other system", "[project]") {
    Grid plane(Frame{480000, 6120000, 480400, 6120300, 10});
    for (int r = 0; r < plane.frame.rows(); ++r)
        for (int c = 0; c < plane.frame.columns(); ++c) {
            const auto p = plane.frame.centre(c, r);
            plane.at(c, r) = 20 + (p.x - 480000) / 100 + (p.y - 6120000) / 50;
        }
    Project p;
    p.site = part(Site{"EPSG:25831", plane.frame, {}});
    GroundSources ground;
    ground.rasters.push_back({"dem.tif", std::make_shared<const Grid>(plane), true});
    p.ground = part(std::move(ground));
    const auto there = moveToSystem(p, "25832").project;
    const CoordinateChange change("EPSG:25831", "EPSG:25832");
    const auto& grid = *there.ground->rasters[0].grid;
    for (const Point2 at : {Point2{480100, 6120100}, {480200, 6120150}, {480333, 6120222}})
        CHECK(bilinear(grid, change.forward(at).value()).value()
              == Approx(20 + (at.x - 480000) / 100 + (at.y - 6120000) / 50).margin(0.05));
    const auto frame = there.site->frame.value();
    CHECK(frame.cell == 10);
    CHECK(frame.xmin < frame.xmax);
    // the corners are inside
    const auto corner = change.forward({480000, 6120000}).value();
    CHECK(frame.xmin <= corner.x + 1e-6);
    CHECK(frame.ymin <= corner.y + 1e-6);
}

TEST_CASE("Nothing is moved between systems that are not known, or out of a system's reach", "[project]") {
    const auto p = demo().project;
    CHECK_THROWS_AS(moveToSystem(p, "4711"), Error);
    CHECK_THROWS_AS(moveToSystem(p, ""), Error);
    auto none = p;
    none.site = part(Site{});
    CHECK_THROWS_WITH(moveToSystem(none, "25832"), Catch::Contains("from one coordinate system to another"));
}

TEST_CASE("The extent follows edges that are typed in any order", "[project]") {
    Project p;
    p.site = part(Site{"", Frame{0, 0, 400, 300, 10}, {}});
    // moved by 10 km to the east and north, western and southern edges first
    p = setFrameEdge(p, &Frame::xmin, 10000).project;
    CHECK(p.site->frame.value() == Frame{10000, 0, 10400, 300, 10});
    p = setFrameEdge(p, &Frame::ymax, -5000).project; // and south, from the north
    CHECK(p.site->frame.value() == Frame{10000, -5300, 10400, -5000, 10});
    p = setFrameEdge(p, &Frame::xmax, 10200).project; // an edge that passes nothing moves alone
    CHECK(p.site->frame.value() == Frame{10000, -5300, 10200, -5000, 10});
}

TEST_CASE("A grid that is moved and moved back has its levels where they were", "[formats]") {
    Grid hill(Frame{480000, 6120000, 480600, 6120500, 10});
    for (int r = 0; r < hill.frame.rows(); ++r)
        for (int c = 0; c < hill.frame.columns(); ++c) {
            const auto p = hill.frame.centre(c, r);
            hill.at(c, r) = 40 - std::hypot(p.x - 480300, p.y - 6120250) / 20;
        }
    hill.at(3, 3) = kNoValue;
    const auto there = movedGrid(hill, "EPSG:25831", "EPSG:25832");
    CHECK(there.frame.columns() > 10);
    CHECK(
        std::ranges::any_of(there.values, [](double v) { return std::isnan(v); })); // corners that the turned grid does not reach
    const auto back = movedGrid(there, "EPSG:25832", "EPSG:25831");
    double worst = 0;
    int compared = 0;
    for (double x = 480100; x <= 480500; x += 20)
        for (double y = 6120100; y <= 6120400; y += 20) {
            const auto was = bilinear(hill, {x, y}), now = bilinear(back, {x, y});
            if (!was || !now) continue;
            worst = std::max(worst, std::abs(*was - *now));
            ++compared;
        }
    CHECK(compared > 250);
    CHECK(worst < 0.5); // at the pointed top, where two samplings each cut off a quarter of a cell's fall of 0.5 m
    CHECK_THROWS_AS(movedGrid(hill, "EPSG:25831", "EPSG:999999"), Error);
}

TEST_CASE("What a .prj file says is the system's well-known text", "[formats]") {
    CHECK(projectionText("").empty());
    CHECK(projectionText("EPSG:999999").empty());
    const auto text = projectionText("EPSG:25831");
    CHECK(text.starts_with("PROJCS[\"ETRS_1989_UTM_Zone_31N\""));
    CHECK(std::ranges::count(text, '\n') == 1); // one line, ended
    CHECK(std::ranges::count(text, '[') == std::ranges::count(text, ']'));
}

TEST_CASE("A section's reach is half of the usual distance between neighbours, found by looking at all", "[project][random]") {
    std::mt19937 random(GENERATE(range(1u, 9u)));
    std::uniform_real_distribution<double> at(0, 800);
    Holes holes;
    std::vector<Point2> places;
    for (int i = 0; i < 40; ++i) {
        places.push_back({at(random), at(random)});
        holes.push_back(hole(fmt::format("H{}", i), places.back().x, places.back().y, 10, {{2, "A"}}));
    }
    Hole lost; // a hole without a place counts for nothing
    lost.id = "lost";
    holes.push_back(lost);
    std::vector<double> nearest;
    for (std::size_t i = 0; i < places.size(); ++i) {
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t k = 0; k < places.size(); ++k)
            if (k != i) least = std::min(least, distance(places[i], places[k]));
        nearest.push_back(least);
    }
    std::ranges::sort(nearest);
    const double usual = nearest[nearest.size() / 2];
    CHECK(sectionReach(holes) == std::max(kSectionHoles, std::round(usual / 10) * 5));
}

TEST_CASE("Few holes, or holes close together, have the least reach", "[project]") {
    CHECK(sectionReach({}) == kSectionHoles);
    Holes two{hole("A", 0, 0, 1, {{1, "X"}}), hole("B", 5000, 0, 1, {{1, "X"}})};
    CHECK(sectionReach(two) == kSectionHoles);
    Holes dense;
    for (int i = 0; i < 30; ++i) dense.push_back(hole(fmt::format("H{}", i), i * 3.0, 0, 1, {{1, "X"}}));
    CHECK(sectionReach(dense) == kSectionHoles);
    Holes wide;
    for (int i = 0; i < 30; ++i) wide.push_back(hole(fmt::format("H{}", i), i * 300.0, 0, 1, {{1, "X"}}));
    CHECK(sectionReach(wide) == 150);
}

TEST_CASE("Whichever edge of the extent is typed, it stands there, and the extent is never reversed", "[project][random]") {
    std::mt19937 random(GENERATE(range(1u, 21u)));
    std::uniform_int_distribution<int> tens(-200, 200);
    Project p;
    p.site = part(Site{"", Frame{0, 0, 400, 300, 10}, {}});
    struct Edge {
        double Frame::*here;
        double Frame::*opposite;
    };
    const Edge edges[] = {
        {&Frame::xmin, &Frame::xmax}, {&Frame::xmax, &Frame::xmin}, {&Frame::ymin, &Frame::ymax}, {&Frame::ymax, &Frame::ymin}};
    for (int i = 0; i < 30; ++i) {
        const auto before = p.site->frame.value();
        const auto& edge = edges[std::size_t(std::uniform_int_distribution<int>(0, 3)(random))];
        const double to = tens(random) * 10;
        p = setFrameEdge(p, edge.here, to).project;
        const auto now = p.site->frame.value();
        CHECK(now.*edge.here == to);
        CHECK(now.xmin < now.xmax);
        CHECK(now.ymin < now.ymax);
        CHECK(now.cell == before.cell);
        if (now.*edge.opposite != before.*edge.opposite) { // it went along: the size is as before
            CHECK(now.xmax - now.xmin == Approx(before.xmax - before.xmin));
            CHECK(now.ymax - now.ymin == Approx(before.ymax - before.ymin));
        }
        for (const auto& other : edges) // the two edges across are left alone
            if (other.here != edge.here && other.here != edge.opposite) CHECK(now.*other.here == before.*other.here);
    }
}
