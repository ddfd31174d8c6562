#include "fixtures.h"
#include "surfaces/faults.h"
#include "surfaces/grid_surface.h"
#include "surfaces/plane.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

SurfaceSettings by(Method method) {
    SurfaceSettings s;
    s.method = method;
    s.carriedOn = true;
    return s;
}

const Box2& faultedSite() {
    static const Box2 kSite = [] {
        Box2 box;
        box.include({0, 0});
        box.include({100, 100});
        return box;
    }();
    return kSite;
}

/// North-south through the middle of the site, drawn northwards.
Fault middle() { return carriedOut({"F1", {{50, 0}, {50, 100}}}, faultedSite()); }

} // namespace

TEST_CASE("A fault has two sides, and none beyond an end inside", "[faults]") {
    const Fault inside{"F", {{50, 0}, {50, 50}}};
    CHECK_FALSE(sideOf(inside, {49, 25}).right);
    CHECK(sideOf(inside, {51, 25}).right);
    CHECK(sideOf(inside, {49.9, 25}).share == 1);
    CHECK(sideOf(inside, {50.5, 49}).share == 1);
    CHECK(sideOf(inside, {50, 60}).share == Approx(0).margin(1e-12));
    CHECK(sideOf(inside, {60, 100}).share < 0.35);
    for (const auto& p : randomPoints(1, 50)) { // through the whole site
        const auto side = sideOf(middle(), p.plan());
        CHECK(side.share == 1);
        CHECK(side.right == (p.x > 50));
    }
    CHECK(carriedOut(inside, faultedSite()).line.size() == 3); // only the end on the edge
}

TEST_CASE("No method looks through a fault", "[faults]") {
    const auto method = GENERATE(from_range(allMethods().begin(), allMethods().end()));
    CAPTURE(name(method));
    std::vector<Point3> left, right, all;
    for (const auto& p : randomPoints(7, 40)) {
        (p.x < 50 ? left : right).push_back({p.x, p.y, p.z / 20 + (p.x < 50 ? 0 : 30)});
    }
    all = left;
    all.insert(all.end(), right.begin(), right.end());
    auto settings = by(method);
    settings.variogram = Variogram{VariogramModel::Spherical, 0, 5, 60};
    const std::vector<Fault> faults{middle()};
    const auto fit = fitFaulted(all, {}, settings, faults);
    const auto l = fitSurface(left, {}, settings), r = fitSurface(right, {}, settings);
    int seen = 0;
    for (const auto& q : randomPoints(8, 60)) {
        const double expected = (q.x < 50 ? l : r).surface->at(q.plan());
        REQUIRE_FALSE(std::isnan(expected));
        CHECK(fit.surface->at(q.plan()) == Approx(expected).epsilon(1e-9));
        ++seen;
    }
    CHECK(seen == 60);
    CHECK(fit.data.size() == all.size());
    CHECK(fit.leaveOneOut.n == l.leaveOneOut.n + r.leaveOneOut.n);
    CHECK(fit.points == 40);
}

TEST_CASE("Where a fault ends inside, the surface is whole again beyond, and honours data and bounds", "[faults]") {
    const Fault ends = carriedOut({"F", {{50, 0}, {50, 50}}}, faultedSite());
    std::vector<Point3> data;
    for (const auto& p : randomPoints(17, 50)) data.push_back({p.x, p.y, p.x > 50 && p.y < 50 ? 20.0 + p.z / 50 : p.z / 50});
    std::vector<Bound> bounds;
    for (const auto& p : randomPoints(18, 12))
        bounds.push_back({{p.x, p.y, p.x > 50 && p.y < 50 ? 19.0 : -1.0}, Side::Upper, ""});
    const auto fit = fitFaulted(data, bounds, by(Method::Kriging), std::vector{ends});
    for (const auto& p : data) CHECK(fit.surface->at(p.plan()) == Approx(p.z).margin(1e-6));
    for (const auto& b : bounds) CHECK(fit.surface->at(b.place.plan()) <= b.place.z + 1e-5);
    CHECK(std::abs(fit.surface->at({50.01, 20}) - fit.surface->at({49.99, 20})) > 5);          // a step
    CHECK(std::abs(fit.surface->at({50.01, 80}) - fit.surface->at({49.99, 80})) < 0.05);       // none
    CHECK(std::abs(fit.surface->at({50.001, 50.5}) - fit.surface->at({49.999, 50.5})) < 0.05); // just beyond the end
    // the throw, along the trace
    const auto throws = throwAlong(*fit.surface, {"F", {{50, 0}, {50, 50}}}, 10);
    REQUIRE(throws.size() == 6);
    CHECK(throws.front().chainage == 0);
    CHECK(throws.back().chainage == 50);
    CHECK(throws[2].up() > 5);
    CHECK(throws[2].left == Approx(fit.surface->at({49.99, 20})));
}

