#include "store/ground_tables.h"

#include "project/json.h"
#include "store/geopackage.h"

#include <fmt/format.h>

namespace fox::ground_tables {

namespace {

using namespace geopackage; // its statement helpers
using nlohmann::json;
using SQLite::Database;
using SQLite::Statement;
using Outline = GroundSources::Outline;

constexpr const char* kUses[] = {"none", "limit", "island"};

bool hasColumn(Database& db, const std::string& table, const std::string& column) {
    Statement s(db, fmt::format("SELECT COUNT(*) FROM pragma_table_info('{}') WHERE name = '{}'", table, column));
    return s.executeStep() && s.getColumn(0).getInt() > 0;
}

void writePoints(Database& db, const GroundSources& ground, int system) {
    db.exec("DELETE FROM ground_points;");
    Statement s(db, "INSERT INTO ground_points (geom, source, source_file, name, code) VALUES (?,?,?,?,?)");
    Box2 extent;
    for (std::size_t i = 0; i < ground.points.size(); ++i)
        for (const auto& p : ground.points[i].points) {
            extent.include(p.place.plan());
            bindBlob(s, 1, blob({p.place}, Geometry::Point, true, system));
            s.bind(2, int(i));
            s.bind(3, ground.points[i].file);
            s.bind(4, p.name);
            s.bind(5, p.code);
            again(s);
        }
    describe(db, "ground_points", system, extent);
}

void writeLines(Database& db, const GroundSources& ground, int system) {
    db.exec("DELETE FROM ground_lines;");
    Statement s(db, "INSERT INTO ground_lines (geom, source, source_file, has_levels, role) VALUES (?,?,?,?,?)");
    Box2 extent;
    for (std::size_t i = 0; i < ground.lines.size(); ++i)
        for (auto l : ground.lines[i].lines) {
            const bool levels = std::ranges::none_of(l, [](const Point3& p) { return std::isnan(p.z); });
            for (auto& p : l) {
                extent.include(p.plan());
                if (!levels) p.z = 0;
            }
            bindBlob(s, 1, blob(l, Geometry::Line, true, system));
            s.bind(2, int(i));
            s.bind(3, ground.lines[i].file);
            s.bind(4, levels ? 1 : 0);
            s.bind(5, words(ground.lines[i].role));
            again(s);
        }
    describe(db, "ground_lines", system, extent);
}

void writeGrids(Database& db, const GroundSources& ground, const GroundSources* before) {
    // millions of cells: what was written before stays
    const auto known = [&](const GroundSources::Raster& r) {
        return before
               && std::ranges::any_of(before->rasters, [&](const auto& b) { return b.file == r.file && b.grid == r.grid; });
    };
    Statement remove(db, "DELETE FROM ground_grids WHERE source_file = ?");
    if (!before) db.exec("DELETE FROM ground_grids;");
    if (before)
        for (const auto& b : before->rasters)
            if (std::ranges::none_of(ground.rasters, [&](const auto& r) { return r.file == b.file && r.grid == b.grid; })) {
                remove.bind(1, b.file);
                again(remove);
            }
    Statement s(db, "INSERT INTO ground_grids (source_file, frame, cells) VALUES (?,?,?)");
    for (const auto& r : ground.rasters) {
        if (known(r)) continue;
        const auto bytes = packed({reinterpret_cast<const char*>(r.grid->values.data()), r.grid->values.size() * sizeof(double)});
        s.bind(1, r.file);
        s.bind(2, toJson(r.grid->frame).dump());
        bindBlob(s, 3, bytes);
        again(s);
    }
}

json editsJson(const std::vector<TinEdit>& edits) {
    json out = json::array();
    for (const auto& e : edits)
        out.push_back({{"kind", name(e.kind)}, {"a", {e.a.x, e.a.y}}, {"b", {e.b.x, e.b.y}}, {"level", e.level}});
    return out;
}

std::vector<TinEdit> editsOf(const json& list) {
    std::vector<TinEdit> out;
    for (const auto& j : list)
        if (const auto kind = tinEditKind(j.at("kind").get<std::string>()))
            out.push_back({*kind, {j.at("a").at(0), j.at("a").at(1)}, {j.at("b").at(0), j.at("b").at(1)}, j.at("level")});
    return out;
}

/// Files that are not used, of each kind.
template <typename T>
json unused(const std::vector<T>& sources) {
    json out = json::array();
    for (std::size_t i = 0; i < sources.size(); ++i)
        if (!sources[i].used) out.push_back(i);
    return out;
}

template <typename T>
void setUnused(std::vector<T>& sources, const json& list) {
    for (const auto& i : list)
        if (i.get<std::size_t>() < sources.size()) sources[i.get<std::size_t>()].used = false;
}

json choicesJson(const GroundSources& g) {
    json rasters = json::array(); // their order, which the table does not keep
    for (const auto& r : g.rasters) rasters.push_back(r.file);
    return {{"hole_levels", g.holeLevels},
            {"mend_flats", g.mendFlats},
            {"cut_at_outlines", g.cutAtOutlines},
            {"reach", g.reach},
            {"longest_edge", g.longestEdge},
            {"blend", g.blend},
            {"codes_out", g.codesOut},
            {"codes_joined", g.codesJoined},
            {"edits", editsJson(g.edits)},
            {"unused_points", unused(g.points)},
            {"unused_lines", unused(g.lines)},
            {"unused_grids", unused(g.rasters)},
            {"grids", rasters}};
}

void readChoices(const json& j, GroundSources& g) {
    g.holeLevels = j.value("hole_levels", g.holeLevels);
    g.mendFlats = j.value("mend_flats", g.mendFlats);
    g.cutAtOutlines = j.value("cut_at_outlines", g.cutAtOutlines);
    g.reach = j.value("reach", g.reach);
    g.longestEdge = j.value("longest_edge", g.longestEdge);
    g.blend = j.value("blend", g.blend);
    g.codesOut = j.value("codes_out", g.codesOut);
    g.codesJoined = j.value("codes_joined", g.codesJoined);
    g.edits = editsOf(j.value("edits", json::array()));
    const auto order = j.value("grids", std::vector<std::string>{});
    std::ranges::stable_sort(g.rasters, {}, [&](const auto& r) { return std::ranges::find(order, r.file) - order.begin(); });
    setUnused(g.points, j.value("unused_points", json::array()));
    setUnused(g.lines, j.value("unused_lines", json::array()));
    setUnused(g.rasters, j.value("unused_grids", json::array()));
}

void readGrids(Database& db, GroundSources& ground) {
    if (!db.tableExists("ground_grids")) return; // schema 1 or 2
    Statement s(db, "SELECT source_file, frame, cells FROM ground_grids ORDER BY fid");
    while (s.executeStep()) {
        Grid grid(frameOf(json::parse(geopackage::text(s, 1))));
        const auto bytes = unpacked(geopackage::text(s, 2), grid.values.size() * sizeof(double));
        std::copy_n(bytes.data(), bytes.size(), reinterpret_cast<char*>(grid.values.data()));
        ground.rasters.push_back({geopackage::text(s, 0), std::make_shared<const Grid>(std::move(grid))});
    }
}

} // namespace

void create(Database& db) {
    createFeatureTable(db, "ground_points", "source INTEGER NOT NULL, source_file TEXT", Geometry::Point, true);
    createFeatureTable(db, "ground_lines", "source INTEGER NOT NULL, source_file TEXT, has_levels INTEGER NOT NULL",
                       Geometry::Line, true);
    createFeatureTable(db, "outlines", "role TEXT NOT NULL", Geometry::Polygon, false);
}

void create3(Database& db) {
    db.exec("ALTER TABLE ground_points ADD COLUMN name TEXT; ALTER TABLE ground_points ADD COLUMN code TEXT;"
            "ALTER TABLE ground_lines ADD COLUMN role TEXT;"
            "ALTER TABLE outlines ADD COLUMN name TEXT; ALTER TABLE outlines ADD COLUMN source_file TEXT;");
    createAttributeTable(db, "ground_grids", "source_file TEXT NOT NULL, frame TEXT NOT NULL, cells BLOB NOT NULL");
}

void write(Database& db, const GroundSources& ground, const GroundSources* before, int system) {
    // that a source is used or not is a choice: its rows are not written anew for it
    const auto same = [](const auto& a, const auto& b) {
        auto with = a;
        with.used = b.used;
        return with == b;
    };
    if (!before || !std::ranges::equal(before->points, ground.points, same)) writePoints(db, ground, system);
    if (!before || !std::ranges::equal(before->lines, ground.lines, same)) writeLines(db, ground, system);
    writeGrids(db, ground, before);
    setSetting(db, "ground", choicesJson(ground).dump());
}

void writeOutlines(Database& db, const Polygon2& siteLimit, const std::vector<Outline>& outlines, int system) {
    db.exec("DELETE FROM outlines;");
    Box2 extent;
    Statement s(db, "INSERT INTO outlines (geom, role, name, source_file) VALUES (?,?,?,?)");
    const auto add = [&](const Polygon2& ring, const char* role, const std::string& label, const std::string& file) {
        for (const auto& p : ring) extent.include(p);
        bindBlob(s, 1, blob(raised(ring), Geometry::Polygon, false, system));
        s.bind(2, role);
        s.bind(3, label);
        s.bind(4, file);
        again(s);
    };
    if (!siteLimit.empty()) add(siteLimit, "site limit", "site limit", "");
    for (const auto& o : outlines) add(o.ring, kUses[int(o.use)], o.name, o.file);
    describe(db, "outlines", system, extent);
}

GroundSources read(Database& db) {
    GroundSources ground;
    std::vector<std::vector<SurveyPoint>> points; // by source
    std::vector<std::vector<Polyline3>> lines;
    const bool coded = hasColumn(db, "ground_points", "code");
    Statement p(db,
                fmt::format("SELECT geom, source, source_file{} FROM ground_points ORDER BY fid", coded ? ", name, code" : ""));
    while (p.executeStep()) {
        const auto source = std::size_t(p.getColumn(1).getInt());
        if (source >= ground.points.size()) ground.points.resize(source + 1), points.resize(source + 1);
        ground.points[source].file = geopackage::text(p, 2);
        points[source].push_back(
            {coded ? geopackage::text(p, 3) : "", pointsOf(geopackage::text(p, 0)).at(0), coded ? geopackage::text(p, 4) : ""});
    }
    const bool roles = hasColumn(db, "ground_lines", "role");
    Statement l(
        db, fmt::format("SELECT geom, source, source_file, has_levels{} FROM ground_lines ORDER BY fid", roles ? ", role" : ""));
    while (l.executeStep()) {
        const auto source = std::size_t(l.getColumn(1).getInt());
        if (source >= ground.lines.size()) ground.lines.resize(source + 1), lines.resize(source + 1);
        auto& to = ground.lines[source];
        to.file = geopackage::text(l, 2);
        if (roles) to.role = lineRole(geopackage::text(l, 4)).value_or(LineRole::Breaklines);
        auto line = pointsOf(geopackage::text(l, 0));
        if (l.getColumn(3).getInt() == 0)
            for (auto& q : line) q.z = kNoValue;
        lines[source].push_back(std::move(line));
    }
    for (std::size_t i = 0; i < points.size(); ++i) ground.points[i].points = std::move(points[i]);
    for (std::size_t i = 0; i < lines.size(); ++i) ground.lines[i].lines = std::move(lines[i]);
    readGrids(db, ground);
    if (hasColumn(db, "outlines", "name")) {
        Statement o(db, "SELECT geom, role, name, source_file FROM outlines WHERE role <> 'site limit' ORDER BY fid");
        while (o.executeStep()) {
            Outline outline{geopackage::text(o, 2), geopackage::text(o, 3), planOf(pointsOf(geopackage::text(o, 0))), {}};
            for (int use = 0; use < 3; ++use)
                if (geopackage::text(o, 1) == kUses[use]) outline.use = Outline::Use(use);
            ground.outlines.push_back(std::move(outline));
        }
    }
    ground.holeLevels = setting(db, "hole_levels", "yes") == "yes"; // of schema 2 and before
    readChoices(json::parse(setting(db, "ground", "{}")), ground);
    return ground;
}

Polygon2 readLimit(Database& db) {
    Statement s(db, "SELECT geom FROM outlines WHERE role = 'site limit'");
    return s.executeStep() ? planOf(pointsOf(geopackage::text(s, 0))) : Polygon2();
}

std::string text(const ContourChoices& c) {
    return json{{"interval", c.interval}, {"major_every", c.majorEvery}, {"smooth", c.smooth}}.dump();
}

ContourChoices contoursOf(const std::string& written) {
    const auto j = json::parse(written);
    ContourChoices c;
    return {j.value("interval", c.interval), j.value("major_every", c.majorEvery), j.value("smooth", c.smooth)};
}

std::string text(const std::vector<PlacedPicture>& pictures) {
    json out = json::array();
    for (const auto& p : pictures) {
        json marks = json::array();
        for (const auto& m : p.marks) marks.push_back({m.pixel.x, m.pixel.y, m.place.x, m.place.y});
        out.push_back({{"file", p.file},
                       {"marks", marks},
                       {"placing", {p.placing.x0, p.placing.xx, p.placing.xy, p.placing.y0, p.placing.yx, p.placing.yy}},
                       {"opacity", p.opacity},
                       {"shown", p.shown},
                       {"draped", p.draped}});
    }
    return out.dump();
}

std::vector<PlacedPicture> picturesOf(const std::string& written) {
    std::vector<PlacedPicture> out;
    const auto list = json::parse(written);
    for (const auto& j : list) {
        PlacedPicture p;
        p.file = j.at("file");
        for (const auto& m : j.at("marks")) p.marks.push_back({{m.at(0), m.at(1)}, {m.at(2), m.at(3)}});
        const auto& t = j.at("placing");
        p.placing = {t.at(0), t.at(1), t.at(2), t.at(3), t.at(4), t.at(5)};
        p.opacity = j.at("opacity"), p.shown = j.at("shown"), p.draped = j.at("draped");
        out.push_back(std::move(p));
    }
    return out;
}

} // namespace fox::ground_tables
