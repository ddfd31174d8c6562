#pragma once
#include <optional>
#include <string_view>

namespace fox {

/// How many of `to` are in one of `from`: 1000 for MPa and kPa. None if either is not known or they measure different things.
/// Pressures and strengths (kPa, MPa, MN/m2, kN/m2, bar), densities (Mg/m3, kg/m3), amounts in water and in soil (mg/l, ug/l;
/// mg/kg, ug/kg) and speeds of water (m/s, m/day), in the usual spellings.
std::optional<double> measureFactor(std::string_view from, std::string_view to);

} // namespace fox
