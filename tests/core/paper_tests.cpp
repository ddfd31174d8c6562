#include "fixtures.h"
#include "formats/picture.h"
#include "paper/render.h"

#include <catch2/catch.hpp>
#include <pugixml.hpp>

using namespace fox;
using namespace fox::paper;
using namespace fox::test;

namespace {

constexpr Colour kRed{255, 0, 0}, kBlue{0, 0, 255};

Drawing page(double width, double height, std::vector<Shape> shapes = {}) {
    Drawing out{width, height, {}};
    for (auto& s : shapes) out.add("test", "", std::move(s));
    return out;
}
FilledArea filled(double left, double top, double right, double bottom, Colour colour) {
    return {{rectangle(left, top, right, bottom)}, {colour, Pattern::None, {}}, {}};
}
/// One pixel a millimetre.
Bitmap pixels(const Drawing& drawing) { return toBitmap(drawing, 1); }
std::uint32_t at(const Bitmap& b, int x, int y) { return b.pixels[std::size_t(y) * std::size_t(b.width) + std::size_t(x)]; }
std::size_t count(const Bitmap& b, std::uint32_t pixel) { return std::size_t(std::ranges::count(b.pixels, pixel)); }

Text words(const std::string& said, double size = 4) { return {said, {5, 10}, size, kInk}; }

} // namespace

TEST_CASE("A colour is read from six hexadecimal digits and nothing else", "[paper]") {
    CHECK(Colour::parse("#ff8000") == Colour{255, 128, 0});
    CHECK(Colour::parse("#FF8000") == Colour{255, 128, 0});
    for (const auto* wrong : {"", "#", "ff8000", "#ff80", "#ff800g", "#ff80000", "# f8000", "#-f8000"}) {
        CAPTURE(wrong);
        CHECK_FALSE(Colour::parse(wrong));
    }
    CHECK(Colour{200, 100, 50}.darker(2) == Colour{100, 50, 25});
}

TEST_CASE("Grounds have the sign that their name speaks of", "[paper]") {
    CHECK(patternFor("River Gravel") == Pattern::Rings);
    CHECK(patternFor("CLAY") == Pattern::Dashes);
    CHECK(patternFor("Sandstone") == Pattern::Laminae); // not sand
    CHECK(patternFor("Weathered Mudstone") == Pattern::Cracks);
    CHECK(patternFor("") == Pattern::None);
    CHECK(patternFor("Formation 7") == Pattern::None);
    for (const auto& ground : groundsWithPattern()) {
        CAPTURE(ground);
        CHECK(patternFor(ground) != Pattern::None);
    }
}

TEST_CASE("Every sign lies on its tile", "[paper]") {
    for (int i = 1; i <= int(Pattern::Cracks); ++i) {
        CAPTURE(i);
        const auto& marks = marksOf(Pattern(i));
        CHECK(marks.strokes.size() + marks.dots.size() > 0);
        const auto inside = [](Point2 p) {
            return p.x >= 0 && p.y >= 0 && p.x <= PatternMarks::kSide && p.y <= PatternMarks::kSide;
        };
        for (const auto& s : marks.strokes) {
            CHECK(s.size() >= 2);
            CHECK(std::ranges::all_of(s, inside));
        }
        CHECK(std::ranges::all_of(marks.dots, inside));
        const auto bitmap = patternBitmap(Pattern(i), kRed, 40);
        CHECK(count(bitmap, 0) > 400);                  // most of it is left free
        CHECK(count(bitmap, 0) < bitmap.pixels.size()); // and something is drawn
    }
    CHECK(count(patternBitmap(Pattern::None, kRed, 20), 0) == 400);
}

TEST_CASE("An area covers the millimetres that it says, in order, and the rest stays free", "[paper]") {
    const auto b = pixels(page(40, 30, {filled(10, 5, 20, 15, kRed), filled(15, 10, 30, 20, kBlue)}));
    CHECK(b.width == 40);
    CHECK(b.height == 30);
    CHECK(count(b, 0xFFFF0000) == 75); // a quarter lies under the later one
    CHECK(count(b, 0xFF0000FF) == 150);
    CHECK(count(b, 0) == 40 * 30 - 225);
    CHECK(at(b, 10, 5) == 0xFFFF0000);
    CHECK(at(b, 9, 5) == 0);
}

