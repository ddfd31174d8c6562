#pragma once
// Surveys of millions of points, straight from their text.
#include "base/progress.h"
#include "formats/table_rows.h"
#include "ground/survey.h"

namespace fox {

/// surveyOf() without a table in between. `head` is a table of the text's first rows (sampledTable), with the columns by name;
/// its first row is the first that is read.
/// @throws FileError as surveyOf does
Survey surveyOf(const SeparatedText&, const Table& head, const Progress& = {});

} // namespace fox
