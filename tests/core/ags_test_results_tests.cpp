// Tests in the ground, soundings, results of the laboratory and water, as AGS files have them.
#include "ags_fixtures.h"
#include "base/measure_unit.h"
#include "fixtures.h"
#include "formats/ags.h"
#include "holes/ags_holes.h"
#include "holes/soundings.h"
#include "project/sequence_edits.h"

#include <catch2/catch.hpp>
#include <random>

using namespace fox;
using namespace fox::test;

namespace {

AgsHoles read(const std::vector<AgsGroupText>& groups) {
    auto all = groups;
    all.insert(all.begin(), oneHole());
    return holesOf(readAgs(ags4(all), "site.ags"));
}

AgsHoles read3(const std::vector<AgsGroupText>& groups) {
    auto all = groups;
    all.insert(all.begin(),
               {"HOLE", "HOLE_ID|HOLE_NATE|HOLE_NATN|HOLE_GL|HOLE_FDEP", "|m|m|m|m", "", {"BH1|480500|6120500|30|20"}});
    return holesOf(readAgs(ags3(all), "site.ags"));
}

std::vector<BlowCount> blows(const std::string& headings, const std::vector<std::string>& rows) {
    return read({{"ISPT", "LOCA_ID|ISPT_TOP|" + headings, "", "", rows}}).holes[0].blowCounts;
}

const Curve* curve(const Hole& hole, std::string_view name, std::string_view push = "") {
    for (const auto& c : hole.curves)
        if (c.name == name && c.push == push) return &c;
    return nullptr;
}

} // namespace

TEST_CASE("A standard penetration test is read with all that is said of it", "[ags][spt]") {
    const auto tests =
        blows("ISPT_SEAT|ISPT_MAIN|ISPT_NPEN|ISPT_NVAL|ISPT_REP|ISPT_CAS|ISPT_WAT|ISPT_TYPE|ISPT_ERAT|ISPT_INC1|ISPT_INC2|"
              "ISPT_INC3|ISPT_INC4|ISPT_INC5|ISPT_INC6",
              {"BH1|1.50|7|23|300|23|N=23|1.50|dry|S|72|3|4|5|6|6|6"});
    REQUIRE(tests.size() == 1);
    const auto& t = tests[0];
    CHECK(t.depth.metres == 1.5);
    CHECK(t.blows == 23);
    CHECK_FALSE(t.refused());
    CHECK(t.seating.size() == 2);
    CHECK(t.main.size() == 4);
    CHECK(t.type == "S");
    CHECK(t.casing->metres == 1.5);
    CHECK_FALSE(t.water); // "dry"
    CHECK(*t.n60() == Approx(23 * 72.0 / 60));
    CHECK(words(t) == "23");
    CHECK(t.forWholeDrive() == 23);
}

TEST_CASE("Refusals are kept as blows and penetration, however they are written", "[ags][spt]") {
    const struct {
        const char *headings, *row;
        double blows, penetration;
        const char* words;
    } kWritten[] = {{"ISPT_MAIN|ISPT_NPEN", "50|75", 50, 75, "50/75"},
                    {"ISPT_NVAL", "50/75", 50, 75, "50/75"},
                    {"ISPT_NVAL", "50 / 120mm", 50, 120, "50/120"},
                    {"ISPT_REP", "25,25/50 for 75mm", 0, 0, ""}, // says more than one thing: no test
                    {"ISPT_REP", "50 for 75mm", 50, 75, "50/75"},
                    {"ISPT_NVAL", ">50", 50, 0, ">50"},
                    {"ISPT_NVAL|ISPT_MAIN|ISPT_NPEN", "50|50|225", 50, 225, "50/225"},
                    {"ISPT_INC3|ISPT_INC4|ISPT_PEN3|ISPT_PEN4", "30|20|75|40", 50, 115, "50/115"}};
    for (const auto& w : kWritten) {
        CAPTURE(w.headings, w.row);
        const auto tests = blows(w.headings, {std::string("BH1|3.00|") + w.row});
        if (!*w.words) {
            CHECK(tests.empty());
            continue;
        }
        REQUIRE(tests.size() == 1);
        CHECK(tests[0].refused());
        CHECK(tests[0].blows == w.blows);
        CHECK(*tests[0].penetration == w.penetration);
        CHECK(words(tests[0]) == w.words);
        CHECK_FALSE(tests[0].n60());
    }
    BlowCount stopped;
    stopped.blows = 50, stopped.penetration = 75;
    CHECK(stopped.forWholeDrive() == 200); // only on request
}

