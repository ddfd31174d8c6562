#pragma once
#include "base/point.h"

#include <filesystem>
#include <map>
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
};

struct FeatureLayer {
    std::string name;
    std::string crs; ///< "EPSG:25831", or empty
    std::vector<Feature> features;
};

/// Every vector layer of a file that GDAL reads (GeoPackage, shapefile, GeoJSON, DXF and so on).
/// @throws FileError if it can't
std::vector<FeatureLayer> readVector(const std::filesystem::path&);

/// GeoPackage or shapefile (.gpkg, .shp) by ending; a shapefile holds one layer. Fields come from the
/// attributes. `timestamp` stands in a GeoPackage for when it was made ("2020-01-01T00:00:00Z"); empty is now.
/// @throws UsageError for another ending, FileError if it can't be written
void writeVector(const std::filesystem::path&, const std::vector<FeatureLayer>&, const std::string& timestamp = {});

} // namespace fox
