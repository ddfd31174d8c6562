#pragma once
#include "holes/hole.h"
#include "sequence/interpretation.h"

namespace fox {

/// A log whose intervals these depths part; each part has the words, codes and line of its interval. Empty if no depth lies
/// within a usable interval, farther than kTouch from its ends. `lost`, if given, gets the depths that part nothing.
std::vector<Interval> partsOf(const std::vector<Interval>& log, std::vector<Depth> splits, std::vector<Depth>* lost = nullptr);

/// The part, or else the interval, that a depth lies within; null if none does.
const Interval* intervalWithin(const std::vector<Interval>&, Depth);

} // namespace fox
