#pragma once
#include "base/finding.h"
#include "base/point.h"
#include "base/units.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace fox {

/// A logged stretch of a hole, depths along it.
struct Interval {
    Depth top, base;
    std::string description;
    std::map<std::string, std::string> codes; ///< "GEOL_GEOL" -> "RG"; only filled ones
    int line = 0;                             ///< in the hole's file
    bool usable() const { return base > top; }
    bool operator==(const Interval&) const = default;
};

/// Direction of a hole from this depth on.
struct PathStation {
    Depth depth;
    double inclination = 90; ///< degrees below horizontal; 90 is straight down
    double azimuth = 0;      ///< degrees clockwise from north
    bool operator==(const PathStation&) const = default;
};

struct BlowCount {
    Depth depth;
    double blows = 0; ///< SPT N, blows for 300 mm
    bool operator==(const BlowCount&) const = default;
};

/// A remark on a part of the ground, finer than the intervals.
struct Detail {
    Depth top, base;
    std::string words;
    bool operator==(const Detail&) const = default;
};

struct Sample {
    Depth top;
    std::optional<Depth> base;
    std::string type, reference;
    bool operator==(const Sample&) const = default;
};

struct WaterStrike {
    Depth depth;
    std::optional<Depth> roseTo; ///< the highest that the water stood afterwards
    bool operator==(const WaterStrike&) const = default;
};

/// A pipe or a response zone of an installation.
struct Installation {
    enum class Part { PlainPipe, SlottedPipe, ResponseZone };
    Part part = Part::PlainPipe;
    Depth top, base;
    std::string name; ///< of the monitoring point
    bool operator==(const Installation&) const = default;
};

struct CoreRun {
    Depth top, base;
    std::optional<double> recovery, solid, rqd; ///< per cent
    bool operator==(const CoreRun&) const = default;
};

/// Readings down a hole: a geophysical log, or single values such as test results.
struct Curve {
    struct Reading {
        double depth = 0; ///< metres along the hole
        double value = 0; ///< kNoValue where there is none
    };
    std::string name, unit, words;
    bool single = false; ///< single values, not a line
    std::shared_ptr<const std::vector<Reading>> readings;
    bool operator==(const Curve&) const; ///< by values; kNoValue equals itself
};

struct Hole {
    std::string id;                          ///< as the file has it
    std::string project;                     ///< the file's project id; (project, id) is unique
    std::string type;                        ///< "RC", "CP", "TP": as the file has it
    std::optional<double> easting, northing; ///< metres
    std::optional<Level> level;              ///< ground level
    std::optional<Depth> finalDepth;
    std::vector<PathStation> stations; ///< none: taken as vertical
    std::vector<Interval> intervals;   ///< by depth
    std::vector<BlowCount> blowCounts; ///< by depth
    std::vector<Detail> details;
    std::vector<Sample> samples;
    std::vector<WaterStrike> strikes;
    std::vector<Installation> installations;
    std::vector<CoreRun> coreRuns;
    std::vector<Curve> curves;
    bool leftOut = false; ///< by the user: it stays visible, and speaks of no surface
    std::string file;
    int line = 0;
    bool operator==(const Hole&) const = default;

    /// A place that can be believed: both coordinates, and not 0, 0.
    std::optional<Point2> place() const;
    /// The deepest of the final depth and what is logged.
    Depth end() const;
    bool inclined() const;
};

enum class HoleKind { Drilled, Dug, Pushed, Other };
/// From the type's code, by the standard's abbreviations.
HoleKind kindOf(const Hole&);
const char* words(HoleKind); ///< "drilled"
/// "rotary cored", "trial pit": the type in words; the code itself if it is none of the usual.
std::string typeInWords(const std::string& type);

using Holes = std::vector<Hole>;

/// The id, with the project's if another hole has the same one: "QB114 (P2)".
std::string displayName(const Holes&, const Hole&);
const Hole* findHole(const Holes&, std::string_view displayName);
/// Of all holes at once, in their order: for lists.
std::vector<std::string> displayNames(const Holes&);

/// How full a column that may carry the unit is.
struct UnitHeading {
    std::string heading;
    double filled = 0; ///< share of the intervals, 0 to 1
    int codes = 0;     ///< different ones
};
/// The headings of the geology group that may carry the unit, the most sensible first: at least three
/// fifths filled, and then in the order geology code, second geology code, stratum, legend, others. A column of
/// free text (nearly every value another) is none.
std::vector<UnitHeading> unitHeadings(const Holes&);

} // namespace fox
