#pragma once
#include "base/files.h"
#include "sheets/sheet.h"

#include <filesystem>

namespace fox {

/// Where sheets go: one file, or files in a folder.
struct SheetTarget {
    std::string as; ///< one of kSheetFileKinds
    bool isFolder = false;
};
/// By the ending of `out`, or `as` where that is a folder; PDF if nothing says. @throws Error for what sheets can't be written as
SheetTarget sheetTargetOf(const std::filesystem::path& out, const std::string& as);
/// One page as a file of a kind, with its world file if it is a plan as PNG. `crs`: of the project. Kept as outputs that are not
/// committed yet.
void addSheetPage(ReplaceFiles&, const std::filesystem::path& to, const FilledSheet&, std::size_t page, const std::string& as,
                  double dotsPerInch, const std::string& crs);

} // namespace fox
