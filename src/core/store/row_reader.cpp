#include "store/row_reader.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/text.h"
#include "formats/crs.h"
#include "formats/gdal_session.h"
#include "store/geopackage.h"

#include <cstring>
#include <fmt/format.h>

namespace fox {

void RowFaults::add(const std::string& table, std::int64_t row, const std::string& what, Severity severity) {
    if (++m_counts[table] > limits::kFindingsOfAKind) return;
    const auto where = row > 0 ? fmt::format("Table {}, row {}", table, row) : fmt::format("Table {}", table);
    m_findings.push_back({severity, "FC-PROJECT-FILE", m_file, 0, table, "", "", fmt::format("{}: {}", where, what)});
}

void RowFaults::addForHole(const std::string& table, std::int64_t row, const std::string& hole, const std::string& what) {
    const auto before = m_findings.size();
    add(table, row, what);
    if (m_findings.size() > before) m_findings.back().hole = hole;
}

Findings RowFaults::take() {
    for (const auto& [table, n] : m_counts)
        if (n > limits::kFindingsOfAKind)
            m_findings.push_back({Severity::Warning, "FC-PROJECT-FILE", m_file, 0, table, "", "",
                                  fmt::format("Table {}: {} more faults like these.", table, n - limits::kFindingsOfAKind)});
    m_counts.clear();
    return std::exchange(m_findings, {});
}

// --- geometry

namespace {

/// Where the well-known binary begins: after the header and its envelope (OGC 12-128r18, 2.1.3).
std::size_t bodyOf(std::string_view blob, bool& empty) {
    constexpr std::size_t kHeader = 8;
    if (blob.size() < kHeader || blob[0] != 'G' || blob[1] != 'P') throw Error("it is not a GeoPackage geometry");
    const auto flags = static_cast<unsigned char>(blob[3]);
    constexpr std::size_t kEnvelopes[] = {0, 32, 48, 48, 64};
    const auto envelope = (flags >> 1) & 7;
    if (envelope > 4) throw Error("its envelope is of no known kind");
    empty = (flags >> 4) & 1;
    const auto body = kHeader + kEnvelopes[envelope];
    if (blob.size() <= body) throw Error("it is cut short");
    return body;
}

class ShapeMaker {
public:
    Shape of(const OGRGeometry& g) {
        add(g);
        return std::move(m_out);
    }

private:
    void add(const OGRGeometry& g) {
        switch (wkbFlatten(g.getGeometryType())) {
        case wkbPoint: {
            const auto& p = *g.toPoint();
            if (!p.IsEmpty()) m_out.lines.push_back({checked(p.getX(), p.getY(), p.Is3D() ? p.getZ() : kNoValue)});
            break;
        }
        case wkbLineString: {
            auto line = pointsOf(*g.toLineString());
            if (!line.empty()) m_out.lines.push_back(std::move(line));
            break;
        }
        case wkbPolygon: addArea(*g.toPolygon()); break;
        case wkbMultiPoint:
        case wkbMultiLineString:
        case wkbMultiPolygon:
        case wkbGeometryCollection:
            for (const auto* part : *g.toGeometryCollection()) add(*part);
            break;
        default: throw Error(fmt::format("it is a {}, neither point, line nor area", g.getGeometryName()));
        }
    }

    void addArea(const OGRPolygon& polygon) {
        const auto* outer = polygon.getExteriorRing();
        if (!outer || outer->IsEmpty()) return;
        Shape::Area area{ringOf(*outer), {}};
        for (int i = 0; i < polygon.getNumInteriorRings(); ++i) area.holes.push_back(ringOf(*polygon.getInteriorRing(i)));
        m_out.areas.push_back(std::move(area));
    }

    Point3 checked(double x, double y, double z) {
        if (++m_places > limits::kVertices) throw Error("it has too many places");
        if (!(std::abs(x) <= limits::kCoordinate) || !(std::abs(y) <= limits::kCoordinate))
            throw Error("it has a place that is not on earth");
        return {x, y, std::abs(z) <= limits::kLevel ? z : kNoValue};
    }

    Polyline3 pointsOf(const OGRSimpleCurve& curve) {
        Polyline3 out;
        const bool levels = curve.Is3D();
        for (int i = 0; i < curve.getNumPoints(); ++i)
            out.push_back(checked(curve.getX(i), curve.getY(i), levels ? curve.getZ(i) : kNoValue));
        return out;
    }

    Polygon2 ringOf(const OGRLinearRing& ring) {
        Polygon2 out;
        for (const auto& p : pointsOf(ring)) out.push_back(p.plan());
        if (out.size() > 1 && out.front() == out.back()) out.pop_back();
        return out;
    }

