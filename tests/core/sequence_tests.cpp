#include "fixtures.h"
#include "handover/interpretation_csv.h"
#include "products/products.h"
#include "project/remedies.h"
#include "project/sequence_edits.h"
#include "sequence/correlation.h"
#include "sequence/plane_assignment.h"
#include "sequence/proposal.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

std::string order(const Sequence& s) {
    std::string out;
    for (const auto& u : s.units) out += (out.empty() ? "" : " ") + u.code;
    return out;
}

/// Till, a sand lens in the east, till; one hole stops over the lens, one reaches rock without it.
Holes tillHoles() {
    return {hole("E1", 100, 0, 50, {{5, "T"}, {7, "S"}, {12, "T"}, {15, "M"}}),
            hole("E2", 120, 20, 50, {{5.5, "T"}, {7.5, "S"}, {12, "T"}, {15, "M"}}),
            hole("E3", 110, 40, 50, {{5.2, "T"}, {7.2, "S"}, {12, "T"}}),
            hole("short", 112, 20, 50, {{3, "T"}}),
            hole("deep", 115, 10, 50, {{4, "T"}, {9, "T"}}),
            hole("W1", 0, 0, 50, {{12, "T"}, {15, "M"}}),
            hole("W2", 10, 30, 50, {{12, "T"}, {14, "M"}}),
            hole("W3", -10, 20, 50, {{6, "T"}})};
}

const ProposedReading& readingOf(const SequenceProposal& p, const std::string& hole, double top) {
    const auto it = std::ranges::find_if(
        p.readings, [&](const auto& r) { return r.choice.hole == hole && std::abs(r.choice.top.metres - top) < 1e-9; });
    REQUIRE(it != p.readings.end());
    return *it;
}

Project projectOf(Holes holes, Sequence s) {
    Project p;
    p.holes = part(std::move(holes));
    p.sequence = part(std::move(s));
    return p;
}

} // namespace

TEST_CASE("A code that returns under another is proposed as two units", "[sequence]") {
    const auto p = proposeReading(tillHoles(), sequence({"T", "S", "M"}));
    CHECK(order(p.sequence) == "TU S TL M");
    REQUIRE(p.splits.size() == 1);
    CHECK(p.splits[0].holes == std::vector<std::string>{"E1", "E2", "E3"});
    CHECK(p.splits[0].between == std::vector<std::string>{"S"});
    CHECK(p.sequence.units[0].logged == std::vector<std::string>{"T"});
    CHECK(p.sequence.units[0].name == "Upper T");
    // parted by the log itself
    CHECK(readingOf(p, "E1", 0).choice.unit == "TU");
    CHECK(readingOf(p, "E1", 0).confidence == 1);
    CHECK(readingOf(p, "E1", 7).choice.unit == "TL");
    // down to rock without sand: it is not there
    CHECK(readingOf(p, "W1", 0).choice.unit == "TL");
    CHECK(readingOf(p, "W1", 0).confidence == 1);
    // stopped over the sand that its neighbours have
    CHECK(readingOf(p, "short", 0).choice.unit == "TU");
    CHECK(readingOf(p, "short", 0).confidence > 0.7);
    CHECK(readingOf(p, "short", 0).confidence < 1);
    CHECK(p.surenessOf("short") < 1);
    CHECK(p.surenessOf("W1") == 1);
    // stopped where the neighbours have none
    CHECK(readingOf(p, "W3", 0).choice.unit == "TL");
    // past the level of the sand without meeting it; both of its intervals
    CHECK(readingOf(p, "deep", 0).choice.unit == "TL");
    CHECK(readingOf(p, "deep", 4).choice.unit == "TL");
    CHECK(std::ranges::count(p.lenses, "S") == 0); // three have it, two that could do not
}

TEST_CASE("Nothing is split without two holes that say so, and choices are kept", "[sequence]") {
    const Holes one{hole("a", 0, 0, 9, {{1, "T"}, {2, "S"}, {3, "T"}}), hole("b", 9, 0, 9, {{1, "T"}, {3, "M"}})};
    const auto p = proposeReading(one, sequence({"T", "S", "M"}));
    CHECK(p.splits.empty());
    CHECK(p.readings.empty());
    CHECK(proposeReading({}, sequence({"T"})).splits.empty());
    auto split = proposeReading(tillHoles(), sequence({"T", "S", "M"})).sequence;
    Interpretation own;
    own.intervals = {{"short", Depth{0}, Depth{3}, "TL"}};
    const auto again = proposeReading(tillHoles(), split, own);
    CHECK(again.splits.empty()); // it is split already
    CHECK(std::ranges::none_of(again.readings, [](const auto& r) { return r.choice.hole == "short"; }));
}

