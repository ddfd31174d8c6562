#pragma once
#include "base/progress.h"
#include "formats/picture.h"
#include "formats/raster.h"

#include <memory>

namespace fox {

/// Something that a service can give: a grid of levels, or a map picture.
struct Dataset {
    std::string id;   ///< "levels-30"
    std::string name; ///< "Elevation, 30 m"
    std::string note; ///< what it is and what it may be used for
    double cell = 30; ///< metres
};

/// What is asked for: a rectangle in a projected system.
struct TileRequest {
    Box2 box;
    std::string crs; ///< "EPSG:25831"
};

/// How much it will be, told before asking.
struct TileSize {
    int columns = 0, rows = 0;
    double megabytes = 0;
};
/// The size of a request: cells of the offer, whole ones, from the rectangle's north-west corner.
/// @throws Error for an empty rectangle, a system that is not projected, or more than kMostTileCells
TileSize sizeOf(const Dataset&, const TileRequest&);
inline constexpr double kMostTileCells = 4e6;

/// A source of elevation grids. A real one asks over the network in fetch(); everything else stays the same.
class ElevationService {
public:
    virtual ~ElevationService() = default;
    virtual std::vector<Dataset> offers() const = 0;
    /// Levels at cell centres, in the request's system. Tells its progress and stops when asked to.
    /// @throws Error as sizeOf, and in words if the service can't give it; Stopped
    virtual Raster fetch(const Dataset&, const TileRequest&, const Progress&) const = 0;
};

/// A source of map pictures.
class MapService {
public:
    virtual ~MapService() = default;
    virtual std::vector<Dataset> offers() const = 0;
    /// A picture with its georeference. @throws as above
    virtual Picture fetch(const Dataset&, const TileRequest&, const Progress&) const = 0;
};

/// The stand-ins that ship with the program: they need no network and make up the world from fixed formulas that agree
/// with the demo site. `seconds` is how long a job pretends to take.
std::unique_ptr<ElevationService> standInElevationService(double seconds = 0);
std::unique_ptr<MapService> standInMapService(double seconds = 0);

} // namespace fox
