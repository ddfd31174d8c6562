// The report: sheets kept with the project, in their order, numbered through, with what needs a word before they go out.
#include "base/files.h"
#include "formats/picture.h"
#include "handover/build_file.h"
#include "handover/report_pages.h"
#include "layered_fixtures.h"
#include "project/sheet_edits.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <random>

using namespace fox;
using namespace fox::test;

namespace {

std::vector<std::string> namesOf(const Project& p) {
    std::vector<std::string> out;
    for (const auto& s : *p.sheets) out.push_back(s.name);
    return out;
}

std::string wordsOn(const paper::Drawing& page) {
    std::string out;
    for (const auto& item : page.items)
        if (const auto* text = std::get_if<paper::Text>(&item.shape)) out += text->words + "|";
    return out;
}

const SheetTemplate& shippedNamed(const char* name) { return *std::ranges::find(shippedTemplates(), name, &SheetTemplate::name); }

Project withSheets(const Project& p, const std::vector<const char*>& names) {
    auto out = p;
    for (const auto* name : names) out = addSheet(out, reportEntry(shippedNamed(name))).project;
    return out;
}

/// A sheet as a file from elsewhere may have it.
ReportEntry anySheet(std::mt19937& random) {
    const auto number = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(random); };
    const auto up = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    ReportEntry out;
    out.name = fmt::format("Sheet {} \xC3\xA4\"\\", up(99));
    auto& t = out.layout;
    t.name = "any", t.kind = SheetKind(up(9)), t.width = std::round(number(50, 900)), t.height = std::round(number(50, 900));
    t.scale = up(1) ? std::round(number(1, 20000)) : 0;
    for (int i = up(6); i > 0; --i) {
        SheetElement e;
        e.kind = SheetElement::Kind(up(7)), e.x = std::round(number(-20, 900)), e.y = std::round(number(-20, 900));
        e.width = std::round(number(0, 300)), e.height = std::round(number(0, 300)), e.pages = SheetElement::Pages(up(2));
        if (e.kind == SheetElement::Kind::Text)
            e.text = {{"words", ""}, {"", "hole.name", up(1) ? "none" : ""}}, e.size = 1 + up(9), e.strong = up(1),
            e.align = SheetElement::Align(up(2));
        if (e.kind == SheetElement::Kind::Line || e.kind == SheetElement::Kind::Box) e.pen = 0.25 * up(8);
        t.elements.push_back(e);
    }
    for (int i = up(8); i > 0; --i) {
        LogColumn c{LogColumn::Kind(up(14)), 4.0 + up(60), fmt::format("title {}", i)};
        if (up(1)) c.heading = "GEOL_GEOL";
        if (up(1)) c.low = 1, c.high = 2 + up(50), c.logarithmic = up(1);
        t.columns.push_back(c);
    }
    out.isOut = up(1), out.all = up(1);
    if (!out.all)
        for (int i = up(5); i > 0; --i) out.items.push_back(fmt::format("BH{}", i));
    return out;
}

} // namespace

TEST_CASE("Sheets are added, moved, renamed and removed; no two have the same name", "[sheets][edits]") {
    auto p = flatSite();
    p = withSheets(p, {"title page", "borehole log", "borehole log"});
    CHECK(namesOf(p) == std::vector<std::string>{"Title page", "Borehole log", "Borehole log 2"});
    p = addSheet(p, reportEntry(shippedNamed("plan")), "Title page").project;
    CHECK(namesOf(p) == std::vector<std::string>{"Title page", "Plan", "Borehole log", "Borehole log 2"});
    p = moveSheet(p, "Borehole log 2", 0).project;
    CHECK(namesOf(p).front() == "Borehole log 2");
    p = moveSheet(p, "Borehole log 2", 99).project;
    CHECK(namesOf(p).back() == "Borehole log 2");
    p = renameSheet(p, "Borehole log 2", "Logs of the north").project;
    CHECK(namesOf(p).back() == "Logs of the north");
    CHECK_THROWS_AS(renameSheet(p, "Plan", "title PAGE"), Error);
    CHECK_THROWS_AS(renameSheet(p, "Plan", "  "), Error);
    CHECK_THROWS_AS(removeSheet(p, "nothing"), Error);
    p = removeSheet(p, "Plan").project;
    CHECK(p.sheets->size() == 3);
    // in any order of moves all stay
    std::mt19937 random(4);
    p = withSheets(p, {"plan", "key to units", "unit summary"});
    auto before = namesOf(p);
    std::ranges::sort(before);
    for (int i = 0; i < 50; ++i) {
        const auto names = namesOf(p);
        const auto which = names[random() % names.size()];
        const auto to = random() % names.size();
        p = moveSheet(p, which, to).project;
        CHECK(namesOf(p)[to] == which);
    }
    auto after = namesOf(p);
    std::ranges::sort(after);
    CHECK(after == before);
}

