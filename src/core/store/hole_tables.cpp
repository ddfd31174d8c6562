#include "store/hole_tables.h"

#include "base/limits.h"
#include "base/text.h"
#include "store/geopackage.h"
#include "store/row_reader.h"

#include <climits>
#include <cstring>
#include <deque>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <unordered_map>
#include <unordered_set>

namespace fox::hole_tables {

using namespace geopackage;
using nlohmann::json;
using SQLite::Database;
using SQLite::Statement;

namespace {

/// Readings as pairs of doubles, depth and value, little endian as the machine has them.
std::string packedReadings(const Curve& c) {
    std::string out;
    if (!c.readings) return out;
    out.resize(c.readings->size() * sizeof(Curve::Reading));
    if (!out.empty()) std::memcpy(out.data(), c.readings->data(), out.size());
    return out;
}

/// Depths that are not numbers are passed over.
std::shared_ptr<const std::vector<Curve::Reading>> readingsOf(const std::string& bytes) {
    std::vector<Curve::Reading> all(std::min(bytes.size() / sizeof(Curve::Reading), limits::kReadings));
    if (!all.empty()) std::memcpy(all.data(), bytes.data(), all.size() * sizeof(Curve::Reading));
    std::erase_if(all, [](const Curve::Reading& r) { return !(std::abs(r.depth) <= limits::kLevel); });
    for (auto& r : all)
        if (!std::isfinite(r.value)) r.value = kNoValue;
    std::ranges::stable_sort(all, {}, &Curve::Reading::depth);
    return std::make_shared<const std::vector<Curve::Reading>>(std::move(all));
}

/// What is said of a test beside its result; empty: nothing.
std::string testWords(const BlowCount& b) {
    json j = json::object();
    const auto increments = [&](const char* key, const std::vector<BlowCount::Increment>& all) {
        for (const auto& i : all) j[key].push_back(i.penetration ? json{i.blows, *i.penetration} : json{i.blows});
    };
    increments("seating", b.seating), increments("main", b.main);
    if (!b.reported.empty()) j["reported"] = b.reported;
    if (!b.type.empty()) j["type"] = b.type;
    if (b.energyRatio) j["energy_ratio"] = *b.energyRatio;
    if (b.water) j["water"] = b.water->metres;
    if (b.casing) j["casing"] = b.casing->metres;
    return j.empty() ? std::string() : j.dump();
}

/// @throws json's errors for what is none
void takeTest(const json& j, BlowCount& b) {
    const auto increments = [&](const char* key, std::vector<BlowCount::Increment>& all) {
        const json list = j.value(key, json::array());
        for (const auto& i : list)
            all.push_back({i.at(0).get<double>(), i.size() > 1 ? std::optional(i.at(1).get<double>()) : std::nullopt});
    };
    increments("seating", b.seating), increments("main", b.main);
    b.reported = j.value("reported", ""), b.type = j.value("type", "");
    if (j.contains("energy_ratio")) b.energyRatio = j["energy_ratio"].get<double>();
    if (j.contains("water")) b.water = Depth{j["water"].get<double>()};
    if (j.contains("casing")) b.casing = Depth{j["casing"].get<double>()};
}

/// Of readings that the curve has.
void takeWritten(const json& j, Curve& curve) {
    for (const auto& w : j)
        if (const auto reading = w.at(0).get<std::size_t>(); reading < curve.readings->size())
            curve.written.push_back({reading, w.at(1).get<std::string>()});
}

std::string writtenWords(const Curve& c) {
    json j = json::array();
    for (const auto& w : c.written) j.push_back({w.reading, w.text});
    return j.empty() ? std::string() : j.dump();
}

/// Tables with rows of holes, by hole_fid.
constexpr const char* kTables[] = {"intervals",    "path_stations", "blow_counts", "details", "samples",   "water_strikes",
                                   "water_levels", "installations", "core_runs",   "curves",  "soundings", "holes_left_out"};

/// The position as it is written, to tell later which of the geometry and the columns another program has changed.
std::string positionWords(std::optional<double> easting, std::optional<double> northing) {
    return easting && northing ? fmt::format("{} {}", *easting, *northing) : "none";
}

struct HoleStatements {
    Statement interval, station, blows, detail, sample, strike, dip, installation, core, curve, sounding, out;
    explicit HoleStatements(Database& db)
        : interval(db, "INSERT INTO intervals (hole_fid, top, base, description, codes, source_line) VALUES (?,?,?,?,?,?)"),
          station(db, "INSERT INTO path_stations (hole_fid, depth, inclination, azimuth, source_line) VALUES (?,?,?,?,?)"),
          blows(db, "INSERT INTO blow_counts (hole_fid, depth, blows, penetration_mm, test) VALUES (?,?,?,?,?)"),
          detail(db, "INSERT INTO details (hole_fid, top, base, words) VALUES (?,?,?,?)"),
          sample(db, "INSERT INTO samples (hole_fid, top, base, kind, reference) VALUES (?,?,?,?,?)"),
          strike(db, "INSERT INTO water_strikes (hole_fid, depth, rose_to) VALUES (?,?,?)"),
          dip(db, "INSERT INTO water_levels (hole_fid, measured, depth, pipe, dry, given) VALUES (?,?,?,?,?,?)"),
          installation(db, "INSERT INTO installations (hole_fid, top, base, part, name) VALUES (?,?,?,?,?)"),
          core(db, "INSERT INTO core_runs (hole_fid, top, base, recovery, solid, rqd) VALUES (?,?,?,?,?,?)"),
          curve(db, "INSERT INTO curves (hole_fid, name, unit, words, single, readings, push, written) VALUES (?,?,?,?,?,?,?,?)"),
          sounding(db, "INSERT INTO soundings (hole_fid, push, cone, area_ratio, water_m, stated_unit_weight, stated_water_m) "
                       "VALUES (?,?,?,?,?,?,?)"),
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
        to.station.bind(5, p.line);
        again(to.station);
    }
    for (const auto& b : h.blowCounts) {
        to.blows.bind(1, fid);
        to.blows.bind(2, b.depth.metres);
        to.blows.bind(3, b.blows);
        bindOr(to.blows, 4, b.penetration);
        to.blows.bind(5, testWords(b));
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
    for (const auto& w : h.waterLevels) {
        to.dip.bind(1, fid);
        to.dip.bind(2, w.measured);
        to.dip.bind(3, w.depth.metres);
        to.dip.bind(4, w.pipe);
        to.dip.bind(5, w.dry ? 1 : 0);
        to.dip.bind(6, w.given);
        again(to.dip);
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
        to.curve.bind(7, c.push);
        to.curve.bind(8, writtenWords(c));
        again(to.curve);
    }
    for (const auto& s : h.soundings) {
        to.sounding.bind(1, fid);
        to.sounding.bind(2, s.push);
        to.sounding.bind(3, s.cone);
        bindOr(to.sounding, 4, s.areaRatio);
        bindOr(to.sounding, 5, metres(s.water));
        bindOr(to.sounding, 6, s.statedUnitWeight);
        bindOr(to.sounding, 7, metres(s.statedWater));
        again(to.sounding);
    }
    if (h.excluded) {
        to.out.bind(1, fid);
        again(to.out);
    }
}

} // namespace

namespace {

/// Writes holes one by one.
class Writer {
public:
    Writer(Database& db, int system)
        : m_system(system),
          m_insert(db, "INSERT INTO holes (geom, hole_id, project_id, kind, easting, northing, ground_level, final_depth, "
                       "source_file, source_line, written_position, name, fid) VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?)"),
          m_update(db, "UPDATE holes SET geom = ?, hole_id = ?, project_id = ?, kind = ?, easting = ?, northing = ?, "
                       "ground_level = ?, final_depth = ?, source_file = ?, source_line = ?, written_position = ?, name = ? "
                       "WHERE fid = ?"),
          m_removeHole(db, "DELETE FROM holes WHERE fid = ?"),
          m_rows(db) {
        for (const char* table : kTables) m_remove.emplace_back(db, fmt::format("DELETE FROM {} WHERE hole_fid = ?", table));
    }

