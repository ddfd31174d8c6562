#pragma once
#include "layers/layer_spec.h"
#include "sequence/unit.h"

namespace fox {

/// A layered grid to begin with: square cells over the extent, as fine as its own but at most 10,000 in plan; a layer a unit,
/// from the youngest down; the lowest down to `floor`, metres; every value that some unit has.
LayerSpec proposedLayers(const Sequence&, const Frame& extent, double floor);
/// Square cells of one width that cover a rectangle. @throws UsageError, Error as PlanGrid does
PlanGrid gridOver(const Box2&, double cell, double turn = 0);

/// What a layer is made from, in a few words: "TS, MG", "TL, upper 2 m", "level -30 m".
std::string inWords(const LayerRule&);
/// How it is parted: "one", "2 equal", "1 : 3".
std::string partsInWords(const LayerRule&);
/// The other way round: "1", "2", "1:3", "2 equal". @throws UsageError for words that mean nothing
std::vector<double> partsWritten(std::string_view);

} // namespace fox
