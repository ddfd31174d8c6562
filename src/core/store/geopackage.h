#pragma once
// The GeoPackage side of the store: its own tables, feature and attribute tables, geometry blobs.
#include "base/point.h"

#include <SQLiteCpp/SQLiteCpp.h>

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fox::geopackage {

/// The tables that every GeoPackage has (OGC 12-128r18), empty, and the file's marks.
void createCoreTables(SQLite::Database&);
/// Whether the file's marks say GeoPackage.
bool isGeoPackage(SQLite::Database&);

/// Makes the reference system known and returns its srs_id; -1, undefined Cartesian, for an unknown one.
int registerSystem(SQLite::Database&, const std::string& crs);

enum class Geometry { Point, Line, Polygon };
/// `columns` is SQL, such as "name TEXT NOT NULL, level REAL"; fid and geom are added.
void createFeatureTable(SQLite::Database&, const std::string& table, const std::string& columns, Geometry, bool levels);
void createAttributeTable(SQLite::Database&, const std::string& table, const std::string& columns);
/// Sets the system and extent that the contents table gives for a feature table.
void describe(SQLite::Database&, const std::string& table, int system, const Box2& extent);

// --- small helpers of statements
std::string quotedName(const std::string&);                               ///< of a table or column, for SQL
void bindOr(SQLite::Statement&, int index, const std::optional<double>&); ///< null if there is none
std::optional<double> columnOr(SQLite::Statement&, int index);
std::string text(SQLite::Statement&, int index);
void bindBlob(SQLite::Statement&, int index, const std::string& bytes); ///< the bytes must outlive the step
void again(SQLite::Statement&);                                         ///< runs it and makes it ready for the next row

/// One row of the table "settings".
void setSetting(SQLite::Database&, const std::string& key, const std::string& value);
std::string setting(SQLite::Database&, const std::string& key, const std::string& otherwise);

/// Bytes made smaller by zlib, and back. @throws Error if they can't be
std::string packed(std::string_view bytes);
std::string unpacked(const std::string& bytes, std::size_t size);

std::string blob(const std::vector<Point3>& points, Geometry, bool levels, int system); ///< a point, or a line of these
std::string areaBlob(const Polygon2& ring, const std::vector<Polygon2>& holes, int system);

} // namespace fox::geopackage