TEST_CASE("N comes from the increments where it is blank", "[ags][spt]") {
    const auto tests = blows("ISPT_NVAL|ISPT_INC1|ISPT_INC2|ISPT_INC3|ISPT_INC4|ISPT_INC5|ISPT_INC6",
                             {"BH1|2.00||1|2|3|4|5|6", "BH1|4.00||1|2|3||5|6"});
    REQUIRE(tests.size() == 1); // three increments are no whole drive
    CHECK(tests[0].blows == 18);
}

TEST_CASE("A cone penetration test has a log for each push, in one unit a track", "[ags][cone]") {
    const auto hole =
        read({{"SCPG", "LOCA_ID|SCPG_TESN|SCPG_TYPE|SCPG_CAR|SCPG_WAT", "||||m", "", {"BH1|1|PC|0.75|2.00", "BH1|1A|PC|0.80|"}},
              {"SCPT",
               "LOCA_ID|SCPG_TESN|SCPT_DPTH|SCPT_RES|SCPT_FRES|SCPT_PWP2",
               "||m|MN/m2|kPa|MPa",
               "",
               {"BH1|1|0.02|1.5|20|0.01", "BH1|1|0.04|2.5|25|0.02", "BH1|1A|0.02|9|90|0.03"}}})
            .holes[0];
    REQUIRE(hole.soundings.size() == 2);
    CHECK(hole.soundings[0].push == "1");
    CHECK(*hole.soundings[0].areaRatio == 0.75);
    CHECK(hole.soundings[0].water->metres == 2);
    const auto* qc = curve(hole, "cone resistance", "1");
    REQUIRE(qc);
    CHECK(qc->unit == "MPa");
    CHECK(qc->readings->size() == 2);
    CHECK((*qc->readings)[1].value == 2.5);
    CHECK_FALSE(qc->single);
    CHECK((*curve(hole, "sleeve friction", "1")->readings)[0].value == 20);
    CHECK((*curve(hole, "pore pressure u2", "1")->readings)[1].value == Approx(20));
    CHECK((*curve(hole, "cone resistance", "1A")->readings)[0].value == 9);
}

TEST_CASE("Edition 3 soundings are continuous too, and a unit that can't be turned is said", "[ags][cone][edition3]") {
    const auto found =
        read3({{"STCN", "HOLE_ID|STCN_DPTH|STCN_RES|STCN_FRES", "|m|MN/m2|kN/m2", "", {"BH1|0.02|1.5|20", "BH1|0.04|2.5|25"}}});
    REQUIRE(curve(found.holes[0], "cone resistance", "1"));
    CHECK_FALSE(curve(found.holes[0], "cone resistance", "1")->single);
    CHECK(found.holes[0].soundings.size() == 1);
    const auto odd = read3({{"STCN", "HOLE_ID|STCN_DPTH|STCN_RES", "|m|furlong", "", {"BH1|0.02|1.5"}}});
    CHECK(mentions(odd.findings, "FC-UNIT", "furlong"));
}

TEST_CASE("Dynamic probing is blows for a hundred millimetres", "[ags][probing]") {
    const auto hole =
        read(
            {{"DPRB", "LOCA_ID|DPRG_TESN|DPRB_DPTH|DPRB_BLOW|DPRB_INC", "||m||mm", "", {"BH1|1|0.10|3|100", "BH1|1|0.20|8|200"}}})
            .holes[0];
    const auto* probing = curve(hole, "dynamic probing", "1");
    REQUIRE(probing);
    CHECK((*probing->readings)[0].value == 3);
    CHECK((*probing->readings)[1].value == 4);
    CHECK(probing->unit == "blows per 100 mm");
}

