#pragma once
#include "blocks/excavation.h"
#include "products/making.h"

namespace fox {

/// What a specification of an excavation names, read and made. Blocks are a model of the project by name, or a specification's
/// file.
/// @throws Error for what is not there
ExcavationInputs excavationInputs(const Making&, const ExcavationSpec&);

/// An excavation of the project, or why there is none.
struct ExcavationProduct {
    ExcavationSpec spec;
    std::shared_ptr<const Excavation> dig; ///< null if it can't be made
    std::string problem;                   ///< a sentence; empty if it could
};
std::shared_ptr<const ExcavationProduct> excavationProduct(const Making&, const ExcavationSpec&);

} // namespace fox
