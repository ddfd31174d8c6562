#pragma once
#include <cstdint>
#include <optional>
#include <string_view>

namespace fox::paper {

struct Colour {
    std::uint8_t red = 0x25, green = 0x21, blue = 0x1C, alpha = 255; ///< the ink that is usual here
    bool operator==(const Colour&) const = default;

    /// "#rrggbb", in either case; none for anything else.
    static std::optional<Colour> parse(std::string_view hex);
    /// Each part divided by the factor.
    constexpr Colour darker(double factor) const {
        const auto part = [&](std::uint8_t v) { return std::uint8_t(double(v) / factor); };
        return {part(red), part(green), part(blue), alpha};
    }
    constexpr Colour withAlpha(std::uint8_t a) const { return {red, green, blue, a}; }
};

/// The colours of the interface that are printed too, by their role.
inline constexpr Colour kPaper{0xFF, 0xFD, 0xF9}, kInk{}, kMuted{0x6F, 0x66, 0x5C}, kRule{0xDD, 0xD4, 0xC6},
    kAccent{0xC4, 0x54, 0x1A}, kGround{0x42, 0x5A, 0x32}, kSlate{0x3E, 0x5C, 0x76}, kWater{0xB5, 0xC9, 0xD3},
    kWhite{0xFF, 0xFF, 0xFF};

} // namespace fox::paper
