// What stands on sheets beside their content: tables, charts, pictures; maps moved in their frames; bands; black and white.
#include "base/files.h"
#include "fixtures.h"
#include "formats/picture.h"
#include "formats/vector.h"
#include "formats/web_text.h"
#include "ground/value_bands.h"
#include "handover/build_file.h"
#include "handover/report_pages.h"
#include "handover/sheet_files.h"
#include "model/geological_map.h"
#include "paper/render.h"
#include "project/sheet_edits.h"
#include "sheets/log_pages.h"
#include "sheets/log_rows.h"
#include "sheets/scale.h"
#include "sheets/sheet.h"
#include "sheets/sheet_chart.h"
#include "sheets/sheet_table.h"
#include "sheets/sheet_values.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>
#include <random>

using namespace fox;
using namespace fox::test;
using namespace fox::paper;

namespace {

const Project& paperSite() {
    static const Project kDemo = buildProject(FOX_DEMO "/quernbeck.build.json").project;
    return kDemo;
}
std::shared_ptr<const ProductSet> paperSiteProducts() {
    static const auto kMade = Products().of(paperSite());
    return kMade;
}

const SheetTemplate& shippedTemplate(const std::string& name) {
    return *std::ranges::find(shippedTemplates(), name, &SheetTemplate::name);
}

double areaOf(const std::vector<Polygon2>& rings) {
    double twice = 0;
    for (const auto& r : rings)
        for (std::size_t i = 0; i < r.size(); ++i) {
            const auto &a = r[i], &b = r[(i + 1) % r.size()];
            twice += a.x * b.y - b.x * a.y;
        }
    return twice / 2;
}

bool holds(const std::vector<Polygon2>& rings, Point2 p) {
    bool inside = false;
    for (const auto& r : rings) inside ^= contains(r, p);
    return inside;
}

SheetTemplate pageWith(SheetElement e) {
    SheetTemplate t;
    t.name = "one", t.kind = SheetKind::Title;
    t.elements = {std::move(e)};
    return t;
}

std::vector<const Item*> itemsOn(const Drawing& page, const std::string& layer) {
    std::vector<const Item*> out;
    for (const auto& i : page.items)
        if (i.layer == layer) out.push_back(&i);
    return out;
}

std::string allWords(const Drawing& page) {
    std::string out;
    for (const auto& i : page.items)
        if (const auto* t = std::get_if<Text>(&i.shape)) out += t->words + "|";
    return out;
}

/// A hole in an AGS file with diameters, casing, progress and a remark.
Project withRows() {
    const TemporaryFolder folder;
    const auto file = folder.write(
        "rows.ags",
        "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\",\"PROJ_NAME\"\r\n\"UNIT\",\"\",\"\"\r\n"
        "\"TYPE\",\"ID\",\"X\"\r\n\"DATA\",\"1\",\"Rows\"\r\n\r\n"
        "\"GROUP\",\"TRAN\"\r\n\"HEADING\",\"TRAN_AGS\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"X\"\r\n\"DATA\",\"4.1\"\r\n\r\n"
        "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\",\"LOCA_FDEP\",\"LOCA_REM\"\r\n"
        "\"UNIT\",\"\",\"m\",\"m\",\"m\",\"m\",\"\"\r\n\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"2DP\",\"2DP\",\"X\"\r\n"
        "\"DATA\",\"BH1\",\"100.00\",\"200.00\",\"30.00\",\"12.00\",\"Backfilled on completion.\"\r\n\r\n"
        "\"GROUP\",\"HDIA\"\r\n\"HEADING\",\"LOCA_ID\",\"HDIA_DPTH\",\"HDIA_DIAM\"\r\n\"UNIT\",\"\",\"m\",\"mm\"\r\n"
        "\"TYPE\",\"ID\",\"2DP\",\"0DP\"\r\n\"DATA\",\"BH1\",\"12.00\",\"150\"\r\n\"DATA\",\"BH1\",\"5.00\",\"200\"\r\n\r\n"
        "\"GROUP\",\"CDIA\"\r\n\"HEADING\",\"LOCA_ID\",\"CDIA_DPTH\",\"CDIA_DIAM\"\r\n\"UNIT\",\"\",\"m\",\"mm\"\r\n"
        "\"TYPE\",\"ID\",\"2DP\",\"0DP\"\r\n\"DATA\",\"BH1\",\"4.50\",\"200\"\r\n\r\n"
        "\"GROUP\",\"PTIM\"\r\n\"HEADING\",\"LOCA_ID\",\"PTIM_DTIM\",\"PTIM_DPTH\",\"PTIM_CAS\",\"PTIM_WAT\"\r\n"
        "\"UNIT\",\"\",\"yyyy-mm-dd\",\"m\",\"m\",\"m\"\r\n\"TYPE\",\"ID\",\"DT\",\"2DP\",\"2DP\",\"2DP\"\r\n"
        "\"DATA\",\"BH1\",\"2026-03-02\",\"12.00\",\"4.50\",\"3.10\"\r\n\"DATA\",\"BH1\",\"2026-03-01\",\"6.00\",\"4.50\","
        "\"\"\r\n\r\n"
        "\"GROUP\",\"WETH\"\r\n\"HEADING\",\"LOCA_ID\",\"WETH_TOP\",\"WETH_BASE\",\"WETH_GRAD\"\r\n\"UNIT\",\"\",\"m\",\"m\","
        "\"\"\r\n"
        "\"TYPE\",\"ID\",\"2DP\",\"2DP\",\"X\"\r\n\"DATA\",\"BH1\",\"7.00\",\"9.00\",\"3\"\r\n\"DATA\",\"BH1\",\"6.00\",\"7.00\","
        "\"2\"\r\n");
    writeBytes(folder.path() / "rows.build.json",
               R"({"format":"fox-cellar-build","version":1,"name":"rows","holes":[{"file":"rows.ags"}]})");
    return buildProject(folder.path() / "rows.build.json").project;
}

} // namespace

