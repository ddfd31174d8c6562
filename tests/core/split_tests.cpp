// Logged intervals that are parted: what follows from it, in every place that reads a log.
#include "base/errors.h"
#include "fixtures.h"
#include "handover/ags_export.h"
#include "handover/export_files.h"
#include "handover/interpretation_csv.h"
#include "project/interval_edits.h"
#include "project/sequence_edits.h"
#include "sequence/interval_parts.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// Four holes in which one code C stands for what is really U over L; the ground is level at 30.
Project clays() {
    Project p;
    Holes holes{hole("A", 20, 20, 30, {{2, "S"}, {10, "C"}, {14, "R"}}), hole("B", 180, 20, 30, {{2, "S"}, {10, "C"}, {14, "R"}}),
                hole("C", 20, 180, 30, {{2, "S"}, {6, "U"}, {10, "L"}, {14, "R"}}),
                hole("D", 180, 180, 30, {{2, "S"}, {6, "U"}, {10, "L"}, {14, "R"}})};
    for (int i = 0; i < 2; ++i) {
        auto h = holes[std::size_t(i)];
        h.intervals[1].description = "Firm CLAY";
        h.intervals[1].line = 42;
    }
    giveNames(holes);
    p.holes = part(std::move(holes));
    auto s = sequence({"S", "U", "L", "R"});
    s.units[2].logged = {"L", "C"};
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("0 0 30, 200 0 30, 200 200 30, 0 200 30"));
    p.site = part(Site{"", Frame{0, 0, 200, 200, 20}, {}});
    return p;
}

std::vector<std::string> units(const Project& p, const std::string& hole) {
    const auto read = readHoles(*p.holes, *p.sequence, *p.interpretation);
    std::vector<std::string> out;
    for (const auto& h : read.holes)
        if (h.name == hole)
            for (const auto& i : h.intervals)
                out.push_back(fmt::format("{} {:g}-{:g}", p.sequence->units[i.unit].code, i.top.metres, i.base.metres));
    return out;
}

const Contact* contactIn(const std::vector<Contact>& all, const std::string& hole) {
    const auto at = std::ranges::find(all, hole, &Contact::hole);
    return at == all.end() ? nullptr : &*at;
}

} // namespace

TEST_CASE("A log is parted at depths within its intervals and nowhere else", "[split]") {
    const auto log = hole("H", 0, 0, 0, {{2, "S"}, {10, "C"}}).intervals;
    CHECK(partsOf(log, {}).empty());
    std::vector<Depth> lost;
    const auto parts = partsOf(log, {Depth{7}, Depth{2}, Depth{4}, Depth{12}}, &lost);
    REQUIRE(parts.size() == 4);
    CHECK(parts[1].base == Depth{4});
    CHECK(parts[2].top == Depth{4});
    CHECK(parts[2].base == Depth{7});
    CHECK(parts[3].base == Depth{10});
    for (std::size_t k = 1; k < 4; ++k) CHECK(parts[k].codes == log[1].codes);
    CHECK(lost == std::vector{Depth{2}, Depth{12}}); // a boundary, and below the log
    CHECK(partsOf({}, {Depth{1}}, &lost).empty());
}

