#include "paper/drawing.h"

#include <algorithm>
#include <cmath>

namespace fox::paper {

namespace {

std::uint8_t lightness(Colour c) { return std::uint8_t(std::lround(0.299 * c.red + 0.587 * c.green + 0.114 * c.blue)); }
Colour grey(double light, std::uint8_t alpha) {
    const auto v = std::uint8_t(std::clamp(light, 0.0, 255.0));
    return {v, v, v, alpha};
}
/// Of lines and letters: what is in no way light is black.
Colour inkOf(Colour c) {
    constexpr int kLight = 150;
    const auto light = lightness(c);
    return light < kLight ? grey(0, c.alpha) : grey(light, c.alpha);
}

struct Bleach {
    void operator()(Line& line) const { line.pen.colour = inkOf(line.pen.colour); }
    void operator()(Text& text) const {
        text.colour = inkOf(text.colour);
        if (text.halo) text.halo = grey(lightness(*text.halo), text.halo->alpha);
    }
    void operator()(FilledArea& area) const {
        if (area.outline) area.outline->colour = inkOf(area.outline->colour);
        auto& fill = area.fill;
        if (fill.pattern != Pattern::None) {
            fill.patternInk = grey(0, 255);
            if (fill.colour) fill.colour = grey(255, fill.colour->alpha);
        } else if (fill.colour) {
            fill.colour = grey(lightness(*fill.colour), fill.colour->alpha);
        }
    }
    void operator()(Image& image) const {
        if (!image.picture) return;
        auto copy = std::make_shared<Picture>(*image.picture);
        for (std::size_t i = 0; i + 3 < copy->rgba.size(); i += 4)
            copy->rgba[i] = copy->rgba[i + 1] = copy->rgba[i + 2] =
                lightness({copy->rgba[i], copy->rgba[i + 1], copy->rgba[i + 2], 255});
        image.picture = std::move(copy);
    }
};

} // namespace

void moveBy(Item& item, Point2 by) {
    const auto moved = [&](Point2 p) { return Point2{p.x + by.x, p.y + by.y}; };
    const auto movedBox = [&](const Box2& b) {
        Box2 out;
        out.include(moved({b.xmin, b.ymin})), out.include(moved({b.xmax, b.ymax}));
        return out;
    };
    if (item.clip) item.clip = movedBox(*item.clip);
    if (auto* line = std::get_if<Line>(&item.shape))
        for (auto& p : line->points) p = moved(p);
    if (auto* area = std::get_if<FilledArea>(&item.shape))
        for (auto& ring : area->rings)
            for (auto& p : ring) p = moved(p);
    if (auto* text = std::get_if<Text>(&item.shape)) text->at = moved(text->at);
    if (auto* image = std::get_if<Image>(&item.shape)) image->box = movedBox(image->box);
}

void toBlackAndWhite(Drawing& drawing) {
    for (auto& item : drawing.items) std::visit(Bleach{}, item.shape);
}

} // namespace fox::paper