TEST_CASE("Bands of a grid are where its values are above their limits", "[sheets][bands]") {
    std::mt19937 random(3);
    constexpr double kInfinite = std::numeric_limits<double>::infinity();
    for (int round = 0; round < 20; ++round) {
        Grid grid(Frame{1000, 2000, 1300, 2200, 10});
        const double a = 0.01 + double(random() % 100) / 2000, b = 0.01 + double(random() % 100) / 2000;
        for (int r = 0; r < grid.frame.rows(); ++r)
            for (int c = 0; c < grid.frame.columns(); ++c) {
                const auto p = grid.frame.centre(c, r);
                grid.at(c, r) = 5 * std::sin(a * (p.x - 1000)) + 4 * std::cos(b * (p.y - 2000));
            }
        const bool hasHole = round % 2;
        for (int r = 5; hasHole && r < 9; ++r)
            for (int c = 8; c < 14; ++c) grid.at(c, r) = kNoValue;
        const std::vector<double> limits{-4, -1, 0, 2.5, 6};
        const auto bands = bandsOf(grid, limits);
        REQUIRE_FALSE(bands.empty());
        CHECK(bands[0].low == -kInfinite);
        double above = kInfinite;
        for (const auto& band : bands) { // each within the one before
            const double area = areaOf(band.rings);
            CHECK(area > 0); // outer rings counter-clockwise
            CHECK(area <= above + 1e-6);
            above = area;
        }
        const double cells = double(std::ranges::count_if(grid.values, [](double v) { return !std::isnan(v); })) * 100;
        CHECK(areaOf(bands[0].rings) == Approx(cells).epsilon(hasHole ? 0.06 : 1e-6));
        for (int r = 1; r + 1 < grid.frame.rows(); ++r)
            for (int c = 1; c + 1 < grid.frame.columns(); ++c)
                for (const auto& band : bands) {
                    const double v = grid.at(c, r);
                    if (std::isnan(v) || std::abs(v - band.low) < 1e-6) continue;
                    CAPTURE(round, c, r, v, band.low);
                    CHECK(holds(band.rings, grid.frame.centre(c, r)) == (v > band.low));
                }
    }
    Grid flat(Frame{0, 0, 100, 100, 10});
    std::ranges::fill(flat.values, 3.0);
    const auto two = bandsOf(flat, {1, 5});
    REQUIRE(two.size() == 2); // nothing is above 5
    CHECK(two[1].low == 1);
    CHECK(areaOf(two[1].rings) == Approx(1e4));
    CHECK(bandsOf(Grid(Frame{0, 0, 100, 100, 10}), {1}).empty());
}

TEST_CASE("A geological map looks through units that are left out", "[sheets][map]") {
    const auto set = paperSiteProducts();
    const auto& units = set->project.sequence->units;
    const auto topsoil = *set->project.sequence->index("TS"), made = *set->project.sequence->index("MG");
    const auto all = geologicalMap(*set->modelGrid, {}), without = geologicalMap(*set->modelGrid, {}, {topsoil, made});
    double before = 0, after = 0;
    for (const auto& a : all) before += a.area;
    for (const auto& a : without) {
        after += a.area;
        CHECK(a.unit != topsoil);
        CHECK(a.unit != made);
    }
    CHECK(after == Approx(before).epsilon(0.001));
    CHECK(without.size() >= 4);
    // cell by cell: the youngest that is left and thicker than is mapped, below those that are looked through
    const auto& grid = *set->modelGrid;
    const auto& f = grid.ground.frame;
    std::size_t same = 0, looked = 0;
    for (int r = 2; r + 2 < f.rows(); r += 7)
        for (int c = 2; c + 2 < f.columns(); c += 7) {
            const auto i = std::size_t(r) * std::size_t(f.columns()) + std::size_t(c);
            if (std::isnan(grid.ground.values[i])) continue;
            double level = grid.ground.values[i] - kMappedThickness;
            std::size_t unit = 0;
            for (; unit < grid.bases.size(); ++unit) {
                if (!(level > grid.bases[unit].values[i])) continue;
                if (unit != topsoil && unit != made) break;
                level = grid.bases[unit].values[i] - kMappedThickness;
            }
            const auto told = unitOn(without, f.centre(c, r));
            ++looked, same += told && *told == unit;
        }
    CHECK(looked > 100);
    CHECK(double(same) > 0.98 * double(looked)); // edges are straight within a cell
    CHECK(geologicalMap(grid, {}, {}).size() == all.size());
    CHECK(units.size() > without.size());
}

