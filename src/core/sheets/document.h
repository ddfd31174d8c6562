#pragma once
#include "paper/drawing.h"

#include <string>
#include <variant>
#include <vector>

namespace fox {

/// A table of a document. Numbers are kept as numbers, so that what reads the document as data has them in full.
struct DocumentTable {
    struct Column {
        std::string words;     ///< "mean thickness"
        std::string unit = {}; ///< "m"; empty: none
        int decimals = 2;      ///< of its numbers, as printed
        double share = 1;      ///< of the table's width, against the other columns
    };
    /// Nothing, words, or a number.
    using Cell = std::variant<std::monostate, std::string, double>;
    std::string title;
    std::vector<Column> columns;
    std::vector<std::vector<Cell>> rows;
};
/// A number, or nothing for kNoValue.
DocumentTable::Cell cellOf(double);

/// A drawing that stands between the words.
struct DocumentFigure {
    std::string caption;
    paper::Drawing drawing; ///< no wider than kDocumentWidth; its width and height are its room
};
inline constexpr double kDocumentWidth = 174; ///< millimetres between the margins of A4

struct DocumentChapter {
    std::string key; ///< "volumes"
    std::string title;
    std::vector<std::variant<std::string, DocumentTable, DocumentFigure>> parts; ///< a text is a paragraph
};

struct Document {
    std::string title, subject, date;
    std::vector<DocumentChapter> chapters;
};

/// A document on pages of A4.
struct DocumentPages {
    std::vector<paper::Drawing> pages;
    std::vector<std::size_t> begins; ///< the page of each chapter, from 0
    std::size_t overfull = 0;        ///< words that are wider than their cell and were broken within a word
};
/// Title and contents on the first page; then the chapters, numbered, one after another. Words are broken to their room, rows
/// of tables are never parted, a table that goes on has its head again with "(continued)". Nothing is cut. `more`: pages that
/// follow, for "page n of m".
DocumentPages layOut(const Document&, std::size_t more = 0);

} // namespace fox
