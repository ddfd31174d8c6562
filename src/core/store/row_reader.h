#pragma once
// Rows of a project file, read as if a stranger had written them: any GIS may have.
#include "base/finding.h"
#include "base/point.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <nlohmann/json.hpp>
#include <set>

namespace fox {

class CoordinateChange;

/// What is wrong with a project file: a finding each, naming table and row; beyond a hundred of a table they are counted.
class RowFaults {
public:
    explicit RowFaults(std::string file) : m_file(std::move(file)) {}
    /// `row` is the row's number in the table; 0: the table as a whole.
    void add(const std::string& table, std::int64_t row, const std::string& what, Severity = Severity::Warning);
    void addForHole(const std::string& table, std::int64_t row, const std::string& hole, const std::string& what);
    Findings take();

private:
    std::string m_file;
    Findings m_findings;
    std::map<std::string, std::size_t> m_counts; ///< by table
};

/// The shapes of a geometry: a point is a line of one place, a multi-part geometry has several lines or areas. Levels are
/// kNoValue where the geometry has none. Curves are cut to lines.
struct Shape {
    struct Area {
        Polygon2 ring;
        std::vector<Polygon2> holes;
    };
    std::vector<Polyline3> lines;
    std::vector<Area> areas;
};
/// A GeoPackage geometry blob: any byte order, with or without envelope, Z and M; empty ones give an empty shape. Places that
/// are not finite, or farther out than limits::kCoordinate, make it unreadable.
/// @throws Error saying what is wrong with it
Shape shapeOf(std::string_view blob);

/// Goes through the rows of one table in the order of their numbers.
class RowReader {
public:
    /// Columns that the table has not give no values; a table that is not there, or is a view, gives no rows, and that is a
    /// fault unless it is `optional`. At most `most` rows are read.
    enum class Missing { Fault, Fine };
    RowReader(SQLite::Database&, RowFaults&, std::string table, std::vector<std::string> columns, std::size_t most,
              Missing missing = Missing::Fault);
    ~RowReader();
    bool next();
    std::int64_t row() const { return m_row; } ///< the row's number, its fid
    bool has(int column) const;                ///< the table has this column

    // Values of the row by column, counted from 0. A value that can't be is a fault, and none.
    std::string text(int column); ///< well-formed, of limited length; empty for none
    std::optional<double> number(int column);
    std::optional<double> number(int column, double most); ///< none if farther from 0
    std::optional<std::int64_t> integer(int column);
    std::string bytes(int column);
    std::optional<nlohmann::json> parsed(int column);
    bool noShape() const;         ///< the row has no geometry at all
    std::optional<Shape> shape(); ///< none, and a fault, if there is none or it can't be read

    void fault(const std::string& what) { m_faults.add(m_table, m_row, what); }
    /// Calls read; what it throws is a fault of this row.
    template <typename Read>
    bool tryTo(const char* what, Read&& read) {
        try {
            read();
            return true;
        } catch (const std::exception& e) {
            fault(std::string(what) + " can't be read: " + e.what());
            return false;
        }
    }

private:
    void takeSystem();
    void change(Shape&) const;

    SQLite::Database& m_db;
    RowFaults& m_faults;
    std::string m_table;
    std::vector<bool> m_has;
    bool m_hasShape = false;
    std::size_t m_most, m_read = 0;
    std::int64_t m_row = 0;
    std::unique_ptr<SQLite::Statement> m_statement;
    std::unique_ptr<CoordinateChange> m_change; ///< to the project's system, if the layer was put into another
};

/// Names of things that must differ: a second one of a name gets a number behind it, and an empty one a name of its own.
class UniqueNames {
public:
    std::string take(RowReader&, std::string name, const std::string& otherwise);

private:
    std::set<std::string> m_taken;
};

/// The column of a table that holds its geometry, as the file says; empty: none.
std::string geometryColumn(SQLite::Database&, const std::string& table);
/// The reference system that the file gives for a table of features; none if it is not one.
std::optional<int> systemOf(SQLite::Database&, const std::string& table);
/// A table, not a view or what else a name may stand for.
bool isTable(SQLite::Database&, const std::string& name);
/// A table, view or whatever else has the name.
bool isTaken(SQLite::Database&, const std::string& name);
std::vector<std::string> columnsOf(SQLite::Database&, const std::string& table);

} // namespace fox
