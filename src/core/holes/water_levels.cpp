#include "holes/water_levels.h"

#include "base/text.h"
#include "formats/table.h"
#include "holes/path.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace fox {

namespace {

/// "10:30", "10:30:15", "1030" as seconds.
std::optional<double> secondsOf(std::string_view time) {
    time = trimmed(time);
    if (time.ends_with('Z')) time.remove_suffix(1);
    const auto parts = split(time, ':');
    const auto part = [&](std::size_t i) { return i < parts.size() ? parseNumber(parts[i]) : std::optional(0.0); };
    const auto h = part(0), m = part(1), s = part(2);
    if (!h || !m || !s || *h < 0 || *h > 24 || *m < 0 || *m > 60 || *s < 0 || *s > 60) return {};
    return *h * 3600 + *m * 60 + *s;
}

} // namespace

std::optional<double> timeOf(std::string_view measured) {
    measured = trimmed(measured);
    const auto end = measured.find_first_of("T ");
    const auto date = measured.substr(0, end);
    const bool slashed = date.find('/') != date.npos;
    auto parts = split(date, slashed ? '/' : '-');
    if (parts.size() != 3) return {};
    if (slashed) std::swap(parts[0], parts[2]);
    const auto year = parseNumber(parts[0]), month = parseNumber(parts[1]), day = parseNumber(parts[2]);
    if (!year || !month || !day || *year < 1800 || *year > 2200) return {};
    const std::chrono::year_month_day when{std::chrono::year{int(*year)}, std::chrono::month{unsigned(std::max(0.0, *month))},
                                           std::chrono::day{unsigned(std::max(0.0, *day))}};
    if (!when.ok()) return {};
    const double days = double(std::chrono::sys_days{when}.time_since_epoch().count());
    const auto seconds = end == measured.npos ? std::optional(0.0) : secondsOf(measured.substr(end + 1));
    return seconds ? std::optional(days * 86400 + *seconds) : std::nullopt;
}

std::vector<WaterSeries> waterSeries(const Holes& holes) {
    std::vector<WaterSeries> out;
    for (std::size_t i = 0; i < holes.size(); ++i) {
        const auto& hole = holes[i];
        if (hole.waterLevels.empty() || !hole.level) continue;
        const auto path = HolePath::of(hole);
        const auto begin = out.size();
        for (const auto& w : hole.waterLevels) {
            const auto time = timeOf(w.measured);
            if (!time) continue;
            auto at = std::find_if(out.begin() + std::ptrdiff_t(begin), out.end(),
                                   [&](const WaterSeries& s) { return s.pipe == w.pipe; });
            if (at == out.end()) at = out.insert(out.end(), {i, w.pipe, {}});
            at->readings.push_back({*time, path ? path->at(w.depth).z : hole.level->metres - w.depth.metres, &w});
        }
        for (auto at = out.begin() + std::ptrdiff_t(begin); at != out.end(); ++at)
            std::ranges::stable_sort(at->readings, {}, &WaterSeries::Reading::time);
    }
    return out;
}