    Shape m_out;
    std::size_t m_places = 0;
};

} // namespace

Shape shapeOf(std::string_view blob) {
    const GdalSession session;
    bool empty = false;
    const auto body = bodyOf(blob, empty);
    if (empty) return {};
    OGRGeometry* made = nullptr;
    OGRGeometryFactory::createFromWkb(blob.data() + body, nullptr, &made, blob.size() - body, wkbVariantIso);
    std::unique_ptr<OGRGeometry> shape(made);
    if (!shape) throw Error("it is not well-known binary");
    if (shape->hasCurveGeometry()) shape.reset(shape->getLinearGeometry());
    if (!shape) throw Error("its curves can't be followed");
    return ShapeMaker().of(*shape);
}

// --- tables

bool isTable(SQLite::Database& db, const std::string& name) {
    SQLite::Statement s(db, "SELECT sql FROM sqlite_master WHERE name = ? AND type = 'table'");
    s.bind(1, name);
    // a virtual table runs what somebody else wrote
    return s.executeStep() && !upper(s.getColumn(0).getString()).starts_with("CREATE VIRTUAL");
}

bool isTaken(SQLite::Database& db, const std::string& name) {
    SQLite::Statement s(db, "SELECT 1 FROM sqlite_master WHERE name = ? AND type IN ('table', 'view')");
    s.bind(1, name);
    return s.executeStep();
}

std::vector<std::string> columnsOf(SQLite::Database& db, const std::string& table) {
    std::vector<std::string> out;
    SQLite::Statement s(db, "SELECT name FROM pragma_table_info(?)");
    s.bind(1, table);
    while (s.executeStep()) out.push_back(s.getColumn(0).getString());
    return out;
}

namespace {

std::string keyOf(SQLite::Database& db, const std::string& table) {
    SQLite::Statement s(db, "SELECT name FROM pragma_table_info(?) WHERE pk = 1 AND upper(type) = 'INTEGER'");
    s.bind(1, table);
    return s.executeStep() ? s.getColumn(0).getString() : "rowid";
}

} // namespace

std::string geometryColumn(SQLite::Database& db, const std::string& table) {
    const auto columns = columnsOf(db, table);
    if (isTable(db, "gpkg_geometry_columns")) {
        SQLite::Statement s(db, "SELECT column_name FROM gpkg_geometry_columns WHERE table_name = ?");
        s.bind(1, table);
        if (s.executeStep())
            if (auto name = s.getColumn(0).getString(); std::ranges::count(columns, name)) return name;
    }
    return std::ranges::count(columns, "geom") ? "geom" : "";
}

std::optional<int> systemOf(SQLite::Database& db, const std::string& table) {
    if (!isTable(db, "gpkg_geometry_columns")) return {};
    SQLite::Statement s(db, "SELECT srs_id FROM gpkg_geometry_columns WHERE table_name = ?");
    s.bind(1, table);
    return s.executeStep() ? std::optional(s.getColumn(0).getInt()) : std::nullopt;
}

RowReader::RowReader(SQLite::Database& db, RowFaults& faults, std::string table, std::vector<std::string> columns,
                     std::size_t most, Missing missing)
    : m_db(db), m_faults(faults), m_table(std::move(table)), m_most(most) {
    m_has.resize(columns.size(), false);
    if (!isTable(db, m_table)) {
        if (missing == Missing::Fault || isTaken(db, m_table))
            m_faults.add(m_table, 0, isTaken(db, m_table) ? "it is not a table of its own; it is not read" : "it is missing");
        return;
    }
    const auto there = columnsOf(db, m_table);
    const auto key = keyOf(db, m_table);
    const auto geometry = geometryColumn(db, m_table);
    m_hasShape = !geometry.empty();
    if (m_hasShape) takeSystem();
    auto sql = "SELECT " + geopackage::quotedName(key) + ", " + (m_hasShape ? geopackage::quotedName(geometry) : "NULL");
    for (std::size_t i = 0; i < columns.size(); ++i) {
        m_has[i] = std::ranges::count(there, columns[i]) > 0;
        sql += ", " + (m_has[i] ? geopackage::quotedName(columns[i]) : "NULL");
    }
    try {
        m_statement = std::make_unique<SQLite::Statement>(db, sql + " FROM " + geopackage::quotedName(m_table) + " ORDER BY 1");
    } catch (const SQLite::Exception& e) {
        m_faults.add(m_table, 0, fmt::format("it can't be read: {}", e.what()));
    }
}

RowReader::~RowReader() = default;

void RowReader::takeSystem() {
    const auto system = systemOf(m_db, m_table).value_or(-1);
    const auto crs = isTable(m_db, "settings") ? geopackage::setting(m_db, "crs", "") : "";
    const auto own = fmt::format("EPSG:{}", system);
    if (system <= 0 || crs.empty() || own == crs) return;
    try {
        m_change = std::make_unique<CoordinateChange>(own, crs);
        m_faults.add(m_table, 0, fmt::format("its coordinates are in {}; they are brought to {}", own, crs), Severity::Note);
    } catch (const Error&) {
        m_faults.add(m_table, 0, fmt::format("its coordinates are in {}, which is not known; they are read as {}", own, crs));
    }
}

bool RowReader::next() {
    if (!m_statement) return false;
    try {
        if (!m_statement->executeStep()) return false;
    } catch (const SQLite::Exception& e) {
        m_faults.add(m_table, m_row, fmt::format("what follows it can't be read: {}", e.what()));
        return false;
    }
    if (++m_read > m_most) {
        m_faults.add(m_table, 0, fmt::format("it has more than {} rows; the others are not read", m_most));
        return false;
    }
    m_row = m_statement->getColumn(0).getInt64();
    return true;
}

bool RowReader::has(int column) const { return m_has[std::size_t(column)]; }

std::string RowReader::bytes(int column) { return m_statement->getColumn(column + 2).getString(); }

std::string RowReader::text(int column) {
    auto value = bytes(column);
    if (value.size() > limits::kTextLength) {
        fault(fmt::format("a text of {} bytes is cut to {}", value.size(), limits::kTextLength));
        value.resize(limits::kTextLength);
    }
    if (value.find('\0') != value.npos) std::erase(value, '\0');
    if (isUtf8(value)) return value;
    fault("a text is not UTF-8; what can't be read in it is replaced");
    return toUtf8(value);
}

std::optional<double> RowReader::number(int column) {
    const auto c = m_statement->getColumn(column + 2);
    if (c.isNull()) return {};
    if (c.isInteger() || c.isFloat()) {
        if (const double v = c.getDouble(); std::isfinite(v)) return v;
    } else if (const auto v = parseNumber(c.getString())) {
        return v;
    }
    fault("a value is not a number");
    return {};
}

std::optional<double> RowReader::number(int column, double most) {
    const auto v = number(column);
    if (!v || std::abs(*v) <= most) return v;
    fault(fmt::format("the value {:g} can't be; it is taken as missing", *v));
    return {};
}

std::optional<std::int64_t> RowReader::integer(int column) {
    const auto c = m_statement->getColumn(column + 2);
    if (c.isNull()) return {};
    if (c.isInteger()) return c.getInt64();
    const auto v = number(column);
    if (v && *v == std::floor(*v) && std::abs(*v) < 9e15) return std::int64_t(*v);
    if (v) fault("a value is not a whole number");
    return {};
}

std::optional<nlohmann::json> RowReader::parsed(int column) {
    auto written = text(column);
    if (written.empty()) return {};
    auto j = nlohmann::json::parse(written, nullptr, false);
    if (!j.is_discarded()) return j;
    fault("a setting is not valid JSON; it is left out");
    return {};
}

bool RowReader::noShape() const { return !m_hasShape || m_statement->getColumn(1).isNull(); }

std::optional<Shape> RowReader::shape() {
    if (!m_hasShape) {
        fault("the table has no geometry; the row is skipped");
        return {};
    }
    const auto blob = m_statement->getColumn(1).getString();
    try {
        if (blob.empty()) throw Error("it is missing");
        auto s = shapeOf(blob);
        if (s.lines.empty() && s.areas.empty()) throw Error("it is empty");
        if (m_change) change(s);
        return s;
    } catch (const std::exception& e) {
        fault(fmt::format("the geometry can't be used, {}; the row is skipped", e.what()));
        return {};
    }
}

void RowReader::change(Shape& s) const {
    const auto change = [&](auto& p) {
        const auto there = m_change->forward({p.x, p.y});
        if (!there) throw Error("it lies where the project's coordinate system does not reach");
        p.x = there->x, p.y = there->y;
    };
    for (auto& line : s.lines) std::ranges::for_each(line, change);
    for (auto& area : s.areas) {
        std::ranges::for_each(area.ring, change);
        for (auto& hole : area.holes) std::ranges::for_each(hole, change);
    }
}

std::string UniqueNames::take(RowReader& r, std::string name, const std::string& otherwise) {
    if (name.empty()) name = fmt::format("{}{}", otherwise, r.row());
    if (m_taken.insert(name).second) return name;
    for (int n = 2;; ++n)
        if (auto other = fmt::format("{} ({})", name, n); m_taken.insert(other).second) {
            r.fault(fmt::format("there is a {} already; this one is called {}", name, other));
            return other;
        }
}

} // namespace fox
