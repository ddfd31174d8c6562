#include "store/interpretation_tables.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/text.h"
#include "project/json.h"
#include "store/geopackage.h"
#include "store/ground_tables.h"
#include "store/row_reader.h"

#include <cstring>

namespace fox::interpretation_tables {

using namespace geopackage; // its statement helpers
using SQLite::Database;
using SQLite::Statement;

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
    Statement split(db, "INSERT INTO interval_splits (hole, depth_m) VALUES (?,?)");
    for (const auto& s : own.splits) {
        split.bind(1, s.hole);
        split.bind(2, s.depth.metres);
        again(split);
    }
    Statement pick(db, "INSERT INTO picks (hole, unit, depth_m) VALUES (?,?,?)");
    for (const auto& p : own.picks) {
        pick.bind(1, p.hole);
        pick.bind(2, p.unit);
        pick.bind(3, p.depth.metres);
        again(pick);
    }
}

void readReadings(Database& db, RowFaults& faults, Interpretation& own) {
    RowReader choice(db, faults, "interval_choices", {"hole", "top_m", "base_m", "unit"}, limits::kRows,
                     RowReader::Missing::Fine);
    while (choice.next()) {
        const auto top = choice.number(1, limits::kLevel), base = choice.number(2, limits::kLevel);
        if (top && base) own.intervals.push_back({choice.text(0), Depth{*top}, Depth{*base}, choice.text(3)});
    }
    RowReader split(db, faults, "interval_splits", {"hole", "depth_m"}, limits::kRows, RowReader::Missing::Fine);
    while (split.next())
        if (const auto depth = split.number(1, limits::kLevel)) own.splits.push_back({split.text(0), Depth{*depth}});
    RowReader pick(db, faults, "picks", {"hole", "unit", "depth_m"}, limits::kRows, RowReader::Missing::Fine);
    while (pick.next())
        if (const auto depth = pick.number(2, limits::kLevel)) own.picks.push_back({pick.text(0), pick.text(1), Depth{*depth}});
}

/// As lines: a place twice, since a line has two places at least, or a closed ring.
void writeMarks(Database& db, const std::vector<PresenceMark>& marks, int system) {
    Box2 extent;
    Statement s(db, "INSERT INTO presence_marks (geom, unit, present) VALUES (?,?,?)");
    for (const auto& m : marks) {
        auto line = raised(m.area);
        line.push_back(line.front());
        for (const auto& p : m.area) extent.include(p);
        bindBlob(s, 1, blob(line, Geometry::Line, false, system));
        s.bind(2, m.unit);
        s.bind(3, m.present ? 1 : 0);
        again(s);
    }
    describe(db, "presence_marks", system, extent);
}

