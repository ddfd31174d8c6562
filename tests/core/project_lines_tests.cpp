// Lines that are changed on the plan: each kind, its corners, joining and parting, parallels, and what corners catch at.
#include "fixtures.h"
#include "project/ground_edits.h"
#include "project/project_lines.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "project/surface_edits.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

using Kind = ProjectLine::Kind;

/// One of each kind.
Project withLines() {
    Project p;
    p.sequence = part(sequence({"A", "B", "C"}));
    p.holes = part(Holes{hole("H1", 10, 10, 30, {{2, "A"}}), hole("H2", 90, 40, 30, {{2, "A"}})});
    p = addSection(p, {{0, 0}, {50, 0}, {100, 0}}).project;
    p = addFault(p, {{0, 50}, {50, 60}, {100, 50}}, "B").project;
    p = addGuide(p, "A", {{0, 20, 5}, {40, 20, 6}, {80, 20, 7}}).project;
    p = addBreakline(p, {{5, 5, kNoValue}, {60, 5, kNoValue}, {70, 9, kNoValue}}).project;
    p = addOutline(p, "pond", square(20, 70, 20), GroundSources::Outline::Use::None).project;
    p = setSiteLimit(p, square(-50, -50, 300)).project;
    p = addPresenceMark(p, {"A", square(40, 40, 10), true}).project;
    return p;
}

const ProjectLine& lineOf(const std::vector<ProjectLine>& all, Kind kind) {
    return *std::ranges::find(all, kind, &ProjectLine::kind);
}

} // namespace

TEST_CASE("Every kind of line is listed, and moves by its corners alone", "[project][lines]") {
    const auto p = withLines();
    const auto all = linesOf(p);
    for (const auto kind : {Kind::Section, Kind::Fault, Kind::Guide, Kind::Breakline, Kind::Outline, Kind::SiteLimit,
                            Kind::Presence, Kind::Extent}) {
        CAPTURE(words(kind));
        REQUIRE(std::ranges::count(all, kind, &ProjectLine::kind) == 1);
        if (kind == Kind::Extent) continue;
        auto line = lineOf(all, kind);
        auto corners = line.corners;
        corners[1].x += 3, corners[1].y -= 2;
        const auto moved = setCorners(p, line, corners);
        CHECK(moved.label.find(describe(line)) != std::string::npos);
        line.corners = corners;
        const auto now = linesOf(moved.project);
        CHECK(std::ranges::count(now, line) == 1);
        for (const auto& other : all) // the others lie as they lay
            if (other.kind != kind && other.kind != Kind::Extent) CHECK(std::ranges::count(now, other) == 1);
        // the line as it was is not there any more: a second edit of it fits nothing
        CHECK_THROWS_AS(setCorners(moved.project, lineOf(all, kind), corners), Error);
        CHECK_THROWS_AS(setCorners(p, lineOf(all, kind), {}), Error);
        const auto gone = removeLine(p, lineOf(all, kind)).project;
        CHECK(std::ranges::count(linesOf(gone), kind, &ProjectLine::kind) == 0);
    }
}

TEST_CASE("The extent stays a rectangle while a corner of it moves", "[project][lines]") {
    auto p = withLines();
    p = setFrame(p, Frame{0, 0, 100, 80, 5}).project;
    const auto extent = lineOf(linesOf(p), Kind::Extent);
    auto corners = extent.corners;
    corners[1] = {130, 95, kNoValue}; // the north-eastern one
    const auto frame = *setCorners(p, extent, corners).project.site->frame;
    CHECK(frame == Frame{0, 0, 130, 95, 5});
    CHECK_FALSE(removeLine(p, extent).project.site->frame);
    CHECK_THROWS_AS(splitLine(p, extent, 1), Error);
}

TEST_CASE("A unit's outline follows the outline that it was taken from", "[project][lines]") {
    auto p = withLines();
    const auto ring = p.ground->outlines[0].ring;
    p = changeUnit(
            p, "A",
            [&](Unit& u) {
                u.outlines = {{ring}, {square(0, 0, 5)}};
            },
            "outlines")
            .project;
    const auto line = lineOf(linesOf(p), Kind::Outline);
    auto corners = line.corners;
    corners[2] = {99, 99, kNoValue};
    const auto moved = setCorners(p, line, corners).project;
    CHECK(moved.sequence->units[0].outlines[0].ring == moved.ground->outlines[0].ring);
    CHECK(moved.sequence->units[0].outlines[0].ring[2] == Point2{99, 99});
    CHECK(moved.sequence->units[0].outlines[1].ring == square(0, 0, 5));
}

TEST_CASE("Lines are reversed, parted and joined again", "[project][lines]") {
    const auto p = withLines();
    for (const auto kind : {Kind::Section, Kind::Fault, Kind::Guide, Kind::Breakline}) {
        CAPTURE(words(kind));
        const auto line = lineOf(linesOf(p), kind);
        const auto back = lineOf(linesOf(reverseLine(p, line).project), kind);
        CHECK(back.corners.front().plan() == line.corners.back().plan());
        const auto parted = splitLine(p, line, 1).project;
        std::vector<ProjectLine> parts;
        for (const auto& l : linesOf(parted))
            if (l.kind == kind) parts.push_back(l);
        REQUIRE(parts.size() == 2);
        CHECK(parts[0].corners.back().plan() == parts[1].corners.front().plan());
        CHECK((parts[0].name != parts[1].name || kind == Kind::Guide || kind == Kind::Breakline));
        // whichever way the second runs
        const auto turned = reverseLine(parted, parts[1]).project;
        ProjectLine second = parts[1];
        std::ranges::reverse(second.corners);
        const auto whole = joinLines(turned, parts[0], second).project;
        CHECK(lineOf(linesOf(whole), kind) == line);
        CHECK_THROWS_AS(splitLine(p, line, 0), Error);
        CHECK_THROWS_AS(splitLine(p, line, line.corners.size() - 1), Error);
        CHECK_THROWS_AS(joinLines(p, line, line), Error);
    }
    const auto all = linesOf(p);
    CHECK_THROWS_AS(splitLine(p, lineOf(all, Kind::Outline), 1), Error);
    CHECK_THROWS_AS(joinLines(p, lineOf(all, Kind::Section), lineOf(all, Kind::Fault)), Error);
}

