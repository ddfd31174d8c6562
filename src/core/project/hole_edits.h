#pragma once
#include "project/edits.h"

namespace fox {

// Edits of holes. Each is recorded as a correction of the cell that the value came from, so that it can go out in the
// contractor's file and be listed. All throw Error if the project does not have that hole or interval.

Edited setHoleLevel(const Project&, const std::string& holeName, Level);
Edited setHolePlace(const Project&, const std::string& holeName, Point2);
Edited setFinalDepth(const Project&, const std::string& holeName, Depth);
Edited setHoleKind(const Project&, const std::string& holeName, const std::string& type);
Edited swapPlace(const Project&, const std::string& holeName);
/// Of all holes of a file that have coordinates. @throws Error if it has none
Edited swapPlacesOfFile(const Project&, const std::string& file);
/// Takes all inclinations of the hole as measured from the vertical: 0 was straight down. @throws Error if it has no path
Edited measureFromVertical(const Project&, const std::string& holeName);
/// What the hole is called in the project. Choices and picks go with it, files keep the id that they have, and a newer issue of
/// a file still finds its hole by that. @throws Error also if the name is empty or another hole has it
Edited setHoleName(const Project&, const std::string& holeName, const std::string& name);
/// Left out of surfaces and of the ground; it stays visible.
Edited setExcluded(const Project&, const std::string& holeName, bool excluded);

/// A change of one hole, and which one.
struct HoleChangeOf {
    std::string hole; ///< display name
    std::function<void(Hole&)> change;
};
/// Any number of changes as one step: each hole that is touched is copied once.
Edited changeHoles(const Project&, const std::vector<HoleChangeOf>&, const std::string& label);

/// Moves the boundary of intervals at depth `from`: the base of the interval that ends there and, if one follows on, its top.
/// @throws Error also if the depths would be out of order
Edited moveBoundary(const Project&, const std::string& holeName, Depth from, Depth to);
/// The interval above the one that begins at this depth goes on down to it; if there is none above, that one begins at 0.
Edited closeGap(const Project&, const std::string& holeName, Depth top);

/// The correction of a cell, if it has one.
const Correction* correctionOf(const Project&, const std::string& file, int line, const std::string& heading);
/// Every correction as CSV: file, line, hole, group, heading, before, after, why; then what was read otherwise (merged
/// codes) and left out.
std::string correctionsAsCsv(const Project&);

} // namespace fox
