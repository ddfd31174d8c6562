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

/// Adds what reading an AGS file found to what the check of its rules found, but for what both have: on one line, by the same
/// rule or of the same heading.
void addUnlessKnown(Findings& checked, Findings read);

} // namespace fox
