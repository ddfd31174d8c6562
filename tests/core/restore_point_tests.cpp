#include "fixtures.h"
#include "store/restore_points.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;
using std::chrono::hours;
using std::chrono::minutes;
using std::chrono::sys_seconds;

namespace {

const sys_seconds kNow = std::chrono::sys_days(std::chrono::year(2026) / 3 / 20) + hours(15);

} // namespace

TEST_CASE("Every opening has a restore point of its own, named by its time", "[store]") {
    const TemporaryFolder folder;
    CHECK(restorePointsOf(folder / "site.gpkg").empty());
    const auto project = folder.write("site.gpkg", "first");
    makeRestorePoint(project, kNow);
    folder.write("site.gpkg", "second");
    makeRestorePoint(project, kNow);            // within the same second
    makeRestorePoint(project, kNow + hours(2)); // the same bytes again
    const auto points = restorePointsOf(project);
    REQUIRE(points.size() == 2);
    CHECK(readBytes(points[0].file) == "second");
    CHECK(readBytes(points[1].file) == "first");
    CHECK(points[1].time == kNow);
    CHECK(points[1].file == folder.path() / "site.restore" / "2026-03-20 150000.gpkg");
}

TEST_CASE("A restore point with a name stays, whatever else is removed", "[store]") {
    const TemporaryFolder folder;
    const auto project = folder.write("site.gpkg", "first");
    const auto kept = keepRestorePoint(project, kNow, " before phase 3/4 ");
    CHECK(kept.name == "before phase 3-4");
    CHECK(keepRestorePoint(project, kNow, "the same bytes again").file != kept.file);
    for (int day = 1; day < 200; ++day) {
        folder.write("site.gpkg", std::to_string(day));
        makeRestorePoint(project, kNow + hours(24 * day));
    }
    const auto points = restorePointsOf(project);
    CHECK(points.size() < 30);
    CHECK(std::ranges::count(points, kept) == 1);
    CHECK(readBytes(kept.file) == "first");
    CHECK(isRestorePoint(kept.file));
    CHECK(isRestorePoint(points.front().file));
    CHECK_FALSE(isRestorePoint(project));
    CHECK_THROWS_AS(keepRestorePoint(project, kNow, "  "), UsageError);
    CHECK_THROWS_AS(keepRestorePoint(folder / "gone.gpkg", kNow, "x"), FileError);
}

TEST_CASE("Other files in the folder of restore points are none, and stay", "[store]") {
    const TemporaryFolder folder;
    std::filesystem::create_directories(folder / "site.restore");
    for (const char* name :
         {"site.restore/notes.txt", "site.restore/2026-13-40 150000.gpkg", "site.restore/2026-03-20 150000.gpkg.old"})
        folder.write(name, "x");
    CHECK(restorePointsOf(folder / "site.gpkg").empty());
    const auto project = folder.write("site.gpkg", "bytes");
    makeRestorePoint(project, kNow);
    CHECK(std::filesystem::exists(folder / "site.restore/notes.txt"));
    CHECK(restorePointsOf(project).size() == 1);
}

TEST_CASE("Where no restore point can be made, the project is left in peace", "[store]") {
    const TemporaryFolder folder;
    const auto project = folder.write("site.gpkg", "bytes");
    folder.write("site.restore", "a file where the folder should be");
    makeRestorePoint(project, kNow);
    CHECK(readBytes(project) == "bytes");
    CHECK(restorePointsOf(project).empty());
    makeRestorePoint(folder / "gone.gpkg", kNow);
    CHECK(restorePointsOf(folder / "gone.gpkg").empty());
}

TEST_CASE("Restore points thin out with age, and the newest are kept however old", "[store]") {
    // every three hours for a hundred days
    std::vector<sys_seconds> times;
    for (int i = 0; i < 800; ++i) times.push_back(kNow - hours(3 * i) - minutes(1));
    const auto kept = keptRestorePoints(times, kNow);
    int count = 0, inWeek = 0, older = 0;
    for (std::size_t i = 0; i < times.size(); ++i) {
        if (i < 8) CHECK(kept[i]);
        if (!kept[i]) continue;
        ++count;
        const auto age = kNow - times[i];
        inWeek += age < hours(7 * 24);
        older += age >= hours(8 * 7 * 24);
    }
    CHECK(inWeek == 8 + 6); // the newest eight are those of the first day
    CHECK(count == 8 + 6 + 7);
    CHECK(older == 0);
    // thinned again a day later, what is left still covers two months
    std::vector<sys_seconds> left;
    for (std::size_t i = 0; i < times.size(); ++i)
        if (kept[i]) left.push_back(times[i]);
    const auto again = keptRestorePoints(left, kNow + hours(24));
    CHECK(std::ranges::count(again, true) >= 16);
    const std::vector<sys_seconds> old{kNow - hours(24 * 400), kNow - hours(24 * 500)};
    CHECK(keptRestorePoints(old, kNow) == std::vector<bool>{true, true});
    CHECK(keptRestorePoints({}, kNow).empty());
}
