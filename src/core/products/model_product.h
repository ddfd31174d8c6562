#pragma once
#include "products/making.h"

namespace fox {

/// The bases of all units, one after another in the working order. A base whose inputs an edit did not change keeps its
/// pointer, and so does the model if all of them do.
std::shared_ptr<const Model> modelProduct(const Making&);

} // namespace fox
