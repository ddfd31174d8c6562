// The geologist's own: contacts by hand, guides, faults, fixed bases; and what bases are measured from.
#include "base/errors.h"
#include "fixtures.h"
#include "model/surface_maps.h"
#include "project/surface_edits.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// A site of 200 x 200 m whose ground rises by 0.1 m a metre to the east, with units A to D in holes.
Project slopingSite(const Holes& holes, Sequence s) {
    Project p;
    p.site = part(Site{"", Frame{0, 0, 200, 200, 10}, {}});
    p.holes = part(holes);
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("0 0 0, 200 0 20, 200 200 20, 0 200 0"));
    return p;
}

Holes evenHoles(const std::function<std::vector<std::pair<double, const char*>>(double x, double y)>& log) {
    Holes holes;
    for (double x = 20; x < 200; x += 40)
        for (double y = 20; y < 200; y += 40) {
            auto h = hole(fmt::format("h{}", holes.size()), x, y, 0.1 * x, {});
            double top = 0;
            for (const auto& [base, code] : log(x, y)) {
                h.intervals.push_back({Depth{top}, Depth{base}, "", {{"GEOL_GEOL", code}}, 0});
                top = base;
            }
            h.finalDepth = Depth{top};
            holes.push_back(h);
        }
    return holes;
}

double baseAt(const ProductSet& set, std::size_t unit, double x, double y) { return set.model->columnAt({x, y}).bases[unit]; }

} // namespace

TEST_CASE("A patchy unit ends halfway and has no ghosts", "[model]") {
    // B is there in the west only; two holes east of it that say no would let a plain thickness rise again beyond
    const auto holes = evenHoles([](double x, double) -> std::vector<std::pair<double, const char*>> {
        if (x < 80) return {{1, "A"}, {3, "B"}, {9, "C"}};
        return {{1, "A"}, {9, "C"}};
    });
    auto s = sequence({"A", "B", "C"});
    s.units[1].recipe.reference = BaseReference::Thickness;
    const auto method = GENERATE(Method::Kriging, Method::ThinPlate, Method::InverseDistance);
    CAPTURE(name(method));
    s.units[1].recipe.settings.method = method;
    const auto set = Products().of(slopingSite(holes, s));
    const auto& base = *set->model->bases[1];
    CHECK(base.in.assumed == 15);
    CHECK(base.in.contacts == 10);
    CHECK(base.bounds == 15);
    for (double y = 10; y < 200; y += 20) {
        for (double x = 105; x < 200; x += 5) {
            const auto c = set->model->columnAt({x, y});
            CHECK(c.bases[1] == Approx(c.bases[0]).margin(1e-9)); // none, right from the first hole without it
        }
        const auto c = set->model->columnAt({60, y});
        CHECK(c.bases[0] - c.bases[1] > 0.5);
    }
    const auto thickness = [&](double x) {
        const auto c = set->model->columnAt({x, 100});
        return c.bases[0] - c.bases[1];
    };
    if (method != Method::InverseDistance) {
        CHECK(thickness(75) > 0);
        CHECK(thickness(85) == 0); // halfway is 80
    }
    CHECK(set->audit->matchedFraction == Approx(1).margin(1e-6));
    CHECK(set->audit->boundsBroken == 0);
    CHECK(set->audit->worstDifference < 1e-5);
}

TEST_CASE("How a base is made is chosen by what it tells of left-out holes", "[model]") {
    // B: 2 m thick everywhere under a wavy top: a thickness fits, levels and depths do not
    const auto holes = evenHoles([](double x, double y) -> std::vector<std::pair<double, const char*>> {
        const double top = 4 + 3 * std::sin(x / 9 + y / 7);
        if (x > 150) return {{top, "A"}, {14, "C"}};
        return {{top, "A"}, {top + 2, "B"}, {14, "C"}};
    });
    const auto set = Products().of(slopingSite(holes, sequence({"A", "B", "C"})));
    const auto& base = *set->model->bases[1];
    CHECK(base.reference == BaseReference::Thickness);
    REQUIRE(base.judged.size() == 3);
    CHECK(base.judged[0].reference == BaseReference::Thickness);
    CHECK(base.judged[0].error < 0.7 * std::min(base.judged[1].error, base.judged[2].error));
    CHECK(base.judged[0].validationPoints == 25);
    // contacts alone
    auto alone = sequence({"A", "B", "C"});
    for (auto& u : alone.units) u.recipe.bounds = false;
    const auto without = Products().of(slopingSite(holes, alone));
    CHECK(without->model->bases[1]->in.assumed == 0);
    CHECK(without->model->bases[1]->in.bounds.empty());
}

