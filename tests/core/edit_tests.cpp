// Every edit as what it is: a function of a project. It leaves the version it was made from alone, shares what it does not
// touch, comes back from the project file, and refuses in words what does not fit.
#include "fixtures.h"
#include "project/ground_edits.h"
#include "project/hole_edits.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "project/surface_edits.h"
#include "store/store.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// One bit a part, in the order of Project::parts().
enum Parts : unsigned {
    kSite = 1,
    kFiles = 2,
    kHoles = 4,
    kCorrections = 8,
    kCodeNames = 16,
    kGround = 32,
    kContours = 64,
    kPictures = 128,
    kSequence = 256,
    kInterpretation = 512,
    kFixedBases = 1024,
    kSections = 2048,
    kTrialColumns = 4096,
};

unsigned changedParts(const Project& a, const Project& b) {
    unsigned changed = 0, bit = 1;
    const auto compare = [&](const auto& one, const auto& other) {
        if (one != other) changed |= bit; // by address
        bit *= 2;
    };
    std::apply([&](const auto&... ones) { std::apply([&](const auto&... others) { (compare(ones, others), ...); }, b.parts()); },
               a.parts());
    return changed;
}

struct Case {
    const char* name;
    Edit::Make make;
    unsigned mayChange; ///< parts
};

fox::Unit named(const char* code) {
    fox::Unit unit;
    unit.code = unit.name = code;
    unit.colour = "#808080";
    return unit;
}

const Polygon2 kRing{{480200, 6120200}, {480900, 6120200}, {480900, 6120700}};

std::vector<Case> cases() {
    using U = GroundSources::Outline::Use;
    return {
        {"system", [](const Project& p) { return setSystem(p, "25832"); }, kSite},
        {"cell", [](const Project& p) { return setCell(p, 25); }, kSite},
        {"frame",
         [](const Project& p) {
             return setFrame(p, Frame{480000, 6120000, 481000, 6121000, 20});
         },
         kSite},
        {"no frame", [](const Project& p) { return setFrame(p, std::nullopt); }, kSite},
        {"site limit", [](const Project& p) { return setSiteLimit(p, kRing); }, kSite},
        {"no site limit", [](const Project& p) { return setSiteLimit(p, {}); }, kSite},
        {"level", [](const Project& p) { return setHoleLevel(p, "QB101", Level{33}); }, kHoles | kCorrections},
        {"place",
         [](const Project& p) {
             return setHolePlace(p, "QB123", {480500, 6120500});
         },
         kHoles | kCorrections},
        {"swap", [](const Project& p) { return swapPlace(p, "QB101"); }, kHoles | kCorrections},
        {"final depth", [](const Project& p) { return setFinalDepth(p, "R02", Depth{13}); }, kHoles | kCorrections},
        {"kind", [](const Project& p) { return setHoleKind(p, "R02", "TP"); }, kHoles | kCorrections},
        {"excluded", [](const Project& p) { return setExcluded(p, "R03", true); }, kHoles},
        {"code merged", [](const Project& p) { return mergeCode(p, "M.G.", "MG"); }, kSequence},
        {"unit name", [](const Project& p) { return setUnitName(p, "RG", "Gravel"); }, kSequence},
        {"unit colour", [](const Project& p) { return setUnitColour(p, "RG", "#123456"); }, kSequence},
        {"unit pattern", [](const Project& p) { return setUnitHatch(p, "RG", "sand"); }, kSequence},
        {"method", [](const Project& p) { return setMethod(p, "RG", Method::Linear); }, kSequence},
        {"base rule", [](const Project& p) { return setBaseRule(p, "AL", BaseRule::Laps); }, kSequence},
        {"reference", [](const Project& p) { return setReference(p, "TL", BaseReference::Depth); }, kSequence},
        {"crossing",
         [](const Project& p) {
             return setCrossing(p, "TL", {CrossingRemedy::Kind::Thickness, 0.5, ""});
         },
         kSequence},
        {"value", [](const Project& p) { return setUnitValue(p, "TL", "porosity", std::optional(0.3)); }, kSequence},
        {"kind of value", [](const Project& p) { return addUnitValueKind(p, "Stiffness", "MPa"); }, kSequence},
        {"order", [](const Project& p) { return moveUnit(p, "PT", 1); }, kSequence},
        {"unit added", [](const Project& p) { return addUnit(p, named("XX"), 2); }, kSequence},
        {"unit removed", [](const Project& p) { return removeUnit(p, "SL"); }, kSequence | kInterpretation | kFixedBases},
        {"unit renamed", [](const Project& p) { return renameUnit(p, "TL", "GT"); },
         kSequence | kInterpretation | kFixedBases | kCodeNames},
        {"no unit of an interval",
         [](const Project& p) {
             const auto& i = findHole(*p.holes, "R02")->intervals.front();
             return setIntervals(p, std::vector{DepthRange{"R02", i.top, i.base}}, "");
         },
         kInterpretation},
        {"pick", [](const Project& p) { return setPick(p, "R03", "AL", Depth{2.5}); }, kInterpretation},
        {"contact", [](const Project& p) { return setContactChoice(p, "R03", "RG", ContactChoice::Kind::AtOrBelow); },
         kInterpretation},
        {"guide",
         [](const Project& p) {
             return addGuide(p, "RG", {{480300, 6120300, 18}, {480500, 6120350, 17}});
         },
         kInterpretation},
        {"fault",
         [](const Project& p) {
             return addFault(p, {{480800, 6120000}, {481000, 6121000}}, "MW");
         },
         kInterpretation},
        {"section",
         [](const Project& p) {
             return addSection(p, {{480100, 6120100}, {481300, 6120800}});
         },
         kSections},
        {"no section", [](const Project& p) { return removeSection(p, "B"); }, kSections},
        {"section renamed", [](const Project& p) { return renameSection(p, "A", "North"); }, kSections},
        {"section's holes", [](const Project& p) { return setSectionReach(p, "A", 60); }, kSections},
        {"predicted log",
         [](const Project& p) {
             return addTrialColumn(p, {480700, 6120400});
         },
         kTrialColumns},
        {"outline", [](const Project& p) { return addOutline(p, "pond", kRing, U::Island); }, kGround},
        {"source", [](const Project& p) { return setSourceUsed(p, "breaklines.gpkg", GroundPart::Lines, false); }, kGround},
        {"source removed", [](const Project& p) { return removeSource(p, "breaklines.gpkg"); }, kGround | kFiles},
        {"code", [](const Project& p) { return setCodeUsed(p, "RD", false); }, kGround},
        {"codes joined", [](const Project& p) { return setCodeJoined(p, "TB", true); }, kGround},
        {"holes' levels", [](const Project& p) { return setHoleLevels(p, false); }, kGround},
        {"flats", [](const Project& p) { return setMendFlats(p, !p.ground->mendFlats); }, kGround},
        {"cut", [](const Project& p) { return setCutAtOutlines(p, true); }, kGround},
        {"longest edge", [](const Project& p) { return setLongestEdge(p, 150); }, kGround},
        {"blend", [](const Project& p) { return setBlend(p, 40); }, kGround},
        {"point left out",
         [](const Project& p) {
             return mend(p, {TinEdit::Kind::SetLevel, {480500, 6120500}, {}, 30});
         },
         kGround},
        {"contours", [](const Project& p) { return changeContours(p, [](ContourChoices& c) { c.interval = 0.5; }); }, kContours},
    };
}

} // namespace