TEST_CASE("Any splits leave the logged length and cover it without gaps", "[split][random]") {
    const auto seed = GENERATE(range(1u, 41u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> depth(-1, 13);
    const auto log = hole("H", 0, 0, 0, {{2, "S"}, {5, "C"}, {12, "R"}}).intervals;
    std::vector<Depth> splits;
    for (unsigned k = 0; k < seed % 9; ++k) splits.push_back({depth(random)});
    std::vector<Depth> lost;
    auto parts = partsOf(log, splits, &lost);
    if (parts.empty()) parts = log;
    CHECK(parts.size() == log.size() + splits.size() - lost.size());
    CHECK(parts.front().top == Depth{0});
    CHECK(parts.back().base == Depth{12});
    for (std::size_t k = 0; k + 1 < parts.size(); ++k) CHECK(parts[k].base == parts[k + 1].top);
    for (const auto& i : parts) CHECK(i.base > i.top);
}

TEST_CASE("The parts of a split interval are of different units in readings, contacts, model, audit and files", "[split]") {
    auto p = clays();
    CHECK(units(p, "A") == std::vector<std::string>{"S 0-2", "L 2-10", "R 10-14"});
    const auto e = splitInterval(p, "A", Depth{5.504}, "U", "L");
    CHECK(e.label == "A: split at 5.50 m, U above, L below");
    p = splitInterval(e.project, "B", Depth{6}, "U").project; // below: as its code
    CHECK(units(p, "A") == std::vector<std::string>{"S 0-2", "U 2-5.5", "L 5.5-10", "R 10-14"});
    CHECK(units(p, "B") == std::vector<std::string>{"S 0-2", "U 2-6", "L 6-10", "R 10-14"});
    const auto set = Products().of(p);
    const auto* contact = contactIn(*set->contacts[1], "A");
    REQUIRE(contact);
    CHECK(contact->kind == ContactKind::Observed);
    CHECK(contact->place.z == Approx(24.5));
    CHECK(set->model->columnAt({20, 20}).bases[1] == Approx(24.5).margin(0.01));
    CHECK(set->audit->matchedFraction == Approx(1).margin(1e-6));
    const auto section = makeSection(*set->model, *set->reading, {{0, 20}, {200, 20}}, 10);
    REQUIRE(section.holes.size() == 2);
    CHECK(section.holes[0].sticks.size() == 4);
    const auto csv = interpretationCsv(*set);
    CHECK(csv.find("A,U,2.00,5.50,by hand") != csv.npos);
    CHECK(csv.find("B,L,6.00,10.00,logged") != csv.npos);
    const TemporaryFolder folder;
    exportFiles(*set, "interpretation", "ags", folder.path());
    const auto ags = readBytes(folder / "interpretation.ags");
    CHECK(ags.find("\"DATA\",\"A\",\"2.00\",\"5.50\"") != ags.npos);
    CHECK(ags.find("\"DATA\",\"A\",\"5.50\",\"10.00\"") != ags.npos);
}

TEST_CASE("A split moves with the units of its parts, and goes again", "[split]") {
    auto p = splitInterval(clays(), "A", Depth{5}, "U", "L").project;
    const auto moved = moveSplit(p, "A", Depth{5}, Depth{6.25});
    CHECK(moved.label == "A: split at 6.25 m instead of 5.00 m");
    CHECK(units(moved.project, "A") == std::vector<std::string>{"S 0-2", "U 2-6.25", "L 6.25-10", "R 10-14"});
    CHECK_THROWS_WITH(moveSplit(p, "A", Depth{5}, Depth{10}), Catch::Contains("between the boundaries"));
    CHECK_THROWS_WITH(moveSplit(p, "A", Depth{7}, Depth{8}), "A is not split at 7.00 m.");
    const auto gone = removeSplit(moved.project, "A", Depth{6.25}).project;
    CHECK(gone.interpretation->splits.empty());
    CHECK(units(gone, "A") == std::vector<std::string>{"S 0-2", "U 2-10", "R 10-14"}); // what the upper part was
    CHECK_THROWS_WITH(splitInterval(p, "A", Depth{2}), Catch::Contains("no logged interval that goes through 2.00 m"));
    CHECK_THROWS_WITH(splitInterval(p, "A", Depth{99}), Catch::Contains("no logged interval"));
    CHECK_THROWS_WITH(splitInterval(p, "X", Depth{5}), "There is no hole X.");
    CHECK_THROWS_WITH(splitInterval(p, "A", Depth{7}, "Z"), "There is no unit Z in the sequence.");
}

TEST_CASE("A choice for the whole interval holds for both parts until one is chosen", "[split]") {
    auto p = setIntervals(clays(), std::vector<DepthRange>{{"A", Depth{2}, Depth{10}}}, std::string("U")).project;
    p = splitInterval(p, "A", Depth{4}, {}, "L").project;
    CHECK(units(p, "A") == std::vector<std::string>{"S 0-2", "U 2-4", "L 4-10", "R 10-14"});
    p = splitInterval(p, "A", Depth{7}).project; // a part is parted again
    CHECK(p.interpretation->splits.size() == 2);
    CHECK(units(p, "A") == std::vector<std::string>{"S 0-2", "U 2-4", "L 4-10", "R 10-14"});
}

TEST_CASE("Splits are kept in the project file and follow a hole's new name; one that fits no more is a finding", "[split]") {
    auto p = splitInterval(clays(), "A", Depth{5}, "U", "L").project;
    p.interpretation = part([&] {
        auto own = *p.interpretation;
        own.presence = {{"U", {{50, 60}}, true}, {"L", {{0, 0}, {50, 0}, {50, 50}}, false}};
        return own;
    }());
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", p);
    Findings findings;
    const auto back = ProjectStore::read(folder / "p.gpkg", findings);
    CHECK(*back.interpretation == *p.interpretation);
    const auto renamed = setHoleName(p, "A", "A1").project;
    CHECK(units(renamed, "A1") == units(p, "A"));
    auto shorter = p;
    auto holes = *p.holes;
    holes.change(0).intervals[1].base = holes.change(0).intervals[2].top = Depth{4};
    shorter.holes = part(std::move(holes));
    const auto read = readHoles(*shorter.holes, *shorter.sequence, *shorter.interpretation);
    // not lost: it parts what lies there now
    CHECK(read.findings.size() == 2);
    holes = *p.holes;
    holes.change(0).intervals.resize(1);
    shorter.holes = part(std::move(holes));
    CHECK(mentions(readHoles(*shorter.holes, *shorter.sequence, *shorter.interpretation).findings, "FC-CHOICE",
                   "was split at 5.00 m"));
}

TEST_CASE("The table of units brings splits into another copy of the project", "[split]") {
    const auto split = splitInterval(clays(), "A", Depth{5}, "U", "L").project;
    const auto csv = interpretationCsv(*Products().of(split, {}, {ProductKind::Audit}));
    const auto taken = importInterpretation(clays(), csv, "units.csv");
    CHECK(taken.findings.empty());
    CHECK(taken.intervals == 1);
    CHECK(units(taken.edited.project, "A") == units(split, "A"));
    const auto again = importInterpretation(taken.edited.project, csv, "units.csv");
    CHECK(again.intervals == 0);
    CHECK(again.edited.project.interpretation->splits == taken.edited.project.interpretation->splits);
}

TEST_CASE("A build file splits intervals and marks presence, and says what does not fit", "[split]") {
    const TemporaryFolder folder;
    folder.write("h.csv",
                 "hole,easting,northing,level,top,base,geology\nA,20,20,30,0,2,S\nA,20,20,30,2,10,C\nA,20,20,30,10,14,R\n");
    const auto build = [&](const std::string& more) {
        return buildProject(folder.write(
            "b.json", R"({"format":"fox-cellar-build","version":1,"holes":[{"file":"h.csv"}],)"
                      R"("sequence":[{"code":"S"},{"code":"U"},{"code":"L","logged":["C"]},{"code":"R","floor":{"level":-5},)"
                      R"("logging_accuracy":0.1}],)"
                          + more + "}"));
    };
    const auto built = build(R"("splits":[{"hole":"A","depth":4.2,"above":"U","below":"L"}],)"
                             R"("presence_points":[{"unit":"U","at":[100,100],"present":false}],)"
                             R"("presence_areas":[{"unit":"L","ring":[[0,0],[10,0],[10,10]]}])");
    CHECK(units(built.project, "A") == std::vector<std::string>{"S 0-2", "U 2-4.2", "L 4.2-10", "R 10-14"});
    const std::vector<PresenceMark> expected{{"U", {{100, 100}}, false}, {"L", {{0, 0}, {10, 0}, {10, 10}}, true}};
    CHECK(built.project.interpretation->presence == expected);
    CHECK(built.project.sequence->units.back().floor == UnitFloor{UnitFloor::From::Datum, -5});
    CHECK(built.project.sequence->units.back().loggingAccuracy == 0.1);
    CHECK_THROWS_WITH(build(R"("splits":[{"hole":"A","depth":40}])"), Catch::Contains("no logged interval"));
    CHECK_THROWS_WITH(build(R"("presence_points":[{"unit":"X","at":[1,2]}])"), Catch::Contains("no unit X"));
}
