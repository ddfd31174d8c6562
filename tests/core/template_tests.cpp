// Sheets: templates, what they are filled with, and the files that come of it.
#include "fixtures.h"
#include "handover/sheet_files.h"
#include "paper/render.h"
#include "sheets/depth_texts.h"
#include "sheets/sheet.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

using namespace fox;
using namespace fox::test;
using paper::Drawing;
using paper::Item;

namespace {

const SheetTemplate& shipped(const std::string& name) {
    for (const auto& t : shippedTemplates())
        if (t.name == name) return t;
    throw std::runtime_error("no template " + name);
}

std::shared_ptr<const ProductSet> productsFor(const Project& project, const SheetTemplate& t,
                                              const std::vector<std::string>& items) {
    return Products().of(project, {}, wantedForSheets(t, items));
}

/// The room that a text takes on the page.
Box2 roomOf(const paper::Text& text) {
    const auto size = paper::measure(text);
    double left = text.at.x, top = text.at.y;
    if (text.align == paper::Text::Align::Centre) left -= size.width / 2;
    if (text.align == paper::Text::Align::Right) left -= size.width;
    if (text.anchor == paper::Text::Anchor::Middle) top -= size.height / 2;
    if (text.anchor == paper::Text::Anchor::Baseline) top -= text.size;
    Box2 out;
    out.include({left, top});
    out.include({left + size.width, top + size.height});
    return out;
}

/// Every upright text of a page, and what it says.
std::vector<std::pair<Box2, std::string>> textsOf(const Drawing& page, const std::string& layer = "") {
    std::vector<std::pair<Box2, std::string>> out;
    for (const auto& item : page.items)
        if (const auto* text = std::get_if<paper::Text>(&item.shape); text && text->turn == 0 && !text->words.empty())
            if (layer.empty() || item.layer == layer) out.emplace_back(roomOf(*text), text->words);
    return out;
}

std::string wordsOf(const Drawing& page) {
    std::string out;
    for (const auto& [room, words] : textsOf(page)) out += words + "\n";
    return out;
}

/// Two texts share more than a sliver of the page.
bool sharePaper(const Box2& a, const Box2& b) {
    const double wide = std::min(a.xmax, b.xmax) - std::max(a.xmin, b.xmin),
                 high = std::min(a.ymax, b.ymax) - std::max(a.ymin, b.ymin);
    return wide > 0.3 && high > 0.8;
}

void checkPages(const FilledSheet& sheet, const SheetTemplate& t) {
    for (const auto& page : sheet.pages) {
        const auto texts = textsOf(page);
        for (std::size_t i = 0; i < texts.size(); ++i) {
            CAPTURE(t.name, sheet.item, texts[i].second);
            CHECK(texts[i].first.xmin >= -0.01);
            CHECK(texts[i].first.xmax <= t.width + 0.01);
            CHECK(texts[i].first.ymin >= -0.01);
            CHECK(texts[i].first.ymax <= t.height + 0.5);
            for (std::size_t j = 0; j < i; ++j) {
                CAPTURE(texts[j].second);
                CHECK_FALSE(sharePaper(texts[i].first, texts[j].first));
            }
        }
    }
}

std::string randomWords(std::mt19937& random, int most) {
    static const char* kWords[] = {
        "firm",   "dark-grey", "slightly", "sandy", "CLAY",       "with", "occasional", "subrounded-to-rounded",
        "gravel", "of",        "flint.",   "Ø",     "(weathered)"};
    std::string out;
    for (int n = 1 + int(random() % unsigned(most)); n-- > 0;)
        out += (out.empty() ? "" : " ") + std::string(kWords[random() % std::size(kWords)]);
    return out;
}

/// One hole with strata of all thicknesses and descriptions of all lengths.
Project randomLog(unsigned seed) {
    std::mt19937 random(seed);
    Project p;
    Holes holes;
    Hole h = hole("LONG-NAME/" + std::to_string(seed), 100, 100, 20, {{1, "A"}});
    h.intervals.clear();
    double top = 0;
    for (int n = 2 + int(random() % 30); n-- > 0;) {
        const double base = top + 0.05 + double(random() % 400) / 100;
        h.intervals.push_back({Depth{top}, Depth{base}, randomWords(random, 60), {{"GEOL_GEOL", random() % 2 ? "A" : "B"}}, 0});
        if (random() % 2)
            h.samples.push_back({.top = Depth{top}, .base = Depth{base}, .type = "U", .reference = std::to_string(n)});
        top = base;
    }
    h.finalDepth = Depth{top};
    holes.push_back(h);
    p.holes = part(std::move(holes));
    p.sequence = part(sequence({"A", "B"}));
    return p;
}

} // namespace

