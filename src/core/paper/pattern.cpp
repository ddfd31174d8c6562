#include "paper/pattern.h"

#include "base/text.h"

#include <array>
#include <cmath>
#include <numbers>
#include <utility>

namespace fox::paper {

namespace {

Polyline2 line(double x0, double y0, double x1, double y1) { return {{x0, y0}, {x1, y1}}; }

Polyline2 ellipse(Point2 centre, double a, double b) {
    constexpr int kCorners = 20;
    Polyline2 out;
    for (int i = 0; i <= kCorners; ++i) {
        const double t = 2 * std::numbers::pi * i / kCorners;
        out.push_back({centre.x + a * std::cos(t), centre.y + b * std::sin(t)});
    }
    return out;
}

/// A quadratic curve from a to b, drawn towards c.
Polyline2 curve(Point2 a, Point2 c, Point2 b) {
    constexpr int kPieces = 8;
    Polyline2 out;
    for (int i = 0; i <= kPieces; ++i) {
        const double t = double(i) / kPieces, u = 1 - t;
        out.push_back({u * u * a.x + 2 * u * t * c.x + t * t * b.x, u * u * a.y + 2 * u * t * c.y + t * t * b.y});
    }
    return out;
}

PatternMarks fibres() {
    PatternMarks out;
    for (const auto& p : {Point2{3, 8}, Point2{12, 16}}) {
        out.strokes.push_back(curve(p, {p.x + 3, p.y - 6}, {p.x + 6, p.y}));
        out.strokes.push_back(line(p.x + 3, p.y - 3, p.x + 3, p.y - 7));
    }
    return out;
}

PatternMarks roots() {
    PatternMarks out;
    for (const double x : {4.0, 13.0}) {
        out.strokes.push_back({{x - 2, 13}, {x, 9}, {x + 2, 13}});
        out.strokes.push_back(line(x, 3, x, 9));
    }
    return out;
}

const std::vector<Polyline2> kLaminae{line(0, 4, 20, 4), line(0, 11, 12, 11), line(8, 17, 20, 17)};

PatternMarks cracks() {
    PatternMarks out{kLaminae, {}};
    out.strokes.push_back(line(13, 6, 16, 9));
    out.strokes.push_back(line(4, 13, 2, 16));
    return out;
}

constexpr std::pair<std::string_view, Pattern> kByWord[] = {
    {"topsoil", Pattern::Roots},    {"made", Pattern::Rubble},   {"fill", Pattern::Rubble},       {"peat", Pattern::Fibres},
    {"gravel", Pattern::Rings},     {"till", Pattern::Stones},   {"sandstone", Pattern::Laminae}, {"siltstone", Pattern::Laminae},
    {"sand", Pattern::Dots},        {"alluvi", Pattern::Dashes}, {"silt", Pattern::Dashes},       {"weathered", Pattern::Cracks},
    {"mudstone", Pattern::Laminae}, {"shale", Pattern::Laminae}, {"limestone", Pattern::Bricks},  {"chalk", Pattern::Bricks},
    {"clay", Pattern::Dashes}};
/// Parts of words, and qualities: they are not kinds of ground to choose.
constexpr std::string_view kNotChosen[] = {"made", "alluvi", "weathered"};

} // namespace

const PatternMarks& marksOf(Pattern pattern) {
    static const std::array<PatternMarks, 11> kMarks{
        PatternMarks{},
        PatternMarks{{line(2, 4, 9, 4), line(10, 12, 17, 12)}, {}},
        PatternMarks{{}, {{3, 3}, {11, 6}, {6, 12}, {15, 15}}},
        PatternMarks{{ellipse({5, 5}, 3, 2.4), ellipse({14, 13}, 3.6, 2.8)}, {}},
        fibres(),
        PatternMarks{
            {line(2, 5, 8, 5), line(11, 15, 17, 15), {{12, 6}, {15, 3}, {17, 7}, {12, 6}}, {{3, 15}, {5, 11}, {7, 15}, {3, 15}}},
            {}},
        roots(),
        PatternMarks{{line(2, 2, 7, 7), line(7, 2, 2, 7), {{11, 11}, {17, 11}, {17, 15}, {11, 15}, {11, 11}}}, {}},
        PatternMarks{{line(0, 0, 20, 0), line(0, 10, 20, 10), line(5, 0, 5, 10), line(15, 10, 15, 20)}, {}},
        PatternMarks{kLaminae, {}},
        cracks()};
    return kMarks[std::size_t(pattern)];
}

Pattern patternFor(std::string_view words) {
    const auto said = lower(std::string(words));
    for (const auto& [word, pattern] : kByWord)
        if (said.find(word) != std::string::npos) return pattern;
    return Pattern::None;
}

std::vector<std::string> groundsWithPattern() {
    std::vector<std::string> out;
    for (const auto& [word, pattern] : kByWord)
        if (std::ranges::find(kNotChosen, word) == std::end(kNotChosen)) out.emplace_back(word);
    return out;
}

} // namespace fox::paper
