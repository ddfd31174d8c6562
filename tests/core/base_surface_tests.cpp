#include "fixtures.h"
#include "model/audit.h"
#include "model/section.h"
#include "project/remedies.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// Ground that rises by 0.2 m a metre to the east over 200 x 200 m.
Terrain slope() {
    TerrainInput input;
    input.points = points("0 0 0, 200 0 40, 200 200 40, 0 200 0");
    return makeTerrain(input);
}
double slopeAt(double x) { return 0.2 * x; }

Contact contact(const std::string& hole, ContactKind kind, double x, double y, double z) { return {hole, kind, {x, y, z}}; }

/// The unit's base over older ground, from its contacts alone.
BaseSurface fitBase(const Unit& unit, const std::vector<Contact>& contacts, const Terrain& terrain,
                    const Interpretation& own = {}) {
    Sequence s;
    s.units = {unit, Unit{}};
    s.units[1].code = "older";
    const Model none{std::make_shared<const Sequence>(s), std::make_shared<const Terrain>(terrain),
                     std::vector<std::shared_ptr<const BaseSurface>>(1), workingOrder(s)};
    return fox::fitBase(unit, baseCandidates(none, s, 0, contacts, own, SiteShape()));
}

Unit unit(const char* code) {
    Unit u;
    u.code = u.name = code;
    return u;
}

} // namespace

TEST_CASE("A thin unit that follows the ground is made from depths, a flat one from levels", "[model]") {
    const auto ground = slope();
    std::vector<Contact> thin, flat;
    for (const auto& p : randomPoints(5, 14, 200)) {
        thin.push_back(contact("h", ContactKind::Observed, p.x, p.y, slopeAt(p.x) - 0.3));
        flat.push_back(contact("h", ContactKind::Observed, p.x, p.y, -7));
    }
    CHECK(fitBase(unit("TS"), thin, ground).reference == BaseReference::Depth);
    CHECK(fitBase(unit("RG"), flat, ground).reference == BaseReference::Level);
    // with too few to leave one out, by how they spread
    thin.resize(3), flat.resize(3);
    CHECK(fitBase(unit("TS"), thin, ground).reference == BaseReference::Depth);
    CHECK(fitBase(unit("RG"), flat, ground).reference == BaseReference::Level);
    // and as the recipe says, if it does
    auto told = unit("TS");
    told.recipe.reference = BaseReference::Level;
    CHECK(fitBase(told, thin, ground).reference == BaseReference::Level);
}

TEST_CASE("Bounds hold for a base of depths as for one of levels", "[model]") {
    const auto ground = slope();
    const std::vector<Contact> contacts{contact("a", ContactKind::Observed, 20, 20, slopeAt(20) - 1),
                                        contact("b", ContactKind::Observed, 180, 30, slopeAt(180) - 1.2),
                                        contact("c", ContactKind::Observed, 60, 180, slopeAt(60) - 0.9),
                                        contact("short", ContactKind::NotReached, 100, 100, slopeAt(100) - 4),
                                        contact("none", ContactKind::Absent, 150, 150, slopeAt(150))};
    for (const auto reference : {BaseReference::Level, BaseReference::Depth}) {
        CAPTURE(name(reference));
        auto u = unit("A");
        u.recipe.reference = reference;
        const auto base = fitBase(u, contacts, ground);
        CHECK(base.contacts == 3);
        CHECK(base.bounds == 2);
        const auto level = [&](double x, double y) {
            const Point2 p{x, y};
            const double g = slopeAt(x);
            double z = 0;
            base.evaluate(std::span(&p, 1), {std::span(&g, 1), {}, {}}, std::span(&z, 1), {});
            return z;
        };
        CHECK(level(100, 100) <= slopeAt(100) - 4 + 1e-5);
        CHECK(level(150, 150) >= slopeAt(150) - 1e-5);
        for (const auto& c : contacts)
            if (c.kind == ContactKind::Observed) CHECK(level(c.place.x, c.place.y) == Approx(c.place.z).margin(1e-5));
    }
}

TEST_CASE("Contacts outside the ground are named when the base is made from depths", "[model]") {
    auto u = unit("A");
    u.recipe.reference = BaseReference::Depth;
    const auto base = fitBase(u,
                              {contact("in", ContactKind::Observed, 50, 50, 5), contact("in2", ContactKind::Observed, 150, 50, 5),
                               contact("out", ContactKind::Observed, 500, 50, 5)},
                              slope());
    REQUIRE(mentions(base.fit.findings, "FC-OUTSIDE", "(out)"));
    CHECK(base.fit.findings.front().hole == "out");
}