TEST_CASE("A base is measured under a younger or over an older one", "[model]") {
    const auto holes = evenHoles([](double x, double y) -> std::vector<std::pair<double, const char*>> {
        const double a = 2 + std::sin(x / 20), c = 12 + 2 * std::cos(y / 25);
        return {{a, "A"}, {c - 3, "B"}, {c, "C"}, {20, "D"}};
    });
    auto s = sequence({"A", "B", "C", "D"});
    s.units[1].recipe.reference = BaseReference::Thickness;
    s.units[1].recipe.against = "C"; // 3 m over the base of C
    const auto set = Products().of(slopingSite(holes, s));
    CHECK(set->model->order.units == std::vector<std::size_t>{0, 2, 1});
    for (const double x : {33.0, 77.0, 140.0}) CHECK(baseAt(*set, 1, x, 90) - baseAt(*set, 2, x, 90) == Approx(3).margin(1e-6));
    CHECK(set->modelGrid->bases[1].at(5, 5) - set->modelGrid->bases[2].at(5, 5) == Approx(3).margin(1e-6));
    s.units[1].recipe.against = "A";
    const auto under = Products().of(slopingSite(holes, s));
    CHECK(under->model->bases[1]->measuredFromBase());
    CHECK(under->audit->worstDifference < 1e-5);
    // each measured from the other: both can't be
    s.units[1].recipe.against = "C";
    s.units[2].recipe.reference = BaseReference::Thickness;
    s.units[2].recipe.against = "B";
    const auto order = workingOrder(s);
    CHECK(std::ranges::count(order.circular, true) == 1);
    CHECK(Products().of(slopingSite(holes, s))->audit->worstDifference < 1e-5);
}

TEST_CASE("Levels less a plane give a dipping bed back where nobody drilled", "[model]") {
    // a bed that dips 10 degrees to the south, with little waves; holes in the north only
    Holes holes;
    for (double x = 20; x < 200; x += 30)
        for (double y = 120; y < 200; y += 25) {
            const double level = -5 + std::tan(10 * std::acos(-1) / 180) * (y - 160) + 0.1 * std::sin(x);
            holes.push_back(hole(fmt::format("h{}", holes.size()), x, y, 0.1 * x, {{0.1 * x - level, "A"}, {60, "B"}}));
        }
    auto s = sequence({"A", "B"});
    s.units[0].recipe.reference = BaseReference::Plane;
    const auto fitted = Products().of(slopingSite(holes, s));
    CHECK(fitted->model->bases[0]->in.plane->dip() == Approx(10).margin(0.3));
    CHECK(fitted->model->bases[0]->in.plane->strike() == Approx(90).margin(2));
    const double expected = -5 + std::tan(10 * std::acos(-1) / 180) * (30 - 160);
    CHECK(baseAt(*fitted, 0, 100, 30) == Approx(expected).margin(0.5));
    s.units[0].recipe.tilt = Tilt{90, 10};
    CHECK(baseAt(*Products().of(slopingSite(holes, s)), 0, 100, 30) == Approx(expected).margin(0.3));
    s.units[0].recipe.reference = BaseReference::Level;
    s.units[0].recipe.tilt.reset();
    CHECK(std::abs(baseAt(*Products().of(slopingSite(holes, s)), 0, 100, 30) - expected) > 3);
}

TEST_CASE("A hole that stops in a younger unit bounds an older base only if something laps", "[model]") {
    auto holes = evenHoles([](double, double) -> std::vector<std::pair<double, const char*>> {
        return {{2, "A"}, {6, "B"}, {9, "C"}};
    });
    holes.change(7).intervals.resize(1);
    holes.change(7).intervals[0].base = Depth{8}; // A goes deep there, and the hole stops in it
    holes.change(7).finalDepth = Depth{8};
    auto s = sequence({"A", "B", "C"});
    const auto cutting = Products().of(slopingSite(holes, s));
    CHECK(cutting->model->bases[1]->in.bounds.empty());
    CHECK(cutting->audit->boundsBroken == 0); // the rules hold it down
    const auto c = cutting->model->columnAt({*holes[7].easting, *holes[7].northing});
    CHECK(c.bases[1] <= 0.1 * *holes[7].easting - 8 + 1e-6);
    s.units[0].base = BaseRule::Laps;
    CHECK(Products().of(slopingSite(holes, s))->model->bases[1]->in.bounds.size() == 1);
}

