#include "holes/water_levels.h"

#include "base/text.h"
#include "formats/table.h"
#include "holes/path.h"

#include <algorithm>
#include <chrono>
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

std::vector<const WaterLevel*> latestReadings(const Hole& hole) {
    std::map<std::string, const WaterLevel*> latest;
    for (const auto& w : hole.waterLevels) {
        if (w.dry) continue;
        auto& of = latest[w.pipe];
        const auto now = timeOf(w.measured), before = of ? timeOf(of->measured) : std::nullopt;
        if (!of || (now && before ? *now >= *before : w.measured >= of->measured)) of = &w;
    }
    std::vector<const WaterLevel*> out;
    for (const auto& [pipe, w] : latest) out.push_back(w);
    return out;
}

const char* words(WaterStatistic s) {
    switch (s) {
    case WaterStatistic::Highest: return "highest";
    case WaterStatistic::Lowest: return "lowest";
    case WaterStatistic::Latest: return "latest";
    case WaterStatistic::Mean: break;
    }
    return "mean";
}

std::optional<double> levelOf(const WaterSeries& series, WaterStatistic which) {
    std::optional<double> out;
    double sum = 0;
    std::size_t n = 0;
    for (const auto& r : series.readings) {
        if (r.of->dry) continue;
        ++n, sum += r.level;
        const bool takes = !out || which == WaterStatistic::Latest || (which == WaterStatistic::Highest && r.level > *out)
                           || (which == WaterStatistic::Lowest && r.level < *out);
        if (takes) out = r.level;
    }
    return which == WaterStatistic::Mean && n > 0 ? std::optional(sum / double(n)) : out;
}

std::optional<double> levelAt(const WaterSeries& series, double time) {
    const auto& all = series.readings;
    const auto after = std::ranges::lower_bound(all, time, {}, &WaterSeries::Reading::time);
    if (after == all.end()) return {};
    if (after->time == time) return after->of->dry ? std::nullopt : std::optional(after->level);
    if (after == all.begin()) return {};
    const auto before = after - 1;
    if (before->of->dry || after->of->dry) return {};
    const double share = (time - before->time) / (after->time - before->time);
    return before->level + share * (after->level - before->level);
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
