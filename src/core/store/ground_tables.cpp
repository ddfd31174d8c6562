#include "store/ground_tables.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/text.h"
#include "project/json.h"
#include "store/geopackage.h"
#include "store/row_reader.h"

#include <cstring>
#include <fmt/format.h>

namespace fox::ground_tables {

namespace {

using namespace geopackage; // its statement helpers
using nlohmann::json;
using SQLite::Database;
using SQLite::Statement;
using Outline = GroundSources::Outline;

constexpr const char* kUses[] = {"none", "limit", "island"};

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

bool levelsAreThere(const Polyline3& line) {
    return std::ranges::none_of(line, [](const Point3& p) { return std::isnan(p.z); });
}

void writeLines(Database& db, const GroundSources& ground, int system) {
    db.exec("DELETE FROM ground_lines;");
    Statement s(db, "INSERT INTO ground_lines (geom, source, source_file, has_levels, role) VALUES (?,?,?,?,?)");
    Box2 extent;
    for (std::size_t i = 0; i < ground.lines.size(); ++i)
        for (auto l : ground.lines[i].lines) {
            const bool levels = levelsAreThere(l);
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
    const auto place = [](const json& p) {
        const Point2 at{p.at(0), p.at(1)};
        if (!(std::abs(at.x) <= limits::kCoordinate) || !(std::abs(at.y) <= limits::kCoordinate))
            throw Error("a place is not on earth");
        return at;
    };
    for (const auto& j : list)
        if (const auto kind = tinEditKind(j.at("kind").get<std::string>()))
            out.push_back({*kind, place(j.at("a")), place(j.at("b")), j.at("level")});
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

/// `numbers` says which source number in the file is which one here; empty: they are counted from 0.
template <typename T>
void setUnused(std::vector<T>& sources, const json& list, const std::vector<std::int64_t>& numbers) {
    std::set<std::int64_t> out;
    for (const auto& i : list) out.insert(i.get<std::int64_t>());
    for (std::size_t k = 0; k < sources.size(); ++k)
        if (out.contains(numbers.empty() ? std::int64_t(k) : numbers[k])) sources[k].used = false;
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

/// Sources in the order in which their rows come, each under the number that the file gives it. A number of any size is a
/// source of its own.
class SourceNumbers {
public:
    /// The source's place; none, and a fault, beyond limits::kSources.
    std::optional<std::size_t> placeOf(RowReader& r, std::int64_t number) {
        const auto [at, isNew] = m_places.try_emplace(number, m_numbers.size());
        if (isNew && m_numbers.size() >= limits::kSources) {
            m_places.erase(at);
            r.fault(fmt::format("there are more than {} sources; the row is skipped", limits::kSources));
            return {};
        }
        if (isNew) m_numbers.push_back(number);
        return at->second;
    }
    const std::vector<std::int64_t>& numbers() const { return m_numbers; }

private:
    std::map<std::int64_t, std::size_t> m_places;
    std::vector<std::int64_t> m_numbers;
};

/// A distance that is neither negative nor beyond any site.
double metresOr(const json& j, const char* key, double otherwise) {
    const double v = j.value(key, otherwise);
    return v >= 0 && v <= limits::kLevel ? v : otherwise;
}

void readChoices(const json& j, GroundSources& g, const SourceNumbers& points, const SourceNumbers& lines) {
    g.holeLevels = j.value("hole_levels", g.holeLevels);
    g.mendFlats = j.value("mend_flats", g.mendFlats);
    g.cutAtOutlines = j.value("cut_at_outlines", g.cutAtOutlines);
    g.reach = metresOr(j, "reach", g.reach);
    g.longestEdge = metresOr(j, "longest_edge", g.longestEdge);
    g.blend = metresOr(j, "blend", g.blend);
    g.codesOut = j.value("codes_out", g.codesOut);
    g.codesJoined = j.value("codes_joined", g.codesJoined);
    g.edits = editsOf(j.value("edits", json::array()));
    const auto order = j.value("grids", std::vector<std::string>{});
    std::ranges::stable_sort(g.rasters, {}, [&](const auto& r) { return std::ranges::find(order, r.file) - order.begin(); });
    setUnused(g.points, j.value("unused_points", json::array()), points.numbers());
    setUnused(g.lines, j.value("unused_lines", json::array()), lines.numbers());
    setUnused(g.rasters, j.value("unused_grids", json::array()), {});
}

void readGrids(Database& db, RowFaults& faults, GroundSources& ground) {
    RowReader r(db, faults, "ground_grids", {"source_file", "frame", "cells"}, limits::kSources, RowReader::Missing::Fine);
    while (r.next())
        if (const auto frame = r.parsed(1))
            r.tryTo("the grid", [&] { ground.rasters.push_back({safeFileName(r.text(0)), gridOf(*frame, r.bytes(2))}); });
}

void readPoints(Database& db, RowFaults& faults, GroundSources& ground, SourceNumbers& numbers) {
    RowReader r(db, faults, "ground_points", {"source", "source_file", "name", "code"}, limits::kRows);
    std::vector<std::vector<SurveyPoint>> points; // by source
    while (r.next()) {
        const auto shape = r.shape();
        if (!shape) continue;
        if (shape->lines.empty() || std::isnan(shape->lines.front().front().z)) {
            r.fault("the point has no level; it is left out of the ground");
            continue;
        }
        const auto at = numbers.placeOf(r, r.integer(0).value_or(0));
        if (!at) continue;
        if (*at >= points.size()) {
            points.emplace_back();
            ground.points.push_back({safeFileName(r.text(1)), {}});
        }
        points[*at].push_back({r.text(2), shape->lines.front().front(), r.text(3)});
    }
    for (std::size_t i = 0; i < points.size(); ++i) ground.points[i].points = std::move(points[i]);
}

void readLines(Database& db, RowFaults& faults, GroundSources& ground, SourceNumbers& numbers) {
    RowReader r(db, faults, "ground_lines", {"source", "source_file", "has_levels", "role"}, limits::kRows);
    std::vector<std::vector<Polyline3>> lines; // by source
    while (r.next()) {
        auto shape = r.shape();
        if (!shape) continue;
        const auto at = numbers.placeOf(r, r.integer(0).value_or(0));
        if (!at) continue;
        if (*at >= lines.size()) {
            lines.emplace_back();
            ground.lines.push_back({safeFileName(r.text(1)), lineRole(r.text(3)).value_or(LineRole::Breaklines), {}});
        }
        for (const auto& area : shape->areas) { // somebody closed it
            shape->lines.emplace_back();
            for (const auto& p : area.ring) shape->lines.back().push_back({p.x, p.y, kNoValue});
        }
        // written without levels, and none were put in since: they are 0 in the geometry
        const bool none = r.integer(2) == 0 && std::ranges::all_of(shape->lines, [](const Polyline3& l) {
                              return std::ranges::all_of(l, [](const Point3& p) { return std::isnan(p.z) || p.z == 0; });
                          });
        for (auto& line : shape->lines) {
            const bool all = std::ranges::none_of(line, [](const Point3& p) { return std::isnan(p.z); });
            if (!none && !all) r.fault("the line has lost its levels; it takes those of the ground");
            if (none || !all)
                for (auto& p : line) p.z = kNoValue;
            lines[*at].push_back(std::move(line));
        }
    }
    for (std::size_t i = 0; i < lines.size(); ++i) ground.lines[i].lines = std::move(lines[i]);
}

/// Rings inside the site limit, which is one ring here, are islands.
void addIslands(RowReader& r, const std::vector<Polygon2>& holes, std::vector<Outline>& out) {
    int n = 0;
    for (const auto& hole : holes) out.push_back({fmt::format("site limit, hole {}", ++n), "", hole, Outline::Use::Island});
    if (n > 0) r.fault(fmt::format("the site limit has {} inside, where there is no ground", counted(std::size_t(n), "ring")));
}

void readOutline(RowReader& r, GroundSources& ground, Polygon2& siteLimit) {
    auto shape = r.shape();
    if (!shape) return;
    std::erase_if(shape->areas, [](const Shape::Area& a) { return a.ring.size() < 3; });
    if (shape->areas.empty()) return r.fault("it is not an area; the row is skipped");
    const auto role = r.text(0);
    const auto name = r.text(1).empty() ? fmt::format("outline {}", r.row()) : r.text(1);
    auto use = Outline::Use::None;
    for (int u = 0; u < 3; ++u)
        if (role == kUses[u]) use = Outline::Use(u);
    int n = 0;
    for (auto& area : shape->areas) {
        ++n;
        std::erase_if(area.holes, [](const Polygon2& hole) { return hole.size() < 3; });
        if (role == "site limit" && siteLimit.empty()) {
            siteLimit = std::move(area.ring);
            addIslands(r, area.holes, ground.outlines);
            continue;
        }
        if (role == "site limit") r.fault("there is a site limit already; this area is kept as an outline");
        const auto file = r.text(2).empty() ? std::string() : safeFileName(r.text(2));
        ground.outlines.push_back(
            {n > 1 ? fmt::format("{} ({})", name, n) : name, file, std::move(area.ring), use, std::move(area.holes)});
    }
}

} // namespace

std::shared_ptr<const Grid> gridOf(const json& frame, const std::string& packedCells) {
    auto grid = std::make_shared<Grid>(frameOf(frame)); // which says if there are too many cells
    const auto bytes = unpacked(packedCells, grid->values.size() * sizeof(double));
    std::memcpy(grid->values.data(), bytes.data(), bytes.size());
    for (auto& v : grid->values)
        if (!(std::abs(v) <= limits::kLevel)) v = kNoValue;
    return grid;
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
    const auto add = [&](const RingWithHoles& shape, const char* role, const std::string& label, const std::string& file) {
        for (const auto& p : shape.ring) extent.include(p);
        bindBlob(s, 1, areaBlob(shape.ring, shape.holes, system));
        s.bind(2, role);
        s.bind(3, label);
        s.bind(4, file);
        again(s);
    };
    if (!siteLimit.empty()) add({siteLimit}, "site limit", "site limit", "");
    for (const auto& o : outlines) add({o.ring, o.holes}, kUses[int(o.use)], o.name, o.file);
    describe(db, "outlines", system, extent);
}

void writeBackground(Database& db, const std::vector<BackgroundLines>& background, int system) {
    db.exec("DELETE FROM background_lines;");
    Statement s(db, "INSERT INTO background_lines (geom, source_file, layer, has_levels, colour, width, shown, draped) "
                    "VALUES (?,?,?,?,?,?,?,?)");
    Box2 extent;
    for (const auto& b : background)
        for (auto line : b.lines) {
            const bool levels = levelsAreThere(line);
            for (auto& p : line) {
                extent.include(p.plan());
                if (!levels) p.z = 0;
            }
            bindBlob(s, 1, blob(line, Geometry::Line, true, system));
            s.bind(2, b.file);
            s.bind(3, b.layer);
            s.bind(4, levels ? 1 : 0);
            s.bind(5, b.colour);
            s.bind(6, b.width);
            s.bind(7, b.shown ? 1 : 0);
            s.bind(8, b.draped ? 1 : 0);
            again(s);
        }
    describe(db, "background_lines", system, extent);
}

std::vector<BackgroundLines> readBackground(Database& db, RowFaults& faults) {
    std::vector<BackgroundLines> out;
    std::vector<std::vector<Polyline3>> lines; // of each
    std::map<std::pair<std::string, std::string>, std::size_t> places;
    RowReader r(db, faults, "background_lines", {"source_file", "layer", "has_levels", "colour", "width", "shown", "draped"},
                limits::kRows, RowReader::Missing::Fine);
    while (r.next()) {
        auto shape = r.shape();
        if (!shape) continue;
        const auto file = r.text(0).empty() ? std::string() : safeFileName(r.text(0));
        const auto [at, isNew] = places.try_emplace({file, r.text(1)}, out.size());
        if (isNew) {
            BackgroundLines b{file, r.text(1), {}};
            if (isColour(r.text(3))) b.colour = r.text(3);
            b.width = std::clamp(r.number(4).value_or(b.width), 0.2, 20.0);
            b.shown = r.integer(5).value_or(1) != 0, b.draped = r.integer(6).value_or(1) != 0;
            out.push_back(std::move(b));
            lines.emplace_back();
        }
        for (auto& line : shape->lines) {
            if (r.integer(2).value_or(1) == 0)
                for (auto& p : line) p.z = kNoValue;
            if (line.size() > 1) lines[at->second].push_back(std::move(line));
        }
    }
    for (std::size_t i = 0; i < out.size(); ++i) out[i].lines = std::move(lines[i]);
    return out;
}

GroundSources read(Database& db, RowFaults& faults, Polygon2& siteLimit) {
    GroundSources ground;
    SourceNumbers points, lines;
    readPoints(db, faults, ground, points);
    readLines(db, faults, ground, lines);
    readGrids(db, faults, ground);
    RowReader outlines(db, faults, "outlines", {"role", "name", "source_file"}, limits::kSources);
    while (outlines.next()) readOutline(outlines, ground, siteLimit);
    try {
        ground.holeLevels = setting(db, "hole_levels", "yes") == "yes"; // of schema 2 and before
        readChoices(json::parse(setting(db, "ground", "{}")), ground, points, lines);
    } catch (const std::exception& e) {
        faults.add("settings", 0, fmt::format("the choices of the ground can't be read: {}", e.what()));
    }
    return ground;
}

std::string text(const ContourChoices& c) {
    return json{{"interval", c.interval}, {"major_every", c.majorEvery}, {"smooth", c.smooth}}.dump();
}

ContourChoices contoursOf(const std::string& written) {
    const auto j = json::parse(written);
    ContourChoices c;
    const double interval = j.value("interval", c.interval);
    return {interval >= 0 && interval <= limits::kLevel ? interval : 0, std::clamp(j.value("major_every", c.majorEvery), 1, 1000),
            j.value("smooth", c.smooth)};
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
                       {"placed", p.placed},
                       {"draped", p.draped}});
    }
    return out.dump();
}

std::vector<PlacedPicture> picturesOf(const std::string& written) {
    std::vector<PlacedPicture> out;
    const auto list = json::parse(written);
    for (const auto& j : list) {
        PlacedPicture p;
        p.file = safeFileName(j.at("file").get<std::string>());
        for (const auto& m : j.at("marks")) p.marks.push_back({{m.at(0), m.at(1)}, {m.at(2), m.at(3)}});
        const auto& t = j.at("placing");
        p.placing = {t.at(0), t.at(1), t.at(2), t.at(3), t.at(4), t.at(5)};
        p.opacity = std::clamp(j.at("opacity").get<double>(), 0.0, 1.0), p.shown = j.at("shown"), p.draped = j.at("draped");
        p.placed = j.value("placed", true); // older files do not say it: theirs were drawn wherever they lay
        out.push_back(std::move(p));
    }
    return out;
}

} // namespace fox::ground_tables