TEST_CASE("A base's variance is the kriging's, and none for a method without", "[model]") {
    std::vector<Contact> contacts;
    for (const auto& p : randomPoints(15, 12, 200)) contacts.push_back(contact("h", ContactKind::Observed, p.x, p.y, p.z / 20));
    auto u = unit("A");
    const Point2 p{100, 100};
    const double ground = slopeAt(100);
    double z = 0, variance = -1;
    fitBase(u, contacts, slope())
        .evaluate(std::span(&p, 1), {std::span(&ground, 1), {}, {}}, std::span(&z, 1), std::span(&variance, 1));
    CHECK(variance > 0);
    u.recipe.settings.method = Method::InverseDistance;
    fitBase(u, contacts, slope())
        .evaluate(std::span(&p, 1), {std::span(&ground, 1), {}, {}}, std::span(&z, 1), std::span(&variance, 1));
    CHECK(std::isnan(variance));
}

TEST_CASE("An inclined hole's match is found to the millimetre", "[model]") {
    // flat layers at -4 and -10 under flat ground; a hole at 45 degrees logged 0.5 m wrong along its length
    Holes holes;
    for (const auto& [x, y] : {std::pair{10.0, 10.0}, {90.0, 10.0}, {50.0, 90.0}, {12.0, 80.0}, {88.0, 82.0}})
        holes.push_back(hole("h" + std::to_string(int(x)), x, y, 0, {{4, "A"}, {10, "B"}, {12, "C"}}));
    const double root = std::sqrt(2.0);
    auto slant = hole("slant", 40, 50, 0, {{4 * root, "A"}, {10 * root, "B"}, {11 * root, "C"}});
    slant.stations = {{Depth{0}, 45, 90}};
    Project p;
    p.site = part(Site{"", Frame{0, 0, 100, 100, 5}, {}});
    p.sequence = part(sequence({"A", "B", "C"}));
    p.ground = part(groundOf("0 0 0, 100 0 0, 100 100 0, 0 100 0"));
    p.holes = part(holes);
    Model model = *Products().of(p)->model;
    const auto audit = [&](double shift) {
        auto wrong = slant;
        wrong.intervals[0].base.metres += shift;
        wrong.intervals[1].top.metres += shift;
        const Holes one{wrong};
        return auditModel(model, readHoles(one, *p.sequence), {{}, {}});
    };
    CHECK(audit(0).matchedFraction == Approx(1).margin(1e-3));
    const auto shifted = audit(0.5);
    CHECK(shifted.holes[0].loggedLength - shifted.holes[0].matchedLength == Approx(0.5).margin(0.004));
}

TEST_CASE("A hole off the terrain is told, not used for the ground, and can take its level", "[project]") {
    Project p;
    p.site = part(Site{"", Frame{0, 0, 100, 100, 5}, {}});
    p.sequence = part(sequence({"A", "B"}));
    p.ground = part(groundOf("0 0 0, 100 0 0, 100 100 0, 0 100 0"));
    p.holes = part(Holes{hole("near", 30, 30, 0.3, {{1, "A"}, {2, "B"}}), hole("off", 60, 60, 1.2, {{1, "A"}, {2, "B"}})});
    const auto set = Products().of(p);
    CHECK(set->terrain->levelAt({30, 30}).value() == 0.3);
    CHECK(set->terrain->levelAt({60, 60}).value() < 0.3);
    const auto finding = std::ranges::find(*set->findings, "FC-OFF-TERRAIN", &Finding::rule);
    REQUIRE(finding != set->findings->end());
    CHECK(finding->hole == "off");
    CHECK(finding->message.find("1.20 m above") != std::string::npos);
    const auto mended = Products().of(apply(p, *finding->remedy).project);
    CHECK_FALSE(mentions(*mended->findings, "FC-OFF-TERRAIN"));
    // a hole with a place and no level can take the terrain's too
    auto holes = *p.holes;
    holes.change(0).level.reset();
    p.holes = part(holes);
    const auto without = Products().of(p);
    const auto missing = std::ranges::find(*without->findings, "FC-LEVEL", &Finding::rule);
    REQUIRE(missing != without->findings->end());
    REQUIRE(missing->remedy);
    CHECK(findHole(*apply(p, *missing->remedy).project.holes, "near")->level == Level{0});
}

