#pragma once
#include "ground/area.h"
#include "sequence/test_values.h"

namespace fox {

// Which holes to look at; by display name, in the holes' order.

std::vector<std::string> holesOfKind(const Holes&, HoleKind);
std::vector<std::string> holesInside(const Holes&, const Area&);
/// Whose position is within so many metres of a line.
std::vector<std::string> holesNear(const Holes&, const Polyline2&, double metres);
/// That have some length of the unit, as the log is understood.
std::vector<std::string> holesWithUnit(const InterpretedLogs&, std::size_t unit);
/// With at least one value of that quantity.
std::vector<std::string> holesWithTest(const TestQuantity&, const Holes&, const InterpretedLogs&);

} // namespace fox
