#pragma once
#include "products/products.h"
#include "sheets/log_drawing.h"
#include "sheets/sheet_values.h"

namespace fox {

/// The body of a log, page by page, in a box of the page. Depths run down at one scale over all columns; a page ends at a stratum
/// where one is near its foot. Texts that find no room go on over the page.
struct LogPages {
    struct Page {
        std::vector<paper::Item> items; ///< in millimetres of the page
        double from = 0, to = 0;        ///< metres
    };
    std::vector<Page> pages;                 ///< one at least
    double scale = 0;                        ///< 1:n
    std::size_t overfull = 0;                ///< texts of which not a letter fits its column
    std::vector<std::string> withoutPattern; ///< codes of the log that have no pattern
    std::vector<std::string> withoutUnit;    ///< names of values that have no unit of measure
};
/// Millimetres of a box so high in which depths are drawn; titles stand over them.
double logRoom(double height);
/// `first` and `further`: the box on the first and on all other pages. Columns that are wider together than the box are drawn
/// narrower, in proportion. Scale 1:`scale`; 0: the whole log on one page, at the largest usual scale that shows it.
LogPages layOutLog(const std::vector<LogColumn>&, const Box2& first, const Box2& further, double scale, const LogContent&,
                   const ProductSet&);

} // namespace fox
