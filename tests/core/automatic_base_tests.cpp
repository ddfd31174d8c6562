// The automatic base against dense formulas, closed forms and what it must keep.
#include "fixtures.h"
#include "model/automatic_base.h"
#include "model/ensemble.h"
#include "model/surface_maps.h"
#include "project/contact_edits.h"
#include "project/edits.h"
#include "project/json.h"
#include "project/remedies.h"
#include "project/sequence_edits.h"
#include "project/surface_edits.h"
#include "sequence/raw_contacts.h"
#include "store/store.h"
#include "surfaces/gaussian_field.h"

#include <Eigen/Dense>
#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

using Eigen::MatrixXd;
using Eigen::VectorXd;

constexpr double kInfinite = std::numeric_limits<double>::infinity();

FieldPlaces plain(const std::vector<Point3>& points) {
    FieldPlaces out;
    out.terms = 1;
    for (const auto& p : points) {
        out.coordinates.insert(out.coordinates.end(), {p.x, p.y});
        out.drift.push_back(1);
    }
    return out;
}

std::vector<FieldLimits> known(const std::vector<Point3>& points) {
    std::vector<FieldLimits> out;
    for (const auto& p : points) out.push_back({p.z, p.z});
    return out;
}

FieldSettings settings(double spacing) {
    FieldSettings s;
    s.spacing = spacing;
    s.termDeviations = {60};
    return s;
}

/// The covariance of the field with one constant term, written down again.
double covariance(Point3 a, Point3 b, const GaussianField& f, double spacing) {
    const auto matern = [](double h, double range) {
        const double t = std::numbers::sqrt3 * h / range;
        return (1 + t) * std::exp(-t);
    };
    const double h = std::hypot(a.x - b.x, a.y - b.y);
    return 3600 + f.deviation() * f.deviation() * matern(h, f.range()) + 0.0025 * matern(h, spacing / 4) + (h == 0 ? 1e-6 : 0);
}

struct Told {
    double mean, variance;
};
/// Simple kriging by dense matrices.
Told told(const std::vector<Point3>& data, Point3 at, const GaussianField& f, double spacing) {
    const auto n = Eigen::Index(data.size());
    MatrixXd between(n, n);
    VectorXd to(n), z(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        for (Eigen::Index j = 0; j < n; ++j) between(i, j) = covariance(data[std::size_t(i)], data[std::size_t(j)], f, spacing);
        to[i] = covariance(data[std::size_t(i)], at, f, spacing), z[i] = data[std::size_t(i)].z;
    }
    const VectorXd w = between.ldlt().solve(to);
    return {w.dot(z), covariance(at, {at.x, at.y, 0}, f, spacing) - 1e-6 - w.dot(to)};
}

std::vector<Point3> wavy(unsigned seed, int n, double size) {
    auto out = randomPoints(seed, std::size_t(n), size);
    for (auto& p : out) p.z = std::sin(p.x / 60) + std::cos(p.y / 45);
    return out;
}

/// A patchy unit P over R on a level ground at 30: P is there, 2 m thick, west of x = 100.
Project patchy(int holes) {
    Project p;
    Holes all;
    int i = 0;
    for (const auto& at : randomPoints(8, std::size_t(holes), 200)) {
        const auto name = fmt::format("H{}", i++);
        all.push_back(at.x < 100 ? hole(name, at.x + 1000, at.y + 2000, 30, {{2, "P"}, {8, "R"}, {12, "S"}})
                                 : hole(name, at.x + 1000, at.y + 2000, 30, {{8, "R"}, {12, "S"}}));
    }
    giveNames(all);
    p.holes = part(std::move(all));
    auto s = sequence({"P", "R", "S"});
    for (auto& u : s.units) u.recipe.automatic = true;
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("1000 2000 30, 1200 2000 30, 1200 2200 30, 1000 2200 30"));
    p.site = part(Site{"", Frame{1000, 2000, 1200, 2200, 10}, {}});
    return p;
}

} // namespace

