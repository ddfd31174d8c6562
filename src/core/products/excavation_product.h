#pragma once
#include "blocks/excavation.h"
#include "products/making.h"

namespace fox {

/// What a specification of an excavation names, read and made. Blocks are a model of the project by name, or a specification's
/// file.
/// @throws Error for what is not there
ExcavationInputs excavationInputs(const Making&, const ExcavationSpec&);

} // namespace fox