TEST_CASE("A fault that is parted steps what it stepped", "[project][lines]") {
    auto p = setFaultUnits(withLines(), "F1", {"B"}).project;
    p = splitLine(p, lineOf(linesOf(p), Kind::Fault), 1).project;
    REQUIRE(p.interpretation->faults.size() == 2);
    CHECK(p.interpretation->faults[1].units == std::vector<std::string>{"B"});
}

TEST_CASE("An offset line keeps its distance, and is cut off at sharp corners", "[project][lines]") {
    const auto straight = offsetLine({{0, 0}, {100, 0}}, 10);
    CHECK(straight == Polyline2{{0, -10}, {100, -10}}); // to the right of east is south
    const auto corner = offsetLine({{0, 0}, {100, 0}, {100, 100}}, -10);
    REQUIRE(corner.size() == 3);
    CHECK(corner[1].x == Approx(90));
    CHECK(corner[1].y == Approx(10));
    const auto sharp = offsetLine({{0, 0}, {100, 0}, {0, 5}}, 10);
    CHECK(sharp.size() == 4);
    for (const auto& q : sharp) CHECK(q.x < 121);
    // random lines: every corner of the offset is at least as far off as asked for from the pieces beside it, within rounding
    for (unsigned seed = 1; seed <= 60; ++seed) {
        Polyline2 line;
        for (const auto& q : randomPoints(seed, 4, 1000)) line.push_back(q.plan());
        for (const auto& q : offsetLine(line, 5)) {
            double nearest = 1e9;
            for (const auto& c : line) nearest = std::min(nearest, distance(c, q));
            CHECK(nearest >= 5 - 1e-9);
            CHECK(nearest <= 10 + 1e-9); // twice the distance: a mitre's reach
        }
    }
}

TEST_CASE("Parallel sections stand at their spacing, each with a name of its own", "[project][lines]") {
    auto p = withLines();
    p = addParallelSections(p, "A", 25, 1, 2).project;
    std::vector<std::string> names;
    for (const auto& s : *p.sections) names.push_back(s.name);
    CHECK(names == std::vector<std::string>{"A", "A -25", "A +25", "A +50"});
    CHECK((*p.sections)[3].line.front().y == Approx(-50));
    p = addParallelSections(p, "A", 25, 0, 1).project;
    CHECK(p.sections->back().name == "A +25 (2)");
    CHECK_THROWS_AS(addParallelSections(p, "A", 0, 1, 1), Error);
    CHECK_THROWS_AS(addParallelSections(p, "Z", 10, 1, 1), Error);
    CHECK_THROWS_AS(addParallelSections(p, "A", 10, 0, 0), Error);
}

TEST_CASE("A corner catches at a hole before a corner, and at a corner before a side", "[project][lines]") {
    const auto p = withLines();
    const auto all = linesOf(p);
    const auto at = [&](Point2 q, double within) { return snapTarget(p, all, nullptr, q, within); };
    REQUIRE(at({12, 11}, 5));
    CHECK(at({12, 11}, 5)->what == "H1");
    CHECK(at({12, 11}, 5)->place == Point2{10, 10});
    REQUIRE(at({51, 1}, 3));
    CHECK(at({51, 1}, 3)->place == Point2{50, 0});
    REQUIRE(at({75, 1}, 3));
    CHECK(at({75, 1}, 3)->place == Point2{75, 0});
    CHECK_FALSE(at({75, -30}, 3));
    const auto section = lineOf(all, Kind::Section);
    CHECK_FALSE(snapTarget(p, all, &section, {75, 1}, 3)); // not at itself
}

TEST_CASE("The first section goes through the most holes along the longest way", "[project][lines]") {
    Holes holes;
    for (int i = 0; i < 12; ++i)
        holes.push_back(hole("L" + std::to_string(i), 1000 + 100.0 * i, 2000 + 20.0 * i, 30, {{2, "A"}}));
    for (int i = 0; i < 4; ++i)
        holes.push_back(hole("X" + std::to_string(i), 1050 + 250.0 * i, i % 2 ? 1550.0 : 2700.0, 30, {{2, "A"}}));
    const auto line = proposedSection(holes);
    REQUIRE(line);
    REQUIRE(line->size() == 2);
    for (int i = 0; i < 12; ++i) CHECK(project(*line, {1000 + 100.0 * i, 2000 + 20.0 * i}).distance < 1);
    CHECK(line->front().x < line->back().x);
    CHECK_FALSE(proposedSection(Holes{hole("one", 10, 10, 1, {{1, "A"}})}));
    CHECK_FALSE(proposedSection(Holes{hole("one", 10, 10, 1, {{1, "A"}}), hole("same", 10, 10, 1, {{1, "A"}})}));
}
