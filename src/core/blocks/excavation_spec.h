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
        Floor    ///< down to a level inside a ring
    } wanted = Wanted::Units;
    std::vector<std::string> units = {};
    std::string blocks = {}; ///< a model of the project by name, or a specification's file
    double limit = 0;        ///< of blocks
    bool above = true;       ///< blocks above the limit; else below
    std::string surface = {};
    Polygon2 ring = {}; ///< of a floor
    double level = 0;   ///< of a floor, metres
    std::string insideFile = {};
    Polygon2 insideRing = {}; ///< both empty: everywhere
    /// Degrees from the horizontal, by unit code; under "" of all that are not named.
    std::map<std::string, double> slopes = {};
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
    bool operator==(const ExcavationSpec&) const = default;
};

/// Reads the JSON of batch.md and docs/formats.md; files are relative to `folder`, and have it in front afterwards.
/// @throws FileError if it is not JSON of this kind, UsageError for a number or word that can't be
ExcavationSpec excavationSpecOf(std::string_view json, const std::filesystem::path& folder);
std::string toJson(const ExcavationSpec&);

} // namespace fox
