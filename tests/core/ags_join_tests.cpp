// AGS files that bring soundings, monitoring or laboratory results of holes that another file has, before it or after it.
#include "ags_fixtures.h"
#include "fixtures.h"
#include "importing/import.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

ImportPreview readFile(const std::string& name, const std::string& text) {
    return readSource({name, "", text, 0, {}, {}, {}}, SiteContext("EPSG:25831"));
}

std::string logs() {
    return ags4({oneHole(),
                 {"GEOL",
                  "LOCA_ID|GEOL_TOP|GEOL_BASE|GEOL_DESC|GEOL_GEOL",
                  "|m|m||",
                  "ID|2DP|2DP|X|PA",
                  {"BH1|0.00|4.00|Clay|AL", "BH1|4.00|20.00|Sand|RG"}},
                 {"SAMP", "LOCA_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE", "|m||", "", {"BH1|1.00|1|D"}},
                 {"PIPE",
                  "LOCA_ID|PIPE_REF|PIPE_TOP|PIPE_BASE|PIPE_TYPE",
                  "||m|m|",
                  "",
                  {"BH1|1|0.00|7.00|PLAIN", "BH1|1|7.00|8.00|SLOT"}},
                 {"ISPT", "LOCA_ID|ISPT_TOP|ISPT_NVAL", "|m|", "", {"BH1|5.00|18"}}});
}

std::string monitoring() {
    return ags4({{"LOCA", "LOCA_ID", "", "", {"BH1"}},
                 {"MONG", "LOCA_ID|MONG_ID|MONG_DIS", "||m", "", {"BH1|P1|8.00"}},
                 {"MOND",
                  "LOCA_ID|MONG_ID|MONG_DIS|MOND_DTIM|MOND_TYPE|MOND_RDNG|MOND_UNIT",
                  "||m||||",
                  "",
                  {"BH1|P1|8.00|2026-01-01|WDEP|2.00|m", "BH1|P1|8.00|2026-02-01|WDEP|2.50|m"}},
                 {"SAMP", "LOCA_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE", "|m||", "", {"BH1|2.00|101|U"}},
                 {"LLPL", "LOCA_ID|SPEC_DPTH|LLPL_LL", "|m|%", "", {"BH1|2.00|45"}}});
}

const ImportChoices kUpdate{ImportChoices::Existing::Update, false, ""};

/// All that both files say.
void checkWhole(const Project& project) {
    REQUIRE(project.holes->size() == 1);
    const auto& h = (*project.holes)[0];
    CHECK(h.intervals.size() == 2);
    CHECK(h.blowCounts.size() == 1);
    CHECK(h.waterLevels.size() == 2);
    CHECK(h.samples.size() == 2);
    CHECK(h.installations.size() == 3); // two pipes and the tip
    CHECK(std::ranges::count(h.curves, "liquid limit", &Curve::name) == 1);
    CHECK(h.level == Level{30});
    CHECK(h.file == "logs.ags");
    CHECK(project.files->size() == 2);
}

} // namespace

TEST_CASE("A file of readings adds to the holes of a file of logs", "[import][join]") {
    auto project = importSource({}, readFile("logs.ags", logs())).project;
    const auto more = readFile("readings.ags", monitoring());
    CHECK(more.partial);
    CHECK(earlierIssue(project, more) == nullptr);
    const auto told = changesBy(project, more);
    REQUIRE(told.size() == 1);
    CHECK(told[0].kind == HoleChange::Kind::Changed);
    project = importSource(project, more, kUpdate).project;
    checkWhole(project);
    // the same readings once more change nothing, and later ones join
    CHECK(changesBy(project, more)[0].kind == HoleChange::Kind::Same);
    auto later = monitoring();
    later = later.replace(later.find("2026-02-01"), 10, "2026-03-01");
    const auto joined = importSource(project, readFile("more.ags", later), kUpdate).project;
    CHECK((*joined.holes)[0].waterLevels.size() == 3);
    CHECK((*joined.holes)[0].intervals.size() == 2);
}

TEST_CASE("A file of logs completes the holes of a file of readings that came before it", "[import][join]") {
    auto project = importSource({}, readFile("readings.ags", monitoring())).project;
    REQUIRE(project.holes->size() == 1);
    CHECK((*project.holes)[0].intervals.empty());
    const auto whole = readFile("logs.ags", logs());
    CHECK_FALSE(whole.partial);
    CHECK(earlierIssue(project, whole) == nullptr); // it is another file, not a newer issue
    const auto told = changesBy(project, whole);
    REQUIRE(told.size() == 1);
    CHECK(told[0].joins);
    checkWhole(importSource(project, whole, kUpdate).project);
}

TEST_CASE("A newer issue of the file of logs keeps readings and results of other files", "[import][join]") {
    auto project = importSource({}, readFile("logs.ags", logs())).project;
    project = importSource(project, readFile("readings.ags", monitoring()), kUpdate).project;
    auto newer = logs();
    newer = newer.replace(newer.find("Sand"), 4, "Silt");
    const auto u = readFile("logs.ags", newer);
    REQUIRE(earlierIssue(project, u));
    const auto updated = importSource(project, u, kUpdate).project;
    const auto& h = (*updated.holes)[0];
    CHECK(h.intervals[1].description == "Silt");
    CHECK(h.waterLevels.size() == 2);
    CHECK(std::ranges::count(h.curves, "liquid limit", &Curve::name) == 1);
    CHECK(std::ranges::count(h.installations, Installation::Part::Tip, &Installation::part) == 1);
}
