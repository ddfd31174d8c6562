// What holes are called: names that stay whoever joins, that can be changed, and that choices follow.
#include "fixtures.h"
#include "importing/ground_import.h"
#include "project/surface_edits.h"
#include "sequence/contact_points.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

/// An AGS 4 file of these holes, each with an interval of MG down to 2 m and one of RG to 6 m.
std::string agsOf(const std::string& project, const std::vector<std::string>& ids, double level = 20) {
    std::string loca = "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\",\"LOCA_FDEP\"\r\n"
                       "\"UNIT\",\"\",\"m\",\"m\",\"m\",\"m\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"2DP\",\"2DP\"\r\n",
                geol = "\"GROUP\",\"GEOL\"\r\n\"HEADING\",\"LOCA_ID\",\"GEOL_TOP\",\"GEOL_BASE\",\"GEOL_GEOL\"\r\n"
                       "\"UNIT\",\"\",\"m\",\"m\",\"\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"PA\"\r\n";
    int n = 0;
    for (const auto& id : ids) {
        loca += fmt::format("\"DATA\",\"{}\",\"{:.2f}\",\"{:.2f}\",\"{:.2f}\",\"6.00\"\r\n", id, 480100 + 40.0 * n,
                            6120100 + 25.0 * (n % 3), level);
        geol += fmt::format("\"DATA\",\"{0}\",\"0.00\",\"2.00\",\"MG\"\r\n\"DATA\",\"{0}\",\"2.00\",\"6.00\",\"RG\"\r\n", id);
        ++n;
    }
    return fmt::format("\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\",\"{}\"\r\n"
                       "\r\n{}\r\n{}",
                       project, loca, geol);
}

Project with(const Project& p, const char* name, const std::string& text, SourceSettings s = {}, ImportChoices choices = {}) {
    return importSource(p, readSource({name, "", text, 0, {}, std::move(s), ""}, SiteContext(p)), choices).project;
}

ImportChoices updating() {
    ImportChoices c;
    c.existing = ImportChoices::Existing::Update;
    return c;
}

} // namespace

TEST_CASE("A second project with the same ids changes no name that is there", "[names]") {
    auto p = with({}, "phase1.ags", agsOf("P1", {"BH1", "BH2"}));
    CHECK(displayNames(*p.holes) == std::vector<std::string>{"BH1", "BH2"});
    p = setContactChoice(p, "BH1", "MG", ContactChoice::Kind::Excluded).project;
    p = with(p, "phase2.ags", agsOf("P2", {"BH1", "BH3"}));
    CHECK(displayNames(*p.holes) == std::vector<std::string>{"BH1", "BH2", "BH1 (P2)", "BH3"});
    // what was said of the first is still said of the first
    REQUIRE(p.interpretation->contacts.size() == 1);
    CHECK(findHole(*p.holes, p.interpretation->contacts[0].hole)->project == "P1");
    CHECK(findHole(*p.holes, "BH1")->project == "P1");
    CHECK(findHole(*p.holes, "BH1 (P2)")->project == "P2");
    CHECK(findHole(*p.holes, "BH9") == nullptr);
}

