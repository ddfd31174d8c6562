#pragma once
#include "base/frame.h"
#include "base/point.h"

#include <filesystem>
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

namespace fox::run {

/// JSON on standard output, or the same facts as an aligned table.
void print(const nlohmann::json&, bool asJson);

/// The day in this place: "2026-11-30".
std::string today();

/// "a,b,c" as numbers, just `count` of them, or at least so many. @throws UsageError naming the option
enum class Count { Exact, Least };
std::vector<double> numbers(const std::string& list, const std::string& option, std::size_t count, Count = Count::Exact);
/// "xmin,ymin,xmax,ymax" and a cell. @throws UsageError, or Error for too many cells
Frame frame(const std::string& extent, double cell);

/// Points of a CSV by column names; empty names are guessed. Every row must be whole numbers and decimals.
/// @throws FileError naming file and line
struct CsvColumns {
    std::string x, y, z;
};
std::vector<Point3> readPoints(const std::filesystem::path&, const CsvColumns&);

/// A CSV of places; values are put beside its columns.
class PlacesFile {
public:
    /// Columns of easting and northing by name; without such names the first two, if that is allowed.
    enum class Unnamed { Refused, FirstTwo };
    PlacesFile(const std::filesystem::path&, Unnamed); ///< @throws FileError
    const std::vector<Point2>& places() const { return m_places; }
    /// One more column each; kNoValue is an empty field.
    std::string with(const std::vector<std::pair<std::string, std::vector<double>>>& columns) const;

private:
    std::vector<std::string> m_header;
    std::vector<std::vector<std::string>> m_rows;
    std::vector<Point2> m_places;
};

} // namespace fox::run