TEST_CASE("A map is moved in its frame with its scale kept: what was chosen is in the middle", "[sheets][map]") {
    auto t = shippedTemplate("plan");
    const auto set = paperSiteProducts();
    const auto fitted = fillSheet(t, "", *set, "2026-11-30");
    const auto& hole = *findHole(*paperSite().holes, "R06");
    t.centre = *hole.place();
    t.scale = usualScaleBelow(fitted.scale);
    CHECK(t.scale < fitted.scale);
    CHECK(usualScale(t.scale * 1.01) == fitted.scale);
    const auto moved = fillSheet(t, "", *set, "2026-11-30");
    CHECK(moved.scale == t.scale);
    const auto body = *std::ranges::find(t.elements, SheetElement::Kind::Body, &SheetElement::kind);
    bool found = false;
    for (const auto* item : itemsOn(moved.pages[0], "holes"))
        if (item->name == "R06") {
            const auto& area = std::get<FilledArea>(item->shape);
            Box2 box;
            for (const auto& p : area.rings[0]) box.include(p);
            CHECK(box.centre().x == Approx(body.x + body.width / 2).margin(0.05));
            CHECK(box.centre().y == Approx(body.y + body.height / 2).margin(0.05));
            found = true;
        }
    CHECK(found);
    REQUIRE(moved.corner);
    const double metres = moved.scale / 1000;
    CHECK(moved.corner->x + (body.x + body.width / 2) * metres == Approx(t.centre->x).margin(1e-6));
    CHECK(moved.corner->y - (body.y + body.height / 2) * metres == Approx(t.centre->y).margin(1e-6));
}

TEST_CASE("A plan shows what its frame is told to: lines, points, weights, sizes of names", "[sheets][map]") {
    auto t = shippedTemplate("plan");
    const auto set = paperSiteProducts();
    const auto fill = [&] { return fillSheet(t, "", *set, "2026-11-30").pages[0]; };
    const auto before = fill();
    CHECK(itemsOn(before, "points").empty());
    t.points = true, t.contourPen = 0.4, t.contourColour = "#0000FF", t.labelSize = 3.3;
    const auto page = fill();
    CHECK(itemsOn(page, "points").size() > 1000);
    for (const auto* item : itemsOn(page, "contours"))
        if (const auto* line = std::get_if<Line>(&item->shape)) {
            CHECK((line->pen.width == Approx(0.4) || line->pen.width == Approx(0.8)));
            CHECK(line->pen.colour.blue == 255);
        }
    for (const auto* item : itemsOn(page, "hole names")) CHECK(std::get<Text>(item->shape).size == Approx(3.3));
    t.gridLines = true;
    std::size_t longest = 0;
    const auto lined = fill();
    for (const auto* item : itemsOn(lined, "grid"))
        if (const auto* line = std::get_if<Line>(&item->shape))
            longest = std::max(
                longest, std::size_t(std::hypot(line->points[1].x - line->points[0].x, line->points[1].y - line->points[0].y)));
    CHECK(longest > 200); // over the whole frame, millimetres
    t.holes = t.contours = t.lines = t.grid = t.points = t.background = false;
    const auto bare = fill();
    for (const char* layer : {"holes", "contours", "section lines", "faults", "grid", "points", "background"})
        CHECK(itemsOn(bare, layer).empty());
}

TEST_CASE("In black and white a sheet has no colour, and units stay apart by their patterns", "[sheets][paper]") {
    const auto set = paperSiteProducts();
    for (const char* name : {"borehole log", "section", "geological map", "contour map", "key to units", "plan", "correlation"}) {
        auto t = shippedTemplate(name);
        t.blackAndWhite = true;
        const auto item = itemsFor(t, paperSite()).front();
        CAPTURE(name, item);
        const auto colourless = [](Colour c) { return c.red == c.green && c.green == c.blue; };
        std::set<Pattern> patterns;
        const auto filled = fillSheet(t, item, *set, "2026-11-30");
        for (const auto& page : filled.pages)
            for (const auto& i : page.items) {
                if (const auto* line = std::get_if<Line>(&i.shape)) CHECK(colourless(line->pen.colour));
                if (const auto* text = std::get_if<Text>(&i.shape)) CHECK(colourless(text->colour));
                if (const auto* area = std::get_if<FilledArea>(&i.shape)) {
                    if (area->outline) CHECK(colourless(area->outline->colour));
                    if (area->fill.colour) CHECK(colourless(*area->fill.colour));
                    if (area->fill.pattern != Pattern::None) {
                        CHECK(area->fill.patternInk == Colour{0, 0, 0, 255});
                        CHECK(area->fill.colour->red == 255);
                        patterns.insert(area->fill.pattern);
                    }
                }
            }
        if (std::string(name) == "key to units") CHECK(patterns.size() > 5);
    }
    // and so has a picture
    Picture red{2, 1, {255, 0, 0, 255, 0, 0, 255, 128}, {}, ""};
    Drawing drawing;
    Image image{std::make_shared<Picture>(red), {}, 1};
    image.box.include({0, 0}), image.box.include({10, 5});
    drawing.add("picture", "", image);
    toBlackAndWhite(drawing);
    const auto& grey = *std::get<Image>(drawing.items[0].shape).picture;
    CHECK(grey.rgba == std::vector<std::uint8_t>{76, 76, 76, 255, 29, 29, 29, 128});
}

