#pragma once
#include "blocks/composites.h"

namespace fox {

/// Blocks that suit values: round lengths that give some ten to some hundred thousand of them. Over the site; around the values
/// if these lie in a small part of it. From the lowest value to the highest, at least a metre. With a curve readings are averaged
/// over a block's height. The vertical factor is fitted. What `spec` says of the values and the method stays.
BlockSpec proposedBlocks(BlockSpec spec, const Frame& site, std::span<const Composite>);

/// A frame around values, with a tenth of its size to each side, at least a block, at whole metres.
Frame aroundValues(std::span<const Composite>, const BlockSpec&);

} // namespace fox
