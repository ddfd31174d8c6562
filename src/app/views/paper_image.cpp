#include "views/paper_image.h"

#include "style/theme.h"

namespace fox::app {

namespace {

paper::Colour paperColour(const QColor& c, std::uint8_t alpha) {
    return {std::uint8_t(c.red()), std::uint8_t(c.green()), std::uint8_t(c.blue()), alpha};
}

/// The colours that a drawing shares with the interface, as the dark theme has them; those of units and values stay.
class DarkColours {
public:
    void change(paper::Colour& c) const {
        for (const auto& [from, to] : m_changes)
            if (c.red == from.red && c.green == from.green && c.blue == from.blue) {
                c = paperColour(*to, c.alpha);
                return;
            }
    }
    void change(std::optional<paper::Colour>& c) const {
        if (c) change(*c);
    }
    void operator()(paper::Line& l) const { change(l.pen.colour); }
    void operator()(paper::FilledArea& a) const {
        if (a.outline) change(a.outline->colour);
        if (a.fill.colour && *a.fill.colour == paper::kPaper) change(a.fill.colour);
    }
    void operator()(paper::Text& t) const { change(t.colour), change(t.halo); }
    void operator()(paper::Image&) const {}

private:
    const std::vector<std::pair<paper::Colour, const QColor*>> m_changes{
        {paper::kPaper, &colour::paper}, {paper::kInk, &colour::ink},    {paper::kMuted, &colour::muted},
        {paper::kRule, &colour::line},   {paper::kAccent, &colour::fox}, {paper::kGround, &colour::green},
        {paper::kSlate, &colour::slate}, {paper::kWater, &colour::water}};
};

} // namespace

QImage imageOf(const paper::Drawing& drawing, double devicePixelRatio) {
    const double perMillimetre = devicePixelRatio / kMillimetresPerPixel;
    QImage image;
    if (themeInForce() == Theme::Dark) {
        auto dark = drawing;
        const DarkColours colours;
        for (auto& item : dark.items) std::visit(colours, item.shape);
        image = imageOf(paper::toBitmap(dark, perMillimetre));
    } else {
        image = imageOf(paper::toBitmap(drawing, perMillimetre));
    }
    image.setDevicePixelRatio(devicePixelRatio);
    return image;
}

} // namespace fox::app