TEST_CASE("The usual sheets are those of what a project has, and are added once", "[sheets][edits]") {
    CHECK(namesOf(addUsualSheets(Project{}).project) == std::vector<std::string>{"Title page"});
    const auto once = addUsualSheets(flatSite()).project;
    CHECK(once.sheets->size() >= 5);
    CHECK(std::ranges::count(namesOf(once), "Borehole log") == 1);
    CHECK(namesOf(addUsualSheets(once).project) == namesOf(once));
}

TEST_CASE("Any sheet is the same after it was written and read", "[sheets][random]") {
    std::mt19937 random(GENERATE(range(1u, 61u)));
    const auto sheet = anySheet(random);
    const auto again = reportEntryOf(toJson(sheet));
    CHECK(again == sheet);
}

TEST_CASE("Numbers that are too large are refused in words by everything that reads JSON of ours", "[sheets][layers][blocks]") {
    const std::string text = "{\"format\": \"fox-cellar-blocks\", \"version\": 4E80770, \"template\": {}}";
    CHECK_THROWS_WITH(layerSpecOf(text, {}), Catch::Contains("not valid JSON"));
    CHECK_THROWS_WITH(meshSpecOf(text, {}), Catch::Contains("not valid JSON"));
    CHECK_THROWS_WITH(blockSpecOf(text, {}), Catch::Contains("not valid JSON"));
    CHECK_THROWS_WITH(excavationSpecOf(text, {}), Catch::Contains("not valid JSON"));
    CHECK_THROWS_AS(reportEntryOf(text), Error);
}

TEST_CASE("The report is kept with the project, and a sheet that can't be read is left out in words", "[sheets][store]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    auto p = addUsualSheets(flatSite()).project;
    p = changeSheet(
            p, "Borehole log", [](ReportEntry& s) { s.all = false, s.items = {"B2"}, s.isOut = false; }, "items")
            .project;
    ProjectStore::create(path, p);
    CHECK(*ProjectStore::read(path).sheets == *p.sheets);
    auto broken = nlohmann::json::array();
    for (const auto& s : *p.sheets) broken.push_back(nlohmann::json::parse(toJson(s)));
    broken[1]["template"]["kind"] = "poster";
    broken[2] = 7;
    const auto good = broken.size() - 2;
    {
        SQLite::Database db(path.string(), SQLite::OPEN_READWRITE);
        SQLite::Statement s(db, "UPDATE settings SET value = ? WHERE key = 'sheets'");
        s.bind(1, broken.dump());
        REQUIRE(s.exec() == 1);
    }
    const auto opened = ProjectStore::open(path);
    CHECK(opened.saved().sheets->size() == good);
    CHECK(std::ranges::count_if(opened.findings(),
                                [](const Finding& f) { return f.message.find("sheet of the report") != f.message.npos; })
          == 2);
}

TEST_CASE("Pages of the report are numbered through, and a list of sheets says where each begins", "[sheets][report]") {
    auto p = withSheets(flatSite(), {"list of sheets", "key to units", "borehole log", "plan"});
    p = changeSheet(
            p, "Key to units", [](ReportEntry& s) { s.isOut = false; }, "stays in")
            .project;
    p = changeSheet(
            p, "Borehole log",
            [](ReportEntry& s) {
                s.all = false, s.items = {"B2", "B1", "gone"};
            },
            "items")
            .project;
    const auto set = Products().of(p, {}, wantedForReport(p));
    const auto report = fillReport(*set, "2026-11-30");
    REQUIRE(report.size() == 4);
    CHECK(report[0].firstPage == 1);
    CHECK(report[1].firstPage == 0); // it does not go out, and can be looked at
    CHECK(report[1].pages == 1);
    CHECK(report[2].firstPage == 1 + report[0].pages);
    CHECK(report[3].firstPage == report[2].firstPage + report[2].pages);
    const auto last = report[3].firstPage + report[3].pages - 1;
    CHECK(report[2].filled.size() == 2);
    CHECK(report[2].filled[0].item == "B2"); // in the order that was chosen
    CHECK(report[2].notes.front() == "The hole gone is gone.");
    const auto list = wordsOn(report[0].filled[0].pages[0]);
    CHECK(list.find(fmt::format("Plan|{}|", report[3].firstPage)) != list.npos);
    CHECK(list.find("Key to units") == list.npos);
    const auto log = wordsOn(report[2].filled[0].pages[0]);
    CHECK(log.find(fmt::format("Page {} of {}", report[2].firstPage, last)) != log.npos);
    const TemporaryFolder folder;
    auto done = prepareReport(*set, folder / "report.pdf", {"", 150, "2026-11-30"});
    done.files.commit();
    CHECK(done.pages == last);
    CHECK(readBytes(folder / "report.pdf").starts_with("%PDF"));
    auto apart = prepareReport(*set, folder / "pages", {"png", 40, "2026-11-30"});
    apart.files.commit();
    CHECK(std::filesystem::exists(folder / "pages/001_List_of_sheets.png"));
    CHECK(std::ranges::count_if(apart.files.targets(), [](const auto& f) { return f.extension() == ".png"; }) == long(last));
    CHECK_THROWS_WITH(prepareReport(*set, folder / "report.svg"), Catch::Contains(".pdf"));
    CHECK_THROWS_WITH(prepareReport(*set, folder / "nowhere/report.pdf"), // by its own name, not that of the scratch file
                      Catch::Contains("nowhere/report.pdf can't be written: there is no folder"));
    CHECK_THROWS_WITH(prepareReport(*Products().of(flatSite()), folder / "none.pdf"), Catch::Contains("No sheet"));
}