TEST_CASE("Templates are the same after a way through their file", "[sheets]") {
    CHECK(shippedTemplates().size() >= 12);
    std::set<std::string> names;
    for (const auto& t : shippedTemplates()) {
        CAPTURE(t.name);
        CHECK(names.insert(t.name).second);
        CHECK(templateOf(nlohmann::json::parse(toJson(t).dump())) == t);
    }
    std::mt19937 random(5);
    const auto length = [&] { return 1 + double(random() % 4000) / 10; };
    for (int round = 0; round < 300; ++round) {
        SheetTemplate t{.name = randomWords(random, 4),
                        .kind = SheetKind(random() % 10),
                        .width = 20 + length(),
                        .height = 20 + length(),
                        .elements = {},
                        .columns = {}};
        t.scale = random() % 2 ? 0 : length(), t.verticalScale = random() % 2 ? 0 : length();
        t.holes = random() % 2, t.grid = random() % 2, t.lines = random() % 2, t.uncertainty = random() % 2;
        t.background = random() % 2, t.points = random() % 2, t.gridLines = random() % 2, t.blackAndWhite = random() % 2;
        t.contourPen = length() / 100, t.labelSize = 0.5 + length() / 100, t.contourColour = random() % 2 ? "#112233" : "";
        if (random() % 2) t.without = {"TS", "MG"};
        if (random() % 2) t.beside = "SPT N";
        if (random() % 2) t.centre = Point2{length() * 1e3, length() * 1e4}, t.area = random() % 2 ? randomWords(random, 2) : "";
        for (unsigned n = random() % 6; n-- > 0;) {
            SheetElement e{SheetElement::Kind(random() % 12), length(), length(), length(), length(),
                           SheetElement::Pages(random() % 3)};
            if (e.kind == SheetElement::Kind::Text) {
                e.text = {{randomWords(random, 3), ""}, {"", "hole.name", random() % 2 ? "–" : ""}};
                e.size = length() / 10 + 0.5, e.strong = random() % 2, e.align = SheetElement::Align(random() % 3);
            }
            if (e.kind == SheetElement::Kind::Line || e.kind == SheetElement::Kind::Box) e.pen = length() / 100;
            if (e.kind == SheetElement::Kind::Chart || e.kind == SheetElement::Kind::Table || e.kind == SheetElement::Kind::Frame)
                e.what = randomWords(random, 1);
            if (e.kind == SheetElement::Kind::Picture) e.picture = "iVBORw0KGgo=", e.what = random() % 2 ? "block" : "";
            t.elements.push_back(e);
        }
        for (unsigned n = random() % 6; n-- > 0;) {
            LogColumn c{LogColumn::Kind(random() % 18), length(), randomWords(random, 2)};
            if (random() % 2) c.low = 1, c.high = 1 + length();
            c.heading = random() % 2 ? "GR" : "", c.logarithmic = random() % 2;
            c.filled = LogColumn::Filled(random() % 3), c.feet = random() % 2;
            c.step = random() % 2 ? 0 : length() / 10, c.colours = random() % 2, c.patterns = random() % 2,
            c.asColour = random() % 2;
            t.columns.push_back(c);
        }
        CHECK(templateOf(nlohmann::json::parse(toJson(t).dump())) == t);
    }
}