TEST_CASE("The geologist's word wins over the log", "[sequence]") {
    auto holes = evenHoles([](double, double) -> std::vector<std::pair<double, const char*>> { return {{2, "A"}, {9, "B"}}; });
    holes.change(3).intervals.pop_back(); // stops in A at 2 m
    const auto p = slopingSite(holes, sequence({"A", "B"}));
    const auto kindOf = [](const Project& project) {
        const auto set = Products().of(project);
        const auto& all = *set->contacts[0];
        const auto at = std::ranges::find(all, "h3", &Contact::hole);
        return at == all.end() ? std::string("none") : std::string(words(at->kind));
    };
    CHECK(kindOf(p) == "base not reached");
    const auto reached = setContactChoice(p, "h3", "A", ContactChoice::Kind::Reached);
    CHECK(reached.label == "h3, base of A: reached the base");
    CHECK(kindOf(reached.project) == "observed");
    CHECK(Products().of(reached.project)->model->bases[0]->contacts == 25);
    CHECK(kindOf(setContactChoice(p, "h3", "A", ContactChoice::Kind::AtOrAbove).project) == "absent");
    CHECK(kindOf(setContactChoice(p, "h3", "A", ContactChoice::Kind::Excluded).project) == "none");
    CHECK(kindOf(setContactChoice(reached.project, "h3", "A", {}).project) == "base not reached");
    CHECK_THROWS_WITH(setContactChoice(p, "h99", "A", {}), Catch::Contains("no hole h99"));
    CHECK_THROWS_WITH(setContactChoice(p, "h3", "X", {}), Catch::Contains("no unit X"));
}

TEST_CASE("A guide is honoured, counted apart, and left out of the left-out error", "[model]") {
    const auto holes = evenHoles([](double, double) -> std::vector<std::pair<double, const char*>> {
        return {{2, "A"}, {9, "B"}};
    });
    const auto p = slopingSite(holes, sequence({"A", "B"}));
    const auto guided = addGuide(p, "A", {{30, 100, -6}, {130, 100, 4}}).project;
    const auto set = Products().of(guided);
    const auto& base = *set->model->bases[0];
    CHECK(base.in.guides == 5); // every 25 m
    CHECK(base.contacts == 25);
    CHECK(base.leaveOneOut.residuals.size() == 25);
    CHECK(baseAt(*set, 0, 80, 100) == Approx(-1).margin(1e-5));
    CHECK(base.nearestWord({81, 100}).hole.empty());
    CHECK(base.nearestWord({81, 100}).distance == Approx(1).margin(1e-6));
    CHECK(baseInWords(*set->model, 0, {81, 100}).find("nearest guide 1 m") != std::string::npos);
    CHECK(addGuide(p, "A", {{1, 2, 3}}).label == "Guide point of the base of A");
    CHECK_THROWS_AS(addGuide(p, "A", {}), Error);
    CHECK_THROWS_AS(addGuide(p, "A", {{1, 2, kNoValue}}), Error);
    CHECK(removeGuide(guided, guided.interpretation->guides[0]).project.interpretation->guides.empty());
    CHECK_THROWS_AS(removeGuide(guided, Guide{"B", {{1, 2, 3}}}), Error);
}

TEST_CASE("A fault steps the bases from its youngest down", "[model]") {
    const auto holes = evenHoles([](double x, double) -> std::vector<std::pair<double, const char*>> {
        const double drop = x > 100 ? 6 : 0;
        return {{2, "A"}, {6 + drop, "B"}, {20, "C"}};
    });
    auto p = slopingSite(holes, sequence({"A", "B", "C"}));
    p = addFault(p, {{100, 0}, {100, 200}}, "B").project;
    const auto set = Products().of(p);
    CHECK(set->model->bases[0]->in.faults.empty());
    REQUIRE(set->model->bases[1]->in.faults.size() == 1);
    const auto throws = throwOf(*set->model, 1, p.interpretation->faults[0].fault, 40);
    for (const auto& t : throws) CHECK(t.up() == Approx(-6).margin(0.6));
    CHECK(setFaultYoungest(p, "F1", "").label == "Fault F1 steps all bases");
    CHECK(Products().of(setFaultYoungest(p, "F1", "").project)->model->bases[0]->in.faults.size() == 1);
    CHECK(addFault(p, {{0, 0}, {1, 1}}, "").label == "Draw fault F2");
    CHECK(removeFault(p, "F1").project.interpretation->faults.empty());
    CHECK_THROWS_AS(addFault(p, {{1, 1}, {1, 1}}, ""), Error);
}

