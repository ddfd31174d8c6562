#pragma once
// The holes' side of the store: their tables, each row by the hole's fid.
#include "holes/hole.h"

namespace SQLite {
class Database;
}

namespace fox::hole_tables {

void create(SQLite::Database&);  ///< of schema 1
void create2(SQLite::Database&); ///< what schema 2 added: tests, water, curves, holes left out
void write(SQLite::Database&, const Holes&, int system);
/// Also from a project of schema 1. @throws std::out_of_range if rows belong to no hole
Holes read(SQLite::Database&);

} // namespace fox::hole_tables
