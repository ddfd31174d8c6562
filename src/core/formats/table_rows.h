#pragma once
// Separated text row by row, without keeping the rows: for files of millions of points.
#include "formats/table.h"

#include <cstring>

namespace fox {

/// Separated text as readTable takes it apart: which sign separates the cells, and where the rows begin. The bytes must live as
/// long as this.
class SeparatedText {
public:
    explicit SeparatedText(std::string_view bytes);
    SeparatedText(const SeparatedText&) = delete;
    SeparatedText& operator=(const SeparatedText&) = delete;

    char separator() const { return m_separator; }

    /// Calls use(line, cells) for each row that is not empty, in order; cells are trimmed views that live until the next row.
    /// Lines count from 1. Stops when `use` returns false.
    template <typename Use>
    void eachRow(Use&& use) const {
        Cells cells;
        std::size_t at = 0;
        int line = m_firstLine;
        while (at < m_text.size()) {
            const int start = line;
            at = nextRow(at, line, cells);
            if (cells.anyFilled && !use(start, cells.views)) return;
        }
    }

    struct Cells {
        std::vector<std::string_view> views;
        std::vector<std::string> quoted; ///< what had to be put together
        bool anyFilled = false;
    };

private:
    /// Fills the cells of the row that begins there; where the next one begins, and its line.
    std::size_t nextRow(std::size_t at, int& line, Cells&) const;
    std::size_t nextQuotedRow(std::size_t at, int& line, Cells&) const;
    void splitPlain(std::string_view row, Cells&) const;

    std::string m_owned; ///< if the bytes had to be changed
    std::string_view m_text;
    char m_separator = ',';
    int m_firstLine = 1;
};

/// The first rows and some from all over the text, as a table: enough to tell what it is. `most` rows; `count` becomes the number
/// of all rows.
Table sampledTable(const SeparatedText&, std::string name, std::vector<std::string> columns, std::size_t most,
                   std::size_t& count);

} // namespace fox
