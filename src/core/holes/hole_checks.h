#pragma once
#include "holes/hole.h"

#include <set>

namespace fox {

/// Faults of sense, which break no rule of the standard: no place, swapped or far-off coordinates, no level or zero,
/// intervals upside down, overlapping, gapped or below the final depth, no final depth, holes that stand on one
/// another, depths that look like feet. All are warnings, and name the line, group and heading: of files of `edition3` by the
/// names that AGS 3 has for them.
Findings checkHoles(const Holes&, const std::set<std::string>& edition3 = {});

/// Where most holes lie: middle and spread of their places by medians, so that a wild one does not count.
class HoleSpread {
public:
    explicit HoleSpread(const Holes&);
    double fromMiddle(Point2) const; ///< metres
    /// 20 times as far from the middle as half of the holes, and 2 km at least; never among fewer than three.
    bool isFarOff(Point2) const;

private:
    std::size_t m_placed = 0;
    Point2 m_middle;
    double m_spread = 0;
};

} // namespace fox
