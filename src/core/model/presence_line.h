#pragma once
#include "model/section.h"

namespace fox {

/// A stretch of the line on which a unit is as probably present as absent.
struct PresenceLine {
    Polyline2 line;
    /// From 25 to 75 % it is no farther than half the distance between data points: drawn solid, else dashed.
    bool isSure = false;
};
/// Where the probability of presence passes a half, through the cell centres of its grid; none at cells without a value.
/// `spacing`: usual distance between data points, metres.
std::vector<PresenceLine> presenceLines(const Grid& probabilities, double spacing);

/// Where a unit ends along a section.
struct PresenceEnd {
    double chainage = 0;     ///< where its probability of presence passes a half, metres
    double level = 0;        ///< of its base there
    double from = 0, to = 0; ///< chainages between which it passes from 25 to 75 %; those of the section's ends at most
};
std::vector<PresenceEnd> presenceEnds(const Section&, std::size_t unit);

} // namespace fox