TEST_CASE("A template that can't be says what is wrong with it", "[sheets]") {
    const auto good = toJson(shipped("borehole log"));
    const auto with = [&](const char* pointer, nlohmann::json value) {
        auto j = good;
        j[nlohmann::json::json_pointer(pointer)] = std::move(value);
        return j;
    };
    for (const auto& [json, said] : {std::pair{nlohmann::json(7), "format"},
                                     {with("/format", "other"), "format"},
                                     {with("/version", 99), "version"},
                                     {with("/kind", "poster"), "poster"},
                                     {with("/width", -3), "width"},
                                     {with("/width", "wide"), "can't be read"},
                                     {with("/height", 1e9), "height"},
                                     {with("/scale", -5), "scale"},
                                     {with("/scale", 1e-300), "scale"},
                                     {with("/vertical_scale", 1e300), "scale"},
                                     {with("/elements/0/type", "cloud"), "cloud"},
                                     {with("/elements/0/box", {1, 2}), "can't be read"},
                                     {with("/elements/0/box/1", 1e7), "box"},
                                     {with("/elements/0/pages", "some"), "pages"},
                                     {with("/contour_pen", -1), "contour_pen"},
                                     {with("/label_size", 1e9), "label_size"},
                                     {with("/centre", {1}), "can't be read"},
                                     {with("/without", 3), "can't be read"},
                                     {with("/columns/0/filled", "half"), "filled"},
                                     {with("/columns/0/kind", "moon"), "moon"},
                                     {with("/columns/0/width", 0), "width"},
                                     {with("/elements", "none"), "can't be read"}}) {
        CAPTURE(json.dump().substr(0, 200));
        try {
            templateOf(json);
            FAIL("it was taken");
        } catch (const Error& e) {
            CHECK(std::string(e.what()).find(said) != std::string::npos);
        }
    }
}

TEST_CASE("Random logs: no text is lost, cut or over another one", "[sheets]") {
    const auto& t = shipped("borehole log");
    for (unsigned seed = 1; seed <= 25; ++seed) {
        const auto project = randomLog(seed);
        const auto name = itemsFor(t, project).at(0);
        for (const double scale : {0.0, 25.0, 100.0}) {
            auto scaled = t;
            scaled.scale = scale;
            const auto sheet = fillSheet(scaled, name, *productsFor(project, scaled, {name}), "2026-01-01");
            CAPTURE(seed, scale);
            CHECK(sheet.overfull == 0);
            if (scale > 0) CHECK(sheet.scale == scale);
            checkPages(sheet, scaled);
            std::string all;
            for (const auto& page : sheet.pages)
                for (const auto& item : page.items)
                    if (const auto* text = std::get_if<paper::Text>(&item.shape); text && item.name == "interval")
                        all += text->words + " ";
            std::string wanted;
            for (const auto& i : (*project.holes)[0].intervals) wanted += i.description + " ";
            const auto letters = [](std::string s) {
                std::erase(s, ' ');
                return s;
            };
            CHECK(letters(all) == letters(wanted)); // every letter, in order of depth
        }
    }
}

TEST_CASE("A log's strata have the height that the scale says, over as many pages as it takes", "[sheets]") {
    auto t = shipped("borehole log");
    t.scale = 50;
    for (unsigned seed = 30; seed < 40; ++seed) {
        const auto project = randomLog(seed);
        const auto name = itemsFor(t, project).at(0);
        const auto sheet = fillSheet(t, name, *productsFor(project, t, {name}), "");
        double drawn = 0;
        for (const auto& page : sheet.pages)
            for (const auto& item : page.items)
                if (const auto* area = std::get_if<paper::FilledArea>(&item.shape); area && item.layer == "units") {
                    Box2 box;
                    for (const auto& p : area->rings.at(0)) box.include(p);
                    drawn += box.height();
                }
        CHECK(drawn == Approx((*project.holes)[0].end().metres * 1000 / 50).epsilon(1e-6));
    }
}

TEST_CASE("Words are broken to a width, and nothing of them is lost", "[sheets]") {
    std::mt19937 random(9);
    for (int round = 0; round < 200; ++round) {
        const auto words = randomWords(random, 30);
        const double width = 6 + double(random() % 800) / 10;
        std::size_t tooNarrow = 0;
        std::string together;
        for (const auto& line : linesOf(words, width, 2.4, tooNarrow)) {
            paper::Text text;
            text.words = line, text.size = 2.4;
            CAPTURE(line, width);
            CHECK(paper::measure(text).width <= width + 0.05);
            together += line;
        }
        auto wanted = words;
        std::erase(wanted, ' ');
        std::erase(together, ' ');
        CHECK(together == wanted);
        CHECK(tooNarrow == 0);
    }
}

