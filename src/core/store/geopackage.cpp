#include "store/geopackage.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/text.h"
#include "formats/gdal_session.h"

#include <cstring>
#include <fmt/format.h>
#include <zlib.h>

namespace fox::geopackage {

namespace {
constexpr int kApplicationId = 0x47504B47; // "GPKG"
constexpr int kVersion = 10300;
} // namespace

void createCoreTables(SQLite::Database& db) {
    db.exec(fmt::format("PRAGMA application_id = {}; PRAGMA user_version = {};", kApplicationId, kVersion));
    db.exec("CREATE TABLE gpkg_spatial_ref_sys (srs_name TEXT NOT NULL, srs_id INTEGER PRIMARY KEY, organization TEXT NOT NULL, "
            "organization_coordsys_id INTEGER NOT NULL, definition TEXT NOT NULL, description TEXT);"
            "CREATE TABLE gpkg_contents (table_name TEXT NOT NULL PRIMARY KEY, data_type TEXT NOT NULL, identifier TEXT UNIQUE, "
            "description TEXT DEFAULT '', "
            "last_change DATETIME NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ','now')), min_x DOUBLE, min_y DOUBLE, max_x "
            "DOUBLE, max_y DOUBLE, srs_id INTEGER, "
            "CONSTRAINT fk_gc_r_srs_id FOREIGN KEY (srs_id) REFERENCES gpkg_spatial_ref_sys(srs_id));"
            "CREATE TABLE gpkg_geometry_columns (table_name TEXT NOT NULL, column_name TEXT NOT NULL, geometry_type_name TEXT "
            "NOT NULL, srs_id INTEGER NOT NULL, "
            "z TINYINT NOT NULL, m TINYINT NOT NULL, CONSTRAINT pk_geom_cols PRIMARY KEY (table_name, column_name), CONSTRAINT "
            "uk_gc_table_name UNIQUE (table_name), "
            "CONSTRAINT fk_gc_tn FOREIGN KEY (table_name) REFERENCES gpkg_contents(table_name), CONSTRAINT fk_gc_srs FOREIGN KEY "
            "(srs_id) REFERENCES gpkg_spatial_ref_sys (srs_id));"
            "INSERT INTO gpkg_spatial_ref_sys VALUES ('Undefined Cartesian', -1, 'NONE', -1, 'undefined', NULL), "
            "('Undefined geographic', 0, 'NONE', 0, 'undefined', NULL);");
    SQLite::Statement world(db, "INSERT INTO gpkg_spatial_ref_sys VALUES ('WGS 84', 4326, 'EPSG', 4326, ?, NULL)");
    const GdalSession session;
    char* wkt = nullptr;
    spatialReference("EPSG:4326").exportToWkt(&wkt);
    world.bind(1, wkt ? wkt : "undefined");
    world.exec();
    CPLFree(wkt);
}

bool isGeoPackage(SQLite::Database& db) { return db.execAndGet("PRAGMA application_id").getInt() == kApplicationId; }

int registerSystem(SQLite::Database& db, const std::string& crs) {
    const GdalSession session;
    const auto reference = spatialReference(crs);
    const auto name = crsName(&reference);
    if (!name.starts_with("EPSG:")) return -1;
    const int id = std::stoi(name.substr(5));
    char* wkt = nullptr;
    reference.exportToWkt(&wkt);
    SQLite::Statement insert(db, "INSERT OR IGNORE INTO gpkg_spatial_ref_sys VALUES (?, ?, 'EPSG', ?, ?, NULL)");
    insert.bind(1, reference.GetName() ? reference.GetName() : name.c_str());
    insert.bind(2, id);
    insert.bind(3, id);
    insert.bind(4, wkt ? wkt : "undefined");
    insert.exec();
    CPLFree(wkt);
    return id;
}

void createFeatureTable(SQLite::Database& db, const std::string& table, const std::string& columns, Geometry geometry,
                        bool levels) {
    const char* type = geometry == Geometry::Point ? "POINT" : geometry == Geometry::Line ? "LINESTRING" : "POLYGON";
    db.exec(
        fmt::format("CREATE TABLE {0} (fid INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, geom {1}, {2});"
                    "INSERT INTO gpkg_contents (table_name, data_type, identifier, srs_id) VALUES ('{0}', 'features', '{0}', -1);"
                    "INSERT INTO gpkg_geometry_columns VALUES ('{0}', 'geom', '{1}', -1, {3}, 0);",
                    table, type, columns, levels ? 1 : 0));
}

void createAttributeTable(SQLite::Database& db, const std::string& table, const std::string& columns) {
    db.exec(fmt::format("CREATE TABLE {0} (fid INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, {1});"
                        "INSERT INTO gpkg_contents (table_name, data_type, identifier) VALUES ('{0}', 'attributes', '{0}');",
                        table, columns));
}

void describe(SQLite::Database& db, const std::string& table, int system, const Box2& extent) {
    SQLite::Statement contents(db, "UPDATE gpkg_contents SET srs_id = ?, min_x = ?, min_y = ?, max_x = ?, max_y = ?, last_change "
                                   "= strftime('%Y-%m-%dT%H:%M:%fZ','now') WHERE table_name = ?");
    contents.bind(1, system);
    if (!extent.empty()) {
        const double sides[] = {extent.xmin, extent.ymin, extent.xmax, extent.ymax};
        for (int i = 0; i < 4; ++i) contents.bind(2 + i, sides[i]);
    }
    contents.bind(6, table);
    contents.exec();
    SQLite::Statement columns(db, "UPDATE gpkg_geometry_columns SET srs_id = ? WHERE table_name = ?");
    columns.bind(1, system);
    columns.bind(2, table);
    columns.exec();
}

namespace {

/// The header of a geometry (version 0, little endian, no envelope) and its bytes.
std::string blobOf(const OGRGeometry& shape, int system) {
    std::string out("GP\0\x01", 4);
    const auto id = std::int32_t(system);
    out.append(reinterpret_cast<const char*>(&id), sizeof id);
    const auto header = out.size();
    out.resize(header + shape.WkbSize());
    shape.exportToWkb(wkbNDR, reinterpret_cast<unsigned char*>(out.data() + header), wkbVariantIso);
    return out;
}

} // namespace

std::string blob(const std::vector<Point3>& points, Geometry geometry, bool levels, int system) {
    if (geometry == Geometry::Point) {
        const auto& p = points.at(0);
        return blobOf(levels ? OGRPoint(p.x, p.y, p.z) : OGRPoint(p.x, p.y), system);
    }
    OGRLineString line;
    for (const auto& p : points) levels ? line.addPoint(p.x, p.y, p.z) : line.addPoint(p.x, p.y);
    return blobOf(line, system);
}

std::string areaBlob(const Polygon2& ring, const std::vector<Polygon2>& holes, int system) {
    OGRPolygon polygon;
    const auto add = [&](const Polygon2& points) {
        OGRLinearRing line;
        for (const auto& p : points) line.addPoint(p.x, p.y);
        line.closeRings();
        polygon.addRing(&line);
    };
    add(ring);
    for (const auto& hole : holes) add(hole);
    return blobOf(polygon, system);
}

std::string quotedName(const std::string& name) {
    std::string out = "\"";
    for (const char c : name) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

void bindOr(SQLite::Statement& s, int index, const std::optional<double>& value) {
    if (value)
        s.bind(index, *value);
    else
        s.bind(index);
}

std::optional<double> columnOr(SQLite::Statement& s, int index) {
    const auto c = s.getColumn(index);
    return c.isNull() ? std::nullopt : std::optional(c.getDouble());
}

std::string text(SQLite::Statement& s, int index) { return s.getColumn(index).getString(); }

void bindBlob(SQLite::Statement& s, int index, const std::string& bytes) { s.bind(index, bytes.data(), int(bytes.size())); }

void again(SQLite::Statement& s) {
    s.exec();
    s.reset();
    s.clearBindings();
}

std::string packed(std::string_view bytes) {
    uLongf size = compressBound(uLong(bytes.size()));
    std::string out(size, '\0');
    if (compress2(reinterpret_cast<Bytef*>(out.data()), &size, reinterpret_cast<const Bytef*>(bytes.data()), uLong(bytes.size()),
                  6)
        != Z_OK)
        throw Error("There is not enough memory to pack an imported file.");
    out.resize(size);
    return out;
}

std::string unpacked(const std::string& bytes, std::size_t size) {
    // zlib makes nothing more than about 1,030 times smaller: a larger size is a lie, and no memory is asked for it
    constexpr std::size_t kMostTimes = 1100;
    if (size > limits::kGridCells * sizeof(double) || size / kMostTimes > bytes.size())
        throw Error("What is kept in the project can't be unpacked: its size can't be.");
    std::string out(size, '\0');
    uLongf length = uLongf(size);
    if (uncompress(reinterpret_cast<Bytef*>(out.data()), &length, reinterpret_cast<const Bytef*>(bytes.data()),
                   uLong(bytes.size()))
            != Z_OK
        || length != size)
        throw Error("An imported file kept in the project can't be unpacked.");
    return out;
}

void setSetting(SQLite::Database& db, const std::string& key, const std::string& value) {
    SQLite::Statement s(db,
                        "INSERT INTO settings (key, value) VALUES (?, ?) ON CONFLICT(key) DO UPDATE SET value = excluded.value");
    s.bind(1, key);
    s.bind(2, value);
    s.exec();
}

std::string setting(SQLite::Database& db, const std::string& key, const std::string& otherwise) {
    SQLite::Statement s(db, "SELECT value FROM settings WHERE key = ?");
    s.bind(1, key);
    return s.executeStep() ? toUtf8(text(s, 0)) : otherwise;
}

} // namespace fox::geopackage
