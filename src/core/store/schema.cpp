#include "store/schema.h"

#include "store/row_reader.h"

#include <fmt/format.h>

namespace fox {

using geopackage::Geometry;
using SQLite::Database;
using SQLite::Statement;

const std::vector<TableSchema>& schema() {
    static const std::vector<TableSchema> kTables{
        {"holes",
         Geometry::Point,
         true,
         {{"hole_id", "TEXT NOT NULL"},
          {"project_id", "TEXT NOT NULL"},
          {"kind", "TEXT"},
          {"easting", "REAL"},
          {"northing", "REAL"},
          {"ground_level", "REAL"},
          {"final_depth", "REAL"},
          {"source_file", "TEXT"},
          {"source_line", "INTEGER"},
          {"written_position", "TEXT"},
          {"name", "TEXT"}}},
        {"intervals",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"},
          {"top", "REAL"},
          {"base", "REAL"},
          {"description", "TEXT"},
          {"codes", "TEXT"},
          {"source_line", "INTEGER"}}},
        {"path_stations",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"},
          {"depth", "REAL"},
          {"inclination", "REAL"},
          {"azimuth", "REAL"},
          {"source_line", "INTEGER"}}},
        {"blow_counts",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"}, {"depth", "REAL"}, {"blows", "REAL"}, {"penetration_mm", "REAL"}, {"test", "TEXT"}}},
        {"details", {}, false, {{"hole_fid", "INTEGER NOT NULL"}, {"top", "REAL"}, {"base", "REAL"}, {"words", "TEXT"}}},
        {"samples",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"}, {"top", "REAL"}, {"base", "REAL"}, {"kind", "TEXT"}, {"reference", "TEXT"}}},
        {"water_strikes", {}, false, {{"hole_fid", "INTEGER NOT NULL"}, {"depth", "REAL"}, {"rose_to", "REAL"}}},
        {"water_levels",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"},
          {"measured", "TEXT"},
          {"depth", "REAL"},
          {"pipe", "TEXT"},
          {"dry", "INTEGER"},
          {"given", "TEXT"}}},
        {"installations",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"}, {"top", "REAL"}, {"base", "REAL"}, {"part", "INTEGER"}, {"name", "TEXT"}}},
        {"core_runs",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"},
          {"top", "REAL"},
          {"base", "REAL"},
          {"recovery", "REAL"},
          {"solid", "REAL"},
          {"rqd", "REAL"}}},
        {"curves",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"},
          {"name", "TEXT"},
          {"unit", "TEXT"},
          {"words", "TEXT"},
          {"single", "INTEGER"},
          {"readings", "BLOB"},
          {"push", "TEXT"},
          {"written", "TEXT"}}},
        {"soundings",
         {},
         false,
         {{"hole_fid", "INTEGER NOT NULL"},
          {"push", "TEXT"},
          {"cone", "TEXT"},
          {"area_ratio", "REAL"},
          {"water_m", "REAL"},
          {"stated_unit_weight", "REAL"},
          {"stated_water_m", "REAL"}}},
        {"holes_left_out", {}, false, {{"hole_fid", "INTEGER NOT NULL"}}},
        {"ground_points",
         Geometry::Point,
         true,
         {{"source", "INTEGER NOT NULL"}, {"source_file", "TEXT"}, {"name", "TEXT"}, {"code", "TEXT"}}},
        {"ground_lines",
         Geometry::Line,
         true,
         {{"source", "INTEGER NOT NULL"}, {"source_file", "TEXT"}, {"has_levels", "INTEGER NOT NULL"}, {"role", "TEXT"}}},
        {"background_lines",
         Geometry::Line,
         true,
         {{"source_file", "TEXT"},
          {"layer", "TEXT"},
          {"has_levels", "INTEGER"},
          {"colour", "TEXT"},
          {"width", "REAL"},
          {"shown", "INTEGER"},
          {"draped", "INTEGER"}}},
        {"ground_grids", {}, false, {{"source_file", "TEXT NOT NULL"}, {"frame", "TEXT NOT NULL"}, {"cells", "BLOB NOT NULL"}}},
        {"outlines", Geometry::Polygon, false, {{"role", "TEXT NOT NULL"}, {"name", "TEXT"}, {"source_file", "TEXT"}}},
        {"section_lines", Geometry::Line, false, {{"name", "TEXT NOT NULL"}}},
        {"source_files",
         {},
         false,
         {{"name", "TEXT NOT NULL"},
          {"format", "TEXT"},
          {"holes", "INTEGER"},
          {"size", "INTEGER"},
          {"bytes", "BLOB"},
          {"findings", "TEXT"}}},
        {"source_settings", {}, false, {{"source_file", "TEXT NOT NULL"}, {"path", "TEXT"}, {"settings", "TEXT"}}},
        {"corrections",
         {},
         false,
         {{"source_file", "TEXT NOT NULL"},
          {"source_line", "INTEGER"},
          {"source_group", "TEXT"},
          {"heading", "TEXT"},
          {"hole", "TEXT"},
          {"before", "TEXT"},
          {"after", "TEXT"},
          {"why", "TEXT"}}},
        {"units",
         {},
         false,
         {{"code", "TEXT NOT NULL"},
          {"name", "TEXT"},
          {"colour", "TEXT"},
          {"base", "TEXT"},
          {"logged", "TEXT"},
          {"recipe", "TEXT"}}},
        {"settings", {}, false, {{"key", "TEXT NOT NULL UNIQUE"}, {"value", "TEXT"}}},
        {"contact_choices", {}, false, {{"hole", "TEXT NOT NULL"}, {"unit", "TEXT NOT NULL"}, {"kind", "TEXT NOT NULL"}}},
        {"interval_choices",
         {},
         false,
         {{"hole", "TEXT NOT NULL"}, {"top_m", "DOUBLE NOT NULL"}, {"base_m", "DOUBLE NOT NULL"}, {"unit", "TEXT NOT NULL"}}},
        {"interval_splits", {}, false, {{"hole", "TEXT NOT NULL"}, {"depth_m", "DOUBLE NOT NULL"}}},
        {"picks", {}, false, {{"hole", "TEXT NOT NULL"}, {"unit", "TEXT NOT NULL"}, {"depth_m", "DOUBLE NOT NULL"}}},
        {"contact_points",
         Geometry::Point,
         true,
         {{"source", "INTEGER NOT NULL"},
          {"source_file", "TEXT"},
          {"surface", "TEXT"},
          {"unit", "TEXT"},
          {"hole", "TEXT"},
          {"depth_m", "DOUBLE"},
          {"source_line", "INTEGER"},
          {"trace", "INTEGER"},
          {"excluded", "INTEGER"},
          {"used", "INTEGER"},
          {"accuracy_m", "DOUBLE"}}},
        {"value_points",
         Geometry::Point,
         true,
         {{"source", "INTEGER NOT NULL"},
          {"source_file", "TEXT"},
          {"quantity", "TEXT"},
          {"unit", "TEXT"},
          {"value", "DOUBLE"},
          {"sign", "TEXT"},
          {"source_line", "INTEGER"},
          {"excluded", "INTEGER"},
          {"used", "INTEGER"}}},
        {"guides", Geometry::Line, true, {{"unit", "TEXT NOT NULL"}}},
        {"presence_marks", Geometry::Line, false, {{"unit", "TEXT NOT NULL"}, {"present", "INTEGER"}}},
        {"faults", Geometry::Line, false, {{"name", "TEXT NOT NULL"}, {"youngest", "TEXT"}, {"units", "TEXT"}}},
        {"fixed_bases",
         {},
         false,
         {{"unit", "TEXT NOT NULL"}, {"origin", "TEXT NOT NULL"}, {"source", "TEXT"}, {"frame", "TEXT"}, {"cells", "BLOB"}}},
        {"trial_columns", Geometry::Point, false, {{"name", "TEXT NOT NULL"}}},
        {"named_surfaces",
         {},
         false,
         {{"name", "TEXT NOT NULL"},
          {"made_from", "TEXT NOT NULL"},
          {"source", "TEXT"},
          {"recipe", "TEXT"},
          {"frame", "TEXT"},
          {"cells", "BLOB"},
          {"points", "BLOB"},
          {"triangles", "BLOB"},
          {"point_count", "INTEGER"},
          {"triangle_count", "INTEGER"}}},
    };
    return kTables;
}