TEST_CASE("A field with known values is simple kriging with its covariance", "[automatic]") {
    const auto data = wavy(3, 40, 400);
    const GaussianField field(plain(data), known(data), settings(60));
    CHECK(field.range() > 20);
    const auto asked = wavy(4, 12, 400);
    std::vector<double> means(12), variances(12);
    field.evaluate(plain(asked), means, variances);
    for (std::size_t i = 0; i < asked.size(); ++i) {
        const auto dense = told(data, asked[i], field, 60);
        CHECK(means[i] == Approx(dense.mean).margin(1e-6));
        CHECK(variances[i] == Approx(dense.variance).epsilon(1e-3));
    }
    // at the data it is the data
    std::vector<double> at(40), spread(40);
    field.evaluate(plain(data), at, spread);
    for (std::size_t i = 0; i < data.size(); ++i) CHECK(at[i] == Approx(data[i].z).margin(2e-3));
}

TEST_CASE("Left-out values of a field are those of a fit without the datum", "[automatic]") {
    const auto data = wavy(5, 25, 300);
    const GaussianField field(plain(data), known(data), settings(60));
    double score = 0;
    for (std::size_t i = 0; i < data.size(); ++i) {
        auto others = data;
        others.erase(others.begin() + std::ptrdiff_t(i));
        const auto dense = told(others, data[i], field, 60);
        CHECK(field.leftOut()[i] == Approx(dense.mean).margin(1e-5));
        const double s = std::sqrt(dense.variance + 1e-6), away = (data[i].z - dense.mean) / s;
        score += -away * away / 2 - std::log(s * std::sqrt(2 * std::numbers::pi));
    }
    CHECK(field.score() == Approx(score).epsilon(1e-4));
}

TEST_CASE("A field keeps its limits, and tells chances on either side of them", "[automatic]") {
    auto data = wavy(6, 20, 300);
    auto limits = known(data);
    data.push_back({150, 150, 0}), limits.push_back({-kInfinite, -1.5}); // the values about it are mostly above
    data.push_back({60, 220, 0}), limits.push_back({1.9, kInfinite});
    const GaussianField field(plain(data), limits, settings(60));
    std::vector<double> means(2), variances(2), chances(2);
    const std::vector<double> thresholds{-1.5, 1.9};
    field.evaluate(plain({data[20], data[21]}), means, variances, thresholds, chances);
    CHECK(means[0] < -1.5);
    CHECK(means[1] > 1.9);
    CHECK(chances[0] < 0.02);
    CHECK(chances[1] > 0.98);
}

TEST_CASE("Realisations of a field go through the data and vary as it says", "[automatic][realisations]") {
    const auto data = wavy(7, 30, 300);
    const GaussianField field(plain(data), known(data), settings(60));
    constexpr int kCount = 600;
    const FieldRealisations realisations(field, kCount, 4);
    std::vector<double> values(data.size() * kCount);
    realisations.evaluate(plain(data), values);
    for (std::size_t i = 0; i < data.size(); ++i)
        for (int r = 0; r < kCount; ++r) REQUIRE(values[i * kCount + std::size_t(r)] == Approx(data[i].z).margin(0.01));
    const std::vector<Point3> far{{150, 150, 0}, {20, 280, 0}, {290, 40, 0}};
    std::vector<double> there(3 * kCount), means(3), variances(3), chances(3), thresholds(3);
    realisations.evaluate(plain(far), there);
    field.evaluate(plain(far), means, variances);
    for (std::size_t i = 0; i < 3; ++i) thresholds[i] = means[i] + std::sqrt(variances[i]) / 2;
    field.evaluate(plain(far), means, variances, thresholds, chances);
    for (std::size_t i = 0; i < 3; ++i) {
        double sum = 0, over = 0;
        for (int r = 0; r < kCount; ++r)
            sum += there[i * kCount + std::size_t(r)], over += there[i * kCount + std::size_t(r)] > thresholds[i];
        CHECK(std::abs(sum / kCount - means[i]) < 0.25 * std::sqrt(variances[i]));
        CHECK(std::abs(over / kCount - chances[i]) < 0.1); // ranges and deviations are drawn too
    }
}

TEST_CASE("The share of a normal variable that is cut off, far out too", "[automatic]") {
    CHECK(normalShare(0) == Approx(0.5));
    CHECK(normalShare(1.959964) == Approx(0.975).epsilon(1e-6));
    CHECK(normalDensityOverShare(0) == Approx(2 / std::sqrt(2 * std::numbers::pi)));
    double before = kInfinite;
    for (double x = -60; x < 5; x += 0.1) { // falls without a step where the way of working it out changes
        const double ratio = normalDensityOverShare(x);
        CHECK(ratio < before);
        CHECK(ratio > std::max(0.0, -x));
        before = ratio;
    }
}

