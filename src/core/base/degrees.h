#pragma once
#include <optional>
#include <string_view>

namespace fox {

/// An angle as it is written: "52.5301", "52,5301°", "52° 31' 48.5\" N", "52:31:48.5", "S 12 30". Degrees, minutes and seconds by
/// their signs, by colons or by blanks; only the last may have decimals. N and E are positive, S and W negative, as a minus is.
/// None if it is anything else, or beyond 180 degrees.
std::optional<double> parseDegrees(std::string_view);

} // namespace fox
