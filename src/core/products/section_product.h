#pragma once
#include "products/making.h"

namespace fox {

/// The model along one of the project's section lines. Null without an extent.
std::shared_ptr<const Section> sectionProduct(const Making&, const SectionLine&);

} // namespace fox
