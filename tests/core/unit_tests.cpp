// Units: their colours, and what follows when one is removed or split.
#include "base/errors.h"
#include "fixtures.h"
#include "handover/interpretation_csv.h"
#include "model/ensemble.h"
#include "project/sequence_edits.h"
#include "project/surface_edits.h"
#include "sequence/proposal.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

Unit named(const std::string& name, const std::vector<Unit>& others) {
    Unit u;
    u.code = u.name = name;
    u.colour = proposedColour(name, others);
    return u;
}

/// Till over sand over till over rock in six holes, with something said of each.
Project tillOverSand() {
    Holes holes;
    for (int i = 0; i < 6; ++i)
        holes.push_back(hole("H" + std::to_string(i), i * 50.0, (i % 2) * 40.0, 30, {{4, "T"}, {6, "S"}, {10, "T"}, {14, "R"}}));
    Project p;
    p.holes = part(std::move(holes));
    auto s = sequence({"T", "S", "R"});
    std::vector<Unit> coloured;
    for (auto& u : s.units) u.colour = proposedColour("Till", coloured), coloured.push_back(u); // one tone for all
    p.sequence = part(std::move(s));
    return p;
}

} // namespace

TEST_CASE("No two units start with colours that can't be told apart", "[sequence][random]") {
    static const char* kNames[] = {"Made Ground", "Channel fill", "Topsoil", "Peat", "Alluvium", "Gravel", "Sand",    "Sandstone",
                                   "Upper Till",  "Lower Till",   "Till",    "Clay", "Silt",     "Rock",   "Whatever"};
    std::mt19937 random(GENERATE(range(1u, 31u)));
    std::vector<Unit> units;
    for (int i = 0; i < 15; ++i) units.push_back(named(kNames[random() % std::size(kNames)], units));
    for (std::size_t i = 0; i < units.size(); ++i)
        for (std::size_t k = i + 1; k < units.size(); ++k) {
            CAPTURE(units[i].name, units[i].colour, units[k].name, units[k].colour);
            CHECK(canBeToldApart(units[i].colour, units[k].colour));
        }
}

TEST_CASE("The longest word of a name decides its colour", "[sequence]") {
    CHECK(proposedColour("Sandstone", {}) != proposedColour("Sand", {}));
    CHECK(proposedColour("Fine SANDSTONE", {}) == proposedColour("sandstone", {}));
    CHECK(proposedColour("Mudstone", {}) == proposedColour("Grey mudstone", {}));
    CHECK(saysGround("Weathered Limestone"));
    CHECK_FALSE(saysGround("Formation 7"));
    CHECK(isColour(proposedColour("Formation 7", {})));
}

TEST_CASE("Colours are compared as CIE L*a*b* has them", "[sequence]") {
    CHECK_FALSE(canBeToldApart("#808080", "#808080"));
    CHECK_FALSE(canBeToldApart("#808080", "#828282"));
    // lightness of greys: #777777 is 50.0, #8b8b8b 57.9, #8d8d8d 58.7 (computed by hand from the definition)
    CHECK_FALSE(canBeToldApart("#777777", "#8b8b8b"));
    CHECK(canBeToldApart("#777777", "#8d8d8d"));
    CHECK(canBeToldApart("#ff0000", "#00ff00"));
}

TEST_CASE("Both parts of a split unit have a colour of their own", "[sequence]") {
    const auto p = tillOverSand();
    const auto proposal = proposeReading(*p.holes, *p.sequence, *p.interpretation);
    REQUIRE(proposal.splits.size() == 1);
    REQUIRE(proposal.splits[0].units.size() == 2);
    const auto& units = proposal.sequence.units;
    const auto at = [&](std::size_t k) { return units[*proposal.sequence.index(proposal.splits[0].units[k])]; };
    CHECK(canBeToldApart(at(0).colour, at(1).colour));
}

