#pragma once
#include "project/edits.h"

namespace fox {

/// A cell of an imported AGS file, by line and heading.
struct FileCell {
    int line = 0;
    std::string heading, value;
};
/// Any cells of an imported AGS file as one step; holes are read again, once, where the cells speak of them.
/// @throws Error if the project does not have that file or row
Edited setFileCells(const Project&, const std::string& file, const std::vector<FileCell>&);

} // namespace fox
