#pragma once
#include "paper/drawing.h"
#include "products/products.h"

namespace fox {

/// Words in rows and columns; the first row is the head.
using TableRows = std::vector<std::vector<std::string>>;

/// A table of the project by its key, see sheetTables(); without rows if there is none of that key.
TableRows tableRows(const std::string& key, const ProductSet&);
/// Columns of units with volumes, areas, mean thicknesses and all values that a unit has.
TableRows unitRows(const ProductSet&);

/// A table on pages.
struct TablePages {
    std::vector<std::vector<paper::Item>> pages;
    std::size_t overfull = 0; ///< cells that had to be broken within a word, rows that are higher than a page
};
/// Columns as wide as their widest cell, narrower down to their widest word where that is too wide together, and then in smaller
/// letters; figures to the right, a row as high as its highest cell. Rows that find no room go on over the page, under their
/// heads.
TablePages layOutTable(const TableRows&, const Box2& first, const Box2& further);

} // namespace fox
