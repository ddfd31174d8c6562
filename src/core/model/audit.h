#pragma once
#include "model/model.h"

namespace fox {

struct AuditContact {
    std::size_t unit;
    double observed, modelled; ///< levels of the unit's base, metres; modelled may be kNoValue
    double difference() const { return modelled - observed; }
};

/// The same at a contact point, which is in no hole.
struct AuditPoint {
    AuditContact contact;
    std::string file;
    int line;
    Point2 place;
};

struct AuditHole {
    std::string name;
    double loggedLength = 0, matchedLength = 0; ///< metres along the hole
    std::vector<AuditContact> contacts;
};

/// The model against every hole that has a place and a level.
struct Audit {
    double matchedFraction = kNoValue; ///< of the length logged; none if nothing was
    double worstDifference = 0;        ///< metres, without sign; of contacts that the model has
    std::string worstHole;             ///< or the file and line of a contact point
    int bounds = 0, boundsBroken = 0;  ///< one-sided contacts; broken beyond kAuditSlack
    std::vector<AuditHole> holes;
    std::vector<AuditPoint> points; ///< contact points, those in holes too
};
inline constexpr double kAuditSlack = 0.01; ///< metres

/// A length matches where the model has the logged unit. Vertical holes are compared exactly, the others every
/// 0.25 m along the path, and where that changes to the millimetre. Length of intervals that have no unit is logged but never
/// matched; of those that return, what the model has there.
Audit auditModel(const Model&, const InterpretedLogs&, const std::vector<std::vector<Contact>>&, const Progress& = {});

/// Volumes by cells whose centre is inside.
struct UnitVolume {
    std::size_t unit = 0;
    double volume = 0;        ///< cubic metres
    double area = 0;          ///< square metres where the unit has a thickness
    double meanThickness = 0; ///< over that area, metres
    double maxThickness = 0;
};
struct Volumes {
    double area = 0;               ///< square metres where there is ground
    std::vector<UnitVolume> units; ///< all but the oldest, which counts where it has a floor
};
/// By cells whose centre lies in the area. Cells where a unit's base is not known count for nothing.
Volumes volumesOf(const ModelGrid&, const Area& = {});
/// Only what lies above a surface on the same frame: what a dig down to it digs. The oldest unit is then counted too. Cells
/// where the surface has no value, or lies over the ground, have no area.
/// @throws UsageError if the frames differ
Volumes volumesAbove(const ModelGrid&, const Grid& surface, const Area& = {});

} // namespace fox