TEST_CASE("What was said of a code goes to the oldest part when it is split", "[sequence]") {
    auto p = tillOverSand();
    p = addGuide(p, "T", {{10, 10, 21}}).project;
    p = addFault(p, {{0, 0}, {100, 100}}, "T").project;
    p = fixBase(p, "T", {FixedBase::Origin::Frozen, "2026-11-28", std::make_shared<const Grid>([] {
                             Grid g(Frame{0, 0, 20, 20, 10});
                             std::ranges::fill(g.values, 3.0);
                             return g;
                         }())})
            .project;
    auto s = *p.sequence;
    s.units[2].crossing = {CrossingRemedy::Kind::Below, 0.5, "T"};
    s.units[1].recipe.against = "T";
    p.sequence = part(s);
    const auto proposal = proposeReading(*p.holes, *p.sequence, *p.interpretation);
    REQUIRE(proposal.splits.size() == 1);
    const auto oldest = proposal.splits[0].units.back();
    const auto edited = splitCodes(p, p.sequence, proposal);
    CHECK(edited.label == "Split T");
    const auto& split = edited.project;
    REQUIRE_FALSE(split.sequence->index("T"));
    CHECK(split.interpretation->guides.back().unit == oldest);
    CHECK(split.interpretation->faults.back().youngest == oldest);
    CHECK(split.fixedBases->contains(oldest));
    CHECK_FALSE(split.fixedBases->contains("T"));
    CHECK(split.sequence->units[*split.sequence->index("R")].crossing.unit == oldest);
    CHECK(split.sequence->units[*split.sequence->index("S")].recipe.against == oldest);
    // the proposal is of a sequence that has changed meanwhile
    const auto renamed = renameUnit(p, "S", "SA").project;
    CHECK_THROWS_WITH(splitCodes(renamed, p.sequence, proposal), Catch::Contains("has changed"));
}

TEST_CASE("Removing a unit says what goes with it, and hands its faults to the next older one", "[sequence]") {
    auto p = tillOverSand();
    p = addGuide(p, "S", {{10, 10, 21}}).project;
    p = addGuide(p, "S", {{20, 10, 21}}).project;
    p = addFault(p, {{0, 0}, {100, 100}}, "S").project;
    p = addFault(p, {{0, 50}, {100, 60}}, "T").project;
    auto s = *p.sequence;
    s.units[0].crossing = {CrossingRemedy::Kind::Above, 0.5, "S"};
    s.units[2].recipe.against = "S";
    p.sequence = part(s);
    const auto edited = removeUnit(p, "S");
    CHECK(edited.label
          == "Remove the unit S with 2 guides; T no longer keeps off its base, R is no longer measured from its base, fault F1 "
             "begins "
             "at the base of R");
    const auto& now = edited.project;
    CHECK(now.interpretation->guides.empty());
    CHECK(now.interpretation->faults[0].youngest == "R");
    CHECK(now.interpretation->faults[1].youngest == "T"); // not its own
    CHECK(now.sequence->units[0].crossing == CrossingRemedy{});
    CHECK(now.sequence->units[1].recipe.against.empty());
    // the oldest unit: a fault that stepped its base alone steps nothing any more
    const auto bottom = addFault(p, {{0, 80}, {100, 90}}, "R").project;
    const auto without = removeUnit(bottom, "R");
    CHECK(without.label.find("fault F3") != std::string::npos);
    CHECK(without.project.interpretation->faults.size() == 2);
    // nothing was said of it: nothing is said
    CHECK(removeUnit(tillOverSand(), "T").label == "Remove the unit T");
    CHECK_THROWS_AS(removeUnit(p, "ZZ"), Error);
}

TEST_CASE("A base without a level anywhere can't be kept", "[sequence]") {
    const auto p = tillOverSand();
    const auto none = std::make_shared<const Grid>(Frame{0, 0, 20, 20, 10});
    for (const auto& levels : {std::shared_ptr<const Grid>(), none})
        CHECK_THROWS_WITH(fixBase(p, "T", {FixedBase::Origin::Frozen, "2026-11-28", levels}),
                          Catch::Contains("no level to keep"));
}

