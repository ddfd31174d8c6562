#pragma once
#include "base/files.h"
#include "base/progress.h"
#include "products/products.h"
#include "sheets/sheet.h"

#include <filesystem>

namespace fox {

/// The kinds of file that a sheet can be written as.
inline constexpr const char* kSheetFileKinds[] = {"pdf", "svg", "png", "dxf", "tif"};

struct SheetFileOptions {
    std::string as = {}; ///< one of kSheetFileKinds; empty: by the ending of the target, else PDF
    double dotsPerInch = 150;
    std::string date = {}; ///< as it is printed
};

struct SheetFiles {
    std::vector<std::filesystem::path> files;
    std::vector<FilledSheet> sheets; ///< one an item
    std::size_t pages = 0;
};

/// Sheets whose files wait for their places.
struct PreparedSheets {
    ReplaceFiles files;
    std::vector<FilledSheet> sheets;
    std::size_t pages = 0;
};

/// Products that the sheets are filled from.
Wanted wantedForSheets(const SheetTemplate&, const std::vector<std::string>& items);

/// Fills a template with items and writes them: all pages into one PDF if `out` ends with .pdf, with a bookmark an item and pages
/// numbered through; a single page into `out` if it ends with .svg, .png or .dxf; else files named by item in the folder `out`,
/// pages after the first with "_2". DXF is in millimetres on the sheet. A plan or map as PNG has a world file beside it, as TIFF
/// its georeference in it. Either all files are written or none.
/// @throws Error for an unknown ending, no items, an item that the project has not, several pages for a file of one, or files
/// that can't be written
PreparedSheets prepareSheets(const SheetTemplate&, const std::vector<std::string>& items, const ProductSet&,
                             const std::filesystem::path& out, const SheetFileOptions& = {}, const Progress& = {});
/// Prepares and commits.
SheetFiles writeSheets(const SheetTemplate&, const std::vector<std::string>& items, const ProductSet&,
                       const std::filesystem::path& out, const SheetFileOptions& = {});

void saveTemplate(const SheetTemplate&, const std::filesystem::path&); ///< as JSON. @throws FileError
/// A template by the name of one that comes with the program, or from a file. @throws Error naming what there is
SheetTemplate sheetTemplate(const std::string& nameOrFile);

} // namespace fox
