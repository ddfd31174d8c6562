#pragma once
#include "base/point.h"

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace fox {

/// An excavation as it is asked for.
struct ExcavationSpec {
    std::string name = {}; ///< of the excavation: "Borrow pit"
    enum class Wanted {
        Units,   ///< all of `units`
        Blocks,  ///< blocks of a model above or below a value
        Surface, ///< down to a grid
        Floor,   ///< down to a level inside a ring
        Line     ///< a cutting: down to a formation along a line
    } wanted = Wanted::Units;
    std::vector<std::string> units = {};
    std::string blocks = {};  ///< a model of the project by name, or a specification's file
    double limit = 0;         ///< of blocks
    bool above = true;        ///< blocks above the limit; else below
    std::string surface = {}; ///< a named surface of the project, or a grid's file
    Polygon2 ring = {};       ///< of a floor
    double level = 0;         ///< of a floor, metres
    Polyline3 line = {};      ///< the formation's middle and levels, of a cutting
    double lineWidth = 0;     ///< of the formation, metres
    std::string insideFile = {};
    Polygon2 insideRing = {}; ///< both empty: everywhere
    /// Degrees from the horizontal, by unit code; under "" of all that are not named.
    std::map<std::string, double> slopes = {};
    /// Slopes that rise in some directions stand otherwise: joints that dip into the pit, for instance.
    struct Sector {
        double from = 0, to = 0; ///< degrees clockwise from north, of the way up the slope; may pass north
        std::map<std::string, double> slopes = {};
        bool operator==(const Sector&) const = default;
    };
    std::vector<Sector> sectors = {};
    double floorWidth = 0; ///< metres: wherever it is dug to what is wanted, the floor is so wide at least
    /// Nothing is dug outside; where slopes would need it, the pit is cut off upright. Both empty: no limit.
    std::string limitFile = {};
    Polygon2 limitRing = {};
    std::string water = {};                ///< a water surface of the project, by name: what lies below it is said
    std::optional<double> waterLevel = {}; ///< in its place
    std::string after = {};                ///< an excavation of the project that is dug before, by name: its floor is the ground
    struct Bench {
        double height = 0, berm = 0; ///< metres
        bool operator==(const Bench&) const = default;
    };
    std::optional<Bench> bench = {};
    std::optional<double> floor = {};           ///< metres: nothing is dug below this level
    double cell = 0;                            ///< metres; 0: the site's
    std::map<std::string, double> factors = {}; ///< loose over dug volume, by unit code
    struct Worth {
        double value = 0, cost = 0; ///< per cubic metre wanted, per cubic metre dug
        bool operator==(const Worth&) const = default;
    };
    std::optional<Worth> worth = {};
    int realisations = 0; ///< equally likely models in which it is counted too; 0: none
    bool operator==(const ExcavationSpec&) const = default;
};

/// Reads the JSON of batch.md and docs/formats.md; files are relative to `folder`, and have it in front afterwards.
/// @throws FileError if it is not JSON of this kind, UsageError for a number or word that can't be
ExcavationSpec excavationSpecOf(std::string_view json, const std::filesystem::path& folder);
std::string toJson(const ExcavationSpec&);

} // namespace fox
