#include "store/restore_points.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"

#include <algorithm>
#include <cstdio>
#include <fmt/chrono.h>
#include <optional>
#include <set>
#include <string>

namespace fox {

namespace {

namespace fs = std::filesystem;
using std::chrono::sys_seconds;

fs::path folderOf(fs::path project) { return project.replace_extension(".restore"); }

std::string fileName(sys_seconds time, const std::string& name = {}) {
    return fmt::format("{:%Y-%m-%d %H%M%S}{}{}.gpkg", fmt::gmtime(time), name.empty() ? "" : " ", name);
}

/// The time and the name that a file says, "2026-11-28 140301 before phase 3.gpkg"; none if it is another file.
std::optional<RestorePoint> pointOf(const fs::path& file) {
    int year = 0, month = 0, day = 0, hour = 0, minute = 0, second = 0, used = 0;
    const auto words = file.stem().string();
    if (file.extension() != ".gpkg"
        || std::sscanf(words.c_str(), "%4d-%2d-%2d %2d%2d%2d%n", &year, &month, &day, &hour, &minute, &second, &used) != 6)
        return {};
    const auto rest = words.substr(std::size_t(used));
    if (!rest.empty() && (rest.size() < 2 || rest.front() != ' ')) return {};
    const std::chrono::year_month_day date{std::chrono::year(year), std::chrono::month(unsigned(month)),
                                           std::chrono::day(unsigned(day))};
    if (!date.ok()) return {};
    const auto time =
        std::chrono::sys_days(date) + std::chrono::hours(hour) + std::chrono::minutes(minute) + std::chrono::seconds(second);
    return RestorePoint{file, time, rest.empty() ? "" : rest.substr(1)};
}

bool sameBytes(const fs::path& a, const fs::path& b) {
    std::error_code code;
    const auto size = fs::file_size(a, code);
    return !code && size == fs::file_size(b, code) && !code && readBytes(a) == readBytes(b);
}

} // namespace

std::vector<RestorePoint> restorePointsOf(const fs::path& project) {
    std::vector<RestorePoint> out;
    std::error_code code;
    for (const auto& entry : fs::directory_iterator(folderOf(project), code))
        if (auto point = pointOf(entry.path()); point && entry.is_regular_file(code)) out.push_back(std::move(*point));
    std::ranges::sort(out, std::greater(), &RestorePoint::time);
    return out;
}

std::vector<bool> keptRestorePoints(std::span<const sys_seconds> newestFirst, sys_seconds now) {
    constexpr std::size_t kNewest = 8;
    constexpr auto kDays = 7, kWeeks = 8;
    std::vector<bool> kept(newestFirst.size());
    std::set<long> days, weeks; // those that have one
    for (std::size_t i = 0; i < newestFirst.size(); ++i) {
        const auto day = std::chrono::floor<std::chrono::days>(now - newestFirst[i]).count();
        const bool firstOfDay = days.insert(day).second, firstOfWeek = weeks.insert(day / 7).second;
        kept[i] = i < kNewest || (day < kDays && firstOfDay) || (day < 7 * kWeeks && firstOfWeek);
    }
    return kept;
}

namespace {

RestorePoint copyOf(const fs::path& project, sys_seconds time, const std::vector<RestorePoint>& points, const std::string& name) {
    while (std::ranges::count(points, time, &RestorePoint::time)) time += std::chrono::seconds(1); // twice in one second
    fs::create_directories(folderOf(project));
    ReplaceFile copy(folderOf(project) / fileName(time, name));
    fs::copy_file(project, copy.scratch());
    copy.commit();
    return {copy.target(), time, name};
}

} // namespace

void makeRestorePoint(const fs::path& project, sys_seconds now) {
    try {
        auto points = restorePointsOf(project);
        if (!points.empty() && sameBytes(points.front().file, project)) return;
        points.insert(points.begin(), copyOf(project, now, points, {}));
        std::erase_if(points, [](const RestorePoint& p) { return !p.name.empty(); }); // those stay
        std::vector<sys_seconds> times;
        for (const auto& p : points) times.push_back(p.time);
        const auto kept = keptRestorePoints(times, now);
        std::error_code ignored;
        for (std::size_t i = 0; i < points.size(); ++i)
            if (!kept[i]) fs::remove(points[i].file, ignored);
    } catch (const std::exception&) { // a full disk: the project still opens
    }
}

RestorePoint keepRestorePoint(const fs::path& project, sys_seconds now, const std::string& name) {
    std::string words(trimmed(name));
    if (words.empty()) throw UsageError("A restore point that is kept needs a name.");
    constexpr std::size_t kLongest = 80;
    words.resize(std::min(words.size(), kLongest));
    for (char& c : words)
        if (c == '/' || c == '\\' || static_cast<unsigned char>(c) < ' ') c = '-';
    try {
        return copyOf(project, now, restorePointsOf(project), words);
    } catch (const fs::filesystem_error& e) {
        throw FileError(fmt::format("The restore point can't be made: {}.", e.code().message()));
    }
}

bool isRestorePoint(const fs::path& file) { return file.parent_path().extension() == ".restore" && pointOf(file).has_value(); }

} // namespace fox
