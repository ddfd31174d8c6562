#include "paper/colour.h"

#include <charconv>

namespace fox::paper {

std::optional<Colour> Colour::parse(std::string_view hex) {
    if (hex.size() != 7 || hex.front() != '#') return {};
    unsigned value = 0;
    const auto* end = hex.data() + hex.size();
    if (const auto [at, fault] = std::from_chars(hex.data() + 1, end, value, 16); fault != std::errc() || at != end) return {};
    return Colour{std::uint8_t(value >> 16), std::uint8_t(value >> 8), std::uint8_t(value)};
}

} // namespace fox::paper