TEST_CASE("Two faults make four blocks; a block without a hole is extrapolated and said", "[faults]") {
    const std::vector<Fault> faults{middle(), carriedOut({"F2", {{0, 50}, {100, 50}}}, faultedSite())};
    const auto data = points("20 20 1, 30 10 1, 80 20 2, 70 30 2, 20 80 3, 40 90 3");
    const auto fit = fitFaulted(data, {}, by(Method::InverseDistance), faults);
    CHECK(fit.surface->at({10, 10}) == Approx(1));
    CHECK(fit.surface->at({90, 10}) == Approx(2));
    CHECK(fit.surface->at({10, 90}) == Approx(3));
    const double unknown = fit.surface->at({90, 90});
    CHECK((unknown >= 1 && unknown <= 3));
    CHECK(mentions(fit.findings, "FC-FAULT", "extrapolated"));
    CHECK(fitFaulted({}, {}, by(Method::Kriging), faults).points == 0);
    const std::vector<Fault> many(9, middle());
    CHECK(mentions(fitFaulted(data, {}, by(Method::Nearest), many).findings, "FC-FAULT", "Only the first 6 of 9"));
}

TEST_CASE("A grid as a surface is linear between centres", "[surfaces]") {
    auto grid = std::make_shared<Grid>(Frame{0, 0, 30, 20, 10});
    for (int r = 0; r < 2; ++r)
        for (int c = 0; c < 3; ++c) grid->at(c, r) = grid->frame.centre(c, r).x + 10 * grid->frame.centre(c, r).y;
    const auto surface = gridSurface(grid);
    for (const auto& q : randomPoints(5, 40, 1)) {
        const Point2 p{5 + q.x * 20, 5 + q.y * 10};
        CHECK(surface->at(p) == Approx(p.x + 10 * p.y));
    }
    CHECK(surface->at({0, 0}) == Approx(5 + 50)); // as at the corner's centre
    CHECK(surface->at({30, 20}) == Approx(25 + 150));
    CHECK(std::isnan(surface->at({30.1, 10})));
    CHECK_FALSE(surface->hasVariance());
    grid->at(1, 0) = kNoValue;
    CHECK(std::isnan(surface->at({12, 12})));
    CHECK(surface->at({5, 15}) == Approx(155)); // the cell itself needs no other
    CHECK(gridSurface(std::make_shared<Grid>(Frame{0, 0, 1, 1, 1}))->hasVariance() == false);
}

TEST_CASE("A plane by strike and dip, and back", "[surfaces]") {
    const double strike = GENERATE(0.0, 37.0, 90.0, 200.0, 359.0), dip = GENERATE(0.5, 12.0, 60.0);
    CAPTURE(strike, dip);
    const auto plane = planeOf(strike, dip, {100, 200, 30});
    CHECK(plane.at({100, 200}) == 30);
    CHECK(plane.strike() == Approx(strike).margin(1e-9));
    CHECK(plane.dip() == Approx(dip));
    const double along = strike * std::acos(-1) / 180;
    CHECK(plane.at({100 + std::sin(along), 200 + std::cos(along)}) == Approx(30)); // level along the strike
    CHECK(plane.at({100 + std::cos(along), 200 - std::sin(along)}) < 30);          // down to its right
    std::vector<Point3> data;
    for (const auto& p : randomPoints(9, 20)) data.push_back({p.x, p.y, plane.at(p.plan())});
    const auto fitted = planeThrough(data);
    REQUIRE(fitted);
    CHECK(fitted->dip() == Approx(dip));
    CHECK_FALSE(planeThrough(points("0 0 1, 1 1 2, 2 2 3")));
    CHECK_FALSE(planeThrough(points("0 0 1, 1 1 2")));
}