TEST_CASE("The shape of the ground is smooth over a channel and ranks heights", "[automatic]") {
    TerrainInput input;
    for (int x = 0; x <= 1000; x += 10)
        for (int y = 0; y <= 1000; y += 50) // a plane that rises to the east, with a channel of 3 m across it
            input.points.push_back({double(x), double(y), 0.02 * x - (x >= 490 && x <= 510 ? 3.0 : 0.0)});
    const GroundShape shape(makeTerrain(input), {0, 0, 1000, 1000}, 200);
    CHECK(shape.smooth({300, 500}) == Approx(6).margin(0.1));
    CHECK(shape.smooth({500, 500}) == Approx(10).margin(0.6)); // 3 m lower in the ground itself
    CHECK(shape.broadRank({900, 500}) > shape.broadRank({100, 500}));
    CHECK(shape.reliefRank({500, 500}) < -1);
    double sum = 0, squares = 0;
    for (int x = 5; x < 1000; x += 10)
        for (int y = 5; y < 1000; y += 10) {
            const double r = shape.heightRank({double(x), double(y)});
            sum += r, squares += r * r;
        }
    CHECK(sum / 1e4 == Approx(0).margin(0.1));
    CHECK(squares / 1e4 == Approx(1).margin(0.15));
}

TEST_CASE("An automatic base has its unit where holes have it and nowhere where they don't", "[automatic][model]") {
    const auto p = patchy(30);
    const auto set = Products().of(p, {}, {ProductKind::Audit});
    const auto& base = *set->model->bases[0];
    REQUIRE(base.isAutomatic());
    double weights = 0;
    for (const auto& part : base.automatic->parts()) weights += part.weight;
    CHECK(weights == Approx(1));
    CHECK(set->audit->worstDifference < 0.01);
    for (const auto& h : *p.holes) {
        const auto c = set->model->columnAt(*h.place(), true);
        const bool has = h.intervals.front().codes.at("GEOL_GEOL") == "P";
        CHECK(c.ground - c.bases[0] == Approx(has ? 2 : 0).margin(0.01));
        CHECK(c.chances[0] == Approx(has ? 1 : 0).margin(0.05));
        CHECK(c.bases[1] == Approx(22).margin(0.01));
    }
    CHECK(set->model->columnAt({1030, 2100}).bases[0] == Approx(28).margin(0.3));
    CHECK(set->model->columnAt({1170, 2100}).bases[0] == Approx(30).margin(0.01));
    // it thins out: two metres in some five, where a chance of 0.7 falls to a half
    double before = kNoValue;
    for (double x = 1001; x < 1199; ++x) {
        const auto c = set->model->columnAt({x, 2095}, true);
        if (!std::isnan(before)) CHECK(std::abs(c.ground - c.bases[0] - before) < 0.8);
        before = c.ground - c.bases[0];
    }
    const auto& loo = base.leaveOneOut;
    CHECK(loo.n == base.contacts);
    CHECK(loo.rmse < 0.5);
}

TEST_CASE("As many realisations have a unit as its chance says, and the best estimate lies in its range", "[automatic][model]") {
    const auto set = Products().of(patchy(30));
    const auto& model = *set->model;
    EnsembleSettings many;
    many.count = 400;
    for (const Point2 at : {Point2{1095, 2060}, Point2{1105, 2140}, Point2{1110, 2020}, Point2{1060, 2100}}) {
        const auto bases = simulateAt(model, at, many);
        double there = 0;
        for (const double z : bases[0]) there += 30 - z > 0.04;
        const double chance = model.columnAt(at, true).chances[0];
        CAPTURE(at.x, at.y, chance);
        CHECK(std::abs(there / many.count - chance) < 0.12); // ranges are drawn as well
    }
    many.count = 100;
    const auto ensemble = simulate(model, *set->ground, many);
    double volume = 0;
    for (std::size_t i = 0; i < set->modelGrid->ground.values.size(); ++i)
        volume += (set->modelGrid->ground.values[i] - set->modelGrid->bases[0].values[i]) * 100;
    CHECK(rangeOf(ensemble.units[0].volumes).contains(volume));
    // the same again
    CHECK(simulate(model, *set->ground, many).units[0].volumes == ensemble.units[0].volumes);
}

