#pragma once
#include "paper/drawing.h"
#include "sequence/unit.h"

namespace fox {

/// The unit's colour; a sandy grey if it has none that can be read.
paper::Colour colourOf(const Unit&);
/// The sign for the kind of ground that the unit was given, or that its name speaks of.
paper::Pattern patternOf(const Unit&);
/// Colour and sign.
paper::Fill fillOf(const Unit&);
/// How much darker than its colour a unit's sign is.
inline constexpr double kPatternDarker = 1.65;

} // namespace fox