TEST_CASE("Charts and tables stand in their boxes; what is not there is named", "[sheets]") {
    const auto set = paperSiteProducts();
    const auto charts = sheetCharts(*set);
    std::set<std::string> keys;
    for (const auto& [key, words] : charts) {
        CAPTURE(key, words);
        CHECK(keys.insert(key).second);
        CHECK_FALSE(words.empty());
        SheetElement e{SheetElement::Kind::Chart, 30, 40, 110, 75};
        e.what = key;
        const auto sheet = fillSheet(pageWith(e), "", *set, "2026-11-30");
        CHECK(sheet.missing.empty());
        CHECK(sheet.pages[0].items.size() > 8);
        for (const auto& item : sheet.pages[0].items)
            if (const auto* area = std::get_if<FilledArea>(&item.shape))
                for (const auto& ring : area->rings)
                    for (const auto& p : ring) {
                        CHECK((p.x > 29 && p.x < 141));
                        CHECK((p.y > 39 && p.y < 116));
                    }
    }
    CHECK(keys.contains("water"));
    CHECK(keys.contains("values:SPT N"));
    CHECK(std::ranges::any_of(keys, [](const auto& k) { return k.starts_with("variogram:"); }));
    for (const char* gone : {"values:no such test", "variogram:XX", "water colour", ""}) {
        SheetElement e{SheetElement::Kind::Chart, 30, 40, 110, 75};
        e.what = gone;
        CHECK(fillSheet(pageWith(e), "", *set, "2026-11-30").missing.size() == 1);
    }
    for (const auto& [key, words] : sheetTables()) {
        const auto rows = tableRows(key, *set);
        REQUIRE(rows.size() > 1);
        for (const auto& row : rows) CHECK(row.size() == rows[0].size());
        SheetElement e{SheetElement::Kind::Table, 10, 10, 190, 277};
        e.what = key;
        const auto sheet = fillSheet(pageWith(e), "", *set, "2026-11-30");
        CHECK(sheet.overfull == 0);
        CHECK(allWords(sheet.pages[0]).find(rows.back()[0]) != std::string::npos);
        e.height = 8;
        CHECK(fillSheet(pageWith(e), "", *set, "2026-11-30").overfull > 0); // rows that find no room are counted
    }
    CHECK(tableRows("holes", *set).size() == paperSite().holes->size() + 1);
    CHECK(tableRows("chairs", *set).empty());
}

TEST_CASE("A table that is too wide is set in narrower columns and smaller letters before a word is broken", "[sheets]") {
    const TableRows rows{{"Name of it", "Figure"}, {"one two three four five six seven", "123456"}, {"unbreakableword", "7"}};
    const auto widest = [&](double wide) {
        Box2 box;
        box.include({0, 0}), box.include({wide, 100});
        return layOutTable(rows, box, box);
    };
    for (const double wide : {150.0, 60.0, 40.0, 32.0}) {
        const auto table = widest(wide);
        REQUIRE(table.pages.size() == 1);
        CHECK(table.overfull == 0);
        std::string words;
        double size = 0;
        for (const auto& item : table.pages[0])
            if (const auto* text = std::get_if<Text>(&item.shape)) {
                words += text->words + "|", size = text->size;
                CHECK(text->at.x <= wide + 1e-6);
            }
        CAPTURE(wide, words, size);
        CHECK(words.find("unbreakableword|") != std::string::npos);
        CHECK(words.find("123456|") != std::string::npos);
        CHECK(size <= 2.6);
    }
}

TEST_CASE("A variogram on a sheet goes through the values of its model", "[sheets][variogram]") {
    const auto set = paperSiteProducts();
    for (std::size_t u = 0; u < set->model->bases.size(); ++u) {
        const auto& base = *set->model->bases[u];
        const auto chart = drawVariogram(base, 120, 80);
        if (base.isAutomatic() || !hasVariogram(base.fit.settings.method)) {
            CHECK_FALSE(chart);
            continue;
        }
        REQUIRE(chart);
        const auto lines = itemsOn(*chart, "variogram");
        REQUIRE(lines.size() == 1);
        const auto& points = std::get<Line>(lines[0]->shape).points;
        for (std::size_t i = 1; i < points.size(); ++i) CHECK(points[i].y <= points[i - 1].y + 1e-9); // it never falls
        CHECK(itemsOn(*chart, "pairs").size() == empiricalVariogram(variogramPoints(base)).size());
    }
}

