#pragma once
#include "project/edits.h"
#include "sequence/plane_assignment.h"

namespace fox {

/// The same project with another interpretation.
Edited withOwn(const Project&, Interpretation, std::string label);

/// A hole's log with its splits. @throws Error for no such hole
std::vector<Interval> logOf(const Project&, const std::string& hole);
std::vector<Interval> logOf(const Hole&, const std::vector<Depth>& splits);

/// Parts the logged interval that this depth lies in, to the centimetre. The parts are what the interval was until `above` and
/// `below` (units' codes; empty: no unit of the sequence) say otherwise.
/// @throws Error for no such hole or unit, or if no interval goes through the depth
Edited splitInterval(const Project&, const std::string& hole, Depth, const std::optional<std::string>& above = {},
                     const std::optional<std::string>& below = {});
/// The units of the parts stay. @throws Error if there is no such split, or another boundary lies between
Edited moveSplit(const Project&, const std::string& hole, Depth from, Depth to);
/// The two parts are one again, the unit that of the upper one. @throws Error if there is no such split
Edited removeSplit(const Project&, const std::string& hole, Depth);
/// Everything that a plane assigns, with its splits, in one step. @throws Error if it assigns no interval, or there is no such
/// unit
Edited assignAbovePlane(const Project&, const PlaneAssignment&);
/// The split of a hole at this depth, to half a centimetre; none if there is none.
std::optional<Depth> splitAt(const Interpretation&, const std::string& hole, Depth);

} // namespace fox
