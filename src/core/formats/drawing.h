#pragma once
#include <filesystem>
#include <istream>
#include <string>

namespace fox {

/// Looks through a drawing (DXF, as text) before a library reads it: that its lines are pairs of a number and a value, that
/// sections and blocks are closed in their order, and that EOF stands last. Each line is looked at once.
/// @throws FileError naming file and line
void checkDrawing(std::istream&, const std::string& name);
/// @throws FileError also if the file can't be opened
void checkDrawing(const std::filesystem::path&);

} // namespace fox