TEST_CASE("Every shipped template is filled from the demo, with all its texts inside the page and apart", "[sheets]") {
    for (const auto& t : shippedTemplates()) {
        auto items = itemsFor(t, demo().project);
        REQUIRE_FALSE(items.empty());
        if (items.size() > 4) items.resize(4);
        const auto products = productsFor(demo().project, t, items);
        for (const auto& item : items) {
            const auto sheet = fillSheet(t, item, *products, "2026-01-01");
            CAPTURE(t.name, item);
            CHECK(sheet.overfull == 0);
            CHECK_FALSE(sheet.pages.empty());
            if (t.kind != SheetKind::Title && t.kind != SheetKind::List) CHECK(sheet.pages[0].items.size() > 20);
            if (t.kind == SheetKind::Log) checkPages(sheet, t);
        }
    }
}

TEST_CASE("A section on paper is at the scales that are printed on it", "[sheets]") {
    const auto& t = shipped("sections at 1:1000");
    const auto name = demo().project.sections->at(0).name;
    const auto products = productsFor(demo().project, t, {name});
    const auto sheet = fillSheet(t, name, *products, "");
    CHECK(sheet.scale == 1000);
    CHECK(sheet.verticalScale == 200);
    const auto& section = *products->sections[0];
    const double length = section.chainage.back();
    CHECK(sheet.pages.size() >= std::size_t(length / 390));
    // two holes of the first page stand as far apart as their chainages say
    std::map<std::string, double> at;
    for (const auto& item : sheet.pages[0].items)
        if (const auto* area = std::get_if<paper::FilledArea>(&item.shape); area && item.layer == "holes") {
            Box2 box;
            for (const auto& p : area->rings.at(0)) box.include(p);
            at.try_emplace(item.name, (box.xmin + box.xmax) / 2);
        }
    int compared = 0;
    const auto isUpright = [](const SectionHole& h) {
        return !h.sticks.empty() && std::abs(h.endChainage - h.sticks[0].topChainage) < 0.01;
    };
    for (const auto& a : section.holes)
        for (const auto& b : section.holes)
            if (a.name != b.name && at.contains(a.name) && at.contains(b.name) && isUpright(a) && isUpright(b)) {
                CHECK(at[b.name] - at[a.name] == Approx(b.chainage - a.chainage).margin(0.6));
                ++compared;
            }
    INFO(at.size());
    CHECK(compared > 0);
}

TEST_CASE("Sheets go into one PDF, or a file an item, all or none", "[sheets]") {
    const TemporaryFolder folder;
    const auto& t = shipped("borehole log");
    auto items = itemsFor(t, demo().project);
    items.resize(3);
    const auto products = productsFor(demo().project, t, items);
    const auto one = writeSheets(t, items, *products, folder / "logs.pdf", {"", 150, "2026-01-01"});
    REQUIRE(one.files == std::vector{folder / "logs.pdf"});
    CHECK(one.sheets.size() == 3);
    std::size_t pages = 0;
    for (const auto& s : one.sheets) pages += s.pages.size();
    CHECK(one.pages == pages);
    const auto last = wordsOf(one.sheets[2].pages.back());
    CHECK(last.find("Page " + std::to_string(pages) + " of " + std::to_string(pages)) != std::string::npos);
    const auto pdf = readBytes(folder / "logs.pdf");
    CHECK(pdf.starts_with("%PDF"));
    CHECK(pdf.find("/Outlines") != std::string::npos);
    CHECK(pdf.find(items[1]) != std::string::npos); // a bookmark

    for (const std::string as : {"pdf", "svg", "png", "dxf"}) {
        const auto into = folder.path() / as;
        const auto done = writeSheets(t, items, *products, into, {as, 60, ""});
        std::set<std::string> names;
        for (const auto& f : done.files) names.insert(f.filename().string());
        CHECK(names.size() == (as == "pdf" ? 3 : done.pages));
        for (const auto& item : items) CHECK(names.contains(item + "." + as));
        for (const auto& f : done.files) CHECK(std::filesystem::file_size(f) > 500);
    }
    const auto fails = [&](const std::vector<std::string>& of, const char* out, const char* as, const char* said) {
        CAPTURE(out, as);
        try {
            writeSheets(t, of, *products, folder / out, {as, 150, ""});
            FAIL("it was written");
        } catch (const Error& e) {
            CHECK(std::string(e.what()).find(said) != std::string::npos);
        }
        CHECK_FALSE(std::filesystem::exists(folder / out));
    };
    fails({items[0], "nobody"}, "x.pdf", "", "nobody");
    fails({}, "x.pdf", "", "no hole");
    fails(items, "x.doc", "", ".doc");
    fails(items, "x.pdf", "svg", "x.pdf");
    fails(items, "x", "bmp", "bmp");
    fails(items, "x.svg", "", "one page");
    fails({""}, "x.pdf", "", "needs a hole");
    CHECK(sheetTemplate("Borehole Log").name == "borehole log");
    CHECK_THROWS_WITH(sheetTemplate("nothing like it"), Catch::Contains("borehole log"));
    folder.write("t.json", "{");
    CHECK_THROWS_WITH(sheetTemplate((folder / "t.json").string()), Catch::Contains("not JSON"));
    folder.write("t.json", toJson(t).dump());
    CHECK(sheetTemplate((folder / "t.json").string()) == t);
}

