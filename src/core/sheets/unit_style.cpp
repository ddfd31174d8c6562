#include "sheets/unit_style.h"

namespace fox {

paper::Colour colourOf(const Unit& unit) { return paper::Colour::parse(unit.colour).value_or(paper::Colour{0xC9, 0xBD, 0xAE}); }

paper::Pattern patternOf(const Unit& unit) { return paper::patternFor(unit.hatch.empty() ? unit.name : unit.hatch); }

paper::Fill fillOf(const Unit& unit) {
    const auto colour = colourOf(unit);
    return {colour, patternOf(unit), colour.darker(kPatternDarker)};
}

} // namespace fox
