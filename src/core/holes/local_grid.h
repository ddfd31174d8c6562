#pragma once
#include "base/point.h"

namespace fox {

/// A site's own grid, tied to the national one by two points known in both: shifted, turned and scaled, no more
/// (the similarity that maps the one pair onto the other).
struct LocalGrid {
    struct Control {
        Point2 local, national; ///< metres
        bool operator==(const Control&) const = default;
    };
    Control a, b;
    bool operator==(const LocalGrid&) const = default;

    bool usable() const { return distance(a.local, b.local) > 0 && distance(a.national, b.national) > 0; }
    double scale() const { return distance(a.national, b.national) / distance(a.local, b.local); } ///< near 1 if all is well
    double rotation() const; ///< degrees, anticlockwise from the local to the national grid
    Point2 toNational(Point2 local) const;
};

} // namespace fox