TEST_CASE("Volumes count nothing where a base is not known", "[model]") {
    ModelGrid grid{Grid({0, 0, 4, 1, 1}), {Grid({0, 0, 4, 1, 1}), Grid({0, 0, 4, 1, 1})}, {}};
    grid.ground.values = {10, 10, 10, kNoValue};
    grid.bases[0].values = {8, 10, kNoValue, kNoValue};
    grid.bases[1].values = {5, 4, kNoValue, kNoValue};
    const auto v = volumesOf(grid);
    CHECK(v.area == 3);
    CHECK(v.units[0].volume == 2);
    CHECK(v.units[0].area == 1);
    CHECK(v.units[1].volume == 9);
    CHECK(v.units[1].maxThickness == 6);
    CHECK(volumesOf(grid, Area(Polygon2{{0, 0}, {1, 0}, {1, 1}, {0, 1}})).units[1].volume == 3);
}

TEST_CASE("A line without length has an empty section", "[model]") {
    const auto set = demoProducts();
    CHECK(makeSection(*set->model, *set->reading, {{1, 1}, {1, 1}}, 5).chainage.empty());
    CHECK(makeSection(*set->model, *set->reading, {}, 5).chainage.empty());
    CHECK(lengthOf({{0, 0}, {3, 4}, {3, 10}}) == 11);
}

TEST_CASE("Kriged bases of one series share a variogram, others keep their own", "[model][variogram]") {
    const auto terrain = std::make_shared<const Terrain>(slope());
    Sequence s;
    std::vector<SeriesContacts> contacts;
    for (std::size_t u = 0; u < 3; ++u) {
        auto& added = s.units.emplace_back(unit(fmt::format("U{}", u).c_str()));
        added.recipe.reference = BaseReference::Level;
        std::vector<Contact> observed;
        for (const auto& p : randomPoints(unsigned(20 + u), 7, 200))
            observed.push_back(contact("h", ContactKind::Observed, p.x, p.y, -10 * double(u + 1) + 0.1 * p.z));
        contacts.push_back({u, std::make_shared<const std::vector<Contact>>(std::move(observed))});
    }
    s.units.emplace_back(unit("older"));
    const Model none{std::make_shared<const Sequence>(s), terrain, std::vector<std::shared_ptr<const BaseSurface>>(3),
                     workingOrder(s)};
    const auto variogram = [&](std::size_t u, const std::vector<SeriesContacts>& series) {
        return fox::fitBase(s.units[u], baseCandidates(none, s, u, *contacts[u].contacts, {}, SiteShape(), series))
            .fit.settings.variogram.value();
    };
    CHECK_FALSE(variogram(0, {}) == variogram(1, {}));
    const auto shared = variogram(0, {contacts[1]});
    CHECK(shared.range == Approx(variogram(1, {contacts[0]}).range));
    CHECK(shared.partialSill == Approx(variogram(1, {contacts[0]}).partialSill).epsilon(1e-6));
    CHECK_FALSE(shared == variogram(0, {}));
    // one that the user set is kept
    const Variogram typed{VariogramModel::Exponential, 0, 2, 90};
    s.units[0].recipe.settings.variogram = typed;
    CHECK(variogram(0, {contacts[1]}) == typed);
}

TEST_CASE("A guide line does not tell the variogram how smooth the base is", "[model][variogram]") {
    const auto ground = terrainOf(points("0 0 30, 200 0 30, 200 200 30, 0 200 30"));
    std::vector<Contact> rough;
    for (const auto& p : randomPoints(11, 24, 200))
        rough.push_back(contact("h", ContactKind::Observed, p.x, p.y, 10 + 0.05 * p.z));
    auto u = unit("RG");
    u.recipe.reference = BaseReference::Level;
    u.recipe.settings.method = Method::Kriging;
    const auto alone = fitBase(u, rough, ground);
    Interpretation own;
    own.guides.push_back({"RG", {{0, 100, 12}, {100, 101, 12.2}, {200, 100, 12.1}}});
    const auto guided = fitBase(u, rough, ground, own);
    REQUIRE(guided.in.guides > 8);
    REQUIRE(alone.fit.settings.variogram);
    REQUIRE(guided.fit.settings.variogram);
    CHECK(variogramPoints(guided) == variogramPoints(alone));
    CHECK(*guided.fit.settings.variogram == *alone.fit.settings.variogram);
    for (const auto& p : placesOf(own.guides[0])) CHECK(guided.fit.surface->at(p.plan()) == Approx(p.z).margin(1e-6)); // kept
    // with too few contacts to fit one, guides have to do
    rough.resize(3);
    CHECK(variogramPoints(fitBase(u, rough, ground, own)).size() == 3 + guided.in.guides);
}
