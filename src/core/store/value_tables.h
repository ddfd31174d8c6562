#pragma once
// Values at points in space in the store.
#include "project/project.h"

namespace SQLite {
class Database;
}

namespace fox {
class RowFaults;
}

namespace fox::value_tables {

void write(SQLite::Database&, const std::vector<ValueSource>&, int system);
/// Nothing from a project of an earlier schema.
std::vector<ValueSource> read(SQLite::Database&, RowFaults&);

} // namespace fox::value_tables
