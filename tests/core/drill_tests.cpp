// Where the next hole helps most: against kriging's closed form, and what must hold of any ranking.
#include "base/errors.h"
#include "fixtures.h"
#include "model/where_to_drill.h"

#include <Eigen/Dense>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// P over R on level ground at 30, its base made by kriging with a variogram that is given.
Project krigedSite(const Variogram& v) {
    Project p;
    Holes all;
    for (const auto& at : points("20 20 5, 180 30 7, 30 170 6, 60 90 5"))
        all.push_back(hole(fmt::format("H{}", all.size()), at.x, at.y, 30, {{at.z, "P"}, {25, "R"}}));
    giveNames(all);
    p.holes = part(std::move(all));
    auto s = sequence({"P", "R"});
    s.units[0].recipe.settings.method = Method::Kriging;
    s.units[0].recipe.settings.variogram = v;
    s.units[0].recipe.reference = BaseReference::Level;
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("0 0 30, 200 0 30, 200 200 30, 0 200 30"));
    p.site = part(Site{"", Frame{0, 0, 200, 200, 10}, {}});
    return p;
}

} // namespace

TEST_CASE("The gain for a kriged base is the variance that one more datum takes away", "[drill]") {
    const Variogram v{VariogramModel::Exponential, 0, 1, 150};
    const auto set = Products().of(krigedSite(v), {}, {ProductKind::Grids});
    const auto& model = *set->model;
    const Frame frame{0, 0, 200, 200, 10};
    const std::vector<Point2> candidates{{150, 150}, {100, 100}, {62, 92}, {195, 195}};
    DrillSettings settings;
    settings.ensemble.count = 1500;
    const auto ranked = whereToDrill(model, frame, {DrillAim::Kind::Base, 0, {}}, candidates, settings);
    REQUIRE(ranked.size() == 4);
    // ordinary kriging's covariance of errors between two places, by dense matrices; the mean as unknown
    std::vector<Point2> data;
    for (const auto& h : *set->project.holes) data.push_back(*h.place());
    const auto n = Eigen::Index(data.size());
    const auto covariance = [&](Point2 a, Point2 b) { return 1 - v.at(distance(a, b)) + 1000; }; // a wide prior of the mean
    Eigen::MatrixXd k(n, n);
    for (Eigen::Index i = 0; i < n; ++i)
        for (Eigen::Index j = 0; j < n; ++j) k(i, j) = covariance(data[std::size_t(i)], data[std::size_t(j)]);
    const Eigen::LDLT<Eigen::MatrixXd> factor(k);
    const auto to = [&](Point2 p) {
        Eigen::VectorXd out(n);
        for (Eigen::Index i = 0; i < n; ++i) out[i] = covariance(data[std::size_t(i)], p);
        return out;
    };
    const auto posterior = [&](Point2 a, Point2 b) { return covariance(a, b) - to(a).dot(factor.solve(to(b))); };
    const auto asked = drillCandidates(frame.box(), 1600);
    for (const auto& r : ranked) {
        double gone = 0, all = 0;
        for (const auto& p : asked)
            gone += std::pow(posterior(p, r.place), 2) / posterior(r.place, r.place), all += posterior(p, p);
        CAPTURE(r.place.x, r.place.y);
        CHECK(r.gain == Approx(gone / all).margin(0.05)); // of 1,500 realisations, with the base at or below the ground
    }
    for (std::size_t i = 1; i < 4; ++i) CHECK(ranked[i].gain <= ranked[i - 1].gain);
    CHECK(ranked.back().place == Point2{62, 92}); // beside a hole
}

TEST_CASE("A hole that ends above the base, or where all is known, gains next to nothing", "[drill]") {
    const auto set = Products().of(krigedSite({VariogramModel::Spherical, 0, 0.5, 120}), {}, {ProductKind::Grids});
    const Frame frame{0, 0, 200, 200, 10};
    const std::vector<Point2> candidates{{150, 150}};
    DrillSettings settings;
    const auto gain = [&](DrillAim aim, std::vector<Point2> at) {
        return whereToDrill(*set->model, frame, aim, at, settings).front().gain;
    };
    CHECK(gain({DrillAim::Kind::Volume, 0, {}}, candidates) > 0.1);
    const auto data = *(*set->project.holes)[0].place();
    CHECK(gain({DrillAim::Kind::Volume, 0, {}}, {data}) < 0.05);
    settings.depth = 0.5;
    CHECK(gain({DrillAim::Kind::Volume, 0, {}}, candidates) < 0.02);
    settings.depth = 20.0;
    CHECK(gain({DrillAim::Kind::Volume, 0, {}}, candidates) > 0.1);
    // of an area round one corner a hole there tells more than one at the other end
    settings.depth.reset();
    const DrillAim corner{DrillAim::Kind::Volume, 0, Area(square(140, 140, 60))};
    const auto ranked = whereToDrill(*set->model, frame, corner, std::vector<Point2>{{20, 120}, {170, 170}}, settings);
    CHECK(ranked.front().place == Point2{170, 170});
    CHECK(ranked.front().gain > ranked.back().gain + 0.2);
    CHECK(gain({DrillAim::Kind::Presence, 0, {}}, candidates) == 0); // it is everywhere in every realisation
}

TEST_CASE("What can't be asked for is said; places without ground are passed over", "[drill]") {
    const auto set = Products().of(krigedSite({VariogramModel::Spherical, 0, 0.5, 120}), {}, {ProductKind::Grids});
    const Frame frame{0, 0, 200, 200, 10};
    const std::vector<Point2> candidates{{500, 500}, {100, 100}};
    CHECK_THROWS_WITH(whereToDrill(*set->model, frame, {DrillAim::Kind::Volume, 1, {}}, candidates),
                      Catch::Contains("oldest unit has no base"));
    CHECK_THROWS_WITH(whereToDrill(*set->model, frame, {DrillAim::Kind::Volume, 0, Area(square(900, 900, 10))}, candidates),
                      "There is no ground in this area.");
    CHECK(whereToDrill(*set->model, frame, {DrillAim::Kind::Volume, 0, {}}, candidates).size() == 1);
    const auto line = drillCandidates(Polyline2{{0, 0}, {30, 0}, {30, 40}}, 8);
    REQUIRE(line.size() == 8);
    CHECK(line.front() == Point2{0, 0});
    CHECK(line.back() == Point2{30, 40});
    CHECK(line[3] == Point2{30, 0});
    CHECK(drillCandidates(Box2(), 10).empty());
    const std::vector<DrillPlace> close{{{0, 0}, 0.5}, {{4, 0}, 0.4}, {{10, 0}, 0.3}, {{13, 0}, 0.2}, {{20, 0}, 0.1}};
    const auto few = apart(close, 8);
    REQUIRE(few.size() == 3);
    CHECK(few[1].gain == 0.3);
    CHECK(few[2].gain == 0.1);
    for (const auto kind : {DrillAim::Kind::Volume, DrillAim::Kind::Base, DrillAim::Kind::Presence})
        CHECK(drillAimNamed(name(kind)) == kind);
    CHECK_FALSE(drillAimNamed("gold"));
}
