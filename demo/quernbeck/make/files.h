#pragma once
#include "investigation.h"

#include <filesystem>

namespace quernbeck {

/// An AGS 4.1 file of the main or the later investigation.
std::string ags4(const std::vector<Drilled>&, const std::string& project, const std::string& title, bool allGroups);
/// An AGS 3.1 file, with <CONT> lines.
std::string ags3(const std::vector<Drilled>&, const std::string& project, const std::string& title);

/// AGS 4.1: cone penetration tests of 2022 in places of their own.
std::string soundings();
/// AGS 4.1: water over the year 2020, moisture, strength and arsenic in holes of the main investigation, without their logs.
std::string monitoring();

/// survey.csv, breaklines.gpkg, outlines.gpkg, hill_contours.shp, coarse_dem.tif
void writeSurveyFiles(const std::filesystem::path& folder);
/// supply_wells/, old_plan.png, dips.csv, quernbeck.build.json
void writeOtherFiles(const std::filesystem::path& folder);

/// Numbers between 0 and 1 that are the same everywhere (splitmix64).
class Chance {
public:
    explicit Chance(std::uint64_t seed) : m_state(seed) {}
    double next() {
        m_state += 0x9E3779B97F4A7C15u;
        std::uint64_t z = m_state;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9u;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBu;
        return double((z ^ (z >> 31)) >> 11) / 9007199254740992.0;
    }
    double between(double a, double b) { return a + (b - a) * next(); }

private:
    std::uint64_t m_state;
};

inline constexpr const char* kCrs = "EPSG:25831";
inline constexpr const char* kWhen = "2020-01-01T00:00:00.000Z"; ///< stands in files that hold a time

} // namespace quernbeck
