#pragma once
#include <filesystem>
#include <vector>

namespace fox::paper {

/// The files of the shipped fonts: beside the program, or in the sources of a program that was not installed. Who draws text,
/// here or in a window, takes them from these files: a font that a window has in memory only would be found under its name here,
/// and could not be read.
std::vector<std::filesystem::path> shippedFonts();

} // namespace fox::paper
