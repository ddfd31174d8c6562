#pragma once
#include "formats/table.h"
#include "holes/hole.h"

namespace fox {

/// What a column of a table means for holes.
enum class ColumnRole {
    Ignored,
    HoleId,
    Project,
    Easting,
    Northing,
    GroundLevel,
    FinalDepth,
    Kind,
    Top,         ///< depth to the top of an interval, or of a unit
    Base,        ///< depth to its base
    Code,        ///< the unit's code
    Description, ///< words
    UnitTop,     ///< depth to the top of the unit that the column is named after
    Depth,       ///< of a value
    Value,       ///< a value at a depth, named after the column
    Inclination, ///< below horizontal, at Top
    Azimuth,
    SampleType, ///< of a sample at Depth, or from Top to Base
    SampleReference,
    StrikeDepth, ///< where water was struck
    RoseTo,      ///< depth to which it rose
    PipeTop,     ///< of a pipe or response zone
    PipeBase,
    PipeKind,   ///< "plain", "slotted", "response zone"
    WaterLevel, ///< depth to the water on the day of MeasuredAt: a dip
    MeasuredAt, ///< date, with or without the time
    Latitude,   ///< degrees, as parseDegrees reads them
    Longitude,
};
inline constexpr int kColumnRoles = int(ColumnRole::Longitude) + 1;
const char* words(ColumnRole); ///< "ground level"
/// Whether its values are lengths: they have a unit.
bool isLength(ColumnRole);

/// How a table is to be read.
struct TableMapping {
    std::vector<std::string> columns; ///< their names, to know the same kind of table again
    std::vector<ColumnRole> roles;    ///< one a column
    std::vector<std::string> units;   ///< keys of lengthUnits(), one a column; empty or fewer: metres
    bool operator==(const TableMapping&) const = default;
    bool has(ColumnRole) const;
};

/// The roles that the columns' names and cells suggest. Names of the trade in any case, with or without units
/// ("Depth to top (m)"). Columns of numbers that no name explains are tops of units if there are two or more and depths
/// rise from one to the next; a column of dates and a single one of numbers beside a hole are water levels.
/// Units where headings name them ("Depth (ft)").
TableMapping guessMapping(const Table&);
/// "places", "intervals", "tops of units", "values", put together; "" if the table says nothing of holes.
std::string whatItHolds(const TableMapping&);

/// Whether a column's name speaks of holes ("Hole", "BH", "Well", "LOCA_ID"): a table of places, not a survey.
bool namesHoles(const Table&);

/// Holes as a table tells them: one row a hole, an interval, a unit's top or a value, or all at once. What a row
/// does not say is left open, so that several tables of the same holes can be joined. Tops without bases end where
/// the next begins; columns of levels or depths whose headings name degrees are not used, with an error; the last at the final
/// depth, or, where that is not given, 0.1 m below its top with a note.
struct TableHoles {
    Holes holes;
    std::vector<std::optional<Point2>> degrees; ///< of each hole: longitude and latitude, if the row has them
    Findings findings;                          ///< rows that can't be read, with their lines
};
TableHoles holesOf(const Table&, const TableMapping&, const std::string& project);

} // namespace fox
