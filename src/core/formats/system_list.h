#pragma once
#include "base/point.h"

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

/// The unit of a system's coordinates.
struct SystemUnit {
    std::string name;  ///< "metre", "US survey foot", "degree"
    double metres = 1; ///< in one; 0 for degrees
    bool isMetre() const { return metres == 1; }
};
/// @throws Error if the system is not known
SystemUnit unitOfSystem(const std::string& crs);

} // namespace fox