TEST_CASE("The demo's till over and under the sand lens is told apart", "[sequence][demo]") {
    const auto& holes = *demo().project.holes;
    // from the bare codes, as a user has them at first
    auto bare = *demo().project.sequence;
    std::erase_if(bare.units, [](const Unit& u) { return u.code == "TU"; });
    for (auto& u : bare.units)
        if (u.code == "TL") u.logged.clear();
    const auto p = proposeReading(holes, bare);
    REQUIRE(p.splits.size() == 1);
    CHECK(p.splits[0].code == "TL");
    CHECK(p.splits[0].between == std::vector<std::string>{"SL"});
    CHECK(std::ranges::count(p.lenses, "SL") == 1);
    const auto upper = p.splits[0].units.front();
    int right = 0, all = 0;
    for (const auto& r : p.readings) {
        const auto* h = findHole(holes, r.choice.hole);
        const auto path = HolePath::of(*h);
        if (!path) continue;
        const auto middle = path->at(Depth{(r.choice.top.metres + r.choice.base.metres) / 2});
        const auto truth = quernbeck::bases(middle.x, middle.y);
        const bool lens = truth[quernbeck::TU] - truth[quernbeck::SL] > 0.05;
        const bool over = lens && middle.z > (truth[quernbeck::TU] + truth[quernbeck::SL]) / 2;
        ++all;
        right += over == (r.choice.unit == upper);
    }
    CAPTURE(right, all);
    REQUIRE(all > 20);
    CHECK(right >= 0.95 * all);
}

TEST_CASE("What the geologist says of an interval wins, and is missed when the log changes", "[sequence]") {
    auto p = projectOf(tillHoles(), sequence({"T", "S", "M"}));
    p = setIntervals(p, {DepthRange{"E1", Depth{5}, Depth{7}}}, "T").project;
    const auto reading = readHoles(*p.holes, *p.sequence, *p.interpretation);
    REQUIRE(reading.holes[0].intervals.size() == 2); // joined: T from 0 to 12
    CHECK(reading.holes[0].intervals[0].base == Depth{12});
    CHECK(reading.holes[0].intervals[0].byHand);
    auto none = setIntervals(p, {DepthRange{"E1", Depth{5}, Depth{7}}}, "").project;
    CHECK(readHoles(*none.holes, *none.sequence, *none.interpretation).holes[0].intervals.size() == 3);
    CHECK(setIntervals(p, {DepthRange{"E1", Depth{5}, Depth{7}}}, std::nullopt).project.interpretation->intervals.empty());
    auto changed = *p.holes;
    changed.change(0).intervals[1].base = Depth{6.8};
    CHECK(mentions(readHoles(changed, *p.sequence, *p.interpretation).findings, "FC-CHOICE", "no such interval"));
    CHECK_THROWS_AS(setIntervals(p, {DepthRange{"E1", Depth{5}, Depth{7}}}, "X"), Error);
    CHECK_THROWS_AS(setIntervals(p, {DepthRange{"nobody", Depth{5}, Depth{7}}}, "T"), Error);
}

