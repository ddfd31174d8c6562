#pragma once
#include <cstdint>
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
    std::string name; ///< what findings call it: the file, and the sheet of a workbook
    std::vector<std::string> columns;
    std::vector<Row> rows; ///< cells may be fewer or more than columns
    char separator = ',';
    bool decimalComma = false;                                         ///< numbers are written 12,5
    std::optional<std::size_t> column(std::string_view heading) const; ///< in any case
    /// The trimmed cell; empty where the row ends before it.
    std::string_view cell(std::size_t row, std::size_t column) const;
    /// The cell as a number, with the table's decimal sign.
    std::optional<double> number(std::size_t row, std::size_t column) const;
};

/// Separated text: comma, semicolon, tab, bar or any number of blanks, whichever parts the first lines; quotes as usual, line
/// breaks in quotes too; CR LF, LF or CR line ends; UTF-8, UTF-16 with a mark, or Latin-1. A first line "sep=;" says the
/// separator. If `columns` is not empty it names the columns, and a first row without any number is a header
/// that is passed over; else the header is the first row, or the first with three cells or more where lone
/// title cells, or sentences whose commas make few cells, stand above. Blank lines are passed over.
/// (Not through GDAL, whose reader gives no line numbers.)
/// @throws FileError if there is no row at all
Table readTable(std::string_view bytes, std::string name, std::vector<std::string> columns = {});

/// Rows as they are, with a header chosen as readTable does.
Table tableOf(std::vector<Table::Row> rows, std::string name, std::vector<std::string> columns = {});

/// One cell as it is written: in quotes where it must be.
std::string tableCell(std::string_view);

} // namespace fox
