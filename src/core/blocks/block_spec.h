#pragma once
#include "base/frame.h"
#include "surfaces/variogram.h"

#include <filesystem>

namespace fox {

/// Blocks of values in 3D as they are asked for.
struct BlockSpec {
    /// What holes have by depth, a table of points, or values at points that the project has.
    enum class Of { Curve, Test, Points, Values } of = Of::Curve;
    std::string name;                   ///< of the model: "gamma"
    std::string quantity;               ///< of a curve, a test or values; of points, the column
    std::string file = {};              ///< of points; of values, the file that they came from, empty: any
    double dx = 10, dy = 10, dz = 1;    ///< metres
    std::optional<Frame> extent = {};   ///< its cell is not used; none: the site's
    double fromLevel = 0, toLevel = 0;  ///< metres
    double composite = 0;               ///< metres; 0: readings as they are
    bool within = false;                ///< only composites of the block's own unit count
    std::vector<std::string> only = {}; ///< codes: composites and blocks of these units alone; empty: all
    enum class Method { InverseDistance, Kriging, Nearest } method = Method::InverseDistance;
    double power = 2;
    int neighbours = 12;                     ///< 0: all
    double radius = 0;                       ///< metres; 0: no limit
    double vertical = 1;                     ///< differences of level count so many times
    bool verticalFitted = false;             ///< `vertical` is fitted, see fitBlockVariogram()
    double verticalRadius = 0;               ///< metres of level; 0: no limit of its own
    int perHole = 0;                         ///< at most so many composites of one hole count; 0: any number
    std::optional<Variogram> variogram = {}; ///< of kriging; none: fitted
    bool logarithmic = false;                ///< values over 0; the median is given
    std::optional<double> cap = {};          ///< higher values are taken as this
    bool operator==(const BlockSpec&) const = default;
};
const char* name(BlockSpec::Method); ///< for files: "inverse-distance"

/// Reads the JSON of batch.md and docs/formats.md; files are relative to `folder`, and have it in front afterwards.
/// @throws FileError if it is not JSON of this kind, UsageError for a number or word that can't be
BlockSpec blockSpecOf(std::string_view json, const std::filesystem::path& folder);
std::string toJson(const BlockSpec&);

} // namespace fox
