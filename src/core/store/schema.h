#pragma once
// The tables of a project file, and how any file is brought to them.
#include "store/geopackage.h"

#include <set>

namespace fox {

class RowFaults;

/// The version of the tables below; docs/formats.md lists them.
inline constexpr int kSchemaVersion = 11;

struct TableSchema {
    std::string name;
    std::optional<geopackage::Geometry> geometry;             ///< none: an attribute table
    bool levels = false;                                      ///< of the geometry
    std::vector<std::pair<std::string, std::string>> columns; ///< name and SQL type; fid and geom come before them
};
const std::vector<TableSchema>& schema();

/// All tables, empty.
void createTables(SQLite::Database&);

/// Brings a file of any earlier version, or one that other programs have changed, to the tables of this one. What hangs on
/// our tables from outside (triggers, spatial indexes) goes: plain SQLite can't run it, and it would fail each save. A table
/// that another program has remade is recreated, empty: returned, to be written as a whole.
std::set<std::string> bringUpToDate(SQLite::Database&, RowFaults&);

/// Removes triggers and spatial indexes that other programs have put on our tables.
void removeForeignParts(SQLite::Database&);

} // namespace fox