TEST_CASE("A picture fills its box in its own proportions, on screen and in files", "[sheets]") {
    const TemporaryFolder folder;
    Picture logo{40, 20, std::vector<std::uint8_t>(40 * 20 * 4, 255), {}, ""};
    for (std::size_t i = 0; i < logo.rgba.size(); i += 4) logo.rgba[i + 1] = logo.rgba[i + 2] = 0; // red
    writePicture(folder.path() / "logo.png", logo);
    SheetElement e{SheetElement::Kind::Picture, 20, 30, 60, 60};
    e.picture = base64(readBytes(folder.path() / "logo.png"));
    CHECK(fromBase64(e.picture) == readBytes(folder.path() / "logo.png"));
    const auto set = paperSiteProducts();
    const auto sheet = fillSheet(pageWith(e), "", *set, "2026-11-30");
    CHECK(sheet.missing.empty());
    const auto items = itemsOn(sheet.pages[0], "picture");
    REQUIRE(items.size() == 1);
    const auto& image = std::get<Image>(items[0]->shape);
    CHECK(image.box.width() == Approx(60));
    CHECK(image.box.height() == Approx(30));
    CHECK(image.box.centre().y == Approx(60));
    prepareSheets(pageWith(e), {""}, *set, folder.path() / "page.png", {"", 50, "2026-11-30"}).files.commit();
    const auto page = readPicture(readBytes(folder.path() / "page.png"), "page.png");
    const auto at = [&](double x, double y) {
        const auto i = 4 * (std::size_t(y / 25.4 * 50) * std::size_t(page.width) + std::size_t(x / 25.4 * 50));
        return std::array{page.rgba[i], page.rgba[i + 1], page.rgba[i + 2]};
    };
    CHECK(at(50, 60) == std::array<std::uint8_t, 3>{255, 0, 0});
    CHECK(at(50, 35) == std::array<std::uint8_t, 3>{255, 255, 255});
    for (const char* bad : {"", "AAAA", "not base64 at all"}) {
        e.picture = bad;
        CHECK(fillSheet(pageWith(e), "", *set, "2026-11-30").missing.size() == 1);
    }
}

TEST_CASE("Diameters, casing, progress and remarks are read from their groups", "[sheets][log]") {
    const auto project = withRows();
    const auto set = Products().of(project, {}, {ProductKind::ImportedTables});
    const auto& hole = *findHole(*project.holes, "BH1");
    const auto diameters = diametersOf(hole, *set);
    REQUIRE(diameters.size() == 3);
    CHECK((diameters[0].isCasing && diameters[0].depth == 4.5 && diameters[0].millimetres == 200));
    CHECK((!diameters[1].isCasing && diameters[1].depth == 5 && diameters[1].millimetres == 200));
    CHECK((!diameters[2].isCasing && diameters[2].depth == 12 && diameters[2].millimetres == 150));
    const auto progress = progressTexts(hole, *set);
    REQUIRE(progress.size() == 2);
    CHECK(progress[0].words == "2026-03-01 hole 6.00, casing 4.50");
    CHECK(progress[1].words == "2026-03-02 hole 12.00, casing 4.50, water 3.10");
    const auto remarks = remarkTexts(hole, *set);
    REQUIRE(remarks.size() == 1);
    CHECK(remarks[0].words == "Backfilled on completion.");
    const auto grades = fieldTexts(hole, "WETH.WETH_GRAD", *set);
    REQUIRE(grades.size() == 2);
    CHECK(grades[0].words == "2");
    CHECK(lacksUnit(hole, "WETH.WETH_GRAD", *set));
    const auto fields = depthFields(*set);
    CHECK(std::ranges::count(fields, "WETH.WETH_GRAD") == 1);
    CHECK(std::ranges::count_if(fields, [](const auto& f) { return f.starts_with("PROJ.") || f.ends_with("LOCA_ID"); }) == 0);
    for (const auto& f : fields) CHECK_NOTHROW(fieldTexts(hole, f, *set));
    CHECK_FALSE(lacksUnit(hole, "PTIM.PTIM_CAS", *set));
    // any heading can be put into a text: the hole's first row
    const auto values = sheetValues(SheetKind::Log, *set);
    for (const char* key : {"ags:WETH.WETH_GRAD", "ags:PTIM.PTIM_CAS", "ags:LOCA.LOCA_REM", "ags:PROJ.PROJ_NAME"})
        CHECK(std::ranges::count(values, key, &SheetValue::key) == 1);
    CHECK(std::ranges::count(sheetValues(SheetKind::Plan, *set), "ags:WETH.WETH_GRAD", &SheetValue::key) == 0);
    SheetContext context;
    context.products = set.get(), context.hole = &hole, context.item = "BH1";
    CHECK(valueOf("ags:PTIM.PTIM_CAS", context) == "4.50");
    CHECK(fieldTexts(hole, "WETH", *set).empty());
    CHECK(fieldTexts(hole, "NONE.SUCH", *set).empty());
    // on paper
    auto t = shippedTemplate("borehole log");
    t.columns = {{LogColumn::Kind::Depth, 14, "Depth, ft"},
                 {LogColumn::Kind::Diameter, 20, "Diameter"},
                 {LogColumn::Kind::Progress, 60, "Progress"},
                 {LogColumn::Kind::Remarks, 40, "Remarks"},
                 {LogColumn::Kind::Field, 20, "Grade", "WETH.WETH_GRAD"}};
    t.columns[0].feet = true;
    const auto sheet = fillSheet(t, "BH1", *set, "2026-11-30");
    CHECK(sheet.overfull == 0);
    CHECK(sheet.withoutUnit == std::vector<std::string>{"WETH.WETH_GRAD"});
    std::string words;
    for (const auto& page : sheet.pages) words += allWords(page);
    for (const char* said : {"150|", "200|", "Backfilled on completion.|", "2026-03-01 hole 6.00, casing 4.50|"}) {
        CAPTURE(said, words);
        CHECK(words.find(said) != std::string::npos);
    }
    // a foot down is at 0.3048 m
    const double perMetre = 1000 / sheet.scale;
    std::optional<double> y20, y10;
    for (const auto* item : itemsOn(sheet.pages[0], "scale"))
        if (const auto* text = std::get_if<Text>(&item->shape)) {
            if (text->words == "20") y20 = text->at.y;
            if (text->words == "10") y10 = text->at.y;
        }
    REQUIRE((y20 && y10));
    CHECK(*y20 - *y10 == Approx(10 * 0.3048 * perMetre).margin(0.01));
}

