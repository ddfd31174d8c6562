#include "store/store.h"

#include "base/errors.h"
#include "base/files.h"
#include "store/kept_history.h"
#include "store/project_lock.h"
#include "store/project_tables.h"
#include "store/restore_points.h"
#include "store/row_reader.h"
#include "store/schema.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <SQLiteCpp/Savepoint.h>
#include <charconv>
#include <fmt/format.h>
#include <sqlite3.h>
#include <sys/stat.h>
#include <unistd.h>

namespace fox {

namespace {

using geopackage::setSetting;
using geopackage::setting;
using SQLite::Database;

/// What the file on disk is, whatever it is called: another one may have taken its name.
struct FileIdentity {
    dev_t device = 0;
    ino_t node = 0;
    bool operator==(const FileIdentity&) const = default;
};

std::optional<FileIdentity> identityOf(const std::filesystem::path& path) {
    struct stat facts {};
    if (::stat(path.c_str(), &facts) != 0) return {};
    return FileIdentity{facts.st_dev, facts.st_ino};
}

/// A connection that trusts nothing in the file: no functions in views and triggers but harmless ones, no value of any size.
std::unique_ptr<Database> connect(const std::filesystem::path& path, int mode) {
    constexpr int kPatience = 2000; // milliseconds until a file that another program writes to is given up
    auto db = std::make_unique<Database>(path.string(), mode, kPatience);
    auto* handle = db->getHandle();
    sqlite3_db_config(handle, SQLITE_DBCONFIG_DEFENSIVE, 1, nullptr);
    sqlite3_db_config(handle, SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0, nullptr);
    sqlite3_limit(handle, SQLITE_LIMIT_LENGTH, 1'000'000'000);
    return db;
}

/// Reads once, so that what is wrong with the file shows; a journal that a writer left behind is played back by that.
void touch(Database& db) { db.execAndGet("SELECT COUNT(*) FROM sqlite_master"); }

/// Opens for reading only. A writer that died may have left a journal that only a writer can play back: that is done here, on
/// a copy if the file may not be written to.
class ReadableFile {
public:
    explicit ReadableFile(const std::filesystem::path& path) {
        try {
            m_db = connect(path, SQLite::OPEN_READONLY);
            touch(*m_db);
        } catch (const SQLite::Exception& e) {
            const int code = e.getErrorCode() & 0xff;
            if (code != SQLITE_READONLY && code != SQLITE_CANTOPEN) throw;
            m_db.reset();
            recover(path);
        }
    }
    ~ReadableFile() {
        m_db.reset();
        std::error_code ignored; // nothing can be done about it in a destructor
        if (!m_folder.empty()) std::filesystem::remove_all(m_folder, ignored);
    }
    ReadableFile(const ReadableFile&) = delete;
    ReadableFile& operator=(const ReadableFile&) = delete;
    Database& db() { return *m_db; }

private:
    void recover(const std::filesystem::path& path) {
        if (::access(path.c_str(), W_OK) == 0
            && ::access(path.parent_path().empty() ? "." : path.parent_path().c_str(), W_OK) == 0) {
            auto writer = connect(path, SQLite::OPEN_READWRITE);
            touch(*writer);
            writer.reset();
            m_db = connect(path, SQLite::OPEN_READONLY);
            return touch(*m_db);
        }
        std::string wanted = (std::filesystem::temp_directory_path() / "fox-cellar-XXXXXX").string();
        if (!::mkdtemp(wanted.data()))
            throw FileError(fmt::format("{} can't be recovered: there is no room for a copy.", path.string()));
        m_folder = wanted;
        for (const char* ending : {"", "-journal", "-wal"})
            if (auto from = path; std::filesystem::exists(from += ending)) {
                auto to = m_folder / path.filename();
                std::filesystem::copy_file(from, to += ending);
                std::filesystem::permissions(to, std::filesystem::perms::owner_read | std::filesystem::perms::owner_write);
            }
        m_db = connect(m_folder / path.filename(), SQLite::OPEN_READWRITE);
        touch(*m_db);
    }

    std::unique_ptr<Database> m_db;
    std::filesystem::path m_folder; ///< of the copy, if there is one
};

/// Refuses what is not a project of ours, in words.
void checkIsProject(Database& db, const std::filesystem::path& path) {
    if (!geopackage::isGeoPackage(db))
        throw FileError(fmt::format("{} is not a GeoPackage, so it is not a Fox Cellar project.", path.string()));
    if (!isTable(db, "settings") || !isTable(db, "units") || !isTable(db, "source_files"))
        throw FileError(fmt::format("{} is a GeoPackage, but not one that Fox Cellar made.", path.string()));
    if (const auto state = db.execAndGet("PRAGMA quick_check(1)").getString(); state != "ok")
        throw FileError(
            fmt::format("{} is damaged ({}). The restore points beside it hold the project as it was when it was opened.",
                        path.string(), state));
}

int versionOf(Database& db, const std::filesystem::path& path) {
    const auto written = setting(db, "schema_version", "1");
    int version = 0;
    const auto [end, error] = std::from_chars(written.data(), written.data() + written.size(), version);
    if (error != std::errc() || end != written.data() + written.size() || version < 1)
        throw FileError(fmt::format("{} says that it is of format \"{}\", which there is not.", path.string(), written));
    if (version > kSchemaVersion)
        throw FileError(fmt::format("{} was written by a later Fox Cellar (format {}, this one reads up to {}).", path.string(),
                                    version, kSchemaVersion));
    return version;
}

/// Turns what the database complains of into our sentence.
template <typename Use>
auto inWords(const std::filesystem::path& path, Use&& use) {
    std::error_code code;
    if (!std::filesystem::exists(path, code))
        throw FileError(fmt::format("{} can't be opened: the file does not exist.", path.string()));
    if (!std::filesystem::is_regular_file(path, code)) throw FileError(fmt::format("{} is not a file.", path.string()));
    constexpr std::uintmax_t kPage = 512; // the smallest database is one page
    if (std::filesystem::file_size(path, code) < kPage)
        throw FileError(fmt::format("{} is too short to be a project.", path.string()));
    try {
        return use();
    } catch (const FileError&) {
        throw;
    } catch (const SQLite::Exception& e) {
        if ((e.getErrorCode() & 0xff) == SQLITE_BUSY)
            throw FileError(
                fmt::format("{} is being written to by another program. Try again when that is done.", path.string()));
        if ((e.getErrorCode() & 0xff) == SQLITE_NOTADB)
            throw FileError(fmt::format("{} is not a GeoPackage, so it is not a Fox Cellar project.", path.string()));
        throw FileError(fmt::format("{} can't be read as a project: {}. It may have been cut short; the restore points beside "
                                    "it hold the project as it was when it was opened.",
                                    path.string(), e.what()));
    } catch (const std::bad_alloc&) {
        throw FileError(fmt::format("{} can't be read: there is not enough memory for what it says it holds.", path.string()));
    } catch (const std::exception& e) {
        throw FileError(fmt::format("{} can't be read as a project: {}", path.string(), e.what()));
    }
}

std::chrono::sys_seconds now() { return std::chrono::floor<std::chrono::seconds>(std::chrono::system_clock::now()); }

/// Why a file can't be written to, though it can be read; empty if it can.
std::string notWritableBecause(const std::filesystem::path& path) {
    if (::access(path.c_str(), W_OK) != 0)
        return "The project file may not be written to, so that it is read-only here. Use Save as to work on a copy.";
    const auto folder = path.parent_path().empty() ? std::filesystem::path(".") : path.parent_path();
    if (::access(folder.c_str(), W_OK) != 0)
        return "The project's folder may not be written to, so that it is read-only here. Use Save as to work on a copy.";
    return {};
}

} // namespace

struct ProjectStore::Connection {
    std::filesystem::path path;
    std::optional<ProjectLock> lock; ///< before db: it is let go last
    std::unique_ptr<Database> db;    ///< null: read-only
    FileIdentity identity;
    int dataVersion = 0; ///< changes when another program writes to the file
    Project saved;
    hole_tables::StoredHoles holes;
    std::string readOnly;
    Findings findings;
    KeptHistory history;                                        ///< as it was when the file was opened
    HistoryState state = 0;                                     ///< of what is in the file
    std::map<HistoryState, std::vector<std::int64_t>> holeRows; ///< row numbers of the holes in states of this session

