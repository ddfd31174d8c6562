#pragma once
#include "paper/sheet_template.h"
#include "products/products.h"

namespace fox {

/// What values of a sheet are taken from.
struct SheetContext {
    const ProductSet* products = nullptr;
    const Hole* hole = nullptr; ///< of a log
    std::string item;           ///< as it is shown: "QB102", "A", "TL"; empty: the site
    double scale = 0;           ///< 1:n; 0: none
    double verticalScale = 0;
    std::size_t page = 1, pages = 1;
    std::string date; ///< "2026-11-30"
};

/// A value that can be put into a text.
struct SheetValue {
    std::string key;   ///< "hole.level", "ags:LOCA.LOCA_STAT"
    std::string words; ///< "ground level"
    std::string of;    ///< "hole", "site", "page", an AGS group
};
/// All that a sheet of this kind can have: those of the hole, the site, the page, and every heading of the project's AGS files
/// but lists of words: of the hole, on a log, the first row that it has; of a group without holes its first row.
std::vector<SheetValue> sheetValues(SheetKind, const ProductSet&);
/// As it is printed; empty where it is blank or not known.
std::string valueOf(const std::string& key, const SheetContext&);
/// The text with its values.
std::string textOf(const TextRuns&, const SheetContext&);

} // namespace fox
