// Contacts that are in no log: from tables, layers and lists of depths, all the way into surfaces, file and export.
#include "formats/vector.h"
#include "ground_fixtures.h"
#include "handover/contact_layer.h"
#include "handover/export_files.h"
#include "model/section.h"
#include "project/contact_edits.h"
#include "project/ground_edits.h"
#include "project/remedies.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

Holes fourHoles() {
    Holes holes;
    for (int i = 0; i < 4; ++i)
        holes.push_back(hole(fmt::format("H{}", i), 480050.0 + 300 * (i % 2), 6120050.0 + 300 * (i / 2), 20,
                             {{2, "CL"}, {6.0 + i, "SD"}, {12, "MS"}}));
    return holes;
}

/// Four holes at the corners of a square of 300 m: clay over sand over mudstone, under flat ground at 20 m.
Project contactSite() {
    auto p = inUtm();
    p.holes = part(fourHoles());
    auto units = sequence({"CL", "SD", "MS"});
    units.units[0].name = "Clay";
    units.units[1].name = "Channel Sand";
    p.sequence = part(units);
    return p;
}

ContactSource sourceOf(std::vector<ContactPoint> points, ContactSurface surface = ContactSurface::Base) {
    return {"tops.csv", surface, std::move(points), true};
}

ImportPreview contactsIn(const std::string& text, SourceSettings settings = {}, const SiteContext& site = "EPSG:25831") {
    return readSource({"tops.csv", "", text, 0, {}, std::move(settings), ""}, site);
}

SourceSettings asContacts(double unit = 0) {
    SourceSettings s;
    s.as = SourceSettings::As::Contacts;
    s.unit = unit;
    return s;
}

FeatureLayer picks() {
    FeatureLayer layer{"picks", "EPSG:25831", {}};
    layer.features.push_back({GeometryKind::Point, {{{480200, 6120200, 11.5}}}, true, {{"UNIT", std::string("SD")}}});
    layer.features.push_back({GeometryKind::Line,
                              {{{480100, 6120100, 12}, {480200, 6120150, 11}, {480300, 6120200, 10}}},
                              true,
                              {{"UNIT", std::string("SD")}}});
    layer.features.push_back({GeometryKind::Point, {{{480210, 6120210, 3}}}, true, {{"UNIT", std::string()}}});
    return layer;
}

constexpr const char* kRows = "Easting;Northing;Elevation;Formation\n"
                              "480100;6120100;12,5;SD\n"
                              "480150;6120120;;SD\n"
                              "480160;612o130;11;SD\n"
                              "480170;6120140;11;\n"
                              "480180;6120150;11,25;channel sand\n";

} // namespace

TEST_CASE("Rows with a position, a level and a unit are contacts; what is wrong in a row is said with its line", "[contacts]") {
    const auto u = contactsIn(kRows);
    REQUIRE(u.contacts);
    CHECK(u.file.format == "contacts");
    REQUIRE(u.contacts->points.size() == 2);
    CHECK(u.contacts->points[0].place == Point3{480100, 6120100, 12.5});
    CHECK(u.contacts->points[0].line == 2);
    CHECK(u.contacts->points[1].unit == "channel sand");
    const auto& said = u.contacts->findings;
    REQUIRE(said.size() == 3);
    CHECK((said[0].line == 3 && said[0].heading == "level" && said[0].message.find("missing") != std::string::npos));
    CHECK((said[1].line == 4 && said[1].message.find("\"612o130\"") != std::string::npos));
    CHECK((said[2].line == 5 && said[2].heading == "unit"));
    CHECK_THROWS_WITH(contactsIn("easting,northing,level\n1,2,3\n", asContacts()), Catch::Contains("the unit"));
}

TEST_CASE("A point on a top is one on the base of the unit before; what has no base is said", "[contacts]") {
    const auto holes = fourHoles();
    auto units = *contactSite().sequence;
    units.aliases["S1"] = "SD";
    const auto placed = [&](const ContactSource& source) { return placedContacts({source}, holes, units); };
    const Point3 at{480100, 6120100, 10};
    const auto bases = placed(sourceOf({{"SD", at}, {"S1", at}, {"CHANNEL SAND", at}, {"MS", at}}));
    REQUIRE(bases.ofUnits.size() == 2);
    CHECK(bases.ofUnits[0].empty());
    CHECK(bases.ofUnits[1].size() == 3);
    CHECK(mentions(bases.findings, "FC-CONTACT", "oldest unit"));
    const auto tops = placed(sourceOf({{"SD", at}, {"CL", at}}, ContactSurface::Top));
    CHECK(tops.ofUnits[0].size() == 1);
    CHECK(mentions(tops.findings, "FC-CONTACT", "is the ground"));
    auto off = sourceOf({{"SD", at}, {"SD", at}});
    off.used = false;
    CHECK(placed(off).ofUnits[1].empty());
}