TEST_CASE("An edit leaves its version alone and changes no part that it is not about", "[edits]") {
    const auto& before = demo().project;
    const auto copy = before;
    for (const auto& c : cases()) {
        CAPTURE(c.name);
        const auto first = c.make(before), again = c.make(before);
        CHECK_FALSE(first.label.empty());
        CHECK(sameValue(first.project, again.project)); // it has no memory
        CHECK(first.label == again.label);
        const auto changed = changedParts(before, first.project);
        CHECK(changed != 0);
        CHECK((changed & ~c.mayChange) == 0);
        CHECK_FALSE(sameValue(before, first.project));
        CHECK(sameVersion(before, copy));
    }
}

TEST_CASE("An edit comes back from the project file as it was made, and so does its undo", "[edits][store]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    const auto& before = demo().project;
    ProjectStore::create(path, before);
    auto store = ProjectStore::open(path);
    for (const auto& c : cases()) {
        CAPTURE(c.name);
        const auto after = c.make(before).project;
        store.save(after);
        Findings findings;
        CHECK(sameValue(ProjectStore::read(path, findings), after));
        CHECK(findings.empty());
    }
    store.save(before);
    CHECK(sameValue(ProjectStore::read(path), before));
}

TEST_CASE("Edits one after another, in any order, are those of the newest version", "[edits][random]") {
    const auto& start = demo().project;
    const auto all = cases();
    std::mt19937 random(11);
    for (int round = 0; round < 12; ++round) {
        History history(start);
        auto replayed = start;
        int made = 0;
        for (int step = 0; step < 20; ++step) {
            const auto& c = all[random() % all.size()];
            try {
                auto edited = c.make(history.now());
                replayed = edited.project;
                history.add(std::move(edited));
                ++made;
            } catch (const Error& e) { // what was there is gone: said, and nothing changed
                CHECK(std::string_view(e.what()).size() > 10);
                CHECK(sameVersion(history.now(), replayed));
            }
        }
        CHECK(made > 0);
        while (history.canUndo()) history.undo();
        CHECK(sameVersion(history.now(), start));
        while (history.canRedo()) history.redo();
        CHECK(sameVersion(history.now(), replayed));
    }
}

