#pragma once
#include <string>

namespace fox {

/// A name as it can stand in a file's name: what is no letter, digit, hyphen or dot of ASCII becomes "_".
std::string fileWord(std::string name);

} // namespace fox