void readMarks(Database& db, RowFaults& faults, Interpretation& own) {
    RowReader mark(db, faults, "presence_marks", {"unit", "present"}, limits::kSources, RowReader::Missing::Fine);
    while (mark.next()) {
        const auto shape = mark.shape();
        if (!shape) continue;
        for (const auto& line : shape->lines) {
            auto area = planOf(line);
            if (area.size() > 1 && area.front() == area.back()) area.pop_back();
            if (area.empty() || area.size() == 2)
                mark.fault("a position of presence is one point, an area three or more; it is left out");
            else
                own.presence.push_back({mark.text(0), std::move(area), mark.number(1, 1).value_or(1) != 0});
        }
    }
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

std::vector<TrialColumn> readTrials(Database& db, RowFaults& faults) {
    std::vector<TrialColumn> out;
    UniqueNames names;
    RowReader r(db, faults, "trial_columns", {"name"}, limits::kSources, RowReader::Missing::Fine);
    while (r.next())
        if (const auto s = r.shape(); s && !s->lines.empty())
            out.push_back({names.take(r, r.text(0), "T"), s->lines[0][0].plan()});
    return out;
}

void write(Database& db, const Interpretation& own, int system) {
    db.exec("DELETE FROM contact_choices; DELETE FROM interval_choices; DELETE FROM interval_splits; DELETE FROM picks; "
            "DELETE FROM guides; DELETE FROM presence_marks; DELETE FROM faults;");
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
    writeMarks(db, own.presence, system);
    extent = {};
    Statement fault(db, "INSERT INTO faults (geom, name, youngest, units) VALUES (?,?,?,?)");
    for (const auto& f : own.faults) {
        for (const auto& p : f.fault.line) extent.include(p);
        bindBlob(fault, 1, blob(raised(f.fault.line), Geometry::Line, false, system));
        fault.bind(2, f.fault.name);
        fault.bind(3, f.youngest);
        fault.bind(4, nlohmann::json(f.units).dump());
        again(fault);
    }
    describe(db, "faults", system, extent);
}

Interpretation read(Database& db, RowFaults& faults) {
    Interpretation own;
    RowReader choice(db, faults, "contact_choices", {"hole", "unit", "kind"}, limits::kRows, RowReader::Missing::Fine);
    while (choice.next()) {
        if (const auto kind = contactChoiceNamed(choice.text(2)))
            own.contacts.push_back({choice.text(0), choice.text(1), *kind});
        else
            choice.fault("the choice is of no known kind; it is skipped");
    }
    readReadings(db, faults, own);
    RowReader guide(db, faults, "guides", {"unit"}, limits::kSources, RowReader::Missing::Fine);
    while (guide.next()) {
        const auto shape = guide.shape();
        if (!shape) continue;
        for (const auto& line : shape->lines) {
            if (std::ranges::any_of(line, [](const Point3& p) { return std::isnan(p.z); })) {
                guide.fault("the guide has lost its levels; it is left out");
                continue;
            }
            own.guides.push_back({guide.text(0), line});
            auto& kept = own.guides.back().line;
            if (kept.size() == 2 && kept[0] == kept[1]) kept.pop_back();
        }
    }
    readMarks(db, faults, own);
    UniqueNames names;
    RowReader fault(db, faults, "faults", {"name", "youngest", "units"}, limits::kSources, RowReader::Missing::Fine);
    while (fault.next()) {
        const auto shape = fault.shape();
        if (!shape) continue;
        for (const auto& line : shape->lines)
            if (line.size() > 1) {
                own.faults.push_back({{names.take(fault, fault.text(0), "F"), planOf(line)}, fault.text(1)});
                if (const auto units = fault.parsed(2))
                    fault.tryTo("the bases that it steps",
                                [&] { own.faults.back().units = units->get<std::vector<std::string>>(); });
            }
    }
    return own;
}

void writeContactPoints(Database& db, const std::vector<ContactSource>& sources, int system) {
    db.exec("DELETE FROM contact_points;");
    Statement s(db, "INSERT INTO contact_points (geom, source, source_file, surface, unit, hole, depth_m, source_line, trace, "
                    "excluded, used, accuracy_m) VALUES (?,?,?,?,?,?,?,?,?,?,?,?)");
    Box2 extent;
    for (std::size_t i = 0; i < sources.size(); ++i)
        for (const auto& p : sources[i].points) {
            if (p.hole.empty()) {
                extent.include(p.place.plan());
                bindBlob(s, 1, blob({p.place}, Geometry::Point, true, system));
            } else {
                s.bind(1); // where it is follows from the hole
            }
            s.bind(2, int(i));
            s.bind(3, sources[i].file);
            s.bind(4, words(sources[i].surface));
            s.bind(5, p.unit);
            s.bind(6, p.hole);
            s.bind(7, p.depth.metres);
            s.bind(8, p.line);
            s.bind(9, p.trace);
            s.bind(10, p.excluded ? 1 : 0);
            s.bind(11, sources[i].used ? 1 : 0);
            s.bind(12, sources[i].accuracy);
            again(s);
        }
    describe(db, "contact_points", system, extent);
}

namespace {

/// None, and a fault, if it says neither a position with a level nor a hole.
std::optional<ContactPoint> contactPointOf(RowReader& r) {
    ContactPoint point{r.text(3), {}, r.text(4)};
    point.depth = Depth{r.number(5, limits::kLevel).value_or(0)};
    const auto small = [&](int column, int otherwise) {
        const auto v = r.integer(column);
        return v && *v >= -1 && *v <= std::int64_t(limits::kRows) ? int(*v) : otherwise;
    };
    point.line = small(6, 0);
    point.trace = small(7, -1);
    point.excluded = r.integer(8).value_or(0) != 0;
    if (!point.hole.empty()) return point;
    const auto shape = r.shape();
    if (!shape) return {};
    if (shape->lines.empty() || shape->lines[0].empty() || std::isnan(shape->lines[0][0].z)) {
        r.fault("the contact has no level; it is left out");
        return {};
    }
    point.place = shape->lines[0][0];
    return point;
}

} // namespace

std::vector<ContactSource> readContactPoints(Database& db, RowFaults& faults) {
    std::vector<ContactSource> out;
    std::vector<std::vector<ContactPoint>> points;
    std::map<std::int64_t, std::size_t> places; // of the sources, by their number in the file
    RowReader r(
        db, faults, "contact_points",
        {"source", "source_file", "surface", "unit", "hole", "depth_m", "source_line", "trace", "excluded", "used", "accuracy_m"},
        limits::kRows, RowReader::Missing::Fine);
    while (r.next()) {
        auto point = contactPointOf(r);
        if (!point) continue;
        const auto [at, isNew] = places.try_emplace(r.integer(0).value_or(0), out.size());
        if (isNew && out.size() >= limits::kSources) {
            places.erase(at);
            r.fault("there are too many files of contacts; the row is skipped");
            continue;
        }
        if (isNew) {
            const auto file = r.text(1);
            out.push_back({file.empty() ? std::string() : safeFileName(file),
                           contactSurface(r.text(2)).value_or(ContactSurface::Base),
                           {},
                           r.integer(9).value_or(1) != 0,
                           std::max(0.0, r.number(10, limits::kLevel).value_or(0))});
            points.emplace_back();
        }
        points[at->second].push_back(std::move(*point));
    }
    for (std::size_t i = 0; i < out.size(); ++i) out[i].points = std::move(points[i]);
    return out;
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

std::map<std::string, FixedBase> readFixed(Database& db, RowFaults& faults) {
    std::map<std::string, FixedBase> out;
    RowReader r(db, faults, "fixed_bases", {"unit", "origin", "source", "frame", "cells"}, limits::kUnits,
                RowReader::Missing::Fine);
    while (r.next())
        if (const auto frame = r.parsed(3))
            r.tryTo("the grid", [&] {
                out[r.text(0)] = {r.text(1) == "frozen" ? FixedBase::Origin::Frozen : FixedBase::Origin::Imported, r.text(2),
                                  ground_tables::gridOf(*frame, r.bytes(4))};
            });
    return out;
}

} // namespace fox::interpretation_tables
