// Units assigned above an inclined plane, or between two.
#include "base/errors.h"
#include "fixtures.h"
#include "project/interval_edits.h"
#include "sequence/picked_logs.h"
#include "sequence/plane_assignment.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// A clay that dips 45 degrees to the east, and again below sand.
Holes dippingClays() {
    Holes holes;
    for (const double x : {0.0, 10.0, 20.0})
        holes.push_back(hole(fmt::format("h{}", x), 100 + x, 0, 100, {{5 + x, "C"}, {8 + x, "S"}, {15 + x, "C"}, {18 + x, "M"}}));
    return holes;
}

/// Through the place x = 100 at this level; strike north: it dips to the east.
PlaneAssignment clayAbove(double level) { return {"C", {}, planeOf(0, 45, {100, 0, level})}; }

std::vector<std::string> said(const std::vector<IntervalChoice>& all) {
    std::vector<std::string> out;
    for (const auto& c : all) out.push_back(fmt::format("{} {:g}-{:g} {}", c.hole, c.top.metres, c.base.metres, c.unit));
    return out;
}

} // namespace

TEST_CASE("A plane takes the intervals above it whole, and cuts the others", "[plane]") {
    const auto holes = dippingClays();
    const auto s = sequence({"C", "S", "M"});
    auto r = assignedAbove(holes, s, {}, clayAbove(95));
    CHECK(said(r.whole) == std::vector<std::string>{"h0 0-5 C", "h10 0-15 C", "h20 0-25 C"}); // their bases are the plane
    CHECK(r.holes == 3);
    CHECK(r.cut.empty());
    r = assignedAbove(holes, s, {}, clayAbove(97)); // through the upper clays
    CHECK(r.whole.empty());
    CHECK(r.cut.size() == 3);
    CHECK(assignedAbove(holes, s, {}, clayAbove(95.4)).whole.size() == 3); // as far as they may reach below
    auto how = clayAbove(80);                                              // below the lower ones too
    CHECK(assignedAbove(holes, s, {}, how).whole.size() == 6);
    how.holes = {"h0", "h20"};
    CHECK(assignedAbove(holes, s, {}, how).whole.size() == 4);
    Interpretation own; // what was said is kept unless asked for
    own.intervals = {{"h0", Depth{0}, Depth{5}, "S"}};
    CHECK(assignedAbove(holes, s, own, how).whole.size() == 3);
    how.keepsChoices = false;
    CHECK(assignedAbove(holes, s, own, how).whole.size() == 4);
    how.unit = "X";
    CHECK(assignedAbove(holes, s, own, how).empty());
}

TEST_CASE("Intervals that a plane cuts are split there if asked, and the part above is taken", "[plane]") {
    const auto holes = dippingClays();
    auto s = sequence({"U", "C", "S", "M"});
    auto how = clayAbove(97);
    how.unit = "U", how.codes = {"C"}, how.splits = true;
    const auto r = assignedAbove(holes, s, {}, how);
    CHECK(r.whole.empty());
    CHECK(said(r.parts) == std::vector<std::string>{"h0 0-3 U", "h10 0-13 U", "h20 0-23 U"});
    REQUIRE(r.splits.size() == 3);
    CHECK(r.splits[1] == IntervalSplit{"h10", Depth{13}});
    Project p;
    auto named = holes;
    giveNames(named);
    p.holes = part(std::move(named));
    p.sequence = part(std::move(s));
    const auto e = assignAbovePlane(p, how);
    CHECK(e.label == "Assign 3 intervals to U, 3 split");
    const auto read = readHoles(*e.project.holes, *e.project.sequence, *e.project.interpretation);
    CHECK(read.holes[0].intervals.size() == 5);
    CHECK(read.holes[0].intervals[0].unit == 0);
    CHECK(read.holes[0].intervals[1].unit == 1);
    CHECK(read.holes[0].intervals[1].top == Depth{3});
    how.plane.through.z = 500;
    CHECK_THROWS_WITH(assignAbovePlane(p, how), "No interval that could be U lies above the plane.");
    how.unit = "X";
    CHECK_THROWS_WITH(assignAbovePlane(p, how), "There is no unit X in the sequence.");
}

TEST_CASE("A lens within one clay is taken between two planes", "[plane]") {
    const Holes holes{hole("a", 1, 0, 50, {{20, "C"}, {25, "M"}}), hole("b", 100, 0, 50, {{20, "C"}, {25, "M"}})};
    auto s = sequence({"CU", "L", "C", "M"});
    PlaneAssignment how{"L", {"C"}, {{0, 0, 38}, 0, 0}};
    how.upper = Plane{{1, 0, 44}, -0.08, 0}; // meets the lower one at x = 76
    how.splits = true;
    const auto r = assignedAbove(holes, s, {}, how);
    CHECK(said(r.parts) == std::vector<std::string>{"a 6-12 L"}); // at b it lies below the lower one
    CHECK(r.splits.size() == 2);
    how.splits = false;
    CHECK(assignedAbove(holes, s, {}, how).empty());
    CHECK(assignedAbove(holes, s, {}, how).cut.size() == 2);
}

