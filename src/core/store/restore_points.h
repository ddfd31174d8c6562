#pragma once
#include <chrono>
#include <filesystem>
#include <span>
#include <string>
#include <vector>

namespace fox {

/// A copy of a project file as it was at a time: when it was opened, or before another one took its place.
struct RestorePoint {
    std::filesystem::path file;
    std::chrono::sys_seconds time; ///< UTC
    std::string name = {};         ///< that somebody gave it; such a one is never removed
    bool operator==(const RestorePoint&) const = default;
};

/// Beside "site.gpkg" in the folder "site.restore", named by their time; newest first.
std::vector<RestorePoint> restorePointsOf(const std::filesystem::path& project);

/// Copies the file as it is, unless the newest restore point has the same bytes, and removes those that keptRestorePoints
/// does not keep. None is ever replaced. A full disk or a folder that can't be written to: none is made, and nothing is said.
void makeRestorePoint(const std::filesystem::path& project, std::chrono::sys_seconds now);

/// The same with a name, also if the newest one has the same bytes. What can't stand in a file's name becomes "-".
/// @throws FileError if the copy can't be made, UsageError without a name
RestorePoint keepRestorePoint(const std::filesystem::path& project, std::chrono::sys_seconds now, const std::string& name);
/// Whether a file is a restore point: it is looked at, and not changed.
bool isRestorePoint(const std::filesystem::path&);

/// Which restore points are kept, of these times (newest first): the eight newest, however old; the newest of each day for
/// a week before `now`, of each week (seven days, counted back from now) for eight weeks.
std::vector<bool> keptRestorePoints(std::span<const std::chrono::sys_seconds> newestFirst, std::chrono::sys_seconds now);

} // namespace fox