TEST_CASE("A fault steps an automatic base, which is whole again beyond its end", "[automatic][faults]") {
    Project p;
    Holes all;
    int i = 0;
    for (const auto& at : randomPoints(12, 40, 300))
        all.push_back(hole(fmt::format("H{}", i++), at.x, at.y, 30, {{at.x < 150 ? 5.0 : 11.0, "A"}, {20, "B"}}));
    giveNames(all);
    p.holes = part(std::move(all));
    auto s = sequence({"A", "B"});
    for (auto& u : s.units) u.recipe.automatic = true;
    p.sequence = part(std::move(s));
    Interpretation own;
    own.faults.push_back({{"F1", {{150, -10}, {150, 310}}}, ""});
    p.interpretation = part(own);
    p.ground = part(groundOf("0 0 30, 300 0 30, 300 300 30, 0 300 30"));
    p.site = part(Site{"", Frame{0, 0, 300, 300, 10}, {}});
    const auto set = Products().of(p, {}, {ProductKind::Audit});
    const auto& model = *set->model;
    REQUIRE(model.bases[0]->isAutomatic());
    for (const double y : {60.0, 150.0, 250.0}) {
        CHECK(model.columnAt({148, y}).bases[0] == Approx(25).margin(0.3));
        CHECK(model.columnAt({152, y}).bases[0] == Approx(19).margin(0.3));
    }
}

TEST_CASE("Automatic is a method like others to files, edits and the comparison", "[automatic]") {
    SurfaceRecipe recipe;
    setMethod(recipe, std::nullopt);
    CHECK(toJson(recipe)["method"] == "automatic");
    CHECK(recipeOf(toJson(recipe)) == recipe);
    CHECK_FALSE(recipeOf({{"method", "linear"}}, recipe).automatic);
    CHECK_THROWS_WITH(recipeOf({{"method", "magic"}}), Catch::Contains("automatic, nearest"));
    auto p = patchy(20);
    p = setMethod(p, "P", Method::Linear).project;
    CHECK(methodOf(p.sequence->units[0].recipe) == Method::Linear);
    const auto back = setMethod(p, "P", std::nullopt);
    CHECK(back.label == "Base of P: automatic");
    const auto set = Products().of(back.project, {}, {ProductKind::Audit});
    const auto all = compareMethods(back.project.sequence->units[1], *set->model->bases[1], set->model->averages[1].get());
    REQUIRE(all.size() == allMethods().size() + 1);
    CHECK_FALSE(all.back().method);
    CHECK(all.back().rankedOn > 0);
}

TEST_CASE("A base of very many contacts is kriged, and said", "[automatic]") {
    Unit unit;
    unit.code = "A";
    unit.recipe.automatic = true;
    BaseInputs candidate;
    candidate.points = randomPoints(3, 900, 500);
    candidate.contacts = candidate.points.size();
    AutomaticInputs in;
    in.concepts = {BaseConcept::Level};
    in.extent = {0, 0, 500, 500}, in.spacing = 20;
    for (const auto& p : candidate.points) {
        candidate.speakers.push_back({p.plan(), "h", DataPoint::Kind::Contact});
        in.data.push_back({p.plan(), p.z, p.z}), in.contacts.push_back(in.data.size() - 1);
    }
    const auto many = fitAutomaticBase(unit, in, {candidate});
    CHECK_FALSE(many.isAutomatic());
    CHECK(mentions(many.fit.findings, "FC-MANY", "900 positions"));
    in.data.resize(300), in.contacts.resize(300);
    CHECK(fitAutomaticBase(unit, in, {candidate}).isAutomatic());
}

TEST_CASE("A base that holes only limit is told from the limits, and said", "[automatic]") {
    auto p = patchy(12);
    auto holes = *p.holes;
    holes.changeEach([](Hole& h) { h.intervals.pop_back(); }); // none reaches S any more
    p.holes = part(std::move(holes));
    const auto set = Products().of(p, {}, {ProductKind::Audit});
    CHECK(mentions(*set->findings, "FC-NO-BASE", "told from"));
    for (const auto& h : *p.holes) CHECK(set->model->columnAt(*h.place()).bases[1] <= 22.01);
}