TEST_CASE("A pick snaps to the log, stands as a contact, and is apart from the log", "[sequence]") {
    auto p = projectOf(tillHoles(), sequence({"T", "S", "M"}));
    p = setPick(p, "W3", "T", Depth{5.9}).project;
    CHECK(p.interpretation->picks == std::vector<Pick>{{"W3", "T", Depth{6}}});
    const auto reading = readHoles(*p.holes, *p.sequence, *p.interpretation);
    const auto contacts = contactsOf(reading, *p.sequence, *p.interpretation);
    const auto it = std::ranges::find(contacts[0], "W3", &Contact::hole);
    REQUIRE(it != contacts[0].end());
    CHECK(it->kind == ContactKind::Observed);
    CHECK(it->byHand);
    CHECK(it->place.z == Approx(44));
    CHECK(setPick(p, "W3", "T", Depth{3.123}).project.interpretation->picks[0].depth == Depth{3.12});
    CHECK(setPick(p, "W3", "T", {}).project.interpretation->picks.empty());
    CHECK_THROWS_WITH(setPick(p, "W3", "T", Depth{60}), Catch::Contains("ends at 6.00 m"));
    // a hole with a curve and no log
    auto holes = *p.holes;
    Hole well;
    well.id = "well", well.easting = 5, well.northing = 5, well.level = Level{40};
    well.curves.push_back({"GR", "API", "gamma", false,
                           std::make_shared<const std::vector<Curve::Reading>>(std::vector<Curve::Reading>{{0, 10}, {20, 30}})});
    holes.push_back(well);
    p.holes = part(holes);
    p = setPick(p, "well", "S", Depth{8}).project;
    const auto more = contactsOf(readHoles(*p.holes, *p.sequence, *p.interpretation), *p.sequence, *p.interpretation);
    CHECK(std::ranges::count(more[1], "well", &Contact::hole) == 1);
    CHECK(std::ranges::count(more[0], "well", &Contact::hole) == 0);
}

TEST_CASE("Units move, are renamed, and go with all that was said of them", "[sequence]") {
    auto p = projectOf(tillHoles(), sequence({"T", "S", "M"}));
    CHECK(order(*moveUnit(p, "M", 0).project.sequence) == "M T S");
    CHECK(order(*moveUnit(p, "T", 9).project.sequence) == "S M T");
    p = setPick(p, "W3", "T", Depth{6}).project;
    p = setIntervals(p, {DepthRange{"E1", Depth{5}, Depth{7}}}, "T").project;
    auto s = *p.sequence;
    s.units[1].recipe.against = "T";
    s.units[2].crossing = {CrossingRemedy::Kind::Below, 0, "T"};
    p.sequence = part(s);
    const auto renamed = renameUnit(p, "T", "TILL").project;
    CHECK(renamed.interpretation->picks[0].unit == "TILL");
    CHECK(renamed.interpretation->intervals[0].unit == "TILL");
    CHECK(renamed.sequence->units[1].recipe.against == "TILL");
    CHECK(renamed.sequence->units[2].crossing.unit == "TILL");
    CHECK_FALSE(mentions(readHoles(*renamed.holes, *renamed.sequence, *renamed.interpretation).findings, "FC-CODE")); // T is it
    CHECK_THROWS_AS(renameUnit(p, "T", "S"), Error);
    const auto removed = removeUnit(p, "T").project;
    CHECK(removed.interpretation->picks.empty());
    CHECK(removed.interpretation->intervals.empty());
    CHECK(removed.sequence->units.size() == 2);
    Unit x;
    x.code = "X";
    CHECK(order(*addUnit(p, x, 1).project.sequence) == "T X S M");
    x.code = "S";
    CHECK_THROWS_AS(addUnit(p, x, 1), Error);
}

TEST_CASE("An interpretation goes out as CSV and comes back", "[sequence]") {
    auto p = projectOf(tillHoles(), proposeReading(tillHoles(), sequence({"T", "S", "M"})).sequence);
    p = setIntervals(p, {DepthRange{"short", Depth{0}, Depth{3}}}, "TU").project;
    p = setPick(p, "W3", "TU", Depth{3}).project;
    const auto csv = interpretationCsv(*Products().of(p));
    CHECK(csv.find("short,TU,0.00,3.00,by hand\n") != std::string::npos);
    CHECK(csv.find("W3,TU,,3.00,pick\n") != std::string::npos);
    auto fresh = p;
    fresh.interpretation = part(Interpretation{});
    const auto in = importInterpretation(fresh, csv, "x.csv");
    CHECK(in.findings.empty());
    CHECK(in.intervals == 1); // the others are read so already
    CHECK(in.picks == 1);
    CHECK(in.edited.project.interpretation->picks == p.interpretation->picks);
    CHECK(interpretationCsv(*Products().of(in.edited.project)) == csv);
}