namespace {

void create(Database& db, const TableSchema& table) {
    std::string columns;
    for (const auto& [name, type] : table.columns) columns += (columns.empty() ? "" : ", ") + name + " " + type;
    if (table.geometry)
        geopackage::createFeatureTable(db, table.name, columns, *table.geometry, table.levels);
    else
        geopackage::createAttributeTable(db, table.name, columns);
    if (!table.columns.empty() && table.columns.front().first == "hole_fid")
        db.exec(fmt::format("CREATE INDEX IF NOT EXISTS {0}_of_hole ON {0} (hole_fid)", table.name));
}

const char* geometryName(Geometry g) { return g == Geometry::Point ? "POINT" : g == Geometry::Line ? "LINESTRING" : "POLYGON"; }

/// As this program makes it, but for columns that a later version added.
bool isOurs(Database& db, const TableSchema& table) {
    if (!isTable(db, table.name)) return false;
    Statement key(db, "SELECT COUNT(*) FROM pragma_table_info(?) WHERE pk = 1 AND name = 'fid' AND upper(type) = 'INTEGER'");
    key.bind(1, table.name);
    if (!key.executeStep() || key.getColumn(0).getInt() != 1) return false;
    if (!table.geometry) return true;
    if (geometryColumn(db, table.name) != "geom") return false;
    Statement type(db, "SELECT geometry_type_name, z FROM gpkg_geometry_columns WHERE table_name = ?");
    type.bind(1, table.name);
    return type.executeStep() && type.getColumn(0).getString() == geometryName(*table.geometry)
           && type.getColumn(1).getInt() == int(table.levels);
}

/// Lists what the query gives first: things are not to be dropped while they are listed.
std::vector<std::string> namesBy(Database& db, const std::string& sql, const std::string& table) {
    std::vector<std::string> out;
    Statement s(db, sql);
    s.bind(1, table);
    while (s.executeStep()) out.push_back(s.getColumn(0).getString());
    return out;
}

void forget(Database& db, const std::string& table) {
    for (const char* from : {"gpkg_extensions", "gpkg_ogr_contents", "gpkg_geometry_columns", "gpkg_contents"})
        if (isTable(db, from)) {
            Statement s(db, fmt::format("DELETE FROM {} WHERE table_name = ?", from));
            s.bind(1, table);
            s.exec();
        }
}

void removeForeignParts(Database& db, const std::string& table) {
    const auto triggers = namesBy(db, "SELECT name FROM sqlite_master WHERE type = 'trigger' AND tbl_name = ?", table);
    const auto indexes = namesBy(db,
                                 "SELECT name FROM sqlite_master WHERE type = 'table' AND sql LIKE 'CREATE VIRTUAL%' "
                                 "AND substr(name, 1, length(?1) + 7) = 'rtree_' || ?1 || '_'",
                                 table);
    if (triggers.empty() && indexes.empty()) return;
    for (const auto& t : triggers) db.exec("DROP TRIGGER " + geopackage::quotedName(t));
    for (const auto& i : indexes) db.exec("DROP TABLE " + geopackage::quotedName(i));
    for (const char* from : {"gpkg_extensions", "gpkg_ogr_contents"}) // what they count is counted no longer
        if (isTable(db, from)) {
            Statement s(db, fmt::format("DELETE FROM {} WHERE table_name = ?", from));
            s.bind(1, table);
            s.exec();
        }
}

} // namespace

