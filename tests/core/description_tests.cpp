// Words of descriptions, logged codes, and values that holes have for a plan.
#include "fixtures.h"
#include "sequence/description.h"
#include "sequence/hole_values.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {
Holes list(std::initializer_list<Hole> some) {
    Holes out;
    for (const auto& h : some) out.push_back(h);
    return out;
}
} // namespace

TEST_CASE("The principal soil or rock is the word in capitals, else the last noun before what is secondary", "[sequence]") {
    const std::pair<const char*, const char*> kCases[] = {
        {"Stiff brown slightly gravelly CLAY", "clay"},
        {"Dense brown very sandy GRAVEL with low cobble content", "gravel"},
        {"MADE GROUND: Brown gravelly SAND with brick", "made ground"},
        {"Made ground (ashy sand)", "made ground"},
        {"firm sandy clay with gravel", "clay"},
        {"Soft clay (sand lenses)", "clay"},
        {"Weak red brown MUDSTONE, highly weathered", "mudstone"},
        {"Spongy dark brown fibrous PEAT", "peat"},
        {"brown silts", "silt"},
        {"COBBLES and BOULDERS of limestone", "cobbles"},
        {"Sandstone, fine grained", "sandstone"},
        {"no recovery", ""},
        {"", ""},
        {"sandy", ""},
    };
    for (const auto& [words, material] : kCases) {
        CAPTURE(words);
        CHECK(principalMaterial(words) == material);
    }
}

TEST_CASE("Logged codes are counted, the commonest first, intervals without one among them", "[sequence]") {
    auto a = hole("A", 0, 0, 10, {{1, "X"}, {3, "Y"}, {6, "X"}}), b = hole("B", 1, 0, 10, {{2, "X"}});
    a.intervals[0].description.assign("Firm CLAY");
    a.intervals[2].description = "Dense SAND";
    b.intervals[0].description = "Soft CLAY";
    a.intervals[1].codes.clear();
    const auto codes = loggedCodes(list({a, b}), "GEOL_GEOL");
    REQUIRE(codes.size() == 2);
    CHECK(codes[0].code == "X");
    CHECK(codes[0].intervals == 3);
    CHECK(codes[0].holes == 2);
    CHECK(codes[0].metres == Approx(6));
    CHECK(codes[0].material == "clay");
    CHECK(codes[1].code.empty());
}

TEST_CASE("A sequence without names takes them from the descriptions", "[sequence]") {
    auto a = hole("A", 0, 0, 10, {{1, "101"}, {3, "201"}});
    a.intervals[0].description = "Brown TOPSOIL";
    a.intervals[1].description = "Stiff CLAY";
    const auto s = proposeSequence(list({a}), {});
    REQUIRE(s.units.size() == 2);
    CHECK(s.units[0].name == "Topsoil (101)");
    CHECK(s.units[1].name == "Clay (201)");
    CHECK(s.units[1].colour == proposedColour("clay", {s.units[0]}));
}

TEST_CASE("Values of holes for a plan", "[sequence]") {
    auto a = hole("A", 0, 0, 10, {{1, "X"}, {4, "Y"}, {6, "Z"}}), b = hole("B", 1, 0, 12, {{2, "X"}, {5, "Z"}}),
         c = hole("C", 2, 0, 11, {{0.5, "X"}});
    a.blowCounts = {{Depth{1.2}, 8}, {Depth{4.8}, 30}};
    const auto holes = list({a, b, c});
    const auto sequenceXyz = sequence({"X", "Y", "Z"});
    const auto reading = readHoles(holes, sequenceXyz);
    using Kind = HoleValue::Kind;
    const auto of = [&](HoleValue v) { return valuesOf(v, holes, reading); };
    CHECK(of({Kind::FinalDepth})[0] == 6.0);
    CHECK(of({Kind::GroundLevel})[1] == 12.0);
    CHECK(of({Kind::DepthToUnit, 2})[0] == 4.0);
    CHECK_FALSE(of({Kind::DepthToUnit, 1})[1]);
    CHECK(of({Kind::UnitThickness, 1})[0] == 3.0);
    CHECK(of({Kind::UnitThickness, 1})[1] == 0.0); // logged down to an older unit: it is not there
    CHECK_FALSE(of({Kind::UnitThickness, 1})[2]);  // stopped above: nobody knows
    CHECK(of({Kind::BlowCount, 0, 5})[0] == 30.0);
    CHECK_FALSE(of({Kind::BlowCount, 0, 3})[0]);
    CHECK(words(HoleValue{Kind::BlowCount, 0, 7.5}, sequenceXyz) == "SPT N at 7.5 m");
}
