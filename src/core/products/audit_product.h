#pragma once
#include "model/audit.h"
#include "products/making.h"

namespace fox {

/// The model compared with every hole.
std::shared_ptr<const Audit> auditProduct(const Making&);

} // namespace fox
