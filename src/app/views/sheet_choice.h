#pragma once
#include "project/sheet_edits.h"
#include "sheets/sheet.h"
#include "views/selection.h"

#include <optional>

namespace fox::app {

/// The sheet of the report that is looked at; null: a template by itself is.
const ReportEntry* reportSheetOf(const Selection&, const Project&);
/// The layout that says what the sheet is filled with, see templateOf(): where holes have layouts of their own, the sheet's main
/// one.
const SheetTemplate& mainTemplateOf(const Selection&, const Project&);
/// Of which of the sheet's layouts the one that is looked at is: the key in ReportEntry::others; empty: the main one.
std::string layoutKeyOf(const Selection&, const Project&);
/// Layouts of logs to choose from: shipped ones and those that the user keeps.
std::vector<SheetTemplate> logTemplates();
/// Named areas of plans and maps in the report, each once: the layouts that have them.
std::vector<SheetTemplate> namedAreas(const Project&);
/// The layout that is looked at: that sheet's, or the selection's template, or the first that comes with the program.
const SheetTemplate& templateOf(const Selection&, const Project&);
/// Every item that it is filled with, as far as the project has them.
std::vector<std::string> sheetItemsOf(const Selection&, const Project&);
/// The one that is looked at: the selected hole, section or unit, or the first there is; none: there is none.
std::optional<std::string> sheetItemOf(const Selection&, const Project&);
/// The layout that is looked at becomes another one: in the report's sheet, or, of a template by itself, in a sheet that is added
/// for it. `words` say what is changed.
struct LayoutEdit {
    Edit edit;
    std::string sheet; ///< that has it then
};
LayoutEdit changeLayout(const Selection&, const Project&, const SheetTemplate&, const std::string& words);
QString today(); ///< as sheets print it

} // namespace fox::app
