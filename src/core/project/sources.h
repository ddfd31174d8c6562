#pragma once
#include "project/project.h"

namespace fox {

/// A name that no file of the project has: "survey (2).csv".
std::string uniqueName(const std::vector<SourceFile>&, const std::string& wanted);

} // namespace fox
