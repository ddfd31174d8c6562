#pragma once
#include "base/point.h"
#include "paper/colour.h"

#include <string>
#include <string_view>
#include <vector>

namespace fox::paper {

/// Hand-drawn signs for kinds of ground, of our own: dashes for clay, dots for sand, rings for gravel and so on.
enum class Pattern { None, Dashes, Dots, Rings, Fibres, Stones, Roots, Rubble, Bricks, Laminae, Cracks };

/// A pattern is a square tile of this many millimetres, repeated.
inline constexpr double kPatternTile = 20 * 25.4 / 96;

/// What is drawn on one tile, in twentieths of its side.
struct PatternMarks {
    std::vector<Polyline2> strokes;
    std::vector<Point2> dots;
    double width = 1.1; ///< of strokes
    static constexpr double kSide = 20, kDot = 1.8;
};
const PatternMarks& marksOf(Pattern);

/// The pattern of a kind of ground by the words for it ("River Gravel", "clay"), None for words that say nothing.
Pattern patternFor(std::string_view words);
/// The kinds of ground that have one, for choosing: "clay", "sand".
std::vector<std::string> groundsWithPattern();

} // namespace fox::paper
