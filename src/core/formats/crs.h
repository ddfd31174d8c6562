#pragma once
#include "base/point.h"

#include <memory>
#include <optional>
#include <string>

namespace fox {

/// The name of a projected coordinate system ("EPSG:25831") if it is known, from what somebody typed ("25831",
/// "epsg:25831").
std::optional<std::string> projectedSystem(const std::string& typed);

/// From one coordinate system to another, by PROJ; also from geographic ones (x longitude, y latitude, degrees).
/// Levels are not touched.
class CoordinateChange {
public:
    /// @throws Error naming the system that is not known
    CoordinateChange(const std::string& from, const std::string& to);
    ~CoordinateChange();
    CoordinateChange(const CoordinateChange&) = delete;
    CoordinateChange& operator=(const CoordinateChange&) = delete;
    std::optional<Point2> forward(Point2) const; ///< none where the systems do not reach
    std::optional<Point2> back(Point2) const;

private:
    struct Transforms;
    std::unique_ptr<Transforms> m_transforms;
};

/// Where a projected system is meant to be used, as PROJ's database gives it, with a tenth to spare.
class AreaOfUse {
public:
    /// A system that is not known, or has no area, is of use everywhere.
    explicit AreaOfUse(const std::string& crs);
    bool holds(Point2) const; ///< in the system's own coordinates

private:
    std::unique_ptr<CoordinateChange> m_toDegrees; ///< none: everywhere
    Box2 m_degrees;
};

} // namespace fox
