#pragma once
#include "base/point.h"
#include "base/progress.h"

#include <cstdint>
#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace fox {

enum class GeometryKind { Point, Line, Polygon };

/// A point (one part of one point), lines, or polygons (each ring a part, holes told by winding).
struct Feature {
    GeometryKind kind = GeometryKind::Line;
    std::vector<Polyline3> parts;
    bool hasLevels = false; ///< the geometry is 3D
    using Value = std::variant<std::monostate, double, std::string>;
    std::map<std::string, Value> attributes;
    std::string label = {}; ///< of a point in a drawing: it is written there, 2 m high
    std::int64_t id = -1;   ///< its number in the file, where that was read from one; it stays the same, whatever is filtered
};

struct FeatureLayer {
    std::string name;
    std::string crs; ///< "EPSG:25831", or empty
    std::vector<Feature> features;
};

/// The layer of what a drawing inserts as blocks: a point each, with the block's attributes.
inline constexpr const char* kInsertedBlocks = "inserted blocks";
/// Every vector layer of a file that GDAL reads (GeoPackage, shapefile, GeoJSON, DXF and so on). With `near`, features
/// whose extent lies apart from it are passed over, without reading them where the format allows it. Lines inside the blocks
/// that a drawing inserts are symbols, and not read, unless the drawing has no other lines.
/// @throws FileError if it can't
std::vector<FeatureLayer> readVector(const std::filesystem::path&, const std::optional<Box2>& near = {}, const Progress& = {});

/// The coordinate system of a file's first layer that has one ("EPSG:25831"), or empty. @throws FileError
std::string vectorSystem(const std::filesystem::path&);

/// GeoPackage, shapefile or drawing (.gpkg, .shp, .dxf) by ending; a shapefile holds one layer, a drawing its lines by
/// layer and no attributes. Fields come from the attributes. `timestamp` stands in a GeoPackage for when it was made
/// ("2020-01-01T00:00:00Z"); empty is now.
/// @throws UsageError for another ending, FileError if it can't be written
void writeVector(const std::filesystem::path&, const std::vector<FeatureLayer>&, const std::string& timestamp = {});

} // namespace fox