TEST_CASE("Columns have the ticks, colours and patterns that are chosen", "[sheets][log]") {
    const auto set = paperSiteProducts();
    auto t = shippedTemplate("borehole log");
    t.columns = {{LogColumn::Kind::Depth, 14, "Depth"},
                 {LogColumn::Kind::Units, 20, "Units"},
                 {LogColumn::Kind::Codes, 20, "Codes", "GEOL_GEOL"}};
    const auto page = [&] { return fillSheet(t, "QB102", *set, "2026-11-30").pages[0]; };
    const auto ticks = [&] {
        std::size_t n = 0;
        const auto drawn = page();
        for (const auto* item : itemsOn(drawn, "scale")) n += std::holds_alternative<Line>(item->shape);
        return n;
    };
    t.columns[0].step = 0.5;
    const double deep = findHole(*paperSite().holes, "QB102")->end().metres;
    CHECK(ticks() == std::size_t(std::floor(deep / 0.5)) + 1);
    t.columns[0].step = 5;
    CHECK(ticks() == std::size_t(std::floor(deep / 5)) + 1);
    for (const bool colours : {true, false})
        for (const bool patterns : {true, false}) {
            t.columns[1].colours = colours, t.columns[1].patterns = patterns;
            bool hasColour = false, hasPattern = false;
            const auto drawn = page();
            for (const auto* item : itemsOn(drawn, "units")) {
                const auto& fill = std::get<FilledArea>(item->shape).fill;
                hasColour |= fill.colour && *fill.colour != kWhite, hasPattern |= fill.pattern != Pattern::None;
            }
            CHECK(hasColour == colours);
            CHECK(hasPattern == patterns);
        }
    const auto words = page();
    CHECK(itemsOn(words, "codes").empty());
    CHECK(allWords(words).find("|TL|") != std::string::npos);
    t.columns[2].asColour = true;
    const auto coloured = page();
    CHECK(itemsOn(coloured, "codes").size() >= 3);
    CHECK(allWords(coloured).find("|TL|") == std::string::npos);
    // metres a page: so many of them are in the room of the body
    const auto body = *std::ranges::find(t.elements, SheetElement::Kind::Body, &SheetElement::kind);
    t.scale = 1000 * 8 / logRoom(body.height);
    const auto sheet = fillSheet(t, "QB102", *set, "2026-11-30");
    CHECK(sheet.pages.size() >= std::size_t(std::ceil(deep / 8.0)));
}