TEST_CASE("A choice for a whole interval stays with the part that a plane leaves", "[plane]") {
    Interpretation own;
    own.intervals = {{"a", Depth{0}, Depth{20}, "C"}};
    AssignedByPlane assigned;
    assigned.splits = {{"a", Depth{6}}};
    assigned.parts = {{"a", Depth{0}, Depth{6}, "U"}};
    const auto after = with(own, assigned);
    CHECK(said(after.intervals) == std::vector<std::string>{"a 6-20 C", "a 0-6 U"});
    CHECK(after.splits.size() == 1);
}

TEST_CASE("Holes that would be out of order are named", "[plane]") {
    const Holes holes{hole("a", 100, 0, 10, {{2, "C"}, {4, "S"}, {6, "C"}})};
    auto s = sequence({"CU", "S", "CL"});
    s.units[0].logged = s.units[2].logged = {"C"};
    const auto r = assignedAbove(holes, s, {}, {"CL", {}, {{0, 0, 7}, 0, 0}});
    CHECK(r.whole.size() == 1);
    REQUIRE(r.conflicts.size() == 1);
    CHECK(r.conflicts[0].hole == "a");
    CHECK(r.conflicts[0].words == "a: CL would be out of order.");
}

TEST_CASE("What comes next below a plane is counted by its code", "[plane]") {
    const auto holes = dippingClays();
    const auto s = sequence({"C", "S", "M"});
    const auto logs = readHoles(holes, s);
    const auto next = nextBelow(logs, s, clayAbove(95));
    REQUIRE(next.size() == 1);
    CHECK(next[0].code == "S");
    CHECK(next[0].holes == 3);
    CHECK(next[0].unit == std::size_t(1));
    auto some = clayAbove(95);
    some.holes = {"h10"};
    CHECK(nextBelow(logs, s, some)[0].holes == 1);
    CHECK(nextBelow(logs, s, clayAbove(-500)).empty());
}

TEST_CASE("A plane turned at one place keeps its level at the other, and its slope across", "[plane]") {
    const auto seed = GENERATE(range(1u, 31u));
    CAPTURE(seed);
    const auto p = randomPoints(seed, 3);
    const Plane plane{p[0], 0.01 * p[1].z, -0.02 * p[2].z};
    const Point2 place = p[1].plan(), pivot = p[2].plan();
    const auto t = turned(plane, place, 7, pivot);
    CHECK(t.at(place) == Approx(7));
    CHECK(t.at(pivot) == Approx(plane.at(pivot)));
    const double x = place.x - pivot.x, y = place.y - pivot.y; // along the line; across it: -y, x
    CHECK(-y * t.east + x * t.north == Approx(-y * plane.east + x * plane.north).margin(1e-9));
    CHECK(turned(plane, pivot, 7, pivot).at(pivot) == Approx(7)); // no line: it moves as a whole
}

TEST_CASE("The plane of contacts is theirs, of the holes that are asked for", "[plane]") {
    std::vector<Contact> contacts;
    for (const auto& p : points("0 0 10, 100 0 12, 0 100 9, 100 100 90")) {
        const auto name = fmt::format("h{}", contacts.size());
        contacts.push_back({name, ContactKind::Observed, p});
    }
    const auto plane = planeOfContacts(contacts, {"h0", "h1", "h2"});
    REQUIRE(plane);
    CHECK(plane->at({100, 100}) == Approx(11));
    CHECK_FALSE(planeOfContacts({}));
    contacts[2].kind = ContactKind::Absent;
    CHECK_FALSE(planeOfContacts(contacts, {"h0", "h1", "h2"}));
}

TEST_CASE("A well without a log stands beside others by its picks", "[plane][picks]") {
    Holes holes{hole("a", 0, 0, 50, {{4, "S"}, {9, "C"}, {12, "M"}}), hole("w", 50, 0, 50, {})};
    holes.change(1).curves.push_back({});
    auto& curve = holes.change(1).curves.back();
    curve.name = "gamma";
    curve.readings = std::make_shared<const std::vector<Curve::Reading>>(std::vector<Curve::Reading>{{0, 1}, {15, 2}});
    giveNames(holes);
    const auto s = sequence({"S", "G", "C", "M"});
    Interpretation own;
    own.picks = {{"w", "C", Depth{11}}, {"w", "S", Depth{3}}, {"w", "G", Depth{12}}, {"w", "X", Depth{5}}, {"a", "S", Depth{5}}};
    const auto logs = readHoles(holes, s, own);
    const auto drawn = withPicks(logs, s, own);
    REQUIRE(drawn.holes.size() == 2);
    const auto& well = drawn.holes[1];
    REQUIRE(well.intervals.size() == 2); // G under C is out of order, X is no unit
    CHECK(well.intervals[0].unit == 0);
    CHECK(well.intervals[0].base == Depth{3});
    CHECK(well.intervals[1].unit == 2);
    CHECK(well.intervals[1].top == Depth{3});
    CHECK(well.intervals[1].base == Depth{11});
    CHECK(well.logged().size() == 2);
    CHECK(drawn.holes[0].intervals.size() == logs.holes[0].intervals.size()); // what is logged stays
    CHECK(withPicks(logs, s, {}).holes[1].intervals.empty());
    // and the surfaces have the picks as contacts, no more
    const auto contacts = contactsOf(logs, s, own);
    CHECK(std::ranges::count(contacts[0], "w", &Contact::hole) == 1);
}