TEST_CASE("Names are given once, each is another, and those that are there stay: random lists", "[names][random]") {
    const auto seed = GENERATE(range(1u, 41u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    Holes holes;
    const char* ids[] = {"A", "B", "A (P1)", "A (P2)"};
    const char* projects[] = {"P1", "P2", "P1"};
    std::set<std::pair<std::string, std::string>> there;
    for (int n = 0; n < 12; ++n) {
        Hole h;
        h.id = ids[random() % 4], h.project = projects[random() % 3];
        if (there.insert({h.project, h.id}).second) holes.push_back(h);
        const auto before = displayNames(holes);
        if (random() % 2) {
            giveNames(holes);
            const auto names = displayNames(holes);
            CHECK(std::set<std::string>(names.begin(), names.end()).size() == names.size());
            auto more = holes;
            Hole late;
            late.id = "A", late.project = "P3";
            more.push_back(late);
            giveNames(more);
            auto after = displayNames(more);
            CHECK(after.back() != names.front());
            after.pop_back();
            CHECK(after == names);
            for (std::size_t i = 0; i < holes.size(); ++i) CHECK(findHole(holes, names[i]) == &holes[i]);
        }
    }
    CHECK(holes.size() > 3);
}

TEST_CASE("A hole is renamed with its choices, and a newer issue of its file still finds it", "[names]") {
    auto p = with({}, "site.ags", agsOf("P1", {"BH1", "BH2", "BH3"}));
    p = setContactChoice(p, "BH1", "MG", ContactChoice::Kind::Excluded).project;
    p = setHoleLevel(p, "BH1", Level{21}).project;
    auto renamed = setHoleName(p, "BH1", " BH01 ");
    CHECK(renamed.label == "Rename BH1 to BH01");
    p = renamed.project;
    CHECK(findHole(*p.holes, "BH01")->id == "BH1");
    CHECK(p.interpretation->contacts[0].hole == "BH01");
    CHECK(p.corrections->at(0).hole == "BH01");
    CHECK(correctionsAsCsv(p).find("BH1 is called BH01") != std::string::npos);
    CHECK_THROWS_WITH(setHoleName(p, "BH01", "BH2"), Catch::Contains("another hole named BH2"));
    CHECK_THROWS_WITH(setHoleName(p, "BH01", " "), Catch::Contains("needs a name"));
    CHECK_THROWS_WITH(setHoleName(p, "BH1x", "A"), Catch::Contains("no hole named BH1x"));
    SECTION("a newer issue brings its level to the hole of its id, under the name that it has") {
        const auto u = readSource({"site.ags", "", agsOf("P1", {"BH1", "BH2", "BH3"}, 22), 0, {}, {}, ""}, SiteContext(p));
        const auto changes = changesBy(p, u);
        CHECK(changes[0].hole == "BH01");
        CHECK(changes[0].written == "BH1");
        CHECK(changes[1].written.empty());
        const auto after = importSource(p, u, updating()).project;
        CHECK(after.holes->size() == 3);
        CHECK(findHole(*after.holes, "BH01")->level->metres == 22); // that it had 20 no longer holds
        CHECK(findHole(*after.holes, "BH2")->level->metres == 22);
    }
    SECTION("a table that calls it by the new name finds it too") {
        const auto u = readSource({"water.csv",
                                   "",
                                   std::string("Hole,Depth to water (m),Date\nBH01,3.20,2025-03-04\nBH2,2.10,2025-03-04\n"),
                                   0,
                                   {},
                                   {},
                                   ""},
                                  SiteContext(p));
        p = importSource(p, u, updating()).project;
        CHECK(p.holes->size() == 3);
        REQUIRE(findHole(*p.holes, "BH01")->waterLevels.size() == 1);
        CHECK(findHole(*p.holes, "BH01")->waterLevels[0] == WaterLevel{"2025-03-04", Depth{3.2}, ""});
    }
    SECTION("names, and water levels, are in the file") {
        auto holes = *p.holes;
        holes.change(0).waterLevels = {{"2025-03-04T10:00", Depth{1.5}, "P1"}, {"2025-04-04", Depth{1.75}, ""}};
        p.holes = part(std::move(holes));
        const TemporaryFolder folder;
        ProjectStore::create(folder / "p.gpkg", p);
        CHECK(sameValue(ProjectStore::read(folder / "p.gpkg"), p));
    }
    SECTION("contact points that name it by the id of its file still lie in it") {
        ContactSource source{"tops.csv", ContactSurface::Base, std::vector<ContactPoint>{{"MG", {}, "BH1", Depth{2.5}, 2}}};
        const auto placed = placedContacts({source}, *p.holes, *p.sequence);
        CHECK(placed.findings.empty());
        CHECK(placed.ofUnits.at(0).size() == 1);
    }
}

TEST_CASE("Ids that differ in case and blanks only are proposed as one hole's, and can be kept apart", "[names][import]") {
    const auto p = with({}, "site.ags", agsOf("P1", {"BH1", "BH2", "BH 3", "BH3"}));
    const auto table = [&](const char* id, bool otherSpelling) {
        SourceSettings s;
        s.otherSpelling = otherSpelling;
        return readSource({"places.csv", "", fmt::format("Hole,Ground level (m)\n{},25.00\n", id), 0, {}, s, ""}, SiteContext(p));
    };
    SECTION("one hole is meant") {
        const auto u = table("bh 1", true);
        const auto changes = changesBy(p, u);
        REQUIRE(changes.size() == 1);
        CHECK(changes[0].kind == HoleChange::Kind::Changed);
        CHECK(changes[0].hole == "BH1");
        CHECK(changes[0].written == "bh 1");
        const auto after = importSource(p, u, updating()).project;
        CHECK(after.holes->size() == 4);
        CHECK(findHole(*after.holes, "BH1")->level->metres == 25);
        CHECK(findHole(*after.holes, "BH1")->id == "BH1");
    }
    SECTION("it is said that they are not one") {
        const auto u = table("bh 1", false);
        CHECK(changesBy(p, u)[0].kind == HoleChange::Kind::New);
        CHECK(importSource(p, u, updating()).project.holes->size() == 5);
    }
    SECTION("two holes could be meant: none is") { CHECK(changesBy(p, table("bh3", true))[0].kind == HoleChange::Kind::New); }
    SECTION("an exact id goes before") { CHECK(changesBy(p, table("BH3", true))[0].hole == "BH3"); }
}

TEST_CASE("A file of an earlier version has the names that it showed", "[names][store]") {
    const auto p = ProjectStore::read(std::filesystem::path(FOX_FIXTURES) / "schemas" / "schema_6.gpkg");
    REQUIRE_FALSE(p.holes->empty());
    for (const auto& h : *p.holes) CHECK_FALSE(h.name.empty());
}