TEST_CASE("A ring inside a ring is a hole, and nothing is drawn outside the clip", "[paper]") {
    Drawing drawing = page(20, 20);
    drawing.add("a", "", FilledArea{{rectangle(0, 0, 20, 20), rectangle(5, 5, 15, 15)}, {kRed, Pattern::None, {}}, {}});
    CHECK(count(pixels(drawing), 0xFFFF0000) == 300);
    Box2 clip;
    clip.include({0, 0});
    clip.include({10, 20});
    drawing.items.back().clip = clip;
    CHECK(count(pixels(drawing), 0xFFFF0000) == 150);
}

TEST_CASE("A pattern repeats over its area and nowhere else", "[paper]") {
    Drawing drawing = page(80, 80);
    drawing.add("a", "", FilledArea{{rectangle(0, 0, 60, 60)}, {std::nullopt, Pattern::Bricks, kRed}, {}});
    const double perMillimetre = 40 / kPatternTile; // 40 pixels a tile
    const auto b = toBitmap(drawing, perMillimetre);
    const int end = int(60 * perMillimetre) - 1;
    std::size_t drawn = 0;
    for (int y = 0; y + 40 < end; y += 3)
        for (int x = 0; x + 40 < end; x += 3) {
            drawn += at(b, x, y) != 0;
            if (at(b, x, y) != at(b, x + 40, y) || at(b, x, y) != at(b, x, y + 40)) FAIL(x << " " << y);
        }
    CHECK(drawn > 1000);
    for (int x = end + 2; x < b.width; ++x) CHECK(at(b, x, 10) == 0);
}

TEST_CASE("Words take the room that they are drawn in", "[paper]") {
    const auto one = measure(words("Gravel"));
    CHECK(one.lines == 1);
    CHECK(one.width > measure(words("Grave")).width);
    CHECK(measure(words("Gravel", 8)).width == Approx(2 * one.width).epsilon(0.01));
    CHECK(measure(words("")).width == 0);
    // what is drawn lies in it: Inter's letters are up to 0.97 em over and 0.24 em under the line
    const auto b = toBitmap(page(60, 20, {words("Gravel")}), 10);
    int left = b.width, right = 0, top = b.height, bottom = 0;
    for (int y = 0; y < b.height; ++y)
        for (int x = 0; x < b.width; ++x)
            if (at(b, x, y) != 0)
                left = std::min(left, x), right = std::max(right, x), top = std::min(top, y), bottom = std::max(bottom, y);
    CHECK(left / 10.0 == Approx(5).margin(0.6));
    CHECK(right / 10.0 == Approx(5 + one.width).margin(0.6));
    CHECK(bottom / 10.0 == Approx(10).margin(0.2)); // the base line: none of its letters goes under it
    CHECK(top / 10.0 > 10 - 4);
}

TEST_CASE("Text is broken to its width, cut to its lines, and anchored as asked", "[paper]") {
    auto text = words("Firm brown slightly sandy slightly gravelly CLAY with rare cobbles");
    text.width = 30;
    text.lines = 0;
    const auto whole = measure(text);
    CHECK(whole.lines >= 4);
    CHECK(whole.width <= 30.01);
    CHECK_FALSE(whole.cut);
    text.lines = 2;
    const auto cut = measure(text);
    CHECK(cut.lines == 2);
    CHECK(cut.cut);
    CHECK(cut.height == Approx(whole.height * 2 / whole.lines).epsilon(0.01));
    const auto middle = [&](Text::Anchor anchor) { // of what is drawn, from above
        auto t = words("x");
        t.anchor = anchor;
        const auto b = toBitmap(page(20, 20, {t}), 10);
        double sum = 0, n = 0;
        for (int y = 0; y < b.height; ++y)
            for (int x = 0; x < b.width; ++x)
                if (at(b, x, y) != 0) sum += y, ++n;
        return sum / n / 10;
    };
    CHECK(middle(Text::Anchor::Baseline) < 10);
    CHECK(middle(Text::Anchor::Middle) == Approx(10).margin(0.6));
    CHECK(middle(Text::Anchor::Top) > 11);
    for (const auto align : {Text::Align::Left, Text::Align::Centre, Text::Align::Right}) {
        auto t = words("wide", 4);
        t.at.x = 20, t.align = align;
        const auto b = toBitmap(page(40, 20, {t}), 10);
        int left = b.width;
        for (int y = 0; y < b.height; ++y)
            for (int x = 0; x < left; ++x)
                if (at(b, x, y) != 0) left = x;
        CHECK(left / 10.0 == Approx(20 - measure(t).width * int(align) / 2).margin(0.5));
    }
}

