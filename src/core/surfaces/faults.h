#pragma once
#include "surfaces/surface.h"

namespace fox {

/// A trace across which a surface may step: interpolation does not look through it.
struct Fault {
    std::string name;
    Polyline2 line; ///< at least two different points
    bool operator==(const Fault&) const = default;
};

/// How a fault parts the plan at a place.
struct FaultSide {
    double share = 0;   ///< 1: wholly parted; it falls to 0 beyond the trace's ends
    bool right = false; ///< of the trace, as it is drawn
};
/// By the angle that the trace takes up as seen from the place: beside it half a turn and more, beyond its ends
/// none, with a jump only across the trace. Wholly parted from a sixth of a turn upwards.
FaultSide sideOf(const Fault&, Point2);

/// The trace carried on far beyond `extent` where an end lies on its edge (within 2 % of its size) or outside: the site
/// may not be joined again round such an end.
Fault carriedOut(Fault, const Box2& extent);

/// A surface of its own on each side of the faults. Where a fault ends inside, it is the mean of the parted surface and
/// the one without the fault, weighted by the share: so data and bounds are honoured everywhere, and only the trace has
/// a step. The variogram, if it is to be fitted, is that of the block with most points. A side without a point is
/// carried on across the fault, with a finding. Without faults: fitSurface. Of more than kMostFaults the first are used,
/// with a finding.
FittedSurface fitFaulted(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings&,
                         std::span<const Fault> faults, const Progress& = {});
inline constexpr std::size_t kMostFaults = 6;

/// The points of the block that has most of them: the ones that a variogram is fitted to.
std::vector<Point3> largestBlock(std::span<const Point3>, std::span<const Fault>);

/// What a surface does across a fault, at a place of the trace.
struct FaultThrow {
    double chainage = 0;                       ///< metres along the trace
    double left = kNoValue, right = kNoValue;  ///< levels either side, metres
    double up() const { return right - left; } ///< positive: the right side is the higher
};
/// Every `step` metres and at the ends. Where the surface has no value on a side that level is kNoValue.
std::vector<FaultThrow> throwAlong(const Surface&, const Fault&, double step);

} // namespace fox
