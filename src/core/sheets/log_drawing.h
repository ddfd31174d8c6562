#pragma once
#include "holes/water_levels.h"
#include "model/model_along.h"
#include "paper/drawing.h"
#include "sequence/contacts.h"

namespace fox {

/// A boundary between two intervals, or the parts of one, that is being dragged: the base of this one.
struct MovedBoundary {
    std::size_t interval = 0; ///< of LogContent::logged()
    double depth = 0;         ///< metres, where it is now
};

/// A hole and what is known of it.
struct LogContent {
    const Hole* hole = nullptr;
    const InterpretedHole* reading = nullptr; ///< null if the hole has no geology
    const Sequence* sequence = nullptr;
    std::string name;                 ///< as it is shown
    std::vector<ModelInterval> model; ///< what the model has there, drawn beside the log; empty: none
    std::optional<MovedBoundary> moved = {};
    WaterChoice water = {}; ///< the level that is drawn of each monitoring point

    const std::vector<Interval>& logged() const { return reading ? reading->logged() : hole->intervals; }
    /// The unit that an interval is read as; null if none.
    const Unit* unitOf(const Interval&) const;
};

/// Where a log lies on its paper. Millimetres, but for depths in metres along the hole.
struct LogLayout {
    Box2 area;
    double deepest = 10; ///< metres, at the foot of the depth scale

    static constexpr double kTop = 10.6, kFoot = 5.8, kScale = 9.5, kColumn = 10.05;
    double yOf(double depth) const { return area.ymin + kTop + (area.height() - kTop - kFoot) * depth / deepest; }
    double depthAt(double y) const { return (y - area.ymin - kTop) / (area.height() - kTop - kFoot) * deepest; }
    double columnLeft() const { return area.xmin + kScale; }
    double columnRight() const { return columnLeft() + kColumn; }
};

/// The log of a hole: name and ground level over a scale of depths, the column of units, and beside it what there is room
/// for: the model, water and installation, samples, core runs, blow counts, descriptions, curves. Layers "name", "scale",
/// "column" (by unit code), "short", "model", "water", "samples", "cores", "tracks", "words".
paper::Drawing drawLog(const LogContent&, const LogLayout&);

/// The same on a page of A4 with the hole's header data and the scale of depths.
paper::Drawing logSheet(const LogContent&, const std::string& project);

} // namespace fox
