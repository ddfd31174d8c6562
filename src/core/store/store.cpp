#include "store/store.h"

#include "base/errors.h"
#include "base/files.h"
#include "project/json.h"
#include "store/geopackage.h"
#include "store/ground_tables.h"
#include "store/hole_tables.h"
#include "store/interpretation_tables.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <fmt/format.h>
#include <fstream>

namespace fox {

namespace {

using geopackage::Geometry;
using nlohmann::json;
using SQLite::Database;
using SQLite::Statement;
using namespace geopackage; // its statement helpers

/// What schema 2 added. A project of schema 1 gets them when it is opened for writing.
void createTables2(Database& db) {
    hole_tables::create2(db);
    geopackage::createAttributeTable(
        db, "corrections",
        "source_file TEXT NOT NULL, source_line INTEGER, source_group TEXT, heading TEXT, hole TEXT, "
        "before TEXT, after TEXT, why TEXT");
    geopackage::createAttributeTable(db, "source_settings", "source_file TEXT NOT NULL, path TEXT, settings TEXT");
}

void createTables(Database& db) {
    geopackage::createCoreTables(db);
    hole_tables::create(db);
    ground_tables::create(db);
    geopackage::createFeatureTable(db, "section_lines", "name TEXT NOT NULL", Geometry::Line, false);
    geopackage::createAttributeTable(db, "source_files",
                                     "name TEXT NOT NULL, format TEXT, holes INTEGER, size INTEGER, bytes BLOB, findings TEXT");
    geopackage::createAttributeTable(db, "units",
                                     "code TEXT NOT NULL, name TEXT, colour TEXT, base TEXT, logged TEXT, recipe TEXT");
    geopackage::createAttributeTable(db, "settings", "key TEXT NOT NULL UNIQUE, value TEXT");
    createTables2(db);
    ground_tables::create3(db);
    interpretation_tables::create4(db);
    interpretation_tables::create5(db);
}

// --- sections, files, sequence, site

void writeSections(Database& db, const std::vector<SectionLine>& sections, int system) {
    auto reaches = json::object();
    for (const auto& section : sections) reaches[section.name] = section.reach;
    setSetting(db, "section_reaches", reaches.dump());
    db.exec("DELETE FROM section_lines;");
    Statement s(db, "INSERT INTO section_lines (geom, name) VALUES (?,?)");
    Box2 extent;
    for (const auto& section : sections) {
        for (const auto& p : section.line) extent.include(p);
        bindBlob(s, 1, geopackage::blob(raised(section.line), Geometry::Line, false, system));
        s.bind(2, section.name);
        again(s);
    }
    geopackage::describe(db, "section_lines", system, extent);
}

std::vector<SectionLine> readSections(Database& db) {
    std::vector<SectionLine> out;
    Statement s(db, "SELECT geom, name FROM section_lines ORDER BY fid");
    const auto reaches = json::parse(setting(db, "section_reaches", "{}"));
    while (s.executeStep())
        out.push_back({text(s, 1), planOf(geopackage::pointsOf(text(s, 0))), reaches.value(text(s, 1), kSectionHoles)});
    return out;
}

void writeFile(Statement& s, const SourceFile& f) {
    s.bind(1, f.name);
    s.bind(2, f.format);
    s.bind(3, f.holes);
    s.bind(4, std::int64_t(f.bytes.text->size()));
    const auto bytes = packed(*f.bytes);
    bindBlob(s, 5, bytes);
    json findings = json::array();
    for (const auto& finding : f.findings) findings.push_back(toJson(finding));
    s.bind(6, findings.dump());
    again(s);
}

/// Files that were saved before are not packed and written again.
void writeFiles(Database& db, const std::vector<SourceFile>& files, const std::vector<SourceFile>* before) {
    const auto unchanged = [&](const SourceFile& f) {
        return before && std::ranges::any_of(*before, [&](const SourceFile& b) {
                   return b.name == f.name && b.bytes.text == f.bytes.text && b.holes == f.holes && b.format == f.format
                          && b.findings == f.findings;
               });
    };
    Statement remove(db, "DELETE FROM source_files WHERE name = ?");
    if (!before) db.exec("DELETE FROM source_files;");
    if (before)
        for (const auto& b : *before)
            if (std::ranges::none_of(files, [&](const SourceFile& f) { return f.name == b.name && unchanged(f); })) {
                remove.bind(1, b.name);
                again(remove);
            }
    Statement s(db, "INSERT INTO source_files (name, format, holes, size, bytes, findings) VALUES (?,?,?,?,?,?)");
    for (const auto& f : files)
        if (!unchanged(f)) writeFile(s, f);
    db.exec("DELETE FROM source_settings;");
    Statement settings(db, "INSERT INTO source_settings (source_file, path, settings) VALUES (?,?,?)");
    for (const auto& f : files) {
        settings.bind(1, f.name);
        settings.bind(2, f.path);
        settings.bind(3, toJson(f.settings).dump());
        again(settings);
    }
}

std::vector<SourceFile> readFiles(Database& db) {
    std::vector<SourceFile> out;
    Statement s(db, "SELECT name, format, holes, size, bytes, findings FROM source_files ORDER BY fid");
    while (s.executeStep()) {
        SourceFile f{text(s, 0), text(s, 1), unpacked(text(s, 4), std::size_t(s.getColumn(3).getInt64())), s.getColumn(2), {}};
        const auto findings = json::parse(text(s, 5));
        for (const auto& j : findings) f.findings.push_back(findingOf(j));
        out.push_back(std::move(f));
    }
    if (!db.tableExists("source_settings")) return out; // schema 1
    Statement settings(db, "SELECT source_file, path, settings FROM source_settings ORDER BY fid");
    std::vector<SourceFile> ordered; // a file that changed was written anew, at the end; this list has their order
    while (settings.executeStep()) {
        const auto at = std::ranges::find(out, text(settings, 0), &SourceFile::name);
        if (at == out.end()) continue;
        at->path = text(settings, 1);
        at->settings = settingsOf(json::parse(text(settings, 2)));
        ordered.push_back(std::move(*at));
        out.erase(at);
    }
    ordered.insert(ordered.end(), std::make_move_iterator(out.begin()), std::make_move_iterator(out.end()));
    return ordered;
}

void writeCorrections(Database& db, const std::vector<Correction>& corrections) {
    db.exec("DELETE FROM corrections;");
    Statement s(db, "INSERT INTO corrections (source_file, source_line, source_group, heading, hole, before, after, why) VALUES "
                    "(?,?,?,?,?,?,?,?)");
    for (const auto& c : corrections) {
        s.bind(1, c.file);
        s.bind(2, c.line);
        s.bind(3, c.group);
        s.bind(4, c.heading);
        s.bind(5, c.hole);
        s.bind(6, c.before);
        s.bind(7, c.after);
        s.bind(8, c.why);
        again(s);
    }
}

std::vector<Correction> readCorrections(Database& db) {
    std::vector<Correction> out;
    if (!db.tableExists("corrections")) return out; // schema 1
    Statement s(db,
                "SELECT source_file, source_line, source_group, heading, hole, before, after, why FROM corrections ORDER BY fid");
    while (s.executeStep())
        out.push_back({text(s, 0), s.getColumn(1), text(s, 2), text(s, 3), text(s, 4), text(s, 5), text(s, 6), text(s, 7)});
    return out;
}

void writeSequence(Database& db, const Sequence& sequence) {
    db.exec("DELETE FROM units;");
    Statement s(db, "INSERT INTO units (code, name, colour, base, logged, recipe) VALUES (?,?,?,?,?,?)");
    for (const auto& u : sequence.units) {
        s.bind(1, u.code);
        s.bind(2, u.name);
        s.bind(3, u.colour);
        s.bind(4, u.base == BaseRule::Cuts ? "cuts" : "laps");
        s.bind(5, json(u.logged).dump());
        s.bind(6, toJson(u.recipe).dump());
        again(s);
    }
    auto details = json::object();
    for (const auto& u : sequence.units) details[u.code] = detailsOf(u);
    setSetting(db, "unit_details", details.dump());
    setSetting(db, "unit_heading", sequence.unitHeading);
    setSetting(db, "unit_aliases", json(sequence.aliases).dump());
}

Sequence readSequence(Database& db) {
    Sequence out;
    Statement s(db, "SELECT code, name, colour, base, logged, recipe FROM units ORDER BY fid");
    const auto details = json::parse(setting(db, "unit_details", "{}"));
    const auto signs = json::parse(setting(db, "unit_signs", "{}")); // schemas before 5 had no more than these
    while (s.executeStep()) {
        Unit u;
        u.code = text(s, 0);
        u.name = text(s, 1);
        u.colour = text(s, 2);
        u.base = text(s, 3) == "laps" ? BaseRule::Laps : BaseRule::Cuts;
        u.logged = json::parse(text(s, 4)).get<std::vector<std::string>>();
        u.recipe = recipeOf(json::parse(text(s, 5)));
        u.hatch = signs.value(u.code, "");
        readDetails(u, details.value(u.code, json::object()));
        out.units.push_back(std::move(u));
    }
    out.unitHeading = setting(db, "unit_heading", "");
    out.aliases = json::parse(setting(db, "unit_aliases", "{}")).get<std::map<std::string, std::string>>();
    return out;
}

void writeSite(Database& db, const Site& site) {
    setSetting(db, "crs", site.crs);
    setSetting(db, "frame", site.frame ? toJson(*site.frame).dump() : "");
}

Site readSite(Database& db) {
    Site site;
    site.crs = setting(db, "crs", "");
    if (const auto frame = setting(db, "frame", ""); !frame.empty()) site.frame = frameOf(json::parse(frame));
    site.limit = ground_tables::readLimit(db);
    return site;
}

Project readProject(Database& db) {
    Project p;
    p.name = setting(db, "name", "Project");
    p.site = part(readSite(db));
    p.files = part(readFiles(db));
    p.holes = part(hole_tables::read(db));
    p.corrections = part(readCorrections(db));
    p.codeNames = part(json::parse(setting(db, "code_names", "{}")).get<std::map<std::string, std::string>>());
    p.ground = part(ground_tables::read(db));
    p.contours = part(ground_tables::contoursOf(setting(db, "contours", "{}")));
    p.pictures = part(ground_tables::picturesOf(setting(db, "pictures", "[]")));
    p.sequence = part(readSequence(db));
    p.interpretation = part(interpretation_tables::read(db));
    p.fixedBases = part(interpretation_tables::readFixed(db));
    p.sections = part(readSections(db));
    p.trialColumns = part(interpretation_tables::readTrials(db));
    return p;
}

/// Writes the parts that are not those of `before`; all if that is null.
void writeParts(Database& db, const Project& p, const Project* before) {
    const bool newSystem = !before || before->site->crs != p.site->crs;
    const int system = geopackage::registerSystem(db, p.site->crs);
    if (!before || before->name != p.name) setSetting(db, "name", p.name);
    if (!before || before->site != p.site) writeSite(db, *p.site);
    if (!before || before->files != p.files) writeFiles(db, *p.files, before ? before->files.get() : nullptr);
    if (newSystem || before->holes != p.holes) hole_tables::write(db, *p.holes, system);
    if (!before || before->corrections != p.corrections) writeCorrections(db, *p.corrections);
    if (!before || before->codeNames != p.codeNames) setSetting(db, "code_names", json(*p.codeNames).dump());
    if (newSystem || before->ground != p.ground)
        ground_tables::write(db, *p.ground, before ? before->ground.get() : nullptr, system);
    if (newSystem || before->ground != p.ground || before->site != p.site)
        ground_tables::writeOutlines(db, p.site->limit, p.ground->outlines, system);
    if (!before || before->contours != p.contours) setSetting(db, "contours", ground_tables::text(*p.contours));
    if (!before || before->pictures != p.pictures) setSetting(db, "pictures", ground_tables::text(*p.pictures));
    if (!before || before->sequence != p.sequence) writeSequence(db, *p.sequence);
    if (newSystem || before->interpretation != p.interpretation) interpretation_tables::write(db, *p.interpretation, system);
    if (!before || before->fixedBases != p.fixedBases) interpretation_tables::writeFixed(db, *p.fixedBases);
    if (newSystem || before->sections != p.sections) writeSections(db, *p.sections, system);
    if (newSystem || before->trialColumns != p.trialColumns) interpretation_tables::writeTrials(db, *p.trialColumns, system);
}

/// Refuses what is no project of ours, in words.
void checkIsProject(Database& db, const std::filesystem::path& path) {
    if (!geopackage::isGeoPackage(db))
        throw FileError(fmt::format("{} is not a GeoPackage, so it is no Fox Cellar project.", path.string()));
    if (!db.tableExists("settings") || !db.tableExists("units") || !db.tableExists("source_files"))
        throw FileError(fmt::format("{} is a GeoPackage, but not one that Fox Cellar made.", path.string()));
    if (const auto state = db.execAndGet("PRAGMA quick_check(1)").getString(); state != "ok")
        throw FileError(
            fmt::format("{} is damaged ({}). The restore point beside it holds the project as it was when last opened.",
                        path.string(), state));
    if (const int version = std::stoi(setting(db, "schema_version", "0")); version > kSchemaVersion)
        throw FileError(fmt::format("{} was written by a later Fox Cellar (format {}, this one reads up to {}).", path.string(),
                                    version, kSchemaVersion));
}

/// Opens, and turns the database's own complaints into our sentence.
template <typename Use>
auto withProjectFile(const std::filesystem::path& path, int mode, Use&& use) {
    std::error_code code;
    if (!std::filesystem::is_regular_file(path, code))
        throw FileError(fmt::format("{} can't be opened: there is no such file.", path.string()));
    {
        std::ifstream in(path, std::ios::binary);
        char head[16] = {};
        in.read(head, sizeof head);
        if (!in) throw FileError(fmt::format("{} is too short to be a project: it may have been cut off.", path.string()));
        if (std::string_view(head, 15) != "SQLite format 3")
            throw FileError(fmt::format("{} is not a GeoPackage, so it is no Fox Cellar project.", path.string()));
    }
    try {
        auto db = std::make_unique<Database>(path.string(), mode);
        db->setBusyTimeout(2000);
        checkIsProject(*db, path);
        return use(std::move(db));
    } catch (const SQLite::Exception& e) {
        throw FileError(fmt::format("{} can't be read as a project: {}. It may have been cut short; the restore point beside it "
                                    "holds the project as it was when last opened.",
                                    path.string(), e.what()));
    } catch (const json::exception& e) {
        throw FileError(fmt::format("{} holds a setting that can't be read: {}.", path.string(), e.what()));
    } catch (const std::out_of_range&) {
        throw FileError(fmt::format("{} is not whole: rows in it belong to holes that are missing.", path.string()));
    }
}

} // namespace

struct ProjectStore::Connection {
    std::filesystem::path path;
    std::unique_ptr<Database> db;
    Project saved;
    std::string readOnly;
    Findings findings;
};

ProjectStore::ProjectStore(std::unique_ptr<Connection> c) : m_connection(std::move(c)) {}
ProjectStore::ProjectStore(ProjectStore&&) noexcept = default;
ProjectStore& ProjectStore::operator=(ProjectStore&&) noexcept = default;
ProjectStore::~ProjectStore() = default;

const Project& ProjectStore::saved() const { return m_connection->saved; }
const std::string& ProjectStore::readOnlyBecause() const { return m_connection->readOnly; }
const Findings& ProjectStore::findings() const { return m_connection->findings; }
const std::filesystem::path& ProjectStore::path() const { return m_connection->path; }

ProjectStore ProjectStore::create(const std::filesystem::path& path, const Project& project) {
    ReplaceFile replace(path);
    try {
        Database db(replace.scratch().string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
        SQLite::Transaction transaction(db);
        createTables(db);
        setSetting(db, "schema_version", std::to_string(kSchemaVersion));
        writeParts(db, project, nullptr);
        transaction.commit();
    } catch (const SQLite::Exception& e) {
        throw FileError(fmt::format("{} can't be written: {}.", path.string(), e.what()));
    }
    replace.commit();
    auto connection = std::make_unique<Connection>();
    connection->path = path;
    connection->db = std::make_unique<Database>(path.string(), SQLite::OPEN_READWRITE);
    connection->saved = project;
    return ProjectStore(std::move(connection));
}

ProjectStore ProjectStore::open(const std::filesystem::path& path) {
    return withProjectFile(path, SQLite::OPEN_READWRITE, [&](std::unique_ptr<Database> db) {
        auto connection = std::make_unique<Connection>();
        connection->path = path;
        connection->saved = readProject(*db);
        auto restore = path;
        restore.replace_extension(".restore.gpkg");
        ReplaceFile replace(restore);
        std::error_code code; // a folder that may not be written to: the project still opens
        if (std::filesystem::copy_file(path, replace.scratch(), code)) replace.commit();
        if (const int version = std::stoi(setting(*db, "schema_version", "1")); version < kSchemaVersion) {
            SQLite::Transaction transaction(*db);
            if (version < 2) createTables2(*db);
            if (version < 3) ground_tables::create3(*db);
            if (version < 4) interpretation_tables::create4(*db);
            interpretation_tables::create5(*db);
            setSetting(*db, "schema_version", std::to_string(kSchemaVersion));
            transaction.commit();
        }
        connection->db = std::move(db);
        return ProjectStore(std::move(connection));
    });
}

bool ProjectStore::isProject(const std::filesystem::path& path) {
    try {
        Database db(path.string(), SQLite::OPEN_READONLY);
        return geopackage::isGeoPackage(db) && db.tableExists("settings") && db.tableExists("source_files");
    } catch (const SQLite::Exception&) {
        return false;
    }
}

Project ProjectStore::read(const std::filesystem::path& path) {
    return withProjectFile(path, SQLite::OPEN_READONLY, [](std::unique_ptr<Database> db) { return readProject(*db); });
}

void ProjectStore::save(const Project& project) {
    try {
        SQLite::Transaction transaction(*m_connection->db);
        writeParts(*m_connection->db, project, &m_connection->saved);
        transaction.commit();
    } catch (const SQLite::Exception& e) {
        throw FileError(fmt::format("{} could not be saved: {}.", m_connection->path.string(), e.what()));
    }
    m_connection->saved = project;
}

} // namespace fox
