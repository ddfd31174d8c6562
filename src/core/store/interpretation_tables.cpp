#include "store/interpretation_tables.h"

#include "base/errors.h"
#include "project/json.h"
#include "store/geopackage.h"

#include <cstring>

namespace fox::interpretation_tables {

using namespace geopackage; // its statement helpers
using SQLite::Database;
using SQLite::Statement;

void create4(Database& db) {
    createAttributeTable(db, "contact_choices", "hole TEXT NOT NULL, unit TEXT NOT NULL, kind TEXT NOT NULL");
    createFeatureTable(db, "guides", "unit TEXT NOT NULL", Geometry::Line, true);
    createFeatureTable(db, "faults", "name TEXT NOT NULL, youngest TEXT", Geometry::Line, false);
    createAttributeTable(db, "fixed_bases", "unit TEXT NOT NULL, origin TEXT NOT NULL, source TEXT, frame TEXT, cells BLOB");
}

void create5(Database& db) {
    createAttributeTable(db, "interval_choices",
                         "hole TEXT NOT NULL, top_m DOUBLE NOT NULL, base_m DOUBLE NOT NULL, unit TEXT NOT NULL");
    createAttributeTable(db, "picks", "hole TEXT NOT NULL, unit TEXT NOT NULL, depth_m DOUBLE NOT NULL");
    createFeatureTable(db, "trial_columns", "name TEXT NOT NULL", Geometry::Point, false);
}

namespace {

void writeReadings(Database& db, const Interpretation& own) {
    Statement choice(db, "INSERT INTO interval_choices (hole, top_m, base_m, unit) VALUES (?,?,?,?)");
    for (const auto& c : own.intervals) {
        choice.bind(1, c.hole);
        choice.bind(2, c.top.metres);
        choice.bind(3, c.base.metres);
        choice.bind(4, c.unit);
        again(choice);
    }
    Statement pick(db, "INSERT INTO picks (hole, unit, depth_m) VALUES (?,?,?)");
    for (const auto& p : own.picks) {
        pick.bind(1, p.hole);
        pick.bind(2, p.unit);
        pick.bind(3, p.depth.metres);
        again(pick);
    }
}

void readReadings(Database& db, Interpretation& own) {
    if (!db.tableExists("interval_choices")) return; // schema 4
    Statement choice(db, "SELECT hole, top_m, base_m, unit FROM interval_choices ORDER BY fid");
    while (choice.executeStep())
        own.intervals.push_back({text(choice, 0), Depth{choice.getColumn(1)}, Depth{choice.getColumn(2)}, text(choice, 3)});
    Statement pick(db, "SELECT hole, unit, depth_m FROM picks ORDER BY fid");
    while (pick.executeStep()) own.picks.push_back({text(pick, 0), text(pick, 1), Depth{pick.getColumn(2)}});
}

} // namespace

void writeTrials(Database& db, const std::vector<TrialColumn>& columns, int system) {
    db.exec("DELETE FROM trial_columns;");
    Box2 extent;
    Statement s(db, "INSERT INTO trial_columns (geom, name) VALUES (?,?)");
    for (const auto& c : columns) {
        extent.include(c.place);
        bindBlob(s, 1, blob(raised(Polyline2{c.place}), Geometry::Point, false, system));
        s.bind(2, c.name);
        again(s);
    }
    describe(db, "trial_columns", system, extent);
}

std::vector<TrialColumn> readTrials(Database& db) {
    std::vector<TrialColumn> out;
    if (!db.tableExists("trial_columns")) return out;
    Statement s(db, "SELECT geom, name FROM trial_columns ORDER BY fid");
    while (s.executeStep())
        if (const auto points = pointsOf(text(s, 0)); !points.empty()) out.push_back({text(s, 1), points.front().plan()});
    return out;
}

void write(Database& db, const Interpretation& own, int system) {
    db.exec("DELETE FROM contact_choices; DELETE FROM interval_choices; DELETE FROM picks; DELETE FROM guides; "
            "DELETE FROM faults;");
    writeReadings(db, own);
    Statement choice(db, "INSERT INTO contact_choices (hole, unit, kind) VALUES (?,?,?)");
    for (const auto& c : own.contacts) {
        choice.bind(1, c.hole);
        choice.bind(2, c.unit);
        choice.bind(3, name(c.kind));
        again(choice);
    }
    Box2 extent;
    Statement guide(db, "INSERT INTO guides (geom, unit) VALUES (?,?)");
    for (const auto& g : own.guides) {
        auto line = g.line;
        if (line.size() == 1) line.push_back(line.front()); // a line has two places at least
        for (const auto& p : line) extent.include(p.plan());
        bindBlob(guide, 1, blob(line, Geometry::Line, true, system));
        guide.bind(2, g.unit);
        again(guide);
    }
    describe(db, "guides", system, extent);
    extent = {};
    Statement fault(db, "INSERT INTO faults (geom, name, youngest) VALUES (?,?,?)");
    for (const auto& f : own.faults) {
        for (const auto& p : f.fault.line) extent.include(p);
        bindBlob(fault, 1, blob(raised(f.fault.line), Geometry::Line, false, system));
        fault.bind(2, f.fault.name);
        fault.bind(3, f.youngest);
        again(fault);
    }
    describe(db, "faults", system, extent);
}

Interpretation read(Database& db) {
    Interpretation own;
    if (!db.tableExists("contact_choices")) return own;
    Statement choice(db, "SELECT hole, unit, kind FROM contact_choices ORDER BY fid");
    while (choice.executeStep())
        if (const auto kind = contactChoiceNamed(text(choice, 2)))
            own.contacts.push_back({text(choice, 0), text(choice, 1), *kind});
    readReadings(db, own);
    Statement guide(db, "SELECT geom, unit FROM guides ORDER BY fid");
    while (guide.executeStep()) {
        Guide g{text(guide, 1), pointsOf(text(guide, 0))};
        if (g.line.size() == 2 && g.line[0] == g.line[1]) g.line.pop_back();
        own.guides.push_back(std::move(g));
    }
    Statement fault(db, "SELECT geom, name, youngest FROM faults ORDER BY fid");
    while (fault.executeStep()) own.faults.push_back({{text(fault, 1), planOf(pointsOf(text(fault, 0)))}, text(fault, 2)});
    return own;
}

void writeFixed(Database& db, const std::map<std::string, FixedBase>& bases) {
    db.exec("DELETE FROM fixed_bases;");
    Statement s(db, "INSERT INTO fixed_bases (unit, origin, source, frame, cells) VALUES (?,?,?,?,?)");
    for (const auto& [unit, base] : bases) {
        const auto& values = base.levels->values;
        const auto bytes = packed({reinterpret_cast<const char*>(values.data()), values.size() * sizeof(double)});
        s.bind(1, unit);
        s.bind(2, base.origin == FixedBase::Origin::Frozen ? "frozen" : "imported");
        s.bind(3, base.from);
        s.bind(4, toJson(base.levels->frame).dump());
        bindBlob(s, 5, bytes);
        again(s);
    }
}

std::map<std::string, FixedBase> readFixed(Database& db) {
    std::map<std::string, FixedBase> out;
    if (!db.tableExists("fixed_bases")) return out;
    Statement s(db, "SELECT unit, origin, source, frame, cells FROM fixed_bases ORDER BY fid");
    while (s.executeStep()) {
        auto grid = std::make_shared<Grid>(frameOf(nlohmann::json::parse(text(s, 3))));
        const auto bytes = unpacked(text(s, 4), grid->values.size() * sizeof(double));
        std::memcpy(grid->values.data(), bytes.data(), bytes.size());
        out[text(s, 0)] = {text(s, 1) == "frozen" ? FixedBase::Origin::Frozen : FixedBase::Origin::Imported, text(s, 2), grid};
    }
    return out;
}

} // namespace fox::interpretation_tables
