#pragma once
// The geologist's own part of the store: choices, picks, guides, faults, fixed bases, trial columns.
#include "project/project.h"

namespace SQLite {
class Database;
}

namespace fox::interpretation_tables {

/// What schema 4 added.
void create4(SQLite::Database&);
/// What schema 5 added.
void create5(SQLite::Database&);
void write(SQLite::Database&, const Interpretation&, int system);
/// Nothing from a project of an earlier schema.
Interpretation read(SQLite::Database&);
void writeFixed(SQLite::Database&, const std::map<std::string, FixedBase>&);
std::map<std::string, FixedBase> readFixed(SQLite::Database&);
void writeTrials(SQLite::Database&, const std::vector<TrialColumn>&, int system);
std::vector<TrialColumn> readTrials(SQLite::Database&);

} // namespace fox::interpretation_tables