TEST_CASE("A unit that was removed comes back where the logs have it, with a colour of its own", "[sequence]") {
    auto p = tillOverSand();
    p = removeUnit(p, "S").project;
    Unit back;
    back.code = "S", back.name = "Till";
    const auto again = addUnit(p, back, 1).project;
    for (std::size_t i = 0; i < 3; ++i)
        if (i != 1) CHECK(canBeToldApart(again.sequence->units[1].colour, again.sequence->units[i].colour));
}

TEST_CASE("A volume outside the range of its realisations is said, one inside it is not", "[model]") {
    const Range range{0.58e6, 0.7e6, 0.97e6};
    CHECK(range.contains(0.58e6));
    CHECK(range.contains(0.97e6));
    CHECK_FALSE(range.contains(0.39e6));
    CHECK_FALSE(range.contains(1e6));
    CHECK(Range{}.contains(5)); // no range: nothing to be outside of
    CHECK_FALSE(outsideRange("PT", 0.6e6, range));
    const auto finding = outsideRange("PT", 0.39e6, range);
    REQUIRE(finding);
    CHECK(finding->rule == "FC-RANGE");
    CHECK(finding->message.find("PT, 390000 m³") != std::string::npos);
    CHECK(finding->message.find("580000 to 970000 m³") != std::string::npos);
    const auto of = rangeOf({1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, kNoValue});
    CHECK(of.p10 == Approx(2));
    CHECK(of.p50 == Approx(6));
    CHECK(of.p90 == Approx(10));
}

TEST_CASE("The program's own table of units is known by its columns, in any order and case", "[handover]") {
    CHECK(isInterpretationCsv("hole,unit,top,base,kind\nQB101,TL,0,4,logged\n"));
    CHECK(isInterpretationCsv("Kind,Base,Top,Unit,Hole"));
    CHECK(isInterpretationCsv("hole;unit;top;base;kind;remark\r\n"));
    CHECK_FALSE(isInterpretationCsv("hole,unit,top,base\n")); // intervals of any table
    CHECK_FALSE(isInterpretationCsv("point,easting,northing,level,code\n"));
    CHECK_FALSE(isInterpretationCsv(""));
    CHECK_FALSE(isInterpretationCsv("\1\2\xff\xfe"));
}

TEST_CASE("Where nothing is logged nothing is matched: the audit says none, not all", "[model]") {
    CHECK(std::isnan(Audit{}.matchedFraction));
    Project p;
    Hole bare;
    bare.id = "bare", bare.easting = bare.northing = 5, bare.level = Level{10}, bare.finalDepth = Depth{6};
    Holes holes;
    holes.push_back(bare);
    p.holes = part(std::move(holes));
    p.sequence = part(sequence({"A", "B"}));
    GroundSources ground;
    ground.points.push_back(
        {"s.csv", std::vector<SurveyPoint>{{"1", {0, 0, 10}, ""}, {"2", {10, 0, 10}, ""}, {"3", {0, 10, 10}, ""}}, true});
    p.ground = part(std::move(ground));
    p.site = part(Site{"", Frame{0, 0, 10, 10, 1}, {}});
    const auto set = Products().of(p, {}, Wanted{ProductKind::Audit});
    if (set->audit) CHECK(std::isnan(set->audit->matchedFraction));
    // with one log it is a share again
    auto logged = tillOverSand();
    logged.site = part(Site{"", Frame{-10, -10, 300, 100, 10}, {}});
    const auto some = Products().of(logged, {}, Wanted{ProductKind::Audit});
    REQUIRE(some->audit);
    CHECK(some->audit->matchedFraction > 0);
    CHECK(some->audit->matchedFraction <= 1);
}