TEST_CASE("Results keep their signs and words, and are in one unit", "[ags][results]") {
    const auto hole = read({{"SAMP", "LOCA_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE|SAMP_ID", "|m|||", "", {"BH1|3.00|1|D|S9"}},
                            {"LLPL",
                             "LOCA_ID|SAMP_TOP|SPEC_DPTH|LLPL_LL|LLPL_PL|LLPL_PI",
                             "|m|m|%|%|%",
                             "",
                             {"BH1|2.00|2.10|45|20|25", "BH1|4.00||30|NP|NP"}},
                            {"RUCS", "LOCA_ID|SAMP_ID|RUCS_UCS", "||kPa", "", {"BH1|S9|12500"}},
                            {"IVAN", "LOCA_ID|IVAN_DPTH|IVAN_IVAN", "|m|kN/m2", "", {"BH1|1.50|>120", "BH1|1.00|35"}}})
                          .holes[0];
    const auto* plastic = curve(hole, "plastic limit");
    REQUIRE(plastic);
    CHECK(plastic->single);
    REQUIRE(plastic->readings->size() == 2);
    CHECK((*plastic->readings)[0].depth == Approx(2.1)); // of the specimen
    CHECK(std::isnan((*plastic->readings)[1].value));
    REQUIRE(plastic->written.size() == 1);
    CHECK(plastic->written[0] == Curve::Written{1, "NP"});
    const auto* strength = curve(hole, "uniaxial compressive strength");
    REQUIRE(strength);
    CHECK((*strength->readings)[0].value == Approx(12.5)); // MPa
    CHECK((*strength->readings)[0].depth == 3);            // of the sample, by its id
    const auto* vane = curve(hole, "vane strength");
    REQUIRE(vane);
    CHECK((*vane->readings)[0].depth == 1);
    CHECK((*vane->readings)[1].value == 120);
    CHECK(vane->written == std::vector<Curve::Written>{{1, ">120"}});
}

TEST_CASE("Chemistry is told by what was looked for, below detection kept as such", "[ags][chemistry]") {
    const auto hole =
        read({{"ERES",
               "LOCA_ID|SAMP_TOP|ERES_CODE|ERES_NAME|ERES_RVAL|ERES_RUNI|ERES_RTXT",
               "|m|||||",
               "",
               {"BH1|1.00|AS|Arsenic|12|mg/kg|12", "BH1|2.00|AS|Arsenic|500|ug/kg|<500", "BH1|1.00|PH|pH|7.2||7.2"}},
              {"GCHM", "LOCA_ID|SAMP_TOP|GCHM_CODE|GCHM_RESL|GCHM_UNIT", "|m|||", "", {"BH1|1.00|WS|0.25|g/l"}}})
            .holes[0];
    const auto* arsenic = curve(hole, "Arsenic");
    REQUIRE(arsenic);
    CHECK(arsenic->unit == "mg/kg");
    CHECK((*arsenic->readings)[1].value == Approx(0.5));
    CHECK(arsenic->written == std::vector<Curve::Written>{{1, "<500"}});
    REQUIRE(curve(hole, "pH"));
    REQUIRE(curve(hole, "WS"));
    CHECK(curve(hole, "WS")->unit == "g/l");
}

TEST_CASE("Units of measure turn into one another, and never into another measure", "[base][units]") {
    CHECK(*measureFactor("MPa", "kPa") == 1000);
    CHECK(*measureFactor("MN/m\xC2\xB2", "MPa") == 1);
    CHECK(*measureFactor("kN/m2", "kPa") == 1);
    CHECK(*measureFactor("Mg/m3", "kg/m3") == Approx(1000));
    CHECK(*measureFactor("\xC2\xB5g/l", "mg/l") == Approx(0.001));
    CHECK(*measureFactor("m/day", "m/s") == Approx(1 / 86400.0));
    CHECK(*measureFactor("odd", "odd") == 1);
    CHECK_FALSE(measureFactor("kPa", "%"));
    CHECK_FALSE(measureFactor("", "kPa"));
}

TEST_CASE("Readings of monitoring points become depths to water", "[ags][water]") {
    const AgsGroupText points{"MONG", "LOCA_ID|MONG_ID|MONG_DIS|MONG_TRZ|MONG_BRZ", "||m|m|m", "", {"BH1|P1|12.00|10.00|12.00"}};
    const AgsGroupText words{"ABBR",
                             "ABBR_HDNG|ABBR_CODE|ABBR_DESC",
                             "",
                             "",
                             {"MOND_TYPE|XLEV|Water level to datum", "MOND_TYPE|XHD|Head over instrument"}};
    const auto hole = read({points,
                            words,
                            {"MOND",
                             "LOCA_ID|MONG_ID|MONG_DIS|MOND_DTIM|MOND_TYPE|MOND_RDNG|MOND_UNIT",
                             "||m||||",
                             "",
                             {"BH1|P1|12.00|2026-01-01T10:00:00|WDEP|3.20|m", "BH1|P1|12.00|2026-02-01T10:00:00|XLEV|26.50|m",
                              "BH1|P1|12.00|2026-03-01T10:00:00|PRES|98.1|kPa", "BH1|P1|12.00|2026-04-01T10:00:00|XHD|4|m",
                              "BH1|P1|12.00|2026-05-01T10:00:00|WDEP|Dry|m", "BH1|P1|12.00|2026-06-01T10:00:00|GASF|5|%"}}})
                          .holes[0];
    REQUIRE(hole.waterLevels.size() == 5);
    const auto depth = [&](std::size_t i) { return hole.waterLevels[i].depth.metres; };
    CHECK(depth(0) == 3.2);
    CHECK(depth(1) == Approx(3.5)); // level 26.5 in a hole at 30
    CHECK(depth(2) == Approx(2.0)); // 10 m of water over the tip at 12 m
    CHECK(depth(3) == Approx(8.0));
    CHECK(hole.waterLevels[4].dry);
    CHECK(depth(4) == 12);
    CHECK(hole.waterLevels[1].given == "level 26.50 m");
    CHECK(hole.waterLevels[2].given == "pressure 98.1 kpa");
    CHECK(std::ranges::count(hole.installations, Installation::Part::Tip, &Installation::part) == 1);
}