    std::vector<std::int64_t> write(const Project&, const std::optional<KeptStep>&);
    bool goTo(const Project&, HistoryState);
};

ProjectStore::ProjectStore(std::unique_ptr<Connection> c) : m_connection(std::move(c)) {}
ProjectStore::ProjectStore(ProjectStore&&) noexcept = default;
ProjectStore& ProjectStore::operator=(ProjectStore&&) noexcept = default;
ProjectStore::~ProjectStore() = default;

const Project& ProjectStore::saved() const { return m_connection->saved; }
const std::filesystem::path& ProjectStore::path() const { return m_connection->path; }
const std::string& ProjectStore::readOnlyBecause() const { return m_connection->readOnly; }
const Findings& ProjectStore::findings() const { return m_connection->findings; }

bool ProjectStore::writesMuch(const Project& project) const {
    constexpr std::size_t kMany = 200'000;
    std::size_t points = 0;
    for (const auto& s : project.ground->points) points += s.points.size();
    return points > kMany && project.ground != saved().ground;
}

const KeptHistory& ProjectStore::history() const { return m_connection->history; }

void ProjectStore::create(const std::filesystem::path& path, const Project& project, HistoryState state) {
    if (const auto there = ProjectLock::take(path); !there && std::filesystem::exists(path))
        throw FileError(
            fmt::format("{} is open in another window, or may not be written to. Choose another name.", path.string()));
    ReplaceFile replace(path);
    try {
        Database db(replace.scratch().string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
        SQLite::Transaction transaction(db);
        createTables(db);
        setSetting(db, "schema_version", std::to_string(kSchemaVersion));
        project_tables::write(db, project, nullptr, nullptr);
        kept_history::startAnew(db, state);
        transaction.commit();
    } catch (const SQLite::Exception& e) {
        throw FileError(fmt::format("{} can't be written: {}.", path.string(), e.what()));
    }
    for (const char* ending : {"-journal", "-wal", "-shm"}) { // of a file that had this name: not this one's
        std::error_code code;
        std::filesystem::remove(std::filesystem::path(path) += ending, code);
    }
    replace.commit();
}

void ProjectStore::replace(const std::filesystem::path& path, const Project& project, HistoryState state) {
    if (isProject(path)) makeRestorePoint(path, now());
    create(path, project, state);
}

ProjectStore ProjectStore::open(const std::filesystem::path& path) {
    return inWords(path, [&] {
        auto connection = std::make_unique<Connection>();
        connection->path = path;
        connection->readOnly = notWritableBecause(path);
        if (connection->readOnly.empty() && isRestorePoint(path))
            connection->readOnly =
                "This is a restore point: it can be looked at, and not changed. Use Save as to work on a copy.";
        if (connection->readOnly.empty() && !(connection->lock = ProjectLock::take(path)))
            connection->readOnly = "The project is open in another window, so that it is read-only here. Use Save as to work on "
                                   "a copy.";
        RowFaults faults(path.filename().string());
        if (!connection->readOnly.empty()) {
            ReadableFile file(path);
            checkIsProject(file.db(), path);
            versionOf(file.db(), path);
            auto read = project_tables::read(file.db(), faults);
            connection->saved = std::move(read.project);
            connection->findings = faults.take();
            return ProjectStore(std::move(connection));
        }
        connection->db = connect(path, SQLite::OPEN_READWRITE);
        auto& db = *connection->db;
        touch(db); // a journal that was left behind is played back
        checkIsProject(db, path);
        versionOf(db, path);
        auto read = project_tables::read(db, faults);
        connection->saved = std::move(read.project);
        connection->holes = std::move(read.holes);
        makeRestorePoint(path, now());
        connection->identity = identityOf(path).value_or(FileIdentity{});
        bringToThisVersion(*connection, faults);
        connection->findings = faults.take();
        return ProjectStore(std::move(connection));
    });
}

void ProjectStore::bringToThisVersion(Connection& c, RowFaults& faults) {
    try {
        auto& db = *c.db;
        db.exec("PRAGMA journal_mode = DELETE"); // one file, also if another program had it otherwise
        SQLite::Transaction transaction(db);
        const auto whole = bringUpToDate(db, faults);
        if (!whole.empty()) c.holes.rows = project_tables::write(db, c.saved, &c.saved, &c.holes, whole);
        const bool isOlder = setting(db, "schema_version", "1") != std::to_string(kSchemaVersion);
        c.history = kept_history::read(db);
        c.state = c.history.steps[c.history.at].state;
        if (!whole.empty() || isOlder) { // its steps are of other tables
            if (c.history.steps.size() > 1) kept_history::startAnew(db, c.state);
            c.history = {{{c.state, ""}}, 0};
        }
        hole_tables::mend(db, c.holes, geopackage::registerSystem(db, c.saved.site->crs));
        // a file that is opened and left alone stays as it is, byte for byte
        if (isOlder) setSetting(db, "schema_version", std::to_string(kSchemaVersion));
        transaction.commit();
        c.dataVersion = db.execAndGet("PRAGMA data_version").getInt();
    } catch (const SQLite::Exception& e) {
        c.readOnly =
            fmt::format("The project file can't be written to ({}), so that it is read-only here. Use Save as to work on "
                        "a copy.",
                        e.what());
        c.db.reset();
        c.lock.reset();
    }
}

bool ProjectStore::isProject(const std::filesystem::path& path) {
    try {
        Database db(path.string(), SQLite::OPEN_READONLY);
        return geopackage::isGeoPackage(db) && isTable(db, "settings") && isTable(db, "source_files");
    } catch (const SQLite::Exception&) {
        return false;
    }
}

Project ProjectStore::read(const std::filesystem::path& path) {
    Findings ignored;
    return read(path, ignored);
}

Project ProjectStore::read(const std::filesystem::path& path, Findings& findings) {
    return inWords(path, [&] {
        ReadableFile file(path);
        checkIsProject(file.db(), path);
        versionOf(file.db(), path);
        RowFaults faults(path.filename().string());
        auto project = project_tables::read(file.db(), faults).project;
        findings = faults.take();
        return project;
    });
}

namespace {

/// All of a file in memory, to be changed without changing the file.
std::unique_ptr<Database> copyInMemory(Database& from) {
    auto copy = connect(":memory:", SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    sqlite3_int64 size = 0;
    auto* bytes = sqlite3_serialize(from.getHandle(), "main", &size, 0);
    if (!bytes) throw std::bad_alloc();
    constexpr unsigned kOwned = SQLITE_DESERIALIZE_FREEONCLOSE | SQLITE_DESERIALIZE_RESIZEABLE;
    if (sqlite3_deserialize(copy->getHandle(), "main", bytes, size, size, kOwned) != SQLITE_OK)
        throw FileError("There is not enough memory for a copy of the project.");
    return copy;
}

} // namespace

Project ProjectStore::version(const std::filesystem::path& path, HistoryState state) {
    return inWords(path, [&] {
        ReadableFile file(path);
        checkIsProject(file.db(), path);
        const auto copy = copyInMemory(file.db());
        kept_history::apply(*copy, state);
        RowFaults faults(path.filename().string());
        return project_tables::read(*copy, faults).project;
    });
}

/// Goes back or forth to a state that the file has by taking its own steps: rows that are written anew would have other numbers
/// than those that the steps speak of. False, with the tables as they were, if the steps can't be taken.
bool ProjectStore::Connection::goTo(const Project& project, HistoryState to) {
    if (!kept_history::has(*db, to)) return false;
    SQLite::Savepoint steps(*db, "steps"); // taken back unless they are released
    try {
        kept_history::apply(*db, to);
    } catch (const FileError&) { // another program has changed what they change
        return false;
    }
    if (!holeRows.contains(to)) {
        RowFaults faults(path.filename().string());
        auto read = project_tables::read(*db, faults);
        if (*read.project.holes != *project.holes) return false;
        holeRows[to] = std::move(read.holes.rows);
    }
    steps.release();
    return true;
}

/// Writes what differs from what is saved, as a step of the file's history, and gives the row numbers of the holes.
std::vector<std::int64_t> ProjectStore::Connection::write(const Project& project, const std::optional<KeptStep>& step) {
    if (step && goTo(project, step->state)) return holeRows[step->state];
    const bool isNew = step && step->state > state; // an older one that the file has not is reached by undo after Save as
    const auto recording = isNew ? std::make_unique<kept_history::Recording>(*db) : nullptr;
    auto rows = project_tables::write(*db, project, &saved, &holes);
    if (isNew)
        kept_history::add(*db, *step, recording->changes());
    else
        kept_history::startAnew(*db, step ? step->state : state);
    return rows;
}

void ProjectStore::save(const Project& project, const std::optional<KeptStep>& step) {
    auto& c = *m_connection;
    const auto name = c.path.string();
    if (!c.db) throw FileError(c.readOnly);
    if (sameVersion(project, c.saved) && (!step || step->state == c.state)) return;
    const auto now = identityOf(c.path);
    if (!now) throw FileError(fmt::format("{} is no longer there: it was moved or removed. Use Save as.", name));
    if (*now != c.identity) throw FileError(fmt::format("{} is another file now: something has replaced it. Use Save as.", name));
    try {
        auto& db = *c.db;
        SQLite::Transaction transaction(db, SQLite::TransactionBehavior::IMMEDIATE);
        if (const int version = db.execAndGet("PRAGMA data_version").getInt(); version != c.dataVersion) {
            c.dataVersion = version; // said once; saving again is the user's word
            throw FileError(fmt::format("{} was changed by another program while it was open here. Save again to write over "
                                        "what that program did, or open the project again to see it.",
                                        name));
        }
        removeForeignParts(db);
        auto rows = c.write(project, writesMuch(project) ? std::nullopt : step);
        if (step && writesMuch(project)) kept_history::startAnew(db, step->state);
        transaction.commit();
        if (step) c.state = step->state, c.holeRows[c.state] = rows;
        c.holes = {*project.holes, std::move(rows), {}};
    } catch (const SQLite::Exception& e) {
        throw FileError(fmt::format("{} could not be saved: {}.", name, e.what()));
    }
    c.saved = project;
}

} // namespace fox