namespace {

/// One of the choices out of readings by time; a reading has `.value`, levels or depths, of which `higher` tells the higher.
/// Readings at which it was dry are there, for what lies between two of them is not known.
struct TimedValue {
    std::optional<double> time;
    double value = 0;
    bool dry = false;
    const WaterLevel* of = nullptr;
};

struct ChosenValue {
    double value = 0;
    const WaterLevel* of = nullptr; ///< null: it is no single reading
};

std::optional<ChosenValue> betweenReadings(const std::vector<TimedValue>& all, double time) {
    const auto after = std::ranges::find_if(all, [&](const TimedValue& r) { return r.time && *r.time >= time; });
    if (after == all.end()) return {};
    if (*after->time == time) return after->dry ? std::nullopt : std::optional(ChosenValue{after->value, after->of});
    auto before = after;
    while (before != all.begin() && !(--before)->time) {
    }
    if (before == after || !before->time || before->dry || after->dry) return {};
    const double share = (time - *before->time) / (*after->time - *before->time);
    return ChosenValue{before->value + share * (after->value - before->value), nullptr};
}

/// A date without a time means that day: its last reading, if there is one.
std::optional<ChosenValue> atDate(const std::vector<TimedValue>& all, const std::string& date) {
    const auto time = timeOf(date);
    if (!time) return {};
    constexpr double kDay = 86400;
    if (date.find_first_of("T ") == date.npos)
        for (auto r = all.rbegin(); r != all.rend(); ++r)
            if (r->time && *r->time >= *time && *r->time < *time + kDay && !r->dry) return ChosenValue{r->value, r->of};
    return betweenReadings(all, *time);
}

std::optional<ChosenValue> chosen(const std::vector<TimedValue>& all, const WaterChoice& choice, bool greaterIsHigher) {
    if (choice.which == WaterStatistic::AtDate) return atDate(all, choice.date);
    std::optional<ChosenValue> out;
    double sum = 0;
    std::size_t n = 0;
    for (const auto& r : all) {
        if (r.dry) continue;
        ++n, sum += r.value;
        const bool higher = out && (greaterIsHigher ? r.value > out->value : r.value < out->value);
        const bool lower = out && (greaterIsHigher ? r.value < out->value : r.value > out->value);
        if (!out || choice.which == WaterStatistic::Latest || (choice.which == WaterStatistic::Highest && higher)
            || (choice.which == WaterStatistic::Lowest && lower))
            out = ChosenValue{r.value, r.of};
    }
    if (out && choice.which == WaterStatistic::Mean) out = ChosenValue{sum / double(n), nullptr};
    return out;
}

} // namespace

std::vector<HoleWater> waterIn(const Hole& hole, const WaterChoice& choice) {
    std::map<std::string, std::vector<TimedValue>> byPipe;
    for (const auto& w : hole.waterLevels) byPipe[w.pipe].push_back({timeOf(w.measured), w.depth.metres, w.dry, &w});
    std::vector<HoleWater> out;
    for (auto& [pipe, readings] : byPipe) {
        // those without a date come first, in the order of the file
        std::ranges::stable_sort(readings, {}, [](const TimedValue& r) { return r.time.value_or(-INFINITY); });
        if (const auto found = chosen(readings, choice, false))
            out.push_back({pipe, {found->value}, found->of ? found->of->measured : std::string()});
    }
    return out;
}

const char* words(WaterStatistic s) {
    switch (s) {
    case WaterStatistic::Highest: return "highest";
    case WaterStatistic::Lowest: return "lowest";
    case WaterStatistic::Latest: return "latest";
    case WaterStatistic::AtDate: return "at a date";
    case WaterStatistic::Mean: break;
    }
    return "mean";
}

const char* name(WaterStatistic s) { return s == WaterStatistic::AtDate ? "at-date" : words(s); }

std::optional<WaterStatistic> waterStatisticNamed(std::string_view word) {
    using enum WaterStatistic;
    for (const auto s : {Highest, Lowest, Latest, Mean, AtDate})
        if (word == name(s)) return s;
    return {};
}

std::string words(const WaterChoice& choice) {
    return choice.which == WaterStatistic::AtDate ? "on " + choice.date : words(choice.which);
}

namespace {

std::vector<TimedValue> valuesOf(const WaterSeries& series) {
    std::vector<TimedValue> out;
    for (const auto& r : series.readings) out.push_back({r.time, r.level, r.of->dry, r.of});
    return out;
}

} // namespace

std::optional<double> levelOf(const WaterSeries& series, const WaterChoice& choice) {
    const auto found = chosen(valuesOf(series), choice, true);
    return found ? std::optional(found->value) : std::nullopt;
}

std::optional<double> levelAt(const WaterSeries& series, double time) {
    const auto found = betweenReadings(valuesOf(series), time);
    return found ? std::optional(found->value) : std::nullopt;
}

std::string waterCsv(const Holes& holes) {
    const auto names = displayNames(holes);
    std::string out = "hole,point,measured,depth,level,dry,given\n";
    for (std::size_t i = 0; i < holes.size(); ++i) {
        const auto path = HolePath::of(holes[i]);
        for (const auto& w : holes[i].waterLevels)
            out += fmt::format("{},{},{},{:.2f},{},{},{}\n", tableCell(names[i]), tableCell(w.pipe), tableCell(w.measured),
                               w.depth.metres, path ? fmt::format("{:.2f}", path->at(w.depth).z) : "", w.dry ? "dry" : "",
                               tableCell(w.given));
    }
    return out;
}

} // namespace fox
