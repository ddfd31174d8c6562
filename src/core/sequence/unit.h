#pragma once
#include "holes/hole.h"
#include "surfaces/surface.h"

namespace fox {

enum class BaseRule {
    Cuts, ///< this unit's base truncates older units
    Laps, ///< it stops against older units
};

/// What a unit's base is worked out from.
enum class BaseReference {
    Level, ///< levels of its contacts
    Depth, ///< depths of its contacts below the ground, for thin units that follow it
};
const char* name(BaseReference); ///< "level", "depth"

/// How a base surface is made. Unset parts are chosen from the data, and the choice is shown.
struct SurfaceRecipe {
    SurfaceSettings settings;
    std::optional<BaseReference> reference;
    bool operator==(const SurfaceRecipe&) const = default;
};

struct Unit {
    std::string code, name;
    std::string colour; ///< "#rrggbb"
    BaseRule base = BaseRule::Cuts;
    /// What logs may call it: the code itself if empty. One logged code may stand for several units (till
    /// over and under a lens); which one an interval is follows from its place in the hole.
    std::vector<std::string> logged;
    SurfaceRecipe recipe;
    std::string hatch; ///< the ground whose sign is drawn ("clay"); empty: what the name says
    bool operator==(const Unit&) const = default;
};

/// From youngest to oldest; the oldest has no base.
struct Sequence {
    std::vector<Unit> units;
    std::string unitHeading;                    ///< which column of the geology carries the unit
    std::map<std::string, std::string> aliases; ///< logged spelling -> code
    bool operator==(const Sequence&) const = default;

    std::optional<std::size_t> index(std::string_view code) const;
};

/// A sequence from the holes alone: codes ordered by which lies over which most often, names from `codeNames` or,
/// where it has none, from the commonest material of the descriptions; colours and signs by name and material. An empty heading
/// is the first of unitHeadings().
Sequence proposeSequence(const Holes&, const std::map<std::string, std::string>& codeNames, const std::string& heading = {});

/// An earth tone for a name that speaks of clay, sand, gravel and so on.
std::string proposedColour(const std::string& name, std::size_t position);

} // namespace fox
