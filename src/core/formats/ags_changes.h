#pragma once
#include "formats/ags.h"

namespace fox {

/// A cell of an AGS file that was changed after it was read.
struct CellChange {
    int line; ///< of the row's first line in the file
    std::string heading, value;
};

/// The file with these cells changed. Rows without a change come back byte for byte; a changed row is written in
/// the standard's form (quotes, commas; in edition 3 again in lines of at most 240 characters). A heading that
/// the group lacks is added at its end, which changes the group's every row. No change: the same bytes.
/// @throws FileError as readAgs does, or if a line holds no row of data
std::string withChanges(const std::string& bytes, const std::string& name, const std::vector<CellChange>&);

/// The same changes made to a file that was read. A line without a row of data is passed over.
void change(AgsFile&, const std::vector<CellChange>&);

/// The row in quotes, with commas; without a line end.
std::string agsRow(const std::vector<std::string>& cells);

} // namespace fox
