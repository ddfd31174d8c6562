#pragma once
// The steps that led to the version in a project file, kept in the file as changes of its tables (changesets of SQLite's session
// extension), so that they can be undone and redone after it is opened again.
#include "project/edits.h"

struct sqlite3_session;
namespace SQLite {
class Database;
}

namespace fox::kept_history {

/// What is written from now on.
class Recording {
public:
    explicit Recording(SQLite::Database&);
    ~Recording();
    Recording(const Recording&) = delete;
    Recording& operator=(const Recording&) = delete;
    std::string changes() const;

private:
    sqlite3_session* m_session = nullptr;
};

/// As the file has them. Steps of which the chain is broken are not in it.
KeptHistory read(SQLite::Database&);
/// Whether the file can be brought to this state by its steps.
bool has(SQLite::Database&, HistoryState);
/// The file has come to a new state: what was undone is forgotten, and so are the oldest of many steps, or of large ones.
void add(SQLite::Database&, const KeptStep&, const std::string& changes);
/// The file has come to a state in a way that can't be taken back.
void startAnew(SQLite::Database&, HistoryState);
inline constexpr std::size_t kMostSteps = 200;
inline constexpr std::size_t kMostBytes = 16'000'000; ///< of all, packed

/// Brings the tables to another of the file's states. @throws FileError if the steps do not lead there, with some of them taken
void apply(SQLite::Database&, HistoryState);

} // namespace fox::kept_history