    void insert(const Hole& h, std::int64_t row) {
        writeTo(m_insert, h, row);
        writeHoleRows(m_rows, h, row);
        writeTests(m_rows, h, row);
    }
    void update(const Hole& h, std::int64_t row) {
        removeRows(row);
        writeTo(m_update, h, row);
        writeHoleRows(m_rows, h, row);
        writeTests(m_rows, h, row);
    }
    void remove(std::int64_t row) {
        removeRows(row);
        m_removeHole.bind(1, row);
        again(m_removeHole);
    }

private:
    void removeRows(std::int64_t row) {
        for (auto& s : m_remove) {
            s.bind(1, row);
            again(s);
        }
    }
    void writeTo(Statement& s, const Hole& h, std::int64_t row) {
        std::string point;
        if (const auto p = h.place()) {
            point = blob({{p->x, p->y, h.level.value_or(Level{0}).metres}}, Geometry::Point, true, m_system);
            bindBlob(s, 1, point);
        }
        s.bind(2, h.id);
        s.bind(3, h.project);
        s.bind(4, h.type);
        bindOr(s, 5, h.easting);
        bindOr(s, 6, h.northing);
        bindOr(s, 7, h.level ? std::optional(h.level->metres) : std::nullopt);
        bindOr(s, 8, metres(h.finalDepth));
        s.bind(9, h.file);
        s.bind(10, h.line);
        s.bind(11, positionWords(h.easting, h.northing));
        s.bind(12, h.name);
        s.bind(13, row);
        again(s);
    }