TEST_CASE("Several values stand in one column, each with its sign; a curve is filled to a side", "[sheets][log]") {
    Project p;
    auto h = hole("W1", 100, 200, 30, {{10, "A"}});
    const auto curve = [](const char* name, const char* unit, bool single, double at) {
        Curve c;
        c.name = name, c.unit = unit, c.single = single;
        std::vector<Curve::Reading> readings;
        for (int i = 0; i < 20; ++i) readings.push_back({0.5 * i, at + i});
        c.readings = std::make_shared<const std::vector<Curve::Reading>>(std::move(readings));
        return c;
    };
    h.curves = {curve("vane", "kPa", true, 10), curve("penetrometer", "", true, 20), curve("GR", "API", false, 30)};
    Holes holes;
    holes.push_back(h);
    giveNames(holes);
    p.holes = part(std::move(holes));
    p.sequence = part(sequence({"A", "B"}));
    const auto set = Products().of(p, {}, {ProductKind::ImportedTables});
    auto t = shippedTemplate("borehole log");
    t.columns = {{LogColumn::Kind::Values, 50, "Strength", "vane, penetrometer"}, {LogColumn::Kind::Curve, 50, "Gamma", "GR"}};
    t.columns[1].filled = LogColumn::Filled::Right;
    const auto sheet = fillSheet(t, "W1", *set, "2026-11-30");
    CHECK(sheet.withoutUnit == std::vector<std::string>{"penetrometer"});
    std::map<std::size_t, std::set<std::string>> corners; // colours by how many corners a sign has
    std::size_t signs = 0, filled = 0;
    for (const auto* item : itemsOn(sheet.pages[0], "graphs"))
        if (const auto* area = std::get_if<FilledArea>(&item->shape)) {
            if (area->rings[0].size() > 10 && area->fill.colour->alpha == 70) {
                ++filled;
                double right = 0;
                for (const auto& q : area->rings[0]) right = std::max(right, q.x);
                CHECK(right == Approx(112).margin(0.01)); // the right edge of the second column
                continue;
            }
            ++signs;
            corners[area->rings[0].size()].insert(fmt::format("{:02x}{:02x}", area->fill.colour->red, area->fill.colour->green));
        }
    CHECK(signs == 40);
    CHECK(corners.size() == 2); // circles, squares
    CHECK(filled == 1);
    const auto words = allWords(sheet.pages[0]);
    CHECK(words.find("vane|") != std::string::npos);
    CHECK(words.find("penetrometer|") != std::string::npos);
}

TEST_CASE("Holes have the layout of their name, of their kind, or the sheet's", "[sheets][report]") {
    auto sheet = reportEntry(shippedTemplate("borehole log"));
    const auto pushed = std::ranges::find_if(*paperSite().holes, [](const Hole& h) { return kindOf(h) == HoleKind::Pushed; });
    REQUIRE(pushed != paperSite().holes->end());
    const auto name = displayName(*paperSite().holes, *pushed);
    CHECK(&layoutFor(sheet, name, paperSite()) == &sheet.layout);
    sheet.others.emplace("pushed", shippedTemplate("sounding log"));
    CHECK(layoutFor(sheet, name, paperSite()).name == "sounding log");
    CHECK(layoutFor(sheet, "QB101", paperSite()).name == "borehole log");
    sheet.others.emplace("QB101", shippedTemplate("well log"));
    sheet.others.emplace(name, shippedTemplate("borehole log with index plan"));
    CHECK(layoutFor(sheet, "QB101", paperSite()).name == "well log");
    CHECK(layoutFor(sheet, name, paperSite()).name == "borehole log with index plan");
    CHECK(reportEntryOf(toJson(sheet)) == sheet);
    // so they are printed
    sheet.all = false, sheet.items = {"QB101", "QB102", name};
    const auto project = addSheet(paperSite(), sheet).project;
    const auto set = Products().of(project, {}, wantedForReport(project));
    const auto report = fillReport(*set, "2026-11-30");
    REQUIRE(report.size() == 1);
    REQUIRE(report[0].filled.size() == 3);
    CHECK(allWords(report[0].filled[0].pages[0]).find("Well log") != std::string::npos);
    CHECK(allWords(report[0].filled[1].pages[0]).find("Borehole log") != std::string::npos);
}

TEST_CASE("A drawing as DXF has its lines, words and areas where they are, on layers by what they are", "[sheets][dxf]") {
    const TemporaryFolder folder;
    auto t = shippedTemplate("section");
    const auto set = paperSiteProducts();
    prepareSheets(t, {"A"}, *set, folder.path() / "a.dxf", {"", 150, "2026-11-30"}).files.commit();
    const auto sheet = fillSheet(t, "A", *set, "2026-11-30");
    const auto text = readBytes(folder.path() / "a.dxf");
    std::set<std::string> layers;
    for (const auto& item : sheet.pages[0].items) layers.insert(item.layer);
    CHECK(layers.size() > 4);
    std::size_t named = 0;
    for (const auto& l : layers) named += text.find(l) != std::string::npos;
    CHECK(named == layers.size());
    for (const auto& item : sheet.pages[0].items)
        if (const auto* words = std::get_if<Text>(&item.shape);
            words && words->words.find_first_not_of("ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789 ") == std::string::npos) {
            CAPTURE(words->words);
            CHECK(text.find(words->words) != std::string::npos);
        }
    // the frame of the section, read back in millimetres: up is up
    const auto back = readVector(folder.path() / "a.dxf");
    Box2 all;
    for (const auto& layer : back)
        for (const auto& feature : layer.features)
            for (const auto& line : feature.parts)
                for (const auto& p : line) all.include({p.x, p.y});
    CHECK(all.width() == Approx(400).margin(2)); // A3 less its margins
    CHECK(all.height() == Approx(277).margin(2));
}

