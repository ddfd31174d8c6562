#include "fixtures.h"
#include "paper/render.h"
#include "products/products.h"
#include "sheets/log_drawing.h"
#include "sheets/scale.h"
#include "sheets/section_drawing.h"
#include "sheets/unit_style.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;
using paper::Drawing;
using paper::FilledArea;
using paper::Text;

namespace {

std::shared_ptr<const ProductSet> products() {
    static const auto kSet = Products().of(demo().project, {}, {ProductKind::Sections});
    return kSet;
}
const Section& section() { return *products()->sections.front(); }
const Sequence& demoSequence() { return *demo().project.sequence; }

std::vector<const paper::Item*> layer(Drawing&&, const std::string&) = delete; // they point into it

double areaOf(const Polygon2& ring) {
    double twice = 0;
    for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) twice += ring[j].x * ring[i].y - ring[i].x * ring[j].y;
    return std::abs(twice) / 2;
}

std::vector<const paper::Item*> layer(const Drawing& drawing, const std::string& name) {
    std::vector<const paper::Item*> out;
    for (const auto& item : drawing.items)
        if (item.layer == name) out.push_back(&item);
    return out;
}

/// The whole of a section, 1 mm a metre.
SectionLayout layoutOf(const Section& s, double exaggeration) {
    SectionLayout out;
    const auto levels = *levelsOf(s);
    out.perMetre = 1, out.exaggeration = exaggeration;
    out.highestLevel = levels.second + 5;
    out.area.include({20, 10});
    out.area.include({20 + s.chainage.back(), 10 + (levels.second - levels.first + 10) * exaggeration});
    out.width = out.area.xmax + 10, out.height = out.area.ymax + 10;
    return out;
}

/// The box that a text takes up, turned texts aside.
Box2 boxOf(const Text& t) {
    const auto size = measure(t);
    const double left = t.at.x
                        - (t.align == Text::Align::Left     ? 0
                           : t.align == Text::Align::Centre ? size.width / 2
                                                            : size.width);
    Box2 out;
    out.include({left, t.at.y - t.size * 0.7});
    out.include({left + size.width, t.at.y});
    return out;
}
bool overlap(const Box2& a, const Box2& b) { return a.xmin < b.xmax && b.xmin < a.xmax && a.ymin < b.ymax && b.ymin < a.ymax; }

/// A section with holes at random chainages, many of them close together.
Section crowded(unsigned seed) {
    std::mt19937 random(seed);
    Section s;
    s.line = {{0, 0}, {200, 0}};
    for (double c = 0; c <= 200; c += 10) s.chainage.push_back(c), s.ground.push_back(20 + c / 40);
    const int n = 3 + int(random() % 20);
    for (int i = 0; i < n; ++i) {
        SectionHole h;
        h.name = "BH" + std::to_string(100 + i);
        h.chainage = double(random() % 2000) / 10;
        h.sticks.push_back({h.chainage, 20, h.chainage, 15, {}});
        h.endChainage = h.chainage, h.endLevel = 15;
        s.holes.push_back(h);
    }
    return s;
}

} // namespace

TEST_CASE("Scales have round steps", "[sheets]") {
    CHECK(labelStep(0.7) == Approx(1));
    CHECK(labelStep(1) == Approx(2));
    CHECK(labelStep(3) == Approx(5));
    CHECK(labelStep(5) == Approx(10));
    CHECK(labelStep(70) == Approx(100));
    for (double least = 0.001; least < 1000; least *= 1.37) {
        CHECK(labelStep(least) > least);
        CHECK(labelStep(least) <= least * 2.5 * (1 + 1e-12));
    }
    CHECK(usualScale(101) == Approx(125));
    CHECK(usualScale(1807) == Approx(2000));
    CHECK(usualScale(100) == Approx(100));
    CHECK(usualScale(80) == Approx(100));
    for (double least = 0.3; least < 1e5; least *= 1.23) {
        CHECK(usualScale(least) >= least * (1 - 1e-9));
        CHECK(usualScale(least) <= least * 1.51);
    }
    CHECK(labelWords(20) == "20");
    CHECK(labelWords(0.30000000000000004) == "0.3");
    CHECK(labelWords(-1e-17) == "0");
}

