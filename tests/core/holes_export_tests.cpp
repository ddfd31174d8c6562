// Holes that go out as one AGS file are read from it as they were.
#include "ags_fixtures.h"
#include "fixtures.h"
#include "formats/ags_check.h"
#include "handover/ags_export.h"
#include "holes/ags_holes.h"
#include "same_holes.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// Each hole out and in again, with no error by the rules.
Holes readAgain(const Holes& holes) {
    Project p;
    p.site = part(Site{"EPSG:25831", {}, {}});
    const auto file = readAgs(agsOf(holes, p), "out.ags");
    for (const auto& f : checkAgs(file))
        if (f.severity == Severity::Error) FAIL_CHECK(describe(f));
    return holesOf(file).holes;
}

} // namespace

TEST_CASE("Every hole of the demo site, exported as AGS and read again, is as it was", "[handover][ags]") {
    const std::string name = GENERATE("phase1_main", "phase2_river", "phase3_later", "phase4_soundings", "phase5_monitoring");
    CAPTURE(name);
    const auto before = understood(std::string(FOX_DEMO "/") + name + ".ags").holes;
    REQUIRE_FALSE(before.empty());
    checkSame(before, readAgain(before));
}

TEST_CASE("Geophysical logs, limits, probing and rises go out and come back", "[handover][ags]") {
    auto h = hole("BH1", 500, 600, 20, {{5, "A"}, {9, "B"}});
    const auto readings = [](std::vector<Curve::Reading> all) {
        return std::make_shared<const std::vector<Curve::Reading>>(std::move(all));
    };
    h.curves.push_back({"resistivity", "ohm.m", "RES", false, readings({{0.125, 41.5}, {0.25, 1234567.5}, {0.375, 38}}), {}, ""});
    h.curves.push_back(
        {"lead", "mg/kg", "ERES_RVAL", true, readings({{1, 12}, {2, 0.5}, {3, kNoValue}}), {{1, "<0.5"}, {2, "NP"}}, ""});
    h.curves.push_back({"dynamic probing", "blows per 100 mm", "DPRB_BLOW", false, readings({{0.1, 3}, {0.2, 5}}), {}, "1"});
    h.strikes = {{Depth{4.2}, Depth{3.1}}, {Depth{7}, {}}};
    const auto after = readAgain({h});
    REQUIRE(after.size() == 1);
    checkSameCurves(h, after[0]);
    CHECK(after[0].strikes == h.strikes);
}

TEST_CASE("A remark of a strike tells how far the water rose", "[ags]") {
    const auto strike = [](const std::string& remark) {
        return holesOf(readAgs(ags4({{"LOCA", "LOCA_ID", "", "", {"BH1"}},
                                     {"WSTG", "LOCA_ID|WSTG_DPTH|WSTG_REM", "", "", {"BH1|4.20|" + remark}}}),
                               "a.ags"))
            .holes.at(0)
            .strikes.at(0);
    };
    CHECK(strike("Rose to 3.10 m").roseTo == Depth{3.1});
    CHECK(strike("rose to 3.1m after 20 minutes").roseTo == Depth{3.1});
    CHECK_FALSE(strike("rose to the casing").roseTo);
    CHECK_FALSE(strike("rose to 12,500").roseTo); // could be two numbers
    CHECK_FALSE(strike("slow inflow").roseTo);
}
