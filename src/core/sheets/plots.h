#pragma once
#include "holes/water_levels.h"
#include "paper/drawing.h"
#include "sequence/test_values.h"

namespace fox {

/// What a plot of values by depth shows.
struct ValuePlot {
    TestQuantity quantity;
    std::vector<TestValue> values;
    const Holes* holes = nullptr;
    const Sequence* sequence = nullptr;
    bool byDepth = false;              ///< against depth instead of level
    std::optional<std::size_t> chosen; ///< a hole whose values stand out
};
/// The plot that reports have: each value in the colour of its unit against its level (or depth), with a table of statistics by
/// unit beside it. Limits are hollow with an arrow's direction in their label; words are left out and counted. The name of
/// an item of layer "values" is its hole's. Layers "frame", "values", "table".
paper::Drawing drawValuePlot(const ValuePlot&, double width, double height);

/// What a plot of water against time shows.
struct WaterPlot {
    std::vector<WaterSeries> series;
    const Holes* holes = nullptr;
    std::optional<std::size_t> chosen; ///< a hole whose points stand out
    std::optional<double> at;          ///< a day that is marked
};
/// Levels of each point against time, joined; dry readings hollow with a line down. With the colours' meaning. The name of an
/// item of layer "levels" is its hole's. Layers "frame", "levels", "legend".
paper::Drawing drawWaterPlot(const WaterPlot&, double width, double height);

/// "2026-03-14"
std::string dayInWords(double time);

} // namespace fox