TEST_CASE("A unit is drawn in its colour, with its sign darker", "[sheets]") {
    Unit unit;
    unit.name = "River Gravel", unit.colour = "#C8A05A";
    CHECK(fillOf(unit).colour == paper::Colour{0xC8, 0xA0, 0x5A});
    CHECK(fillOf(unit).pattern == paper::Pattern::Rings);
    unit.hatch = "clay", unit.colour = "brown";
    CHECK(patternOf(unit) == paper::Pattern::Dashes);
    CHECK(colourOf(unit) == paper::Colour{0xC9, 0xBD, 0xAE});
}

TEST_CASE("A place on a section is at one point of the paper and back", "[sheets]") {
    const auto layout = layoutOf(section(), 7);
    for (const double c : {0.0, 123.4, 900.0}) CHECK(layout.chainageAt(layout.x(c)) == Approx(c).margin(1e-9));
    for (const double z : {-12.5, 0.0, 31.0}) CHECK(layout.levelAt(layout.y(z)) == Approx(z).margin(1e-9));
    CHECK(layout.y(10) - layout.y(11) == Approx(7));
}

TEST_CASE("Units on a drawn section have the areas that the section has", "[sheets][demo]") {
    const auto& s = section();
    const double exaggeration = 4;
    const auto drawing = drawSection(s, demoSequence(), layoutOf(s, exaggeration));
    for (std::size_t u = 0; u < s.bases.size(); ++u) {
        const auto& code = demoSequence().units[u].code;
        CAPTURE(code);
        const auto& top = u == 0 ? s.ground : s.bases[u - 1];
        double wanted = 0, drawn = 0;
        for (std::size_t i = 0; i + 1 < s.chainage.size(); ++i) {
            const double a = top[i] - s.bases[u][i], b = top[i + 1] - s.bases[u][i + 1];
            if (!std::isnan(a) && !std::isnan(b)) wanted += (a + b) / 2 * (s.chainage[i + 1] - s.chainage[i]);
        }
        for (const auto* item : layer(drawing, "units"))
            if (item->name == code) drawn += areaOf(std::get<FilledArea>(item->shape).rings.front());
        CHECK(drawn == Approx(wanted * exaggeration).margin(1e-6));
    }
    const auto& oldest = demoSequence().units.back().code;
    CHECK(std::ranges::any_of(drawing.items, [&](const auto& i) { return i.layer == "units" && i.name == oldest; }));
    std::set<std::string> layers;
    for (const auto& i : drawing.items) layers.insert(i.layer);
    CHECK(layers
          == std::set<std::string>{"units", "bases", "presence", "ground", "holes", "water", "short", "hole names", "scales"});
}

TEST_CASE("Every hole of a section is drawn, with its name, at its chainage", "[sheets][demo]") {
    const auto& s = section();
    const auto layout = layoutOf(s, 4);
    const auto drawing = drawSection(s, demoSequence(), layout);
    REQUIRE(s.holes.size() > 3);
    for (const auto& h : s.holes) {
        CAPTURE(h.name);
        std::size_t sticks = 0;
        for (const auto* item : layer(drawing, "holes")) {
            if (item->name != h.name) continue;
            const auto& ring = std::get<FilledArea>(item->shape).rings.front();
            CHECK((ring[0].x + ring[1].x) / 2 == Approx(layout.x(h.sticks[sticks].topChainage)));
            CHECK(ring[0].y == Approx(layout.y(h.sticks[sticks].topLevel)));
            CHECK(ring[2].y == Approx(layout.y(h.sticks[sticks].baseLevel)));
            ++sticks;
        }
        CHECK(sticks == h.sticks.size());
        std::size_t names = 0, shortOnes = 0;
        for (const auto* item : layer(drawing, "hole names")) names += std::get<Text>(item->shape).words == h.name;
        for (const auto* item : layer(drawing, "short")) shortOnes += item->name == h.name;
        CHECK(names == 1);
        CHECK(shortOnes == (h.reachesOldest ? 0 : 1));
    }
}

TEST_CASE("A chosen unit stands out, and so does a chosen hole", "[sheets][demo]") {
    SectionStyle style;
    style.strong = demoSequence().index("RG");
    style.marked = section().holes.front().name;
    const auto drawing = drawSection(section(), demoSequence(), layoutOf(section(), 4), style);
    for (const auto* item : layer(drawing, "units")) {
        const auto& fill = std::get<FilledArea>(item->shape).fill;
        CHECK((fill.colour->alpha == 255) == (item->name == "RG"));
        CHECK((fill.pattern != paper::Pattern::None) == (item->name == "RG"));
    }
    for (const auto* item : layer(drawing, "hole names"))
        CHECK(std::get<Text>(item->shape).strong == (item->name == style.marked));
}