TEST_CASE("A frozen base stays when data change, and is made anew when released", "[model]") {
    auto holes = evenHoles([](double, double) -> std::vector<std::pair<double, const char*>> { return {{2, "A"}, {9, "B"}}; });
    const auto p = slopingSite(holes, sequence({"A", "B"}));
    const auto set = Products().of(p);
    auto frozen = fixBase(p, "A", {FixedBase::Origin::Frozen, "2026-11-25", set->rawGrids[0]});
    CHECK(frozen.label == "Freeze the base of A");
    holes.change(12).intervals[0].base = holes.change(12).intervals[1].top = Depth{5};
    frozen.project.holes = part(holes);
    const auto after = Products().of(frozen.project);
    CHECK(baseAt(*after, 0, 95, 95) == Approx(baseAt(*set, 0, 95, 95)).margin(0.01));
    CHECK(baseInWords(*after->model, 0, {100, 100}).find("frozen") != std::string::npos);
    CHECK(after->audit->worstDifference == Approx(3).margin(0.05)); // what it no longer agrees with is said
    const auto released = Products().of(releaseBase(frozen.project, "A").project);
    CHECK(released->audit->worstDifference < 1e-5);
    CHECK_THROWS_AS(releaseBase(p, "A"), Error);
    CHECK_THROWS_AS(fixBase(p, "A", {FixedBase::Origin::Imported, "x.tif", std::make_shared<const Grid>(Frame{0, 0, 10, 10, 1})}),
                    Error);
}

TEST_CASE("A map of a base has no value where the unit is not, and fades away from holes", "[model]") {
    const auto set = demoProducts();
    const Frame frame{480000, 6120000, 481500, 6121000, 50};
    const auto peat = *set->project.sequence->index("PT"), till = *set->project.sequence->index("TL");
    const auto level = mapOf(*set->model, peat, SurfaceValue::Level, frame);
    const auto thickness = mapOf(*set->model, peat, SurfaceValue::Thickness, frame);
    const auto distance = mapOf(*set->model, till, SurfaceValue::Distance, frame);
    const auto doubt = mapOf(*set->model, till, SurfaceValue::Uncertainty, frame);
    const auto chance = mapOf(*set->model, till, SurfaceValue::Chance, frame);
    int there = 0;
    for (std::size_t i = 0; i < level.values.values.size(); ++i) {
        const auto p = frame.centre(int(i % 30), int(i / 30));
        const auto c = set->model->columnAt(p, true);
        if (std::isnan(c.ground)) continue;
        const double t = c.top(peat) - c.bases[peat];
        CHECK(std::isnan(level.values.values[i]) == !(t > 0));
        if (t > 0) {
            CHECK(thickness.values.values[i] == Approx(t));
            ++there;
        }
        CHECK(distance.values.values[i] == Approx(set->model->bases[till]->nearestWord(p).distance));
        CHECK(doubt.values.values[i] == Approx(c.deviations[till]).margin(1e-9));
        CHECK((chance.values.values[i] >= 0 && chance.values.values[i] <= 1));
        CHECK((doubt.confidence.values[i] >= 0 && doubt.confidence.values[i] <= 1));
    }
    CHECK(there > 10);
}

TEST_CASE("Methods compared are each fitted to the same contacts", "[model]") {
    const auto set = demoProducts();
    const auto u = *set->project.sequence->index("TL");
    const auto all = compareMethods(set->project.sequence->units[u], *set->model->bases[u], nullptr);
    REQUIRE(all.size() == allMethods().size());
    for (const auto& r : all) {
        CAPTURE(methodName(r.method));
        CHECK(r.base.contacts == 25);
        CHECK(r.base.in == set->model->bases[u]->in);
        CHECK(std::abs(r.worst) >= r.base.leaveOneOut.rmse);
        CHECK_FALSE(r.worstHole.empty());
    }
    const auto best = bestOf(all);
    REQUIRE(best);
    for (const auto& r : all) {
        CAPTURE(methodName(r.method));
        CHECK(r.rankedOn == all.front().rankedOn); // all at the same holes
        CHECK(all[*best].rankError <= r.rankError * (1 + kTie));
        if (r.base.leaveOneOut.n == r.rankedOn) CHECK(r.rankError == Approx(r.base.leaveOneOut.rmse));
    }
    CHECK_FALSE(bestOf({}));
}

