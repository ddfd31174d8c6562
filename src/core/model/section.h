#pragma once
#include "ground/background_lines.h"
#include "holes/water_levels.h"
#include "model/model.h"

namespace fox {

/// A logged stretch as it is drawn on a section.
struct SectionStick {
    double topChainage, topLevel, baseChainage, baseLevel; ///< metres
    std::optional<std::size_t> unit;                       ///< none: the code is no unit's
};

struct SectionHole {
    std::string name;
    double chainage = 0; ///< metres from the line's start, of the point nearest to the hole
    double offset = 0;   ///< metres, positive to the right of the line
    std::vector<SectionStick> sticks;
    double endChainage = 0, endLevel = 0; ///< where the hole ends
    std::vector<double> water;            ///< levels of water: where it rose when struck, and by readings; metres
    bool reachesOldest = false;           ///< else it stops short of the oldest unit
    std::size_t index = 0;                ///< of the hole in the project's list
    /// A place of its path as it lies on the section.
    struct Knot {
        double depth = 0, chainage = 0, level = 0; ///< metres
    };
    std::vector<Knot> path = {}; ///< from the top down, straight between; two of a vertical hole
    /// Chainage and level of a depth; straight on beyond the ends.
    Point2 at(double depth) const;
};

/// A contact that is in no hole, as it is drawn on a section.
struct SectionContact {
    double chainage = 0, level = 0; ///< metres
    double offset = 0;              ///< metres, positive to the right of the line
    std::size_t unit = 0;           ///< on whose base it lies
    bool joined = false;            ///< by a line to the one before it
};

/// A line only to look at, or a piece of one, as it is drawn on a section: somebody's interpretation, a pipe.
struct SectionTrace {
    std::string layer, colour;
    double width = 1;           ///< pixels
    std::vector<Point2> points; ///< x: chainage, y: level, metres
};

/// A water surface along a section.
struct SectionWater {
    std::string name;
    std::vector<double> levels; ///< at the section's chainages; kNoValue where there is none
};

struct Section {
    Polyline2 line;
    std::vector<double> chainage, ground;
    std::vector<std::vector<double>> bases;      ///< a unit but the oldest; kNoValue where not known
    std::vector<std::vector<double>> deviations; ///< of each base, metres; kNoValue where the method has none
    std::vector<std::vector<double>> chances;    ///< that each of these units is there, 0 to 1; kNoValue where not known
    std::vector<SectionHole> holes;
    std::vector<SectionContact> contacts;
    std::vector<SectionTrace> traces;
    std::vector<SectionWater> waters;
    std::vector<SectionWater> surfaces; ///< named ones
    double floor = kNoValue;            ///< level down to which the oldest unit goes; kNoValue: it has no base
};

inline constexpr double kSectionHoles = 25; ///< metres from the line; holes farther off are not on a section

/// The model along a line, evaluated every `step` metres at most, at the line's corners, at every hole within `reach` of it,
/// and where units pinch out, to step / 32. A line of less than two different points gives an empty section.
Section makeSection(const Model&, const InterpretedLogs&, const Polyline2& line, double step, const Progress& = {},
                    double reach = kSectionHoles, const WaterChoice& water = {});

/// Of the contacts of each unit, the contact points within `reach` of the line.
std::vector<SectionContact> contactsAlong(const Polyline2& line, const std::vector<std::shared_ptr<const std::vector<Contact>>>&,
                                          double reach = kSectionHoles);

/// Of lines that are shown and have levels, the pieces within `reach` of the section, seen from its side.
std::vector<SectionTrace> tracesAlong(const Polyline2& line, const std::vector<BackgroundLines>&, double reach = kSectionHoles);

/// Where two lines cross: the chainages along each.
struct LineCrossing {
    double first = 0, second = 0; ///< metres
};
std::vector<LineCrossing> crossingsOf(const Polyline2&, const Polyline2&);

double lengthOf(const Polyline2&);
Point2 pointAlong(const Polyline2&, double chainage);
struct Projection {
    double chainage = 0, offset = 0;
    double distance = 0;
};
/// The nearest point of the line; offset positive to the right.
Projection project(const Polyline2&, Point2);

} // namespace fox
