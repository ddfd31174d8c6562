#include "store/kept_history.h"

#include "base/errors.h"
#include "store/geopackage.h"
#include "store/row_reader.h"

#include <charconv>
#include <sqlite3.h>

namespace fox::kept_history {

namespace {

using SQLite::Database;
using SQLite::Statement;

constexpr const char* kTable = "undo_steps";
constexpr const char* kState = "undo_state"; // a setting

/// False for a table of this name with other columns, as another program may leave it: its steps can't be read.
bool isOurs(Database& db) {
    return db.tableExists(kTable)
           && columnsOf(db, kTable) == std::vector<std::string>{"fid", "state", "before", "label", "size", "changes"};
}

void makeTable(Database& db) {
    Statement other(db, "SELECT type FROM sqlite_master WHERE name = ? AND type IN ('table', 'view')");
    other.bind(1, kTable);
    if (other.executeStep()) {
        const auto kind = other.getColumn(0).getString();
        other.reset();
        db.exec(fmt::format("DROP {0} {1}; DELETE FROM gpkg_contents WHERE table_name = '{1}'", kind, kTable));
    }
    geopackage::createAttributeTable(db, kTable,
                                     "state INTEGER NOT NULL, before INTEGER NOT NULL, label TEXT NOT NULL, size INTEGER NOT "
                                     "NULL, changes BLOB NOT NULL");
}

/// A step without its changes.
struct Row {
    std::int64_t fid = 0;
    HistoryState state = 0, before = 0;
    std::string label;
    std::size_t bytes = 0;
};

std::vector<Row> rowsOf(Database& db) {
    std::vector<Row> out;
    if (!isOurs(db)) return out;
    Statement query(db, fmt::format("SELECT fid, state, before, label, length(changes) FROM {} ORDER BY fid", kTable));
    while (query.executeStep())
        out.push_back({query.getColumn(0).getInt64(), query.getColumn(1).getInt64(), query.getColumn(2).getInt64(),
                       geopackage::text(query, 3), std::size_t(query.getColumn(4).getInt64())});
    return out;
}

HistoryState stateOf(Database& db) {
    const auto written = geopackage::setting(db, kState, "0");
    HistoryState state = 0;
    std::from_chars(written.data(), written.data() + written.size(), state);
    return state;
}

void setState(Database& db, HistoryState state) { geopackage::setSetting(db, kState, std::to_string(state)); }

/// The steps that led to a state, the oldest first. A file from elsewhere may have rows that lead in a circle.
std::vector<Row> stepsTo(const std::vector<Row>& rows, HistoryState state) {
    std::vector<Row> out;
    while (out.size() < rows.size()) {
        const auto step = std::ranges::find(rows, state, &Row::state);
        if (step == rows.end()) break;
        out.push_back(*step);
        state = step->before;
    }
    std::ranges::reverse(out);
    return out;
}

/// The steps that were undone from a state, in the order in which they can be done again.
std::vector<Row> stepsFrom(const std::vector<Row>& rows, HistoryState state) {
    std::vector<Row> out;
    while (out.size() < rows.size()) {
        const auto step = std::ranges::find(rows, state, &Row::before);
        if (step == rows.end()) break;
        out.push_back(*step);
        state = step->state;
    }
    return out;
}

void remove(Database& db, const std::vector<Row>& rows) {
    for (const auto& r : rows) {
        Statement gone(db, fmt::format("DELETE FROM {} WHERE fid = ?", kTable));
        gone.bind(1, r.fid);
        gone.exec();
    }
}

void check(int code) {
    if (code != SQLITE_OK) throw FileError(fmt::format("The steps kept in the file can't be used: {}.", sqlite3_errstr(code)));
}

/// Memory that SQLite gave.
using Buffer = std::unique_ptr<void, decltype(&sqlite3_free)>;

std::string changesOf(Database& db, std::int64_t fid) {
    Statement query(db, fmt::format("SELECT size, changes FROM {} WHERE fid = ?", kTable));
    query.bind(1, fid);
    if (!query.executeStep()) throw FileError("A step kept in the file is gone.");
    const auto size = query.getColumn(0).getInt64();
    constexpr std::int64_t kMost = 1'000'000'000;
    if (size < 0 || size > kMost) throw FileError("A step kept in the file is damaged.");
    return geopackage::unpacked(query.getColumn(1).getString(), std::size_t(size));
}

enum class Way { Back, Forth };

void apply(Database& db, std::int64_t fid, Way way) {
    auto changes = changesOf(db, fid);
    int size = int(changes.size());
    void* bytes = changes.data();
    Buffer inverted(nullptr, &sqlite3_free);
    if (way == Way::Back) {
        void* made = nullptr;
        check(sqlite3changeset_invert(size, bytes, &size, &made));
        inverted.reset(made);
        bytes = made;
    }
    const auto onConflict = [](void*, int, sqlite3_changeset_iter*) { return SQLITE_CHANGESET_ABORT; };
    if (const int code = sqlite3changeset_apply(db.getHandle(), size, bytes, nullptr, onConflict, nullptr); code != SQLITE_OK)
        throw FileError("This step can't be taken: another program has changed the project's file since.");
}

} // namespace

Recording::Recording(Database& db) {
    check(sqlite3session_create(db.getHandle(), "main", &m_session));
    sqlite3session_table_filter(
        m_session, [](void*, const char* table) { return int(std::string_view(table) != kTable); }, nullptr);
    check(sqlite3session_attach(m_session, nullptr));
}

Recording::~Recording() { sqlite3session_delete(m_session); }

std::string Recording::changes() const {
    int size = 0;
    void* bytes = nullptr;
    check(sqlite3session_changeset(m_session, &size, &bytes));
    const Buffer owned(bytes, &sqlite3_free);
    return {static_cast<const char*>(bytes), std::size_t(size)};
}

KeptHistory read(Database& db) {
    const auto rows = rowsOf(db);
    const auto now = stateOf(db);
    const auto done = stepsTo(rows, now), undone = stepsFrom(rows, now);
    KeptHistory out{{{done.empty() ? now : done.front().before, ""}}, done.size()};
    for (const auto& r : done) out.steps.push_back({r.state, r.label});
    for (const auto& r : undone) out.steps.push_back({r.state, r.label});
    return out;
}

bool has(Database& db, HistoryState state) { return std::ranges::count(read(db).steps, state, &KeptStep::state) > 0; }

void add(Database& db, const KeptStep& step, const std::string& changes) {
    if (!isOurs(db)) makeTable(db);
    const auto now = stateOf(db);
    auto rows = rowsOf(db);
    auto kept = stepsTo(rows, now);
    std::erase_if(rows, [&](const Row& r) { return std::ranges::count(kept, r.fid, &Row::fid) > 0; });
    remove(db, rows);
    const auto bytes = geopackage::packed(changes);
    Statement insert(db, fmt::format("INSERT INTO {} (state, before, label, size, changes) VALUES (?, ?, ?, ?, ?)", kTable));
    insert.bind(1, step.state);
    insert.bind(2, now);
    insert.bind(3, step.label);
    insert.bind(4, std::int64_t(changes.size()));
    geopackage::bindBlob(insert, 5, bytes);
    insert.exec();
    setState(db, step.state);
    kept.push_back({db.getLastInsertRowid(), step.state, now, step.label, bytes.size()});
    std::size_t sum = 0, newest = 0;
    while (newest < std::min(kept.size(), kMostSteps) && sum + kept[kept.size() - 1 - newest].bytes <= kMostBytes)
        sum += kept[kept.size() - 1 - newest++].bytes;
    kept.resize(kept.size() - newest);
    remove(db, kept);
}

void startAnew(Database& db, HistoryState state) {
    remove(db, rowsOf(db));
    setState(db, state);
}

void apply(Database& db, HistoryState state) {
    const auto rows = rowsOf(db);
    const auto now = stateOf(db);
    auto back = stepsTo(rows, now), forth = stepsFrom(rows, now);
    if (const auto at = std::ranges::find(forth, state, &Row::state); at != forth.end()) {
        for (auto r = forth.begin(); r <= at; ++r) apply(db, r->fid, Way::Forth);
    } else {
        const auto from = std::ranges::find(back, state, &Row::before);
        if (from == back.end() && state != now) throw FileError("The project's file does not have this step any more.");
        for (auto r = back.end(); r != from;) apply(db, (--r)->fid, Way::Back);
    }
    setState(db, state);
}

} // namespace fox::kept_history
