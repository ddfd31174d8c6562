#pragma once
#include "project/edits.h"

namespace fox {

// Edits of holes. Each is recorded as a correction of the cell that the value came from, so that it can go out in the
// contractor's file and be listed. All throw Error if there is no such hole or interval.

Edited setHoleLevel(const Project&, const std::string& holeName, Level);
Edited setHolePlace(const Project&, const std::string& holeName, Point2);
Edited setFinalDepth(const Project&, const std::string& holeName, Depth);
Edited setHoleKind(const Project&, const std::string& holeName, const std::string& type);
Edited swapPlace(const Project&, const std::string& holeName);
/// Left out of surfaces and of the ground; it stays visible.
Edited setLeftOut(const Project&, const std::string& holeName, bool leftOut);

/// Moves an interval boundary of a hole: the base of interval `index` and, if it follows on, the top of the
/// next. @throws Error also if the depths would be out of order
Edited moveBoundary(const Project&, const std::string& holeName, std::size_t index, Depth to);
/// The interval above `index` goes on down to its top; the first interval begins at 0.
Edited closeGap(const Project&, const std::string& holeName, std::size_t index);

/// Any cell of an imported AGS file; holes are read again where it speaks of them.
/// @throws Error if there is no such file or row
Edited setFileCell(const Project&, const std::string& file, int line, const std::string& heading, const std::string& value);
/// The correction of a cell, if it has one.
const Correction* correctionOf(const Project&, const std::string& file, int line, const std::string& heading);
/// Every correction as CSV: file, line, hole, group, heading, before, after, why; then what was read otherwise (merged
/// codes) and left out.
std::string correctionsAsCsv(const Project&);

} // namespace fox
