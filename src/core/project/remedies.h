#pragma once
#include "project/edits.h"

namespace fox {

/// The remedy of a finding. @throws Error if it no longer fits the project, and for PlaceOnPlan and ReadFileAgain, which only the
/// user can do
Edited apply(const Project&, const Remedy&);

} // namespace fox
