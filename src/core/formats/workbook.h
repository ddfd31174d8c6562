#pragma once
#include "formats/table.h"

namespace fox {

/// Whether the file's ending is that of a workbook that can be read: xlsx, ods.
bool isWorkbookName(std::string_view fileName);

/// The sheets of a workbook that have a row of cells, each as a table named "wells.xlsx, Places". Rows' lines are
/// the sheet's row numbers. (Through GDAL.) @throws FileError if the bytes are no workbook
std::vector<Table> readWorkbook(std::string_view bytes, const std::string& name);

} // namespace fox
