#pragma once
#include "project/project.h"

namespace fox {

/// The project's holes as AGS files, name and bytes. A file that came as AGS goes out under its name, with only corrected
/// rows changed; holes from other sources go into one "holes.ags", AGS 4.1, that passes its own check.
std::vector<std::pair<std::string, std::string>> agsFilesOf(const Project&);

/// Holes as one AGS 4.1 file. `project` gives names of codes and its own name.
std::string agsOf(const Holes&, const Project& project);

} // namespace fox
