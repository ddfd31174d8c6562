#pragma once
#include "handover/sheet_files.h"

namespace fox {

/// One sheet of the report, filled with all of its items.
struct FilledReportSheet {
    std::string name;
    std::vector<FilledSheet> filled; ///< one an item
    std::size_t pages = 0;
    std::size_t firstPage = 0;      ///< in the report, from 1; 0: it does not go out
    std::vector<std::string> notes; ///< what needs a word before it goes out, as sentences
};

/// What the project's report is filled from.
Wanted wantedForReport(const Project&);
/// All sheets of the project's report in their order; pages of those that go out are numbered through, and a list of sheets names
/// them. An item that is gone is left out, with a note. @throws Stopped
std::vector<FilledReportSheet> fillReport(const ProductSet&, const std::string& date, const Progress& = {});
/// One PDF with a bookmark a sheet and item if `out` ends with .pdf; else a file a page, named by number, sheet and item, in the
/// folder `out`. @throws Error if nothing goes out, for an unknown ending, or files that can't be written
PreparedSheets prepareReport(const ProductSet&, const std::filesystem::path& out, const SheetFileOptions& = {},
                             const Progress& = {});

} // namespace fox