TEST_CASE("Names of holes never lie over one another", "[sheets][random]") {
    const auto seed = GENERATE(range(1u, 41u));
    CAPTURE(seed);
    const auto s = crowded(seed);
    const auto drawing = drawSection(s, {}, layoutOf(s, 2));
    const auto names = layer(drawing, "hole names");
    CHECK(names.size() == s.holes.size());
    for (std::size_t i = 0; i < names.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            if (overlap(boxOf(std::get<Text>(names[i]->shape)), boxOf(std::get<Text>(names[k]->shape))))
                FAIL(names[i]->name << " over " << names[k]->name);
}

TEST_CASE("A section without places draws nothing, one without units its ground", "[sheets]") {
    CHECK(drawSection({}, demoSequence(), {}).items.empty());
    CHECK_FALSE(levelsOf({}));
    const auto s = crowded(1);
    const auto drawing = drawSection(s, {}, layoutOf(s, 1));
    CHECK(layer(drawing, "ground").size() == 1);
    CHECK(layer(drawing, "units").empty());
    CHECK(paper::toPdf(std::vector{sectionSheet({}, {}, "A", 5)}).size() > 500);
}

TEST_CASE("A section's sheet has title, scales and a key to every unit, all on the page", "[sheets][demo]") {
    const double exaggeration = GENERATE(1.0, 5.0, 20.0);
    const auto sheet = sectionSheet(section(), demoSequence(), "A", exaggeration);
    CHECK(sheet.width == 420);
    std::set<std::string> keyed;
    for (const auto* item : layer(sheet, "key")) keyed.insert(item->name);
    CHECK(keyed.size() == demoSequence().units.size());
    CHECK(std::get<Text>(layer(sheet, "title").front()->shape).words == "Section A to A′");
    CHECK(layer(sheet, "scales").size() > 8);
    for (const auto& item : sheet.items)
        if (const auto* text = std::get_if<Text>(&item.shape)) {
            const auto box = boxOf(*text);
            if (box.xmin < 0 || box.ymin < 0 || box.xmax > sheet.width || box.ymax > sheet.height) FAIL(text->words);
        }
}

namespace {

LogContent contentOf(const std::string& name) {
    const auto& p = products()->project;
    LogContent out{findHole(*p.holes, name), nullptr, p.sequence.get(), name, {}};
    REQUIRE(out.hole);
    for (const auto& read : products()->reading->holes)
        if (read.hole == out.hole) out.reading = &read;
    return out;
}
LogLayout layoutFor(double width, double height, double deepest) {
    LogLayout out;
    out.area.include({0, 0});
    out.area.include({width, height});
    out.deepest = deepest;
    return out;
}

} // namespace

TEST_CASE("A log's intervals stand at their depths, in their units", "[sheets][demo]") {
    auto content = contentOf("QB101");
    const auto layout = layoutFor(120, 200, content.hole->end().metres);
    const auto drawing = drawLog(content, layout);
    const auto boxes = layer(drawing, "column");
    REQUIRE(boxes.size() == content.hole->intervals.size());
    for (std::size_t k = 0; k < boxes.size(); ++k) {
        const auto& i = content.hole->intervals[k];
        const auto& ring = std::get<FilledArea>(boxes[k]->shape).rings.front();
        CHECK(layout.depthAt(ring[0].y) == Approx(i.top.metres).margin(1e-9));
        CHECK(layout.depthAt(ring[2].y) == Approx(i.base.metres).margin(1e-9));
        CHECK(ring[1].x - ring[0].x == Approx(LogLayout::kColumn));
        const auto* unit = content.unitOf(i);
        CHECK(boxes[k]->name == (unit ? unit->code : ""));
    }
    content.moved = MovedBoundary{0, content.hole->intervals[0].base.metres + 0.1};
    const auto after = drawLog(content, layout);
    const auto moved = layer(after, "column");
    const auto edge = [&](std::size_t k, std::size_t corner) {
        return layout.depthAt(std::get<FilledArea>(moved[k]->shape).rings.front()[corner].y);
    };
    CHECK(edge(0, 2) == Approx(content.moved->depth));
    CHECK(edge(1, 0) == Approx(content.moved->depth));
}

TEST_CASE("Descriptions of a log stay in their column and never run into one another", "[sheets][demo]") {
    const double width = GENERATE(45.0, 80.0, 180.0), height = GENERATE(60.0, 250.0);
    std::size_t drawn = 0;
    for (const auto& hole : *demo().project.holes) {
        if (hole.intervals.empty()) continue;
        auto content = contentOf("QB101");
        content.hole = &hole, content.reading = nullptr;
        const auto drawing = drawLog(content, layoutFor(width, height, hole.end().metres));
        const auto words = layer(drawing, "words");
        double free = 0;
        for (const auto* item : words) {
            const auto& text = std::get<Text>(item->shape);
            CHECK(text.at.y >= free - 1e-9);
            CHECK(text.at.x + *text.width <= width + 1e-9);
            free = text.at.y + measure(text).height;
            ++drawn;
        }
    }
    CHECK(drawn > 10);
}

TEST_CASE("Every hole of the demo has a log on a page", "[sheets][demo]") {
    std::vector<Drawing> pages;
    const auto names = displayNames(*demo().project.holes);
    for (std::size_t i = 0; i < names.size(); ++i) {
        auto content = contentOf(names[i]);
        if (const auto path = HolePath::of(*content.hole))
            content.model = modelAlong(*products()->model, *path, content.hole->end().metres);
        pages.push_back(logSheet(content, "Quernbeck"));
        CHECK(pages.back().width == 210);
        CHECK(pages.back().height == 297);
        CHECK(std::get<Text>(layer(pages.back(), "title").front()->shape).words == "Log of " + names[i]);
    }
    const auto pdf = paper::toPdf(pages);
    CHECK(pdf.find(fmt::format("/Count {}", pages.size())) != std::string::npos);
}

TEST_CASE("A hole with curves alone shares its width among them; one with nothing is its name and scale", "[sheets]") {
    Hole hole;
    hole.id = "W1";
    LogContent content{&hole, nullptr, &demoSequence(), "W1", {}};
    std::set<std::string> layers;
    for (const auto& item : drawLog(content, layoutFor(60, 100, 10)).items) layers.insert(item.layer);
    CHECK(layers.contains("name"));
    CHECK_FALSE(layers.contains("column"));
    for (const auto* name : {"GR", "RES"}) {
        Curve c;
        c.name = name;
        std::vector<Curve::Reading> readings;
        for (int k = 0; k < 50; ++k) readings.push_back({k * 0.2, k == 20 ? kNoValue : 30.0 + k});
        c.readings = std::make_shared<const std::vector<Curve::Reading>>(readings);
        hole.curves.push_back(c);
    }
    const auto drawing = drawLog(content, layoutFor(60, 100, 10));
    for (const auto* name : {"GR", "RES"}) {
        int pieces = 0;
        for (const auto* item : layer(drawing, "tracks"))
            pieces += item->name == name && std::holds_alternative<paper::Line>(item->shape);
        CHECK(pieces == 2); // parted where there is no reading
    }
}

TEST_CASE("What the model has along a vertical hole ends at its depth and has no gaps", "[sheets][demo]") {
    int holes = 0;
    for (const auto& h : *demo().project.holes) {
        const auto path = HolePath::of(h);
        if (!path || !path->vertical()) continue;
        const auto intervals = modelAlong(*products()->model, *path, 5);
        if (intervals.empty()) continue;
        ++holes;
        const double above = path->at({}).z - products()->model->columnAt(path->at({}).plan()).ground;
        CHECK(intervals.front().top == Approx(std::max(0.0, above)).margin(1e-9)); // nothing is above the model's ground
        for (std::size_t i = 0; i < intervals.size(); ++i) {
            CHECK(intervals[i].top < intervals[i].base);
            if (i > 0) CHECK(intervals[i].top == intervals[i - 1].base);
        }
        CHECK(intervals.back().base <= 5);
    }
    CHECK(holes > 20);
    // a collar two metres above the model's ground: nothing is there down to it
    const Point2 place{480700, 6120400};
    const auto& model = *products()->model;
    const HolePath raised({place.x, place.y, model.columnAt(place).ground + 2}, {});
    CHECK(modelAlong(model, raised, 10).front().top == Approx(2));
    CHECK(modelAlong(model, raised, 1.5).empty());
}