TEST_CASE("A frame on a page has what a sheet of its kind has, in its box; one that is gone is named", "[sheets]") {
    const auto set = paperSiteProducts();
    const auto frame = [&](const std::string& what) {
        SheetElement e{SheetElement::Kind::Frame, 20, 30, 160, 100};
        e.what = what;
        return fillSheet(pageWith(e), "", *set, "2026-11-30");
    };
    for (const auto& [what, layer] : {std::pair{"plan", "holes"},
                                      {"map", "map"},
                                      {"section:A", "bases"},
                                      {"correlation:A", "between"},
                                      {"log:QB102", "units"},
                                      {"contours:RG", "bands"}}) {
        const auto sheet = frame(what);
        CAPTURE(what);
        CHECK(sheet.missing.empty());
        CHECK_FALSE(itemsOn(sheet.pages[0], layer).empty());
        for (const auto& item : sheet.pages[0].items)
            if (const auto* text = std::get_if<Text>(&item.shape)) {
                CHECK((text->at.x >= 19 && text->at.x <= 181));
                CHECK((text->at.y >= 29 && text->at.y <= 131));
            }
    }
    for (const char* gone : {"section:ZZ", "log:nobody", "key", "poster", "", "log"}) {
        CAPTURE(gone);
        const std::vector filled{frame(gone)};
        CHECK(filled[0].missing.size() == 1);
        const auto notes = notesOn(filled, "one");
        REQUIRE(notes.size() == 1);
        CHECK(notes[0].starts_with("There is nothing to show for the frame"));
    }
    CHECK(notesOn(std::vector{frame("plan")}, "one").empty());
    // on a page of a section, a frame without a name is of that section
    auto t = shippedTemplate("section");
    SheetElement e{SheetElement::Kind::Frame, 20, 30, 160, 100};
    e.what = "correlation";
    t.elements.push_back(e);
    const auto page = fillSheet(t, "A", *set, "2026-11-30");
    CHECK(page.missing.empty());
    CHECK_FALSE(itemsOn(page.pages[0], "between").empty());
    // what a frame needs is asked for
    SheetElement needs{SheetElement::Kind::Frame, 20, 30, 160, 100};
    needs.what = "section:A";
    CHECK(wantedForSheet(pageWith(needs), "").sections.contains("A"));
    needs.what = "map";
    CHECK(wantedForSheet(pageWith(needs), "").has(ProductKind::Grids));
}

TEST_CASE("A section on paper has levels on both sides, other sections, tests beside holes, and its band", "[sheets]") {
    const auto set = paperSiteProducts();
    auto t = shippedTemplate("section");
    const auto plain = fillSheet(t, "A", *set, "2026-11-30");
    std::map<std::string, std::size_t> said;
    for (const auto* item : itemsOn(plain.pages[0], "scales"))
        if (const auto* text = std::get_if<Text>(&item->shape)) ++said[text->words];
    std::size_t twice = 0;
    for (const auto& [words, count] : said) twice += count == 2;
    CHECK(twice >= 3);
    std::set<std::string> crossing;
    for (const auto* item : itemsOn(plain.pages[0], "crossings")) crossing.insert(item->name);
    CHECK(crossing == std::set<std::string>{"B"});
    CHECK(itemsOn(plain.pages[0], "graphs").empty());
    CHECK(itemsOn(plain.pages[0], "uncertainty").empty());
    bool hasPattern = false;
    for (const auto* item : itemsOn(plain.pages[0], "holes"))
        hasPattern |= std::get<FilledArea>(item->shape).fill.pattern != Pattern::None;
    CHECK(hasPattern);
    t.beside = "SPT N", t.uncertainty = true;
    const auto rich = fillSheet(t, "A", *set, "2026-11-30");
    CHECK_FALSE(itemsOn(rich.pages[0], "graphs").empty());
    const auto bands = itemsOn(rich.pages[0], "uncertainty");
    REQUIRE_FALSE(bands.empty());
    // one over and one under its base, at the holes near it
    const auto& section = *set->sections[0];
    for (const auto* item : bands) {
        const auto u = *set->project.sequence->index(item->name);
        CHECK_FALSE(std::isnan(*std::ranges::max_element(section.deviations[u])));
        CHECK_FALSE(std::get<Line>(item->shape).pen.dashes.empty());
    }
    CHECK(bands.size() % 2 == 0);
}

TEST_CASE("A title block stands along the foot of a page of any size", "[sheets]") {
    for (const auto& [wide, high] : {std::pair(210.0, 297.0), {420.0, 297.0}, {841.0, 594.0}}) {
        const auto block = titleBlock(SheetKind::Plan, wide, high, "Plan");
        CHECK(block.size() > 8);
        std::string keys;
        for (const auto& e : block) {
            CHECK((e.x >= 0 && e.x + e.width <= wide && e.y >= 0 && e.y + e.height <= high));
            for (const auto& r : e.text) keys += r.value + "|";
        }
        for (const char* key : {"project.name", "project.client", "scale", "date", "page"})
            CHECK(keys.find(key) != std::string::npos);
    }
}
