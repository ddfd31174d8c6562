#include "handover/file_word.h"

#include <cctype>

namespace fox {

std::string fileWord(std::string name) {
    for (auto& c : name)
        if (!std::isalnum(static_cast<unsigned char>(c)) && c != '-' && c != '.') c = '_';
    return name;
}

} // namespace fox