    int m_system;
    Statement m_insert, m_update, m_removeHole;
    std::deque<Statement> m_remove;
    HoleStatements m_rows;
};

struct KeyHash {
    std::size_t operator()(const std::pair<std::string, std::string>& key) const {
        return std::hash<std::string>()(key.first) * 31 + std::hash<std::string>()(key.second);
    }
};

/// The row of each hole: that of the same hole before, also if it was changed; new ones come after all others. Empty if the
/// order would not be that of the rows: then all are to be written anew.
std::vector<std::int64_t> rowsFor(const Holes& holes, const StoredHoles& before) {
    std::unordered_map<std::pair<std::string, std::string>, std::size_t, KeyHash> known;
    std::int64_t last = 0;
    for (std::size_t i = 0; i < before.holes.size(); ++i) {
        known.emplace(std::pair(before.holes[i].project, before.holes[i].id), i);
        last = std::max(last, before.rows[i]);
    }
    std::vector<std::int64_t> rows;
    for (const auto& h : holes) {
        const auto at = known.find({h.project, h.id});
        rows.push_back(at == known.end() ? ++last : before.rows[at->second]);
        if (at != known.end()) known.erase(at); // of two with one key the second is new
        if (rows.size() > 1 && rows[rows.size() - 2] >= rows.back()) return {};
    }
    return rows;
}

} // namespace

std::vector<std::int64_t> write(Database& db, const Holes& holes, const StoredHoles* before, int system) {
    auto rows = before ? rowsFor(holes, *before) : std::vector<std::int64_t>{};
    Writer writer(db, system);
    if (rows.size() != holes.size() || !before) {
        db.exec("DELETE FROM holes");
        for (const char* table : kTables) db.exec(std::string("DELETE FROM ") + table);
        rows.clear();
        for (std::size_t i = 0; i < holes.size(); ++i) {
            rows.push_back(std::int64_t(i) + 1);
            writer.insert(holes[i], rows.back());
        }
    } else {
        std::unordered_map<std::int64_t, const Hole*> old;
        for (std::size_t i = 0; i < before->rows.size(); ++i) old.emplace(before->rows[i], &before->holes[i]);
        for (std::size_t i = 0; i < holes.size(); ++i) {
            const auto was = old.find(rows[i]);
            if (was == old.end())
                writer.insert(holes[i], rows[i]);
            else if (was->second != &holes[i])
                writer.update(holes[i], rows[i]);
            if (was != old.end()) old.erase(was);
        }
        for (const auto& [row, hole] : old) writer.remove(row);
    }
    Box2 extent;
    for (const auto& h : holes)
        if (const auto p = h.place()) extent.include(*p);
    describe(db, "holes", system, extent);
    return rows;
}

void mend(Database& db, StoredHoles& stored, int system) {
    for (const char* table : kTables) db.exec(fmt::format("DELETE FROM {} WHERE hole_fid NOT IN (SELECT fid FROM holes)", table));
    if (stored.moved.empty()) return;
    auto before = stored;
    for (const auto i : stored.moved) before.holes.change(i); // another address: it is written
    stored.rows = write(db, stored.holes, &before, system);
    stored.moved.clear();
}

namespace {

/// Reads the tables of holes one after the other.
class Reader {
public:
    Reader(Database& db, RowFaults& faults) : m_db(db), m_faults(faults) {}