TEST_CASE("Rows of an interpretation that can't be used are named with their line", "[sequence]") {
    const auto p = projectOf(tillHoles(), sequence({"T", "S", "M"}));
    const auto in = importInterpretation(p,
                                         "Unit;Hole;Top;Base;Kind\nT;nobody;0;1;logged\nX;E1;0;5;logged\nT;E1;0;deep;logged\n"
                                         "S;E1;0;5;logged\nT;E1;0;6.2;logged\n",
                                         "x.csv");
    REQUIRE(in.findings.size() == 3);
    CHECK(in.findings[0].line == 2);
    CHECK(in.findings[0].hole == "nobody");
    CHECK(in.findings[1].message.find("no unit \"X\"") != std::string::npos);
    CHECK(in.findings[2].line == 4);
    CHECK(in.intervals == 1);
    REQUIRE(in.picks == 1); // 6.20 m is within the sand's log
    CHECK(in.edited.project.interpretation->picks[0].depth == Depth{6.2});
    CHECK_THROWS_WITH(importInterpretation(p, "a,b\n1,2\n", "y.csv"), Catch::Contains("no column \"hole\""));
}

TEST_CASE("What is said of units, intervals and trial columns is kept in the file", "[project]") {
    const TemporaryFolder folder;
    auto p = projectOf(tillHoles(), sequence({"T", "S", "M"}));
    auto u = p.sequence->units[1];
    u.leastThickness = 0.3;
    u.outlines = {{{{0, 0}, {50, 0}, {0, 50}}, {{{5, 5}, {9, 5}, {5, 9}}}}, {{{60, 0}, {90, 0}, {60, 50}}}};
    u.crossing = {CrossingRemedy::Kind::Above, 0.5, "T"};
    u.water = WaterRole::Aquifer;
    u.values = {{"conductivity", 1e-4}, {"unit_weight", 19.5}, {"cohesion", 5}};
    p = addUnitValueKind(p, "cohesion", "kPa").project;
    u.recipe.grid = Frame{0, 0, 100, 50, 2.5};
    u.hatch = "sand";
    p = changeUnit(
            p, "S", [&](Unit& unit) { unit = u; }, "all")
            .project;
    p = setPick(p, "W3", "T", Depth{6}).project;
    p = setIntervals(p, {DepthRange{"E1", Depth{5}, Depth{7}}}, "T").project;
    p = addTrialColumn(p, {12.5, 30}).project;
    p = addTrialColumn(p, {15, 30}, "pit").project;
    p = addSection(p, {{0, 0}, {100, 0}}).project;
    auto sections = *p.sections;
    sections[0].reach = 60;
    p.sections = part(sections);
    ProjectStore::create(folder / "p.gpkg", p);
    const auto back = ProjectStore::read(folder / "p.gpkg");
    CHECK(sameValue(back, p));
    CHECK(back.trialColumns->at(0).name == "T1");
    CHECK(removeTrialColumn(back, back.trialColumns->front().name).project.trialColumns->size() == 1);
}

TEST_CASE("Units run between holes without gaps, and end halfway to a hole without them", "[sequence]") {
    const auto s = sequence({"A", "B", "C", "D"});
    const Holes holes{hole("l", 100, 0, 10, {{2, "A"}, {5, "B"}, {8, "C"}, {9, "D"}}),
                      hole("r", 200, 0, 20, {{4, "A"}, {8, "C"}})};
    const auto reading = readHoles(holes, s);
    const auto left = stretchesOf(reading.holes[0], *HolePath::of(holes[0]), 4);
    const auto right = stretchesOf(reading.holes[1], *HolePath::of(holes[1]), 4);
    CHECK(left[1] == UnitStretch{8, 5, true, false});
    CHECK(right[1] == UnitStretch{16, 16, false, false}); // without thickness on the top of C
    CHECK(right[2]->open);                                // the hole stops in it
    CHECK_FALSE(right[3]);                                // not reached
    const auto between = unitsBetween(left, right);
    REQUIRE(between.size() == 3);
    CHECK(between[0].top[1] == Approx(15));
    CHECK(between[1].top[1] == between[1].base[1]); // B ends halfway
    CHECK(between[0].base[1] == between[1].top[1]); // what lies on either side meets there
    CHECK(between[2].top[1] == between[1].base[1]);
    CHECK(between[2].open);
    CHECK(hangingDepth(reading.holes[1], 1) == Depth{4}); // of A, as it has no B
    CHECK(hangingDepth(reading.holes[0], 2) == Depth{8});
    CHECK(stretchesOf(reading.holes[0], *HolePath::of(holes[0]), 4, -5)[0]->top == 5);
}