TEST_CASE("Edits of what is not there are refused in a sentence that names it", "[edits]") {
    const auto& p = demo().project;
    const std::vector<std::pair<const char*, Edit::Make>> wrong{
        {"XB1", [](const Project& q) { return setHoleLevel(q, "XB1", Level{3}); }},
        {"XB1",
         [](const Project& q) {
             return setHolePlace(q, "XB1", {3, 4});
         }},
        {"XB1", [](const Project& q) { return setExcluded(q, "XB1", true); }},
        {"XB1", [](const Project& q) { return setPick(q, "XB1", "RG", Depth{1}); }},
        {"ZZ", [](const Project& q) { return setUnitName(q, "ZZ", "Nothing"); }},
        {"ZZ", [](const Project& q) { return setMethod(q, "ZZ", Method::Linear); }},
        {"ZZ", [](const Project& q) { return removeUnit(q, "ZZ"); }},
        {"ZZ", [](const Project& q) { return setUnitValue(q, "ZZ", "porosity", 0.2); }},
        {"TS", [](const Project& q) { return renameUnit(q, "MG", "TS"); }},
        {"TS", [](const Project& q) { return addUnit(q, named("TS"), 0); }},
        {"Nowhere", [](const Project& q) { return removeSection(q, "Nowhere"); }},
        {"Nowhere", [](const Project& q) { return removeTrialColumn(q, "Nowhere"); }},
        {"EPSG:4326", [](const Project& q) { return setSystem(q, "EPSG:4326"); }},
        {"corners",
         [](const Project& q) {
             return setSiteLimit(q, {{0, 0}, {1, 1}});
         }},
        {"corners",
         [](const Project& q) {
             return setSiteLimit(q, {{0, 0}, {1, 1}, {2, 2}});
         }},
    };
    for (const auto& [words, make] : wrong) {
        CAPTURE(words);
        CHECK_THROWS_WITH(make(p), Catch::Contains(words));
    }
}

TEST_CASE("Many intervals given their unit at once are as if given one after another", "[edits][random]") {
    auto p = demo().project;
    std::mt19937 random(5);
    const std::vector<std::optional<std::string>> units{"RG", "TL", "", std::nullopt};
    for (int round = 0; round < 20; ++round) {
        std::vector<DepthRange> some;
        for (int i = 0; i < 6; ++i) {
            const auto names = displayNames(*p.holes);
            const auto at = random() % names.size();
            const auto& intervals = (*p.holes)[at].intervals;
            if (intervals.empty()) continue;
            const auto& interval = intervals[random() % intervals.size()];
            some.push_back({names[at], interval.top, interval.base});
        }
        const auto& unit = units[random() % units.size()];
        auto one = p;
        for (const auto& s : some) one = setIntervals(one, std::vector{s}, unit).project;
        const auto all = setIntervals(p, some, unit).project;
        const auto sorted = [](std::vector<IntervalChoice> choices) {
            std::ranges::sort(choices, {},
                              [](const IntervalChoice& c) { return std::tuple(c.hole, c.top.metres, c.base.metres, c.unit); });
            return choices;
        };
        CHECK(sorted(all.interpretation->intervals) == sorted(one.interpretation->intervals));
        p = all;
    }
    CHECK(p.interpretation->intervals.size() > 5);
    CHECK_THROWS_WITH(setIntervals(p, std::vector{DepthRange{"XB1", Depth{0}, Depth{1}}}, std::nullopt), Catch::Contains("XB1"));
}

TEST_CASE("No ground and no model lie outside the site limit", "[edits][ground]") {
    const auto& before = demo().project;
    const auto limited = Products().of(setSiteLimit(before, kRing).project);
    int inside = 0, outside = 0;
    for (double x = 480050; x < 481500; x += 50)
        for (double y = 6120050; y < 6121000; y += 50) {
            const auto level = limited->terrain->levelAt({x, y});
            // a metre off the ring, so that its rounding does not matter
            bool near = false;
            for (std::size_t i = 0; i < kRing.size(); ++i) {
                const auto &a = kRing[i], &b = kRing[(i + 1) % kRing.size()];
                near |= std::abs((b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x)) < std::hypot(b.x - a.x, b.y - a.y);
            }
            if (near) continue;
            CHECK(level.has_value() == contains(kRing, {x, y}));
            ++(contains(kRing, {x, y}) ? inside : outside);
        }
    CHECK(inside > 20);
    CHECK(outside > 200);
    const double ring = 700.0 * 500 / 2;
    const double cell = limited->frame->cell;
    CHECK(limited->volumes->area == Approx(ring).margin(3 * 2000 * cell));
}

TEST_CASE("A cell that is corrected again stands last in the trail, with what was done last", "[project]") {
    auto p = demo().project;
    p = setHoleLevel(p, "QB101", Level{31.5}).project;
    p = setHoleLevel(p, "QB102", Level{30.5}).project;
    REQUIRE(p.corrections->size() == 2);
    CHECK(p.corrections->back().hole == "QB102");
    const auto original = p.corrections->front().before;
    const auto again = changeHoles(p, {{"QB101", [](Hole& h) { h.level = Level{33}; }}}, "Levels from the new survey").project;
    REQUIRE(again.corrections->size() == 2);
    CHECK(again.corrections->back().hole == "QB101");
    CHECK(again.corrections->back().why == "Levels from the new survey");
    CHECK(again.corrections->back().after == "33.00");
    CHECK(again.corrections->back().before == original); // what the contractor wrote
    // back to what was in the file: no correction any more
    const auto back = setHoleLevel(again, "QB101", Level{std::stod(original)}).project;
    REQUIRE(back.corrections->size() == 1);
    CHECK(back.corrections->front().hole == "QB102");
}
