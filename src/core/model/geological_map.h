#pragma once
#include "model/model.h"

namespace fox {

/// Where a unit lies on a map.
struct MapArea {
    std::size_t unit = 0;
    /// Outer rings counter-clockwise, each followed by its holes, clockwise.
    std::vector<Polygon2> rings;
    double area = 0; ///< square metres
};

/// On which surface a geological map looks at the units.
struct MapSurface {
    enum class Kind { Ground, Level, Depth } kind = Kind::Ground;
    double metres = 0; ///< the level, or the depth below ground
    bool operator==(const MapSurface&) const = default;
};
/// "at the ground", "at a level of 20 m", "3 m below ground"
std::string words(const MapSurface&);

/// What is thinner than this at the ground is not mapped, and edges run where the thickness is this much. Metres.
inline constexpr double kMappedThickness = 0.05;

/// Which unit lies where, youngest first, the oldest among them. Edges are the lines where the surface meets the bases,
/// straight within a cell (GDAL's contour polygons); a unit is what lies over its base and not over the one before
/// (polygons by GEOS). Where nothing is known there is no area.
/// Units of `without` are looked through: what lies under them is mapped.
std::vector<MapArea> geologicalMap(const ModelGrid&, const MapSurface&, const std::vector<std::size_t>& without = {});

/// The unit at a place of such a map; none outside it.
std::optional<std::size_t> unitOn(const std::vector<MapArea>&, Point2);

} // namespace fox
