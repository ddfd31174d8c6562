#pragma once
#include "base/frame.h"
#include "ground/area.h"
#include "holes/hole.h"
#include "sequence/unit_values.h"
#include "surfaces/surface.h"

namespace fox {

enum class BaseRule {
    Cuts, ///< this unit's base truncates older units
    Laps, ///< it stops against older units
};

/// What a unit's base is worked out from.
enum class BaseReference {
    Level,     ///< levels of its contacts
    Plane,     ///< their levels less a tilted plane
    Depth,     ///< depths of its contacts below the smoothed ground (GroundShape::smooth), for units that follow it
    Thickness, ///< thickness under the unit's own top, or over or under another base; see SurfaceRecipe::against
    Trend,     ///< their levels less a share of the smoothed ground, or of another base, that is fitted to them
};
const char* name(BaseReference);  ///< for files: "level"
const char* words(BaseReference); ///< "depth below ground"
std::optional<BaseReference> baseReferenceNamed(std::string_view);
std::string baseReferenceNames(); ///< "level, plane, ..."

/// A plane by how it lies.
struct Tilt {
    double strike = 0; ///< degrees clockwise from north; it dips to the right of the strike
    double dip = 0;    ///< degrees, 0 to 89
    bool operator==(const Tilt&) const = default;
};

/// How a base surface is made. Unset parts are chosen from the data, and the choice is shown.
struct SurfaceRecipe {
    bool automatic = false;   ///< an average over ways to think of it, see AutomaticBase; `settings` then count for nothing but
                              ///< the anisotropy
    SurfaceSettings settings; ///< of one method
    std::optional<BaseReference> reference;
    /// Of Thickness: the unit whose base it is measured from, younger or older. Empty: the unit's own top; then it is a
    /// thickness of the unit itself, and where that is not above 0 the unit is not there. Of Trend: the unit whose base has the
    /// trend; empty: the ground has it.
    std::string against;
    std::optional<Tilt> tilt; ///< of Plane; none: the plane that fits the contacts best
    bool bounds = true;       ///< holes that only limit the base are kept; false: contacts alone
    /// Bases of one series that are kriged from levels or depths share a variogram (see sharedVariogram). Empty: one of its own.
    std::string series;
    std::optional<Frame> grid; ///< extent and cell size in which it is mapped and handed on; none: the site's
    bool operator==(const SurfaceRecipe&) const = default;
    /// Whether it is made from another base, `against`.
    bool needsBase() const {
        return (reference == BaseReference::Thickness || reference == BaseReference::Trend) && !against.empty();
    }
};

/// How a base is made: by one method, or none for the automatic average.
using BaseMethod = std::optional<Method>;
std::vector<BaseMethod> baseMethods(); ///< the automatic one, then the others, the simplest first
BaseMethod methodOf(const SurfaceRecipe&);
void setMethod(SurfaceRecipe&, BaseMethod);
const char* methodName(BaseMethod);                          ///< for files: "automatic", or the method's
const char* methodInWords(BaseMethod);                       ///< "Automatic", "Ordinary kriging"
std::optional<BaseMethod> baseMethodNamed(std::string_view); ///< none for no such name

/// How a base is kept apart from others where they would cross. Without one it is cut off at what lies over it: the younger
/// wins. (For the older to win, the younger one's base laps.)
struct CrossingRemedy {
    enum class Kind {
        None,
        Halfway,   ///< where it rises above the base over it, both take the middle
        Thickness, ///< the unit is nowhere thinner than `metres`, even where holes have none
        Below,     ///< it stays at least `metres` below the base of `unit`
        Above,     ///< it stays at least `metres` above the base of `unit`
    };
    Kind kind = Kind::None;
    double metres = 0;
    std::string unit; ///< of Below and Above: a code; empty: the ground
    bool operator==(const CrossingRemedy&) const = default;
};
const char* name(CrossingRemedy::Kind);  ///< for files: "halfway"
const char* words(CrossingRemedy::Kind); ///< "both meet halfway"
std::optional<CrossingRemedy::Kind> crossingRemedyNamed(std::string_view);

/// What a unit is to groundwater.
enum class WaterRole { NotSet, Aquifer, Aquitard };
const char* name(WaterRole); ///< for files: "aquifer"; empty: not set
std::optional<WaterRole> waterRoleNamed(std::string_view);

/// How far down the oldest unit goes, so that it has a body.
struct UnitFloor {
    enum class From { Datum, DeepestHole } from = From::Datum;
    double metres = 0; ///< the level, or how far below the end of the deepest hole
    bool operator==(const UnitFloor&) const = default;
};

struct Unit {
    std::string code, name;
    std::string colour; ///< "#rrggbb"
    BaseRule base = BaseRule::Cuts;
    /// What logs may call it: the code itself if empty. One logged code may stand for several units (till
    /// over and under a lens); which one an interval is follows from its place in the hole.
    std::vector<std::string> logged;
    SurfaceRecipe recipe;
    std::string hatch;                   ///< the ground whose sign is drawn ("clay"); empty: what the name says
    double leastThickness = 0;           ///< metres; where it would be thinner the unit is absent
    std::vector<RingWithHoles> outlines; ///< the unit does not leave them; without one it may be anywhere
    CrossingRemedy crossing;
    WaterRole water = WaterRole::NotSet;
    std::map<std::string, double> values; ///< by UnitValueKind::key; nothing here is worked out from them
    /// Metres: standard deviation of the levels at which its base is logged; 0: surfaces go through the contacts.
    double loggingAccuracy = 0;
    std::optional<UnitFloor> floor; ///< of the oldest unit; none: it has no base and no volume
    bool operator==(const Unit&) const = default;
};

/// From youngest to oldest; the oldest has no base.
struct Sequence {
    std::vector<Unit> units;
    std::string unitHeading;                    ///< which column of the geology carries the unit
    std::map<std::string, std::string> aliases; ///< logged spelling -> code
    std::vector<UnitValueKind> ownValues;       ///< kinds of values beside the standard ones
    bool operator==(const Sequence&) const = default;

    std::optional<std::size_t> index(std::string_view code) const;
    std::vector<UnitValueKind> valueKinds() const; ///< the standard ones, then its own
};

/// A sequence from the holes alone: codes ordered by which lies over which most often, names from `codeNames` or,
/// where it has none, from the commonest material of the descriptions; colours and signs by name and material. A code
/// that looks like a spelling of a commoner one ("M.G.", "made gr") is left out, for readHoles to name. An empty heading is the
/// first of unitHeadings().
Sequence proposeSequence(const Holes&, const std::map<std::string, std::string>& codeNames, const std::string& heading = {});

/// "#rrggbb"
bool isColour(std::string_view);
/// Whether a name speaks of a kind of ground.
bool saysGround(const std::string& name);
/// An earth tone for a name that speaks of clay, sand, gravel and so on (the longest word that it has decides: sandstone is no
/// sand), made lighter or darker until it can be told from those of the other units.
std::string proposedColour(const std::string& name, const std::vector<Unit>& others);
/// Whether two colours "#rrggbb" can be told apart as areas side by side: CIE 1976 colour difference of kColourStep and more.
bool canBeToldApart(const std::string&, const std::string&);
inline constexpr double kColourStep = 8; ///< in CIE L*a*b*

} // namespace fox