TEST_CASE("A report of items that are gone is nothing but notes", "[sheets][report]") {
    auto p = withSheets(Project{}, {"borehole log", "plan"});
    const auto report = fillReport(*Products().of(p), "2026-11-30");
    CHECK(report[0].pages == 0);
    CHECK(report[0].notes.front().find("no hole") != std::string::npos);
    CHECK(report[1].pages == 1);
}

TEST_CASE("A plan as PNG has a world file, as TIFF its place: a hole lies at its coordinates", "[sheets][place]") {
    auto p = flatSite();
    p.site = part(Site{"EPSG:25831", p.site->frame, {}});
    auto t = shippedNamed("plan");
    const auto set = Products().of(p, {}, wantedForSheet(t, ""));
    const auto sheet = fillSheet(t, "", *set, "2026-11-30");
    REQUIRE((sheet.corner && sheet.scale > 0));
    const TemporaryFolder folder;
    constexpr double kDots = 100, kPixel = 25.4 / kDots;
    writeSheets(t, {""}, *set, folder / "plan.png", {"", kDots, "2026-11-30"});
    std::vector<double> world;
    for (std::istringstream in(readBytes(folder / "plan.pgw")); in;)
        if (double v = 0; in >> v) world.push_back(v);
    REQUIRE(world.size() == 6);
    const double metres = kPixel * sheet.scale / 1000;
    CHECK(world[0] == Approx(metres));
    CHECK(world[3] == Approx(-metres));
    CHECK(world[4] == Approx(sheet.corner->x + metres / 2));
    CHECK(world[5] == Approx(sheet.corner->y - metres / 2));
    // where the drawing has a hole's sign, the coordinates are the hole's
    const auto& hole = p.holes->front();
    double nearest = 1e9;
    for (const auto& item : sheet.pages[0].items)
        if (const auto* text = std::get_if<paper::Text>(&item.shape); text && text->words == hole.name)
            nearest = std::min(nearest, std::hypot(sheet.corner->x + text->at.x * sheet.scale / 1000 - hole.place()->x,
                                                   sheet.corner->y - text->at.y * sheet.scale / 1000 - hole.place()->y));
    CHECK(nearest < 8 * sheet.scale / 1000); // its name stands within 8 mm
    writeSheets(t, {""}, *set, folder / "plan.tif", {"", kDots, "2026-11-30"});
    const auto tiff = readPicture(readBytes(folder / "plan.tif"), "plan.tif");
    REQUIRE(tiff.georeference);
    CHECK((*tiff.georeference)[0] == Approx(sheet.corner->x));
    CHECK((*tiff.georeference)[1] == Approx(metres));
    CHECK((*tiff.georeference)[3] == Approx(sheet.corner->y));
    CHECK(tiff.crs == "EPSG:25831");
    CHECK(tiff.width == std::lround(t.width / kPixel));
    // a log has none
    const auto& log = shippedNamed("borehole log");
    writeSheets(log, {"B2"}, *Products().of(p, {}, wantedForSheet(log, "B2")), folder / "log.png", {"", kDots, ""});
    CHECK_FALSE(std::filesystem::exists(folder / "log.pgw"));
}
