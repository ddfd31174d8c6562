#include "project/store.h"

#include "base/errors.h"
#include "base/files.h"
#include "formats/gdal_session.h"
#include "project/geopackage.h"
#include "project/hole_tables.h"
#include "project/json.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <fmt/format.h>
#include <fstream>
#include <zlib.h>

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
    geopackage::createFeatureTable(db, "ground_points", "source INTEGER NOT NULL, source_file TEXT", Geometry::Point, true);
    geopackage::createFeatureTable(db, "ground_lines", "source INTEGER NOT NULL, source_file TEXT, has_levels INTEGER NOT NULL",
                                   Geometry::Line, true);
    geopackage::createFeatureTable(db, "outlines", "role TEXT NOT NULL", Geometry::Polygon, false);
    geopackage::createFeatureTable(db, "section_lines", "name TEXT NOT NULL", Geometry::Line, false);
    geopackage::createAttributeTable(db, "source_files",
                                     "name TEXT NOT NULL, format TEXT, holes INTEGER, size INTEGER, bytes BLOB, findings TEXT");
    geopackage::createAttributeTable(db, "units",
                                     "code TEXT NOT NULL, name TEXT, colour TEXT, base TEXT, logged TEXT, recipe TEXT");
    geopackage::createAttributeTable(db, "settings", "key TEXT NOT NULL UNIQUE, value TEXT");
    createTables2(db);
}

std::string packed(const std::string& bytes) {
    uLongf size = compressBound(uLong(bytes.size()));
    std::string out(size, '\0');
    if (compress2(reinterpret_cast<Bytef*>(out.data()), &size, reinterpret_cast<const Bytef*>(bytes.data()), uLong(bytes.size()),
                  6)
        != Z_OK)
        throw Error("There is not enough memory to pack an imported file.");
    out.resize(size);
    return out;
}

std::string unpacked(const std::string& bytes, std::size_t size) {
    std::string out(size, '\0');
    uLongf length = uLongf(size);
    if (uncompress(reinterpret_cast<Bytef*>(out.data()), &length, reinterpret_cast<const Bytef*>(bytes.data()),
                   uLong(bytes.size()))
            != Z_OK
        || length != size)
        throw Error("An imported file kept in the project can't be unpacked.");
    return out;
}

void setSetting(Database& db, const std::string& key, const std::string& value) {
    Statement s(db, "INSERT INTO settings (key, value) VALUES (?, ?) ON CONFLICT(key) DO UPDATE SET value = excluded.value");
    s.bind(1, key);
    s.bind(2, value);
    s.exec();
}

std::string setting(Database& db, const std::string& key, const std::string& otherwise) {
    Statement s(db, "SELECT value FROM settings WHERE key = ?");
    s.bind(1, key);
    return s.executeStep() ? text(s, 0) : otherwise;
}

// --- ground

void writeGround(Database& db, const GroundSources& ground, int system) {
    db.exec("DELETE FROM ground_points; DELETE FROM ground_lines;");
    Statement point(db, "INSERT INTO ground_points (geom, source, source_file) VALUES (?,?,?)");
    Box2 pointExtent, lineExtent;
    for (std::size_t i = 0; i < ground.points.size(); ++i)
        for (const auto& p : ground.points[i].points) {
            pointExtent.include(p.plan());
            bindBlob(point, 1, geopackage::blob({p}, Geometry::Point, true, system));
            point.bind(2, int(i));
            point.bind(3, ground.points[i].file);
            again(point);
        }
    Statement line(db, "INSERT INTO ground_lines (geom, source, source_file, has_levels) VALUES (?,?,?,?)");
    for (std::size_t i = 0; i < ground.breaklines.size(); ++i)
        for (auto l : ground.breaklines[i].lines) {
            const bool levels = std::ranges::none_of(l, [](const Point3& p) { return std::isnan(p.z); });
            for (auto& p : l) {
                lineExtent.include(p.plan());
                if (!levels) p.z = 0;
            }
            bindBlob(line, 1, geopackage::blob(l, Geometry::Line, true, system));
            line.bind(2, int(i));
            line.bind(3, ground.breaklines[i].file);
            line.bind(4, levels ? 1 : 0);
            again(line);
        }
    geopackage::describe(db, "ground_points", system, pointExtent);
    geopackage::describe(db, "ground_lines", system, lineExtent);
    setSetting(db, "hole_levels", ground.holeLevels ? "yes" : "no");
}

GroundSources readGround(Database& db) {
    GroundSources ground;
    Statement p(db, "SELECT geom, source, source_file FROM ground_points ORDER BY fid");
    while (p.executeStep()) {
        const auto source = std::size_t(p.getColumn(1).getInt());
        if (source >= ground.points.size()) ground.points.resize(source + 1);
        ground.points[source].file = text(p, 2);
        ground.points[source].points.push_back(geopackage::pointsOf(text(p, 0)).at(0));
    }
    Statement l(db, "SELECT geom, source, source_file, has_levels FROM ground_lines ORDER BY fid");
    while (l.executeStep()) {
        const auto source = std::size_t(l.getColumn(1).getInt());
        if (source >= ground.breaklines.size()) ground.breaklines.resize(source + 1);
        ground.breaklines[source].file = text(l, 2);
        auto line = geopackage::pointsOf(text(l, 0));
        if (l.getColumn(3).getInt() == 0)
            for (auto& q : line) q.z = kNoValue;
        ground.breaklines[source].lines.push_back(std::move(line));
    }
    ground.holeLevels = setting(db, "hole_levels", "yes") == "yes";
    return ground;
}

