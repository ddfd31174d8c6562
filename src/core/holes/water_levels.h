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

/// Which of a point's levels is meant.
enum class WaterStatistic { Highest, Lowest, Latest, Mean, AtDate };
const char* words(WaterStatistic);
const char* name(WaterStatistic); ///< for files: "at-date"
std::optional<WaterStatistic> waterStatisticNamed(std::string_view);

struct WaterChoice {
    WaterStatistic which = WaterStatistic::Latest;
    std::string date; ///< of AtDate, as timeOf() reads it: "2026-03-01"
    bool operator==(const WaterChoice&) const = default;
};
/// "latest", "on 2026-03-01"
std::string words(const WaterChoice&);

/// A level of water in a hole, by its readings.
struct HoleWater {
    std::string pipe;
    Depth depth;      ///< of what was chosen, below ground along the hole
    std::string when; ///< the reading's date as the file has it; empty for a mean, and between two readings
};
/// One a point that has such a level. "Latest" also of readings without a date: the last one that the file has.
std::vector<HoleWater> waterIn(const Hole&, const WaterChoice&);

/// Dry readings are no level. None if there is no other. At a date that names a day alone, the last reading of that day; else,
/// and at any other date, as levelAt().
std::optional<double> levelOf(const WaterSeries&, const WaterChoice&);
/// Between the readings before and after that time, as on a straight line; none outside of them, or beside a dry one.
std::optional<double> levelAt(const WaterSeries&, double time);

/// hole,point,measured,depth,level,given: a row a reading.
std::string waterCsv(const Holes&);

} // namespace fox
