#pragma once
#include "holes/hole.h"

namespace fox {

/// When a reading was made, in seconds since the beginning of 1970 by the file's clock; none if what stands there is no date.
/// Dates as yyyy-mm-dd or dd/mm/yyyy, with or without a time behind a T or a blank.
std::optional<double> timeOf(std::string_view measured);

/// The readings of one point: a pipe of a hole, by time.
struct WaterSeries {
    std::size_t hole = 0; ///< in the list of holes
    std::string pipe;     ///< empty: the hole itself
    struct Reading {
        double time = 0;  ///< see timeOf()
        double level = 0; ///< metres; of a dry one, the level down to which it was dry
        const WaterLevel* of = nullptr;
    };
    std::vector<Reading> readings; ///< with a date, in holes that have a level
};
/// Points with readings, in the holes' order. The holes must outlive it.
std::vector<WaterSeries> waterSeries(const Holes&);

/// The latest reading of each point of a hole that is not dry, by date where there is one.
std::vector<const WaterLevel*> latestReadings(const Hole&);

/// Which of a point's levels is meant.
enum class WaterStatistic { Highest, Lowest, Latest, Mean };
const char* words(WaterStatistic);
/// Dry readings are no level. None if there is no other.
std::optional<double> levelOf(const WaterSeries&, WaterStatistic);
/// Between the readings before and after that time, as on a straight line; none outside of them, or beside a dry one.
std::optional<double> levelAt(const WaterSeries&, double time);

/// hole,point,measured,depth,level,given: a row a reading.
std::string waterCsv(const Holes&);

} // namespace fox
