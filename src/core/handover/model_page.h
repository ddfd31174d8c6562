#pragma once
#include "base/progress.h"
#include "products/products.h"

namespace fox {

/// The model as one HTML file that any browser opens from disk, with nothing else: bodies of units, holes, ground, faults and
/// water surfaces to turn, cut and take apart, sections and the geological map as pictures, the holes with their logs, the key to
/// units with volumes and ranges, and what is known and not known. three.js and its readers stand inside.
/// Bodies are reduced (reduceModel) to at most kPageTriangles in plan, of over kLargePageCells cells kLargePageTriangles; the
/// page says how far off they are. `date` as it is printed. @throws Error without a model, Stopped
std::string modelPage(const ProductSet&, const std::string& date, const Progress& = {});
inline constexpr std::size_t kPageTriangles = 24000, kLargePageTriangles = 50000;
inline constexpr double kLargePageCells = 100000;

/// What the page is made from.
Wanted wantedForPage();

} // namespace fox