TEST_CASE("Lines of a file become sections under their names", "[sequence]") {
    Project p;
    p = addSection(p, {{0, 0}, {10, 0}}).project;
    FeatureLayer layer{"lines", "", {}};
    layer.features.push_back(
        {GeometryKind::Line, {{{0, 0, 0}, {5, 5, 0}, {5, 5, 0}, {9, 9, 0}}}, false, {{"Name", std::string("North")}}});
    layer.features.push_back({GeometryKind::Point, {{{1, 1, 0}}}, false, {}});
    layer.features.push_back(
        {GeometryKind::Line, {{{0, 1, 0}, {5, 1, 0}}, {{2, 2, 0}}}, false, {{"name", std::string("North")}}});
    const auto e = addSections(p, {layer}, "lines.gpkg");
    REQUIRE(e.project.sections->size() == 3);
    CHECK((*e.project.sections)[1].name == "North");
    CHECK((*e.project.sections)[1].line.size() == 3);
    CHECK((*e.project.sections)[2].name != "North"); // that name is taken
    CHECK(e.label == "2 section lines from lines.gpkg");
    CHECK_THROWS_WITH(addSections(p, {{"none", "", {}}}, "x.gpkg"), Catch::Contains("x.gpkg has no line"));
}

TEST_CASE("A stretch out of order offers what it could be; a log below all units is named", "[sequence]") {
    auto p = projectOf(
        {hole("a", 100, 0, 9, {{1, "T"}, {2, "M"}, {3, "S"}, {9, "M"}}), hole("b", 120, 0, 9, {{3, "T"}, {4, "M"}, {7, "X"}})},
        sequence({"T", "S", "M"}));
    const auto findings = readHoles(*p.holes, *p.sequence).findings;
    const auto f = std::ranges::find(findings, "FC-ORDER", &Finding::rule);
    REQUIRE(f != findings.end());
    REQUIRE(f->others.size() == 2);
    CHECK(f->others[0].label == "Read it as M");
    const auto asM = apply(p, f->others[0]).project;
    CHECK_FALSE(mentions(readHoles(*asM.holes, *asM.sequence, *asM.interpretation).findings, "FC-ORDER"));
    const auto none = apply(p, f->others[1]).project;
    CHECK_FALSE(mentions(readHoles(*none.holes, *none.sequence, *none.interpretation).findings, "FC-ORDER"));
    CHECK(mentions(findings, "FC-DEEPER", "from 4.00 m to 7.00 m"));
    // codes with spaces
    const auto q = projectOf({hole("a", 100, 0, 9, {{1, "T"}, {2, "soft rock"}, {3, "S"}, {9, "soft rock"}})},
                             sequence({"T", "S", "soft rock"}));
    const auto named = readHoles(*q.holes, *q.sequence).findings;
    const auto g = std::ranges::find(named, "FC-ORDER", &Finding::rule);
    REQUIRE(g != named.end());
    CHECK(apply(q, g->others[0]).project.interpretation->intervals[0].unit == "soft rock");
}

TEST_CASE("A unit may be told by the material of the descriptions where the code says nothing", "[sequence]") {
    auto s = sequence({"A", "B"});
    s.units[0].logged = {"A", "clay"};
    s.units[1].logged = {"B", "sand"};
    Holes holes{hole("a", 100, 0, 10, {{2, ""}, {4, ""}, {6, "A"}})};
    for (auto& i : holes.change(0).intervals)
        if (i.codes.at("GEOL_GEOL").empty()) i.codes.clear();
    holes.change(0).intervals[0].description = "Firm grey sandy CLAY";
    holes.change(0).intervals[1].description = "Medium dense SAND with clay";
    const auto reading = readHoles(holes, s);
    REQUIRE(reading.holes[0].intervals.size() == 3);
    CHECK(reading.holes[0].intervals[0].unit == 0);
    CHECK(reading.holes[0].intervals[1].unit == 1);
    CHECK(reading.holes[0].intervals[2].unit == 0); // by its code, as far as that goes
    PlaneAssignment how{"A", {"clay"}, {{100, 0, 8}, 0, 0}};
    CHECK(assignedAbove(holes, s, {}, how).whole.size() == 1);
}
