#include "store/value_tables.h"

#include "base/limits.h"
#include "base/text.h"
#include "store/geopackage.h"
#include "store/row_reader.h"

#include <map>

namespace fox::value_tables {

using namespace geopackage;
using SQLite::Database;
using SQLite::Statement;

void write(Database& db, const std::vector<ValueSource>& sources, int system) {
    db.exec("DELETE FROM value_points;");
    Statement s(db,
                "INSERT INTO value_points (geom, source, source_file, quantity, unit, value, sign, source_line, excluded, used) "
                "VALUES (?,?,?,?,?,?,?,?,?,?)");
    Box2 extent;
    for (std::size_t i = 0; i < sources.size(); ++i)
        for (const auto& p : sources[i].points) {
            extent.include(p.place.plan());
            bindBlob(s, 1, blob({p.place}, Geometry::Point, true, system));
            s.bind(2, int(i));
            s.bind(3, sources[i].file);
            s.bind(4, sources[i].quantity);
            s.bind(5, sources[i].unit);
            s.bind(6, p.value);
            s.bind(7, p.sign == ValueSign::None ? std::string() : std::string(1, char(p.sign)));
            s.bind(8, p.line);
            s.bind(9, p.excluded ? 1 : 0);
            s.bind(10, sources[i].used ? 1 : 0);
            again(s);
        }
    describe(db, "value_points", system, extent);
}

namespace {

/// None, and a fault, if it has no position with a level, or no value.
std::optional<ValuePoint> pointOf(RowReader& r) {
    const auto shape = r.shape();
    if (!shape) return {};
    const auto value = r.number(4);
    if (shape->lines.empty() || shape->lines[0].empty() || std::isnan(shape->lines[0][0].z) || !value) {
        r.fault("the point has no level or no value; it is left out");
        return {};
    }
    ValuePoint point{shape->lines[0][0], *value};
    const auto sign = r.text(5);
    if (sign == "<" || sign == ">") point.sign = ValueSign(sign[0]);
    const auto line = r.integer(6).value_or(0);
    point.line = line > 0 && line <= std::int64_t(limits::kRows) ? int(line) : 0;
    point.excluded = r.integer(7).value_or(0) != 0;
    return point;
}

} // namespace

std::vector<ValueSource> read(Database& db, RowFaults& faults) {
    std::vector<ValueSource> out;
    std::vector<std::vector<ValuePoint>> points;
    std::map<std::int64_t, std::size_t> places; // of the sources, by their number in the file
    RowReader r(db, faults, "value_points",
                {"source", "source_file", "quantity", "unit", "value", "sign", "source_line", "excluded", "used"}, limits::kRows,
                RowReader::Missing::Fine);
    while (r.next()) {
        auto point = pointOf(r);
        if (!point) continue;
        const auto [at, isNew] = places.try_emplace(r.integer(0).value_or(0), out.size());
        if (isNew && out.size() >= limits::kSources) {
            places.erase(at);
            r.fault("there are too many columns of values; the row is skipped");
            continue;
        }
        if (isNew) {
            const auto file = r.text(1);
            out.push_back(
                {file.empty() ? std::string() : safeFileName(file), r.text(2), r.text(3), {}, r.integer(8).value_or(1) != 0});
            points.emplace_back();
        }
        points[at->second].push_back(*point);
    }
    for (std::size_t i = 0; i < out.size(); ++i) out[i].points = std::move(points[i]);
    return out;
}

} // namespace fox::value_tables
