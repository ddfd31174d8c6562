#include "project/store.h"

#include "base/errors.h"
#include "base/files.h"
#include "formats/gdal_session.h"
#include "project/geopackage.h"
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

void createTables(Database& db) {
    geopackage::createCoreTables(db);
    geopackage::createFeatureTable(db, "holes",
                                   "hole_id TEXT NOT NULL, project_id TEXT NOT NULL, kind TEXT, easting REAL, northing REAL, "
                                   "ground_level REAL, final_depth REAL, source_file TEXT, source_line INTEGER",
                                   Geometry::Point, true);
    geopackage::createAttributeTable(
        db, "intervals", "hole_fid INTEGER NOT NULL, top REAL, base REAL, description TEXT, codes TEXT, source_line INTEGER");
    geopackage::createAttributeTable(db, "path_stations",
                                     "hole_fid INTEGER NOT NULL, depth REAL, inclination REAL, azimuth REAL");
    geopackage::createAttributeTable(db, "blow_counts", "hole_fid INTEGER NOT NULL, depth REAL, blows REAL");
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

void bindOr(Statement& s, int index, const std::optional<double>& value) {
    if (value)
        s.bind(index, *value);
    else
        s.bind(index);
}

std::optional<double> columnOr(Statement& s, int index) {
    const auto c = s.getColumn(index);
    return c.isNull() ? std::nullopt : std::optional(c.getDouble());
}

std::string text(Statement& s, int index) { return s.getColumn(index).getString(); }

void bindBlob(Statement& s, int index, const std::string& bytes) { s.bind(index, bytes.data(), int(bytes.size())); }

void again(Statement& s) {
    s.exec();
    s.reset();
    s.clearBindings();
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

// --- holes

struct HoleStatements {
    Statement interval, station, blows;
    explicit HoleStatements(Database& db)
        : interval(db, "INSERT INTO intervals (hole_fid, top, base, description, codes, source_line) VALUES (?,?,?,?,?,?)"),
          station(db, "INSERT INTO path_stations (hole_fid, depth, inclination, azimuth) VALUES (?,?,?,?)"),
          blows(db, "INSERT INTO blow_counts (hole_fid, depth, blows) VALUES (?,?,?)") {}
};

void writeHoleRows(HoleStatements& to, const Hole& h, std::int64_t fid) {
    for (const auto& i : h.intervals) {
        to.interval.bind(1, fid);
        to.interval.bind(2, i.top.metres);
        to.interval.bind(3, i.base.metres);
        to.interval.bind(4, i.description);
        to.interval.bind(5, json(i.codes).dump());
        to.interval.bind(6, i.line);
        again(to.interval);
    }
    for (const auto& p : h.stations) {
        to.station.bind(1, fid);
        to.station.bind(2, p.depth.metres);
        to.station.bind(3, p.inclination);
        to.station.bind(4, p.azimuth);
        again(to.station);
    }
    for (const auto& b : h.blowCounts) {
        to.blows.bind(1, fid);
        to.blows.bind(2, b.depth.metres);
        to.blows.bind(3, b.blows);
        again(to.blows);
    }
}

void writeHoles(Database& db, const Holes& holes, int system) {
    db.exec("DELETE FROM holes; DELETE FROM intervals; DELETE FROM path_stations; DELETE FROM blow_counts;");
    Statement hole(db, "INSERT INTO holes (fid, geom, hole_id, project_id, kind, easting, northing, ground_level, final_depth, "
                       "source_file, source_line) VALUES (?,?,?,?,?,?,?,?,?,?,?)");
    HoleStatements rows(db);
    Box2 extent;
    std::int64_t fid = 0;
    for (const auto& h : holes) {
        hole.bind(1, ++fid);
        if (const auto p = h.place()) {
            extent.include(*p);
            bindBlob(hole, 2, geopackage::blob({{p->x, p->y, h.level.value_or(Level{0}).metres}}, Geometry::Point, true, system));
        }
        hole.bind(3, h.id);
        hole.bind(4, h.project);
        hole.bind(5, h.type);
        bindOr(hole, 6, h.easting);
        bindOr(hole, 7, h.northing);
        bindOr(hole, 8, h.level ? std::optional(h.level->metres) : std::nullopt);
        bindOr(hole, 9, h.finalDepth ? std::optional(h.finalDepth->metres) : std::nullopt);
        hole.bind(10, h.file);
        hole.bind(11, h.line);
        again(hole);
        writeHoleRows(rows, h, fid);
    }
    geopackage::describe(db, "holes", system, extent);
}

Holes readHoleTable(Database& db) {
    Holes holes;
    std::map<std::int64_t, std::size_t> index;
    Statement s(db, "SELECT fid, hole_id, project_id, kind, easting, northing, ground_level, final_depth, source_file, "
                    "source_line FROM holes ORDER BY fid");
    while (s.executeStep()) {
        Hole h;
        h.id = text(s, 1), h.project = text(s, 2), h.type = text(s, 3);
        h.easting = columnOr(s, 4), h.northing = columnOr(s, 5);
        if (const auto level = columnOr(s, 6)) h.level = Level{*level};
        if (const auto depth = columnOr(s, 7)) h.finalDepth = Depth{*depth};
        h.file = text(s, 8), h.line = s.getColumn(9);
        index[s.getColumn(0).getInt64()] = holes.size();
        holes.push_back(std::move(h));
    }
    Statement i(db, "SELECT hole_fid, top, base, description, codes, source_line FROM intervals ORDER BY fid");
    while (i.executeStep())
        holes.at(index.at(i.getColumn(0).getInt64()))
            .intervals.push_back({Depth{i.getColumn(1)}, Depth{i.getColumn(2)}, text(i, 3),
                                  json::parse(text(i, 4)).get<std::map<std::string, std::string>>(), i.getColumn(5)});
    Statement p(db, "SELECT hole_fid, depth, inclination, azimuth FROM path_stations ORDER BY fid");
    while (p.executeStep())
        holes.at(index.at(p.getColumn(0).getInt64())).stations.push_back({Depth{p.getColumn(1)}, p.getColumn(2), p.getColumn(3)});
    Statement b(db, "SELECT hole_fid, depth, blows FROM blow_counts ORDER BY fid");
    while (b.executeStep())
        holes.at(index.at(b.getColumn(0).getInt64())).blowCounts.push_back({Depth{b.getColumn(1)}, b.getColumn(2)});
    return holes;
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

void writeFiles(Database& db, const std::vector<SourceFile>& files) {
    db.exec("DELETE FROM source_files;");
    Statement s(db, "INSERT INTO source_files (name, format, holes, size, bytes, findings) VALUES (?,?,?,?,?,?)");
    for (const auto& f : files) {
        s.bind(1, f.name);
        s.bind(2, f.format);
        s.bind(3, f.holes);
        s.bind(4, std::int64_t(f.bytes.size()));
        const auto bytes = packed(f.bytes);
        bindBlob(s, 5, bytes);
        json findings = json::array();
        for (const auto& finding : f.findings) findings.push_back(toJson(finding));
        s.bind(6, findings.dump());
        again(s);
    }
}

std::vector<SourceFile> readFiles(Database& db) {
    std::vector<SourceFile> out;
    Statement s(db, "SELECT name, format, holes, size, bytes, findings FROM source_files ORDER BY fid");
    while (s.executeStep()) {
        SourceFile f{text(s, 0), text(s, 1), unpacked(text(s, 4), std::size_t(s.getColumn(3).getInt64())), s.getColumn(2), {}};
        for (const auto& j : json::parse(text(s, 5))) f.findings.push_back(findingOf(j));
        out.push_back(std::move(f));
    }
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
    setSetting(db, "unit_heading", sequence.unitHeading);
    setSetting(db, "unit_aliases", json(sequence.aliases).dump());
}

Sequence readSequence(Database& db) {
    Sequence out;
    Statement s(db, "SELECT code, name, colour, base, logged, recipe FROM units ORDER BY fid");
    while (s.executeStep())
        out.units.push_back({text(s, 0), text(s, 1), text(s, 2), text(s, 3) == "laps" ? BaseRule::Laps : BaseRule::Cuts,
                             json::parse(text(s, 4)).get<std::vector<std::string>>(), recipeOf(json::parse(text(s, 5)))});
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
    p.holes = part(readHoleTable(db));
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
    if (!before || before->files != p.files) writeFiles(db, *p.files);
    if (newSystem || before->holes != p.holes) writeHoles(db, *p.holes, system);
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
