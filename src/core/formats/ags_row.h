#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace fox {

/// The cells of a row, read as a lenient reader would: any of the usual separators, single quotes or none,
/// blanks around cells.
struct LooseRow {
    std::vector<std::string> cells;
    bool open = false;       ///< the last quoted cell did not end
    bool unquoted = false;   ///< some cell had no quotes
    bool strayQuote = false; ///< a quote stood inside a cell and was not doubled
    bool otherSeparator = false;
    bool blanks = false; ///< blanks between cells
};

enum class StrayQuote {
    IsText,     ///< a lone quote within a cell is a character of it
    StartsCell, ///< after a separator it begins a cell whose forerunner was not closed
};

LooseRow parseLooseRow(std::string_view line, StrayQuote stray);

} // namespace fox