TEST_CASE("When a younger base begins to onlap, what was remembered gives the same model as one made anew",
          "[automatic][products]") {
    auto p = patchy(20);
    Products remembering;
    remembering.of(p);
    for (const char* code : {"P", "R"}) {
        p = setBaseRule(p, code, BaseRule::Laps).project;
        const auto now = remembering.of(p), anew = Products().of(p);
        CAPTURE(code);
        for (std::size_t u = 0; u < now->modelGrid->bases.size(); ++u)
            CHECK(now->modelGrid->bases[u].values == anew->modelGrid->bases[u].values);
    }
}

TEST_CASE("A field held with other values is the kriging of these, and keeps drawn limits within theirs", "[automatic][held]") {
    auto data = wavy(5, 40, 300);
    auto limits = known(data);
    for (std::size_t i = 30; i < 40; ++i) limits[i] = {-kInfinite, data[i].z + 0.2};
    const GaussianField field(plain(data), limits, settings(50));
    auto moved = limits;
    moved[3].low = moved[3].high = limits[3].low + 1.5;
    for (std::size_t i = 30; i < 40; ++i) moved[i].high -= 0.4;
    const auto held = field.withLimits(moved);
    CHECK(held.range() == field.range());
    CHECK(held.deviation() == field.deviation());
    std::vector<double> means(40), variances(40), before(40), unused(40);
    held.evaluate(plain(data), means, variances);
    field.evaluate(plain(data), before, unused);
    for (std::size_t i = 0; i < 30; ++i) CHECK(means[i] == Approx(moved[i].low).margin(1e-3));
    for (std::size_t i = 30; i < 40; ++i) CHECK(means[i] <= moved[i].high + 1e-3);
    CHECK(before[3] == Approx(limits[3].low).margin(1e-3));
    const auto same = field.withLimits(limits);
    same.evaluate(plain(data), means, variances);
    for (std::size_t i = 0; i < 40; ++i) CHECK(means[i] == Approx(before[i]).margin(1e-9));
}

TEST_CASE("While a contact is dragged, weights and ranges are held: near what is worked out when it rests", "[automatic][held]") {
    const auto p = patchy(24);
    Products products;
    const auto before = products.of(p);
    const auto which = std::ranges::find_if(*p.holes, [](const Hole& h) { return h.intervals.size() > 1; });
    REQUIRE(which != p.holes->end());
    const auto name = displayName(*p.holes, *which);
    const auto moved = moveBoundary(p, name, which->intervals[0].base, Depth{which->intervals[0].base.metres + 0.3}).project;
    const auto held = products.of(moved, {}, {ProductKind::Audit}, before->model);
    const auto settled = Products().of(moved, {}, {ProductKind::Audit});
    CHECK(held->audit->worstDifference < kAuditSlack); // through the moved contact too
    int automatic = 0;
    for (std::size_t u = 0; u < held->model->bases.size(); ++u) {
        if (!held->model->bases[u]->automatic) continue;
        ++automatic;
        const auto was = before->model->bases[u]->automatic->parts(), is = held->model->bases[u]->automatic->parts();
        REQUIRE(was.size() == is.size());
        for (std::size_t k = 0; k < was.size(); ++k) CHECK(was[k].weight == is[k].weight);
    }
    CHECK(automatic > 0);
    double worst = 0;
    for (const auto& q : randomPoints(3, 60, 200)) {
        const Point2 at{q.x + 1000, q.y + 2000};
        for (std::size_t u = 0; u < held->model->bases.size(); ++u)
            worst = std::max(worst, std::abs(held->model->columnAt(at).bases[u] - settled->model->columnAt(at).bases[u]));
    }
    CHECK(worst < 1);
    // a contact that becomes a limit is another base: it is made anew
    const auto other = setExcluded(p, name, true).project;
    const auto anew = products.of(other, {}, {}, before->model);
    for (std::size_t u = 0; u < anew->model->bases.size(); ++u)
        CHECK(anew->model->columnAt({1050, 2050}).bases[u] == Products().of(other)->model->columnAt({1050, 2050}).bases[u]);
}