TEST_CASE("A level that may be a depth is what most readings can be", "[ags][water]") {
    const auto with = [](const std::vector<std::string>& readings) {
        std::vector<std::string> rows;
        for (std::size_t i = 0; i < readings.size(); ++i)
            rows.push_back(fmt::format("BH1|P1|8.00|2026-01-{:02}|WLEV|{}|m", i + 1, readings[i]));
        return read({{"ABBR", "ABBR_HDNG|ABBR_CODE|ABBR_DESC", "", "", {"MOND_TYPE|WLEV|Water level"}},
                     {"MONG", "LOCA_ID|MONG_ID|MONG_DIS", "||m", "", {"BH1|P1|8.00"}},
                     {"MOND", "LOCA_ID|MONG_ID|MONG_DIS|MOND_DTIM|MOND_TYPE|MOND_RDNG|MOND_UNIT", "||m||||", "", rows}});
    };
    const auto depths = with({"1.20", "1.45", "25.00"});
    CHECK(depths.holes[0].waterLevels[0].depth.metres == 1.2);
    CHECK(mentions(depths.findings, "FC-WATER", "taken as depths, by which 2 of them"));
    const auto levels = with({"27.20", "26.45"});
    CHECK(levels.holes[0].waterLevels[0].depth.metres == Approx(2.8));
    CHECK_FALSE(mentions(levels.findings, "FC-WATER", "")); // there is no doubt
}

TEST_CASE("Edition 3 piezometers: hours without a colon, dry, and heads", "[ags][water][edition3]") {
    const auto found =
        read3({{"PREF", "HOLE_ID|PREF_TDEP|PREF_REF|PREF_TRZ|PREF_BRZ", "|m||m|m", "", {"BH1|12.00|A|10.00|12.00"}},
               {"POBS",
                "HOLE_ID|PREF_TDEP|POBS_DATE|POBS_TIME|POBS_DEP|POBS_HEAD",
                "|m|dd/mm/yyyy|hhmm|m|m",
                "",
                {"BH1|12.00|4/3/1998|930|5.10|", "BH1|12.00|05/03/1998||Dry|", "BH1|12.00|06/03/1998|1400||7.00"}},
               {"WSTK", "HOLE_ID|WSTK_DEP|WSTK_NMIN|WSTK_POST", "|m|min|m", "", {"BH1|Dry|0|", "BH1|6.00|20|5.50"}}});
    const auto& hole = found.holes[0];
    REQUIRE(hole.waterLevels.size() == 3);
    CHECK(hole.waterLevels[0].measured == "1998-03-04T09:30");
    CHECK(hole.waterLevels[0].pipe == "A");
    CHECK(hole.waterLevels[1].dry);
    CHECK(hole.waterLevels[1].measured == "1998-03-05");
    CHECK(hole.waterLevels[2].depth.metres == Approx(5));
    REQUIRE(hole.strikes.size() == 1);
    CHECK(hole.strikes[0].roseTo->metres == 5.5);
    CHECK_FALSE(mentions(found.findings, "AGS3 Rule 8", "Dry"));
}

