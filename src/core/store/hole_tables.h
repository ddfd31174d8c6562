#pragma once
// The holes' side of the store: their tables, each row by the hole's fid.
#include "holes/hole.h"

namespace SQLite {
class Database;
}

namespace fox {
class RowFaults;
}

namespace fox::hole_tables {

/// Holes as the file has them, and under which row number.
struct StoredHoles {
    Holes holes;
    std::vector<std::int64_t> rows; ///< as holes
    std::vector<std::size_t> moved; ///< those whose row does not say what they are now: another program changed half of it
};

/// Writes the holes that are not those of `before` (by address), and removes those that are gone; all if that is null. Gives
/// the row numbers.
std::vector<std::int64_t> write(SQLite::Database&, const Holes&, const StoredHoles* before, int system);

/// Brings the rows of holes that other programs have changed into order: both halves of a position, no rows of holes that
/// are gone.
void mend(SQLite::Database&, StoredHoles&, int system);

/// Also from earlier versions. A point that was moved by another program moves the hole: a fault says so. Rows of holes that
/// are gone are passed over.
StoredHoles read(SQLite::Database&, RowFaults&);

} // namespace fox::hole_tables
