#pragma once
#include <optional>
#include <string>

namespace fox {

/// The name of a projected coordinate system ("EPSG:25831") if it is known, from what somebody typed ("25831",
/// "epsg:25831").
std::optional<std::string> projectedSystem(const std::string& typed);

} // namespace fox
