#pragma once
// Named surfaces in the store.
#include "model/named_surface.h"

namespace SQLite {
class Database;
}

namespace fox {
class RowFaults;
}

namespace fox::surface_tables {

void write(SQLite::Database&, const std::vector<NamedSurface>&);
std::vector<NamedSurface> read(SQLite::Database&, RowFaults&);

} // namespace fox::surface_tables
