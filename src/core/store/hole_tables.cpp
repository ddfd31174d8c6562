#include "store/hole_tables.h"

#include "store/geopackage.h"

#include <cstring>
#include <nlohmann/json.hpp>

namespace fox::hole_tables {

using namespace geopackage;
using nlohmann::json;
using SQLite::Database;
using SQLite::Statement;

void create(Database& db) {
    createFeatureTable(db, "holes",
                       "hole_id TEXT NOT NULL, project_id TEXT NOT NULL, kind TEXT, easting REAL, northing REAL, "
                       "ground_level REAL, final_depth REAL, source_file TEXT, source_line INTEGER",
                       Geometry::Point, true);
    createAttributeTable(db, "intervals",
                         "hole_fid INTEGER NOT NULL, top REAL, base REAL, description TEXT, codes TEXT, source_line INTEGER");
    createAttributeTable(db, "path_stations", "hole_fid INTEGER NOT NULL, depth REAL, inclination REAL, azimuth REAL");
    createAttributeTable(db, "blow_counts", "hole_fid INTEGER NOT NULL, depth REAL, blows REAL");
}

void create2(Database& db) {
    createAttributeTable(db, "details", "hole_fid INTEGER NOT NULL, top REAL, base REAL, words TEXT");
    createAttributeTable(db, "samples", "hole_fid INTEGER NOT NULL, top REAL, base REAL, kind TEXT, reference TEXT");
    createAttributeTable(db, "water_strikes", "hole_fid INTEGER NOT NULL, depth REAL, rose_to REAL");
    createAttributeTable(db, "installations", "hole_fid INTEGER NOT NULL, top REAL, base REAL, part INTEGER, name TEXT");
    createAttributeTable(db, "core_runs", "hole_fid INTEGER NOT NULL, top REAL, base REAL, recovery REAL, solid REAL, rqd REAL");
    createAttributeTable(db, "curves",
                         "hole_fid INTEGER NOT NULL, name TEXT, unit TEXT, words TEXT, single INTEGER, readings BLOB");
    createAttributeTable(db, "holes_left_out", "hole_fid INTEGER NOT NULL");
}

namespace {

/// Readings as pairs of doubles, depth and value, little endian as the machine has them.
std::string packedReadings(const Curve& c) {
    std::string out;
    if (!c.readings) return out;
    out.resize(c.readings->size() * sizeof(Curve::Reading));
    std::memcpy(out.data(), c.readings->data(), out.size());
    return out;
}

std::shared_ptr<const std::vector<Curve::Reading>> readingsOf(const std::string& bytes) {
    std::vector<Curve::Reading> out(bytes.size() / sizeof(Curve::Reading));
    std::memcpy(out.data(), bytes.data(), out.size() * sizeof(Curve::Reading));
    return std::make_shared<const std::vector<Curve::Reading>>(std::move(out));
}

constexpr const char* kTables[] = {"holes",         "intervals",     "path_stations", "blow_counts", "details",       "samples",
                                   "water_strikes", "installations", "core_runs",     "curves",      "holes_left_out"};

struct HoleStatements {
    Statement interval, station, blows, detail, sample, strike, installation, core, curve, out;
    explicit HoleStatements(Database& db)
        : interval(db, "INSERT INTO intervals (hole_fid, top, base, description, codes, source_line) VALUES (?,?,?,?,?,?)"),
          station(db, "INSERT INTO path_stations (hole_fid, depth, inclination, azimuth) VALUES (?,?,?,?)"),
          blows(db, "INSERT INTO blow_counts (hole_fid, depth, blows) VALUES (?,?,?)"),
          detail(db, "INSERT INTO details (hole_fid, top, base, words) VALUES (?,?,?,?)"),
          sample(db, "INSERT INTO samples (hole_fid, top, base, kind, reference) VALUES (?,?,?,?,?)"),
          strike(db, "INSERT INTO water_strikes (hole_fid, depth, rose_to) VALUES (?,?,?)"),
          installation(db, "INSERT INTO installations (hole_fid, top, base, part, name) VALUES (?,?,?,?,?)"),
          core(db, "INSERT INTO core_runs (hole_fid, top, base, recovery, solid, rqd) VALUES (?,?,?,?,?,?)"),
          curve(db, "INSERT INTO curves (hole_fid, name, unit, words, single, readings) VALUES (?,?,?,?,?,?)"),
          out(db, "INSERT INTO holes_left_out (hole_fid) VALUES (?)") {}
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

std::optional<double> metres(const std::optional<Depth>& d) { return d ? std::optional(d->metres) : std::nullopt; }

void writeTests(HoleStatements& to, const Hole& h, std::int64_t fid) {
    for (const auto& d : h.details) {
        to.detail.bind(1, fid);
        to.detail.bind(2, d.top.metres);
        to.detail.bind(3, d.base.metres);
        to.detail.bind(4, d.words);
        again(to.detail);
    }
    for (const auto& s : h.samples) {
        to.sample.bind(1, fid);
        to.sample.bind(2, s.top.metres);
        bindOr(to.sample, 3, metres(s.base));
        to.sample.bind(4, s.type);
        to.sample.bind(5, s.reference);
        again(to.sample);
    }
    for (const auto& s : h.strikes) {
        to.strike.bind(1, fid);
        to.strike.bind(2, s.depth.metres);
        bindOr(to.strike, 3, metres(s.roseTo));
        again(to.strike);
    }
    for (const auto& i : h.installations) {
        to.installation.bind(1, fid);
        to.installation.bind(2, i.top.metres);
        to.installation.bind(3, i.base.metres);
        to.installation.bind(4, int(i.part));
        to.installation.bind(5, i.name);
        again(to.installation);
    }
    for (const auto& c : h.coreRuns) {
        to.core.bind(1, fid);
        to.core.bind(2, c.top.metres);
        to.core.bind(3, c.base.metres);
        bindOr(to.core, 4, c.recovery);
        bindOr(to.core, 5, c.solid);
        bindOr(to.core, 6, c.rqd);
        again(to.core);
    }
    for (const auto& c : h.curves) {
        to.curve.bind(1, fid);
        to.curve.bind(2, c.name);
        to.curve.bind(3, c.unit);
        to.curve.bind(4, c.words);
        to.curve.bind(5, int(c.single));
        const auto bytes = packedReadings(c);
        bindBlob(to.curve, 6, bytes);
        again(to.curve);
    }
    if (h.leftOut) {
        to.out.bind(1, fid);
        again(to.out);
    }
}

} // namespace

void write(Database& db, const Holes& holes, int system) {
    for (const char* table : kTables) db.exec(std::string("DELETE FROM ") + table);
    Statement hole(db, "INSERT INTO holes (fid, geom, hole_id, project_id, kind, easting, northing, ground_level, final_depth, "
                       "source_file, source_line) VALUES (?,?,?,?,?,?,?,?,?,?,?)");
    HoleStatements rows(db);
    Box2 extent;
    std::int64_t fid = 0;
    for (const auto& h : holes) {
        hole.bind(1, ++fid);
        if (const auto p = h.place()) {
            extent.include(*p);
            bindBlob(hole, 2, blob({{p->x, p->y, h.level.value_or(Level{0}).metres}}, Geometry::Point, true, system));
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
        writeTests(rows, h, fid);
    }
    describe(db, "holes", system, extent);
}

namespace {

std::optional<Depth> depthOr(Statement& s, int column) {
    const auto v = columnOr(s, column);
    return v ? std::optional(Depth{*v}) : std::nullopt;
}

/// What schema 2 added. `hole` gives the hole of a fid.
template <typename HoleOf>
void readTests(Database& db, HoleOf&& hole) {
    const auto each = [&](const char* sql, auto&& use) {
        Statement s(db, sql);
        while (s.executeStep()) use(s, hole(s.getColumn(0).getInt64()));
    };
    const auto depth = [](Statement& s, int column) { return Depth{s.getColumn(column).getDouble()}; };
    each("SELECT hole_fid, top, base, words FROM details ORDER BY fid", [&](Statement& s, Hole& h) {
        h.details.push_back({depth(s, 1), depth(s, 2), text(s, 3)});
    });
    each("SELECT hole_fid, top, base, kind, reference FROM samples ORDER BY fid", [&](Statement& s, Hole& h) {
        h.samples.push_back({depth(s, 1), depthOr(s, 2), text(s, 3), text(s, 4)});
    });
    each("SELECT hole_fid, depth, rose_to FROM water_strikes ORDER BY fid", [&](Statement& s, Hole& h) {
        h.strikes.push_back({depth(s, 1), depthOr(s, 2)});
    });
    each("SELECT hole_fid, top, base, part, name FROM installations ORDER BY fid", [&](Statement& s, Hole& h) {
        h.installations.push_back({Installation::Part(s.getColumn(3).getInt()), depth(s, 1), depth(s, 2), text(s, 4)});
    });
    each("SELECT hole_fid, top, base, recovery, solid, rqd FROM core_runs ORDER BY fid", [&](Statement& s, Hole& h) {
        h.coreRuns.push_back({depth(s, 1), depth(s, 2), columnOr(s, 3), columnOr(s, 4), columnOr(s, 5)});
    });
    each("SELECT hole_fid, name, unit, words, single, readings FROM curves ORDER BY fid", [&](Statement& s, Hole& h) {
        h.curves.push_back({text(s, 1), text(s, 2), text(s, 3), s.getColumn(4).getInt() != 0, readingsOf(text(s, 5))});
    });
    each("SELECT hole_fid FROM holes_left_out", [](Statement&, Hole& h) { h.leftOut = true; });
}

} // namespace

Holes read(Database& db) {
    std::vector<Hole> holes;
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
    if (db.tableExists("holes_left_out")) readTests(db, [&](std::int64_t fid) -> Hole& { return holes.at(index.at(fid)); });
    Holes out;
    for (auto& h : holes) out.push_back(std::move(h));
    return out;
}

} // namespace fox::hole_tables