    StoredHoles read() {
        readHoles();
        readLogs();
        if (m_db.tableExists("holes_left_out")) readTests(); // schema 2
        StoredHoles out;
        for (std::size_t i = 0; i < m_holes.size(); ++i) {
            std::ranges::stable_sort(m_holes[i].intervals, {}, &Interval::top);
            std::ranges::stable_sort(m_holes[i].stations, {}, &PathStation::depth);
            out.holes.push_back(std::move(m_holes[i]));
        }
        const bool anyNamed = std::ranges::any_of(out.holes, [](const Hole& h) { return !h.name.empty(); });
        if (m_nameless || anyNamed) giveNames(out.holes); // those that another program added
        out.rows = std::move(m_rows);
        out.moved = std::move(m_moved);
        return out;
    }

private:
    void readHoles() {
        RowReader r(m_db, m_faults, "holes",
                    {"hole_id", "project_id", "kind", "easting", "northing", "ground_level", "final_depth", "source_file",
                     "source_line", "written_position", "name"},
                    limits::kHoles);
        std::set<std::pair<std::string, std::string>> taken;
        std::set<std::string> names;
        m_nameless = !r.has(10); // before schema 7
        while (r.next()) {
            Hole h;
            h.id = r.text(0), h.project = r.text(1), h.type = r.text(2);
            if (h.id.empty()) {
                h.id = fmt::format("row {}", r.row());
                r.fault("the hole has no name; it is called " + h.id);
            }
            h.easting = r.number(3, limits::kCoordinate), h.northing = r.number(4, limits::kCoordinate);
            if (const auto level = r.number(5, limits::kLevel)) h.level = Level{*level};
            if (const auto depth = r.number(6, limits::kLevel)) h.finalDepth = Depth{*depth};
            h.file = r.text(7), h.line = int(std::clamp<std::int64_t>(r.integer(8).value_or(0), 0, INT_MAX));
            placeBy(r, h);
            if (!taken.insert({h.project, h.id}).second) {
                const auto was = h.id;
                for (int n = 2; !taken.insert({h.project, h.id}).second; ++n) h.id = fmt::format("{} ({})", was, n);
                m_faults.addForHole("holes", r.row(), h.id,
                                    fmt::format("there is a hole {} already; this one is called {}", was, h.id));
            }
            h.name = r.text(10);
            if (!h.name.empty() && !names.insert(h.name).second) {
                m_faults.addForHole("holes", r.row(), h.name, "another hole has this name; this one gets one of its own");
                h.name.clear();
            }
            m_index[r.row()] = m_holes.size();
            m_rows.push_back(r.row());
            m_holes.push_back(std::move(h));
        }
    }

    /// Where geometry and columns differ, the one that is not as it was written has been changed; if both, the geometry.
    void placeBy(RowReader& r, Hole& h) {
        const auto geometry = geometryOf(r);
        const auto columns = h.place();
        if (!geometry) {
            if (columns) m_faults.addForHole("holes", r.row(), h.id, "the hole has no point; its easting and northing are used");
            return;
        }
        constexpr double kSame = 1e-6; // metres
        if (columns && distance(*columns, *geometry) <= kSame) return;
        m_moved.push_back(m_holes.size());
        const bool columnsChanged = r.has(9) && positionWords(h.easting, h.northing) != r.text(9);
        const bool geometryChanged = !r.has(9) || positionWords(geometry->x, geometry->y) != r.text(9);
        if (columnsChanged && !geometryChanged) {
            m_faults.addForHole("holes", r.row(), h.id, "easting or northing was changed outside; the hole is there now");
            return;
        }
        m_faults.addForHole("holes", r.row(), h.id,
                            fmt::format("the hole's point was moved outside, to E {:.2f} N {:.2f}; the hole is there now",
                                        geometry->x, geometry->y));
        h.easting = geometry->x, h.northing = geometry->y;
    }

    std::optional<Point2> geometryOf(RowReader& r) {
        if (r.noShape()) return {};
        const auto s = r.shape();
        if (!s || s->lines.empty()) return {};
        return s->lines.front().front().plan();
    }

    void readLogs() {
        each("intervals", {"top", "base", "description", "codes", "source_line"}, [&](RowReader& r, Hole& h) {
            const auto top = depth(r, 1), base = depth(r, 2);
            if (!top || !base) return r.fault("the interval has no top or base; it is skipped");
            Interval i{*top, *base, r.text(3), {}, int(std::clamp<std::int64_t>(r.integer(5).value_or(0), 0, INT_MAX))};
            if (const auto codes = r.parsed(4))
                r.tryTo("the codes", [&] { i.codes = codes->get<std::map<std::string, std::string>>(); });
            h.intervals.push_back(std::move(i));
        });
        each("path_stations", {"depth", "inclination", "azimuth", "source_line"}, [&](RowReader& r, Hole& h) {
            const auto at = depth(r, 1);
            const auto inclination = r.number(2, 90), azimuth = r.number(3, 360);
            if (!at || !inclination || !azimuth) return r.fault("the station is not whole; it is skipped");
            h.stations.push_back(
                {*at, *inclination, *azimuth, int(std::clamp<std::int64_t>(r.integer(4).value_or(0), 0, INT_MAX))});
        });
        each("blow_counts", {"depth", "blows", "penetration_mm", "test"}, [&](RowReader& r, Hole& h) {
            const auto at = depth(r, 1);
            if (!at) return;
            BlowCount test{*at, r.number(2).value_or(0)};
            test.penetration = r.number(3, 1000);
            if (!r.text(4).empty())
                if (const auto said = r.parsed(4)) r.tryTo("the test", [&] { takeTest(*said, test); });
            h.blowCounts.push_back(std::move(test));
        });
    }