TEST_CASE("Contacts that are known with an accuracy are passed near, not through, and are not said to be missed",
          "[automatic][contacts]") {
    auto p = patchy(20);
    ContactSource source;
    source.file = "seismic.csv";
    std::vector<ContactPoint> all;
    for (int i = 0; i < 8; ++i) all.push_back({"R", {1020.0 + 22 * i, 2100, 22 + (i % 2 ? 0.8 : -0.8)}});
    source.points = all;
    p.contactPoints = part(std::vector<ContactSource>{source});
    const auto worst = [](const ProductSet& set) {
        double out = 0;
        for (const auto& q : set.audit->points) out = std::max(out, std::abs(q.contact.difference()));
        return out;
    };
    const auto exact = Products().of(p);
    CHECK(worst(*exact) < kAuditSlack);
    p = setContactsAccuracy(p, "seismic.csv", 0.8).project;
    const auto near = Products().of(p);
    CHECK(worst(*near) > 0.3);
    CHECK_FALSE(mentions(*near->findings, "FC-MISSED"));
    for (const auto& h : near->audit->holes) // holes stay exact
        for (const auto& c : h.contacts) CHECK(std::abs(c.difference()) < kAuditSlack);
    CHECK_THROWS_AS(setContactsAccuracy(p, "seismic.csv", -1), Error);
    const TemporaryFolder folder;
    ProjectStore::create((folder / "p.gpkg").string(), p);
    CHECK(ProjectStore::read(folder / "p.gpkg").contactPoints->front().accuracy == 0.8);
}

TEST_CASE("A unit that no hole passes through can be as thick as its neighbours", "[automatic][project]") {
    // P 2 m over R, which holes pass through 4 m of; S is never reached
    Project p;
    p.sequence = part(sequence({"P", "R", "T", "S"}));
    Holes holes;
    for (int i = 0; i < 6; ++i)
        holes.push_back(hole("H" + std::to_string(i), 100 + 40.0 * i, i % 2 * 60.0, 30, {{2, "P"}, {6, "R"}, {8, "T"}}));
    p.holes = part(std::move(holes));
    const auto e = addGuidesLikeNeighbours(p, "T");
    CHECK(e.label == "T as thick as its neighbours, 4.0 m"); // R; nothing is known of S
    REQUIRE(e.project.interpretation->guides.size() == 6);
    for (const auto& g : e.project.interpretation->guides) CHECK(g.line.front().z == Approx(30 - 10));
    const auto set = Products().of(p);
    const auto at = std::ranges::find_if(*set->findings, [](const Finding& f) { return f.rule == "FC-NO-BASE" && f.remedy; });
    REQUIRE(at != set->findings->end());
    CHECK(apply(p, *at->remedy).project.interpretation->guides == e.project.interpretation->guides);
    CHECK_THROWS_AS(addGuidesLikeNeighbours(p, "P"), Error);
}

TEST_CASE("A fault steps the bases that are chosen, and no others", "[faults][project]") {
    auto p = patchy(16);
    p = addFault(p, {{100, -50}, {100, 300}}, "").project;
    p = setFaultUnits(p, "F1", {"R"}).project;
    const auto set = Products().of(p, {}, {ProductKind::Audit});
    for (std::size_t u = 0; u < set->model->bases.size(); ++u) {
        CAPTURE(u);
        CHECK(set->model->averages[u]->faults.empty() == (p.sequence->units[u].code != "R"));
    }
    CHECK_THROWS_AS(setFaultUnits(p, "F1", {}), Error);
    CHECK_THROWS_AS(setFaultUnits(p, "F1", {"none"}), Error);
    const TemporaryFolder folder;
    ProjectStore::create((folder / "p.gpkg").string(), p);
    CHECK(ProjectStore::read(folder / "p.gpkg").interpretation->faults.front().units == std::vector<std::string>{"R"});
    CHECK(renameUnit(p, "R", "RR").project.interpretation->faults.front().units == std::vector<std::string>{"RR"});
    CHECK(removeUnit(p, "R").project.interpretation->faults.empty());
}

