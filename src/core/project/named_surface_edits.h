#pragma once
#include "project/edits.h"

namespace fox {

// Edits of named surfaces. All throw Error if what they speak of is not there.

/// With a number after its name if there is one of that name.
Edited addNamedSurface(const Project&, NamedSurface);
Edited removeNamedSurface(const Project&, const std::string& name);
/// @throws Error also for an empty name or one that is taken
Edited renameNamedSurface(const Project&, const std::string& name, const std::string& to);
/// `words`: what is changed, for the label.
Edited changeNamedSurface(const Project&, const std::string& name, const std::function<void(NamedSurface&)>&,
                          const std::string& words);

// Edits of sets of holes.

/// A set of that name takes the place of an earlier one. @throws Error for an empty name, or no hole
Edited keepHoleSet(const Project&, const std::string& name, const std::vector<std::string>& holes);
Edited removeHoleSet(const Project&, const std::string& name);

} // namespace fox
