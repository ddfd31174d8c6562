#pragma once
#include "base/point.h"
#include "base/progress.h"

#include <optional>
#include <string>
#include <vector>

namespace fox {

/// A coordinate system of the EPSG list, as PROJ's own database has it.
struct SystemInfo {
    std::string code;      ///< "EPSG:25831"
    std::string name;      ///< "ETRS89 / UTM zone 31N"
    std::string area;      ///< "Europe between 0°E and 6°E"
    bool projected = true; ///< else longitudes and latitudes
    Box2 use;              ///< where it is meant for: degrees, x longitude; empty if that is not known
};

/// Projected and geographic systems that have all the words in their number, name or area, in any case; those whose number or
/// name begins with them first, then by how small their area is. Nothing for an empty text. The list is read once a process.
std::vector<SystemInfo> systemsLike(const std::string& typed, std::size_t most = 40);

/// By its code or number, or by its exact name. None if there is no such system.
std::optional<SystemInfo> systemNamed(const std::string&);

/// What is known of where coordinates may lie.
struct SystemHints {
    std::string nearSystem;         ///< of `near`; empty: nothing else is known to lie near
    Point2 near;                    ///< where the rest of the project's data lie
    std::string country;            ///< as the areas of systems call it
    std::vector<std::string> codes; ///< systems that were used before
};
/// Projected systems in which a position would lie where the system is meant for and, with a neighbour known, within kNearby of
/// it: those nearest to it first, else those used before, then the country's, the smallest area first. Only systems that one of
/// the hints speaks for are tried, which is beside the window's work: some milliseconds each.
std::vector<SystemInfo> systemsFitting(Point2 at, const SystemHints&, std::size_t most = 8, const Progress& = {});
inline constexpr double kNearby = 100; ///< kilometres

/// The unit of a system's coordinates.
struct SystemUnit {
    std::string name;  ///< "metre", "US survey foot", "degree"
    double metres = 1; ///< in one; 0 for degrees
    bool isMetre() const { return metres == 1; }
};
/// @throws Error if the system is not known
SystemUnit unitOfSystem(const std::string& crs);

} // namespace fox