    void readTests() {
        each("details", {"top", "base", "words"}, [&](RowReader& r, Hole& h) {
            const auto top = depth(r, 1);
            if (top) h.details.push_back({*top, depth(r, 2).value_or(*top), r.text(3)});
        });
        each("samples", {"top", "base", "kind", "reference"}, [&](RowReader& r, Hole& h) {
            if (const auto top = depth(r, 1)) h.samples.push_back({*top, depth(r, 2), r.text(3), r.text(4)});
        });
        each("water_strikes", {"depth", "rose_to"}, [&](RowReader& r, Hole& h) {
            if (const auto at = depth(r, 1)) h.strikes.push_back({*at, depth(r, 2)});
        });
        if (m_db.tableExists("water_levels"))
            each("water_levels", {"measured", "depth", "pipe", "dry", "given"}, [&](RowReader& r, Hole& h) {
                if (const auto at = depth(r, 2))
                    h.waterLevels.push_back({r.text(1), *at, r.text(3), r.integer(4).value_or(0) != 0, r.text(5)});
            });
        each("installations", {"top", "base", "part", "name"}, [&](RowReader& r, Hole& h) {
            const auto top = depth(r, 1);
            const auto part = r.integer(3).value_or(0);
            if (part < 0 || part > int(Installation::Part::Tip)) return r.fault("the part is of no known kind; it is skipped");
            if (top) h.installations.push_back({Installation::Part(part), *top, depth(r, 2).value_or(*top), r.text(4)});
        });
        each("core_runs", {"top", "base", "recovery", "solid", "rqd"}, [&](RowReader& r, Hole& h) {
            const auto top = depth(r, 1);
            if (top) h.coreRuns.push_back({*top, depth(r, 2).value_or(*top), r.number(3), r.number(4), r.number(5)});
        });
        each("curves", {"name", "unit", "words", "single", "readings", "push", "written"}, [&](RowReader& r, Hole& h) {
            Curve curve{r.text(1), r.text(2), r.text(3), r.integer(4).value_or(0) != 0, readingsOf(r.bytes(5))};
            curve.push = r.text(6);
            if (!r.text(7).empty())
                if (const auto words = r.parsed(7)) r.tryTo("what was written", [&] { takeWritten(*words, curve); });
            h.curves.push_back(std::move(curve));
        });
        if (m_db.tableExists("soundings"))
            each("soundings", {"push", "cone", "area_ratio", "water_m", "stated_unit_weight", "stated_water_m"},
                 [&](RowReader& r, Hole& h) {
                     h.soundings.push_back({r.text(1), r.text(2), r.number(3, 10), depth(r, 4), r.number(5, 40), depth(r, 6)});
                 });
        each("holes_left_out", {}, [](RowReader&, Hole& h) { h.excluded = true; });
    }

    /// Columns are counted from 1: the hole comes before them.
    template <typename Use>
    void each(const char* table, std::vector<std::string> columns, Use&& use) {
        columns.insert(columns.begin(), "hole_fid");
        RowReader r(m_db, m_faults, table, std::move(columns), limits::kRows);
        std::size_t lost = 0;
        while (r.next()) {
            const auto hole = r.integer(0);
            const auto at = hole ? m_index.find(*hole) : m_index.end();
            if (at == m_index.end())
                ++lost;
            else
                use(r, m_holes[at->second]);
        }
        if (lost > 0)
            m_faults.add(table, 0,
                         counted(std::size_t(lost), "row belongs to a hole that is no longer there; it is dropped",
                                 "rows belong to holes that are no longer there; they are dropped"),
                         Severity::Note);
    }

    static std::optional<Depth> depth(RowReader& r, int column) {
        const auto v = r.number(column, limits::kLevel);
        return v ? std::optional(Depth{*v}) : std::nullopt;
    }

    Database& m_db;
    bool m_nameless = false; ///< the file is older than names
    RowFaults& m_faults;
    std::vector<Hole> m_holes;
    std::vector<std::int64_t> m_rows;
    std::vector<std::size_t> m_moved;
    std::unordered_map<std::int64_t, std::size_t> m_index; ///< by row
};

} // namespace

StoredHoles read(Database& db, RowFaults& faults) { return Reader(db, faults).read(); }

} // namespace fox::hole_tables
