#pragma once
// A whole project to and from the tables of its file.
#include "project/project.h"
#include "store/hole_tables.h"

#include <set>

namespace fox::project_tables {

struct Read {
    Project project;
    hole_tables::StoredHoles holes; ///< the project's, with their row numbers
};
/// From the tables of this or an earlier schema. What can't be read is a fault, and the rest is read.
Read read(SQLite::Database&, RowFaults&);

/// Writes the parts that are not those of `before`, and those of which a table in `whole` was recreated; all if `before` is
/// null. Gives the row numbers of the holes.
std::vector<std::int64_t> write(SQLite::Database&, const Project&, const Project* before, const hole_tables::StoredHoles* holes,
                                const std::set<std::string>& whole = {});

} // namespace fox::project_tables
