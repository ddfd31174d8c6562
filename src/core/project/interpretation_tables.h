#pragma once
// The geologist's own part of the store: choices of contacts, guides, faults, fixed bases.
#include "project/project.h"

namespace SQLite {
class Database;
}

namespace fox::interpretation_tables {

/// What schema 4 added.
void create4(SQLite::Database&);
void write(SQLite::Database&, const Interpretation&, int system);
/// Nothing from a project of an earlier schema.
Interpretation read(SQLite::Database&);
void writeFixed(SQLite::Database&, const std::map<std::string, FixedBase>&);
std::map<std::string, FixedBase> readFixed(SQLite::Database&);

} // namespace fox::interpretation_tables
