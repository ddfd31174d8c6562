#pragma once
#include "base/finding.h"
#include "base/progress.h"

#include <filesystem>

namespace fox {

/// What is wrong with a data file: by the rules of its standard, and by sense.
struct FileCheck {
    std::string format;  ///< "AGS", "LAS", "CSV"
    std::string version; ///< as the file says, or empty
    Findings findings;   ///< in the order of lines
};

/// AGS by all rules and by sense of its holes; LAS by its own; tables by what the import would say.
/// @throws FileError if the file can't be opened or is of no format that is known
FileCheck checkFile(const std::filesystem::path&, const Progress& = {});

} // namespace fox