TEST_CASE("Readings that can't be used are said with their reason", "[ags][water]") {
    const auto found = holesOf(readAgs(ags4({{"LOCA", "LOCA_ID", "", "", {"BH1"}},
                                             {"MOND",
                                              "LOCA_ID|MONG_ID|MOND_DTIM|MOND_TYPE|MOND_RDNG|MOND_UNIT",
                                              "",
                                              "",
                                              {"BH1|P1|2026-01-01|WLEV|12.30|mOD", "BH1|P1|2026-01-02|WDEP|3.10|m"}}}),
                                       "site.ags"));
    CHECK(found.holes[0].waterLevels.size() == 1);
    CHECK(mentions(found.findings, "FC-WATER", "no ground level"));
}

TEST_CASE("What an installation does not say is not drawn as slotted", "[ags][installation]") {
    const auto hole =
        read({{"ABBR", "ABBR_HDNG|ABBR_CODE|ABBR_DESC", "", "", {"PIPE_TYPE|S1|Slotted standpipe", "BKFL_LEG|901|Bentonite"}},
              {"PIPE",
               "LOCA_ID|PIPE_REF|PIPE_TOP|PIPE_BASE|PIPE_TYPE",
               "||m|m|",
               "",
               {"BH1|1|0.00|5.00|PLAIN", "BH1|1|5.00|8.00|S1", "BH1|2|0.00|3.00|"}},
              {"BKFL", "LOCA_ID|BKFL_TOP|BKFL_BASE|BKFL_LEG", "|m|m|", "", {"BH1|0.00|4.00|901"}}})
            .holes[0];
    using Part = Installation::Part;
    REQUIRE(hole.installations.size() == 4);
    CHECK(hole.installations[0].part == Part::PlainPipe);
    CHECK(hole.installations[1].part == Part::SlottedPipe);
    CHECK(hole.installations[2].part == Part::Pipe);
    CHECK(hole.installations[3].part == Part::Backfill);
    CHECK(hole.installations[3].name == "bentonite");
}

TEST_CASE("What follows from a sounding is by the formulas", "[cone]") {
    Hole hole;
    hole.soundings = {{"1", "", 0.8, Depth{1}}};
    using Readings = std::vector<Curve::Reading>;
    const auto add = [&](const char* name, Readings readings) {
        hole.curves.push_back({name, "", "", false, std::make_shared<const Readings>(std::move(readings))});
        hole.curves.back().push = "1";
    };
    add("cone resistance", {{0.5, 1.0}, {5, 4.0}, {5.5, kNoValue}});
    add("sleeve friction", {{0.5, 20}, {5, 40}});
    add("pore pressure u2", {{0.5, 0}, {5, 100}});
    const auto assumed = assumedFor(hole, hole.soundings[0]);
    CHECK(assumed.waterFrom == "measured with the sounding");
    CHECK(words(assumed) == "unit weight 18 kN/m3, water at 1.00 m (measured with the sounding)");
    const auto tracks = derivedTracks(hole, hole.soundings[0], assumed);
    const auto value = [&](const char* name, std::size_t i) {
        const auto at = std::ranges::find(tracks, name, &Curve::name);
        REQUIRE(at != tracks.end());
        return (*at->readings)[i].value;
    };
    const double qt = 4000 + 100 * 0.2, total = 18 * 5.0, effective = total - 9.81 * 4, q = (qt - total) / effective,
                 f = 100 * 40 / (qt - total);
    CHECK(value("corrected cone resistance", 1) == Approx(qt / 1000));
    CHECK(value("friction ratio", 1) == Approx(100 * 40 / qt));
    CHECK(value("normalised resistance", 1) == Approx(q));
    CHECK(value("normalised friction ratio", 1) == Approx(f));
    CHECK(value("soil behaviour index", 1)
          == Approx(std::sqrt(std::pow(3.47 - std::log10(q), 2) + std::pow(std::log10(f) + 1.22, 2))));
    CHECK(std::isnan(value("soil behaviour index", 2)));
    hole.soundings[0].water.reset();
    CHECK(assumedFor(hole, hole.soundings[0]).waterFrom == "not known, taken at the ground");
    hole.waterLevels = {{"2026-01-01", Depth{3}, ""}, {"2026-03-01", Depth{2}, ""}, {"2026-04-01", Depth{9}, "", true}};
    CHECK(assumedFor(hole, hole.soundings[0]).water.metres == 2);
}

