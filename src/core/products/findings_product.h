#pragma once
#include "products/making.h"

namespace fox {

/// All findings of a project, the worst first. Those that need the grids (bases that cross) and the outliers among the
/// ground points are there if these were asked for: they take the longest.
enum class FindingsOf { ModelOnly, Everything };
std::shared_ptr<const Findings> findingsProduct(const Making&, FindingsOf);

} // namespace fox
