#pragma once
#include "project/edits.h"

namespace fox {

// Edits of values at points in space. All throw Error if what they speak of is not there.

/// Whether the values of one column of a file are used.
Edited setValuesUsed(const Project&, const std::string& file, const std::string& quantity, bool used);
/// Points like this one, whether they are excluded or not, are excluded or used again.
Edited setValueExcluded(const Project&, const std::string& file, const std::string& quantity, const ValuePoint&, bool excluded);

} // namespace fox