namespace {

/// A code T stands for U over the lens B, and for L under it. U is there, 2 m thick over 1 m of B, west of x = 100; holes that go
/// through tell it there by the lens. Holes that stop in T at `end` metres come between.
Project twoTills(double end) {
    Project p;
    Holes all;
    const auto add = [&](Point2 at, std::initializer_list<std::pair<double, const char*>> layers) {
        all.push_back(hole(fmt::format("H{}", all.size()), at.x + 1000, at.y + 2000, 30, layers));
    };
    for (const auto& at : randomPoints(8, 24, 200)) {
        if (at.x < 100)
            add(Point2{at.x, at.y}, {{2, "T"}, {3, "B"}, {8, "T"}, {12, "S"}});
        else
            add(Point2{at.x, at.y}, {{8, "T"}, {12, "S"}});
    }
    for (const auto& at : randomPoints(9, 60, 200)) add(Point2{at.x, at.y}, {{end, "T"}});
    giveNames(all);
    p.holes = part(std::move(all));
    auto s = sequence({"U", "B", "L", "S"});
    for (auto& u : s.units) u.recipe.automatic = true;
    s.units[0].logged = s.units[2].logged = {"T"};
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("1000 2000 30, 1200 2000 30, 1200 2200 30, 1000 2200 30"));
    p.site = part(Site{"", Frame{1000, 2000, 1200, 2200, 10}, {}});
    return p;
}

double shareOf(const ProductSet& set, std::size_t unit) {
    double there = 0;
    const auto& grid = *set.modelGrid;
    for (std::size_t i = 0; i < grid.ground.values.size(); ++i) there += grid.top(unit).values[i] - grid.base(unit, i) > 0.05;
    return there / double(grid.ground.values.size());
}

} // namespace

TEST_CASE("A hole that stops in a code of two units says nothing of where the younger one is around it", "[automatic][model]") {
    const auto p = twoTills(1.5);
    const auto set = Products().of(p, {}, {ProductKind::Audit, ProductKind::Grids});
    CHECK(shareOf(*set, 0) == Approx(0.5).margin(0.08));
    CHECK(shareOf(*set, 1) == Approx(0.5).margin(0.08));
    CHECK(set->audit->worstDifference < 0.01);
    // at the hole itself the model is as the log is read: the older unit
    std::size_t undecided = 0;
    const auto contacts = contactsOf(*set->reading, *p.sequence);
    for (const auto& c : contacts[0]) {
        if (!c.undecided) continue;
        ++undecided;
        const auto column = set->model->columnAt(c.place.plan(), true);
        CHECK(column.ground - column.bases[0] == Approx(0).margin(0.01));
        CHECK(column.chances[0] == 0);
    }
    CHECK(undecided == 60);
    // so it is in every equally likely model
    EnsembleSettings many;
    many.count = 20;
    for (const auto& h : *p.holes)
        if (h.end().metres < 2) {
            const auto bases = simulateAt(*set->model, *h.place(), many);
            for (const double z : bases[0]) CHECK(z == Approx(30).margin(0.01));
        }
    // decided by the geologist they count
    auto decided = p;
    Interpretation own;
    for (const auto& h : *p.holes)
        if (h.end().metres < 2) own.intervals.push_back({h.id, Depth{0}, h.end(), "L"});
    decided.interpretation = part(std::move(own));
    const auto after = Products().of(decided, {}, {ProductKind::Grids});
    CHECK(shareOf(*after, 0) < 0.35);
    CHECK(std::ranges::count(contactsOf(*after->reading, *p.sequence)[0], true, &Contact::undecided) == 0);
}

TEST_CASE("A hole that goes deeper into a shared code than the younger unit is thick anywhere is decided",
          "[automatic][sequence]") {
    for (const auto& [end, expected] : {std::pair(1.9, 60), {2.5, 0}}) {
        const auto p = twoTills(end);
        const auto reading = readHoles(*p.holes, *p.sequence);
        for (const std::size_t unit : {0, 1}) {
            int undecided = 0;
            const auto contacts = contactsOf(reading, *p.sequence);
            for (const auto& c : contacts[unit]) {
                undecided += c.undecided;
                CHECK((!c.undecided || c.kind == ContactKind::Absent));
            }
            CHECK(undecided == expected);
            const auto raw = rawContactsOf(reading, *p.sequence);
            CHECK(std::ranges::count(raw[unit], true, &Contact::undecided) == expected);
        }
        CHECK(std::ranges::count(contactsOf(reading, *p.sequence)[2], true, &Contact::undecided) == 0);
    }
}