void createTables(Database& db) {
    geopackage::createCoreTables(db);
    for (const auto& table : schema()) create(db, table);
}

void removeForeignParts(Database& db) {
    for (const auto& table : schema()) removeForeignParts(db, table.name);
}

std::set<std::string> bringUpToDate(Database& db, RowFaults& faults) {
    std::set<std::string> made;
    removeForeignParts(db);
    for (const auto& table : schema()) {
        if (isOurs(db, table)) {
            const auto there = columnsOf(db, table.name);
            for (auto [name, type] : table.columns) {
                if (std::ranges::count(there, name)) continue;
                if (const auto at = type.find(" NOT NULL"); at != type.npos) type.resize(at); // there are rows already
                db.exec(fmt::format("ALTER TABLE {} ADD COLUMN {} {}", table.name, name, type));
            }
            if (table.columns.front().first == "hole_fid")
                db.exec(fmt::format("CREATE INDEX IF NOT EXISTS {0}_of_hole ON {0} (hole_fid)", table.name));
            continue;
        }
        if (isTaken(db, table.name)) {
            faults.add(table.name, 0, "another program has remade it; it is put back into this program's form", Severity::Note);
            db.exec(fmt::format("DROP {} {}", isTable(db, table.name) ? "TABLE" : "VIEW", geopackage::quotedName(table.name)));
            forget(db, table.name);
            made.insert(table.name);
        } else {
            forget(db, table.name);
            made.insert(table.name);
        }
        create(db, table);
    }
    return made;
}

} // namespace fox