TEST_CASE("Holes stand on a plan where the printed scale puts them", "[sheets]") {
    for (const char* name : {"plan", "geological map"}) {
        auto t = shipped(name);
        for (const double scale : {0.0, 5000.0, 10000.0}) {
            t.scale = scale;
            const auto sheet = fillSheet(t, "", *productsFor(demo().project, t, {""}), "");
            CAPTURE(name, scale, sheet.scale);
            if (scale > 0) CHECK(sheet.scale == scale);
            std::map<std::string, Point2> at;
            for (const auto& item : sheet.pages[0].items)
                if (const auto* area = std::get_if<paper::FilledArea>(&item.shape);
                    area && item.layer == "holes" && area->rings[0].size() > 4) {
                    Box2 box;
                    for (const auto& p : area->rings[0]) box.include(p);
                    at[item.name] = box.centre();
                }
            REQUIRE(at.size() > 20);
            const auto& holes = *demo().project.holes;
            const auto names = displayNames(holes);
            std::optional<std::size_t> first;
            for (std::size_t i = 0; i < holes.size(); ++i) {
                if (!holes[i].place() || !at.contains(names[i])) continue;
                if (!first) first = i;
                const double east = holes[i].place()->x - holes[*first].place()->x,
                             north = holes[i].place()->y - holes[*first].place()->y;
                CHECK(at[names[i]].x - at[names[*first]].x == Approx(1000 * east / sheet.scale).margin(0.1));
                CHECK(at[names[*first]].y - at[names[i]].y == Approx(1000 * north / sheet.scale).margin(0.1));
            }
        }
    }
}

TEST_CASE("The scale bar is as long as it says, at every scale", "[sheets]") {
    auto t = shipped("plan");
    for (const double scale : {500.0, 1250.0, 5000.0, 25000.0, 1e6}) {
        t.scale = scale;
        const auto sheet = fillSheet(t, "", *productsFor(demo().project, t, {""}), "");
        Box2 bar;
        std::string says;
        for (const auto& item : sheet.pages[0].items) {
            if (item.layer != "scale bar") continue;
            if (const auto* area = std::get_if<paper::FilledArea>(&item.shape))
                for (const auto& p : area->rings[0]) bar.include(p);
            if (const auto* text = std::get_if<paper::Text>(&item.shape); text && text->words.ends_with(" m")) says = text->words;
        }
        CAPTURE(scale, says);
        REQUIRE_FALSE(says.empty());
        std::erase(says, ',');
        std::erase(says, ' ');
        CHECK(bar.width() == Approx(std::stod(says) * 1000 / scale).epsilon(1e-3));
        CHECK(bar.xmax <= 22 + 90 + 0.01);
    }
}