// --- sections, files, sequence, site

Polyline3 raised(const Polyline2& line) {
    Polyline3 out;
    for (const auto& p : line) out.push_back({p.x, p.y, 0});
    return out;
}

Polyline2 planOf(const Polyline3& line) {
    Polyline2 out;
    for (const auto& p : line) out.push_back(p.plan());
    return out;
}

void writeSections(Database& db, const std::vector<SectionLine>& sections, int system) {
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
    while (s.executeStep()) out.push_back({text(s, 1), planOf(geopackage::pointsOf(text(s, 0)))});
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
    std::map<std::string, std::string> signs;
    for (const auto& u : sequence.units)
        if (!u.hatch.empty()) signs[u.code] = u.hatch;
    setSetting(db, "unit_signs", json(signs).dump());
    setSetting(db, "unit_heading", sequence.unitHeading);
    setSetting(db, "unit_aliases", json(sequence.aliases).dump());
}

Sequence readSequence(Database& db) {
    Sequence out;
    Statement s(db, "SELECT code, name, colour, base, logged, recipe FROM units ORDER BY fid");
    while (s.executeStep())
        out.units.push_back({text(s, 0),
                             text(s, 1),
                             text(s, 2),
                             text(s, 3) == "laps" ? BaseRule::Laps : BaseRule::Cuts,
                             json::parse(text(s, 4)).get<std::vector<std::string>>(),
                             recipeOf(json::parse(text(s, 5))),
                             {}});
    const auto signs = json::parse(setting(db, "unit_signs", "{}")).get<std::map<std::string, std::string>>();
    for (auto& u : out.units)
        if (const auto sign = signs.find(u.code); sign != signs.end()) u.hatch = sign->second;
    out.unitHeading = setting(db, "unit_heading", "");
    out.aliases = json::parse(setting(db, "unit_aliases", "{}")).get<std::map<std::string, std::string>>();
    return out;
}

void writeSite(Database& db, const Site& site, int system) {
    setSetting(db, "crs", site.crs);
    setSetting(db, "frame", site.frame ? toJson(*site.frame).dump() : "");
    db.exec("DELETE FROM outlines;");
    Box2 extent;
    if (!site.limit.empty()) {
        for (const auto& p : site.limit) extent.include(p);
        Statement s(db, "INSERT INTO outlines (geom, role) VALUES (?, 'site limit')");
        bindBlob(s, 1, geopackage::blob(raised(site.limit), Geometry::Polygon, false, system));
        s.exec();
    }
    geopackage::describe(db, "outlines", system, extent);
}

Site readSite(Database& db) {
    Site site;
    site.crs = setting(db, "crs", "");
    if (const auto frame = setting(db, "frame", ""); !frame.empty()) site.frame = frameOf(json::parse(frame));
    Statement s(db, "SELECT geom FROM outlines WHERE role = 'site limit'");
    if (s.executeStep()) site.limit = planOf(geopackage::pointsOf(text(s, 0)));
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
    p.ground = part(readGround(db));
    p.sequence = part(readSequence(db));
    p.sections = part(readSections(db));
    return p;
}

/// Writes the parts that are not those of `before`; all if that is null.
void writeParts(Database& db, const Project& p, const Project* before) {
    const bool newSystem = !before || before->site->crs != p.site->crs;
    const int system = geopackage::registerSystem(db, p.site->crs);
    if (!before || before->name != p.name) setSetting(db, "name", p.name);
    if (!before || before->site != p.site) writeSite(db, *p.site, system);
    if (!before || before->files != p.files) writeFiles(db, *p.files, before ? before->files.get() : nullptr);
    if (newSystem || before->holes != p.holes) hole_tables::write(db, *p.holes, system);
    if (!before || before->corrections != p.corrections) writeCorrections(db, *p.corrections);
    if (!before || before->codeNames != p.codeNames) setSetting(db, "code_names", json(*p.codeNames).dump());
    if (newSystem || before->ground != p.ground) writeGround(db, *p.ground, system);
    if (!before || before->sequence != p.sequence) writeSequence(db, *p.sequence);
    if (newSystem || before->sections != p.sections) writeSections(db, *p.sections, system);
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
};

ProjectStore::ProjectStore(std::unique_ptr<Connection> c) : m_connection(std::move(c)) {}
ProjectStore::ProjectStore(ProjectStore&&) noexcept = default;
ProjectStore& ProjectStore::operator=(ProjectStore&&) noexcept = default;
ProjectStore::~ProjectStore() = default;

const Project& ProjectStore::saved() const { return m_connection->saved; }
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
        if (std::stoi(setting(*db, "schema_version", "1")) < 2) {
            SQLite::Transaction transaction(*db);
            createTables2(*db);
            setSetting(*db, "schema_version", std::to_string(kSchemaVersion));
            transaction.commit();
        }
        connection->db = std::move(db);
        return ProjectStore(std::move(connection));
    });
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