TEST_CASE("Contacts of a unit that the sequence has not are told once, with a remedy, and come back with the unit",
          "[contacts]") {
    auto p = contactSite();
    p.contactPoints =
        part(std::vector{sourceOf({{"GR", {480100, 6120100, 10}, "", {}, 7}, {"GR", {480110, 6120100, 10}, "", {}, 8}})});
    const auto set = Products().of(p);
    const auto said = std::ranges::find(*set->findings, "FC-CONTACT", &Finding::rule);
    REQUIRE(said != set->findings->end());
    CHECK(said->severity == Severity::Error);
    CHECK(said->line == 7);
    CHECK(said->message.find("2 points") != std::string::npos);
    REQUIRE(said->remedy);
    const auto mended = apply(p, *said->remedy).project;
    CHECK(mended.sequence->index("GR"));
}

TEST_CASE("Surfaces of every exact method go through contact points, and the audit lists them", "[contacts][model]") {
    auto p = contactSite();
    const std::vector<ContactPoint> points{{"SD", {480200, 6120200, 15.5}, "", {}, 2},
                                           {"SD", {480120, 6120300, 9.25}, "", {}, 3}};
    p.contactPoints = part(std::vector{sourceOf(points)});
    const auto method = GENERATE(Method::Kriging, Method::Linear, Method::ThinPlate, Method::NaturalNeighbour);
    CAPTURE(words(method));
    auto units = *p.sequence;
    for (auto& u : units.units) u.recipe.settings.method = method;
    p.sequence = part(units);
    const auto set = Products().of(p);
    REQUIRE(set->audit->points.size() == 2);
    for (const auto& c : set->audit->points) {
        CHECK(c.file == "tops.csv");
        CHECK(c.contact.unit == 1);
        CHECK(std::abs(c.contact.difference()) < 0.01);
    }
    CHECK(set->audit->points[0].line == 2);
    for (const auto& q : points) CHECK(set->model->columnAt(q.place.plan()).bases[1] == Approx(q.place.z).margin(0.01));
    for (const auto& h : set->audit->holes) CHECK(h.contacts.size() == 2); // those of the holes are what they were
}

TEST_CASE("A depth in a hole takes the place of what its log says, and follows the hole", "[contacts]") {
    auto p = contactSite();
    p.contactPoints = part(std::vector{sourceOf({{"CL", {}, "H1", Depth{3.5}, 2}, {"CL", {}, "H9", Depth{3}, 3}})});
    const auto ofClay = [](const Project& project) {
        const auto set = Products().of(project, {}, {ProductKind::Audit, ProductKind::AllFindings});
        std::vector<double> levels;
        for (const auto& c : *set->contacts[0])
            if (c.hole == "H1") levels.push_back(c.place.z);
        CHECK(mentions(*set->findings, "FC-CONTACT", "no hole H9"));
        return levels;
    };
    CHECK(ofClay(p) == std::vector{16.5});
    auto holes = *p.holes;
    holes.change(1).level = Level{21};
    p.holes = part(holes);
    CHECK(ofClay(p) == std::vector{17.5});
    const auto u = contactsIn("hole,depth,unit\nH1,11.5,CL\n", asContacts(0.3048));
    REQUIRE(u.contacts);
    CHECK(u.contacts->points[0].depth.metres == Approx(11.5 * 0.3048));
}

