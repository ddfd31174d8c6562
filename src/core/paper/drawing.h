#pragma once
#include "base/point.h"
#include "formats/picture.h"
#include "paper/pattern.h"

#include <array>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

/// What is drawn, on paper and on the screen alike: a display list in millimetres, with no knowledge of geology.
namespace fox::paper {

/// All lengths are millimetres of the paper; x to the right, y down from the top left corner.
struct Pen {
    Colour colour;
    double width = 0.25;
    std::vector<double> dashes; ///< lengths of dash, gap, dash...; empty: a whole line
    bool operator==(const Pen&) const = default;
};

/// A colour, and a pattern over it if there is one.
struct Fill {
    std::optional<Colour> colour;
    Pattern pattern = Pattern::None;
    Colour patternInk;
    static Fill plain(Colour colour) { return {colour, Pattern::None, {}}; }
    bool operator==(const Fill&) const = default;
};

/// Lines from point to point. Under two points: nothing.
struct Line {
    Polyline2 points;
    Pen pen;
};

/// The inside of rings by the even-odd rule. Rings need not repeat their first point.
struct FilledArea {
    std::vector<Polygon2> rings;
    Fill fill;
    std::optional<Pen> outline = {};
};

struct Text {
    enum class Align { Left, Centre, Right };
    enum class Anchor { Top, Middle, Baseline }; ///< which height of the first line (Middle: of all lines) is at `at.y`
    std::string words;                           ///< UTF-8
    Point2 at;
    double size = 3; ///< of the font's em
    Colour colour;
    Align align = Align::Left;
    Anchor anchor = Anchor::Baseline;
    bool strong = false;
    double turn = 0;                  ///< degrees clockwise about `at`
    std::optional<double> width = {}; ///< lines are broken to it; what is cut off ends in an ellipsis
    int lines = 1;                    ///< at most, where there is a width; 0: as many as it takes
    std::optional<Colour> halo = {};  ///< behind the letters, so that they can be read over lines
};

/// A picture stretched over a rectangle.
struct Image {
    std::shared_ptr<const Picture> picture;
    Box2 box;
    double opacity = 1;
};

using Shape = std::variant<Line, FilledArea, Text, Image>;

/// One thing drawn. `layer` says what it is ("units", "holes"), `name` of what ("RG", "QB101").
struct Item {
    std::string layer, name;
    Shape shape;
    std::optional<Box2> clip = {}; ///< nothing of it is drawn outside
};

/// Drawn in order, later over earlier.
struct Drawing {
    double width = 210, height = 297; ///< of the page
    std::vector<Item> items;

    void add(std::string layer, std::string name, Shape shape, std::optional<Box2> clip = {}) {
        items.push_back({std::move(layer), std::move(name), std::move(shape), clip});
    }
};

/// To another place of the paper.
void moveBy(Item&, Point2 by);
/// In black, white and greys that stay apart: fills with a pattern become white with a black one, others grey by how light they
/// are, lines and letters black, or grey where they are light.
void toBlackAndWhite(Drawing&);

/// A rectangle as a ring.
inline Polygon2 rectangle(double left, double top, double right, double bottom) {
    return {{left, top}, {right, top}, {right, bottom}, {left, bottom}};
}
/// A circle, as a ring of so many corners that it is one to the eye.
Polygon2 circle(Point2 centre, double radius);

} // namespace fox::paper
