#pragma once
#include "base/point.h"

#include <filesystem>
#include <map>
#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fox {

/// What a sheet is of.
enum class SheetKind { Log, Section, Plan, Map, Contours, Correlation, Summary, Key, Title, List };
const char* name(SheetKind); ///< for files: "log"
std::optional<SheetKind> sheetKindNamed(std::string_view);
/// What an item of such a sheet is: "hole", "section", "unit"; empty: it takes none.
const char* itemOf(SheetKind);

/// A piece of a text: words as they are, or a value that is put in.
struct TextRun {
    std::string words;
    std::string value;     ///< the key of a sheet value; empty: `words` stand
    std::string none = {}; ///< printed where the value is blank
    bool operator==(const TextRun&) const = default;
};
using TextRuns = std::vector<TextRun>;

/// Something that stands in a place of the page, in millimetres from its top left corner.
struct SheetElement {
    enum class Kind {
        Text,
        Line, ///< from corner to corner of the box
        Box,
        Body,       ///< the log, section, plan, map, correlation or table itself
        Legend,     ///< units of the project
        ScaleBar,   ///< of a plan or map
        NorthArrow, ///< likewise
        IndexPlan,  ///< all holes, the item's set off
        Table,      ///< of the project: `what`
        Chart,      ///< values by unit, water against time, a variogram: `what`
        Picture,    ///< a logo, a photograph, the block as it was seen
        Frame,      ///< a plan, map, section, correlation or log, as it is on a sheet of its own: `what`
    };
    Kind kind = Kind::Text;
    double x = 0, y = 0, width = 50, height = 6;
    enum class Pages { All, First, Further } pages = Pages::All;
    // of a text
    TextRuns text = {};
    double size = 3; ///< of letters, millimetres
    bool strong = false;
    enum class Align { Left, Centre, Right } align = Align::Left;
    double pen = 0.25; ///< of a line or box, millimetres
    /// Of a table: "units", "holes", "sources". Of a chart: "values:SPT N", "water", "variogram:RG". Of a picture: "block" if it
    /// is of the block view and is taken again before it goes out, else empty. Of a frame: the kind of sheet, and of what it is
    /// if that is not what the page is of: "plan", "section:A", "log:QB102".
    std::string what = {};
    std::string picture = {}; ///< a file's bytes, PNG or JPEG, in base64
    bool operator==(const SheetElement&) const = default;
};

const char* words(SheetElement::Kind); ///< "scale bar"
/// Tables that a sheet can have, by their key, with words: "units", "Units with volumes".
const std::vector<std::pair<std::string, std::string>>& sheetTables();

/// A column of a log.
struct LogColumn {
    enum class Kind {
        Depth,        ///< scale
        Level,        ///< scale
        Units,        ///< colour and pattern of the unit
        Codes,        ///< of a column of the geology: `heading`
        Description,  ///< with leaders where strata are thin, carried on over the page
        Samples,      ///< type, reference and a bar over its range
        Tests,        ///< SPT with N and refusals
        Bars,         ///< the same as bars
        Curve,        ///< curves or soundings: `heading`, names with commas between
        Values,       ///< single values of tests: `heading`, names with commas between, each with a sign of its own
        Core,         ///< TCR, SCR and RQD, per cent
        Water,        ///< strikes and readings
        Installation, ///< pipe, response zone, backfill
        Model,        ///< what the model has there
        Field,        ///< a heading of any AGS group with depths: "WETH.WETH_GRAD" in `heading`
        Diameter,     ///< of the hole and its casing, drawn, with millimetres
        Progress,     ///< by day: date, and depths of hole, casing and water
        Remarks,      ///< of the hole, and those at depths
    };
    Kind kind = Kind::Depth;
    double width = 12;
    std::string title;        ///< over the column
    std::string heading = {}; ///< see Kind
    double low = 0, high = 0; ///< of a curve; equal: of its values
    bool logarithmic = false;
    enum class Filled { None, Left, Right } filled = Filled::None; ///< a curve, to a side of its column
    bool feet = false;                                             ///< of a scale; else metres
    double step = 0; ///< between the ticks of a scale, in its unit of measure; 0: as there is room for
    /// Of units, and of what the model has there: with their colours, with their patterns.
    bool colours = true, patterns = true;
    bool asColour = false; ///< codes stand as colours, not as text
    bool operator==(const LogColumn&) const = default;
};
const char* name(LogColumn::Kind);  ///< for files
const char* words(LogColumn::Kind); ///< "core recovery"
std::optional<LogColumn::Kind> logColumnNamed(std::string_view);

/// A layout that is filled with an item. An open JSON file of ours; see docs/formats.md.
struct SheetTemplate {
    std::string name;
    SheetKind kind = SheetKind::Log;
    double width = 210, height = 297; ///< of a page, millimetres
    std::vector<SheetElement> elements;
    std::vector<LogColumn> columns;
    /// 1:n, of depths, distances or the map; 0: to fit.
    double scale = 0;
    double verticalScale = 0; ///< of a section's levels; 0: to fit
    // what a plan has
    bool holes = true, holeNames = true, contours = true, lines = true, grid = true;
    bool uncertainty = false; ///< of a section
    std::string beside = {};  ///< a test, curve or sounding that stands as a graph beside a section's holes: "SPT N"
    bool background = true;   ///< lines of other files, of a plan
    bool points = false;      ///< survey points of the ground, of a plan
    bool gridLines = false;   ///< whole lines, not crosses
    bool blackAndWhite = false;
    double contourPen = 0.15;              ///< millimetres; every main one twice as wide
    std::string contourColour = {};        ///< "#9A8458"; empty: the usual
    double labelSize = 2.2;                ///< of names on a plan, millimetres
    std::vector<std::string> without = {}; ///< codes of units that a map leaves out, so that what lies under them is seen
    /// What is in the middle of a plan's frame: easting and northing; none: the middle of what there is.
    std::optional<Point2> centre = {};
    std::string area = {}; ///< the name that centre and scale have, to be used again; empty: none
    bool operator==(const SheetTemplate&) const = default;
};

nlohmann::json toJson(const SheetTemplate&);
/// @throws Error saying what of it can't be read: an unknown kind, a size that can't be
SheetTemplate templateOf(const nlohmann::json&);

/// One entry of the report: a layout and what fills it. Its name is its title in the list, in bookmarks and on a list of sheets.
struct ReportEntry {
    std::string name; ///< no two of a report have the same
    SheetTemplate layout;
    bool isOut = true;                   ///< goes out with the report
    bool all = true;                     ///< filled with every item that there is: all holes, all sections
    std::vector<std::string> items = {}; ///< else with these
    /// Other layouts of logs: by kind of hole ("pushed"), and by the name of a hole, which goes before its kind.
    std::map<std::string, SheetTemplate> others = {};
    bool operator==(const ReportEntry&) const = default;
};
/// Of a template, all items, by its name with a capital.
ReportEntry reportEntry(const SheetTemplate&);
std::string toJson(const ReportEntry&);
/// The folder is not used: a sheet names no file. @throws Error saying what of it can't be read
ReportEntry reportEntryOf(std::string_view json, const std::filesystem::path& = {});

/// Lines and texts of a title block along the foot of a page of this size, as shipped templates have it. `what` stands before the
/// name of the item: "Section ".
std::vector<SheetElement> titleBlock(SheetKind, double width, double height, const std::string& what);

/// The templates that come with the program, useful as they are.
const std::vector<SheetTemplate>& shippedTemplates();

} // namespace fox