TEST_CASE("Points and lines of a layer with a unit are contacts; a line's vertices stay joined", "[contacts]") {
    const TemporaryFolder folder;
    writeVector(folder / "picks.gpkg", {picks()});
    const auto u = grounded(folder / "picks.gpkg");
    REQUIRE(u.contacts);
    CHECK(u.file.settings.unitField == "UNIT");
    REQUIRE(u.contacts->points.size() == 4);
    CHECK(u.contacts->points[0].trace == -1);
    CHECK(u.contacts->points[1].trace == u.contacts->points[3].trace);
    CHECK(mentions(u.file.findings, "FC-CONTACT", "no unit"));
    SECTION("as breaklines if that is what they are said to be") {
        SourceSettings s;
        s.role = LineRole::Breaklines;
        CHECK(grounded(folder / "picks.gpkg", s).lines);
    }
    SECTION("on a section they are a line, within reach only") {
        auto p = importSource(contactSite(), u).project;
        p.sections = part(std::vector<SectionLine>{{"A", {{480100, 6120100}, {480300, 6120200}}, 25}});
        const auto set = Products().of(p);
        const auto& contacts = set->sections[0]->contacts;
        REQUIRE(contacts.size() == 3); // the single point is 45 m off
        CHECK_FALSE(contacts[0].joined);
        CHECK(contacts[2].joined);
        CHECK(contacts[1].chainage == Approx(std::hypot(100, 50)));
        CHECK(contacts[1].level == 11);
    }
}

TEST_CASE("Contact points come back from the project's file with all that was chosen", "[contacts][store]") {
    const TemporaryFolder folder;
    auto p = contactSite();
    auto source =
        sourceOf({{"SD", {480100, 6120100, 10}, "", {}, 2, 0, true}, {"CL", {}, "H1", Depth{3.5}, 3}}, ContactSurface::Top);
    source.used = false;
    p.contactPoints = part(std::vector{source, sourceOf({{"SD", {480100, 6120100, 10}}})});
    ProjectStore::create(folder / "p.gpkg", p);
    CHECK(*ProjectStore::read(folder / "p.gpkg").contactPoints == *p.contactPoints);
    {
        SQLite::Database db((folder / "p.gpkg").string(), SQLite::OPEN_READWRITE);
        db.exec(
            "UPDATE contact_points SET geom = NULL WHERE fid = 1; UPDATE contact_points SET trace = 99999999999 WHERE fid = 3");
    }
    Findings said;
    const auto foreign = ProjectStore::read(folder / "p.gpkg", said);
    CHECK(foreign.contactPoints->at(0).points.size() == 1);
    CHECK(foreign.contactPoints->at(1).points[0].trace == -1);
    CHECK(mentions(said, "FC-PROJECT-FILE"));
}

TEST_CASE("Edits of contact points: used, on what, excluded singly, moved, renamed, removed", "[contacts][edits]") {
    const ContactPoint first{"SD", {480100, 6120100, 10}, "", {}, 2}, second{"SD", {480110, 6120100, 11}, "", {}, 3};
    auto p = contactSite();
    p.contactPoints = part(std::vector{sourceOf({first, second})});
    auto e = setContactExcluded(p, "tops.csv", second, true);
    CHECK((e.project.contactPoints->at(0).points[1].excluded && !e.project.contactPoints->at(0).points[0].excluded));
    CHECK(e.label == "Exclude the contact of SD on line 3 of tops.csv");
    CHECK_FALSE(setContactExcluded(e.project, "tops.csv", e.project.contactPoints->at(0).points[1], false)
                    .project.contactPoints->at(0)
                    .points[1]
                    .excluded);
    CHECK_THROWS_WITH(setContactExcluded(p, "tops.csv", {"CL", {1, 2, 3}}, true), Catch::Contains("no longer there"));
    CHECK_THROWS_WITH(setContactsUsed(p, "other.csv", false), Catch::Contains("no contacts of other.csv"));
    CHECK(setContactsSurface(p, "tops.csv", ContactSurface::Top).project.contactPoints->at(0).surface == ContactSurface::Top);
    const auto moved = moveToSystem(p, "EPSG:25832").project;
    CHECK(std::abs(moved.contactPoints->at(0).points[0].place.x - 480100) > 1000);
    CHECK(renameUnit(p, "SD", "GR").project.contactPoints->at(0).points[0].unit == "GR");
    CHECK(removeSource(p, "tops.csv").project.contactPoints->empty());
    CHECK_THROWS_WITH(removeSource(p, "other.csv"), Catch::Contains("no contacts of other.csv"));
}

TEST_CASE("A newer issue of a file of contacts keeps what was excluded", "[contacts][import]") {
    auto p = importSource(inUtm(), contactsIn(kRows)).project;
    p = setContactExcluded(p, "tops.csv", p.contactPoints->at(0).points[0], true).project;
    p = importSource(p, contactsIn(std::string(kRows) + "480190;6120160;11;SD\n")).project;
    REQUIRE(p.contactPoints->size() == 1);
    const auto& points = *p.contactPoints->at(0).points;
    REQUIRE(points.size() == 3);
    CHECK((points[0].excluded && !points[1].excluded));
    CHECK(p.files->size() == 1);
    const auto again = rereadSource(p, "tops.csv", p.files->at(0).settings);
    CHECK(*again.project.contactPoints == *p.contactPoints);
}

