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

/// The cells of a row that is parted nowhere but at quote, comma, quote: quotes within a cell are text, doubled ones one. None if
/// it does not begin and end with a quote.
std::vector<std::string> cellsBetweenQuotes(std::string_view line);
/// Joins `count` cells from `first` on to one, as they stood.
void joinCells(std::vector<std::string>& cells, std::size_t first, std::size_t count);

LooseRow parseLooseRow(std::string_view line, StrayQuote stray);

} // namespace fox
