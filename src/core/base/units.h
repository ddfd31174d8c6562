#pragma once
#include <compare>

namespace fox {

/// Metres below ground level along a hole, positive down.
struct Depth {
    double metres = 0;
    auto operator<=>(const Depth&) const = default;
};

/// Metres in the project's vertical datum, positive up.
struct Level {
    double metres = 0;
    auto operator<=>(const Level&) const = default;
};

/// Both hold for a vertical hole only: other holes go through their Path.
constexpr Level operator-(Level ground, Depth d) { return {ground.metres - d.metres}; }
constexpr Depth operator-(Level ground, Level at) { return {ground.metres - at.metres}; }

} // namespace fox
