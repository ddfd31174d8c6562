#include "base/text.h"
#include "sequence/unit.h"

#include <array>
#include <cmath>
#include <fmt/format.h>

// Colours of units. They start with the earth tone that their name speaks of; where another unit has that already, the lightness
// is changed in steps, since tone is what says which kind of ground it is. Differences are those of CIE L*a*b* (1976) under
// D65, in which equal distances look about equally different.
namespace fox {

namespace {

constexpr std::pair<const char*, const char*> kByWord[] = {
    {"topsoil", "#8d8178"},   {"made", "#a79d91"},   {"fill", "#a79d91"},      {"peat", "#7d6a50"},
    {"alluvi", "#c9b797"},    {"gravel", "#d8c074"}, {"till", "#b08e76"},      {"sand", "#e6d39a"},
    {"silt", "#cbbf9f"},      {"clay", "#b79a7c"},   {"weathered", "#a9b6bb"}, {"mudstone", "#90a0a9"},
    {"limestone", "#b9c4b4"}, {"chalk", "#dfe0d4"},  {"sandstone", "#d1a86b"}, {"rock", "#9c9a94"}};

/// The entry of the longest word that a name has; null if it has none.
const char* colourByWord(const std::string& name) {
    const auto said = lower(name);
    const char* found = nullptr;
    std::size_t longest = 0;
    for (const auto& [word, colour] : kByWord)
        if (const std::size_t length = std::string_view(word).size(); length > longest && said.find(word) != std::string::npos)
            found = colour, longest = length;
    return found;
}

using Rgb = std::array<int, 3>;
using Lab = std::array<double, 3>;

Rgb rgbOf(const std::string& colour) {
    const auto part = [&](std::size_t at) { return std::stoi(colour.substr(at, 2), nullptr, 16); };
    return {part(1), part(3), part(5)};
}

std::string hex(const Rgb& c) { return fmt::format("#{:02x}{:02x}{:02x}", c[0], c[1], c[2]); }

Lab labOf(const Rgb& c) {
    const auto linear = [](int v) { return v <= 10 ? v / 255.0 / 12.92 : std::pow((v / 255.0 + 0.055) / 1.055, 2.4); };
    const double r = linear(c[0]), g = linear(c[1]), b = linear(c[2]);
    const auto f = [](double t) { return t > 216.0 / 24389 ? std::cbrt(t) : (24389.0 / 27 * t + 16) / 116; };
    const double x = f((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047),
                 y = f(0.2126729 * r + 0.7151522 * g + 0.072175 * b),
                 z = f((0.0193339 * r + 0.119192 * g + 0.9503041 * b) / 1.08883);
    return {116 * y - 16, 500 * (x - y), 200 * (y - z)};
}

/// Towards white by a share above 0, towards black by one below.
Rgb lighter(Rgb c, double share) {
    for (int& v : c) v = int(std::lround(share > 0 ? v + share * (255 - v) : v * (1 + share)));
    return c;
}

} // namespace

bool isColour(std::string_view s) {
    return s.size() == 7 && s[0] == '#' && s.find_first_not_of("0123456789abcdefABCDEF", 1) == s.npos;
}

bool saysGround(const std::string& name) { return colourByWord(name) != nullptr; }

bool canBeToldApart(const std::string& one, const std::string& other) {
    const auto a = labOf(rgbOf(one)), b = labOf(rgbOf(other));
    return std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]) >= kColourStep;
}

std::string proposedColour(const std::string& name, const std::vector<Unit>& others) {
    static constexpr std::array kOthers{"#b3a58d", "#c7a98a", "#a8ad8b", "#c2b5a0", "#9aa79d", "#bd9f85"};
    const auto* byWord = colourByWord(name);
    const std::string wanted = byWord ? byWord : kOthers[others.size() % kOthers.size()];
    const auto isFree = [&](const std::string& colour) {
        return std::ranges::all_of(others,
                                   [&](const Unit& u) { return !isColour(u.colour) || canBeToldApart(colour, u.colour); });
    };
    if (isFree(wanted)) return wanted;
    for (int step = 1; step <= 14; ++step) // to nearly white and nearly black, nearest first
        for (const double share : {-0.06 * step, 0.06 * step})
            if (auto colour = hex(lighter(rgbOf(wanted), share)); isFree(colour)) return colour;
    return wanted; // some twenty units of one tone: none is left
}

} // namespace fox
