#pragma once
#include "base/finding.h"
#include "base/point.h"
#include "base/shared_list.h"
#include "formats/table.h"

namespace fox {

/// What stands beside a number where a result is not the number itself.
enum class ValueSign : char {
    None = 0,
    Below = '<', ///< below detection: less than the number
    Above = '>', ///< above what the method can tell
};

/// A value at a place in space that no hole of the project gives: from a probe, geophysics, somebody's model.
struct ValuePoint {
    Point3 place;
    double value = 0; ///< in the unit of its source
    ValueSign sign = ValueSign::None;
    int line = 0;          ///< of its file
    bool excluded = false; ///< from what is made of values
    bool operator==(const ValuePoint&) const = default;
};
/// "12.5", "<0.5"
std::string written(const ValuePoint&);

/// The values of one column of a file.
struct ValueSource {
    std::string file;
    std::string quantity; ///< what was measured, as the column's heading says: "chloride"
    std::string unit;     ///< "mg/l"; empty: none is given
    SharedList<ValuePoint> points;
    bool used = true;
    bool operator==(const ValueSource&) const = default;
};

/// Which columns of a table hold what: the position by the names of a survey; every other column of numbers that has a name,
/// but point numbers and codes, is one of values.
struct ValueColumns {
    std::optional<std::size_t> easting, northing, level;
    std::vector<std::size_t> values;
    bool complete() const { return easting && northing && level && !values.empty(); }
};
ValueColumns valueColumns(const Table&);
/// Whether such a column's heading says that it can't be of a survey: "value", "reading", "result", "concentration", or a unit
/// that is none of length ("chloride (mg/l)").
bool namesValues(const Table&);
/// Orders of columns that are usual for values, for tables of so many columns, by the names that valueColumns() knows.
std::vector<std::vector<std::string>> usualValueOrders(std::size_t columns);

struct ValueRows {
    std::vector<ValueSource> sources; ///< one a column of values, in the table's order; without a file's name
    Findings findings;                ///< cells that could not be read, with their lines
};
/// Rows without a number where one is needed are errors and left out; an empty value is no value, and no fault.
/// @throws FileError naming the columns that are not there
ValueRows valuePointsOf(const Table&);

} // namespace fox
