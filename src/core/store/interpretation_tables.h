#pragma once
// The geologist's own part of the store: choices, picks, guides, faults, contact points, fixed bases, predicted logs.
#include "project/project.h"

namespace SQLite {
class Database;
}

namespace fox {
class RowFaults;
}

namespace fox::interpretation_tables {

void write(SQLite::Database&, const Interpretation&, int system);
/// Nothing from a project of an earlier schema.
Interpretation read(SQLite::Database&, RowFaults&);
void writeContactPoints(SQLite::Database&, const std::vector<ContactSource>&, int system);
std::vector<ContactSource> readContactPoints(SQLite::Database&, RowFaults&);
void writeFixed(SQLite::Database&, const std::map<std::string, FixedBase>&);
std::map<std::string, FixedBase> readFixed(SQLite::Database&, RowFaults&);
void writeTrials(SQLite::Database&, const std::vector<TrialColumn>&, int system);
std::vector<TrialColumn> readTrials(SQLite::Database&, RowFaults&);

} // namespace fox::interpretation_tables
