#pragma once
#include "base/progress.h"
#include "products/products.h"
#include "project/edits.h"

namespace fox {

/// How the holes are read, one row a stretch: hole, unit, top, base (metres along the hole), kind. Kinds: "logged" by its code,
/// "by hand" as the geologist chose, "no unit" (code not in the sequence), "out of order", and "pick" for a base that was
/// picked (no top).
std::string interpretationCsv(const ProductSet&);

/// Whether a file begins as such a table does: with all of its columns by name, in any order.
bool isInterpretationCsv(std::string_view beginning);

/// What a table of the same columns says, in any order of columns and rows: stretches become choices where they are not read
/// so already, ends that are none of the log's become picks. Rows that can't be used are findings with file, line and hole;
/// nothing else is lost because of them.
struct InterpretationImport {
    Edited edited;
    int intervals = 0, picks = 0, same = 0; ///< rows: chosen, picked, read so already
    Findings findings;
};
/// @throws FileError if it has no rows, or not the columns hole, unit and base
InterpretationImport importInterpretation(const Project&, std::string_view bytes, const std::string& name, const Progress& = {});

} // namespace fox
