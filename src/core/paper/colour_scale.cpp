#include "paper/colour_scale.h"

#include "base/written_number.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fox::paper {

namespace {

using Stops = std::vector<Colour>;

const Stops& stopsOf(ColourScale scale) {
    static const Stops kEarth{{0x3E, 0x5C, 0x76}, {0xE2, 0xCF, 0x8F}, {0xC4, 0x54, 0x1A}},
        kDeepLight{{0x1D, 0x24, 0x5A}, {0x24, 0x55, 0x86}, {0x2F, 0x86, 0x86},
                   {0x74, 0xB3, 0x6E}, {0xC9, 0xD6, 0x6C}, {0xFB, 0xF3, 0xB4}},
        kLightDark{{0xFB, 0xF4, 0xE6}, {0xE7, 0xC7, 0x98}, {0xC9, 0x8C, 0x57}, {0x93, 0x55, 0x30}, {0x4A, 0x23, 0x12}},
        kGrey{{0xEE, 0xEC, 0xE8}, {0x2E, 0x2C, 0x2A}};
    switch (scale) {
    case ColourScale::Earth: return kEarth;
    case ColourScale::DeepLight: return kDeepLight;
    case ColourScale::LightDark: return kLightDark;
    case ColourScale::Grey: return kGrey;
    }
    return kEarth;
}

std::vector<double> finite(std::span<const double> values) {
    std::vector<double> out;
    for (const double v : values)
        if (std::isfinite(v)) out.push_back(v);
    std::ranges::sort(out);
    return out;
}

/// The coarsest round step that still gives so many classes between the ends, or none.
std::vector<double> roundLimits(double low, double high, int count) {
    const double wanted = (high - low) / count, power = std::pow(10, std::floor(std::log10(wanted)));
    for (const double times : {1.0, 2.0, 2.5, 5.0, 10.0}) {
        const double step = times * power;
        if (step < wanted * 0.999) continue;
        std::vector<double> out;
        for (double k = std::floor(low / step) + 1; k * step < high; ++k) out.push_back(k * step);
        if (int(out.size()) == count - 1) return out;
    }
    return {};
}

} // namespace

const char* words(ColourScale scale) {
    switch (scale) {
    case ColourScale::Earth: return "slate, sand, orange";
    case ColourScale::DeepLight: return "dark blue to light yellow";
    case ColourScale::LightDark: return "light to dark brown";
    case ColourScale::Grey: return "grey";
    }
    return "";
}

Colour scaleColour(ColourScale scale, double share) {
    const auto& stops = stopsOf(scale);
    const double at = std::clamp(std::isnan(share) ? 0 : share, 0.0, 1.0) * double(stops.size() - 1);
    const auto i = std::min(std::size_t(at), stops.size() - 2);
    const double t = at - double(i);
    const auto mix = [t](std::uint8_t a, std::uint8_t b) { return std::uint8_t(std::lround(a + t * (double(b) - a))); };
    const auto &a = stops[i], &b = stops[i + 1];
    return {mix(a.red, b.red), mix(a.green, b.green), mix(a.blue, b.blue), 255};
}

std::size_t ValueColours::classOf(double value) const {
    return std::size_t(std::ranges::upper_bound(limits, value) - limits.begin());
}

Colour ValueColours::of(double value) const {
    if (limits.empty()) return scaleColour(scale, high > low ? (value - low) / (high - low) : 0.5);
    return scaleColour(scale, double(classOf(value)) / double(limits.size()));
}

std::string ValueColours::classInWords(std::size_t at) const {
    if (limits.empty()) return {};
    if (at == 0) return fmt::format("under {:.4g}", limits.front());
    if (at >= limits.size()) return fmt::format("{:.4g} and more", limits.back());
    return fmt::format("{:.4g} to {:.4g}", limits[at - 1], limits[at]);
}

std::vector<double> classLimits(const ClassChoice& choice, std::span<const double> values) {
    if (choice.kind == ClassKind::None) return {};
    if (choice.kind == ClassKind::Typed) return choice.typed;
    const auto sorted = finite(values);
    const int count = std::clamp(choice.count, 2, kMostClasses);
    if (sorted.empty() || !(sorted.back() > sorted.front())) return {};
    std::vector<double> out;
    if (choice.kind == ClassKind::Equal) {
        out = roundLimits(sorted.front(), sorted.back(), count);
        if (out.empty())
            for (int k = 1; k < count; ++k) out.push_back(sorted.front() + (sorted.back() - sorted.front()) * k / count);
        return out;
    }
    for (int k = 1; k < count; ++k) out.push_back(sorted[std::size_t(double(sorted.size()) * k / count)]);
    out.erase(std::unique(out.begin(), out.end()), out.end());
    if (!out.empty() && out.front() == sorted.front()) out.erase(out.begin()); // a class without values
    return out;
}

std::vector<double> limitsWritten(std::string_view text) {
    std::vector<double> out;
    std::size_t at = 0;
    while (at < text.size()) {
        const auto from = text.find_first_not_of(" ;\t", at);
        if (from == text.npos) break;
        auto to = text.find_first_of(" ;\t", from);
        if (to == text.npos) to = text.size();
        auto word = text.substr(from, to - from);
        if (word.ends_with(',')) word.remove_suffix(1);
        const auto number = readWrittenNumber(word).value;
        if (!number || (!out.empty() && *number <= out.back())) return {};
        out.push_back(*number);
        at = to;
    }
    return out;
}

} // namespace fox::paper
