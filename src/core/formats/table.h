#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fox {

/// Rows of text with a name for each column.
struct Table {
    struct Row {
        int line; ///< of the file, counted from 1
        std::vector<std::string> cells;
    };
    std::string name; ///< what findings call the file
    std::vector<std::string> columns;
    std::vector<Row> rows; ///< cells may be fewer or more than columns
    char separator = ',';
    std::optional<std::size_t> column(std::string_view heading) const; ///< in any case
};

/// Separated text: comma, semicolon or tab, whichever parts the first lines evenly; quotes as usual.
/// If `columns` is not empty it names the columns, and a first row without any number is a header that is
/// passed over; else the first row is the header. Blank lines are passed over.
/// (Not through GDAL, whose reader gives no line numbers.)
/// @throws FileError if there is no row at all
Table readTable(std::string_view bytes, std::string name, std::vector<std::string> columns = {});

/// One cell as it is written: in quotes where it must be.
std::string tableCell(std::string_view);

} // namespace fox