TEST_CASE("A survey whose codes are units or kinds of ground is asked about, and goes either way", "[contacts][import]") {
    const std::string rows = "480100,6120100,12.5,Till\n480130,6120110,12.1,Gravel\n480160,6120140,11.9,Till\n"
                             "480190,6120170,11.4,Till\n480220,6120200,11.1,Gravel\n";
    const SiteContext there(contactSite());
    const auto u = contactsIn(rows, {}, there);
    CHECK(u.asksWhetherContacts);
    CHECK(u.asks());
    CHECK_THROWS_WITH(importSource(contactSite(), u), Catch::Contains("survey points or contacts"));
    auto settings = u.file.settings;
    settings.as = SourceSettings::As::SurveyPoints;
    const auto survey = contactsIn(rows, settings, there);
    CHECK((survey.survey && !survey.asks()));
    settings.as = SourceSettings::As::Contacts;
    const auto contacts = contactsIn(rows, settings, there);
    REQUIRE(contacts.contacts);
    CHECK(contacts.contacts->points.size() == 5);
    CHECK(contacts.contacts->points[1].unit == "Gravel");
    // codes of features, and codes that no unit has
    CHECK_FALSE(
        contactsIn("480100,6120100,12.5,GL\n480130,6120110,12.1,TB\n480160,6120140,11.9,RD\n480190,6120170,11.4,GL\n", {}, there)
            .asks());
    // a header that names the unit and nothing else that is known: contacts, without a question
    std::string foreign = "Old sheet 12 \xC2\xB0\r\nFormation;Hochwert;Rechtswert;H\xC3\xB6he;Dip\r\n";
    for (int i = 0; i < 12; ++i)
        foreign += fmt::format("TILL;{},5;{},25;{},5;3\r\n", 6120110 + 17 * i, 480060 + 23 * i, 11 + i % 3);
    const auto named = contactsIn(foreign, {}, there);
    REQUIRE(named.contacts);
    CHECK(named.contacts->points.at(0).place == Point3{480060.25, 6120110.5, 11.5});
    CHECK(named.contacts->points[0].unit == "TILL");
    // a column of units before the coordinates, without a header
    std::string before;
    for (int i = 0; i < 12; ++i) before += fmt::format("Gravel,{}.5,{}.25,{}.5\n", 480060 + 23 * i, 6120110 + 17 * i, 11 + i % 3);
    const auto first = contactsIn(before, {}, there);
    CHECK(first.asksWhetherContacts);
    auto chosen = first.file.settings;
    chosen.as = SourceSettings::As::Contacts;
    CHECK(contactsIn(before, chosen, there).contacts.value().points.at(11).unit == "Gravel");
    // codes of the project's own units
    CHECK(
        contactsIn("480100,6120100,12.5,SD\n480130,6120110,12.1,sd\n480160,6120140,11.9,CL\n480190,6120170,11.4,GL\n", {}, there)
            .asks());
}

TEST_CASE("All contacts go out as a table and as a layer", "[contacts][export]") {
    const TemporaryFolder folder;
    auto p = contactSite();
    p.contactPoints = part(std::vector{sourceOf({{"SD", {480200, 6120200, 15.5}, "", {}, 2}})});
    const auto set = Products().of(p);
    exportFiles(*set, "contacts", "csv", folder.path());
    exportFiles(*set, "contacts", "gpkg", folder.path());
    const auto table = readTable(readBytes(folder / "contacts.csv"), "contacts.csv");
    std::size_t contacts = 0;
    for (const auto& ofUnit : set->contacts) contacts += ofUnit->size();
    CHECK(table.rows.size() == contacts);
    CHECK(table.cell(table.rows.size() - 1, 4) == "15.500");
    CHECK(table.cell(table.rows.size() - 1, 6) == "tops.csv");
    const auto layers = readVector(folder / "contacts.gpkg");
    REQUIRE(layers.at(0).features.size() == contacts);
    CHECK(std::get<std::string>(layers[0].features.back().attributes.at("unit")) == "SD");
    CHECK_THROWS_WITH(exportFiles(*Products().of(inUtm()), "contacts", "csv", folder.path()), Catch::Contains("no contacts"));
}
