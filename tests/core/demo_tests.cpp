#include "fixtures.h"
#include "formats/ags.h"
#include "holes/path.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;
using namespace quernbeck;

TEST_CASE("The invented ground is a stack: no base above the one before", "[demo]") {
    double thickestTill = 0, thickestPeat = 0, thickestGravel = 0;
    bool tillAbsent = false;
    for (double e = kWest; e <= kEast; e += 10)
        for (double n = kSouth; n <= kNorth; n += 10) {
            const auto b = bases(e, n);
            double before = ground(e, n);
            for (const double base : b) {
                REQUIRE(base <= before + 1e-12);
                before = base;
            }
            thickestPeat = std::max(thickestPeat, b[AL] - b[PT]);
            thickestGravel = std::max(thickestGravel, b[PT] - b[RG]);
            thickestTill = std::max(thickestTill, b[RG] - b[TL]);
            tillAbsent |= std::abs(fromBeck(e, n)) < 20 && b[RG] == b[TL];
        }
    CHECK(thickestPeat > 1);
    CHECK(thickestPeat < 2);
    CHECK(thickestGravel > 6);
    CHECK(thickestTill > 15);
    CHECK(thickestTill < 32);
    CHECK(tillAbsent); // the scour under the beck
}

TEST_CASE("The fault steps the rock down by six metres across a corner", "[demo]") {
    REQUIRE(beyondFault(kWest + 50, kSouth + 50));
    REQUIRE_FALSE(beyondFault(kWest + 700, kSouth + 500));
    // just on either side of the line
    const double e = kWest + 210;
    double n = kSouth + 165;
    while (beyondFault(e, n)) n += 0.01;
    CHECK(bases(e, n)[MW] - bases(e, n - 0.02)[MW] == Approx(6).margin(0.05));
}

TEST_CASE("The demo's logs say what the invented ground has, to a logger's accuracy", "[demo]") {
    const auto& holes = *demo().project.holes;
    int compared = 0;
    for (const auto& h : holes) {
        const auto path = HolePath::of(h);
        if (!path || h.id == "QB104" || h.id == "QB118") continue; // faults that are meant
        for (const auto& i : h.intervals) {
            const auto middle = path->at({(i.top.metres + i.base.metres) / 2});
            const auto b = bases(middle.x, middle.y);
            int u = 0;
            while (u < kUnits - 1 && middle.z <= b[std::size_t(u)]) ++u;
            const auto code = i.codes.at("GEOL_GEOL");
            if (code == "M.G." || code == "made gr") continue;
            CAPTURE(h.id, i.top.metres, i.base.metres);
            if (i.base.metres - i.top.metres > 0.3) CHECK(code == loggedCode(quernbeck::Unit(u)));
            ++compared;
        }
    }
    CHECK(compared > 180);
}

TEST_CASE("The demo's AGS files are clean in form and hold the groups that they should", "[demo]") {
    const auto four = readAgs(std::filesystem::path(FOX_DEMO "/phase1_main.ags"));
    CHECK(four.findings.empty());
    CHECK(four.version == "4.1");
    for (const char* group : {"PROJ", "TRAN", "UNIT", "TYPE", "ABBR", "DICT", "LOCA", "HORN", "GEOL", "DETL", "SAMP",
                              "ISPT", "CORE", "WSTG", "WSTD", "MONG", "MOND", "LLPL", "LDEN", "PIPE", "GRAG"}) {
        CAPTURE(group);
        REQUIRE(four.group(group));
        CHECK_FALSE(four.group(group)->rows.empty());
    }
    const auto three = readAgs(std::filesystem::path(FOX_DEMO "/phase2_river.ags"));
    CHECK(three.findings.empty());
    CHECK(readBytes(FOX_DEMO "/phase2_river.ags").find("<CONT>") != std::string::npos);
    int longest = 0;
    const auto* geol = three.group("GEOL");
    for (std::size_t r = 0; r < geol->rows.size(); ++r)
        longest = std::max(longest, int(geol->cell(r, *geol->column("GEOL_DESC")).size()));
    CHECK(longest > 60); // joined from pieces
    CHECK(readAgs(std::filesystem::path(FOX_DEMO "/phase3_later.ags")).findings.empty());
}

TEST_CASE("Nineteen of the demo's holes stop short of the sound mudstone", "[demo]") {
    int shortOnes = 0;
    for (const auto& h : *demo().project.holes) shortOnes += h.intervals.back().codes.at("GEOL_GEOL") != "MS";
    CHECK(shortOnes == 19);
}

TEST_CASE("The gravel's volume inside the site is of the truth's order", "[demo]") {
    double truth = 0, area = 0;
    const auto set = demoProducts();
    const auto& frame = set->modelGrid->ground.frame;
    for (int r = 0; r < frame.rows(); ++r)
        for (int c = 0; c < frame.columns(); ++c) {
            if (std::isnan(set->modelGrid->ground.at(c, r))) continue;
            const auto p = frame.centre(c, r);
            const auto b = bases(p.x, p.y);
            truth += (b[PT] - b[RG]) * frame.cell * frame.cell;
            area += frame.cell * frame.cell;
        }
    CHECK(set->volumes->area == Approx(area));
    const double modelled = set->volumes->units[RG].volume;
    CHECK(modelled == Approx(truth).epsilon(0.15)); // it is 1.13 of it
}
