#pragma once
#include "base/finding.h"
#include "base/point.h"

#include <span>

namespace fox {

/// From pixels of a picture (x to the right, y down, from its top left corner) to metres of the plan:
/// easting = x0 + xx * px + xy * py, northing = y0 + yx * px + yy * py.
struct Georeference {
    double x0 = 0, xx = 1, xy = 0, y0 = 0, yx = 0, yy = -1;
    bool operator==(const Georeference&) const = default;
    Point2 toPlan(Point2 pixel) const { return {x0 + xx * pixel.x + xy * pixel.y, y0 + yx * pixel.x + yy * pixel.y}; }
    /// @throws Error if the placing squeezes the picture into a line
    Point2 toPixel(Point2 place) const;
};

/// A spot on the picture and where it lies.
struct ControlPoint {
    Point2 pixel, place;
    bool operator==(const ControlPoint&) const = default;
};

struct FittedPlacing {
    Georeference placing;
    std::vector<double> residuals; ///< metres, one a mark
    double rms = 0;                ///< metres; 0 for three marks, which leave nothing over
    Findings findings;             ///< marks nearly on a line, a picture that is mirrored, sheared or of two scales
};

/// The affine placing through three marks, or the least-squares one of more.
/// @throws Error for under three marks, or marks that lie on one line
FittedPlacing fitGeoreference(std::span<const ControlPoint>);

} // namespace fox
