#pragma once
#include "base/point.h"

namespace fox::app {

/// An upright plane that cuts a block: what lies to the right of its direction is taken away.
struct UprightCut {
    Point2 through;
    double azimuth = 0; ///< of its direction, degrees clockwise from north
    bool operator==(const UprightCut&) const = default;
    /// Metres to the right of it.
    double rightOf(Point2) const;
    /// A place on it, metres along its direction from `through`.
    Point2 along(double metres) const;
};

} // namespace fox::app