TEST_CASE("A value that is blank prints nothing or the word that is chosen for it", "[sheets]") {
    SheetTemplate t{.name = "t", .kind = SheetKind::Log, .elements = {}, .columns = {}};
    const auto add = [&](TextRuns runs) {
        SheetElement e;
        e.y = 10.0 * double(t.elements.size()), e.width = 150, e.text = std::move(runs);
        t.elements.push_back(std::move(e));
    };
    add({{"Hole ", ""}, {"", "hole.name"}});
    add({{"by ", ""}, {"", "ags:LOCA.LOCA_NOTHING", "nobody"}});
    add({{"[", ""}, {"", "hole.never"}, {"]", ""}});
    add({{"", "ags:PROJ.PROJ_CLNT"}});
    add({{"", "page"}, {" of ", ""}, {"", "pages"}});
    add({{"", "date"}});
    const auto sheet = fillSheet(t, "QB102", *productsFor(demo().project, t, {"QB102"}), "2026-02-03");
    REQUIRE(sheet.pages.size() == 1);
    CHECK(wordsOf(sheet.pages[0]) == "Hole QB102\nby nobody\n[]\nQuernbeck Drainage Board\n1 of 1\n2026-02-03\n");
}

TEST_CASE("Tables of units go on over pages under their heads, with every unit once", "[sheets]") {
    for (const int units : {1, 30, 200}) {
        Project p;
        Sequence s;
        s.unitHeading = "GEOL_GEOL";
        for (int i = 0; i < units; ++i) {
            Unit u;
            u.code = "U" + std::to_string(i),
            u.name = "Unit " + std::to_string(i) + (i % 7 ? "" : " with a name that is much longer than the others are");
            s.units.push_back(u);
        }
        p.sequence = part(std::move(s));
        for (const char* name : {"unit summary", "key to units"}) {
            const auto& t = shipped(name);
            const auto sheet = fillSheet(t, "", *productsFor(p, t, {""}), "");
            CAPTURE(units, name);
            CHECK(sheet.overfull == 0);
            checkPages(sheet, t);
            std::map<std::string, int> seen;
            for (const auto& page : sheet.pages)
                for (const auto& [room, words] : textsOf(page)) ++seen[words.substr(0, words.find(' '))];
            for (int i = 0; i < units; ++i) {
                CAPTURE(i);
                CHECK(seen["U" + std::to_string(i)] == 1);
            }
            if (units == 200) CHECK(sheet.pages.size() > 1);
        }
    }
}

TEST_CASE("The list of sheets has each with its page", "[sheets]") {
    const auto& t = shipped("list of sheets");
    std::vector<std::pair<std::string, std::size_t>> listed;
    for (std::size_t i = 0; i < 90; ++i) listed.emplace_back("Sheet " + std::to_string(i), 3 * i + 1);
    const auto sheet = fillSheet(t, "", *productsFor(demo().project, t, {""}), "", listed, 4, 300);
    CHECK(sheet.pages.size() > 1);
    std::string all;
    for (const auto& page : sheet.pages) all += wordsOf(page);
    for (const auto& [name, page] : listed) CHECK(all.find(name + "\n" + std::to_string(page) + "\n") != all.npos);
    CHECK(all.find("Page 4 of 300") != all.npos);
    CHECK(all.find("Page 5 of 300") != all.npos);
    checkPages(sheet, t);
}

TEST_CASE("A correlation has the holes near its line in the order of their chainage", "[sheets]") {
    const auto& t = shipped("correlation");
    for (const auto& line : *demo().project.sections) {
        const auto sheet = fillSheet(t, line.name, *productsFor(demo().project, t, {line.name}), "");
        std::vector<std::pair<double, std::string>> named;
        for (const auto& item : sheet.pages[0].items)
            if (const auto* text = std::get_if<paper::Text>(&item.shape); text && item.layer == "hole names")
                if (named.empty() || named.back().first != text->at.x) named.emplace_back(text->at.x, text->words);
        REQUIRE(named.size() > 3);
        CHECK(std::ranges::is_sorted(named));
        double before = -1e9;
        for (const auto& [x, name] : named) {
            const auto* hole = findHole(*demo().project.holes, name);
            if (!hole) continue; // a name of two lines
            const double chainage = project(line.line, *hole->place()).chainage;
            CHECK(chainage >= before);
            before = chainage;
        }
    }
}
