#pragma once
#include "holes/water_levels.h"
#include "sequence/contacts.h"
#include "surfaces/surface.h"

namespace fox {

/// A surface of levels of water as the user asks for it: a water table, or the head in an aquifer.
struct WaterSurface {
    std::string name;    ///< no two of a project have the same
    WaterChoice reading; ///< of each point
    /// Code of the unit whose water it is: points whose response zone lies in it are used. Empty: all points.
    std::string unit;
    /// Points, by pointName(), that are used, or not, whatever their response zone says.
    std::map<std::string, bool> points;
    /// None: of kriging, kriging with a linear drift and thin plate the one with the smallest leave-one-out error.
    std::optional<Method> method;
    std::optional<double> reach; ///< metres; no value farther than this from all points
    bool operator==(const WaterSurface&) const = default;
};

/// "BH01", "BH01 / P1"
std::string pointName(const std::string& hole, const std::string& pipe);

/// A point of measurement as a water surface has it.
struct WaterPoint {
    std::string name, hole;          ///< see pointName(); the hole's display name
    std::optional<std::size_t> unit; ///< at the middle of its response zone; none: that is not known
    std::optional<Point3> place;     ///< level of the water by the reading that was chosen; none: there is no such reading
    bool used = false;
};
/// All points with readings, in the holes' order.
std::vector<WaterPoint> waterPoints(const WaterSurface&, const Holes&, const InterpretedLogs&, const Sequence&);

struct FittedWaterSurface {
    std::vector<WaterPoint> points;
    FittedSurface fit;                             ///< of the points that are used and have a level
    std::vector<std::pair<Method, double>> errors; ///< root-mean-square leave-one-out error of each method that has one, metres
};
/// No value anywhere without a level. With one or two points, and wherever no method can be judged, the nearest point's level
/// or the line through both is all there is: it is made by the thin plate.
FittedWaterSurface fitWaterSurface(const WaterSurface&, const Holes&, const InterpretedLogs&, const Sequence&,
                                   const Progress& = {});

/// point,easting,northing,level,unit of the response zone,used
std::string waterPointsCsv(const FittedWaterSurface&, const Sequence&);

} // namespace fox