TEST_CASE("A method that has values at few holes is not the best for it", "[model]") {
    // a bowl: nine holes around, six inside; triangles tell only the inner ones, which are easy
    Project p;
    Holes holes;
    const auto add = [&](double radius, double angle) {
        const double x = radius * std::cos(angle), y = radius * std::sin(angle);
        const double base = 3 + radius * radius / 2000;
        holes.push_back(hole(fmt::format("H{}", holes.size()), x, y, 20, {{base, "A"}, {base + 5, "B"}}));
    };
    for (int i = 0; i < 9; ++i) add(100, i * 0.7);
    for (int i = 0; i < 6; ++i) add(20, i * 1.05);
    p.holes = part(holes);
    p.sequence = part(sequence({"A", "B"}));
    const auto set = Products().of(p);
    const auto all = compareMethods(p.sequence->units[0], *set->model->bases[0], nullptr);
    const auto linear = std::ranges::find(all, Method::Linear, &MethodResult::method);
    REQUIRE(linear != all.end());
    CHECK(linear->base.leaveOneOut.n < 8);
    CHECK(std::isnan(linear->rankError));
    const auto best = bestOf(all);
    REQUIRE(best);
    CHECK(all[*best].method != Method::Linear);
    CHECK(all[*best].rankedOn == 15);
}

TEST_CASE("The geologist's part is kept in the project file", "[store]") {
    const TemporaryFolder folder;
    auto p = demo().project;
    p = setContactChoice(p, "QB111", "TL", ContactChoice::Kind::Reached).project;
    p = addGuide(p, "RG", {{480500, 6120400, 8.5}}).project;
    p = addGuide(p, "RG", {{480500, 6120400, 8.5}, {480600, 6120400, 9}}).project;
    p = addFault(p, {{480100, 6120100}, {480200, 6120150}, {480300, 6120100}}, "").project;
    Grid grid(Frame{0, 0, 30, 20, 10});
    grid.at(1, 1) = 12.5;
    p = fixBase(p, "SL", {FixedBase::Origin::Imported, "sand.tif", std::make_shared<const Grid>(grid)}).project;
    auto recipe = p.sequence->units[2].recipe;
    recipe.reference = BaseReference::Thickness, recipe.against = "TS", recipe.bounds = false, recipe.tilt = Tilt{30, 4};
    p = changeRecipe(
            p, "AL", [&](SurfaceRecipe& r) { r = recipe; }, "test")
            .project;
    ProjectStore::create(folder / "p.gpkg", p);
    const auto back = ProjectStore::read(folder / "p.gpkg");
    CHECK(*back.interpretation == *p.interpretation);
    REQUIRE(back.fixedBases->contains("SL"));
    const auto& fixed = back.fixedBases->at("SL");
    CHECK(fixed.from == "sand.tif");
    CHECK(fixed.levels->at(1, 1) == 12.5);
    CHECK(std::isnan(fixed.levels->at(0, 0)));
    CHECK(back.sequence->units[2].recipe == recipe);
    // saved again after an edit, only that part is written
    auto store = ProjectStore::open(folder / "p.gpkg");
    const auto edited = removeFault(store.saved(), store.saved().interpretation->faults[0].fault.name).project;
    store.save(edited);
    CHECK(*ProjectStore::read(folder / "p.gpkg").interpretation == *edited.interpretation);
}

TEST_CASE("Faults, guides and contacts come from a build file", "[project]") {
    const TemporaryFolder folder;
    const auto build = [&](const char* own) {
        return buildProject(
                   folder.write("b.json", fmt::format("{}{}{}",
                                                      R"({"format":"fox-cellar-build","version":1,"holes":[{"file":")" FOX_DEMO
                                                      R"(/phase1_main.ags"}],"unit_heading":"GEOL_GEOL",)",
                                                      own, "}")))
            .project;
    };
    const auto p = build(R"("faults":[{"name":"F9","youngest":"TL","line":[[1,2],[3,4]]}],)"
                         R"("guides":[{"unit":"RG","line":[[1,2,3]]}],)"
                         R"("contacts":[{"hole":"QB111","unit":"TL","kind":"reached"}])");
    CHECK(p.interpretation->faults.at(0).fault.name == "F9");
    CHECK(p.interpretation->faults[0].youngest == "TL");
    CHECK(p.interpretation->guides.at(0).line.at(0).z == 3);
    CHECK(p.interpretation->contacts.at(0).kind == ContactChoice::Kind::Reached);
    CHECK_THROWS_WITH(build(R"("contacts":[{"hole":"QB111","unit":"TL","kind":"magic"}])"), Catch::Contains("at-or-below"));
    CHECK_THROWS_WITH(build(R"("guides":[{"unit":"XX","line":[[1,2,3]]}])"), Catch::Contains("no unit XX"));
    CHECK_THROWS_WITH(build(R"("faults":[{"name":"F9","line":[[1,2]]}])"), Catch::Contains("two places"));
}