TEST_CASE("A PDF has a page a drawing in its size, in the shipped font", "[paper]") {
    const std::vector<Drawing> pages{page(210, 297, {words("Log of QB101")}), page(420, 297, {words("Section A")})};
    const auto pdf = toPdf(pages);
    CHECK(pdf.starts_with("%PDF-"));
    CHECK(pdf.find("/Count 2") != std::string::npos);
    CHECK(pdf.find("+Inter") != std::string::npos);
    CHECK(pdf.find("/ToUnicode") != std::string::npos); // can be searched
    CHECK(pdf.find("595.27") != std::string::npos);     // 210 mm in points
    CHECK(pdf.find("1190.55") != std::string::npos);    // 420 mm
    CHECK_THROWS_WITH(toPdf({}), Catch::Contains("no page"));
}

TEST_CASE("An SVG is in millimetres, a PNG on white paper at its resolution", "[paper]") {
    const auto drawing = page(50, 20, {filled(10, 5, 20, 15, kRed), words("Sand")});
    pugi::xml_document svg;
    REQUIRE(svg.load_string(toSvg(drawing).c_str()));
    CHECK(svg.child("svg").attribute("width").as_string() == std::string("50mm"));
    CHECK(svg.child("svg").attribute("viewBox").as_string() == std::string("0 0 50 20"));
    const auto picture = readPicture(toPng(page(50, 20, {filled(10, 5, 20, 15, kRed)}), 254), "p.png");
    CHECK(picture.width == 500);
    CHECK(picture.height == 200);
    const auto pixel = [&](int x, int y) {
        const auto* p = &picture.rgba[std::size_t(y * picture.width + x) * 4];
        return std::array<int, 4>{p[0], p[1], p[2], p[3]};
    };
    CHECK(pixel(0, 0) == std::array<int, 4>{255, 255, 255, 255});
    CHECK(pixel(150, 100) == std::array<int, 4>{255, 0, 0, 255});
    CHECK_THROWS_WITH(toPng(page(10000, 10000), 300), Catch::Contains("fewer dots per inch"));
}

TEST_CASE("A picture is stretched over its box", "[paper]") {
    auto picture = std::make_shared<Picture>();
    picture->width = 2, picture->height = 1;
    picture->rgba = {255, 0, 0, 255, 0, 0, 255, 255};
    Image image{picture, {}, 1};
    image.box.include({10, 10});
    image.box.include({30, 20});
    const auto b = pixels(page(40, 30, {image}));
    CHECK(at(b, 11, 15) == 0xFFFF0000);
    CHECK(at(b, 28, 15) == 0xFF0000FF);
    CHECK(at(b, 9, 15) == 0);
    CHECK(at(b, 12, 21) == 0);
    CHECK(count(pixels(page(40, 30, {Image{nullptr, image.box, 1}})), 0) == 1200);
}

TEST_CASE("A drawing goes to the vector writer by layer, y upwards", "[paper]") {
    Drawing drawing = page(100, 50);
    drawing.add("roads", "", Line{{{0, 0}, {10, 5}}, {}});
    drawing.add("fields", "", filled(10, 10, 20, 20, kRed));
    drawing.add("roads", "", Line{{{0, 0}}, {}}); // nothing
    drawing.add("names", "", words("Beck"));
    const auto layers = toLayers(drawing);
    REQUIRE(layers.size() == 3);
    CHECK(layers[0].name == "roads");
    REQUIRE(layers[0].features.size() == 1);
    CHECK(layers[0].features[0].parts[0] == Polyline3{{0, 50, 0}, {10, 45, 0}});
    CHECK(layers[1].features[0].parts[0].size() == 5);
    CHECK(layers[1].features[0].parts[0].front() == layers[1].features[0].parts[0].back());
    CHECK(layers[2].features[0].label == "Beck");
    CHECK(layers[2].features[0].parts[0][0] == Point3{5, 40, 0});
    const TemporaryFolder folder;
    writeVector(folder.path() / "d.dxf", layers);
    CHECK(readBytes(folder.path() / "d.dxf").find("Beck") != std::string::npos);
}

TEST_CASE("What is not a number is left out of a drawing, not drawn to nowhere", "[paper]") {
    const double nan = kNoValue;
    Drawing drawing = page(20, 20);
    drawing.add("a", "", FilledArea{{{{0, 0}, {nan, 5}, {20, 0}, {20, 20}, {0, 20}}}, {kRed, Pattern::None, {}}, {}});
    drawing.add("a", "", Line{{{nan, nan}, {nan, 0}}, {}});
    CHECK(count(pixels(drawing), 0xFFFF0000) == 400);
    CHECK(toPdf({&drawing, 1}).size() > 500);
}