TEST_CASE("Zones of behaviour are named by their index and join where they are thin", "[cone]") {
    CHECK(std::string(soilBehaviour(1.0).words) == "gravelly to dense sand");
    CHECK(std::string(soilBehaviour(3.2).words) == "clay");
    CHECK(std::string(soilBehaviour(9).words) == "organic soil, peat");
    Curve index;
    std::vector<Curve::Reading> readings;
    for (int i = 0; i < 100; ++i) readings.push_back({0.1 * i, i < 50 ? 1.8 : i == 70 ? 1.8 : 3.2});
    index.readings = std::make_shared<const std::vector<Curve::Reading>>(readings);
    const auto zones = behaviourZones(index, 0.2);
    REQUIRE(zones.size() == 2);
    CHECK(zones[0].base.metres == Approx(5));
    CHECK(zones[1].base.metres == Approx(9.9));
    CHECK(behaviourZones(index, 0).size() == 4);
}

TEST_CASE("Readings thinned for drawing lose no peak and no gap", "[cone][property]") {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> value(0, 10);
    for (int round = 0; round < 50; ++round) {
        std::vector<Curve::Reading> all;
        for (int i = 0; i < 2000; ++i) all.push_back({0.01 * i, random() % 97 == 0 ? kNoValue : value(random)});
        const double step = 0.3;
        const auto kept = thinned(all, step);
        CHECK(kept.size() < all.size());
        CHECK(std::ranges::is_sorted(kept, {}, &Curve::Reading::depth));
        const auto gaps = [](const auto& list) {
            return std::ranges::count_if(list, [](const Curve::Reading& r) { return std::isnan(r.value); });
        };
        CHECK(gaps(kept) == gaps(all));
        for (double from = 0; from < 20; from += step) { // least and most of each stretch
            const auto extremes = [&](const auto& list) {
                double low = INFINITY, high = -INFINITY;
                for (const auto& r : list)
                    if (std::floor(r.depth / step) == std::floor((from + step / 2) / step) && !std::isnan(r.value))
                        low = std::min(low, r.value), high = std::max(high, r.value);
                return std::pair(low, high);
            };
            CHECK(extremes(kept) == extremes(all));
        }
    }
    CHECK(thinned({}, 1).empty());
    CHECK(thinned({{1, 2}}, 0).size() == 1);
}

TEST_CASE("A base is picked on the log of a cone, is a contact for the surface, and stands on a section", "[ags][cone][picks]") {
    auto holes = read({{"SCPG", "LOCA_ID|SCPG_TESN|SCPG_TYPE", "", "", {"BH1|1|PC"}},
                       {"SCPT",
                        "LOCA_ID|SCPG_TESN|SCPT_DPTH|SCPT_RES",
                        "||m|MN/m2",
                        "",
                        {"BH1|1|1.00|1.5", "BH1|1|4.00|2.5", "BH1|1|8.00|12"}}})
                     .holes;
    const auto place = *holes[0].place();
    const double level = holes[0].level->metres;
    REQUIRE(holes[0].intervals.empty());
    for (const double x : {-60.0, 60.0})
        holes.push_back(hole(x < 0 ? "W" : "E", place.x + x, place.y + x / 3, level, {{4, "A"}, {9, "B"}}));
    holes.push_back(hole("N", place.x, place.y + 70, level, {{4, "A"}, {9, "B"}}));
    giveNames(holes);
    Project p;
    p.holes = part(std::move(holes));
    p.sequence = part(sequence({"A", "B"}));
    p.sections = part(std::vector<SectionLine>{{"S", {{place.x - 80, place.y}, {place.x + 80, place.y}}, 25}});
    const auto before = Products().of(p);
    CHECK(std::ranges::count(*before->contacts[0], "BH1", &Contact::hole) == 0);
    CHECK(std::ranges::count(before->sections[0]->holes, "BH1", &SectionHole::name) == 0);
    const auto picked = setPick(p, "BH1", "A", Depth{6.5}).project;
    CHECK_THROWS_WITH(setPick(p, "BH1", "A", Depth{95}), Catch::Contains("can't be picked at 95.00 m"));
    const auto set = Products().of(picked);
    const auto contact = std::ranges::find(*set->contacts[0], "BH1", &Contact::hole);
    REQUIRE(contact != set->contacts[0]->end());
    CHECK(contact->kind == ContactKind::Observed);
    CHECK(contact->place.z == Approx(level - 6.5));
    CHECK(set->model->columnAt(place).bases[0] == Approx(level - 6.5).margin(0.01));
    const auto on = std::ranges::find(set->sections[0]->holes, "BH1", &SectionHole::name);
    REQUIRE(on != set->sections[0]->holes.end());
    REQUIRE(on->sticks.size() == 1);
    CHECK(on->sticks[0].unit == std::size_t(0));
    CHECK(on->sticks[0].baseLevel == Approx(level - 6.5));
}
